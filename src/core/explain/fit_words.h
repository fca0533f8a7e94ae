// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/advise/what_to_change.h"
#include "core/explain/working.h"
#include "core/fit/insertion.h"
#include "core/fit/measure_next.h"
#include "core/fit/room.h"

namespace core::explain {

/// The words that the screen, the command line and the report use for answers of the Fit station.
/// "12.2 mm short at worst", or "keeps 0.6 mm at worst": what is left of a gap over its need, with every tolerance
/// against it.
[[nodiscard]] Sentence marginText(double marginMm);
[[nodiscard]] Sentence textOf(const fit::Room& room);
[[nodiscard]] Sentence textOf(const fit::MeasureNext& next);
[[nodiscard]] Sentence textOf(const advise::Mend& mend);
/// The same without the change itself: what it wins, what it costs, and what becomes worse.
[[nodiscard]] Sentence outcomeOf(const advise::Mend& mend);
/// "ITX board K2: eps-8 from SFX 550 by EPS lead", or what is short.
[[nodiscard]] Sentence textOf(const rules::PortMap& map, std::size_t need);

/// "caliper, ±0.1 mm": where a size comes from, and how far it may be off for that.
[[nodiscard]] Sentence textOf(Source source);

[[nodiscard]] Working ofRoom(const fit::Room& room);
[[nodiscard]] Working ofWay(const fit::Insertion& way);
[[nodiscard]] Working ofMeasure(const fit::MeasureNext& next);
/// Of a finding that is about what is not there, or about the whole: what was found, and what would mend it.
[[nodiscard]] Working ofFinding(const rules::Finding& finding);
[[nodiscard]] Found foundOf(const rules::Finding& finding);
[[nodiscard]] Working ofMend(const advise::Mend& mend, const fit::Gap& gap);

} // namespace core::explain
