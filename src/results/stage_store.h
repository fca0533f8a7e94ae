// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/stages/evaluate.h"
#include "results/workers.h"

#include <QObject>
#include <QString>

#include <any>
#include <functional>
#include <map>
#include <memory>
#include <string>

namespace results {

/// How an answer stands. Pending: it is being worked out, what was there before stays. Failed: the reason is told in
/// words.
enum class Standing { Ready, Pending, Failed };

template <class T> struct Answer {
    Standing standing = Standing::Pending;
    std::shared_ptr<const T> value; ///< while pending the one before; null: there was none
    std::string why;                ///< it failed
};

/// What work under way asks, and tells: whether its result is still wanted, how far it has come.
class Watch {
public:
    Watch() = default; ///< never stopped, nobody listens
    Watch(std::function<bool()> stopped, std::function<void(int)> percent)
        : m_stopped(std::move(stopped)), m_percent(std::move(percent)) {}
    [[nodiscard]] bool operator()() const { return m_stopped && m_stopped(); }
    /// @p share 0..1. Answers false when the work is to stop.
    [[nodiscard]] bool at(double share) const {
        if (m_percent)
            m_percent(static_cast<int>(share * 100));
        return !(*this)();
    }

private:
    std::function<bool()> m_stopped;
    std::function<void(int)> m_percent;
};

/// Whether somebody paints: no stage may start then. Held by whoever paints, e.g. PaintedPanel.
class PaintingNow {
public:
    PaintingNow() { ++depth(); }
    ~PaintingNow() { --depth(); }
    PaintingNow(const PaintingNow&) = delete;
    PaintingNow& operator=(const PaintingNow&) = delete;
    [[nodiscard]] static bool is() { return depth() > 0; }

private:
    static int& depth();
};

/// Results of stages, remembered by the content of what they read. Asked for something new it starts the work beside
/// the window; of several requests for the same thing only the newest publishes, the others are told to stop. One
/// thread owns it; the work itself touches only what it was given.
class StageStore : public QObject {
    Q_OBJECT
public:
    explicit StageStore(QObject* parent = nullptr);
    ~StageStore() override;

    /// AtOnce: whoever asks waits; for scripts, pictures and tests. Beside: nobody waits but who calls wait().
    enum class Pace { AtOnce, Beside };
    void setPace(Pace pace) { m_pace = pace; }
    [[nodiscard]] Pace pace() const { return m_pace; }

    /// Of which revision, run or gap.
    struct Key {
        core::stages::Stage stage = core::stages::Stage::Geometry;
        std::string of;
        auto operator<=>(const Key&) const = default;
    };

    /// The result of a stage. @p reads: a value that compares by content; @p work gives a Result<std::shared_ptr<const
    /// T>> and looks at its watch now and then. While something is painted nothing starts: what is missing is begun
    /// afterwards.
    template <class T, class Reads, class Work> Answer<T> ask(const Key& key, Reads reads, Work work) {
        const auto same = [](const std::any& a, const std::any& b) {
            return std::any_cast<const Reads&>(a) == std::any_cast<const Reads&>(b);
        };
        const Entry& e =
            request(key, std::any(std::move(reads)), same, [work = std::move(work)](const Watch& watch) -> Outcome {
                auto done = work(watch);
                return done ? Outcome{std::static_pointer_cast<const void>(std::move(*done)), {}}
                            : Outcome{nullptr, done.error().text()};
            });
        return {e.standing, std::static_pointer_cast<const T>(e.value), e.why};
    }
    /// What is there, of whatever content; nothing is started.
    template <class T> Answer<T> peek(const Key& key) const {
        const auto it = m_entries.find(key);
        return it == m_entries.end() ? Answer<T>{}
                                     : Answer<T>{it->second.standing,
                                                 std::static_pointer_cast<const T>(it->second.value), it->second.why};
    }
    /// Blocks until what is pending under the key is there.
    void wait(const Key& key);
    void waitForAll();
    [[nodiscard]] bool isPending(const Key& key) const;
    [[nodiscard]] bool isIdle() const { return m_pending == 0; }
    /// Ends what runs and forgets everything.
    void clear();
    void forget(const Key& key);
    /// What is ready, to begin another store with: results are never changed, so two may hold the same.
    class Kept;
    [[nodiscard]] Kept kept() const;
    [[nodiscard]] Kept kept(core::stages::Stage only) const;
    void begin(Kept kept);

    /// How often a stage was started, since the program began; a stage that was remembered does not count.
    [[nodiscard]] int started(core::stages::Stage stage) const {
        return (*m_started)[static_cast<std::size_t>(stage)].load();
    }
    /// Must stay 0: stages that started in a paint event at the pace of the program.
    [[nodiscard]] int startedWhilePainting() const { return m_startedWhilePainting; }
    /// Told by the work itself, from any thread: a stage inside it begins.
    using Counts = std::array<std::atomic<int>, core::stages::stageCount>;
    [[nodiscard]] std::shared_ptr<Counts> counts() const { return m_started; }

    bool event(QEvent* event) override; ///< there is progress, or work is done

Q_SIGNALS:
    void published(const results::StageStore::Key& key);
    void progressed(const results::StageStore::Key& key, int percent); ///< of what is pending
    void idle();                                                       ///< nothing is pending any more

private:
    struct Outcome {
        std::shared_ptr<const void> value;
        std::string why;
    };
    using Work = std::function<Outcome(const Watch&)>;
    /// Work under way, shared with the thread that does it: whoever begins it first, a thread or who waits for it.
    struct Pending {
        Work work;
        StopFlag stop, quit;
        std::atomic<bool> begun = false;
        std::atomic<int> percent = 0;
        std::function<void()> progressed; ///< told where the work is done
        Promised<Outcome> outcome;
        void doIt();
    };
    struct Entry {
        Standing standing = Standing::Pending;
        std::any reads; ///< of what is pending, else of what is there
        std::shared_ptr<const void> value;
        std::string why;
        StopFlag stop;
        std::shared_ptr<Pending> pending; ///< the newest work; what older work gives is nobody's
        bool waiting = false;             ///< something is under way
        int percent = 0;                  ///< told of it
    };
    using Same = bool (*)(const std::any&, const std::any&);
    const Entry& request(const Key& key, std::any reads, Same same, Work work);
    void start(const Key& key, Entry& e, Work work);
    void take(const Key& key, Entry& e);
    void takeWhatIsDone();
    void tellProgress();

    Pace m_pace = Pace::AtOnce;
    std::map<Key, Entry> m_entries;
    std::map<Key, std::function<void()>> m_afterPainting;
    int m_pending = 0, m_startedWhilePainting = 0;
    std::shared_ptr<Counts> m_started = std::make_shared<Counts>();
    [[nodiscard]] Workers& workersFor(core::stages::Stage stage);
    /// What takes long never stands before what is looked at, nor before what somebody pressed a button for.
    Workers m_quick{1}, m_long{1}, m_pressed{1};
};

class StageStore::Kept {
    friend class StageStore;
    std::map<Key, Entry> m_entries;
};

} // namespace results
