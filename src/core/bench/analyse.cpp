// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/analyse.h"

#include "core/base/text.h"

#include <limits>

namespace core::bench {
namespace {

struct Cut {
    std::vector<double> t;
    std::vector<double> v;
};

Cut cut(const std::vector<double>& t, const std::vector<double>& v, double from, double to) {
    Cut c;
    for (std::size_t i = 0; i < t.size(); ++i)
        if (t[i] >= from - 1e-9 && t[i] <= to + 1e-9) {
            c.t.push_back(t[i]);
            c.v.push_back(v[i]);
        }
    return c;
}

/// Mean of whole steps of time that hold readings, one pass over the log however long the times in it are.
struct Bin {
    double middleS, mean;
};
std::vector<Bin> bins(const std::vector<double>& t, const std::vector<double>& v, double from, double to,
                      double width) {
    std::vector<Bin> out;
    auto i = static_cast<std::size_t>(std::lower_bound(t.begin(), t.end(), from - 1e-9) - t.begin());
    while (i < t.size() && t[i] <= to + 1e-9) {
        const double k = std::floor((t[i] - from) / width + 1e-9);
        double sum = 0;
        int n = 0;
        for (; i < t.size() && std::floor((t[i] - from) / width + 1e-9) == k; ++i)
            if (std::isfinite(v[i])) {
                sum += v[i];
                ++n;
            }
        if (n > 0 && from + (k + 1) * width <= to + 1e-9)
            out.push_back({from + (k + 0.5) * width, sum / n});
    }
    return out;
}

double meanOf(const std::vector<double>& v) {
    double s = 0;
    int n = 0;
    for (const double x : v)
        if (std::isfinite(x)) {
            s += x;
            ++n;
        }
    return n ? s / n : std::nan("");
}

/// Energy mean of levels in dB.
double levelMean(const std::vector<double>& v) {
    double s = 0;
    int n = 0;
    for (const double x : v)
        if (std::isfinite(x)) {
            s += std::pow(10.0, x / 10);
            ++n;
        }
    return n ? 10 * std::log10(s / n) : std::nan("");
}

/// One value a second, holding the last reading.
std::vector<double> secondGrid(const std::vector<double>& t, const std::vector<double>& v) {
    if (t.size() < 2)
        return {};
    const auto n = static_cast<std::size_t>(std::min(t.back() - t.front(), 200000.0)) + 1;
    std::vector<double> grid(n, std::nan(""));
    std::size_t j = 0;
    double held = std::nan("");
    for (std::size_t i = 0; i < n; ++i) {
        for (; j < t.size() && t[j] <= t.front() + static_cast<double>(i) + 1e-9; ++j)
            if (std::isfinite(v[j]))
                held = v[j];
        grid[i] = held;
    }
    return grid;
}

struct Whole {
    const Run& run;
    const AnalyseOptions& options;
    CleanRun clean;
    RunAnalysis out;
    std::vector<double> room; ///< lagged, by row; empty when not logged

