// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/checks.h"

#include "core/base/text.h"

namespace core::rules {
namespace {

/// Height above the desk of the highest point of a part, mm, as the case stands.
double topOf(const Build& build, const Placed& p) {
    const Direction down = outward(build.down);
    const std::size_t k = index(down.axis);
    return down.sign < 0 ? p.highAt[k].mm() : build.insideAt[k].mm() - p.lowAt[k].mm();
}

void loop(const Checks& c) {
    const Placed *block = nullptr, *radiator = nullptr;
    std::string metal, otherMetal;
    for (const Placed& p : c.build.placed) {
        if (const auto* cooler = std::get_if<CoolerSpec>(&p.part->spec); cooler && cooler->type == CoolerType::Liquid) {
            block = &p;
            metal = cooler->metal;
        } else if (const auto* r = std::get_if<RadiatorSpec>(&p.part->spec)) {
            radiator = &p;
            otherMetal = r->metal;
        }
    }
    if (block && !radiator)
        c.add("radiator-missing", Severity::Blocker, block->mount, say("{} has no radiator", block->name),
              {say("place a radiator")});
    if (radiator && !block)
        c.add("block-missing", Severity::Blocker, radiator->mount,
              say("{} has no block on the processor", radiator->name), {say("place a liquid cooler on the lid")});
    if (!block || !radiator)
        return;
    const auto is = [&](const char* a, const char* b) {
        return (metal == a && otherMetal == b) || (metal == b && otherMetal == a);
    };
    const bool mixed = is("aluminium", "copper") || is("aluminium", "nickel"),
               sealed = std::get<CoolerSpec>(block->part->spec).sealed;
    if (mixed && sealed)
        c.add("loop-metals", Severity::Caution, radiator->mount,
              say("{} and {} in one sealed loop: inhibited by its maker, it ages and loses liquid with the years; "
                  "never refill it with water",
                  metal, otherMetal),
              {say("a loop of one metal")});
    else if (mixed)
        c.add("loop-metals", Severity::Blocker, radiator->mount,
              say("{} and {} in one loop: aluminium corrodes beside copper", metal, otherMetal),
              {say("block and radiator of one metal"),
               say("a sealed loop whose maker answers for it: state \"sealed\"")});
    const bool pumpInBlock = std::get<CoolerSpec>(block->part->spec).pump,
               pumpInTank = std::get<RadiatorSpec>(radiator->part->spec).pump;
    const Placed* pump = pumpInTank ? radiator : pumpInBlock ? block : nullptr;
    const Placed* other = pumpInTank ? block : radiator;
    if (!pump)
        c.add("pump-missing", Severity::Blocker, block->mount, say("Nothing pumps the loop"),
              {say("a block or radiator with a pump")});
    else if (topOf(c.build, *pump) >= topOf(c.build, *other))
        c.add("pump-high", Severity::Caution, pump->mount,
              say("{} carries the pump at the highest point of the loop: a bubble gathers there and makes it loud",
                  pump->name),
              {say("the radiator above the pump"), say("another way to stand the case")});
    c.add("loop-ages", Severity::Note, radiator->mount,
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
    loop(c);
    screwsIntoRadiator(c);
    bends(c);
}

} // namespace core::rules
