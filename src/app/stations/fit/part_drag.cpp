// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/part_drag.h"

#include <cmath>

namespace app {

std::optional<PartDrag> PartDrag::at(const Sheet& sheet, const Hit& hit, const QPointF& point) {
    const auto* part = std::get_if<core::PartRef>(&hit.thing);
    if (!part || hit.handle.act != Act::None)
        return std::nullopt;
    for (const Section* s : {&sheet.front, &sheet.side, &sheet.above})
        if (s->paper.adjusted(-8, -8, 8, 8).contains(point))
            return PartDrag{part->mount, *s, point, {}, false};
    return std::nullopt;
}

void PartDrag::moveTo(const QPointF& point, bool fine) {
    const QPointF d = point - from;
    moving = moving || std::abs(d.x()) + std::abs(d.y()) > 5;
    const double step = fine ? 0.1 : 0.5;
    const auto stepped = [&](double px) { return std::round(px / section.scale / step) * step; };
    byMm = {};
    byMm[core::index(section.across)] = stepped(d.x());
    byMm[core::index(section.up)] = stepped(-d.y());
}

std::vector<core::Change> PartDrag::changes() const {
    std::vector<core::Change> all;
    for (const core::Axis axis : core::allAxes)
        if (const double mm = byMm[core::index(axis)]; mm != 0)
            all.emplace_back(core::MovePart{mount, axis, core::Length::fromMm(mm)});
    return all;
}

} // namespace app
