// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QThreadPool>

#include <atomic>
#include <memory>

namespace app {

/// A job looks at it now and then, and ends early when it is set.
using StopFlag = std::shared_ptr<std::atomic<bool>>;

/// Threads of our own. Qt paints with the threads of its global pool: work put there would stop the window from
/// painting.
class Workers {
public:
    explicit Workers(int threads) { m_pool.setMaxThreadCount(threads); }
    ~Workers() {
        stop();
        m_pool.waitForDone();
    }
    Workers(const Workers&) = delete;
    Workers& operator=(const Workers&) = delete;
    [[nodiscard]] QThreadPool* pool() { return &m_pool; }
    /// For the job that starts now.
    [[nodiscard]] StopFlag flag() const { return m_stop; }
    /// Ends what runs and waits; later jobs get a fresh flag.
    void stop() {
        *m_stop = true;
        m_stop = std::make_shared<std::atomic<bool>>(false);
    }

private:
    QThreadPool m_pool;
    StopFlag m_stop = std::make_shared<std::atomic<bool>>(false);
};

} // namespace app
