// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/own_shelf.h"

#include "core/model/project.h"
#include "store/csv.h"
#include "store/project_json.h"
#include "store/safe_write.h"

#include <QDir>
#include <QFileInfo>
#include <QLockFile>
#include <QStandardPaths>

#include <algorithm>
#include <functional>

namespace app {
namespace {

/// Reads, changes and writes with nobody between.
core::Result<void> change(const QString& file,
                          const std::function<core::Result<void>(std::vector<core::Part>&)>& with) {
    QDir().mkpath(QFileInfo(file).absolutePath());
    QLockFile lock(file + QStringLiteral(".lock"));
    if (!lock.tryLock(3000))
        return core::problem(file.toStdString(), "is being written by another window", "try again in a moment");
    auto parts = ownParts(file);
    if (!parts)
        return tl::make_unexpected(parts.error());
    if (auto done = with(*parts); !done)
        return done;
    return store::writeWhole(file,
                             QByteArray::fromStdString(store::writeShelfJson(core::SharedList<core::Part>(*parts))));
}

} // namespace

QString ownShelfFile(const Settings& settings) {
    const QString folder = settings.dataFolder.isEmpty()
                               ? QStandardPaths::writableLocation(QStandardPaths::AppDataLocation)
                               : settings.dataFolder;
    return folder + QStringLiteral("/shelf.json");
}

core::Result<std::vector<core::Part>> ownParts(const QString& file) {
    if (!QFileInfo::exists(file))
        return std::vector<core::Part>{};
    const auto text = store::readFile(file.toStdString());
    if (!text)
        return tl::make_unexpected(text.error());
    return store::readShelfJson(*text, file.toStdString());
}

core::Result<void> keepPart(const QString& file, const core::Part& part) {
    return change(file, [&](std::vector<core::Part>& parts) {
        const auto same =
            std::find_if(parts.begin(), parts.end(), [&](const core::Part& p) { return p.id == part.id; });
        same == parts.end() ? parts.push_back(part) : void(*same = part);
        return core::Result<void>{};
    });
}

core::Result<void> dropPart(const QString& file, const std::string& id) {
    return change(file, [&](std::vector<core::Part>& parts) -> core::Result<void> {
        if (std::erase_if(parts, [&](const core::Part& p) { return p.id == id; }) == 0)
            return core::problem(id, "is not on your shelf", "open the list again");
        return {};
    });
}

} // namespace app
