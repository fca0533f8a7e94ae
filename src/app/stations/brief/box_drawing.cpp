// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/box_drawing.h"

#include <algorithm>

namespace app {
namespace {

double wallMm(const core::Build& build) { return build.caseSpec().wall.value.mm(); }

/// Openings of the walls that are seen from their edge: a row of bars in place of the wall.
void paintOpenings(Canvas& c, const BoxView& v, const QRectF& in, double scale, double wall) {
    for (const core::Opening& o : v.build.openings) {
        const core::Direction out = core::outward(o.side);
        if (!o.to.empty() || o.style == core::OpeningStyle::Closed || out.axis == v.through())
            continue;
        const bool upright = out.axis == v.across; // the wall stands
        const core::Axis along = upright ? v.up : v.across;
        const std::size_t i = core::planeAxes(o.side)[0] == along ? 0 : 1;
        const double from = (o.centreMm[i] - o.sizeMm[i] / 2) * scale, length = o.sizeMm[i] * scale;
        const double x = out.sign > 0 ? in.right() : in.left() - wall, y = out.sign > 0 ? in.top() - wall : in.bottom();
        QRectF bar =
            upright ? QRectF(x, in.bottom() - from - length, wall, length) : QRectF(in.left() + from, y, length, wall);
        bar = bar.intersected(in.adjusted(-wall, -wall, wall, wall));
        c.p.fillRect(bar, c.t.sheet);
        for (double s = 1; s + 3 <= (upright ? bar.height() : bar.width()); s += 5)
            c.p.fillRect(upright ? QRectF(bar.left(), bar.top() + s, wall, 3)
                                 : QRectF(bar.left() + s, bar.top(), 3, wall),
                         c.t.ink);
    }
}

} // namespace

void paintPartsInside(Canvas& c, const BoxView& v, const QRectF& in, double scale) {
    std::vector<const core::Placed*> parts;
    for (const core::Placed& p : v.build.placed)
        parts.push_back(&p);
    const std::size_t t = core::index(v.through());
    std::stable_sort(parts.begin(), parts.end(), [&](const auto* a, const auto* b) {
        return v.fromHigh ? a->highAt[t] < b->highAt[t] : a->lowAt[t] > b->lowAt[t];
    });
    for (const core::Placed* p : parts) {
        const auto at = [&](const std::array<core::Length, 3>& mm) {
            return QPointF(in.left() + mm[core::index(v.across)].mm() * scale,
                           in.bottom() - mm[core::index(v.up)].mm() * scale);
        };
        const QRectF r = QRectF(at(p->lowAt), at(p->highAt)).normalized();
        if (r.width() < 0.5 && r.height() < 0.5)
            continue;
        if (std::min(r.width(), r.height()) < 4)
            c.p.fillRect(r.width() < 1.5    ? r.adjusted(-0.75, 0, 0.75, 0)
                         : r.height() < 1.5 ? r.adjusted(0, -0.75, 0, 0.75)
                                            : r,
                         c.t.ink);
        else
            c.hatch(r, p->part->kind, c.t.sheet, v.faded ? c.t.hair : c.t.ink, 1);
    }
}

QSizeF BoxView::sizeMm() const {
    const double w = 2 * wallMm(build);
    return {build.insideAt[core::index(across)].mm() + w,
            build.insideAt[core::index(up)].mm() + w + build.feet.value.mm()};
}

QRectF paintEmptyBox(Canvas& c, const BoxView& v, const QPointF& at, double scale) {
    const double wall = std::max(2.0, wallMm(v.build) * scale), feet = v.build.feet.value.mm() * scale;
    const double w = v.build.insideAt[core::index(v.across)].mm() * scale,
                 h = v.build.insideAt[core::index(v.up)].mm() * scale;
    const QRectF in(at.x() + wall, at.y() - feet - wall - h, w, h);
    c.p.fillRect(in, c.t.sheet);
    c.p.setPen(Qt::NoPen);
    QPainterPath walls;
    walls.setFillRule(Qt::OddEvenFill);
    walls.addRect(in.adjusted(-wall, -wall, wall, wall));
    walls.addRect(in);
    c.p.fillPath(walls, c.t.ink);
    paintOpenings(c, v, in, scale, wall);
    if (feet >= 1)
        for (const double x : {in.left() + w * 0.08, in.right() - w * 0.08 - 8})
            c.p.fillRect(QRectF(x, in.bottom() + wall, std::min(8.0, w / 4), feet), c.t.ink);
    return in;
}

QRectF paintBox(Canvas& c, const BoxView& v, const QPointF& at, double scale) {
    const QRectF in = paintEmptyBox(c, v, at, scale);
    paintPartsInside(c, v, in, scale);
    return in;
}

} // namespace app
