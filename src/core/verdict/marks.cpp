// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/verdict/marks.h"

namespace core::verdict {
namespace {

Mark markOfFindings(const stages::Evaluation& e, rules::Station station) {
    Mark mark = Mark::None;
    for (const auto& f : e.findings)
        if (f.station == station && f.severity != rules::Severity::Note)
            mark = worse(mark, rules::markOf(f.severity));
    return mark;
}

Mark markOfTargets(const RevisionVerdict& verdict, TargetKind kind) {
    Mark mark = Mark::None;
    for (const TargetResult& t : verdict.targets)
        if (t.kind == kind)
            mark = worse(mark, t.state);
    return mark;
}

/// Of two limits the one that is kept worse; of two kept alike the nearer.
bool decides(const Deciding& a, const Deciding& b) {
    if (a.mark != b.mark)
        return worse(a.mark, b.mark) == a.mark;
    return a.headroom < b.headroom;
}

Mark markOfVerdict(const stages::Evaluation& e, const RevisionVerdict& verdict) {
    if (e.build.placed.empty() || verdict.targets.empty())
        return Mark::None;
    if (verdict.blockers > 0)
        return Mark::Crossed;
    Mark mark = Mark::Holds;
    for (const TargetResult& t : verdict.targets)
        mark = worse(mark, t.state == Mark::None ? Mark::Open : t.state);
    return mark;
}

} // namespace

Deciding temperatureOf(const stages::Evaluation& e, const RevisionVerdict& verdict, std::string_view mount) {
    const air::PartResult* part = e.air.part(mount);
    if (!part)
        return {};
    Deciding own{.name = say("its maker's limit"),
                 .ofMaker = true,
                 .limit = part->limitC,
                 .value = part->temperatureC,
                 .band = part->bandK,
                 .slowsDown = part->throttled};
    std::vector<Deciding> all;
    for (const TargetResult& t : verdict.targets) {
        if (t.kind != TargetKind::Temperature || t.subject != mount || t.basis == Basis::Missing)
            continue;
        all.push_back({t.state, named(t.name), false, t.limit, t.value, 0.5 * (t.high - t.low), t.headroom, t.basis,
                       t.simulated});
        if (t.basis ==
            Basis::Measured) { // what was measured goes before what was predicted, also against the maker's limit
            own.value = t.value;
            own.band = all.back().band;
            own.basis = t.basis;
            own.simulated = t.simulated;
            own.slowsDown = false;
        }
    }
    if (own.limit > 0) {
        own.headroom = own.limit - own.value;
        own.mark = own.slowsDown || own.headroom < 0 ? Mark::Crossed : markOf(own.headroom, own.band);
        all.push_back(own);
    }
    if (all.empty())
        return own;
    Deciding worst = all.front();
    for (const Deciding& d : all)
        if (decides(d, worst))
            worst = d;
    return worst;
}

Mark markOfFit(const stages::Evaluation& e) {
    if (e.build.placed.empty())
        return Mark::None;
    Mark mark = markOfFindings(e, rules::Station::Fit);
    for (const fit::Gap& gap : e.fit.gaps)
        mark = worse(mark, gap.mark);
    return mark;
}

Mark markOfHeat(const stages::Evaluation& e, const RevisionVerdict& verdict) {
    Mark mark = markOfTargets(verdict, TargetKind::Temperature);
    for (const air::PartResult& part : e.air.parts)
        mark = worse(mark, temperatureOf(e, verdict, part.id).mark);
    return mark;
}

Mark markOfNoise(const RevisionVerdict& verdict) { return markOfTargets(verdict, TargetKind::Noise); }

Mark markOfStation(const stages::Evaluation& e, const RevisionVerdict& verdict, rules::Station station) {
    using rules::Station;
    const Mark found = markOfFindings(e, station);
    const auto unless = [&](bool empty) { return empty ? found : worse(found, Mark::Holds); };
    switch (station) {
    case Station::Brief:
        return unless(e.build.placed.empty());
    case Station::Fit:
        return markOfFit(e);
    case Station::Air:
        return worse(found, worse(markOfHeat(e, verdict), markOfNoise(verdict)));
    case Station::Make:
        return unless(e.make.steps.empty() && e.make.parts.empty());
    case Station::Verdict:
        return markOfVerdict(e, verdict);
    case Station::Bench:
        break;
    }
    return Mark::None;
}

} // namespace core::verdict
