// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/network.h"

#include <functional>

namespace core::air {

/// A load that begins on a machine that has settled at idle.
struct WarmUp {
    struct At {
        double seconds = 0;
        Solution state; ///< temperatures of passive parts as their sensors read
    };
    std::vector<At> rows;
    double everyS = 30;
    std::vector<double> withinS; ///< by cooled, then by passive part: from when on it stays within 1 K of its settled
                                 ///< temperature; negative: not in that time
    /// Of the cooled and the passive parts in that order, in a row.
    [[nodiscard]] double partC(std::size_t row, std::size_t part) const;
};

/// Plays @p minutes, keeping a row every @p everyS seconds. @p settled: what it ends at. @p stop ends early with what
/// there is.
[[nodiscard]] WarmUp warmUp(const Network& network, const Solution& settled, double minutes, double everyS,
                            const std::function<bool()>& stop = {});

} // namespace core::air
