// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/distance.h"

#include <fcl/geometry/shape/box.h>
#include <fcl/geometry/shape/cylinder.h>
#include <fcl/narrowphase/collision.h>
#include <fcl/narrowphase/distance.h>

#include <variant>

namespace core::fit {
namespace {

using Shaped = std::variant<fcl::Boxd, fcl::Cylinderd>;

Shaped shapeOf(const Primitive& p) {
    if (p.shape == Shape::Cylinder)
        return fcl::Cylinderd(p.half[0], 2 * p.half[2]);
    return fcl::Boxd(2 * p.half[0], 2 * p.half[1], 2 * p.half[2]);
}
const fcl::CollisionGeometryd* geometry(const Shaped& s) {
    return std::visit([](const auto& shape) -> const fcl::CollisionGeometryd* { return &shape; }, s);
}
fcl::Transform3d transform(const Primitive& p) {
    fcl::Transform3d t = fcl::Transform3d::Identity();
    for (int c = 0; c < 3; ++c)
        for (int r = 0; r < 3; ++r)
            t.linear()(r, c) = p.turn[static_cast<std::size_t>(c)][static_cast<std::size_t>(r)];
    t.translation() = fcl::Vector3d(p.centre[0], p.centre[1], p.centre[2]);
    return t;
}
Point point(const fcl::Vector3d& v) { return {v[0], v[1], v[2]}; }

/// Half size of the box around a piece.
Point reachOf(const Primitive& p) {
    Point out{};
    for (std::size_t r = 0; r < 3; ++r)
        out[r] = p.half[0] * std::abs(p.turn[0][r]) + p.half[1] * std::abs(p.turn[1][r]) +
                 p.half[2] * std::abs(p.turn[2][r]);
    return out;
}

} // namespace

bool touches(const Primitive& a, const Primitive& b) {
    const Shaped sa = shapeOf(a), sb = shapeOf(b);
    fcl::CollisionRequestd request;
    fcl::CollisionResultd result;
    return fcl::collide(geometry(sa), transform(a), geometry(sb), transform(b), request, result) > 0;
}

Separation separation(const Primitive& a, const Primitive& b) {
    const Shaped sa = shapeOf(a), sb = shapeOf(b);
    const fcl::Transform3d ta = transform(a), tb = transform(b);
    Separation out;
    fcl::CollisionRequestd overlap(16, true);
    fcl::CollisionResultd contacts;
    if (fcl::collide(geometry(sa), ta, geometry(sb), tb, overlap, contacts) > 0) {
        const fcl::Contactd* deepest = &contacts.getContact(0);
        for (std::size_t i = 1; i < contacts.numContacts(); ++i)
            if (contacts.getContact(i).penetration_depth > deepest->penetration_depth)
                deepest = &contacts.getContact(i);
        out.mm = -std::abs(deepest->penetration_depth);
        out.from = out.to = point(deepest->pos);
        out.way = point(deepest->normal); // from the first to the second
        return out;
    }
    fcl::DistanceRequestd request;
    request.enable_nearest_points = true;
    request.distance_tolerance = 1e-7;
    fcl::DistanceResultd result;
    fcl::distance(geometry(sa), ta, geometry(sb), tb, request, result);
    out.from = point(result.nearest_points[0]);
    out.to = point(result.nearest_points[1]);
    const fcl::Vector3d between = result.nearest_points[1] - result.nearest_points[0];
    out.mm = between.norm();
    out.way = out.mm > 1e-9 ? point(between / out.mm) : Point{0, 0, 1};
    return out;
}

std::optional<Separation> separation(const PlacedBody& a, const PlacedBody& b, double reachMm) {
    std::optional<Separation> nearest;
    const auto pa = primitivesOf(a), pb = primitivesOf(b);
    for (const Primitive& x : pa)
        for (const Primitive& y : pb) {
            const Point rx = reachOf(x), ry = reachOf(y);
            const double limit = nearest ? std::min(reachMm, std::max(0.0, nearest->mm)) : reachMm;
            double squares = 0;
            for (std::size_t k = 0; k < 3; ++k) {
                const double apart = std::max(0.0, std::abs(x.centre[k] - y.centre[k]) - rx[k] - ry[k]);
                squares += apart * apart;
            }
            if (squares > limit * limit)
                continue;
            const Separation s = separation(x, y);
            if (s.mm <= reachMm && (!nearest || s.mm < nearest->mm))
                nearest = s;
        }
    return nearest;
}

} // namespace core::fit
