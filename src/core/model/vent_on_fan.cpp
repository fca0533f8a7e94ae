// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/vent_on_fan.h"

#include <algorithm>
#include <cmath>

namespace core::box {
namespace {

constexpr double smallestFrameMm = 25; ///< a place of less has nothing stated and nothing in it
constexpr double frameWallMm = 2;      ///< common practice, no source

bool takesFans(const Mount& m) {
    return std::find(m.accepts.begin(), m.accepts.end(), PartKind::Fan) != m.accepts.end();
}

std::optional<VentOnFan> together(const Part& casePart, std::size_t vent, std::size_t place, const Extent& of) {
    const Opening& o = std::get<CaseSpec>(casePart.spec).openings[vent];
    const Mount& m = casePart.mounts[place];
    if (!o.to.empty() || !takesFans(m) || m.facing.axis != outward(o.side).axis)
        return {};
    const std::size_t through = index(m.facing.axis);
    const double inside = casePart.size[through].value.mm();
    // At that wall, inside or outside of it: not at the other one.
    if (outward(o.side).sign > 0 ? of.high[through] < inside - 3 : of.low[through] > 3)
        return {};
    VentOnFan both{.vent = vent, .place = place, .round = o.round};
    both.frameMm = 1e9;
    for (std::size_t i = 0; i < 2; ++i) {
        const std::size_t a = index(planeAxes(o.side)[i]);
        both.frameMm = std::min(both.frameMm, of.high[a] - of.low[a]);
        both.off[i] = o.centreMm[i] - (of.low[a] + of.high[a]) / 2;
        both.halfVent[i] = o.sizeMm[i] / 2;
    }
    if (both.frameMm < smallestFrameMm)
        return {};
    both.bladesMm = both.frameMm - 2 * frameWallMm;
    for (std::size_t i = 0; i < 2; ++i) // beside each other: none lies over the other
        if (std::abs(both.off[i]) > both.halfVent[i] + both.frameMm / 2)
            return {};
    return both;
}

} // namespace

double VentOnFan::offMm() const { return std::hypot(off[0], off[1]); }

double VentOnFan::rimMm() const {
    const double blades = bladesMm / 2;
    if (round)
        return std::min(halfVent[0], halfVent[1]) - offMm() - blades;
    return std::min(halfVent[0] - std::abs(off[0]), halfVent[1] - std::abs(off[1])) - blades;
}

std::optional<VentOnFan> ventOnFan(const Part& casePart, const Item& item, const std::vector<Extent>& extents) {
    const std::vector<Item> items = itemsOf(casePart);
    std::optional<VentOnFan> best;
    const auto offer = [&](std::size_t vent, std::size_t place, const Extent& of) {
        const auto both = together(casePart, vent, place, of);
        if (both && (!best || both->offMm() < best->offMm()))
            best = both;
    };
    for (std::size_t i = 0; i < items.size() && i < extents.size(); ++i) {
        if (item.kind == Kind::Vent && items[i].kind == Kind::Place)
            offer(item.index, items[i].index, extents[i]);
        if (item.kind == Kind::Place && items[i] == item)
            for (std::size_t vent = 0; vent < std::get<CaseSpec>(casePart.spec).openings.size(); ++vent)
                offer(vent, item.index, extents[i]);
    }
    return best;
}

} // namespace core::box
