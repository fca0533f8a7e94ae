// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/project_json.h"

#include <QString>

namespace store {

/// Opens a project file (.minidraft), an interchange folder, or the project.json inside one.
/// The opened thing is never changed. Errors say what is wrong and where.
[[nodiscard]] core::Result<Loaded> openProject(const QString& path);

/// Writes the open interchange folder: project.json and runs/*.csv. Each file is replaced as a whole.
[[nodiscard]] core::Result<void> writeFolder(const core::Project& project, const QString& folder);

/// Writes a project file by its ending: .minidraft is one database, anything else a folder.
[[nodiscard]] core::Result<void> saveProject(const core::Project& project, const QString& path);

/// Writes bytes so that either the old or the new content is there, never half of it.
[[nodiscard]] core::Result<void> writeWhole(const QString& path, const QByteArray& bytes);

/// A log read and recognised as far as that goes by itself, its columns named after the parts of a build.
[[nodiscard]] core::Result<core::Samples> importLog(const QString& path, const core::Project& project, const std::string& revision);
/// Turns "processor", "card", "drive" into mounts of the revision.
void nameSubjects(const core::Project& project, const std::string& revision, core::Samples& samples);

constexpr const char* projectSuffix = "minidraft";

} // namespace store
