// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_details.h"

#include <cmath>

#include <QPainterPath>

namespace app {
using core::Axis;
using core::Quantity;

namespace {

/// Millimetres along the strip, in px.
struct Along {
    double zeroX, scale;
    [[nodiscard]] double x(double mm) const { return zeroX + mm * scale; }
};

void paintCutButtons(Canvas& c, const QRectF& r, Axis axis) {
    double x = r.left();
    for (const auto& [letter, which] :
         {std::pair{QStringLiteral("A"), Axis::Y}, std::pair{QStringLiteral("B"), Axis::X},
          std::pair{QStringLiteral("C"), Axis::Z}}) {
        const QRectF button(x, r.top() + 22, 26, 24);
        const bool on = which == axis;
        c.box(button, on ? c.t.ink : c.t.sheet, on ? c.t.ink : c.t.line, 1);
        c.text(button, letter, 12.5, Weight::SemiBold, on ? c.t.paper : c.t.ink, Qt::AlignCenter);
        c.hit(button, Handle{.act = Act::ChooseCut, .axis = which}, QObject::tr("Cut %1-%1 (key %1)").arg(letter));
        x += 26;
    }
}

/// As many lanes of extents as it takes for every part to be there.
void paintExtents(Canvas& c, const QRectF& r, const std::vector<core::fit::PlacedBody>& bodies,
                  const core::Build& build, std::size_t k, const Along& along) {
    struct Extent {
        const core::fit::PlacedBody* body;
        std::size_t lane;
    };
    std::vector<double> laneEnd;
    std::vector<Extent> extents;
    for (const auto& b : bodies) {
        if (b.role == core::BodyRole::KeepOut)
            continue;
        auto lane = std::find_if(laneEnd.begin(), laneEnd.end(), [&](double end) { return end + 2 <= b.low[k].mm(); });
        if (lane == laneEnd.end())
            lane = laneEnd.insert(lane, -1e9);
        *lane = b.high[k].mm();
        extents.push_back({&b, static_cast<std::size_t>(lane - laneEnd.begin())});
    }
    const double laneH = std::min(13.0, 42.0 / share(laneEnd.size()));
    for (const auto& [b, lane] : extents)
        c.hatch({along.x(b->low[k].mm()), r.top() + 2 + laneH * static_cast<double>(lane),
                 std::max(3.0, (b->high[k].mm() - b->low[k].mm()) * along.scale), std::max(3.0, laneH - 3)},
                build.placed[b->placed].part->kind, c.t.sheet, c.t.ink, 1);
}

void paintStripScale(Canvas& c, double axisY, const View& v, double size, const Along& along) {
    const bool inch = v.show.units().inch;
    const double step = inch ? (size > 160 ? 50.8 : 25.4) : size > 160 ? 50 : 20;
    for (double mm = 0; mm <= size; mm += step / (inch ? 4 : 5))
        c.vline(along.x(mm), axisY, axisY + (std::fmod(mm, step) < 0.01 ? 8 : 4), c.t.line);
    for (double mm = 0; mm <= size; mm += step)
        c.text({along.x(mm) - 25, axisY + 8, 50, 14}, QString::number(std::lround(v.show.value(Quantity::Length, mm))),
               11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
}

} // namespace

void paintCutStrip(Canvas& c, const QRectF& r, const View& v, const std::vector<core::fit::PlacedBody>& bodies,
                   Axis axis, double atMm, const StripPlace& place) {
    const auto& build = v.evaluation()->build;
    const std::size_t k = core::index(axis);
    const double size = build.insideAt[k].mm();
    // Only the depth lies along the paper at the drawing's scale; the other two take the width they have.
    const bool along = axis == Axis::Y;
    const double leftX = place.leftX, scale = along ? place.scale : (r.right() - leftX) / size;
    double zeroX = along ? place.zeroX : leftX;
    double from = std::clamp((leftX - zeroX) / scale, 0.0, size),
           to = std::clamp((r.right() - zeroX) / scale, 0.0, size);
    if (to - from < 1) { // the drawing is moved quite out of sight: the strip shows where one would find it
        zeroX = leftX;
        from = 0;
        to = std::min(size, (r.right() - leftX) / scale);
    }
    const bool whole = from <= 0 && to >= size;
    c.text({r.left(), r.top(), 90, 20}, QObject::tr("Move a cut"), 12.5, Weight::SemiBold);
    paintCutButtons(c, r, axis);
    c.text({r.left() + 60, r.top(), leftX - r.left() - 74, 20}, v.text(Quantity::Length, atMm), 12.5, Weight::SemiBold,
           c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    c.paragraph({r.left(), r.top() + 50, leftX - r.left() - 14, 40},
                v.show.units().inch ? QObject::tr("arrows %1, Shift %2, End next part")
                                          .arg(v.text(Quantity::Length, 1), v.text(Quantity::Length, 10))
                                    : QObject::tr("arrows 1 mm, Shift 10, End next part"),
                11, Weight::Regular, c.t.ink2, 2);
    c.p.save();
    if (!whole)
        c.p.setClipRect(QRectF(leftX - 8, r.top() - 12, r.right() - leftX + 16, r.height() + 24), Qt::IntersectClip);
    paintExtents(c, r, bodies, build, k, {zeroX, scale});
    const double axisY = r.top() + 50, at = zeroX + atMm * scale;
    c.hline(zeroX, zeroX + size * scale, axisY, c.t.ink, 1.4);
    paintStripScale(c, axisY, v, size, {zeroX, scale});
    QPen dash(c.t.medge, 1);
    dash.setDashPattern({12, 3, 3, 3});
    c.p.setPen(dash);
    c.p.drawLine(QPointF(at, r.top() - 4), QPointF(at, axisY));
    c.p.setPen(QPen(c.t.medge, 1.4));
    c.p.setBrush(c.t.marker);
    c.p.drawPolygon(
        QPolygonF{{at - 6, axisY + 9}, {at - 6, axisY - 3}, {at, axisY - 9}, {at + 6, axisY - 3}, {at + 6, axisY + 9}});
    c.p.restore();
    // What part of the case the strip shows goes with its key, for who drags on it.
    const Handle key{.act = Act::SlideCut, .fromMm = whole ? 0 : from, .toMm = whole ? 0 : to};
    c.hit({zeroX + from * scale, r.top(), (to - from) * scale, axisY + 10 - r.top()}, key,
          QObject::tr("Drag or click to move the cut"));
}

void paintGapLens(Canvas& c, const QRectF& r, const View& v) {
    const auto& fit = v.evaluation()->fit;
    if (fit.gaps.empty())
        return;
    std::size_t rung = 0;
    for (std::size_t i = 0; i < fit.gaps.size(); ++i)
        if (c.isSelected(fit.gaps[i].ref))
            rung = i;
    const auto& gap = fit.gaps[rung];
    const auto& build = v.evaluation()->build;
    const double radius = std::min(r.width(), r.height() - 20) / 2;
    const QPointF centre(r.center().x(), r.top() + radius);
    // So large that the gap and its doubt take about a third of the circle.
    const double mm = gap.nominal.mm(), show = std::max({std::abs(mm) + gap.worstBandMm, gap.requiredMm, 2.0});
    const double scale = 0.72 * radius / show;
    QPainterPath circle;
    circle.addEllipse(centre, radius, radius);
    c.p.save();
    c.p.setClipPath(circle);
    c.p.fillPath(circle, c.t.sheet);
    const double left = centre.x() - mm * scale / 2, right = centre.x() + mm * scale / 2;
    const auto face = [&](const core::fit::GapEnd& end, double from, double to) {
        const QRectF body(QPointF(from, centre.y() - radius), QPointF(to, centre.y() + radius));
        const core::Placed* p = end.mount.empty() ? nullptr : build.at(end.mount);
        if (end.face == core::fit::Face::KeepOut)
            c.pattern(body, Canvas::Pattern::KeepClear);
        else
            c.hatch(body, p ? p->part->kind : core::PartKind::Case, p ? c.t.sheet : c.t.ink, c.t.ink, 1.4);
    };
    face(gap.between[0], centre.x() - radius - 2, left);
    face(gap.between[1], right, centre.x() + radius + 2);
    if (mm < 0)
        c.pattern(QRectF(QPointF(right, centre.y() - radius), QPointF(left, centre.y() + radius)),
                  Canvas::Pattern::Over);
    c.p.restore();
    c.p.setPen(QPen(c.t.ink, 2));
    c.p.setBrush(Qt::NoBrush);
    c.p.drawEllipse(centre, radius, radius);
    if (mm > 0) {
        c.arrow(centre + QPointF(0, -4), {left, centre.y() - 4}, c.t.ink);
        c.arrow(centre + QPointF(0, -4), {right, centre.y() - 4}, c.t.ink);
    }
    c.plate(centre + QPointF(0, -20), v.number(Quantity::Length, mm), 12.5, Weight::SemiBold, c.t.medge);
    c.plate(centre + QPointF(0, 16), QObject::tr("needs %1").arg(v.number(Quantity::Length, gap.requiredMm)), 11,
            Weight::Regular);
    // Larger or smaller than life, with a digit where it matters.
    const double times = scale * 25.4 / 96;
    const auto digits = [](double x) { return app::digits(x, x < 9.95 && std::abs(x - std::round(x)) > 0.05 ? 1 : 0); };
    const QString words = times >= 1 ? QObject::tr("Gap %1, %2 : 1").arg(rung + 1).arg(digits(times))
                                     : QObject::tr("Gap %1, 1 : %2").arg(rung + 1).arg(digits(1 / times));
    c.text({r.left() - 10, centre.y() + radius + 3, r.width() + 20, 16}, words, 11.5, Weight::SemiBold, c.t.ink,
           Qt::AlignCenter);
}

void paintChain(Canvas& c, const QRectF& r, const core::fit::Gap& gap, const View& v) {
    double positive = 0;
    for (const auto& item : gap.chain)
        if (item.sign > 0)
            positive += item.factor * item.valueMm;
    const double whole = std::max(positive, 1e-6),
                 scale = (r.width() - 16) / std::max(whole, whole - std::min(0.0, gap.nominal.mm()));
    double x = r.left() + 8;
    c.box({r.left() + 8, r.top() + 2, whole * scale, 6}, {}, c.t.ink, 1);
    const double y = r.top() + 14;
    int k = 0;
    for (const auto& item : gap.chain) {
        if (item.sign > 0)
            continue;
        const QRectF bar(x, y, item.factor * item.valueMm * scale, 20);
        c.box(bar, c.t.sheet, c.t.ink, 1);
        c.pattern(bar.adjusted(1, 1, -1, -1), k++ % 2 ? Canvas::Pattern::Diagonal : Canvas::Pattern::LevelLines);
        const QString label = v.number(Quantity::Length, item.factor * item.valueMm);
        if (bar.width() > c.width(label, 12) + 12)
            c.plate(bar.center(), label);
        x += bar.width();
    }
    const QRectF left(x, y, std::max(2.0, gap.nominal.mm() * scale), 20);
    c.box(left, c.t.marker, c.t.medge, 1.5);
    QString sum;
    for (const auto& item : gap.chain) {
        // One sign before each size: a size that is itself negative turns it.
        const double term = (item.sign > 0 ? 1 : -1) * item.factor * item.valueMm;
        sum += (sum.isEmpty() ? (term >= 0 ? QString() : QStringLiteral("\u2212 "))
                : term >= 0   ? QStringLiteral(" + ")
                              : QStringLiteral(" \u2212 ")) +
               v.number(Quantity::Length, std::abs(term));
    }
    sum += QStringLiteral(" = ") + v.number(Quantity::Length, gap.nominal.mm()) + QStringLiteral(" ±") +
           v.number(Quantity::Length, gap.worstBandMm);
    if (c.width(sum, 12, Weight::SemiBold) > r.width() - 16) // what it comes to is never cut off
        sum = QObject::tr("%1 sizes").arg(gap.chain.size()) + sum.mid(sum.lastIndexOf(QStringLiteral(" = ")));
    c.text({r.left() + 8, y + 22, r.width() - 16, 18}, c.elided(sum, r.width() - 16, 12, Weight::SemiBold), 12,
           Weight::SemiBold);
}

} // namespace app
