// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/canvas.h"

namespace app {

/// A stream of air as wide as its flow, coloured along its length by how much warmer than the room it is, with
/// chevrons.
void ribbon(Canvas& c, const QPainterPath& path, double flowM3h, double fromK, double toK, bool arrowHead);
/// From a point in one direction to another point, reached in a direction.
[[nodiscard]] QPainterPath streamCurve(const QPointF& a, const QPointF& da, const QPointF& b, const QPointF& db);

} // namespace app
