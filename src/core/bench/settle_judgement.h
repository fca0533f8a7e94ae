// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/bench/settle.h"

namespace core::bench {

/// Whether a fitted warm-up settled, can be carried on, or tells nothing, and why: sets state and why of @p result.
void judge(SettleResult& result, const SettleInput& input);

} // namespace core::bench
