// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/findings.h"

#include "core/base/text.h"
#include "core/base/words.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {
constexpr WordTable<Severity, 3> severityWords{
    {{Severity::Blocker, "blocker"}, {Severity::Caution, "caution"}, {Severity::Note, "note"}}};
constexpr WordTable<Station, 6> stationWords{{{Station::Brief, "Brief"},
                                              {Station::Fit, "Fit"},
                                              {Station::Air, "Air"},
                                              {Station::Make, "Make"},
                                              {Station::Bench, "Bench"},
                                              {Station::Verdict, "Verdict"}}};

} // namespace

std::string_view severityWord(Severity severity) { return wordOf(severityWords, severity); }
Mark markOf(Severity severity) {
    return severity == Severity::Blocker ? Mark::Crossed : severity == Severity::Caution ? Mark::Open : Mark::Note;
}
std::string_view stationWord(Station station) { return wordOf(stationWords, station); }

PowerBudget powerBudget(const Build& build) {
    PowerBudget budget;
    double efficiency = 1;
    for (const Placed& p : build.placed) {
        if (p.part->kind == PartKind::PowerSupply) {
            const auto& spec = std::get<PowerSupplySpec>(p.part->spec);
            budget.supplyW += spec.ratedW;
            budget.brick = spec.brick;
            efficiency = spec.efficiency;
            continue;
        }
        if (p.powerW() > 0)
            budget.items.push_back({p.mount, p.name, p.part->kind, p.powerW()});
        budget.drawW += p.powerW();
    }
    std::stable_sort(budget.items.begin(), budget.items.end(),
                     [](const auto& a, const auto& b) { return a.watts > b.watts; });
    budget.share = budget.supplyW > 0 ? budget.drawW / budget.supplyW : 0;
    budget.wallW = budget.drawW / efficiency;
    return budget;
}

Connectors connectors(const Build& build) {
    std::map<std::string, Connectors::Row> rows;
    const auto count = [&](const Part& part) {
        for (const auto& [kind, n] : part.gives) {
            rows[kind].given += n;
            rows[kind].givers.push_back(part.name);
        }
        for (const auto& [kind, n] : part.needs) {
            rows[kind].needed += n;
            rows[kind].takers.push_back(part.name);
        }
    };
    count(*build.casePart);
    for (const Placed& p : build.placed)
        count(*p.part);
    for (const Joined& j : build.joined)
        count(*j.part);
    for (const Modification* m : build.modified)
        for (const Loss& loss : m->losses) {
            if (const auto row = rows.find(loss.gives); row != rows.end())
                --row->second.given;
            if (const auto row = rows.find(loss.needs); row != rows.end())
                --row->second.needed;
        }
    Connectors result;
    for (auto& [kind, row] : rows) {
        row.kind = kind;
        result.rows.push_back(std::move(row));
    }
    return result;
}

std::vector<Finding> compatibility(const Build& build, const Wiring& wiring) {
    std::vector<Finding> findings;
    const Checks checks{build, wiring, findings};
    checkParts(checks);
    checkMemory(checks);
    checkPlugs(checks);
    checkPower(checks);
    checkLinks(checks);
    checkLiquid(checks);
    checkLeads(checks);
    checkCutouts(checks);
    checkMissing(checks);
    checkCase(checks);
    return findings;
}

