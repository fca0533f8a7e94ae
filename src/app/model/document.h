// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/explain/working.h"
#include "results/results.h"
#include "results/workers.h"
#include "store/files.h"

#include <QElapsedTimer>
#include <QObject>
#include <QString>
#include <QTimer>
#include <QUndoStack>

#include <map>
#include <memory>
#include <set>

namespace app {
using results::Answer;
using results::Measures;
using results::Mends;
using results::PaintingNow;
using results::Promised;
using results::Rooms;
using results::StageStore;
using results::Standing;
using results::StopFlag;
using results::Trials;
using results::Ways;
using results::Workers;

/// Owns the project, the undo stack and the results. There is one path: change -> evaluate -> results -> views.
/// Projects are immutable values; an edit is a new value, so undo reaches everything and results can never be stale.
class Document : public QObject {
    Q_OBJECT
public:
    explicit Document(QObject* parent = nullptr);

    using Result = results::Look;

    [[nodiscard]] const core::Project& project() const { return *m_project; }
    [[nodiscard]] std::shared_ptr<const core::Project> shared() const { return m_project; }
    [[nodiscard]] QUndoStack& undoStack() { return m_undo; }

    /// Whether saving to the place it was opened from is ours to do.
    struct Place {
        QString path;                             ///< empty: nowhere yet
        std::shared_ptr<store::ProjectLock> lock; ///< none: another writer has it, or it cannot be written to
        QString readOnlyBecause;                  ///< in words, where there is no lock
        std::optional<store::FileStamp> stamp;    ///< as it stood on the disk when it was read or written
    };
    /// Starts over with a project; the undo stack is cleared.
    void resetAt(core::Project project, Place place);
    void reset(core::Project project, const QString& path) { resetAt(std::move(project), Place{.path = path}); }
    /// The same with changes that stand on no disk yet: @p saved is what stands there.
    void resetRecovered(core::Project project, core::Project saved, Place place);
    [[nodiscard]] QString path() const { return m_place.path; }
    [[nodiscard]] const Place& place() const { return m_place; }
    [[nodiscard]] bool isReadOnly() const { return !path().isEmpty() && !m_place.readOnlyBecause.isEmpty(); }
    /// @p saved is what stands on the disk now; edits made while it was written stay unsaved.
    void setSaved(Place place, const std::shared_ptr<const core::Project>& saved);
    [[nodiscard]] bool isModified() const { return !m_undo.isClean(); }
    /// What stands on the disk, as far as this program knows.
    [[nodiscard]] const std::shared_ptr<const core::Project>& saved() const { return m_saved; }
    /// Threads for jobs that somebody waits for: files, search, report.
    [[nodiscard]] Workers& workers() { return m_workers; }

    /// Replaces the project by an edited copy; one step of undo. Edits with the same non-zero @p mergeId join.
    /// An edit that would leave a project that cannot be opened again is refused with its reason, and changes nothing.
    core::Result<void> edit(const QString& text, const std::function<void(core::Project&)>& change, int mergeId = 0);

    /// Logged, validated, or others come from it: what is changed becomes a new revision.
    [[nodiscard]] bool isClosed(const std::string& revision) const;
    /// Adds a change: to the revision itself while nothing was logged on it, else to a new revision. Answers which.
    core::Result<std::string> addChange(const core::Change& change);
    core::Result<std::string> newRevision(const std::string& parent, std::vector<core::Change> changes,
                                          const std::string& note = {});
    /// The project with a change added to a new child of @p parent: what newRevision() would make, to be looked at
    /// first.
    [[nodiscard]] static core::Project withRevision(const core::Project& project, const std::string& id,
                                                    const std::string& parent, std::vector<core::Change> changes,
                                                    const std::string& note = {});

    // ---- what is looked at; not part of undo ----
    [[nodiscard]] const std::string& revision() const { return m_revision; }
    void selectRevision(const std::string& id);

