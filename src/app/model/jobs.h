// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/csv.h"

#include <QFutureWatcher>
#include <QObject>
#include <QString>

#include <atomic>

namespace app {

/// Reads a log in the background. The owner may cancel; a cancelled job says nothing more. Waits for its thread when destroyed.
class ReadLogJob : public QObject {
    Q_OBJECT
public:
    ReadLogJob(QString path, store::CsvFormat format, store::BadField bad, QObject* parent = nullptr);
    ~ReadLogJob() override;
    void start();
    void cancel();

Q_SIGNALS:
    void progress(int percent);
    void done(const core::Samples& samples);
    void refused(const core::Problem& problem);

private:
    QString m_path;
    store::CsvFormat m_format;
    store::BadField m_bad;
    std::atomic<bool> m_stop{false};
    QFutureWatcher<core::Result<core::Samples>> m_watcher;
};

} // namespace app
