// SPDX-License-Identifier: GPL-3.0-or-later
#include "report/drawing_export.h"

#include <hpdf.h>

#include <algorithm>
#include <cmath>
#include <memory>

namespace report {
namespace {

constexpr double pointsPerMm = 72 / 25.4;

struct Failed {
    HPDF_STATUS code = 0;
};
void onError(HPDF_STATUS code, HPDF_STATUS, void* to) { static_cast<Failed*>(to)->code = code; }

/// UTF-8 to the one-byte letters of Western Europe; counts what those do not have.
std::string westernLetters(const std::string& utf8, int& lacking) {
    std::string out;
    for (std::size_t i = 0; i < utf8.size();) {
        const auto c = static_cast<unsigned char>(utf8[i]);
        const std::size_t n = c < 0x80 ? 1 : c < 0xE0 ? 2 : c < 0xF0 ? 3 : 4;
        if (n == 1 && c >= 0x20) {
            out += static_cast<char>(c);
        } else if (n == 2 && i + 1 < utf8.size() && c <= 0xC3) {
            out += static_cast<char>(((c & 0x1FU) << 6) | (static_cast<unsigned char>(utf8[i + 1]) & 0x3FU));
        } else {
            out += '?';
            ++lacking;
        }
        i += n;
    }
    return out;
}

class PdfPage {
public:
    PdfPage(HPDF_Doc doc, const SheetLayout& layout) : m_page(HPDF_AddPage(doc)), m_layout(layout) {
        HPDF_Page_SetWidth(m_page, points(layout.sheetMm[0]));
        HPDF_Page_SetHeight(m_page, points(layout.sheetMm[1]));
        m_font = HPDF_GetFont(doc, "Helvetica", "WinAnsiEncoding");
    }
    void line(const core::fit::Drawing::Line& line) {
        const LineLook look = lookOf(line.layer);
        HPDF_Page_SetLineWidth(m_page, points(look.widthMm));
        std::vector<HPDF_UINT16> dashes; // whole points
        for (const double mm : look.dashMm)
            dashes.push_back(static_cast<HPDF_UINT16>(std::max(1.0F, std::round(points(mm)))));
        HPDF_Page_SetDash(m_page, dashes.empty() ? nullptr : dashes.data(), static_cast<HPDF_UINT>(dashes.size()), 0);
        for (std::size_t i = 0; i < line.points.size(); ++i) {
            const auto [x, y] = at(line.points[i]);
            i ? HPDF_Page_LineTo(m_page, x, y) : HPDF_Page_MoveTo(m_page, x, y);
        }
        line.closed ? HPDF_Page_ClosePathStroke(m_page) : HPDF_Page_Stroke(m_page);
    }
    void text(const core::fit::Drawing::Text& text, int& lacking) {
        const std::string letters = westernLetters(text.text, lacking);
        HPDF_Page_SetFontAndSize(m_page, m_font, std::max(1.0F, points(text.heightMm * m_layout.scale)));
        const auto [x, y] = at(text.at);
        HPDF_Page_BeginText(m_page);
        HPDF_Page_TextOut(m_page, x - HPDF_Page_TextWidth(m_page, letters.c_str()) / 2, y, letters.c_str());
        HPDF_Page_EndText(m_page);
    }

private:
    static float points(double mm) { return static_cast<float>(mm * pointsPerMm); }
    [[nodiscard]] std::array<float, 2> at(const core::fit::Point2& p) const {
        return {points(m_layout.atMm[0] + p[0] * m_layout.scale), points(m_layout.atMm[1] + p[1] * m_layout.scale)};
    }
    HPDF_Page m_page;
    HPDF_Font m_font = nullptr;
    const SheetLayout& m_layout;
};

} // namespace

core::Result<File> drawingPdf(const core::fit::Drawing& drawing, const SheetLayout& layout) {
    Failed failed;
    const std::unique_ptr<std::remove_pointer_t<HPDF_Doc>, decltype(&HPDF_Free)> doc(HPDF_New(onError, &failed),
                                                                                     HPDF_Free);
    File pdf;
    if (doc) {
        HPDF_SetCompressionMode(doc.get(), HPDF_COMP_ALL);
        PdfPage page(doc.get(), layout);
        for (const auto& line : drawing.lines)
            page.line(line);
        for (const auto& text : drawing.texts)
            page.text(text, pdf.lettersLacking);
        HPDF_SaveToStream(doc.get());
        pdf.bytes.resize(HPDF_GetStreamSize(doc.get()));
        auto size = static_cast<HPDF_UINT32>(pdf.bytes.size());
        HPDF_ReadFromStream(doc.get(), reinterpret_cast<HPDF_BYTE*>(pdf.bytes.data()), &size);
        pdf.bytes.resize(size);
    }
    if (!doc || failed.code != 0 || pdf.bytes.empty())
        return core::problem("PDF", "cannot be drawn (code " + std::to_string(failed.code) + ")",
                             "another sheet or scale; a PDF page is at most 5 m long");
    return pdf;
}

} // namespace report
