// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/measure_next.h"

#include <numbers>

namespace core::fit {
namespace {

double upperTail(double z) { return 0.5 * std::erfc(z / std::numbers::sqrt2); }
constexpr double caliperMm = 0.1;

} // namespace

double expectedRisk(double margin, double sigma, double after) {
    if (sigma <= 0)
        return 0;
    const double known = sigma * sigma - after * after;
    if (known <= 1e-12)
        return upperTail(std::abs(margin) / sigma);
    if (after <= 1e-9)
        return 0;
    // The measured margin is normal about the present one; Simpson over +-6 of its deviation, split where it changes
    // side.
    const double spread = std::sqrt(known);
    const auto part = [&](double from, double to) {
        constexpr int steps = 64;
        double sum = 0;
        const double h = (to - from) / steps;
        for (int i = 0; i <= steps; ++i) {
            const double z = from + i * h, weight = i == 0 || i == steps ? 1 : i % 2 ? 4 : 2;
            sum += weight * std::exp(-0.5 * z * z) * upperTail(std::abs(margin + spread * z) / after);
        }
        return sum * h / 3 / std::sqrt(2 * std::numbers::pi);
    };
    const double turn = std::clamp(-margin / spread, -6.0, 6.0);
    return part(-6, turn) + part(turn, 6);
}

std::vector<MeasureNext> measureNext(const FitResult& fit) {
    std::vector<MeasureNext> all;
    for (const Gap& gap : fit.gaps) {
        // A caliper tells whether things touch; how much air there is turns on no tenth.
        const double needMm = gap.breathing ? gap.touchMm : gap.requiredMm;
        const double margin = gap.nominal.mm() - needMm, sigma = gap.rssBandMm / 3;
        const double risk = sigma > 0 ? upperTail(std::abs(margin) / sigma) : 0;
        const bool open = gap.mark == Mark::Open || gap.mark == Mark::Crossed || gap.scarce;
        if (!open && risk < 1e-6)
            continue;
        if (gap.nominal.mm() + gap.worstBandMm < needMm)
            continue; // short whatever is measured
        for (const ChainItem& item : gap.chain) {
            const double t = item.factor * item.toleranceMm, then = std::min(t, item.factor * caliperMm);
            if (item.origin.what == DimensionOrigin::What::None || t - then < 1e-9)
                continue;
            auto it =
                std::find_if(all.begin(), all.end(), [&](const MeasureNext& m) { return m.origin == item.origin; });
            if (it == all.end()) {
                all.push_back({item.label,
                               item.origin,
                               {.value = Length::fromMm(item.valueMm),
                                .tolerance = Length::fromMm(item.toleranceMm),
                                .source = item.source},
                               0,
                               0,
                               0,
                               {}});
                it = all.end() - 1;
            }
            it->riskNow += risk;
            it->riskThen += expectedRisk(
                margin, sigma, std::sqrt(std::max(0.0, gap.rssBandMm * gap.rssBandMm - t * t + then * then)) / 3);
            it->worstWonMm += t - then;
            it->gaps.push_back(gap.id);
        }
    }
    std::stable_sort(all.begin(), all.end(), [](const MeasureNext& a, const MeasureNext& b) {
        // Below a thousandth the risk decides nothing; then the band it takes off does.
        const auto key = [](const MeasureNext& m) { return std::pair(-std::round(m.settles() * 1000), -m.worstWonMm); };
        return key(a) < key(b);
    });
    return all;
}

} // namespace core::fit
