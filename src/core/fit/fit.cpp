// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/fit.h"

#include "core/base/words.h"
#include "core/fit/gap_chain.h"

#include <numbers>

namespace core::fit {
namespace {

constexpr WordTable<GapState, 4> stateWords{{{GapState::Clear, "clear"}, {GapState::Rub, "rub"},
    {GapState::Bulge, "bulge"}, {GapState::Clash, "clash"}}};

/// A gap with its figures but without its words: most are dropped before words are needed.
struct Draft {
    Candidate candidate;
    GapChains::Terms terms;
    std::array<Face, 2> faces{};
    const ClearanceRule* rule = nullptr;
    double requiredMm = 0;

    [[nodiscard]] double marginMm() const { return terms.nominal.mm() - terms.worstMm - requiredMm; }
};

class Checker {
public:
    Checker(const Build& build, const Options& options, std::optional<std::size_t> only = {})
        : m_build(build), m_options(options), m_bodies(bodiesOf(build)), m_chains(build, m_bodies), m_only(only) {}

    std::vector<Gap> gaps() {
        std::vector<Draft> drafts;
        for (Candidate& c : findCandidates(m_build, m_bodies, m_options.reachMm, m_only))
            if (auto terms = m_chains.of(c))
                keepTightest(drafts, draft(std::move(c), std::move(*terms)));
        std::vector<Gap> gaps;
        gaps.reserve(drafts.size());
        for (const Draft& d : drafts)
            gaps.push_back(finish(d));
        if (!m_only)
            addDesk(gaps);
        std::stable_sort(gaps.begin(), gaps.end(), [](const Gap& a, const Gap& b) { return std::pair(a.marginMm(), std::string_view(a.id)) < std::pair(b.marginMm(), std::string_view(b.id)); });
        return gaps;
    }
    void addEnvelope(FitResult& result) const;

private:
    [[nodiscard]] Draft draft(Candidate c, GapChains::Terms terms) const;
    void keepTightest(std::vector<Draft>& drafts, Draft d);
    [[nodiscard]] Gap finish(const Draft& d) const;
    void judge(Gap& gap) const;
    [[nodiscard]] Face faceOf(std::size_t body, Direction look, std::size_t other) const;
    [[nodiscard]] Face solidFace(const Placed& p, const PlacedBody& b, Direction look) const;
    [[nodiscard]] GapEnd end(std::size_t body, Face face, Direction look) const;
    [[nodiscard]] bool openPanelBefore(const PlacedBody& body, Side side) const;
    [[nodiscard]] bool fanInChamberOf(const Placed& p) const;
    [[nodiscard]] bool flexible(const Candidate& c) const;
    void applyOverride(const ClearanceRule& rule, double& requiredMm) const;
    void addDesk(std::vector<Gap>& gaps) const;

