// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/clean.h"
#include "core/bench/stats.h"

namespace core::bench {
namespace {

const Channel* channelOf(const Samples& s, ChannelKind kind) {
    const auto it =
        std::find_if(s.channels.begin(), s.channels.end(), [&](const Channel& c) { return c.kind == kind; });
    return it == s.channels.end() ? nullptr : &*it;
}

/// Threshold that splits the values in two classes with the least spread inside them.
double otsu(const std::vector<double>& v, double low, double high) {
    constexpr int bins = 128;
    std::array<double, bins> count{};
    double total = 0, sum = 0;
    for (const double x : v)
        if (std::isfinite(x)) {
            const int k = std::clamp(static_cast<int>((x - low) / (high - low) * bins), 0, bins - 1);
            ++count[static_cast<std::size_t>(k)];
            ++total;
            sum += k;
        }
    double below = 0, sumBelow = 0, best = -1;
    int cut = 0;
    for (int k = 0; k < bins - 1; ++k) {
        below += count[static_cast<std::size_t>(k)];
        sumBelow += k * count[static_cast<std::size_t>(k)];
        if (below == 0 || below == total)
            continue;
        const double d = sumBelow / below - (sum - sumBelow) / (total - below);
        if (const double between = below * (total - below) * d * d; between > best) {
            best = between;
            cut = k;
        }
    }
    return low + (cut + 1) * (high - low) / bins;
}

struct Levels {
    double idle, load;
};
std::optional<Levels> twoLevels(const std::vector<double>& z) {
    double low = 1e300, high = -1e300;
    for (const double x : z)
        if (std::isfinite(x)) {
            low = std::min(low, x);
            high = std::max(high, x);
        }
    if (!(high > low))
        return std::nullopt;
    const double cut = otsu(z, low, high);
    std::array<std::vector<double>, 2> sides;
    for (const double x : z)
        if (std::isfinite(x))
            sides[x > cut ? 1 : 0].push_back(x);
    if (sides[0].empty() || sides[1].empty())
        return std::nullopt;
    const auto variance = [](const std::vector<double>& v) {
        double mean = 0, s = 0;
        for (const double x : v)
            mean += x / static_cast<double>(v.size());
        for (const double x : v)
            s += (x - mean) * (x - mean) / static_cast<double>(v.size());
        return s;
    };
    const Levels levels{median(sides[0]), median(sides[1])};
    const double spread = std::sqrt(variance(sides[0]) + variance(sides[1]));
    if (levels.load - levels.idle < 8 || levels.load < 1.5 * levels.idle ||
        (spread > 0 && (levels.load - levels.idle) / spread < 3))
        return std::nullopt;
    return levels;
}

std::optional<LoadInterval> fromPower(const CleanRun& run, const Channel& power) {
    const auto& t = run.samples.timeS;
    const auto z = runningMedian(power.values, 2);
    const auto levels = twoLevels(z);
    if (!levels)
        return std::nullopt;
    const double step = levels->load - levels->idle;
    struct Span {
        std::size_t from, to;
    };
    std::vector<Span> spans;
    bool on = false;
    for (std::size_t i = 0; i < z.size(); ++i) {
        if (!std::isfinite(z[i]))
            continue;
        if (!on && z[i] > levels->idle + 0.6 * step) {
            spans.push_back({i, i});
            on = true;
        } else if (on && z[i] < levels->idle + 0.35 * step) {
            on = false;
        } else if (on) {
            spans.back().to = i;
        }
    }
    // A short pause, or a gap in the log, is no evidence of idling.
    std::vector<Span> joined;
    for (const Span& s : spans) {
        if (!joined.empty()) {
            const double off = t[s.from] - t[joined.back().to];
            const double logged = static_cast<double>(s.from - joined.back().to) * run.time.dtS;
            if (off <= 45 || (logged <= 45 && off <= 180)) {
                joined.back().to = s.to;
                continue;
            }
        }
        joined.push_back(s);
    }
    std::erase_if(joined, [&](const Span& s) { return t[s.to] - t[s.from] < 30; });
    if (joined.empty())
        return std::nullopt;
    const auto longest = std::max_element(joined.begin(), joined.end(), [&](const Span& a, const Span& b) {
        return t[a.to] - t[a.from] < t[b.to] - t[b.from];
    });
    LoadInterval load{.startS = t[longest->from], .endS = t[longest->to]};
    for (auto it = joined.begin(); it != joined.end(); ++it)
        if (it != longest)
            load.others.emplace_back(t[it->from], t[it->to]);
    const double middle = levels->idle + 0.5 * step;
    for (std::size_t i = 0; i < t.size(); ++i)
        if (std::abs(t[i] - t[longest->from]) <= 10 && power.values[i] > middle) {
            load.startS = t[i];
            break;
        }
    for (std::size_t i = t.size(); i-- > 0;)
        if (std::abs(t[i] - t[longest->to]) <= 10 && power.values[i] > middle) {
            load.endS = t[i];
            break;
        }
    for (const auto& [from, to] : run.time.gaps)
        if (std::abs(to - load.startS) < 2 * run.time.dtS || (from <= load.startS && to >= load.startS))
            load.startUncertainS = to - from;
    return load;
}

/// On a 1 s grid the largest lasting step of the temperature; the end is the steepest lasting fall after it.
std::optional<LoadInterval> fromTemperature(const CleanRun& run, const Channel& channel) {
    const auto& t = run.samples.timeS;
    if (t.size() < 60)
        return std::nullopt;
    const auto seconds = static_cast<std::size_t>(std::min(t.back() - t.front(), 200000.0));
    if (seconds < 90)
        return std::nullopt;
    std::vector<double> grid(seconds + 1);
    std::size_t j = 0;
    double held = std::nan("");
    for (std::size_t i = 0; i <= seconds; ++i) {
        while (j < t.size() && t[j] <= t.front() + static_cast<double>(i) + 1e-9) {
            if (std::isfinite(channel.values[j]))
                held = channel.values[j];
            ++j;
        }
        grid[i] = held;
    }
    const auto mean = [&](std::size_t from, std::size_t to) {
        double s = 0;
        for (std::size_t i = from; i < to; ++i)
            s += grid[i];
        return s / static_cast<double>(to - from);
    };
    std::vector<double> d(seconds + 1, 0.0), sizes;
    for (std::size_t i = 10; i + 10 <= seconds; ++i) {
        d[i] = mean(i, i + 10) - mean(i - 10, i);
        sizes.push_back(std::abs(d[i]));
    }
    const double noise = 1.4826 * median(sizes);
    const auto rise = static_cast<std::size_t>(std::max_element(d.begin(), d.end()) - d.begin());
    if (!(d[rise] >= std::max(3.0, 5 * noise)))
        return std::nullopt;
    const double base = mean(rise >= 20 ? rise - 20 : 0, rise >= 10 ? rise - 10 : 1);
    std::size_t onset = rise >= 10 ? rise - 10 : 0;
    while (onset < rise && !(grid[onset] > base + 0.15 * d[rise]))
        ++onset;
    LoadInterval load{.startS = t.front() + static_cast<double>(onset), .endS = t.back(), .fromTemperature = true};
    const auto fall =
        static_cast<std::size_t>(std::min_element(d.begin() + static_cast<std::ptrdiff_t>(rise), d.end()) - d.begin());
    if (-d[fall] >= std::max(3.0, 0.5 * d[rise]) && fall > onset + 30)
        load.endS = t.front() + static_cast<double>(fall);
    return load;
}

} // namespace

std::optional<LoadInterval> findLoad(const CleanRun& run) {
    if (run.samples.timeS.size() < 10)
        return std::nullopt;
    if (const Channel* power = channelOf(run.samples, ChannelKind::Power))
        if (auto load = fromPower(run, *power))
            return load;
    if (const Channel* temperature = channelOf(run.samples, ChannelKind::Temperature))
        return fromTemperature(run, *temperature);
    return std::nullopt;
}

} // namespace core::bench
