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
[[nodiscard]] std::string marginText(double marginMm, const Show& show);
[[nodiscard]] std::string textOf(const fit::Room& room, const Show& show);
[[nodiscard]] std::string textOf(const fit::MeasureNext& next, const Show& show);
[[nodiscard]] std::string textOf(const advise::Mend& mend, const Show& show);
/// "ITX board K2: eps-8 from SFX 550 by EPS lead", or what is short.
[[nodiscard]] std::string textOf(const rules::PortMap& map, std::size_t need);

[[nodiscard]] Working ofRoom(const fit::Room& room, const Show& show);
[[nodiscard]] Working ofWay(const fit::Insertion& way);
[[nodiscard]] Working ofMeasure(const fit::MeasureNext& next, const Show& show);
/// Of a finding that is about what is not there, or about the whole: what was found, and what would mend it.
[[nodiscard]] Working ofFinding(const rules::Finding& finding);
[[nodiscard]] Found foundOf(const rules::Finding& finding);
[[nodiscard]] Working ofMend(const advise::Mend& mend, const fit::Gap& gap, const Show& show);

} // namespace core::explain
