// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/box_edits.h"
#include "core/model/build.h"

namespace core::box {

/// Width of a slot at the rear, mm (PCI Express card electromechanical specification: slot pitch).
constexpr double slotPitchMm = 20.32;

/// Where the slot covers of the case lie in its rear wall, the first before the bracket of the card: they go on from
/// the card's own board to the side it faces. Empty: no number of covers is stated, or no card stands along the depth.
[[nodiscard]] std::vector<Extent> slotCoversOf(const Build& build);

} // namespace core::box
