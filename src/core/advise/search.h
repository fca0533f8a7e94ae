// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/verdict/judge.h"

#include <functional>

namespace core::advise {

/// How much each thing counts; any scale, they are taken as shares of their sum.
struct Weights {
    double odds = 1;    ///< chance that every gap keeps its need
    double cooling = 1; ///< processor and card temperature
    double noise = 1;
    double price = 1;
    bool operator==(const Weights&) const = default;
};

struct SearchRequest {
    std::vector<PartKind> kinds; ///< what may be chosen anew: cooler, fan, card, supply ...
    Weights weights;
    std::size_t best = 20;        ///< so many are told
    std::size_t most = 2'000'000; ///< more combinations are refused with words
    bool operator==(const SearchRequest&) const = default;
};

/// What sits at one place in a combination.
struct Choice {
    std::string mount;
    std::string part;
    std::string variant;
}; ///< part empty: nothing there

struct Combination {
    std::vector<Choice> choices;
    std::vector<Change> changes; ///< against the revision it was searched from
    Sentence text;               ///< the choices that differ, in words
    double score = 0;            ///< 0 worst, 1 best of what is possible
    double odds = 0;             ///< chance that every gap keeps its need, gaps taken as independent
    double worstMarginMm = 0;
    double processorC = 0, cardC = 0, noiseDba = 0,
           price = 0; ///< predicted of this very combination; NaN without the part
};

struct SearchResult {
    std::vector<Combination> best; ///< highest score first
    std::size_t combinations = 0;  ///< looked at
    std::size_t fitting = 0;
    Sentences otherwiseShort; ///< gaps that are short whatever is chosen here
    bool cancelled = false;
};

/// All combinations of the shelf's parts of the named kinds at the mounts that take them (fans may be left out),
/// variants included. A combination fits when no gap is short, no part is refused by a yes/no check that the revision
/// passes, and the supply carries it. Gaps of one choice with the rest and of two choices with each other are worked
/// out once; the winners are then resolved and predicted in full. @p progress gets 0..1 and answers false to stop.
/// Errors: nothing to choose, too many combinations.
[[nodiscard]] Result<SearchResult> search(const Project& project, const stages::Evaluation& now,
                                          const SearchRequest& request,
                                          const std::function<bool(double)>& progress = {});

} // namespace core::advise
