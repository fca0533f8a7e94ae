// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/acoustics/noise.h"
#include "core/bench/analyse.h"
#include "core/make/plan.h"
#include "core/rules/findings.h"

#include <functional>

namespace core::stages {

/// What is computed of a revision, each from what stands before it and from the project. Those up
/// to the findings make an Evaluation.
enum class Stage {
    Geometry,
    Gaps,
    Wiring,
    Air,
    Noise,
    Making,
    BriefFindings,
    FitFindings,
    AirFindings,
    MakeFindings,
    Run,
    Verdict,
    Rooms,
    Mends,
    Measures,
    Ways,
    Trials,
    Search,
    Preview,
    Schools,
    Explore,
    Loads,
    WarmUp,
    Learn
};
constexpr std::size_t stageCount = static_cast<std::size_t>(Stage::Learn) + 1; ///< Learn is the last
[[nodiscard]] std::string_view stageWord(Stage stage);
/// Asked before a stage starts; false: its result is not wanted any more.
using Watch = std::function<bool(Stage)>;

/// Everything computed of one revision. Parts point into the project.
struct Evaluation {
    Build build;
    fit::FitResult fit;
    air::Prediction air;
    acoustics::Noise noise;
    make::Plan make;
    rules::PowerBudget power;
    rules::Wiring wiring;
    /// By the stage that found them: of the parts and the brief, of gaps, of air, of what is made.
    struct Found {
        std::vector<rules::Finding> brief, fit, air, make;
    };
    Found found;
    std::vector<rules::Finding> findings; ///< all of them, heaviest first
    double massG = 0;
    double price = 0;
};

/// An evaluation that is at hand, of this or another revision or project: a stage that reads the same as it did there
/// is not computed again.
struct Before {
    const Project& project;
    const Evaluation& evaluation;
};
struct Options {
    std::string_view load = {}; ///< empty: the load of the brief
    const Before* before = nullptr;
    Watch watch = {};
};

/// The one path from a project to results. Errors: as resolve() and make::plan(); "cancelled" where the watch ended it.
[[nodiscard]] Result<Evaluation> evaluate(const Project& project, std::string_view revisionId,
                                          const Options& options = {});
/// The same of a build that is at hand, e.g. a trial. Errors: as make::plan().
[[nodiscard]] Result<Evaluation> evaluateBuild(const Project& project, Build build, const Options& options = {});

/// Options of the bench analysis that follow from the project: reference room and limits of parts.
[[nodiscard]] bench::AnalyseOptions benchOptions(const Project& project, const Build* build);

} // namespace core::stages
