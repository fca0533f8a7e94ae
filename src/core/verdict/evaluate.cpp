// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/verdict/evaluate.h"

#include "core/base/text.h"

namespace core::verdict {
namespace {

void addTargetFindings(const Project& project, Evaluation& e) {
    for (const Target& target : project.brief.targets) {
        double value = 0;
        std::string text;
        if (target.kind == TargetKind::Volume) {
            value = e.fit.volumeL;
            text = "Volume " + fixed(value, 2) + " L is over the " + fixed(target.limit, 2) + " L of the brief";
        } else if (target.kind == TargetKind::Mass) {
            value = e.massG;
            text = "Mass " + fixed(value / 1000, 2) + " kg is over the " + fixed(target.limit / 1000, 2) + " kg of the brief";
        } else if (target.kind == TargetKind::Cost) {
            value = e.price;
            text = "Parts cost " + fixed(value, 0) + " " + project.currency + ", the brief allows " + fixed(target.limit, 0);
        } else if (target.kind == TargetKind::Power) {
            value = e.power.wallW;
            text = "Draw at the wall " + fixed(value, 0) + " W is over the " + fixed(target.limit, 0) + " W of the brief";
        } else {
            continue;
        }
        if (value > target.limit)
            e.findings.push_back(rules::findingAbout(TargetRef{target.id, {}}, "target", rules::Severity::Blocker, rules::Station::Brief, text, {"another part", "another limit"}));
    }
}

/// The box it is carried in takes it in the one way round that suits best, feet and all.
void addCarryFinding(const Project& project, Evaluation& e) {
    auto box = project.brief.carryBoxMm;
    if (std::any_of(box.begin(), box.end(), [](double mm) { return mm <= 0; }))
        return;
    auto outside = e.fit.outsideMm;
    outside[index(outward(e.build.down).axis)] += e.fit.feetMm;
    const auto words = [](const std::array<double, 3>& mm) { return fixed(mm[0], 0) + " x " + fixed(mm[1], 0) + " x " + fixed(mm[2], 0) + " mm"; };
    const std::string text = "The carry box is " + words(box) + " inside, the computer " + words(outside) + " with its feet";
    std::sort(box.begin(), box.end());
    std::sort(outside.begin(), outside.end());
    for (std::size_t a = 0; a < 3; ++a)
        if (outside[a] > box[a]) {
            e.findings.push_back(rules::findingAbout(TopicRef{"carry-box"}, "carry-box", rules::Severity::Caution, rules::Station::Brief, text + ": " + fixed(outside[a] - box[a], 0) + " mm too large",
                                                     {"a smaller case", "lower feet", "a larger box"}));
            return;
        }
}

void addMakeFindings(const Project& project, Evaluation& e) {
    for (const make::MadePart& part : e.make.parts)
        if (!part.fits)
            e.findings.push_back(rules::findingAbout(MadeRef{part.id}, "bed", rules::Severity::Blocker, rules::Station::Make, make::bedWords(project, part), {"split it", "a larger bed"}));
}

} // namespace

Result<Evaluation> evaluate(const Project& project, std::string_view revisionId, std::string_view loadId) {
    auto build = resolve(project, revisionId);
    if (!build)
        return tl::make_unexpected(build.error());
    return evaluateBuild(project, std::move(*build), loadId);
}

Result<Evaluation> evaluateBuild(const Project& project, Build build, std::string_view loadId) {
    Evaluation e;
    e.build = std::move(build);
    e.fit = fit::check(e.build, {.needs = project.needs});
    e.wiring = rules::wiring(e.build, &project);
    air::Conditions conditions = air::conditionsOf(project, loadId);
    conditions.idle = rules::idleOf(e.build, e.wiring.ports);
    e.air = air::predict(e.build, conditions);
    e.noise = acoustics::noiseOf(e.build, e.air, project.brief.listenerM);
    auto plan = make::plan(project, e.build);
    if (!plan)
        return tl::make_unexpected(plan.error());
    e.make = std::move(*plan);
    e.power = rules::powerBudget(e.build);
    const auto add = [&](const Part& part) {
        if (part.kind == PartKind::Made)
            return; // counted with what printing and cutting costs
        e.massG += part.massG;
        e.price += part.price;
    };
    add(*e.build.casePart);
    for (const Placed& p : e.build.placed)
        add(*p.part);
    for (const Joined& j : e.build.joined)
        add(*j.part);
    e.massG += e.make.massG;
    e.price += e.make.cost;
    e.findings = rules::compatibility(e.build, e.wiring);
    for (auto&& more : {rules::gapFindings(e.fit), rules::airFindings(e.build, e.air)})
        e.findings.insert(e.findings.end(), more.begin(), more.end());
    addTargetFindings(project, e);
    addCarryFinding(project, e);
    addMakeFindings(project, e);
    rules::sortFindings(e.findings);
    return e;
}

bench::AnalyseOptions benchOptions(const Project& project, const Build* build) {
    bench::AnalyseOptions options{.referenceRoomC = project.brief.roomC};
    if (!build)
        return options;
    for (const Placed& p : build->placed) {
        if (p.part->kind == PartKind::Processor)
            options.capC[p.mount] = std::get<ProcessorSpec>(p.part->spec).limitC;
        else if (p.part->kind == PartKind::Card) {
            const auto& spec = std::get<CardSpec>(p.part->spec);
            options.capC[p.mount] = spec.limitC > 0 ? spec.limitC : spec.cooler == CardCooler::Blower ? 83 : 87;
        }
    }
    return options;
}

} // namespace core::verdict
