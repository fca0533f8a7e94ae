// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/standard_parts.h"

#include "store/project_json.h"

#include <QFile>

namespace app {

core::Result<std::vector<core::Part>> standardParts() {
    QFile file(QStringLiteral(":/shelf/standard.json"));
    if (!file.open(QIODevice::ReadOnly))
        return core::problem("standard shelf", "is not part of this program", "build it with its resources");
    return store::readShelfJson(file.readAll().toStdString(), "standard shelf");
}

} // namespace app
