// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/settle_mixture.h"

#include "core/bench/stats.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace core::bench {

Mixture::Mixture(const Binned& bins, const Noise& noise)
    : m_bins(bins), m_y(bins), m_noise(noise), m_n(static_cast<double>(bins.t.size())) {
    const auto [lo, hi] = std::minmax_element(bins.y.begin(), bins.y.end());
    const double amplitude = 1.5 * std::max(*hi - *lo, 1.0);
    m_ridge = noise.s2 * noise.kappa / (amplitude * amplitude);
    m_span = std::log(tauMax / std::max(10.0, 1.5 * bins.width));
    const double nu = std::max(noise.nEff - 5, 2.0);
    m_t = tQuantile(0.975, nu) / 1.96;
    run();
}

/// Newton's method on the distribution, kept between bounds that close in; where a step leaves them they are halved.
double Mixture::quantile(double p) const {
    double low = 1e300, high = -1e300, at = 0;
    for (const Component& c : m_components) { // lnWeight holds the weight by now
        low = std::min(low, c.mu - 8 * c.scale);
        high = std::max(high, c.mu + 8 * c.scale);
        at += c.lnWeight * c.mu;
    }
    const double enough = 1e-13 * (high - low);
    for (int i = 0; i < 60; ++i) {
        double f = 0, slope = 0;
        for (const Component& c : m_components) {
            const double z = (at - c.mu) / c.scale;
            f += c.lnWeight * normalCdf(z);
            slope += c.lnWeight * normalDensity(z) / c.scale;
        }
        (f < p ? low : high) = at;
        const double next = at - (f - p) / slope;
        const double was = std::exchange(at, next > low && next < high ? next : 0.5 * (low + high));
        if (std::abs(at - was) <= enough)
            break;
    }
    return at;
}

double Mixture::tauSlow() const {
    std::vector<std::pair<double, double>> taus;
    for (const Component& c : m_components)
        taus.emplace_back(c.tauSlow, c.lnWeight);
    std::sort(taus.begin(), taus.end());
    double sum = 0;
    for (const auto& [tau, weight] : taus)
        if ((sum += weight) >= 0.5)
            return tau;
    return taus.empty() ? 0 : taus.back().first;
}

void Mixture::run() {
    const double low = shortest();
    Box box{low, tauMax, low, tauMax};
    std::pair<double, double> single{low, tauMax};
    std::vector<Component> two, one;
    for (int pass = 0; pass < 3; ++pass) {
        two = passTwo(box);
        one = passOne(single);
    }
    m_components = std::move(two);
    m_components.insert(m_components.end(), one.begin(), one.end());
    double best = -1e300, sum = 0;
    for (const Component& c : m_components)
        best = std::max(best, c.lnWeight);
    for (Component& c : m_components)
        sum += c.lnWeight = std::exp(c.lnWeight - best);
    std::erase_if(m_components, [&](const Component& c) { return c.lnWeight / sum < 1e-5; });
    sum = 0;
    for (const Component& c : m_components)
        sum += c.lnWeight;
    for (Component& c : m_components)
        c.lnWeight /= sum;
}

double Mixture::scaleOf(const Linear& r) const {
    return std::sqrt(std::max((r.q + m_noise.extraQ) / (m_n - 4), m_noise.s2) * m_noise.kappa * std::max(r.v, 1e-12)) *
           m_t;
}

double Mixture::lnQ(const Linear& r) const {
    return -0.5 * (m_noise.nEff - 1) * std::log(std::max(r.q + m_noise.extraQ, 1e-12));
}

std::vector<Component> Mixture::passTwo(Box& box) const {
    const Columns one(m_bins, logSpaced(box.low1, box.high1, gridPoints)),
        two(m_bins, logSpaced(box.low2, box.high2, gridPoints));
    const double step1 = std::log(box.high1 / box.low1) / (gridPoints - 1),
                 step2 = std::log(box.high2 / box.low2) / (gridPoints - 1);
    const double cell = std::log(step1 * step2 / (0.5 * m_span * m_span)) + std::log(0.5) + std::log(m_ridge);
    std::vector<double> g1(one.size()), g11(one.size()), g2(two.size()), g22(two.size());
    for (std::size_t k = 0; k < one.size(); ++k) {
        g1[k] = Columns::dot(one.column(k), m_y.y);
        g11[k] = Columns::dot(one.column(k), one.column(k));
        g2[k] = Columns::dot(two.column(k), m_y.y);
        g22[k] = Columns::dot(two.column(k), two.column(k));
    }
    std::vector<Component> cells;
    std::vector<std::pair<double, double>> taus;
    double best = -1e300;
    for (std::size_t i = 0; i < one.size(); ++i)
        for (std::size_t j = 0; j < two.size(); ++j) {
            if (1.3 * one.tau(i) >= two.tau(j))
                continue;
            const Linear r = solveTwo(g11[i], Columns::dot(one.column(i), two.column(j)), g22[j], g1[i], g2[j],
                                      one.mean(i), two.mean(j), m_y, m_n, m_ridge);
            if (!(r.determinant > 0))
                continue;
            const double ln = lnQ(r) - 0.5 * std::log(r.determinant) + cell;
            cells.push_back({ln, r.mu, scaleOf(r), two.tau(j)});
            taus.emplace_back(one.tau(i), two.tau(j));
            best = std::max(best, ln);
        }
    Box next{1e300, 0, 1e300, 0};
    for (std::size_t k = 0; k < cells.size(); ++k)
        if (cells[k].lnWeight > best - 9) {
            next.low1 = std::min(next.low1, taus[k].first);
            next.high1 = std::max(next.high1, taus[k].first);
            next.low2 = std::min(next.low2, taus[k].second);
            next.high2 = std::max(next.high2, taus[k].second);
        }
    if (next.high1 > 0) {
        const double floor = shortest();
        box = {std::max(floor, next.low1 * std::exp(-step1)), std::min(tauMax, next.high1 * std::exp(step1)),
               std::max(floor, next.low2 * std::exp(-step2)), std::min(tauMax, next.high2 * std::exp(step2))};
    }
    return cells;
}

std::vector<Component> Mixture::passOne(std::pair<double, double>& range) const {
    const Columns columns(m_bins, logSpaced(range.first, range.second, gridPoints));
    const double step = std::log(range.second / range.first) / (gridPoints - 1);
    std::vector<Component> cells;
    double best = -1e300;
    for (std::size_t i = 0; i < columns.size(); ++i) {
        const double g11 = Columns::dot(columns.column(i), columns.column(i));
        const Linear r = solveOne(g11, Columns::dot(columns.column(i), m_y.y), columns.mean(i), m_y, m_n, m_ridge);
        const double ln =
            lnQ(r) - 0.5 * std::log(r.determinant) + 0.5 * std::log(m_ridge) + std::log(step / m_span) + std::log(0.5);
        cells.push_back({ln, r.mu, scaleOf(r), columns.tau(i)});
        best = std::max(best, ln);
    }
    double low = 1e300, high = 0;
    for (const Component& c : cells)
        if (c.lnWeight > best - 9) {
            low = std::min(low, c.tauSlow);
            high = std::max(high, c.tauSlow);
        }
    range = {std::max(shortest(), low * std::exp(-step)), std::min(tauMax, high * std::exp(step))};
    return cells;
}

} // namespace core::bench
