// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/part.h"

namespace app {

/// The shelf of standard sizes that comes with the program.
[[nodiscard]] core::Result<std::vector<core::Part>> standardParts();

} // namespace app
