// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/lead_offers.h"

#include "core/base/text.h"
#include "core/model/choices.h"
#include "core/model/plug_fits.h"

#include <algorithm>
#include <cmath>

namespace core::rules {
namespace {

bool gives(const std::map<std::string, int>& plugs, const std::string& kind) {
    return std::any_of(plugs.begin(), plugs.end(),
                       [&](const auto& plug) { return plugFit(kind, plug.first) == PlugFit::Whole; });
}

/// Modular leads belong to their supply.
bool isOfFamily(const CableSpec& cable, const Placed* giver) {
    const auto* supply = giver ? std::get_if<PowerSupplySpec>(&giver->part->spec) : nullptr;
    return cable.family.empty() || (supply && supply->cableFamily == cable.family);
}

bool joins(const Part& lead, const Placed* giver, const std::string& socket, const std::string& plug) {
    if (const auto* cable = std::get_if<CableSpec>(&lead.spec)) {
        if (!isOfFamily(*cable, giver))
            return false;
    } else if (lead.kind != PartKind::Adapter) {
        return false;
    }
    if (lead.gives.empty() && lead.needs.empty())
        return lead.kind == PartKind::Cable && plugFit(plug, socket) != PlugFit::Not; // it goes from like to like
    return gives(lead.gives, plug) && (lead.needs.empty() || gives(lead.needs, socket));
}

} // namespace

LeadOffers leadsBetween(const Project& project, const Build& build, const std::string& from, const std::string& to) {
    LeadOffers offers{.wayMm = fit::wayAlongEdgesMm(build, from, to), .leads = {}};
    const EndName socket = endName(from), plug = endName(to);
    for (const Part& part : project.shelf)
        if (joins(part, build.at(socket.mount), socket.port, plug.port)) {
            const auto* cable = std::get_if<CableSpec>(&part.spec);
            const double length = cable ? cable->lengthMm : 0;
            offers.leads.push_back(
                {part.id, part.name, length, length > 0 ? leadState(length, offers.wayMm) : LeadState::Fits});
        }
    std::stable_sort(offers.leads.begin(), offers.leads.end(), [](const LeadOffer& a, const LeadOffer& b) {
        const auto rank = [](const LeadOffer& o) {
            return o.state == LeadState::Fits    ? 0
                   : o.state == LeadState::Tight ? 1
                   : o.state == LeadState::Long  ? 2
                                                 : 3;
        };
        return std::pair(rank(a), a.lengthMm) < std::pair(rank(b), b.lengthMm);
    });
    const Part made = plainLead(project, plug.port, offers.wayMm);
    const double length = std::get<CableSpec>(made.spec).lengthMm;
    if (plugFit(plug.port, socket.port) != PlugFit::Not)
        offers.leads.push_back({{}, made.name, length, leadState(length, offers.wayMm)});
    return offers;
}

Part plainLead(const Project& project, std::string_view plug, double wayMm) {
    constexpr double stepMm = 50, slack = 1.1;
    const double length = std::max(stepMm, std::ceil(slack * wayMm / stepMm) * stepMm);
    const bool riser = slotWidth(plug) > 0;
    Part lead{.id = freePartId(project, (riser ? "riser-" : "lead-") + std::string(plug)), .kind = PartKind::Cable};
    lead.spec = CableSpec{.lengthMm = length};
    lead.name = std::string(plug) + (riser ? " riser " : " lead ") + fixed(length, 0);
    if (riser) {
        lead.link = Link{.generation = 4, .lanes = slotWidth(plug)};
        lead.name += ", generation 4";
    }
    return lead;
}

std::vector<Change> pluggedAs(const Joined& lead, const std::string& from, const std::vector<std::string>& to) {
    std::vector<Change> changes{Disconnect{lead.part->id, lead.from}};
    if (to.empty())
        return changes;
    changes.emplace_back(Connect{lead.part->id, from, to});
    for (std::size_t end = 0; end < lead.to.size() && from == lead.from; ++end)
        if (const auto corners = lead.routeTo(end);
            !corners.empty() && std::find(to.begin(), to.end(), lead.to[end]) != to.end())
            changes.emplace_back(RouteLead{lead.part->id, from, lead.to[end], corners});
    return changes;
}

} // namespace core::rules
