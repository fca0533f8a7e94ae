// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/project_json.h"

#include <QString>

namespace store {

/// "MDFT": marks the database as one of ours.
constexpr int applicationId = 0x4D444654;
constexpr int schemaVersion = 1;

/// True when the file starts like a SQLite database.
[[nodiscard]] bool looksLikeDatabase(const QString& path);

/// Reads a project file; it is opened read-only. A newer schema, another application's database and a damaged file are
/// refused with words.
[[nodiscard]] core::Result<Loaded> readDatabase(const QString& path);

/// Writes the whole project beside the file and puts it in its place only when complete and checked.
[[nodiscard]] core::Result<void> writeDatabase(const core::Project& project, const QString& path);

} // namespace store