    // ---- results ----
    /// Waits for it. For who acts on it: commands, dialogs, the report, tests.
    [[nodiscard]] const Result& result() const { return result(m_revision); }
    [[nodiscard]] const Result& result(const std::string& revision) const { return m_results.waitedFor(revision); }
    /// Never waits: what is there, of before the last edit while the new one is worked out. For views.
    [[nodiscard]] const Result& shown(const std::string& revision) const;
    /// Something that shown() answers is of before, or not there yet.
    [[nodiscard]] bool isPending(const std::string& revision) const;
    /// Answers about the revision that is looked at; they take longer than a gap.
    [[nodiscard]] Answer<results::Rooms> rooms() const { return m_results.rooms(m_revision); }
    [[nodiscard]] Answer<results::Measures> measures() const { return m_results.measures(m_revision); }
    [[nodiscard]] Answer<results::Ways> ways() const { return m_results.ways(m_revision); }
    [[nodiscard]] Answer<results::Loads> loads() const { return m_results.loads(m_revision); }       ///< for Air
    [[nodiscard]] Answer<results::WarmUp> warmUp() const { return m_results.warmUp(m_revision); }    ///< for Air
    [[nodiscard]] Answer<results::Schools> schools() const { return m_results.schools(m_revision); } ///< for Air
    [[nodiscard]] Answer<results::Taught> taught() const { return m_results.taught(m_revision); }    ///< for Air
    [[nodiscard]] std::shared_ptr<const results::Taught> knownTaught() const {
        return m_results.knownTaught(m_revision);
    }
    [[nodiscard]] Answer<results::Explored> explored(const core::advise::ExploreRequest& request = {}) const {
        return m_results.explored(m_revision, request); ///< for Air
    }
    /// What the revision that is looked at would be with these changes; one such at a time, beside what a dialog tries.
    static constexpr const char* ghostAsked = "ghost"; ///< as who asks for a preview
    [[nodiscard]] Answer<Result> ghost(const std::vector<core::Change>& changes) const;
    [[nodiscard]] Answer<results::Trials> trials() const { return m_results.trials(m_revision); } ///< for Air
    [[nodiscard]] Answer<Mends> mends(const core::GapRef& gap) const { return m_results.mends(m_revision, gap); }
    /// For who asks beyond that: a search, and the report beside the window.
    [[nodiscard]] results::Results& results() const { return m_results; }
    [[nodiscard]] StageStore& stages() const { return m_results.store(); }
    /// The changes of a revision in words; nothing else is computed for it.
    [[nodiscard]] const core::Sentence& words(const std::string& revision) const;
    /// Nothing while the run is being analysed in the background, or when there is no such run.
    [[nodiscard]] const core::bench::RunAnalysis* analysis(const std::string& run) const;
    /// With a window everything is worked out beside it, and changed() follows; without one at once.
    void setBackground(bool on) { stages().setPace(on ? StageStore::Pace::Beside : StageStore::Pace::AtOnce); }
    [[nodiscard]] bool isAnalysing(const std::string& run) const {
        return stages().isPending({core::stages::Stage::Run, run});
    }
    /// Waits for all analyses that are under way; for tests.
    void finishAnalyses() const;
    /// Analyses of all runs, by run.
    [[nodiscard]] core::verdict::RunAnalyses analyses() const { return m_results.analyses(); }
    /// Those that are done already; nothing is waited for.
    [[nodiscard]] core::verdict::RunAnalyses knownAnalyses() const { return m_results.knownAnalyses(); }
    /// Milliseconds the last evaluation of one revision took.
    [[nodiscard]] double lastEvaluationMs() const;

Q_SIGNALS:
    void changed();          ///< project or results; after an edit when what is looked at is there again, or soon
    void revisionSelected(); ///< another revision is looked at
    void pathChanged();

private:
    friend class SnapshotCommand;
    void setProject(std::shared_ptr<const core::Project> project);

    std::shared_ptr<const core::Project> m_project;
    std::shared_ptr<const core::Project> m_saved;
    QUndoStack m_undo;
    Place m_place;
    std::string m_revision;
    mutable std::map<std::string, core::Sentence> m_words;

    /// Says what changed once what is looked at is there; at the latest after a few milliseconds.
    enum class News { Project, Revision };
    void announce(News news);
    void tell();
    void onPublished(const StageStore::Key& key);
    void computeNextOutOfSight();
    bool m_newProject = false, m_newRevision = false; ///< not told yet
    [[nodiscard]] int untilCalmMs() const;
    QElapsedTimer m_sinceEdit; ///< not valid: nothing was edited yet
    QTimer m_patience, m_gather;
    mutable QTimer m_spare;
    mutable std::set<std::string> m_wanted; ///< asked for between edits that follow each other
    mutable results::Results m_results;     ///< computed when it is asked for
    Workers m_workers{2};
};

/// "R8" after "R7": one more than the largest number there is.
[[nodiscard]] std::string nextRevisionId(const core::Project& project);

} // namespace app
