// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/stages/at_loads.h"

namespace core::stages {
namespace {

struct Asked {
    std::string id;
    Sentence name;
    air::Conditions conditions;
};

std::vector<Asked> asked(const Project& project, const Evaluation& now) {
    std::vector<Asked> all;
    const auto add = [&](std::string id, Sentence name, air::Conditions conditions) {
        conditions.idle = now.air.conditions.idle;
        all.push_back({std::move(id), std::move(name), std::move(conditions)});
    };
    if (project.loads.size() >= 2) {
        for (const Load& load : project.loads)
            add(load.id, named(load.name), air::conditionsOf(project, load.id));
        return all;
    }
    // Shares of rated power: engineering judgement.
    const auto usual = [&](double share) {
        air::Conditions c = now.air.conditions;
        c.processorShare = c.cardShare = share;
        c.powers.clear();
        return c;
    };
    add({}, say("idle, usual share"), usual(0.15));
    add({}, say("mixed use, usual share"), usual(0.5));
    add({}, say("full load"), usual(1));
    return all;
}

} // namespace

std::vector<AtLoad> atLoads(const Project& project, const Evaluation& now, const std::function<bool()>& stop) {
    std::vector<AtLoad> all;
    for (const Asked& ask : asked(project, now)) {
        if (stop && stop())
            break;
        const air::Prediction air = air::predict(now.build, ask.conditions);
        AtLoad row{.id = ask.id, .name = ask.name, .powerW = air.totalPowerW};
        row.noiseDba = acoustics::noiseOf(now.build, air, project.brief.listenerM).totalDba;
        for (const air::PartResult& part : air.parts) {
            row.throttled = row.throttled || part.throttled;
            auto* c = part.kind == PartKind::Processor ? &row.processorC
                      : part.kind == PartKind::Card    ? &row.cardC
                                                       : nullptr;
            if (c)
                *c = std::max(c->value_or(part.temperatureC), part.temperatureC);
        }
        for (const air::FanResult& fan : air.fans)
            row.fans.emplace_back(fan.id, fan.share);
        all.push_back(std::move(row));
    }
    return all;
}

} // namespace core::stages
