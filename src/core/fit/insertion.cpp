// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/insertion.h"

#include "core/base/text.h"
#include "core/base/words.h"

#include <limits>
#include <numbers>
#include <queue>

namespace core::fit {
namespace {

constexpr WordTable<Passage, 5> passageWords{{{Passage::Unstated, "not stated"},
                                              {Passage::Straight, "passes"},
                                              {Passage::Tilted, "passes tilted"},
                                              {Passage::OnlyBefore, "only before"},
                                              {Passage::Blocked, "does not pass"}}};

constexpr double wantedMm = 1.0; // slides past: engineering judgement
constexpr double stepMm = 4, stepDeg = 3;
constexpr int mostTilt = 20; // steps: 60 degrees
constexpr int mostSide = 12; // steps along the long side: 48 mm

/// A box in the plane of the way, with its reach across the plane and the part it belongs to.
struct Obstacle {
    Rectangle shape;
    double low = 0, high = 0;
    std::size_t placed = 0; ///< index, or wallIndex
    double clearMm = wantedMm;
};
constexpr std::size_t wallIndex = static_cast<std::size_t>(-1);
constexpr std::size_t nobody = static_cast<std::size_t>(-2); ///< nothing has been fitted yet

/// The plane of a motion: v points out of the case, u lies along the long side of the part, w across both.
struct Plane {
    std::size_t u = 0, v = 0, w = 0;
    double sign = 1; ///< of v in the case
};

Rectangle rectangleOf(const PlacedBody& b, const Plane& plane) {
    const auto middle = [&](std::size_t k) { return 0.5 * (b.low[k].mm() + b.high[k].mm()); };
    const auto half = [&](std::size_t k) { return 0.5 * (b.high[k] - b.low[k]).mm(); };
    return {middle(plane.u), plane.sign * middle(plane.v), half(plane.u), half(plane.v)};
}

double gapBetween(const Rectangle& a, const Rectangle& b) { // both upright
    const double du = std::max(0.0, std::abs(a.u - b.u) - a.halfU - b.halfU),
                 dv = std::max(0.0, std::abs(a.v - b.v) - a.halfV - b.halfV);
    return std::hypot(du, dv);
}

class Way {
public:
    Way(const Build& build, std::size_t part, Side side, std::size_t u, const std::vector<PlacedBody>& others)
        : m_build(build), m_side(side) {
        const Direction out = outward(side);
        m_plane = {u, index(out.axis), 3 - u - index(out.axis), static_cast<double>(out.sign)};
        for (const PlacedBody& b : bodiesOf(build, part))
            if (b.role == BodyRole::Solid)
                m_moving.push_back({rectangleOf(b, m_plane), b.low[m_plane.w].mm(), b.high[m_plane.w].mm(), part});
        for (const PlacedBody& b : others)
            addObstacle({rectangleOf(b, m_plane), b.low[m_plane.w].mm(), b.high[m_plane.w].mm(), b.placed});
        addWalls();
        double low = std::numeric_limits<double>::max(), lowU = low, highU = -low;
        for (const Obstacle& m : m_moving) {
            low = std::min(low, m.shape.v - m.shape.halfV);
            lowU = std::min(lowU, m.shape.u - m.shape.halfU);
            highU = std::max(highU, m.shape.u + m.shape.halfU);
        }
        m_toGo = m_rim - low;
        m_lowV = low;
        m_ends = {lowU, highU};
    }

