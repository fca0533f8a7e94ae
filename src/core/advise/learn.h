// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/calibrate.h"
#include "core/verdict/judge.h"

namespace core::advise {

/// What the runs of a project say about the inputs of its model: those that settled, under their own room, load and
/// logged fan speeds. Runs of other revisions count as far as parts are the same; simulated ones in a project that says
/// of itself that it is a simulation.
[[nodiscard]] std::vector<air::Observation> observationsOf(const Project& project, const verdict::RunAnalyses& runs);

/// A test that would narrow a prediction, and what of its band it would leave.
struct NextRun {
    Sentence what;
    double bandK = 0;
};
/// Fan at full speed, each screen off, one load alone: which of them, run on this build, leaves the narrowest band of
/// the part; best first.
[[nodiscard]] std::vector<NextRun> nextRuns(const Project& project, const stages::Evaluation& now,
                                            const std::vector<air::Observation>& soFar, std::string_view mount,
                                            const std::function<bool()>& stop = {});

} // namespace core::advise
