// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/case_edit.h"

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

core::Result<void> caseOfItsOwn(Document& document, const QString& text, const core::Part& was, core::Part edited,
                                int mergeId) {
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
    const std::string id = nextRevisionId(project), parent = document.revision();
    auto done = document.edit(
        text,
        [&](core::Project& p) {
            p.shelf.push_back(edited);
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
        },
        mergeId);
}

} // namespace app
