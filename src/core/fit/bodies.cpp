// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/bodies.h"

#include "core/model/plug_sizes.h"

#include <limits>
#include <numbers>

namespace core::fit {
namespace {

Point plus(const Point& a, const Point& b) { return {a[0] + b[0], a[1] + b[1], a[2] + b[2]}; }
Point minus(const Point& a, const Point& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }
Point times(const Point& a, double f) { return {a[0] * f, a[1] * f, a[2] * f}; }
double dot(const Point& a, const Point& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }
double norm(const Point& a) { return std::sqrt(dot(a, a)); }
Point cross(const Point& a, const Point& b) {
    return {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
}

Turn product(const Turn& a, const Turn& b) { // columns: first b, then a
    Turn out{};
    for (std::size_t c = 0; c < 3; ++c)
        for (std::size_t r = 0; r < 3; ++r)
            out[c][r] = a[0][r] * b[c][0] + a[1][r] * b[c][1] + a[2][r] * b[c][2];
    return out;
}

Turn turnAbout(std::size_t axis, double degrees) {
    const double a = degrees * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
    Turn t = noTurn;
    const std::size_t u = (axis + 1) % 3, v = (axis + 2) % 3;
    t[u][u] = c;
    t[u][v] = s;
    t[v][u] = -s;
    t[v][v] = c;
    return t;
}

Turn turnOf(const Frame& frame) {
    Turn t{};
    for (std::size_t own = 0; own < 3; ++own)
        t[own][index(frame.axis[own].axis)] = frame.axis[own].sign;
    return t;
}

/// A point in the part's own axes, from its low corner, brought into the case.
Point inCase(const Placed& p, const Point& own) {
    Point out{};
    for (std::size_t i = 0; i < 3; ++i) {
        const Direction d = p.frame.axis[i];
        const std::size_t a = index(d.axis);
        out[a] = d.sign > 0 ? p.lowAt[a].mm() + own[i] : p.highAt[a].mm() - own[i];
    }
    return out;
}

/// A box with own axes along the columns of @p turn that lies with a cylinder's z along own axis @p along.
Turn cylinderTurn(const Turn& turn, std::size_t along) {
    return {turn[(along + 1) % 3], turn[(along + 2) % 3], turn[along]};
}

void boundsOf(PlacedBody& b) {
    Point low, high;
    low.fill(std::numeric_limits<double>::max());
    high.fill(std::numeric_limits<double>::lowest());
    for (const Primitive& p : b.primitives)
        for (std::size_t r = 0; r < 3; ++r) {
            const double x = std::abs(p.turn[0][r]), y = std::abs(p.turn[1][r]), z = std::abs(p.turn[2][r]);
            const double reach = p.shape == Shape::Cylinder ? p.half[0] * std::hypot(x, y) + p.half[2] * z
                                                            : p.half[0] * x + p.half[1] * y + p.half[2] * z;
            low[r] = std::min(low[r], p.centre[r] - reach);
            high[r] = std::max(high[r], p.centre[r] + reach);
        }
    for (std::size_t r = 0; r < 3; ++r) {
        b.low[r] = Length::fromMm(low[r]);
        b.high[r] = Length::fromMm(high[r]);
    }
}

/// The solid rectangles that are left of a plate, from a grid through the edges of its holes. Round holes are followed
/// in strips that never take away more than the hole does.
struct Rect {
    double u0, v0, u1, v1;
};
std::vector<Rect> platePieces(double width, double height, const std::vector<Cutout>& cutouts) {
    std::vector<Rect> holes;
    for (const Cutout& c : cutouts) {
        if (!c.round) {
            holes.push_back({c.atMm[0], c.atMm[1], c.atMm[0] + c.sizeMm[0], c.atMm[1] + c.sizeMm[1]});
            continue;
        }
        constexpr int strips = 36; // by equal angles: within 5 % of the radius
        const double ru = c.sizeMm[0] / 2, rv = c.sizeMm[1] / 2, cu = c.atMm[0] + ru, cv = c.atMm[1] + rv;
        for (int i = 0; i < strips; ++i) {
            const double a = -std::cos(std::numbers::pi * i / strips),
                         b = -std::cos(std::numbers::pi * (i + 1) / strips);
            const double inner = std::sqrt(std::max(0.0, 1 - std::max(a * a, b * b)));
            if (inner > 0)
                holes.push_back({cu + a * ru, cv - inner * rv, cu + b * ru, cv + inner * rv});
        }
    }
    std::vector<double> us{0, width};
    for (const Rect& h : holes)
        for (const double u : {h.u0, h.u1})
            if (u > 0 && u < width)
                us.push_back(u);
    std::sort(us.begin(), us.end());
    us.erase(std::unique(us.begin(), us.end(), [](double a, double b) { return b - a < 1e-6; }), us.end());
    std::vector<Rect> pieces;
    for (std::size_t i = 0; i + 1 < us.size(); ++i) {
        const double u0 = us[i], u1 = us[i + 1], middle = 0.5 * (u0 + u1);
        std::vector<std::pair<double, double>> cut;
        for (const Rect& h : holes)
            if (h.u0 < middle && h.u1 > middle)
                cut.emplace_back(std::max(0.0, h.v0), std::min(height, h.v1));
        std::sort(cut.begin(), cut.end());
        double at = 0;
        for (const auto& [from, to] : cut) {
            if (from > at + 1e-6)
                pieces.push_back({u0, at, u1, from});
            at = std::max(at, to);
        }
        if (height > at + 1e-6)
            pieces.push_back({u0, at, u1, height});
    }
    // Strips with the same extent join again.
    std::vector<Rect> joined;
    for (const Rect& r : pieces) {
        const auto same = std::find_if(joined.begin(), joined.end(), [&](const Rect& o) {
            return std::abs(o.u1 - r.u0) < 1e-6 && std::abs(o.v0 - r.v0) < 1e-6 && std::abs(o.v1 - r.v1) < 1e-6;
        });
        if (same != joined.end())
            same->u1 = r.u1;
        else
            joined.push_back(r);
    }
    return joined;
}

/// Corners of a route rounded with its bend radius, as far as the legs allow.
std::vector<Point> rounded(const std::vector<Point>& route, double bendMm) {
    if (route.size() < 3 || bendMm <= 0)
        return route;
    std::vector<Point> out{route.front()};
    for (std::size_t i = 1; i + 1 < route.size(); ++i) {
        const Point in = minus(route[i], route[i - 1]), on = minus(route[i + 1], route[i]);
        const double a = norm(in), b = norm(on);
        const double angle = std::acos(std::clamp(dot(in, on) / (a * b), -1.0, 1.0)); // 0: straight on
        if (angle < 1e-3 || a * b <= 0) {
            out.push_back(route[i]);
            continue;
        }
        const double share = (i == 1 ? 1.0 : 0.5), shareOn = (i + 2 == route.size() ? 1.0 : 0.5);
        const double set = std::min({bendMm * std::tan(angle / 2), a * share, b * shareOn});
        const Point from = minus(route[i], times(in, set / a)), to = plus(route[i], times(on, set / b));
        const int pieces = std::max(2, static_cast<int>(std::ceil(angle / (15 * std::numbers::pi / 180))));
        for (int k = 0; k <= pieces; ++k) { // a quadratic curve through the same ends, within 3 % of the arc
            const double t = static_cast<double>(k) / pieces;
            out.push_back(
                plus(plus(times(from, (1 - t) * (1 - t)), times(route[i], 2 * t * (1 - t))), times(to, t * t)));
        }
    }
    out.push_back(route.back());
    return out;
}

void addRun(PlacedBody& out, const Placed& p, const Body& body) {
    std::vector<Point> route;
    const Point at{body.at[0].value.mm(), body.at[1].value.mm(), body.at[2].value.mm()};
    for (const Point& q : body.routeMm)
        route.push_back(inCase(p, plus(at, q)));
    // A straight ribbon lies on the plane its part faces.
    out.primitives = sweep(route, {.shape = body.shape,
                                   .widthMm = body.size[0].value.mm(),
                                   .thicknessMm = body.size[1].value.mm(),
                                   .bendMm = body.bendMm,
                                   .flat = turnOf(p.frame)[2]});
    if (out.primitives.empty()) { // no route yet: a point
        const Point start = inCase(p, at);
        for (std::size_t k = 0; k < 3; ++k)
            out.low[k] = out.high[k] = Length::fromMm(start[k]);
    } else {
        boundsOf(out);
    }
}

void addPlate(PlacedBody& out, const Placed& p, const Body& body, const Turn& turn) {
    const std::size_t n = index(body.along), u = n == 0 ? 1 : 0, v = n == 2 ? 1 : 2;
    const auto size = [&](std::size_t i) { return body.size[i].value.mm(); };
    const Point at{body.at[0].value.mm(), body.at[1].value.mm(), body.at[2].value.mm()};
    const Point middle = inCase(p, {at[0] + size(0) / 2, at[1] + size(1) / 2, at[2] + size(2) / 2});
    for (const Rect& r : platePieces(size(u), size(v), body.cutouts)) {
        Primitive piece{.turn = turn};
        piece.half[u] = (r.u1 - r.u0) / 2;
        piece.half[v] = (r.v1 - r.v0) / 2;
        piece.half[n] = size(n) / 2;
        piece.centre = plus(
            middle, plus(times(turn[u], 0.5 * (r.u0 + r.u1 - size(u))), times(turn[v], 0.5 * (r.v0 + r.v1 - size(v)))));
        out.primitives.push_back(piece);
    }
}

void placeBox(PlacedBody& out, const Placed& p, const std::array<Measure, 3>& at, const Size3& size) {
    for (std::size_t own = 0; own < 3; ++own) {
        const Direction d = p.frame.axis[own];
        const std::size_t a = index(d.axis);
        if (d.sign > 0) {
            out.low[a] = p.lowAt[a] + at[own].value;
            out.high[a] = out.low[a] + size[own].value;
        } else {
            out.high[a] = p.highAt[a] - at[own].value;
            out.low[a] = out.high[a] - size[own].value;
        }
    }
}

PlacedBody placeBody(const Placed& p, std::size_t index0, const Body& body) {
    PlacedBody out{.placed = index0,
                   .body = &body,
                   .role = body.role,
                   .use = body.use,
                   .shape = body.shape,
                   .along = p.frame.axis[index(body.along)].axis};
    if (body.shape == Shape::Tube || body.shape == Shape::Ribbon) {
        addRun(out, p, body);
        return out;
    }
    placeBox(out, p, body.at, body.size);
    const bool turned = body.turnDeg != std::array<double, 3>{};
    if (!turned && body.shape == Shape::Box && body.cutouts.empty())
        return out;
    Turn turn = turnOf(p.frame);
    for (const std::size_t axis : {2U, 1U, 0U})
        turn = product(turn, turnAbout(axis, body.turnDeg[axis]));
    const Point half{body.size[0].value.mm() / 2, body.size[1].value.mm() / 2, body.size[2].value.mm() / 2};
    if (body.shape == Shape::Cylinder) {
        const std::size_t along = index(body.along);
        Primitive round{.shape = Shape::Cylinder, .turn = cylinderTurn(turn, along)};
        // An oval is kept clear as the round around it.
        const double radius = std::max(half[(along + 1) % 3], half[(along + 2) % 3]);
        round.half = {radius, radius, half[along]};
        for (std::size_t a = 0; a < 3; ++a)
            round.centre[a] = 0.5 * (out.low[a].mm() + out.high[a].mm());
        out.primitives.push_back(round);
    } else {
        addPlate(out, p, body, turn);
    }
    if (turned)
        boundsOf(out);
    return out;
}

void addPlugs(const Placed& p, std::size_t index0, std::vector<PlacedBody>& bodies) {
    for (const Port& port : p.ports) {
        const auto room = plugRoom(port);
        if (!room)
            continue;
        PlacedBody out{.placed = index0, .port = &port, .role = BodyRole::KeepOut};
        std::array<Measure, 3> at;
        Size3 size;
        for (std::size_t i = 0; i < 3; ++i) {
            at[i].value = port.at[i].value + Length::fromMm(room->low[i]);
            size[i].value = Length::fromMm(room->size[i]);
        }
        placeBox(out, p, at, size);
        bodies.push_back(std::move(out));
    }
}

} // namespace

std::vector<Primitive> sweep(const std::vector<Point>& corners, const Swept& what) {
    const std::vector<Point> route = rounded(corners, what.bendMm);
    const double w = what.widthMm, t = what.thicknessMm;
    Point flat = what.flat;
    for (std::size_t i = 0; i + 2 < route.size(); ++i)
        if (const Point n = cross(minus(route[i + 1], route[i]), minus(route[i + 2], route[i + 1])); norm(n) > 1e-6) {
            flat = times(n, 1 / norm(n));
            break;
        }
    std::vector<Primitive> pieces;
    for (std::size_t i = 0; i + 1 < route.size(); ++i) {
        const Point leg = minus(route[i + 1], route[i]);
        const double length = norm(leg);
        if (length < 1e-6)
            continue;
        const Point z = times(leg, 1 / length);
        Point x = minus(flat, times(z, dot(flat, z)));
        if (norm(x) < 1e-6)
            x = std::abs(z[0]) < 0.9 ? minus({1, 0, 0}, times(z, z[0])) : minus({0, 1, 0}, times(z, z[1]));
        x = times(x, 1 / norm(x));
        Primitive piece{.shape = what.shape == Shape::Tube ? Shape::Cylinder : Shape::Box,
                        .centre = times(plus(route[i], route[i + 1]), 0.5),
                        .turn = {x, cross(z, x), z}};
        piece.half = what.shape == Shape::Tube ? Point{w / 2, w / 2, length / 2} : Point{w / 2, t / 2, length / 2};
        pieces.push_back(piece);
    }
    return pieces;
}

std::optional<PlugRoom> plugRoom(const Port& port) {
    const PlugSize* plug = plugSize(port.kind);
    if (!plug || plug->straightMm <= 0)
        return std::nullopt;
    const std::size_t out = index(port.out.axis);
    std::array<std::size_t, 2> across{out == 0 ? 1U : 0U, out == 2 ? 1U : 2U};
    std::array<double, 2> section{plug->widthMm, plug->heightMm};
    if (index(port.towards.axis) == across[0]) // its narrow side lies along the way its lead bends
        std::swap(section[0], section[1]);
    const bool angled = port.plug == PlugStyle::Angled && plug->angledMm > 0;
    const double length = plug->straightMm + plug->bendMm;
    PlugRoom room;
    room.size[out] = angled ? plug->angledMm : length;
    room.low[out] = port.out.sign > 0 ? 0 : -room.size[out];
    for (std::size_t i = 0; i < 2; ++i) {
        const std::size_t a = across[i];
        room.size[a] = section[i];
        room.low[a] = -section[i] / 2;
        if (angled && index(port.towards.axis) == a) { // the lead leaves sideways, from the housing on
            room.size[a] = section[i] / 2 + length;
            room.low[a] = port.towards.sign > 0 ? -section[i] / 2 : -length;
        }
    }
    return room;
}

std::vector<PlacedBody> bodiesOf(const Build& build, std::size_t i) {
    std::vector<PlacedBody> bodies;
    const Placed& p = build.placed[i];
    // A brick stands outside; what of it is inside has its bodies stated.
    if (const auto* supply = std::get_if<PowerSupplySpec>(&p.part->spec);
        supply && supply->brick && p.part->bodies.empty())
        return bodies;
    if (p.part->kind == PartKind::Adapter || p.part->kind == PartKind::Cable)
        return bodies;
    bool solid = false;
    for (const Body& body : p.part->bodies) {
        bodies.push_back(placeBody(p, i, body));
        solid = solid || body.role == BodyRole::Solid;
    }
    // A made part may be nothing but the space it keeps; everything else has a solid, drawn or not.
    if (!solid && !(p.part->kind == PartKind::Made && !p.part->bodies.empty()))
        bodies.push_back({.placed = i, .low = p.lowAt, .high = p.highAt});
    addPlugs(p, i, bodies);
    return bodies;
}

std::vector<PlacedBody> bodiesOf(const Build& build) {
    std::vector<PlacedBody> bodies;
    bodies.reserve(build.placed.size() * 2);
    for (std::size_t i = 0; i < build.placed.size(); ++i)
        for (PlacedBody& b : bodiesOf(build, i))
            bodies.push_back(std::move(b));
    return bodies;
}

std::vector<Primitive> primitivesOf(const PlacedBody& body) {
    if (!body.isBox())
        return body.primitives;
    Primitive box;
    for (std::size_t a = 0; a < 3; ++a) {
        box.centre[a] = 0.5 * (body.low[a].mm() + body.high[a].mm());
        box.half[a] = 0.5 * (body.high[a] - body.low[a]).mm();
    }
    return {box};
}

double tightestBend(const std::vector<Point>& route) {
    double tightest = std::numeric_limits<double>::infinity();
    for (std::size_t i = 1; i + 1 < route.size(); ++i) {
        const Point in = minus(route[i], route[i - 1]), on = minus(route[i + 1], route[i]);
        const double a = norm(in), b = norm(on);
        if (a * b <= 0)
            continue;
        const double angle = std::acos(std::clamp(dot(in, on) / (a * b), -1.0, 1.0));
        if (angle < 1e-3)
            continue;
        // A leg between two corners gives half of itself to each.
        const double leg = std::min(a * (i == 1 ? 1.0 : 0.5), b * (i + 2 == route.size() ? 1.0 : 0.5));
        tightest = std::min(tightest, leg / std::tan(angle / 2));
    }
    return tightest;
}

} // namespace core::fit
