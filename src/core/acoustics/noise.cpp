// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/acoustics/noise.h"

#include "core/model/facts.h"
#include "core/model/loops.h"

#include <cmath>
#include <limits>

namespace core::acoustics {
namespace {

double ratedLevel(const Placed& p) {
    switch (p.part->kind) {
    case PartKind::Fan:
        return air::fanOf(*p.part).levelDba;
    case PartKind::Cooler: {
        const auto& spec = std::get<CoolerSpec>(p.part->spec);
        return air::fanClass(spec.fanFrameMm, spec.fanThicknessMm).levelDba + 10 * std::log10(spec.fans);
    }
    case PartKind::Card:
        return facts::fanOf(std::get<CardSpec>(p.part->spec).cooler).levelDba;
    default:
        return 0;
    }
}

/// What a supply makes follows its load, not the speed of a fan that nobody states.
double levelOfSupply(const PowerSupplySpec& spec, double share) {
    const facts::SupplyFan& usual = facts::fanOfSupply(spec.form);
    const double full = spec.levelDba > 0 ? spec.levelDba : usual.fullDba,
                 third = full - (usual.fullDba - usual.thirdDba);
    return third + (full - third) * std::clamp((share - 1.0 / 3) / (2.0 / 3), 0.0, 1.0);
}

/// Drives and pumps, at 1 m, while they work; 0: silent.
double levelWithoutFan(const Placed& p) {
    if (const auto* drive = std::get_if<DriveSpec>(&p.part->spec)) {
        const double stated = drive->levelDba, usual = drive->form == DriveForm::Inch35 ? facts::driveLevel.value : 0.0,
                     panel = drive->form == DriveForm::Inch35 && p.parent < 0 ? facts::drivePanel.value : 0.0;
        return stated > 0 ? stated + panel : usual > 0 ? usual + panel : 0;
    }
    if (const auto* cooler = std::get_if<CoolerSpec>(&p.part->spec); cooler && cooler->pump)
        return (cooler->pumpDba > 0 ? cooler->pumpDba : facts::pumpLevel.value) +
               facts::pumpWithAir.value * (1 - fillLeft(*cooler));
    if (const auto* radiator = std::get_if<RadiatorSpec>(&p.part->spec); radiator && radiator->pump)
        return radiator->pumpDba > 0 ? radiator->pumpDba : facts::pumpLevel.value;
    return 0;
}

/// What stands right before a fan makes it louder, until it is a quarter of the frame away.
double obstacleDb(const Placed& p, const air::Obstacle& o) {
    const double reach = std::max(p.part->size[0].value.mm(), p.part->size[1].value.mm()) / 4;
    const double nearness = std::clamp(1 - o.gapMm / reach, 0.0, 1.0);
    return facts::obstacleNoise.value * o.share * nearness * nearness;
}

/// Share of its rated power that the parts draw under the load at hand.
double loadShare(const Build& build, const air::Prediction& prediction, const PowerSupplySpec& spec) {
    double watts = 0;
    for (const Placed& p : build.placed) {
        if (p.part->kind != PartKind::PowerSupply)
            watts += air::wattsOf(p, prediction.conditions);
    }
    return spec.ratedW > 0 ? watts / spec.ratedW : 1;
}

/// Fan in a panel 0, behind a grille 1, behind a closed panel 4 dB.
double lossOf(const Build& build, const Placed& p, const air::FanResult& fan) {
    if (fan.direction != air::FanDirection::Inside)
        return 0;
    const Side side = sideOf(p.facing());
    const auto axes = planeAxes(side);
    for (const Opening& o : build.openings) {
        if (o.side != side || o.style == OpeningStyle::Closed)
            continue;
        bool over = true;
        for (std::size_t i = 0; i < 2; ++i)
            over = over && p.lowAt[index(axes[i])].mm() < o.centreMm[i] + o.sizeMm[i] / 2 &&
                   p.highAt[index(axes[i])].mm() > o.centreMm[i] - o.sizeMm[i] / 2;
        if (over)
            return 1;
    }
    return 4;
}

} // namespace

std::vector<Beat> beatsOf(const std::vector<NoiseSource>& fans) {
    constexpr double near = 0.05; // slower than this the ear hears one tone that swells: common practice, no source
    std::vector<Beat> beats;
    for (std::size_t i = 0; i < fans.size(); ++i)
        for (std::size_t k = i + 1; k < fans.size(); ++k) {
            const double a = fans[i].bladeHz, b = fans[k].bladeHz, apart = std::abs(a - b);
            if (a > 0 && b > 0 && apart > 1e-3 && apart <= near * std::max(a, b))
                beats.push_back({fans[i].name, fans[k].name, apart});
        }
    return beats;
}

double fanLevel(double ratedDba, double speedShare, double distanceM, double lossDb) {
    if (speedShare <= 0)
        return -std::numeric_limits<double>::infinity();
    return ratedDba + 50 * std::log10(speedShare) - 20 * std::log10(distanceM) + 1.5 - lossDb;
}

double sumLevels(const std::vector<double>& levels) {
    double power = 0;
    for (const double level : levels)
        power += std::pow(10.0, level / 10);
    return power > 0 ? 10 * std::log10(power) : -std::numeric_limits<double>::infinity();
}

Noise noiseOf(const Build& build, const air::Prediction& prediction, double distanceM) {
    Noise noise{.distanceM = distanceM};
    std::vector<double> levels;
    for (const air::FanResult& fan : prediction.fans) {
        const Placed* p = build.at(fan.id);
        if (!p || fan.share <= 0.01)
            continue;
        NoiseSource source{.id = fan.id,
                           .name = fan.name,
                           .ratedDba = ratedLevel(*p),
                           .speedShare = fan.share,
                           .lossDb = lossOf(build, *p, fan)};
        if (const auto* supply = std::get_if<PowerSupplySpec>(&p->part->spec)) {
            source.ratedDba = levelOfSupply(*supply, 1);
            source.lossDb = 0;
            source.levelDba =
                levelOfSupply(*supply, loadShare(build, prediction, *supply)) - 20 * std::log10(distanceM);
        } else {
            source.obstacleDb = fan.obstacle.share > 0 ? obstacleDb(*p, fan.obstacle) : 0;
            source.levelDba =
                fanLevel(source.ratedDba, source.speedShare, distanceM, source.lossDb) + source.obstacleDb;
        }
        source.bladeHz = fan.rpm / 60 * facts::fanBlades.value;
        levels.push_back(source.levelDba);
        noise.sources.push_back(source);
    }
    noise.beats = beatsOf(noise.sources);
    for (const Placed& p : build.placed) {
        const double level = levelWithoutFan(p);
        if (level <= 0)
            continue;
        NoiseSource source{.id = p.mount,
                           .name = p.part->kind == PartKind::Drive ? p.name : p.name + ", pump",
                           .ratedDba = level,
                           .speedShare = 1};
        source.levelDba = level - 20 * std::log10(distanceM);
        levels.push_back(source.levelDba);
        noise.sources.push_back(source);
    }
    noise.totalDba = levels.empty() ? 0.0 : sumLevels(levels);
    for (NoiseSource& source : noise.sources)
        source.powerShare = std::pow(10.0, (source.levelDba - noise.totalDba) / 10);
    std::stable_sort(noise.sources.begin(), noise.sources.end(),
                     [](const auto& a, const auto& b) { return a.levelDba > b.levelDba; });
    return noise;
}

} // namespace core::acoustics
