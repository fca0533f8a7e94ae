// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/predict.h"

#include <functional>

namespace core::air {

/// Something a prediction rests on that is not known exactly. The same id stands for the same thing in another
/// revision, so that what two of them share cancels in their difference.
struct Input {
    std::string id;
    Sentence what;
    double sigma = 0;                                  ///< standard deviation; of a factor as a share, of the room in K
    std::function<void(Network&, double sigmas)> move; ///< by so many standard deviations
};
/// All inputs of a network.
[[nodiscard]] std::vector<Input> inputsOf(const Build& build, const Compiled& compiled);

/// Solved once for each input, from the solution that is there.
[[nodiscard]] std::vector<Influence> influencesOf(const Build& build, const Compiled& compiled,
                                                  const Solution& solution);

/// Half width that holds 19 of 20 for a normal error of that standard deviation.
constexpr double bandOf(double sigma) { return 1.96 * sigma; }
/// Gives every part of a prediction its band, with what it comes from; what the method is weak at is wide, and says so.
void addBands(const Build& build, const Compiled& compiled, const Solution& solution, Prediction& prediction);

/// How a difference of two predictions of one part may be off: what both rest on cancels. Parts are told by mount.
struct Difference {
    double kelvin = 0, bandK = 0;
};
[[nodiscard]] std::optional<Difference> differenceOf(const Prediction& before, const Prediction& after,
                                                     std::string_view mount);

} // namespace core::air
