// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/settle.h"

#include "core/base/words.h"
#include "core/bench/stats.h"

#include <numeric>

namespace core::bench {
namespace {

constexpr WordTable<SettleState, 4> stateWords{{{SettleState::Settled, "settled"}, {SettleState::Estimate, "estimate"},
    {SettleState::Rough, "rough"}, {SettleState::Refused, "refused"}}};

constexpr int gridPoints = 36;
constexpr double tauMax = 1800; // no part of a small case is slower; the room is taken off by the ambient

struct Binned {
    std::vector<double> t, y;
    std::vector<std::size_t> index; ///< bin number, to tell neighbours
    double width = 5;
};

/// Centred exponential columns for a set of time constants, with their sums of products.
class Columns {
public:
    Columns(const Binned& bins, std::vector<double> taus) : m_taus(std::move(taus)), m_n(bins.t.size()) {
        for (const double tau : m_taus) {
            std::vector<double> e(m_n);
            const double x = bins.width / (2 * tau);
            const double factor = std::sinh(x) / x;
            double mean = 0;
            for (std::size_t i = 0; i < m_n; ++i) {
                e[i] = std::exp(-bins.t[i] / tau) * factor;
                mean += e[i];
            }
            mean /= static_cast<double>(m_n);
            for (double& v : e)
                v -= mean;
            m_mean.push_back(mean);
            m_columns.push_back(std::move(e));
        }
    }
    [[nodiscard]] const std::vector<double>& column(std::size_t k) const { return m_columns[k]; }
    [[nodiscard]] double mean(std::size_t k) const { return m_mean[k]; }
    [[nodiscard]] double tau(std::size_t k) const { return m_taus[k]; }
    [[nodiscard]] std::size_t size() const { return m_taus.size(); }
    [[nodiscard]] static double dot(const std::vector<double>& a, const std::vector<double>& b) {
        return std::inner_product(a.begin(), a.end(), b.begin(), 0.0);
    }

private:
    std::vector<double> m_taus;
    std::size_t m_n;
    std::vector<std::vector<double>> m_columns;
    std::vector<double> m_mean;
};

std::vector<double> logSpaced(double low, double high, int points) {
    std::vector<double> taus;
    for (int i = 0; i < points; ++i)
        taus.push_back(low * std::pow(high / low, static_cast<double>(i) / (points - 1)));
    return taus;
}

struct Centred {
    std::vector<double> y;
    double mean = 0;
    double yy = 0;
    explicit Centred(const Binned& bins) : y(bins.y) {
        for (const double v : y)
            mean += v;
        mean /= static_cast<double>(y.size());
        for (double& v : y) {
            v -= mean;
            yy += v * v;
        }
    }
};

/// The linear part for one or two time constants with a ridge.
struct Linear { double b1 = 0, b2 = 0, q = 0, mu = 0, v = 0, determinant = 0; };
Linear solveTwo(double g11, double g12, double g22, double g1, double g2, double e1, double e2, const Centred& y, double n, double ridge) {
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
            const Linear r = solveTwo(g11, Columns::dot(one.column(i), two.column(j)), g22[j], g1, gTwo[j], one.mean(i), two.mean(j), y, n, 0);
            if (r.determinant > 1e-14 * g11 * g22[j] && r.q < best.rss)
                best = {2, r.mu, r.b1, r.b2, one.tau(i), two.tau(j), std::max(r.q, 1e-12)};
        }
    }
    return best;
}

ExponentialFit bestSingle(const Columns& columns, const Centred& y) {
    ExponentialFit best{.rss = 1e300};
    for (std::size_t i = 0; i < columns.size(); ++i) {
        const Linear r = solveOne(Columns::dot(columns.column(i), columns.column(i)), Columns::dot(columns.column(i), y.y), columns.mean(i), y,
                                  static_cast<double>(y.y.size()), 0);
        if (r.q < best.rss)
            best = {1, r.mu, r.b1, 0, columns.tau(i), columns.tau(i), std::max(r.q, 1e-12)};
    }
    return best;
}

