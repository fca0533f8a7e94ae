// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_section.h"
#include "app/paint/labels.h"
#include "app/stations/air/air_ribbon.h"
#include "core/air/compile_geometry.h"

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

double chamberK(const core::air::Prediction& air, const std::string& id) {
    for (const auto& ch : air.chambers)
        if (ch.id == id)
            return ch.airC - air.conditions.roomC;
    return 0;
}

/// The state that is painted.
const core::air::Prediction& airOf(const SideView& s, const View& v) { return s.air ? *s.air : v.evaluation()->air; }

/// Whether an axis runs towards the viewer.
bool isDeep(const SideView& s, Axis axis) { return axis == s.deep(); }

/// The chamber that holds the middle of a part.
std::string chamberOf(const core::Build& build, const core::Placed& p) {
    const core::CaseSpec& spec = build.caseSpec();
    return spec.chambers[core::air::chamberAt(spec, core::air::centreOf(p))].id;
}

void paintChambers(Canvas& c, const SideView& s, const View& v) {
    const auto& e = *v.evaluation();
    for (const core::Chamber& ch : e.build.caseSpec().chambers) {
        const QRectF r = s.rect(ch.lowMm, ch.highMm);
        const double k = chamberK(airOf(s, v), ch.id);
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
        if (p.part->kind == PartKind::Fan && isDeep(s, p.facing().axis)) {
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
    const Gate gate = gateOf(s, o.side, middleOf(o));
    if (gate.facesViewer)
        return;
    const bool level = gate.out.y() != 0;
    const auto axes = core::planeAxes(o.side);
    const std::size_t along = axes[0] == (level ? s.across() : s.up()) ? 0 : 1;
    const double half = o.sizeMm[along] / 2 * s.scale, length = 2 * half;
    if (level)
        bar = QRectF(gate.wall.x() - half, gate.out.y() < 0 ? s.paper.top() - 4 : s.paper.bottom(), length, 4);
    else
        bar = QRectF(gate.out.x() < 0 ? s.paper.left() - 4 : s.paper.right(), gate.wall.y() - half, 4, length);
    c.p.fillRect(bar, c.t.paper);
    const double solid = o.style == core::OpeningStyle::Plain ? 0.02 : 1 - o.perforation;
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
    for (const auto& flow : airOf(s, v).openings) {
        const core::Opening* o = e.build.opening(flow.id);
        if (!o || !o->to.empty() || o->style == core::OpeningStyle::Closed)
            continue;
        QRectF bar;
        wallOpening(c, s, *o, bar);
        const Gate gate = gateOf(s, o->side, middleOf(*o));
        const core::Thing key = core::OpeningRef{flow.id};
        const double net = flow.flowM3h;
        const QString words = v.number(Quantity::Flow, std::abs(net)) + QLatin1Char(' ') + v.unit(Quantity::Flow) +
                              (net >= 0 ? QObject::tr(" out") : QObject::tr(" in"));
        const QString spoken = QObject::tr("Opening %1, %2").arg(qs(o->name), words);
        if (gate.facesViewer) {
            const QPointF half(o->sizeMm[0] / 2 * s.scale, o->sizeMm[1] / 2 * s.scale);
            const QRectF r(gate.wall - half, gate.wall + half);
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
        openingRibbon(c, *o, gate, flow, airOf(s, v));
        // Where a fan blows through the same grille, this is what passes beside it.
        const bool beside = std::any_of(airOf(s, v).fans.begin(), airOf(s, v).fans.end(), [&](const auto& fan) {
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

/// Where a supply blows out: away from its sockets, where that wall is drawn; else by the drawn wall it stands closest
/// to.
Gate outletOf(const SideView& s, const core::Placed& p) {
    if (!p.ports.empty()) {
        const core::Direction sockets = p.inCase(p.ports.front().out);
        if (const Gate gate = gateOf(s, core::sideOf({sockets.axis, -sockets.sign}), core::air::centreOf(p));
            !gate.facesViewer)
            return gate;
    }
    const QRectF r = s.rect(p);
    const std::array<std::pair<double, QPointF>, 4> walls{{{r.left() - s.paper.left(), {-1, 0}},
                                                           {s.paper.right() - r.right(), {1, 0}},
                                                           {r.top() - s.paper.top(), {0, -1}},
                                                           {s.paper.bottom() - r.bottom(), {0, 1}}}};
    const QPointF out = std::min_element(walls.begin(), walls.end(), [](const auto& a, const auto& b) {
                            return a.first < b.first - 0.5;
                        })->second;
    const QPointF middle = r.center();
    if (out.x() != 0)
        return {{out.x() < 0 ? s.paper.left() : s.paper.right(), middle.y()}, out};
    return {{middle.x(), out.y() < 0 ? s.paper.top() : s.paper.bottom()}, out};
}

void fanRibbon(Canvas& c, const SideView& s, const View& v, const core::air::FanResult& fan, const core::Placed& p,
               const QPointF& at, std::vector<Plate>& plates) {
    const auto& e = *v.evaluation();
    const core::Thing key = core::FanRef{fan.id};
    const QString spoken = QObject::tr("Fan %1, %2").arg(qs(fan.name), v.text(Quantity::Flow, fan.flowM3h));
    const core::air::Prediction& air = airOf(s, v);
    const bool facesViewer = isDeep(s, p.facing().axis), out = fan.direction == core::air::FanDirection::Out;
    const double k = fan.airC - air.conditions.roomC;
    if (p.part->kind == PartKind::Fan && !facesViewer) {
        const Gate gate = gateOf(s, core::sideOf(p.facing()), core::air::centreOf(p));
        const QPointF inside = gate.wall - gate.out * 60, outside = gate.wall + gate.out * 22;
        QPainterPath path(out ? inside : outside);
        path.lineTo(out ? outside : inside);
        ribbon(c, path, std::abs(fan.flowM3h), k, k, out);
        plates.push_back(streamFigure(v, gate, fan.flowM3h, out, key, spoken, {}));
    } else if (p.part->kind == PartKind::Fan) {
        // Blows through the panel that faces the viewer, on towards what is behind it.
        const double inside = chamberK(air, chamberOf(e.build, p));
        ribbon(c, streamCurve(at, {1, 0}, at + QPointF(52, -60), {0.2, -1}), std::abs(fan.flowM3h), out ? inside : 0,
               out ? k : inside, false);
    } else if (out) {
        // What the supply loses warms the air that it moves.
        const Gate gate = outletOf(s, p);
        const auto* supply = air.part(fan.id);
        const double outK =
            k + (supply && std::abs(fan.flowM3h) > 0.1 ? supply->powerW / (1.2 * 1006 * std::abs(fan.flowM3h) / 3600)
                                                       : 0.0);
        ribbon(c, streamCurve(at + gate.out * 20, gate.out, gate.wall + gate.out * 26, gate.out), std::abs(fan.flowM3h),
               k, outK, true);
        plates.push_back(streamFigure(v, gate, fan.flowM3h, true, key, spoken, {}));
    }
}

/// Ribbons below, glyphs above them; answers the places the glyphs take.
std::vector<QRectF> paintFans(Canvas& c, const SideView& s, const View& v, std::vector<Plate>& plates) {
    const auto& e = *v.evaluation();
    std::vector<QRectF> taken;
    for (const auto& fan : airOf(s, v).fans)
        if (const core::Placed* p = e.build.at(fan.id))
            fanRibbon(c, s, v, fan, *p, glyphAt(*p, s.rect(*p)), plates);
    for (const auto& fan : airOf(s, v).fans) {
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

/// " −5.0 K": what a reading differs by from the build it is compared with.
QString differenceTo(const View& v, double now, const std::optional<double>& before) {
    return before ? QLatin1Char(' ') + v.signedNumber(Quantity::TemperatureDifference, now - *before) +
                        QLatin1Char(' ') + v.unit(Quantity::TemperatureDifference)
                  : QString();
}

QString shortWord(PartKind kind) {
    return kind == PartKind::Processor     ? QObject::tr("CPU")
           : kind == PartKind::Card        ? QObject::tr("Card")
           : kind == PartKind::PowerSupply ? QObject::tr("Supply")
                                           : QObject::tr("Store");
}

void readings(const Canvas& c, const SideView& s, const View& v, std::vector<Plate>& plates) {
    const auto& e = *v.evaluation();
    const auto& air = airOf(s, v);
    const auto degrees = [&](double celsius) {
        return qs(core::fixed(v.show.value(Quantity::Temperature, celsius), 0)) + QLatin1Char(' ') +
               v.unit(Quantity::Temperature);
    };
    for (const auto& part : air.parts) {
        const core::Placed* p = e.build.at(part.id);
        if (!p || p->part->kind == PartKind::Board)
            continue;
        const QRectF r = s.rect(*p);
        const QPointF at = r.center() + QPointF(p->part->kind == PartKind::Card ? r.width() * 0.2 : 0,
                                                p->part->kind == PartKind::PowerSupply ? -r.height() * 0.25
                                                : p->part->kind == PartKind::Processor ? -30
                                                                                       : -6);
        const core::verdict::Deciding limit = core::verdict::temperatureOf(e, v.result().verdict, part.id);
        // In a difference both sides are predicted: a reading of one of them would bring its own error in.
        const bool plain = !s.air && !s.against;
        const Mark mark = s.air ? Mark::None : limit.mark;
        const auto* before = s.against ? s.against->part(part.id) : nullptr;
        const QString text =
            shortWord(p->part->kind) + QLatin1Char(' ') + degrees(plain ? limit.value : part.temperatureC) +
            differenceTo(v, part.temperatureC, before ? std::optional(before->temperatureC) : std::nullopt);
        plates.push_back({at, text, core::PartRef{part.id}, text, mark != Mark::None ? c.markColor(mark) : c.t.ink});
    }
    for (const auto& ch : air.chambers)
        for (const core::Chamber& spec : e.build.caseSpec().chambers)
            if (spec.id == ch.id) {
                const QRectF r = s.rect(spec.lowMm, spec.highMm);
                std::optional<double> before;
                for (const auto& was : s.against ? s.against->chambers : std::vector<core::air::ChamberResult>{})
                    if (was.id == ch.id)
                        before = was.airC;
                const QString text =
                    degrees(ch.airC) + differenceTo(v, ch.airC, before) + QStringLiteral("  ") + qs(ch.name);
                plates.push_back({{r.center().x(), r.top() + 30},
                                  text,
                                  core::ChamberRef{ch.id},
                                  text,
                                  c.t.flowOf(ch.airC - air.conditions.roomC)});
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
    std::vector<Plate> order = plates; // the streams stand where they enter; what has no room inside takes what is left
    std::stable_partition(order.begin(), order.end(), [](const Plate& p) { return p.outside; });
    for (const Plate& p : order) {
        const double px = p.strong ? 13 : 11.5, arrow = p.way.isNull() ? 0 : 18;
        const QSizeF size(c.width(p.text, px, p.strong ? Weight::SemiBold : Weight::Regular) + 12 + arrow,
                          p.strong ? 20 : 18);
        // Beside the case where a stream enters or leaves it, in the case where something is warm.
        const QRectF around = s.paper.adjusted(-120, -44, 120, 44);
        const QRectF room = !p.outside          ? s.paper.adjusted(2, 2, -2, -2)
                            : s.stage.isEmpty() ? around
                                                : around.intersected(s.stage);
        auto at = (p.outside ? outside : inside).place(size, p.at, 220, room);
        if (!at && !p.outside && !s.stage.isEmpty()) {
            // A narrow case has no room for it: beside the case, with a line to what it is about.
            const bool right = p.at.x() >= s.paper.center().x();
            const QPointF beside(right ? s.paper.right() + 60 : s.paper.left() - 60, p.at.y());
            at = outside.place(size, beside, 320, s.stage);
            if (at) {
                const QPointF end(std::clamp(p.at.x(), s.paper.left() + 4, s.paper.right() - 4), p.at.y());
                c.p.setPen(QPen(c.t.ink2, 1));
                c.p.drawLine(QPointF(right ? at->left() : at->right(), at->center().y()), end);
                c.p.setBrush(c.t.ink);
                c.p.drawEllipse(end, 2, 2);
            }
        }
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

Gate gateOf(const SideView& s, core::Side side, const std::array<double, 3>& mm) {
    const core::Direction out = core::outward(side);
    const QPointF at = s.at(mm);
    if (out.axis == s.deep())
        return {at, {0, 0}, true};
    if (out.axis == s.across())
        return {{out.sign < 0 ? s.paper.left() : s.paper.right(), at.y()}, {static_cast<double>(out.sign), 0}};
    return {{at.x(), out.sign > 0 ? s.paper.top() : s.paper.bottom()}, {0, static_cast<double>(-out.sign)}};
}

std::array<double, 3> middleOf(const core::Opening& o) {
    std::array<double, 3> mm{};
    const auto axes = core::planeAxes(o.side);
    for (std::size_t i = 0; i < 2; ++i)
        mm[core::index(axes[i])] = o.centreMm[i];
    return mm;
}

SideView sideViewIn(const QRectF& r, const core::Build& build, AirSight sight, double besidePx) {
    SideView s{.paper = {}, .stage = r.adjusted(-10, 0, 10, 0), .sight = sight};
    constexpr double above = 40, below = 44; // room for the words of the streams
    const double w = build.insideAt[core::index(s.across())].mm(), h = build.insideAt[core::index(s.up())].mm();
    s.scale = std::max(0.05, std::min((r.width() - 2 * besidePx) / w, (r.height() - above - below) / h));
    s.paper = {r.center().x() - w * s.scale / 2, r.top() + above, w * s.scale, h * s.scale};
    return s;
}

void paintAirSection(Canvas& c, const SideView& s, const View& v) {
    paintChambers(c, s, v);
    paintParts(c, s, v);
    if (s.was)
        paintDifferences(c, s, *s.was, v.evaluation()->build);
    if (!s.readings)
        return;
    std::vector<Plate> plates;
    readings(c, s, v, plates);
    paintOpenings(c, s, v, plates);
    const std::vector<QRectF> fans = paintFans(c, s, v, plates);
    paintPlates(c, s, plates, fans);
}

} // namespace app
