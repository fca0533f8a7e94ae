// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/stages/evaluate.h"

#include "core/air/local_heat.h"
#include "core/base/text.h"
#include "core/model/facts.h"
#include "core/stages/reads.h"

namespace core::stages {
namespace {

void addTargetFindings(const Project& project, Evaluation& e) {
    for (const Target& target : project.brief.targets) {
        double value = 0;
        Sentence text;
        if (target.kind == TargetKind::Volume) {
            value = e.fit.volumeL;
            text = say("Volume {} is over the {} of the brief", figure::usual(Quantity::Volume, value),
                       figure::usual(Quantity::Volume, target.limit));
        } else if (target.kind == TargetKind::Mass) {
            value = e.massG;
            text = say("Mass {} is over the {} of the brief", figure::usual(Quantity::Mass, value),
                       figure::usual(Quantity::Mass, target.limit));
        } else if (target.kind == TargetKind::Cost) {
            value = e.price;
            text = say("Parts cost {} {}, the brief allows {}", figure::number(value), project.currency,
                       figure::number(target.limit));
        } else if (target.kind == TargetKind::Power) {
            value = e.power.wallW;
            text = say("Draw at the wall {} is over the {} of the brief", figure::watts(value),
                       figure::watts(target.limit));
        } else {
            continue;
        }
        if (value > target.limit)
            e.found.brief.push_back(rules::findingAbout(TargetRef{target.id, {}}, "target", rules::Severity::Blocker,
                                                        rules::Station::Brief, text,
                                                        {say("another part"), say("another limit")}));
    }
}

/// The box it is carried in takes it in the one way round that suits best, feet and all.
void addCarryFinding(const Project& project, Evaluation& e) {
    auto box = project.brief.carryBoxMm;
    if (std::any_of(box.begin(), box.end(), [](double mm) { return mm <= 0; }))
        return;
    auto outside = e.fit.outsideMm;
    outside[index(outward(e.build.down).axis)] += e.fit.feetMm;
    const Sentence text = say("The carry box is {} inside, the computer {} with its feet", boxMm(box), boxMm(outside));
    std::sort(box.begin(), box.end());
    std::sort(outside.begin(), outside.end());
    for (std::size_t a = 0; a < 3; ++a)
        if (outside[a] > box[a]) {
            e.found.brief.push_back(
                rules::findingAbout(TopicRef{"carry-box"}, "carry-box", rules::Severity::Caution, rules::Station::Brief,
                                    say("{}: {} too large", text, figure::mm(outside[a] - box[a], 0)),
                                    {say("a smaller case"), say("lower feet"), say("a larger box")}));
            return;
        }
}

/// What is printed softens: nearer to it than its band and a margin is a caution.
void addSoftening(const Project& project, Evaluation& e, const std::vector<air::LocalHeat>& heats) {
    constexpr double marginK = 10; // creep begins before it softens; engineering judgement
    for (const air::LocalHeat& heat : heats) {
        const Part* part = project.part(heat.part);
        const auto* made = part ? std::get_if<MadeSpec>(&part->spec) : nullptr;
        const make::Material* material =
            made && made->process == Process::Print ? make::materialOf(made->material) : nullptr;
        if (!material || heat.wallC + marginK < material->softensC)
            continue;
        const Sentence where =
            heat.near.empty() ? say("in air of {}", figure::celsius(heat.airC, 0)) : say("beside {}", heat.near);
        const auto warm = figure::celsius(heat.wallC, 0), soft = figure::celsius(material->softensC, 0);
        e.found.make.push_back(rules::findingAbout(
            heat.mount.empty() ? Thing(MadeRef{heat.part}) : Thing(PartRef{heat.mount}), "made-warm",
            heat.wallC >= material->softensC ? rules::Severity::Blocker : rules::Severity::Caution,
            rules::Station::Make,
            say("{} comes to {} ±{} {}: {} softens at {}", heat.name, warm, figure::kelvin(heat.bandK, 0), where,
                named(made->material), soft),
            {say("another material"), say("another place"), say("more air there")}));
    }
}

/// A drive that stands in the discharge of a card may pass its limit though its chamber's air would not take it there.
void addWarmDrives(Evaluation& e, const std::vector<air::LocalHeat>& heats) {
    for (const air::LocalHeat& heat : heats) {
        const air::PartResult* own = e.air.part(heat.mount);
        if (heat.near.empty() || !own || own->kind != PartKind::Drive || own->limitC <= 0 ||
            own->temperatureC > own->limitC || heat.wallC <= own->limitC)
            continue;
        e.found.make.push_back(rules::findingAbout(
            PartRef{heat.mount}, "drive-warm", rules::Severity::Caution, rules::Station::Air,
            say("{} stands in what {} blows out, air of {}: it may come to {}, its limit is {}", heat.name, heat.near,
                figure::celsius(heat.airC, 0), figure::celsius(heat.wallC, 0), figure::celsius(own->limitC, 0)),
            {say("another place"), say("a heatsink on it"), say("a plate between them")}));
    }
}

void addMakeFindings(const Project& project, Evaluation& e) {
    const auto heats = air::localHeat(project, e.build, e.air);
    addWarmDrives(e, heats);
    addSoftening(project, e, heats);
    for (const make::MadePart& part : e.make.parts)
        if (!part.fits)
            e.found.make.push_back(rules::findingAbout(MadeRef{part.id}, "bed", rules::Severity::Blocker,
                                                       rules::Station::Make, make::bedWords(project, part),
                                                       {say("split it"), say("a larger bed")}));
}

} // namespace

std::string_view stageWord(Stage stage) {
    constexpr std::array<std::string_view, stageCount> words{"geometry",
                                                             "gaps",
                                                             "wiring",
                                                             "air",
                                                             "noise",
                                                             "making",
                                                             "findings of Brief",
                                                             "findings of Fit",
                                                             "findings of Air",
                                                             "findings of Make",
                                                             "run",
                                                             "verdict",
                                                             "room left",
                                                             "what to change",
                                                             "what to measure",
                                                             "ways in",
                                                             "trials",
                                                             "search",
                                                             "preview",
                                                             "schools",
                                                             "explore",
                                                             "loads",
                                                             "warm-up",
                                                             "learning"};
    return words[static_cast<std::size_t>(stage)];
}

namespace {

/// Runs the stages of a build one after another.
class Evaluator {
public:
    Evaluator(const Project& project, Build build, const Options& options) : m_project(project), m_options(options) {
        m_e.build = std::move(build);
    }

