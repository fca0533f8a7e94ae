// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/folder/folder.h"

#include "core/base/text.h"
#include "store/csv.h"
#include "store/csv_fields.h"
#include "store/run_files.h"

#include <QDir>
#include <QFileInfo>

namespace store {

core::Result<QString> insideFolder(const QString& folder, const std::string& name) {
    const QString root = QFileInfo(folder).canonicalFilePath();
    const QFileInfo info(QDir(folder).filePath(QString::fromStdString(name)));
    const std::string shown = core::printable(name, core::LineEnds::Show).substr(0, 100);
    if (!info.exists())
        return core::problem(shown, "is not there", "the file that project.json names");
    const QString path = info.canonicalFilePath();
    if (path.isEmpty() || !path.startsWith(root + QLatin1Char('/')))
        return core::problem(shown, "is a link that leads out of the project folder", "a file inside the folder");
    if (!QFileInfo(path).isFile())
        return core::problem(shown, "is no ordinary file", "a log as text");
    return path;
}

core::Result<Loaded> readFolder(const QString& jsonPath, const Progress& progress) {
    const auto text = readFile(jsonPath.toStdString(), mostJsonBytes);
    if (!text)
        return tl::make_unexpected(text.error());
    const auto first = text->find_first_not_of(" \t\r\n");
    if (first == std::string::npos || (*text)[first] != '{')
        return core::problem(jsonPath.toStdString(), "is neither a project file nor a project.json",
                             "a file saved by this program; if it is one, it is damaged: use the copy beside it");
    const QString folder = QFileInfo(jsonPath).absolutePath();
    FolderFiles files;
    files.log = [folder](const std::string& name) -> core::Result<LogText> {
        const auto path = insideFolder(folder, name);
        if (!path)
            return tl::make_unexpected(path.error());
        auto at = logFile(folder, name);
        auto bytes = readLogText(path->toStdString());
        if (!bytes)
            return tl::make_unexpected(bytes.error());
        return LogText{std::move(*bytes), at ? std::make_shared<core::LogFile>(std::move(*at)) : nullptr};
    };
    files.original = [folder](const std::string& name) -> core::Result<core::Original> {
        const auto path = insideFolder(folder, name);
        if (!path)
            return tl::make_unexpected(path.error());
        const QFileInfo info(*path);
        return core::Original{.name = QFileInfo(QString::fromStdString(name)).fileName().toStdString(),
                              .packed = {},
                              .size = static_cast<std::uint64_t>(info.size()),
                              .path = path->toStdString()};
    };
    files.progress = progress;
    return readProjectJson(*text, jsonPath.toStdString(), files);
}

} // namespace store
