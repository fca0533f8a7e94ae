// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/compiler.h"
#include "core/model/loops.h"

namespace core::air {
namespace {

constexpr double finSpacingM = 1.0e-3, finOpen = 0.8, coreLoss = 1.5; // engineering judgement
constexpr double tankMm = 10;                                         // of the thickness is no fins

/// Whether a fan sits on one side of a radiator: right before it, and over it.
bool sitsOn(const Placed& fan, const Placed& radiator, std::size_t end) {
    if (fan.part->kind != PartKind::Fan || fan.facing().axis != radiator.facing().axis)
        return false;
    const std::size_t a = index(radiator.facing().axis);
    const double off = end == 0 ? (radiator.lowAt[a] - fan.highAt[a]).mm() : (fan.lowAt[a] - radiator.highAt[a]).mm();
    constexpr double shroudMm = 10;
    if (off < -1 || off > shroudMm)
        return false;
    const Side side = sideOf({radiator.facing().axis, 1});
    return intersection(footprint(fan, side), footprint(radiator, side)).areaMm2() >
           0.25 * footprint(fan, side).areaMm2();
}

} // namespace

bool Compiler::hasBlock(const Placed& card) const {
    return std::any_of(m_build.placed.begin(), m_build.placed.end(),
                       [&](const Placed& p) { return isBlock(p) && carriedBy(p, PartKind::Card) == &card; });
}

/// Radiators, their fans, and the room between the two.
void Compiler::findRadiators() {
    for (const Placed& p : m_build.placed) {
        if (p.part->kind != PartKind::Radiator)
            continue;
        RadiatorRooms r{.placed = &p};
        const auto& spec = std::get<RadiatorSpec>(p.part->spec);
        const double face = spec.fans * spec.frameMm * spec.frameMm * mm2;
        for (std::size_t end = 0; end < 2; ++end) {
            for (const Placed& fan : m_build.placed)
                if (sitsOn(fan, p, end))
                    r.fans[end].push_back(&fan);
            if (!r.fans[end].empty())
                r.room[end] = addZone("fans " + p.mount + (end == 0 ? " -" : " +"), face);
        }
        m_radiators.push_back(std::move(r));
    }
}

/// Its fins as one branch from its low to its high side, which is a stream of the loop; those before which no fan sits
/// are another, and cool nothing.
void Compiler::addRadiator(const RadiatorRooms& r, CooledPart& loop) {
    const Placed& p = *r.placed;
    const auto& spec = std::get<RadiatorSpec>(p.part->spec);
    const double places = std::max(1, spec.fans), face = places * spec.frameMm * spec.frameMm * mm2;
    const double depth = std::max(tankMm, p.part->size[2].value.mm() - tankMm) * mm;
    const double fanned = static_cast<double>(std::max(r.fans[0].size(), r.fans[1].size()));
    const double share = fanned > 0 ? std::min(1.0, fanned / places) : 1.0;
    std::array<std::size_t, 2> ends{};
    std::array<std::size_t, 2> open{}; // where the fins without fans end
    Resistance cover;
    for (std::size_t end = 0; end < 2; ++end) {
        const Side side = sideOf({p.facing().axis, end == 0 ? -1 : 1});
        Before there = before(p, end == 0 ? -1 : 1);
        if (r.room[end])
            there = {.side = side, .rect = {}};
        ends[end] = open[end] = endsAt(p, end == 0 ? -1 : 1, there).front().zone;
        if (there.kind == Before::Kind::Open) {
            const Opening& o = *there.opening;
            const double area = there.rect.areaMm2() * shapeShare(o) * (1 - o.blockedShare) * mm2;
            cover = cover + coverOf(o, std::max(1e-6, std::min(face, area) * share)).resistance + deskSlot(o, area);
            m_fanPatches.push_back({o.id, there.rect});
        } else if (there.kind == Before::Kind::Closed) {
            cover = cover + obstacleResistance({there.gapMm, 1.0, {}}, spec.frameMm);
            m_out.notes.push_back(say("{} looks at a closed panel {} away", p.name, figure::mm(there.gapMm, 1)));
        }
        if (r.room[end])
            ends[end] = r.room[end];
    }
    const Resistance core = fins(face * share, depth, finSpacingM, finOpen, coreLoss);
    const std::size_t branch = addBranch({.id = "radiator " + p.mount,
                                          .from = ends[0],
                                          .to = ends[1],
                                          .resistance = core + cover,
                                          .heightM = upOf(centreOf(p))});
    if (share < 1) {
        addBranch({.id = "radiator " + p.mount + ", no fan",
                   .from = open[0],
                   .to = open[1],
                   .resistance = ofShare(core + cover, (1 - share) / share),
                   .heightM = upOf(centreOf(p))});
        m_out.notes.push_back(
            say("{} has a fan before {} of its {} places: the rest of its fins is taken to cool nothing", p.name,
                static_cast<int>(fanned), spec.fans));
    }
    loop.naturalWk += 6 * 2 * face;
    loop.streams.push_back({branch, 85000 * face * share * depth, 1.5 * face * share, 0.6});
}

const Compiler::RadiatorRooms& Compiler::roomsOf(const Placed& radiator) const {
    return *std::find_if(m_radiators.begin(), m_radiators.end(),
                         [&](const RadiatorRooms& r) { return r.placed == &radiator; });
}

/// The die that a block sits on, if it sits on one.
std::optional<CooledPart> Compiler::dieUnder(const Placed& block) {
    const Placed* cpu = carriedBy(block, PartKind::Processor);
    const Placed* card = cpu ? nullptr : carriedBy(block, PartKind::Card);
    if (!cpu && !card) {
        m_out.notes.push_back(say("{} sits on no processor and no card", block.name));
        return std::nullopt;
    }
    CooledPart die = cpu ? processorDie(*cpu, m_conditions) : cardDie(*card, m_conditions, !isIdle(card->mount));
    if (card)
        die.dieResistance += facts::coldPlate.value;
    die.home = zoneOf(block);
    die.boardShare = std::get<CoolerSpec>(block.part->spec).boardShare;
    die.boardZone = zoneOf(cpu ? *cpu : *card);
    return die;
}

void Compiler::addLoops() {
    const auto loops = loopsOf(m_build);
    for (const LiquidLoop& loop : loops)
        addLoop(loop);
    if (loops.size() == 1 && (loops[0].blocks.size() > 1 || loops[0].radiators.size() > 1))
        m_out.notes.push_back(say("All blocks and radiators are taken as one loop, as warm everywhere: blocks and "
                                  "radiators of another state its name"));
}

/// The blocks and radiators of a loop, which is as warm everywhere.
void Compiler::addLoop(const LiquidLoop& of) {
    CooledPart loop;
    double fill = 1;
    for (const Placed* radiator : of.radiators) {
        addRadiator(roomsOf(*radiator), loop);
        loop.sink += radiator->part->id + " ";
        if (std::get<RadiatorSpec>(radiator->part->spec).pump)
            loop.extraW += radiator->powerW();
    }
    std::optional<std::size_t> owner;
    for (const Placed* block : of.blocks) {
        const auto& spec = std::get<CoolerSpec>(block->part->spec);
        fill = std::min(fill, fillLeft(spec));
        if (spec.pump)
            loop.extraW += block->powerW();
        std::optional<CooledPart> die = dieUnder(*block);
        if (!die)
            continue;
        if (owner) {
            die->sinkOf = *owner;
        } else {
            owner = m_net.parts.size();
            die->sinkJk = facts::loopHeat.value;
        }
        m_net.parts.push_back(std::move(*die));
    }
    if (!owner)
        return;
    CooledPart& first = m_net.parts[*owner];
    first.streams = std::move(loop.streams);
    first.sink = std::move(loop.sink);
    for (CooledPart::Stream& stream : first.streams)
        stream.gRefWk *= fill;
    first.extraW = loop.extraW;
    first.gRefWk = 0;
    first.naturalWk = loop.naturalWk > 0 ? loop.naturalWk : facts::blockAlone.value;
    if (!of.radiators.empty())
        first.home = zoneOf(*of.radiators.front());
    else
        m_out.notes.push_back(
            say("{} finds no radiator: what its block gives off to the air by itself is all", first.name));
    if (fill < 1)
        m_out.notes.push_back(say("The loop of {} is filled to {}: its radiators give off that much less", first.name,
                                  figure::percent(fill)));
}

} // namespace core::air
