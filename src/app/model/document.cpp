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
constexpr std::size_t mostResults = 400; ///< evaluations kept; each takes some hundred kilobytes
constexpr int patienceMs = 8;            ///< so long a view waits with its repainting for what is looked at
constexpr int gatherMs = 100;            ///< what is out of sight is told together

/// What a run's analysis reads.
struct RunReads {
    std::shared_ptr<const core::Samples> samples;
    double referenceRoomC = 0;
    std::map<std::string, double> capC;
    std::optional<double> roomC, loadStartS, loadEndS;
    bool operator==(const RunReads&) const = default;
};

/// What a revision's results read: the project but for what other revisions and their runs hold.
struct LookReads {
    std::shared_ptr<const core::Project> project;
    std::string revision;
    std::vector<std::shared_ptr<const core::bench::RunAnalysis>> analyses;
    friend bool operator==(const LookReads& a, const LookReads& b) {
        return a.revision == b.revision && a.analyses == b.analyses &&
               (a.project == b.project || sameFor(*a.project, *b.project, a.revision));
    }

    static bool sameFor(const core::Project& a, const core::Project& b, const std::string& revision) {
        return a.shelf == b.shelf && a.brief == b.brief && a.loads == b.loads && a.printer == b.printer &&
               a.currency == b.currency && a.needs == b.needs && a.simulation == b.simulation &&
               sameLine(a, b, revision) && sameRuns(a, b, revision);
    }
    static bool sameLine(const core::Project& a, const core::Project& b, const std::string& revision) {
        std::string at = revision;
        for (std::size_t steps = 0; !at.empty() && steps <= a.revisions.size(); ++steps) {
            const core::Revision *x = a.revision(at), *y = b.revision(at);
            if (!x || !y || !(x == y || *x == *y))
                return !x && !y;
            at = x->parent;
        }
        return true;
    }
    static bool sameRuns(const core::Project& a, const core::Project& b, const std::string& revision) {
        const auto runsOf = [&](const core::Project& p) {
            std::vector<const core::Run*> runs;
            for (const core::Run& r : p.runs)
                if (r.revision == revision)
                    runs.push_back(&r);
            return runs;
        };
        const auto ra = runsOf(a), rb = runsOf(b);
        return std::equal(ra.begin(), ra.end(), rb.begin(), rb.end(),
                          [](const auto* x, const auto* y) { return x == y || *x == *y; });
    }
};
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
    connect(&m_stages, &StageStore::published, this, &Document::onPublished);
    connect(&m_stages, &StageStore::idle, this, [this] { m_spare.start(0); });
}

