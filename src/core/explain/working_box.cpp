// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/working.h"

#include <algorithm>
#include <cmath>

namespace core::explain {
namespace {

constexpr double caliperMm = 0.1; // as the default tolerance of a caliper

struct Side {
    Sentence inner, outer;
    Measure size;
    double outsideMm = 0;
    double beyondMm = 0; ///< of what is mounted outside
    double doubtL = 0;   ///< that its tolerance makes
};

std::array<Side, 3> sidesOf(const stages::Evaluation& e) {
    std::array<Side, 3> sides{{{say("inner width"), say("Outer width"), {}},
                               {say("inner depth"), say("Outer depth"), {}},
                               {say("inner height"), say("Outer height"), {}}}};
    const double walls = 2 * e.build.caseSpec().wall.value.mm();
    for (std::size_t a = 0; a < 3; ++a) {
        Side& side = sides[a];
        side.size = e.build.casePart->size[a];
        side.outsideMm = e.fit.outsideMm[a];
        side.beyondMm = side.outsideMm - side.size.value.mm() - walls;
        side.doubtL = e.fit.volumeL / side.outsideMm * side.size.tolerance.mm();
    }
    return sides;
}

/// Both walls of each axis are as thick.
double doubtOfWalls(const stages::Evaluation& e) {
    double perMm = 0;
    for (const double side : e.fit.outsideMm)
        perMm += 2 * e.fit.volumeL / side;
    return perMm * e.build.caseSpec().wall.tolerance.mm();
}

Row rowOf(const Side& side, const Measure& wall, bool first) {
    Sentence label = say("{}: {} + 2 × {}", side.outer, figure::usual(Quantity::Length, side.size.value.mm()).bare(),
                         figure::usual(Quantity::Length, wall.value.mm()).bare());
    if (side.beyondMm > 0.05)
        label += say(" + {} of what is mounted outside", figure::usual(Quantity::Length, side.beyondMm).bare());
    return {first ? "" : "×",
            label,
            Quantity::Length,
            side.outsideMm,
            side.size.tolerance.mm() + 2 * wall.tolerance.mm(),
            stampOf(side.size.source)};
}

/// How much the inside can lose along an axis before one of the gaps it is part of has nothing to spare at worst.
struct Spare {
    double mm = 0;
    const fit::Gap* gap = nullptr;
};
Spare spareAlong(const stages::Evaluation& e, std::size_t axis) {
    const DimensionOrigin size{DimensionOrigin::What::PartSize, e.build.casePart->id, {}, {}, axis};
    Spare least;
    for (const fit::Gap& gap : e.fit.gaps) {
        double share = 0;
        for (const fit::ChainItem& item : gap.chain)
            share += item.origin == size ? item.sign * item.factor : 0;
        if (share <= 0)
            continue;
        const double mm = gap.touchMarginMm() / share;
        if (!least.gap || mm < least.mm)
            least = {mm, &gap};
    }
    return least;
}

void addDoubt(Working& w, const std::array<Side, 3>& sides, double wallsL) {
    double squares = wallsL * wallsL;
    for (const Side& side : sides)
        squares += side.doubtL * side.doubtL;
    w.band = std::sqrt(squares);
    if (squares <= 0)
        return;
    for (const Side& side : sides)
        w.doubt.push_back({side.inner, side.doubtL * side.doubtL / squares});
    w.doubt.push_back({say("walls"), wallsL * wallsL / squares});
    std::stable_sort(w.doubt.begin(), w.doubt.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
}

/// What a caliper would make of the loosest of them.
void addMeasuring(Working& w, const stages::Evaluation& e, const std::array<Side, 3>& sides, double wallsL) {
    struct Loose {
        Sentence what;
        double toleranceMm, doubtL;
    };
    Loose loosest{say("walls"), e.build.caseSpec().wall.tolerance.mm(), wallsL};
    for (const Side& side : sides)
        if (side.doubtL > loosest.doubtL)
            loosest = {side.inner, side.size.tolerance.mm(), side.doubtL};
    if (loosest.toleranceMm <= caliperMm)
        return;
    const double then = loosest.doubtL * caliperMm / loosest.toleranceMm;
    const double band = std::sqrt(w.band * w.band - loosest.doubtL * loosest.doubtL + then * then);
    Effect effect{say("Measure the {} with a caliper", loosest.what)};
    effect.instead = say("±{}", figure::usual(Quantity::Volume, band));
    w.changes.push_back(std::move(effect));
}

void addSpare(Working& w, const stages::Evaluation& e, const std::array<Side, 3>& sides) {
    constexpr double leastMm = 0.5; // less is not worth a new case
    constexpr double mostMm = 20;   // wider gaps are not all looked at: one of them could be the first to close
    for (std::size_t a = 0; a < 3; ++a) {
        const Spare spare = spareAlong(e, a);
        if (!spare.gap || spare.mm < leastMm || spare.mm > mostMm)
            continue;
        w.changes.push_back(
            {say("{} {} less: {} to {} is used up", capitalised(sides[a].inner),
                 figure::usual(Quantity::Length, spare.mm), spare.gap->between[0].text, spare.gap->between[1].text),
             Quantity::Volume, -e.fit.volumeL / sides[a].outsideMm * spare.mm, Mark::Open});
    }
}

} // namespace

Working ofVolume(const stages::Evaluation& e) {
    Working w{.thing = TotalRef{Total::Volume},
              .place = say("Brief, volume"),
              .title = say("Volume outside"),
              .quantity = Quantity::Volume,
              .value = e.fit.volumeL,
              .mark = Mark::Note,
              .sentence = say("Outer width x depth x height, without feet and handle.")};
    const auto sides = sidesOf(e);
    const Measure& wall = e.build.caseSpec().wall;
    for (const Side& side : sides)
        w.rows.push_back(rowOf(side, wall, &side == &sides.front()));
    w.sum = say("Stands on {} cm²; feet of {} are left out.", std::lround(e.fit.footprintCm2),
                figure::usual(Quantity::Length, e.fit.feetMm));
    const double wallsL = doubtOfWalls(e);
    addDoubt(w, sides, wallsL);
    addMeasuring(w, e, sides, wallsL);
    addSpare(w, e, sides);
    w.method =
        say("Inner size plus both walls along each axis; what is mounted outside counts as exact. The band takes "
            "errors as independent. What can be taken off is by the gaps alone: vents, hole patterns and what "
            "is screwed to a wall are not asked.");
    return w;
}

} // namespace core::explain
