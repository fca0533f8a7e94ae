// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/build.h"

namespace core {

/// A place of a build, taken or free.
struct MountChoice {
    std::string path; ///< as changes name it, e.g. "tray/cpu"
    std::string name;
    std::vector<PartKind> accepts;
    const Part* taken = nullptr; ///< what sits there
};
/// Every mount of the case and of the parts placed so far, in order of nesting.
[[nodiscard]] std::vector<MountChoice> mountsOf(const Build& build);

/// The mount at a path of a build, as its owner states it; null when there is none.
[[nodiscard]] const Mount* mountAt(const Build& build, std::string_view path);

/// Appends a change; one that only says again what the last one on the same thing said replaces it (of a vent also past
/// changes of other things), and turning a fan twice cancels out. So nudging a speed ten times is one change of the
/// revision.
void addTo(std::vector<Change>& changes, const Change& change);

/// "spine-2" when "spine" is taken on the shelf.
[[nodiscard]] std::string freePartId(const Project& project, std::string_view wanted);

} // namespace core
