// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/checks.h"

#include "core/base/text.h"
#include "core/model/loops.h"

namespace core::rules {
namespace {

/// Height above the desk of the highest point of a part, mm, as the case stands.
double topOf(const Build& build, const Placed& p) {
    const Direction down = outward(build.down);
    const std::size_t k = index(down.axis);
    return down.sign < 0 ? p.highAt[k].mm() : build.insideAt[k].mm() - p.lowAt[k].mm();
}

bool corrode(const std::string& a, const std::string& b) {
    const auto is = [&](const char* x, const char* y) { return (a == x && b == y) || (a == y && b == x); };
    return is("aluminium", "copper") || is("aluminium", "nickel");
}

void metals(const Checks& c, const LiquidLoop& loop) {
    for (const Placed* radiator : loop.radiators)
        for (const Placed* block : loop.blocks) {
            const auto& spec = std::get<CoolerSpec>(block->part->spec);
            const std::string& other = std::get<RadiatorSpec>(radiator->part->spec).metal;
            if (!corrode(spec.metal, other))
                continue;
            if (spec.sealed)
                c.add("loop-metals", Severity::Caution, radiator->mount,
                      say("{} and {} in one sealed loop: inhibited by its maker, it ages and loses liquid with the "
                          "years; never refill it with water",
                          spec.metal, other),
                      {say("a loop of one metal")});
            else
                c.add("loop-metals", Severity::Blocker, radiator->mount,
                      say("{} and {} in one loop: aluminium corrodes beside copper", spec.metal, other),
                      {say("block and radiator of one metal"),
                       say("a sealed loop whose maker answers for it: state \"sealed\"")});
            break; // once for a radiator
        }
    for (std::size_t i = 1; i < loop.blocks.size(); ++i) {
        const auto metalOf = [](const Placed* p) { return std::get<CoolerSpec>(p->part->spec).metal; };
        if (corrode(metalOf(loop.blocks[0]), metalOf(loop.blocks[i])))
            c.add("loop-metals", Severity::Blocker, loop.blocks[i]->mount,
                  say("{} and {} in one loop: aluminium corrodes beside copper", metalOf(loop.blocks[0]),
                      metalOf(loop.blocks[i])),
                  {say("blocks of one metal"), say("a loop of its own for each")});
    }
}

void pumps(const Checks& c, const LiquidLoop& loop) {
    std::vector<const Placed*> all = loop.radiators, pumping;
    all.insert(all.end(), loop.blocks.begin(), loop.blocks.end());
    for (const Placed* p : all) {
        const auto* radiator = std::get_if<RadiatorSpec>(&p->part->spec);
        if (radiator ? radiator->pump : std::get<CoolerSpec>(p->part->spec).pump)
            pumping.push_back(p);
    }
    if (pumping.empty())
        c.add("pump-missing", Severity::Blocker, loop.blocks[0]->mount, say("Nothing pumps the loop"),
              {say("a block or radiator with a pump")});
    for (const Placed* pump : pumping)
        if (std::all_of(all.begin(), all.end(),
                        [&](const Placed* p) { return topOf(c.build, *pump) >= topOf(c.build, *p); }))
            c.add("pump-high", Severity::Caution, pump->mount,
                  say("{} carries the pump at the highest point of the loop: a bubble gathers there and makes it loud",
                      pump->name),
                  {say("the radiator above the pump"), say("another way to stand the case")});
}

void loopOf(const Checks& c, const LiquidLoop& loop) {
    if (loop.radiators.empty())
        for (const Placed* block : loop.blocks)
            c.add("radiator-missing", Severity::Blocker, block->mount, say("{} has no radiator", block->name),
                  {say("place a radiator"), say("state the loop of the radiator it belongs to")});
    if (loop.blocks.empty())
        for (const Placed* radiator : loop.radiators)
            c.add("block-missing", Severity::Blocker, radiator->mount,
                  say("{} has no block on the processor", radiator->name),
                  {say("place a liquid cooler on the lid"), say("state the loop of the block it belongs to")});
    if (loop.blocks.empty() || loop.radiators.empty())
        return;
    metals(c, loop);
    pumps(c, loop);
    c.add("loop-ages", Severity::Note, loop.radiators.back()->mount,
          say("Sealed loops lose liquid with the years; leave room to reach them"), {});
}

/// "M4 x 35 pan" -> 35.
double screwLength(const std::string& kind) {
    const auto x = kind.find(" x ");
    return x == std::string::npos
               ? 0
               : numberFrom(std::string_view(kind).substr(x + 3, kind.find(' ', x + 3) - (x + 3))).value_or(0);
}

/// The shortest usual screw that reaches 2 mm into a radiator behind a fan: common practice, no source.
double usualScrew(double thickness) {
    for (const double length : {16.0, 20.0, 25.0, 30.0, 35.0, 40.0, 45.0})
        if (length >= thickness + 2)
            return length;
    return thickness + 3;
}

void screwsIntoRadiator(const Checks& c) {
    for (const Placed& p : c.build.placed) {
        if (p.part->kind != PartKind::Fan || p.parent < 0)
            continue;
        const Placed& carrier = c.build.placed[static_cast<std::size_t>(p.parent)];
        const auto* radiator = std::get_if<RadiatorSpec>(&carrier.part->spec);
        if (!radiator)
            continue;
        const double thickness = p.part->size[2].value.mm();
        for (const Fastener& f : p.part->fasteners) {
            const double length = screwLength(f.kind);
            if (length <= 0)
                continue;
            const Sentence name = say("{} on {}: {}", p.name, carrier.name, f.kind);
            const Sentences remedies{say("M4 x {}", figure::number(usualScrew(thickness), 0))};
            if (length > thickness + radiator->plateMm + 5)
                c.add("screw-long", Severity::Blocker, p.mount,
                      say("{} reaches {} behind the fan and can pierce the radiator", name,
                          figure::mm(length - thickness, 1)),
                      remedies);
            else if (length < thickness + 2)
                c.add("screw-short", Severity::Caution, p.mount,
                      say("{} holds with {}, {} to {} are wanted", name, figure::mm(std::max(0.0, length - thickness)),
                          figure::mm(2, 0).bare(), figure::mm(4, 0).bare()),
                      remedies);
        }
    }
}

void bends(const Checks& c) {
    for (const Placed& p : c.build.placed)
        for (const Body& body : p.part->bodies) {
            if (body.shape != Shape::Tube && body.shape != Shape::Ribbon)
                continue;
            const double room = fit::tightestBend(body.routeMm);
            if (room + 1e-9 < body.bendMm)
                c.add("bend", Severity::Caution, p.mount,
                      say("{}, {}: its route leaves a bend of {}, it takes no less than {}", p.name, body.name,
                          figure::mm(room, 1), figure::mm(body.bendMm).bare()),
                      {say("a longer way round"), say("a more supple tube or riser")}, Station::Fit);
        }
}

} // namespace

void checkLiquid(const Checks& c) {
    for (const LiquidLoop& loop : loopsOf(c.build))
        loopOf(c, loop);
    screwsIntoRadiator(c);
    bends(c);
}

} // namespace core::rules
