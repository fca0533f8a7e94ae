// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/compiler.h"
#include "core/air/own_values.h"

namespace core::air {

double wattsOf(const Placed& part, const Conditions& conditions) {
    const double share = facts::loadShare(part.part->kind, conditions.processorShare, conditions.cardShare);
    for (const LoadPower& power : conditions.powers)
        if (power.mount == part.mount)
            return part.powerLimitW ? std::min(*part.powerLimitW, power.watts) : power.watts;
    return part.powerW() * share;
}

Compiled Compiler::run() {
    m_net.roomC = m_conditions.roomC;
    m_net.pressurePa = pressureAt(m_conditions.altitudeM);
    m_net.zones.push_back({.id = "outside"});
    addChambers();
    findRadiators();
    findGapParts();
    addCaseFans();
    addParts();
    addBlownDrives();
    addLoops();
    addOpenings(); // what fans and radiators took of them is known by now
    followParts();
    stopIdleFans();
    sayStrangers();
    for (Sentence& own : applyOwn(m_net, m_conditions.own))
        m_out.notes.push_back(std::move(own));
    return std::move(m_out);
}

bool Compiler::isIdle(const std::string& mount) const {
    return std::find(m_conditions.idle.begin(), m_conditions.idle.end(), mount) != m_conditions.idle.end();
}

double Compiler::up(Axis axis, double atMm) const {
    const Direction down = outward(m_build.down);
    return axis == down.axis ? -down.sign * atMm * mm : 0.0;
}

double Compiler::upOf(const std::array<double, 3>& pointMm) const {
    const Direction down = outward(m_build.down);
    return up(down.axis, pointMm[index(down.axis)]);
}

std::pair<double, double> Compiler::vertical(Side side, const Rect& rect) const {
    const auto axes = planeAxes(side);
    const Direction down = outward(m_build.down);
    for (std::size_t i = 0; i < 2; ++i)
        if (axes[i] == down.axis)
            return {(rect.high[i] - rect.low[i]) * mm, up(down.axis, 0.5 * (rect.low[i] + rect.high[i]))};
    const Direction out = outward(side);
    const double wall = out.sign > 0 ? m_build.insideAt[index(out.axis)].mm() : 0.0;
    return {0.0, up(out.axis, wall)};
}

std::size_t Compiler::zoneNamed(const std::string& chamber) const {
    for (std::size_t i = 0; i < m_spec.chambers.size(); ++i)
        if (m_spec.chambers[i].id == chamber)
            return m_out.chamberZones[i];
    return 0;
}

std::size_t Compiler::addZone(std::string id, double crossM2) {
    m_net.zones.push_back({.id = std::move(id), .crossSectionM2 = crossM2});
    return m_net.zones.size() - 1;
}

std::size_t Compiler::addBranch(Branch branch) {
    m_net.branches.push_back(std::move(branch));
    return m_net.branches.size() - 1;
}

void Compiler::addChambers() {
    constexpr double hIn = 6, hOut = 8, insideFactor = 1.5, outerShare = 0.7;
    const double tk = m_spec.material == WallMaterial::Steel       ? 2e-5
                      : m_spec.material == WallMaterial::Aluminium ? 1e-5
                                                                   : 0.015;
    for (const Chamber& c : m_spec.chambers) {
        std::array<double, 3> side{}, middle{};
        for (std::size_t a = 0; a < 3; ++a) {
            side[a] = (c.highMm[a] - c.lowMm[a]) * mm;
            middle[a] = 0.5 * (c.highMm[a] + c.lowMm[a]);
        }
        const double box = 2 * (side[0] * side[1] + side[1] * side[2] + side[0] * side[2]);
        const std::size_t z = addZone(c.id, std::min({side[0] * side[1], side[1] * side[2], side[0] * side[2]}));
        Zone& zone = m_net.zones[z];
        zone.insideWk = hIn * insideFactor * box;
        zone.outsideWk = outerShare * box / (1 / hOut + tk);
        zone.uaWk = 1 / (1 / zone.insideWk + 1 / zone.outsideWk);
        zone.structureJk = 200 * side[0] * side[1] * side[2] * 1000;
        m_out.chamberZones.push_back(z);
        addBranch({.id = "leak " + c.id,
                   .from = z,
                   .to = 0,
                   .resistance = perforated(2e-4, 0.6, 3 * mm, 1 * mm),
                   .heightM = upOf(middle)});
    }
}

/// Watts for what is not in this build, or gives off no heat here, are in no figure.
void Compiler::sayStrangers() {
    for (const LoadPower& power : m_conditions.powers) {
        const Placed* p = m_build.at(power.mount);
        const bool heats = p && p->part->kind != PartKind::PowerSupply && p->part->kind != PartKind::Cooler &&
                           p->part->kind != PartKind::Fan && p->part->kind != PartKind::Radiator;
        if (!heats)
            m_out.notes.push_back(say("The load has {} for \"{}\", which gives off no such heat here: left out",
                                      figure::watts(power.watts), power.mount));
    }
}

/// What finds no plug does not run, and says so.
void Compiler::stopIdleFans() {
    for (FanDrive& fan : m_net.fans)
        if (isIdle(fan.id))
            fan.heldShare = 0;
    for (const std::string& mount : m_conditions.idle)
        if (const Placed* p = m_build.at(mount))
            m_out.notes.push_back(p->part->kind == PartKind::Card
                                      ? say("{} finds no plug: it does not run and gives off no heat", p->name)
                                      : say("{} finds no plug: its fan stands still", p->name));
}

Compiled compile(const Build& build, const Conditions& conditions) { return Compiler(build, conditions).run(); }

} // namespace core::air
