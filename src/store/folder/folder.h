// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/files.h"
#include "store/project_json.h"

// The interchange folder on the disk. docs/format.md says how it is saved in one step.
namespace store {

/// Reads the folder of a project.json, and only from inside it. Nothing is changed, also not what a killed save left.
[[nodiscard]] core::Result<Loaded> readFolder(const QString& jsonPath, const Progress& progress);

/// Saves a project as @p jsonPath with its logs beside it, in one step. The folder is locked by the caller.
[[nodiscard]] core::Result<Saved> saveFolder(const core::Project& project, const QString& jsonPath,
                                             const SaveOptions& options);

/// Ends what a killed save left: finished when its project.json was in place, else taken back. The folder is locked by
/// the caller.
[[nodiscard]] core::Result<void> recoverFolder(const QString& jsonPath);

/// Where a name inside the folder leads, links followed; nothing when it leads out of it or is no ordinary file.
[[nodiscard]] core::Result<QString> insideFolder(const QString& folder, const std::string& name);

/// What a save is about to do, written beside project.json before it starts.
struct Journal {
    std::vector<std::string> created; ///< files it makes
    std::vector<std::string> removed; ///< files the new project.json does not name any more
    std::string digest;               ///< of the new project.json, hexadecimal
};
[[nodiscard]] QString journalPath(const QString& jsonPath);
[[nodiscard]] QString previousPath(const QString& jsonPath);
[[nodiscard]] std::string digestOf(const QByteArray& bytes);
/// Files that a project.json names: logs and originals.
[[nodiscard]] std::vector<std::string> namedFiles(const Json& json);

} // namespace store
