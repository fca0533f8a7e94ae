// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/mark.h"
#include "core/rules/wiring.h"

namespace core::rules {

/// The one mark of a lead, wherever it stands. Too short: crossed. Open: tight or much to stow, a stated way that bends
/// too tight or comes too near to something, or an end whose socket is not stated. @p cable null: it states no length,
/// and is told, not judged.
[[nodiscard]] Mark markOfLead(const CableResult* cable, const fit::LeadRoute& route);

} // namespace core::rules
