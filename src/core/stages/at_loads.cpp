// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/stages/at_loads.h"

#include <array>

namespace core::stages {
namespace {

struct Asked {
    std::string id;
    Sentence name;
    air::Conditions conditions;
};

/// Shares of rated power where a project states fewer than two loads: engineering judgement.
struct Usual {
    Sentence name;
    double share;
};
std::array<Usual, 3> usualLoads() {
    return {{{say("idle, usual share"), usualIdleShare}, {say("mixed use, usual share"), 0.5}, {say("full load"), 1}}};
}
bool statesLoads(const Project& project) { return project.loads.size() >= 2; }

std::vector<Asked> asked(const Project& project, const Evaluation& now) {
    std::vector<Asked> all;
    const auto add = [&](std::string id, Sentence name, air::Conditions conditions) {
        conditions.idle = now.air.conditions.idle;
        all.push_back({std::move(id), std::move(name), std::move(conditions)});
    };
    if (statesLoads(project)) {
        for (const Load& load : project.loads)
            add(load.id, named(load.name), air::conditionsOf(project, load.id));
        return all;
    }
    for (const Usual& usual : usualLoads()) {
        air::Conditions c = now.air.conditions;
        c.processorShare = c.cardShare = usual.share;
        c.powers.clear();
        add({}, usual.name, c);
    }
    return all;
}

} // namespace

Sentences loadNames(const Project& project) {
    Sentences names;
    for (const Load& load : project.loads)
        names.push_back(named(load.name));
    if (!statesLoads(project)) {
        names.clear();
        for (const Usual& usual : usualLoads())
            names.push_back(usual.name);
    }
    return names;
}

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
