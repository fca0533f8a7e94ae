// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "results/workers.h"

#include <QObject>

#include <functional>

namespace app {
using results::Promised;
using results::StopFlag;
using results::Workers;

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
    ~BackgroundJob() override; ///< cancels, and waits; what has not begun is done here, told to stop
    void cancel() { *m_stop = true; }
    /// Blocks until the work is done, and delivers it at once. Where it has not begun it is done here.
    void wait();
    [[nodiscard]] bool isDone() const { return m_delivered; }
    bool event(QEvent* event) override; ///< there is progress, or it is done

Q_SIGNALS:
    void progressed(int percent);
    void done(); ///< before what follows from it

private:
    /// What the two threads share.
    struct Shared {
        Work work;
        std::atomic<bool> begun = false;
        std::atomic<int> percent = 0;
        std::atomic<bool> ending = false; ///< the job itself is not touched any more after what is told last
        Promised<bool> done;
    };
    void run(Shared& shared, const StopFlag& stop, const StopFlag& quit);
    void finish();
    void deliver();
    StopFlag m_stop = std::make_shared<std::atomic<bool>>(false);
    StopFlag m_quit;
    std::shared_ptr<Shared> m_shared = std::make_shared<Shared>();
    std::function<void()> m_then;
    int m_told = -1; ///< percent
    bool m_delivered = false;
};

} // namespace app