struct LeastSquares { ExponentialFit one, two; };
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

/// Lag-one correlation of neighbouring bins with the allowance for its bias.
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

struct Noise { double s2 = 1, kappa = 1, nEff = 1, extraQ = 0; };

struct Component { double lnWeight, mu, scale, tauSlow; };

struct Box { double low1, high1, low2, high2; };

/// Mixture over time constants of both orders. One pass on a grid; the box narrows on the cells that matter.
class Mixture {
public:
    Mixture(const Binned& bins, const Noise& noise) : m_bins(bins), m_y(bins), m_noise(noise), m_n(static_cast<double>(bins.t.size())) {
        const auto [lo, hi] = std::minmax_element(bins.y.begin(), bins.y.end());
        const double amplitude = 1.5 * std::max(*hi - *lo, 1.0);
        m_ridge = noise.s2 * noise.kappa / (amplitude * amplitude);
        m_span = std::log(tauMax / std::max(10.0, 1.5 * bins.width));
        const double nu = std::max(noise.nEff - 5, 2.0);
        m_t = tQuantile(0.975, nu) / 1.96;
        run();
    }
    [[nodiscard]] double quantile(double p) const {
        double low = 1e300, high = -1e300;
        for (const Component& c : m_components) {
            low = std::min(low, c.mu - 8 * c.scale);
            high = std::max(high, c.mu + 8 * c.scale);
        }
        for (int i = 0; i < 40; ++i) {
            const double middle = 0.5 * (low + high);
            double f = 0;
            for (const Component& c : m_components)
                f += c.lnWeight * normalCdf((middle - c.mu) / c.scale); // lnWeight holds the weight by now
            (f < p ? low : high) = middle;
        }
        return 0.5 * (low + high);
    }
    [[nodiscard]] double tauSlow() const {
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

private:
    void run() {
        const double low = std::max(10.0, 1.5 * m_bins.width);
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
    [[nodiscard]] double scaleOf(const Linear& r) const {
        return std::sqrt(std::max((r.q + m_noise.extraQ) / (m_n - 4), m_noise.s2) * m_noise.kappa * std::max(r.v, 1e-12)) * m_t;
    }
    [[nodiscard]] double lnQ(const Linear& r) const {
        return -0.5 * (m_noise.nEff - 1) * std::log(std::max(r.q + m_noise.extraQ, 1e-12));
    }
    std::vector<Component> passTwo(Box& box) const {
        const Columns one(m_bins, logSpaced(box.low1, box.high1, gridPoints)), two(m_bins, logSpaced(box.low2, box.high2, gridPoints));
        const double step1 = std::log(box.high1 / box.low1) / (gridPoints - 1), step2 = std::log(box.high2 / box.low2) / (gridPoints - 1);
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
                const Linear r = solveTwo(g11[i], Columns::dot(one.column(i), two.column(j)), g22[j], g1[i], g2[j], one.mean(i), two.mean(j), m_y, m_n, m_ridge);
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
            const double floor = std::max(10.0, 1.5 * m_bins.width);
            box = {std::max(floor, next.low1 * std::exp(-step1)), std::min(tauMax, next.high1 * std::exp(step1)),
                   std::max(floor, next.low2 * std::exp(-step2)), std::min(tauMax, next.high2 * std::exp(step2))};
        }
        return cells;
    }
    std::vector<Component> passOne(std::pair<double, double>& range) const {
        const Columns columns(m_bins, logSpaced(range.first, range.second, gridPoints));
        const double step = std::log(range.second / range.first) / (gridPoints - 1);
        std::vector<Component> cells;
        double best = -1e300;
        for (std::size_t i = 0; i < columns.size(); ++i) {
            const double g11 = Columns::dot(columns.column(i), columns.column(i));
            const Linear r = solveOne(g11, Columns::dot(columns.column(i), m_y.y), columns.mean(i), m_y, m_n, m_ridge);
            const double ln = lnQ(r) - 0.5 * std::log(r.determinant) + 0.5 * std::log(m_ridge) + std::log(step / m_span) + std::log(0.5);
            cells.push_back({ln, r.mu, scaleOf(r), columns.tau(i)});
            best = std::max(best, ln);
        }
        double low = 1e300, high = 0;
        for (const Component& c : cells)
            if (c.lnWeight > best - 9) {
                low = std::min(low, c.tauSlow);
                high = std::max(high, c.tauSlow);
            }
        range = {std::max(std::max(10.0, 1.5 * m_bins.width), low * std::exp(-step)), std::min(tauMax, high * std::exp(step))};
        return cells;
    }

    const Binned& m_bins;
    Centred m_y;
    Noise m_noise;
    double m_n, m_ridge = 1, m_span = 1, m_t = 1;
    std::vector<Component> m_components;
};

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

/// F of the strongest step with a lag inside the window, and where it is.
std::pair<double, double> strongestBreak(const Binned& bins, const ExponentialFit& fit, const std::vector<double>& residual) {
    const std::size_t n = bins.t.size();
    // Orthonormal base of [1, e1, e2].
    std::vector<std::vector<double>> base;
    const auto residualise = [&](std::vector<double> v) {
        for (const auto& b : base) {
            const double d = Columns::dot(b, v);
            for (std::size_t i = 0; i < n; ++i)
                v[i] -= d * b[i];
        }
        return v;
    };
    const auto addBase = [&](std::vector<double> v) {
        v = residualise(residualise(std::move(v)));
        const double norm = std::sqrt(Columns::dot(v, v));
        if (norm < 1e-9)
            return;
        for (double& x : v)
            x /= norm;
        base.push_back(std::move(v));
    };
    addBase(std::vector<double>(n, 1.0));
    for (const double tau : {fit.tau1, fit.tau2}) {
        std::vector<double> e(n);
        for (std::size_t i = 0; i < n; ++i)
            e[i] = std::exp(-bins.t[i] / tau);
        addBase(std::move(e));
    }
    const std::vector<double> r = residualise(residual);
    double best = 0, at = 0;
    std::vector<double> bestColumn;
    for (int k = 0; k < 48; ++k) {
        const auto position = static_cast<std::size_t>(std::lround((0.08 + (0.90 - 0.08) * k / 47.0) * static_cast<double>(n)));
        if (position >= n)
            continue;
        const double tk = bins.t[position];
        for (const double tau : {5.0, 60.0, 300.0}) {
            std::vector<double> h(n, 0.0);
            for (std::size_t i = 0; i < n; ++i)
                if (bins.t[i] > tk)
                    h[i] = -std::expm1(-(bins.t[i] - tk) / tau);
            h = residualise(std::move(h));
            const double hh = Columns::dot(h, h);
            if (hh < 1e-9)
                continue;
            const double hr = Columns::dot(h, r);
            if (const double drop = hr * hr / hh; drop > best) {
                best = drop;
                at = tk;
                for (double& v : h)
                    v *= hr / hh;
                bestColumn = std::move(h);
            }
        }
    }
    if (bestColumn.empty())
        return {0, 0};
    std::vector<double> left(n);
    for (std::size_t i = 0; i < n; ++i)
        left[i] = r[i] - bestColumn[i];
    const double phi = correlation(bins, left);
    const double s2 = std::max(Columns::dot(left, left) / (static_cast<double>(n) - 7), 1e-9);
    return {best / (s2 * (1 + phi) / (1 - phi)), at};
}

struct Interval { double estimate, modelLow, modelHigh, low, high, half, tauSlow, uStructure; };
Interval intervalOf(const Mixture& mixture, double now, double first, double length, double uOther) {
    Interval r{};
    r.estimate = mixture.quantile(0.5);
    r.modelLow = mixture.quantile(0.025);
    r.modelHigh = mixture.quantile(0.975);
    r.tauSlow = mixture.tauSlow();
    const double remaining = r.estimate - now, rise = r.estimate - first;
    const double slow = 0.03 * rise * std::exp(-0.5 * length / std::max(1.0, r.tauSlow));
    r.uStructure = std::sqrt(0.04 * remaining * remaining + slow * slow + 0.05 * 0.05);
    const double extra = 1.96 * std::hypot(r.uStructure, uOther);
    r.low = r.estimate - std::hypot(r.estimate - r.modelLow, extra);
    r.high = r.estimate + std::hypot(r.modelHigh - r.estimate, extra);
    r.half = 0.5 * (r.high - r.low);
    return r;
}

/// How long until the interval is within 1 K, by continuing the fit without noise.
std::optional<double> minutesUntilNarrow(const Binned& bins, const ExponentialFit& fit, const Noise& noise, double phi, double first,
                                         double lengthS, double uOther) {
    const double start = bins.t.front() - 0.5 * bins.width;
    const auto halfAfter = [&](double minutes) {
        const double length = lengthS + 60 * minutes;
        const double width = std::max(bins.width, length / 180);
        Binned future;
        future.width = width;
        for (std::size_t k = 0; (static_cast<double>(k) + 1) * width <= length + 1e-6; ++k) {
            future.t.push_back(start + (static_cast<double>(k) + 0.5) * width);
            future.y.push_back(fit.at(future.t.back()));
            future.index.push_back(k);
        }
        const double phi2 = std::pow(phi, width / bins.width);
        const double kappa2 = (1 + phi2) / (1 - phi2);
        const double n2 = static_cast<double>(future.t.size());
        const double s2 = noise.s2 * noise.kappa * bins.width / width / kappa2;
        const Mixture mixture(future, {s2, kappa2, n2 / kappa2, s2 * (n2 - 5)});
        return intervalOf(mixture, fit.at(start + length), first, length, uOther).half;
    };
    double low = 0, high = 2;
    while (halfAfter(high) > 1.0) {
        low = high;
        high *= 1.6;
        if (high > 120)
            return std::nullopt;
    }
    for (int i = 0; i < 5; ++i) {
        const double middle = 0.5 * (low + high);
        (halfAfter(middle) > 1.0 ? low : high) = middle;
    }
    return high;
}

void judge(SettleResult& r, const SettleInput& input) {
    const auto say = [&](SettleState state, std::string why) {
        r.state = state;
        r.why = std::move(why);
    };
    if (r.disturbed())
        return say(SettleState::Refused, "disturbance inside the window, at " + std::to_string(std::lround(r.breakAtS)) + " s");
    if (r.nEff < 10)
        return say(SettleState::Refused, "the noise is too slow for this window");
    if ((r.lengthS < 480 && std::abs(r.remaining) > 0.5) || (input.tauKnownS && r.lengthS < 2 * *input.tauKnownS))
        return say(SettleState::Refused, "too short against the time constant");
    if (r.half > 3 || (r.lengthS < 2 * r.tauSlowS && r.half > 0.5))
        return say(SettleState::Refused, "too short against the time constant");
    const bool longEnough = r.lengthS >= 3 * r.tauSlowS;
    if (std::abs(r.remaining) <= 0.5 && r.half <= 1 && longEnough)
        return say(SettleState::Settled, "at most half a kelvin is left to rise");
    if (r.half <= 1 && longEnough)
        return say(SettleState::Estimate, "carried on from a warm-up that was not finished");
    say(SettleState::Rough, "carried on from a short warm-up");
}

} // namespace

