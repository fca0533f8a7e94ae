// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/fit/fit_sheet.h"

namespace app {

/// The leads that are drawn: all of them where the list shows leads, else the one that is selected.
[[nodiscard]] bool drawsLead(const FitLook& look, const core::Thing& selected, const core::fit::LeadRoute& route);

/// Leads on one section: by their corners as thick as they are, along the edges as a thin dashed estimate; ties where
/// several run together; corners to drag on the one that is selected.
void paintLeads(Canvas& c, const Section& s, const View& v, const FitLook& look, Labels& labels);

/// Each lead with its length, its way, its slack and its bends.
void paintLeadList(Canvas& c, const QRectF& r, const View& v, const FitLook& look);

/// A lead's way with one more corner in the middle of its longest leg, and which corner that is.
struct MoreCorners {
    std::vector<core::fit::Point> corners;
    std::size_t at = 0;
};
[[nodiscard]] MoreCorners withCornerIn(const core::fit::LeadRoute& route, std::size_t leg, const core::fit::Point& at);
[[nodiscard]] MoreCorners withCornerOnLongestLeg(const core::fit::LeadRoute& route);
/// The leg whose line on the section passes nearest to @p at, and the point of the leg there.
struct NearestLeg {
    std::size_t leg = 0;
    core::fit::Point at{};
};
[[nodiscard]] NearestLeg nearestLeg(const Section& s, const core::fit::LeadRoute& route, const QPointF& at);

} // namespace app
