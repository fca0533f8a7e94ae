// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/measure.h"

#include <array>

namespace app {

/// What a size can be measured with, or come from, in the order a form offers it.
inline constexpr std::array<core::Source, 10> sizeSources{
    core::Source::Caliper,  core::Source::SteelRule, core::Source::Drawing,   core::Source::Sheet,
    core::Source::Standard, core::Source::Printed,   core::Source::BentSheet, core::Source::LaserCut,
    core::Source::HandCut,  core::Source::Estimate};

} // namespace app
