// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/settle.h"

#include "core/bench/settle_breaks.h"
#include "core/bench/settle_judgement.h"
#include "core/bench/settle_mixture.h"
#include "core/bench/stats.h"

#include <algorithm>
#include <cmath>

namespace core::bench {

namespace {

struct Interval {
    double estimate, modelLow, modelHigh, low, high, half, tauSlow, uStructure;
};
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
std::optional<double> minutesUntilNarrow(const Binned& bins, const ExponentialFit& fit, const Noise& noise, double phi,
                                         double first, double lengthS, double uOther) {
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

/// The readings under load, without those that were not read and without the first seconds.
struct Window {
    std::vector<double> t, y, start;
};
Window windowOf(const SettleInput& input) {
    Window w;
    for (std::size_t i = 0; i < input.timeS.size(); ++i) {
        if (!std::isfinite(input.values[i]) || input.timeS[i] < 0)
            continue;
        if (w.start.size() < 5)
            w.start.push_back(input.values[i]);
        if (input.timeS[i] < 15)
            continue; // the die warms up by itself first
        w.t.push_back(input.timeS[i]);
        w.y.push_back(input.values[i]);
    }
    return w;
}

/// Seconds from one reading to the next.
double stepOf(const std::vector<double>& t) {
    std::vector<double> steps;
    for (std::size_t i = 1; i < t.size(); ++i)
        steps.push_back(t[i] - t[i - 1]);
    return std::max(1e-3, median(steps));
}

double rawSpread(const Window& w, const ExponentialFit& two) {
    double raw = 0;
    for (std::size_t i = 0; i < w.t.size(); ++i)
        raw += (w.y[i] - two.at(w.t[i])) * (w.y[i] - two.at(w.t[i]));
    return std::sqrt(raw / static_cast<double>(w.t.size()));
}

void take(SettleResult& result, const Interval& interval) {
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
}

} // namespace

double ExponentialFit::at(double timeS) const {
    return a + b1 * std::exp(-timeS / tau1) + (order == 2 ? b2 * std::exp(-timeS / tau2) : 0.0);
}

SettleResult settle(const SettleInput& input) {
    SettleResult result;
    const Window window = windowOf(input);
    const auto refuse = [&](Sentence why) {
        result.why = std::move(why);
        return result;
    };
    if (window.t.size() < 20)
        return refuse(say("too few readings under load"));
    result.first = median(window.start);
    result.lengthS = window.t.back() - window.t.front();
    const double dt = stepOf(window.t);
    const Binned bins = makeBins(window.t, window.y, std::max({5.0, result.lengthS / 180, dt}), dt);
    result.bins = static_cast<int>(bins.t.size());
    if (result.bins < 20 || result.lengthS < 120)
        return refuse(say("too short: at least two minutes of load are needed"));

    const Centred centred(bins);
    const double n = static_cast<double>(bins.t.size());
    const LeastSquares ls = leastSquares(bins, centred);
    result.two = ls.two;
    const std::vector<double> residual = residualOf(bins, ls.two);
    result.phi = correlation(bins, residual);
    const double kappa = (1 + result.phi) / (1 - result.phi);
    result.nEff = n / kappa;
    const double q = input.quantumK;
    const Noise noise{std::max({ls.two.rss / (n - 5), q * q / (12 * bins.width), 1e-6}), kappa, result.nEff, 0};
    const auto bic = [&](double rss, double p) { return result.nEff * std::log(rss / n) + p * std::log(result.nEff); };
    result.fit = bic(ls.one.rss, 3) <= bic(ls.two.rss, 5) ? ls.one : ls.two;

    result.uQuantiser = quantiserUncertainty(q, rawSpread(window, ls.two));
    const double uOther = std::hypot(result.uQuantiser, input.extraU);
    result.now = ls.two.at(window.t.back());
    take(result, intervalOf(Mixture(bins, noise), result.now, result.first, result.lengthS, uOther));
    const Break strongest = strongestBreak(bins, ls.two, residual);
    result.breakF = strongest.f;
    result.breakAtS = strongest.atS;
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
