// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/network.h"
#include "core/base/sentence.h"
#include "core/model/project.h"

#include <optional>

namespace core::air {

/// A name for every branch: its id, and of those that share one "id#2", "id#3".
[[nodiscard]] std::vector<std::string> branchNames(const Network& network);

/// What a value of the network is now; nothing where the element has no such value, or is not there. Elements are
/// rooms, branches by their names, and parts by their mounts.
[[nodiscard]] std::optional<double> valueOf(const Network& network, std::string_view element, AirQuantity quantity);

/// Puts the user's own values into a network. Returns what was done with each, and why one was not used.
Sentences applyOwn(Network& network, const std::vector<AirValue>& values);

} // namespace core::air
