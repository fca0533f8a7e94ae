// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {

constexpr double railVolts = 12, sataRailA = 4.5; // Serial ATA specification (from memory)

void budget(const Checks& c, const PowerBudget& power, const Placed& supply) {
    const std::string share = fixed(power.share * 100, 0) + " %";
    const std::string text =
        "Parts draw " + fixed(power.drawW, 0) + " W of " + fixed(power.supplyW, 0) + " W, " + share;
    const std::vector<std::string> remedies{"a larger supply", "limit the power of the card or the processor"};
    if (power.share > 1.0 || (power.brick && power.share > 0.9))
        c.addPower("power-share", Severity::Blocker, supply, text, remedies);
    else if (power.share > 0.8)
        c.addPower("power-share", Severity::Caution, supply, text + ": 40 to 80 % is preferred", remedies);
    else if (power.share < 0.4)
        c.addPower("power-share-low", Severity::Note, supply, text + ": more supply than needed", {"a smaller supply"});
}

/// Short peaks of the machine: a card may draw twice its sustained power for less than a millisecond (engineering
/// judgement), a processor what it states.
void peaks(const Checks& c, const PowerBudget& power, const Placed& supply) {
    double more = 0;
    for (const Placed& p : c.build.placed) {
        if (p.part->kind == PartKind::Card)
            more += p.powerW();
        else if (const auto* cpu = std::get_if<ProcessorSpec>(&p.part->spec); cpu && !p.powerLimitW)
            more += std::max(0.0, cpu->peakW - p.powerW());
    }
    const double peak = power.drawW + more;
    const auto& spec = std::get<PowerSupplySpec>(supply.part->spec);
    if (more <= 0 || power.share > 1)
        return;
    const std::string text = "Short peaks of the machine reach " + fixed(peak, 0) + " W";
    if (spec.peakW > 0 && peak > spec.peakW)
        c.addPower("power-peak", Severity::Caution, supply,
                   text + ", the supply states " + fixed(spec.peakW, 0) + " W for a millisecond",
                   {"a supply with more headroom", "limit the power of the card"});
    else if (spec.peakW <= 0 && peak > power.supplyW)
        c.addPower("power-peak", Severity::Note, supply,
                   text + ", more than the " + fixed(power.supplyW, 0) + " W the supply holds; its peak is not stated",
                   {"state its peak power", "limit the power of the card"});
}

std::string amps(double a) { return fixed(a, 1) + " A (" + fixed(a * railVolts, 0) + " W)"; }

void rail(const Checks& c, const PowerBudget& power, const Placed& supply) {
    const double limit = std::get<PowerSupplySpec>(supply.part->spec).rail12A;
    const double amperes = power.drawW / railVolts;
    if (limit <= 0)
        return;
    const Severity severity = amperes > limit         ? Severity::Blocker
                              : amperes > 0.8 * limit ? Severity::Caution
                                                      : Severity::Note;
    c.add("rail-12v", severity, supply.mount,
          "12 V rail: " + amps(amperes) + " asked of " + amps(limit) + ", " + fixed(100 * amperes / limit, 0) + " %",
          {"a supply with a stronger 12 V rail"});
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
    const std::string text = std::to_string(drives) + (drives == 1 ? " drive draws " : " drives draw ") +
                             fixed(starting, 1) + " A at 12 V while " + (drives == 1 ? "it starts" : "they start") +
                             ": " + amps(total) + " with all else, of " + amps(limit) +
                             (spec.rail12A > 0 ? "" : " taken from its rated power");
    if (total > limit)
        c.add("spin-up", Severity::Caution, supply.mount, text,
              {"let the drives start one after another", "a supply with a stronger 12 V rail"});
    else
        c.add("spin-up", Severity::Note, supply.mount, text, {});
}

/// What the plugs of a part may carry together against what it draws. A plug that is missing is told as missing, once.
struct Feed {
    double capacityW = 0;
    bool known = true;
    bool missing = false;
    int plugs = 0;
    std::string words;
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
        feed.words += (feed.words.empty() ? "" : " + ") + std::string(map.plugOf(need)) + " " + fixed(w, 0);
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
                  p.name + " draws " + fixed(p.powerW(), 0) + " W, its plugs carry " + fixed(feed.capacityW, 0) +
                      " W: " + feed.words,
                  {"plugs that carry more", "limit the power of the card"});
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
            c.add("sense-wires", Severity::Caution, card->mount,
                  card->name + " wants more than 150 W of its 12-pin plug; what the sense wires of " +
                      map.sockets[static_cast<std::size_t>(need.socket)].giver.name + " allow is not stated",
                  {"state what its 12-pin plug allows: 150, 300, 450 or 600 W", "limit the power of the card"});
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
              cpu->name + " draws " + fixed(cpu->powerW(), 0) + " W, its plugs carry " + fixed(feed.capacityW, 0) +
                  " W: " + feed.words + "; a splitter adds no capacity",
              {"a full 8-pin lead from the supply", "limit the power of the processor"});
}

/// Drives that hang on one SATA power lead share its 4.5 A.
void sataRail(const Checks& c) {
    std::map<int, std::pair<double, std::string>> loads;
    const PortMap& map = c.wiring.ports;
    for (std::size_t n = 0; n < map.needs.size(); ++n) {
        const Need& need = map.needs[n];
        if (need.kind != "sata-power" || need.taker.isLead || need.socket < 0 ||
            !map.sockets[static_cast<std::size_t>(need.socket)].giver.isLead)
            continue;
        auto& [watts, names] = loads[map.root(static_cast<int>(n))];
        watts += need.taker.part->powerW;
        names += (names.empty() ? "" : ", ") + need.taker.name;
    }
    for (const auto& [socket, load] : loads)
        if (socket >= 0 && load.first / railVolts > sataRailA)
            c.add("sata-rail", Severity::Caution, thingOf(c.build, map.sockets[static_cast<std::size_t>(socket)].giver),
                  load.second + " draw " + fixed(load.first / railVolts, 1) +
                      " A through one SATA power plug, it carries " + fixed(sataRailA, 1) + " A a rail",
                  {"a second lead from the supply"});
}

} // namespace

void checkPower(const Checks& c) {
    feedOfCards(c);
    senseWires(c);
    feedOfProcessor(c);
    sataRail(c);
    const PowerBudget power = powerBudget(c.build);
    if (power.supplyW <= 0) {
        if (!c.build.placed.empty()) // a bare case asks for nothing yet
            c.add("supply-missing", Severity::Blocker, TopicRef{"supply"}, "No power supply is placed",
                  {"place a supply"});
        return;
    }
    const Placed& supply = *c.build.firstOf(PartKind::PowerSupply);
    budget(c, power, supply);
    peaks(c, power, supply);
    rail(c, power, supply);
    spinUp(c, power, supply);
}

} // namespace core::rules