    struct Straight {
        bool passes = true;
        double marginMm = std::numeric_limits<double>::infinity();
        std::size_t blockedBy = wallIndex;
    };
    [[nodiscard]] Straight straight() const {
        Straight s;
        // The frame of the opening stands on all four sides; the plane only holds two of them.
        const double across = m_build.insideAt[m_plane.w].mm();
        for (const Obstacle& m : m_moving)
            s.marginMm = std::min({s.marginMm, std::max(0.0, m.low - m_lip), std::max(0.0, across - m_lip - m.high)});
        for (const Obstacle& m : m_moving)
            for (const Obstacle& o : m_fixed) {
                if (o.shape.v + o.shape.halfV <= m.shape.v - m.shape.halfV + 1e-6)
                    continue; // behind it
                const double du = std::abs(m.shape.u - o.shape.u) - m.shape.halfU - o.shape.halfU;
                const double dw = std::max(o.low - m.high, m.low - o.high);
                const double beside = du > 0 && dw > 0 ? std::hypot(du, dw) : std::max(du, dw);
                if (beside < -1e-6) {
                    if (gapBetween(m.shape, o.shape) <= 0 && o.low < m.high && o.high > m.low)
                        continue; // they overlap in place already: a clash, not a question of going in
                    s.passes = false;
                    s.blockedBy = o.placed;
                    return s;
                }
                if (o.placed != wallIndex || o.shape.v + o.shape.halfV > m_rim - 1e-6)
                    s.marginMm = std::min(s.marginMm, std::max(0.0, beside));
            }
        return s;
    }

    /// Smallest largest tilt of a way out that turns about one end of the part, with poses; empty: there is none.
    struct Tilted {
        double tiltDeg = 0;
        std::vector<Pose> poses;
    };
    [[nodiscard]] std::optional<Tilted> tilted(double clearMm) const {
        std::optional<Tilted> best;
        for (const double end : m_ends) {
            const int most = best ? static_cast<int>(best->tiltDeg / stepDeg) - 1 : mostTilt;
            if (auto way = most >= 0 ? search(end, most, clearMm) : std::nullopt)
                best = std::move(way);
        }
        return best;
    }
    [[nodiscard]] std::vector<Pose> straightPoses() const {
        std::vector<Pose> poses;
        for (const double share : {1.05, 0.66, 0.33, 0.0})
            poses.push_back(poseAt({0, m_toGo * share, 0}, m_ends[0]));
        return poses;
    }

private:
    struct State {
        double u = 0, v = 0, angle = 0;
    };
    /// A moving box at one tilt about an end of the part.
    [[nodiscard]] Rectangle turned(const Rectangle& r, double angle, double end) const {
        const double c = std::cos(angle), n = std::sin(angle), du = r.u - end, dv = r.v - m_lowV;
        return {end + c * du - n * dv, m_lowV + n * du + c * dv, r.halfU, r.halfV, c, n};
    }
    [[nodiscard]] Rectangle moved(const Rectangle& r, const State& s, double end) const {
        Rectangle out = turned(r, s.angle, end);
        out.u += s.u;
        out.v += s.v;
        return out;
    }

