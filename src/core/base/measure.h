// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/choice.h"
#include "core/base/length.h"

namespace core {

/// Where a figure comes from; it sets the default tolerance of a size.
enum class Source {
    Caliper,
    SteelRule,
    Drawing,
    Sheet,
    Estimate,
    BentSheet,
    Printed,
    LaserCut,
    HandCut,
    Standard,
    Computed
};

MD_CHOICES(Source, {Source::Caliper, "caliper"}, {Source::SteelRule, "rule"}, {Source::Drawing, "drawing"},
           {Source::Sheet, "sheet"}, {Source::Estimate, "estimate"}, {Source::BentSheet, "bent-sheet"},
           {Source::Printed, "printed"}, {Source::LaserCut, "laser-cut"}, {Source::HandCut, "hand-cut"},
           {Source::Standard, "standard"}, {Source::Computed, "computed"})

/// The word used in files and on screen, e.g. "caliper".
[[nodiscard]] std::string_view sourceWord(Source source);
/// The source named by @p word, or nothing when there is no such source.
[[nodiscard]] std::optional<Source> sourceFromWord(std::string_view word);

/// How loosely a maker's sheet states a size: cooler heights and card sizes are off more often than others.
enum class SheetKind { Ordinary, CoolerOrCard };

/// Default half-width tolerance of a size of nominal @p value from @p source.
/// Common practice, no source: caliper 0.1, steel rule 0.5, drawing 0.2, sheet 0.5 (1.0 for cooler height and card
/// size), estimate 2; bent sheet 0.5, printed 0.3 or 0.3 %, laser-cut 0.2, hand-cut 1.0 mm.
[[nodiscard]] Length defaultTolerance(Source source, Length value, SheetKind kind = SheetKind::Ordinary);

/// A size with its half-width tolerance and its source.
struct Measure {
    Length value;
    Length tolerance; ///< half width, >= 0
    Source source = Source::Sheet;
    bool toleranceStated = false; ///< false: the tolerance is the default of the source

    friend bool operator==(const Measure&, const Measure&) = default;
};

/// A measure of @p mm with the default tolerance of @p source.
[[nodiscard]] Measure measureMm(double mm, Source source = Source::Sheet, SheetKind kind = SheetKind::Ordinary);

} // namespace core
