// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/port_map.h"

#include <array>

namespace app {
using core::Mark;
using core::rules::PortMap;

namespace {

/// A box with its plugs below each other on one edge.
struct Node {
    core::rules::Holder holder;
    QString name;
    core::Thing thing;
    core::PartKind kind = core::PartKind::Board;
    struct Row {
        QString kind;
        std::vector<int> index; ///< into sockets (givers) or needs (takers)
        /// Of several alike the first that is free, or short, is meant.
        [[nodiscard]] int meant(const std::vector<bool>& open) const {
            const auto first =
                std::find_if(index.begin(), index.end(), [&](int k) { return open[static_cast<std::size_t>(k)]; });
            return first == index.end() ? index.front() : *first;
        }
    };
    std::vector<Row> plugs;
};

/// @p together: plugs of one kind share a row, where there is little room.
template <class Items, class Holder>
std::vector<Node> nodesOf(const core::Build& build, const Items& items, bool together, Holder&& holder) {
    std::vector<Node> nodes;
    for (std::size_t i = 0; i < items.size(); ++i) {
        const core::rules::Holder& h = holder(items[i]);
        auto node = std::find_if(nodes.begin(), nodes.end(), [&](const Node& n) { return n.holder.isSame(h); });
        if (node == nodes.end())
            node = nodes.insert(node, {h, qs(h.name), core::rules::thingOf(build, h), h.part->kind, {}});
        auto& plugs = node->plugs;
        if (together && !plugs.empty() && plugs.back().kind == qs(items[i].kind))
            plugs.back().index.push_back(static_cast<int>(i));
        else
            plugs.push_back({qs(items[i].kind), {static_cast<int>(i)}});
    }
    return nodes;
}

constexpr double boxPadding = 3, boxApart = 3, leastLine = 12;

/// Where each plug of a column leaves its box.
struct Column {
    std::vector<QPointF> at;
    double bottom = 0;
};

/// What is known of the plugs of a column, by their index.
struct Plugs {
    std::vector<bool> open;           ///< free, or short
    std::vector<core::Thing> sockets; ///< the socket, or the one that the plug sits in; nothing: none of a part
};

Plugs socketsOf(const core::Build& build, const PortMap& map) {
    Plugs all;
    for (const auto& socket : map.sockets) {
        all.open.push_back(socket.takenBy < 0);
        all.sockets.push_back(socket.giver.isLead ? core::Thing{} : thingOf(build, socket));
    }
    return all;
}

Plugs needsOf(const PortMap& map, const Plugs& sockets) {
    Plugs all;
    for (const auto& need : map.needs) {
        all.open.push_back(need.socket < 0);
        all.sockets.push_back(need.socket < 0 ? core::Thing{} : sockets.sockets[static_cast<std::size_t>(need.socket)]);
    }
    return all;
}

/// Where the words of a plug stand, on the side that its wire leaves.
constexpr double plugWidth = 80;
QRectF placeOfPlug(const QRectF& row, bool givers) {
    return givers ? row.adjusted(row.width() - plugWidth, 0, 0, 0) : row.adjusted(0, 0, plugWidth - row.width(), 0);
}

Column paintColumn(Canvas& c, const QRectF& r, const std::vector<Node>& nodes, bool givers, double line,
                   const Plugs& all) {
    Column column;
    column.at.resize(all.open.size());
    double y = r.top();
    for (const Node& node : nodes) {
        const double height = boxPadding + line * static_cast<double>(node.plugs.size());
        const QRectF box(r.left(), y, r.width(), height);
        c.box(box, c.fillOf(node.thing, c.t.sheet), c.isSelected(node.thing) ? c.t.medge : c.t.ink, 1);
        const double edge = givers ? box.left() : box.right() - 10;
        c.hatch({edge, box.top(), 10, box.height()}, node.kind, node.kind == core::PartKind::Case ? c.t.ink : c.t.sheet,
                c.t.ink, 1);
        const double textLeft = box.left() + (givers ? 14 : 66), textWidth = box.width() - 82;
        c.text({textLeft, box.top() + 2, textWidth, line}, c.elided(node.name, textWidth, 12, Weight::Medium), 12,
               Weight::Medium, c.t.ink, givers ? Qt::AlignLeft | Qt::AlignVCenter : Qt::AlignRight | Qt::AlignVCenter);
        for (std::size_t i = 0; i < node.plugs.size(); ++i) {
            const double middle = box.top() + boxPadding / 2 + line * (static_cast<double>(i) + 0.5);
            const QPointF at(givers ? box.right() : box.left(), middle);
            bool isShort = false;
            for (const int k : node.plugs[i].index) {
                const auto plug = static_cast<std::size_t>(k);
                column.at[plug] = at;
                isShort = isShort || (!givers && all.open[plug]);
                if (c.isSelected(all.sockets[plug])) // at both ends of the wire
                    c.washIfSelected(placeOfPlug({box.left(), middle - line / 2, box.width(), line}, givers),
                                     all.sockets[plug]);
            }
            const QString plug =
                node.plugs[i].index.size() == 1
                    ? node.plugs[i].kind
                    : QStringLiteral("%1 × %2").arg(node.plugs[i].index.size()).arg(node.plugs[i].kind);
            c.text({givers ? box.right() - 76 : box.left() + 6, middle - line / 2, 70, line}, c.elided(plug, 70, 11),
                   11, Weight::Regular, isShort ? c.t.block : c.t.ink2,
                   givers ? Qt::AlignRight | Qt::AlignVCenter : Qt::AlignLeft | Qt::AlignVCenter);
        }
        c.hit(box, node.thing, node.name);
        for (std::size_t i = 0; i < node.plugs.size(); ++i) {
            const int meant = node.plugs[i].meant(all.open);
            const core::Thing& socket = all.sockets[static_cast<std::size_t>(meant)];
            const QRectF row(box.left(), box.top() + boxPadding / 2 + line * static_cast<double>(i), box.width(), line);
            const Act act = givers ? Act::DragSocket : Act::DragPlug;
            const QString words =
                givers ? QObject::tr("%1, %2: drag it to a plug to join the two").arg(node.name, node.plugs[i].kind)
                       : QObject::tr("%1, %2: drag it to a socket, or off to unplug its lead")
                             .arg(node.name, node.plugs[i].kind);
            c.hit(row, Hit{{}, node.thing, Handle{.act = act, .row = meant}, words});
            if (!core::isNothing(socket))
                c.hit(placeOfPlug(row, givers), Hit{{}, socket, Handle{.act = act, .of = socket, .row = meant}, words});
        }
        y += height + boxApart;
    }
    column.bottom = y;
    return column;
}

/// A wire as points along it: a path would measure its length anew for each of them.
using Wire = std::array<QPointF, 51>;

Wire wireOf(const QPointF& from, const QPointF& bendFrom, const QPointF& bendTo, const QPointF& to) {
    Wire wire;
    for (std::size_t i = 0; i < wire.size(); ++i) {
        const double t = static_cast<double>(i) / static_cast<double>(wire.size() - 1), u = 1 - t;
        wire[i] = u * u * u * from + 3 * u * u * t * bendFrom + 3 * u * t * t * bendTo + t * t * t * to;
    }
    return wire;
}

/// How many of the other wires a name would lie over.
std::ptrdiff_t wiresUnder(const QRectF& name, const std::vector<Wire>& wires, std::size_t own) {
    const auto touches = [&](const Wire& wire) {
        return std::any_of(wire.begin(), wire.end(), [&](const QPointF& at) { return name.contains(at); });
    };
    return std::count_if(wires.begin(), wires.end(), touches) - (touches(wires[own]) ? 1 : 0);
}

/// Names of leads, each on its own wire: off each other, and over as few other wires as can be.
void paintLeadNames(Canvas& c, const std::vector<Wire>& wires,
                    const std::vector<std::pair<std::size_t, QString>>& named) {
    std::vector<QRectF> taken;
    for (const auto& [own, name] : named) {
        std::optional<QPointF> best;
        double least = 1e9;
        const double wide = c.width(name, 11) + 12;
        for (std::size_t i = 7; i + 7 < wires[own].size(); i += 2) {
            const QPointF at = wires[own][i];
            const QRectF probe(at.x() - wide / 2, at.y() - 10, wide, 20);
            if (std::any_of(taken.begin(), taken.end(), [&](const QRectF& t) { return t.intersects(probe); }))
                continue;
            if (const double cost =
                    static_cast<double>(wiresUnder(probe, wires, own)) + std::abs(static_cast<double>(i) / 50 - 0.5);
                cost < least) {
                least = cost;
                best = at;
            }
        }
        if (best) {
            taken.push_back({best->x() - wide / 2, best->y() - 10, wide, 20});
            c.plate(*best, name, 11);
        }
    }
}

void paintWires(Canvas& c, const PortMap& map, const Column& left, const Column& right) {
    std::vector<Wire> wires;
    std::vector<std::pair<std::size_t, QString>> named;
    for (std::size_t n = 0; n < map.needs.size(); ++n) {
        const auto& need = map.needs[n];
        const QPointF to = right.at[n];
        if (need.socket < 0) {
            c.p.setPen(QPen(c.t.block, 1.4, Qt::DashLine));
            c.p.drawLine(to - QPointF(26, 0), to);
            c.mark(to - QPointF(42, 5), Mark::Crossed);
            continue;
        }
        const QPointF from = left.at[static_cast<std::size_t>(need.socket)];
        QPainterPath wire(from);
        const double bend = 0.45 * (to.x() - from.x());
        wire.cubicTo(from + QPointF(bend, 0), to - QPointF(bend, 0), to);
        c.p.setPen(QPen(c.t.ink, 1.2));
        c.p.setBrush(Qt::NoBrush);
        c.p.drawPath(wire);
        c.p.setBrush(c.t.ink);
        c.p.drawEllipse(from, 2.2, 2.2);
        c.p.drawEllipse(to, 2.2, 2.2);
        if (!need.via.empty())
            named.emplace_back(wires.size(), c.elided(qs(need.via), 110, 11));
        wires.push_back(wireOf(from, from + QPointF(bend, 0), to - QPointF(bend, 0), to));
    }
    paintLeadNames(c, wires, named);
    for (std::size_t s = 0; s < map.sockets.size(); ++s)
        if (map.sockets[s].takenBy < 0) { // a free socket is an empty ring
            c.p.setPen(QPen(c.t.line, 1.2));
            c.p.setBrush(c.t.paper);
            c.p.drawEllipse(left.at[s] + QPointF(4, 0), 3, 3);
        }
}

void paintOffers(Canvas& c, const QRectF& r, const PortMap& map, const View& v) {
    double x = r.left();
    c.text({x, r.top(), 120, 24}, QObject::tr("Would mend it:"), 12, Weight::SemiBold);
    x += 96;
    for (const auto& offer : map.offers) {
        QString words = qs(offer.name);
        if (offer.price > 0)
            words += QStringLiteral(", ") + v.text(core::Quantity::Money, offer.price);
        if (!offer.canBeFed)
            words += QObject::tr(", nothing free feeds it");
        const double w = c.width(words, 12, Weight::Medium) + 16;
        if (x + w > r.right())
            break;
        const QRectF box(x, r.top(), w, 24);
        c.box(box, c.t.sheet, c.t.line, 1);
        c.text(box, words, 12, Weight::Medium, offer.canBeFed ? c.t.ink : c.t.ink2, Qt::AlignCenter);
        if (offer.canBeFed)
            c.hit(box, Handle{.act = Act::UseAdapter, .of = core::LeadRef{offer.part, {}}},
                  QObject::tr("Use %1 for the missing %2").arg(qs(offer.name), qs(offer.kind)));
        x += w + 8;
    }
    if (map.offers.empty()) {
        const QString words = QObject::tr("no adapter on the shelf gives it"),
                      next = QObject::tr("Put one on the shelf ...");
        c.second({x, r.top(), r.right() - x, 24}, words);
        const QRectF box(x + c.width(words, 12) + 12, r.top(), c.width(next, 12, Weight::Medium) + 16, 24);
        c.box(box, c.t.sheet, c.t.line, 1);
        c.text(box, next, 12, Weight::Medium, c.t.ink, Qt::AlignCenter);
        c.hit(box, Handle{.act = Act::AddAdapter}, QObject::tr("Standard adapters, or one of your own"));
    }
}

} // namespace

void paintPortMap(Canvas& c, const QRectF& r, const View& v) {
    const PortMap& map = v.evaluation()->wiring.ports;
    const Plugs sockets = socketsOf(v.evaluation()->build, map), needs = needsOf(map, sockets);
    const auto shortOf = std::count(needs.open.begin(), needs.open.end(), true),
               spare = std::count(sockets.open.begin(), sockets.open.end(), true);
    c.heading(r.left(), r.top(), r.width(), QObject::tr("What plugs into what"),
              QObject::tr("%1 short, %2 free").arg(shortOf).arg(spare));
    if (map.needs.empty() && map.sockets.empty())
        return c.second({r.left(), r.top() + 30, r.width(), 22}, QObject::tr("No plugs are stated on the parts."));
    const double offers = shortOf > 0 ? 30 : 0, room = r.height() - 30 - offers;
    std::vector<Node> givers, takers;
    double line = 0;
    // The taller column sets the line height; plugs of one kind share a row when it would be too small to read.
    for (const bool together : {false, true}) {
        if (line >= 13)
            break;
        givers = nodesOf(v.evaluation()->build, map.sockets, together,
                         [](const auto& socket) -> const core::rules::Holder& { return socket.giver; });
        takers = nodesOf(v.evaluation()->build, map.needs, together,
                         [](const auto& need) -> const core::rules::Holder& { return need.taker; });
        const auto lineOf = [&](const std::vector<Node>& nodes) {
            std::size_t rows = 0;
            for (const Node& node : nodes)
                rows += node.plugs.size();
            return (room - (boxPadding + boxApart) * static_cast<double>(nodes.size())) / share(rows);
        };
        line = std::min({lineOf(givers), lineOf(takers), 20.0});
    }
    line = std::max(line, leastLine);
    const double width = std::min(250.0, r.width() * 0.34);
    c.p.save();
    c.p.setClipRect(
        r, Qt::IntersectClip); // a sheet that is too low scrolls; what is beyond it is not half drawn over others
    c.window = r;
    const Column left = paintColumn(c, {r.left(), r.top() + 30, width, room}, givers, true, line, sockets);
    const Column right = paintColumn(c, {r.right() - width, r.top() + 30, width, room}, takers, false, line, needs);
    paintWires(c, map, left, right);
    c.p.restore();
    c.window = {};
    if (shortOf > 0)
        paintOffers(c, {r.left(), std::min(r.bottom() - 24, std::max(left.bottom, right.bottom) + 2), r.width(), 24},
                    map, v);
}

double portMapHeight(const core::stages::Evaluation& e) {
    const PortMap& map = e.wiring.ports;
    const auto heightOf = [](const std::vector<Node>& nodes) {
        double h = 0;
        for (const Node& node : nodes)
            h += boxPadding + boxApart + leastLine * static_cast<double>(node.plugs.size());
        return h;
    };
    const bool isShort =
        std::any_of(map.needs.begin(), map.needs.end(), [](const auto& need) { return need.socket < 0; });
    return 32 + (isShort ? 30 : 0) +
           std::max(heightOf(nodesOf(e.build, map.sockets, true,
                                     [](const auto& s) -> const core::rules::Holder& { return s.giver; })),
                    heightOf(nodesOf(e.build, map.needs, true,
                                     [](const auto& n) -> const core::rules::Holder& { return n.taker; })));
}

std::optional<core::Connect> connectionOf(const PortMap& map, const std::string& adapter,
                                          const core::Project& project) {
    const core::Part* part = project.part(adapter);
    if (!part)
        return std::nullopt;
    core::Connect change{.part = adapter};
    for (const auto& need : map.needs)
        if (need.socket < 0 && part->gives.contains(need.kind)) {
            change.to = {need.taker.mount + ":" + need.kind};
            break;
        }
    for (const auto& [kind, count] : part->needs)
        for (const auto& socket : map.sockets)
            if (change.from.empty() && socket.kind == kind && socket.takenBy < 0 && !socket.giver.isLead)
                change.from = socket.giver.mount + ":" + kind;
    if (change.to.empty())
        return std::nullopt;
    return change;
}

} // namespace app
