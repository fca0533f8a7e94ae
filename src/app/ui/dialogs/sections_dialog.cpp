// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/sections_dialog.h"

#include "core/base/text.h"
#include "store/safe_write.h"

#include <QBuffer>
#include <QFileDialog>
#include <QFileInfo>
#include <QPainter>
#include <QPdfWriter>
#include <QPushButton>

namespace app {

SectionsDialog::SectionsDialog(Context& context, core::fit::Drawing drawing, QWidget* parent)
    : FormDialog(context, tr("Export sections"), parent), m_drawing(std::move(drawing)) {
    m_kind = addChoice(tr("Kind of file"), QStringLiteral("kind"));
    for (const auto& [ending, words] : {std::pair{"pdf", tr("PDF, to print")}, std::pair{"svg", tr("SVG, to draw on")},
                                        std::pair{"dxf", tr("DXF, to cut")}})
        m_kind->addItem(words, QString::fromLatin1(ending));
    m_paper = addChoice(tr("Sheet"), QStringLiteral("sheet"));
    m_paper->addItem(tr("as large as the drawing"), static_cast<int>(report::Paper::Own));
    m_paper->addItem(tr("A4, lying"), static_cast<int>(report::Paper::A4));
    m_paper->addItem(tr("A3, lying"), static_cast<int>(report::Paper::A3));
    m_scale = addChoice(tr("Scale"), QStringLiteral("scale"));
    m_scale->addItem(tr("1:1, true size"), 1.0);
    m_scale->addItem(tr("1:2"), 0.5);
    m_scale->addItem(tr("as large as the sheet allows"), 0.0);
    m_picture = new QLabel(this);
    m_picture->setObjectName(QStringLiteral("preview"));
    m_picture->setAlignment(Qt::AlignCenter);
    m_picture->setFixedSize(440, 300);
    m_words = new QLabel(this);
    m_words->setObjectName(QStringLiteral("sheetWords"));
    m_words->setWordWrap(true);
    m_layout->insertWidget(1, m_picture);
    m_layout->insertWidget(2, m_words);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Choose a name ..."));
    for (QComboBox* box : {m_kind, m_paper, m_scale})
        connect(box, &QComboBox::currentIndexChanged, this, &SectionsDialog::showSheet);
    showSheet();
}

core::Result<report::SheetLayout> SectionsDialog::layoutChosen() const {
    const double scale = m_scale->currentData().toDouble();
    return report::layoutOn(m_drawing, static_cast<report::Paper>(m_paper->currentData().toInt()),
                            scale > 0 ? std::optional(scale) : std::nullopt);
}

QString SectionsDialog::proposedName() const {
    const core::Project& project = m_context.document.project();
    return qs(core::fileNameFrom((project.name.empty() ? std::string("sections") : project.name) + " " +
                                 m_context.document.revision() + " sections")) +
           QLatin1Char('.') + m_kind->currentData().toString();
}

/// The sheet and what stands on it, or why it cannot.
void SectionsDialog::showSheet() {
    const auto layout = layoutChosen();
    m_buttons->button(QDialogButtonBox::Ok)->setEnabled(layout.has_value());
    if (!layout) {
        m_picture->setPixmap({});
        m_words->clear();
        return say(qs(layout.error().text()));
    }
    say({});
    m_picture->setPixmap(preview(*layout, m_picture->size()));
    const auto mm = [](double v) { return QString::number(v, 'f', 0); };
    m_words->setText(
        tr("Sheet %1 × %2 mm, drawing %3 × %4 mm at 1:%5. Lay a rule on the 50 mm bar before anything is cut: %6.")
            .arg(mm(layout->sheetMm[0]), mm(layout->sheetMm[1]), mm(m_drawing.sizeMm[0] * layout->scale),
                 mm(m_drawing.sizeMm[1] * layout->scale), QString::number(1 / layout->scale, 'g', 3),
                 layout->scale == 1 ? tr("it must be 50 mm long")
                                    : tr("on this sheet it is %1 mm long").arg(digits(50 * layout->scale, 1))));
}

/// The drawing on a sheet that fills @p sheet; the same for the preview and for paper.
void SectionsDialog::paint(QPainter& p, const report::SheetLayout& layout, const QRectF& sheet, const QColor& ink,
                           const QColor& faint) const {
    const double k = sheet.width() / layout.sheetMm[0], scale = k * layout.scale;
    const auto at = [&](const core::fit::Point2& mm) {
        return QPointF(sheet.left() + layout.atMm[0] * k + mm[0] * scale,
                       sheet.bottom() - layout.atMm[1] * k - mm[1] * scale);
    };
    p.setBrush(Qt::NoBrush);
    for (const auto& line : m_drawing.lines) {
        const report::LineLook look = report::lookOf(line.layer);
        QPen pen(look.dashMm.empty() ? ink : faint, std::max(0.8, look.widthMm * k));
        if (!look.dashMm.empty()) {
            QList<qreal> dashes; // in widths of the pen
            for (const double mm : look.dashMm)
                dashes << std::max(1.0, mm * k / pen.widthF());
            pen.setDashPattern(dashes);
        }
        p.setPen(pen);
        QPolygonF polygon;
        for (const auto& mm : line.points)
            polygon << at(mm);
        line.closed ? p.drawPolygon(polygon) : p.drawPolyline(polygon);
    }
    p.setPen(ink);
    for (const auto& text : m_drawing.texts) {
        QFont font(QStringLiteral("Asap Condensed"));
        font.setPixelSize(std::max(1, static_cast<int>(text.heightMm * scale)));
        p.setFont(font);
        const double h = text.heightMm * scale;
        p.drawText(QRectF(at(text.at) - QPointF(40 * h, 1.5 * h), QSizeF(80 * h, 2 * h)), Qt::AlignCenter,
                   qs(text.text));
    }
}

/// Drawn by Qt, which has every letter; made in memory and put on the disk whole.
QByteArray SectionsDialog::pdf(const report::SheetLayout& layout) const {
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    writer.setResolution(1200);
    writer.setPageSize(
        QPageSize(QSizeF(layout.sheetMm[0], layout.sheetMm[1]), QPageSize::Millimeter, {}, QPageSize::ExactMatch));
    writer.setPageMargins({0, 0, 0, 0});
    QPainter p;
    if (!p.begin(&writer))
        return {};
    const double dots = 1200 / 25.4;
    paint(p, layout, QRectF(0, 0, layout.sheetMm[0] * dots, layout.sheetMm[1] * dots), Qt::black, Qt::black);
    return p.end() ? buffer.data() : QByteArray();
}

QPixmap SectionsDialog::preview(const report::SheetLayout& layout, const QSize& size) const {
    const double ratio = devicePixelRatioF();
    QPixmap pixmap(size * ratio);
    pixmap.setDevicePixelRatio(ratio);
    pixmap.fill(Qt::transparent);
    QPainter p(&pixmap);
    p.setRenderHint(QPainter::Antialiasing);
    const double k = std::min((size.width() - 8) / layout.sheetMm[0], (size.height() - 8) / layout.sheetMm[1]);
    const QRectF sheet((size.width() - layout.sheetMm[0] * k) / 2, (size.height() - layout.sheetMm[1] * k) / 2,
                       layout.sheetMm[0] * k, layout.sheetMm[1] * k);
    const Theme& t = m_context.theme;
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.field);
    p.drawRect(sheet);
    paint(p, layout, sheet, t.ink, t.line);
    return pixmap;
}

