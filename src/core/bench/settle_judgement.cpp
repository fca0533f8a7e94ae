// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/settle_judgement.h"

#include "core/base/words.h"

#include <cmath>

namespace core::bench {

namespace {
constexpr WordTable<SettleState, 4> stateWords{{{SettleState::Settled, "settled"},
                                                {SettleState::Estimate, "estimate"},
                                                {SettleState::Rough, "rough"},
                                                {SettleState::Refused, "refused"}}};
} // namespace

std::string_view settleWord(SettleState state) { return wordOf(stateWords, state); }

void judge(SettleResult& r, const SettleInput& input) {
    const auto say = [&](SettleState state, std::string why) {
        r.state = state;
        r.why = std::move(why);
    };
    if (r.disturbed())
        return say(SettleState::Refused,
                   "disturbance inside the window, at " + std::to_string(std::lround(r.breakAtS)) + " s");
    if (r.nEff < 10)
        return say(SettleState::Refused, "the noise is too slow for this window");
    if ((r.lengthS < 480 && std::abs(r.remaining) > 0.5) || (input.tauKnownS && r.lengthS < 2 * *input.tauKnownS))
        return say(SettleState::Refused, "too short against the time constant");
    if (r.half > 3 || (r.lengthS < 2 * r.tauSlowS && r.half > 0.5))
        return say(SettleState::Refused, "too short against the time constant");
    const bool longEnough = r.lengthS >= 3 * r.tauSlowS;
    if (std::abs(r.remaining) <= 0.5 && r.half <= 1 && longEnough)
        return say(SettleState::Settled, "at most half a kelvin is left to rise");
    if (r.half <= 1 && longEnough)
        return say(SettleState::Estimate, "carried on from a warm-up that was not finished");
    say(SettleState::Rough, "carried on from a short warm-up");
}

} // namespace core::bench
