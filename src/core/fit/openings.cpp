// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/openings.h"

#include <algorithm>
#include <numbers>

namespace core::fit {
namespace {

bool inside(const FlatFace& face, double u, double v) {
    if (u < face.low[0] || u > face.high[0] || v < face.low[1] || v > face.high[1])
        return false;
    if (!face.round)
        return true;
    const auto c = face.centre();
    const double ru = 0.5 * (face.high[0] - face.low[0]), rv = 0.5 * (face.high[1] - face.low[1]);
    return std::pow((u - c[0]) / ru, 2) + std::pow((v - c[1]) / rv, 2) <= 1;
}

} // namespace

double FlatFace::areaMm2() const {
    return (high[0] - low[0]) * (high[1] - low[1]) * (round ? std::numbers::pi / 4 : 1.0);
}

FlatFace faceOf(const PlacedBody& body, Axis normal, bool round) {
    FlatFace face{.round = round};
    const auto axes = planeAxes(sideOf({normal, 1}));
    for (std::size_t i = 0; i < 2; ++i) {
        face.low[i] = body.low[index(axes[i])].mm();
        face.high[i] = body.high[index(axes[i])].mm();
    }
    return face;
}

FlatFace faceOf(const Opening& o) {
    FlatFace face{.round = o.round};
    for (std::size_t i = 0; i < 2; ++i) {
        face.low[i] = o.centreMm[i] - o.sizeMm[i] / 2;
        face.high[i] = o.centreMm[i] + o.sizeMm[i] / 2;
    }
    return face;
}

double sharedMm2(const FlatFace& a, const FlatFace& b) {
    std::array<double, 2> low{}, high{};
    double area = 1;
    for (std::size_t i = 0; i < 2; ++i) {
        low[i] = std::max(a.low[i], b.low[i]);
        high[i] = std::min(a.high[i], b.high[i]);
        area *= std::max(0.0, high[i] - low[i]);
    }
    if (area <= 0 || (!a.round && !b.round))
        return area;
    constexpr int points = 48;
    int in = 0;
    for (int i = 0; i < points; ++i)
        for (int j = 0; j < points; ++j) {
            const double u = low[0] + (high[0] - low[0]) * (i + 0.5) / points,
                         v = low[1] + (high[1] - low[1]) * (j + 0.5) / points;
            in += inside(a, u, v) && inside(b, u, v);
        }
    return area * in / (points * points);
}

bool leadsOutside(const Opening& opening) { return opening.style != OpeningStyle::Closed && opening.to.empty(); }

Over overOpenings(const Build& build, Side side, const FlatFace& face) {
    Over over;
    const double all = face.areaMm2();
    if (all <= 0)
        return over;
    double open = 0, weighed = 0;
    for (const Opening& o : build.openings)
        if (o.side == side && leadsOutside(o)) {
            const double shared = sharedMm2(face, faceOf(o));
            open += shared;
            weighed += shared * (o.style == OpeningStyle::Plain ? 1.0 : o.perforation);
        }
    over.share = std::min(1.0, open / all);
    over.perforation = open > 0 ? weighed / open : 0;
    return over;
}

} // namespace core::fit