void Document::resetAt(core::Project project, Place place) {
    m_undo.clear();
    m_stages.clear();
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
    for (std::size_t i = 0; i < m_project->revisions.size(); ++i)
        if (const core::Revision& r = m_project->revisions[i];
            !m_project->revisions.isSame(i, project->revisions) && !project->revision(r.id))
            for (const core::stages::Stage stage :
                 {core::stages::Stage::Verdict, core::stages::Stage::Rooms, core::stages::Stage::Mends,
                  core::stages::Stage::Measures, core::stages::Stage::Ways, core::stages::Stage::Trials})
                m_stages.forget({stage, r.id});
    m_project = std::move(project);
    m_lookAnswers.clear();
    m_runAnswers.clear();
    m_benchOptions.clear();
    if (!m_project->revision(m_revision))
        m_revision = m_project->revisions.empty() ? std::string{} : m_project->revisions.back().id;
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

core::Result<std::string> Document::addChange(const core::Change& change) {
    const core::Revision* revision = m_project->revision(m_revision);
    if (!revision)
        return newRevision({}, {change});
    const bool logged = std::any_of(m_project->runs.begin(), m_project->runs.end(),
                                    [&](const core::Run& r) { return r.revision == m_revision; });
    const bool hasChildren = std::any_of(m_project->revisions.begin(), m_project->revisions.end(),
                                         [&](const core::Revision& r) { return r.parent == m_revision; });
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
    announce(News::Revision);
}

// ---- results ----

Answer<core::bench::RunAnalysis> Document::analyse(const core::Run& run) const {
    if (const auto answer = m_runAnswers.find(run.id); answer != m_runAnswers.end())
        return answer->second; // views ask many times a frame
    const auto [known, isNew] = m_benchOptions.try_emplace(run.revision);
    if (isNew) {
        const auto build = core::resolve(*m_project, run.revision);
        known->second = core::stages::benchOptions(*m_project, build ? &*build : nullptr);
    }
    core::bench::AnalyseOptions options = known->second;
    RunReads reads{run.samples, options.referenceRoomC, options.capC, run.roomC, run.loadStartS, run.loadEndS};
    return m_runAnswers[run.id] = m_stages.ask<core::bench::RunAnalysis>(
               {core::stages::Stage::Run, run.id}, std::move(reads),
               [head = run, options = std::move(options)](const StageStore::Stop& stop) -> core::Result<Analysis> {
                   return std::make_shared<core::bench::RunAnalysis>(core::bench::analyse(head, options, stop));
               });
}

const core::bench::RunAnalysis* Document::analysis(const std::string& runId) const {
    const core::Run* run = m_project->run(runId);
    const auto answer = run ? analyse(*run) : Answer<core::bench::RunAnalysis>{};
    return answer.standing == Standing::Ready ? answer.value.get() : nullptr; // the store keeps it
}

void Document::finishAnalyses() const {
    for (const core::Run& run : m_project->runs)
        (void)analyse(run);
    m_stages.waitForAll();
}

core::verdict::RunAnalyses Document::knownAnalyses() const {
    core::verdict::RunAnalyses known;
    for (const core::Run& run : m_project->runs)
        if (const auto answer = m_stages.peek<core::bench::RunAnalysis>({core::stages::Stage::Run, run.id});
            answer.standing == Standing::Ready)
            known[run.id] = answer.value;
    return known;
}

core::verdict::RunAnalyses Document::analyses() const {
    finishAnalyses();
    return knownAnalyses();
}

Answer<Document::Result> Document::look(const std::string& id) const {
    if (const auto known = m_lookAnswers.find(id); known != m_lookAnswers.end())
        return known->second;
    LookReads reads{m_project, id, {}};
    core::verdict::RunAnalyses runs;
    for (const core::Run& run : m_project->runs)
        if (run.revision == id)
            if (auto answer = analyse(run); answer.standing == Standing::Ready) {
                reads.analyses.push_back(answer.value);
                runs[run.id] = answer.value;
            }
    const StageStore::Key key{core::stages::Stage::Verdict, id};
    auto before = m_stages.peek<Result>(key).value;
    if (const core::Revision* revision =
            before ? nullptr : m_project->revision(id)) // a new one is mostly as its parent
        before = m_stages.peek<Result>({core::stages::Stage::Verdict, revision->parent}).value;
    return m_lookAnswers[id] = m_stages.ask<Result>(
               key, reads,
               [project = m_project, id, runs, before, counts = m_stages.counts()](
                   const StageStore::Stop& stop) -> core::Result<std::shared_ptr<const Result>> {
                   auto r = std::make_shared<Result>();
                   r->project = project;
                   r->verdict.id = id;
                   const core::Revision* revision = project->revision(id);
                   if (!revision) {
                       r->problem = "no revision";
                       return r;
                   }
                   std::optional<core::stages::Before> kept;
                   if (before && before->evaluation)
                       kept.emplace(core::stages::Before{*before->project, *before->evaluation});
                   QElapsedTimer timer;
                   timer.start();
                   auto e = core::stages::evaluate(
                       *project, id, {.before = kept ? &*kept : nullptr, .watch = [&](core::stages::Stage stage) {
                                          ++(*counts)[static_cast<std::size_t>(stage)];
                                          return !stop();
                                      }});
                   r->tookMs = static_cast<double>(timer.nsecsElapsed()) / 1e6;
                   if (!e) {
                       r->problem = e.error().text();
                       r->verdict.problem = r->problem;
                       return r;
                   }
                   r->evaluation = std::move(*e);
                   r->verdict = core::verdict::judge(*project, *r->evaluation, runs);
                   return r;
               });
}

namespace {
const Document::Result& nothingYet() {
    static const Document::Result nothing;
    return nothing;
}
} // namespace

const Document::Result& Document::result(const std::string& id) const {
    const StageStore::Key key{core::stages::Stage::Verdict, id};
    auto answer = look(id);
    while (answer.standing == Standing::Pending &&
           m_stages.isPending(key)) { // what ends may be of before, and the newest asked for then
        m_stages.wait(key);
        answer = look(id);
    }
    return answer.value ? *answer.value : nothingYet();
}

const Document::Result& Document::shown(const std::string& id) const {
    const auto answer = look(id);
    return answer.value ? *answer.value : nothingYet();
}

bool Document::isPending(const std::string& id) const {
    const auto answer = m_lookAnswers.find(id); // not asked since the last edit: of before
    return answer == m_lookAnswers.end() || answer->second.standing == Standing::Pending;
}

double Document::lastEvaluationMs() const {
    const auto answer = m_stages.peek<Result>({core::stages::Stage::Verdict, m_revision});
    return answer.value ? answer.value->tookMs : 0;
}

// ---- answers of Fit: of the results that are shown, which they keep alive ----

namespace {
/// An answer about a revision reads its results as a whole.
struct OfLook {
    std::shared_ptr<const Document::Result> look;
    core::Thing of; ///< the gap, where the answer is about one
    bool operator==(const OfLook&) const = default;
};
/// @p compute takes project, evaluation and stop flag, and gives the answer.
template <class T, class Compute>
Answer<T> answerOf(StageStore& store, const StageStore::Key& key, const std::shared_ptr<const Document::Result>& look,
                   const core::Thing& of, Compute compute) {
    if (!look || !look->evaluation)
        return {Standing::Pending, nullptr, {}};
    return store.ask<T>(key, OfLook{look, of},
                        [look, compute](const StageStore::Stop& stop) -> core::Result<std::shared_ptr<const T>> {
                            return std::make_shared<T>(compute(*look->project, *look->evaluation, stop));
                        });
}
} // namespace

Answer<Rooms> Document::rooms() const {
    return answerOf<Rooms>(m_stages, {core::stages::Stage::Rooms, m_revision}, look(m_revision).value, {},
                           [](const core::Project& p, const core::stages::Evaluation& e, const StageStore::Stop& stop) {
                               return core::fit::roomLeft(p, e.build, {.needs = p.needs, .stop = stop});
                           });
}

Answer<Measures> Document::measures() const {
    return answerOf<Measures>(m_stages, {core::stages::Stage::Measures, m_revision}, look(m_revision).value, {},
                              [](const core::Project&, const core::stages::Evaluation& e, const StageStore::Stop&) {
                                  return core::fit::measureNext(e.fit);
                              });
}

Answer<Trials> Document::trials() const {
    return answerOf<Trials>(m_stages, {core::stages::Stage::Trials, m_revision}, look(m_revision).value, {},
                            [](const core::Project& p, const core::stages::Evaluation& e,
                               const StageStore::Stop& stop) { return core::advise::airTrials(p, e, stop); });
}

Answer<Ways> Document::ways() const {
    return answerOf<Ways>(m_stages, {core::stages::Stage::Ways, m_revision}, look(m_revision).value, {},
                          [](const core::Project&, const core::stages::Evaluation& e, const StageStore::Stop& stop) {
                              return core::fit::insertions(e.build, core::make::orderOf(e.make), stop);
                          });
}

Answer<Mends> Document::mends(const core::GapRef& gap) const {
    // One at a time: the gap that is asked about last is the one that is wanted.
    return answerOf<Mends>(
        m_stages, {core::stages::Stage::Mends, m_revision}, look(m_revision).value, gap,
        [gap](const core::Project& p, const core::stages::Evaluation& e, const StageStore::Stop& stop) {
            const auto* at = e.fit.gap(gap);
            return at ? Mends{gap, core::advise::whatToChange(p, e, *at, {}, stop)} : Mends{gap, {}};
        });
}

// ---- telling the views ----

void Document::announce(News news) {
    (news == News::Project ? m_newProject : m_newRevision) = true;
    if (m_stages.pace() == StageStore::Pace::AtOnce)
        return tell();
    if (look(m_revision).standing != Standing::Pending)
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
    if (key.stage == Stage::Verdict)
        m_lookAnswers.erase(key.of);
    if (key.stage == Stage::Run) {
        m_runAnswers.erase(key.of);
        if (const core::Run* run = m_project->run(key.of)) { // a verdict that was made without it is made anew
            m_lookAnswers.erase(run->revision);
            (void)look(run->revision);
        }
    }
    const bool lookedAt = key.stage != Stage::Run && key.of == m_revision;
    if (lookedAt && (m_newProject || m_newRevision))
        tell();
    else if (lookedAt)
        Q_EMIT changed();
    else if (!m_gather.isActive())
        m_gather.start(gatherMs);
}

/// Revisions that nobody looks at, in the order of the rail, one at a time.
void Document::computeNextOutOfSight() {
    if (m_stages.pace() == StageStore::Pace::AtOnce || !m_stages.isIdle())
        return;
    constexpr int sliceMs = 3; // even to find out that nothing is to be done takes time when there are hundreds
    QElapsedTimer slice;
    slice.start();
    std::size_t known = 0;
    for (const core::Revision& r : m_project->revisions) {
        if (++known > mostResults)
            return;
        if (m_lookAnswers.contains(r.id))
            continue;
        if (look(r.id).standing == Standing::Pending)
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
