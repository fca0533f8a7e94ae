// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/labels.h"
#include "app/stations/air/air_look.h"
#include "core/air/compile_geometry.h"
#include "core/air/own_values.h"
#include "core/base/text.h"

#include <cmath>

namespace app {
using core::Quantity;

namespace {

/// One way of air as it is drawn: from the room it begins in, by where it passes, to the room it ends in.
struct BranchWay {
    std::size_t branch = 0;
    QPointF from, by, to;
    bool toViewer = false; ///< its opening faces the viewer: only a ring shows where it leaves
};

class NetworkDrawing {
public:
    NetworkDrawing(const SideView& s, const View& v)
        : m_s(s), m_e(*v.evaluation()), m_net(m_e.air.solved->compiled.network),
          m_names(core::air::branchNames(m_net)) {}

    /// Where the plate of a room stands, once it has found room.
    void put(std::size_t zone, const QPointF& at) { m_put[zone] = at; }
    [[nodiscard]] QPointF node(std::size_t zone) const {
        if (const auto it = m_put.find(zone); it != m_put.end())
            return it->second;
        const std::string& id = m_net.zones[zone].id;
        for (const core::Chamber& ch : m_e.build.caseSpec().chambers)
            if (ch.id == id)
                return m_s.rect(ch.lowMm, ch.highMm).center();
        const auto blank = id.find(' ');
        const core::Placed* p = blank == std::string::npos ? nullptr : m_e.build.at(id.substr(blank + 1));
        const QPointF at = p ? m_s.rect(*p).center() : m_s.paper.center();
        return at + (id.starts_with("gap") ? QPointF(0, 16) : QPointF(22, -14)); // two rooms of one part stand apart
    }
    [[nodiscard]] BranchWay way(std::size_t b) const {
        const core::air::Branch& branch = m_net.branches[b];
        BranchWay w{.branch = b};
        const Gate gate = gateAt(branch.id);
        const bool atWall = !gate.wall.isNull();
        w.toViewer = atWall && gate.facesViewer;
        const QPointF out = atWall ? gate.wall + gate.out * 26 : QPointF();
        w.from = branch.from == 0 ? out : node(branch.from);
        w.to = branch.to == 0 ? out : node(branch.to);
        w.by = atWall ? gate.wall : (w.from + w.to) / 2;
        if (!atWall && (branch.from == 0 || branch.to == 0)) { // a leak: from the room towards its nearest wall
            const QPointF room = node(branch.from == 0 ? branch.to : branch.from);
            const QPointF far = QPointF(
                room.x() < m_s.paper.center().x() ? m_s.paper.left() - 26 : m_s.paper.right() + 26, room.y() - 24);
            (branch.from == 0 ? w.from : w.to) = far;
            w.by = (w.from + w.to) / 2;
        }
        if (!atWall) { // several between the same two rooms lie beside each other
            const QPointF along = w.to - w.from;
            const double length = std::max(1.0, std::hypot(along.x(), along.y()));
            w.by += QPointF(-along.y(), along.x()) / length * (static_cast<double>(ordinal(b)) * 16 - 8);
        }
        return w;
    }
    [[nodiscard]] const core::air::Network& net() const { return m_net; }
    [[nodiscard]] const std::string& name(std::size_t b) const { return m_names[b]; }

private:
    /// Where the opening, fan or supply that a way is named after meets the outside; null: it stays inside.
    [[nodiscard]] Gate gateAt(const std::string& id) const {
        if (const core::Opening* o = m_e.build.opening(id))
            return o->to.empty() ? gateOf(m_s, o->side, middleOf(*o)) : Gate{};
        const core::Placed* p = m_e.build.at(id);
        if (!p)
            return {};
        for (const auto& fan : m_e.air.solved->compiled.fans)
            if (fan.mount == id && !fan.opening.empty())
                if (const core::Opening* o = m_e.build.opening(fan.opening))
                    return gateOf(m_s, o->side, core::air::centreOf(*p));
        return {};
    }
    [[nodiscard]] std::ptrdiff_t ordinal(std::size_t b) const {
        const auto& branch = m_net.branches[b];
        return std::count_if(m_net.branches.begin(), m_net.branches.begin() + static_cast<std::ptrdiff_t>(b),
                             [&](const core::air::Branch& other) {
                                 return (other.from == branch.from && other.to == branch.to) ||
                                        (other.from == branch.to && other.to == branch.from);
                             });
    }

