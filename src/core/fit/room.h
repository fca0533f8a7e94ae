// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/fit.h"

namespace core::fit {

/// How large a part could be at a place, along one of its own axes, with everything else as it is.
struct Room {
    std::string mount;
    std::string name;    ///< of what sits there, or of the place
    bool free = false;   ///< nothing sits there: what would go in with the smallest usual cross section of its kind
    std::size_t own = 0; ///< own axis of the part: 0 width, 1 height, 2 depth
    Axis axis = Axis::X; ///< of the case
    double nowMm = 0;    ///< size of what sits there; 0 when free
    double mostMm = 0;   ///< largest that keeps every need, as drawn
    double surelyMm = 0; ///< largest that keeps every need with all tolerances at their worst
    std::string limit;   ///< the neighbour that sets the limit
    std::string rule;    ///< of clearance, between the two
};

/// For every place, taken or free, and each own axis. Sizes that neighbours further than @p horizonMm away would limit
/// are limited by the case. Parts that carry others are left out of their own direction: what sits on them moves along.
[[nodiscard]] std::vector<Room> roomLeft(const Project& project, const Build& build, const Options& options = {});

[[nodiscard]] std::string_view ownAxisWord(std::size_t own); ///< "width", "height", "depth"

} // namespace core::fit
