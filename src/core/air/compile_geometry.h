// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/build.h"

#include <numbers>

namespace core::air {

/// So far away what a card blows out of its long edges, or a hot face, is still told: engineering judgement, mm.
constexpr double blownMm = 15;
/// Before the place of a card: the zone of the air in its fins.
constexpr std::string_view finsOf = "fins ";

/// A rectangle in the plane of a side, mm.
struct Rect {
    std::array<double, 2> low{}, high{};
    [[nodiscard]] double areaMm2() const { return std::max(0.0, high[0] - low[0]) * std::max(0.0, high[1] - low[1]); }
    [[nodiscard]] double perimeterMm() const { return 2 * (high[0] - low[0] + high[1] - low[1]); }
    [[nodiscard]] double shortSideMm() const { return std::min(high[0] - low[0], high[1] - low[1]); }
};
[[nodiscard]] inline Rect intersection(const Rect& a, const Rect& b) {
    Rect r;
    for (std::size_t i = 0; i < 2; ++i) {
        r.low[i] = std::max(a.low[i], b.low[i]);
        r.high[i] = std::max(r.low[i], std::min(a.high[i], b.high[i]));
    }
    return r;
}

/// The shadow of a placed part on a side of the case.
[[nodiscard]] inline Rect footprint(const Placed& p, Side side) {
    const auto axes = planeAxes(side);
    Rect r;
    for (std::size_t i = 0; i < 2; ++i) {
        r.low[i] = p.lowAt[index(axes[i])].mm();
        r.high[i] = p.highAt[index(axes[i])].mm();
    }
    return r;
}
[[nodiscard]] inline Rect rectOf(const Opening& o) {
    Rect r;
    for (std::size_t i = 0; i < 2; ++i) {
        r.low[i] = o.centreMm[i] - o.sizeMm[i] / 2;
        r.high[i] = o.centreMm[i] + o.sizeMm[i] / 2;
    }
    return r;
}

/// Of the rectangle an opening fills; a round one fills a disc of it.
[[nodiscard]] inline double shapeShare(const Opening& o) { return o.round ? std::numbers::pi / 4 : 1.0; }

/// Free distance from the face of @p p that looks at @p side to the inner wall, mm.
[[nodiscard]] inline double distanceToSide(const Build& build, const Placed& p, Side side) {
    const Direction d = outward(side);
    const std::size_t a = index(d.axis);
    return d.sign > 0 ? (build.insideAt[a] - p.highAt[a]).mm() : p.lowAt[a].mm();
}

[[nodiscard]] inline std::array<double, 3> centreOf(const Placed& p) {
    std::array<double, 3> c{};
    for (std::size_t a = 0; a < 3; ++a)
        c[a] = 0.5 * (p.lowAt[a].mm() + p.highAt[a].mm());
    return c;
}

/// How far two parts are apart along one axis; negative: they overlap by so much, mm.
[[nodiscard]] inline double apartAlong(const Placed& a, const Placed& b, std::size_t axis) {
    return std::max((a.lowAt[axis] - b.highAt[axis]).mm(), (b.lowAt[axis] - a.highAt[axis]).mm());
}

/// The chamber that holds a point, else the nearest one.
[[nodiscard]] inline std::size_t chamberAt(const CaseSpec& spec, const std::array<double, 3>& point) {
    std::size_t best = 0;
    double bestDistance = 1e300;
    for (std::size_t i = 0; i < spec.chambers.size(); ++i) {
        double d = 0;
        for (std::size_t a = 0; a < 3; ++a)
            d += std::max({spec.chambers[i].lowMm[a] - point[a], 0.0, point[a] - spec.chambers[i].highMm[a]});
        if (d < bestDistance) {
            bestDistance = d;
            best = i;
        }
    }
    return best;
}

/// The side a fan is fixed to: the wall within 8 mm across its blades, if there is one.
[[nodiscard]] inline std::optional<Side> panelOfFan(const Build& build, const Placed& p) {
    const Direction d = p.facing();
    std::optional<Side> best;
    double least = 8.0;
    for (const int sign : {-1, 1}) {
        const Side side = sideOf({d.axis, sign});
        if (const double gap = distanceToSide(build, p, side); gap < least) {
            least = gap;
            best = side;
        }
    }
    return best;
}

} // namespace core::air
