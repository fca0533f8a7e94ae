// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/lead_routes.h"

#include "core/fit/distance.h"
#include "core/fit/faces.h"
#include "core/model/facts.h"
#include "core/model/plug_sizes.h"

#include <algorithm>
#include <limits>
#include <numbers>

namespace core::fit {
namespace {

double apartMm(const Point& a, const Point& b) { return std::hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]); }

/// Where a lead meets a part: its socket, and where its plug ends and the lead may bend.
struct LeadEnd {
    Point socket{}, plugEnd{};
    const Port* port = nullptr; ///< null: the place of the socket is not stated
    const Placed* part = nullptr;
};

LeadEnd leadEnd(const Build& build, const std::string& text) {
    const EndName name = endName(text);
    LeadEnd end{.part = build.at(name.mount)};
    if (!end.part) // of the case: its front panel plugs, at the lower front
        end.socket[0] = build.insideAt[0].mm() / 2;
    else
        for (std::size_t a = 0; a < 3; ++a)
            end.socket[a] = 0.5 * (end.part->lowAt[a].mm() + end.part->highAt[a].mm());
    end.plugEnd = end.socket;
    if (!end.part)
        return end;
    const auto& ports = end.part->ports;
    const auto port = std::find_if(ports.begin(), ports.end(),
                                   [&](const Port& p) { return p.id == name.port || p.kind == name.port; });
    if (port == ports.end())
        return end;
    end.port = &*port;
    end.socket = end.plugEnd = end.part->inCaseMm(port->at);
    const PlugSize* plug = plugSize(port->kind);
    const Direction leaves = end.part->inCase(port->plug == PlugStyle::Angled ? port->towards : port->out);
    end.plugEnd[index(leaves.axis)] += leaves.sign * (plug ? plug->straightMm : 0);
    return end;
}

using Ends = std::array<LeadEnd, 2>;

double alongMm(const std::vector<Point>& points) {
    double mm = 0;
    for (std::size_t i = 0; i + 1 < points.size(); ++i)
        mm += apartMm(points[i], points[i + 1]);
    return mm;
}

/// Whether a straight line along the edges passes through the inside of a box.
bool passes(const Point& a, const Point& b, const PlacedBody& body) {
    constexpr double graze = 0.5;
    for (std::size_t k = 0; k < 3; ++k)
        if (std::max(a[k], b[k]) <= body.low[k].mm() + graze || std::min(a[k], b[k]) >= body.high[k].mm() - graze)
            return false;
    return true;
}

/// Corners between the two plugs when a lead follows one axis after the other.
std::vector<Point> alongEdges(const Point& from, const Point& to, const std::vector<PlacedBody>& bodies) {
    std::array<std::size_t, 3> order{0, 1, 2};
    std::vector<Point> best;
    std::size_t fewest = std::numeric_limits<std::size_t>::max();
    do {
        std::vector<Point> corners{from};
        std::size_t through = 0;
        for (const std::size_t axis : order) {
            Point next = corners.back();
            next[axis] = to[axis];
            if (apartMm(next, corners.back()) < 1e-6)
                continue;
            through += static_cast<std::size_t>(std::count_if(bodies.begin(), bodies.end(), [&](const PlacedBody& b) {
                return b.role == BodyRole::Solid && passes(corners.back(), next, b);
            }));
            corners.push_back(next);
        }
        if (through < fewest) {
            fewest = through;
            best = corners;
        }
    } while (std::next_permutation(order.begin(), order.end()));
    return best;
}

