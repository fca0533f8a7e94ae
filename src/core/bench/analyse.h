// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/bench/clean.h"
#include "core/bench/settle.h"
#include "core/bench/stats.h"

#include <functional>
#include <map>

namespace core::bench {

struct AnalyseOptions {
    double referenceRoomC = 23;
    std::map<std::string, double> capC; ///< temperature limit by subject (mount)
    std::optional<double> tauKnownS;    ///< of an earlier settled run of the same build
};

struct ChannelResult {
    std::string name;
    std::string unit;
    ChannelKind kind = ChannelKind::Other;
    std::string subject;
    bool assumed = false; ///< the part it belongs to was guessed, nobody said it
    SettleState state = SettleState::Refused;
    Sentence why;
    double settled = 0, low = 0, high = 0; ///< 95 % interval, at the room of the run; NaN when refused
    std::optional<Normalised> atReference; ///< temperatures, at the reference room
    double tauS = 0;
    std::optional<double> moreMinutes;
    double mean = 0, p95 = 0, sustainedMax = 0; ///< over the load; sustained for 10 s
    double quantumStep = 0;
    int spikes = 0;
    std::optional<SettleResult> fit; ///< temperatures only; of the rise over the room
    double fitRoomC = 0;             ///< add to the fit to get °C
    double fitStartS = 0;            ///< log time at which the fit's time is zero
};

enum class Throttle { None, Thermal, PowerLimit, Other };

/// Throttling of one part: it belongs to the part whose clock dipped.
struct PartThrottle {
    std::string subject; ///< mount; empty: a clock of no named part
    Throttle kind = Throttle::None;
    double share = 0; ///< of the load time
    double drop = 0;  ///< relative, while low
};

struct RunAnalysis {
    std::optional<LoadInterval> load;
    TimeReport time;
    int invalidValues = 0;
    std::vector<ChannelResult> channels;
    bool roomLogged = false;
    double roomC = 0;     ///< mean over the last five minutes of the load
    double roomSpanK = 0; ///< of 60 s means in the load
    double powerW = 0;    ///< mean of the load, 0: not logged
    bool fanAutomatic = false;
    std::vector<PartThrottle> throttles;
    bool disturbed = false; ///< a temperature was: something happened inside the load
    Sentence unsettled;     ///< a temperature still rose when the load ended, or was disturbed: which, and how much
                            ///< longer it would have taken; empty: none
    Throttle throttle = Throttle::None; ///< the worst of them
    double throttleShare = 0;           ///< of the load time
    double clockDrop = 0;               ///< relative, while low
    bool stepped = false;               ///< a fan or the power was changed in the middle of the load
    std::optional<double> steadyFromS;  ///< log time from which nothing rises any more, model-free
    Sentences notes;

    [[nodiscard]] const ChannelResult* channel(ChannelKind kind, std::string_view subject = {}) const;
};

/// Everything a run says: cleaned, cut into idle and load, each channel with its settled value or why there is none.
/// @p stop is asked now and then; where it answers true the analysis ends with what it has, and is not to be used.
[[nodiscard]] RunAnalysis analyse(const Run& run, const AnalyseOptions& options,
                                  const std::function<bool()>& stop = {});

/// Sustained dip of the clock: share of time, depth and whether the temperature sits at a cap.
struct ThrottleResult {
    Throttle kind = Throttle::None;
    double share = 0;
    double drop = 0;
};
[[nodiscard]] ThrottleResult findThrottle(const std::vector<double>& timeS, const std::vector<double>& clock,
                                          const std::vector<double>& temperature, const std::vector<double>* power,
                                          std::optional<double> capC, double quantumK);

/// Last lasting step of a channel (fan or power) in the load: its time, or nothing. Relative threshold @p relative.
[[nodiscard]] std::optional<double> lastStep(const std::vector<double>& timeS, const std::vector<double>& values,
                                             double relative);

/// First-order lag of the room air with time constant 90 s, exact for each step.
[[nodiscard]] std::vector<double> lagged(const std::vector<double>& timeS, const std::vector<double>& room,
                                         double tauS = 90);

} // namespace core::bench
