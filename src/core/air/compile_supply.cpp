// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/compiler.h"

namespace core::air {

void Compiler::addSupply(const Placed& p) {
    const auto& spec = std::get<PowerSupplySpec>(p.part->spec);
    m_net.supply.efficiency = spec.efficiency;
    m_net.supply.ratedW = spec.ratedW;
    if (spec.brick)
        return; // its heat stays outside
    if (p.control != FanControl{})
        m_out.notes.push_back(say("The fan of {} follows its load: a speed set for it is not used", p.name));
    const FanClass fan = supplyFanClass(spec);
    const double frame = supplyFrameMm(spec);
    const double face = 0.785 * frame * mm * frame * mm;
    const double qRef = 0.6 * fan.curve.freeFlowM3s;
    const double c = fanDensity * airHeat * qRef;
    const GapPart* gap = gapOf(p);
    CooledPart part{.id = p.mount,
                    .name = p.name,
                    .sink = p.part->id,
                    .home = zoneOf(p),
                    .powerW = 10,
                    .dieResistance = 0,
                    .gRefWk = -c * std::log(1 - std::min(0.95, 1 / 0.45 / c)),
                    .qRefM3s = qRef,
                    .exponent = 0.5,
                    .naturalWk = 0.8,
                    .dieJk = 10,
                    .sinkJk = 500,
                    .isSupply = true};
    m_net.fans.push_back({.id = p.mount,
                          .ratedRpm = fan.rpm,
                          .source = ControlSource::Supply,
                          .part = m_net.parts.size(),
                          .passive = {},
                          .ownFan = true,
                          .curve = {},
                          .startC = {}});
    const std::size_t f = m_net.fans.size() - 1;
    part.branch = addBranch({.id = "supply " + p.mount,
                             .from = gap ? gap->zone : part.home,
                             .to = 0,
                             .resistance = slot(face, 3 * mm, 50 * mm, 8.0),
                             .heightM = upOf(centreOf(p)),
                             .fan = f,
                             .curve = fan.curve});
    m_net.supply.part = m_net.parts.size();
    m_net.parts.push_back(part);
    m_out.fans.push_back({.mount = p.mount,
                          .branches = {part.branch},
                          .fan = f,
                          .flow = FanFlow::Out,
                          .direction = FanDirection::Out,
                          .obstacle = {}});
}

void Compiler::addPassive(const Placed& p) {
    const std::size_t zone = zoneOf(p);
    const double watts = wattsOf(p, m_conditions);
    const auto add = [&](std::string id, std::string name, double power, double s, double h0, double h1, double heat,
                         double r, double limit) {
        m_net.passive.push_back({.id = std::move(id),
                                 .name = std::move(name),
                                 .zone = zone,
                                 .powerW = power,
                                 .surfaceM2 = s,
                                 .h0 = h0,
                                 .h1 = h1,
                                 .insideResistance = r,
                                 .limitC = limit,
                                 .heatJk = heat});
    };
    if (p.part->kind == PartKind::Drive) {
        const auto& spec = std::get<DriveSpec>(p.part->spec);
        switch (spec.form) {
        case DriveForm::Inch35:
            add(p.mount, p.name, watts, 0.030, 10, 10, 400, 0.3, spec.limitC);
            break;
        case DriveForm::Inch25:
            add(p.mount, p.name, watts, 0.016, 10, 12, 60, 0.5, spec.limitC);
            break;
        case DriveForm::M2Bare:
            add(p.mount, p.name, watts, 0.0035, 14, 25, 12, 1.0, spec.limitC);
            break;
        case DriveForm::M2Sink:
            add(p.mount, p.name, watts, 0.012, 11, 18, 40, 1.0, spec.limitC);
            break;
        }
    } else if (p.part->kind == PartKind::Board) {
        add(p.mount, p.name, watts, 0.05, 10, 10, 300, 0.05, 0);
        add(p.mount + "/regulators", "Regulators", 0, 0.012, 11, 18, 60, 0.5, 0);
        m_net.passive.back().isRegulators = true;
    } else if (watts > 0) {
        m_net.zones[zone].heatW += watts;
    }
    m_net.supply.otherW += watts;
}

void Compiler::addBlownDrives() {
    const auto before = [](const Placed& card, const Placed& drive) { // one of its long edges
        const std::size_t edge = index(card.frame.axis[1].axis);
        for (std::size_t a = 0; a < 3; ++a) {
            const double apart = apartAlong(card, drive, a);
            if (a == edge ? apart < 0 || apart > blownMm : apart >= 0)
                return false;
        }
        return true;
    };
    for (std::size_t z = 1; z < m_net.zones.size(); ++z) {
        if (!m_net.zones[z].id.starts_with(finsOf))
            continue;
        const Placed* card = m_build.at(m_net.zones[z].id.substr(finsOf.size()));
        for (PassivePart& part : m_net.passive)
            if (const Placed* drive = m_build.at(part.id);
                card && drive && drive->part->kind == PartKind::Drive && before(*card, *drive))
                part.blownBy = z;
    }
}

void Compiler::addParts() {
    m_net.supply.otherW = 0;
    for (const Placed& p : m_build.placed)
        switch (p.part->kind) {
        case PartKind::Cooler:
            addCooler(p);
            break;
        case PartKind::Card:
            addCard(p);
            break;
        case PartKind::PowerSupply:
            addSupply(p);
            break;
        case PartKind::Processor: {
            const auto cools = [&](const Placed& c) {
                return c.part->kind == PartKind::Cooler && carriedBy(c, PartKind::Processor) == &p;
            };
            if (std::none_of(m_build.placed.begin(), m_build.placed.end(), cools))
                m_out.notes.push_back(
                    say("{} has no cooler: neither its temperature nor its heat is in these figures", p.name));
            break; // its heat enters through the cooler
        }
        case PartKind::Case:
        case PartKind::Radiator:
            break;
        default:
            addPassive(p);
            break;
        }
}

FanClass supplyFanClass(const PowerSupplySpec& spec) {
    const facts::SupplyFan& usual = facts::fanOfSupply(spec.form);
    const double frame = supplyFrameMm(spec);
    if (frame != usual.frameMm)
        return fanClass(frame, frame < 100 ? 15 : 25);
    const FanClass fan = fanClass(frame, usual.thicknessMm);
    return usual.rpm > 0 ? atRpm(fan, usual.rpm) : fan;
}

double supplyFrameMm(const PowerSupplySpec& spec) {
    return spec.fanFrameMm > 0 ? spec.fanFrameMm : facts::fanOfSupply(spec.form).frameMm;
}

} // namespace core::air
