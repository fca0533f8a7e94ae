// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/fit/fit_leads.h"

namespace app {

/// The way of a lead as a change, with corners that can be moved.
struct LeadWay {
    core::RouteLead change;
    core::LeadRef lead;
    std::size_t end = 0;

    [[nodiscard]] static LeadWay of(const core::fit::LeadRoute& route, std::vector<core::fit::Point> corners);
    /// Corners on tenths of a millimetre, as they are told.
    void round();
};

/// A corner of a lead that is dragged on a section.
struct CornerDrag {
    LeadWay way;
    std::size_t corner = 0;
    Section section;
    QPointF from;
    core::fit::Point start{};
    std::array<core::fit::Point, 2> neighbours{};
    bool moving = false; ///< far enough to be no click

    /// Begins where @p point lies on one of the sections; nothing elsewhere.
    [[nodiscard]] static std::optional<CornerDrag> at(const Sheet& sheet, const core::fit::LeadRoute& route,
                                                      std::size_t corner, const QPointF& point);
    /// On half millimetres, and level with a neighbour that is near; @p fine: on tenths, level with nothing.
    void moveTo(const QPointF& point, bool fine);
};

/// The section of the sheet that a point lies on; null: none.
[[nodiscard]] const Section* sectionAt(const Sheet& sheet, const QPointF& point);

} // namespace app
