// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/files.h"

#include "core/model/build.h"
#include "store/csv.h"
#include "store/sqlite/database.h"

#include <QDir>
#include <QFileInfo>
#include <QSaveFile>

namespace store {

core::Result<void> writeWhole(const QString& path, const QByteArray& bytes) {
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size() || !file.commit())
        return core::problem(path.toStdString(), "cannot be written: " + file.errorString().toStdString(), "check the folder and the space left");
    return {};
}

core::Result<Loaded> openProject(const QString& path) {
    const QFileInfo info(path);
    if (!info.exists())
        return core::problem(path.toStdString(), "is not there", "a project file, or a folder with project.json");
    if (info.isFile() && info.size() == 0)
        return core::problem(path.toStdString(), "the file is empty (0 bytes)", "a project file, or a folder with project.json");
    if (info.isFile() && looksLikeDatabase(path))
        return readDatabase(path);
    const QString json = info.isDir() ? QDir(path).filePath(QStringLiteral("project.json")) : path;
    if (!QFileInfo(json).isFile())
        return core::problem(path.toStdString(), "there is no project.json in this folder", "a folder written by export, or by hand after docs/format.md");
    auto text = readFile(json.toStdString());
    if (!text)
        return tl::make_unexpected(text.error());
    if (text->find_first_not_of(" \t\r\n") == std::string::npos || (*text)[text->find_first_not_of(" \t\r\n")] != '{')
        return core::problem(path.toStdString(), "is neither a project file nor a project.json", "a file saved by this program; if it is one, it is damaged: use the copy beside it");
    const QDir folder = QFileInfo(json).dir();
    return readProjectJson(*text, json.toStdString(), [&](const std::string& name) { return readFile(folder.filePath(QString::fromStdString(name)).toStdString()); });
}

core::Result<void> writeFolder(const core::Project& project, const QString& folder) {
    if (!QDir().mkpath(folder + QStringLiteral("/runs")))
        return core::problem(folder.toStdString(), "the folder cannot be made", "another place");
    for (std::size_t i = 0; i < project.runs.size(); ++i) {
        const std::string text = writeCsv(*project.runs[i].samples);
        if (auto done = writeWhole(folder + QLatin1Char('/') + QString::fromStdString(runFileName(project, i)), QByteArray::fromStdString(text)); !done)
            return done;
    }
    return writeWhole(folder + QStringLiteral("/project.json"), QByteArray::fromStdString(writeProjectJson(project)));
}

core::Result<void> saveProject(const core::Project& project, const QString& path) {
    if (QFileInfo(path).suffix() == QLatin1String(projectSuffix))
        return writeDatabase(project, path);
    return writeFolder(project, path);
}

core::Result<core::Samples> importLog(const QString& path, const core::Project& project, const std::string& revision) {
    auto text = readFile(path.toStdString());
    if (!text)
        return tl::make_unexpected(text.error());
    auto format = recogniseCsv(*text, path.toStdString());
    if (!format)
        return tl::make_unexpected(format.error());
    auto samples = readCsv(*text, *format, path.toStdString());
    if (samples)
        nameSubjects(project, revision, *samples);
    return samples;
}

void nameSubjects(const core::Project& project, const std::string& revision, core::Samples& samples) {
    const auto build = core::resolve(project, revision);
    if (!build)
        return;
    const auto mountOf = [&](core::PartKind kind) {
        const core::Placed* p = build->firstOf(kind);
        return p ? p->mount : std::string{};
    };
    for (core::Channel& c : samples.channels) {
        if (c.subject == "processor")
            c.subject = mountOf(core::PartKind::Processor);
        else if (c.subject == "card")
            c.subject = mountOf(core::PartKind::Card);
        else if (c.subject == "drive")
            c.subject = mountOf(core::PartKind::Drive);
    }
}

} // namespace store
