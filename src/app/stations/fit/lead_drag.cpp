// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/lead_drag.h"

#include <cmath>

namespace app {

LeadWay LeadWay::of(const core::fit::LeadRoute& route, std::vector<core::fit::Point> corners) {
    return {core::RouteLead{route.ref.part, route.from, route.to, std::move(corners)}, route.ref, route.end};
}

void LeadWay::round() {
    for (auto& corner : change.pointsMm)
        for (double& mm : corner)
            mm = std::round(mm * 10) / 10;
}

const Section* sectionAt(const Sheet& sheet, const QPointF& point) {
    for (const Section* s : {&sheet.front, &sheet.side, &sheet.above})
        if (s->paper.adjusted(-8, -8, 8, 8).contains(point))
            return s;
    return nullptr;
}

std::optional<CornerDrag> CornerDrag::at(const Sheet& sheet, const core::fit::LeadRoute& route, std::size_t corner,
                                         const QPointF& point) {
    const Section* s = sectionAt(sheet, point);
    const auto corners = core::fit::cornersOf(route);
    if (!s || corner >= corners.size())
        return std::nullopt;
    return CornerDrag{LeadWay::of(route, corners),
                      corner,
                      *s,
                      point,
                      corners[corner],
                      {route.points[corner + 1], route.points[corner + 3]},
                      false};
}

void CornerDrag::moveTo(const QPointF& point, bool fine) {
    const QPointF d = point - from;
    moving = moving || std::abs(d.x()) + std::abs(d.y()) > 5;
    const double step = fine ? 0.1 : 0.5;
    auto& at = way.change.pointsMm[corner];
    at = start;
    const auto move = [&](core::Axis axis, double px) {
        const std::size_t k = core::index(axis);
        at[k] = std::round((start[k] + px / section.scale) / step) * step;
        for (const auto& neighbour : neighbours)
            if (!fine && std::abs(neighbour[k] - at[k]) * section.scale < 4)
                at[k] = neighbour[k];
    };
    move(section.across, d.x());
    move(section.up, -d.y());
}

} // namespace app
