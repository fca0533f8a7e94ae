// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/warm_up.h"

#include "core/air/transient.h"

namespace core::air {

double WarmUp::partC(std::size_t row, std::size_t part) const {
    const Solution& s = rows[row].state;
    return part < s.parts.size() ? s.parts[part].temperatureC : s.passiveC[part - s.parts.size()];
}

WarmUp warmUp(const Network& network, const Solution& settled, double minutes, double everyS,
              const std::function<bool()>& stop) {
    const Drive drive{.roomC = network.roomC};
    Transient play(network, drive);
    WarmUp all;
    all.everyS = everyS;
    const auto keep = [&] {
        all.rows.push_back({play.seconds(), play.state()});
        for (std::size_t i = 0; i < network.passive.size(); ++i)
            all.rows.back().state.passiveC[i] = play.passiveReadingC(i);
    };
    keep();
    const int step = std::max(1, static_cast<int>(everyS));
    for (int second = 1; second <= static_cast<int>(minutes * 60); ++second) {
        play.step(drive);
        if (second % step)
            continue;
        keep();
        if (stop && stop())
            break;
    }
    constexpr double close = 1.0;
    const std::size_t parts = network.parts.size() + network.passive.size();
    for (std::size_t i = 0; i < parts; ++i) {
        const double end =
            i < settled.parts.size() ? settled.parts[i].temperatureC : settled.passiveC[i - settled.parts.size()];
        double since = -1;
        for (std::size_t row = all.rows.size(); row-- > 0 && std::abs(all.partC(row, i) - end) <= close;)
            since = all.rows[row].seconds;
        all.withinS.push_back(since);
    }
    return all;
}

} // namespace core::air
