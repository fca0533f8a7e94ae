// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/bench/settle_fit.h"

namespace core::bench {

/// Noise of the bins: its variance, how many bins count as one, how many independent ones there are.
struct Noise {
    double s2 = 1, kappa = 1, nEff = 1, extraQ = 0;
};

struct Component {
    double lnWeight, mu, scale, tauSlow;
};

struct Box {
    double low1, high1, low2, high2;
};

/// Mixture over time constants of both orders. One pass on a grid; the box narrows on the cells that matter.
class Mixture {
public:
    Mixture(const Binned& bins, const Noise& noise);
    [[nodiscard]] double quantile(double p) const;
    /// The median of the slow time constant, s.
    [[nodiscard]] double tauSlow() const;

private:
    void run();
    [[nodiscard]] double scaleOf(const Linear& r) const;
    [[nodiscard]] double lnQ(const Linear& r) const;
    std::vector<Component> passTwo(Box& box) const;
    std::vector<Component> passOne(std::pair<double, double>& range) const;
    [[nodiscard]] double shortest() const { return m_bins.width * 1.5 > 10 ? m_bins.width * 1.5 : 10; }

    const Binned& m_bins;
    Centred m_y;
    Noise m_noise;
    double m_n, m_ridge = 1, m_span = 1, m_t = 1;
    std::vector<Component> m_components;
};

} // namespace core::bench
