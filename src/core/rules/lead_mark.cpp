// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/lead_mark.h"

namespace core::rules {

Mark markOfLead(const CableResult* cable, const fit::LeadRoute& route) {
    if (cable && cable->state == LeadState::Short)
        return Mark::Crossed;
    if (route.bendsTooTight() || !route.meets.empty() || (cable && cable->state != LeadState::Fits))
        return Mark::Open;
    return !cable ? Mark::Note : route.assumed ? Mark::Open : Mark::Holds;
}

} // namespace core::rules
