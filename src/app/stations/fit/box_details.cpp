// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/box_details.h"

#include "app/paint/labels.h"

#include <algorithm>

namespace app {
using core::Quantity;

namespace {
constexpr double titlePx = 18, linePx = 16;
constexpr double leastPx = 26, mostPx = 64;
double radiusOf(const QRectF& r) {
    return std::min({r.width() / 2 - 8, (r.height() - titlePx - 8 - 2 * linePx) / 2, mostPx});
}
} // namespace

bool hasRoomForVentOnFan(const QRectF& r) { return radiusOf(r) >= leastPx; }

void paintVentOnFan(Canvas& c, const QRectF& r, const core::box::VentOnFan& now,
                    const std::optional<core::box::VentOnFan>& before, const View& v) {
    c.second({r.left(), r.top(), r.width(), titlePx}, QObject::tr("vent on fan"), Qt::AlignHCenter | Qt::AlignVCenter,
             11.5);
    const double radius = radiusOf(r);
    // Both fit: the fan about the middle, the vent as far off as it reaches.
    double reach = now.frameMm / 2;
    for (std::size_t i = 0; i < 2; ++i)
        reach = std::max(reach, now.halfVent[i] + std::abs(now.off[i]));
    const double scale = radius / reach;
    const QPointF middle(r.center().x(), r.top() + titlePx + radius + 4);
    const auto vent = [&](const core::box::VentOnFan& of) {
        const QPointF at = middle + QPointF(of.off[0], -of.off[1]) * scale;
        const QRectF rim(at - QPointF(of.halfVent[0], of.halfVent[1]) * scale,
                         at + QPointF(of.halfVent[0], of.halfVent[1]) * scale);
        of.round ? c.p.drawEllipse(rim) : c.p.drawRect(rim);
        return at;
    };
    c.p.setBrush(Qt::NoBrush);
    const double half = now.frameMm / 2 * scale, blades = now.bladesMm / 2 * scale;
    c.box({middle.x() - half, middle.y() - half, 2 * half, 2 * half}, c.t.sheet, c.t.ink2, 1);
    QPen pen(c.t.ink, 1);
    pen.setDashPattern({12, 3, 3, 3});
    c.p.setPen(pen);
    c.p.setBrush(Qt::NoBrush);
    c.p.drawEllipse(middle, blades, blades);
    if (before) {
        QPen ghost(c.t.line, 1);
        ghost.setDashPattern({5, 3});
        c.p.setPen(ghost);
        vent(*before);
    }
    c.p.setPen(QPen(c.t.medge, 2));
    const QPointF at = vent(now);
    c.p.setPen(QPen(c.t.medge, 1.4));
    c.p.drawLine(middle, at);
    c.hline(middle.x() - 5, middle.x() + 5, middle.y(), c.t.ink);
    c.vline(middle.x(), middle.y() - 5, middle.y() + 5, c.t.ink);
    c.p.setBrush(c.t.medge);
    c.p.drawEllipse(at, 2.5, 2.5);
    double y = middle.y() + radius + 4;
    const auto line = [&](const QString& words, bool strong) {
        c.text({r.left(), y, r.width(), linePx}, words, 11.5, strong ? Weight::Medium : Weight::Regular,
               strong ? c.t.ink : c.t.ink2, Qt::AlignHCenter | Qt::AlignVCenter);
        y += linePx;
    };
    line(QObject::tr("off centre %1").arg(v.text(Quantity::Length, now.offMm())), false);
    const double rim = now.rimMm();
    line(rim < 0 ? QObject::tr("rim on blades %1").arg(v.text(Quantity::Length, -rim))
                 : QObject::tr("rim clear %1").arg(v.text(Quantity::Length, rim)),
         true);
}

void paintNamesInside(Canvas& c, std::vector<NamedPlace> parts, const std::vector<QRectF>& off) {
    const auto area = [](const NamedPlace& p) { return p.at.width() * p.at.height(); };
    std::stable_sort(parts.begin(), parts.end(),
                     [&](const NamedPlace& a, const NamedPlace& b) { return area(a) > area(b); });
    Labels labels;
    for (const QRectF& r : off)
        labels.keepOff(r);
    constexpr double px = 11, height = 15;
    for (const NamedPlace& part : parts) {
        const QSizeF size(c.width(part.name, px) + 6, height);
        if (size.width() > part.at.width() - 2 || height > part.at.height() - 2)
            continue;
        const auto at = labels.place(size, part.at.center(), part.at.height() / 2, part.at);
        if (!at)
            continue;
        QColor paper = c.t.paper;
        paper.setAlphaF(0.8F); // what lies below it goes on being seen
        c.p.fillRect(*at, paper);
        c.second(*at, part.name, Qt::AlignCenter, px);
    }
}

} // namespace app
