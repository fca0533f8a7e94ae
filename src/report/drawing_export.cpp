// SPDX-License-Identifier: GPL-3.0-or-later
#include "report/drawing_export.h"

#include "core/base/text.h"
#include "report/escape.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <set>

namespace report {
namespace {

std::string number(double value) { return core::plainFixed(value, 4); }

/// R12 knows no Unicode; what is beyond ASCII becomes \U+ and its code, which later readers show.
std::string dxfText(const std::string& utf8) {
    std::string out;
    for (std::size_t i = 0; i < utf8.size();) {
        const auto c = static_cast<unsigned char>(utf8[i]);
        const int more = c < 0x80 ? 0 : c < 0xE0 ? 1 : c < 0xF0 ? 2 : 3;
        unsigned code = more == 0 ? c : c & (0x3FU >> more);
        for (int k = 1; k <= more && i + static_cast<std::size_t>(k) < utf8.size(); ++k)
            code = (code << 6) | (static_cast<unsigned char>(utf8[i + static_cast<std::size_t>(k)]) & 0x3FU);
        if (more == 0 && c >= 0x20)
            out += static_cast<char>(c);
        else if (more > 0) {
            constexpr const char* hexadecimal = "0123456789ABCDEF";
            out += "\\U+";
            for (int shift = code > 0xFFFF ? 20 : 12; shift >= 0; shift -= 4)
                out += hexadecimal[(code >> shift) & 0xFU];
        }
        i += static_cast<std::size_t>(more) + 1;
    }
    return out;
}

std::string strokeOf(const std::string& layer) {
    const LineLook look = lookOf(layer);
    std::string out = "stroke-width=\"" + core::shortest(look.widthMm) + "\"";
    for (std::size_t i = 0; i < look.dashMm.size(); ++i)
        out += (i ? " " : " stroke-dasharray=\"") + core::shortest(look.dashMm[i]);
    return out + (look.dashMm.empty() ? "" : "\"");
}

} // namespace

LineLook lookOf(std::string_view layer) {
    if (layer == "case")
        return {.widthMm = 0.7};
    if (layer == "cut")
        return {.widthMm = 0.35};
    if (layer == "keep-out")
        return {.widthMm = 0.25, .dashMm = {3, 1, 0.7, 1}, .dxf = 30};
    if (layer == "lead")
        return {.widthMm = 0.5, .dxf = 5};
    if (layer == "lead-estimate")
        return {.widthMm = 0.35, .dashMm = {0.4, 0.8}, .dxf = 5};
    if (layer == "check")
        return {.widthMm = 0.5};
    return {.widthMm = 0.2, .dashMm = {2, 1}, .dxf = 8};
}

std::string_view paperWord(Paper paper) { return paper == Paper::Own ? "own" : paper == Paper::A4 ? "A4" : "A3"; }

std::optional<Paper> paperFromWord(std::string_view word) {
    for (const Paper p : {Paper::Own, Paper::A4, Paper::A3})
        if (word == paperWord(p))
            return p;
    return std::nullopt;
}

core::Result<SheetLayout> layoutOn(const core::fit::Drawing& drawing, Paper paper, std::optional<double> wanted) {
    constexpr double border = 10;
    if (wanted && !(*wanted > 0))
        return core::problem("scale", "is " + core::plainFixed(*wanted, 3),
                             "a number above 0, such as 0.5 for half size");
    const auto& size = drawing.sizeMm;
    if (paper == Paper::Own) {
        const double scale = wanted.value_or(1);
        return SheetLayout{scale, {size[0] * scale, size[1] * scale}, {0, 0}};
    }
    const std::array<double, 2> sheet =
        paper == Paper::A4 ? std::array{297.0, 210.0} : std::array{420.0, 297.0}; // ISO 216, lying
    const double most = std::min({1.0, (sheet[0] - 2 * border) / size[0], (sheet[1] - 2 * border) / size[1]});
    if (wanted && *wanted > most + 1e-9)
        return core::problem(std::string(paperWord(paper)),
                             "is too small: the drawing is " + core::plainFixed(size[0] * *wanted, 0) + " x " +
                                 core::plainFixed(size[1] * *wanted, 0) + " mm at that scale",
                             "a sheet of the drawing's own size, or a scale of at most " +
                                 core::plainFixed(std::floor(most * 1000) / 1000, 3));
    const double scale = wanted.value_or(most);
    return SheetLayout{scale, sheet, {(sheet[0] - size[0] * scale) / 2, (sheet[1] - size[1] * scale) / 2}};
}

std::string drawingDxf(const core::fit::Drawing& drawing, double scale) {
    std::string out = "0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1009\n9\n$"
                      "INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n70\n8\n";
    std::set<std::string> layers{"text"};
    for (const auto& line : drawing.lines)
        layers.insert(line.layer);
    for (const std::string& layer : layers)
        out += "0\nLAYER\n2\n" + layer + "\n70\n0\n62\n" + std::to_string(lookOf(layer).dxf) + "\n6\nCONTINUOUS\n";
    out += "0\nENDTAB\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n";
    const auto at = [&](const core::fit::Point2& p) {
        return "10\n" + number(p[0] * scale) + "\n20\n" + number(p[1] * scale) + "\n30\n0.0\n";
    };
    for (const auto& line : drawing.lines) {
        out += "0\nPOLYLINE\n8\n" + line.layer + "\n66\n1\n70\n" + (line.closed ? "1" : "0") +
               "\n10\n0.0\n20\n0.0\n30\n0.0\n";
        for (const auto& p : line.points)
            out += "0\nVERTEX\n8\n" + line.layer + "\n" + at(p);
        out += "0\nSEQEND\n8\n" + line.layer + "\n";
    }
    for (const auto& text : drawing.texts)
        out += "0\nTEXT\n8\ntext\n" + at(text.at) + "40\n" + number(text.heightMm * scale) + "\n1\n" +
               dxfText(text.text) + "\n72\n1\n11\n" + number(text.at[0] * scale) + "\n21\n" +
               number(text.at[1] * scale) + "\n31\n0.0\n";
    return out + "0\nENDSEC\n0\nEOF\n";
}

std::string drawingSvg(const core::fit::Drawing& drawing, double scale) {
    const std::string w = number(drawing.sizeMm[0]), h = number(drawing.sizeMm[1]);
    std::string out = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" +
                      number(drawing.sizeMm[0] * scale) + "mm\" height=\"" + number(drawing.sizeMm[1] * scale) +
                      "mm\" viewBox=\"0 0 " + w + " " + h + "\" fill=\"none\" stroke=\"black\">\n";
    const auto y = [&](double up) { return drawing.sizeMm[1] - up; };
    for (const auto& line : drawing.lines) {
        out += "<path class=\"" + line.layer + "\" " + strokeOf(line.layer) + " d=\"";
        for (std::size_t i = 0; i < line.points.size(); ++i)
            out += (i ? "L" : "M") + number(line.points[i][0]) + " " + number(y(line.points[i][1]));
        out += line.closed ? "Z\"/>\n" : "\"/>\n";
    }
    for (const auto& text : drawing.texts)
        out += "<text x=\"" + number(text.at[0]) + "\" y=\"" + number(y(text.at[1])) + "\" font-size=\"" +
               number(text.heightMm) +
               "\" text-anchor=\"middle\" fill=\"black\" stroke=\"none\" font-family=\"sans-serif\">" +
               escape(text.text) + "</text>\n";
    return out + "</svg>\n";
}

core::Result<File> drawingFile(const core::fit::Drawing& drawing, const SheetLayout& layout, const std::string& path) {
    std::string ending = path.size() < 4 ? std::string() : path.substr(path.size() - 4);
    std::transform(ending.begin(), ending.end(), ending.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    if (ending == ".pdf")
        return drawingPdf(drawing, layout);
    if (ending != ".svg" && ending != ".dxf")
        return core::problem(path, "is no kind of drawing", "a name that ends in .pdf, .svg or .dxf");
    return File{ending == ".dxf" ? drawingDxf(drawing, layout.scale) : drawingSvg(drawing, layout.scale), 0};
}

} // namespace report