/// A way by its corners, or along the edges where there are none.
LeadRoute between(const Ends& ends, const std::vector<Point>& stated, const std::vector<PlacedBody>& bodies) {
    LeadRoute route{.stated = !stated.empty(), .assumed = !ends[0].port || !ends[1].port};
    route.points = {ends[0].socket};
    if (route.stated) {
        route.points.push_back(ends[0].plugEnd);
        route.points.insert(route.points.end(), stated.begin(), stated.end());
        route.points.push_back(ends[1].plugEnd);
    } else {
        const auto corners = alongEdges(ends[0].plugEnd, ends[1].plugEnd, bodies);
        route.points.insert(route.points.end(), corners.begin(), corners.end());
        if (corners.size() == 1) // both plugs end at one point
            route.points.push_back(ends[1].plugEnd);
    }
    route.points.push_back(ends[1].socket);
    route.wayMm = alongMm(route.points);
    route.tightestMm = tightestBend({route.points.begin() + 1, route.points.end() - 1});
    return route;
}

/// The lead as a body, from where one plug ends to where the other does.
PlacedBody sweptBody(const LeadRoute& route) {
    PlacedBody out{.role = BodyRole::KeepOut, .use = Use::Lead};
    const std::vector<Point> inner(route.points.begin() + 1, route.points.end() - 1);
    out.primitives = sweep(inner, {.shape = route.body.flat ? Shape::Ribbon : Shape::Tube,
                                   .widthMm = route.body.widthMm,
                                   .thicknessMm = route.body.thicknessMm,
                                   .bendMm = route.body.bendMm});
    return out;
}

Direction mostly(const Point& way) {
    std::size_t axis = 0;
    for (std::size_t k = 1; k < 3; ++k)
        if (std::abs(way[k]) > std::abs(way[axis]))
            axis = k;
    return {allAxes[axis], way[axis] < 0 ? -1 : 1};
}

/// What a stated way comes too near to: parts, what they keep clear, walls.
class Meetings {
public:
    Meetings(const Build& build, const std::vector<PlacedBody>& bodies)
        : m_build(build), m_bodies(bodies), m_faces(build, bodies) {}

    std::vector<LeadMeeting> of(const LeadRoute& route, const Ends& ends) const {
        const PlacedBody lead = sweptBody(route);
        // A lead is in its own plugs; where a socket is not stated it begins in the middle of its part.
        const auto isOwn = [&](const PlacedBody& body) {
            return std::any_of(ends.begin(), ends.end(), [&](const LeadEnd& end) {
                return end.port ? body.port == end.port : &m_build.placed[body.placed] == end.part;
            });
        };
        std::vector<LeadMeeting> all;
        for (std::size_t i = 0; i < m_bodies.size(); ++i)
            if (!isOwn(m_bodies[i]))
                meet(lead, i, all);
        meetWalls(route, all);
        std::stable_sort(all.begin(), all.end(),
                         [](const LeadMeeting& a, const LeadMeeting& b) { return a.mm - a.needMm < b.mm - b.needMm; });
        return all;
    }

private:
    void meet(const PlacedBody& lead, std::size_t i, std::vector<LeadMeeting>& all) const {
        const double reach = clearanceRule("lead-blades")->requiredMm;
        const auto apart = separation(m_bodies[i], lead, reach);
        if (!apart)
            return;
        const Face face = m_faces.of(i, mostly(apart->way), i).face;
        const double need = clearanceFor(Face::Lead, face).requiredMm;
        // What lies on a part touches it, and is no further away than rounding.
        if (apart->mm >= need - (need > 0 ? 0 : 0.05))
            return;
        const Placed& part = m_build.placed[m_bodies[i].placed];
        const auto known =
            std::find_if(all.begin(), all.end(), [&](const LeadMeeting& m) { return m.mount == part.mount; });
        LeadMeeting meeting{part.mount, part.name, apart->mm, need, face == Face::Blades || face == Face::CoolerFan,
                            apart->to};
        if (known == all.end())
            all.push_back(std::move(meeting));
        else if (meeting.mm - meeting.needMm < known->mm - known->needMm)
            *known = std::move(meeting);
    }
    /// Of its corners the one that lies deepest in a wall. A way that leaves the case says so by itself.
    void meetWalls(const LeadRoute& route, std::vector<LeadMeeting>& all) const {
        if (route.leavesCase)
            return;
        const double half = route.body.thicknessMm / 2;
        std::optional<LeadMeeting> worst;
        for (std::size_t p = 1; p + 1 < route.points.size(); ++p)
            for (std::size_t k = 0; k < 3; ++k) {
                const double at = route.points[p][k], mm = std::min(at, m_build.insideAt[k].mm() - at) - half;
                if (mm < -0.05 && (!worst || mm < worst->mm))
                    worst = LeadMeeting{{}, {}, mm, 0, false, route.points[p]};
            }
        if (worst)
            all.push_back(*worst);
    }

