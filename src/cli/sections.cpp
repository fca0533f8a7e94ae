// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"
#include "report/drawing_export.h"

namespace cli {

int sections(const Options& options) {
    const auto looked = look(options);
    if (!looked)
        return badInput(looked.error());
    const core::Build& build = (*looked)->evaluation.build;
    const QString path = QString::fromStdString(options.output);
    const bool dxf = path.endsWith(QLatin1String(".dxf"), Qt::CaseInsensitive);
    if (!dxf && !path.endsWith(QLatin1String(".svg"), Qt::CaseInsensitive))
        return badInput({options.output, "is no kind of drawing", "a name that ends in .dxf or .svg"});
    const auto middle = [&](std::size_t a) { return build.insideAt[a].mm() / 2; };
    const auto drawing = core::fit::sectionDrawing(build, {middle(0), middle(1), middle(2)});
    const double scale = options.fitPage ? report::scaleToFit(drawing, 277, 190) : 1;
    if (const auto done = store::writeWhole(path, QByteArray::fromStdString(dxf ? report::drawingDxf(drawing, scale) : report::drawingSvg(drawing, scale)), overwrite(options)); !done)
        return badInput(done.error());
    if (options.json)
        print({{"written", options.output}, {"scale", scale}, {"width_mm", drawing.sizeMm[0] * scale}, {"height_mm", drawing.sizeMm[1] * scale}, {"lines", drawing.lines.size()}});
    else
        say("%s: %.0f x %.0f mm, scale %.3f\n", options.output.c_str(), drawing.sizeMm[0] * scale, drawing.sizeMm[1] * scale, scale);
    return ExitFine;
}

} // namespace cli
