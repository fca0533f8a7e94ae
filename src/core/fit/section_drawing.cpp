// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/section_drawing.h"

#include "core/fit/lead_routes.h"

#include "core/base/text.h"

#include <numbers>

namespace core::fit {
namespace {

/// Convex hull, monotone chain.
std::vector<Point2> hullOf(std::vector<Point2> points) {
    std::sort(points.begin(), points.end());
    const auto turn = [](const Point2& o, const Point2& a, const Point2& b) {
        return (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
    };
    std::vector<Point2> hull;
    for (const bool back : {false, true}) {
        const std::size_t from = hull.size();
        const auto add = [&](const Point2& p) {
            while (hull.size() >= from + 2 && turn(hull[hull.size() - 2], hull.back(), p) <= 1e-12)
                hull.pop_back();
            hull.push_back(p);
        };
        if (back)
            std::for_each(points.rbegin(), points.rend(), add);
        else
            std::for_each(points.begin(), points.end(), add);
        hull.pop_back();
    }
    return hull;
}

class Drawer {
public:
    explicit Drawer(const Build& build) : m_build(build), m_bodies(bodiesOf(build)), m_leads(leadRoutes(build)) {}

    void add(const std::string& title, Axis across, Axis up, Axis through, double at, Point2 origin) {
        const double w = m_build.insideAt[index(across)].mm(), h = m_build.insideAt[index(up)].mm(),
                     wall = m_build.caseSpec().wall.value.mm();
        rectangle("case", origin, {0, 0}, {w, h});
        rectangle("case", origin, {-wall, -wall}, {w + wall, h + wall});
        const std::size_t k = index(through);
        for (const PlacedBody& b : m_bodies) {
            const bool cut = b.low[k].mm() <= at && b.high[k].mm() >= at;
            const std::string layer = b.role == BodyRole::KeepOut ? "keep-out" : cut ? "cut" : "behind";
            for (const Primitive& piece : primitivesOf(b)) {
                Drawing::Line line{layer, outlineOf(piece, across, up)};
                for (Point2& p : line.points)
                    p = {p[0] + origin[0], p[1] + origin[1]};
                m_drawing.lines.push_back(std::move(line));
            }
            if (cut && b.role == BodyRole::Solid)
                m_drawing.texts.push_back({{origin[0] + 0.5 * (b.low[index(across)].mm() + b.high[index(across)].mm()),
                                            origin[1] + 0.5 * (b.low[index(up)].mm() + b.high[index(up)].mm())},
                                           3,
                                           m_build.placed[b.placed].name});
        }
        for (const LeadRoute& route : m_leads) {
            Drawing::Line line{route.stated ? "lead" : "lead-estimate", {}, false};
            for (const Point& p : route.points)
                line.points.push_back({origin[0] + p[index(across)], origin[1] + p[index(up)]});
            m_drawing.lines.push_back(std::move(line));
        }
        m_drawing.texts.push_back(
            {{origin[0] + w / 2, origin[1] + h + wall + 4}, 4, title + ", cut at " + fixed(at, 1) + " mm"});
    }
    Drawing finish(Point2 size) {
        m_drawing.sizeMm = size;
        m_drawing.lines.push_back({"check", {{10, 6}, {60, 6}}, false});
        for (const double x : {10.0, 60.0})
            m_drawing.lines.push_back({"check", {{x, 4}, {x, 8}}, false});
        m_drawing.texts.push_back({{35, 10}, 3, "50 mm: check before cutting"});
        return std::move(m_drawing);
    }

private:
    void rectangle(const std::string& layer, Point2 o, Point2 low, Point2 high) {
        m_drawing.lines.push_back({layer,
                                   {{o[0] + low[0], o[1] + low[1]},
                                    {o[0] + high[0], o[1] + low[1]},
                                    {o[0] + high[0], o[1] + high[1]},
                                    {o[0] + low[0], o[1] + high[1]}}});
    }
    const Build& m_build;
    std::vector<PlacedBody> m_bodies;
    std::vector<LeadRoute> m_leads;
    Drawing m_drawing;
};

} // namespace

std::vector<Point2> outlineOf(const Primitive& piece, Axis across, Axis up) {
    std::vector<Point2> points;
    const auto corner = [&](double x, double y, double z) {
        const auto on = [&](Axis axis) {
            const std::size_t r = index(axis);
            return piece.centre[r] + piece.turn[0][r] * x + piece.turn[1][r] * y + piece.turn[2][r] * z;
        };
        points.push_back({on(across), on(up)});
    };
    if (piece.shape == Shape::Cylinder) {
        constexpr int sides = 48;
        for (int i = 0; i < sides; ++i)
            for (const double z : {-1.0, 1.0})
                corner(piece.half[0] * std::cos(2 * std::numbers::pi * i / sides),
                       piece.half[0] * std::sin(2 * std::numbers::pi * i / sides), z * piece.half[2]);
    } else {
        for (int i = 0; i < 8; ++i)
            corner((i & 1 ? 1 : -1) * piece.half[0], (i & 2 ? 1 : -1) * piece.half[1],
                   (i & 4 ? 1 : -1) * piece.half[2]);
    }
    return hullOf(std::move(points));
}

Drawing sectionDrawing(const Build& build, const Point& at) {
    const double w = build.insideAt[0].mm(), d = build.insideAt[1].mm(), h = build.insideAt[2].mm();
    constexpr double margin = 20, between = 30;
    const double lower = margin, upper = margin + w + between;
    Drawer drawer(build);
    drawer.add("A-A from front", Axis::X, Axis::Z, Axis::Y, at[1], {margin, upper});
    drawer.add("B-B from the side", Axis::Y, Axis::Z, Axis::X, at[0], {margin + w + between, upper});
    drawer.add("C-C from above", Axis::Y, Axis::X, Axis::Z, at[2], {margin + w + between, lower});
    return drawer.finish({2 * margin + w + between + d, upper + h + margin});
}

} // namespace core::fit
