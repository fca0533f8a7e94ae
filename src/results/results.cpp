// SPDX-License-Identifier: GPL-3.0-or-later
#include "results/results.h"

#include "core/model/differences.h"

#include <QElapsedTimer>

namespace results {
using core::stages::Stage;
namespace {
/// What a run's analysis reads.
struct RunReads {
    std::shared_ptr<const core::Samples> samples;
    double referenceRoomC = 0;
    std::map<std::string, double> capC;
    std::optional<double> roomC, loadStartS, loadEndS;
    friend bool operator==(const RunReads& a, const RunReads& b) {
        return a.referenceRoomC == b.referenceRoomC && a.capC == b.capC && a.roomC == b.roomC &&
               a.loadStartS == b.loadStartS && a.loadEndS == b.loadEndS &&
               (a.samples == b.samples || (a.samples && b.samples && core::sameSamples(*a.samples, *b.samples)));
    }
};

/// What a revision's results read: the project but for what other revisions and their runs hold.
struct LookReads {
    std::shared_ptr<const core::Project> project;
    std::string revision, load;
    std::vector<std::shared_ptr<const core::bench::RunAnalysis>> analyses;
    friend bool operator==(const LookReads& a, const LookReads& b) {
        return a.revision == b.revision && a.load == b.load && a.analyses == b.analyses &&
               (a.project == b.project || sameFor(*a.project, *b.project, a.revision));
    }

