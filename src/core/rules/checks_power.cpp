// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {

constexpr double railVolts = 12, sataRailA = 4.5; // Serial ATA specification (from memory)

void budget(const Checks& c, const PowerBudget& power, const Placed& supply) {
    const Sentence text = say("Parts draw {} of {}, {}", figure::watts(power.drawW, 0), figure::watts(power.supplyW, 0),
                              figure::percent(power.share));
    const Sentences remedies{say("a larger supply"), say("limit the power of the card or the processor")};
    if (power.share > 1.0 || (power.brick && power.share > 0.9))
        c.addPower("power-share", Severity::Blocker, supply, text, remedies);
    else if (power.share > 0.8)
        c.addPower("power-share", Severity::Caution, supply, say("{}: 40 to 80 % is preferred", text), remedies);
    else if (power.share < 0.4)
        c.addPower("power-share-low", Severity::Note, supply, say("{}: more supply than needed", text),
                   {say("a smaller supply")});
}

/// Short peaks of the machine: a card may draw twice its sustained power for less than a millisecond (engineering
/// judgement), a processor what it states.
void peaks(const Checks& c, const PowerBudget& power, const Placed& supply) {
    double more = 0;
    for (const Placed& p : c.build.placed) {
        if (const auto* card = std::get_if<CardSpec>(&p.part->spec))
            more += std::max(p.powerW(), p.powerLimitW ? 0 : card->peakW - p.powerW());
        else if (const auto* cpu = std::get_if<ProcessorSpec>(&p.part->spec); cpu && !p.powerLimitW)
            more += std::max(0.0, cpu->peakW - p.powerW());
    }
    const double peak = power.drawW + more;
    const auto& spec = std::get<PowerSupplySpec>(supply.part->spec);
    if (more <= 0 || power.share > 1)
        return;
    const Sentence text = say("Short peaks of the machine reach {}", figure::watts(peak, 0));
    if (spec.peakW > 0 && peak > spec.peakW)
        c.addPower("power-peak", Severity::Caution, supply,
                   say("{}, the supply states {} for a millisecond", text, figure::watts(spec.peakW, 0)),
                   {say("a supply with more headroom"), say("limit the power of the card")});
    else if (spec.peakW <= 0 && peak > power.supplyW)
        c.addPower(
            "power-peak", Severity::Note, supply,
            say("{}, more than the {} the supply holds; its peak is not stated", text, figure::watts(power.supplyW, 0)),
            {say("state its peak power"), say("limit the power of the card")});
}

Sentence amps(double a) { return say("{} A ({})", figure::number(a, 1), figure::watts(a * railVolts, 0)); }

void rail(const Checks& c, const PowerBudget& power, const Placed& supply) {
    const double limit = std::get<PowerSupplySpec>(supply.part->spec).rail12A;
    const double amperes = power.drawW / railVolts;
    if (limit <= 0)
        return;
    const Severity severity = amperes > limit         ? Severity::Blocker
                              : amperes > 0.8 * limit ? Severity::Caution
                                                      : Severity::Note;
    c.add("rail-12v", severity, supply.mount,
          say("12 V rail: {} asked of {}, {}", amps(amperes), amps(limit), figure::percent(amperes / limit, 0)),
          {say("a supply with a stronger 12 V rail")});
}

/// Drives that start together, with everything else at work: the worst there is on the rail for ten seconds.
void spinUp(const Checks& c, const PowerBudget& power, const Placed& supply) {
    constexpr double usualA = 2; // of a 3.5 in drive at 12 V for 10 s: common practice, no source
    double starting = 0, running = 0;
    int drives = 0;
    for (const Placed& p : c.build.placed)
        if (const auto* spec = std::get_if<DriveSpec>(&p.part->spec)) {
            const double a = spec->spinUpA > 0 ? spec->spinUpA : spec->form == DriveForm::Inch35 ? usualA : 0;
            if (a <= 0)
                continue;
            ++drives;
            starting += a;
            running += p.powerW() / railVolts;
        }
    if (drives == 0)
        return;
    const auto& spec = std::get<PowerSupplySpec>(supply.part->spec);
    const double limit = spec.rail12A > 0 ? spec.rail12A : spec.ratedW / railVolts,
                 total = power.drawW / railVolts - running + starting;
    const Sentence text =
        say("{}: {} with all else, of {}",
            sayCounted(drives == 1, "{} drive draws {} A at 12 V while it starts",
                       "{} drives draw {} A at 12 V while they start", drives, figure::number(starting, 1)),
            amps(total), spec.rail12A > 0 ? amps(limit) : say("{} taken from its rated power", amps(limit)));
    if (total > limit)
        c.add("spin-up", Severity::Caution, supply.mount, text,
              {say("let the drives start one after another"), say("a supply with a stronger 12 V rail")});
    else
        c.add("spin-up", Severity::Note, supply.mount, text, {});
}

