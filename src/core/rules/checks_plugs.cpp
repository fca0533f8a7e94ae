// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/model/plug_fits.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {

/// What is asked for and not there, counted by the kind that is asked for.
struct Short {
    int asked = 0, missing = 0;
    std::vector<std::string> takers;
};

/// Sockets that would take it, taken or not.
int thereFor(const PortMap& map, const std::string& kind) {
    return static_cast<int>(std::count_if(map.sockets.begin(), map.sockets.end(),
                                          [&](const Socket& s) { return plugFit(kind, s.kind) != PlugFit::Not; }));
}

void missingPlugs(const Checks& c) {
    const PortMap& map = c.wiring.ports;
    std::map<std::string, Short> kinds;
    for (const Need& need : map.needs) {
        Short& s = kinds[need.kind];
        ++s.asked;
        s.missing += need.socket < 0;
        if (need.socket < 0)
            s.takers.push_back(need.taker.name);
    }
    for (const auto& [kind, s] : kinds) {
        if (s.missing == 0)
            continue;
        Sentences remedies;
        for (const Offer& offer : map.offers)
            if (plugFit(kind, offer.kind) == PlugFit::Whole)
                remedies.push_back(offer.canBeFed ? named(offer.name) : say("{}, once something feeds it", offer.name));
        // Enough in number, but a stated connection has taken what another part waits for.
        if (thereFor(map, kind) >= s.asked) {
            c.add("plug-taken", Severity::Blocker, TopicRef{kind},
                  say("{} finds no free {}: the others have taken it", s.takers.front(), kind),
                  {say("another connection")});
            continue;
        }
        if (remedies.empty())
            remedies.push_back(say("an adapter that gives {}", kind));
        remedies.push_back(say("drop one of: {}", s.takers.back()));
        // The machine runs without a socket at its front.
        const Severity severity = kind.starts_with("front-") ? Severity::Caution : Severity::Blocker;
        c.add("plug-count", severity, TopicRef{kind},
              say("{} x {} needed, {} there: {} short", s.asked, kind, s.asked - s.missing, s.missing), remedies);
    }
}

/// A plug that fits and gives less than the socket could take.
void narrowPlugs(const Checks& c) {
    const PortMap& map = c.wiring.ports;
    for (const Need& need : map.needs) {
        if (need.socket < 0)
            continue;
        const Socket& socket = map.sockets[static_cast<std::size_t>(need.socket)];
        if (plugFit(need.kind, socket.kind) != PlugFit::Narrow)
            continue;
        const Sentence names =
            say("{}: a {} of {} sits in its {}", need.taker.name, socket.kind, socket.giver.name, need.kind);
        if (socket.kind == "eps-4")
            c.add("plug-narrow", Severity::Note, need.taker.mount,
                  say("{}: good for 120 W, 150 less a fifth in reserve (common practice)", names),
                  {say("a full 8-pin lead of the supply")});
        else
            c.add("plug-narrow", Severity::Note, need.taker.mount, say("{}: its speed is not controlled", names),
                  {say("a header with four pins")});
    }
}

void headerCurrent(const Checks& c) {
    for (const HeaderLoad& load : c.wiring.headers)
        if (load.amperes > load.limitA + 1e-9) {
            c.add("fan-current", Severity::Caution, load.header,
                  say("Fan header {} of {} carries {} A, it is good for {} A: {}", load.number, load.board,
                      figure::number(load.amperes, 2), figure::number(load.limitA, 1), joined(load.fans)),
                  {say("spread the fans over more headers"), say("a hub fed by the supply")});
        }
}

/// Same plug, another pin-out: leads of one modular supply on another can destroy what hangs on them.
void leadFamilies(const Checks& c) {
    for (const Joined& j : c.build.joined) {
        const auto* cable = std::get_if<CableSpec>(&j.part->spec);
        const Placed* supply = c.build.at(endName(j.from).mount);
        if (!cable || cable->family.empty() || !supply || supply->part->kind != PartKind::PowerSupply)
            continue;
        const std::string& family = std::get<PowerSupplySpec>(supply->part->spec).cableFamily;
        if (cable->family != family)
            c.add("lead-family", Severity::Blocker, supply->mount,
                  say("{} is a lead of {}, {}: never mix modular leads, the plugs fit and the pins differ",
                      j.part->name, cable->family,
                      family.empty() ? say("{} has fixed leads", supply->name)
                                     : say("{} takes those of {}", supply->name, family)),
                  {say("a lead of the supply's own family")});
    }
}

void mouldedAdapters(const Checks& c) {
    for (std::size_t i = 0; i < c.build.joined.size(); ++i) {
        const Part& part = *c.build.joined[i].part;
        const auto* adapter = std::get_if<AdapterSpec>(&part.spec);
        if (adapter && adapter->moulded && part.gives.contains("sata-power") && part.needs.contains("molex-4"))
            c.add("moulded", Severity::Caution, leadRef(c.build, i),
                  say("{}: moulded 4-pin to SATA adapters are a known fire risk (common practice)", part.name),
                  {say("a crimped adapter"), say("a SATA lead of the supply")});
    }
}

} // namespace

void checkPlugs(const Checks& c) {
    missingPlugs(c);
    narrowPlugs(c);
    headerCurrent(c);
    leadFamilies(c);
    mouldedAdapters(c);
}

} // namespace core::rules
