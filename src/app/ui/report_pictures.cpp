// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/report_pictures.h"

#include <QBuffer>
#include <QSvgGenerator>

namespace app {

std::vector<report::Picture> reportPictures(const Context& context) {
    std::vector<report::Picture> pictures;
    const Theme light = Theme::light();
    const View view = context.view();
    if (!view.evaluation())
        return pictures;
    const auto paint = [&](const QString& title, const std::function<void(Canvas&, const QRectF&)>& painter) {
        QBuffer buffer;
        QSvgGenerator generator;
        generator.setOutputDevice(&buffer);
        generator.setSize({1000, 660});
        generator.setViewBox(QRect(0, 0, 1000, 660));
        generator.setTitle(title);
        QPainter p(&generator);
        p.setRenderHint(QPainter::Antialiasing);
        p.fillRect(QRectF(0, 0, 1000, 660), light.paper);
        Canvas canvas(p, light);
        painter(canvas, QRectF(12, 10, 976, 640));
        p.end();
        // Only the element itself: the page around it has a head of its own.
        const QByteArray svg = buffer.data();
        pictures.push_back({title.toStdString(), svg.mid(svg.indexOf("<svg")).toStdString()});
    };
    paint(QObject::tr("Fit"), [&](Canvas& c, const QRectF& r) { paintFit(c, r, view, {.paper = true}); });
    paint(QObject::tr("Air"), [&](Canvas& c, const QRectF& r) { paintAir(c, r, view); });
    return pictures;
}

} // namespace app
