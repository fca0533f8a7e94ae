// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/csv.h"
#include "store/files.h"
#include "store/sqlite/database.h"

#include <QFile>
#include <QtTest>

namespace support {

inline QString sourcePath(const char* relative) {
    return QStringLiteral(MD_SOURCE_DIR) + QLatin1Char('/') + QString::fromUtf8(relative);
}

/// Read once a program; a copy shares its parts and logs.
inline const core::Project& demoProject() {
    static const core::Project demo = [] {
        auto loaded = store::openProject(sourcePath("data/demo/dig-tent"));
        if (!loaded)
            qFatal("%s", loaded.error().text().c_str());
        return std::move(loaded->project);
    }();
    return demo;
}

/// A sample log of tests/data as a run.
inline core::Run logRun(const QString& name) {
    const QString path = sourcePath("tests/data/") + name + QStringLiteral(".csv");
    auto text = store::readFile(path.toStdString());
    auto format = store::recogniseCsv(*text, path.toStdString());
    auto samples = store::readCsv(*text, *format, path.toStdString());
    if (!samples)
        qFatal("%s", samples.error().text().c_str());
    core::Run run{.id = name.toStdString(), .name = name.toStdString()};
    run.samples = std::make_shared<core::Samples>(std::move(*samples));
    return run;
}

} // namespace support