core::Result<void> SectionsDialog::writeTo(const QString& path) {
    const auto layout = layoutChosen();
    if (!layout)
        return tl::make_unexpected(layout.error());
    if (path.endsWith(QLatin1String(".pdf"), Qt::CaseInsensitive)) {
        const QByteArray bytes = pdf(*layout);
        return bytes.isEmpty() ? core::problem(path.toStdString(), "cannot be drawn", "another sheet or scale")
                               : store::writeWhole(path, bytes);
    }
    const auto file = report::drawingFile(m_drawing, *layout, path.toStdString());
    if (!file)
        return tl::make_unexpected(file.error());
    return store::writeWhole(path, QByteArray::fromStdString(file->bytes));
}

core::Result<QString> SectionsDialog::completed(const QString& chosen) const {
    const QString ending = QLatin1Char('.') + m_kind->currentData().toString();
    if (chosen.endsWith(ending, Qt::CaseInsensitive))
        return chosen;
    if (QFileInfo::exists(chosen + ending))
        return core::problem((chosen + ending).toStdString(), "is there already",
                             "its whole name, to replace it, or another");
    return chosen + ending;
}

core::Result<void> SectionsDialog::apply() {
    const QString chosen = QFileDialog::getSaveFileName(
        this, tr("Export sections"), proposedName(), QStringLiteral("%1 (*.%1)").arg(m_kind->currentData().toString()));
    if (chosen.isEmpty())
        return core::problem(tr("Not written").toStdString(), "no name was chosen", "");
    const auto path = completed(chosen);
    return path ? writeTo(*path) : tl::make_unexpected(path.error());
}

} // namespace app

#include "moc_sections_dialog.cpp"
