// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/part.h"

namespace core::facts {

/// What is taken where nobody states it, or what a judgement rests on. Each stands here once, and is used by name.
struct Fact {
    double value;
    std::string_view unit, what, source;
};

// ---- what a prediction can tell ----
constexpr Fact differenceBand{3, "K", "half width of a predicted difference of temperatures",
                              "engineering judgement; docs/model/air.md compares with measured builds"};
constexpr Fact noticeable{1.5, "K", "a smaller predicted difference is not told",
                          "half of its band: engineering judgement"};

constexpr Fact toldApart{0.5, "K", "no two runs tell less apart", "engineering judgement"};
constexpr Fact flowBand{0.25, "", "of a predicted flow, as a share of it", "engineering judgement"};

// ---- how the clock that is held falls: power to 1 / exponent, and a share for each kelvin ----
struct ClockLaw {
    double exponent, perK;
    std::string_view source;
};
constexpr ClockLaw processorClock{2.5, 0.0005, "engineering judgement"};
constexpr ClockLaw cardClock{2.8, 0.003, "engineering judgement"};

// ---- minutes that a step takes whose part states none ----
struct StepTime {
    PartKind kind;
    double minutes;
};
constexpr std::array<StepTime, 7> stepTimes{{{PartKind::Board, 6}, // engineering judgement, all of them
                                             {PartKind::Processor, 3},
                                             {PartKind::Cooler, 12},
                                             {PartKind::Card, 5},
                                             {PartKind::PowerSupply, 8},
                                             {PartKind::Fan, 4},
                                             {PartKind::Radiator, 10}}};
constexpr Fact otherStep{3, "min", "a part of any other kind", "engineering judgement"};
constexpr Fact leadStep{1.5, "min", "a lead", "engineering judgement"};
[[nodiscard]] constexpr double stepMinutes(PartKind kind) {
    for (const StepTime& time : stepTimes)
        if (time.kind == kind)
            return time.minutes;
    return otherStep.value;
}
constexpr Fact newHolesStep{15, "min", "marking, four holes, filing", "engineering judgement"};

// ---- limits of parts whose maker states none ----
constexpr Fact cardLimit{87, "\u00b0C", "a card with open fans slows down", "common practice, no source"};
constexpr Fact blowerLimit{83, "\u00b0C", "a card with a blower slows down", "common practice, no source"};
[[nodiscard]] constexpr double limitC(const CardSpec& card) {
    return card.limitC > 0 ? card.limitC : card.cooler == CardCooler::Blower ? blowerLimit.value : cardLimit.value;
}

// ---- fans of cards: level at 1 m and full speed, and its speed ----
struct CardFan {
    CardCooler cooler;
    double levelDba, rpm, shutoffPa;
    std::string_view source;
};
constexpr std::array<CardFan, 4> cardFans{{{CardCooler::Single, 40, 3200, 40, "common practice, no source"},
                                           {CardCooler::Dual, 42, 3200, 40, "common practice, no source"},
                                           {CardCooler::Triple, 43, 3000, 40, "common practice, no source"},
                                           {CardCooler::Blower, 52, 4500, 300, "common practice, no source"}}};
[[nodiscard]] constexpr const CardFan& fanOf(CardCooler cooler) { return cardFans[static_cast<std::size_t>(cooler)]; }

// ---- fans of supplies, by form: frame, thickness and speed, level at 1 m at a third of the load and at full ----
struct SupplyFan {
    std::string_view form;
    double frameMm, thicknessMm;
    double rpm; ///< 0: that of its class
    double thirdDba, fullDba;
    std::string_view source;
};
/// The last row stands for every other form.
constexpr std::array<SupplyFan, 5> supplyFans{{{"flex", 40, 20, 9000, 32, 45, "engineering judgement: small and fast"},
                                               {"1u", 40, 20, 9000, 32, 45, "engineering judgement: small and fast"},
                                               {"tfx", 80, 15, 0, 24, 38, "engineering judgement"},
                                               {"atx", 120, 25, 0, 16, 30, "engineering judgement"},
                                               {"", 92, 15, 0, 18, 34, "engineering judgement"}}};
[[nodiscard]] constexpr const SupplyFan& fanOfSupply(std::string_view form) {
    for (const SupplyFan& fan : supplyFans)
        if (fan.form == form)
            return fan;
    return supplyFans.back();
}

// ---- peaks ----
constexpr Fact peakSeconds{28, "s", "a processor or card holds its peak power", "common practice, no source"};

// ---- liquid loops ----
constexpr Fact coldPlate{0.08, "K/W", "of a cold plate, or of a base with heat pipes", "engineering judgement"};
constexpr Fact loopHeat{1600, "J/K", "heat that a loop holds", "engineering judgement"};
constexpr Fact blockAlone{0.3, "W/K", "what a block without a radiator gives off", "engineering judgement"};
constexpr Fact liquidLoss{0.015, "", "of its liquid that a sealed loop loses in a year", "engineering judgement"};
constexpr Fact pumpWithAir{40, "dB", "louder, times the share of the liquid that is lost", "engineering judgement"};

// ---- what stands before a fan ----
constexpr Fact obstacleNoise{8, "dB", "louder with a plate right before the whole face", "engineering judgement"};

// ---- leads whose sheet states no more than their length ----
constexpr Fact roundLead{6, "mm", "diameter of a sleeved lead", "engineering judgement"};
constexpr Fact flatLead{2, "mm", "thickness of a flat lead or riser", "engineering judgement"};
constexpr Fact riserWidth{60, "mm", "of the ribbons of a riser side by side", "engineering judgement"};
constexpr Fact riserBend{10, "mm", "least bend radius of a riser", "common practice, no source"};
constexpr Fact roundBend{3, "", "least bend radius of a round lead, in diameters", "engineering judgement"};
constexpr Fact bundleFill{0.7, "", "of the round of a bundle is leads", "engineering judgement"};

constexpr Fact fanBlades{7, "", "blades of a fan, for its tone", "common practice, no source: 7 or 9"};

// ---- what makes noise without a fan, at 1 m ----
constexpr Fact driveLevel{29, "dB(A)", "a 3.5 in drive while it seeks", "engineering judgement"};
constexpr Fact drivePanel{3, "dB", "more where it is screwed to a panel without rubber", "engineering judgement"};
constexpr Fact pumpLevel{22, "dB(A)", "a pump without air in it", "engineering judgement"};

/// Share of its sustained draw that a part takes under a load; what is neither processor nor card draws the same
/// always.
[[nodiscard]] constexpr double loadShare(PartKind kind, double processorShare, double cardShare) {
    return kind == PartKind::Processor ? processorShare : kind == PartKind::Card ? cardShare : 1.0;
}

} // namespace core::facts
