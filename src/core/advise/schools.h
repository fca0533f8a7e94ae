// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/bands.h"
#include "core/stages/evaluate.h"

namespace core::advise {

/// What a way of building does against the one that is there.
enum class Against { Now, Better, Worse, Neither, Undecided, DoesNotGoIn };
[[nodiscard]] std::string_view againstWord(Against against);

/// One side of a question on which builders disagree, worked out for this build.
struct School {
    Sentence question, name;
    std::vector<Change> changes; ///< against the revision; empty: it is what is there
    Against against = Against::Neither;
    Sentence why; ///< of DoesNotGoIn
    double inM3h = 0, outM3h = 0;
    std::optional<double> processorC, cardC;
    std::optional<air::Difference> processor, card; ///< against what is there
    double noiseDb = 0;                             ///< difference
    double unfilteredShare = 0;
    double price = 0; ///< difference
};

/// Pressure, screens, sides, thickness of fans, air and liquid: each side of each question that the build and the
/// shelf can answer. Better or worse is told by the temperatures, where they differ by more than their band. @p load:
/// the one that @p now is of; empty: the load of the brief.
[[nodiscard]] std::vector<School> schools(const Project& project, const stages::Evaluation& now,
                                          const std::function<bool()>& stop = {}, std::string_view load = {});

} // namespace core::advise
