// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/bench/settle_fit.h"

namespace core::bench {

/// F of the strongest step with a lag inside the window, and where it is, s.
struct Break {
    double f = 0, atS = 0;
};
[[nodiscard]] Break strongestBreak(const Binned& bins, const ExponentialFit& two, const std::vector<double>& residual);

} // namespace core::bench
