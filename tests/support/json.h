// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/project_json.h"
#include "support/demo.h"

// Apart from demo.h: what reads JSON takes long to compile, and few tests do.
namespace support {

inline store::Json jsonFile(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        qFatal("%s is not there", qPrintable(path));
    return store::Json::parse(file.readAll().toStdString());
}

} // namespace support
