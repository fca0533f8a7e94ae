// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/fit.h"

namespace core::fit {

/// A dimension worth a caliper: how much knowing it would settle.
struct MeasureNext {
    std::string label;
    DimensionOrigin origin;
    Measure now;
    double riskNow = 0;            ///< chance of a wrong answer, summed over the doubtful gaps it is part of
    double riskThen = 0;           ///< the same, expected after measuring it with a caliper
    double worstWonMm = 0;         ///< worst-case band taken off, summed over the gaps that are open or short
    std::vector<std::string> gaps; ///< ids of those gaps

    [[nodiscard]] double settles() const { return riskNow - riskThen; }
};

/// Dimensions of the gaps that are doubtful or open, the most settling first. A gap is doubtful when it may be on
/// either side of its need; the risk is the chance of being wrong if one acts on the likelier side.
[[nodiscard]] std::vector<MeasureNext> measureNext(const FitResult& fit);

/// Expected risk of a gap that is @p marginMm above its need with standard deviation @p sigmaMm, once a share of the
/// variance is known: the mean of the risk over what the measurement may show.
[[nodiscard]] double expectedRisk(double marginMm, double sigmaMm, double sigmaAfterMm);

} // namespace core::fit
