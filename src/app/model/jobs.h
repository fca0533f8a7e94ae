// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/workers.h"
#include "store/csv.h"

#include <QFutureWatcher>
#include <QObject>
#include <QString>

namespace app {

/// Readings, and the log itself where it says more than they do.
struct ReadLog {
    core::Samples samples;
    std::shared_ptr<const core::Original> original;
};

/// Reads a log in the background. The owner may cancel; a cancelled job says nothing more. Waits for its thread when
/// destroyed.
class ReadLogJob : public QObject {
    Q_OBJECT
public:
    ReadLogJob(Workers& workers, QString path, store::CsvFormat format, store::BadField bad, QObject* parent = nullptr);
    ~ReadLogJob() override;
    void start();
    void cancel();

Q_SIGNALS:
    void progress(int percent);
    void done(const app::ReadLog& log);
    void refused(const core::Problem& problem);

private:
    Workers& m_workers;
    QString m_path;
    store::CsvFormat m_format;
    store::BadField m_bad;
    StopFlag m_stop = std::make_shared<std::atomic<bool>>(false);
    QFutureWatcher<core::Result<ReadLog>> m_watcher;
};

} // namespace app
