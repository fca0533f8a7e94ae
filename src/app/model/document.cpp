// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/document.h"

#include "core/base/text.h"
#include "core/model/choices.h"
#include "core/model/differences.h"

#include <QElapsedTimer>
#include <QFutureWatcher>
#include <QUndoCommand>
#include <QtConcurrent>

namespace app {
namespace {
constexpr std::size_t mostResults = 60; ///< evaluations kept; each takes some hundred kilobytes
}

/// One step of undo: the project before and after. Values are shared, so a step costs a few pointers.
class SnapshotCommand : public QUndoCommand {
public:
    SnapshotCommand(Document& document, const QString& text, std::shared_ptr<const core::Project> after, int mergeId)
        : QUndoCommand(text), m_document(document), m_before(document.m_project), m_after(std::move(after)), m_mergeId(mergeId), m_revision(document.m_revision) {}
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

Document::Document(QObject* parent) : QObject(parent), m_project(std::make_shared<core::Project>()), m_saved(m_project) { m_undo.setUndoLimit(500); }

void Document::resetAt(core::Project project, Place place) {
    m_undo.clear();
    m_analysts.stop();
    m_analyses.clear();
    m_current.clear();
    m_pending.clear();
    m_place = std::move(place);
    m_revision = !project.baseline.empty() ? project.baseline : std::string{};
    for (const core::Revision& r : project.revisions)
        if (r.validated || m_revision.empty() || &r == &project.revisions.back())
            if (m_revision.empty() || r.validated)
                m_revision = r.id;
    m_words.clear();
    m_saved = std::make_shared<core::Project>(std::move(project));
    setProject(m_saved);
    Q_EMIT pathChanged();
    Q_EMIT revisionSelected();
}

void Document::resetRecovered(core::Project project, core::Project saved, Place place) {
    resetAt(std::move(saved), std::move(place));
    const std::string revision = m_revision;
    m_undo.push(new SnapshotCommand(*this, tr("Changes that were not saved"), std::make_shared<core::Project>(std::move(project)), 0));
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

namespace {
/// The runs of a revision are the same in both.
bool sameRuns(const core::Project& before, const core::Project& after, const std::string& id) {
    const auto runsOf = [&](const core::Project& p) {
        std::vector<const core::Run*> runs;
        for (const core::Run& r : p.runs)
            if (r.revision == id)
                runs.push_back(&r);
        return runs;
    };
    const auto ra = runsOf(before), rb = runsOf(after);
    return std::equal(ra.begin(), ra.end(), rb.begin(), rb.end(), [](const auto* x, const auto* y) { return *x == *y; });
}
} // namespace

void Document::setProject(std::shared_ptr<const core::Project> project) {
    // What nothing has changed for stays as it was computed: an edit costs one revision, not all of them.
    const auto touched = core::touchedRevisions(*m_project, *project);
    std::erase_if(m_words, [&](const auto& entry) { return touched.contains(entry.first) || !project->revision(entry.first); });
    if (m_project->shelf == project->shelf && m_project->brief == project->brief && m_project->loads == project->loads && m_project->printer == project->printer && m_project->currency == project->currency && m_project->needs == project->needs)
        std::erase_if(m_results, [&](const auto& entry) { return touched.contains(entry.first) || !project->revision(entry.first) || !sameRuns(*m_project, *project, entry.first); });
    else
        m_results.clear();
    m_current.clear();
    m_project = std::move(project);
    if (!m_project->revision(m_revision))
        m_revision = m_project->revisions.empty() ? std::string{} : m_project->revisions.back().id;
    Q_EMIT changed();
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

core::Project Document::withRevision(const core::Project& project, const std::string& id, const std::string& parent, std::vector<core::Change> changes, const std::string& note) {
    core::Project after = project;
    after.revisions.push_back({.id = id, .parent = parent, .changes = std::move(changes), .note = note});
    return after;
}

core::Result<std::string> Document::newRevision(const std::string& parent, std::vector<core::Change> changes, const std::string& note) {
    const std::string id = nextRevisionId(*m_project);
    const auto done = edit(tr("New revision %1").arg(QString::fromStdString(id)), [&](core::Project& p) { p = withRevision(p, id, parent, std::move(changes), note); });
    if (!done)
        return tl::make_unexpected(done.error());
    selectRevision(id);
    return id;
}

core::Result<std::string> Document::addChange(const core::Change& change) {
    const core::Revision* revision = m_project->revision(m_revision);
    if (!revision)
        return newRevision({}, {change});
    const bool logged = std::any_of(m_project->runs.begin(), m_project->runs.end(), [&](const core::Run& r) { return r.revision == m_revision; });
    const bool hasChildren = std::any_of(m_project->revisions.begin(), m_project->revisions.end(), [&](const core::Revision& r) { return r.parent == m_revision; });
    if (logged || hasChildren || revision->validated)
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
    // Hundreds of revisions are looked at one after another; what is out of sight is computed again when it is wanted.
    if (m_results.size() > mostResults)
        std::erase_if(m_results, [&](const auto& entry) { return entry.first != id && entry.first != m_project->baseline; });
    Q_EMIT revisionSelected();
}

const core::bench::RunAnalysis* Document::analysis(const std::string& runId) const {
    if (const auto known = m_current.find(runId); known != m_current.end())
        return known->second.get();
    const core::Run* run = m_project->run(runId);
    if (!run)
        return nullptr;
    const auto build = core::resolve(*m_project, run->revision);
    Analysed wanted{run->samples, *run, core::verdict::benchOptions(*m_project, build ? &*build : nullptr), nullptr};
    const auto same = [&](const Analysed& a) {
        return a.samples == run->samples && a.options.referenceRoomC == wanted.options.referenceRoomC && a.options.capC == wanted.options.capC && a.head.roomC == run->roomC &&
               a.head.loadStartS == run->loadStartS && a.head.loadEndS == run->loadEndS;
    };
    if (const auto done = m_analyses.find(runId); done != m_analyses.end() && same(done->second))
        return (m_current[runId] = done->second.analysis).get();
    if (const auto pending = m_pending.find(runId); pending != m_pending.end() && same(pending->second.result))
        return nullptr;
    if (m_background) {
        start(runId, std::move(wanted));
        return nullptr;
    }
    wanted.analysis = std::make_shared<core::bench::RunAnalysis>(core::bench::analyse(*run, wanted.options));
    Analysed& a = m_analyses[runId];
    a = std::move(wanted);
    return (m_current[runId] = a.analysis).get();
}

void Document::start(const std::string& runId, Analysed wanted) const {
    auto* watcher = new QFutureWatcher<std::shared_ptr<const core::bench::RunAnalysis>>(const_cast<Document*>(this));
    const int ticket = ++m_tickets;
    connect(watcher, &QFutureWatcherBase::finished, this, [this, runId, watcher, ticket] {
        watcher->deleteLater();
        const auto pending = m_pending.find(runId);
        // A newer request for the same run has taken its place: only the newest may publish.
        if (pending != m_pending.end() && pending->second.ticket == ticket)
            take(runId);
        if (m_pending.empty()) // views are told once, not fourteen times
            Q_EMIT const_cast<Document*>(this)->changed();
    });
    auto future = QtConcurrent::run(m_analysts.pool(), [head = wanted.head, options = wanted.options, stop = m_analysts.flag()]() -> std::shared_ptr<const core::bench::RunAnalysis> {
        if (*stop)
            return nullptr;
        auto analysis = std::make_shared<core::bench::RunAnalysis>(core::bench::analyse(head, options, [&] { return stop->load(); }));
        return *stop ? nullptr : analysis;
    });
    m_pending[runId] = {ticket, std::move(wanted), future};
    watcher->setFuture(future);
}

void Document::take(const std::string& runId) const {
    auto node = m_pending.extract(runId);
    Analysed done = std::move(node.mapped().result);
    done.analysis = node.mapped().future.result();
    if (!done.analysis)
        return; // stopped: its project is gone
    m_results.erase(done.head.revision); // its verdict was made without this run
    m_analyses[runId] = std::move(done);
}

void Document::finishAnalyses() const {
    for (const core::Run& run : m_project->runs)
        (void)analysis(run.id);
    while (!m_pending.empty())
        take(m_pending.begin()->first);
}

core::verdict::RunAnalyses Document::knownAnalyses() const {
    core::verdict::RunAnalyses known;
    for (const auto& [run, analysis] : m_current)
        known[run] = analysis;
    return known;
}

core::verdict::RunAnalyses Document::analyses() const {
    finishAnalyses();
    core::verdict::RunAnalyses all;
    for (const core::Run& run : m_project->runs)
        if (analysis(run.id))
            all[run.id] = m_analyses[run.id].analysis;
    return all;
}

const std::string& Document::words(const std::string& id) const {
    const auto [it, fresh] = m_words.try_emplace(id);
    if (const core::Revision* revision = fresh ? m_project->revision(id) : nullptr)
        for (std::size_t i = 0; i < revision->changes.size(); ++i)
            it->second += (i ? ", " : "") + core::describe(revision->changes[i], *m_project, revision->parent);
    return it->second;
}

const Document::Result& Document::result(const std::string& id) const {
    if (const auto it = m_results.find(id); it != m_results.end())
        return it->second;
    Result& r = m_results[id];
    r.project = m_project;
    r.verdict.id = id;
    const core::Revision* revision = m_project->revision(id);
    if (!revision) {
        r.problem = "no revision";
        return r;
    }
    r.words = words(id);
    QElapsedTimer timer;
    timer.start();
    auto e = core::verdict::evaluate(*m_project, id);
    m_lastMs = static_cast<double>(timer.nsecsElapsed()) / 1e6;
    if (!e) {
        r.problem = e.error().text();
        r.verdict.problem = r.problem;
        return r;
    }
    r.evaluation = std::move(*e);
    core::verdict::RunAnalyses runs;
    for (const core::Run& run : m_project->runs)
        if (run.revision == id && analysis(run.id))
            runs[run.id] = m_analyses[run.id].analysis;
    r.verdict = core::verdict::judge(*m_project, *r.evaluation, runs);
    return r;
}

} // namespace app
