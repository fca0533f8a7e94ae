// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/project.h"

namespace core {

/// What must be known of a case before anything can be placed: its inner size, wall and feet.
struct BlankCase {
    std::string id = "case-1";
    std::string name = "Case";
    Size3 inside; ///< width, depth, height
    double wallMm = 1.5;
    double feetMm = 8;
    WallMaterial material = WallMaterial::Steel;
    std::vector<Side> open{Side::Right, Side::Front, Side::Rear, Side::Bottom, Side::Top}; ///< panels that air may pass
    double perforation = 0.45; ///< open share of a grille, 0.05..1
};

/// A case with one chamber and the places most compact builds have: a tray on the left wall, a card place along the
/// floor, a supply bay at the front, a grille in each open panel, with a fan place behind those of the left, right, top
/// and bottom. A start to be edited, not a design. Errors: an inner size below 60 mm or above 800 mm, a wall outside
/// 0.3 to 10 mm, an open share outside 0.05 to 1.
[[nodiscard]] Result<Part> blankCase(const BlankCase& blank);

} // namespace core
