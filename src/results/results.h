// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/verdict/judge.h"
#include "results/answers.h"
#include "results/stage_store.h"

namespace results {

/// Everything computed of one revision, or the problem that keeps it from resolving. Never changed once it is made.
struct Look {
    std::shared_ptr<const core::Project> project; ///< keeps alive what the evaluation points into
    std::optional<core::stages::Evaluation> evaluation;
    core::verdict::RevisionVerdict verdict;
    std::string problem;
    core::Problem why; ///< the same by its parts
    double tookMs = 0; ///< the evaluation
};

/// From a project to all that is computed of it: the one place that says what each answer reads and how it is worked
/// out. The window asks it beside its painting, the command line and the report ask and wait.
class Results {
public:
    /// Finished answers of another, to begin with: for work on another thread. Made in the thread of the other.
    struct Kept {
        std::shared_ptr<const core::Project> project;
        StageStore::Kept answers;
    };
    explicit Results(std::shared_ptr<const core::Project> project = std::make_shared<core::Project>());
    explicit Results(Kept kept);
    [[nodiscard]] Kept kept() const { return {m_project, m_store.kept()}; }

    [[nodiscard]] const core::Project& project() const { return *m_project; }
    /// An edited project: what nothing has changed for stays.
    void setProject(std::shared_ptr<const core::Project> project);
    [[nodiscard]] StageStore& store() { return m_store; }

    /// What is there of a revision. @p load: empty is the load of the brief; others are for who asks on purpose.
    [[nodiscard]] Answer<Look> look(const std::string& revision, const std::string& load = {});
    /// The same, waited for.
    [[nodiscard]] const Look& waitedFor(const std::string& revision, const std::string& load = {});
    /// Every revision that resolves, in order, waited for; ends early where @p goesOn says no.
    [[nodiscard]] std::vector<const core::stages::Evaluation*> evaluations(const std::function<bool()>& goesOn = {});
    /// Whether look() was asked since the last edit or news of it.
    [[nodiscard]] const Answer<Look>* known(const std::string& revision) const;

    [[nodiscard]] Answer<core::bench::RunAnalysis> analysis(const core::Run& run);
    /// Of the runs that @p wanted takes, waited for; empty takes all.
    [[nodiscard]] core::verdict::RunAnalyses analyses(const std::function<bool(const core::Run&)>& wanted = {});
    /// Those that are done already; nothing is waited for or started.
    [[nodiscard]] core::verdict::RunAnalyses knownAnalyses() const;

    // ---- answers about a revision, of the look that is there ----
    [[nodiscard]] Answer<Rooms> rooms(const std::string& revision);
    [[nodiscard]] Answer<Measures> measures(const std::string& revision);
    [[nodiscard]] Answer<Ways> ways(const std::string& revision);
    [[nodiscard]] Answer<Trials> trials(const std::string& revision);
    [[nodiscard]] Answer<Schools> schools(const std::string& revision);
    /// Noise and temperatures under every load.
    [[nodiscard]] Answer<Loads> loads(const std::string& revision);
    /// An hour of the load it is judged at, from idle.
    [[nodiscard]] Answer<WarmUp> warmUp(const std::string& revision);
    /// Of the runs whose analysis is there; asked again when there are more.
    [[nodiscard]] Answer<Taught> taught(const std::string& revision);
    /// What taught() answered of this very project; nothing is started: learning takes a second.
    [[nodiscard]] std::shared_ptr<const Taught> knownTaught(const std::string& revision) const;
    /// Seconds, with progress.
    [[nodiscard]] Answer<Explored> explored(const std::string& revision,
                                            const core::advise::ExploreRequest& request = {});
    /// One at a time: the gap that is asked about last is the one that is wanted.
    [[nodiscard]] Answer<Mends> mends(const std::string& revision, const core::GapRef& gap);
    [[nodiscard]] Answer<Found> search(const std::string& revision, const core::advise::SearchRequest& request);
    /// What would be there of a revision of another project, e.g. this one with a change more; one at a time.
    /// @p like: a revision of ours that it is mostly like. @p who: asks; each has one of his own.
    [[nodiscard]] Answer<Look> preview(const std::shared_ptr<const core::Project>& project, const std::string& revision,
                                       const std::string& like, const std::string& who = {});
    void stopSearch(const std::string& revision) { m_store.forget({core::stages::Stage::Search, revision}); }

private:
    [[nodiscard]] const core::bench::AnalyseOptions& benchOptions(const std::string& revision);
    [[nodiscard]] std::shared_ptr<const Look> nearest(const std::string& revision) const;
    template <class T, class Compute>
    Answer<T> about(core::stages::Stage stage, const std::string& revision, core::Thing of, Compute compute);
    void onPublished(const StageStore::Key& key);

    std::shared_ptr<const core::Project> m_project;
    StageStore m_store;
    /// What the store said since the last edit or news from it: views ask many times a frame.
    std::map<std::string, Answer<Look>> m_looks;
    std::map<std::string, Answer<core::bench::RunAnalysis>> m_runs;
    std::map<std::string, core::bench::AnalyseOptions> m_benchOptions; ///< by revision
    struct {
        std::shared_ptr<const core::Project> project;
        std::string revision;
        std::shared_ptr<const Taught> answer;
    } m_taught; ///< last
};

} // namespace results
