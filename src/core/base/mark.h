// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string_view>

namespace core {

/// What is said of every figure that has a limit; one meaning on every station.
enum class Mark {
    Holds,   ///< kept with the whole band
    Open,    ///< the band crosses the limit, or less than the reserve is left
    Crossed, ///< broken with the whole band, or a yes/no check does not hold
    Running, ///< a measurement is under way
    Note,
    None ///< not built, not run
};

[[nodiscard]] constexpr std::string_view markWord(Mark mark) {
    switch (mark) {
    case Mark::Holds:
        return "holds";
    case Mark::Open:
        return "open";
    case Mark::Crossed:
        return "crossed";
    case Mark::Running:
        return "running";
    case Mark::Note:
        return "note";
    case Mark::None:
        break;
    }
    return "no data";
}

/// Mark of a headroom with its half band: holds when at least @p reserve is left at worst.
[[nodiscard]] constexpr Mark markOf(double headroom, double band, double reserve = 0.0) {
    if (headroom - band >= reserve)
        return Mark::Holds;
    return headroom + band < 0 ? Mark::Crossed : Mark::Open;
}

/// The heavier of two marks.
[[nodiscard]] constexpr Mark worse(Mark a, Mark b) {
    constexpr auto weight = [](Mark m) {
        switch (m) {
        case Mark::Crossed:
            return 4;
        case Mark::Open:
            return 3;
        case Mark::Running:
            return 2;
        case Mark::Holds:
            return 1;
        default:
            return 0;
        }
    };
    return weight(a) >= weight(b) ? a : b;
}

} // namespace core
