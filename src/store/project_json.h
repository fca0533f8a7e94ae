// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/project.h"
#include "store/json_archive.h"
#include "store/loaded.h"

#include <functional>
#include <set>

namespace store {

constexpr int formatVersion = 1;
constexpr const char* formatWord = "mini-draft-project";
constexpr const char* shelfFormatWord = "mini-draft-shelf";

/// Where the readings of a run stand in a folder, and the log it was read in from.
struct RunPlace {
    std::string file;
    std::string original;      ///< empty: none
    bool stateChannels = true; ///< false for a file whose columns say enough by themselves, and always did
};
/// Names of files for runs that have none yet: safe on any file system, each used once, without the folder before them.
/// @p taken are names that are in use already, in small letters.
[[nodiscard]] std::vector<std::string> logNames(const core::Project& project, std::set<std::string> taken = {});
/// The places that a folder of its own gives to each run.
[[nodiscard]] std::vector<RunPlace> freshPlaces(const core::Project& project);

/// project.json as it is written; @p places one a run.
[[nodiscard]] Json projectJson(const core::Project& project, const std::vector<RunPlace>& places);
[[nodiscard]] std::string writeProjectJson(const core::Project& project);
/// An older text as this program would write it, defaults and layout aside; nothing when it is not one of ours.
[[nodiscard]] std::optional<Json> normalised(const Json& older);
/// The text of a JSON file of ours.
[[nodiscard]] std::string jsonText(const Json& json);
/// Puts the remarks of an older text ("//" keys) into what replaces it: objects are found again by their key or their
/// id.
void keepRemarks(const Json& older, Json& newer);

/// A log of a folder: its text, and the file it stands in where that is known.
struct LogText {
    std::string text;
    std::shared_ptr<core::LogFile> file;
};
/// How readProjectJson() gets at the files that a project.json names.
struct FolderFiles {
    std::function<core::Result<LogText>(const std::string&)> log;
    std::function<core::Result<core::Original>(const std::string&)> original;
    std::function<bool(double)> progress; ///< share of the runs read; false: stop
};
/// Reads project.json. Errors name file, line and field. A newer version is refused with words.
[[nodiscard]] core::Result<Loaded> readProjectJson(const std::string& text, const std::string& fileName,
                                                   const FolderFiles& files);
/// Largest project.json, and how deep its brackets may nest; docs/format.md says so.
constexpr std::size_t mostJsonBytes = 32'000'000;
constexpr int deepestJson = 40;
/// Parses JSON within these limits.
[[nodiscard]] core::Result<Json> parseJson(const std::string& text, const std::string& fileName);

/// Reads a shelf file ("mini-draft-shelf": a list of parts). Errors name file, line and field.
[[nodiscard]] core::Result<std::vector<core::Part>> readShelfJson(const std::string& text, const std::string& fileName);

/// A change as it stands in project.json.
[[nodiscard]] Json changeJson(const core::Change& change);

/// The text of a shelf file with these parts.
[[nodiscard]] std::string writeShelfJson(const core::SharedList<core::Part>& parts);

} // namespace store
