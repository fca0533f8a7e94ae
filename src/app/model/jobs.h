// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/background_job.h"
#include "store/csv.h"

#include <QObject>
#include <QPointer>
#include <QString>

namespace app {

/// Readings, and the log itself where it says more than they do.
struct ReadLog {
    core::Samples samples;
    std::shared_ptr<const core::Original> original;
};

/// Reads a log in the background. The owner may cancel; a cancelled job says nothing more.
class ReadLogJob : public QObject {
    Q_OBJECT
public:
    ReadLogJob(Workers& workers, QString path, store::CsvFormat format, store::BadField bad, QObject* parent = nullptr);
    ~ReadLogJob() override; ///< waits for its thread
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
    std::shared_ptr<core::Result<ReadLog>> m_result = std::make_shared<core::Result<ReadLog>>();
    QPointer<BackgroundJob> m_job; ///< goes by itself when it is done
    bool m_cancelled = false;
};

} // namespace app
