// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"

#include <array>

namespace app {

/// From where the case is looked at.
enum class AirSight { Side, Front, Top };

/// The case seen from one side, to scale: from the right (depth across, height up), from the front, or from above.
struct SideView {
    QRectF paper;
    double scale = 1;
    QRectF stage = {}; ///< words beside the case stay on it; empty: anywhere
    AirSight sight = AirSight::Side;
    const core::air::Prediction* air = nullptr;     ///< another state than the settled one; null: that
    const core::air::Prediction* against = nullptr; ///< differences to it stand beside the readings; null: none
    const core::Build* was = nullptr;               ///< what differs from it stands out; null: nothing does
    bool readings = true;                           ///< with flows and temperatures

    [[nodiscard]] core::Axis across() const { return sight == AirSight::Side ? core::Axis::Y : core::Axis::X; }
    [[nodiscard]] core::Axis up() const { return sight == AirSight::Top ? core::Axis::Y : core::Axis::Z; }
    [[nodiscard]] core::Axis deep() const {
        return sight == AirSight::Side ? core::Axis::X : sight == AirSight::Front ? core::Axis::Y : core::Axis::Z;
    }
    [[nodiscard]] QPointF at(double acrossMm, double upMm) const {
        return {paper.left() + acrossMm * scale, paper.bottom() - upMm * scale};
    }
    [[nodiscard]] QPointF at(const std::array<double, 3>& mm) const {
        return at(mm[core::index(across())], mm[core::index(up())]);
    }
    [[nodiscard]] QRectF rect(const std::array<double, 3>& low, const std::array<double, 3>& high) const {
        return QRectF(at(low), at(high)).normalized();
    }
    [[nodiscard]] QRectF rect(const core::Placed& p) const {
        return rect({p.lowAt[0].mm(), p.lowAt[1].mm(), p.lowAt[2].mm()},
                    {p.highAt[0].mm(), p.highAt[1].mm(), p.highAt[2].mm()});
    }
};
/// The view that fits into a rectangle, with room for words around the case.
[[nodiscard]] SideView sideViewIn(const QRectF& r, const core::Build& build, AirSight sight, double besidePx = 82);

/// Where a side meets the paper and which way is out; two of them stand towards and away from the viewer.
struct Gate {
    QPointF wall;
    QPointF out;
    bool facesViewer = false;
};
[[nodiscard]] Gate gateOf(const SideView& s, core::Side side, const std::array<double, 3>& mm);
/// Middle of an opening in the case, mm; across its own wall it is nought.
[[nodiscard]] std::array<double, 3> middleOf(const core::Opening& o);

/// Rings round what is new, moved or set otherwise; outlines of what is gone or stood elsewhere.
void paintDifferences(Canvas& c, const SideView& s, const core::Build& was, const core::Build& now);
/// Tinted chambers, parts, openings, ribbons, fans and readings.
void paintAirSection(Canvas& c, const SideView& s, const View& v);

} // namespace app
