// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/box_edits.h"

namespace core::box {

/// Where the middle of a thing would sit well along an axis, mm in the case, and why.
struct Snap {
    double mm = 0;
    Sentence why;
};
/// Of a vent among those of its wall, of a place among the others: with equal gaps to its neighbours or to the walls,
/// going on in a row, and with its screw holes on those of another fan place. @p extents: of all things, in the order
/// of itemsOf().
[[nodiscard]] std::vector<Snap> snapsOf(const Part& casePart, const Item& item, Axis axis,
                                        const std::vector<Extent>& extents);

/// Spacing of the screw holes of a fan of that frame, mm; 0: not a usual one.
[[nodiscard]] double holePitchMm(double frameMm);

} // namespace core::box
