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
            e.findings.push_back({"target:" + target.id, rules::Severity::Caution, rules::Station::Brief, target.id, text, "target",
                                  {"another part", "another limit"}});
    }
}

void addMakeFindings(Evaluation& e) {
    for (const make::MadePart& part : e.make.parts)
        if (!part.fits)
            e.findings.push_back({"bed:" + part.id, rules::Severity::Blocker, rules::Station::Make, part.id,
                                  part.name + " does not fit the printer bed, not turned and not on its side", "bed", {"split it", "a larger bed"}});
}

} // namespace

Result<Evaluation> evaluate(const Project& project, std::string_view revisionId, std::string_view loadId) {
    auto build = resolve(project, revisionId);
    if (!build)
        return tl::make_unexpected(build.error());
    Evaluation e;
    e.build = std::move(*build);
    e.fit = fit::check(e.build);
    e.air = air::predict(e.build, air::conditionsOf(project, loadId));
    e.noise = acoustics::noiseOf(e.build, e.air, project.brief.listenerM);
    auto plan = make::plan(project, e.build);
    if (!plan)
        return tl::make_unexpected(plan.error());
    e.make = std::move(*plan);
    e.power = rules::powerBudget(e.build);
    e.connectors = rules::connectors(e.build);
    const auto add = [&](const Part& part) {
        if (part.kind == PartKind::Made)
            return; // counted with what printing and cutting costs
        e.massG += part.massG;
        e.price += part.price;
    };
    add(*e.build.casePart);
    for (const Placed& p : e.build.placed)
        add(*p.part);
    e.massG += e.make.massG;
    e.price += e.make.cost;
    e.findings = rules::compatibility(e.build);
    for (auto&& more : {rules::gapFindings(e.fit), rules::airFindings(e.build, e.air)})
        e.findings.insert(e.findings.end(), more.begin(), more.end());
    addTargetFindings(project, e);
    addMakeFindings(e);
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