    Result<Evaluation> run() {
        gaps();
        wiring();
        air();
        noise();
        if (const auto made = making(); !made)
            return tl::make_unexpected(made.error());
        totals();
        findings();
        if (m_stopped)
            return problem("revision " + m_e.build.revision, "cancelled");
        return std::move(m_e);
    }

private:
    bool starts(Stage stage) {
        m_stopped = m_stopped || (m_options.watch && !m_options.watch(stage));
        return !m_stopped;
    }
    [[nodiscard]] const Before* before() const { return m_options.before; }

    void gaps() {
        const auto& needs = m_project.needs;
        m_fitKept = before() && before()->project.needs == needs && sameShapes(before()->evaluation.build, m_e.build);
        if (m_fitKept)
            m_e.fit = before()->evaluation.fit;
        else if (starts(Stage::Gaps))
            m_e.fit = fit::check(m_e.build, {.needs = needs});
    }
    void wiring() { // points into the parts themselves, so it is always made anew
        if (starts(Stage::Wiring))
            m_e.wiring = rules::wiring(m_e.build, &m_project);
    }
    void air() {
        air::Conditions conditions = air::conditionsOf(m_project, m_options.load);
        conditions.idle = rules::idleOf(m_e.build, m_e.wiring.ports);
        m_airKept = before() && before()->evaluation.air.conditions == conditions &&
                    sameForAir(before()->evaluation.build, m_e.build);
        if (m_airKept)
            m_e.air = before()->evaluation.air;
        else if (starts(Stage::Air))
            m_e.air = air::predictWithBands(m_e.build, conditions);
    }
    void noise() {
        const double distanceM = m_project.brief.listenerM;
        if (m_airKept && before()->evaluation.noise.distanceM == distanceM)
            m_e.noise = before()->evaluation.noise;
        else if (starts(Stage::Noise))
            m_e.noise = acoustics::noiseOf(m_e.build, m_e.air, distanceM);
    }
    Result<void> making() {
        if (!starts(Stage::Making))
            return {};
        auto plan = make::plan(m_project, m_e.build);
        if (!plan)
            return tl::make_unexpected(plan.error());
        m_e.make = std::move(*plan);
        return {};
    }
    void totals() {
        m_e.power = rules::powerBudget(m_e.build);
        const auto add = [&](const Part& part) {
            if (part.kind == PartKind::Made)
                return; // counted with what printing and cutting costs
            m_e.massG += part.massG;
            m_e.price += part.price;
        };
        add(*m_e.build.casePart);
        for (const Placed& p : m_e.build.placed)
            add(*p.part);
        for (const Joined& j : m_e.build.joined)
            add(*j.part);
        m_e.massG += m_e.make.massG;
        m_e.price += m_e.make.cost;
    }
    void findings() {
        if (starts(Stage::BriefFindings)) {
            m_e.found.brief = rules::compatibility(m_e.build, m_e.wiring);
            addTargetFindings(m_project, m_e);
            addCarryFinding(m_project, m_e);
        }
        if (m_fitKept)
            m_e.found.fit = before()->evaluation.found.fit;
        else if (starts(Stage::FitFindings))
            m_e.found.fit = rules::gapFindings(m_e.fit);
        // One of them names the revision.
        if (m_airKept && before()->evaluation.build.revision == m_e.build.revision)
            m_e.found.air = before()->evaluation.found.air;
        else if (starts(Stage::AirFindings))
            m_e.found.air = rules::airFindings(m_e.build, m_e.air);
        if (starts(Stage::MakeFindings))
            addMakeFindings(m_project, m_e);
        for (const auto* some : {&m_e.found.brief, &m_e.found.fit, &m_e.found.air, &m_e.found.make})
            m_e.findings.insert(m_e.findings.end(), some->begin(), some->end());
        rules::sortFindings(m_e.findings);
    }

    const Project& m_project;
    const Options& m_options;
    Evaluation m_e;
    bool m_stopped = false, m_fitKept = false, m_airKept = false;
};

} // namespace

Result<Evaluation> evaluate(const Project& project, std::string_view revisionId, const Options& options) {
    if (options.watch && !options.watch(Stage::Geometry))
        return problem("revision " + std::string(revisionId), "cancelled");
    auto build = resolve(project, revisionId);
    if (!build)
        return tl::make_unexpected(build.error());
    return evaluateBuild(project, std::move(*build), options);
}

Result<Evaluation> evaluateBuild(const Project& project, Build build, const Options& options) {
    return Evaluator(project, std::move(build), options).run();
}

bench::AnalyseOptions benchOptions(const Project& project, const Build* build) {
    bench::AnalyseOptions options{.referenceRoomC = project.brief.roomC};
    if (!build)
        return options;
    for (const Placed& p : build->placed) {
        if (p.part->kind == PartKind::Processor)
            options.capC[p.mount] = std::get<ProcessorSpec>(p.part->spec).limitC;
        else if (p.part->kind == PartKind::Card)
            options.capC[p.mount] = facts::limitC(std::get<CardSpec>(p.part->spec));
    }
    return options;
}

} // namespace core::stages
