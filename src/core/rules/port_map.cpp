// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/port_map.h"

#include "core/model/plug_fits.h"
#include "core/model/plug_sizes.h"

namespace core::rules {
namespace {

class Mapper {
public:
    explicit Mapper(const Build& build) : m_build(build) {}

    PortMap run() {
        addHolder({std::string(caseMount), m_build.casePart->name, m_build.casePart});
        for (const Placed& p : m_build.placed)
            addHolder({p.mount, p.name, p.part});
        for (std::size_t i = 0; i < m_build.joined.size(); ++i)
            addHolder(leadHolder(i));
        applyLosses();
        for (std::size_t i = 0; i < m_build.joined.size(); ++i)
            join(i);
        for (const Match match : {Match::Same, Match::Whole, Match::Any})
            for (std::size_t n = 0; n < m_map.needs.size(); ++n)
                if (m_map.needs[n].socket < 0)
                    take(static_cast<int>(n), nullptr, match);
        return std::move(m_map);
    }

private:
    void addHolder(const Holder& holder) {
        for (const auto& [kind, count] : holder.part->gives)
            for (int i = 0; i < count; ++i)
                m_map.sockets.push_back({kind, holder, i});
        for (const auto& [kind, count] : holder.part->needs)
            for (int i = 0; i < count; ++i)
                m_map.needs.push_back({kind, holder});
    }
    [[nodiscard]] int countOf(const std::string& kind, const Holder& giver) const {
        return static_cast<int>(std::count_if(m_map.sockets.begin(), m_map.sockets.end(), [&](const Socket& s) {
            return s.kind == kind && s.giver.isSame(giver);
        }));
    }
    /// What modifications took away from the case is no longer offered, and no longer asked for.
    void applyLosses() {
        for (const Modification* m : m_build.modified)
            for (const Loss& loss : m->losses) {
                const auto socket = std::find_if(m_map.sockets.rbegin(), m_map.sockets.rend(), [&](const Socket& s) {
                    return s.kind == loss.gives && s.giver.mount == caseMount;
                });
                if (!loss.gives.empty() && socket != m_map.sockets.rend())
                    m_map.sockets.erase(std::next(socket).base());
                const auto need = std::find_if(m_map.needs.rbegin(), m_map.needs.rend(), [&](const Need& n) {
                    return n.kind == loss.needs && n.taker.mount == caseMount;
                });
                if (!loss.needs.empty() && need != m_map.needs.rend())
                    m_map.needs.erase(std::next(need).base());
            }
    }
    /// The kind of plug an end names, by port id or by kind.
    [[nodiscard]] std::string kindAt(const EndName& end) const {
        if (const Placed* p = m_build.at(end.mount))
            for (const Port& port : p->ports)
                if (port.id == end.port)
                    return port.kind;
        return end.port;
    }
    /// How far from its own kind a plug may look.
    enum class Match { Same, Whole, Any };
    [[nodiscard]] static bool matches(const std::string& asked, const std::string& offered, Match match) {
        if (match == Match::Same)
            return asked == offered;
        const PlugFit fit = plugFit(asked, offered);
        return fit == PlugFit::Whole || (fit == PlugFit::Narrow && match == Match::Any);
    }
    [[nodiscard]] Holder leadHolder(std::size_t i) const {
        return {{}, m_build.joined[i].part->name, m_build.joined[i].part, true, i};
    }
    /// @p from: whose sockets alone count; null: anybody's.
    bool take(int need, const Holder* from, Match match) {
        const Need n = m_map.needs[static_cast<std::size_t>(need)];
        int best = -1;
        for (std::size_t s = 0; s < m_map.sockets.size(); ++s) {
            const Socket& socket = m_map.sockets[s];
            const bool own = n.taker.isLead && socket.giver.isSame(n.taker);
            // Adapters serve whom they are stated to serve first; what is left of them is free for all.
            if (!matches(n.kind, socket.kind, match) || socket.takenBy >= 0 || own ||
                (from && !socket.giver.isSame(*from)))
                continue;
            // Of slots the narrowest that takes the card.
            if (best < 0 || (slotWidth(socket.kind) > 0 &&
                             slotWidth(socket.kind) < slotWidth(m_map.sockets[static_cast<std::size_t>(best)].kind)))
                best = static_cast<int>(s);
        }
        if (best < 0)
            return false;
        Socket& socket = m_map.sockets[static_cast<std::size_t>(best)];
        socket.takenBy = need;
        m_map.needs[static_cast<std::size_t>(need)].socket = best;
        if (const std::string rest(restOfPlug(n.kind, socket.kind)); !rest.empty())
            m_map.sockets.push_back({rest, Holder(socket.giver), countOf(rest, socket.giver)});
        return true;
    }
    /// The best there is: its own kind, else one that fits.
    bool takeBest(int need, const Holder* from) {
        return take(need, from, Match::Same) || take(need, from, Match::Whole) || take(need, from, Match::Any);
    }
    void join(std::size_t i) {
        const Joined& j = m_build.joined[i];
        const Holder lead = leadHolder(i), feeder{.mount = endName(j.from).mount, .name = {}};
        const Holder* from = feeder.mount.empty() ? nullptr : &feeder;
        for (std::size_t n = 0; n < m_map.needs.size(); ++n)
            if (m_map.needs[n].taker.isSame(lead) && m_map.needs[n].socket < 0 && !j.from.empty())
                takeBest(static_cast<int>(n), from);
        for (const std::string& text : j.to) {
            const EndName to = endName(text);
            const std::string kind = kindAt(to);
            for (std::size_t n = 0; n < m_map.needs.size(); ++n) {
                Need& need = m_map.needs[n];
                if (need.taker.isLead || need.taker.mount != to.mount || need.socket >= 0 ||
                    (!kind.empty() && need.kind != kind && plugFit(need.kind, kind) == PlugFit::Not))
                    continue;
                // An adapter gives the socket itself; a plain cable brings that of the part at its other end.
                const bool gives = !j.part->gives.empty();
                if (takeBest(static_cast<int>(n), gives ? &lead : from)) {
                    if (!gives) {
                        need.via = j.part->name;
                        need.cable = static_cast<int>(i);
                        if (const auto* cable = std::get_if<CableSpec>(&j.part->spec))
                            need.leadW = cable->limitW;
                    }
                    break;
                }
            }
        }
    }

