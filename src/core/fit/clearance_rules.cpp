// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/clearance_rules.h"

#include <algorithm>
#include <array>

namespace core::fit {
namespace {
constexpr std::string_view judged = "engineering judgement";
constexpr std::string_view common = "common practice, no source";

constexpr std::array<ClearanceRule, 33> rules{{
    {"plug-blades", Face::KeepOut, Face::Blades, 5.0, "plugs and leads near moving blades", judged},
    {"plug-fan", Face::KeepOut, Face::CoolerFan, 5.0, "plugs and leads near moving blades", judged},
    {"plug-solid", Face::KeepOut, Face::Solid, 0.0, "the plug takes all of its space, and no more", judged},
    {"plug-plug", Face::KeepOut, Face::KeepOut, 0.0, "two plugs cannot share one space", judged},
    {"lead-blades", Face::Lead, Face::Blades, 5.0, "leads and risers near moving blades", judged},
    {"lead-fan", Face::Lead, Face::CoolerFan, 5.0, "leads and risers near moving blades", judged},
    {"lead-solid", Face::Lead, Face::Solid, 0.0, "a lead takes all of its space, and no more", judged},
    {"lead-closed", Face::Lead, Face::ClosedPanel, 0.0, "a lead takes all of its space, and no more", judged},
    {"lead-open", Face::Lead, Face::OpenPanel, 0.0, "a lead takes all of its space, and no more", judged},
    {"tool-solid", Face::Tool, Face::Solid, 0.0, "a straight screwdriver needs a free line along the screw, else a flexible or angled one", common},
    {"tool-closed", Face::Tool, Face::ClosedPanel, 0.0, "a straight screwdriver needs a free line along the screw, else a flexible or angled one", common},
    {"frame-solid", Face::Frame, Face::Solid, 0.5, "the frame of a screen or fan beside anything at rest", judged},
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
    {"drive-drive-still", Face::StillDrive, Face::StillDrive, 8.0, "drives side by side with no fan in their chamber", judged},
    {"card-back-closed", Face::CardBack, Face::ClosedPanel, 2.0, "the back of a card before a wall", judged},
    {"card-back-open", Face::CardBack, Face::OpenPanel, 2.0, "the back of a card before a wall", judged},
    {"card-back-frame", Face::CardBack, Face::Frame, 2.0, "the back of a card before a wall", judged},
    {"intake-desk", Face::OpenPanel, Face::Desk, 5.0, "an opening underneath needs feet to breathe: 5 to 10", common},
    {"supply-frame", Face::SupplyIntake, Face::Frame, 15.0, "the intake of a supply before a closed wall", common},
    {"cooler-fan-frame", Face::CoolerFan, Face::Frame, 15.0, "a cooler before a closed wall needs room to breathe", judged},
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
    const auto either = [&](Face face) { return a == face || b == face; };
    if (either(Face::KeepOut))
        return *clearanceRule("plug-solid");
    if (either(Face::Lead))
        return *clearanceRule("lead-solid");
    if (either(Face::Tool))
        return *clearanceRule("tool-solid");
    if (either(Face::Blades))
        return *clearanceRule("blades-solid");
    return rules.back();
}

const ClearanceRule* clearanceRule(std::string_view id) {
    const auto it = std::find_if(rules.begin(), rules.end(), [&](const ClearanceRule& r) { return r.id == id; });
    return it == rules.end() ? nullptr : &*it;
}

} // namespace core::fit
