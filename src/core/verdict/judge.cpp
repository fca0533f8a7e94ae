// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/verdict/judge.h"
#include "core/base/text.h"
#include "core/base/words.h"

namespace core::verdict {
namespace {

constexpr WordTable<Basis, 4> basisWords{{{Basis::Measured, "measured"},
                                          {Basis::Predicted, "predicted"},
                                          {Basis::Computed, "computed"},
                                          {Basis::Missing, "missing"}}};

struct Measured {
    double value = 0, half = 0;
    bench::SettleState state = bench::SettleState::Refused;
    std::string run;
    Sentence why;
    bool simulated = false;
};

/// Runs of one revision count together: the mean, with what they scatter and what each is sure of. With few runs the
/// scatter itself is little known, so Student's t widens it. Source: JCGM 100, 4.2 and G.3.
Measured together(const std::vector<Measured>& runs) {
    Measured m = runs.back();
    if (runs.size() < 2)
        return m;
    const auto n = static_cast<double>(runs.size());
    double mean = 0, own = 0, squares = 0;
    for (const Measured& r : runs) {
        mean += r.value / n;
        own += std::pow(r.half / 1.96, 2) / n;
    }
    for (const Measured& r : runs)
        squares += std::pow(r.value - mean, 2);
    const double scatter = std::sqrt(squares / (n - 1));
    m.value = mean;
    // What all share (room sensor, method) does not average out; the scatter does.
    m.half = std::hypot(1.96 * std::sqrt(own), bench::tQuantile(0.975, std::max(2.0, n - 1)) * scatter / std::sqrt(n));
    m.why = say("{} runs together, {} apart (standard deviation); the last: {}", runs.size(),
                figure::number(scatter, 1), m.why);
    return m;
}

class Judge {
public:
    Judge(const Project& project, const stages::Evaluation& e, const RunAnalyses& runs)
        : m_project(project), m_e(e), m_runs(runs) {}

    RevisionVerdict run() {
        RevisionVerdict verdict{.id = m_e.build.revision};
        for (const Target& target : m_project.brief.targets)
            verdict.targets.push_back(one(target));
        for (const rules::Finding& f : m_e.findings)
            if (f.severity == rules::Severity::Blocker) {
                ++verdict.blockers;
                if (f.rule != "target") // told below, with the other targets
                    verdict.before.push_back({f.text, Mark::Crossed});
            }
        for (const TargetResult& t : verdict.targets) {
            const Figure over = figure::usual(headroomOf(t.kind), -t.headroom);
            const bool sure = t.basis == Basis::Measured || t.basis == Basis::Computed;
            if (sure && t.state == Mark::Holds)
                ++verdict.proven;
            else if (t.basis == Basis::Missing)
                verdict.before.push_back({say("{}: {}", t.name, t.why), Mark::None});
            else if (t.state == Mark::Crossed)
                verdict.before.push_back({sayCounted(isFloor(t.kind), "{} is under its limit by {}",
                                                     "{} is over its limit by {}", t.name, over),
                                          Mark::Crossed});
            else if (t.kind == TargetKind::Gap)
                verdict.before.push_back({say("{}: {}", t.name, t.why), t.state});
            else if (!sure)
                verdict.before.push_back({say("{}: predicted only, log a settled run", t.name), t.state});
            else
                verdict.before.push_back(
                    {say("{}: met, but the band reaches the limit; another run narrows it", t.name), t.state});
        }
        verdict.canBeValidated = verdict.before.empty() && !verdict.targets.empty();
        const Revision* revision = m_project.revision(verdict.id);
        verdict.validated = verdict.canBeValidated && revision && revision->validated;
        return verdict;
    }

private:
    TargetResult one(const Target& target) const;
    std::optional<Measured> measured(const Target& target, Sentence& why, int& count) const;
    std::optional<Measured> ofRun(const Run& run, const Target& target, ChannelKind kind, Sentence& why) const;
    void judgeGaps(TargetResult& r) const;
    static const bench::ChannelResult* channelOf(const bench::RunAnalysis& a, const Target& target, ChannelKind kind,
                                                 Sentence& why);
    [[nodiscard]] std::optional<std::pair<double, double>> predicted(const Target& target) const;
    [[nodiscard]] std::optional<std::pair<double, double>> computed(const Target& target) const;

