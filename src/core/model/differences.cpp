// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/differences.h"

namespace core {
namespace {

std::string nameOf(const Part& p) { return p.name; }
std::string nameOf(const Revision& r) { return r.id; }
std::string nameOf(const Run& r) { return r.name; }
std::string nameOf(const Load& l) { return l.name; }

template <class List>
void compare(const char* kind, const List& before, const List& after, std::vector<std::string>& lines) {
    using T = typename List::value_type;
    std::map<std::string, const T*> old;
    for (const T& item : before)
        old.emplace(item.id, &item);
    for (const T& item : after) {
        const auto it = old.find(item.id);
        if (it == old.end())
            lines.push_back(std::string(kind) + " " + nameOf(item) + " is new");
        else if (!(*it->second == item))
            lines.push_back(std::string(kind) + " " + nameOf(item) + " was changed");
        if (it != old.end())
            old.erase(it);
    }
    for (const T& item : before)
        if (old.contains(item.id))
            lines.push_back(std::string(kind) + " " + nameOf(item) + " is gone");
}

} // namespace

namespace {
/// The part of the shelf that a change names; empty: none.
std::string_view partOf(const Change& change) {
    return std::visit(
        [](const auto& c) -> std::string_view {
            if constexpr (requires { c.part; })
                return c.part;
            else
                return {};
        },
        static_cast<const AnyChange&>(change));
}

/// Ids of parts that are new, gone or not what they were. Those that are shared are the same without a look.
std::set<std::string> changedParts(const SharedList<Part>& before, const SharedList<Part>& after) {
    std::set<std::string> changed;
    std::map<std::string_view, const Part*> old;
    for (std::size_t i = 0; i < before.size(); ++i)
        if (!before.isSame(i, after))
            old.emplace(before[i].id, &before[i]);
    for (std::size_t i = 0; i < after.size(); ++i) {
        if (after.isSame(i, before))
            continue;
        const auto it = old.find(after[i].id);
        if (it == old.end() || !(it->second == &after[i] || *it->second == after[i]))
            changed.insert(after[i].id);
        if (it != old.end())
            old.erase(it);
    }
    for (const auto& [id, part] : old)
        changed.emplace(id);
    return changed;
}
} // namespace

std::set<std::string> touchedRevisions(const Project& before, const Project& after) {
    std::set<std::string> touched;
    const std::set<std::string> parts = changedParts(before.shelf, after.shelf);
    std::map<std::string, const Revision*> old;
    for (const Revision& r : before.revisions)
        old.emplace(r.id, &r);
    for (const Revision& r : after.revisions) {
        const auto it = old.find(r.id);
        const bool same = it != old.end() && (it->second == &r || *it->second == r);
        const auto usesOne = [&] {
            return std::any_of(r.changes.begin(), r.changes.end(),
                               [&](const Change& c) { return parts.contains(std::string(partOf(c))); });
        };
        if (!same || (!parts.empty() && usesOne()))
            touched.insert(r.id);
    }
    // A parent may stand behind its child in the file: what hangs on a touched one is touched, until nothing more is
    // found.
    for (bool more = !touched.empty(); more;) {
        more = false;
        for (const Revision& r : after.revisions)
            if (touched.contains(r.parent))
                more = touched.insert(r.id).second || more;
    }
    return touched;
}

std::vector<std::string> differences(const Project& before, const Project& after, std::size_t most) {
    std::vector<std::string> lines;
    if (before.name != after.name)
        lines.push_back("the name: " + after.name + " in place of " + before.name);
    compare("revision", before.revisions, after.revisions, lines);
    compare("run", before.runs, after.runs, lines);
    compare("part", before.shelf, after.shelf, lines);
    compare("load", before.loads, after.loads, lines);
    if (!(before.brief == after.brief))
        lines.emplace_back("the brief was changed");
    if (before.baseline != after.baseline)
        lines.push_back(after.baseline.empty() ? "no baseline any more" : "the baseline is " + after.baseline);
    if (!(before.needs == after.needs))
        lines.emplace_back("needs of your own were changed");
    if (!(before.airValues == after.airValues))
        lines.emplace_back("air values of your own were changed");
    if (!(before.printer == after.printer) || before.currency != after.currency || before.id != after.id)
        lines.emplace_back("printer, currency or the project's own mark were changed");
    if (lines.size() > most) {
        const std::size_t more = lines.size() - (most - 1);
        lines.resize(most - 1);
        lines.push_back("and " + std::to_string(more) + " more");
    }
    return lines;
}

} // namespace core
