// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/capture_file.h"

#include "store/csv.h"

#include <QDateTime>

#include <unistd.h>

namespace devices {

core::Result<void> CaptureFile::open(const QString& path, const std::vector<core::Channel>& channels) {
    m_file.setFileName(path);
    if (!m_file.open(QIODevice::WriteOnly | QIODevice::Truncate))
        return core::problem(path.toStdString(), "cannot be written: " + m_file.errorString().toStdString(), "check the folder and the space left");
    core::Samples head;
    for (core::Channel c : channels) {
        c.values.clear();
        head.channels.push_back(std::move(c));
    }
    m_file.write(QByteArray::fromStdString(store::writeCsv(head)));
    m_file.flush();
    return {};
}

core::Result<void> CaptureFile::add(double timeS, const std::vector<double>& values) {
    core::Samples row{{timeS}, {}};
    for (const double v : values)
        row.channels.push_back({.name = "x", .values = {v}});
    std::string text = store::writeCsv(row);
    text.erase(0, text.find('\n') + 1);
    if (m_file.write(text.data(), static_cast<qint64>(text.size())) < 0 || !m_file.flush())
        return core::problem(m_file.fileName().toStdString(), "cannot be written: " + m_file.errorString().toStdString(), "make room on the disk");
    const qint64 now = QDateTime::currentMSecsSinceEpoch();
    if (now - m_lastSync >= 1000) {
        ::fsync(m_file.handle());
        m_lastSync = now;
    }
    return {};
}

void CaptureFile::close() {
    if (!m_file.isOpen())
        return;
    m_file.flush();
    ::fsync(m_file.handle());
    m_file.close();
}

} // namespace devices
