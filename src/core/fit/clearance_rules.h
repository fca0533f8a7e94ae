// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/sentence.h"

#include <array>
#include <span>
#include <string_view>

namespace core::fit {

/// What a body shows to its neighbour in one direction. The last two stand for several: any face of a rule's row that
/// is closed to air, and any that has a fan behind it.
enum class Face {
    Solid,
    ClosedPanel,
    OpenPanel,
    Blades,
    CoolerFan,
    SupplyIntake,
    Radiator,
    Tower,
    Drive,
    StillDrive,
    BoardUnderside,
    CardBack,
    Frame,
    KeepOut,
    Lead,
    Tool,
    Desk,
    AnyClosed,
    AnyFan
};

/// Air goes in or out through it.
[[nodiscard]] bool breathes(Face face);
/// A wall to the air: anything that neither breathes nor lets air pass, keep-outs apart.
[[nodiscard]] bool isClosed(Face face);

/// Why a gap must be that wide: a sentence and the lengths it names, mm.
struct Why {
    const char* text = nullptr;
    std::size_t count = 0;
    std::array<double, 2> mm{};
    [[nodiscard]] Sentence sentence() const;
};

/// What a gap must be at least, by what faces what; symmetric in the two faces.
struct ClearanceRule {
    std::string_view id;
    Face one;
    Face other;
    double requiredMm;
    Why reason;
    std::string_view source;
    bool breathing = false; ///< the need is one of air: less is short of breath, not yet a touch
    double touchMm = 0.5;   ///< of a breathing need: below this something may touch as well
};

/// A breathing need holds for what covers at least this share of the face that breathes; a corner in the way only must
/// not be touched. Engineering judgement.
constexpr double coverShare = 0.25;
/// Below this share of its need the ring an intake breathes through is smaller than half its fan. Engineering
/// judgement.
constexpr double blockedShare = 1.0 / 3;

/// All rules, most special first.
[[nodiscard]] std::span<const ClearanceRule> clearanceRules();
/// The rule of that id; null when there is none.
[[nodiscard]] const ClearanceRule* clearanceRule(std::string_view id);
/// The rule for two faces; there is always one (solid against solid).
[[nodiscard]] const ClearanceRule& clearanceFor(Face a, Face b);
/// The rule where only a corner of what breathes is covered: what it must not touch.
[[nodiscard]] const ClearanceRule& touchingFor(Face a, Face b);

} // namespace core::fit
