// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/stages/evaluate.h"

namespace core::stages {

/// Of rated power, where no load says how a machine idles: engineering judgement.
constexpr double usualIdleShare = 0.15;

/// The same build under one load: settled.
struct AtLoad {
    std::string id; ///< of the project's load; empty: a usual one, where the project states fewer than two
    Sentence name;
    double noiseDba = 0;
    double powerW = 0;
    std::optional<double> processorC, cardC;          ///< of the hottest of a kind
    bool throttled = false;                           ///< a part is held back at its limit
    std::vector<std::pair<std::string, double>> fans; ///< mounts with their share of rated speed
};

/// What atLoads() will answer rows for, in its order.
[[nodiscard]] Sentences loadNames(const Project& project);
/// Noise and temperatures under every load of the project. Where it states fewer than two: idle, mixed use and full
/// load, with usual shares (engineering judgement).
[[nodiscard]] std::vector<AtLoad> atLoads(const Project& project, const Evaluation& now,
                                          const std::function<bool()>& stop = {});

} // namespace core::stages
