// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/json_archive.h"

namespace store {

/// The JSON Schema (2020-12) of project.json and of a parts file, made from the field lists.
[[nodiscard]] Json projectSchema();
[[nodiscard]] Json shelfSchema();
/// The tables of docs/format.md, in Markdown.
[[nodiscard]] std::string fieldTables();

} // namespace store
