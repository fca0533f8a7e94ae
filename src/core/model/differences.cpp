// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/differences.h"

namespace core {
namespace {

std::string nameOf(const Part& p) { return p.name; }
std::string nameOf(const Revision& r) { return r.id; }
std::string nameOf(const Run& r) { return r.name; }
std::string nameOf(const Load& l) { return l.name; }

template <class T> void compare(const char* kind, const std::vector<T>& before, const std::vector<T>& after, std::vector<std::string>& lines) {
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

std::set<std::string> touchedRevisions(const Project& before, const Project& after) {
    std::set<std::string> touched;
    const bool all = before.shelf != after.shelf;
    std::map<std::string, const Revision*> old;
    for (const Revision& r : before.revisions)
        old.emplace(r.id, &r);
    for (const Revision& r : after.revisions) {
        const auto it = old.find(r.id);
        if (all || it == old.end() || !(*it->second == r))
            touched.insert(r.id);
    }
    // A parent may stand behind its child in the file: what hangs on a touched one is touched, until nothing more is found.
    for (bool more = !all && !touched.empty(); more;) {
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
