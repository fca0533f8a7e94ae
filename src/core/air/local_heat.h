// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/predict.h"

namespace core::air {

/// How warm it is about a made part or a drive.
struct LocalHeat {
    std::string mount; ///< of the part; empty: a piece of the case
    std::string part;  ///< on the shelf
    std::string name;
    double airC = 0;  ///< about it
    double wallC = 0; ///< of its own surface where it is warmest
    double bandK = 0;
    std::string near; ///< name of the hot part that makes it warmer than its chamber; empty: none does
};

/// Of every made part, placed or a piece of the case, and of every drive. The air is that of its chamber, or of the
/// discharge of a card or supply it stands in; a hot face nearer than 15 mm warms it further (engineering judgement). A
/// wall of the case lies between the air inside and the room. @p prediction with bands.
[[nodiscard]] std::vector<LocalHeat> localHeat(const Project& project, const Build& build,
                                               const Prediction& prediction);

} // namespace core::air
