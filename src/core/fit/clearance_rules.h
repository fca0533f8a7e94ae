// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <span>
#include <string_view>

namespace core::fit {

/// What a body shows to its neighbour in one direction.
enum class Face { Solid, ClosedPanel, OpenPanel, Blades, CoolerFan, SupplyIntake, Drive, StillDrive, BoardUnderside, CardBack, Frame, KeepOut, Lead, Tool, Desk };

/// What a gap must be at least, by what faces what; symmetric in the two faces.
struct ClearanceRule {
    std::string_view id;
    Face one;
    Face other;
    double requiredMm;
    std::string_view reason;
    std::string_view source;
};

/// All rules, most special first.
[[nodiscard]] std::span<const ClearanceRule> clearanceRules();
/// The rule of that id; null when there is none.
[[nodiscard]] const ClearanceRule* clearanceRule(std::string_view id);
/// The rule for two faces; there is always one (solid against solid).
[[nodiscard]] const ClearanceRule& clearanceFor(Face a, Face b);

} // namespace core::fit
