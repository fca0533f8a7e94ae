// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/verdict/compare.h"

#include "core/base/text.h"
#include "core/verdict/marks.h"

#include <map>

namespace core::verdict {

std::vector<Difference> against(const stages::Evaluation& now, const stages::Evaluation& then) {
    return {{"screws", say("Screws"), Quantity::None, static_cast<double>(now.make.screws),
             static_cast<double>(then.make.screws)},
            {"minutes", say("Assembly, min"), Quantity::None, now.make.minutes, then.make.minutes},
            {"money", say("Cost"), Quantity::Money, now.price, then.price},
            {"volume", say("Volume"), Quantity::Volume, now.fit.volumeL, then.fit.volumeL}};
}

namespace {

/// Words and mark, by what is the same in both: the thing, and the rule of a finding (empty: the mark of the thing
/// itself).
using Marks = std::map<std::pair<Thing, std::string>, std::pair<Sentence, Mark>>;

Marks marksOf(const Project& project, const stages::Evaluation& e) {
    Marks marks;
    for (const fit::Gap& gap : e.fit.gaps)
        marks[{gap.ref, {}}] = {say("{} to {}", gap.between[0].text, gap.between[1].text), gap.mark};
    const RevisionVerdict verdict = judge(project, e, {}); // without runs: what a change does is predicted
    for (const air::PartResult& part : e.air.parts)
        marks[{PartRef{part.id}, {}}] = {named(part.name), temperatureOf(e, verdict, part.id).mark};
    for (const rules::Finding& f : e.findings)
        if (f.severity != rules::Severity::Note && !std::holds_alternative<GapRef>(f.about))
            marks[{f.about, f.rule}] = {f.text, rules::markOf(f.severity)};
    return marks;
}

int weight(Mark m) { return m == Mark::Crossed ? 2 : m == Mark::Open ? 1 : 0; }

} // namespace

std::vector<MarkChange> markChanges(const Project& project, const stages::Evaluation& now,
                                    const stages::Evaluation& then) {
    const Marks before = marksOf(project, now), after = marksOf(project, then);
    std::vector<MarkChange> changes;
    const auto add = [&](const Sentence& what, Mark a, Mark b) {
        if (weight(a) != weight(b))
            changes.push_back({what, a, b});
    };
    for (const auto& [key, said] : after) {
        const auto was = before.find(key);
        add(said.first, was == before.end() ? Mark::None : was->second.second, said.second);
    }
    for (const auto& [key, said] : before)
        if (!after.contains(key))
            add(said.first, said.second, Mark::None);
    std::stable_sort(changes.begin(), changes.end(), [](const MarkChange& a, const MarkChange& b) {
        return weight(a.after) - weight(a.before) > weight(b.after) - weight(b.before);
    });
    return changes;
}

Sentence textOf(const MarkChange& c) {
    if (c.before == Mark::None)
        return say("new: {}, {}", c.what, term(markWord(c.after)));
    if (c.after == Mark::None)
        return say("gone: {}, was {}", c.what, term(markWord(c.before)));
    return say("{}: {} to {}", c.what, term(markWord(c.before)), term(markWord(c.after)));
}

Sentence textOf(const Difference& d) {
    const Figure now = figure::usual(d.quantity, d.now), then = figure::usual(d.quantity, d.then),
                 by = figure::usual(d.quantity, d.by()).signedFigure().bare();
    return d.then != 0
               ? say("{} to {}, {} ({})", then.bare(), now, by, figure::percent(0.01 * d.percent()).signedFigure())
               : say("{} to {}, {}", then.bare(), now, by);
}

} // namespace core::verdict
