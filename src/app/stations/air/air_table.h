// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/air/air_explore.h"

namespace app {

/// What a side of Air shows, as a table with commas: stored units, named in its heads. The section gives parts, fans
/// and openings one after the other, the network rooms and ways of air, the warm-up a row a moment, exploring the best
/// ways.
[[nodiscard]] QByteArray airTable(const View& v, const AirLook& look, const ExploreLook& explored);

} // namespace app
