// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/fit/fit_sheet.h"

namespace app {

/// A part that is dragged on a section: from where, and how far it came along the two axes of that section.
struct PartDrag {
    std::string mount;
    Section section;
    QPointF from;
    std::array<double, 3> byMm{}; ///< case axes
    bool moving = false;          ///< far enough to be no click

    /// Begins where @p hit is a part on one of the sections; nothing elsewhere.
    [[nodiscard]] static std::optional<PartDrag> at(const Sheet& sheet, const Hit& hit, const QPointF& point);
    /// On half millimetres; @p fine: on tenths.
    void moveTo(const QPointF& point, bool fine);
    [[nodiscard]] std::vector<core::Change> changes() const;
};

/// Where the three sections lie on a sheet of this inside.
[[nodiscard]] QRectF fitDrawing(const QRectF& inside);

} // namespace app
