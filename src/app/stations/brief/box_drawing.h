// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/canvas.h"
#include "core/model/build.h"

namespace app {

/// A box seen from one side, to scale: walls, openings as a broken wall, parts with the hatch of their kind.
struct BoxView {
    const core::Build& build;
    core::Axis across = core::Axis::X, up = core::Axis::Z;
    bool fromHigh = false; ///< seen from the high end of the third axis: from the right, from above
    bool faded = false;    ///< parts stand back, for what is drawn over them

    [[nodiscard]] core::Axis through() const {
        return static_cast<core::Axis>(3 - static_cast<int>(across) - static_cast<int>(up));
    }
    /// Of the case with walls and feet, mm.
    [[nodiscard]] QSizeF sizeMm() const;
};
inline BoxView frontView(const core::Build& build) { return {build}; }
inline BoxView sideView(const core::Build& build) { return {build, core::Axis::Y, core::Axis::Z, true}; }

/// Paints it with its lower left corner at @p at; @p scale in px for each mm. Answers where the inside lies.
QRectF paintBox(Canvas& c, const BoxView& view, const QPointF& at, double scale);
/// The same without parts, and what stands inside alone: parts that stay where they are need not be painted anew.
QRectF paintEmptyBox(Canvas& c, const BoxView& view, const QPointF& at, double scale);
void paintPartsInside(Canvas& c, const BoxView& view, const QRectF& inside, double scale);

} // namespace app
