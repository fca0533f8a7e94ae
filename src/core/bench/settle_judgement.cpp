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
    const auto end = [&](SettleState state, Sentence why) {
        r.state = state;
        r.why = std::move(why);
    };
    if (r.disturbed())
        return end(SettleState::Refused, say("disturbance inside the window, at {} s", std::lround(r.breakAtS)));
    if (r.nEff < 10)
        return end(SettleState::Refused, say("the noise is too slow for this window"));
    if ((r.lengthS < 480 && std::abs(r.remaining) > 0.5) || (input.tauKnownS && r.lengthS < 2 * *input.tauKnownS))
        return end(SettleState::Refused, say("too short against the time constant"));
    if (r.half > 3 || (r.lengthS < 2 * r.tauSlowS && r.half > 0.5))
        return end(SettleState::Refused, say("too short against the time constant"));
    const bool longEnough = r.lengthS >= 3 * r.tauSlowS;
    if (std::abs(r.remaining) <= 0.5 && r.half <= 1 && longEnough)
        return end(SettleState::Settled, say("at most {} is left to rise", figure::kelvin(0.5)));
    if (r.half <= 1 && longEnough)
        return end(SettleState::Estimate, say("carried on from a warm-up that was not finished"));
    end(SettleState::Rough, say("carried on from a short warm-up"));
}

} // namespace core::bench
