// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/working.h"
#include "core/model/plug_sizes.h"

#include <algorithm>

namespace core::explain {
namespace {
using rules::PlugLimit;
using rules::PortMap;

Row rowOf(const PlugLimit& limit, const PortMap& map, const rules::Need& need) {
    const auto row = [&](Sentence label, Stamp stamp) {
        return Row{"", std::move(label), Quantity::Power, limit.watts, 0, stamp};
    };
    const std::string plug(map.plugOf(need));
    const Sentence reserve = plug == "eps-4" ? say(", less a fifth in reserve") : Sentence{};
    switch (limit.of) {
    case PlugLimit::Of::Plug:
        return row(say("the plug {}", plug) + reserve, Stamp::Sheet);
    case PlugLimit::Of::Lead:
        return row(say("its lead {}", need.via) + reserve, Stamp::Sheet);
    case PlugLimit::Of::Supply:
        return row(say("the supply, at its plug {}", need.kind), Stamp::Sheet);
    case PlugLimit::Of::Adapter:
        return row(say("the adapter"), Stamp::Sheet);
    case PlugLimit::Of::Fed:
        return row(say("what feeds the adapter"), Stamp::Computed);
    }
    return {};
}

Sentence whoSitsIn(const rules::Socket& socket, const rules::Need& need) {
    Sentence who = need.kind == socket.kind ? say("{} sits in it", need.taker.name)
                                            : say("{} sits in it with a plug {}", need.taker.name, need.kind);
    if (!need.via.empty())
        who += say(", through {}", need.via);
    return who + say(".");
}

} // namespace

std::optional<Working> ofPort(const stages::Evaluation& e, const PortRef& port) {
    const PortMap& map = e.wiring.ports;
    const rules::Socket* socket = rules::socketOf(map, port);
    if (!socket)
        return std::nullopt;
    const auto alike = std::count_if(map.sockets.begin(), map.sockets.end(), [&](const rules::Socket& s) {
        return s.kind == socket->kind && s.giver.isSame(socket->giver);
    });
    Working w{.thing = port,
              .place = say("Brief, plugs"),
              .title = alike > 1 ? say("{}, {} {}", socket->giver.name, socket->kind, port.number + 1)
                                 : say("{}, {}", socket->giver.name, socket->kind),
              .quantity = Quantity::Power,
              .known = false,
              .mark = Mark::Note};
    if (socket->takenBy < 0) {
        w.sentence = say("It is free: nothing is plugged in.");
    } else {
        const rules::Need& need = map.needs[static_cast<std::size_t>(socket->takenBy)];
        w.sentence = whoSitsIn(*socket, need);
        w.usedBy.push_back(named(need.taker.name));
        for (const PlugLimit& limit : rules::limitsOf(e.build, map, socket->takenBy))
            w.rows.push_back(rowOf(limit, map, need));
        w.value = rules::capacityW(e.build, map, socket->takenBy);
        w.known = !w.rows.empty();
        w.sum = w.known ? say("It may carry the least of these") : say("Of what it carries no limit is known");
    }
    w.method = say("Plugs are dealt out: stated connections first, then plugs made for each other, then those that fit "
                   "as well; first come, first served. What the makers of supply and part state goes before the "
                   "limits of plugs.");
    if (const PlugSize* plug = plugSize(socket->kind); plug && plug->limitW > 0)
        w.method += say(" A plug {} carries {}: {}.", socket->kind, figure::watts(plug->limitW, 0),
                        std::string(plug->limitSource));
    return w;
}

} // namespace core::explain
