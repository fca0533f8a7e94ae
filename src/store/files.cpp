// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/files.h"

#include "core/base/text.h"
#include "core/model/build.h"
#include "store/csv.h"
#include "store/folder/folder.h"
#include "store/project_json.h"
#include "store/sqlite/database.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>

#include <sys/stat.h>

namespace store {
namespace {

const QString jsonName = QStringLiteral("project.json");

bool hasSuffix(const QString& path, const char* suffix) {
    return QFileInfo(path).suffix().compare(QLatin1String(suffix), Qt::CaseInsensitive) == 0;
}

/// What another project at the place is called, or nothing when the place is free or our own.
core::Result<void> mayReplace(const core::Project& project, const ProjectPath& place, const QString& asked,
                              const SaveOptions& options) {
    if (options.foreign == Foreign::Replace || !QFileInfo::exists(place.file) || QFileInfo(place.file).size() == 0)
        return {};
    if (!options.openedFrom.isEmpty() && QFileInfo(projectPath(options.openedFrom).file).canonicalFilePath() ==
                                             QFileInfo(place.file).canonicalFilePath())
        return {};
    std::string id, name;
    if (place.form == ProjectPath::Form::Database) {
        const auto head = readDatabaseHead(place.file);
        if (!head)
            return core::problem(asked.toStdString(), "is there already, and " + head.error().what,
                                 "another name, or say that it may be replaced");
        id = head->id;
        name = head->name;
    } else {
        const auto text = readFile(place.file.toStdString(), mostJsonBytes);
        const auto json = text ? parseJson(*text, place.file.toStdString()) : tl::make_unexpected(text.error());
        if (!json || !json->is_object() || json->value("format", "") != formatWord)
            return core::problem(asked.toStdString(),
                                 "holds a " + place.file.section(QLatin1Char('/'), -1).toStdString() +
                                     " that is no project",
                                 "another place, or say that it may be replaced");
        id = json->value("id", "");
        name = json->value("name", "");
    }
    const bool same = !id.empty() && !project.id.empty() ? id == project.id : name == project.name;
    if (!same)
        return core::problem(asked.toStdString(),
                             "holds another project, \"" + core::printable(name, core::LineEnds::Show).substr(0, 80) +
                                 "\"",
                             "another place, or say that it may be replaced");
    return {};
}

} // namespace

ProjectPath projectPath(const QString& path) {
    const QFileInfo info(path);
    if (info.isDir() || path.endsWith(QLatin1Char('/')))
        return {ProjectPath::Form::Folder, QDir(path).filePath(jsonName)};
    if (info.isFile() && info.size() > 0)
        return {looksLikeDatabase(path) || (hasSuffix(path, projectSuffix) && !hasSuffix(path, "json"))
                    ? ProjectPath::Form::Database
                    : ProjectPath::Form::Folder,
                path};
    if (hasSuffix(path, projectSuffix) || (info.exists() && !hasSuffix(path, "json")))
        return {ProjectPath::Form::Database, path};
    if (hasSuffix(path, "json"))
        return {ProjectPath::Form::Folder, path};
    return {ProjectPath::Form::Folder, QDir(path).filePath(jsonName)};
}

core::Result<Loaded> openProject(const QString& path, const Progress& progress) {
    const QFileInfo info(path);
    if (!info.exists())
        return core::problem(path.toStdString(), "is not there", "a project file, or a folder with project.json");
    if (!info.isFile() && !info.isDir())
        return core::problem(path.toStdString(), "is a pipe or a device",
                             "a project file, or a folder with project.json");
    if (info.isFile() && info.size() == 0)
        return core::problem(path.toStdString(), "the file is empty (0 bytes)",
                             "a project file, or a folder with project.json");
    if (info.isFile() && looksLikeDatabase(path))
        return readDatabase(path, progress);
    const QString json = info.isDir() ? QDir(path).filePath(jsonName) : path;
    if (!QFileInfo(json).isFile())
        return core::problem(path.toStdString(), "there is no project.json in this folder",
                             "a folder written by export, or by hand after docs/format.md");
    // A save may put a new project.json in place while its logs are read: then once more.
    const auto before = stampOf(json);
    auto loaded = readFolder(json, progress);
    return loaded || stampOf(json) == before ? std::move(loaded) : readFolder(json, progress);
}

core::Result<Saved> saveProject(const core::Project& project, const QString& path, const SaveOptions& options) {
    const ProjectPath place = projectPath(path);
    const QString folder = QFileInfo(place.file).path();
    if (place.form == ProjectPath::Form::Folder && !QDir().mkpath(folder))
        return core::problem(folder.toStdString(), "the folder cannot be made", "another place");
    const QString locked =
        place.form == ProjectPath::Form::Folder && QFileInfo(place.file).fileName() == jsonName ? folder : place.file;
    std::unique_ptr<ProjectLock> own;
    if (!options.lock || !options.lock->covers(locked)) {
        auto taken = ProjectLock::take(locked, options.program, options.waitMs);
        if (!taken)
            return tl::make_unexpected(taken.error());
        own = std::move(*taken);
    }
    if (auto may = mayReplace(project, place, path, options); !may)
        return tl::make_unexpected(may.error());
    if (place.form == ProjectPath::Form::Folder) {
        // Who names a folder means what is in it; who names a link means what it leads to.
        SaveOptions inner = options;
        inner.jsonLink = QFileInfo(path).isDir() ? JsonLink::Refuse : options.jsonLink;
        return saveFolder(project, place.file, inner);
    }
    if (auto done = writeDatabase(project, place.file, options.progress); !done)
        return tl::make_unexpected(done.error());
    return Saved{};
}

core::Result<Saved> writeFolder(const core::Project& project, const QString& folder, const SaveOptions& options) {
    return saveProject(project, QDir(folder).path() + QLatin1Char('/'), options);
}

std::optional<FileStamp> stampOf(const QString& path) {
    struct stat about {};
    if (::stat(QFile::encodeName(projectPath(path).file).constData(), &about) != 0)
        return std::nullopt;
    return FileStamp{about.st_dev, about.st_ino, static_cast<std::uint64_t>(about.st_size),
                     static_cast<std::int64_t>(about.st_mtim.tv_sec) * 1'000'000'000 + about.st_mtim.tv_nsec};
}

core::Result<core::Samples> readRunBack(const QString& path, const std::string& run) {
    if (const ProjectPath place = projectPath(path); place.form == ProjectPath::Form::Database)
        return readDatabaseRun(place.file, run);
    const auto loaded = openProject(path);
    if (!loaded)
        return tl::make_unexpected(loaded.error());
    const core::Run* found = loaded->project.run(run);
    if (!found)
        return core::problem(path.toStdString(), "run \"" + run + "\" is not there", "a saved run");
    return *found->samples;
}

} // namespace store
