// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/fit.h"

#include "core/base/words.h"

#include <numbers>

namespace core::fit {
namespace {

constexpr WordTable<GapState, 4> stateWords{{{GapState::Clear, "clear"}, {GapState::Rub, "rub"},
    {GapState::Bulge, "bulge"}, {GapState::Clash, "clash"}}};

constexpr std::size_t wall = static_cast<std::size_t>(-1);

/// Two ends that face each other along an axis, before the chain is worked out.
struct Candidate {
    std::size_t lower = wall, upper = wall; ///< indices of bodies
    Axis axis = Axis::X;
    Length gap;
};

class Checker {
public:
    Checker(const Build& build, const Options& options) : m_build(build), m_options(options), m_bodies(bodiesOf(build)) {}

    FitResult run() {
        FitResult result;
        for (std::size_t i = 0; i < m_bodies.size(); ++i) {
            for (std::size_t j = i + 1; j < m_bodies.size(); ++j)
                if (comparable(m_bodies[i], m_bodies[j]))
                    addPair(i, j);
            for (const Axis axis : allAxes)
                addWalls(i, axis);
        }
        for (const Candidate& c : m_candidates)
            if (auto gap = finish(c))
                keepTightest(result.gaps, std::move(*gap));
        std::stable_sort(result.gaps.begin(), result.gaps.end(), [](const Gap& a, const Gap& b) { return a.marginMm() < b.marginMm(); });
        addEnvelope(result);
        return result;
    }

private:
    [[nodiscard]] bool comparable(const PlacedBody& a, const PlacedBody& b) const {
        if (a.placed == b.placed || (a.role == BodyRole::KeepOut && b.role == BodyRole::KeepOut))
            return false;
        return !carries(a.placed, b.placed) && !carries(b.placed, a.placed);
    }
    [[nodiscard]] bool carries(std::size_t low, std::size_t high) const {
        for (std::ptrdiff_t p = m_build.placed[high].parent; p >= 0; p = m_build.placed[static_cast<std::size_t>(p)].parent)
            if (static_cast<std::size_t>(p) == low)
                return true;
        return false;
    }
    [[nodiscard]] static Length overlap(const PlacedBody& a, const PlacedBody& b, std::size_t axis) {
        return std::min(a.high[axis], b.high[axis]) - std::max(a.low[axis], b.low[axis]);
    }
    void addPair(std::size_t i, std::size_t j);
    void addWalls(std::size_t i, Axis axis);
    [[nodiscard]] bool hidden(const PlacedBody& lower, const PlacedBody& upper, std::size_t axis) const;
    [[nodiscard]] static bool roundCornersPass(const PlacedBody& a, const PlacedBody& b);
    [[nodiscard]] std::optional<Gap> finish(const Candidate& c) const;
    [[nodiscard]] Chain face(std::size_t body, std::size_t axis, bool high, std::vector<Dimension>& extra) const;
    [[nodiscard]] GapEnd end(std::size_t body, Axis axis, bool facingUp, std::size_t other) const;
    [[nodiscard]] bool openPanelBefore(const PlacedBody& body, Side side) const;
    [[nodiscard]] bool flexible(const Candidate& c) const;
    static void keepTightest(std::vector<Gap>& gaps, Gap gap);
    void addEnvelope(FitResult& result) const;

