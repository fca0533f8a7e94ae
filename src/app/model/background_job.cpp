// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/background_job.h"

#include <QtConcurrent>

namespace app {

BackgroundJob::BackgroundJob(Workers& workers, Work work, std::function<void()> then, QObject* parent)
    : QObject(parent), m_then(std::move(then)) {
    connect(&m_watcher, &QFutureWatcherBase::progressValueChanged, this, &BackgroundJob::progressed);
    connect(&m_watcher, &QFutureWatcherBase::finished, this, &BackgroundJob::deliver);
    m_watcher.setFuture(QtConcurrent::run(
        workers.pool(), [work = std::move(work), stop = m_stop, quit = workers.flag()](QPromise<void>& promise) {
            promise.setProgressRange(0, 100);
            work([&](double share) {
                promise.setProgressValue(static_cast<int>(share * 100));
                return !*stop && !*quit;
            });
        }));
}

BackgroundJob::~BackgroundJob() {
    cancel();
    m_watcher.disconnect(this);
    m_watcher.waitForFinished();
}

void BackgroundJob::wait() {
    m_watcher.waitForFinished();
    deliver();
}

void BackgroundJob::deliver() {
    if (std::exchange(m_delivered, true))
        return;
    deleteLater();
    Q_EMIT done();
    m_then();
}

} // namespace app
