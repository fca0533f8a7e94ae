// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/verdict/judge.h"

namespace core::advise {

/// One change tried on the model for the sake of a gap: what it wins there and what it costs elsewhere.
struct Mend {
    Change change;
    std::optional<Change> with; ///< made together with a second one, where none alone is enough
    bool takesOut = false;      ///< a part is lost by it
    Sentence text;              ///< the change in words
    double wonMm = 0;           ///< on the worst-case margin of the gap
    double marginMm = 0;        ///< at worst, afterwards; at most the reach of the check
    double spareMm = 0;         ///< nominal over what is needed, afterwards
    bool starved = false;       ///< it closes then, and is still short of air
    Mark after = Mark::None;    ///< of the gap
    bool gone = false;          ///< the two are no longer near each other
    bool mends = false;    ///< the need is kept, and nothing else is wrong that was not before; it may be short of air
    int wrongs = 0;        ///< of what it spoils, without what is only short of air
    Sentences spoils;      ///< gaps and checks that become worse: "Cooler to Side fan: overlap 2.0 mm"
    double processorK = 0; ///< predicted change of temperature; NaN without one
    double cardK = 0;
    double noiseDb = 0;
    int screws = 0;
    double minutes = 0;
    double price = 0;
    double volumeL = 0; ///< outside
    Sentence cost;      ///< all of these in words
    /// Holds only when nothing is left to wish for: what still is short of air stays open.
    [[nodiscard]] Mark mark() const {
        return mends ? (starved ? Mark::Open : Mark::Holds) : spoils.empty() ? Mark::Open : Mark::Crossed;
    }
};

/// Single changes that would help a gap: other variants of the mounts of both ends, other parts of the same kind from
/// the shelf, moves along slides or by new holes, another plug, other feet, another case, taking a fan or made part
/// out. Each one is tried on the model. Where no single one mends it, pairs of those that help are tried. Sorted: those
/// that mend it first, taking a part out last, then by what they spoil, by millimetres won and by cost.
[[nodiscard]] std::vector<Mend> whatToChange(const Project& project, const stages::Evaluation& now, const fit::Gap& gap,
                                             std::string_view loadId = {}, const std::function<bool()>& stop = {});

/// Where nothing on the shelf helps: the sizes of the gap's chain that could be edited, the largest first, in words.
[[nodiscard]] Sentence whatToEdit(const fit::Gap& gap);

} // namespace core::advise
