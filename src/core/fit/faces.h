// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/bodies.h"
#include "core/fit/clearance_rules.h"

namespace core::fit {

/// What a body shows in a direction, and whether air goes in there.
struct Shown {
    Face face = Face::Solid;
    bool intake = false; ///< air goes in: a fan that only blows out is never blocked as an intake is
};

/// What bodies and walls of one build show to each other.
class Faces {
public:
    Faces(const Build& build, const std::vector<PlacedBody>& bodies) : m_build(build), m_bodies(bodies) {}

    /// @p body seen from where it looks to; @p other is what it faces (a wall shows openings only where that is).
    [[nodiscard]] Shown of(std::size_t body, Direction look, std::size_t other) const;
    /// A part that is made to sit over an opening (fan, supply, radiator) has one behind its breathing face at @p side.
    [[nodiscard]] bool sitsOverAnOpening(std::size_t body, Side side) const;
    /// Share of the breathing face that @p other covers, from 0 to 1, both seen along @p axis.
    [[nodiscard]] double covered(std::size_t body, std::size_t other, Axis axis) const;

private:
    [[nodiscard]] Shown solid(const Placed& p, const PlacedBody& b, Direction look) const;
    [[nodiscard]] bool reachesFarthest(const PlacedBody& b, Direction look) const;
    [[nodiscard]] bool fanInChamberOf(const Placed& p) const;

    const Build& m_build;
    const std::vector<PlacedBody>& m_bodies;
};

/// The side of the case a case fan blows through: the wall nearest to it along its axis. Its intake looks there when it
/// blows in, and away from it when it blows out.
[[nodiscard]] Side sideOfFan(const Build& build, const Placed& fan);

} // namespace core::fit
