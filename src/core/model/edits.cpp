// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/edits.h"

#include "core/model/build.h"

#include "core/model/choices.h"

#include <algorithm>

namespace core {
namespace {

auto missing(const char* kind, const std::string& id) {
    return problem(std::string(kind) + " " + id, "it is not there", "name one that is");
}

} // namespace

Result<void> renameRevision(Project& project, const std::string& id, const std::string& to) {
    Revision* revision = project.revisions.edit(id);
    if (!revision)
        return missing("revision", id);
    if (to == id)
        return {};
    if (to.empty())
        return problem("revision " + id, "the new name is empty", "a short name that is used once");
    if (project.revision(to))
        return problem("revision " + id, "\"" + to + "\" is taken", "a name of its own");
    revision->id = to;
    for (std::size_t i = 0; i < project.revisions.size(); ++i)
        if (std::as_const(project.revisions)[i].parent == id)
            project.revisions[i].parent = to;
    for (std::size_t i = 0; i < project.runs.size(); ++i)
        if (std::as_const(project.runs)[i].revision == id)
            project.runs[i].revision = to;
    if (project.baseline == id)
        project.baseline = to;
    return {};
}

Result<void> removeRevision(Project& project, const std::string& id) {
    if (!project.revision(id))
        return missing("revision", id);
    for (const Revision& r : std::as_const(project.revisions))
        if (r.parent == id)
            return problem("revision " + id, r.id + " comes from it", "delete the newer ones first");
    const auto runs =
        std::count_if(project.runs.begin(), project.runs.end(), [&](const Run& run) { return run.revision == id; });
    if (runs > 0)
        return problem("revision " + id,
                       std::to_string(runs) + (runs == 1 ? " run was logged of it" : " runs were logged of it"),
                       "delete the runs first, if they are not worth keeping");
    if (project.revisions.size() == 1)
        return problem("revision " + id, "it is the only one", "a new project");
    erase_if(project.revisions, [&](const Revision& r) { return r.id == id; });
    if (project.baseline == id)
        project.baseline.clear();
    return {};
}

Result<void> renameRun(Project& project, const std::string& id, const std::string& name) {
    Run* run = project.runs.edit(id);
    if (!run)
        return missing("run", id);
    if (name.empty())
        return problem("run " + id, "the new name is empty", "a name");
    run->name = name;
    return {};
}

Result<void> removeRun(Project& project, const std::string& id) {
    if (erase_if(project.runs, [&](const Run& run) { return run.id == id; }) == 0)
        return missing("run", id);
    return {};
}

Result<std::string> duplicatePart(Project& project, const std::string& id) {
    const Part* part = project.part(id);
    if (!part)
        return missing("part", id);
    Part copy = *part;
    copy.id = freePartId(project, id);
    copy.name += " copy";
    project.shelf.push_back(copy);
    return copy.id;
}

const Part* caseOf(const Project& project, const std::string& revision) {
    const auto line = lineage(project, revision);
    const Part* found = nullptr;
    for (const Revision* r : line ? *line : std::vector<const Revision*>{})
        for (const Change& change : r->changes)
            if (const auto* set = std::get_if<SetCase>(&change))
                found = project.part(set->part);
    return found && std::holds_alternative<CaseSpec>(found->spec) ? found : nullptr;
}

} // namespace core
