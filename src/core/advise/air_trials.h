// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/stages/evaluate.h"

namespace core::advise {

/// One change tried on the model for the sake of temperatures.
struct AirTrial {
    Change change;
    Sentence text;       ///< e.g. "Fan 92, top turned round"
    air::Prediction air; ///< under the conditions of the evaluation, with bands
};

/// Each dust screen off, each fan turned round and at full speed, one at a time. @p stop: true ends it early.
[[nodiscard]] std::vector<AirTrial> airTrials(const Project& project, const stages::Evaluation& now,
                                              const std::function<bool()>& stop = {});

} // namespace core::advise
