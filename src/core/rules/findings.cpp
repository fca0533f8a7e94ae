// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/findings.h"

#include "core/air/compile_geometry.h"

#include "core/base/text.h"
#include "core/base/words.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {
constexpr double whineMm = 5; // before moving blades: common practice, no source
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
        const Sentence names = say("{} to {}", gap.between[0].text, gap.between[1].text),
                       is = say("{}, needs {}", figure::mm(gap.nominal.mm(), 1), figure::mm(gap.requiredMm).bare());
        Finding f{std::string(gap.rule) + ":" + gap.id,
                  Severity::Caution,
                  Station::Fit,
                  gap.id,
                  {},
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
                f.text = say("{}: the plug or lead has no room, {} short", names, figure::mm(-gap.nominal.mm(), 1));
            else if (gap.nominal < Length{})
                f.text = say("{}: overlap {}", names, figure::mm(-gap.nominal.mm(), 1));
            else
                f.text = say("{}: {}: it stops the blades", names, is);
            f.remedies = {say("a thinner part"), say("another mount"),
                          say("measure the chain: it carries ±{}", figure::mm(gap.worstBandMm, 1))};
            break;
        case fit::GapState::Blocked:
            f.severity = Severity::Blocker;
            f.text = say(
                "{}: blocked, {} ({}); below a third of it the ring it breathes through is smaller than half the fan",
                names, is, gap.reason);
            f.remedies = {say("an opening before it"), say("a thinner part"), say("another mount")};
            break;
        case fit::GapState::Starved:
            f.text = say("{}: short of air, {} ({})", names, is, gap.reason);
            f.remedies = {say("an opening before it"), say("a thinner part"), say("another mount")};
            if (gap.rule == "intake-desk")
                f.remedies = {say("higher feet")};
            break;
        case fit::GapState::Bulge:
            f.text =
                say("{}: the panel is forced out {}, it closes under stress", names, figure::mm(-gap.nominal.mm(), 1));
            f.remedies = {say("a thinner part"), say("a stiffer panel further out")};
            break;
        case fit::GapState::Rub:
            f.text = say("{}: {} ({})", names, is, gap.reason);
            f.remedies = {say("a thinner part"), say("measure the chain")};
            break;
        case fit::GapState::Clear:
            if (gap.mark == Mark::Holds && !gap.scarce && gap.requiredMm >= 3 && gap.nominal.mm() < whineMm &&
                shows(fit::Face::Blades)) {
                f.id = "blades-whine:" + gap.id;
                f.rule = "blades-whine";
                f.severity = Severity::Note;
                f.text = say("{}: {} before moving blades; below {} it whines (common practice)", names,
                             figure::mm(gap.nominal.mm()), figure::mm(whineMm, 0).bare());
                f.remedies = {say("{} or more", figure::mm(whineMm, 0))};
                break;
            }
            if (!gap.scarce)
                continue;
            f.severity = gap.mark == Mark::Holds ? Severity::Note : Severity::Caution;
            f.text = gap.marginMm() < 0 ? say("{} is {} short at worst", names, figure::mm(-gap.marginMm(), 1))
                                        : say("{} keeps {} at worst", names, figure::mm(gap.marginMm(), 1));
            f.remedies = {say("measure the chain with a caliper")};
            break;
        }
        findings.push_back(std::move(f));
    }
    return findings;
}

namespace {

/// Whether a fan that turns stands in the same chamber.
bool isFanned(const Build& build, const air::Prediction& prediction, const Placed& p) {
    const std::size_t chamber = air::chamberAt(build.caseSpec(), air::centreOf(p));
    return std::any_of(prediction.fans.begin(), prediction.fans.end(), [&](const air::FanResult& fan) {
        const Placed* at = build.at(fan.id);
        return at && fan.share > 0.01 && air::chamberAt(build.caseSpec(), air::centreOf(*at)) == chamber;
    });
}

} // namespace

std::vector<Finding> airFindings(const Build& build, const air::Prediction& prediction) {
    std::vector<Finding> findings;
    const auto add = [&](std::string rule, Severity severity, Thing about, Sentence text, Sentences remedies) {
        findings.push_back(findingAbout(std::move(about), std::move(rule), severity, Station::Air, std::move(text),
                                        std::move(remedies)));
    };
    for (const air::PartResult& part : prediction.parts) {
        if (part.throttled)
            add("throttles", Severity::Blocker, PartRef{part.id},
                say("{} is held at its limit of {} and gives {}", part.name, figure::celsius(part.limitC, 0),
                    figure::watts(part.powerW, 0)),
                {say("more fan speed"), say("a larger cooler"), say("a lower power limit"),
                 say("more open area before it")});
        else if (part.limitC > 0 && part.temperatureC > part.limitC)
            add("over-limit", Severity::Blocker, PartRef{part.id},
                say("{} reaches {}, its maker allows {}", part.name, figure::celsius(part.temperatureC, 0),
                    figure::celsius(part.limitC, 0).bare()),
                {say("air across it"), say("a heatsink on it"), say("another place")});
        else if (part.limitC > 0 && part.temperatureC + part.bandK > part.limitC)
            add("near-limit", Severity::Note, PartRef{part.id},
                say("{} comes within ±{} of its limit of {}", part.name, figure::kelvin(part.bandK, 0),
                    figure::celsius(part.limitC, 0)),
                {say("a measured run narrows the band")});
    }
    for (const air::PartResult& part : prediction.parts)
        if (const Placed* p = build.at(part.id);
            p && p->part->kind == PartKind::Drive && part.powerW > 0.5 && !isFanned(build, prediction, *p))
            add("drive-still", Severity::Caution, PartRef{part.id},
                part.limitC > 0 ? say("No fan moves the air around {}: it reaches {} of {}", part.name,
                                      figure::celsius(part.temperatureC, 0).bare(), figure::celsius(part.limitC, 0))
                                : say("No fan moves the air around {}: it reaches {}", part.name,
                                      figure::celsius(part.temperatureC, 0)),
                {say("a fan in its chamber"), say("another place"), say("a heatsink on it")});
    for (const air::FanResult& fan : prediction.fans)
        if (fan.share > 0.01 && fan.flowM3h < -0.5)
            add("fan-overblown", Severity::Caution, FanRef{fan.id},
                say("{} is blown through backwards: others push harder", fan.name),
                {say("raise its speed"), say("turn it round")});
    for (const Sentence& note : prediction.notes)
        add("air-assumption", Severity::Note, TopicRef{english(note)}, note, {});
    if (!prediction.converged)
        add("air-unsettled", Severity::Caution, RevisionRef{build.revision},
            say("The air solve did not settle; its figures are the last step"), {say("check openings and fans")});
    return findings;
}

Finding findingAbout(Thing about, std::string rule, Severity severity, Station station, Sentence text,
                     Sentences remedies) {
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
