// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/bodies.h"

#include <functional>

namespace core::fit {

/// Unstated: no panel of the case is described, so its way in was not looked at.
enum class Passage { Straight, Tilted, OnlyBefore, Blocked, Unstated };
[[nodiscard]] std::string_view passageWord(Passage passage);

/// A part on its way in, as the corners of each of its boxes in the plane of the way.
struct Pose {
    double tiltDeg = 0;
    std::vector<std::array<Point, 4>> outlines;
};

/// How a part goes in through an opening of the case, past the parts that are there by then.
struct Insertion {
    std::string mount;
    std::string name;
    Passage passage = Passage::Blocked;
    Side side = Side::Right; ///< of the panel that is off
    double marginMm = 0;     ///< least room beside it on a straight way; 1.0 is wanted
    double tiltDeg = 0;      ///< largest tilt on the way
    bool tight = false;      ///< it passes with less than 1.0 mm somewhere
    std::string before;      ///< the part that must not be there yet
    Sentence blockedBy;      ///< what is in the straight way
    std::size_t across = 0;  ///< with @c side the plane the poses lie in
    std::vector<Pose> poses; ///< a few, from outside to its place
    Sentence text;           ///< all of it in words
};

/// Cards, supplies, radiators and drives of a build in the order of @p order (mounts as they are fitted; those not
/// named count as fitted last). Plane motions: straight out, or tilted about each end; a way of up to 60 degrees is
/// looked for. Plugs are not yet in by then and do not count. @p stop: as in Options.
[[nodiscard]] std::vector<Insertion> insertions(const Build& build, const std::vector<std::string>& order,
                                                const std::function<bool()>& stop = {});

/// A rectangle in a plane: middle, half sizes, and cosine and sine of its turn.
struct Rectangle {
    double u = 0, v = 0, halfU = 0, halfV = 0, cosine = 1, sine = 0;
};
/// Whether a turned rectangle overlaps an upright one. Touching is not overlapping.
[[nodiscard]] bool overlap(const Rectangle& turned, const Rectangle& upright);

} // namespace core::fit
