// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/document.h"

#include "core/base/text.h"
#include "core/model/choices.h"
#include "core/model/differences.h"

#include <QElapsedTimer>
#include <QUndoCommand>

#include <utility>

namespace app {
namespace {
constexpr std::size_t mostResults = 400; ///< evaluations kept; each takes some hundred kilobytes
constexpr int patienceMs = 8;            ///< so long a view waits with its repainting for what is looked at
constexpr int gatherMs = 100;            ///< what is out of sight is told together
} // namespace

/// One step of undo: the project before and after. Values are shared, so a step costs a few pointers.
class SnapshotCommand : public QUndoCommand {
public:
    SnapshotCommand(Document& document, const QString& text, std::shared_ptr<const core::Project> after, int mergeId)
        : QUndoCommand(text), m_document(document), m_before(document.m_project), m_after(std::move(after)),
          m_mergeId(mergeId), m_revision(document.m_revision) {}
    void undo() override {
        m_document.m_revision = m_revision;
        m_document.setProject(m_before);
    }
    void redo() override { m_document.setProject(m_after); }
    [[nodiscard]] int id() const override { return m_mergeId == 0 ? -1 : m_mergeId; }
    bool mergeWith(const QUndoCommand* other) override {
        m_after = static_cast<const SnapshotCommand*>(other)->m_after;
        return true;
    }

private:
    Document& m_document;
    std::shared_ptr<const core::Project> m_before, m_after;
    int m_mergeId;
    std::string m_revision;
};

Document::Document(QObject* parent)
    : QObject(parent), m_project(std::make_shared<core::Project>()), m_saved(m_project) {
    m_undo.setUndoLimit(500);
    for (QTimer* timer : {&m_patience, &m_gather, &m_spare})
        timer->setSingleShot(true);
    connect(&m_patience, &QTimer::timeout, this, &Document::tell);
    connect(&m_gather, &QTimer::timeout, this, &Document::changed);
    connect(&m_spare, &QTimer::timeout, this, &Document::computeNextOutOfSight);
    connect(&stages(), &StageStore::published, this, &Document::onPublished);
    connect(&stages(), &StageStore::idle, this, [this] { m_spare.start(untilCalmMs()); });
}

void Document::resetAt(core::Project project, Place place) {
    m_undo.clear();
    // What was worked out of a log holds for the same log, opened again or taken from what was rescued.
    auto runs = stages().kept(core::stages::Stage::Run);
    stages().clear();
    stages().begin(std::move(runs));
    m_place = std::move(place);
    m_revision = !project.baseline.empty() ? project.baseline : std::string{};
    for (const core::Revision& r : project.revisions)
        if (r.validated || m_revision.empty() || &r == &project.revisions.back())
            if (m_revision.empty() || r.validated)
                m_revision = r.id;
    m_words.clear();
    m_saved = std::make_shared<core::Project>(std::move(project));
    setProject(m_saved);
    m_sinceEdit.invalidate(); // what is opened is no edit
    Q_EMIT pathChanged();
    announce(News::Revision);
}

void Document::resetRecovered(core::Project project, core::Project saved, Place place) {
    resetAt(std::move(saved), std::move(place));
    const std::string revision = m_revision;
    m_undo.push(new SnapshotCommand(*this, tr("Changes that were not saved"),
                                    std::make_shared<core::Project>(std::move(project)), 0));
    if (m_revision != revision)
        Q_EMIT revisionSelected();
}

void Document::setSaved(Place place, const std::shared_ptr<const core::Project>& saved) {
    m_place = std::move(place);
    m_saved = saved;
    if (m_project == saved)
        m_undo.setClean();
    Q_EMIT pathChanged();
}

void Document::setProject(std::shared_ptr<const core::Project> project) {
    // What nothing has changed for stays as it was computed: an edit costs one revision, not all of them.
    const auto touched = core::touchedRevisions(*m_project, *project);
    std::erase_if(m_words,
                  [&](const auto& entry) { return touched.contains(entry.first) || !project->revision(entry.first); });
    const core::Revision* was = m_project->revision(m_revision);
    const std::string parent = was ? was->parent : std::string{};
    m_project = std::move(project);
    m_results.setProject(m_project);
    m_sinceEdit.start();
    if (!m_project->revision(m_revision)) // taken back: where it came from, as it was before
        m_revision = m_project->revision(parent)    ? parent
                     : m_project->revisions.empty() ? std::string{}
                                                    : m_project->revisions.back().id;
    announce(News::Project);
}

core::Result<void> Document::edit(const QString& text, const std::function<void(core::Project&)>& change, int mergeId) {
    auto after = std::make_shared<core::Project>(*m_project);
    change(*after);
    after->shelf.shareWith(m_project->shelf);
    after->revisions.shareWith(m_project->revisions);
    after->runs.shareWith(m_project->runs);
    if (*after == *m_project)
        return {};
    if (auto wrong = core::validateEdit(*after, *m_project); !wrong.empty())
        return tl::make_unexpected(wrong.front());
    m_undo.push(new SnapshotCommand(*this, text, std::move(after), mergeId));
    return {};
}

std::string nextRevisionId(const core::Project& project) {
    long largest = 0;
    for (const core::Revision& r : project.revisions)
        if (r.id.size() > 1 && r.id[0] == 'R')
            if (const auto number = core::numberFrom(std::string_view(r.id).substr(1)); number && *number < 1e9)
                largest = std::max(largest, static_cast<long>(*number));
    std::string id = "R" + std::to_string(largest + 1);
    return id;
}

core::Project Document::withRevision(const core::Project& project, const std::string& id, const std::string& parent,
                                     std::vector<core::Change> changes, const std::string& note) {
    core::Project after = project;
    after.revisions.push_back({.id = id, .parent = parent, .changes = std::move(changes), .note = note});
    return after;
}

Answer<Document::Result> Document::ghost(const std::vector<core::Change>& changes) const {
    const std::string id = nextRevisionId(*m_project);
    return m_results.preview(std::make_shared<core::Project>(withRevision(*m_project, id, m_revision, changes)), id,
                             m_revision, ghostAsked);
}

core::Result<std::string> Document::newRevision(const std::string& parent, std::vector<core::Change> changes,
                                                const std::string& note) {
    const std::string id = nextRevisionId(*m_project);
    const auto done = edit(tr("New revision %1").arg(QString::fromStdString(id)),
                           [&](core::Project& p) { p = withRevision(p, id, parent, std::move(changes), note); });
    if (!done)
        return tl::make_unexpected(done.error());
    selectRevision(id);
    return id;
}

bool Document::isClosed(const std::string& id) const {
    const core::Revision* revision = m_project->revision(id);
    return (revision && revision->validated) ||
           std::any_of(m_project->runs.begin(), m_project->runs.end(),
                       [&](const core::Run& r) { return r.revision == id; }) ||
           std::any_of(m_project->revisions.begin(), m_project->revisions.end(),
                       [&](const core::Revision& r) { return r.parent == id; });
}

core::Result<std::string> Document::addChange(const core::Change& change) {
    const core::Revision* revision = m_project->revision(m_revision);
    if (!revision)
        return newRevision({}, {change});
    if (isClosed(m_revision))
        return newRevision(m_revision, {change});
    const std::string id = m_revision;
    const auto done = edit(tr("Change of %1").arg(QString::fromStdString(id)), [&](core::Project& p) {
        if (core::Revision* r = p.revisions.edit(id))
            core::addTo(r->changes, change);
    });
    if (!done)
        return tl::make_unexpected(done.error());
    return id;
}

void Document::selectRevision(const std::string& id) {
    if (id == m_revision || !m_project->revision(id))
        return;
    m_revision = id;
    announce(News::Revision);
}

// ---- results ----

const core::bench::RunAnalysis* Document::analysis(const std::string& runId) const {
    const core::Run* run = m_project->run(runId);
    const auto answer = run ? m_results.analysis(*run) : Answer<core::bench::RunAnalysis>{};
    return answer.standing == Standing::Ready ? answer.value.get() : nullptr; // the store keeps it
}

void Document::finishAnalyses() const {
    (void)m_results.analyses();
    stages().waitForAll();
}

const Document::Result& Document::shown(const std::string& id) const {
    static const Result nothing;
    const bool waits =
        id != m_revision && stages().pace() == StageStore::Pace::Beside && untilCalmMs() > 0 && !m_results.known(id);
    if (waits) { // what stood there stays until it is calm, and is asked for then
        m_wanted.insert(id);
        if (!m_spare.isActive())
            m_spare.start(untilCalmMs());
    }
    const auto answer = waits ? stages().peek<Result>({core::stages::Stage::Verdict, id}) : m_results.look(id);
    return answer.value ? *answer.value : nothing;
}

bool Document::isPending(const std::string& id) const {
    const auto* answer = m_results.known(id); // not asked since the last edit: of before
    return !answer || answer->standing == Standing::Pending;
}

double Document::lastEvaluationMs() const {
    const auto answer = stages().peek<Result>({core::stages::Stage::Verdict, m_revision});
    return answer.value ? answer.value->tookMs : 0;
}

// ---- telling the views ----

void Document::announce(News news) {
    (news == News::Project ? m_newProject : m_newRevision) = true;
    if (stages().pace() == StageStore::Pace::AtOnce)
        return tell();
    if (m_results.look(m_revision).standing != Standing::Pending)
        tell();
    else if (!m_patience.isActive())
        m_patience.start(patienceMs);
}

void Document::tell() {
    m_patience.stop();
    const bool project = std::exchange(m_newProject, false), revision = std::exchange(m_newRevision, false);
    if (project)
        Q_EMIT changed();
    if (revision)
        Q_EMIT revisionSelected();
}

void Document::onPublished(const StageStore::Key& key) {
    using core::stages::Stage;
    if (key.stage == Stage::Preview || key.stage == Stage::Search)
        return; // told to the dialog that asked
    if (key.stage == Stage::Loads || key.stage == Stage::WarmUp || key.stage == Stage::Schools ||
        key.stage == Stage::Explore)
        return; // Air alone shows them, and listens itself
    const bool lookedAt = key.stage != Stage::Run && key.of == m_revision;
    if (lookedAt && (m_newProject || m_newRevision))
        tell();
    else if (lookedAt)
        Q_EMIT changed();
    else if (!m_gather.isActive())
        m_gather.start(gatherMs);
}

/// What nobody looks at waits until nothing has been edited for a while: a drag is an edit for every move, and has the
/// processor for itself.
int Document::untilCalmMs() const {
    constexpr qint64 calmMs = 250;
    return m_sinceEdit.isValid() ? static_cast<int>(std::max<qint64>(0, calmMs - m_sinceEdit.elapsed())) : 0;
}

/// Revisions that nobody looks at, in the order of the rail, one at a time.
void Document::computeNextOutOfSight() {
    if (stages().pace() == StageStore::Pace::AtOnce || !stages().isIdle())
        return;
    if (const int wait = untilCalmMs(); wait > 0)
        return m_spare.start(wait);
    if (!m_wanted.empty()) { // in sight somewhere: all at once, before what is not
        bool there = false;
        for (const std::string& id : std::exchange(m_wanted, {}))
            there = (m_project->revision(id) && m_results.look(id).standing == Standing::Ready) || there;
        if (there && !m_gather.isActive()) // of before: nothing will be published
            m_gather.start(gatherMs);
        if (!stages().isIdle())
            return;
    }
    constexpr int sliceMs = 3; // even to find out that nothing is to be done takes time when there are hundreds
    QElapsedTimer slice;
    slice.start();
    std::size_t known = 0;
    for (const core::Revision& r : m_project->revisions) {
        if (++known > mostResults)
            return;
        if (m_results.known(r.id))
            continue;
        if (m_results.look(r.id).standing == Standing::Pending)
            return; // the next one when this one is there
        if (slice.elapsed() >= sliceMs)
            return m_spare.start(0);
    }
}

const core::Sentence& Document::words(const std::string& id) const {
    const auto [it, fresh] = m_words.try_emplace(id);
    if (const core::Revision* revision = fresh ? m_project->revision(id) : nullptr)
        it->second = core::joined(core::describe(*revision, *m_project));
    return it->second;
}

} // namespace app

#include "moc_document.cpp"
