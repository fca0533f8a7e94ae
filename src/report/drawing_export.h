// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/section_drawing.h"

#include <string>

namespace report {

/// DXF (R12, ASCII, mm): closed and open polylines and texts on the drawing's layers. @p scale 1: true size.
[[nodiscard]] std::string drawingDxf(const core::fit::Drawing& drawing, double scale = 1);
/// SVG whose width and height are in mm, so that it prints at true size when @p scale is 1.
[[nodiscard]] std::string drawingSvg(const core::fit::Drawing& drawing, double scale = 1);
/// The largest scale at which the drawing fits into a page, at most 1.
[[nodiscard]] double scaleToFit(const core::fit::Drawing& drawing, double pageWidthMm, double pageHeightMm);

} // namespace report
