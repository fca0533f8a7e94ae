// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/compiler.h"

namespace core::air {
namespace {

/// The side a part draws its air from, if it looks at one.
std::optional<Side> intakeSide(const Placed& p) {
    const auto* cooler = std::get_if<CoolerSpec>(&p.part->spec);
    const auto* supply = std::get_if<PowerSupplySpec>(&p.part->spec);
    const bool draws = (cooler && cooler->type == CoolerType::TopDown) || p.part->kind == PartKind::Card ||
                       (supply && !supply->brick && p.part->kind == PartKind::PowerSupply);
    return draws ? std::optional(sideOf(p.facing())) : std::nullopt;
}

/// 1 while a panel stands before an intake, 0 once it is so far away that the air comes from the chamber: in between
/// it fades, as nothing happens in a step when a part is moved by a millimetre.
double nearnessAt(double clearanceMm) {
    constexpr double nearMm = 60, farMm = 100; // engineering judgement
    return std::clamp((farMm - clearanceMm) / (farMm - nearMm), 0.0, 1.0);
}

} // namespace

double Compiler::clearanceLeft(const Placed& p, Side side, const Rect& rect) const {
    double thickest = 0, taken = 0, covered = 0;
    for (const Placed& fan : m_build.placed) {
        if (fan.part->kind != PartKind::Fan || panelOfFan(m_build, fan) != side || fan.outside)
            continue;
        const double over = intersection(footprint(fan, side), rect).areaMm2() / std::max(1.0, rect.areaMm2());
        thickest = std::max(thickest, over > 0 ? fan.part->size[2].value.mm() : 0);
        taken += over * fan.part->size[2].value.mm();
        covered += over;
    }
    // Fans one behind the other cover the same face once.
    return distanceToSide(m_build, p, side) - std::min(taken, thickest * std::min(1.0, covered));
}

const GapPart* Compiler::gapOf(const Placed& p) const {
    const auto it = std::find_if(m_gaps.begin(), m_gaps.end(), [&](const GapPart& g) { return g.placed == &p; });
    return it == m_gaps.end() ? nullptr : &*it;
}

void Compiler::findGapParts() {
    for (const Placed& p : m_build.placed) {
        const auto side = intakeSide(p);
        if (!side || (p.part->kind == PartKind::Card && hasBlock(p)))
            continue;
        const Rect rect = footprint(p, *side);
        const bool isSupply = p.part->kind == PartKind::PowerSupply;
        // A supply that looks at no vent breathes from its chamber, as a closed panel beside it leaves it nothing else.
        const bool seesVent = std::any_of(m_build.openings.begin(), m_build.openings.end(), [&](const Opening& o) {
            return o.side == *side && o.to.empty() && isOpen(o) && intersection(rectOf(o), rect).areaMm2() > 100;
        });
        const double clearance = clearanceLeft(p, *side, rect), nearness = nearnessAt(clearance);
        if (isSupply && !seesVent)
            continue;
        if (nearness <= 0) {
            if (!isSupply)
                m_out.notes.push_back(say("{} breathes from its chamber: its panel is {} away", p.name,
                                          figure::mm(distanceToSide(m_build, p, *side), 0)));
            continue;
        }
        const double left = std::max(2.0, clearance);
        GapPart gap{&p, *side, 0, zoneOf(p), rect, nearness};
        gap.zone = addZone("gap " + p.mount, 0.75 * rect.perimeterMm() * left * mm2);
        addEdges(gap, left);
        m_gaps.push_back(gap);
    }
}

void Compiler::addEdges(const GapPart& gap, double clearanceMm) {
    constexpr double openShare = 0.75;
    const double area = openShare * gap.rect.perimeterMm() * clearanceMm * mm2;
    const auto [height, middle] = vertical(gap.side, gap.rect);
    const std::size_t b = addBranch({.id = "edge " + gap.placed->mount,
                                     .from = gap.home,
                                     .to = gap.zone,
                                     .resistance = slot(area, clearanceMm * mm, gap.rect.shortSideMm() / 4 * mm),
                                     .heightM = middle});
    m_net.exchanges.push_back(
        {.branch = b,
         .areaM2 = area,
         .k = 1.5,
         .c = 0.20,
         .lengthM = isLevel(gap.side) ? clearanceMm * mm : std::clamp(height, clearanceMm * mm, 0.3)});
}

} // namespace core::air