    void addObstacle(Obstacle o) {
        // What is near in place keeps no more room than that on the way.
        double now = wantedMm;
        for (const Obstacle& m : m_moving)
            if (o.low < m.high && o.high > m.low)
                now = std::min(now, gapBetween(m.shape, o.shape) - 0.01);
        o.clearMm = now;
        m_fixed.push_back(o);
    }
    void addWalls() {
        const double size = m_build.insideAt[m_plane.u].mm(), depth = m_build.insideAt[m_plane.v].mm(),
                     wall = m_build.caseSpec().wall.value.mm();
        for (const Panel& p : m_build.caseSpec().panels)
            if (p.side == m_side)
                m_lip = p.lipMm;
        const double lip = m_lip;
        const double back = m_plane.sign > 0 ? 0 : -depth, rim = back + depth + wall;
        m_rim = rim;
        const auto wallBox = [&](double u0, double u1, double v0, double v1) {
            Obstacle o{{0.5 * (u0 + u1), 0.5 * (v0 + v1), 0.5 * (u1 - u0), 0.5 * (v1 - v0)}, -1e4, 1e4, wallIndex};
            for (const Obstacle& m : m_moving)
                o.clearMm = std::min(o.clearMm, gapBetween(m.shape, o.shape) - 0.01);
            m_fixed.push_back(o);
        };
        constexpr double thick = 200;
        wallBox(-thick, 0, back - thick, rim);
        wallBox(size, size + thick, back - thick, rim);
        wallBox(-thick, size + thick, back - thick, back);
        if (lip > 0) {
            wallBox(-1, lip, back + depth, rim);
            wallBox(size - lip, size + 1, back + depth, rim);
            // The frame across the plane narrows the way of everything that reaches under it.
            const double across = m_build.insideAt[m_plane.w].mm();
            for (const Obstacle& m : m_moving)
                if (m.low < lip || m.high > across - lip) {
                    wallBox(0, size, back + depth, rim);
                    break;
                }
        }
    }
    /// Upright obstacles that reach into the plane of each moving box, grown by the room that is kept on the way.
    [[nodiscard]] std::vector<std::vector<Rectangle>> grown(double clearMm) const {
        std::vector<std::vector<Rectangle>> all(m_moving.size());
        for (std::size_t i = 0; i < m_moving.size(); ++i)
            for (const Obstacle& o : m_fixed) {
                const double clear = std::min(clearMm, o.clearMm);
                if (o.low >= m_moving[i].high - 1e-6 || o.high <= m_moving[i].low + 1e-6 || clear < -0.005)
                    continue; // beside the plane, or they overlap in place
                Rectangle r = o.shape;
                r.halfU += std::max(0.0, clear);
                r.halfV += std::max(0.0, clear);
                all[i].push_back(r);
            }
        return all;
    }
    [[nodiscard]] bool isOut(const State& s, double end) const {
        for (const Obstacle& m : m_moving) {
            const Rectangle r = moved(m.shape, s, end);
            const double reach = std::abs(r.sine) * r.halfU + std::abs(r.cosine) * r.halfV;
            if (r.v - reach < m_rim)
                return false;
        }
        return true;
    }
    [[nodiscard]] Pose poseAt(const State& s, double end) const {
        Pose pose{.tiltDeg = std::abs(s.angle) * 180 / std::numbers::pi};
        for (const Obstacle& m : m_moving) {
            const Rectangle r = moved(m.shape, s, end);
            std::array<Point, 4> corners{};
            const double c = r.cosine, n = r.sine;
            for (std::size_t i = 0; i < 4; ++i) {
                const double du = (i == 0 || i == 3 ? -1 : 1) * r.halfU, dv = (i < 2 ? -1 : 1) * r.halfV;
                corners[i][m_plane.u] = r.u + c * du - n * dv;
                corners[i][m_plane.v] = m_plane.sign * (r.v + n * du + c * dv);
                corners[i][m_plane.w] = 0.5 * (m.low + m.high);
            }
            pose.outlines.push_back(corners);
        }
        return pose;
    }
    /// Breadth first over places and tilts on a grid, from the place of the part outwards.
    [[nodiscard]] std::optional<Tilted> search(double end, int most, double clearMm) const;
    [[nodiscard]] Tilted wayTo(const auto& nodes, const std::vector<std::int64_t>& parent, std::size_t at, double turn,
                               double end) const;

