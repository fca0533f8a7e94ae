// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/advise/explore.h"

namespace core::advise {

/// A curve for one fan, to be typed into the board: it runs as the way has it when the machine is as warm as there, and
/// slower when it is cooler.
struct FanCurveAdvice {
    std::string mount, name;
    std::string follows, followsName; ///< the part that its air helps most
    std::vector<CurvePoint> points;
};

/// Curves for every fan that a way holds at a speed: from the least speed at the temperature of idling to that speed at
/// the settled one, and on to full speed at the part's cap. Errors: the changes do not resolve.
[[nodiscard]] Result<std::vector<FanCurveAdvice>> fanCurves(const Project& project, const stages::Evaluation& now,
                                                            const std::vector<Change>& changes);
/// The same as changes of a revision, with a hysteresis of 3 K.
[[nodiscard]] std::vector<Change> asChanges(const std::vector<FanCurveAdvice>& curves);

/// The same in words, a line a fan.
[[nodiscard]] std::string curvesText(const std::vector<FanCurveAdvice>& curves, const Reader& reader);
/// "fan,follows,temperature_c,duty_percent", a line a point.
[[nodiscard]] std::string curvesCsv(const std::vector<FanCurveAdvice>& curves);

} // namespace core::advise
