// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/fit.h"

#include "core/base/text.h"
#include "core/base/words.h"
#include "core/fit/faces.h"
#include "core/fit/gap_chain.h"
#include "core/fit/openings.h"

#include <limits>
#include <numbers>

namespace core::fit {
namespace {

constexpr WordTable<GapState, 6> stateWords{{{GapState::Clear, "clear"},
                                             {GapState::Starved, "starved"},
                                             {GapState::Rub, "rub"},
                                             {GapState::Bulge, "bulge"},
                                             {GapState::Blocked, "blocked"},
                                             {GapState::Clash, "clash"}}};

GapState stateOf(const Gap& gap, const Options& options) {
    const double g = gap.nominal.mm();
    const auto shows = [&](Face face) { return gap.between[0].face == face || gap.between[1].face == face; };
    const bool blades =
        (shows(Face::Blades) && !shows(Face::Radiator) && !shows(Face::Tower)) || shows(Face::CoolerFan);
    if (g >= gap.requiredMm)
        return GapState::Clear;
    if (g < 0)
        return !blades && !gap.breathing && -g <= options.bulgeMm && gap.flexible ? GapState::Bulge : GapState::Clash;
    if (g <= 0 && blades)
        return GapState::Clash; // what touches blades stops them
    if (!gap.breathing)
        return GapState::Rub;
    if (gap.intake && g < blockedShare * gap.requiredMm)
        return GapState::Blocked;
    if (g <= 0 && shows(Face::SupplyIntake))
        return GapState::Blocked;
    return g < gap.touchMm ? GapState::Rub : GapState::Starved;
}

/// A gap with its figures but without its words: most are dropped before words are needed.
struct Draft {
    Candidate candidate;
    GapChains::Terms terms;
    std::array<Shown, 2> shown{};
    const ClearanceRule* rule = nullptr;
    double requiredMm = 0;

    [[nodiscard]] double marginMm() const { return terms.nominal.mm() - terms.worstMm - requiredMm; }
};

class Checker {
public:
    Checker(const Build& build, const Options& options, std::optional<std::size_t> only = {})
        : m_build(build), m_options(options), m_bodies(bodiesOf(build)), m_faces(build, m_bodies),
          m_chains(build, m_bodies), m_only(only) {}

    std::vector<Gap> gaps() {
        std::vector<Draft> drafts;
        for (const Candidate& c : findCandidates(m_build, m_bodies, m_options.reachMm, m_only)) {
            auto terms = m_chains.of(c);
            Draft d = draft(c, std::move(terms));
            if (const std::string how = joined(d); !how.empty())
                m_joints.push_back({{end(d.candidate.lower, d.shown[0].face, {d.candidate.axis, 1}).text,
                                     end(d.candidate.upper, d.shown[1].face, {d.candidate.axis, -1}).text},
                                    how});
            else
                keepTightest(drafts, std::move(d));
        }
        std::vector<Gap> gaps;
        gaps.reserve(drafts.size());
        for (const Draft& d : drafts)
            gaps.push_back(finish(d));
        if (!m_only)
            addDesk(gaps);
        std::stable_sort(gaps.begin(), gaps.end(), [](const Gap& a, const Gap& b) {
            return std::pair(a.marginMm(), std::string_view(a.id)) < std::pair(b.marginMm(), std::string_view(b.id));
        });
        nameApart(gaps);
        return gaps;
    }
    std::vector<Joint> joints();
    void addEnvelope(FitResult& result) const;

private:
    [[nodiscard]] Draft draft(Candidate c, GapChains::Terms terms) const;
    void keepTightest(std::vector<Draft>& drafts, Draft d);
    [[nodiscard]] Gap finish(const Draft& d) const;
    void judge(Gap& gap) const;
    [[nodiscard]] std::string joined(const Draft& d) const;
    [[nodiscard]] GapEnd end(std::size_t body, Face face, Direction look) const;
    static void nameApart(std::vector<Gap>& gaps);
    [[nodiscard]] bool flexible(const Candidate& c) const;
    void applyOverride(const ClearanceRule& rule, double& requiredMm) const;
    void addDesk(std::vector<Gap>& gaps) const;

