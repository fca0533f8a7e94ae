// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/box_edits.h"
#include "core/model/build.h"

namespace core::box {

/// Whether a part is an inner panel, bracket or other made part at a place of the case itself, which can be made longer
/// or shorter by its ends. Null: nothing.
[[nodiscard]] bool isPanel(const Placed* placed);

/// Pulls one end of the made part at a place to @p toMm in the case; @p high: its high end. The other end stays: where
/// the place measures from the end that is pulled, the place goes along. Solids that are as long as the part become so
/// again, what else it has stays where it is in the case, cut-outs too. @p panel: as it stands now.
/// Errors: it is no panel, it would be thinner than 0.5 mm, or a cut-out would lie outside of it; nothing changes then.
[[nodiscard]] Result<void> resizePanel(Part& casePart, Part& made, const Item& place, const Placed& panel, Axis axis,
                                       bool high, double toMm);

} // namespace core::box