    const Build& m_build;
    const std::vector<PlacedBody>& m_bodies;
    Faces m_faces;
};

/// A leg along one axis of the case.
struct Leg {
    std::size_t route = 0;
    std::size_t axis = 0;
    double low = 0, high = 0; ///< along it
    Point at{};
    double thicknessMm = 0;
};

std::vector<Leg> legsOf(const std::vector<LeadRoute>& routes) {
    std::vector<Leg> legs;
    for (std::size_t r = 0; r < routes.size(); ++r)
        for (std::size_t i = 0; i + 1 < routes[r].points.size(); ++i) {
            const Point &a = routes[r].points[i], &b = routes[r].points[i + 1];
            for (std::size_t k = 0; k < 3; ++k)
                if (const double length = std::abs(b[k] - a[k]); length > 1 && apartMm(a, b) - length < 0.01)
                    legs.push_back({r, k, std::min(a[k], b[k]), std::max(a[k], b[k]), a, routes[r].body.thicknessMm});
        }
    return legs;
}

bool besideEachOther(const Leg& a, const Leg& b, double reachMm) {
    if (a.route == b.route || a.axis != b.axis)
        return false;
    double squares = 0;
    for (std::size_t k = 0; k < 3; ++k)
        squares += k == a.axis ? 0 : (a.at[k] - b.at[k]) * (a.at[k] - b.at[k]);
    constexpr double leastMm = 20;
    return squares <= reachMm * reachMm && std::min(a.high, b.high) - std::max(a.low, b.low) >= leastMm;
}

Bundle bundleOf(const std::vector<Leg>& legs) {
    Bundle bundle{.axis = allAxes[legs.front().axis]};
    const std::size_t k = legs.front().axis;
    double squares = 0, low = legs.front().low, high = legs.front().high;
    for (const Leg& leg : legs) {
        bundle.routes.push_back(leg.route);
        squares += leg.thicknessMm * leg.thicknessMm;
        low = std::max(low, leg.low);
        high = std::min(high, leg.high);
        for (std::size_t a = 0; a < 3; ++a)
            bundle.from[a] += leg.at[a] / static_cast<double>(legs.size());
    }
    bundle.to = bundle.from;
    bundle.from[k] = low;
    bundle.to[k] = high;
    bundle.thicknessMm = std::sqrt(squares / facts::bundleFill.value);
    return bundle;
}

/// Stated ways that take the same room. Ends of one lead share their stem, and tied leads lie beside each other.
void findCrossings(std::vector<LeadRoute>& routes) {
    std::vector<std::pair<std::size_t, PlacedBody>> swept;
    for (std::size_t i = 0; i < routes.size(); ++i)
        if (routes[i].stated)
            swept.emplace_back(i, sweptBody(routes[i]));
    if (swept.size() < 2)
        return;
    const std::vector<Bundle> bundles = bundlesOf(routes);
    const auto tied = [&](std::size_t a, std::size_t b) {
        return std::any_of(bundles.begin(), bundles.end(), [&](const Bundle& bundle) {
            const auto holds = [&](std::size_t r) {
                return std::find(bundle.routes.begin(), bundle.routes.end(), r) != bundle.routes.end();
            };
            return holds(a) && holds(b);
        });
    };
    constexpr double grazeMm = 0.05;
    for (std::size_t i = 0; i < swept.size(); ++i)
        for (std::size_t k = i + 1; k < swept.size(); ++k) {
            LeadRoute& one = routes[swept[i].first];
            const LeadRoute& other = routes[swept[k].first];
            if (one.joined == other.joined || tied(swept[i].first, swept[k].first))
                continue;
            const auto apart = separation(swept[i].second, swept[k].second, 0);
            if (apart && apart->mm < -grazeMm)
                one.crosses.push_back({swept[k].first, -apart->mm, one.body.thicknessMm + other.body.thicknessMm,
                                       one.body.flat || other.body.flat});
        }
}

} // namespace