    const Build& m_build;
    const Options& m_options;
    std::vector<PlacedBody> m_bodies;
    std::vector<Candidate> m_candidates;
};

/// A cylinder leaves the corners of its box free: true when a box there does not touch the round.
bool Checker::roundCornersPass(const PlacedBody& a, const PlacedBody& b) {
    const PlacedBody& round = a.shape == Shape::Cylinder ? a : b;
    const PlacedBody& other = a.shape == Shape::Cylinder ? b : a;
    if (round.shape != Shape::Cylinder)
        return false;
    double distance2 = 0;
    double radius = 1e300;
    for (const Axis axis : allAxes) {
        if (axis == round.along)
            continue;
        const std::size_t k = index(axis);
        const double centre = 0.5 * (round.low[k].mm() + round.high[k].mm());
        radius = std::min(radius, 0.5 * (round.high[k] - round.low[k]).mm());
        const double d = std::max({other.low[k].mm() - centre, 0.0, centre - other.high[k].mm()});
        distance2 += d * d;
    }
    return std::sqrt(distance2) > radius;
}

void Checker::addPair(std::size_t i, std::size_t j) {
    const PlacedBody& a = m_bodies[i];
    const PlacedBody& b = m_bodies[j];
    std::array<Length, 3> shared{};
    int apart = 0;
    std::size_t apartAxis = 0, leastAxis = 0;
    for (std::size_t k = 0; k < 3; ++k) {
        shared[k] = overlap(a, b, k);
        if (shared[k] <= Length{}) {
            ++apart;
            apartAxis = k;
        }
        if (shared[k] < shared[leastAxis])
            leastAxis = k;
    }
    if (apart > 1)
        return;
    const std::size_t axis = apart == 1 ? apartAxis : leastAxis;
    const bool aLower = a.low[axis] + a.high[axis] <= b.low[axis] + b.high[axis];
    const std::size_t lower = aLower ? i : j, upper = aLower ? j : i;
    const Length gap = m_bodies[upper].low[axis] - m_bodies[lower].high[axis];
    if (gap.mm() > m_options.reachMm)
        return;
    if (apart == 0 && roundCornersPass(a, b))
        return;
    if (apart == 1 && hidden(m_bodies[lower], m_bodies[upper], axis))
        return;
    m_candidates.push_back({lower, upper, static_cast<Axis>(axis), gap});
}

bool Checker::hidden(const PlacedBody& lower, const PlacedBody& upper, std::size_t axis) const {
    for (const PlacedBody& c : m_bodies) {
        if (c.placed == lower.placed || c.placed == upper.placed || c.role == BodyRole::KeepOut)
            continue;
        if (c.high[axis] <= lower.high[axis] || c.low[axis] >= upper.low[axis])
            continue;
        double common = 1, covered = 1;
        for (std::size_t k = 0; k < 3; ++k) {
            if (k == axis)
                continue;
            const Length from = std::max(lower.low[k], upper.low[k]), to = std::min(lower.high[k], upper.high[k]);
            common *= (to - from).mm();
            covered *= std::max(0.0, (std::min(to, c.high[k]) - std::max(from, c.low[k])).mm());
        }
        if (covered > 0.9 * common)
            return true;
    }
    return false;
}

void Checker::addWalls(std::size_t i, Axis axis) {
    const std::size_t k = index(axis);
    const PlacedBody& b = m_bodies[i];
    const auto nearer = [&](bool high) {
        PlacedBody edge = b;
        if (high)
            edge.low[k] = edge.high[k] = m_build.insideAt[k];
        else
            edge.low[k] = edge.high[k] = Length{};
        edge.placed = wall;
        return high ? hidden(b, edge, k) : hidden(edge, b, k);
    };
    if (const Length gap = b.low[k]; gap.mm() <= m_options.reachMm && !nearer(false))
        m_candidates.push_back({wall, i, axis, gap});
    if (const Length gap = m_build.insideAt[k] - b.high[k]; gap.mm() <= m_options.reachMm && !nearer(true))
        m_candidates.push_back({i, wall, axis, gap});
}

Chain Checker::face(std::size_t body, std::size_t axis, bool high, std::vector<Dimension>& dims) const {
    if (body == wall)
        return high ? m_build.inside[axis] : Chain{};
    const PlacedBody& b = m_bodies[body];
    const Placed& p = m_build.placed[b.placed];
    if (!b.body)
        return high ? p.high[axis] : p.low[axis];
    std::size_t own = 0;
    while (index(p.frame.axis[own].axis) != axis)
        ++own;
    const bool flipped = p.frame.axis[own].sign < 0;
    // A face that is the part's own face has the part's own chain; measuring it twice would add doubt that is not there.
    const bool ownHigh = high != flipped;
    if (ownHigh && b.body->at[own].value + b.body->size[own].value == p.part->size[own].value)
        return high ? p.high[axis] : p.low[axis];
    Chain chain = flipped ? p.high[axis] : p.low[axis];
    const auto add = [&](const char* word, const Measure& m, int halves) {
        if (m.value == Length{} && m.tolerance == Length{})
            return;
        dims.push_back({p.part->name + ", " + b.body->name + word, m});
        chain.add(dims.size() - 1, halves);
    };
    add(", place", b.body->at[own], flipped ? -2 : 2);
    if (ownHigh)
        add(", size", b.body->size[own], flipped ? -2 : 2);
    return chain;
}

bool Checker::openPanelBefore(const PlacedBody& body, Side side) const {
    const auto axes = planeAxes(side);
    double area = 1, open = 0;
    for (const Axis a : axes)
        area *= (body.high[index(a)] - body.low[index(a)]).mm();
    for (const Opening& o : m_build.openings) {
        if (o.side != side || o.style == OpeningStyle::Closed || !o.to.empty())
            continue;
        double part = 1;
        for (std::size_t i = 0; i < 2; ++i)
            part *= std::max(0.0, std::min(body.high[index(axes[i])].mm(), o.centreMm[i] + o.sizeMm[i] / 2) -
                                      std::max(body.low[index(axes[i])].mm(), o.centreMm[i] - o.sizeMm[i] / 2));
        open += part;
    }
    return open > 0.4 * area;
}

GapEnd Checker::end(std::size_t body, Axis axis, bool facingUp, std::size_t other) const {
    const Direction look{axis, facingUp ? 1 : -1};
    if (body == wall) {
        // The wall looks back at the body, so its outward side is the other way round.
        const Side side = sideOf({axis, -look.sign});
        return {"", std::string(sideWord(side)) + " wall", openPanelBefore(m_bodies[other], side) ? Face::OpenPanel : Face::ClosedPanel};
    }
    const PlacedBody& b = m_bodies[body];
    const Placed& p = m_build.placed[b.placed];
    GapEnd end{p.mount, p.part->name, Face::Solid};
    if (b.body && (b.role == BodyRole::KeepOut || p.part->bodies.size() > 1))
        end.text += ", " + b.body->name;
    const Direction out = p.facing();
    if (b.role == BodyRole::KeepOut)
        end.face = Face::KeepOut;
    else if (p.part->kind == PartKind::Fan && out.axis == axis)
        end.face = Face::Blades;
    else if (p.part->kind == PartKind::Drive)
        end.face = Face::Drive;
    else if (p.part->kind == PartKind::Board && out.axis == axis && out.sign == -look.sign)
        end.face = Face::BoardUnderside;
    else if (out == look) {
        const bool topDown = p.part->kind == PartKind::Cooler && std::get<CoolerSpec>(p.part->spec).type == CoolerType::TopDown;
        if (topDown || p.part->kind == PartKind::Card)
            end.face = Face::CoolerFan;
        else if (p.part->kind == PartKind::PowerSupply)
            end.face = Face::SupplyIntake;
    }
    return end;
}

bool Checker::flexible(const Candidate& c) const {
    const auto panelFlexes = [&](Side side) {
        const auto& panels = m_build.caseSpec().panels;
        return std::any_of(panels.begin(), panels.end(), [&](const Panel& p) { return p.side == side && p.flexible; });
    };
    if (c.lower == wall)
        return panelFlexes(sideOf({c.axis, -1}));
    if (c.upper == wall)
        return panelFlexes(sideOf({c.axis, 1}));
    // A part fixed to a flexible panel gives way with it.
    for (const auto& [body, sign] : {std::pair{c.lower, -1}, std::pair{c.upper, 1}}) {
        const PlacedBody& b = m_bodies[body];
        const std::size_t k = index(c.axis);
        const Length away = sign < 0 ? b.low[k] : m_build.insideAt[k] - b.high[k];
        if (away <= Length::fromMm(0.01) && panelFlexes(sideOf({c.axis, sign})))
            return true;
    }
    return false;
}

std::optional<Gap> Checker::finish(const Candidate& c) const {
    const std::size_t k = index(c.axis);
    std::vector<Dimension> dims = m_build.dimensions;
    const Chain chain = face(c.upper, k, c.upper == wall, dims).minus(face(c.lower, k, c.lower != wall, dims));
    if (chain.terms.empty())
        return std::nullopt; // fixed to each other on purpose
    Gap gap;
    gap.axis = c.axis;
    gap.between = {end(c.lower, c.axis, true, c.upper), end(c.upper, c.axis, false, c.lower)};
    gap.id = gap.between[0].text + " | " + gap.between[1].text + " | " + static_cast<char>('x' + static_cast<int>(c.axis));
    gap.nominal = chain.nominal(dims);
    double squares = 0;
    for (const Chain::Term& term : chain.terms) {
        const Dimension& d = dims[term.dimension];
        const double factor = std::abs(term.halves) / 2.0;
        gap.chain.push_back({d.label, term.halves > 0 ? 1 : -1, factor, d.measure.value.mm(), d.measure.tolerance.mm(), d.measure.source});
        gap.worstBandMm += factor * d.measure.tolerance.mm();
        squares += factor * factor * d.measure.tolerance.mm() * d.measure.tolerance.mm();
    }
    std::stable_sort(gap.chain.begin(), gap.chain.end(), [](const ChainItem& a, const ChainItem& b) { return a.sign > b.sign; });
    gap.rssBandMm = std::sqrt(squares);
    const ClearanceRule& rule = clearanceFor(gap.between[0].face, gap.between[1].face);
    gap.requiredMm = rule.requiredMm;
    gap.rule = rule.id;
    gap.reason = rule.reason;
    gap.ruleSource = rule.source;
    const double g = gap.nominal.mm();
    gap.chance = chanceAbove(g, gap.rssBandMm, gap.requiredMm);
    const bool blades = gap.between[0].face == Face::Blades || gap.between[1].face == Face::Blades;
    if (g >= gap.requiredMm)
        gap.state = GapState::Clear;
    else if (g >= 0 || (!blades && g + gap.rssBandMm >= 0))
        gap.state = GapState::Rub;
    else if (!blades && -g <= m_options.bulgeMm && flexible(c))
        gap.state = GapState::Bulge;
    else
        gap.state = GapState::Clash;
    gap.mark = gap.state == GapState::Clash ? Mark::Crossed : markOf(g - gap.requiredMm, gap.worstBandMm, m_options.reserveMm);
    if (gap.state == GapState::Bulge)
        gap.mark = Mark::Open; // it closes, under stress: noted, not blocked
    const auto span = [&](std::size_t body, std::size_t axis, bool high) {
        return body == wall ? (high ? m_build.insideAt[axis] : Length{}) : (high ? m_bodies[body].high[axis] : m_bodies[body].low[axis]);
    };
    for (std::size_t a = 0; a < 3; ++a) {
        const double middle = 0.5 * (std::max(span(c.lower, a, false), span(c.upper, a, false)).mm() +
                                     std::min(span(c.lower, a, true), span(c.upper, a, true)).mm());
        gap.fromMm[a] = gap.toMm[a] = middle;
    }
    gap.fromMm[k] = c.lower == wall ? 0.0 : m_bodies[c.lower].high[k].mm();
    gap.toMm[k] = c.upper == wall ? m_build.insideAt[k].mm() : m_bodies[c.upper].low[k].mm();
    return gap;
}

void Checker::keepTightest(std::vector<Gap>& gaps, Gap gap) {
    for (Gap& old : gaps) {
        const bool same = old.axis == gap.axis && old.between[0].mount == gap.between[0].mount && old.between[1].mount == gap.between[1].mount &&
                          (old.between[0].face == Face::KeepOut) == (gap.between[0].face == Face::KeepOut) &&
                          (old.between[1].face == Face::KeepOut) == (gap.between[1].face == Face::KeepOut);
        if (same) {
            if (gap.marginMm() < old.marginMm())
                old = std::move(gap);
            return;
        }
    }
    gaps.push_back(std::move(gap));
}

void Checker::addEnvelope(FitResult& result) const {
    const double wallMm = m_build.caseSpec().wall.value.mm();
    result.volumeL = 1e-6;
    for (std::size_t a = 0; a < 3; ++a) {
        result.outsideMm[a] = m_build.insideAt[a].mm() + 2 * wallMm;
        result.volumeL *= result.outsideMm[a];
    }
    const std::size_t down = index(outward(m_build.down).axis);
    result.footprintCm2 = 0.01;
    for (std::size_t a = 0; a < 3; ++a)
        if (a != down)
            result.footprintCm2 *= result.outsideMm[a];
    result.feetMm = m_build.down == Side::Bottom ? m_build.caseSpec().feetMm : 3.0;
}

} // namespace

std::string_view gapStateWord(GapState state) { return wordOf(stateWords, state); }

double chanceAbove(double gapMm, double rssBandMm, double requiredMm) {
    const double sigma = rssBandMm / 3.0;
    if (sigma <= 0)
        return gapMm >= requiredMm ? 1.0 : 0.0;
    return 0.5 * std::erfc(-(gapMm - requiredMm) / sigma / std::numbers::sqrt2);
}

FitResult check(const Build& build, const Options& options) { return Checker(build, options).run(); }

} // namespace core::fit
