// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/project.h"
#include "store/json_archive.h"

#include <functional>

namespace store {

constexpr int formatVersion = 1;
constexpr const char* formatWord = "mini-draft-project";
constexpr const char* shelfFormatWord = "mini-draft-shelf";

/// A project and what was noticed while reading it.
struct Loaded {
    core::Project project;
    std::vector<core::Problem> warnings;
};

/// The text of project.json; runs name their files.
[[nodiscard]] std::string writeProjectJson(const core::Project& project);
/// Reads project.json; readings of runs are fetched through @p readRun by file name.
/// Errors name file, line and field. A newer version is refused with words.
[[nodiscard]] core::Result<Loaded> readProjectJson(const std::string& text, const std::string& fileName,
                                                   const std::function<core::Result<std::string>(const std::string&)>& readRun);

/// Reads a shelf file ("mini-draft-shelf": a list of parts). Errors name file, line and field.
[[nodiscard]] core::Result<std::vector<core::Part>> readShelfJson(const std::string& text, const std::string& fileName);

/// A change as it stands in project.json.
[[nodiscard]] Json changeJson(const core::Change& change);

/// The text of a shelf file with these parts.
[[nodiscard]] std::string writeShelfJson(const std::vector<core::Part>& parts);

/// File name of a run inside the folder, safe on any file system.
[[nodiscard]] std::string runFileName(const core::Project& project, std::size_t run);

} // namespace store
