// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/bodies.h"

namespace core::fit {

/// How far two pieces are from each other.
struct Separation {
    double mm = 0; ///< negative: they overlap by so much, along the shortest way out
    Point from{};  ///< nearest point of the first
    Point to{};    ///< nearest point of the second
    Point way{};   ///< unit vector from the first to the second
};

/// Distance of two convex pieces, by the Flexible Collision Library (GJK, and EPA when they overlap).
[[nodiscard]] Separation separation(const Primitive& a, const Primitive& b);
/// The smallest over all pieces of two bodies; pieces whose boxes are further apart than @p reachMm are skipped, and
/// when all are, the answer is empty.
[[nodiscard]] std::optional<Separation> separation(const PlacedBody& a, const PlacedBody& b, double reachMm);
/// Whether two pieces touch.
[[nodiscard]] bool touches(const Primitive& a, const Primitive& b);

} // namespace core::fit
