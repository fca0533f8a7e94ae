// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/base/words.h"
#include "core/verdict/evaluate.h"

namespace core::verdict {
namespace {

constexpr WordTable<Basis, 4> basisWords{{{Basis::Measured, "measured"}, {Basis::Predicted, "predicted"}, {Basis::Computed, "computed"}, {Basis::Missing, "missing"}}};

struct Measured {
    double value = 0, half = 0;
    bench::SettleState state = bench::SettleState::Refused;
    std::string run, why;
};

class Judge {
public:
    Judge(const Project& project, const Evaluation& e, const RunAnalyses& runs) : m_project(project), m_e(e), m_runs(runs) {}

    RevisionVerdict run() {
        RevisionVerdict verdict{.id = m_e.build.revision};
        for (const Target& target : m_project.brief.targets)
            verdict.targets.push_back(one(target));
        for (const rules::Finding& f : m_e.findings)
            if (f.severity == rules::Severity::Blocker) {
                ++verdict.blockers;
                verdict.before.push_back(f.text);
            }
        for (const TargetResult& t : verdict.targets) {
            const bool sure = t.basis == Basis::Measured || t.basis == Basis::Computed;
            if (sure && t.state == Mark::Holds)
                ++verdict.proven;
            else if (t.basis == Basis::Missing)
                verdict.before.push_back(t.name + ": " + t.why);
            else if (t.state == Mark::Crossed)
                verdict.before.push_back(t.name + " is over its limit by " + fixed(-t.headroom, 1) + " " + std::string(targetUnit(t.kind)));
            else if (!sure)
                verdict.before.push_back(t.name + ": predicted only, log a settled run");
            else
                verdict.before.push_back(t.name + ": met, but the band reaches the limit; another run narrows it");
        }
        verdict.canBeValidated = verdict.before.empty() && !verdict.targets.empty();
        const Revision* revision = m_project.revision(verdict.id);
        verdict.validated = verdict.canBeValidated && revision && revision->validated;
        return verdict;
    }

private:
    TargetResult one(const Target& target) const;
    std::optional<Measured> measured(const Target& target, std::string& why) const;
    [[nodiscard]] std::optional<std::pair<double, double>> predicted(const Target& target) const;
    [[nodiscard]] std::optional<std::pair<double, double>> computed(const Target& target) const;

    const Project& m_project;
    const Evaluation& m_e;
    const RunAnalyses& m_runs;
};

ChannelKind channelOf(TargetKind kind) {
    switch (kind) {
    case TargetKind::Temperature: return ChannelKind::Temperature;
    case TargetKind::Noise: return ChannelKind::Level;
    case TargetKind::Clock: return ChannelKind::Clock;
    default: return ChannelKind::Other;
    }
}

std::optional<Measured> Judge::measured(const Target& target, std::string& why) const {
    const ChannelKind kind = channelOf(target.kind);
    if (kind == ChannelKind::Other)
        return std::nullopt;
    std::optional<Measured> best;
    why = "no run of this revision under the brief's load";
    for (const Run& run : m_project.runs) {
        if (run.revision != m_e.build.revision || run.load != m_project.brief.load)
            continue;
        const auto found = m_runs.find(run.id);
        if (found == m_runs.end() || !found->second)
            continue;
        if (found->second->stepped) {
            why = "run " + run.name + ": a fan or the power was changed in the middle";
            continue;
        }
        const bench::ChannelResult* c = found->second->channel(kind, kind == ChannelKind::Level ? std::string_view{} : std::string_view(target.subject));
        if (!c) {
            why = "run " + run.name + " has no such channel";
            continue;
        }
        if (c->state == bench::SettleState::Refused || !std::isfinite(c->settled)) {
            why = "run " + run.name + ": " + c->why;
            continue;
        }
        Measured m{.value = c->settled, .half = 0.5 * (c->high - c->low), .state = c->state, .run = run.id, .why = "run " + run.name + ", " + c->why};
        if (c->atReference) {
            m.value = c->atReference->value;
            m.half = 1.96 * c->atReference->u;
        }
        if (kind == ChannelKind::Level) {
            m.value -= 20 * std::log10(m_project.brief.listenerM / std::max(0.1, run.distanceM));
            m.half = std::hypot(m.half, 1.0); // a meter of class 2, uncalibrated
        }
        if (!best || m.state <= best->state) // the latest of the best kind
            best = m;
    }
    return best;
}

std::optional<std::pair<double, double>> Judge::predicted(const Target& target) const {
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
    switch (target.kind) {
    case TargetKind::Gap:
        if (m_e.fit.gaps.empty())
            return std::nullopt;
        return std::pair{m_e.fit.gaps.front().marginMm(), 0.0}; // the margin is at worst already
    case TargetKind::Volume: return std::pair{m_e.fit.volumeL, 0.0};
    case TargetKind::Mass: return std::pair{m_e.massG, 0.0};
    case TargetKind::Cost: return std::pair{m_e.price, 0.0};
    case TargetKind::Power: return std::pair{m_e.power.wallW, 0.0};
    default: return std::nullopt;
    }
}

TargetResult Judge::one(const Target& target) const {
    TargetResult r{.id = target.id, .name = target.name, .kind = target.kind, .subject = target.subject, .limit = target.limit};
    const auto fill = [&](double value, double half, Basis basis) {
        r.value = value;
        r.low = value - half;
        r.high = value + half;
        r.headroom = isFloor(target.kind) ? value - target.limit : target.limit - value;
        r.state = markOf(r.headroom, half);
        r.basis = basis;
    };
    // A value that is not finite is none: it can neither hold nor miss a limit.
    const auto finite = [](const std::optional<std::pair<double, double>>& v) { return v && std::isfinite(v->first) && std::isfinite(v->second); };
    if (const auto c = computed(target); finite(c)) {
        fill(c->first, c->second, Basis::Computed);
        r.why = "from the sizes and parts of the revision";
        return r;
    }
    std::string why;
    if (const auto m = measured(target, why)) {
        fill(m->value, m->half, Basis::Measured);
        r.run = m->run;
        r.why = m->why;
        return r;
    }
    if (const auto p = predicted(target); finite(p)) {
        fill(p->first, p->second, Basis::Predicted);
        r.why = why;
        return r;
    }
    r.value = r.low = r.high = r.headroom = std::nan("");
    r.why = target.kind == TargetKind::Noise ? "nothing that makes noise is in the revision; " + why : target.subject.empty() ? "nothing to compute it from" : "no part at \"" + target.subject + "\"";
    return r;
}

} // namespace

std::string_view basisWord(Basis basis) { return wordOf(basisWords, basis); }

RevisionVerdict judge(const Project& project, const Evaluation& evaluation, const RunAnalyses& runs) { return Judge(project, evaluation, runs).run(); }

} // namespace core::verdict
