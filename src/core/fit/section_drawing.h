// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/bodies.h"

namespace core::fit {

using Point2 = std::array<double, 2>;

/// Silhouette of a piece on the plane of two case axes: convex, closed without repeating its first point. mm.
[[nodiscard]] std::vector<Point2> outlineOf(const Primitive& piece, Axis across, Axis up);

/// A drawing in mm, y upwards, made of named layers: case, cut, behind, keep-out, lead, lead-estimate,
/// check, text.
struct Drawing {
    struct Line {
        std::string layer;
        std::vector<Point2> points;
        bool closed = true;
    };
    struct Text {
        Point2 at{};
        double heightMm = 3;
        std::string text;
    };
    Point2 sizeMm{};
    std::vector<Line> lines;
    std::vector<Text> texts;
};

/// Front, side and top section of a build at the cuts @p atMm (x, y, z), aligned on shared edges, with a check bar of
/// 50 mm.
[[nodiscard]] Drawing sectionDrawing(const Build& build, const Point& atMm);

} // namespace core::fit
