// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/verdict/judge.h"

namespace core::verdict {

/// The limit that decides over a temperature: of all that apply to it, the one that is kept worst.
struct Deciding {
    Mark mark = Mark::None; ///< None: no limit applies
    Sentence name;          ///< "CPU cap" of the brief, or "its maker's limit"
    bool ofMaker = false;   ///< the maker's own limit, no target of the brief
    double limit = 0;       ///< °C
    double value = 0;       ///< °C: measured where a run proves it, else predicted
    double band = 0;        ///< half width, K
    double headroom = 0;    ///< K; negative: broken
    Basis basis = Basis::Predicted;
    bool simulated = false; ///< measured in a simulated run
    bool slowsDown = false; ///< held at its limit by giving less
};

/// The one place that judges the temperature of a part: list, tab, rail, drawing and Working take it from here.
/// A part that is not in the prediction has no mark.
[[nodiscard]] Deciding temperatureOf(const stages::Evaluation& e, const RevisionVerdict& verdict,
                                     std::string_view mount);

/// All gaps, and what else was found about room; None: nothing is placed that could meet anything.
[[nodiscard]] Mark markOfFit(const stages::Evaluation& e);
/// All temperatures.
[[nodiscard]] Mark markOfHeat(const stages::Evaluation& e, const RevisionVerdict& verdict);
[[nodiscard]] Mark markOfNoise(const RevisionVerdict& verdict);
/// What a station has to say as a whole; None: there is nothing in it. Not of Bench, which is about runs.
[[nodiscard]] Mark markOfStation(const stages::Evaluation& e, const RevisionVerdict& verdict, rules::Station station);

} // namespace core::verdict
