// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/scene/stations.h"

#include "core/base/text.h"

#include <QPainterPath>

#include <cmath>

namespace app {
using core::Axis;
using core::Mark;
using core::PartKind;
using core::Quantity;

namespace {

/// The case seen from the side (depth across, height up), to scale.
struct SideView {
    QRectF paper;
    double scale = 1;
    [[nodiscard]] QPointF at(double yMm, double zMm) const { return {paper.left() + yMm * scale, paper.bottom() - zMm * scale}; }
    [[nodiscard]] QRectF rect(const core::Placed& p) const { return QRectF(at(p.lowAt[1].mm(), p.lowAt[2].mm()), at(p.highAt[1].mm(), p.highAt[2].mm())).normalized(); }
};

/// A stream of air as wide as its flow, coloured along its length, with chevrons.
void ribbon(Canvas& c, const QPainterPath& path, double flowM3h, double fromK, double toK, bool arrowHead) {
    const double width = std::clamp(0.72 * flowM3h, 3.0, 26.0);
    QPen edge(c.t.sheet, width + 3, Qt::SolidLine, Qt::FlatCap, Qt::RoundJoin);
    c.p.setBrush(Qt::NoBrush);
    c.p.setPen(edge);
    c.p.drawPath(path);
    const double length = path.length();
    const int pieces = std::max(8, static_cast<int>(length / 4));
    for (int i = 0; i < pieces; ++i) {
        const double a = static_cast<double>(i) / pieces, b = std::min(1.0, (i + 1.2) / pieces);
        c.p.setPen(QPen(c.t.flowOf(fromK + (toK - fromK) * a), width, Qt::SolidLine, Qt::FlatCap));
        c.p.drawLine(path.pointAtPercent(a), path.pointAtPercent(b));
    }
    c.p.setPen(QPen(c.t.sheet, 1.2));
    for (double s = 20; s < length - 10; s += 34) {
        const double at = path.percentAtLength(s), angle = -path.angleAtPercent(at) * M_PI / 180;
        const QPointF tip = path.pointAtPercent(at), along(std::cos(angle), std::sin(angle)), side(-along.y(), along.x());
        const double k = std::min(width * 0.3, 5.0);
        c.p.drawLine(tip, tip - along * 4 + side * k);
        c.p.drawLine(tip, tip - along * 4 - side * k);
    }
    if (arrowHead) {
        const double angle = -path.angleAtPercent(0.999) * M_PI / 180;
        const QPointF tip = path.pointAtPercent(1), along(std::cos(angle), std::sin(angle)), side(-along.y(), along.x());
        const double k = width * 0.5 + 5;
        QPolygonF head{tip + along * (k * 0.9), tip + side * k, tip - side * k};
        c.p.setPen(QPen(c.t.sheet, 1));
        c.p.setBrush(c.t.flowOf(toK));
        c.p.drawPolygon(head);
    }
}

QPainterPath curve(const QPointF& a, const QPointF& da, const QPointF& b, const QPointF& db) {
    QPainterPath path(a);
    const double k = 0.45 * std::hypot(b.x() - a.x(), b.y() - a.y());
    path.cubicTo(a + da * k, b - db * k, b);
    return path;
}

/// Where a side meets the paper and which way is out; left and right stand towards and away from the viewer.
struct Gate { QPointF wall; QPointF out; bool facesViewer = false; };
Gate gateOf(const SideView& s, core::Side side, double y, double z) {
    switch (side) {
    case core::Side::Front: return {{s.paper.left(), s.at(0, z).y()}, {-1, 0}};
    case core::Side::Rear: return {{s.paper.right(), s.at(0, z).y()}, {1, 0}};
    case core::Side::Top: return {{s.at(y, 0).x(), s.paper.top()}, {0, -1}};
    case core::Side::Bottom: return {{s.at(y, 0).x(), s.paper.bottom()}, {0, 1}};
    default: return {s.at(y, z), {0, 0}, true};
    }
}

double chamberK(const core::air::Prediction& air, const std::string& id) {
    for (const auto& ch : air.chambers)
        if (ch.id == id)
            return ch.airC - air.conditions.roomC;
    return 0;
}

/// The chamber that holds the middle of a part.
std::string chamberOf(const core::Build& build, const core::Placed& p) {
    for (const core::Chamber& ch : build.caseSpec().chambers) {
        bool inside = true;
        for (std::size_t a = 0; a < 3; ++a) {
            const double middle = 0.5 * (p.lowAt[a].mm() + p.highAt[a].mm());
            inside = inside && middle >= ch.lowMm[a] && middle <= ch.highMm[a];
        }
        if (inside)
            return ch.id;
    }
    return build.caseSpec().chambers.front().id;
}

void paintChambers(Canvas& c, const SideView& s, const View& v) {
    const auto& e = *v.evaluation();
    for (const core::Chamber& ch : e.build.caseSpec().chambers) {
        const QRectF r = QRectF(s.at(ch.lowMm[1], ch.lowMm[2]), s.at(ch.highMm[1], ch.highMm[2])).normalized();
        const double k = chamberK(e.air, ch.id);
        c.p.fillRect(r, c.t.tintOf(k));
        if (k > 18)
            c.pattern(r, Canvas::Pattern::Over);
    }
    c.p.fillRect(QRectF(s.paper.left() - 4, s.paper.top() - 4, s.paper.width() + 8, 4), c.t.ink);
    c.p.fillRect(QRectF(s.paper.left() - 4, s.paper.bottom(), s.paper.width() + 8, 4), c.t.ink);
    c.p.fillRect(QRectF(s.paper.left() - 4, s.paper.top() - 4, 4, s.paper.height() + 8), c.t.ink);
    c.p.fillRect(QRectF(s.paper.right(), s.paper.top() - 4, 4, s.paper.height() + 8), c.t.ink);
}

void paintParts(Canvas& c, const SideView& s, const View& v) {
    const auto& e = *v.evaluation();
    for (const core::Placed& p : e.build.placed) {
        if (p.part->kind == PartKind::Adapter || p.part->kind == PartKind::Cable || p.part->kind == PartKind::Processor)
            continue;
        const QRectF r = s.rect(p);
        const QString key = QStringLiteral("part:") + qs(p.mount);
        QColor ground = c.isSelected(key) ? c.t.marker : Qt::transparent;
        QColor ink = c.t.ink;
        ink.setAlphaF(p.part->kind == PartKind::Board ? 0.25F : 0.55F);
        if (p.part->kind == PartKind::Fan && p.facing().axis == Axis::X) {
            QPen dash(c.t.ink, 1);
            dash.setDashPattern({9, 3, 2, 3});
            c.p.setPen(dash);
            c.p.setBrush(Qt::NoBrush);
            c.p.drawEllipse(r.center(), r.width() / 2, r.height() / 2);
        } else {
            c.hatch(r, p.part->kind, ground, ink, 1);
        }
        if (p.part->kind != PartKind::Fan && p.part->kind != PartKind::Board)
            c.hit(r, key, QObject::tr("Part %1").arg(qs(p.part->name)));
    }
}

void wallOpening(Canvas& c, const SideView& s, const core::Opening& o, QRectF& bar) {
    const bool level = o.side == core::Side::Top || o.side == core::Side::Bottom;
    if (o.side == core::Side::Left || o.side == core::Side::Right)
        return;
    const double centre = o.centreMm[1], size = o.sizeMm[1];
    const double from = centre - size / 2, to = centre + size / 2;
    if (level)
        bar = QRectF(s.at(from, 0).x(), o.side == core::Side::Top ? s.paper.top() - 4 : s.paper.bottom(), (to - from) * s.scale, 4);
    else
        bar = QRectF(o.side == core::Side::Front ? s.paper.left() - 4 : s.paper.right(), s.at(0, to).y(), 4, (to - from) * s.scale);
    c.p.fillRect(bar, c.t.paper);
    const double solid = o.style == core::OpeningStyle::Plain ? 0.02 : 1 - o.perforation;
    const double length = level ? bar.width() : bar.height();
    for (double x = 0; x < length; x += 9)
        c.p.fillRect(level ? QRectF(bar.left() + x, bar.top(), std::min(9 * solid, length - x), 4) : QRectF(bar.left(), bar.top() + x, 4, std::min(9 * solid, length - x)), c.t.ink);
}

void paintOpenings(Canvas& c, const SideView& s, const View& v) {
    const auto& e = *v.evaluation();
    for (const auto& flow : e.air.openings) {
        const core::Opening* o = e.build.opening(flow.id);
        if (!o || !o->to.empty() || o->style == core::OpeningStyle::Closed)
            continue;
        QRectF bar;
        wallOpening(c, s, *o, bar);
        const bool upright = o->side == core::Side::Left || o->side == core::Side::Right;
        const double y = upright ? o->centreMm[0] : o->centreMm[1], z = o->centreMm[1];
        const Gate gate = gateOf(s, o->side, y, z);
        const QString key = QStringLiteral("opening:") + qs(flow.id);
        const double net = flow.flowM3h, k = flow.airC - e.air.conditions.roomC;
        const double chamber = chamberK(e.air, o->chamber);
        const QString words = v.number(Quantity::Flow, std::abs(net)) + QLatin1Char(' ') + v.unit(Quantity::Flow) + (net >= 0 ? QObject::tr(" out") : QObject::tr(" in"));
        if (gate.facesViewer) {
            const QRectF r = QRectF(s.at(o->centreMm[0] - o->sizeMm[0] / 2, o->centreMm[1] - o->sizeMm[1] / 2), s.at(o->centreMm[0] + o->sizeMm[0] / 2, o->centreMm[1] + o->sizeMm[1] / 2)).normalized();
            QPen pen(c.t.ink, 1);
            pen.setDashPattern({9, 3, 2, 3});
            c.p.setPen(pen);
            c.p.setBrush(Qt::NoBrush);
            c.p.drawRect(r);
            const QRectF plate = c.plate({r.center().x(), r.bottom() - 12}, qs(o->name) + QStringLiteral(": ") + words, 11.5, Weight::Regular, net >= 0 ? c.t.warm : c.t.cool);
            c.washIfSelected(plate, key);
            if (c.isSelected(key))
                c.plate({r.center().x(), r.bottom() - 12}, qs(o->name) + QStringLiteral(": ") + words, 11.5, Weight::SemiBold, c.t.medge);
            c.hit(plate, key, QObject::tr("Opening %1, %2").arg(qs(o->name), words));
            continue;
        }
        if (std::abs(net) > 0.5) {
            const QPointF inside = gate.wall - gate.out * 44, outside = gate.wall + gate.out * 24;
            const bool out = net >= 0;
            QPainterPath path(out ? inside : outside);
            path.lineTo(out ? outside : inside);
            ribbon(c, path, std::abs(net), out ? k : 0, out ? k : chamber, out);
        }
        const QPointF label = gate.wall + gate.out * 34 + (gate.out.y() != 0 ? QPointF(-64, gate.out.y() * 2) : QPointF(0, -18));
        const double w = c.width(words, 11.5);
        const QRectF at = gate.out.x() < 0 ? QRectF(gate.wall.x() - 8 - w, gate.wall.y() - 34, w, 16) : gate.out.x() > 0 ? QRectF(gate.wall.x() + 8, gate.wall.y() - 34, w, 16) : QRectF(label.x() - w / 2, label.y() - 8, w, 16);
        c.washIfSelected(at.adjusted(-3, 0, 3, 0), key);
        c.text(at, words, 11.5, Weight::Medium, c.t.ink);
        c.hit(at.united(bar), key, QObject::tr("Opening %1, %2").arg(qs(o->name), words));
    }
}

void paintFans(Canvas& c, const SideView& s, const View& v) {
    const auto& e = *v.evaluation();
    for (const auto& fan : e.air.fans) {
        const core::Placed* p = e.build.at(fan.id);
        const QRectF r = s.rect(*p);
        const QString key = QStringLiteral("fan:") + qs(fan.id);
        const bool x = p->facing().axis == Axis::X;
        QPointF at = r.center();
        const double k = fan.airC - e.air.conditions.roomC;
        if (p->part->kind == PartKind::Fan && !x) {
            const bool top = p->facing().axis == Axis::Z;
            const Gate gate = gateOf(s, top ? core::Side::Top : core::Side::Rear, 0.5 * (p->lowAt[1].mm() + p->highAt[1].mm()), at.y());
            const QPointF inside = gate.wall - gate.out * 60, outside = gate.wall + gate.out * 22;
            const bool out = fan.direction == core::air::FanDirection::Out;
            QPainterPath path(out ? inside : outside);
            path.lineTo(out ? outside : inside);
            ribbon(c, path, std::abs(fan.flowM3h), k, k, out);
        } else if (p->part->kind == PartKind::Fan) {
            // Blows through the panel that faces the viewer, on towards the board behind it.
            const QPointF from = at, to = at + QPointF(46, -54);
            const double inside = e.build.caseSpec().chambers.empty() ? 0 : chamberK(e.air, chamberOf(e.build, *p));
            ribbon(c, curve(from, {1, 0}, to, {0.2, -1}), std::abs(fan.flowM3h), fan.direction == core::air::FanDirection::In ? 0 : k, inside, false);
        } else if (fan.direction == core::air::FanDirection::Out) {
            const Gate gate = gateOf(s, core::Side::Front, 0, 0.5 * (p->lowAt[2].mm() + p->highAt[2].mm()));
            // What the supply loses warms the air that it moves.
            const auto* supply = e.air.part(fan.id);
            const double outK = k + (supply && std::abs(fan.flowM3h) > 0.1 ? supply->powerW / (1.2 * 1006 * std::abs(fan.flowM3h) / 3600) : 0.0);
            ribbon(c, curve(at + QPointF(20, 0), {-1, 0}, gate.wall + gate.out * 26, {-1, 0}), std::abs(fan.flowM3h), k, outK, true);
        }
        const double radius = std::clamp(std::min(r.width(), r.height()) * 0.26, 11.0, 22.0);
        if (p->part->kind == PartKind::Card || p->part->kind == PartKind::PowerSupply)
            at += QPointF(p->part->kind == PartKind::Card ? -r.width() * 0.3 : r.width() * 0.2, 0);
        if (p->part->kind == PartKind::Cooler)
            at += QPointF(-r.width() * 0.24, r.height() * 0.24);
        c.fanGlyph(at, radius, fan.direction != core::air::FanDirection::Out);
        if (c.isSelected(key)) {
            c.p.setPen(QPen(c.t.medge, 2));
            c.p.setBrush(Qt::NoBrush);
            c.p.drawEllipse(at, radius + 4, radius + 4);
        }
        c.hit(QRectF(at - QPointF(radius, radius), QSizeF(2 * radius, 2 * radius)), key, QObject::tr("Fan %1, %2").arg(qs(fan.name), v.text(Quantity::Flow, fan.flowM3h)));
    }
}

void paintReadings(Canvas& c, const SideView& s, const View& v) {
    const auto& e = *v.evaluation();
    std::vector<QRectF> taken;
    const auto plate = [&](QPointF at, const QString& text, const QString& key, double px, const QColor& edge) {
        for (const double shift : {0.0, 22.0, -22.0, 44.0, -44.0, 66.0, -66.0}) {
            const double w = c.width(text, px, Weight::SemiBold) + 10;
            const QRectF r(std::clamp(at.x() - w / 2, s.paper.left() + 2, s.paper.right() - w - 2), std::clamp(at.y() + shift - 10, s.paper.top() + 2, s.paper.bottom() - 22), w, 20);
            if (std::any_of(taken.begin(), taken.end(), [&](const QRectF& t) { return t.adjusted(-2, -2, 2, 2).intersects(r); }))
                continue;
            taken.push_back(r);
            const bool selected = c.isSelected(key);
            c.box(r, selected ? c.t.marker : c.t.sheet, selected ? c.t.medge : edge, selected ? 2 : 1);
            c.p.fillRect(QRectF(r.left(), r.top(), 4, r.height()), edge);
            c.text(r.adjusted(4, 0, 0, 0), text, px, Weight::SemiBold, c.t.ink, Qt::AlignCenter);
            c.hit(r, key, text);
            return;
        }
    };
    for (const auto& part : e.air.parts) {
        const core::Placed* p = e.build.at(part.id);
        if (!p || p->part->kind == PartKind::Board)
            continue;
        const QString text = (p->part->kind == PartKind::Processor ? QObject::tr("CPU") : p->part->kind == PartKind::Card ? QObject::tr("Card") : p->part->kind == PartKind::PowerSupply ? QObject::tr("Supply") : QObject::tr("Store")) +
                             QLatin1Char(' ') + qs(core::fixed(v.show.value(Quantity::Temperature, part.temperatureC), 0)) + QLatin1Char(' ') + v.unit(Quantity::Temperature);
        const QRectF r = s.rect(*p);
        plate(r.center() + QPointF(p->part->kind == PartKind::Card ? r.width() * 0.2 : 0, p->part->kind == PartKind::PowerSupply ? -r.height() * 0.25 : -6), text, QStringLiteral("part:") + qs(part.id), 13, part.limitC > 0 ? c.markColor(core::markOf(part.limitC - part.temperatureC, 0)) : c.t.ink);
    }
    for (const auto& ch : e.air.chambers)
        for (const core::Chamber& spec : e.build.caseSpec().chambers)
            if (spec.id == ch.id) {
                const QRectF r = QRectF(s.at(spec.lowMm[1], spec.lowMm[2]), s.at(spec.highMm[1], spec.highMm[2])).normalized();
                plate({r.center().x(), r.top() + 30}, qs(core::fixed(v.show.value(Quantity::Temperature, ch.airC), 0)) + QLatin1Char(' ') + v.unit(Quantity::Temperature) + QStringLiteral("  ") + qs(ch.name), QStringLiteral("chamber:") + qs(ch.id), 13,
                      c.t.flowOf(ch.airC - e.air.conditions.roomC));
            }
}

void paintScale(Canvas& c, const QRectF& r, const View& v) {
    const auto& air = v.evaluation()->air;
    const double room = air.conditions.roomC;
    c.second({r.left(), r.top(), 60, 14}, QObject::tr("air, %1").arg(v.unit(Quantity::Temperature)), Qt::AlignLeft | Qt::AlignVCenter, 11);
    const QRectF bar(r.left() + 64, r.top() + 3, r.width() - 74, 8);
    for (int i = 0; i < 128; ++i)
        c.p.fillRect(QRectF(bar.left() + bar.width() * i / 128, bar.top(), bar.width() / 128 + 1, 8), c.t.tintOf(18.0 * i / 127));
    c.box(bar, {}, c.t.ink, 1);
    for (int k = 0; k <= 18; k += 3)
        c.text({bar.left() + bar.width() * k / 18 - 25, bar.bottom() + 1, 50, 14}, qs(core::fixed(v.show.value(Quantity::Temperature, room + k), 0)), 11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
    for (const auto& ch : air.chambers) {
        const double x = bar.left() + bar.width() * std::clamp((ch.airC - room) / 18, 0.0, 1.0);
        c.p.setPen(Qt::NoPen);
        c.p.setBrush(c.t.ink);
        c.p.drawPolygon(QPolygonF{{x, bar.top() - 1}, {x - 4, bar.top() - 7}, {x + 4, bar.top() - 7}});
    }
}

void paintStrips(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Fans"));
    const double rpmX = r.right() - 190, flowX = r.right() - 120, dbX = r.right() - 66;
    for (const auto& [x, word] : {std::pair{rpmX, QObject::tr("rpm")}, std::pair{flowX, v.unit(Quantity::Flow)}, std::pair{dbX, QObject::tr("dB(A)")}, std::pair{r.right(), QObject::tr("driven by")}})
        c.second({x - 80, r.top(), 80, 20}, word, Qt::AlignRight | Qt::AlignVCenter, 11.5);
    double y = r.top() + 26;
    for (const auto& fan : e.air.fans) {
        if (y + 26 > r.bottom() + 2)
            break;
        const core::Placed* p = e.build.at(fan.id);
        const QString key = QStringLiteral("fan:") + qs(fan.id);
        c.washIfSelected({r.left(), y, r.width(), 26}, key);
        c.fanGlyph({r.left() + 12, y + 13}, 9, fan.direction != core::air::FanDirection::Out);
        // Arrow against a bar: in or out; a loop stays inside.
        const double ax = r.left() + 28;
        if (fan.direction == core::air::FanDirection::Inside) {
            c.p.setPen(QPen(c.t.ink, 1.4));
            c.p.setBrush(Qt::NoBrush);
            c.p.drawArc(QRectF(ax + 2, y + 7, 11, 11), 30 * 16, 280 * 16);
            c.arrow({ax + 11, y + 9}, {ax + 14, y + 13}, c.t.ink, 1);
        } else if (fan.direction == core::air::FanDirection::In) {
            c.arrow({ax, y + 13}, {ax + 14, y + 13}, c.t.cool, 1.6);
            c.vline(ax + 16, y + 7, y + 19, c.t.cool, 1.6);
        } else {
            c.vline(ax, y + 7, y + 19, c.t.warm, 1.6);
            c.arrow({ax + 2, y + 13}, {ax + 17, y + 13}, c.t.warm, 1.6);
        }
        c.text({r.left() + 52, y, 130, 26}, c.elided(qs(fan.name), 128, 12.5, Weight::Medium), 12.5, Weight::Medium);
        const double from = r.left() + 186, to = rpmX - 52;
        c.hline(from, to, y + 13, c.t.line, 1);
        for (int i = 0; i <= 4; ++i)
            c.vline(from + (to - from) * i / 4, y + 10, y + 16, c.t.line, 1);
        const double at = from + (to - from) * std::clamp(fan.share, 0.0, 1.0);
        c.hline(from, at, y + 13, c.t.ink, 3);
        c.box({at - 5, y + 5, 10, 15}, c.isSelected(key) ? c.t.marker : c.t.sheet, c.t.ink, 1.4);
        c.text({rpmX - 60, y, 60, 26}, v.number(Quantity::Speed, fan.rpm), 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({flowX - 60, y, 60, 26}, v.number(Quantity::Flow, fan.flowM3h), 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        for (const auto& n : e.noise.sources)
            if (n.id == fan.id)
                c.text({dbX - 50, y, 50, 26}, v.number(Quantity::Level, n.levelDba), 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        const QString driven = p->part->kind == PartKind::PowerSupply ? QObject::tr("load") : p->mode == core::FanMode::Fixed ? QObject::tr("fixed") : p->mode == core::FanMode::Processor ? QObject::tr("CPU") : QObject::tr("card");
        c.second({r.right() - 60, y, 60, 26}, driven, Qt::AlignRight | Qt::AlignVCenter);
        c.hline(r.left(), r.right(), y + 26, c.t.hair);
        c.hit({r.left(), y, r.width(), 26}, key, QObject::tr("Fan %1, %2").arg(qs(fan.name), v.text(Quantity::Flow, fan.flowM3h)));
        if (p->part->kind == PartKind::Fan) {
            c.hit({ax - 3, y, 24, 26}, QStringLiteral("flip:") + qs(fan.id), QObject::tr("Turn %1 round (R)").arg(qs(fan.name)));
            c.hit({from, y + 1, to - from, 24}, QStringLiteral("speed:") + qs(fan.id), QObject::tr("Set the speed of %1 (left and right arrow)").arg(qs(fan.name)));
        }
        y += 26;
    }
}

void paintBeam(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    const auto& b = e.air.balance;
    const QString key = QStringLiteral("balance");
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Pressure beam"), QObject::tr("%1 by fans").arg(v.unit(Quantity::Flow)));
    double in = 0, out = 0;
    for (const auto& fan : e.air.fans)
        (fan.direction == core::air::FanDirection::In ? in : fan.direction == core::air::FanDirection::Out ? out : in) += fan.direction == core::air::FanDirection::Inside ? 0 : std::abs(fan.flowM3h);
    const QPointF pivot(r.center().x(), r.top() + 104);
    const double tilt = std::clamp(2.2 * (in - out), -8.0, 8.0);
    c.p.save();
    c.p.translate(pivot);
    c.p.rotate(-tilt); // the heavier side goes down
    const double half = r.width() / 2 - 14;
    c.hline(-half, half, 0, c.t.ink, 3);
    double left = -half + 4, right = half - 4;
    for (const auto& fan : e.air.fans) {
        if (fan.direction == core::air::FanDirection::Inside)
            continue;
        const bool isIn = fan.direction == core::air::FanDirection::In;
        const QString label = c.elided(qs(fan.name), 70, 11.5, Weight::Medium) + QLatin1Char(' ') + v.number(Quantity::Flow, std::abs(fan.flowM3h));
        const double w = std::clamp(c.width(label, 11.5, Weight::Medium) + 10, 40.0, half - 8), h = std::clamp(std::abs(fan.flowM3h) * 1.1, 16.0, 48.0);
        const QRectF block(isIn ? left : right - w, -2 - h, w, h);
        c.box(block, c.t.sheet, isIn ? c.t.cool : c.t.warm, 1.6);
        c.text(block, c.elided(label, w - 4, 11.5, Weight::Medium), 11.5, Weight::Medium, c.t.ink, Qt::AlignCenter);
        (isIn ? left : right) += isIn ? w + 4 : -(w + 4);
    }
    c.p.restore();
    c.p.setPen(QPen(c.t.ink, 1.4));
    c.p.setBrush(c.t.sheet);
    c.p.drawPolygon(QPolygonF{pivot, pivot + QPointF(-9, 16), pivot + QPointF(9, 16)});
    const double scaleY = pivot.y() + 26;
    c.text({r.left(), scaleY - 10, 90, 20}, QObject::tr("in %1").arg(v.number(Quantity::Flow, in)), 12.5, Weight::SemiBold, c.t.ink);
    c.text({r.right() - 90, scaleY - 10, 90, 20}, QObject::tr("out %1").arg(v.number(Quantity::Flow, out)), 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    c.hline(pivot.x() - 60, pivot.x() + 60, scaleY, c.t.ink2, 1);
    for (int i = -2; i <= 2; ++i)
        c.vline(pivot.x() + i * 30, scaleY - 3, scaleY + 3, c.t.ink2, 1);
    const double at = pivot.x() + std::clamp((in - out) * 4, -60.0, 60.0);
    c.p.setPen(Qt::NoPen);
    c.p.setBrush(c.t.ink);
    c.p.drawPolygon(QPolygonF{{at, scaleY - 2}, {at - 4, scaleY - 9}, {at + 4, scaleY - 9}});
    const QString sentence = QObject::tr("%1 by fans, %2 over the room. %3")
                                 .arg(v.signedNumber(Quantity::Flow, in - out) + QLatin1Char(' ') + v.unit(Quantity::Flow), v.signedNumber(Quantity::Pressure, b.pressurePa) + QStringLiteral(" Pa"),
                                      b.pressurePa > 0.05 ? QObject::tr("Dust meets only the screens of the fans.") : b.pressurePa < -0.05 ? QObject::tr("Dust comes in by every gap.") : QObject::tr("In and out are level."));
    c.washIfSelected({r.left() - 4, scaleY + 12, r.width() + 8, 48}, key);
    c.paragraph({r.left(), scaleY + 14, r.width(), 50}, sentence + QObject::tr(" Rated: in %1, out %2.").arg(v.number(Quantity::Flow, b.ratedInM3h), v.number(Quantity::Flow, b.ratedOutM3h)), 12, Weight::Regular, c.t.ink, 3);
    c.hit({r.left(), r.top() + 26, r.width(), scaleY + 40 - r.top()}, key, QObject::tr("Pressure %1").arg(v.text(Quantity::Pressure, b.pressurePa)));
}

void paintNoise(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    const auto* target = targetOf(v.result(), core::TargetKind::Noise);
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Noise at %1 m").arg(qs(core::fixed(e.noise.distanceM, 1))));
    const QString total = v.number(Quantity::Level, e.noise.totalDba) + (target ? QObject::tr(" of %1 dB(A)").arg(v.number(Quantity::Level, target->limit)) : QStringLiteral(" dB(A)"));
    c.text({r.left(), r.top(), r.width(), 20}, total, 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    // Shares of sound power; the cap in the same scale.
    const double cap = target ? std::pow(10.0, (target->limit - e.noise.totalDba) / 10) : 1.0;
    const double full = std::max(1.0, std::min(cap, 3.0)), scale = (r.width() - 2) / full;
    double x = r.left();
    const QString key = QStringLiteral("noise");
    for (const auto& s : e.noise.sources) {
        const core::Placed* p = e.build.at(s.id);
        const QRectF bar(x, r.top() + 32, s.powerShare * scale, 22);
        c.hatch(bar, p->part->kind, c.isSelected(key) ? c.t.marker : c.t.sheet, c.t.ink, 1);
        x += bar.width();
    }
    if (target) {
        if (cap >= 1)
            c.box({x, r.top() + 32, std::max(0.0, r.left() + std::min(cap, 3.0) * scale - x), 22}, {}, c.t.line, 1);
        c.vline(r.left() + std::min(cap, full) * scale, r.top() + 28, r.top() + 58, c.t.ink, 2.5);
    }
    c.hit({r.left(), r.top() + 26, r.width(), 32}, key, QObject::tr("Noise %1").arg(v.text(Quantity::Level, e.noise.totalDba)));
    double y = r.top() + 62;
    for (const auto& s : e.noise.sources) {
        if (y + 20 > r.bottom() + 4)
            break;
        const core::Placed* p = e.build.at(s.id);
        c.hatch({r.left() + 2, y + 4, 16, 12}, p->part->kind, c.t.sheet, c.t.ink, 1);
        c.text({r.left() + 26, y, r.width() - 130, 20}, c.elided(qs(s.name), r.width() - 134, 12.5), 12.5, Weight::Regular);
        c.text({r.right() - 110, y, 62, 20}, v.number(Quantity::Level, s.levelDba) + QStringLiteral(" dB"), 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({r.right() - 46, y, 46, 20}, v.number(Quantity::Share, s.powerShare) + QStringLiteral(" %"), 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        y += 20;
    }
}

void paintTable(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Parts, settled"), QObject::tr("limit, headroom"));
    double y = r.top() + 26;
    for (const auto& part : e.air.parts) {
        if (y + 22 > r.bottom() + 4)
            break;
        const QString key = QStringLiteral("part:") + qs(part.id);
        c.washIfSelected({r.left(), y, r.width(), 22}, key);
        c.mark({r.left() + 2, y + 5}, part.limitC > 0 ? core::markOf(part.limitC - part.temperatureC, part.bandK) : Mark::None);
        c.text({r.left() + 24, y, 104, 22}, c.elided(qs(part.name), 102, 12.5), 12.5, Weight::Regular);
        c.text({r.left() + 120, y, 60, 22}, v.number(Quantity::Temperature, part.temperatureC), 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.second({r.left() + 184, y, 40, 22}, QStringLiteral("±") + qs(core::fixed(v.show.value(Quantity::TemperatureDifference, part.bandK), 0)));
        if (part.limitC > 0) {
            c.second({r.right() - 110, y, 52, 22}, v.number(Quantity::Temperature, part.limitC), Qt::AlignRight | Qt::AlignVCenter);
            c.text({r.right() - 56, y, 56, 22}, v.signedNumber(Quantity::TemperatureDifference, part.limitC - part.temperatureC), 12.5, Weight::Medium, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        }
        c.hline(r.left(), r.right(), y + 22, c.t.hair);
        c.hit({r.left(), y, r.width(), 22}, key, QObject::tr("Part %1, %2").arg(qs(part.name), v.text(Quantity::Temperature, part.temperatureC)));
        y += 22;
    }
}

} // namespace

void paintAir(Canvas& c, const QRectF& r, const View& v) {
    const auto* e = v.evaluation();
    if (!e) {
        stageHead(c, r, QObject::tr("Where does the air go, and how warm is it?"));
        return emptyStage(c, r, v.project().revisions.empty() ? QObject::tr("No parts yet. Air needs a case with a chamber, and a part that gives off heat.") : qs(v.result().problem));
    }
    const core::Load* load = v.project().load(v.project().brief.load);
    stageHead(c, r, QObject::tr("Where does the air go, and how warm is it?"),
              QObject::tr("%1, %2, room %3").arg(load ? qs(load->name) : QObject::tr("full load"), v.text(Quantity::Power, e->air.totalPowerW), v.text(Quantity::Temperature, e->air.conditions.roomC)));
    const double rightW = std::clamp(r.width() * 0.32, 240.0, 360.0);
    const QRectF left(r.left(), r.top() + 32, r.width() - rightW - 26, r.height() - 32);
    const QRectF right(r.right() - rightW, left.top(), rightW, left.height());
    c.vline(left.right() + 13, left.top(), r.bottom(), c.t.line);
    const double fanRows = 30 + 26.0 * static_cast<double>(e->air.fans.size());
    const double drawHeight = left.height() - fanRows - 44 - 64;
    const double d = e->build.insideAt[1].mm(), h = e->build.insideAt[2].mm();
    const double scale = std::min((left.width() - 130) / d, drawHeight / h);
    const SideView s{{left.left() + (left.width() - d * scale) / 2, left.top() + 40, d * scale, h * scale}, scale};
    paintChambers(c, s, v);
    paintParts(c, s, v);
    paintOpenings(c, s, v);
    paintFans(c, s, v);
    paintReadings(c, s, v);
    const double below = s.paper.bottom() + 38;
    paintScale(c, {left.left(), below, left.width(), 28}, v);
    paintStrips(c, {left.left(), below + 34, left.width(), left.bottom() - below - 34}, v);
    paintBeam(c, {right.left(), right.top(), right.width(), 190}, v);
    const double noiseH = 70 + 20.0 * static_cast<double>(e->noise.sources.size());
    paintNoise(c, {right.left(), right.top() + 206, right.width(), noiseH}, v);
    paintTable(c, {right.left(), right.top() + 218 + noiseH, right.width(), right.bottom() - right.top() - 218 - noiseH}, v);
}

} // namespace app
