// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"

#include <QBuffer>
#include <QRegularExpression>
#include <QSvgGenerator>
#include <QTextDocumentFragment>

#include <functional>

namespace support {

/// The words a painter puts on a stage of this size, in the order they are written.
inline QStringList paintedWords(const std::function<void(app::Canvas&, const QRectF&)>& paint, QSize size = {790, 640},
                                const core::Thing& selected = {}) {
    QBuffer buffer;
    QSvgGenerator generator;
    generator.setOutputDevice(&buffer);
    generator.setSize(size);
    generator.setViewBox(QRect({}, size));
    QPainter p(&generator);
    const app::Theme theme = app::Theme::light();
    app::Canvas c(p, theme, selected);
    paint(c, QRectF(8, 8, size.width() - 16, size.height() - 16));
    p.end();
    static const QRegularExpression text(QStringLiteral("<text[^>]*>([^<]*)</text>"));
    QStringList words;
    for (auto at = text.globalMatch(QString::fromUtf8(buffer.data())); at.hasNext();)
        words << QTextDocumentFragment::fromHtml(at.next().captured(1)).toPlainText().trimmed();
    return words;
}

} // namespace support