    const Project& m_project;
    const stages::Evaluation& m_e;
    const RunAnalyses& m_runs;
};

ChannelKind channelKindOf(TargetKind kind) {
    switch (kind) {
    case TargetKind::Temperature:
        return ChannelKind::Temperature;
    case TargetKind::Noise:
        return ChannelKind::Level;
    case TargetKind::Clock:
        return ChannelKind::Clock;
    default:
        return ChannelKind::Other;
    }
}

std::optional<Measured> Judge::measured(const Target& target, Sentence& why, int& count) const {
    const ChannelKind kind = channelKindOf(target.kind);
    if (kind == ChannelKind::Other)
        return std::nullopt;
    std::vector<Measured> best;
    why = say("no run of this revision under the brief's load");
    for (const Run& run : m_project.runs) {
        if (run.revision != m_e.build.revision || run.load != m_project.brief.load)
            continue;
        auto m = ofRun(run, target, kind, why);
        if (!m)
            continue;
        if (!best.empty() && m->state < best.front().state)
            best.clear(); // a better kind of run goes before
        if (best.empty() || m->state == best.front().state)
            best.push_back(std::move(*m));
    }
    if (best.empty())
        return std::nullopt;
    count = static_cast<int>(best.size());
    return together(best);
}

/// The channel of the part that was named for it; the warmest of several. A guess proves nothing.
const bench::ChannelResult* Judge::channelOf(const bench::RunAnalysis& a, const Target& target, ChannelKind kind,
                                             Sentence& why) {
    const bench::ChannelResult* found = nullptr;
    for (const bench::ChannelResult& c : a.channels) {
        if (c.kind != kind || (kind != ChannelKind::Level && (target.subject.empty() || c.subject != target.subject)))
            continue;
        if (c.assumed) {
            why = say("{} is only assumed to be of that part: say so when reading it in, or in the channels of the run",
                      c.name);
            continue;
        }
        if (!found || (kind == ChannelKind::Temperature &&
                       std::max(c.settled, c.sustainedMax) > std::max(found->settled, found->sustainedMax)))
            found = &c;
    }
    return found;
}

std::optional<Measured> Judge::ofRun(const Run& run, const Target& target, ChannelKind kind, Sentence& why) const {
    const auto found = m_runs.find(run.id);
    if (found == m_runs.end() || !found->second)
        return std::nullopt;
    const bench::RunAnalysis& a = *found->second;
    if (run.simulated && !m_project.simulation) {
        why = say("run {} is simulated: it proves nothing", run.name);
        return std::nullopt;
    }
    Sentence unsure = say("run {} has no such channel", run.name);
    const bench::ChannelResult* c = channelOf(a, target, kind, unsure);
    if (!c) {
        why = unsure;
        return std::nullopt;
    }
    const double roomOff = kind == ChannelKind::Temperature ? m_project.brief.roomC - a.roomC : 0;
    const double passed = c->sustainedMax + roomOff;
    if (a.stepped || c->state == bench::SettleState::Refused || !std::isfinite(c->settled)) {
        // What is not settled can still refute: it only would have become warmer.
        if ((kind == ChannelKind::Temperature || kind == ChannelKind::Level) && !a.stepped && std::isfinite(passed) &&
            passed > target.limit)
            return Measured{.value = passed,
                            .half = 0.5,
                            .state = bench::SettleState::Rough,
                            .run = run.id,
                            .why = say("run {} had passed the limit for 10 s before it settled", run.name),
                            .simulated = run.simulated};
        why = a.stepped ? say("run {}: a fan or the power was changed in the middle", run.name)
                        : say("run {}: {}", run.name, c->why);
        return std::nullopt;
    }
    Measured m{.value = c->settled,
               .half = 0.5 * (c->high - c->low),
               .state = c->state,
               .run = run.id,
               .why = say("run {}, {}", run.name, c->why),
               .simulated = run.simulated};
    if (c->atReference) {
        m.value = c->atReference->value;
        m.half = 1.96 * c->atReference->u;
    }
    if (kind == ChannelKind::Level) {
        m.value -= 20 * std::log10(m_project.brief.listenerM / std::max(0.1, run.distanceM));
        m.half = std::hypot(m.half, 1.0); // a meter of class 2, uncalibrated
    }
    return m;
}

std::optional<std::pair<double, double>> Judge::predicted(const Target& target) const {
    if (target.kind == TargetKind::Noise && m_e.noise.sources.empty())
        return std::nullopt; // silence is no figure
    if (target.kind == TargetKind::Noise)
        return std::pair{m_e.noise.totalDba, m_e.noise.bandDb};
    const air::PartResult* part = m_e.air.part(target.subject);
    if (!part)
        return std::nullopt;
    if (target.kind == TargetKind::Temperature)
        return std::pair{part->temperatureC, part->bandK};
    if (target.kind == TargetKind::Clock && part->clockMhz > 0)
        return std::pair{part->clockMhz, 0.02 * part->clockMhz};
    return std::nullopt;
}

std::optional<std::pair<double, double>> Judge::computed(const Target& target) const {
    if (m_e.build.placed.empty() && target.kind != TargetKind::Volume)
        return std::nullopt; // a bare case proves nothing of a computer
    switch (target.kind) {
    case TargetKind::Gap:
        if (m_e.fit.gaps.empty())
            return std::nullopt;
        // The margin is at worst already; air is judged elsewhere, here nothing may touch.
        return std::pair{fit::tightestMm(m_e.fit), 0.0};
    case TargetKind::Volume:
        return std::pair{m_e.fit.volumeL, 0.0};
    case TargetKind::Mass:
        return std::pair{m_e.massG, 0.0};
    case TargetKind::Cost:
        return std::pair{m_e.price, 0.0};
    case TargetKind::Power:
        return std::pair{m_e.power.wallW, 0.0};
    default:
        return std::nullopt;
    }
}

/// The mark of the target is that of the gaps it is about, one by one: what is open in the ladder is open here.
void Judge::judgeGaps(TargetResult& r) const {
    r.state = Mark::Holds;
    for (const fit::Gap& gap : m_e.fit.gaps) {
        // Air is judged elsewhere: of a need of air only what touches counts here.
        const bool air = gap.breathing && gap.state != fit::GapState::Clash;
        const Mark own = air ? Mark::Holds : gap.mark;
        Mark left =
            markOf(gap.nominal.mm() - (gap.breathing ? gap.touchMm : gap.requiredMm) - r.limit, gap.worstBandMm);
        // What closes under stress stays open, unless the brief asks for more than that it closes.
        if (r.limit <= 0 && left == Mark::Crossed && own != Mark::Crossed)
            left = Mark::Open;
        r.state = worse(r.state, worse(own, left));
    }
    if (r.state != Mark::Holds)
        r.why = say("{} short at worst: measure the chain, or change what is short", figure::mm(-r.headroom, 1));
}

TargetResult Judge::one(const Target& target) const {
    TargetResult r{
        .id = target.id, .name = target.name, .kind = target.kind, .subject = target.subject, .limit = target.limit};
    const auto fill = [&](double value, double half, Basis basis) {
        r.value = value;
        r.low = value - half;
        r.high = value + half;
        r.headroom = isFloor(target.kind) ? value - target.limit : target.limit - value;
        r.state = markOf(r.headroom, half);
        r.basis = basis;
    };
    // A value that is not finite is none: it can neither hold nor miss a limit.
    const auto finite = [](const std::optional<std::pair<double, double>>& v) {
        return v && std::isfinite(v->first) && std::isfinite(v->second);
    };
    if (const auto c = computed(target); finite(c)) {
        fill(c->first, c->second, Basis::Computed);
        r.why = say("from the sizes and parts of the revision");
        if (target.kind == TargetKind::Gap)
            judgeGaps(r);
        return r;
    }
    Sentence why;
    if (const auto m = measured(target, why, r.runs)) {
        fill(m->value, m->half, Basis::Measured);
        r.run = m->run;
        r.simulated = m->simulated;
        r.why = m->why;
        return r;
    }
    if (const auto p = predicted(target); finite(p)) {
        fill(p->first, p->second, Basis::Predicted);
        r.why = why;
        return r;
    }
    r.value = r.low = r.high = r.headroom = std::nan("");
    r.why = target.kind == TargetKind::Noise ? say("nothing that makes noise is in the revision; {}", why)
            : m_e.build.placed.empty()       ? say("no part is placed yet")
            : target.subject.empty()         ? say("nothing to compute it from")
                                             : say("no part at \"{}\"", target.subject);
    return r;
}

} // namespace

std::string_view basisWord(Basis basis) { return wordOf(basisWords, basis); }

Sentence basisText(const TargetResult& target) {
    Sentence text = term(basisWord(target.basis));
    if (target.simulated)
        text += say(", simulated");
    if (target.runs > 1)
        text += say(", {} runs", target.runs);
    return text;
}

RevisionVerdict judge(const Project& project, const stages::Evaluation& evaluation, const RunAnalyses& runs) {
    return Judge(project, evaluation, runs).run();
}

} // namespace core::verdict
