// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/box_edits.h"

#include <optional>

namespace core::box {

/// A vent before a fan place of its wall, or the fan place behind a vent: how the one lies over the other. All mm.
struct VentOnFan {
    std::size_t vent = 0, place = 0; ///< in their lists
    double frameMm = 0;
    double bladesMm = 0;              ///< across the circle of the blades: the frame less a wall of 2 mm on both sides
    std::array<double, 2> off{};      ///< middle of the vent from that of the fan, along planeAxes() of the wall
    std::array<double, 2> halfVent{}; ///< half its size along the same
    bool round = false;

    [[nodiscard]] double offMm() const;
    /// Least way from the circle of the blades out to the rim of the vent; negative: the rim covers the blades.
    [[nodiscard]] double rimMm() const;
};
/// Of the thing that is selected: of several fans or vents the one whose middle is nearest. Nothing: it is no vent in a
/// wall or no fan place at one, or none lies over it. @p extents: of all things, in the order of itemsOf().
[[nodiscard]] std::optional<VentOnFan> ventOnFan(const Part& casePart, const Item& item,
                                                 const std::vector<Extent>& extents);

} // namespace core::box