    const Build& m_build;
    Side m_side;
    Plane m_plane;
    std::vector<Obstacle> m_moving, m_fixed;
    std::array<double, 2> m_ends{};
    double m_rim = 0, m_toGo = 0, m_lowV = 0, m_lip = 0;
};

std::optional<Way::Tilted> Way::search(double end, int most, double clearMm) const {
    // The free end swings outwards: about the low end anticlockwise, about the high end clockwise.
    const double turn = end == m_ends[0] ? 1 : -1;
    double length = 0;
    for (const Obstacle& m : m_moving)
        length = std::max(length, 2 * std::hypot(m.shape.halfU, m.shape.halfV));
    const int outSteps = static_cast<int>(std::ceil((m_toGo + length) / stepMm)) + 2;
    // Tilts in half steps: every move is checked halfway, so that nothing thin is jumped over.
    const auto obstacles = grown(clearMm);
    std::vector<std::vector<Rectangle>> turns(m_moving.size());
    for (std::size_t i = 0; i < m_moving.size(); ++i)
        for (int half = 0; half <= 2 * most; ++half)
            turns[i].push_back(turned(m_moving[i].shape, turn * half * 0.5 * stepDeg * std::numbers::pi / 180, end));
    const auto isFree = [&](double u, double v, int half) {
        for (std::size_t i = 0; i < m_moving.size(); ++i) {
            Rectangle r = turns[i][static_cast<std::size_t>(half)];
            r.u += u;
            r.v += v;
            for (const Rectangle& o : obstacles[i])
                if (overlap(r, o))
                    return false;
        }
        return true;
    };
    struct Node {
        int s, side, tilt, tiltSoFar;
    };
    const int tilts = most + 1, sides = 2 * mostSide + 1;
    const auto id = [&](const Node& n) {
        return (static_cast<std::size_t>(n.s) * static_cast<std::size_t>(sides) +
                static_cast<std::size_t>(n.side + mostSide)) *
                   static_cast<std::size_t>(tilts) +
               static_cast<std::size_t>(n.tilt);
    };
    std::vector<char> seen(
        static_cast<std::size_t>(outSteps + 1) * static_cast<std::size_t>(sides) * static_cast<std::size_t>(tilts), 0);
    if (!isFree(0, 0, 0))
        return std::nullopt;
    std::vector<Node> nodes{{0, 0, 0, 0}};
    std::vector<std::int64_t> parent{-1};
    // States wait in one row for each largest tilt so far: the first way found tilts least.
    std::vector<std::vector<std::size_t>> waiting(static_cast<std::size_t>(tilts));
    waiting[0].push_back(0);
    seen[id(nodes[0])] = 1;
    for (int level = 0; level < tilts; ++level)
        for (std::size_t k = 0; k < waiting[static_cast<std::size_t>(level)].size(); ++k) {
            const std::size_t at = waiting[static_cast<std::size_t>(level)][k];
            const Node n = nodes[at];
            if (isOut({n.side * stepMm, n.s * stepMm, turn * n.tilt * stepDeg * std::numbers::pi / 180}, end))
                return wayTo(nodes, parent, at, turn, end);
            constexpr std::array<std::array<int, 3>, 6> moves{
                {{1, 0, 0}, {0, 0, 1}, {0, 0, -1}, {0, 1, 0}, {0, -1, 0}, {-1, 0, 0}}};
            for (const auto& [ds, dside, dtilt] : moves) {
                const Node next{n.s + ds, n.side + dside, n.tilt + dtilt, std::max(n.tiltSoFar, n.tilt + dtilt)};
                if (next.s < 0 || next.s > outSteps || std::abs(next.side) > mostSide || next.tilt < 0 ||
                    next.tilt > most || seen[id(next)])
                    continue;
                if (!isFree((n.side + 0.5 * dside) * stepMm, (n.s + 0.5 * ds) * stepMm, 2 * n.tilt + dtilt) ||
                    !isFree(next.side * stepMm, next.s * stepMm, 2 * next.tilt))
                    continue; // from another side it may still be reached
                seen[id(next)] = 1;
                waiting[static_cast<std::size_t>(next.tiltSoFar)].push_back(nodes.size());
                nodes.push_back(next);
                parent.push_back(static_cast<std::int64_t>(at));
            }
        }
    return std::nullopt;
}

/// The way back from a state to the place of the part, with a few positions to draw.
Way::Tilted Way::wayTo(const auto& nodes, const std::vector<std::int64_t>& parent, std::size_t at, double turn,
                       double end) const {
    std::vector<std::size_t> way;
    for (std::int64_t k = static_cast<std::int64_t>(at); k >= 0; k = parent[static_cast<std::size_t>(k)])
        way.push_back(static_cast<std::size_t>(k));
    Tilted out{.tiltDeg = nodes[at].tiltSoFar * stepDeg, .poses = {}};
    constexpr std::size_t shown = 6;
    for (std::size_t i = 0; i < shown; ++i) {
        const auto& n = nodes[way[i * (way.size() - 1) / (shown - 1)]];
        out.poses.push_back(
            poseAt({n.side * stepMm, n.s * stepMm, turn * n.tilt * stepDeg * std::numbers::pi / 180}, end));
    }
    return out;
}

class Inserter {
public:
    Inserter(const Build& build, const std::vector<std::string>& order)
        : m_build(build), m_rank(build.placed.size(), order.size()) {
        for (std::size_t i = 0; i < build.placed.size(); ++i)
            if (const auto it = std::find(order.begin(), order.end(), build.placed[i].mount); it != order.end())
                m_rank[i] = static_cast<std::size_t>(it - order.begin());
    }
    [[nodiscard]] Insertion of(std::size_t part) const {
        const Placed& p = m_build.placed[part];
        Insertion out = best(part, wallIndex);
        out.mount = p.mount;
        out.name = p.name;
        if (m_build.caseSpec().panels.empty())
            out.passage = Passage::Unstated; // that none comes off is said where panels are stated and none does
        else if (out.passage == Passage::Blocked)
            tryWithoutOne(part, out);
        out.text = words(out);
        return out;
    }

private:
    [[nodiscard]] bool related(std::size_t a, std::size_t b) const {
        const auto above = [&](std::size_t low, std::size_t high) {
            for (std::ptrdiff_t p = m_build.placed[high].parent; p >= 0;
                 p = m_build.placed[static_cast<std::size_t>(p)].parent)
                if (static_cast<std::size_t>(p) == low)
                    return true;
            return false;
        };
        return above(a, b);
    }
    /// Parts that are there when this one goes in.
    [[nodiscard]] std::vector<PlacedBody> there(std::size_t part, std::size_t without) const {
        std::vector<PlacedBody> bodies;
        for (std::size_t i = 0; i < m_build.placed.size(); ++i) {
            if (without == nobody || i == part || i == without || m_rank[i] >= m_rank[part] || related(part, i) ||
                (without != wallIndex && related(without, i)))
                continue;
            for (PlacedBody& b : bodiesOf(m_build, i))
                if (b.role == BodyRole::Solid)
                    bodies.push_back(std::move(b));
        }
        return bodies;
    }
    [[nodiscard]] Insertion best(std::size_t part, std::size_t without) const;
    void tryWithoutOne(std::size_t part, Insertion& out) const;
    [[nodiscard]] static Sentence words(const Insertion& i);

