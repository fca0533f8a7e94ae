// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/capture_file.h"

#include "store/csv.h"
#include "store/write_fully.h"

#include <QElapsedTimer>
#include <QFile>
#include <QFileInfo>

#include <cerrno>
#include <chrono>
#include <cmath>
#include <fcntl.h>
#include <unistd.h>

namespace devices {
namespace {
long long nowMs() {
    return std::chrono::duration_cast<std::chrono::milliseconds>(std::chrono::steady_clock::now().time_since_epoch())
        .count();
}
} // namespace

CaptureFile::~CaptureFile() { (void)close(); }

core::Result<void> CaptureFile::open(const QString& path, const store::LogAbout& about, store::Overwrite overwrite) {
    (void)close();
    m_path = path;
    const int flags = O_WRONLY | O_CREAT | O_CLOEXEC | (overwrite == store::Overwrite::Refuse ? O_EXCL : O_TRUNC);
    m_fd = ::open(QFile::encodeName(path).constData(), flags, 0666);
    if (m_fd < 0 && errno == EEXIST)
        return core::problem(path.toStdString(), "is there already and was not overwritten",
                             "another name, or say that it may be overwritten");
    if (m_fd < 0)
        return tl::make_unexpected(store::cannotWrite(path, errno));
    m_whole = 0;
    m_columns = about.channels.size();
    core::Samples head;
    for (const core::Channel& c : about.channels)
        head.channels.push_back({.name = c.name});
    // The mark goes with the log wherever it is carried.
    m_simulated = about.simulated;
    if (m_simulated)
        head.channels.push_back({.name = store::simulatedHead});
    // What it is of first: whenever the program is cut off, a log with a heading says whose it is.
    const bool isFile = QFileInfo(path).isFile();
    core::Result<void> done;
    if (isFile)
        done = store::writeLogAbout(path, about);
    if (done)
        done = write(store::writeCsv(head));
    if (!done) {
        ::close(std::exchange(m_fd, -1));
        if (isFile) {
            QFile::remove(path);
            QFile::remove(store::aboutPath(path));
        }
    }
    return done;
}

core::Result<void> CaptureFile::write(const std::string& text) {
    if (const int error = store::writeFully(m_fd, text.data(), text.size()); error != 0) {
        (void)!::ftruncate(m_fd, m_whole); // a number cut in two would be read as another number
        return tl::make_unexpected(store::cannotWrite(m_path, error));
    }
    m_whole += static_cast<long long>(text.size());
    return {};
}

core::Result<void> CaptureFile::add(double timeS, const std::vector<double>& values) {
    core::Samples row{{timeS}, {}};
    for (std::size_t i = 0; i < m_columns; ++i)
        row.channels.push_back({.values = {i < values.size() ? values[i] : std::nan("")}});
    if (m_simulated)
        row.channels.push_back({.values = {1.0}});
    std::string text;
    store::appendCsvRow(text, row, 0);
    if (auto done = write(text); !done)
        return done;
    if (const long long now = nowMs(); now - m_lastSyncMs >= 1000) {
        m_lastSyncMs = now;
        if (::fsync(m_fd) != 0 && errno != EINVAL && errno != EROFS)
            return tl::make_unexpected(store::cannotWrite(m_path, errno));
    }
    return {};
}

core::Result<void> CaptureFile::close() {
    if (m_fd < 0)
        return {};
    const int error = ::fsync(m_fd) == 0 || errno == EINVAL || errno == EROFS ? 0 : errno;
    const int closed = ::close(std::exchange(m_fd, -1)) == 0 ? 0 : errno;
    if (error != 0 || closed != 0)
        return tl::make_unexpected(store::cannotWrite(m_path, error ? error : closed));
    return {};
}

} // namespace devices
