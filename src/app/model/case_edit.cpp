// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/case_edit.h"

#include "core/base/text.h"
#include "core/model/box_edits.h"
#include "core/model/choices.h"
#include "core/model/edits.h"

#include <algorithm>
#include <set>

namespace app {
namespace {

/// What changes of the revision made of vents that the edit left alone stays: a screen taken off, dust.
void keepStates(core::Part& edited, const core::Part& was, const core::Build& build) {
    auto& vents = std::get<core::CaseSpec>(edited.spec).openings;
    const auto& before = std::get<core::CaseSpec>(was.spec).openings;
    for (core::Opening& o : vents) {
        const auto same =
            std::find_if(before.begin(), before.end(), [&](const core::Opening& b) { return b.id == o.id; });
        const core::Opening* now = build.opening(o.id);
        if (same == before.end() || !now)
            continue;
        if (same->style == o.style)
            o.style = now->style;
        if (same->perforation == o.perforation)
            o.perforation = now->perforation;
        if (same->screen == o.screen)
            o.screen = now->screen;
        if (same->fouling == o.fouling)
            o.fouling = now->fouling;
    }
}

} // namespace

bool isLogged(const core::Project& project, const std::string& casePart) {
    std::set<std::string> proven; // asked of each revision once: there may be hundreds of runs, and a drag asks often
    for (const core::Run& run : project.runs)
        proven.insert(run.revision);
    for (const core::Revision& r : project.revisions)
        if (r.validated)
            proven.insert(r.id);
    return std::any_of(proven.begin(), proven.end(), [&](const std::string& revision) {
        const core::Part* part = core::caseOf(project, revision);
        return part && part->id == casePart;
    });
}

core::Part asBuilt(const core::Part& part, const core::Build& build) {
    core::Part now = part;
    keepStates(now, part, build);
    return now;
}

namespace {

std::string noteOf(const core::Part& was, const core::Part& edited) {
    std::string note;
    for (const core::Sentence& s : core::box::differences(was, edited))
        note += (note.empty() ? "" : "; ") + core::english(s);
    return note;
}

/// @p panel: made part with an id of its own that goes along, and where it sits.
core::Result<void> caseOfItsOwn(Document& document, const QString& text, const core::Part& was, core::Part edited,
                                int mergeId,
                                const std::optional<std::pair<core::Part, std::string>>& panel = std::nullopt) {
    const core::Project& project = document.project();
    const auto build = core::resolve(project, document.revision());
    if (!build)
        return tl::make_unexpected(build.error());
    std::vector<core::Change> changes;
    keepStates(edited, was, *build);
    const std::string note = noteOf(asBuilt(was, *build), edited);
    edited.id = core::freePartId(project, edited.id);
    changes.emplace_back(core::SetCase{edited.id});
    for (const core::Modification* done : build->modified)
        changes.emplace_back(core::Modify{done->id});
    if (panel)
        changes.emplace_back(core::SwapPart{panel->second, panel->first.id});
    const std::string id = nextRevisionId(project), parent = document.revision();
    auto done = document.edit(
        text,
        [&](core::Project& p) {
            p.shelf.push_back(edited);
            if (panel)
                p.shelf.push_back(panel->first);
            p = Document::withRevision(p, id, parent, changes, note);
        },
        mergeId);
    if (done)
        document.selectRevision(id);
    return done;
}

/// The revision that began with this case, as long as its note is the one that was made for it: the note goes along.
void followNote(core::Project& project, const std::string& revision, const core::Part& was, const core::Part& edited) {
    for (core::Revision& r : project.revisions) {
        const auto begins = [&](const core::Change& c) { return c == core::Change(core::SetCase{edited.id}); };
        if (r.id != revision || r.parent.empty() || std::none_of(r.changes.begin(), r.changes.end(), begins))
            continue;
        const auto parent = core::resolve(project, r.parent);
        if (!parent || !parent->casePart || parent->casePart->id == edited.id)
            continue;
        const core::Part before = asBuilt(*parent->casePart, *parent);
        if (r.note == noteOf(before, was))
            r.note = noteOf(before, edited);
    }
}

/// What changes of the line made of a vent goes before what the case states of it. Where such a state was typed now,
/// the revision says it too: what one types is what one gets.
void typedGoesBefore(core::Project& project, const std::string& revision, const core::Part& was,
                     const core::Part& edited) {
    const auto build = core::resolve(project, revision);
    if (!build || !build->casePart || build->casePart->id != edited.id)
        return;
    const auto& before = std::get<core::CaseSpec>(was.spec).openings;
    std::vector<core::Opening> typed = std::get<core::CaseSpec>(edited.spec).openings;
    core::Revision* r = project.revisions.edit(revision);
    for (const core::Opening& o : typed) {
        const auto same =
            std::find_if(before.begin(), before.end(), [&](const core::Opening& b) { return b.id == o.id; });
        const core::Opening* now = build->opening(o.id);
        if (!r || same == before.end() || !now)
            continue;
        const bool style = same->style != o.style && now->style != o.style;
        const bool share = same->perforation != o.perforation && now->perforation != o.perforation;
        if (style || share)
            core::addTo(r->changes,
                        core::SetOpening{o.id, style ? o.style : now->style, share ? o.perforation : now->perforation});
        if (same->screen != o.screen && now->screen != o.screen)
            core::addTo(r->changes, core::SetScreen{o.id, o.screen});
        if (same->fouling != o.fouling && now->fouling != o.fouling)
            core::addTo(r->changes, core::SetFouling{o.id, o.fouling});
    }
}

} // namespace

core::Result<void> changePart(Document& document, const QString& text, core::Part edited, int mergeId) {
    const core::Project& project = document.project();
    const core::Part* was = project.part(edited.id);
    if (!was)
        return core::problem(edited.id, "is not on the shelf any more", "undo what took it away");
    if (*was == edited)
        return {};
    if (edited.kind == core::PartKind::Case && isLogged(project, edited.id))
        return caseOfItsOwn(document, text, core::Part(*was), std::move(edited), mergeId);
    const core::Part before = *was;
    return document.edit(
        text,
        [&](core::Project& p) {
            if (edited.kind == core::PartKind::Case)
                followNote(p, document.revision(), before, edited);
            if (core::Part* part = p.shelf.edit(edited.id))
                *part = edited;
            if (edited.kind == core::PartKind::Case)
                typedGoesBefore(p, document.revision(), before, edited);
        },
        mergeId);
}

namespace {

/// Whether the part may stand anywhere but at one place of @p mine: what it states of itself is theirs too. A revision
/// that took it out again counts as well.
bool isElsewhere(const core::Project& project, const std::string& part, const std::string& mine) {
    if (const auto build = core::resolve(project, mine);
        build && std::count_if(build->placed.begin(), build->placed.end(),
                               [&](const core::Placed& p) { return p.part->id == part; }) > 1)
        return true;
    const auto puts = [&](const core::Change& change) {
        const auto* place = std::get_if<core::PlacePart>(&change);
        const auto* swap = std::get_if<core::SwapPart>(&change);
        return (place && place->part == part) || (swap && swap->part == part);
    };
    return std::any_of(project.revisions.begin(), project.revisions.end(), [&](const core::Revision& r) {
        return r.parent == mine || (r.id != mine && std::any_of(r.changes.begin(), r.changes.end(), puts));
    });
}

std::string panelNote(const core::Part& was, const core::Part& now) {
    const auto size = [](const core::Part& p) {
        std::string all;
        for (std::size_t i = 0; i < 3; ++i)
            all += (i ? " x " : "") + core::fixed(p.size[i].value.mm(), 1);
        return all;
    };
    return now.name + " " + size(was) + " to " + size(now) + " mm";
}

/// The revision that began with this panel, as long as its note is the one that was made for it.
void followPanelNote(core::Project& project, const std::string& revision, const core::Part& was,
                     const core::Part& edited, const std::string& mount) {
    const core::Change begins = core::SwapPart{mount, edited.id};
    for (core::Revision& r : project.revisions) {
        if (r.id != revision || r.parent.empty() ||
            std::find(r.changes.begin(), r.changes.end(), begins) == r.changes.end())
            continue;
        const auto parent = core::resolve(project, r.parent);
        const core::Placed* there = parent ? parent->at(mount) : nullptr;
        if (there && r.note == panelNote(*there->part, was))
            r.note = panelNote(*there->part, edited);
    }
}

} // namespace

core::Result<void> changePanel(Document& document, const QString& text, core::Part editedCase, core::Part editedPanel,
                               const std::string& mount, int mergeId) {
    const core::Project& project = document.project();
    const core::Part *was = project.part(editedCase.id), *wasPanel = project.part(editedPanel.id);
    if (!was || !wasPanel)
        return core::problem(editedPanel.id, "is not on the shelf any more", "undo what took it away");
    if (*was == editedCase && *wasPanel == editedPanel)
        return {};
    const std::string revision = document.revision();
    const bool closed = document.isClosed(revision), shared = isElsewhere(project, editedPanel.id, revision);
    const core::Part before = *wasPanel, caseBefore = *was;
    const bool ownCase = *was != editedCase && isLogged(project, editedCase.id);
    if (closed || shared || ownCase) // the revision that is looked at keeps its own
        editedPanel.id = core::freePartId(project, editedPanel.id);
    if (ownCase)
        return caseOfItsOwn(document, text, core::Part(*was), std::move(editedCase), mergeId,
                            std::pair(editedPanel, mount));
    const auto put = [&](core::Project& p) {
        followNote(p, revision, caseBefore, editedCase);
        if (core::Part* part = p.shelf.edit(editedCase.id))
            *part = editedCase;
        if (!closed && !shared) {
            followPanelNote(p, revision, before, editedPanel, mount);
            if (core::Part* part = p.shelf.edit(editedPanel.id))
                *part = editedPanel;
            return;
        }
        p.shelf.push_back(editedPanel);
    };
    if (!closed)
        return document.edit(
            text,
            [&](core::Project& p) {
                put(p);
                if (core::Revision* r = shared ? p.revisions.edit(revision) : nullptr)
                    r->changes.emplace_back(core::SwapPart{mount, editedPanel.id});
            },
            mergeId);
    const std::string id = nextRevisionId(project);
    auto done = document.edit(
        text,
        [&](core::Project& p) {
            put(p);
            p = Document::withRevision(p, id, revision, {core::SwapPart{mount, editedPanel.id}},
                                       panelNote(before, editedPanel));
        },
        mergeId);
    if (done)
        document.selectRevision(id);
    return done;
}

} // namespace app
