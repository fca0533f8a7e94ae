// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/fit/section_drawing.h"

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace report {

/// DXF (R12, ASCII, mm): closed and open polylines and texts on the drawing's layers. @p scale 1: true size.
[[nodiscard]] std::string drawingDxf(const core::fit::Drawing& drawing, double scale = 1);
/// SVG whose width and height are in mm, so that it prints at true size when @p scale is 1.
[[nodiscard]] std::string drawingSvg(const core::fit::Drawing& drawing, double scale = 1);

/// How the lines of a layer are drawn, in every kind of file: width and dashes in mm (none: unbroken), colour index of
/// DXF.
struct LineLook {
    double widthMm = 0.2;
    std::vector<double> dashMm;
    int dxf = 7;
};
[[nodiscard]] LineLook lookOf(std::string_view layer);

enum class Paper { Own, A4, A3 }; ///< a sheet as large as the drawing, or one that lies
[[nodiscard]] std::string_view paperWord(Paper paper);
[[nodiscard]] std::optional<Paper> paperFromWord(std::string_view word);

/// How a drawing stands on a sheet: in its middle, mm.
struct SheetLayout {
    double scale = 1;
    std::array<double, 2> sheetMm{};
    std::array<double, 2> atMm{}; ///< lower left corner of the drawing
};
/// The drawing on @p paper at @p scale; without one the largest that fits between borders of 10 mm, at most 1.
/// Errors: it does not fit at that scale, a scale that is not above 0; the remedy names what does fit.
[[nodiscard]] core::Result<SheetLayout> layoutOn(const core::fit::Drawing& drawing, Paper paper,
                                                 std::optional<double> scale);

struct File {
    std::string bytes;
    int lettersLacking = 0;
}; ///< letters that the typeface of a PDF has not stand there as "?"
/// One page with the drawing, made by libharu. Texts are in Helvetica, which every reader has and which has Western
/// European letters only.
[[nodiscard]] core::Result<File> drawingPdf(const core::fit::Drawing& drawing, const SheetLayout& layout);

/// The drawing as the kind that the name @p path ends in: .pdf, .svg or .dxf. Errors: another ending, as drawingPdf.
[[nodiscard]] core::Result<File> drawingFile(const core::fit::Drawing& drawing, const SheetLayout& layout,
                                             const std::string& path);

} // namespace report
