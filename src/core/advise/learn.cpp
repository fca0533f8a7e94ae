// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/learn.h"

#include "core/model/edits.h"

#include <algorithm>

namespace core::advise {

std::vector<air::Observation> observationsOf(const Project& project, const verdict::RunAnalyses& runs) {
    std::vector<air::Observation> all;
    for (const Run& run : project.runs) {
        const auto analysis = runs.find(run.id);
        if (analysis == runs.end() || !analysis->second || (run.simulated && !project.simulation))
            continue; // a simulated run is of a machine that was played, not of one that was built
        auto build = resolve(project, run.revision);
        if (!build)
            continue;
        const bench::RunAnalysis& a = *analysis->second;
        air::Observation o{.run = run.id,
                           .revision = run.revision,
                           .build = std::move(*build),
                           .conditions = air::conditionsOf(project, run.load)};
        o.conditions.roomC = a.roomLogged || run.roomC ? a.roomC : o.conditions.roomC;
        for (const bench::ChannelResult& channel : a.channels) {
            if (channel.subject.empty() || channel.assumed || !std::isfinite(channel.settled))
                continue;
            if (channel.kind == ChannelKind::Temperature && channel.state == bench::SettleState::Settled)
                o.readings.push_back({channel.subject, channel.settled});
            else if (channel.kind == ChannelKind::Rpm)
                o.fanRpm[channel.subject] = channel.settled;
        }
        if (!o.readings.empty())
            all.push_back(std::move(o));
    }
    return all;
}

std::vector<NextRun> nextRuns(const Project& project, const stages::Evaluation& now,
                              const std::vector<air::Observation>& soFar, std::string_view mount,
                              const std::function<bool()>& stop) {
    std::vector<NextRun> all;
    const auto row = std::find_if(now.air.parts.begin(), now.air.parts.end(),
                                  [&](const air::PartResult& p) { return p.id == mount; });
    if (row == now.air.parts.end())
        return all;
    const auto attempt = [&](Sentence what, const std::vector<Change>& changes, const air::Conditions& conditions) {
        auto build = resolveWith(project, now.build.revision, changes);
        if (!build || (stop && stop()))
            return;
        // A run that finds just what is predicted: what it would leave does not depend on what it finds.
        air::Observation o{
            .run = "next", .revision = now.build.revision, .build = std::move(*build), .conditions = conditions};
        for (const air::PartResult& part : air::predict(o.build, conditions).parts)
            if (part.kind == PartKind::Processor || part.kind == PartKind::Card || part.kind == PartKind::Drive)
                o.readings.push_back({part.id, part.temperatureC});
        auto runs = soFar;
        runs.push_back(std::move(o));
        const air::Calibration after = air::calibrate(runs);
        all.push_back(
            {std::move(what), air::bandsAfter(now.air, after)[static_cast<std::size_t>(row - now.air.parts.begin())]});
    };
    attempt(say("as it is"), {}, now.air.conditions);
    for (const Placed& p : now.build.placed)
        if (p.part->kind == PartKind::Fan || p.part->kind == PartKind::Card || p.part->kind == PartKind::Cooler)
            attempt(say("{} at full speed", p.name), {SetFan{p.mount, FanMode::Fixed, 1.0}}, now.air.conditions);
    for (const Opening& o : now.build.openings)
        if (o.screen != Screen::None)
            attempt(say("screen off {}", o.name), {SetScreen{o.id, Screen::None}}, now.air.conditions);
    air::Conditions alone = now.air.conditions;
    alone.cardShare = 0;
    for (LoadPower& power : alone.powers) // nor what is stated for it
        if (const Placed* p = now.build.at(power.mount); p && p->part->kind == PartKind::Card)
            power.watts = 0;
    attempt(say("processor alone"), {}, alone);
    std::stable_sort(all.begin(), all.end(), [](const NextRun& a, const NextRun& b) { return a.bandK < b.bandK; });
    return all;
}

} // namespace core::advise
