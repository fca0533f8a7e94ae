// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/project.h"

#include <functional>

namespace core {

/// Every number of a project against the range in which it means something. The limits are generous: what is beyond
/// them is a slip of the hand or a broken file, and would make figures of nothing. Limits are engineering judgement.
/// Calls @p add once for each number that is out of its range, or not finite. What is shared with @p sound was looked
/// at before.
void checkRanges(const Project& project, const std::function<void(Problem)>& add, const Project* sound = nullptr);

} // namespace core
