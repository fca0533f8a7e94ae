// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/sentence.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace core::bench {

enum class SettleState { Settled, Estimate, Rough, Refused };
[[nodiscard]] std::string_view settleWord(SettleState state);

struct SettleInput {
    std::vector<double> timeS;  ///< from load start
    std::vector<double> values; ///< °C, or K over the room; NaN is left out
    double quantumK = 0;
    std::optional<double> tauKnownS; ///< slow time constant of an earlier settled run of the same build
    double extraU = 0;               ///< standard uncertainty to add, e.g. 1 K when the room was not logged
};

/// a + b1 exp(-t/tau1) + b2 exp(-t/tau2); order 1 leaves the second out.
struct ExponentialFit {
    int order = 2;
    double a = 0, b1 = 0, b2 = 0, tau1 = 1, tau2 = 1;
    double rss = 0;
    [[nodiscard]] double at(double timeS) const;
};

struct SettleResult {
    SettleState state = SettleState::Refused;
    Sentence why;
    double estimate = 0;
    double low = 0, high = 0;           ///< 95 %, all terms
    double modelLow = 0, modelHigh = 0; ///< 95 %, model and noise only
    double half = 0;
    double now = 0;       ///< fitted value at the end
    double remaining = 0; ///< estimate - now
    double first = 0;     ///< at load start
    double fraction = 0;  ///< share of the rise that is done
    double tauSlowS = 0;
    double phi = 0, nEff = 0;
    double uStructure = 0, uQuantiser = 0;
    double breakF = 0, breakAtS = 0;
    /// Something happened inside the window, which no longer run would have mended.
    [[nodiscard]] bool disturbed() const { return breakF > 12; }
    int bins = 0;
    double lengthS = 0;
    ExponentialFit fit;                ///< least squares, the reported order
    ExponentialFit two;                ///< least squares, order 2
    std::optional<double> moreMinutes; ///< until half <= 1 K; nothing when it cannot be said
};

/// Settled value of an unfinished warm-up with its 95 % interval, or why there is none.
/// Method: variable projection (Golub & Pereyra, SIAM J. Numer. Anal. 10, 1973) on two exponentials, mixture over time
/// constants and orders, autocorrelation after Marriott & Pope (Biometrika 41, 1954). Equations: docs/model/bench.md.
[[nodiscard]] SettleResult settle(const SettleInput& input);

} // namespace core::bench