    static bool sameFor(const core::Project& a, const core::Project& b, const std::string& revision) {
        return a.shelf == b.shelf && a.brief == b.brief && a.loads == b.loads && a.printer == b.printer &&
               a.currency == b.currency && a.needs == b.needs && a.airValues == b.airValues &&
               a.simulation == b.simulation && sameLine(a, b, revision) && sameRuns(a, b, revision);
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

/// What an answer about a revision reads: its look as a whole, and what it is about.
struct AboutReads {
    std::shared_ptr<const Look> look;
    core::Thing of; ///< the gap, where the answer is about one
    bool operator==(const AboutReads&) const = default;
};
struct TaughtReads {
    std::shared_ptr<const Look> look;
    core::verdict::RunAnalyses runs;
    bool operator==(const TaughtReads&) const = default;
};
struct SearchReads {
    LookReads look;
    core::advise::SearchRequest request;
    bool operator==(const SearchReads&) const = default;
};

struct ExploreReads {
    std::shared_ptr<const Look> look;
    core::advise::ExploreRequest request;
    bool operator==(const ExploreReads&) const = default;
};

std::string keyOf(const std::string& revision, const std::string& load) {
    return load.empty() ? revision : revision + '\n' + load;
}

/// @p before: of the same revision or a near one; null: nothing is there to keep.
std::shared_ptr<const Look> lookAt(std::shared_ptr<const core::Project> project, const std::string& id,
                                   const std::string& load, const core::verdict::RunAnalyses& runs, const Look* before,
                                   const core::stages::Watch& watch) {
    auto r = std::make_shared<Look>();
    r->project = std::move(project);
    r->verdict.id = id;
    if (!r->project->revision(id)) {
        r->problem = "no revision";
        return r;
    }
    std::optional<core::stages::Before> kept;
    if (before && before->evaluation)
        kept.emplace(core::stages::Before{*before->project, *before->evaluation});
    QElapsedTimer timer;
    timer.start();
    auto e = core::stages::evaluate(*r->project, id, {.load = load, .before = kept ? &*kept : nullptr, .watch = watch});
    r->tookMs = static_cast<double>(timer.nsecsElapsed()) / 1e6;
    if (!e) {
        r->why = e.error();
        r->problem = r->why.text();
        r->verdict.problem = r->problem;
        return r;
    }
    r->evaluation = std::move(*e);
    r->verdict = core::verdict::judge(*r->project, *r->evaluation, runs);
    return r;
}
} // namespace

Results::Results(std::shared_ptr<const core::Project> project) : m_project(std::move(project)) {
    QObject::connect(&m_store, &StageStore::published, &m_store,
                     [this](const StageStore::Key& key) { onPublished(key); });
}

Results::Results(Kept kept) : Results(std::move(kept.project)) { m_store.begin(std::move(kept.answers)); }

void Results::setProject(std::shared_ptr<const core::Project> project) {
    for (std::size_t i = 0; i < m_project->revisions.size(); ++i)
        if (const core::Revision& r = m_project->revisions[i];
            !m_project->revisions.isSame(i, project->revisions) && !project->revision(r.id))
            for (const Stage stage : {Stage::Verdict, Stage::Rooms, Stage::Mends, Stage::Measures, Stage::Ways,
                                      Stage::Trials, Stage::Search})
                m_store.forget({stage, r.id});
    for (std::size_t i = 0; i < m_project->runs.size(); ++i)
        if (const core::Run& run = m_project->runs[i];
            !m_project->runs.isSame(i, project->runs) && !project->run(run.id))
            m_store.forget({Stage::Run, run.id});
    m_project = std::move(project);
    m_looks.clear();
    m_runs.clear();
    m_benchOptions.clear();
}

// ---- runs ----

const core::bench::AnalyseOptions& Results::benchOptions(const std::string& revision) {
    const auto [known, isNew] = m_benchOptions.try_emplace(revision);
    if (isNew) {
        const auto build = core::resolve(*m_project, revision);
        known->second = core::stages::benchOptions(*m_project, build ? &*build : nullptr);
    }
    return known->second;
}

Answer<core::bench::RunAnalysis> Results::analysis(const core::Run& run) {
    using core::bench::RunAnalysis;
    if (const auto answer = m_runs.find(run.id); answer != m_runs.end())
        return answer->second;
    core::bench::AnalyseOptions options = benchOptions(run.revision);
    RunReads reads{run.samples, options.referenceRoomC, options.capC, run.roomC, run.loadStartS, run.loadEndS};
    return m_runs[run.id] = m_store.ask<RunAnalysis>(
               {Stage::Run, run.id}, std::move(reads),
               [run,
                options = std::move(options)](const Watch& stop) -> core::Result<std::shared_ptr<const RunAnalysis>> {
                   return std::make_shared<RunAnalysis>(core::bench::analyse(run, options, stop));
               });
}

core::verdict::RunAnalyses Results::knownAnalyses() const {
    core::verdict::RunAnalyses known;
    for (const core::Run& run : m_project->runs)
        if (const auto answer = m_store.peek<core::bench::RunAnalysis>({Stage::Run, run.id});
            answer.standing == Standing::Ready)
            known[run.id] = answer.value;
    return known;
}

core::verdict::RunAnalyses Results::analyses(const std::function<bool(const core::Run&)>& wanted) {
    const auto isWanted = [&](const core::Run& run) { return !wanted || wanted(run); };
    for (const core::Run& run : m_project->runs) // all begin, then they are waited for
        if (isWanted(run))
            (void)analysis(run);
    core::verdict::RunAnalyses all;
    for (const core::Run& run : m_project->runs)
        if (isWanted(run)) {
            m_store.wait({Stage::Run, run.id});
            if (const auto answer = analysis(run); answer.standing == Standing::Ready)
                all[run.id] = answer.value;
        }
    return all;
}

// ---- looks ----

/// What is there of the revision, else of its parent: a new one is mostly as that.
std::shared_ptr<const Look> Results::nearest(const std::string& id) const {
    if (auto before = m_store.peek<Look>({Stage::Verdict, id}).value)
        return before;
    const core::Revision* revision = m_project->revision(id);
    return revision ? m_store.peek<Look>({Stage::Verdict, revision->parent}).value : nullptr;
}

Answer<Look> Results::look(const std::string& id, const std::string& load) {
    const std::string of = keyOf(id, load);
    if (const auto known = m_looks.find(of); known != m_looks.end())
        return known->second;
    LookReads reads{m_project, id, load, {}};
    core::verdict::RunAnalyses runs;
    for (const core::Run& run : m_project->runs)
        if (run.revision == id)
            if (auto answer = analysis(run); answer.standing == Standing::Ready) {
                reads.analyses.push_back(answer.value);
                runs[run.id] = answer.value;
            }
    return m_looks[of] = m_store.ask<Look>(
               {Stage::Verdict, of}, std::move(reads),
               [project = m_project, id, load, runs = std::move(runs), before = nearest(id),
                counts = m_store.counts()](const Watch& stop) -> core::Result<std::shared_ptr<const Look>> {
                   return lookAt(project, id, load, runs, before.get(), [&](Stage stage) {
                       ++(*counts)[static_cast<std::size_t>(stage)];
                       return !stop();
                   });
               });
}

const Answer<Look>* Results::known(const std::string& id) const {
    const auto answer = m_looks.find(id);
    return answer == m_looks.end() ? nullptr : &answer->second;
}

const Look& Results::waitedFor(const std::string& id, const std::string& load) {
    const StageStore::Key key{Stage::Verdict, keyOf(id, load)};
    auto answer = look(id, load);
    while (answer.standing == Standing::Pending &&
           m_store.isPending(key)) { // what ends may be of before, and the newest asked for then
        m_store.wait(key);
        answer = look(id, load);
    }
    static const Look nothing;
    return answer.value ? *answer.value : nothing; // the store keeps it
}

std::vector<const core::stages::Evaluation*> Results::evaluations(const std::function<bool()>& goesOn) {
    std::vector<const core::stages::Evaluation*> all;
    for (const core::Revision& r : m_project->revisions) {
        if (const Look& look = waitedFor(r.id); look.evaluation)
            all.push_back(&*look.evaluation);
        if (goesOn && !goesOn())
            break;
    }
    return all;
}

void Results::onPublished(const StageStore::Key& key) {
    if (key.stage == Stage::Learn)
        (void)taught(key.of); // kept, so that who never starts it finds it
    if (key.stage == Stage::Verdict)
        m_looks.erase(key.of);
    if (key.stage == Stage::Run) {
        m_runs.erase(key.of);
        if (const core::Run* run = m_project->run(key.of)) { // a verdict that was made without it is made anew
            m_looks.erase(run->revision);
            (void)look(run->revision);
        }
    }
}

// ---- answers about a revision: of its look, which they keep alive ----

/// @p compute takes project, evaluation and watch, and gives the answer.
template <class T, class Compute>
Answer<T> Results::about(Stage stage, const std::string& revision, core::Thing of, Compute compute) {
    const auto at = look(revision).value;
    if (!at || !at->evaluation)
        return {Standing::Pending, nullptr, {}};
    return m_store.ask<T>({stage, revision}, AboutReads{at, std::move(of)},
                          [at, compute](const Watch& watch) -> core::Result<std::shared_ptr<const T>> {
                              return std::make_shared<T>(compute(*at->project, *at->evaluation, watch));
                          });
}

Answer<Rooms> Results::rooms(const std::string& revision) {
    return about<Rooms>(Stage::Rooms, revision, {}, [](const auto& project, const auto& e, const Watch& stop) {
        return core::fit::roomLeft(project, e.build, {.needs = project.needs, .stop = stop});
    });
}

Answer<Measures> Results::measures(const std::string& revision) {
    return about<Measures>(Stage::Measures, revision, {},
                           [](const auto&, const auto& e, const Watch&) { return core::fit::measureNext(e.fit); });
}

Answer<Trials> Results::trials(const std::string& revision) {
    return about<Trials>(Stage::Trials, revision, {}, [](const auto& project, const auto& e, const Watch& stop) {
        return core::advise::airTrials(project, e, stop);
    });
}

Answer<Schools> Results::schools(const std::string& revision) {
    return about<Schools>(Stage::Schools, revision, {}, [](const auto& project, const auto& e, const Watch& stop) {
        return core::advise::schools(project, e, stop);
    });
}

Answer<Loads> Results::loads(const std::string& revision) {
    return about<Loads>(Stage::Loads, revision, {}, [](const auto& project, const auto& e, const Watch& stop) {
        return core::stages::atLoads(project, e, stop);
    });
}

Answer<WarmUp> Results::warmUp(const std::string& revision) {
    return about<WarmUp>(Stage::WarmUp, revision, {}, [](const auto&, const auto& e, const Watch& stop) {
        constexpr double minutes = 60, everyS = 15;
        WarmUp warm;
        if (const auto& of = e.air.solved)
            warm = {core::air::warmUp(of->compiled.network, of->solution, minutes, everyS, stop), of};
        return warm;
    });
}

namespace {
/// The parts of a revision as the runs have it, and what to run next.
void addLearned(Taught& taught, const core::Project& project, const core::stages::Evaluation& e,
                const std::vector<core::air::Observation>& runs, const Watch& stop) {
    const auto& compiled = e.air.solved->compiled;
    auto after = core::air::summarise(e.build, e.air.conditions, compiled,
                                      core::air::solve(core::air::learned(e.build, compiled, taught.calibration)));
    const auto bands = core::air::bandsAfter(e.air, taught.calibration);
    for (std::size_t i = 0; i < after.parts.size() && i < e.air.parts.size(); ++i) {
        const auto& before = e.air.parts[i];
        after.parts[i].weak = before.weak;
        taught.parts.push_back(
            {before.id, before.temperatureC, after.parts[i].temperatureC, before.bandK, bands[i], {}});
        if (before.kind == core::PartKind::Processor || before.kind == core::PartKind::Card)
            taught.parts.back().next = core::advise::nextRuns(project, e, runs, before.id, stop);
        after.parts[i].bandK = bands[i];
    }
    taught.noise = core::acoustics::noiseOf(e.build, after, project.brief.listenerM);
    taught.air = std::move(after);
}
} // namespace

Answer<Taught> Results::taught(const std::string& revision) {
    const auto at = look(revision).value;
    if (!at || !at->evaluation)
        return {Standing::Pending, nullptr, {}};
    const core::verdict::RunAnalyses runs = knownAnalyses();
    auto answer = m_store.ask<Taught>({Stage::Learn, revision}, TaughtReads{at, runs},
                                      [at, runs](const Watch& stop) -> core::Result<std::shared_ptr<const Taught>> {
                                          const auto observed = core::advise::observationsOf(*at->project, runs);
                                          auto taught = std::make_shared<Taught>();
                                          taught->runs = observed.size();
                                          taught->calibration = core::air::calibrate(observed);
                                          if (at->evaluation->air.solved && !observed.empty())
                                              addLearned(*taught, *at->project, *at->evaluation, observed, stop);
                                          return taught;
                                      });
    if (answer.standing == Standing::Ready)
        m_taught = {m_project, revision, answer.value};
    return answer;
}

std::shared_ptr<const Taught> Results::knownTaught(const std::string& revision) const {
    return m_taught.project == m_project && m_taught.revision == revision ? m_taught.answer : nullptr;
}

Answer<Explored> Results::explored(const std::string& revision, const core::advise::ExploreRequest& request) {
    const auto at = look(revision).value;
    if (!at || !at->evaluation)
        return {Standing::Pending, nullptr, {}};
    return m_store.ask<Explored>({Stage::Explore, revision}, ExploreReads{at, request},
                                 [at, request](const Watch& watch) -> core::Result<std::shared_ptr<const Explored>> {
                                     auto found = core::advise::explore(*at->project, *at->evaluation, request,
                                                                        [&](double share) { return watch.at(share); });
                                     if (!found)
                                         return tl::make_unexpected(found.error());
                                     return std::make_shared<Explored>(std::move(*found));
                                 });
}

Answer<Ways> Results::ways(const std::string& revision) {
    return about<Ways>(Stage::Ways, revision, {}, [](const auto&, const auto& e, const Watch& stop) {
        return core::fit::insertions(e.build, core::make::orderOf(e.make), stop);
    });
}

Answer<Mends> Results::mends(const std::string& revision, const core::GapRef& gap) {
    return about<Mends>(Stage::Mends, revision, gap, [gap](const auto& project, const auto& e, const Watch& stop) {
        const auto* at = e.fit.gap(gap);
        return at ? Mends{gap, core::advise::whatToChange(project, e, *at, {}, stop)} : Mends{gap, {}};
    });
}

Answer<Found> Results::search(const std::string& revision, const core::advise::SearchRequest& request) {
    return m_store.ask<Found>(
        {Stage::Search, revision}, SearchReads{{m_project, revision, {}, {}}, request},
        [project = m_project, revision, before = nearest(revision),
         request](const Watch& watch) -> core::Result<std::shared_ptr<const Found>> {
            const auto at = lookAt(project, revision, {}, {}, before.get(), [&](Stage) { return !watch(); });
            if (!at->evaluation)
                return core::problem("revision " + revision, at->problem, "mend the revision first");
            auto found = core::advise::search(*at->project, *at->evaluation, request,
                                              [&](double share) { return watch.at(share); });
            if (!found)
                return tl::make_unexpected(found.error());
            return std::make_shared<Found>(std::move(*found));
        });
}

Answer<Look> Results::preview(const std::shared_ptr<const core::Project>& project, const std::string& revision,
                              const std::string& like, const std::string& who) {
    return m_store.ask<Look>(
        {Stage::Preview, who}, LookReads{project, revision, {}, {}},
        [project, revision, before = nearest(like)](const Watch& watch) -> core::Result<std::shared_ptr<const Look>> {
            return lookAt(project, revision, {}, {}, before.get(), [&](Stage) { return !watch(); });
        });
}

} // namespace results
