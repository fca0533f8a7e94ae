// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/predict.h"
#include "core/air/transient.h"

namespace core::air {

std::vector<Peak> peaksOf(const Network& network) {
    std::vector<Peak> peaks;
    std::vector<std::size_t> of;
    double longest = 0;
    for (std::size_t i = 0; i < network.parts.size(); ++i) {
        const CooledPart& part = network.parts[i];
        if (part.peakW <= part.powerW)
            continue;
        peaks.push_back({.id = part.id, .watts = part.peakW, .seconds = part.peakS, .heldS = part.peakS});
        of.push_back(i);
        longest = std::max(longest, part.peakS);
    }
    if (peaks.empty())
        return peaks;
    const Drive drive{.roomC = network.roomC};
    Transient play(network, drive);
    for (double second = 1; second <= std::ceil(longest); ++second) {
        play.step(drive);
        for (std::size_t k = 0; k < peaks.size(); ++k) {
            Peak& peak = peaks[k];
            if (second > std::ceil(peak.seconds))
                continue;
            const PartState& state = play.state().parts[of[k]];
            peak.hottestC = std::max(peak.hottestC, state.temperatureC);
            if (state.throttled)
                peak.heldS = std::min(peak.heldS, second - 1);
            else
                peak.clockMhz = state.clockMhz;
        }
    }
    return peaks;
}

} // namespace core::air