    const Build& m_build;
    PortMap m_map;
};

void findOffers(const Project& project, PortMap& map) {
    for (const Part& part : project.shelf) {
        if (part.kind != PartKind::Adapter)
            continue;
        for (const auto& [kind, count] : part.gives) {
            const bool wanted =
                std::any_of(map.needs.begin(), map.needs.end(), [&, offered = std::string_view(kind)](const Need& n) {
                    return n.socket < 0 && plugFit(n.kind, offered) == PlugFit::Whole;
                });
            if (count <= 0 || !wanted)
                continue;
            bool fed = true;
            for (const auto& [need, n] : part.needs)
                fed = fed && std::count_if(map.sockets.begin(), map.sockets.end(),
                                           [&, kindNeeded = std::string_view(need)](const Socket& s) {
                                               return s.kind == kindNeeded && s.takenBy < 0;
                                           }) >= n;
            map.offers.push_back({part.id, part.name, kind, part.price, fed});
        }
    }
    std::stable_sort(map.offers.begin(), map.offers.end(), [](const Offer& a, const Offer& b) {
        return std::pair(!a.canBeFed, a.price) < std::pair(!b.canBeFed, b.price);
    });
}

} // namespace

Thing thingOf(const Build& build, const Holder& holder) {
    return holder.isLead ? Thing(leadRef(build, holder.joined)) : partOrCase(holder.mount);
}

std::vector<int> PortMap::needsOf(const Holder& holder) const {
    std::vector<int> own;
    for (std::size_t n = 0; n < needs.size(); ++n)
        if (needs[n].taker.isSame(holder))
            own.push_back(static_cast<int>(n));
    return own;
}

bool PortMap::isShort(std::string_view kind) const {
    return std::any_of(needs.begin(), needs.end(), [&](const Need& n) { return n.kind == kind && n.socket < 0; });
}

std::string_view PortMap::plugOf(const Need& need) const {
    return need.socket < 0 ? std::string_view(need.kind)
                           : narrowerPlug(need.kind, sockets[static_cast<std::size_t>(need.socket)].kind);
}

int PortMap::root(int need) const {
    for (std::size_t depth = 0; depth <= sockets.size(); ++depth) {
        const int socket = needs[static_cast<std::size_t>(need)].socket;
        if (socket < 0 || !sockets[static_cast<std::size_t>(socket)].giver.isLead)
            return socket;
        const auto further = needsOf(sockets[static_cast<std::size_t>(socket)].giver);
        if (further.empty())
            return socket;
        need = further.front();
    }
    return -1; // adapters in a ring
}

PortMap portMap(const Build& build, const Project* project) {
    PortMap map = Mapper(build).run();
    if (project)
        findOffers(*project, map);
    return map;
}

namespace {
constexpr double fourPinReserve = 0.2; // a fifth of a 4-pin plug stays in reserve: common practice, no source
constexpr int longestChain = 8;        // adapters on adapters; a ring ends there

std::vector<PlugLimit> limitsAt(const Build& build, const PortMap& map, int index, int depth);

double leastOf(const std::vector<PlugLimit>& limits) {
    const auto least = std::min_element(limits.begin(), limits.end(),
                                        [](const PlugLimit& a, const PlugLimit& b) { return a.watts < b.watts; });
    return least == limits.end() ? 0 : least->watts;
}

/// What feeds an adapter; 0: not known of all its plugs.
double fedW(const Build& build, const PortMap& map, const Holder& adapter, int depth) {
    double fed = 0;
    for (const int n : map.needsOf(adapter)) {
        const double watts = leastOf(limitsAt(build, map, n, depth));
        if (watts <= 0)
            return 0;
        fed += watts;
    }
    return fed;
}

std::vector<PlugLimit> limitsAt(const Build& build, const PortMap& map, int index, int depth) {
    const Need& need = map.needs[static_cast<std::size_t>(index)];
    std::vector<PlugLimit> limits;
    if (need.socket < 0 || depth > longestChain)
        return limits;
    const auto add = [&](PlugLimit::Of of, double watts) {
        if (watts > 0)
            limits.push_back({of, watts});
    };
    const std::string_view kind = map.plugOf(need);
    if (const PlugSize* plug = plugSize(kind))
        add(PlugLimit::Of::Plug, plug->limitW * (kind == "eps-4" ? 1 - fourPinReserve : 1));
    add(PlugLimit::Of::Lead, need.leadW * (kind == "eps-4" ? 1 - fourPinReserve : 1));
    const Holder& giver = map.sockets[static_cast<std::size_t>(need.socket)].giver;
    if (const auto* supply = std::get_if<PowerSupplySpec>(&giver.part->spec); supply && need.kind == "card-12")
        add(PlugLimit::Of::Supply, supply->twelvePinW);
    if (!giver.isLead)
        return limits;
    // An adapter passes no more than what feeds it: a splitter adds no capacity.
    if (const auto* adapter = std::get_if<AdapterSpec>(&giver.part->spec))
        add(PlugLimit::Of::Adapter, adapter->limitW);
    add(PlugLimit::Of::Fed, fedW(build, map, giver, depth + 1));
    return limits;
}
} // namespace

Thing thingOf(const Build& build, const Socket& socket) {
    if (socket.giver.isLead)
        return thingOf(build, socket.giver);
    return PortRef{socket.giver.mount == caseMount ? std::string() : socket.giver.mount, socket.kind, socket.number};
}

const Socket* socketOf(const PortMap& map, const PortRef& port) {
    const std::string_view mount = port.mount.empty() ? caseMount : std::string_view(port.mount);
    const auto found = std::find_if(map.sockets.begin(), map.sockets.end(), [&](const Socket& s) {
        return !s.giver.isLead && s.giver.mount == mount && s.kind == port.kind && s.number == port.number;
    });
    return found == map.sockets.end() ? nullptr : &*found;
}

std::vector<std::string> idleOf(const Build& build, const PortMap& map) {
    std::vector<std::string> idle;
    for (const Need& need : map.needs) {
        const Placed* p = need.socket < 0 && !need.taker.isLead ? build.at(need.taker.mount) : nullptr;
        if (!p || std::find(idle.begin(), idle.end(), p->mount) != idle.end())
            continue;
        const bool itsFan =
            (p->part->kind == PartKind::Fan || p->part->kind == PartKind::Cooler) && need.kind.starts_with("fan");
        if (itsFan || p->part->kind == PartKind::Card)
            idle.push_back(p->mount);
    }
    return idle;
}

std::vector<PlugLimit> limitsOf(const Build& build, const PortMap& map, int need) {
    return limitsAt(build, map, need, 0);
}

double capacityW(const Build& build, const PortMap& map, int need) { return leastOf(limitsOf(build, map, need)); }

} // namespace core::rules