    const Build& m_build;
    std::vector<std::size_t> m_rank;
};

Insertion Inserter::best(std::size_t part, std::size_t without) const {
    const auto others = there(part, without);
    Insertion out;
    std::vector<std::pair<Side, std::size_t>> ways;
    for (const Panel& panel : m_build.caseSpec().panels)
        if (panel.removable)
            for (std::size_t u = 0; u < 3; ++u)
                if (u != index(outward(panel.side).axis))
                    ways.emplace_back(panel.side, u);
    bool passes = false;
    for (const auto& [side, u] : ways) {
        const Way way(m_build, part, side, u, others);
        const auto s = way.straight();
        if (!s.passes) {
            if (!passes && out.blockedBy.empty())
                out.blockedBy = s.blockedBy == wallIndex ? say("{} frame", term(sideWord(side)))
                                                         : named(m_build.placed[s.blockedBy].name);
            continue;
        }
        if (!passes || s.marginMm > out.marginMm + 1e-9) {
            passes = true;
            out.passage = Passage::Straight;
            out.side = side;
            out.across = u;
            out.marginMm = std::min(s.marginMm, 999.0);
            out.poses = way.straightPoses();
        }
    }
    if (passes) {
        out.tight = out.marginMm < wantedMm;
        out.blockedBy = {};
        return out;
    }
    for (const double clear : {wantedMm, 0.0}) {
        for (const auto& [side, u] : ways)
            if (const auto t = Way(m_build, part, side, u, others).tilted(clear);
                t && (!passes || t->tiltDeg < out.tiltDeg)) {
                passes = true;
                out.passage = Passage::Tilted;
                out.side = side;
                out.across = u;
                out.tiltDeg = t->tiltDeg;
                out.tight = clear < wantedMm;
                out.poses = t->poses;
            }
        if (passes)
            break;
    }
    return out;
}

/// Taken back one at a time, last fitted first: which one is in the way?
void Inserter::tryWithoutOne(std::size_t part, Insertion& out) const {
    if (best(part, nobody).passage == Passage::Blocked)
        return; // the case itself is in the way
    std::vector<std::size_t> earlier;
    for (std::size_t i = 0; i < m_build.placed.size(); ++i)
        if (i != part && m_rank[i] < m_rank[part] && !related(i, part))
            earlier.push_back(i);
    std::sort(earlier.begin(), earlier.end(), [&](std::size_t a, std::size_t b) { return m_rank[a] > m_rank[b]; });
    for (const std::size_t i : earlier) {
        Insertion then = best(part, i);
        if (then.passage == Passage::Blocked)
            continue;
        const Sentence in = out.blockedBy;
        const auto mount = out.mount, name = out.name;
        out = std::move(then);
        out.mount = mount;
        out.name = name;
        out.passage = Passage::OnlyBefore;
        out.before = m_build.placed[i].name;
        out.blockedBy = in;
        return;
    }
}

Sentence Inserter::words(const Insertion& i) {
    constexpr double wideMm = 100; // more beside it is not worth a word
    const Sentence through = say("through the {} opening", term(sideWord(i.side)));
    const Sentence tilt =
        i.tiltDeg > 0 ? say("tilted by {}°", figure::number(i.tiltDeg)) : say("moved aside on its way");
    switch (i.passage) {
    case Passage::Straight:
        return i.marginMm > wideMm
                   ? say("{} passes straight {}", i.name, through)
                   : say("{} passes straight {}, {} beside it", i.name, through, figure::mm(i.marginMm));
    case Passage::Tilted:
        return i.tight ? say("{} passes {} {}, with less than {} somewhere; straight it meets {}", i.name, tilt,
                             through, figure::mm(wantedMm, 0), i.blockedBy)
                       : say("{} passes {} {}; straight it meets {}", i.name, tilt, through, i.blockedBy);
    case Passage::OnlyBefore:
        return i.tiltDeg > 0 ? say("{} goes in only before {} is fitted, {} {}", i.name, i.before, tilt, through)
                             : say("{} goes in only before {} is fitted {}", i.name, i.before, through);
    case Passage::Unstated:
        return say("{}: which panels of the case come off is not stated, so its way in is not looked at", i.name);
    case Passage::Blocked:
        break;
    }
    return i.blockedBy.empty() ? say("{} does not pass: no panel comes off", i.name)
                               : say("{} does not pass: {} is in the way", i.name, i.blockedBy);
}

} // namespace

std::string_view passageWord(Passage passage) { return wordOf(passageWords, passage); }

bool overlap(const Rectangle& t, const Rectangle& o) {
    // Separating axes: the sides of the upright one, then those of the turned one.
    const double du = o.u - t.u, dv = o.v - t.v, c = std::abs(t.cosine), n = std::abs(t.sine);
    if (std::abs(du) >= t.halfU * c + t.halfV * n + o.halfU - 1e-9 ||
        std::abs(dv) >= t.halfU * n + t.halfV * c + o.halfV - 1e-9)
        return false;
    if (std::abs(t.cosine * du + t.sine * dv) >= t.halfU + o.halfU * c + o.halfV * n - 1e-9)
        return false;
    return std::abs(t.cosine * dv - t.sine * du) < t.halfV + o.halfU * n + o.halfV * c - 1e-9;
}

std::vector<Insertion> insertions(const Build& build, const std::vector<std::string>& order,
                                  const std::function<bool()>& stop) {
    const Inserter inserter(build, order);
    std::vector<Insertion> all;
    for (std::size_t i = 0; i < build.placed.size(); ++i) {
        const PartKind kind = build.placed[i].part->kind;
        if (build.placed[i].outside || (stop && stop()))
            continue; // it goes on from outside
        if (kind == PartKind::Card || kind == PartKind::PowerSupply || kind == PartKind::Radiator ||
            kind == PartKind::Drive)
            all.push_back(inserter.of(i));
    }
    return all;
}

} // namespace core::fit