/// What the plugs of a part may carry together against what it draws. A plug that is missing is told as missing, once.
struct Feed {
    double capacityW = 0;
    bool known = true;
    bool missing = false;
    int plugs = 0;
    Sentences words;
};
Feed feedOf(const Checks& c, const std::string& mount, auto&& counts) {
    Feed feed;
    const PortMap& map = c.wiring.ports;
    for (std::size_t n = 0; n < map.needs.size(); ++n) {
        const Need& need = map.needs[n];
        if (need.taker.mount != mount || !counts(need.kind))
            continue;
        const double w = capacityW(c.build, map, static_cast<int>(n));
        ++feed.plugs;
        feed.missing = feed.missing || need.socket < 0;
        feed.known = feed.known && w > 0;
        feed.capacityW += w;
        feed.words.push_back(say("{} {}", std::string(map.plugOf(need)), figure::watts(w).bare()));
    }
    return feed;
}

void feedOfCards(const Checks& c) {
    for (const Placed& p : c.build.placed) {
        if (p.part->kind != PartKind::Card)
            continue;
        const Feed feed = feedOf(
            c, p.mount, [](const std::string& kind) { return kind.starts_with("card-") || kind.starts_with("slot-"); });
        if (feed.plugs > 0 && feed.known && p.powerW() > feed.capacityW)
            c.add("card-feed", Severity::Blocker, p.mount,
                  say("{} draws {}, its plugs carry {}: {}", p.name, figure::watts(p.powerW(), 0),
                      figure::watts(feed.capacityW, 0), joined(feed.words, say(" + "))),
                  {say("plugs that carry more"), say("limit the power of the card")});
    }
}

/// What a 12-pin plug allows is told by its sense wires; where the supply does not state it, only the least is sure.
void senseWires(const Checks& c) {
    constexpr double sureW =
        150; // PCI Express card electromechanical specification (from memory): 150, 300, 450 or 600
    const PortMap& map = c.wiring.ports;
    for (std::size_t n = 0; n < map.needs.size(); ++n) {
        const Need& need = map.needs[n];
        if (need.kind != "card-12" || need.taker.isLead || need.socket < 0)
            continue;
        const auto* supply =
            std::get_if<PowerSupplySpec>(&map.sockets[static_cast<std::size_t>(need.socket)].giver.part->spec);
        const Placed* card = c.build.at(need.taker.mount);
        const Feed others = feedOf(c, need.taker.mount, [](const std::string& kind) {
            return (kind.starts_with("card-") && kind != "card-12") || kind.starts_with("slot-");
        });
        if (supply && supply->twelvePinW <= 0 && card && card->powerW() > others.capacityW + sureW)
            c.add(
                "sense-wires", Severity::Caution, card->mount,
                say("{} wants more than 150 W of its 12-pin plug; what the sense wires of {} allow is not stated",
                    card->name, map.sockets[static_cast<std::size_t>(need.socket)].giver.name),
                {say("state what its 12-pin plug allows: 150, 300, 450 or 600 W"), say("limit the power of the card")});
    }
}

void feedOfProcessor(const Checks& c) {
    const Placed* cpu = c.build.firstOf(PartKind::Processor);
    const Placed* board = c.build.firstOf(PartKind::Board);
    if (!cpu || !board)
        return;
    const Feed feed = feedOf(c, board->mount, [](const std::string& kind) { return kind.starts_with("eps-"); });
    if (feed.plugs > 0 && feed.known && cpu->powerW() > feed.capacityW)
        c.add("processor-feed", Severity::Blocker, cpu->mount,
              say("{} draws {}, its plugs carry {}: {}; a splitter adds no capacity", cpu->name,
                  figure::watts(cpu->powerW(), 0), figure::watts(feed.capacityW, 0), joined(feed.words, say(" + "))),
              {say("a full 8-pin lead from the supply"), say("limit the power of the processor")});
}

/// Drives that hang on one SATA power lead share its 4.5 A.
void sataRail(const Checks& c) {
    std::map<int, std::pair<double, std::vector<std::string>>> loads;
    const PortMap& map = c.wiring.ports;
    for (std::size_t n = 0; n < map.needs.size(); ++n) {
        const Need& need = map.needs[n];
        if (need.kind != "sata-power" || need.taker.isLead || need.socket < 0 ||
            !map.sockets[static_cast<std::size_t>(need.socket)].giver.isLead)
            continue;
        auto& [watts, names] = loads[map.root(static_cast<int>(n))];
        watts += need.taker.part->powerW;
        names.push_back(need.taker.name);
    }
    for (const auto& [socket, load] : loads)
        if (socket >= 0 && load.first / railVolts > sataRailA)
            c.add("sata-rail", Severity::Caution, thingOf(c.build, map.sockets[static_cast<std::size_t>(socket)].giver),
                  say("{} draw {} A through one SATA power plug, it carries {} A a rail", joined(load.second),
                      figure::number(load.first / railVolts, 1), figure::number(sataRailA, 1)),
                  {say("a second lead from the supply")});
}

} // namespace

void checkPower(const Checks& c) {
    feedOfCards(c);
    senseWires(c);
    feedOfProcessor(c);
    sataRail(c);
    const PowerBudget power = powerBudget(c.build);
    if (power.supplyW <= 0) {
        if (c.isBegun())
            c.add("supply-missing", Severity::Blocker, TopicRef{"supply"}, say("No power supply is placed"),
                  {say("place a supply")});
        return;
    }
    const Placed& supply = *c.build.firstOf(PartKind::PowerSupply);
    budget(c, power, supply);
    peaks(c, power, supply);
    rail(c, power, supply);
    spinUp(c, power, supply);
}

} // namespace core::rules
