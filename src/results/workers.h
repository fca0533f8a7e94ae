// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QThreadPool>

#include <atomic>
#include <condition_variable>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

namespace results {

/// A job looks at it now and then, and ends early when it is set.
using StopFlag = std::shared_ptr<std::atomic<bool>>;

/// A result that another thread gives once.
template <class T> class Promised {
public:
    void give(T value) {
        {
            const std::lock_guard lock(m_lock);
            m_value = std::move(value);
        }
        m_given.notify_all();
    }
    [[nodiscard]] bool isGiven() const {
        const std::lock_guard lock(m_lock);
        return m_value.has_value();
    }
    /// Blocks until it is given.
    [[nodiscard]] T wait() const {
        std::unique_lock lock(m_lock);
        m_given.wait(lock, [this] { return m_value.has_value(); });
        return *m_value;
    }

private:
    mutable std::mutex m_lock;
    mutable std::condition_variable m_given;
    std::optional<T> m_value;
};

/// A piece of work on a thread of a pool. Qt's own locks hand it over, but ThreadSanitizer does not see into Qt: with
/// this flag, read before anything else, it sees all that we share.
class Task final : public QRunnable {
public:
    explicit Task(std::function<void()> work) : m_work(std::move(work)) {
        m_handedOver.store(true, std::memory_order_release);
    }
    void run() override {
        stepBack();
        (void)m_handedOver.load(std::memory_order_acquire);
        m_work();
    }

private:
    /// What is worked out beside the window leaves it the processor while it paints. QThread's own priorities do
    /// nothing under Linux's usual scheduler; a thread's nice value does.
    static void stepBack() {
        thread_local const bool done = setpriority(PRIO_PROCESS, static_cast<id_t>(syscall(SYS_gettid)), 5) == 0;
        (void)done; // refused: it only takes longer
    }

    std::atomic<bool> m_handedOver = false;
    std::function<void()> m_work;
};

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
    void start(std::function<void()> work) { m_pool.start(new Task(std::move(work))); }
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

} // namespace results
