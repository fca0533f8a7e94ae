// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/fit.h"

namespace core::fit {
namespace {

PlacedBody placeBody(const Placed& p, std::size_t index0, const Body& body) {
    PlacedBody out{.placed = index0, .body = &body, .role = body.role, .shape = body.shape, .low = p.lowAt, .high = p.highAt};
    for (std::size_t own = 0; own < 3; ++own) {
        const Direction d = p.frame.axis[own];
        const std::size_t a = index(d.axis);
        if (d.sign > 0) {
            out.low[a] = p.lowAt[a] + body.at[own].value;
            out.high[a] = out.low[a] + body.size[own].value;
        } else {
            out.high[a] = p.highAt[a] - body.at[own].value;
            out.low[a] = out.high[a] - body.size[own].value;
        }
    }
    out.along = p.frame.axis[index(body.along)].axis;
    return out;
}

} // namespace

std::vector<PlacedBody> bodiesOf(const Build& build) {
    std::vector<PlacedBody> bodies;
    for (std::size_t i = 0; i < build.placed.size(); ++i) {
        const Placed& p = build.placed[i];
        if (p.part->kind == PartKind::Adapter || p.part->kind == PartKind::Cable)
            continue;
        bool solid = false;
        for (const Body& body : p.part->bodies) {
            bodies.push_back(placeBody(p, i, body));
            solid = solid || body.role == BodyRole::Solid;
        }
        if (!solid)
            bodies.push_back({.placed = i, .low = p.lowAt, .high = p.highAt});
    }
    return bodies;
}

} // namespace core::fit
