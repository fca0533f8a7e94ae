// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/local_heat.h"

#include "core/air/compile_geometry.h"

namespace core::air {
namespace {

constexpr double nearMm = blownMm;  // a hot face further away does not tell
constexpr double facingShare = 0.5; // of the way to a hot surface that it touches; radiation and still air between
constexpr double bandMoreK = 5;     // of what is not modelled: layers and plumes

double apartMm(const Placed& a, const Placed& b) {
    double apart = 0;
    for (std::size_t i = 0; i < 3; ++i)
        apart = std::max(apart, apartAlong(a, b, i));
    return apart;
}

const ChamberResult* chamberOf(const Build& build, const Prediction& p, const Placed& at) {
    const std::size_t i = chamberAt(build.caseSpec(), centreOf(at));
    return i < p.chambers.size() ? &p.chambers[i] : nullptr;
}

/// Air that leaves a card through its fins; nothing where it has none of its own.
std::optional<double> dischargeC(const Prediction& p, const std::string& mount) {
    if (!p.solved)
        return std::nullopt;
    const Network& net = p.solved->compiled.network;
    for (std::size_t z = 1; z < net.zones.size(); ++z)
        if (net.zones[z].id == std::string(finsOf) + mount)
            return p.solved->solution.temperatureC[z];
    return std::nullopt;
}

/// The card that blows on a drive; empty: none does.
std::string blowingOn(const Prediction& p, const std::string& drive) {
    if (!p.solved)
        return {};
    const Network& net = p.solved->compiled.network;
    const auto it = std::find_if(net.passive.begin(), net.passive.end(),
                                 [&](const PassivePart& part) { return part.id == drive && part.blownBy; });
    return it == net.passive.end() ? std::string() : net.zones[*it->blownBy].id.substr(finsOf.size());
}

LocalHeat aboutPart(const Build& build, const Prediction& p, const Placed& made) {
    LocalHeat heat{.mount = made.mount, .part = made.part->id, .name = made.name};
    if (const ChamberResult* chamber = chamberOf(build, p, made)) {
        heat.airC = chamber->airC;
        heat.bandK = chamber->bandK;
    }
    heat.wallC = heat.airC;
    for (const PartResult& hot : p.parts) {
        const Placed* there = build.at(hot.id);
        const double apart = there && there != &made ? apartMm(made, *there) : 1e9;
        if (apart > nearMm)
            continue;
        const double nearness = 1 - apart / nearMm;
        const auto discharge = dischargeC(p, hot.id);
        const double air = std::max(heat.airC, discharge.value_or(heat.airC));
        const double wall = air + facingShare * nearness * std::max(0.0, hot.sinkC - air);
        if (wall <= heat.wallC + 0.5)
            continue;
        heat.airC = air;
        heat.wallC = wall;
        heat.near = hot.name;
        heat.bandK = std::hypot(hot.bandK, bandMoreK);
    }
    return heat;
}

/// A drive right before what a card blows out has that in its prediction. Beside a card in another way it may be as
/// much warmer as the air that leaves the card is than what is about it.
LocalHeat aboutDrive(const Build& build, const Prediction& p, const Placed& drive, const PartResult& own) {
    LocalHeat heat{.mount = drive.mount, .part = drive.part->id, .name = drive.name, .bandK = own.bandK};
    const double around = own.inletC;
    heat.airC = around;
    if (const std::string card = blowingOn(p, drive.mount); !card.empty()) {
        const Placed* there = build.at(card);
        heat.near = there ? there->name : card;
        heat.wallC = own.temperatureC;
        return heat;
    }
    for (const PartResult& hot : p.parts) {
        const Placed* there = build.at(hot.id);
        const auto discharge = there && there != &drive ? dischargeC(p, hot.id) : std::nullopt;
        if (!discharge || *discharge <= heat.airC + 0.5 || apartMm(drive, *there) > nearMm)
            continue;
        heat.airC = *discharge;
        heat.near = hot.name;
        heat.bandK = std::hypot(own.bandK, bandMoreK);
    }
    heat.wallC = own.temperatureC + heat.airC - around;
    return heat;
}

/// The walls of a made case: between the warmest air inside and the room, by how the two sides pass heat.
LocalHeat wallOf(const Part& piece, const Prediction& p) {
    LocalHeat heat{.mount = {}, .part = piece.id, .name = piece.name};
    for (const ChamberResult& chamber : p.chambers)
        if (chamber.airC > heat.airC) {
            heat.airC = chamber.airC;
            heat.bandK = chamber.bandK;
        }
    heat.wallC = heat.airC;
    if (p.solved)
        for (const Zone& zone : p.solved->compiled.network.zones)
            if (zone.insideWk > 0) {
                heat.wallC = (zone.insideWk * heat.airC + zone.outsideWk * p.conditions.roomC) /
                             (zone.insideWk + zone.outsideWk);
                break;
            }
    return heat;
}

} // namespace

std::vector<LocalHeat> localHeat(const Project& project, const Build& build, const Prediction& prediction) {
    std::vector<LocalHeat> all;
    for (const Placed& p : build.placed)
        if (p.part->kind == PartKind::Made)
            all.push_back(aboutPart(build, prediction, p));
        else if (const PartResult* own = prediction.part(p.mount); own && p.part->kind == PartKind::Drive)
            all.push_back(aboutDrive(build, prediction, p, *own));
    for (const std::string& id : build.caseSpec().pieces)
        if (const Part* piece = project.part(id))
            all.push_back(wallOf(*piece, prediction));
    return all;
}

} // namespace core::air
