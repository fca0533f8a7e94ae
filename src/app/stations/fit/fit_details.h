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

} // namespace app
