// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"
#include "core/model/vent_on_fan.h"

namespace app {

/// A vent and the fan behind it, seen along their middle: frame, circle of the blades, rim, and the way from the middle
/// of the one to that of the other; @p before as a drag began. Below it both figures in words.
void paintVentOnFan(Canvas& c, const QRectF& r, const core::box::VentOnFan& now,
                    const std::optional<core::box::VentOnFan>& before, const View& v);
/// Whether a place is large enough for it to be read.
[[nodiscard]] bool hasRoomForVentOnFan(const QRectF& r);

/// A part as it lies on a drawing.
struct NamedPlace {
    QString name;
    QRectF at;
};
/// Names of parts inside of them, the largest first, each where it covers nothing of @p off and no other name; what has
/// no room stays without.
void paintNamesInside(Canvas& c, std::vector<NamedPlace> parts, const std::vector<QRectF>& off);

} // namespace app
