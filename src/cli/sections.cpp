// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"
#include "report/drawing_export.h"

namespace cli {

int sections(const Options& options) {
    const auto looked = look(options);
    if (!looked)
        return badInput(looked.error());
    const core::Build& build = looked->evaluation().build;
    const QString path = QString::fromStdString(options.output);
    const auto paper = report::paperFromWord(options.sheet.empty() ? options.fitPage ? "A4" : "own" : options.sheet);
    if (!paper)
        return badInput({"--sheet", "is \"" + options.sheet + "\"", "one of own, A4, A3"});
    if (options.fitPage && options.scale != 0)
        return badInput({"--fit-page", "stands beside --scale", "one of the two"});
    const auto middle = [&](std::size_t a) { return build.insideAt[a].mm() / 2; };
    const auto drawing = core::fit::sectionDrawing(build, {middle(0), middle(1), middle(2)});
    const auto layout = report::layoutOn(
        drawing, *paper, options.fitPage ? std::nullopt : std::optional(options.scale == 0 ? 1.0 : options.scale));
    if (!layout)
        return badInput(layout.error());
    const double scale = layout->scale;
    const auto file = report::drawingFile(drawing, *layout, options.output);
    if (!file)
        return badInput(file.error());
    if (const auto done = store::writeWhole(path, QByteArray::fromStdString(file->bytes), overwrite(options)); !done)
        return badInput(done.error());
    if (file->lettersLacking > 0)
        fmt::fprintf(stderr,
                     "note: %d letters are not in the typeface of the PDF and stand there as \"?\"; SVG has them all\n",
                     file->lettersLacking);
    if (options.json)
        print({{"written", options.output},
               {"scale", scale},
               {"width_mm", drawing.sizeMm[0] * scale},
               {"height_mm", drawing.sizeMm[1] * scale},
               {"lines", drawing.lines.size()}});
    else
        say("%s: %.0f x %.0f mm, scale %.3f\n", options.output.c_str(), drawing.sizeMm[0] * scale,
            drawing.sizeMm[1] * scale, scale);
    return ExitFine;
}

} // namespace cli