    const Build& m_build;
    const Options& m_options;
    std::vector<PlacedBody> m_bodies;
    Faces m_faces;
    GapChains m_chains;
    std::optional<std::size_t> m_only;
    std::map<std::tuple<Axis, std::size_t, std::size_t, bool, std::string_view>, std::size_t> m_kept;
    std::vector<Joint> m_joints;
};

void Checker::applyOverride(const ClearanceRule& rule, double& requiredMm) const {
    for (const NeedOverride& need : m_options.needs)
        if (need.rule == rule.id)
            requiredMm = need.needMm;
}

Draft Checker::draft(Candidate c, GapChains::Terms terms) const {
    Draft d{.candidate = c, .terms = std::move(terms)};
    const std::size_t lower = d.candidate.lower, upper = d.candidate.upper;
    const Axis axis = d.candidate.axis;
    d.shown = {m_faces.of(lower, {axis, 1}, upper), m_faces.of(upper, {axis, -1}, lower)};
    const Face a = d.shown[0].face, b = d.shown[1].face;
    d.rule = &clearanceFor(a, b);
    // A corner before a fan takes little of its air; it must only not be touched.
    if (d.rule->breathing && (!breathes(a) || m_faces.covered(lower, upper, axis) < coverShare) &&
        (!breathes(b) || m_faces.covered(upper, lower, axis) < coverShare))
        d.rule = &touchingFor(a, b);
    d.requiredMm = d.rule->requiredMm;
    applyOverride(*d.rule, d.requiredMm);
    return d;
}

/// How the two are held together on purpose; empty: they are not, and their gap counts, also when it is 0.
std::string Checker::joined(const Draft& d) const {
    if (d.candidate.slanted || d.terms.nominal != Length{})
        return {};
    const auto isMade = [&](std::size_t body) {
        return body != caseWall && m_build.placed[m_bodies[body].placed].part->kind == PartKind::Made;
    };
    const auto isBody = [&](std::size_t body) { return body == caseWall || m_bodies[body].role == BodyRole::Solid; };
    if (!isBody(d.candidate.lower) || !isBody(d.candidate.upper))
        return {};
    const bool wall = d.candidate.lower == caseWall || d.candidate.upper == caseWall;
    if (wall) {
        const bool low = d.candidate.lower == caseWall;
        if (m_faces.sitsOverAnOpening(low ? d.candidate.upper : d.candidate.lower,
                                      sideOf({d.candidate.axis, low ? -1 : 1})) &&
            d.rule->breathing)
            return "sits over its opening";
    }
    // Nothing that must keep away may be told off as fixed: only what is at rest on both sides.
    if (d.rule->id != "solid")
        return {};
    if (wall && d.terms.terms.empty())
        return "sits on the wall";
    if (isMade(d.candidate.lower) || isMade(d.candidate.upper))
        return "made to touch: taken as screwed together, ±" + fixed(d.terms.worstMm, 1) + " mm";
    return {};
}

/// Parts with what carries them, and what was found to touch by design.
std::vector<Joint> Checker::joints() {
    for (const Placed& p : m_build.placed)
        if (p.parent >= 0)
            m_joints.push_back({{m_build.placed[static_cast<std::size_t>(p.parent)].name, p.name}, "carries it"});
    return std::move(m_joints);
}

/// Ids stay apart where names are equal.
void Checker::nameApart(std::vector<Gap>& gaps) {
    std::map<std::string, int> seen;
    std::map<GapRef, int> copies;
    for (Gap& gap : gaps) {
        if (const int n = ++seen[gap.id]; n > 1)
            gap.id += " #" + std::to_string(n);
        gap.ref = {{gap.between[0].ref(), gap.between[1].ref()}, gap.axis, 1};
        gap.ref.copy = ++copies[gap.ref];
    }
}

/// Of all solid bodies of the same two parts along one axis the tightest is told for each rule; every plug, lead and
/// tool has its own.
void Checker::keepTightest(std::vector<Draft>& drafts, Draft d) {
    const std::size_t walls = m_bodies.size() + m_build.placed.size();
    const auto side = [&](std::size_t body) {
        return body == caseWall                           ? walls
               : m_bodies[body].role == BodyRole::KeepOut ? body
                                                          : m_bodies.size() + m_bodies[body].placed;
    };
    const std::size_t lower = side(d.candidate.lower), upper = side(d.candidate.upper);
    const auto [it, isNew] = m_kept.try_emplace(
        {d.candidate.axis, std::min(lower, upper), std::max(lower, upper), lower < upper, d.rule->id}, drafts.size());
    if (isNew)
        drafts.push_back(std::move(d));
    else if (d.marginMm() < drafts[it->second].marginMm())
        drafts[it->second] = std::move(d);
}

GapEnd Checker::end(std::size_t body, Face face, Direction look) const {
    if (body == caseWall) {
        const std::string wall = std::string(sideWord(sideOf({look.axis, -look.sign}))) + " wall";
        return {"", wall, face, {}, wall};
    }
    const PlacedBody& b = m_bodies[body];
    const Placed& p = m_build.placed[b.placed];
    GapEnd end{p.mount, p.name, face, b.port ? b.port->id : std::string{}, {}};
    if (b.port)
        end.item = b.port->id + " plug";
    else if (b.body && (b.role == BodyRole::KeepOut || p.part->bodies.size() > 1))
        end.item = b.body->name;
    if (!end.item.empty())
        end.text += ", " + end.item;
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
    gap.chance = chanceAbove(gap.nominal.mm(), gap.rssBandMm, gap.requiredMm);
    gap.state = stateOf(gap, m_options);
    const double margin = gap.nominal.mm() - gap.requiredMm;
    // What closes, tightly, under stress or short of air, is noted, not blocked.
    gap.mark = isBlocking(gap.state) ? Mark::Crossed : gap.isShort() ? Mark::Open : markOf(margin, gap.worstBandMm);
    gap.scarce = margin - gap.worstBandMm < m_options.reserveMm;
}

Gap Checker::finish(const Draft& d) const {
    const Candidate& c = d.candidate;
    const std::size_t k = index(c.axis);
    Gap gap;
    gap.axis = c.axis;
    gap.slanted = c.slanted.has_value();
    gap.way[k] = 1;
    gap.between = {end(c.lower, d.shown[0].face, {c.axis, 1}), end(c.upper, d.shown[1].face, {c.axis, -1})};
    gap.id =
        gap.between[0].text + " | " + gap.between[1].text + " | " + static_cast<char>('x' + static_cast<int>(c.axis));
    gap.nominal = d.terms.nominal;
    gap.worstBandMm = d.terms.worstMm;
    gap.rssBandMm = d.terms.rssMm;
    gap.chain.reserve(d.terms.terms.size() + 1);
    for (const GapChains::Term& term : d.terms.terms) {
        const Dimension& dim = m_chains.dimension(term.dimension);
        gap.chain.push_back({dim.label, term.factor > 0 ? 1 : -1, std::abs(term.factor), dim.measure.value.mm(),
                             dim.measure.tolerance.mm(), dim.measure.source, dim.origin});
    }
    if (gap.slanted && std::abs(d.terms.shapeMm) > 1e-4)
        gap.chain.push_back({"round and turned shapes",
                             d.terms.shapeMm > 0 ? 1 : -1,
                             1,
                             std::abs(d.terms.shapeMm),
                             0,
                             Source::Computed,
                             {}});
    std::stable_sort(gap.chain.begin(), gap.chain.end(),
                     [](const ChainItem& a, const ChainItem& b) { return a.sign > b.sign; });
    gap.requiredMm = d.requiredMm;
    gap.rule = d.rule->id;
    gap.reason = d.rule->reason.sentence();
    gap.ruleSource = d.rule->source;
    gap.flexible = flexible(c);
    gap.breathing = d.rule->breathing;
    gap.touchMm = d.rule->touchMm;
    // The closed face before an intake is the one that does not breathe itself.
    gap.intake = (d.shown[0].intake && isClosed(d.shown[1].face)) || (d.shown[1].intake && isClosed(d.shown[0].face));
    judge(gap);
    if (gap.slanted) {
        gap.way = c.slanted->way;
        gap.fromMm = c.slanted->from;
        gap.toMm = c.slanted->to;
        return gap;
    }
    const auto span = [&](std::size_t body, std::size_t axis, bool high) {
        return body == caseWall ? (high ? m_build.insideAt[axis] : Length{})
                                : (high ? m_bodies[body].high[axis] : m_bodies[body].low[axis]);
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
        if (o.side == m_build.down && leadsOutside(o) &&
            (!widest || o.sizeMm[0] * o.sizeMm[1] > widest->sizeMm[0] * widest->sizeMm[1]))
            widest = &o;
    if (!widest)
        return;
    const Direction down = outward(m_build.down);
    const std::size_t k = index(down.axis);
    const Measure& feet = m_build.feet;
    const ClearanceRule& rule = clearanceFor(Face::OpenPanel, Face::Desk);
    Gap gap;
    gap.axis = down.axis;
    gap.way[k] = 1;
    const GapEnd desk{"", "desk", Face::Desk, {}, "desk"},
        opening{"", widest->name.empty() ? widest->id : widest->name, Face::OpenPanel, {}, widest->id};
    gap.between = down.sign < 0 ? std::array{desk, opening} : std::array{opening, desk};
    gap.id = gap.between[0].text + " | " + gap.between[1].text + " | " +
             static_cast<char>('x' + static_cast<int>(down.axis));
    gap.nominal = feet.value;
    gap.worstBandMm = gap.rssBandMm = feet.tolerance.mm();
    gap.requiredMm = rule.requiredMm;
    applyOverride(rule, gap.requiredMm);
    gap.rule = rule.id;
    gap.reason = rule.reason.sentence();
    gap.ruleSource = rule.source;
    gap.breathing = rule.breathing;
    gap.touchMm = rule.touchMm;
    gap.chain = {{"feet",
                  1,
                  1,
                  feet.value.mm(),
                  feet.tolerance.mm(),
                  feet.source,
                  {DimensionOrigin::What::Feet, m_build.casePart->id, {}, {}, 0}}};
    judge(gap);
    const auto axes = planeAxes(m_build.down);
    for (std::size_t i = 0; i < 2; ++i)
        gap.fromMm[index(axes[i])] = gap.toMm[index(axes[i])] = widest->centreMm[i];
    const double wallMm = m_build.caseSpec().wall.value.mm(),
                 face = down.sign < 0 ? -wallMm : m_build.insideAt[k].mm() + wallMm;
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
    result.feetMm = m_build.feet.value.mm();
}

} // namespace

std::string_view gapStateWord(GapState state) { return wordOf(stateWords, state); }

double chanceAbove(double gapMm, double rssBandMm, double requiredMm) {
    const double sigma = rssBandMm / 3.0;
    if (sigma <= 0)
        return gapMm >= requiredMm ? 1.0 : 0.0;
    return 0.5 * std::erfc(-(gapMm - requiredMm) / sigma / std::numbers::sqrt2);
}

double tightestMm(const FitResult& fit) {
    if (fit.gaps.empty())
        return std::numeric_limits<double>::quiet_NaN();
    return std::min_element(fit.gaps.begin(), fit.gaps.end(),
                            [](const Gap& a, const Gap& b) { return a.touchMarginMm() < b.touchMarginMm(); })
        ->touchMarginMm();
}

FitResult check(const Build& build, const Options& options) {
    Checker checker(build, options);
    FitResult result;
    result.gaps = checker.gaps();
    result.joints = checker.joints();
    checker.addEnvelope(result);
    return result;
}

const Gap* FitResult::gap(const GapRef& ref) const {
    const auto at = std::find_if(gaps.begin(), gaps.end(), [&](const Gap& g) { return g.ref == ref; });
    return at == gaps.end() ? nullptr : &*at;
}

std::vector<Gap> gapsOf(const Build& build, std::size_t placed, const Options& options) {
    return Checker(build, options, placed).gaps();
}

} // namespace core::fit
