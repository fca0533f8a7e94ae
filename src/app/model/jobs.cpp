// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/jobs.h"

#include "store/csv_fields.h"
#include "store/run_files.h"

#include <QFileInfo>
#include <QtConcurrent>

namespace app {

ReadLogJob::ReadLogJob(Workers& workers, QString path, store::CsvFormat format, store::BadField bad, QObject* parent)
    : QObject(parent), m_workers(workers), m_path(std::move(path)), m_format(std::move(format)), m_bad(bad) {
    connect(&m_watcher, &QFutureWatcherBase::progressValueChanged, this, &ReadLogJob::progress);
    connect(&m_watcher, &QFutureWatcherBase::finished, this, [this] {
        if (*m_stop)
            return;
        const core::Result<ReadLog> result = m_watcher.result();
        if (result)
            Q_EMIT done(*result);
        else
            Q_EMIT refused(result.error());
    });
}

ReadLogJob::~ReadLogJob() {
    cancel();
    m_watcher.waitForFinished();
}

void ReadLogJob::start() {
    // Everything the thread touches is its own copy, but for the stop flags.
    m_watcher.setFuture(
        QtConcurrent::run(m_workers.pool(), [path = m_path.toStdString(), format = m_format, bad = m_bad, stop = m_stop,
                                             quit = m_workers.flag()](QPromise<core::Result<ReadLog>>& promise) {
            promise.setProgressRange(0, 100);
            const auto bytes = store::readFile(path);
            if (!bytes) {
                promise.addResult(tl::make_unexpected(bytes.error()));
                return;
            }
            const std::string text = store::decodeText(*bytes);
            auto samples = store::readCsv(text, format, path, bad, [&](double share) {
                promise.setProgressValue(static_cast<int>(share * 100));
                return !*stop && !*quit;
            });
            if (!samples) {
                promise.addResult(tl::make_unexpected(samples.error()));
                return;
            }
            auto original =
                store::originalFrom(QFileInfo(QString::fromStdString(path)).fileName().toStdString(), *bytes, *samples);
            promise.addResult(core::Result<ReadLog>(ReadLog{std::move(*samples), std::move(original)}));
        }));
}

void ReadLogJob::cancel() { *m_stop = true; }

} // namespace app
