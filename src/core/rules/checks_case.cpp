// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/rules/checks.h"

#include <cmath>

namespace core::rules {
namespace {

void supplyForm(const Checks& c) {
    const auto& forms = c.build.caseSpec().supplyForms;
    const Placed* at = nullptr;
    const auto* supply = c.specOf<PowerSupplySpec>(PartKind::PowerSupply, &at);
    if (supply && !supply->brick && !forms.empty() &&
        std::find(forms.begin(), forms.end(), supply->form) == forms.end())
        c.add("supply-form", Severity::Blocker, at->mount,
              say("{} is {}, the bay of the case takes {}", at->name, supply->form, joined(forms)),
              {say("a supply of form {}", forms.front()), say("an adapter bracket")});
}

void slotCovers(const Checks& c) {
    const int there = c.build.caseSpec().slotCovers;
    int wanted = 0;
    Sentences cards;
    std::string mount;
    for (const Placed& p : c.build.placed)
        if (const auto* card = std::get_if<CardSpec>(&p.part->spec)) {
            wanted += card->slotCount;
            cards.push_back(say("{} {}", p.name, card->slotCount));
            mount = p.mount;
        }
    if (there > 0 && wanted > there)
        c.add("slot-covers", Severity::Blocker, mount,
              say("{} slot covers wanted, the case has {}: {}", wanted, there, joined(cards)),
              {say("a card of fewer slots"), say("another case")});
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
                  say("Where the slot of {} lies is not stated: whether {} reaches it or needs a riser is not checked",
                      board->name, card->name),
                  {say("state a port of kind \"{}\" on the board", need.kind), say("state the riser as a connection")},
                  Station::Fit);
            continue;
        }
        if (const double away = distanceMm(*card, board->inCaseMm(slot->at)); away > reachMm)
            c.add("riser-missing", Severity::Blocker, card->mount,
                  say("{} lies {} from its slot on {}, and no riser joins them", card->name, figure::mm(away, 0),
                      board->name),
                  {say("a riser of {} or more", figure::mm(away, 0)), say("a place at the slot")}, Station::Fit);
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
              say("{} is {} long and said to run at generation {}: above {} that often fails (engineering judgement)",
                  j.part->name, figure::mm(cable->lengthMm, 0), j.part->link->generation, figure::mm(longMm, 0)),
              {say("a shorter riser"), say("set the slot to generation 3")});
    }
}

/// What lies along its way has no place of its own: a body stated for it is not drawn and not measured, and that is
/// said.
void leadsWithBodies(const Checks& c) {
    for (std::size_t i = 0; i < c.build.joined.size(); ++i)
        if (const Joined& j = c.build.joined[i]; !j.part->bodies.empty())
            c.add(
                "lead-bodies", Severity::Caution, leadRef(c.build, i),
                sayCounted(
                    j.part->bodies.size() == 1,
                    "{} states {} body, but a lead or adapter has no place: it is neither drawn nor checked for room",
                    "{} states {} bodies, but a lead or adapter has no place: they are neither drawn nor checked for "
                    "room",
                    j.part->name, j.part->bodies.size()),
                {say("state the room as a keep-out of the part it plugs into"), say("take the bodies out of the file")},
                Station::Fit);
}

void standingOnTheRear(const Checks& c) {
    constexpr double plugMm = 40; // a plug and the bend of its lead: common practice, no source
    const Placed* board = c.build.firstOf(PartKind::Board);
    if (c.build.down != Side::Rear || !board)
        return;
    const double feet = c.build.feet.value.mm();
    c.add("rear-down", feet < plugMm ? Severity::Caution : Severity::Note, board->mount,
          say("It stands on its rear: the sockets there point at the desk, {} above it; a plug and its bend take about "
              "{}",
              figure::mm(feet, 0), figure::mm(plugMm, 0).bare()),
          {say("feet of {} or more", figure::mm(plugMm, 0)), say("another way to stand")}, Station::Fit);
}

void coolerRating(const Checks& c) {
    constexpr double muchShare = 1.3; // engineering judgement
    const Placed *cpu = c.build.firstOf(PartKind::Processor), *at = nullptr;
    const auto* cooler = c.specOf<CoolerSpec>(PartKind::Cooler, &at);
    if (!cpu || !cooler || cooler->ratedTdpW <= 0 || cpu->powerW() <= cooler->ratedTdpW)
        return;
    const bool much = cpu->powerW() > muchShare * cooler->ratedTdpW;
    c.add("cooler-rating", much ? Severity::Blocker : Severity::Caution, at->mount,
          say("{} draws {}, {} is rated for {}", cpu->name, figure::watts(cpu->powerW(), 0), at->name,
              figure::watts(cooler->ratedTdpW).bare()),
          {say("a larger cooler"), say("a power limit of {}", figure::watts(cooler->ratedTdpW, 0))});
}

void lanesInUse(const Checks& c) {
    const auto tell = [&](const LaneBudget& b, std::string_view of) {
        if (b.given > 0 && b.used <= b.given && b.used > 0)
            c.add("lanes-used", Severity::Note, TopicRef{std::string(of)},
                  say("{} of {} lanes of the {} in use: {}", b.used, b.given, term(of), joined(b.users)), {});
    };
    tell(c.wiring.lanes.processor, word("processor"));
    tell(c.wiring.lanes.chipset, word("chipset"));
}

/// What was seen on the machine against what its chain should give.
void observedLinks(const Checks& c) {
    for (const ObservedLink& seen : c.build.observed) {
        const auto link = std::find_if(c.wiring.links.begin(), c.wiring.links.end(),
                                       [&](const LinkResult& l) { return l.mount == seen.mount; });
        const Sentence was = lanesInWords(seen.lanes, seen.generation);
        if (link == c.wiring.links.end()) {
            c.add("link-observed", Severity::Caution, seen.mount,
                  say("A link at \"{}\" was seen at {}, but no part with lanes is there", seen.mount, was),
                  {say("name the mount of a card or drive")});
            continue;
        }
        if (seen.generation >= link->generation && seen.lanes >= link->lanes) {
            c.add("link-observed", Severity::Note, seen.mount,
                  say("{} was seen at {}: all that its chain gives", link->name, was), {});
            continue;
        }
        Sentences stages;
        for (const LinkStage& s : link->stages)
            if ((s.lanes == seen.lanes && seen.lanes < link->lanes) ||
                (s.generation == seen.generation && seen.generation < link->generation))
                stages.push_back(s.name);
        c.add("link-observed", Severity::Caution, seen.mount,
              say("{} was seen at {}, its chain gives {} ({}): {}", link->name, was,
                  lanesInWords(link->lanes, link->generation), joined(link->chain),
                  stages.empty() ? say("no stage as stated explains it") : say("{} would explain it", joined(stages))),
              {say("seat card and riser again, clean the contacts"), say("set the slot to that generation by hand"),
               say("look whether another slot shares its lanes")});
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
