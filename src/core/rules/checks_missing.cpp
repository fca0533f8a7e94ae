// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/model/plug_sizes.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {

void missingParts(const Checks& c) {
    const auto missing = [&](PartKind kind, Severity severity, const char* rule, const Sentence& text,
                             const Sentence& remedy) {
        if (!c.build.firstOf(kind))
            c.add(rule, severity, TopicRef{std::string(kindWord(kind))}, text, {remedy});
    };
    missing(PartKind::Board, Severity::Blocker, "board-missing", say("No board is placed"), say("place a board"));
    missing(PartKind::Processor, Severity::Blocker, "processor-missing", say("No processor is placed"),
            say("place a processor in the board's socket"));
    missing(PartKind::Memory, Severity::Blocker, "memory-missing", say("No memory is placed"),
            say("place memory on the board"));
    missing(PartKind::Drive, Severity::Caution, "storage-missing",
            say("No storage is placed: the machine starts from a plug-in or the network only"), say("place a drive"));
}

bool asksFor(const Part& part, std::string_view prefix) {
    const auto starts = [&](const std::string& kind) { return kind.starts_with(prefix); };
    return std::any_of(part.needs.begin(), part.needs.end(),
                       [&](const auto& need) { return need.second > 0 && starts(need.first); }) ||
           std::any_of(part.ports.begin(), part.ports.end(), [&](const Port& port) { return starts(port.kind); });
}

constexpr double slotW = 75;           // PCI Express card electromechanical specification (from memory)
constexpr double smallProcessorW = 75; // below it a board may do with its main plug: engineering judgement

void powerWithoutPlugs(const Checks& c) {
    const Placed* cpu = c.build.firstOf(PartKind::Processor);
    for (const Placed& p : c.build.placed) {
        if (p.part->kind == PartKind::Card && p.powerW() > slotW && !asksFor(*p.part, "card-"))
            c.add("plugs-unstated", Severity::Caution, p.mount,
                  say("{} draws {}, a slot gives {}, and no power plug of it is stated: nothing of it was checked",
                      p.name, figure::watts(p.powerW(), 0), figure::watts(slotW).bare()),
                  {say("state what it needs, e.g. \"card-8\": 1")});
        if (p.part->kind != PartKind::Board)
            continue;
        if (!asksFor(*p.part, "atx-") && !asksFor(*p.part, "dc-"))
            c.add("plugs-unstated", Severity::Caution, p.mount,
                  say("{} states no power plug: nothing of its power was checked", p.name),
                  {say("state what it needs, e.g. \"atx-24\": 1")});
        else if (cpu && cpu->powerW() > smallProcessorW && !asksFor(*p.part, "eps-"))
            c.add("plugs-unstated", Severity::Caution, p.mount,
                  say("{} draws {}, and {} states no plug for it: nothing of it was checked", cpu->name,
                      figure::watts(cpu->powerW(), 0), p.name),
                  {say("state what the board needs, e.g. \"eps-8\": 1")});
    }
}

/// Kinds of plugs that take room and whose place nobody said.
std::vector<std::string> placeless(const Placed& p) {
    std::vector<std::string> kinds;
    const bool kept = std::any_of(p.part->bodies.begin(), p.part->bodies.end(),
                                  [](const Body& b) { return b.role == BodyRole::KeepOut && b.use == Use::Plug; });
    if (kept)
        return kinds; // the room of its plugs is drawn
    for (const auto& [kind, count] : p.part->needs) {
        const PlugSize* plug = plugSize(kind);
        if (kind.starts_with("fan")) // the plug of a fan hangs on its own lead
            continue;
        if (count > 0 && plug && plug->straightMm > 0 &&
            std::none_of(p.ports.begin(), p.ports.end(),
                         [&, k = std::string_view(kind)](const Port& port) { return port.kind == k; }))
            kinds.push_back(kind);
    }
    return kinds;
}

void unstatedPlaces(const Checks& c) {
    for (const Placed& p : c.build.placed) {
        const std::vector<std::string> kinds = placeless(p);
        if (!kinds.empty())
            c.add("plug-place", Severity::Note, p.mount,
                  say("{}: where its {} plugs in is not stated, so the room of the plug is not checked", p.name,
                      joined(kinds)),
                  {say("state the place of its sockets")}, Station::Fit);
        const auto* supply = std::get_if<PowerSupplySpec>(&p.part->spec);
        if (supply && !supply->brick &&
            std::none_of(p.ports.begin(), p.ports.end(), [](const Port& port) { return port.kind == "mains"; }))
            c.add("mains-place", Severity::Note, p.mount,
                  say("{}: where its mains plug goes in is not stated, so its room (about {} straight and a bend of "
                      "{}, common practice) is not checked",
                      p.name, figure::mm(45, 0), figure::mm(30, 0).bare()),
                  {say("state a port of kind \"mains\"")}, Station::Fit);
    }
}

} // namespace

void checkMissing(const Checks& c) {
    if (!c.isBegun())
        return;
    missingParts(c);
    powerWithoutPlugs(c);
    unstatedPlaces(c);
}

} // namespace core::rules
