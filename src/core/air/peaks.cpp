// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/predict.h"
#include "core/air/transient.h"

namespace core::air {

std::vector<Peak> peaksOf(const Network& network) {
    std::vector<Peak> peaks;
    double longest = 0;
    for (std::size_t i = 0; i < network.parts.size(); ++i) {
        const CooledPart& part = network.parts[i];
        if (part.peakW <= part.powerW)
            continue;
        peaks.push_back({.id = part.id, .watts = part.peakW, .seconds = part.peakS, .heldS = part.peakS});
        longest = std::max(longest, part.peakS);
    }
    if (peaks.empty())
        return peaks;
    const Drive drive{.roomC = network.roomC};
    Transient play(network, drive);
    for (double second = 1; second <= std::ceil(longest); ++second) {
        play.step(drive);
        for (Peak& peak : peaks) {
            const auto at = std::find_if(network.parts.begin(), network.parts.end(),
                                         [&](const CooledPart& p) { return p.id == peak.id; });
            const auto i = static_cast<std::size_t>(at - network.parts.begin());
            const PartState& state = play.state().parts[i];
            if (second > std::ceil(peak.seconds))
                continue;
            peak.hottestC = std::max(peak.hottestC, state.temperatureC);
            if (state.throttled && peak.heldS >= peak.seconds)
                peak.heldS = second - 1;
            if (!state.throttled)
                peak.clockMhz = state.clockMhz;
        }
    }
    return peaks;
}

} // namespace core::air
