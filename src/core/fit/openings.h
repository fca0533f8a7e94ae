// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/bodies.h"

namespace core::fit {

/// A face seen along the normal of a panel, in the two axes of that panel, mm.
struct FlatFace {
    std::array<double, 2> low{}, high{};
    bool round = false; ///< the disc that fills it, as of a fan
    [[nodiscard]] double areaMm2() const;
    [[nodiscard]] std::array<double, 2> centre() const { return {0.5 * (low[0] + high[0]), 0.5 * (low[1] + high[1])}; }
};
[[nodiscard]] FlatFace faceOf(const PlacedBody& body, Axis normal, bool round = false);
[[nodiscard]] FlatFace faceOf(const Opening& opening);

/// Area that two faces share, mm²; exact for rectangles, from a grid of 48 x 48 points where one is round (within 1 %).
[[nodiscard]] double sharedMm2(const FlatFace& a, const FlatFace& b);

/// How a face lies over the openings of a side that lead outside.
struct Over {
    double share = 0;       ///< of the face, from 0 to 1
    double perforation = 0; ///< open share of the plates there, mean by area
};
[[nodiscard]] Over overOpenings(const Build& build, Side side, const FlatFace& face);

/// Air passes from outside: not closed, and not between two chambers.
[[nodiscard]] bool leadsOutside(const Opening& opening);

} // namespace core::fit