LeadBody leadBodyOf(const Part& lead) {
    const auto* cable = std::get_if<CableSpec>(&lead.spec);
    LeadBody body;
    const double width = cable ? cable->widthMm : 0, thickness = cable ? cable->thicknessMm : 0;
    body.flat = width > 0 || lead.link.has_value(); // what has lanes is a riser
    body.thicknessMm = thickness > 0 ? thickness : body.flat ? facts::flatLead.value : facts::roundLead.value;
    body.widthMm = width > 0 ? width : body.flat ? facts::riserWidth.value : body.thicknessMm;
    body.bendMm = cable && cable->bendMm > 0 ? cable->bendMm
                  : body.flat                ? facts::riserBend.value
                                             : facts::roundBend.value * body.thicknessMm;
    body.assumed = thickness <= 0 || (body.flat && width <= 0) || !cable || cable->bendMm <= 0;
    return body;
}

std::vector<LeadRoute> leadRoutes(const Build& build) {
    std::vector<LeadRoute> all;
    if (build.joined.empty())
        return all;
    const std::vector<PlacedBody> bodies = bodiesOf(build);
    const Meetings meetings(build, bodies);
    for (std::size_t i = 0; i < build.joined.size(); ++i) {
        const Joined& j = build.joined[i];
        for (std::size_t t = 0; t < j.to.size() && !j.from.empty(); ++t) {
            const Ends ends{leadEnd(build, j.from), leadEnd(build, j.to[t])};
            LeadRoute route = between(ends, j.routeTo(t), bodies);
            route.joined = i;
            route.end = t;
            route.ref = leadRef(build, i);
            route.from = j.from;
            route.to = j.to[t];
            route.body = leadBodyOf(*j.part);
            if (const auto* cable = std::get_if<CableSpec>(&j.part->spec))
                route.lengthMm = cable->lengthMm;
            for (const Point& p : j.routeTo(t))
                for (std::size_t k = 0; k < 3; ++k)
                    route.leavesCase = route.leavesCase || p[k] < 0 || p[k] > build.insideAt[k].mm();
            if (route.stated)
                route.meets = meetings.of(route, ends);
            all.push_back(std::move(route));
        }
    }
    findCrossings(all);
    return all;
}

double wayAlongEdgesMm(const Build& build, const std::string& from, const std::string& to) {
    return between({leadEnd(build, from), leadEnd(build, to)}, {}, bodiesOf(build)).wayMm;
}

std::vector<Bundle> bundlesOf(const std::vector<LeadRoute>& routes, double reachMm) {
    const std::vector<Leg> legs = legsOf(routes);
    std::vector<bool> taken(legs.size(), false);
    std::vector<Bundle> bundles;
    for (std::size_t i = 0; i < legs.size(); ++i) {
        if (taken[i])
            continue;
        std::vector<Leg> together{legs[i]};
        for (std::size_t k = i + 1; k < legs.size(); ++k)
            if (!taken[k] && std::all_of(together.begin(), together.end(),
                                         [&](const Leg& leg) { return besideEachOther(leg, legs[k], reachMm); })) {
                together.push_back(legs[k]);
                taken[k] = true;
            }
        if (together.size() > 1)
            bundles.push_back(bundleOf(together));
    }
    return bundles;
}

std::vector<Point> cornersOf(const LeadRoute& route) { return {route.points.begin() + 2, route.points.end() - 2}; }

} // namespace core::fit
