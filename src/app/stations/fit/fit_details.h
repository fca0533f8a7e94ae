// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"

namespace app {

/// Strip under the drawings: which cut is moved, where it is, and where parts begin and end along it.
/// @p scale px a mm, @p zeroX where the inside of the case begins on the paper (used for the cut along the depth).
/// Where the strip of the cut stands: from @c leftX on, its 0 mm at @c zeroX, which a zoomed drawing moves out of
/// sight.
struct StripPlace {
    double leftX = 0, zeroX = 0, scale = 1;
};
void paintCutStrip(Canvas& c, const QRectF& r, const View& v, const std::vector<core::fit::PlacedBody>& bodies,
                   core::Axis axis, double atMm, const StripPlace& place);

/// The selected gap, or the tightest, enlarged: both faces, the gap and what it needs.
void paintGapLens(Canvas& c, const QRectF& r, const View& v);

/// The chain of a gap drawn to scale, and its sum.
void paintChain(Canvas& c, const QRectF& r, const core::fit::Gap& gap, const View& v);
/// The list beside the drawing, under a head that chooses what it lists.
void paintFitList(Canvas& c, const QRectF& r, const View& v, const FitLook& look);

// ---- what its lists have in common ----
/// The first row in sight; on paper always the first. A list that became shorter than it was turned starts anew.
[[nodiscard]] std::size_t firstRow(const Canvas& c, std::size_t all);
/// Below the rows, which are of different heights: how many there are, and a bar to drag at their right. @p thingOf: of
/// any row, also one out of sight.
void paintMore(Canvas& c, const QRectF& r, std::size_t shown, std::size_t all,
               const std::function<core::Thing(std::size_t row)>& thingOf);
/// A row of several lines with a mark before it; answers its height, or nothing when there is no room for it.
std::optional<double> paintEntry(Canvas& c, const QRectF& r, double y, core::Mark mark, const QString& head,
                                 const QString& text, const core::Thing& thing, const QString& button = {},
                                 const Handle& handle = {}, const QString& buttonName = {});

} // namespace app
