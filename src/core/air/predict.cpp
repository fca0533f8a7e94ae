// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/predict.h"

#include "core/air/bands.h"
#include "core/air/thermal.h"

namespace core::air {
namespace {
constexpr double perHour = 3600.0;

double flowOut(const Solution& s, const Compiled::OpeningBranches& o, double& in, double& out) {
    in = out = 0;
    for (const std::size_t b : o.branches)
        (s.flowM3s[b] >= 0 ? out : in) += std::abs(s.flowM3s[b]) * perHour;
    return out - in;
}

/// Of the rooms at the two ends of a fan, by the share of its face that looks at each.
double endPressure(const Network& net, const Solution& s, const Compiled::FanBranch& fan, std::size_t Branch::*end) {
    double sum = 0, all = 0;
    for (const std::size_t b : fan.branches) {
        sum += net.branches[b].curve.freeFlowM3s * s.pressurePa[net.branches[b].*end];
        all += net.branches[b].curve.freeFlowM3s;
    }
    return all > 0 ? sum / all : 0;
}

double ratedFlow(const Network& net, const Compiled::FanBranch& fan) {
    double sum = 0;
    for (const std::size_t b : fan.branches)
        sum += net.branches[b].curve.freeFlowM3s;
    return sum;
}

FanResult fanResult(const Build& build, const Compiled& compiled, const Solution& s, const Compiled::FanBranch& fan) {
    const Network& net = compiled.network;
    const Placed* p = build.at(fan.mount);
    FanResult r{.id = fan.mount,
                .name = p->name,
                .rpm = s.speed[fan.fan] * net.fans[fan.fan].ratedRpm,
                .share = s.speed[fan.fan],
                .direction = fan.direction,
                .ratedFlowM3h = ratedFlow(net, fan) * perHour,
                .againstPa = endPressure(net, s, fan, &Branch::to) - endPressure(net, s, fan, &Branch::from),
                .obstacle = fan.obstacle};
    double moved = 0;
    for (const std::size_t b : fan.branches) {
        const double q = s.flowM3s[b];
        r.flowM3h += q * perHour;
        r.airC += std::abs(q) * s.temperatureC[q >= 0 ? net.branches[b].from : net.branches[b].to];
        moved += std::abs(q);
    }
    r.airC = moved > 1e-12 ? r.airC / moved : s.temperatureC[net.branches[fan.branches.front()].from];
    return r;
}

/// By branch, whether what comes in there passes a dust screen.
std::vector<bool> screenedBranches(const Build& build, const Compiled& compiled) {
    std::vector<bool> screened(compiled.network.branches.size(), false);
    const auto mark = [&](const std::string& opening, const std::vector<std::size_t>& branches) {
        const Opening* o = build.opening(opening);
        for (const std::size_t b : branches)
            screened[b] = o && o->screen != Screen::None;
    };
    for (const auto& o : compiled.openings)
        mark(o.opening, o.branches);
    for (const auto& fan : compiled.fans)
        if (!fan.opening.empty())
            mark(fan.opening, fan.branches);
    return screened;
}

Balance balanceOf(const Build& build, const Compiled& compiled, const Solution& s) {
    Balance balance;
    const Network& net = compiled.network;
    const std::vector<bool> screened = screenedBranches(build, compiled);
    double unfiltered = 0;
    double weight = 0, sum = 0;
    for (const Compiled::FanBranch& fan : compiled.fans) {
        if (net.fans[fan.fan].ownFan || fan.direction == FanDirection::Inside)
            continue;
        const bool in = fan.direction == FanDirection::In;
        const double rated = ratedFlow(net, fan);
        (in ? balance.ratedInM3h : balance.ratedOutM3h) += rated * s.speed[fan.fan] * perHour;
        sum += rated * endPressure(net, s, fan, in ? &Branch::to : &Branch::from);
        weight += rated;
    }
    for (std::size_t b = 0; b < net.branches.size(); ++b) {
        const Branch& branch = net.branches[b];
        if (branch.from != 0 && branch.to != 0)
            continue;
        const double inward = (branch.from == 0 ? s.flowM3s[b] : -s.flowM3s[b]) * perHour;
        (inward >= 0 ? balance.inM3h : balance.outM3h) += std::abs(inward);
        unfiltered += inward > 0 && !screened[b] ? inward : 0;
    }
    balance.unfilteredShare = balance.inM3h > 0 ? unfiltered / balance.inM3h : 0;
    if (weight > 0)
        balance.pressurePa = sum / weight;
    else if (!compiled.chamberZones.empty())
        balance.pressurePa = s.pressurePa[compiled.chamberZones.front()];
    return balance;
}
} // namespace

Conditions conditionsOf(const Project& project, std::string_view loadId) {
    Conditions c{.roomC = project.brief.roomC, .altitudeM = project.brief.altitudeM};
    if (const Load* load = project.load(loadId.empty() ? std::string_view(project.brief.load) : loadId)) {
        c.processorShare = load->processorShare;
        c.cardShare = load->cardShare;
        c.powers = load->powers;
    }
    c.own = project.airValues;
    return c;
}

const PartResult* Prediction::part(std::string_view mount) const {
    const auto it = std::find_if(parts.begin(), parts.end(), [&](const PartResult& p) { return p.id == mount; });
    return it == parts.end() ? nullptr : &*it;
}

Prediction predict(const Build& build, const Conditions& conditions) {
    const Compiled compiled = compile(build, conditions);
    return summarise(build, conditions, compiled, solve(compiled.network));
}

Prediction predictWithBands(const Build& build, const Conditions& conditions) {
    auto solved = std::make_shared<Solved>();
    solved->compiled = compile(build, conditions);
    solved->solution = solve(solved->compiled.network);
    Prediction prediction = summarise(build, conditions, solved->compiled, solved->solution);
    addBands(build, solved->compiled, solved->solution, prediction);
    prediction.peaks = peaksOf(solved->compiled.network);
    prediction.solved = std::move(solved);
    return prediction;
}

Prediction summarise(const Build& build, const Conditions& conditions, const Compiled& compiled, const Solution& s) {
    Prediction result{.converged = s.converged, .conditions = conditions, .notes = compiled.notes};
    const Network& net = compiled.network;
    for (const auto& o : compiled.openings) {
        const Opening* opening = build.opening(o.opening);
        OpeningFlow flow{.id = o.opening, .name = opening->name};
        flow.flowM3h = flowOut(s, o, flow.inM3h, flow.outM3h);
        double weighted = 0;
        for (const std::size_t b : o.branches)
            weighted +=
                std::abs(s.flowM3s[b]) * s.temperatureC[s.flowM3s[b] >= 0 ? net.branches[b].from : net.branches[b].to];
        const double total = (flow.inM3h + flow.outM3h) / perHour;
        flow.airC = total > 1e-9 ? weighted / total : conditions.roomC;
        result.openings.push_back(flow);
    }
    for (const auto& fan : compiled.fans)
        result.fans.push_back(fanResult(build, compiled, s, fan));
    for (std::size_t i = 0; i < compiled.chamberZones.size(); ++i) {
        const Chamber& c = build.caseSpec().chambers[i];
        result.chambers.push_back(
            {c.id, c.name, s.temperatureC[compiled.chamberZones[i]], s.pressurePa[compiled.chamberZones[i]]});
    }
    for (std::size_t i = 0; i < net.parts.size(); ++i) {
        const CooledPart& part = net.parts[i];
        const PartState& state = s.parts[i];
        result.parts.push_back({part.id, part.name, build.at(part.id)->part->kind, state.temperatureC, state.powerW,
                                part.limitC < 1e8 ? part.limitC : 0, state.clockMhz, state.inletC, state.sinkC,
                                state.throttled});
    }
    for (std::size_t i = 0; i < net.passive.size(); ++i) {
        const PassivePart& part = net.passive[i];
        const Placed* p = build.at(part.id);
        result.parts.push_back({part.id, part.name, p ? p->part->kind : PartKind::Board, s.passiveC[i], s.passiveW[i],
                                part.limitC, 0, s.temperatureC[part.airZone()], s.passiveC[i], false});
    }
    result.balance = balanceOf(build, compiled, s);
    result.totalPowerW = supplyLoadW(net, s);
    return result;
}

} // namespace core::air
