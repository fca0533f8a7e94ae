// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "support/patience.h"

#include <QProcess>
#include <QString>
#include <QStringList>

namespace support {

struct Ended {
    int code = -1;
    QString out, err;
    bool crashed = false;
};

/// Runs a program of the build and waits for it; longer where sanitizers slow it down.
inline Ended run(const QString& program, const QStringList& arguments, int milliseconds = 60000) {
    QProcess process;
    process.start(QStringLiteral(MD_BIN_DIR) + QLatin1Char('/') + program, arguments);
    Ended e;
    if (!process.waitForFinished(milliseconds * kPatience)) {
        e.err = QStringLiteral("did not end: ") + process.errorString();
        process.kill();
        process.waitForFinished();
        return e;
    }
    e.code = process.exitCode();
    e.crashed = process.exitStatus() == QProcess::CrashExit;
    e.out = QString::fromUtf8(process.readAllStandardOutput());
    e.err = QString::fromUtf8(process.readAllStandardError());
    return e;
}

} // namespace support
