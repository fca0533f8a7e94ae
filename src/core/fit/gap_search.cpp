// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/gap_search.h"

#include <limits>
#include <numeric>

namespace core::fit {
namespace {

class Search {
public:
    Search(const Build& build, const std::vector<PlacedBody>& bodies, double reachMm, std::optional<std::size_t> only)
        : m_build(build), m_bodies(bodies), m_reach(Length::fromMm(reachMm)), m_reachMm(reachMm), m_only(only) {}

    std::vector<Candidate> run() {
        // Swept along the depth: only bodies whose boxes come within reach there are compared.
        std::vector<std::size_t> order(m_bodies.size());
        std::iota(order.begin(), order.end(), 0U);
        std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            return std::pair(m_bodies[a].low[1], a) < std::pair(m_bodies[b].low[1], b);
        });
        for (std::size_t n = 0; n < order.size(); ++n) {
            const PlacedBody& a = m_bodies[order[n]];
            for (std::size_t m = n + 1; m < order.size(); ++m) {
                const PlacedBody& b = m_bodies[order[m]];
                if (b.low[1] > a.high[1] + m_reach)
                    break;
                if (near(a, b) && comparable(a, b))
                    addPair(std::min(order[n], order[m]), std::max(order[n], order[m]));
            }
        }
        for (std::size_t i = 0; i < m_bodies.size(); ++i)
            if (!m_only || m_bodies[i].placed == *m_only)
                for (const Axis axis : allAxes)
                    addWalls(i, axis);
        return std::move(m_found);
    }

private:
    [[nodiscard]] bool near(const PlacedBody& a, const PlacedBody& b) const {
        for (const std::size_t k : {0U, 2U})
            if (b.low[k] > a.high[k] + m_reach || a.low[k] > b.high[k] + m_reach)
                return false;
        return !m_only || a.placed == *m_only || b.placed == *m_only;
    }
    [[nodiscard]] bool comparable(const PlacedBody& a, const PlacedBody& b) const {
        if (a.placed == b.placed)
            return false;
        const bool keepA = a.role == BodyRole::KeepOut, keepB = b.role == BodyRole::KeepOut;
        // Two plugs cannot share a space; leads, tools and feet may pass one another.
        if (keepA && keepB && !(a.use == Use::Plug && b.use == Use::Plug))
            return false;
        // What carries a part touches it; but the plugs of the carrier need their room beside it.
        if (carries(m_build, a.placed, b.placed))
            return keepA && !keepB;
        if (carries(m_build, b.placed, a.placed))
            return keepB && !keepA;
        return true;
    }
    void addPair(std::size_t i, std::size_t j);
    void addShortest(std::size_t i, std::size_t j);
    void addWalls(std::size_t i, Axis axis);
    [[nodiscard]] bool hidden(const PlacedBody& lower, const PlacedBody& upper, std::size_t axis) const;
    [[nodiscard]] bool hiddenOnTheWay(const PlacedBody& a, const PlacedBody& b, const Separation& s) const;

    const Build& m_build;
    const std::vector<PlacedBody>& m_bodies;
    Length m_reach;
    double m_reachMm;
    std::optional<std::size_t> m_only;
    std::vector<Candidate> m_found;
};

/// Gaps of corners only matter when they are so near that a rule could ask for more.
constexpr double cornerMm = 5;

void Search::addPair(std::size_t i, std::size_t j) {
    const PlacedBody& a = m_bodies[i];
    const PlacedBody& b = m_bodies[j];
    std::array<Length, 3> shared{};
    int apart = 0;
    std::size_t apartAxis = 0, leastAxis = 0;
    for (std::size_t k = 0; k < 3; ++k) {
        shared[k] = std::min(a.high[k], b.high[k]) - std::max(a.low[k], b.low[k]);
        if (shared[k] <= Length{}) {
            ++apart;
            apartAxis = k;
        }
        if (shared[k] < shared[leastAxis])
            leastAxis = k;
    }
    if (!a.isBox() || !b.isBox() || apart > 1) {
        const bool boxes = a.isBox() && b.isBox();
        double squares = 0;
        for (std::size_t k = 0; k < 3; ++k)
            squares += std::pow(std::min(0.0, shared[k].mm()), 2);
        if (!boxes ? squares <= m_reachMm * m_reachMm : squares < cornerMm * cornerMm)
            addShortest(i, j);
        return;
    }
    const std::size_t axis = apart == 1 ? apartAxis : leastAxis;
    const bool aLower = a.low[axis] + a.high[axis] <= b.low[axis] + b.high[axis];
    const std::size_t lower = aLower ? i : j, upper = aLower ? j : i;
    if (apart == 1 && hidden(m_bodies[lower], m_bodies[upper], axis))
        return;
    m_found.push_back({lower, upper, static_cast<Axis>(axis), {}});
}

