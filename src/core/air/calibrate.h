// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/bands.h"

#include <map>

namespace core::air {

/// Settled temperatures of one run, with what was logged of how it ran.
struct Observation {
    std::string run;
    std::string revision;
    Build build;
    Conditions conditions;                ///< the room is the one of the run
    std::map<std::string, double> fanRpm; ///< by mount; where it was logged it goes before the curve
    struct Reading {
        std::string mount;
        double temperatureC = 0;
    };
    std::vector<Reading> readings;
};

/// An input as the runs have it: by how many of its own standard deviations it is off, and what doubt is left.
struct Learned {
    std::string id;
    Sentence what;
    double sigma = 0;  ///< of the input before, as a share
    double sigmas = 0; ///< off its default; the factor is e^(sigma sigmas)
    double left = 1;   ///< standard deviation after, in those of before
    [[nodiscard]] double factor() const { return std::exp(sigma * sigmas); }
};

/// One reading against the model before and after it learned.
struct Compared {
    std::string run, revision, mount;
    double measuredC = 0, beforeC = 0, afterC = 0;
    double bandBeforeK = 0, bandAfterK = 0;
};

struct Calibration {
    std::vector<Learned> inputs;            ///< those that any run says something about, the most certain first
    std::vector<Compared> compared;         ///< of all runs, also of those left out
    std::vector<std::string> contradicting; ///< runs that no likely values explain: left out, not bent to fit
    double rmsBeforeK = 0, rmsAfterK = 0;   ///< of the runs that were used
    std::vector<double> covariance;         ///< of inputs, in their standard deviations, row by row
    [[nodiscard]] const Learned* input(std::string_view id) const;
};

/// Least squares with the doubt of each input as its weight (Gauss-Newton): what several runs share is learned from all
/// of them. A reading is good to @p readingK. A run whose reading is off by more than 4 standard deviations when all is
/// fitted contradicts its description and is left out.
[[nodiscard]] Calibration calibrate(const std::vector<Observation>& runs, double readingK = 1.0);

/// The network of a build with what was learned put into it.
[[nodiscard]] Network learned(const Build& build, const Compiled& compiled, const Calibration& calibration);
/// Half widths of the parts of a prediction with the doubt that is left, in the order of Prediction::parts.
[[nodiscard]] std::vector<double> bandsAfter(const Prediction& prediction, const Calibration& calibration);

} // namespace core::air
