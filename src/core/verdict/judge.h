// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/stages/evaluate.h"

namespace core::verdict {

using RunAnalyses = std::map<std::string, std::shared_ptr<const bench::RunAnalysis>>; ///< by run id

enum class Basis { Measured, Predicted, Computed, Missing };
[[nodiscard]] std::string_view basisWord(Basis basis);

struct TargetResult {
    std::string id;
    std::string name;
    TargetKind kind = TargetKind::Temperature;
    std::string subject;
    double value = 0, low = 0, high = 0; ///< units of the target kind; NaN when missing
    double limit = 0;
    double headroom = 0; ///< positive: kept
    Mark state = Mark::None;
    Basis basis = Basis::Missing;
    std::string run;        ///< where a measured value comes from; the last of several
    int runs = 0;           ///< that count together
    bool simulated = false; ///< measured in a simulated run of a project that says it is a simulation
    Sentence why;           ///< what is missing, or how it was found
};

/// "measured, simulated, 2 runs": where a value comes from, with what must be said beside it.
[[nodiscard]] Sentence basisText(const TargetResult& target);

/// What is left to do, with the mark of what it is about.
struct Reason {
    Sentence text;
    Mark mark = Mark::Open;
};

struct RevisionVerdict {
    std::string id;
    std::vector<TargetResult> targets;
    int proven = 0; ///< held, and measured or computed
    int blockers = 0;
    bool canBeValidated = false;
    bool validated = false;
    std::vector<Reason> before; ///< what is left to do before it can be validated
    std::string problem;        ///< the revision does not resolve
};

/// Targets against measured, else predicted values at the reference room temperature.
[[nodiscard]] RevisionVerdict judge(const Project& project, const stages::Evaluation& evaluation,
                                    const RunAnalyses& runs);

} // namespace core::verdict