    void findRoom();
    void findThrottling();
    [[nodiscard]] const Channel* temperatureOf(const Channel& clock) const;
    [[nodiscard]] bool heldAtCap(const Channel& temperature) const;
    [[nodiscard]] bool frozen(const Channel& channel) const;
    void findUnsettled();
    void analyseTemperature(const Channel& channel);
    void analyseOther(const Channel& channel);
    void common(const Channel& channel, ChannelResult& r);
    void steadyWindow();
    [[nodiscard]] const Channel* first(ChannelKind kind) const {
        const auto it = std::find_if(clean.samples.channels.begin(), clean.samples.channels.end(),
                                     [&](const Channel& c) { return c.kind == kind; });
        return it == clean.samples.channels.end() ? nullptr : &*it;
    }
};

void Whole::findRoom() {
    const auto& t = clean.samples.timeS;
    const Channel* channel = first(ChannelKind::Ambient);
    const double to = out.load->endS;
    // A room that stands at exactly 0 is a sensor that is not there.
    const bool dead = channel && std::all_of(channel->values.begin(), channel->values.end(),
                                             [](double v) { return !std::isfinite(v) || v == 0; });
    if (dead)
        out.notes.push_back(say("{} stands at 0 all the time: taken as no room sensor", channel->name));
    if (!channel || dead || !std::isfinite(meanOf(cut(t, channel->values, out.load->startS, to).v))) {
        out.roomC = run.roomC.value_or(options.referenceRoomC);
        if (run.roomC)
            out.notes.emplace_back(say("room typed in, not logged: {} is added to the doubt", figure::kelvin(1, 0)));
        else
            out.notes.emplace_back(say("no room temperature at all: taken as the reference, which may be wrong"));
        return;
    }
    out.roomLogged = true;
    room = lagged(t, channel->values);
    out.roomC = meanOf(cut(t, channel->values, std::max(out.load->startS, to - 300), to).v);
    double low = 1e300, high = -1e300;
    for (const Bin& minute : bins(t, channel->values, out.load->startS, to, 60)) {
        low = std::min(low, minute.mean);
        high = std::max(high, minute.mean);
    }
    out.roomSpanK = high > low ? high - low : 0;
}

/// A clock of a named part is judged by that part's temperature; one of no part by the first temperature there is.
const Channel* Whole::temperatureOf(const Channel& clock) const {
    const Channel* any = nullptr;
    for (const Channel& c : clean.samples.channels) {
        if (c.kind != ChannelKind::Temperature)
            continue;
        if (c.subject == clock.subject)
            return &c;
        any = any ? any : &c;
    }
    return clock.subject.empty() ? any : nullptr;
}

void Whole::findThrottling() {
    const auto& t = clean.samples.timeS;
    for (const Channel& clock : clean.samples.channels) {
        const Channel* temperature = clock.kind == ChannelKind::Clock ? temperatureOf(clock) : nullptr;
        if (!temperature)
            continue;
        const Cut f = cut(t, clock.values, out.load->startS, out.load->endS),
                  y = cut(t, temperature->values, out.load->startS, out.load->endS);
        std::optional<double> cap;
        if (const auto it = options.capC.find(temperature->subject); it != options.capC.end())
            cap = it->second;
        std::vector<double> watts;
        const auto power =
            std::find_if(clean.samples.channels.begin(), clean.samples.channels.end(), [&](const Channel& c) {
                return c.kind == ChannelKind::Power && (c.subject == clock.subject || c.subject.empty());
            });
        if (power != clean.samples.channels.end())
            watts = cut(t, power->values, out.load->startS, out.load->endS).v;
        const auto* p = watts.empty() ? nullptr : &watts;
        auto found = findThrottle(f.t, f.v, y.v, p, cap, quantum(y.v));
        if (found.kind != Throttle::Thermal && cap) // the stated limit may not be the one in force
            if (const auto inferred = findThrottle(f.t, f.v, y.v, p, std::nullopt, quantum(y.v));
                inferred.kind == Throttle::Thermal)
                found = inferred;
        if (found.kind == Throttle::None)
            continue;
        out.throttles.push_back({clock.subject, found.kind, found.share, found.drop});
        const bool worse = out.throttle == Throttle::None ||
                           (found.kind == Throttle::Thermal && out.throttle != Throttle::Thermal) ||
                           (found.kind == out.throttle && found.share > out.throttleShare);
        if (worse) {
            out.throttle = found.kind;
            out.throttleShare = found.share;
            out.clockDrop = found.drop;
        }
    }
}

/// Held at its cap: the temperature of that part says nothing then, its clock does. A clock of no named part may be
/// any's.
bool Whole::heldAtCap(const Channel& temperature) const {
    return std::any_of(out.throttles.begin(), out.throttles.end(), [&](const PartThrottle& t) {
        return t.kind == Throttle::Thermal && t.share >= 0.02 &&
               (t.subject.empty() || t.subject == temperature.subject);
    });
}

/// A sensor that gave one value through idle and load while something else that gets warm moved.
bool Whole::frozen(const Channel& channel) const {
    constexpr double leastS = 120, movesK = 2;
    const auto& t = clean.samples.timeS;
    if (t.empty() || t.back() - t.front() < leastS)
        return false;
    const auto range = [](const std::vector<double>& v) {
        double low = std::numeric_limits<double>::infinity(), high = -low;
        for (const double x : v)
            if (std::isfinite(x)) {
                low = std::min(low, x);
                high = std::max(high, x);
            }
        return high >= low ? high - low : 0.0;
    };
    if (range(channel.values) > 0)
        return false;
    return std::any_of(clean.samples.channels.begin(), clean.samples.channels.end(), [&](const Channel& other) {
        return &other != &channel &&
               ((other.kind == ChannelKind::Temperature && range(other.values) >= movesK) ||
                (other.kind == ChannelKind::Power && range(other.values) > 0.3 * percentile(other.values, 0.95)));
    });
}

void Whole::common(const Channel& channel, ChannelResult& r) {
    const Cut c = cut(clean.samples.timeS, channel.values, out.load->startS, out.load->endS);
    r.mean = channel.kind == ChannelKind::Level ? levelMean(c.v) : meanOf(c.v);
    r.p95 = percentile(c.v, 0.95);
    r.sustainedMax = sustainedMaximum(c.t, c.v, 10);
    r.quantumStep = quantum(c.v);
}

void Whole::analyseOther(const Channel& channel) {
    ChannelResult r{.name = channel.name,
                    .unit = channel.unit,
                    .kind = channel.kind,
                    .subject = channel.subject,
                    .assumed = channel.assumed};
    common(channel, r);
    const double from = std::max(out.load->startS + 15, out.load->endS - 300);
    const Cut last = cut(clean.samples.timeS, channel.values, from, out.load->endS);
    const MeanResult m = meanWithUncertainty(last.v);
    const double u = std::hypot(std::isfinite(m.u) ? m.u : 0,
                                quantiserUncertainty(r.quantumStep, m.u * std::sqrt(std::max(1.0, m.nEff))));
    const double value = channel.kind == ChannelKind::Level ? levelMean(last.v) : m.mean;
    if (!std::isfinite(value)) {
        r.settled = r.low = r.high = std::nan("");
        r.why = say("no readings at the end of the load");
    } else {
        r.settled = value;
        const double half = std::max(m.expanded, 1.96 * u);
        r.low = value - half;
        r.high = value + half;
        r.state = m.tooShort ? SettleState::Rough : SettleState::Settled;
        r.why = m.tooShort ? say("the window is too short for its noise")
                           : say("mean of the last five minutes of the load");
    }
    out.channels.push_back(std::move(r));
}

void Whole::analyseTemperature(const Channel& channel) {
    ChannelResult r{.name = channel.name,
                    .unit = channel.unit,
                    .kind = channel.kind,
                    .subject = channel.subject,
                    .assumed = channel.assumed};
    common(channel, r);
    std::vector<double> rise = channel.values;
    const auto flags = spikes(channel.values, r.quantumStep);
    for (std::size_t i = 0; i < rise.size(); ++i) {
        r.spikes += flags[i] ? 1 : 0;
        rise[i] = flags[i] ? std::nan("") : rise[i] - (out.roomLogged ? room[i] : out.roomC);
    }
    double start = out.load->startS;
    const auto refuse = [&](Sentence why) {
        r.state = SettleState::Refused;
        r.why = std::move(why);
        r.settled = r.low = r.high = std::nan("");
        out.channels.push_back(std::move(r));
    };
    if (frozen(channel))
        return refuse(say("the sensor is frozen: one value all the time while others moved"));
    if (heldAtCap(channel))
        return refuse(say("held at the cap: compare the clock instead"));
    Sentence restarted;
    for (const Channel& other : clean.samples.channels) {
        if (other.kind != ChannelKind::Rpm && other.kind != ChannelKind::Power)
            continue;
        const Cut c = cut(clean.samples.timeS, other.values, out.load->startS, out.load->endS);
        if (const auto at = lastStep(c.t, c.v, other.kind == ChannelKind::Rpm ? 0.08 : 0.06); at && *at + 15 > start) {
            start = *at + 15;
            out.stepped = out.stepped ||
                          *at > out.load->startS + 180; // a fan that starts at the beginning belongs to the warm-up
            restarted = sayCounted(other.kind == ChannelKind::Rpm, "fan step at {} s, counted from there; ",
                                   "power step at {} s, counted from there; ", std::lround(*at - out.load->startS));
        }
    }
    const Cut c = cut(clean.samples.timeS, rise, start, out.load->endS);
    SettleInput input{
        .values = c.v, .quantumK = r.quantumStep, .tauKnownS = options.tauKnownS, .extraU = out.roomLogged ? 0.0 : 1.0};
    for (const double t : c.t)
        input.timeS.push_back(t - start);
    const SettleResult fit = settle(input);
    r.fit = fit;
    r.fitRoomC = out.roomC;
    r.fitStartS = start;
    r.state = fit.state;
    r.why = restarted + fit.why;
    r.tauS = fit.tauSlowS;
    r.moreMinutes = fit.moreMinutes;
    if (fit.state == SettleState::Refused) {
        r.settled = r.low = r.high = std::nan("");
    } else {
        r.settled = fit.estimate + out.roomC;
        r.low = fit.low + out.roomC;
        r.high = fit.high + out.roomC;
        const double s = out.fanAutomatic ? 0.75 : 1.0, uS = out.fanAutomatic ? 0.15 : 0.06;
        const double uRoom = out.roomLogged ? 0.3 : run.roomC ? 0.7 : 2.0;
        constexpr double farRoomK = 8; // engineering judgement
        if (!out.fanAutomatic || std::abs(options.referenceRoomC - out.roomC) <= farRoomK)
            r.atReference = normalise(r.settled, fit.half / 1.96, out.roomC, uRoom, options.referenceRoomC, s, uS);
        else
            out.notes.push_back(
                say("{}: the room was more than {} off the reference with an automatic fan, not brought to it",
                    channel.name, figure::kelvin(farRoomK, 0)));
    }
    out.channels.push_back(std::move(r));
}

/// The head of the run says it, not the row of one channel only.
void Whole::findUnsettled() {
    const ChannelResult* worst = nullptr;
    for (const ChannelResult& c : out.channels)
        if (c.fit && c.state != SettleState::Settled && c.moreMinutes && *c.moreMinutes > 0 &&
            (!worst || *c.moreMinutes > *worst->moreMinutes))
            worst = &c;
    for (const ChannelResult& c : out.channels)
        if (!worst && c.fit && c.state == SettleState::Refused) {
            out.disturbed = c.fit->disturbed();
            out.unsettled = sayCounted(out.disturbed, "disturbed: {} was not settled, {}",
                                       "stopped too early: {} was not settled, {}", c.name, c.why);
        }
    if (worst)
        out.unsettled = say("stopped too early: {} needed about {} min more", worst->name,
                            figure::number(std::max(1.0, *worst->moreMinutes), 0));
}

/// Longest trailing window of at least 180 s whose slope is surely below 0.1 K/min and that drifts at most 1 K. A short
/// rise at the start of a long window hardly tilts its slope, so the first minute must also lie within 1 K of the last
/// three.
void Whole::steadyWindow() {
    const Channel* channel = first(ChannelKind::Temperature);
    if (!channel)
        return;
    // Steps of 10 s; of a load of more than two hours 720 longer ones, so that a log of days costs no more.
    constexpr double mostSteps = 720;
    const double width = std::max(10.0, (out.load->endS - out.load->startS) / mostSteps);
    std::vector<double> t, y;
    for (const Bin& bin : bins(clean.samples.timeS, channel->values, out.load->startS, out.load->endS, width)) {
        t.push_back(bin.middleS);
        y.push_back(bin.mean);
    }
    for (std::size_t from = 0; from + 18 <= t.size(); ++from) {
        const std::size_t n = t.size() - from;
        double mt = 0, my = 0, stt = 0, sty = 0, rss = 0;
        for (std::size_t i = from; i < t.size(); ++i) {
            mt += t[i] / static_cast<double>(n);
            my += y[i] / static_cast<double>(n);
        }
        for (std::size_t i = from; i < t.size(); ++i) {
            stt += (t[i] - mt) * (t[i] - mt);
            sty += (t[i] - mt) * (y[i] - my);
        }
        const double b = sty / stt;
        double lag = 0, before = 0;
        for (std::size_t i = from; i < t.size(); ++i) {
            const double r = y[i] - my - b * (t[i] - mt);
            rss += r * r;
            lag += r * before;
            before = r;
        }
        const double phi = rss > 0 ? std::clamp(lag / rss, 0.0, 0.95) : 0.0;
        const double bound =
            std::abs(b) + 2 * std::sqrt(rss / static_cast<double>(n - 2) / stt * (1 + phi) / (1 - phi));
        const auto at = [&](std::size_t i) { return y.begin() + static_cast<std::ptrdiff_t>(i); };
        const double rise = meanOf({at(t.size() - 18), y.end()}) - meanOf({at(from), at(from + 6)});
        if (std::abs(rise) <= 1 && 60 * bound <= 0.1 && bound * (t.back() - t[from]) <= 1) {
            out.steadyFromS = t[from] - 0.5 * width;
            return;
        }
    }
}

} // namespace

std::vector<double> lagged(const std::vector<double>& timeS, const std::vector<double>& room, double tauS) {
    std::vector<double> out(room.size(), std::nan(""));
    double y = std::nan("");
    double last = 0;
    for (std::size_t i = 0; i < room.size(); ++i) {
        if (std::isfinite(room[i])) {
            if (!std::isfinite(y))
                y = room[i];
            else
                y += (room[i] - y) * -std::expm1(-(timeS[i] - last) / tauS);
            last = timeS[i];
        }
        out[i] = y;
    }
    return out;
}

std::optional<double> lastStep(const std::vector<double>& timeS, const std::vector<double>& values, double relative) {
    const auto grid = secondGrid(timeS, values);
    if (grid.size() < 180)
        return std::nullopt;
    const double middle = median([&] {
        std::vector<double> f;
        std::copy_if(grid.begin(), grid.end(), std::back_inserter(f), [](double x) { return std::isfinite(x); });
        return f;
    }());
    if (!(middle > 0))
        return std::nullopt;
    std::vector<double> sum(grid.size() + 1, 0.0);
    for (std::size_t i = 0; i < grid.size(); ++i)
        sum[i + 1] = sum[i] + (std::isfinite(grid[i]) ? grid[i] : middle);
    std::vector<double> d(grid.size(), 0.0), sizes;
    for (std::size_t i = 60; i + 60 <= grid.size(); ++i) {
        d[i] = (sum[i + 60] - sum[i] - (sum[i] - sum[i - 60])) / 60;
        sizes.push_back(std::abs(d[i]));
    }
    if (sizes.empty())
        return std::nullopt;
    const double limit = std::max(relative * middle, 5 * 1.4826 * median(sizes));
    for (std::size_t i = grid.size(); i-- > 60;) {
        if (std::abs(d[i]) <= limit)
            continue;
        std::size_t peak = i; // the steepest place of this step
        for (std::size_t k = i; k-- > (i > 60 ? i - 60 : 0);)
            if (std::abs(d[k]) > std::abs(d[peak]))
                peak = k;
        if (peak < 60 || peak + 25 > grid.size() || peak < 25)
            return std::nullopt;
        const auto level = [&](std::size_t from, std::size_t to) {
            return median(
                {grid.begin() + static_cast<std::ptrdiff_t>(from), grid.begin() + static_cast<std::ptrdiff_t>(to)});
        };
        // A ramp that follows the temperature is not a step.
        if (std::abs(level(peak + 10, peak + 25) - level(peak - 25, peak - 10)) >= 0.6 * std::abs(d[peak]))
            return timeS.front() + static_cast<double>(peak);
        i = peak > 60 ? peak - 30 : 60;
    }
    return std::nullopt;
}

ThrottleResult findThrottle(const std::vector<double>& timeS, const std::vector<double>& clock,
                            const std::vector<double>& temperature, const std::vector<double>* power,
                            std::optional<double> capC, double quantumK) {
    ThrottleResult result;
    const auto f = runningMedian(clock, 2), broad = runningMedian(clock, 15), t5 = runningMedian(temperature, 2);
    double reference = 0;
    for (const double x : broad)
        if (std::isfinite(x))
            reference = std::max(reference, x);
    if (reference <= 0 || timeS.size() < 30)
        return result;
    // Low for at least 10 s, short recoveries bridged.
    std::vector<bool> low(f.size(), false);
    std::size_t i = 0;
    while (i < f.size()) {
        if (!(f[i] < 0.97 * reference)) {
            ++i;
            continue;
        }
        std::size_t end = i;
        for (std::size_t k = i; k < f.size() && timeS[k] - timeS[end] <= 3.0 + 1e-9; ++k)
            if (f[k] < 0.97 * reference)
                end = k;
        if (timeS[end] - timeS[i] >= 10)
            std::fill(low.begin() + static_cast<std::ptrdiff_t>(i), low.begin() + static_cast<std::ptrdiff_t>(end) + 1,
                      true);
        i = end + 1;
    }
    std::vector<double> lowT, lowF, lowP;
    for (std::size_t k = 0; k < low.size(); ++k)
        if (low[k]) {
            if (std::isfinite(t5[k]))
                lowT.push_back(t5[k]);
            if (std::isfinite(f[k]))
                lowF.push_back(f[k]);
            if (power && std::isfinite((*power)[k]))
                lowP.push_back((*power)[k]);
        }
    if (lowT.empty())
        return result;
    result.share = static_cast<double>(std::count(low.begin(), low.end(), true)) / static_cast<double>(low.size());
    result.drop = 1 - median(lowF) / reference;
    const bool flat = !lowP.empty() && (percentile(lowP, 0.75) - percentile(lowP, 0.25)) / 1.349 < 0.02 * median(lowP);
    result.kind = flat ? Throttle::PowerLimit : Throttle::Other;
    const auto shareNear = [&](double level, double tolerance) {
        return static_cast<double>(std::count_if(lowT.begin(), lowT.end(),
                                                 [&](double x) { return std::abs(x - level) <= tolerance; })) /
               static_cast<double>(lowT.size());
    };
    if (capC) {
        const double from = *capC - std::max(1.5, 1.5 * quantumK);
        const auto at = std::count_if(lowT.begin(), lowT.end(), [&](double x) { return x >= from; });
        if (static_cast<double>(at) >= 0.5 * static_cast<double>(lowT.size()))
            result.kind = Throttle::Thermal;
    } else {
        const double level = median(lowT);
        const bool steadyPower =
            !lowP.empty() && flat &&
            std::abs(meanOf({lowP.end() - static_cast<std::ptrdiff_t>(lowP.size() / 3 + 1), lowP.end()}) /
                         meanOf({lowP.begin(), lowP.begin() + static_cast<std::ptrdiff_t>(lowP.size() / 3 + 1)}) -
                     1) < 0.01;
        if (shareNear(level, std::max(1.0, quantumK)) >= 0.8 && level >= percentile(t5, 0.90) - 1.5 && !steadyPower)
            result.kind = Throttle::Thermal;
    }
    return result;
}

const ChannelResult* RunAnalysis::channel(ChannelKind kind, std::string_view subject) const {
    for (const ChannelResult& c : channels)
        if (c.kind == kind && (subject.empty() || c.subject == subject))
            return &c;
    return nullptr;
}

RunAnalysis analyse(const Run& run, const AnalyseOptions& options, const std::function<bool()>& stop) {
    Whole whole{run, options, clean(*run.samples), {}, {}};
    RunAnalysis& out = whole.out;
    out.time = whole.clean.time;
    if (out.time.jumps > 0)
        out.notes.push_back(
            out.time.jumps == 1
                ? say("the clock was set once in this log: only its longest piece is used, {} rows are left out",
                      out.time.cutRows)
                : say("the clock was set {} times in this log: only its longest piece is used, {} rows are left out",
                      out.time.jumps, out.time.cutRows));
    if (out.time.dtS > 120)
        out.notes.push_back(
            say("one reading every {} s: are the times milliseconds?", figure::number(out.time.dtS, 0)));
    out.invalidValues = whole.clean.invalidValues;
    if (run.loadStartS && run.loadEndS)
        out.load = LoadInterval{.startS = *run.loadStartS, .endS = *run.loadEndS};
    else
        out.load = findLoad(whole.clean);
    if (!out.load) {
        out.notes.emplace_back(say("no load found: mark its start and end"));
        return std::move(whole.out);
    }
    if (out.load->fromTemperature)
        out.notes.emplace_back(say("load found from the temperature, please confirm"));
    if (!out.time.gaps.empty())
        out.notes.push_back(say("{} gaps in the log", out.time.gaps.size()));
    if (out.load->startUncertainS > 0)
        out.notes.push_back(
            say("a gap lies on the load start: uncertain by {} s", std::lround(out.load->startUncertainS)));
    whole.findRoom();
    whole.findThrottling();
    for (const Channel& channel : whole.clean.samples.channels) {
        const Cut c = cut(whole.clean.samples.timeS, channel.values, out.load->startS + 60, out.load->endS);
        if (channel.kind == ChannelKind::Power && out.powerW == 0)
            out.powerW = meanOf(c.v);
        if (channel.kind == ChannelKind::Rpm && meanOf(c.v) > 0 &&
            percentile(c.v, 0.95) - percentile(c.v, 0.05) > 0.08 * meanOf(c.v))
            out.fanAutomatic = true;
    }
    for (const Channel& channel : whole.clean.samples.channels) {
        if (stop && stop())
            return std::move(whole.out);
        channel.kind == ChannelKind::Temperature ? whole.analyseTemperature(channel) : whole.analyseOther(channel);
    }
    whole.findUnsettled();
    whole.steadyWindow();
    return std::move(whole.out);
}

} // namespace core::bench
