// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/project.h"
#include "store/json_archive.h"

namespace store {

/// A part as it stands in a file, every field written: for a form that shows what holds where nothing is said.
[[nodiscard]] Json partJson(const core::Part& part);
/// Reads it back. Errors: a field that cannot be read or is out of its range, by its place in the part, e.g.
/// "case.openings[2].size_mm[0]".
[[nodiscard]] core::Result<core::Part> partFrom(const Json& json);

/// The same of a part that is still being stated: what does not belong together yet is taken as it is. Errors: a field
/// that cannot be read or is out of its range.
[[nodiscard]] core::Result<core::Part> unfinishedPart(const Json& json);

/// A project without its runs, every field written.
[[nodiscard]] Json headJson(const core::Project& project);
/// Reads it back; the runs are those of @p base. Errors: a field that cannot be read, is out of its range or names
/// what is not there, by its place, e.g. "brief.targets[2].limit".
[[nodiscard]] core::Result<core::Project> projectFrom(const Json& json, const core::Project& base);
/// What is said of a run and of the columns of its log; its readings aside.
[[nodiscard]] Json runJson(const core::Run& run);
/// Reads it back; the readings are those of @p base, so its columns are neither more nor fewer. Errors as above.
[[nodiscard]] core::Result<core::Run> runFrom(const Json& json, const core::Run& base);

} // namespace store
