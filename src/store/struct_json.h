// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/part.h"
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

} // namespace store
