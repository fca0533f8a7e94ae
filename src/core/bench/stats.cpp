// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/stats.h"

#include <deque>
#include <numbers>

namespace core::bench {

double median(std::vector<double> values) {
    if (values.empty())
        return std::nan("");
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    if (values.size() % 2 == 1)
        return *middle;
    return 0.5 * (*middle + *std::max_element(values.begin(), middle));
}

std::vector<double> runningMedian(std::span<const double> values, std::size_t half) {
    std::vector<double> out(values.size(), std::nan("")), sorted;
    const auto enters = [&](double x) {
        if (std::isfinite(x))
            sorted.insert(std::upper_bound(sorted.begin(), sorted.end(), x), x);
    };
    const auto leaves = [&](double x) {
        if (std::isfinite(x))
            sorted.erase(std::lower_bound(sorted.begin(), sorted.end(), x));
    };
    std::size_t end = 0; // of the window
    for (std::size_t i = 0; i < values.size(); ++i) {
        for (; end < std::min(values.size(), i + half + 1); ++end)
            enters(values[end]);
        if (i > half)
            leaves(values[i - half - 1]);
        if (const std::size_t n = sorted.size())
            out[i] = n % 2 == 1 ? sorted[n / 2] : 0.5 * (sorted[n / 2] + sorted[n / 2 - 1]);
    }
    return out;
}

double percentile(std::span<const double> values, double p) {
    std::vector<double> v;
    v.reserve(values.size());
    std::copy_if(values.begin(), values.end(), std::back_inserter(v), [](double x) { return std::isfinite(x); });
    if (v.empty())
        return std::nan("");
    const double at = p * static_cast<double>(v.size() - 1);
    const auto low = static_cast<std::size_t>(at);
    const auto it = v.begin() + static_cast<std::ptrdiff_t>(low);
    std::nth_element(v.begin(), it, v.end());
    const double below = *it;
    if (low + 1 >= v.size())
        return below;
    const double above = *std::min_element(it + 1, v.end());
    return below + (at - static_cast<double>(low)) * (above - below);
}

double normalCdf(double x) { return 0.5 * std::erfc(-x / std::numbers::sqrt2); }

double normalDensity(double x) { return std::exp(-0.5 * x * x) / std::sqrt(2 * std::numbers::pi); }

double normalQuantile(double p) {
    double low = -9, high = 9;
    for (int i = 0; i < 60; ++i) {
        const double middle = 0.5 * (low + high);
        (normalCdf(middle) < p ? low : high) = middle;
    }
    return 0.5 * (low + high);
}

double tQuantile(double p, double nu) {
    const double z = normalQuantile(p);
    const double z3 = z * z * z, z5 = z3 * z * z, z7 = z5 * z * z, z9 = z7 * z * z;
    return z + (z3 + z) / (4 * nu) + (5 * z5 + 16 * z3 + 3 * z) / (96 * nu * nu) +
           (3 * z7 + 19 * z5 + 17 * z3 - 15 * z) / (384 * nu * nu * nu) +
           (79 * z9 + 776 * z7 + 1482 * z5 - 1920 * z3 - 945 * z) / (92160 * nu * nu * nu * nu);
}

MeanResult meanWithUncertainty(std::span<const double> all) {
    std::vector<double> v;
    std::copy_if(all.begin(), all.end(), std::back_inserter(v), [](double x) { return std::isfinite(x); });
    MeanResult result;
    const auto n = v.size();
    if (n == 0) {
        result.mean = result.u = std::nan("");
        return result;
    }
    for (const double x : v)
        result.mean += x;
    result.mean /= static_cast<double>(n);
    double sum2 = 0;
    for (double& x : v) {
        x -= result.mean;
        sum2 += x * x;
    }
    if (n < 4 || sum2 <= 0) {
        result.nEff = static_cast<double>(n);
        result.nu = std::max(1.0, result.nEff - 1);
        result.tooShort = n < 8;
        return result;
    }
    const auto rho = [&](std::size_t lag) {
        double s = 0;
        for (std::size_t i = 0; i + lag < n; ++i)
            s += v[i] * v[i + lag];
        return s / sum2;
    };
    const double rho1 = rho(1);
    double theta = 1;
    for (std::size_t lag = 1; lag + 1 <= n / 3; lag += 2) {
        const double pair = (lag == 1 ? rho1 : rho(lag)) + rho(lag + 1);
        if (pair <= 0)
            break;
        theta += 2 * pair;
    }
    const double count = static_cast<double>(n);
    const double r = std::clamp(rho1 + (1 + 4 * rho1) / count, -0.9, 0.999);
    theta = std::max(theta, (1 + r) / (1 - r));
    theta *= 1 + 1 / std::max(0.5, count / theta - 1);
    result.nEff = count / theta;
    result.nu = std::max(1.0, result.nEff - 1);
    result.tooShort = result.nEff < 8;
    result.u = std::sqrt(sum2 / (count - 1) / result.nEff);
    result.expanded = tQuantile(0.975, std::max(2.0, result.nu)) * result.u;
    return result;
}

double sustainedMaximum(std::span<const double> timeS, std::span<const double> values, double seconds) {
    double best = std::nan("");
    std::deque<std::size_t> lowest; // values rise from front to back
    std::size_t start = 0;
    for (std::size_t i = 0; i < values.size(); ++i) {
        if (!std::isfinite(values[i]))
            continue;
        while (!lowest.empty() && values[lowest.back()] >= values[i])
            lowest.pop_back();
        lowest.push_back(i);
        // The window [t, t + seconds] ends here: it starts at the latest reading that is at least so long ago.
        while (start < i && timeS[i] - timeS[start + 1] >= seconds - 1e-9)
            ++start;
        if (timeS[i] - timeS[start] < seconds - 1e-9)
            continue;
        while (!lowest.empty() && lowest.front() < start)
            lowest.pop_front();
        const double held = values[lowest.front()];
        if (!std::isfinite(best) || held > best)
            best = held;
    }
    return best;
}

double quantiserUncertainty(double q, double sd) {
    if (q <= 0)
        return 0;
    const double own = std::max(0.0, sd * sd - q * q / 4); // a toggling sensor shows up to q/2 of its own
    return q / std::sqrt(12.0) * std::exp(-2 * std::numbers::pi * std::numbers::pi * own / (q * q));
}

Normalised normalise(double t, double uT, double room, double uRoom, double reference, double s, double uS) {
    const double d = reference - room;
    return {t + s * d, std::sqrt(uT * uT + s * s * uRoom * uRoom + d * d * uS * uS)};
}

} // namespace core::bench