void Search::addShortest(std::size_t i, std::size_t j) {
    auto s = separation(m_bodies[i], m_bodies[j], m_reachMm);
    if (!s || (s->mm > 0 && hiddenOnTheWay(m_bodies[i], m_bodies[j], *s)))
        return;
    std::size_t axis = 0;
    for (std::size_t k = 1; k < 3; ++k)
        if (std::abs(s->way[k]) > std::abs(s->way[axis]) + 1e-9)
            axis = k;
    std::size_t lower = i, upper = j;
    if (s->way[axis] < 0) {
        std::swap(lower, upper);
        std::swap(s->from, s->to);
        for (double& w : s->way)
            w = -w;
    }
    // Straight along an axis it is an ordinary gap of two faces, with the chain of those faces; the faces of the boxes
    // around the bodies must be where the bodies are nearest.
    const PlacedBody &lo = m_bodies[lower], &up = m_bodies[upper];
    const bool straight = s->way[axis] > 1 - 1e-6 && std::abs((up.low[axis] - lo.high[axis]).mm() - s->mm) < 0.002;
    m_found.push_back({lower, upper, static_cast<Axis>(axis), straight ? std::nullopt : s});
}

bool Search::hidden(const PlacedBody& lower, const PlacedBody& upper, std::size_t axis) const {
    const std::size_t u = (axis + 1) % 3, v = (axis + 2) % 3;
    const Length u0 = std::max(lower.low[u], upper.low[u]), u1 = std::min(lower.high[u], upper.high[u]);
    const Length v0 = std::max(lower.low[v], upper.low[v]), v1 = std::min(lower.high[v], upper.high[v]);
    const double shared = (u1 - u0).mm() * (v1 - v0).mm();
    const Length from = lower.high[axis], to = upper.low[axis];
    for (const PlacedBody& c : m_bodies) {
        if (c.high[axis] <= from || c.low[axis] >= to || c.low[u] >= u1 || c.high[u] <= u0 || c.low[v] >= v1 ||
            c.high[v] <= v0)
            continue;
        if (c.placed == lower.placed || c.placed == upper.placed || c.role == BodyRole::KeepOut || !c.isBox())
            continue;
        const double covered = (std::min(u1, c.high[u]) - std::max(u0, c.low[u])).mm() *
                               (std::min(v1, c.high[v]) - std::max(v0, c.low[v])).mm();
        if (covered > 0.9 * shared)
            return true;
    }
    return false;
}

/// Something solid lies across the shortest way.
bool Search::hiddenOnTheWay(const PlacedBody& a, const PlacedBody& b, const Separation& s) const {
    for (const PlacedBody& c : m_bodies) {
        if (c.placed == a.placed || c.placed == b.placed || c.role == BodyRole::KeepOut || !c.isBox())
            continue;
        double enter = 0, leave = 1;
        for (std::size_t k = 0; k < 3 && enter < leave; ++k) {
            const double d = s.to[k] - s.from[k], lo = c.low[k].mm() - s.from[k], hi = c.high[k].mm() - s.from[k];
            if (std::abs(d) < 1e-9) {
                if (lo >= 0 || hi <= 0)
                    leave = -1;
                continue;
            }
            enter = std::max(enter, std::min(lo / d, hi / d));
            leave = std::min(leave, std::max(lo / d, hi / d));
        }
        if (enter < leave - 1e-9)
            return true;
    }
    return false;
}

void Search::addWalls(std::size_t i, Axis axis) {
    const std::size_t k = index(axis);
    const PlacedBody& b = m_bodies[i];
    for (std::size_t a = 0; a < 3; ++a)
        if (b.low[a] >= m_build.insideAt[a] || b.high[a] <= Length{})
            return; // mounted outside: the walls are not before it
    const auto seen = [&](bool high) {
        PlacedBody edge{.placed = caseWall, .low = b.low, .high = b.high};
        edge.low[k] = edge.high[k] = high ? m_build.insideAt[k] : Length{};
        return high ? !hidden(b, edge, k) : !hidden(edge, b, k);
    };
    if (b.low[k] <= m_reach && seen(false))
        m_found.push_back({caseWall, i, axis, {}});
    if (m_build.insideAt[k] - b.high[k] <= m_reach && seen(true))
        m_found.push_back({i, caseWall, axis, {}});
}

} // namespace

bool carries(const Build& build, std::size_t low, std::size_t high) {
    for (std::ptrdiff_t p = build.placed[high].parent; p >= 0; p = build.placed[static_cast<std::size_t>(p)].parent)
        if (static_cast<std::size_t>(p) == low)
            return true;
    return false;
}

std::vector<Candidate> findCandidates(const Build& build, const std::vector<PlacedBody>& bodies, double reachMm,
                                      std::optional<std::size_t> only) {
    return Search(build, bodies, reachMm, only).run();
}

} // namespace core::fit
