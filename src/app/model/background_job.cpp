// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/background_job.h"

#include <QCoreApplication>
#include <QEvent>

namespace app {
namespace {
/// Told to the job by its thread: look at the percent, and whether it is done.
QEvent::Type newsEvent() {
    static const auto type = static_cast<QEvent::Type>(QEvent::registerEventType());
    return type;
}
} // namespace

BackgroundJob::BackgroundJob(Workers& workers, Work work, std::function<void()> then, QObject* parent)
    : QObject(parent), m_quit(workers.flag()), m_then(std::move(then)) {
    m_shared->work = std::move(work);
    workers.start([this, shared = m_shared, stop = m_stop, quit = m_quit] {
        if (!shared->begun.exchange(true)) // else its owner was faster, or is gone
            run(*shared, stop, quit);
    });
}

/// The last that touches the job is what its owner waits for.
void BackgroundJob::run(Shared& shared, const StopFlag& stop, const StopFlag& quit) {
    const auto tell = [this] { QCoreApplication::postEvent(this, new QEvent(newsEvent())); };
    try {
        shared.work([&](double share) {
            const int percent = static_cast<int>(share * 100);
            if (shared.percent.exchange(percent) != percent)
                tell();
            return !*stop && !*quit;
        });
    } catch (const std::exception&) { // its owner finds the outcome as it was before: not done
    }
    shared.ending = true;
    tell();
    shared.done.give(true);
}

BackgroundJob::~BackgroundJob() {
    cancel();
    finish();
}

bool BackgroundJob::event(QEvent* event) {
    if (event->type() != newsEvent())
        return QObject::event(event);
    if (const int percent = m_shared->percent; percent != std::exchange(m_told, percent))
        Q_EMIT progressed(percent);
    if (m_shared->ending)
        wait(); // for moments
    return true;
}

void BackgroundJob::wait() {
    finish();
    deliver();
}

/// What was handed in is done in any case: it may be a copy that keeps work from being lost.
void BackgroundJob::finish() {
    if (!m_shared->begun.exchange(true))
        run(*m_shared, m_stop, m_quit);
    (void)m_shared->done.wait();
}

void BackgroundJob::deliver() {
    if (std::exchange(m_delivered, true))
        return;
    deleteLater();
    Q_EMIT done();
    m_then();
}

} // namespace app

#include "moc_background_job.cpp"
