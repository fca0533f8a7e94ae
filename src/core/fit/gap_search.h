// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/distance.h"
#include "core/fit/fit.h"

namespace core::fit {

constexpr std::size_t caseWall = static_cast<std::size_t>(-1);

/// Two ends that face each other, before the chain is worked out.
struct Candidate {
    std::size_t lower = caseWall, upper = caseWall; ///< indices of bodies
    Axis axis = Axis::X;
    std::optional<Separation> slanted; ///< the shortest way, when it is not along an axis
};

/// The first carries the second, directly or through others.
[[nodiscard]] bool carries(const Build& build, std::size_t low, std::size_t high);

/// Pairs of bodies, and of bodies and walls, that are near and see each other. @p only: pairs with that placed part
/// alone.
[[nodiscard]] std::vector<Candidate> findCandidates(const Build& build, const std::vector<PlacedBody>& bodies,
                                                    double reachMm, std::optional<std::size_t> only = {});

} // namespace core::fit
