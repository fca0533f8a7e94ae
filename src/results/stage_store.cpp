// SPDX-License-Identifier: GPL-3.0-or-later
#include "results/stage_store.h"

#include <QCoreApplication>
#include <QEvent>

namespace results {
namespace {
/// Told to the store by its threads.
QEvent::Type doneEvent() {
    static const auto type = static_cast<QEvent::Type>(QEvent::registerEventType());
    return type;
}
} // namespace

int& PaintingNow::depth() {
    thread_local int painters = 0;
    return painters;
}

StageStore::StageStore(QObject* parent) : QObject(parent) {}

StageStore::~StageStore() { clear(); }

void StageStore::clear() {
    for (auto& [key, e] : m_entries)
        if (e.stop)
            *e.stop = true;
    m_quick.stop();
    m_long.stop();
    m_pressed.stop();
    m_entries.clear();
    m_afterPainting.clear();
    m_pending = 0;
}

Workers& StageStore::workersFor(core::stages::Stage stage) {
    using core::stages::Stage;
    const bool takesLong = stage == Stage::Run || stage == Stage::Rooms || stage == Stage::Mends ||
                           stage == Stage::Ways || stage == Stage::Trials;
    if (stage == Stage::Search || stage == Stage::Explore ||
        stage == Stage::Learn) // seconds, with progress: nothing else waits for them
        return m_pressed;
    return takesLong ? m_long : m_quick;
}

void StageStore::forget(const Key& key) {
    const auto it = m_entries.find(key);
    if (it == m_entries.end())
        return;
    const bool waiting = it->second.waiting;
    if (waiting)
        *it->second.stop = true;
    m_entries.erase(it);
    if (waiting && --m_pending == 0)
        Q_EMIT idle();
}

StageStore::Kept StageStore::kept() const {
    Kept kept;
    for (const auto& [key, e] : m_entries)
        if (e.standing == Standing::Ready)
            kept.m_entries[key] = {.standing = e.standing, .reads = e.reads, .value = e.value};
    return kept;
}

StageStore::Kept StageStore::kept(core::stages::Stage only) const {
    Kept kept = this->kept();
    std::erase_if(kept.m_entries, [&](const auto& entry) { return entry.first.stage != only; });
    return kept;
}

void StageStore::begin(Kept kept) { m_entries = std::move(kept.m_entries); }

const StageStore::Entry& StageStore::request(const Key& key, std::any reads, Same same, Work work) {
    Entry& e = m_entries[key];
    if (e.reads.has_value() && same(e.reads, reads))
        return e;
    if (PaintingNow::is() && m_pace == Pace::Beside) {
        // What is painted now shows what there was; the work begins when the painting is done.
        e.standing = Standing::Pending;
        const bool first = m_afterPainting.empty();
        m_afterPainting[key] = [this, key, reads = std::move(reads), same, work = std::move(work)] {
            (void)request(key, reads, same, work);
        };
        if (first)
            QMetaObject::invokeMethod(
                this,
                [this] {
                    for (auto& [k, begin] : std::exchange(m_afterPainting, {}))
                        begin();
                },
                Qt::QueuedConnection);
        return e;
    }
    m_afterPainting.erase(key); // what a paint asked for is older
    e.reads = std::move(reads);
    start(key, e, std::move(work));
    return e;
}

void StageStore::start(const Key& key, Entry& e, Work work) {
    Q_ASSERT_X(!PaintingNow::is() || m_pace == Pace::AtOnce, "StageStore", "a stage starts while something is painted");
    m_startedWhilePainting += PaintingNow::is() && m_pace == Pace::Beside;
    ++(*m_started)[static_cast<std::size_t>(key.stage)];
    e.why.clear();
    e.standing = Standing::Pending;
    if (m_pace == Pace::AtOnce) {
        const Outcome done = work(Watch());
        e.standing = done.value ? Standing::Ready : Standing::Failed;
        e.value = done.value;
        e.why = done.why;
        return;
    }
    if (e.waiting)
        *e.stop = true; // a newer request has taken its place: only the newest may publish
    else
        ++m_pending;
    e.waiting = true;
    e.stop = std::make_shared<std::atomic<bool>>(false);
    Workers& workers = workersFor(key.stage);
    e.pending = std::make_shared<Pending>();
    e.pending->work = std::move(work);
    e.pending->stop = e.stop;
    e.pending->quit = workers.flag();
    e.pending->progressed = [this] { QCoreApplication::postEvent(this, new QEvent(doneEvent())); };
    e.percent = 0;
    // The store outlives its threads: they are waited for when it goes.
    workers.start([this, pending = e.pending] {
        if (pending->begun.exchange(true))
            return; // who waited for it was faster
        pending->doIt();
        QCoreApplication::postEvent(this, new QEvent(doneEvent()));
    });
}

void StageStore::Pending::doIt() {
    const auto stopped = [this] { return *stop || *quit; };
    try {
        const auto told = [this](int now) {
            if (percent.exchange(now) != now)
                progressed();
        };
        outcome.give(stopped() ? Outcome{} : work(Watch(stopped, told)));
    } catch (const std::exception& thrown) { // whoever waits is told, whatever happens
        outcome.give({nullptr, thrown.what()});
    }
}

bool StageStore::event(QEvent* event) {
    if (event->type() != doneEvent())
        return QObject::event(event);
    tellProgress();
    takeWhatIsDone();
    return true;
}

void StageStore::tellProgress() {
    std::vector<Key> moved;
    for (auto& [key, e] : m_entries) {
        const int percent = e.waiting ? e.pending->percent.load() : e.percent;
        if (std::exchange(e.percent, percent) != percent)
            moved.push_back(key);
    }
    for (const Key& key : moved)
        if (const auto it = m_entries.find(key); it != m_entries.end())
            Q_EMIT progressed(key, it->second.percent);
}

void StageStore::takeWhatIsDone() {
    std::vector<Key> done;
    for (const auto& [key, e] : m_entries)
        if (e.waiting && e.pending->outcome.isGiven())
            done.push_back(key);
    for (const Key& key : done) // who is told may ask for more, or forget
        if (const auto it = m_entries.find(key);
            it != m_entries.end() && it->second.waiting && it->second.pending->outcome.isGiven())
            take(key, it->second);
}

void StageStore::take(const Key& key, Entry& e) {
    // What waits behind other work is done here.
    if (!e.pending->begun.exchange(true))
        e.pending->doIt();
    const Outcome done = e.pending->outcome.wait();
    e.waiting = false;
    --m_pending;
    e.standing = done.value ? Standing::Ready : Standing::Failed;
    e.value = done.value;
    e.why = done.why;
    Q_EMIT published(key);
    if (m_pending == 0)
        Q_EMIT idle();
}

bool StageStore::isPending(const Key& key) const {
    const auto it = m_entries.find(key);
    return it != m_entries.end() && it->second.waiting;
}

void StageStore::wait(const Key& key) {
    if (const auto it = m_entries.find(key); it != m_entries.end() && it->second.waiting)
        take(key, it->second);
}

void StageStore::waitForAll() {
    std::vector<Key> keys;
    for (const auto& [key, e] : m_entries)
        if (e.waiting)
            keys.push_back(key);
    for (const Key& key : keys)
        wait(key);
}

} // namespace results

#include "moc_stage_store.cpp"
