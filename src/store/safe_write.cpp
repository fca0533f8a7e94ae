// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/safe_write.h"

#include "store/write_fully.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QRandomGenerator>

#include <cerrno>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace store {
namespace {

QByteArray native(const QString& path) { return QFile::encodeName(path); }

core::Result<void> writeAll(int fd, const char* data, std::size_t size, const QString& path) {
    if (const int error = writeFully(fd, data, size); error != 0)
        return tl::make_unexpected(cannotWrite(path, error));
    return {};
}

/// Names like ".box.minidraft.1234-9f3a.saving": the number is the process that writes it.
QString freshName(const QString& target) {
    const QFileInfo info(target);
    return QStringLiteral("%1/.%2.%3-%4.saving")
        .arg(info.path(), info.fileName().left(180))
        .arg(::getpid())
        .arg(QRandomGenerator::system()->generate(), 0, 16);
}

/// Removes what killed writers of the same file left beside it.
void clearLeftBy(const QString& target) {
    const QFileInfo info(target);
    const QString start = QStringLiteral(".%1.").arg(info.fileName().left(180));
    for (const QFileInfo& left :
         QDir(info.path()).entryInfoList({QStringLiteral(".*.saving")}, QDir::Files | QDir::Hidden)) {
        const QString name = left.fileName();
        if (!name.startsWith(start))
            continue;
        bool good = false;
        const int pid = name.mid(start.size()).section(QLatin1Char('-'), 0, 0).toInt(&good);
        if (good && pid != ::getpid() && ::kill(pid, 0) != 0 && errno == ESRCH)
            QFile::remove(left.filePath());
    }
}

} // namespace

core::Problem cannotWrite(const QString& path, int error) {
    const char* remedy = error == ENOSPC || error == EDQUOT ? "make room on the disk"
                         : error == EACCES || error == EPERM || error == EROFS
                             ? "check the rights of the folder, or choose another place"
                             : "check the folder and the space left";
    return {path.toStdString(), std::string("cannot be written: ") + std::strerror(error), remedy};
}

QString linkTarget(const QString& path) {
    QString at = path;
    for (int hops = 0; hops < 40; ++hops) {
        const QFileInfo info(at);
        if (!info.isSymLink())
            return at;
        const QString to = info.symLinkTarget(); // absolute
        if (to.isEmpty())
            return at;
        at = to;
    }
    return path;
}

