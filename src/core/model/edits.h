// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/project.h"

namespace core {

/// Gives a revision another id; what names it (children, runs, the baseline) follows. Errors: not there, the id is
/// empty or taken.
[[nodiscard]] Result<void> renameRevision(Project& project, const std::string& id, const std::string& to);
/// Errors: not there, others come from it, or runs were logged of it: those would be lost with it.
[[nodiscard]] Result<void> removeRevision(Project& project, const std::string& id);
/// A run keeps its id; its name is for people. Errors: not there, the name is empty.
[[nodiscard]] Result<void> renameRun(Project& project, const std::string& id, const std::string& name);
[[nodiscard]] Result<void> removeRun(Project& project, const std::string& id);
/// The case that a revision has: the last one its line of descent chose. Null: none, or the line runs in a circle.
[[nodiscard]] const Part* caseOf(const Project& project, const std::string& revision);
/// A copy of a part of the shelf under an id of its own, named "... copy"; answers the id. Errors: not there.
[[nodiscard]] Result<std::string> duplicatePart(Project& project, const std::string& id);

} // namespace core
