// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/clearance_rules.h"

#include <algorithm>
#include <array>

namespace core::fit {
namespace {
constexpr std::string_view judged = word("engineering judgement");
constexpr std::string_view common = word("common practice, no source");

template <class... Lengths> consteval Why because(Pattern<sizeof...(Lengths)> pattern, Lengths... lengths) {
    return {pattern.text, sizeof...(Lengths), {lengths...}};
}

constexpr Why bladesNear = because("plugs and leads near moving blades");
constexpr Why inTheWay = because("a solid before the blades stops them at {} and whines below {}", 0.0, 5.0);
constexpr Why straightTool =
    because("a straight screwdriver needs a free line along the screw, else a flexible or angled one");

constexpr std::array<ClearanceRule, 40> rules{{
    {"plug-blades", Face::KeepOut, Face::Blades, 5.0, bladesNear, judged},
    {"plug-fan", Face::KeepOut, Face::CoolerFan, 5.0, bladesNear, judged},
    {"plug-solid", Face::KeepOut, Face::Solid, 0.0, because("the plug takes all of its space, and no more"), judged},
    {"plug-plug", Face::KeepOut, Face::KeepOut, 0.0, because("two plugs cannot share one space"), judged},
    {"lead-blades", Face::Lead, Face::Blades, 5.0, because("leads and risers near moving blades"), judged},
    {"lead-fan", Face::Lead, Face::CoolerFan, 5.0, because("leads and risers near moving blades"), judged},
    {"lead-solid", Face::Lead, Face::Solid, 0.0, because("a lead takes all of its space, and no more"), judged},
    {"lead-closed", Face::Lead, Face::ClosedPanel, 0.0, because("a lead takes all of its space, and no more"), judged},
    {"lead-open", Face::Lead, Face::OpenPanel, 0.0, because("a lead takes all of its space, and no more"), judged},
    {"tool-solid", Face::Tool, Face::Solid, 0.0, straightTool, common},
    {"tool-closed", Face::Tool, Face::ClosedPanel, 0.0, straightTool, common},
    {"plug-closed", Face::KeepOut, Face::ClosedPanel, 0.0, because("the plug takes all of its space, and no more"),
     judged},
    {"plug-open", Face::KeepOut, Face::OpenPanel, 0.0, because("the plug takes all of its space, and no more"), judged},
    {"fan-radiator", Face::Blades, Face::Radiator, 0.0, because("a fan sits on its radiator and needs nothing between"),
     common},
    {"fan-tower", Face::Blades, Face::Tower, 0.0, because("a fan sits on its cooler and needs nothing between"),
     common},
    {"fan-fan", Face::AnyFan, Face::AnyFan, 10.0, because("two fans face to face take each other's air"), judged, true,
     3.0},
    {"blades-open", Face::Blades, Face::OpenPanel, 5.0, because("a fan breathes through a grille from {}", 5.0), judged,
     true, 3.0},
    {"cooler-fan-open", Face::CoolerFan, Face::OpenPanel, 5.0,
     because("a cooler breathes through a grille from {}", 5.0), judged, true, 3.0},
    {"supply-open", Face::SupplyIntake, Face::OpenPanel, 5.0,
     because("the intake of a supply breathes through a grille from {}", 5.0), judged, true},
    {"radiator-open", Face::Radiator, Face::OpenPanel, 5.0,
     because("a radiator breathes through a grille from {}", 5.0), judged, true},
    {"tower-open", Face::Tower, Face::OpenPanel, 5.0, because("a cooler breathes through a grille from {}", 5.0),
     judged, true},
    {"blades-closed", Face::Blades, Face::ClosedPanel, 10.0,
     because("a fan before a closed panel needs room to breathe"), judged, true, 3.0},
    {"blades-face", Face::Blades, Face::AnyClosed, 10.0, because("a fan before a closed face needs room to breathe"),
     judged, true, 3.0},
    {"cooler-fan-closed", Face::CoolerFan, Face::ClosedPanel, 15.0,
     because("a cooler before a closed panel needs room to breathe"), judged, true, 3.0},
    {"cooler-fan-frame", Face::CoolerFan, Face::Frame, 15.0,
     because("a cooler before a closed wall needs room to breathe"), judged, true, 3.0},
    {"cooler-fan-face", Face::CoolerFan, Face::AnyClosed, 15.0,
     because("a cooler before a closed face needs room to breathe"), judged, true, 3.0},
    {"supply-closed", Face::SupplyIntake, Face::ClosedPanel, 15.0,
     because("the intake of a supply before a closed panel"), common, true},
    {"supply-frame", Face::SupplyIntake, Face::Frame, 15.0, because("the intake of a supply before a closed wall"),
     common, true},
    {"supply-face", Face::SupplyIntake, Face::AnyClosed, 15.0, because("the intake of a supply before a closed face"),
     common, true},
    {"radiator-closed", Face::Radiator, Face::AnyClosed, 10.0,
     because("a radiator before a closed face needs room to breathe"), judged, true},
    {"tower-closed", Face::Tower, Face::ClosedPanel, 10.0,
     because("the fins of a tower before a closed panel need room to breathe"), judged, true},
    {"blades-solid", Face::Blades, Face::Solid, 3.0, inTheWay, common},
    {"cooler-fan-solid", Face::CoolerFan, Face::Solid, 3.0, inTheWay, common},
    {"frame-solid", Face::Frame, Face::Solid, 0.5, because("the frame of a screen or fan beside anything at rest"),
     judged},
    {"drive-drive", Face::Drive, Face::Drive, 3.0, because("drives side by side with air between them"), judged},
    {"drive-drive-still", Face::StillDrive, Face::StillDrive, 8.0,
     because("drives side by side with no fan in their chamber"), judged},
    {"card-back", Face::CardBack, Face::AnyClosed, 2.0, because("the back of a card before a wall"), judged},
    {"intake-desk", Face::OpenPanel, Face::Desk, 5.0,
     because("an opening underneath needs feet to breathe: {} to {}", 5.0, 10.0), common, true, 0},
    {"board-underside", Face::BoardUnderside, Face::ClosedPanel, 2.5, because("solder side above the tray"),
     word("ATX specification")},
    {"solid", Face::Solid, Face::Solid, 0.5, because("two parts at rest"), judged},
}};

bool stands(Face ofRow, Face face) {
    return ofRow == face || (ofRow == Face::AnyClosed && isClosed(face)) ||
           (ofRow == Face::AnyFan && (face == Face::Blades || face == Face::CoolerFan || face == Face::SupplyIntake));
}
/// An open panel is a panel: what holds before a closed one for other reasons than air holds before it.
Face asPanel(Face face) { return face == Face::OpenPanel ? Face::ClosedPanel : face; }

} // namespace

bool breathes(Face face) {
    switch (face) {
    case Face::Blades:
    case Face::CoolerFan:
    case Face::SupplyIntake:
    case Face::Radiator:
    case Face::Tower:
    case Face::AnyFan:
        return true;
    default:
        return false;
    }
}

bool isClosed(Face face) {
    switch (face) {
    case Face::Solid:
    case Face::ClosedPanel:
    case Face::Drive:
    case Face::StillDrive:
    case Face::BoardUnderside:
    case Face::CardBack:
    case Face::Frame:
    case Face::AnyClosed:
        return true;
    default:
        return false;
    }
}

Sentence Why::sentence() const {
    std::vector<Sentence::Piece> pieces;
    for (std::size_t i = 0; i < count; ++i)
        pieces.emplace_back(figure::mm(mm[i], 0).bare());
    return {text, pieces};
}

std::span<const ClearanceRule> clearanceRules() { return rules; }

const ClearanceRule& clearanceFor(Face a, Face b) {
    for (const ClearanceRule& rule : rules)
        if ((stands(rule.one, a) && stands(rule.other, b)) || (stands(rule.one, b) && stands(rule.other, a)))
            return rule;
    const auto either = [&](Face face) { return a == face || b == face; };
    // What no row names: a keep-out needs its space only, a radiator or tower is a closed face to another fan.
    if (either(Face::KeepOut))
        return *clearanceRule("plug-solid");
    if (either(Face::Lead))
        return *clearanceRule("lead-solid");
    if (either(Face::Tool))
        return *clearanceRule("tool-solid");
    if (either(Face::OpenPanel))
        return clearanceFor(asPanel(a), asPanel(b));
    const auto other = [&](Face face) { return a == face ? b : a; };
    for (const Face face : {Face::Radiator, Face::Tower})
        if (either(face) && breathes(other(face)))
            return clearanceFor(other(face), Face::Solid);
    return rules.back();
}

const ClearanceRule& touchingFor(Face a, Face b) {
    const auto either = [&](Face face) { return a == face || b == face; };
    return *clearanceRule(either(Face::Blades)      ? "blades-solid"
                          : either(Face::CoolerFan) ? "cooler-fan-solid"
                                                    : "solid");
}

const ClearanceRule* clearanceRule(std::string_view id) {
    const auto it = std::find_if(rules.begin(), rules.end(), [&](const ClearanceRule& r) { return r.id == id; });
    return it == rules.end() ? nullptr : &*it;
}

} // namespace core::fit