core::Result<void> syncFolder(const QString& folder) {
    const int fd =
        ::open(native(folder.isEmpty() ? QStringLiteral(".") : folder).constData(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (fd < 0)
        return errno == EACCES ? core::Result<void>{}
                               : tl::make_unexpected(cannotWrite(folder, errno)); // may be written in, not be listed
    const int error = ::fsync(fd) == 0 ? 0 : errno;
    ::close(fd);
    if (error != 0 && error != EINVAL && error != ENOTSUP)
        return core::problem(folder.toStdString(),
                             std::string("the disk did not confirm what was written: ") + std::strerror(error),
                             "check the disk and save once more");
    return {};
}

core::Result<void> linkOrCopy(const QString& from, const QString& to) {
    if (::link(native(from).constData(), native(to).constData()) == 0)
        return {};
    if (errno == EEXIST)
        return tl::make_unexpected(cannotWrite(to, errno));
    QFile source(from);
    if (!source.open(QIODevice::ReadOnly))
        return core::problem(from.toStdString(), "cannot be read: " + source.errorString().toStdString(),
                             "check its rights");
    const int fd = ::open(native(to).constData(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0600);
    if (fd < 0)
        return tl::make_unexpected(cannotWrite(to, errno));
    core::Result<void> done;
    std::vector<char> buffer(1 << 20);
    for (qint64 n = 0; done && (n = source.read(buffer.data(), static_cast<qint64>(buffer.size()))) > 0;)
        done = writeAll(fd, buffer.data(), static_cast<std::size_t>(n), to);
    if (done && (source.error() != QFileDevice::NoError || ::fsync(fd) != 0))
        done = tl::make_unexpected(cannotWrite(to, errno));
    ::close(fd);
    if (!done)
        QFile::remove(to);
    return done;
}

FreshFile::FreshFile(FreshFile&& other) noexcept { *this = std::move(other); }

FreshFile& FreshFile::operator=(FreshFile&& other) noexcept {
    if (this == &other)
        return *this;
    drop();
    m_asked = std::move(other.m_asked);
    m_target = std::move(other.m_target);
    m_path = std::exchange(other.m_path, {});
    m_fd = std::exchange(other.m_fd, -1);
    return *this;
}

FreshFile::~FreshFile() { drop(); }

void FreshFile::drop() {
    if (m_fd >= 0)
        ::close(m_fd);
    m_fd = -1;
    if (!m_path.isEmpty())
        ::unlink(native(m_path).constData());
    m_path.clear();
}

core::Result<FreshFile> FreshFile::beside(const QString& path) {
    FreshFile f;
    f.m_asked = path;
    f.m_target = linkTarget(path);
    clearLeftBy(f.m_target);
    clearLeftBy(f.m_target + QLatin1Char('~')); // killed while the last good copy got its name
    const QString fresh = freshName(f.m_target);
    f.m_fd = ::open(native(fresh).constData(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
    if (f.m_fd < 0)
        return tl::make_unexpected(cannotWrite(path, errno));
    f.m_path = fresh;
    struct stat old {};
    if (::stat(native(f.m_target).constData(), &old) == 0 &&
        ::fchmod(f.m_fd, 0600) != 0) // nobody reads over the shoulder of a private file
        return tl::make_unexpected(cannotWrite(path, errno));
    return f;
}

core::Result<void> FreshFile::append(const char* data, std::size_t size) {
    if (::lseek(m_fd, 0, SEEK_END) < 0)
        return tl::make_unexpected(cannotWrite(m_asked, errno));
    return writeAll(m_fd, data, size, m_asked);
}

/// Rights are kept exactly; an owner only where the system lets us give files away.
core::Result<void> FreshFile::keepRights() const {
    struct stat old {};
    if (::stat(native(m_target).constData(), &old) != 0)
        return {};
    if ((old.st_uid != ::geteuid() || old.st_gid != ::getegid()) && ::fchown(m_fd, old.st_uid, old.st_gid) != 0)
        (void)!::fchown(m_fd, static_cast<uid_t>(-1), old.st_gid);
    if (::fchmod(m_fd, old.st_mode & 07777) != 0)
        return tl::make_unexpected(cannotWrite(m_asked, errno));
    return {};
}

core::Result<void> FreshFile::commit(Backup backup, Overwrite overwrite) {
    if (auto kept = keepRights(); !kept)
        return kept;
    if (::fsync(m_fd) != 0)
        return tl::make_unexpected(cannotWrite(m_asked, errno));
    const int closed = ::close(std::exchange(m_fd, -1));
    if (closed != 0 && errno != EINTR)
        return tl::make_unexpected(cannotWrite(m_asked, errno));
    const QByteArray from = native(m_path), to = native(m_target);
    if (overwrite == Overwrite::Refuse) {
        if (::renameat2(AT_FDCWD, from.constData(), AT_FDCWD, to.constData(), RENAME_NOREPLACE) != 0) {
            if (errno != EINVAL && errno != ENOSYS)
                return errno == EEXIST
                           ? core::problem(m_asked.toStdString(), "is there already and was not overwritten",
                                           "another name, or say that it may be overwritten")
                           : tl::make_unexpected(cannotWrite(m_asked, errno));
            // A file system without that call: a link refuses as surely, and the first name goes with drop().
            if (::link(from.constData(), to.constData()) != 0)
                return tl::make_unexpected(cannotWrite(m_asked, errno));
            drop();
        }
        m_path.clear();
        return syncFolder(QFileInfo(m_target).path());
    }
    if (backup == Backup::KeepOld && QFileInfo::exists(m_target)) {
        // The old file gets a second name first, so that at every moment one of the two is whole.
        const QString second = freshName(m_target + QLatin1Char('~'));
        if (auto linked = linkOrCopy(m_target, second); !linked)
            return linked;
        if (::rename(native(second).constData(), native(m_target + QLatin1Char('~')).constData()) != 0) {
            const int error = errno;
            QFile::remove(second);
            return tl::make_unexpected(cannotWrite(m_target + QLatin1Char('~'), error));
        }
        QFile::remove(second); // rename() between two names of one file leaves both
    }
    if (::rename(from.constData(), to.constData()) != 0)
        return tl::make_unexpected(cannotWrite(m_asked, errno));
    m_path.clear();
    return syncFolder(QFileInfo(m_target).path());
}

core::Result<void> writeWhole(const QString& path, const QByteArray& bytes, Overwrite overwrite) {
    const QFileInfo info(path);
    if (info.isDir())
        return core::problem(path.toStdString(), "is a folder", "the name of a file");
    if (overwrite == Overwrite::Refuse && (info.exists() || info.isSymLink()) && (info.isFile() || info.isSymLink()))
        return core::problem(path.toStdString(), "is there already and was not overwritten",
                             "another name, or say that it may be overwritten");
    if (info.exists() && !info.isFile()) {
        // A device or a pipe cannot be replaced, and must not be.
        const int fd = ::open(native(path).constData(), O_WRONLY | O_CLOEXEC);
        if (fd < 0)
            return tl::make_unexpected(cannotWrite(path, errno));
        auto done = writeAll(fd, bytes.constData(), static_cast<std::size_t>(bytes.size()), path);
        if (::close(fd) != 0 && done)
            done = tl::make_unexpected(cannotWrite(path, errno));
        return done;
    }
    auto fresh = FreshFile::beside(path);
    if (!fresh)
        return tl::make_unexpected(fresh.error());
    if (auto done = fresh->append(bytes.constData(), static_cast<std::size_t>(bytes.size())); !done)
        return done;
    return fresh->commit(FreshFile::Backup::None, overwrite);
}

} // namespace store
