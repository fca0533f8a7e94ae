// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/rules/checks.h"

#include <cmath>

namespace core::rules {
namespace {

std::string joinedWords(const std::vector<std::string>& words) {
    std::string text;
    for (const std::string& word : words)
        text += (text.empty() ? "" : ", ") + word;
    return text;
}

void supplyForm(const Checks& c) {
    const auto& forms = c.build.caseSpec().supplyForms;
    const Placed* at = nullptr;
    const auto* supply = c.specOf<PowerSupplySpec>(PartKind::PowerSupply, &at);
    if (supply && !supply->brick && !forms.empty() &&
        std::find(forms.begin(), forms.end(), supply->form) == forms.end())
        c.add("supply-form", Severity::Blocker, at->mount,
              at->name + " is " + supply->form + ", the bay of the case takes " + joinedWords(forms),
              {"a supply of form " + forms.front(), "an adapter bracket"});
}

void slotCovers(const Checks& c) {
    const int there = c.build.caseSpec().slotCovers;
    int wanted = 0;
    std::string names, mount;
    for (const Placed& p : c.build.placed)
        if (const auto* card = std::get_if<CardSpec>(&p.part->spec)) {
            wanted += card->slotCount;
            names += (names.empty() ? "" : ", ") + p.name + " " + std::to_string(card->slotCount);
            mount = p.mount;
        }
    if (there > 0 && wanted > there)
        c.add("slot-covers", Severity::Blocker, mount,
              std::to_string(wanted) + " slot covers wanted, the case has " + std::to_string(there) + ": " + names,
              {"a card of fewer slots", "another case"});
}

double distanceMm(const Placed& p, const std::array<double, 3>& at) {
    double squares = 0;
    for (std::size_t a = 0; a < 3; ++a)
        squares += std::pow(std::max({p.lowAt[a].mm() - at[a], at[a] - p.highAt[a].mm(), 0.0}), 2);
    return std::sqrt(squares);
}

/// A card that hangs on no lead sits in the slot itself, so it must reach it.
void cardAtItsSlot(const Checks& c) {
    constexpr double reachMm = 20; // edge and socket of a slot: engineering judgement
    const PortMap& map = c.wiring.ports;
    for (const Need& need : map.needs) {
        if (!need.kind.starts_with("slot-") || need.socket < 0 || need.taker.isLead || !need.via.empty() ||
            map.sockets[static_cast<std::size_t>(need.socket)].giver.isLead)
            continue;
        const Placed* card = c.build.at(need.taker.mount);
        const Placed* board = c.build.at(map.sockets[static_cast<std::size_t>(need.socket)].giver.mount);
        if (!card || !board || card->parent >= 0) // carried by the board: its mount says where the slot is
            continue;
        const auto slot = std::find_if(board->ports.begin(), board->ports.end(),
                                       [](const Port& port) { return port.kind.starts_with("slot-"); });
        if (slot == board->ports.end()) {
            c.add("slot-place", Severity::Note, card->mount,
                  "Where the slot of " + board->name + " lies is not stated: whether " + card->name +
                      " reaches it or needs a riser is not checked",
                  {"state a port of kind \"" + need.kind + "\" on the board", "state the riser as a connection"},
                  Station::Fit);
            continue;
        }
        if (const double away = distanceMm(*card, board->inCaseMm(slot->at)); away > reachMm)
            c.add("riser-missing", Severity::Blocker, card->mount,
                  card->name + " lies " + fixed(away, 0) + " mm from its slot on " + board->name +
                      ", and no riser joins them",
                  {"a riser of " + fixed(away, 0) + " mm or more", "a place at the slot"}, Station::Fit);
    }
}

/// Long and fast at once: the older a link, the longer its riser may be.
void longRisers(const Checks& c) {
    constexpr double longMm = 300; // engineering judgement
    for (std::size_t i = 0; i < c.build.joined.size(); ++i) {
        const Joined& j = c.build.joined[i];
        const auto* cable = std::get_if<CableSpec>(&j.part->spec);
        if (!cable || !j.part->link || j.part->link->generation < 4 || cable->lengthMm <= longMm)
            continue;
        c.add("riser-long", Severity::Caution, leadRef(c.build, i),
              j.part->name + " is " + fixed(cable->lengthMm, 0) + " mm long and said to run at generation " +
                  std::to_string(j.part->link->generation) + ": above 300 mm that often fails (engineering judgement)",
              {"a shorter riser", "set the slot to generation 3"});
    }
}

/// What lies along its way has no place of its own: a body stated for it is not drawn and not measured, and that is
/// said.
void leadsWithBodies(const Checks& c) {
    for (std::size_t i = 0; i < c.build.joined.size(); ++i)
        if (const Joined& j = c.build.joined[i]; !j.part->bodies.empty())
            c.add("lead-bodies", Severity::Caution, leadRef(c.build, i),
                  j.part->name + " states " + std::to_string(j.part->bodies.size()) +
                      (j.part->bodies.size() == 1 ? " body" : " bodies") +
                      ", but a lead or adapter has no place: they are neither drawn nor checked for room",
                  {"state the room as a keep-out of the part it plugs into", "take the bodies out of the file"},
                  Station::Fit);
}

void standingOnTheRear(const Checks& c) {
    constexpr double plugMm = 40; // a plug and the bend of its lead: common practice, no source
    const Placed* board = c.build.firstOf(PartKind::Board);
    if (c.build.down != Side::Rear || !board)
        return;
    const double feet = c.build.feet.value.mm();
    c.add("rear-down", feet < plugMm ? Severity::Caution : Severity::Note, board->mount,
          "It stands on its rear: the sockets there point at the desk, " + fixed(feet, 0) +
              " mm above it; a plug and its bend take about " + fixed(plugMm, 0),
          {"feet of " + fixed(plugMm, 0) + " mm or more", "another way to stand"}, Station::Fit);
}

void coolerRating(const Checks& c) {
    constexpr double muchShare = 1.3; // engineering judgement
    const Placed *cpu = c.build.firstOf(PartKind::Processor), *at = nullptr;
    const auto* cooler = c.specOf<CoolerSpec>(PartKind::Cooler, &at);
    if (!cpu || !cooler || cooler->ratedTdpW <= 0 || cpu->powerW() <= cooler->ratedTdpW)
        return;
    const bool much = cpu->powerW() > muchShare * cooler->ratedTdpW;
    c.add("cooler-rating", much ? Severity::Blocker : Severity::Caution, at->mount,
          cpu->name + " draws " + fixed(cpu->powerW(), 0) + " W, " + at->name + " is rated for " +
              fixed(cooler->ratedTdpW, 0),
          {"a larger cooler", "a power limit of " + fixed(cooler->ratedTdpW, 0) + " W"});
}

void lanesInUse(const Checks& c) {
    const auto say = [&](const LaneBudget& b, const std::string& of) {
        if (b.given > 0 && b.used <= b.given && b.used > 0)
            c.add("lanes-used", Severity::Note, TopicRef{of},
                  std::to_string(b.used) + " of " + std::to_string(b.given) + " lanes of the " + of +
                      " in use: " + joinedWords(b.users),
                  {});
    };
    say(c.wiring.lanes.processor, "processor");
    say(c.wiring.lanes.chipset, "chipset");
}

std::string linkWords(int generation, int lanes) {
    return std::to_string(lanes) + (lanes == 1 ? " lane" : " lanes") + " of generation " + std::to_string(generation);
}

/// What was seen on the machine against what its chain should give.
void observedLinks(const Checks& c) {
    for (const ObservedLink& seen : c.build.observed) {
        const auto link = std::find_if(c.wiring.links.begin(), c.wiring.links.end(),
                                       [&](const LinkResult& l) { return l.mount == seen.mount; });
        const std::string was = linkWords(seen.generation, seen.lanes);
        if (link == c.wiring.links.end()) {
            c.add("link-observed", Severity::Caution, seen.mount,
                  "A link at \"" + seen.mount + "\" was seen at " + was + ", but no part with lanes is there",
                  {"name the mount of a card or drive"});
            continue;
        }
        if (seen.generation >= link->generation && seen.lanes >= link->lanes) {
            c.add("link-observed", Severity::Note, seen.mount,
                  link->name + " was seen at " + was + ": all that its chain gives", {});
            continue;
        }
        std::string stages;
        for (const LinkStage& s : link->stages)
            if ((s.lanes == seen.lanes && seen.lanes < link->lanes) ||
                (s.generation == seen.generation && seen.generation < link->generation))
                stages += (stages.empty() ? "" : ", ") + s.name;
        c.add("link-observed", Severity::Caution, seen.mount,
              link->name + " was seen at " + was + ", its chain gives " + linkWords(link->generation, link->lanes) +
                  " (" + joinedWords(link->chain) +
                  "): " + (stages.empty() ? "no stage as stated explains it" : stages + " would explain it"),
              {"seat card and riser again, clean the contacts", "set the slot to that generation by hand",
               "look whether another slot shares its lanes"});
    }
}

} // namespace

void checkCase(const Checks& c) {
    supplyForm(c);
    slotCovers(c);
    cardAtItsSlot(c);
    longRisers(c);
    leadsWithBodies(c);
    standingOnTheRear(c);
    coolerRating(c);
    lanesInUse(c);
    observedLinks(c);
}

} // namespace core::rules
