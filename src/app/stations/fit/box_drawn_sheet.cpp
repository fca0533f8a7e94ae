// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/box_details.h"
#include "app/stations/fit/box_sheet.h"
#include "app/ui/own_canvas.h"
#include "core/model/cutout_edits.h"
#include "core/model/slot_covers.h"

#include <QPainter>

#include <algorithm>

// How the sheet of the editor is painted.
namespace app {
using core::Axis;
using core::box::Extent;
using core::box::Item;
using core::box::Kind;

void BoxSheet::paintThings(Canvas& c, const Side& s) {
    for (const Item& item : things()) {
        if (item.kind == Kind::Walls || (m_item && item == *m_item) || !isSeen(item, s))
            continue;
        const QRectF r = rectOf(extentOf(item), s);
        QPen pen(item.kind == Kind::Chamber ? c.t.line : c.t.ink2, 1);
        pen.setDashPattern(item.kind == Kind::Chamber  ? QList<qreal>{2, 4}
                           : item.kind == Kind::Vent   ? QList<qreal>{9, 3, 2, 3}
                           : item.kind == Kind::Cutout ? QList<qreal>{2, 2}
                                                       : QList<qreal>{4, 3});
        c.p.setPen(pen);
        c.p.setBrush(Qt::NoBrush);
        const bool round = isRound(item) && std::min(r.width(), r.height()) > 8;
        round ? c.p.drawEllipse(r) : c.p.drawRect(r);
    }
}

/// What stands there, in its place where its name has room; grips lie over no name.
void BoxSheet::paintNames(Canvas& c, int view) {
    const Side& s = m_sides[static_cast<std::size_t>(view)];
    std::vector<NamedPlace> names;
    for (const core::Placed& p : m_build->placed) {
        Extent e;
        for (std::size_t a = 0; a < 3; ++a) {
            e.low[a] = p.lowAt[a].mm();
            e.high[a] = p.highAt[a].mm();
        }
        names.push_back({qs(p.part->name), rectOf(e, s)});
    }
    std::vector<QRectF> off;
    for (const Grip& grip : m_item ? grips() : std::vector<Grip>{})
        if (grip.view == view) {
            const QPointF at = gripAt(grip);
            off.emplace_back(at.x() - gripPx, at.y() - gripPx, 2 * gripPx, 2 * gripPx);
        }
    paintNamesInside(c, std::move(names), off);
}

void BoxSheet::paintSelected(Canvas& c, int view) {
    const Side& s = m_sides[static_cast<std::size_t>(view)];
    if (m_before && isSeen(*m_item, s)) {
        QPen ghost(c.t.line, 1);
        ghost.setDashPattern({5, 3});
        c.p.setPen(ghost);
        c.p.setBrush(Qt::NoBrush);
        c.p.drawRect(rectOf(*m_before, s));
    }
    if (!isSeen(*m_item, s))
        return;
    const QRectF r = rectOf(extentOf(*m_item), s);
    QColor wash = c.t.marker;
    wash.setAlphaF(m_item->kind == Kind::Walls ? 0.0F : 0.45F);
    if (isRound(*m_item) && std::min(r.width(), r.height()) > 8) {
        c.p.setPen(QPen(c.t.medge, 2.2));
        c.p.setBrush(wash);
        c.p.drawEllipse(r);
    } else {
        c.box(r, wash, c.t.medge, 2.2);
    }
    for (const Axis axis : {s.across, s.up})
        if (const auto& at = m_snap[core::index(axis)]) {
            QPen line(c.t.medge, 1);
            line.setDashPattern({12, 3, 3, 3});
            c.p.setPen(line);
            axis == s.across ? c.p.drawLine(QPointF(s.at(*at, 0).x(), s.inside.top() - 8),
                                            QPointF(s.at(*at, 0).x(), s.inside.bottom() + 8))
                             : c.p.drawLine(QPointF(s.inside.left() - 8, s.at(0, *at).y()),
                                            QPointF(s.inside.right() + 8, s.at(0, *at).y()));
        }
    for (const Grip& grip : grips()) {
        if (grip.view != view)
            continue;
        const QPointF at = gripAt(grip);
        const bool hot = grip == m_hovered || grip == m_grip;
        c.p.setPen(QPen(c.t.medge, 1.6));
        c.p.setBrush(hot ? c.t.medge : c.t.sheet);
        // Smaller where the ends lie close to it.
        const double across = std::min(r.width(), r.height());
        const double half = across < gripPx ? 6.5 : std::clamp(0.5 * across - gripPx / 2 - 2, 3.5, 6.5);
        if (grip.isMiddle())
            c.p.drawPolygon(QPolygonF{at + QPointF(0, -half), at + QPointF(half, 0), at + QPointF(0, half),
                                      at + QPointF(-half, 0)});
        else
            c.p.drawRect(QRectF(at.x() - gripPx / 2, at.y() - gripPx / 2, gripPx, gripPx));
    }
}

/// The number of covers is stated with the walls; they lie where the card stands.
void BoxSheet::paintCovers(Canvas& c, int view) {
    const Side& s = m_sides[static_cast<std::size_t>(view)];
    for (const Extent& e : core::box::slotCoversOf(*m_build)) {
        const QRectF r = rectOf(e, s);
        const bool edge = s.across == Axis::Y; // the rear wall is seen from its edge
        QPen pen(c.t.ink, 1);
        if (!edge)
            pen.setDashPattern({9, 3, 2, 3}); // behind what is drawn
        c.p.setPen(pen);
        c.p.setBrush(edge ? QBrush(c.t.sheet) : QBrush());
        c.p.drawRect(edge ? r.adjusted(0, 0.5, 2, -0.5) : r);
    }
}

/// Below the front view, where there is room for it beside the view from above.
void BoxSheet::paintDetail(Canvas& c) {
    const auto now = ventOnFan();
    const double wall = std::max(2.0, m_build->caseSpec().wall.value.mm() * m_sides[2].scale);
    const double top = m_sides[0].inside.bottom() + wall + m_build->feet.value.mm() * m_sides[0].scale + 8;
    const QRectF room(QPointF(4, top), QPointF(m_sides[2].inside.left() - wall - 6, height() - 4));
    if (!now || !hasRoomForVentOnFan(room))
        return;
    const bool same = m_onFanBefore && m_onFanBefore->vent == now->vent && m_onFanBefore->place == now->place;
    paintVentOnFan(c, room, *now, m_before && same ? m_onFanBefore : std::nullopt, m_context.view());
}

/// While something of the case is dragged its parts stay where they are: they are painted once.
void BoxSheet::paintStandingParts(Canvas& c, const std::array<BoxView, 3>& views) {
    PartsPicture now{
        .size = size(), .ratio = devicePixelRatioF(), .ink = c.t.hair, .parts = {}, .insides = {}, .picture = {}};
    for (const core::Placed& p : m_build->placed)
        now.parts.push_back({p.part->kind, p.lowAt, p.highAt});
    for (const Side& s : m_sides)
        now.insides.push_back(s.inside);
    if (!now.isAs(m_partsPicture)) {
        m_partsPicture = std::move(now);
        m_partsPicture.picture = QPixmap(size() * devicePixelRatioF());
        m_partsPicture.picture.setDevicePixelRatio(devicePixelRatioF());
        m_partsPicture.picture.fill(Qt::transparent);
        QPainter on(&m_partsPicture.picture);
        on.setRenderHint(QPainter::Antialiasing);
        Canvas parts(on, c.t);
        for (std::size_t view = 0; view < 3; ++view)
            paintPartsInside(parts, views[view], m_sides[view].inside, m_sides[view].scale);
    }
    c.p.drawPixmap(0, 0, m_partsPicture.picture);
}

void BoxSheet::paintEvent(QPaintEvent*) {
    OwnCanvas own(*this, m_context.theme);
    Canvas& c = own.canvas();
    c.p.fillRect(rect(), c.t.paper);
    if (!m_build || !m_case)
        return c.text(QRectF(rect()).adjusted(16, 16, -16, -16),
                      tr("The box cannot be drawn: see what is found below."), 13, Weight::Medium, c.t.ink,
                      Qt::AlignTop | Qt::AlignLeft);
    const std::array<QString, 3> titles{tr("front"), tr("from the right"), tr("from above, right side up")};
    const auto viewOf = [&](std::size_t i) {
        return BoxView{*m_build, m_sides[i].across, m_sides[i].up, i != 0, true};
    };
    const std::array<BoxView, 3> views{viewOf(0), viewOf(1), viewOf(2)};
    for (std::size_t view = 0; view < 3; ++view) {
        const Side& s = m_sides[view];
        const double wall = std::max(2.0, m_build->caseSpec().wall.value.mm() * s.scale);
        paintEmptyBox(c, views[view],
                      {s.inside.left() - wall, s.inside.bottom() + wall + m_build->feet.value.mm() * s.scale}, s.scale);
        c.second({s.inside.left() - wall, s.inside.top() - wall - 18, 200, 16}, titles[view],
                 Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    }
    paintStandingParts(c, views);
    for (int view = 0; view < 3; ++view) {
        paintThings(c, m_sides[static_cast<std::size_t>(view)]);
        paintCovers(c, view);
        paintNames(c, view);
        if (m_item)
            paintSelected(c, view);
    }
    paintDetail(c);
    if (hasFocus())
        c.box(QRectF(rect()).adjusted(1, 1, -1, -1), {}, c.t.ink, 1.5);
}

} // namespace app
