// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_section.h"
#include "app/paint/labels.h"

#include "core/base/text.h"
#include "core/verdict/marks.h"

#include <QPainterPath>

#include <cmath>

namespace app {
using core::Axis;
using core::Mark;
using core::PartKind;
using core::Quantity;

namespace {

/// A path as points with their way from its start: asking the path itself measures it anew each time.
class PathLength {
public:
    explicit PathLength(const QPainterPath& path) {
        for (const QPolygonF& polygon : path.toSubpathPolygons())
            for (const QPointF& at : polygon) {
                m_way.push_back(m_at.empty() ? 0 : m_way.back() + QLineF(m_at.back(), at).length());
                m_at.push_back(at);
            }
    }
    [[nodiscard]] double length() const { return m_way.empty() ? 0 : m_way.back(); }
    [[nodiscard]] QPointF at(double share) const {
        const std::size_t i = piece(share);
        const double from = m_way[i], to = m_way[i + 1];
        return m_at[i] + (m_at[i + 1] - m_at[i]) * (to > from ? (share * length() - from) / (to - from) : 0);
    }
    /// Unit vector of the way there.
    [[nodiscard]] QPointF direction(double share) const {
        const std::size_t i = piece(share);
        const QLineF line(m_at[i], m_at[i + 1]);
        return line.length() > 0 ? QPointF(line.dx(), line.dy()) / line.length() : QPointF(1, 0);
    }

private:
    [[nodiscard]] std::size_t piece(double share) const {
        const auto next = std::upper_bound(m_way.begin() + 1, m_way.end() - 1, share * length());
        return static_cast<std::size_t>(next - m_way.begin()) - 1;
    }
    std::vector<QPointF> m_at;
    std::vector<double> m_way;
};

/// A stream of air as wide as its flow, coloured along its length, with chevrons.
void ribbon(Canvas& c, const QPainterPath& path, double flowM3h, double fromK, double toK, bool arrowHead) {
    const double width = std::clamp(0.72 * flowM3h, 3.0, 26.0);
    QPen edge(c.t.sheet, width + 3, Qt::SolidLine, Qt::FlatCap, Qt::RoundJoin);
    c.p.setBrush(Qt::NoBrush);
    c.p.setPen(edge);
    c.p.drawPath(path);
    const PathLength along(path);
    const double length = along.length();
    if (length <= 0)
        return;
    const int pieces = std::max(8, static_cast<int>(length / 8));
    for (int i = 0; i < pieces; ++i) {
        const double a = static_cast<double>(i) / pieces, b = std::min(1.0, (i + 1.2) / pieces);
        c.p.setPen(QPen(c.t.flowOf(fromK + (toK - fromK) * a), width, Qt::SolidLine, Qt::FlatCap));
        c.p.drawLine(along.at(a), along.at(b));
    }
    c.p.setPen(QPen(c.t.sheet, 1.2));
    for (double s = 20; s < length - 10; s += 34) {
        const QPointF tip = along.at(s / length), on = along.direction(s / length), side(-on.y(), on.x());
        const double k = std::min(width * 0.3, 5.0);
        c.p.drawLine(tip, tip - on * 4 + side * k);
        c.p.drawLine(tip, tip - on * 4 - side * k);
    }
    if (arrowHead) {
        const QPointF tip = along.at(1), on = along.direction(0.999), side(-on.y(), on.x());
        const double k = width * 0.5 + 5;
        QPolygonF head{tip + on * (k * 0.9), tip + side * k, tip - side * k};
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
struct Gate {
    QPointF wall;
    QPointF out;
    bool facesViewer = false;
};
Gate gateOf(const SideView& s, core::Side side, double y, double z) {
    switch (side) {
    case core::Side::Front:
        return {{s.paper.left(), s.at(0, z).y()}, {-1, 0}};
    case core::Side::Rear:
        return {{s.paper.right(), s.at(0, z).y()}, {1, 0}};
    case core::Side::Top:
        return {{s.at(y, 0).x(), s.paper.top()}, {0, -1}};
    case core::Side::Bottom:
        return {{s.at(y, 0).x(), s.paper.bottom()}, {0, 1}};
    default:
        return {s.at(y, z), {0, 0}, true};
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
        const core::Thing key = core::PartRef{p.mount};
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
            c.hit(r, key, QObject::tr("Part %1").arg(qs(p.name)));
    }
}

void wallOpening(Canvas& c, const SideView& s, const core::Opening& o, QRectF& bar) {
    const bool level = o.side == core::Side::Top || o.side == core::Side::Bottom;
    if (o.side == core::Side::Left || o.side == core::Side::Right)
        return;
    const double centre = o.centreMm[1], size = o.sizeMm[1];
    const double from = centre - size / 2, to = centre + size / 2;
    if (level)
        bar = QRectF(s.at(from, 0).x(), o.side == core::Side::Top ? s.paper.top() - 4 : s.paper.bottom(),
                     (to - from) * s.scale, 4);
    else
        bar = QRectF(o.side == core::Side::Front ? s.paper.left() - 4 : s.paper.right(), s.at(0, to).y(), 4,
                     (to - from) * s.scale);
    c.p.fillRect(bar, c.t.paper);
    const double solid = o.style == core::OpeningStyle::Plain ? 0.02 : 1 - o.perforation;
    const double length = level ? bar.width() : bar.height();
    for (double x = 0; x < length; x += 9)
        c.p.fillRect(level ? QRectF(bar.left() + x, bar.top(), std::min(9 * solid, length - x), 4)
                           : QRectF(bar.left(), bar.top() + x, 4, std::min(9 * solid, length - x)),
                     c.t.ink);
}

/// A reading on a plate; placed when all are known, so that none covers another or a fan.
struct Plate {
    QPointF at;
    QString text;
    core::Thing thing;
    QString spoken;
    QColor edge;
    bool strong = true;
    QPointF way = {};     ///< of a stream: which way it goes on the paper, drawn before its figure
    QPointF beside = {};  ///< from the end of the stream to its figure
    bool outside = false; ///< stands beside the case, not in it
};

/// The figure of a stream, beside its outer end.
Plate streamFigure(const View& v, const Gate& gate, double flowM3h, bool out, const core::Thing& key,
                   const QString& spoken, const QString& words) {
    const bool level = gate.out.y() != 0;
    const QPointF beside = level ? QPointF(64, 0) : QPointF(0, -30);
    return {gate.wall + gate.out * (level ? 20 : 26) + beside,
            v.number(Quantity::Flow, std::abs(flowM3h)) + QLatin1Char(' ') + v.unit(Quantity::Flow) + words,
            key,
            spoken,
            {},
            false,
            out ? gate.out : -gate.out,
            beside,
            true};
}

void openingRibbon(Canvas& c, const core::Opening& o, const Gate& gate, const core::air::OpeningFlow& flow,
                   const core::air::Prediction& air) {
    const double net = flow.flowM3h, k = flow.airC - air.conditions.roomC;
    if (std::abs(net) <= 0.5)
        return;
    const QPointF inside = gate.wall - gate.out * 44, outside = gate.wall + gate.out * 24;
    const bool out = net >= 0;
    QPainterPath path(out ? inside : outside);
    path.lineTo(out ? outside : inside);
    ribbon(c, path, std::abs(net), out ? k : 0, out ? k : chamberK(air, o.chamber), out);
}

/// Openings in the walls of the drawing get their words beside the wall; those that face the viewer a plate.
void paintOpenings(Canvas& c, const SideView& s, const View& v, std::vector<Plate>& plates) {
    const auto& e = *v.evaluation();
    for (const auto& flow : e.air.openings) {
        const core::Opening* o = e.build.opening(flow.id);
        if (!o || !o->to.empty() || o->style == core::OpeningStyle::Closed)
            continue;
        QRectF bar;
        wallOpening(c, s, *o, bar);
        const bool upright = o->side == core::Side::Left || o->side == core::Side::Right;
        const Gate gate = gateOf(s, o->side, upright ? o->centreMm[0] : o->centreMm[1], o->centreMm[1]);
        const core::Thing key = core::OpeningRef{flow.id};
        const double net = flow.flowM3h;
        const QString words = v.number(Quantity::Flow, std::abs(net)) + QLatin1Char(' ') + v.unit(Quantity::Flow) +
                              (net >= 0 ? QObject::tr(" out") : QObject::tr(" in"));
        const QString spoken = QObject::tr("Opening %1, %2").arg(qs(o->name), words);
        if (gate.facesViewer) {
            const QRectF r = QRectF(s.at(o->centreMm[0] - o->sizeMm[0] / 2, o->centreMm[1] - o->sizeMm[1] / 2),
                                    s.at(o->centreMm[0] + o->sizeMm[0] / 2, o->centreMm[1] + o->sizeMm[1] / 2))
                                 .normalized();
            QPen pen(c.t.ink, 1);
            pen.setDashPattern({9, 3, 2, 3});
            c.p.setPen(pen);
            c.p.setBrush(Qt::NoBrush);
            c.p.drawRect(r);
            plates.push_back({{r.center().x(), r.bottom() - 12},
                              qs(o->name) + QStringLiteral(": ") + words,
                              key,
                              spoken,
                              net >= 0 ? c.t.warm : c.t.cool,
                              false});
            continue;
        }
        openingRibbon(c, *o, gate, flow, e.air);
        // Where a fan blows through the same grille, this is what passes beside it.
        const bool beside = std::any_of(e.air.fans.begin(), e.air.fans.end(), [&](const auto& fan) {
            const core::Placed* p = e.build.at(fan.id);
            return p && p->part->kind == PartKind::Fan && bar.adjusted(-6, -6, 6, 6).intersects(s.rect(*p));
        });
        c.hit(bar, key, spoken);
        if (std::abs(net) > 0.5)
            plates.push_back(
                streamFigure(v, gate, net, net >= 0, key, spoken, beside ? QObject::tr(" beside the fan") : QString()));
    }
}

/// Where the glyph of a fan stands: case fans at their true place, the fans of parts a little aside, so that the part's
/// reading has room.
QPointF glyphAt(const core::Placed& p, const QRectF& r) {
    switch (p.part->kind) {
    case PartKind::Card:
        return r.center() + QPointF(-r.width() * 0.3, 0);
    case PartKind::PowerSupply:
        return r.center() + QPointF(r.width() * 0.2, 0);
    case PartKind::Cooler:
        return r.center() + QPointF(-r.width() * 0.3, r.height() * 0.3);
    default:
        return r.center();
    }
}

void fanRibbon(Canvas& c, const SideView& s, const View& v, const core::air::FanResult& fan, const core::Placed& p,
               const QPointF& at, std::vector<Plate>& plates) {
    const auto& e = *v.evaluation();
    const core::Thing key = core::FanRef{fan.id};
    const QString spoken = QObject::tr("Fan %1, %2").arg(qs(fan.name), v.text(Quantity::Flow, fan.flowM3h));
    const bool facesViewer = p.facing().axis == Axis::X, out = fan.direction == core::air::FanDirection::Out;
    const double k = fan.airC - e.air.conditions.roomC;
    if (p.part->kind == PartKind::Fan && !facesViewer) {
        const bool level = p.facing().axis == Axis::Z;
        const core::Side side = level                 ? (p.facing().sign > 0 ? core::Side::Top : core::Side::Bottom)
                                : p.facing().sign > 0 ? core::Side::Rear
                                                      : core::Side::Front;
        const Gate gate =
            gateOf(s, side, 0.5 * (p.lowAt[1].mm() + p.highAt[1].mm()), 0.5 * (p.lowAt[2].mm() + p.highAt[2].mm()));
        const QPointF inside = gate.wall - gate.out * 60, outside = gate.wall + gate.out * 22;
        QPainterPath path(out ? inside : outside);
        path.lineTo(out ? outside : inside);
        ribbon(c, path, std::abs(fan.flowM3h), k, k, out);
        plates.push_back(streamFigure(v, gate, fan.flowM3h, out, key, spoken, {}));
    } else if (p.part->kind == PartKind::Fan) {
        // Blows through the panel that faces the viewer, on towards the board behind it.
        const double inside = chamberK(e.air, chamberOf(e.build, p));
        ribbon(c, curve(at, {1, 0}, at + QPointF(52, -60), {0.2, -1}), std::abs(fan.flowM3h), out ? inside : 0,
               out ? k : inside, false);
    } else if (out) {
        // What the supply loses warms the air that it moves.
        const Gate gate = gateOf(s, core::Side::Front, 0, 0.5 * (p.lowAt[2].mm() + p.highAt[2].mm()));
        const auto* supply = e.air.part(fan.id);
        const double outK =
            k + (supply && std::abs(fan.flowM3h) > 0.1 ? supply->powerW / (1.2 * 1006 * std::abs(fan.flowM3h) / 3600)
                                                       : 0.0);
        ribbon(c, curve(at + QPointF(20, 0), {-1, 0}, gate.wall + gate.out * 26, {-1, 0}), std::abs(fan.flowM3h), k,
               outK, true);
        plates.push_back(streamFigure(v, gate, fan.flowM3h, true, key, spoken, {}));
    }
}

/// Ribbons below, glyphs above them; answers the places the glyphs take.
std::vector<QRectF> paintFans(Canvas& c, const SideView& s, const View& v, std::vector<Plate>& plates) {
    const auto& e = *v.evaluation();
    std::vector<QRectF> taken;
    for (const auto& fan : e.air.fans)
        if (const core::Placed* p = e.build.at(fan.id))
            fanRibbon(c, s, v, fan, *p, glyphAt(*p, s.rect(*p)), plates);
    for (const auto& fan : e.air.fans) {
        const core::Placed* p = e.build.at(fan.id);
        const QRectF r = s.rect(*p);
        const QPointF at = glyphAt(*p, r);
        const core::Thing key = core::FanRef{fan.id};
        const double most = p->part->kind == PartKind::Fan ? 20.0 : 14.0,
                     radius = std::clamp(std::min(r.width(), r.height()) * 0.26, 11.0, most);
        c.fanGlyph(at, radius, fan.direction != core::air::FanDirection::Out);
        if (c.isSelected(key)) {
            c.p.setPen(QPen(c.t.medge, 2));
            c.p.setBrush(Qt::NoBrush);
            c.p.drawEllipse(at, radius + 4, radius + 4);
        }
        const QRectF place(at - QPointF(radius, radius), QSizeF(2 * radius, 2 * radius));
        taken.push_back(place);
        c.hit(place, key, QObject::tr("Fan %1, %2").arg(qs(fan.name), v.text(Quantity::Flow, fan.flowM3h)));
    }
    return taken;
}

void readings(const Canvas& c, const SideView& s, const View& v, std::vector<Plate>& plates) {
    const auto& e = *v.evaluation();
    const auto degrees = [&](double celsius) {
        return qs(core::fixed(v.show.value(Quantity::Temperature, celsius), 0)) + QLatin1Char(' ') +
               v.unit(Quantity::Temperature);
    };
    for (const auto& part : e.air.parts) {
        const core::Placed* p = e.build.at(part.id);
        if (!p || p->part->kind == PartKind::Board)
            continue;
        const QString word = p->part->kind == PartKind::Processor     ? QObject::tr("CPU")
                             : p->part->kind == PartKind::Card        ? QObject::tr("Card")
                             : p->part->kind == PartKind::PowerSupply ? QObject::tr("Supply")
                                                                      : QObject::tr("Store");
        const QRectF r = s.rect(*p);
        const QPointF at = r.center() + QPointF(p->part->kind == PartKind::Card ? r.width() * 0.2 : 0,
                                                p->part->kind == PartKind::PowerSupply ? -r.height() * 0.25
                                                : p->part->kind == PartKind::Processor ? -30
                                                                                       : -6);
        const core::verdict::Deciding limit = core::verdict::temperatureOf(e, v.result().verdict, part.id);
        const Mark mark = limit.mark;
        const QString text = word + QLatin1Char(' ') + degrees(limit.value);
        plates.push_back({at, text, core::PartRef{part.id}, text, mark != Mark::None ? c.markColor(mark) : c.t.ink});
    }
    for (const auto& ch : e.air.chambers)
        for (const core::Chamber& spec : e.build.caseSpec().chambers)
            if (spec.id == ch.id) {
                const QRectF r =
                    QRectF(s.at(spec.lowMm[1], spec.lowMm[2]), s.at(spec.highMm[1], spec.highMm[2])).normalized();
                const QString text = degrees(ch.airC) + QStringLiteral("  ") + qs(ch.name);
                plates.push_back({{r.center().x(), r.top() + 30},
                                  text,
                                  core::ChamberRef{ch.id},
                                  text,
                                  c.t.flowOf(ch.airC - e.air.conditions.roomC)});
            }
}

void paintPlates(Canvas& c, const SideView& s, const std::vector<Plate>& plates, const std::vector<QRectF>& fans) {
    Labels inside, outside;
    for (const QRectF& fan : fans)
        inside.keepOff(fan);
    outside.keepOff(s.paper.adjusted(-6, -6, 6, 6));
    for (const Plate& p : plates)
        if (p.outside) // the stream itself, out to the head of its arrow
            outside.keepOff(QRectF(p.at - p.beside - QPointF(26, 26), QSizeF(52, 52)));
    for (const Plate& p : plates) {
        const double px = p.strong ? 13 : 11.5, arrow = p.way.isNull() ? 0 : 18;
        const QSizeF size(c.width(p.text, px, p.strong ? Weight::SemiBold : Weight::Regular) + 12 + arrow,
                          p.strong ? 20 : 18);
        // Beside the case where a stream enters or leaves it, in the case where something is warm.
        const QRectF around = s.paper.adjusted(-120, -44, 120, 44);
        const QRectF room = !p.outside          ? s.paper.adjusted(2, 2, -2, -2)
                            : s.stage.isEmpty() ? around
                                                : around.intersected(s.stage);
        const auto at = (p.outside ? outside : inside).place(size, p.at, 220, room);
        if (!at)
            continue; // the tables name it
        const QRectF r = *at;
        const bool selected = c.isSelected(p.thing);
        c.box(r,
              selected    ? c.t.marker
              : p.outside ? c.t.paper
                          : c.t.sheet,
              selected           ? c.t.medge
              : p.edge.isValid() ? p.edge
                                 : QColor(Qt::transparent),
              selected ? 2 : 1);
        if (p.strong)
            c.p.fillRect(QRectF(r.left(), r.top(), 4, r.height()), p.edge);
        if (arrow > 0)
            c.arrow(QPointF(r.left() + 11, r.center().y()) - p.way * 7,
                    QPointF(r.left() + 11, r.center().y()) + p.way * 7, c.t.ink, 1.4);
        c.text(r.adjusted(arrow + (p.strong ? 4 : 0), 0, 0, 0), p.text, px,
               p.strong ? Weight::SemiBold : Weight::Regular, c.t.ink, Qt::AlignCenter);
        c.label(r);
        c.hit(r, p.thing, p.spoken);
    }
}

} // namespace

void paintAirSection(Canvas& c, const SideView& s, const View& v) {
    paintChambers(c, s, v);
    paintParts(c, s, v);
    std::vector<Plate> plates;
    readings(c, s, v, plates);
    paintOpenings(c, s, v, plates);
    const std::vector<QRectF> fans = paintFans(c, s, v, plates);
    paintPlates(c, s, plates, fans);
}

} // namespace app
