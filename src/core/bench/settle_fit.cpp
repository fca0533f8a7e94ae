// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/settle_fit.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace core::bench {

Binned makeBins(const std::vector<double>& t, const std::vector<double>& y, double width, double dt) {
    Binned bins;
    bins.width = width;
    const double t0 = t.front();
    const double expected = width / dt;
    std::size_t i = 0;
    while (i < t.size()) {
        const auto k = static_cast<std::size_t>((t[i] - t0) / width);
        double st = 0, sy = 0;
        int n = 0;
        for (; i < t.size() && static_cast<std::size_t>((t[i] - t0) / width) == k; ++i) {
            st += t[i];
            sy += y[i];
            ++n;
        }
        if (n >= 0.5 * expected) {
            bins.t.push_back(st / n);
            bins.y.push_back(sy / n);
            bins.index.push_back(k);
        }
    }
    return bins;
}

Centred::Centred(const Binned& bins) : y(bins.y) {
    for (const double v : y)
        mean += v;
    mean /= static_cast<double>(y.size());
    for (double& v : y) {
        v -= mean;
        yy += v * v;
    }
}

Columns::Columns(const Binned& bins, std::vector<double> taus) : m_taus(std::move(taus)) {
    const std::size_t n = bins.t.size();
    for (const double tau : m_taus) {
        std::vector<double> e(n);
        const double x = bins.width / (2 * tau);
        const double factor = std::sinh(x) / x;
        double mean = 0;
        for (std::size_t i = 0; i < n; ++i) {
            e[i] = std::exp(-bins.t[i] / tau) * factor;
            mean += e[i];
        }
        mean /= static_cast<double>(n);
        for (double& v : e)
            v -= mean;
        m_mean.push_back(mean);
        m_columns.push_back(std::move(e));
    }
}

double Columns::dot(const std::vector<double>& a, const std::vector<double>& b) {
    return std::inner_product(a.begin(), a.end(), b.begin(), 0.0);
}

std::vector<double> logSpaced(double low, double high, int points) {
    std::vector<double> taus;
    taus.reserve(static_cast<std::size_t>(points));
    for (int i = 0; i < points; ++i)
        taus.push_back(low * std::pow(high / low, static_cast<double>(i) / (points - 1)));
    return taus;
}

Linear solveTwo(double g11, double g12, double g22, double g1, double g2, double e1, double e2, const Centred& y,
                double n, double ridge) {
    const double a1 = g11 + ridge, a2 = g22 + ridge;
    Linear r;
    r.determinant = a1 * a2 - g12 * g12;
    r.b1 = (a2 * g1 - g12 * g2) / r.determinant;
    r.b2 = (a1 * g2 - g12 * g1) / r.determinant;
    r.q = y.yy - r.b1 * g1 - r.b2 * g2;
    r.mu = y.mean - r.b1 * e1 - r.b2 * e2;
    r.v = 1 / n + (a2 * e1 * e1 - 2 * g12 * e1 * e2 + a1 * e2 * e2) / r.determinant;
    return r;
}
Linear solveOne(double g11, double g1, double e1, const Centred& y, double n, double ridge) {
    Linear r;
    r.determinant = g11 + ridge;
    r.b1 = g1 / r.determinant;
    r.q = y.yy - r.b1 * g1;
    r.mu = y.mean - r.b1 * e1;
    r.v = 1 / n + e1 * e1 / r.determinant;
    return r;
}

namespace {

ExponentialFit bestPair(const Columns& one, const Columns& two, const Centred& y) {
    ExponentialFit best{.rss = 1e300};
    const double n = static_cast<double>(y.y.size());
    std::vector<double> gTwo(two.size()), g22(two.size());
    for (std::size_t j = 0; j < two.size(); ++j) {
        gTwo[j] = Columns::dot(two.column(j), y.y);
        g22[j] = Columns::dot(two.column(j), two.column(j));
    }
    for (std::size_t i = 0; i < one.size(); ++i) {
        const double g1 = Columns::dot(one.column(i), y.y), g11 = Columns::dot(one.column(i), one.column(i));
        for (std::size_t j = 0; j < two.size(); ++j) {
            if (two.tau(j) <= one.tau(i) * 1.02)
                continue;
            const Linear r = solveTwo(g11, Columns::dot(one.column(i), two.column(j)), g22[j], g1, gTwo[j], one.mean(i),
                                      two.mean(j), y, n, 0);
            if (r.determinant > 1e-14 * g11 * g22[j] && r.q < best.rss)
                best = {2, r.mu, r.b1, r.b2, one.tau(i), two.tau(j), std::max(r.q, 1e-12)};
        }
    }
    return best;
}

ExponentialFit bestSingle(const Columns& columns, const Centred& y) {
    ExponentialFit best{.rss = 1e300};
    for (std::size_t i = 0; i < columns.size(); ++i) {
        const Linear r =
            solveOne(Columns::dot(columns.column(i), columns.column(i)), Columns::dot(columns.column(i), y.y),
                     columns.mean(i), y, static_cast<double>(y.y.size()), 0);
        if (r.q < best.rss)
            best = {1, r.mu, r.b1, 0, columns.tau(i), columns.tau(i), std::max(r.q, 1e-12)};
    }
    return best;
}

} // namespace

LeastSquares leastSquares(const Binned& bins, const Centred& y) {
    const double low = std::max(10.0, 1.5 * bins.width);
    const Columns grid(bins, logSpaced(low, tauMax, gridPoints));
    const double step = std::pow(tauMax / low, 1.0 / (gridPoints - 1));
    LeastSquares ls{bestSingle(grid, y), bestPair(grid, grid, y)};
    const ExponentialFit fineTwo = bestPair(Columns(bins, logSpaced(ls.two.tau1 / step, ls.two.tau1 * step, 13)),
                                            Columns(bins, logSpaced(ls.two.tau2 / step, ls.two.tau2 * step, 13)), y);
    if (fineTwo.rss < ls.two.rss)
        ls.two = fineTwo;
    const ExponentialFit fineOne = bestSingle(Columns(bins, logSpaced(ls.one.tau1 / step, ls.one.tau1 * step, 21)), y);
    if (fineOne.rss < ls.one.rss)
        ls.one = fineOne;
    return ls;
}

std::vector<double> residualOf(const Binned& bins, const ExponentialFit& two) {
    std::vector<double> residual(bins.t.size());
    for (std::size_t i = 0; i < residual.size(); ++i) {
        const auto column = [&](double tau) {
            const double x = bins.width / (2 * tau);
            return std::exp(-bins.t[i] / tau) * std::sinh(x) / x;
        };
        residual[i] = bins.y[i] - two.a - two.b1 * column(two.tau1) - two.b2 * column(two.tau2);
    }
    return residual;
}

double correlation(const Binned& bins, const std::vector<double>& r) {
    double product = 0, square = 0;
    for (std::size_t i = 0; i < r.size(); ++i) {
        square += r[i] * r[i];
        if (i > 0 && bins.index[i] == bins.index[i - 1] + 1)
            product += r[i] * r[i - 1];
    }
    const double n = static_cast<double>(r.size());
    const double r1 = square > 0 ? product / square : 0;
    return std::clamp(r1 + (1 + 4 * std::max(r1, 0.0)) / n + 2 / n, 0.0, 0.95);
}

} // namespace core::bench
