// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/edits.h"

#include "core/model/choices.h"

#include <algorithm>

namespace core {
namespace {

template <class T> T* find(std::vector<T>& items, const std::string& id) {
    const auto it = std::find_if(items.begin(), items.end(), [&](const T& item) { return item.id == id; });
    return it == items.end() ? nullptr : &*it;
}
auto missing(const char* kind, const std::string& id) { return problem(std::string(kind) + " " + id, "it is not there", "name one that is"); }

} // namespace

Result<void> renameRevision(Project& project, const std::string& id, const std::string& to) {
    Revision* revision = find(project.revisions, id);
    if (!revision)
        return missing("revision", id);
    if (to == id)
        return {};
    if (to.empty())
        return problem("revision " + id, "the new name is empty", "a short name that is used once");
    if (project.revision(to))
        return problem("revision " + id, "\"" + to + "\" is taken", "a name of its own");
    revision->id = to;
    for (Revision& r : project.revisions)
        if (r.parent == id)
            r.parent = to;
    for (Run& run : project.runs)
        if (run.revision == id)
            run.revision = to;
    if (project.baseline == id)
        project.baseline = to;
    return {};
}

Result<void> removeRevision(Project& project, const std::string& id) {
    if (!project.revision(id))
        return missing("revision", id);
    for (const Revision& r : project.revisions)
        if (r.parent == id)
            return problem("revision " + id, r.id + " comes from it", "delete the newer ones first");
    const auto runs = std::count_if(project.runs.begin(), project.runs.end(), [&](const Run& run) { return run.revision == id; });
    if (runs > 0)
        return problem("revision " + id, std::to_string(runs) + (runs == 1 ? " run was logged of it" : " runs were logged of it"), "delete the runs first, if they are not worth keeping");
    if (project.revisions.size() == 1)
        return problem("revision " + id, "it is the only one", "a new project");
    std::erase_if(project.revisions, [&](const Revision& r) { return r.id == id; });
    if (project.baseline == id)
        project.baseline.clear();
    return {};
}

Result<void> renameRun(Project& project, const std::string& id, const std::string& name) {
    Run* run = find(project.runs, id);
    if (!run)
        return missing("run", id);
    if (name.empty())
        return problem("run " + id, "the new name is empty", "a name");
    run->name = name;
    return {};
}

Result<void> removeRun(Project& project, const std::string& id) {
    if (std::erase_if(project.runs, [&](const Run& run) { return run.id == id; }) == 0)
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

} // namespace core
