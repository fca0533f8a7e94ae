// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/run.h"

#include <QFile>
#include <QString>

namespace devices {

/// A log that is written row by row and forced to the disk once a second, so that a capture survives the end of the
/// program and loses at most the last second. The file is an ordinary CSV log.
class CaptureFile {
public:
    /// Errors: the file cannot be made.
    core::Result<void> open(const QString& path, const std::vector<core::Channel>& channels);
    core::Result<void> add(double timeS, const std::vector<double>& values);
    void close();
    [[nodiscard]] bool isOpen() const { return m_file.isOpen(); }
    [[nodiscard]] QString path() const { return m_file.fileName(); }

private:
    QFile m_file;
    qint64 m_lastSync = 0;
};

} // namespace devices
