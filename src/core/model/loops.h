// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/build.h"

namespace core {

/// Blocks and radiators that share their liquid.
struct LiquidLoop {
    std::string name; ///< empty: that of all which state none
    std::vector<const Placed*> blocks, radiators;
};

[[nodiscard]] bool isBlock(const Placed& p);

/// The liquid loops of a build in the order of their first part. They point into @p build.
[[nodiscard]] std::vector<LiquidLoop> loopsOf(const Build& build);

/// Share of the liquid of a loop that is left after the years its block states.
[[nodiscard]] double fillLeft(const CoolerSpec& block);

} // namespace core
