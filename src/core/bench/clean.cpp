// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/clean.h"

#include "core/bench/stats.h"

#include <numeric>

namespace core::bench {
namespace {

double medianStep(const std::vector<double>& t) {
    std::vector<double> steps;
    for (std::size_t i = 1; i < t.size(); ++i)
        if (t[i] > t[i - 1])
            steps.push_back(t[i] - t[i - 1]);
    return steps.empty() ? 1.0 : median(std::move(steps));
}

std::pair<double, double> validRange(ChannelKind kind) {
    switch (kind) {
    case ChannelKind::Temperature:
        return {-30, 130};
    case ChannelKind::Ambient:
        return {-30, 60};
    case ChannelKind::Rpm:
        return {0, 30000};
    case ChannelKind::Clock:
        return {1, 20000};
    case ChannelKind::Power:
        return {0.1, 3000};
    case ChannelKind::Level:
        return {5, 130};
    case ChannelKind::Other:
        break;
    }
    return {-1e300, 1e300};
}

} // namespace

namespace {
/// Rows with a finite time, as they stand in the log, without the shorter pieces of a log that a set clock cuts.
std::vector<std::size_t> longestPiece(std::span<const double> timeS, TimeReport& report) {
    std::vector<std::size_t> finite;
    std::vector<double> steps;
    for (std::size_t i = 0; i < timeS.size(); ++i) {
        if (!(std::abs(timeS[i]) < 1e15)) {
            ++report.nonFinite;
            continue;
        }
        if (!finite.empty() && timeS[i] != timeS[finite.back()])
            steps.push_back(std::abs(timeS[i] - timeS[finite.back()]));
        finite.push_back(i);
    }
    const double jump = std::max(3600.0, 1000 * (steps.empty() ? 1.0 : median(steps)));
    std::size_t best = 0, bestSize = 0, start = 0;
    for (std::size_t k = 1; k <= finite.size(); ++k) {
        if (k < finite.size() && std::abs(timeS[finite[k]] - timeS[finite[k - 1]]) <= jump)
            continue;
        report.jumps += k < finite.size() ? 1 : 0;
        if (k - start > bestSize) {
            best = start;
            bestSize = k - start;
        }
        start = k;
    }
    report.cutRows = finite.size() - bestSize;
    return {finite.begin() + static_cast<std::ptrdiff_t>(best),
            finite.begin() + static_cast<std::ptrdiff_t>(best + bestSize)};
}
} // namespace

std::vector<std::size_t> cleanTime(std::span<const double> timeS, TimeReport& report) {
    std::vector<std::size_t> order = longestPiece(timeS, report);
    double last = -1e300;
    for (const std::size_t i : order) {
        report.backwards += timeS[i] < last ? 1 : 0;
        last = timeS[i];
    }
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return timeS[a] < timeS[b]; });
    std::vector<double> sorted;
    sorted.reserve(order.size());
    for (const std::size_t i : order)
        sorted.push_back(timeS[i]);
    report.dtS = medianStep(sorted);
    std::vector<std::size_t> kept;
    for (const std::size_t i : order) {
        if (!kept.empty() && timeS[i] - timeS[kept.back()] < 1e-3 * report.dtS) {
            ++report.duplicates;
            kept.back() = i;
        } else {
            kept.push_back(i);
        }
    }
    for (std::size_t k = 1; k < kept.size(); ++k)
        if (timeS[kept[k]] - timeS[kept[k - 1]] > std::max(3 * report.dtS, 5.0))
            report.gaps.emplace_back(timeS[kept[k - 1]], timeS[kept[k]]);
    return kept;
}

int cleanValues(ChannelKind kind, std::span<double> values) {
    const auto [low, high] = validRange(kind);
    const bool thermal = kind == ChannelKind::Temperature || kind == ChannelKind::Ambient;
    std::vector<double> finite;
    std::copy_if(values.begin(), values.end(), std::back_inserter(finite), [](double x) { return std::isfinite(x); });
    const double middle = finite.empty() ? 0 : median(finite);
    int bad = 0;
    const auto drop = [&](std::size_t i) {
        values[i] = std::nan("");
        ++bad;
    };
    for (std::size_t i = 0; i < values.size(); ++i) {
        const double v = values[i];
        if (!std::isfinite(v)) {
            ++bad;
            values[i] = std::nan("");
        } else if (v < low || v > high || (thermal && (v == -127 || v == 127 || v == 255 || (v == 0 && middle > 8)))) {
            drop(i);
        }
    }
    if (kind == ChannelKind::Rpm)
        for (std::size_t i = 1; i + 1 < values.size(); ++i) {
            if (values[i] != 0 || !(values[i - 1] > 300))
                continue;
            const std::size_t length = values[i + 1] == 0 ? 2 : 1;
            if (i + length < values.size() && values[i + length] > 300)
                for (std::size_t k = 0; k < length; ++k)
                    drop(i + k);
        }
    return bad;
}

double quantum(std::span<const double> values) {
    std::vector<double> steps;
    double last = std::nan("");
    for (const double v : values) {
        if (!std::isfinite(v))
            continue;
        if (std::isfinite(last) && v != last)
            steps.push_back(std::abs(v - last));
        last = v;
    }
    if (steps.size() < 5)
        return 0;
    for (const double q : {5.0, 2.0, 1.0, .5, .25, .2, .125, .1, .0625, .05, .025, .01}) {
        const auto whole = std::count_if(steps.begin(), steps.end(),
                                         [&](double s) { return std::abs(s / q - std::round(s / q)) <= 0.02; });
        if (static_cast<double>(whole) >= 0.98 * static_cast<double>(steps.size()))
            return q;
    }
    return 0;
}

std::vector<bool> spikes(std::span<const double> values, double q) {
    constexpr std::ptrdiff_t half = 7;
    std::vector<bool> flags(values.size(), false);
    const auto n = static_cast<std::ptrdiff_t>(values.size());
    const std::vector<double> level = runningMedian(values, half);
    std::vector<double> window, deviations;
    for (std::ptrdiff_t i = 0; i < n; ++i) {
        const double v = values[static_cast<std::size_t>(i)], m = level[static_cast<std::size_t>(i)];
        if (!std::isfinite(v) || !(std::abs(v - m) > 1.5))
            continue; // most readings end here
        window.clear();
        for (std::ptrdiff_t k = std::max<std::ptrdiff_t>(0, i - half); k <= std::min(n - 1, i + half); ++k)
            if (std::isfinite(values[static_cast<std::size_t>(k)]))
                window.push_back(values[static_cast<std::size_t>(k)]);
        if (window.size() < 5)
            continue;
        deviations.clear();
        for (const double w : window)
            deviations.push_back(std::abs(w - m));
        flags[static_cast<std::size_t>(i)] =
            std::abs(v - m) > std::max({4 * 1.4826 * median(deviations), 1.5, 1.5 * q});
    }
    return flags;
}

CleanRun clean(const Samples& samples) {
    CleanRun run;
    const auto kept = cleanTime(samples.timeS, run.time);
    for (const std::size_t i : kept)
        run.samples.timeS.push_back(samples.timeS[i]);
    for (const Channel& channel : samples.channels) {
        Channel c{channel.name, channel.unit, channel.kind, channel.subject, {}, channel.assumed};
        for (const std::size_t i : kept)
            c.values.push_back(i < channel.values.size() ? channel.values[i] : std::nan(""));
        run.invalidValues += cleanValues(c.kind, c.values);
        run.samples.channels.push_back(std::move(c));
    }
    return run;
}

} // namespace core::bench
