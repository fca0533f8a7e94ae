// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/loaded.h"
#include "store/project_lock.h"
#include "store/safe_write.h"

#include <QString>

namespace store {

constexpr const char* projectSuffix = "minidraft";

/// What a path names as a project: one file with everything, or a project.json with logs beside it.
struct ProjectPath {
    enum class Form { Database, Folder };
    Form form = Form::Folder;
    QString file; ///< the database, or the JSON file
};
/// A file that is there is that file, by what it holds; a folder means its project.json. A name that is not there yet:
/// ".minidraft" a database, ".json" that file, anything else a folder.
[[nodiscard]] ProjectPath projectPath(const QString& path);

/// Opens a project file (.minidraft), an interchange folder, or the JSON file of one. The opened thing is never
/// changed. Errors say what is wrong and where.
[[nodiscard]] core::Result<Loaded> openProject(const QString& path, const Progress& progress = {});

enum class Foreign { Refuse, Replace }; ///< what happens to another project that stands at the place
enum class JsonLink { Refuse, Follow }; ///< a project.json that is a link out of its folder
struct SaveOptions {
    Foreign foreign = Foreign::Refuse;
    const ProjectLock* lock = nullptr; ///< held already; else it is taken for the time of saving
    QString openedFrom;                ///< the place the project was opened from: its own, whatever it is called now
    std::vector<std::shared_ptr<const core::LogFile>>
        known; ///< files that readings are known to stand in, from earlier saves
    Progress progress;
    std::string program = "mini-draft-cli"; ///< named in the lock
    int waitMs = 10'000;                    ///< for another short writer
    JsonLink jsonLink = JsonLink::Follow;
};

/// What a save leaves behind.
struct Saved {
    std::vector<std::shared_ptr<const core::LogFile>> files;
}; ///< where readings stand now, in a folder

/// Saves a project in one step to the form its place asks for: afterwards the old or the new state is there, whole.
/// Errors: another writer has it, another project stands there, the words of the disk.
[[nodiscard]] core::Result<Saved> saveProject(const core::Project& project, const QString& path,
                                              const SaveOptions& options = {});

/// Saves as an interchange folder.
[[nodiscard]] core::Result<Saved> writeFolder(const core::Project& project, const QString& folder,
                                              const SaveOptions& options = {});

/// How a project stands on the disk at one moment; another writer changes it.
struct FileStamp {
    std::uint64_t device = 0, inode = 0, size = 0;
    std::int64_t modifiedNs = 0;
    friend bool operator==(const FileStamp&, const FileStamp&) = default;
};
/// Nothing when there is nothing.
[[nodiscard]] std::optional<FileStamp> stampOf(const QString& projectPath);

/// Readings of one run as they stand on the disk now.
[[nodiscard]] core::Result<core::Samples> readRunBack(const QString& projectPath, const std::string& run);

} // namespace store
