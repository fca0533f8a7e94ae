// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/clearance_rules.h"

#include <array>

namespace core::fit {
namespace {
constexpr std::string_view judged = "engineering judgement";
constexpr std::string_view common = "common practice, no source";

constexpr std::array<ClearanceRule, 17> rules{{
    {"plug-blades", Face::KeepOut, Face::Blades, 5.0, "plugs and leads near moving blades", judged},
    {"plug-fan", Face::KeepOut, Face::CoolerFan, 5.0, "plugs and leads near moving blades", judged},
    {"plug-solid", Face::KeepOut, Face::Solid, 0.0, "the plug takes all of its space, and no more", judged},
    {"plug-closed", Face::KeepOut, Face::ClosedPanel, 0.0, "the plug takes all of its space, and no more", judged},
    {"plug-open", Face::KeepOut, Face::OpenPanel, 0.0, "the plug takes all of its space, and no more", judged},
    {"blades-blades", Face::Blades, Face::Blades, 3.0, "blades against blades whine, and stop each other at 0", judged},
    {"blades-cooler-fan", Face::Blades, Face::CoolerFan, 3.0, "blades against blades whine, and stop each other at 0", judged},
    {"blades-solid", Face::Blades, Face::Solid, 3.0, "a solid before the blades stops them at 0 and whines below 5", common},
    {"blades-closed", Face::Blades, Face::ClosedPanel, 3.0, "a closed panel before the blades", judged},
    {"cooler-fan-open", Face::CoolerFan, Face::OpenPanel, 5.0, "a cooler breathes through a grille from 5", judged},
    {"cooler-fan-closed", Face::CoolerFan, Face::ClosedPanel, 15.0, "a cooler before a closed panel needs room to breathe", judged},
    {"cooler-fan-solid", Face::CoolerFan, Face::Solid, 3.0, "a solid before the blades stops them at 0 and whines below 5", common},
    {"supply-closed", Face::SupplyIntake, Face::ClosedPanel, 15.0, "the intake of a supply before a closed panel", common},
    {"drive-drive", Face::Drive, Face::Drive, 3.0, "drives side by side with air between them", judged},
    {"board-underside", Face::BoardUnderside, Face::ClosedPanel, 2.5, "solder side above the tray", "ATX specification (from memory)"},
    {"board-underside-open", Face::BoardUnderside, Face::OpenPanel, 2.5, "solder side above the tray", "ATX specification (from memory)"},
    {"solid", Face::Solid, Face::Solid, 0.5, "two parts at rest", judged},
}};
} // namespace

std::span<const ClearanceRule> clearanceRules() { return rules; }

const ClearanceRule& clearanceFor(Face a, Face b) {
    for (const ClearanceRule& rule : rules)
        if ((rule.one == a && rule.other == b) || (rule.one == b && rule.other == a))
            return rule;
    // A keep-out against any other face still needs its space only; a face without a rule of its own is a solid.
    if (a == Face::KeepOut || b == Face::KeepOut)
        return rules[2];
    if (a == Face::Blades || b == Face::Blades)
        return rules[7];
    return rules.back();
}

} // namespace core::fit
