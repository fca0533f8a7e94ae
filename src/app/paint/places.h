// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/hit.h"

#include <vector>

namespace app {

/// What can be clicked of something painted, in the order it was painted.
using Places = std::vector<Hit>;

/// The place under a point, in the same px as the painting; null: none. The smallest wins: a pin before the part under
/// it.
[[nodiscard]] const Hit* placeAt(const Places& places, const QPointF& at);
/// Things to step to, each once, in their order: what acts (turn a fan, set its speed) is none.
[[nodiscard]] Places figuresOf(const Places& places);
[[nodiscard]] bool holdsThing(const Places& places, const core::Thing& thing);

} // namespace app
