// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/slot_covers.h"

namespace core::box {

std::vector<Extent> slotCoversOf(const Build& build) {
    std::vector<Extent> covers;
    const Placed* card = build.firstOf(PartKind::Card);
    if (!build.casePart || !card || card->outside || card->facing().axis == Axis::Y ||
        card->frame.axis[0].axis != Axis::Y) // its bracket is at the end of its length
        return covers;
    const std::size_t stack = index(card->facing().axis), depth = index(Axis::Y);
    const double sign = card->facing().sign;
    double from = sign > 0 ? card->lowAt[stack].mm() : card->highAt[stack].mm();
    for (int i = 0; i < build.caseSpec().slotCovers; ++i, from += sign * slotPitchMm) {
        Extent e;
        for (std::size_t a = 0; a < 3; ++a) {
            e.low[a] = card->lowAt[a].mm();
            e.high[a] = card->highAt[a].mm();
        }
        e.low[stack] = std::min(from, from + sign * slotPitchMm);
        e.high[stack] = std::max(from, from + sign * slotPitchMm);
        e.low[depth] = build.insideAt[depth].mm();
        e.high[depth] = e.low[depth] + build.caseSpec().wall.value.mm();
        covers.push_back(e);
    }
    return covers;
}

} // namespace core::box
