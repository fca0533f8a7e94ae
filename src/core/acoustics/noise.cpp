// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/acoustics/noise.h"

#include <limits>

namespace core::acoustics {
namespace {

double ratedLevel(const Placed& p) {
    switch (p.part->kind) {
    case PartKind::Fan: {
        const auto& spec = std::get<FanSpec>(p.part->spec);
        if (spec.levelDba > 0)
            return spec.levelDba;
        return air::fanClass(std::max(p.part->size[0].value.mm(), p.part->size[1].value.mm()), p.part->size[2].value.mm()).levelDba;
    }
    case PartKind::Cooler: {
        const auto& spec = std::get<CoolerSpec>(p.part->spec);
        return air::fanClass(spec.fanFrameMm, spec.fanThicknessMm).levelDba;
    }
    case PartKind::Card:
        switch (std::get<CardSpec>(p.part->spec).cooler) { // common practice, no source
        case CardCooler::Single: return 40;
        case CardCooler::Dual: return 42;
        case CardCooler::Triple: return 43;
        case CardCooler::Blower: return 52;
        }
        return 42;
    case PartKind::PowerSupply: return air::fanClass(92, 15).levelDba;
    default: return 0;
    }
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
        NoiseSource source{.id = fan.id, .name = fan.name, .ratedDba = ratedLevel(*p), .speedShare = fan.share, .lossDb = lossOf(build, *p, fan)};
        source.levelDba = fanLevel(source.ratedDba, source.speedShare, distanceM, source.lossDb);
        levels.push_back(source.levelDba);
        noise.sources.push_back(source);
    }
    noise.totalDba = levels.empty() ? 0.0 : sumLevels(levels);
    for (NoiseSource& source : noise.sources)
        source.powerShare = std::pow(10.0, (source.levelDba - noise.totalDba) / 10);
    std::stable_sort(noise.sources.begin(), noise.sources.end(), [](const auto& a, const auto& b) { return a.levelDba > b.levelDba; });
    return noise;
}

} // namespace core::acoustics
