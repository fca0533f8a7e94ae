// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/resolver.h"

namespace core {

Result<Build> Resolver::run(std::string_view revisionId, const std::vector<Change>& more) {
    const auto line = lineage(m_project, revisionId);
    if (!line)
        return tl::make_unexpected(line.error());
    m_build.revision = std::string(revisionId);
    for (const Revision* revision : *line)
        for (std::size_t i = 0; i < revision->changes.size(); ++i)
            if (auto wrong =
                    apply(revision->changes[i], "revision " + revision->id + ", change " + std::to_string(i + 1)))
                return tl::make_unexpected(*wrong);
    if (more.empty()) // what was seen holds for the machine as it was built
        m_build.observed = line->back()->observed;
    for (const Change& change : more)
        if (auto wrong = apply(change, "the change tried"))
            return tl::make_unexpected(*wrong);
    if (!m_build.casePart)
        return problem("revision " + std::string(revisionId), "no case is chosen",
                       "start the first revision with a change of kind \"case\"");
    if (auto wrong = placeAll())
        return tl::make_unexpected(*wrong);
    nameParts();
    // Laid on a side it stands on pads that come with any case, until it is told: common practice, no source.
    const auto feet = m_feet.find(m_build.down);
    m_build.feet = feet != m_feet.end() ? feet->second : measureMm(3, Source::Estimate);
    return std::move(m_build);
}

Result<std::vector<const Revision*>> lineage(const Project& project, std::string_view revisionId) {
    std::vector<const Revision*> line;
    std::string id(revisionId);
    std::string askedBy = "project";
    while (!id.empty()) {
        const Revision* revision = project.revision(id);
        if (!revision)
            return problem(askedBy, "revision \"" + id + "\" is not there", "name one of the project's revisions");
        if (std::find(line.begin(), line.end(), revision) != line.end())
            return problem("revision " + id, "its parents lead back to itself",
                           "let the first revision have no parent");
        line.push_back(revision);
        askedBy = "revision " + id + ", parent";
        id = revision->parent;
    }
    if (line.empty())
        return problem("project", "no revision is named", "name one of the project's revisions");
    std::reverse(line.begin(), line.end());
    return line;
}

Result<Build> resolve(const Project& project, std::string_view revisionId) {
    return Resolver(project).run(revisionId, {});
}

Result<Build> resolveWith(const Project& project, std::string_view revisionId, const std::vector<Change>& more) {
    return Resolver(project).run(revisionId, more);
}

} // namespace core
