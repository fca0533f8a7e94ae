// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/advise/explore.h"

namespace core::advise {

/// One question that is left open and its possible answers, each as changes; the first is what is there.
struct OpenQuestion {
    Turn turn;
    std::vector<std::vector<Change>> answers;
};

/// All that @p request leaves open of a build, each answer one that goes in by itself.
[[nodiscard]] std::vector<OpenQuestion> openQuestions(const Project& project, const stages::Evaluation& now,
                                                      const ExploreRequest& request);

/// Whether changes can be built: nothing is short or refused that is not now.
[[nodiscard]] bool goesIn(const Project& project, const stages::Evaluation& now, const std::vector<Change>& changes);

} // namespace core::advise
