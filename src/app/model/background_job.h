// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/workers.h"

#include <QFutureWatcher>
#include <QObject>

#include <functional>

namespace app {

/// One piece of work beside the window, with progress. Its owner may wait for it, cancel it, or be told when it is
/// done.
class BackgroundJob : public QObject {
    Q_OBJECT
public:
    /// @p progress takes 0..1 and answers false when the work is to stop.
    using Progress = std::function<bool(double)>;
    using Work = std::function<void(const Progress&)>;

    /// @p work touches only what it owns or shares unchanged; @p then runs in the window's thread.
    BackgroundJob(Workers& workers, Work work, std::function<void()> then, QObject* parent = nullptr);
    ~BackgroundJob() override;
    void cancel() { *m_stop = true; }
    /// Blocks until the work is done, and delivers it at once.
    void wait();
    [[nodiscard]] bool isDone() const { return m_delivered; }

Q_SIGNALS:
    void progressed(int percent);
    void done(); ///< before what follows from it

private:
    void deliver();
    StopFlag m_stop = std::make_shared<std::atomic<bool>>(false);
    std::function<void()> m_then;
    QFutureWatcher<void> m_watcher;
    bool m_delivered = false;
};

} // namespace app
