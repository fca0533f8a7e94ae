// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/run.h"

#include <span>

namespace core::bench {

struct TimeReport {
    double dtS = 1; ///< median step
    int backwards = 0;
    int duplicates = 0;
    int nonFinite = 0;
    std::vector<std::pair<double, double>> gaps; ///< from, to
    int jumps = 0;                               ///< places where the clock was set: the log is cut there
    std::size_t cutRows = 0;                     ///< rows of the shorter pieces, which are not used
};
/// Indices of the rows to keep, in order of time: finite stamps, sorted, of nearly equal ones the last. Where the clock
/// was set (a step of more than an hour and a thousand usual steps, either way) the log falls into pieces: the longest
/// is kept.
[[nodiscard]] std::vector<std::size_t> cleanTime(std::span<const double> timeS, TimeReport& report);

/// Sets what cannot be a reading to NaN (out of range, drop-outs); returns how many. Ranges are engineering judgement.
int cleanValues(ChannelKind kind, std::span<double> values);

/// Step of the quantiser, 0 when none is found.
[[nodiscard]] double quantum(std::span<const double> values);

/// Flags of single readings far from their neighbours. Source: Davies & Gather, JASA 88 (1993).
[[nodiscard]] std::vector<bool> spikes(std::span<const double> values, double q);

/// A run with clean time and values.
struct CleanRun {
    Samples samples;
    TimeReport time;
    int invalidValues = 0;
};
[[nodiscard]] CleanRun clean(const Samples& samples);

/// Part of a log under load.
struct LoadInterval {
    double startS = 0, endS = 0;
    bool fromTemperature = false; ///< to be confirmed by the user
    double startUncertainS = 0;   ///< a gap lies on the start
    std::vector<std::pair<double, double>> others;
};
/// From the power channel (Otsu, IEEE SMC 9 (1979)), else from the steepest lasting rise of the temperature.
[[nodiscard]] std::optional<LoadInterval> findLoad(const CleanRun& run);

} // namespace core::bench