    const Build& m_build;
    const Options& m_options;
    std::vector<PlacedBody> m_bodies;
    GapChains m_chains;
    std::optional<std::size_t> m_only;
    std::map<std::array<std::size_t, 4>, std::size_t> m_kept;
};

void Checker::applyOverride(const ClearanceRule& rule, double& requiredMm) const {
    for (const NeedOverride& need : m_options.needs)
        if (need.rule == rule.id)
            requiredMm = need.needMm;
}

Draft Checker::draft(Candidate c, GapChains::Terms terms) const {
    Draft d{.candidate = std::move(c), .terms = std::move(terms)};
    d.faces = {faceOf(d.candidate.lower, {d.candidate.axis, 1}, d.candidate.upper), faceOf(d.candidate.upper, {d.candidate.axis, -1}, d.candidate.lower)};
    d.rule = &clearanceFor(d.faces[0], d.faces[1]);
    d.requiredMm = d.rule->requiredMm;
    applyOverride(*d.rule, d.requiredMm);
    return d;
}

/// Of all bodies of the same two parts along one axis only the tightest pair is told; keep-outs count apart.
void Checker::keepTightest(std::vector<Draft>& drafts, Draft d) {
    const auto side = [&](std::size_t body, Face face) {
        const bool keepOut = face == Face::KeepOut || face == Face::Lead || face == Face::Tool;
        return body == caseWall ? std::size_t{0} : 2 + 2 * m_bodies[body].placed + (keepOut ? 1 : 0);
    };
    const std::size_t lower = side(d.candidate.lower, d.faces[0]), upper = side(d.candidate.upper, d.faces[1]);
    const std::array<std::size_t, 4> key{index(d.candidate.axis), std::min(lower, upper), std::max(lower, upper), lower < upper ? 0U : 1U};
    const auto [it, isNew] = m_kept.try_emplace(key, drafts.size());
    if (isNew)
        drafts.push_back(std::move(d));
    else if (d.marginMm() < drafts[it->second].marginMm())
        drafts[it->second] = std::move(d);
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

bool Checker::fanInChamberOf(const Placed& p) const {
    const auto inside = [](const Chamber& c, const Placed& q) {
        for (std::size_t a = 0; a < 3; ++a)
            if (const double middle = 0.5 * (q.lowAt[a].mm() + q.highAt[a].mm()); middle < c.lowMm[a] || middle > c.highMm[a])
                return false;
        return true;
    };
    for (const Chamber& c : m_build.caseSpec().chambers)
        if (inside(c, p))
            for (const Placed& fan : m_build.placed)
                if (fan.part->kind == PartKind::Fan && inside(c, fan))
                    return true;
    return false;
}

Face Checker::solidFace(const Placed& p, const PlacedBody& b, Direction look) const {
    const Direction out = p.facing();
    const Direction back{out.axis, -out.sign};
    const bool along = out.axis == look.axis;
    // A bracket, a clip or a socket of a part is just something solid; the part's main body is the one with its face.
    const bool main = !b.body || b.isBox() || b.shape == Shape::Cylinder;
    const bool outer = main && (out.sign > 0 ? b.high[index(out.axis)] >= p.highAt[index(out.axis)] : b.low[index(out.axis)] <= p.lowAt[index(out.axis)]);
    switch (p.part->kind) {
    case PartKind::Fan: return along && main ? Face::Blades : Face::Solid;
    case PartKind::Drive: return fanInChamberOf(p) ? Face::Drive : Face::StillDrive;
    case PartKind::Board: return look == back ? Face::BoardUnderside : Face::Solid;
    case PartKind::Cooler: return look == out && outer && std::get<CoolerSpec>(p.part->spec).type == CoolerType::TopDown ? Face::CoolerFan : Face::Solid;
    case PartKind::Card: return look == out && outer ? Face::CoolerFan : look == back && main ? Face::CardBack : Face::Solid;
    case PartKind::PowerSupply: return look == out && outer ? Face::SupplyIntake : Face::Solid;
    default: return Face::Solid;
    }
}

Face Checker::faceOf(std::size_t body, Direction look, std::size_t other) const {
    if (body == caseWall) {
        // The wall looks back at the body, so its outward side is the other way round.
        return openPanelBefore(m_bodies[other], sideOf({look.axis, -look.sign})) ? Face::OpenPanel : Face::ClosedPanel;
    }
    const PlacedBody& b = m_bodies[body];
    if (b.role == BodyRole::KeepOut) {
        switch (b.use) {
        case Use::Blades: return Face::Blades;
        case Use::Lead: return Face::Lead;
        case Use::Tool: return Face::Tool;
        case Use::Frame: return Face::Frame;
        case Use::Plug:
        case Use::Foot: break;
        }
        return Face::KeepOut;
    }
    return solidFace(m_build.placed[b.placed], b, look);
}

GapEnd Checker::end(std::size_t body, Face face, Direction look) const {
    if (body == caseWall)
        return {"", std::string(sideWord(sideOf({look.axis, -look.sign}))) + " wall", face, {}};
    const PlacedBody& b = m_bodies[body];
    const Placed& p = m_build.placed[b.placed];
    GapEnd end{p.mount, p.part->name, face, b.port ? b.port->id : std::string{}};
    if (b.port)
        end.text += ", " + b.port->id + " plug";
    else if (b.body && (b.role == BodyRole::KeepOut || p.part->bodies.size() > 1))
        end.text += ", " + b.body->name;
    return end;
}

bool Checker::flexible(const Candidate& c) const {
    const auto panelFlexes = [&](Side side) {
        const auto& panels = m_build.caseSpec().panels;
        return std::any_of(panels.begin(), panels.end(), [&](const Panel& p) { return p.side == side && p.flexible; });
    };
    if (c.lower == caseWall)
        return panelFlexes(sideOf({c.axis, -1}));
    if (c.upper == caseWall)
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

void Checker::judge(Gap& gap) const {
    for (const NeedOverride& need : m_options.needs)
        if (need.rule == gap.rule)
            gap.overridden = need.note.empty() ? "set by the user" : need.note;
    const double g = gap.nominal.mm();
    gap.chance = chanceAbove(g, gap.rssBandMm, gap.requiredMm);
    const bool blades = gap.between[0].face == Face::Blades || gap.between[1].face == Face::Blades;
    if (g >= gap.requiredMm)
        gap.state = GapState::Clear;
    else if (g >= 0 || (!blades && g + gap.rssBandMm >= 0))
        gap.state = GapState::Rub;
    else if (!blades && -g <= m_options.bulgeMm && gap.flexible)
        gap.state = GapState::Bulge;
    else
        gap.state = GapState::Clash;
    gap.mark = gap.state == GapState::Clash ? Mark::Crossed : markOf(g - gap.requiredMm, gap.worstBandMm, m_options.reserveMm);
    if (gap.state == GapState::Bulge)
        gap.mark = Mark::Open; // it closes, under stress: noted, not blocked
}

Gap Checker::finish(const Draft& d) const {
    const Candidate& c = d.candidate;
    const std::size_t k = index(c.axis);
    Gap gap;
    gap.axis = c.axis;
    gap.slanted = c.slanted.has_value();
    gap.way[k] = 1;
    gap.between = {end(c.lower, d.faces[0], {c.axis, 1}), end(c.upper, d.faces[1], {c.axis, -1})};
    gap.id = gap.between[0].text + " | " + gap.between[1].text + " | " + static_cast<char>('x' + static_cast<int>(c.axis));
    gap.nominal = d.terms.nominal;
    gap.worstBandMm = d.terms.worstMm;
    gap.rssBandMm = d.terms.rssMm;
    gap.chain.reserve(d.terms.terms.size() + 1);
    for (const GapChains::Term& term : d.terms.terms) {
        const Dimension& dim = m_chains.dimension(term.dimension);
        gap.chain.push_back({dim.label, term.factor > 0 ? 1 : -1, std::abs(term.factor), dim.measure.value.mm(), dim.measure.tolerance.mm(), dim.measure.source, dim.origin});
    }
    if (gap.slanted && std::abs(d.terms.shapeMm) > 1e-4)
        gap.chain.push_back({"round and turned shapes", d.terms.shapeMm > 0 ? 1 : -1, 1, std::abs(d.terms.shapeMm), 0, Source::Computed, {}});
    std::stable_sort(gap.chain.begin(), gap.chain.end(), [](const ChainItem& a, const ChainItem& b) { return a.sign > b.sign; });
    gap.requiredMm = d.requiredMm;
    gap.rule = d.rule->id;
    gap.reason = d.rule->reason;
    gap.ruleSource = d.rule->source;
    gap.flexible = flexible(c);
    judge(gap);
    if (gap.slanted) {
        gap.way = c.slanted->way;
        gap.fromMm = c.slanted->from;
        gap.toMm = c.slanted->to;
        return gap;
    }
    const auto span = [&](std::size_t body, std::size_t axis, bool high) {
        return body == caseWall ? (high ? m_build.insideAt[axis] : Length{}) : (high ? m_bodies[body].high[axis] : m_bodies[body].low[axis]);
    };
    for (std::size_t a = 0; a < 3; ++a) {
        const double middle = 0.5 * (std::max(span(c.lower, a, false), span(c.upper, a, false)).mm() +
                                     std::min(span(c.lower, a, true), span(c.upper, a, true)).mm());
        gap.fromMm[a] = gap.toMm[a] = middle;
    }
    gap.fromMm[k] = c.lower == caseWall ? 0.0 : m_bodies[c.lower].high[k].mm();
    gap.toMm[k] = c.upper == caseWall ? m_build.insideAt[k].mm() : m_bodies[c.upper].low[k].mm();
    return gap;
}

/// An opening underneath stands as far from the desk as the feet are high.
void Checker::addDesk(std::vector<Gap>& gaps) const {
    const Opening* widest = nullptr;
    for (const Opening& o : m_build.openings)
        if (o.side == m_build.down && o.style != OpeningStyle::Closed && o.to.empty() && (!widest || o.sizeMm[0] * o.sizeMm[1] > widest->sizeMm[0] * widest->sizeMm[1]))
            widest = &o;
    if (!widest)
        return;
    const Direction down = outward(m_build.down);
    const std::size_t k = index(down.axis);
    // Laid on a side it stands on pads that come with any case: common practice, no source.
    const Measure feet = m_build.down == Side::Bottom ? m_build.feet : measureMm(3, Source::Estimate);
    const ClearanceRule& rule = clearanceFor(Face::OpenPanel, Face::Desk);
    Gap gap;
    gap.axis = down.axis;
    gap.way[k] = 1;
    const GapEnd desk{"", "desk", Face::Desk, {}}, opening{"", widest->name.empty() ? widest->id : widest->name, Face::OpenPanel, {}};
    gap.between = down.sign < 0 ? std::array{desk, opening} : std::array{opening, desk};
    gap.id = gap.between[0].text + " | " + gap.between[1].text + " | " + static_cast<char>('x' + static_cast<int>(down.axis));
    gap.nominal = feet.value;
    gap.worstBandMm = gap.rssBandMm = feet.tolerance.mm();
    gap.requiredMm = rule.requiredMm;
    applyOverride(rule, gap.requiredMm);
    gap.rule = rule.id;
    gap.reason = rule.reason;
    gap.ruleSource = rule.source;
    gap.chain = {{"feet", 1, 1, feet.value.mm(), feet.tolerance.mm(), feet.source, {DimensionOrigin::What::Feet, m_build.casePart->id, {}, {}, 0}}};
    judge(gap);
    const auto axes = planeAxes(m_build.down);
    for (std::size_t i = 0; i < 2; ++i)
        gap.fromMm[index(axes[i])] = gap.toMm[index(axes[i])] = widest->centreMm[i];
    const double wallMm = m_build.caseSpec().wall.value.mm(), face = down.sign < 0 ? -wallMm : m_build.insideAt[k].mm() + wallMm;
    gap.fromMm[k] = down.sign < 0 ? face - feet.value.mm() : face;
    gap.toMm[k] = down.sign < 0 ? face : face + feet.value.mm();
    gaps.push_back(std::move(gap));
}

void Checker::addEnvelope(FitResult& result) const {
    const double wallMm = m_build.caseSpec().wall.value.mm();
    result.volumeL = 1e-6;
    for (std::size_t a = 0; a < 3; ++a) {
        double low = -wallMm, high = m_build.insideAt[a].mm() + wallMm;
        for (const PlacedBody& b : m_bodies) // what is mounted outside is part of the outer size
            if (b.role == BodyRole::Solid) {
                if (b.low[a] >= m_build.insideAt[a])
                    high = std::max(high, b.high[a].mm());
                if (b.high[a] <= Length{})
                    low = std::min(low, b.low[a].mm());
            }
        result.outsideMm[a] = high - low;
        result.volumeL *= result.outsideMm[a];
    }
    const std::size_t down = index(outward(m_build.down).axis);
    result.footprintCm2 = 0.01;
    for (std::size_t a = 0; a < 3; ++a)
        if (a != down)
            result.footprintCm2 *= result.outsideMm[a];
    result.feetMm = m_build.down == Side::Bottom ? m_build.feet.value.mm() : 3.0;
}

} // namespace

std::string_view gapStateWord(GapState state) { return wordOf(stateWords, state); }

double chanceAbove(double gapMm, double rssBandMm, double requiredMm) {
    const double sigma = rssBandMm / 3.0;
    if (sigma <= 0)
        return gapMm >= requiredMm ? 1.0 : 0.0;
    return 0.5 * std::erfc(-(gapMm - requiredMm) / sigma / std::numbers::sqrt2);
}

FitResult check(const Build& build, const Options& options) {
    Checker checker(build, options);
    FitResult result;
    result.gaps = checker.gaps();
    checker.addEnvelope(result);
    return result;
}

std::vector<Gap> gapsOf(const Build& build, std::size_t placed, const Options& options) { return Checker(build, options, placed).gaps(); }

} // namespace core::fit
