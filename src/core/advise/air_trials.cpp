// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/air_trials.h"

namespace core::advise {

std::vector<AirTrial> airTrials(const Project& project, const stages::Evaluation& now,
                                const std::function<bool()>& stop) {
    std::vector<AirTrial> trials;
    const auto attempt = [&](Sentence text, const Change& change) {
        if (stop && stop())
            return;
        if (const auto build = resolveWith(project, now.build.revision, {change}))
            trials.push_back({change, std::move(text), air::predictWithBands(*build, now.air.conditions)});
    };
    for (const Opening& o : now.build.openings)
        if (o.screen != Screen::None)
            attempt(say("Dust screen off {}", o.name), SetScreen{o.id, Screen::None});
    for (const Placed& p : now.build.placed)
        if (p.part->kind == PartKind::Fan) {
            attempt(say("{} turned round", p.name), FlipFan{p.mount});
            attempt(say("{} at full speed", p.name), SetFan{p.mount, FanMode::Fixed, 1.0});
        }
    return trials;
}

} // namespace core::advise
