// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/log_about.h"
#include "store/safe_write.h"

#include <QString>

namespace devices {

/// A log that is written row by row and forced to the disk once a second, so that a capture survives the end of the
/// program and loses at most the last second. The file is an ordinary CSV log; what its columns are and whose it is
/// stands in a small file beside it.
class CaptureFile {
public:
    CaptureFile() = default;
    ~CaptureFile();
    CaptureFile(const CaptureFile&) = delete;
    CaptureFile& operator=(const CaptureFile&) = delete;

    /// Errors: the file cannot be made, or is there and may not be overwritten.
    [[nodiscard]] core::Result<void> open(const QString& path, const store::LogAbout& about,
                                          store::Overwrite overwrite = store::Overwrite::Replace);
    /// Errors: the words of the disk. What stands in the file are whole rows then, too: a row is there or is not.
    [[nodiscard]] core::Result<void> add(double timeS, const std::vector<double>& values);
    [[nodiscard]] core::Result<void> close();
    [[nodiscard]] bool isOpen() const { return m_fd >= 0; }
    [[nodiscard]] const QString& path() const { return m_path; }

private:
    [[nodiscard]] core::Result<void> write(const std::string& text);
    QString m_path;
    int m_fd = -1;
    std::size_t m_columns = 0;
    bool m_simulated = false;
    long long m_whole = 0; ///< bytes up to the end of the last whole row
    long long m_lastSyncMs = 0;
};

} // namespace devices