std::string_view settleWord(SettleState state) { return wordOf(stateWords, state); }

double ExponentialFit::at(double timeS) const {
    return a + b1 * std::exp(-timeS / tau1) + (order == 2 ? b2 * std::exp(-timeS / tau2) : 0.0);
}

SettleResult settle(const SettleInput& input) {
    SettleResult result;
    std::vector<double> t, y, start;
    for (std::size_t i = 0; i < input.timeS.size(); ++i) {
        if (!std::isfinite(input.values[i]) || input.timeS[i] < 0)
            continue;
        if (start.size() < 5)
            start.push_back(input.values[i]);
        if (input.timeS[i] < 15)
            continue; // the die warms up by itself first
        t.push_back(input.timeS[i]);
        y.push_back(input.values[i]);
    }
    const auto refuse = [&](const char* why) {
        result.why = why;
        return result;
    };
    if (t.size() < 20)
        return refuse("too few readings under load");
    result.first = median(start);
    result.lengthS = t.back() - t.front();
    std::vector<double> steps;
    for (std::size_t i = 1; i < t.size(); ++i)
        steps.push_back(t[i] - t[i - 1]);
    const double dt = std::max(1e-3, median(steps));
    const Binned bins = makeBins(t, y, std::max({5.0, result.lengthS / 180, dt}), dt);
    result.bins = static_cast<int>(bins.t.size());
    if (result.bins < 20 || result.lengthS < 120)
        return refuse("too short: at least two minutes of load are needed");

    const Centred centred(bins);
    const double n = static_cast<double>(bins.t.size());
    const LeastSquares ls = leastSquares(bins, centred);
    result.two = ls.two;
    std::vector<double> residual(bins.t.size());
    for (std::size_t i = 0; i < residual.size(); ++i) {
        const auto column = [&](double tau) {
            const double x = bins.width / (2 * tau);
            return std::exp(-bins.t[i] / tau) * std::sinh(x) / x;
        };
        residual[i] = bins.y[i] - ls.two.a - ls.two.b1 * column(ls.two.tau1) - ls.two.b2 * column(ls.two.tau2);
    }
    result.phi = correlation(bins, residual);
    const double kappa = (1 + result.phi) / (1 - result.phi);
    result.nEff = n / kappa;
    const double q = input.quantumK;
    const Noise noise{std::max({ls.two.rss / (n - 5), q * q / (12 * bins.width), 1e-6}), kappa, result.nEff, 0};
    const auto bic = [&](double rss, double p) { return result.nEff * std::log(rss / n) + p * std::log(result.nEff); };
    result.fit = bic(ls.one.rss, 3) <= bic(ls.two.rss, 5) ? ls.one : ls.two;

    double raw = 0;
    for (std::size_t i = 0; i < t.size(); ++i)
        raw += (y[i] - ls.two.at(t[i])) * (y[i] - ls.two.at(t[i]));
    result.uQuantiser = quantiserUncertainty(q, std::sqrt(raw / static_cast<double>(t.size())));
    const double uOther = std::hypot(result.uQuantiser, input.extraU);
    result.now = ls.two.at(t.back());
    const Interval interval = intervalOf(Mixture(bins, noise), result.now, result.first, result.lengthS, uOther);
    result.estimate = interval.estimate;
    result.modelLow = interval.modelLow;
    result.modelHigh = interval.modelHigh;
    result.low = interval.low;
    result.high = interval.high;
    result.half = interval.half;
    result.tauSlowS = interval.tauSlow;
    result.uStructure = interval.uStructure;
    result.remaining = result.estimate - result.now;
    result.fraction = (result.now - result.first) / (result.estimate - result.first);
    std::tie(result.breakF, result.breakAtS) = strongestBreak(bins, ls.two, residual);
    judge(result, input);
    if (result.state != SettleState::Settled && !result.disturbed()) {
        auto more = minutesUntilNarrow(bins, result.fit, noise, result.phi, result.first, result.lengthS, uOther);
        if (more)
            result.moreMinutes = std::max(*more, (3 * result.tauSlowS - result.lengthS) / 60);
    } else if (result.state == SettleState::Settled) {
        result.moreMinutes = 0;
    }
    return result;
}

} // namespace core::bench
