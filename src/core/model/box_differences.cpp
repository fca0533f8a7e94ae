// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/box_edits.h"
#include "core/model/change.h"

#include <algorithm>
#include <cmath>

namespace core::box {
namespace {

const CaseSpec& stated(const Part& part) { return std::get<CaseSpec>(part.spec); }
double insideMm(const Part& part, std::size_t axis) { return part.size[axis].value.mm(); }

Sentence boxOf(const Extent& e) {
    std::array<double, 3> mm{};
    for (std::size_t a = 0; a < 3; ++a)
        mm[a] = e.high[a] - e.low[a];
    return boxMm(mm, 1);
}

/// "15.0 mm to the right"
Sentence wayText(std::size_t axis, double by) {
    const Figure mm = figure::mm(std::abs(by), 1);
    if (axis == 0)
        return by > 0 ? say("{} to the right", mm) : say("{} to the left", mm);
    if (axis == 1)
        return by > 0 ? say("{} to the rear", mm) : say("{} to the front", mm);
    return by > 0 ? say("{} up", mm) : say("{} down", mm);
}

void movedBetween(Sentences& all, const std::string& name, const std::array<double, 3>& was,
                  const std::array<double, 3>& now) {
    Sentences ways;
    for (std::size_t a = 0; a < 3; ++a)
        if (std::abs(now[a] - was[a]) > 0.005)
            ways.push_back(wayText(a, now[a] - was[a]));
    if (!ways.empty())
        all.push_back(say("{} {}", name, joined(ways)));
}

std::array<double, 3> middleOf(const Extent& e) {
    return {(e.low[0] + e.high[0]) / 2, (e.low[1] + e.high[1]) / 2, (e.low[2] + e.high[2]) / 2};
}

void ofVent(Sentences& all, const Opening& a, const Opening& b) {
    if (a.sizeMm != b.sizeMm)
        all.push_back(say("{} {} x {} to {} x {}", b.name, figure::mm(a.sizeMm[0]).bare(),
                          figure::mm(a.sizeMm[1]).bare(), figure::mm(b.sizeMm[0]).bare(), figure::mm(b.sizeMm[1])));
    if (a.side != b.side)
        all.push_back(say("{} from {} to {}", b.name, term(sideWord(a.side)), term(sideWord(b.side))));
    if (a.round != b.round)
        all.push_back(b.round ? say("{} made round", b.name) : say("{} made square", b.name));
    if (a.style != b.style)
        all.push_back(say("{} {} to {}", b.name, term(styleWord(a.style)), term(styleWord(b.style))));
    if (a.perforation != b.perforation)
        all.push_back(say("{} {} open to {}", b.name, figure::percent(a.perforation), figure::percent(b.perforation)));
    if (a.screen != b.screen)
        all.push_back(say("{}: screen {} to {}", b.name, term(screenWord(a.screen)), term(screenWord(b.screen))));
    if (a.chamber != b.chamber || a.to != b.to)
        all.push_back(say("{} leads elsewhere", b.name));
}

void ofPlace(Sentences& all, const Mount& a, const Mount& b) {
    if (!(a.facing == b.facing) || !(a.up == b.up))
        all.push_back(say("{} turned", b.name));
    if (a.accepts != b.accepts)
        all.push_back(say("{} takes other parts", b.name));
    if (a.frameMm != b.frameMm)
        all.push_back(say("{}: fan of {} to {}", b.name, figure::mm(a.frameMm, 0).bare(), figure::mm(b.frameMm, 0)));
    if (a.variants != b.variants)
        all.push_back(say("{}: other ways to sit there", b.name));
    if (a.slides != b.slides)
        all.push_back(say("{}: other rows of holes", b.name));
}

/// Pairs by id; what is in one alone was added or taken away.
template <class T, class Both>
void eachPair(Sentences& all, const std::vector<T>& before, const std::vector<T>& after, Both both) {
    for (std::size_t i = 0; i < after.size(); ++i) {
        const auto was = std::find_if(before.begin(), before.end(), [&](const T& t) { return t.id == after[i].id; });
        if (was == before.end()) {
            all.push_back(say("{} added", after[i].name));
            continue;
        }
        if (was->name != after[i].name)
            all.push_back(say("{} is called {}", was->name, after[i].name));
        both(static_cast<std::size_t>(was - before.begin()), i);
    }
    for (const T& t : before)
        if (std::none_of(after.begin(), after.end(), [&](const T& now) { return now.id == t.id; }))
            all.push_back(say("{} taken away", t.name));
}

} // namespace

Sentences differences(const Part& before, const Part& after) {
    Sentences all;
    if (!std::holds_alternative<CaseSpec>(before.spec) || !std::holds_alternative<CaseSpec>(after.spec) ||
        before == after)
        return all;
    const CaseSpec &a = stated(before), &b = stated(after);
    constexpr std::array<const char*, 3> sizes{"inner width", "inner depth", "inner height"};
    for (std::size_t i = 0; i < 3; ++i)
        if (before.size[i].value != after.size[i].value)
            all.push_back(capitalised(say("{} {} to {}", term(sizes.at(i)), figure::mm(insideMm(before, i)).bare(),
                                          figure::mm(insideMm(after, i)))));
        else if (!(before.size[i] == after.size[i]))
            all.push_back(capitalised(say("{} known better or worse", term(sizes.at(i)))));
    if (a.wall.value != b.wall.value)
        all.push_back(say("Wall {} to {}", figure::mm(a.wall.value.mm()).bare(), figure::mm(b.wall.value.mm())));
    if (a.feetMm != b.feetMm)
        all.push_back(say("Feet {} to {}", figure::mm(a.feetMm).bare(), figure::mm(b.feetMm)));
    const auto at = [](Kind kind, std::size_t i) { return Item{kind, i}; };
    eachPair(all, a.chambers, b.chambers, [&](std::size_t i, std::size_t j) {
        const Extent was = extentOf(before, at(Kind::Chamber, i)), now = extentOf(after, at(Kind::Chamber, j));
        if (a.chambers[i].lowMm != b.chambers[j].lowMm || a.chambers[i].highMm != b.chambers[j].highMm)
            all.push_back(say("{} {} to {}", b.chambers[j].name, boxOf(was), boxOf(now)));
    });
    eachPair(all, a.openings, b.openings, [&](std::size_t i, std::size_t j) {
        const Opening &was = a.openings[i], &now = b.openings[j];
        const std::size_t before_ = all.size();
        ofVent(all, was, now);
        if (was.side == now.side && was.centreMm != now.centreMm) {
            std::array<double, 3> x = middleOf(extentOf(before, at(Kind::Vent, i))),
                                  y = middleOf(extentOf(after, at(Kind::Vent, j)));
            x[index(outward(was.side).axis)] = y[index(outward(was.side).axis)] = 0;
            movedBetween(all, now.name, x, y);
        }
        if (all.size() == before_ && !(was == now) && was.name == now.name)
            all.push_back(say("{}: its plate, screen or dust", now.name));
    });
    eachPair(all, before.mounts, after.mounts, [&](std::size_t i, std::size_t j) {
        const Mount &was = before.mounts[i], &now = after.mounts[j];
        const std::size_t before_ = all.size();
        std::array<double, 3> x{}, y{};
        constexpr std::array<double, 3> small{1, 1, 1}; // whatever sits there: where it is fixed
        x = extentOf(before, at(Kind::Place, i), small).low;
        y = extentOf(after, at(Kind::Place, j), small).low;
        for (std::size_t k = 0; k < 3; ++k)
            if (was.at[k] == now.at[k])
                y[k] = x[k]; // a wall moved, not the place
        movedBetween(all, now.name, x, y);
        ofPlace(all, was, now);
        if (all.size() == before_ && !(was == now) && was.name == now.name)
            all.push_back(say("{} measured anew", now.name));
    });
    if (all.empty())
        all.push_back(say("{}: what else is stated of it", after.name));
    return all;
}

} // namespace core::box
