// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QByteArray>
#include <QDirIterator>
#include <QFile>
#include <QProcess>
#include <QString>

// Files of tests: written, read and asked, each in one word.
namespace support {

inline void write(const QString& path, const QByteArray& bytes) {
    QFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size())
        qFatal("cannot write %s", qPrintable(path));
}

inline QByteArray bytesOf(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

/// What a killed or failed save left behind, folders named in @p besides not looked at.
inline QStringList leftIn(const QString& dir, const QStringList& besides = {}) {
    QStringList left;
    QDirIterator it(dir, QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot, QDirIterator::Subdirectories);
    while (it.hasNext()) {
        const QString path = it.next(), name = QFileInfo(path).fileName();
        const QString top = path.mid(dir.size() + 1).section('/', 0, 0);
        if (!besides.contains(top) && (name.contains(".saving") || name.endsWith(".lock") ||
                                       name == ".minidraft-lock" || name.endsWith(".new") || name.endsWith(".old")))
            left << name;
    }
    return left;
}

/// What SQLite's own program says to a statement, errors included.
inline QString sql(const QString& path, const QString& statement) {
    QProcess sqlite;
    sqlite.start(QStringLiteral("sqlite3"), {path, statement});
    sqlite.waitForFinished();
    return QString::fromUtf8(sqlite.readAllStandardOutput() + sqlite.readAllStandardError()).trimmed();
}

} // namespace support
