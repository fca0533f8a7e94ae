// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/run_files.h"

#include "store/csv.h"
#include "store/pack.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>

#include <sys/stat.h>

namespace store {

bool saysMoreThan(const std::string& bytes, const core::Samples& samples) {
    if (!bytes.starts_with(canonicalHead))
        return true;
    core::Samples head;
    for (const core::Channel& c : samples.channels)
        head.channels.push_back({.name = c.name});
    std::string line = writeCsv(head);
    if (!bytes.starts_with(line))
        return true;
    std::size_t at = line.size();
    for (std::size_t i = 0; i < samples.timeS.size(); ++i) {
        line.clear();
        appendCsvRow(line, samples, i);
        if (bytes.compare(at, line.size(), line) != 0)
            return true;
        at += line.size();
    }
    return at != bytes.size();
}

std::shared_ptr<const core::Original> originalFrom(const std::string& name, const std::string& bytes,
                                                   const core::Samples& samples) {
    if (!saysMoreThan(bytes, samples))
        return nullptr;
    return std::make_shared<core::Original>(core::Original{.name = name, .packed = pack(bytes), .size = bytes.size()});
}

std::shared_ptr<const core::Original> originalOf(const core::Run& run) {
    if (run.original && run.original->path.empty())
        return run.original;
    if (run.original) {
        if (const auto bytes = originalBytes(*run.original))
            return std::make_shared<core::Original>(
                core::Original{.name = run.original->name, .packed = pack(*bytes), .size = bytes->size()});
        return nullptr;
    }
    if (!run.file || !standsIn(run, *run.file, QString::fromStdString(run.file->folder)))
        return nullptr;
    const auto bytes = readFile(
        QDir(QString::fromStdString(run.file->folder)).filePath(QString::fromStdString(run.file->name)).toStdString());
    return bytes ? originalFrom(QFileInfo(QString::fromStdString(run.file->name)).fileName().toStdString(), *bytes,
                                *run.samples)
                 : nullptr;
}

core::Result<std::string> originalBytes(const core::Original& original) {
    if (!original.path.empty()) {
        auto bytes = readFile(original.path);
        if (bytes && bytes->size() != original.size)
            return core::problem(original.path, "was changed since it was read", "the file as it was");
        return bytes;
    }
    auto bytes = unpack(original.packed, original.size);
    if (!bytes)
        return core::problem(original.name, "the kept log is damaged", "the copy beside the project");
    return std::move(*bytes);
}

core::Result<core::LogFile> logFile(const QString& folder, const std::string& name) {
    struct stat about {};
    if (::stat(QFile::encodeName(QDir(folder).filePath(QString::fromStdString(name))).constData(), &about) != 0)
        return core::problem(name, "is not there", "the file that project.json names");
    return core::LogFile{.folder = QFileInfo(folder).canonicalFilePath().toStdString(),
                         .name = name,
                         .inode = about.st_ino,
                         .size = static_cast<std::uint64_t>(about.st_size),
                         .modifiedNs =
                             static_cast<std::int64_t>(about.st_mtim.tv_sec) * 1'000'000'000 + about.st_mtim.tv_nsec};
}

bool standsIn(const core::Run& run, const core::LogFile& file, const QString& folder) {
    if (file.readings != run.samples || file.folder != QFileInfo(folder).canonicalFilePath().toStdString())
        return false;
    const auto now = logFile(folder, file.name);
    return now && now->inode == file.inode && now->size == file.size && now->modifiedNs == file.modifiedNs;
}

} // namespace store
