// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"

namespace app {

/// The case seen from the right side (depth across, height up), to scale.
struct SideView {
    QRectF paper;
    double scale = 1;
    QRectF stage = {}; ///< words beside the case stay on it; empty: anywhere
    [[nodiscard]] QPointF at(double yMm, double zMm) const {
        return {paper.left() + yMm * scale, paper.bottom() - zMm * scale};
    }
    [[nodiscard]] QRectF rect(const core::Placed& p) const {
        return QRectF(at(p.lowAt[1].mm(), p.lowAt[2].mm()), at(p.highAt[1].mm(), p.highAt[2].mm())).normalized();
    }
};

/// Tinted chambers, parts, openings, ribbons, fans and readings.
void paintAirSection(Canvas& c, const SideView& s, const View& v);

} // namespace app
