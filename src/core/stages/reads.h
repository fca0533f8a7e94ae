// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/build.h"

namespace core::stages {

// What a stage reads of a build. Two builds that read alike give the same result, so it need not be computed again.

/// Where things are and what they are called: sizes, tolerances, frames, bodies, plugs, openings. No watts, speeds,
/// prices, masses, screws or steps.
[[nodiscard]] bool sameShapes(const Build& a, const Build& b);
/// The same with watts and speeds: all that moves and warms air.
[[nodiscard]] bool sameForAir(const Build& a, const Build& b);

} // namespace core::stages
