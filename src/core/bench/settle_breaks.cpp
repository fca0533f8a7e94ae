// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/settle_breaks.h"

#include <algorithm>
#include <cmath>

namespace core::bench {

namespace {

/// An orthonormal base of [1, e1, e2]: what the fit has explained already.
class Base {
public:
    Base(const Binned& bins, const ExponentialFit& fit) : m_n(bins.t.size()) {
        add(std::vector<double>(m_n, 1.0));
        for (const double tau : {fit.tau1, fit.tau2}) {
            std::vector<double> e(m_n);
            for (std::size_t i = 0; i < m_n; ++i)
                e[i] = std::exp(-bins.t[i] / tau);
            add(std::move(e));
        }
    }
    [[nodiscard]] std::vector<double> without(std::vector<double> v) const {
        for (const auto& b : m_base) {
            const double d = Columns::dot(b, v);
            for (std::size_t i = 0; i < m_n; ++i)
                v[i] -= d * b[i];
        }
        return v;
    }

private:
    void add(std::vector<double> v) {
        v = without(without(std::move(v)));
        const double norm = std::sqrt(Columns::dot(v, v));
        if (norm < 1e-9)
            return;
        for (double& x : v)
            x /= norm;
        m_base.push_back(std::move(v));
    }
    std::size_t m_n;
    std::vector<std::vector<double>> m_base;
};

/// A step at @p at s that comes in with a lag of @p tau s.
std::vector<double> step(const Binned& bins, double at, double tau) {
    std::vector<double> h(bins.t.size(), 0.0);
    for (std::size_t i = 0; i < h.size(); ++i)
        if (bins.t[i] > at)
            h[i] = -std::expm1(-(bins.t[i] - at) / tau);
    return h;
}

} // namespace

Break strongestBreak(const Binned& bins, const ExponentialFit& fit, const std::vector<double>& residual) {
    const std::size_t n = bins.t.size();
    const Base base(bins, fit);
    const std::vector<double> r = base.without(residual);
    double best = 0, at = 0;
    std::vector<double> bestColumn;
    for (int k = 0; k < 48; ++k) {
        const auto position =
            static_cast<std::size_t>(std::lround((0.08 + (0.90 - 0.08) * k / 47.0) * static_cast<double>(n)));
        if (position >= n)
            continue;
        for (const double tau : {5.0, 60.0, 300.0}) {
            std::vector<double> h = base.without(step(bins, bins.t[position], tau));
            const double hh = Columns::dot(h, h);
            if (hh < 1e-9)
                continue;
            const double hr = Columns::dot(h, r);
            if (const double drop = hr * hr / hh; drop > best) {
                best = drop;
                at = bins.t[position];
                for (double& v : h)
                    v *= hr / hh;
                bestColumn = std::move(h);
            }
        }
    }
    if (bestColumn.empty())
        return {};
    std::vector<double> left(n);
    for (std::size_t i = 0; i < n; ++i)
        left[i] = r[i] - bestColumn[i];
    const double phi = correlation(bins, left);
    const double s2 = std::max(Columns::dot(left, left) / (static_cast<double>(n) - 7), 1e-9);
    return {best / (s2 * (1 + phi) / (1 - phi)), at};
}

} // namespace core::bench
