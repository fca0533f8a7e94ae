// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/box_edits.h"
#include "core/model/build.h"

namespace core::box {

// Holes through the inner panels of a case, as they are edited on the drawing. A hole is known by its place in the list
// of all of its part. Those of bodies that are turned have no place on the drawing: they are edited as figures.

/// All things of a case with the holes of each inner panel after its place.
[[nodiscard]] std::vector<Item> thingsOf(const Part& casePart, const Build& build);
/// The made part at a place, or the one that a hole is of; null: none.
[[nodiscard]] const Placed* panelOf(const Part& casePart, const Build& build, const Item& item);

/// The own axes of a body in which its holes are measured.
[[nodiscard]] std::array<std::size_t, 2> acrossOf(const Body& body);
/// Where a hole stands in its part.
struct CutoutAt {
    std::size_t body = 0, cutout = 0;
};
[[nodiscard]] std::vector<CutoutAt> cutoutsOf(const Part& made);
/// One of them; null: there is none of that number.
[[nodiscard]] const Cutout* cutoutOf(const Part& made, std::size_t hole);

/// Where a hole lies in the case: through the whole body that it is in, mm.
[[nodiscard]] Extent cutoutExtent(const Placed& panel, std::size_t hole);
/// Whether a hole has a size along an axis of the case: in the plane of its panel.
[[nodiscard]] bool isAcross(const Placed& panel, std::size_t hole, Axis axis);

// ---- edits of the part that stands there; each answers what is wrong and changes nothing then ----
[[nodiscard]] Result<void> moveCutout(Part& made, const Placed& panel, std::size_t hole,
                                      const std::array<double, 3>& byMm);
/// Moves one end of it to @p toMm in the case; @p high: its high end there.
[[nodiscard]] Result<void> resizeCutout(Part& made, const Placed& panel, std::size_t hole, Axis axis, bool high,
                                        double toMm);
/// A new one in the middle of the largest body that can have one. Returns its number among those of the part.
[[nodiscard]] Result<std::size_t> addCutout(Part& made);
[[nodiscard]] Result<std::size_t> copyCutout(Part& made, const Placed& panel, std::size_t hole);
[[nodiscard]] Result<void> removeCutout(Part& made, std::size_t hole);

} // namespace core::box