    const SideView& m_s;
    const core::stages::Evaluation& m_e;
    const core::air::Network& m_net;
    std::vector<std::string> m_names;
    std::map<std::size_t, QPointF> m_put;
};

QPainterPath paintBranch(Canvas& c, const BranchWay& way, const NetworkDrawing& drawing, const View& v) {
    const auto& s = v.evaluation()->air.solved->solution;
    const auto& branch = drawing.net().branches[way.branch];
    const double flow = s.flowM3s[way.branch] * 3600;
    const double up = s.temperatureC[flow >= 0 ? branch.from : branch.to];
    QPainterPath path(way.from);
    path.quadTo(way.by, way.to);
    c.p.setBrush(Qt::NoBrush);
    if (c.isSelected(core::BranchRef{drawing.name(way.branch)})) {
        c.p.setPen(QPen(c.t.medge, 7, Qt::SolidLine, Qt::FlatCap));
        c.p.drawPath(path);
    }
    c.p.setPen(QPen(c.t.flowOf(up - v.evaluation()->air.conditions.roomC), std::clamp(0.22 * std::abs(flow), 1.0, 6.0),
                    std::abs(flow) < 0.5 ? Qt::DotLine : Qt::SolidLine, Qt::FlatCap));
    c.p.drawPath(path);
    if (std::abs(flow) >= 0.5)
        c.arrow(path.pointAtPercent(flow >= 0 ? 0.74 : 0.26), path.pointAtPercent(flow >= 0 ? 0.82 : 0.18), c.t.ink,
                1.2);
    return path;
}

/// The place that a room or way of air is named after: "tray/cpu/lid" of "gap tray/cpu/lid", "wall" of "fans wall -",
/// of "radiator wall, no fan" and of "jet wall vent".
std::string placeIn(const core::Build& build, const std::string& id) {
    const auto blank = id.find(' ');
    std::string place = blank == std::string::npos ? id : id.substr(blank + 1);
    for (auto end = place.find_last_of(" ,"); end != std::string::npos && !build.at(place);
         end = place.find_last_of(" ,"))
        place.resize(end);
    return place;
}

/// What a room is called: chambers by their name, others by the part they belong to; without it @p beside what names
/// that part already.
QString roomName(const View& v, const std::string& id, const std::string& beside = {}) {
    if (id == "outside")
        return QObject::tr("outside");
    const auto& build = v.evaluation()->build;
    for (const core::Chamber& ch : build.caseSpec().chambers)
        if (ch.id == id)
            return qs(ch.name);
    const std::string place = placeIn(build, id);
    const core::Placed* p = build.at(place);
    if (!p)
        return qs(id);
    const bool gap = id.starts_with("gap"), fins = id.starts_with("fins");
    if (place == beside)
        return gap                 ? QObject::tr("gap")
               : fins              ? QObject::tr("fins")
               : id.ends_with('-') ? QObject::tr("its fans before")
                                   : QObject::tr("its fans behind");
    return gap                 ? QObject::tr("gap, %1").arg(qs(p->name))
           : fins              ? QObject::tr("fins, %1").arg(qs(p->name))
           : id.ends_with('-') ? QObject::tr("fans before %1").arg(qs(p->name))
                               : QObject::tr("fans behind %1").arg(qs(p->name));
}

/// What a way of air is called: by its opening or part, with the word the network has for it.
QString wayName(const View& v, const std::string& id) {
    const auto& build = v.evaluation()->build;
    if (const core::Opening* o = build.opening(id))
        return qs(o->name);
    if (const core::Placed* p = build.at(id))
        return qs(p->name);
    const auto blank = id.find(' ');
    const std::string word = id.substr(0, blank), rest = blank == std::string::npos ? "" : id.substr(blank + 1);
    const core::Placed* p = build.at(placeIn(build, id));
    const QString of = p ? qs(p->name) : roomName(v, rest);
    if (word == "radiator")
        return id.ends_with(", no fan") ? QObject::tr("through %1, where no fan is").arg(of)
                                        : QObject::tr("through %1").arg(of);
    if (word == "jet" && p)
        if (const core::Opening* o = build.opening(rest.substr(std::min(rest.size(), p->mount.size() + 1))))
            return QObject::tr("%1, blown at %2").arg(of, qs(o->name));
    return word == "leak"      ? QObject::tr("leaks, %1").arg(of)
           : word == "edge"    ? QObject::tr("edges, %1").arg(of)
           : word == "cooler"  ? QObject::tr("through %1").arg(of)
           : word == "outlet"  ? QObject::tr("out of %1").arg(of)
           : word == "bracket" ? QObject::tr("slots, %1").arg(of)
           : word == "supply"  ? QObject::tr("through %1").arg(of)
                               : qs(id);
}

/// The number of a way, on its line where there is room.
void paintBadge(Canvas& c, Labels& labels, const QPainterPath& path, std::size_t b, const NetworkDrawing& drawing,
                const View& v) {
    const core::Thing thing = core::BranchRef{drawing.name(b)};
    const bool chosen = c.isSelected(thing);
    const QSizeF size(18, 15);
    std::optional<QRectF> place;
    for (const double at : {0.5, 0.42, 0.58, 0.34, 0.66, 0.26, 0.2}) {
        const QRectF r(path.pointAtPercent(at) - QPointF(size.width() / 2, size.height() / 2), size);
        if (!labels.isFree(r, 1))
            continue;
        place = r;
        labels.keepOff(r);
        break;
    }
    if (!place)
        place = labels.place(size, path.pointAtPercent(0.5), 70);
    if (!place)
        return; // the list names it
    const QString number = QString::number(b + 1);
    c.box(*place, chosen ? c.t.marker : c.t.sheet, chosen ? c.t.medge : c.t.line, chosen ? 1.6 : 1);
    c.text(*place, number, 11, Weight::Medium, c.t.ink, Qt::AlignCenter);
    c.label(*place);
    const double flow = v.evaluation()->air.solved->solution.flowM3s[b] * 3600;
    c.hit(*place, thing,
          QObject::tr("Way of air %1, %2: %3")
              .arg(number, wayName(v, drawing.net().branches[b].id), v.text(Quantity::Flow, flow)));
}

/// The two ends of a way in a row that names its part already: "gap to fins" instead of both with the part again.
QString endsBeside(const View& v, const core::air::Network& net, const core::air::Branch& branch) {
    const std::string own = placeIn(v.evaluation()->build, branch.id);
    return QObject::tr("%1 to %2")
        .arg(roomName(v, net.zones[branch.from].id, own), roomName(v, net.zones[branch.to].id, own));
}

bool isOwn(const View& v, const std::string& element) {
    const auto& own = v.evaluation()->air.conditions.own;
    return std::any_of(own.begin(), own.end(), [&](const core::AirValue& o) { return o.element == element; });
}

void paintBranches(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    const auto& net = e.air.solved->compiled.network;
    const auto& s = e.air.solved->solution;
    const auto names = core::air::branchNames(net);
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Ways of air"), v.unit(Quantity::Flow));
    const double right = r.right() - 14, nameW = std::min(170.0, (right - 96 - r.left() - 28) * 0.46);
    const double endsAt = r.left() + 28 + nameW + 8, endsW = right - 88 - endsAt;
    PaintedList list(c, QStringLiteral("ways of air"), r.adjusted(0, 26, 0, 0), names.size(), 20,
                     {{QObject::tr("no."), r.left(), r.left() + 26},
                      {QObject::tr("by"), r.left() + 28, r.left() + 28 + nameW},
                      {QObject::tr("from, to"), endsAt, endsAt + endsW},
                      {QObject::tr("cm²"), right - 90, right - 50, Qt::AlignRight},
                      {v.unit(Quantity::Flow), right - 48, right, Qt::AlignRight}});
    const auto areaCm2 = [&](std::size_t b) {
        const core::Opening* o = e.build.opening(net.branches[b].id);
        return o ? o->sizeMm[0] * o->sizeMm[1] / 100 : 0.0;
    };
    const auto ends = [&](std::size_t b) {
        return QObject::tr("%1 to %2")
            .arg(roomName(v, net.zones[net.branches[b].from].id), roomName(v, net.zones[net.branches[b].to].id));
    };
    list.sort([&](std::size_t i, int column) -> SortKey {
        return column == 0   ? SortKey(static_cast<double>(i))
               : column == 1 ? SortKey(wayName(v, net.branches[i].id))
               : column == 2 ? SortKey(ends(i))
               : column == 3 ? SortKey(areaCm2(i))
                             : SortKey(s.flowM3s[i]);
    });
    list.follow([&](std::size_t i) { return core::Thing(core::BranchRef{names[i]}); });
    list.paint([&](std::size_t i, const QRectF& row) {
        const core::Thing thing = core::BranchRef{names[i]};
        const double y = row.top(), h = row.height();
        c.washIfSelected(row, thing);
        c.text({r.left(), y, 26, h}, QString::number(i + 1), 12, Weight::Medium, c.t.ink2);
        c.text({r.left() + 28, y, nameW, h}, c.elided(wayName(v, net.branches[i].id), nameW, 12.5), 12.5,
               isOwn(v, names[i]) ? Weight::SemiBold : Weight::Regular);
        c.second({endsAt, y, endsW, h}, c.elided(endsBeside(v, net, net.branches[i]), endsW, 12));
        if (const double area = areaCm2(i); area > 0)
            c.second({right - 90, y, 40, h}, digits(area, 0), Qt::AlignRight | Qt::AlignVCenter);
        c.text({right - 50, y, 50, h}, v.signedNumber(Quantity::Flow, s.flowM3s[i] * 3600), 12.5, Weight::SemiBold,
               c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.hline(row.left(), row.right(), row.bottom(), c.t.hair);
        c.hit(row, thing,
              QObject::tr("Way of air %1, %2, %3, %4")
                  .arg(QString::number(i + 1), wayName(v, net.branches[i].id), ends(i),
                       v.text(Quantity::Flow, s.flowM3s[i] * 3600)));
    });
}

void paintZones(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    const auto& net = e.air.solved->compiled.network;
    const auto& s = e.air.solved->solution;
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Rooms"),
              QObject::tr("%1, Pa over the room").arg(v.unit(Quantity::Temperature)));
    const double right = r.right() - 14;
    PaintedList list(c, QStringLiteral("rooms of air"), r.adjusted(0, 26, 0, 0), net.zones.size() - 1, 20);
    list.follow([&](std::size_t i) { return core::Thing(core::ChamberRef{net.zones[i + 1].id}); });
    list.paint([&](std::size_t i, const QRectF& row) {
        const std::size_t z = i + 1;
        const core::Thing thing = core::ChamberRef{net.zones[z].id};
        c.washIfSelected(row, thing);
        const double nameW = r.width() - 130;
        c.text({r.left(), row.top(), nameW, row.height()}, c.elided(roomName(v, net.zones[z].id), nameW, 12.5), 12.5,
               isOwn(v, net.zones[z].id) ? Weight::SemiBold : Weight::Regular);
        c.text({right - 110, row.top(), 50, row.height()}, v.number(Quantity::Temperature, s.temperatureC[z]), 12.5,
               Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({right - 56, row.top(), 56, row.height()}, v.signedNumber(Quantity::Pressure, s.pressurePa[z]), 12.5,
               Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.hline(row.left(), row.right(), row.bottom(), c.t.hair);
        c.hit(
            row, thing,
            QObject::tr("%1, %2").arg(roomName(v, net.zones[z].id), v.text(Quantity::Temperature, s.temperatureC[z])));
    });
}

void paintNetworkDrawing(Canvas& c, const QRectF& r, const View& v, const AirLook& look) {
    SideView s = sideViewIn(r, v.evaluation()->build, look.sight, 40);
    s.readings = false;
    paintAirSection(c, s, v);
    QColor veil = c.t.paper; // what lies below steps back
    veil.setAlphaF(0.55F);
    c.p.fillRect(s.paper, veil);
    NetworkDrawing drawing(s, v);
    const auto& net = drawing.net();
    const auto& solution = v.evaluation()->air.solved->solution;
    // Plates first, so that lines end where they stand; badges keep off them and off each other.
    Labels labels;
    const auto wordsOf = [&](std::size_t z) { return v.text(Quantity::Temperature, solution.temperatureC[z]); };
    for (std::size_t z = 1; z < net.zones.size(); ++z) {
        const QSizeF size(c.width(wordsOf(z), 12, Weight::SemiBold) + 14, 20);
        if (const auto place = labels.place(size, drawing.node(z), 120, s.paper.adjusted(2, 2, -2, -2)))
            drawing.put(z, place->center());
        else
            labels.keepOff(QRectF(drawing.node(z) - QPointF(size.width() / 2, 10), size));
    }
    std::vector<QPainterPath> paths;
    for (std::size_t b = 0; b < net.branches.size(); ++b)
        paths.push_back(paintBranch(c, drawing.way(b), drawing, v));
    for (std::size_t z = 1; z < net.zones.size(); ++z) {
        const core::Thing thing = core::ChamberRef{net.zones[z].id};
        const QSizeF size(c.width(wordsOf(z), 12, Weight::SemiBold) + 14, 20);
        const QRectF box(drawing.node(z) - QPointF(size.width() / 2, 10), size);
        c.box(box, c.isSelected(thing) ? c.t.marker : c.t.sheet, c.isSelected(thing) ? c.t.medge : c.t.ink, 1.4);
        c.text(box, wordsOf(z), 12, Weight::SemiBold, c.t.ink, Qt::AlignCenter);
        c.label(box);
        c.hit(box, thing, QObject::tr("%1, %2").arg(roomName(v, net.zones[z].id), wordsOf(z)));
    }
    for (std::size_t b = 0; b < net.branches.size(); ++b)
        paintBadge(c, labels, paths[b], b, drawing, v);
}

} // namespace

void paintNetwork(Canvas& c, const QRectF& r, const View& v, const AirLook& look) {
    const auto& e = *v.evaluation();
    const auto& net = e.air.solved->compiled.network;
    stageHead(c, r.adjusted(0, 0, -airHeadRoom, 0), question::air,
              QObject::tr("%1 rooms, %2 ways of air").arg(net.zones.size() - 1).arg(net.branches.size()));
    const double rightW = std::clamp(r.width() * 0.52, 340.0, 560.0);
    const QRectF left(r.left(), r.top() + 32, r.width() - rightW - 26, r.height() - 32);
    const QRectF right(r.right() - rightW, left.top(), rightW, left.height());
    c.vline(left.right() + 13, left.top(), r.bottom(), c.t.line);
    paintSights(c, {left.left(), left.top(), left.width(), 20}, v, look);
    const double rooms = std::min(left.height() * 0.34, 30 + 20.0 * static_cast<double>(net.zones.size() - 1));
    constexpr double help = 54;
    paintNetworkDrawing(c, left.adjusted(0, 10, 0, -rooms - help), v, look);
    c.paragraph(
        {left.left(), left.bottom() - rooms - help, left.width(), help - 8},
        QObject::tr("Rooms as plates, ways of air as lines by flow, dotted where nearly still. To set a value by "
                    "hand, choose a room or a way, then Enter. Values of your own stand bold."),
        12, Weight::Regular, c.t.ink2, 3);
    paintZones(c, {left.left(), left.bottom() - rooms, left.width(), rooms}, v);
    paintBranches(c, right, v);
}

} // namespace app
