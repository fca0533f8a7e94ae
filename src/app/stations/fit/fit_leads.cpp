// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_leads.h"

#include "app/stations/fit/fit_details.h"
#include "core/rules/lead_mark.h"

#include <cmath>

namespace app {
using core::Quantity;
using core::fit::LeadRoute;
using core::fit::Point;

namespace {

/// A lead as it is drawn: while a corner is dragged, with the corners it would have.
const LeadRoute& drawn(const FitLook& look, const LeadRoute& route) {
    return look.leadTrial && look.leadTrial->ref == route.ref && look.leadTrial->end == route.end ? *look.leadTrial
                                                                                                  : route;
}

void paintLine(Canvas& c, const Section& s, const LeadRoute& route, bool selected) {
    QPolygonF line;
    for (const Point& p : route.points)
        line << s.point(p);
    c.p.setBrush(Qt::NoBrush);
    const double width = std::clamp(route.body.thicknessMm * s.scale, 1.6, 9.0);
    const auto stroke = [&](const QColor& color, double w, const QList<qreal>& dashes = {}) {
        QPen pen(color, w, Qt::SolidLine, dashes.isEmpty() ? Qt::FlatCap : Qt::RoundCap, Qt::RoundJoin);
        if (!dashes.isEmpty())
            pen.setDashPattern(dashes);
        c.p.setPen(pen);
        c.p.drawPolyline(line);
    };
    stroke(c.t.sheet, (route.stated ? width : 2.2) + 2);
    if (route.stated) {
        stroke(selected ? c.t.medge : c.t.ink, width);
        if (width > 3)
            stroke(selected ? c.t.marker : c.t.tray, width - 2);
    } else {
        stroke(selected ? c.t.medge : c.t.ink, selected ? 3.4 : 2.2,
               {0.1, 1.8}); // dotted: dashes are edges behind the cut
    }
    for (const QPointF& end : {line.first(), line.last()}) {
        c.p.setPen(QPen(c.t.sheet, 1));
        c.p.setBrush(selected ? c.t.medge : c.t.ink);
        c.p.drawEllipse(end, 3, 3);
    }
}

/// A leg is clicked along its line, not in the rectangle around it.
void hitAlong(Canvas& c, const Section& s, const LeadRoute& route, const QString& name) {
    for (std::size_t i = 0; i + 1 < route.points.size(); ++i) {
        const QPointF a = s.point(route.points[i]), b = s.point(route.points[i + 1]);
        const double length = std::hypot(b.x() - a.x(), b.y() - a.y());
        const int pieces = std::clamp(static_cast<int>(length / 24), 1, 24);
        const bool level = std::abs(a.x() - b.x()) < 1 || std::abs(a.y() - b.y()) < 1;
        for (int k = 0; k < (level ? 1 : pieces); ++k) {
            const double t0 = level ? 0 : static_cast<double>(k) / pieces,
                         t1 = level ? 1 : static_cast<double>(k + 1) / pieces;
            c.hit(QRectF(a + t0 * (b - a), a + t1 * (b - a)).normalized().adjusted(-4, -4, 4, 4), route.ref, name);
        }
    }
}

QString ends(const View& v, const LeadRoute& route) {
    const auto nameOf = [&](const std::string& end) {
        const core::Placed* p = v.evaluation()->build.at(core::endName(end).mount);
        return p ? qs(p->name) : QObject::tr("the case");
    };
    return QStringLiteral("%1 \u2192 %2").arg(nameOf(route.from), nameOf(route.to));
}

QString nameOf(const View& v, const LeadRoute& route) {
    return qs(v.evaluation()->build.joined[route.joined].part->name);
}

/// Squares at the corners of the lead that is selected.
void paintCorners(Canvas& c, const Section& s, const View& v, const FitLook& look, const LeadRoute& route) {
    const auto corners = core::fit::cornersOf(route);
    for (std::size_t i = 0; i < corners.size(); ++i) {
        const QPointF at = s.point(corners[i]);
        const QRectF square(at.x() - 4, at.y() - 4, 8, 8);
        c.box(square, look.leadCorner == static_cast<int>(i) ? c.t.marker : c.t.sheet, c.t.medge, 1.6);
        c.hit(square.adjusted(-8, -8, 8, 8),
              Handle{.act = Act::DragCorner, .of = route.ref, .row = static_cast<int>(i)},
              QObject::tr("%1, corner %2 of %3; drag it, arrows move it, Delete takes it out")
                  .arg(nameOf(v, route))
                  .arg(i + 1)
                  .arg(corners.size()));
    }
}

/// A tie round leads that run beside each other, with how many and how thick they are together.
void paintTies(Canvas& c, const Section& s, const View& v, const std::vector<LeadRoute>& routes, Labels& labels) {
    for (const core::fit::Bundle& bundle : core::fit::bundlesOf(routes)) {
        const QPointF a = s.point(bundle.from), b = s.point(bundle.to), middle = (a + b) / 2;
        const double length = std::hypot(b.x() - a.x(), b.y() - a.y());
        if (length < 12)
            continue; // it runs into the paper
        const QPointF along = (b - a) / length, across(-along.y(), along.x());
        const double half = std::max(7.0, 0.5 * bundle.thicknessMm * s.scale + 4);
        c.p.setPen(QPen(c.t.sheet, 5, Qt::SolidLine, Qt::FlatCap));
        c.p.drawLine(middle - half * across, middle + half * across);
        c.p.setPen(QPen(c.t.ink, 2.4, Qt::SolidLine, Qt::FlatCap));
        c.p.drawLine(middle - half * across, middle + half * across);
        const bool known = std::all_of(bundle.routes.begin(), bundle.routes.end(),
                                       [&](std::size_t i) { return routes[i].stated && !routes[i].body.assumed; });
        const QString words = (known ? QObject::tr("%1 leads, \u2300 %2") : QObject::tr("%1 leads, \u2300 %2 assumed"))
                                  .arg(bundle.routes.size())
                                  .arg(v.text(Quantity::Length, bundle.thicknessMm));
        const QSizeF size(c.width(words, 11, Weight::Medium) + 8, 17);
        if (const auto at = labels.placeLed(size, middle + 16 * across, middle, 80, s.paper.adjusted(-6, -6, 6, 6)))
            c.plate(at->center(), words, 11);
    }
}

const core::rules::CableResult* cableOf(const View& v, const LeadRoute& route) {
    for (const auto& cable : v.evaluation()->wiring.cables)
        if (cable.ref == route.ref && cable.end == route.end)
            return &cable;
    return nullptr;
}

/// What there is to say of a lead beside the drawing.
QString wordsOf(const View& v, const LeadRoute& route) {
    const auto mm = [&](double x) { return v.text(Quantity::Length, x); };
    QStringList words;
    if (route.lengthMm > 0)
        words << (route.slackMm() < 0 ? QObject::tr("%1 for a way of %2, %3 too short")
                                            .arg(mm(route.lengthMm), mm(route.wayMm), mm(-route.slackMm()))
                                      : QObject::tr("%1 for a way of %2, %3 slack")
                                            .arg(mm(route.lengthMm), mm(route.wayMm), mm(route.slackMm())));
    else
        words << QObject::tr("a way of %1; its length is not stated").arg(mm(route.wayMm));
    if (route.stated && std::isfinite(route.tightestMm))
        words << QObject::tr("bends at %1 or wider, needs %2%3")
                     .arg(mm(route.tightestMm), mm(route.body.bendMm),
                          route.body.assumed ? QObject::tr(" (assumed)") : QString());
    words << (route.stated    ? QObject::tr("by its corners")
              : route.assumed ? QObject::tr("along the edges, from the middle of a part whose socket is not stated")
                              : QObject::tr("along the edges: an estimate until corners are stated"));
    if (const auto* part = v.evaluation()->build.joined[route.joined].part; part->link)
        words << QObject::tr("generation %1, %2 lanes").arg(part->link->generation).arg(part->link->lanes);
    for (const auto& m : route.meets)
        words << (m.mm < 0 ? QObject::tr("through %1").arg(m.mount.empty() ? QObject::tr("a wall") : qs(m.name))
                           : QObject::tr("%1 from %2, needs %3").arg(mm(m.mm), qs(m.name), mm(m.needMm)));
    return words.join(QStringLiteral("; "));
}

} // namespace

bool drawsLead(const FitLook& look, const core::Thing& selected, const LeadRoute& route) {
    return look.list == FitLook::List::Leads || selected == core::Thing(route.ref);
}

void paintLeads(Canvas& c, const Section& s, const View& v, const FitLook& look, Labels& labels) {
    std::vector<LeadRoute> shown;
    for (const LeadRoute& route : v.evaluation()->wiring.routes)
        if (drawsLead(look, c.selected(), route))
            shown.push_back(drawn(look, route));
    // The one that is selected lies over the others.
    std::stable_partition(shown.begin(), shown.end(), [&](const LeadRoute& r) { return !c.isSelected(r.ref); });
    for (const LeadRoute& route : shown) {
        paintLine(c, s, route, c.isSelected(route.ref));
        hitAlong(c, s, route, QStringLiteral("%1, %2: %3").arg(nameOf(v, route), ends(v, route), wordsOf(v, route)));
    }
    paintTies(c, s, v, shown, labels);
    // Of several ends those of the one that was clicked.
    const auto isMeant = [&](const LeadRoute& route) { return c.isSelected(route.ref) && route.end == look.leadEnd; };
    const bool known = std::any_of(shown.begin(), shown.end(), isMeant);
    for (const LeadRoute& route : shown)
        if (!look.paper && (known ? isMeant(route) : c.isSelected(route.ref) && route.end == 0))
            paintCorners(c, s, v, look, route);
}

void paintLeadList(Canvas& c, const QRectF& r, const View& v, const FitLook& look) {
    const auto& routes = v.evaluation()->wiring.routes;
    c.second({r.left(), r.top(), r.width(), 22},
             c.elided(routes.empty() ? QString() : QObject::tr("drag corners, double-click adds, Delete removes"),
                      r.width(), 11.5),
             Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    double y = r.top() + 26;
    std::size_t shown = 0;
    for (std::size_t i = firstRow(c, routes.size()); i < routes.size(); ++i) {
        const LeadRoute& route = drawn(look, routes[i]);
        const auto height =
            paintEntry(c, r, y, core::rules::markOfLead(cableOf(v, route), route),
                       nameOf(v, route) + QStringLiteral(", ") + ends(v, route), wordsOf(v, route), route.ref,
                       QObject::tr("Corners ..."),
                       Handle{.act = Act::StateCorners, .of = route.ref, .row = static_cast<int>(route.end)},
                       QObject::tr("State the way of %1 by points, typed or pasted").arg(nameOf(v, route)));
        if (!height)
            break;
        y += *height;
        ++shown;
    }
    const std::size_t without =
        static_cast<std::size_t>(std::count_if(v.evaluation()->build.joined.begin(), v.evaluation()->build.joined.end(),
                                               [](const core::Joined& j) { return j.from.empty() || j.to.empty(); }));
    QString note;
    if (routes.empty())
        note =
            QObject::tr("No lead with two stated ends. Plug one in by dragging from socket to plug in Brief, or as a "
                        "change of the revision (Ctrl+N).");
    if (without > 0)
        note += QObject::tr(" %1 more without a stated end: their ways are not drawn and not measured.").arg(without);
    if (!note.isEmpty() && y + 60 < r.bottom())
        c.paragraph({r.left(), y + 8, r.width(), 90}, note.trimmed(), 12.5, Weight::Regular, c.t.ink2, 5);
    paintMore(c, r, shown, routes.size(), [&](std::size_t i) { return core::Thing(routes[i].ref); });
}

MoreCorners withCornerIn(const LeadRoute& route, std::size_t leg, const Point& at) {
    MoreCorners more{core::fit::cornersOf(route), 0};
    // Points begin with the socket and the end of the plug: a leg at either end belongs to the plug.
    more.at = std::clamp<std::size_t>(leg, 1, more.corners.size() + 1) - 1;
    more.corners.insert(more.corners.begin() + static_cast<std::ptrdiff_t>(more.at), at);
    return more;
}

MoreCorners withCornerOnLongestLeg(const LeadRoute& route) {
    std::size_t longest = 1;
    const auto length = [&](std::size_t i) {
        const Point &a = route.points[i], &b = route.points[i + 1];
        return std::hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
    };
    for (std::size_t i = 1; i + 2 < route.points.size(); ++i)
        if (length(i) > length(longest))
            longest = i;
    const Point &a = route.points[longest], &b = route.points[longest + 1];
    return withCornerIn(route, longest, {(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2});
}

NearestLeg nearestLeg(const Section& s, const LeadRoute& route, const QPointF& at) {
    NearestLeg best;
    double least = 1e18;
    for (std::size_t i = 0; i + 1 < route.points.size(); ++i) {
        const QPointF a = s.point(route.points[i]), b = s.point(route.points[i + 1]), d = b - a;
        const double squares = QPointF::dotProduct(d, d);
        const double t = squares > 0 ? std::clamp(QPointF::dotProduct(at - a, d) / squares, 0.0, 1.0) : 0.5;
        const QPointF off = at - (a + t * d);
        if (const double far = QPointF::dotProduct(off, off); far < least) {
            least = far;
            best.leg = i;
            for (std::size_t k = 0; k < 3; ++k)
                best.at[k] = route.points[i][k] + t * (route.points[i + 1][k] - route.points[i][k]);
        }
    }
    return best;
}

} // namespace app
