// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {

void missingPlugs(const Checks& c) {
    for (const auto& row : connectors(c.build).rows) {
        if (row.needed <= row.given)
            continue;
        const int missing = row.needed - row.given;
        std::vector<std::string> remedies;
        for (const Offer& offer : c.wiring.ports.offers)
            if (offer.kind == row.kind)
                remedies.push_back(offer.name + (offer.canBeFed ? "" : ", once something feeds it"));
        if (remedies.empty())
            remedies.push_back("an adapter that gives " + row.kind);
        remedies.push_back("drop one of: " + row.takers.back());
        // The machine runs without a socket at its front.
        const Severity severity = row.kind.starts_with("front-") ? Severity::Caution : Severity::Blocker;
        c.add("plug-count", severity, row.kind, std::to_string(row.needed) + " x " + row.kind + " needed, " + std::to_string(row.given) + " there: " + std::to_string(missing) + " short", remedies);
    }
    // Enough in number, but a stated connection has taken what another part waits for.
    for (const Need& need : c.wiring.ports.needs)
        if (need.socket < 0 && c.findings.end() == std::find_if(c.findings.begin(), c.findings.end(), [&](const Finding& f) { return f.rule == "plug-count" && f.subject == need.kind; }))
            c.add("plug-taken", Severity::Blocker, need.taker.mount, need.taker.name + " finds no free " + need.kind + ": the stated connections have taken it", {"another connection"});
}

void headerCurrent(const Checks& c) {
    for (const HeaderLoad& load : c.wiring.headers)
        if (load.amperes > load.limitA + 1e-9) {
            std::string names;
            for (const std::string& fan : load.fans)
                names += (names.empty() ? "" : ", ") + fan;
            c.add("fan-current", Severity::Caution, "fan header " + std::to_string(load.number), "Fan header " + std::to_string(load.number) + " of " + load.board + " carries " + fixed(load.amperes, 2) + " A, it is good for " +
                  fixed(load.limitA, 1) + " A: " + names, {"spread the fans over more headers", "a hub fed by the supply"});
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
            c.add("lead-family", Severity::Blocker, supply->mount, j.part->name + " is a lead of " + cable->family + ", " + supply->part->name + (family.empty() ? " has fixed leads" : " takes those of " + family) +
                  ": never mix modular leads, the plugs fit and the pins differ", {"a lead of the supply's own family"});
    }
}

void mouldedAdapters(const Checks& c) {
    for (std::size_t i = 0; i < c.build.joined.size(); ++i) {
        const Part& part = *c.build.joined[i].part;
        const auto* adapter = std::get_if<AdapterSpec>(&part.spec);
        if (adapter && adapter->moulded && part.gives.contains("sata-power") && part.needs.contains("molex-4"))
            c.add("moulded", Severity::Caution, part.id, part.name + ": moulded 4-pin to SATA adapters are a known fire risk (common practice)", {"a crimped adapter", "a SATA lead of the supply"});
    }
}

} // namespace

void checkPlugs(const Checks& c) {
    missingPlugs(c);
    headerCurrent(c);
    leadFamilies(c);
    mouldedAdapters(c);
}

} // namespace core::rules