std::vector<Finding> gapFindings(const fit::FitResult& fit) {
    std::vector<Finding> findings;
    for (const fit::Gap& gap : fit.gaps) {
        const std::string names = gap.between[0].text + " to " + gap.between[1].text,
                          is = fixed(gap.nominal.mm(), 1) + " mm, needs " + fixed(gap.requiredMm, 1);
        Finding f{std::string(gap.rule) + ":" + gap.id,
                  Severity::Caution,
                  Station::Fit,
                  gap.id,
                  "",
                  std::string(gap.rule),
                  {},
                  gap.ref};
        const auto shows = [&](auto... faces) {
            return ((gap.between[0].face == faces || gap.between[1].face == faces) || ...);
        };
        switch (gap.state) {
        case fit::GapState::Clash:
            f.severity = Severity::Blocker;
            if (shows(fit::Face::KeepOut, fit::Face::Lead) && gap.nominal < Length{})
                f.text = names + ": the plug or lead has no room, " + fixed(-gap.nominal.mm(), 1) + " mm short";
            else if (gap.nominal < Length{})
                f.text = names + ": overlap " + fixed(-gap.nominal.mm(), 1) + " mm";
            else
                f.text = names + ": " + is + ": it stops the blades";
            f.remedies = {"a thinner part", "another mount",
                          "measure the chain: it carries ±" + fixed(gap.worstBandMm, 1) + " mm"};
            break;
        case fit::GapState::Blocked:
            f.severity = Severity::Blocker;
            f.text = names + ": blocked, " + is + " (" + std::string(gap.reason) +
                     "); below a third of it the ring it breathes through is smaller than half the fan";
            f.remedies = {"an opening before it", "a thinner part", "another mount"};
            break;
        case fit::GapState::Starved:
            f.text = names + ": short of air, " + is + " (" + std::string(gap.reason) + ")";
            f.remedies = {"an opening before it", "a thinner part", "another mount"};
            if (gap.rule == "intake-desk")
                f.remedies = {"higher feet"};
            break;
        case fit::GapState::Bulge:
            f.text = names + ": the panel is forced out " + fixed(-gap.nominal.mm(), 1) + " mm, it closes under stress";
            f.remedies = {"a thinner part", "a stiffer panel further out"};
            break;
        case fit::GapState::Rub:
            f.text = names + ": " + is + " (" + std::string(gap.reason) + ")";
            f.remedies = {"a thinner part", "measure the chain"};
            break;
        case fit::GapState::Clear:
            if (gap.mark == Mark::Holds && !gap.scarce && gap.requiredMm >= 3 && gap.nominal.mm() < 5 &&
                shows(fit::Face::Blades)) {
                f.id = "blades-whine:" + gap.id;
                f.rule = "blades-whine";
                f.severity = Severity::Note;
                f.text = names + ": " + fixed(gap.nominal.mm(), 1) +
                         " mm before moving blades; below 5 it whines (common practice)";
                f.remedies = {"5 mm or more"};
                break;
            }
            if (!gap.scarce)
                continue;
            f.severity = gap.mark == Mark::Holds ? Severity::Note : Severity::Caution;
            f.text = gap.marginMm() < 0 ? names + " is " + fixed(-gap.marginMm(), 1) + " mm short at worst"
                                        : names + " keeps " + fixed(gap.marginMm(), 1) + " mm at worst";
            f.remedies = {"measure the chain with a caliper"};
            break;
        }
        findings.push_back(std::move(f));
    }
    return findings;
}

std::vector<Finding> airFindings(const Build& build, const air::Prediction& prediction) {
    std::vector<Finding> findings;
    const auto add = [&](std::string rule, Severity severity, Thing about, std::string text,
                         std::vector<std::string> remedies) {
        findings.push_back(findingAbout(std::move(about), std::move(rule), severity, Station::Air, std::move(text),
                                        std::move(remedies)));
    };
    for (const air::PartResult& part : prediction.parts) {
        if (part.throttled)
            add("throttles", Severity::Blocker, PartRef{part.id},
                part.name + " is held at its limit of " + fixed(part.limitC, 0) + " °C and gives " +
                    fixed(part.powerW, 0) + " W",
                {"more fan speed", "a larger cooler", "a lower power limit", "more open area before it"});
        else if (part.limitC > 0 && part.temperatureC > part.limitC)
            add("over-limit", Severity::Blocker, PartRef{part.id},
                part.name + " reaches " + fixed(part.temperatureC, 0) + " °C, its maker allows " +
                    fixed(part.limitC, 0),
                {"air across it", "a heatsink on it", "another place"});
        else if (part.limitC > 0 && part.temperatureC + part.bandK > part.limitC)
            add("near-limit", Severity::Note, PartRef{part.id},
                part.name + " comes within ±" + fixed(part.bandK, 0) + " K of its limit of " + fixed(part.limitC, 0) +
                    " °C",
                {"a measured run narrows the band"});
    }
    for (const air::FanResult& fan : prediction.fans)
        if (fan.share > 0.01 && fan.flowM3h < -0.5)
            add("fan-overblown", Severity::Caution, FanRef{fan.id},
                fan.name + " is blown through backwards: others push harder", {"raise its speed", "turn it round"});
    for (const std::string& note : prediction.notes)
        add("air-assumption", Severity::Note, TopicRef{note}, note, {});
    if (!prediction.converged)
        add("air-unsettled", Severity::Caution, RevisionRef{build.revision},
            "The air solve did not settle; its figures are the last step", {"check openings and fans"});
    return findings;
}

Finding findingAbout(Thing about, std::string rule, Severity severity, Station station, std::string text,
                     std::vector<std::string> remedies) {
    std::string subject = subjectOf(about);
    return {rule + ":" + subject, severity,        station, subject, std::move(text), std::move(rule),
            std::move(remedies),  std::move(about)};
}

void sortFindings(std::vector<Finding>& findings) {
    std::stable_sort(findings.begin(), findings.end(), [](const Finding& a, const Finding& b) {
        return std::pair(a.severity, a.station) < std::pair(b.severity, b.station);
    });
}

} // namespace core::rules
