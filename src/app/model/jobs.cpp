// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/jobs.h"

#include <QtConcurrent>

namespace app {

ReadLogJob::ReadLogJob(QString path, store::CsvFormat format, store::BadField bad, QObject* parent) : QObject(parent), m_path(std::move(path)), m_format(std::move(format)), m_bad(bad) {
    connect(&m_watcher, &QFutureWatcherBase::progressValueChanged, this, &ReadLogJob::progress);
    connect(&m_watcher, &QFutureWatcherBase::finished, this, [this] {
        if (m_stop)
            return;
        const core::Result<core::Samples> result = m_watcher.result();
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
    // Everything the thread touches is its own copy, but for the stop flag.
    m_watcher.setFuture(QtConcurrent::run([path = m_path.toStdString(), format = m_format, bad = m_bad, &stop = m_stop](QPromise<core::Result<core::Samples>>& promise) {
        promise.setProgressRange(0, 100);
        auto text = store::readFile(path);
        if (!text) {
            promise.addResult(tl::make_unexpected(text.error()));
            return;
        }
        promise.addResult(store::readCsv(*text, format, path, bad, [&](double share) {
            promise.setProgressValue(static_cast<int>(share * 100));
            return !stop;
        }));
    }));
}

void ReadLogJob::cancel() { m_stop = true; }

} // namespace app
