// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/loaded.h"

#include <QString>

namespace store {

/// "MDFT": marks the database as one of ours.
constexpr int applicationId = 0x4D444654;
constexpr int schemaVersion = 2;

/// True when the file starts like a SQLite database, or ends like a project file whose start is damaged.
[[nodiscard]] bool looksLikeDatabase(const QString& path);

/// Reads a project file, which is never changed. A newer schema and another program's database are refused with words.
/// Of a damaged file the rest is read: what was lost stands in the warnings.
[[nodiscard]] core::Result<Loaded> readDatabase(const QString& path, const Progress& progress = {});

/// The same of a file that stands in memory, and that nothing is known about.
[[nodiscard]] core::Result<Loaded> readDatabaseBytes(std::string bytes);

/// Only what stands at the head: name, id, brief. Errors as readDatabase().
[[nodiscard]] core::Result<core::Project> readDatabaseHead(const QString& path);

/// Readings of one run as they stand in the file. Errors: not there, damaged.
[[nodiscard]] core::Result<core::Samples> readDatabaseRun(const QString& path, const std::string& run);

/// Writes the whole project beside the file, and puts it in its place when it is complete and on the disk.
/// The file that was there stays as "name~", unless it is damaged: then it stays as "name.damaged", and the older
/// "name~" too.
[[nodiscard]] core::Result<void> writeDatabase(const core::Project& project, const QString& path,
                                               const Progress& progress = {});

} // namespace store
