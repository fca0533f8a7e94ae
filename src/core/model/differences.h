// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/project.h"

#include <set>

namespace core {

/// What one state of a project has that another has not, in words for people, at most @p most lines and one that counts
/// the rest.
[[nodiscard]] std::vector<std::string> differences(const Project& before, const Project& after, std::size_t most = 8);

/// Ids of revisions that are new or whose line of descent is another than before, or names a part that was changed.
[[nodiscard]] std::set<std::string> touchedRevisions(const Project& before, const Project& after);

} // namespace core
