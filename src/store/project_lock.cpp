// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/project_lock.h"

#include "store/safe_write.h"

#include <QDeadlineTimer>
#include <QFile>
#include <QFileInfo>
#include <QStringList>
#include <QSysInfo>
#include <QThread>

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <pwd.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

namespace store {
namespace {

std::string hostName() { return QSysInfo::machineHostName().toStdString(); }

std::string userName() {
    const passwd* entry = ::getpwuid(::geteuid());
    return entry ? entry->pw_name : "user " + std::to_string(::geteuid());
}

LockOwner readOwner(int fd) {
    char buffer[512];
    const ssize_t n = ::pread(fd, buffer, sizeof buffer, 0);
    const QStringList lines =
        QString::fromUtf8(buffer, static_cast<qsizetype>(std::max<ssize_t>(0, n))).split(QLatin1Char('\n'));
    return {lines.value(0).toStdString(), lines.value(1).toStdString(), lines.value(2).toStdString(),
            lines.value(3).toLong()};
}

core::Problem heldBy(const QString& project, const LockOwner& owner) {
    return {project.toStdString(), "is in use by " + owner.text(), "close it there first, or work on a copy"};
}

} // namespace

std::string LockOwner::text() const {
    if (program.empty())
        return "another program that is just starting";
    return program + " of " + user + " on " + host + " (process " + std::to_string(pid) + ")";
}

QString ProjectLock::fileOf(const QString& project) {
    QFileInfo info(linkTarget(QFileInfo(project).absoluteFilePath()));
    if (info.isDir() || info.fileName() == QLatin1String("project.json"))
        return (info.isDir() ? info.absoluteFilePath() : info.absolutePath()) + QStringLiteral("/.minidraft-lock");
    return info.absolutePath() + QStringLiteral("/.") + info.fileName().left(200) + QStringLiteral(".lock");
}

bool ProjectLock::covers(const QString& project) const { return fileOf(project) == m_file; }

ProjectLock::~ProjectLock() {
    // Removed while it is held: whoever waits finds another file under the name and takes that.
    ::unlink(QFile::encodeName(m_file).constData());
    ::close(m_fd);
}

core::Result<std::unique_ptr<ProjectLock>> ProjectLock::attempt(const QString& project, const std::string& program,
                                                                Foreign foreign) {
    const QString file = fileOf(project);
    const QByteArray name = QFile::encodeName(file);
    for (int round = 0; round < 50; ++round) {
        const int fd = ::open(name.constData(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0644);
        if (fd < 0)
            return core::problem(project.toStdString(),
                                 std::string("cannot be locked for writing: ") + std::strerror(errno),
                                 "check the rights of its folder; it can still be read");
        if (::flock(fd, LOCK_EX | LOCK_NB) != 0) {
            const int error = errno;
            const LockOwner owner = readOwner(fd);
            ::close(fd);
            if (error == EWOULDBLOCK)
                return tl::make_unexpected(heldBy(project, owner));
            return core::problem(project.toStdString(),
                                 std::string("cannot be locked for writing: ") + std::strerror(error),
                                 "a file system that knows locks; it can still be read");
        }
        struct stat held {
        }, there{};
        if (::fstat(fd, &held) != 0 || ::stat(name.constData(), &there) != 0 || held.st_ino != there.st_ino ||
            held.st_dev != there.st_dev) {
            ::close(fd); // its owner removed it in this moment
            continue;
        }
        // The lock is ours. A name of another machine in it is one whose lock this file system may not show.
        const LockOwner before = readOwner(fd);
        if (foreign == Foreign::Respect && !before.host.empty() && before.host != hostName()) {
            ::close(fd);
            auto p = heldBy(project, before);
            p.remedy = "if that machine is off, open it read-only or take it over";
            return tl::make_unexpected(p);
        }
        const std::string text =
            userName() + "\n" + hostName() + "\n" + program + "\n" + std::to_string(::getpid()) + "\n";
        if (::ftruncate(fd, 0) != 0 || ::pwrite(fd, text.data(), text.size(), 0) != static_cast<ssize_t>(text.size())) {
            const int error = errno;
            ::unlink(name.constData());
            ::close(fd);
            return tl::make_unexpected(cannotWrite(file, error ? error : ENOSPC));
        }
        return std::unique_ptr<ProjectLock>(new ProjectLock(file, fd));
    }
    return core::problem(project.toStdString(), "its lock changes hands too fast", "try again");
}

core::Result<std::unique_ptr<ProjectLock>> ProjectLock::take(const QString& project, const std::string& program,
                                                             int waitMs) {
    QDeadlineTimer until(waitMs);
    while (true) {
        auto lock = attempt(project, program, Foreign::Respect);
        if (lock || until.hasExpired() || lock.error().what.find("in use by") == std::string::npos)
            return lock;
        if (const auto by = owner(project); by && by->program == windowProgram)
            return lock;
        QThread::msleep(20);
    }
}

core::Result<std::unique_ptr<ProjectLock>> ProjectLock::takeOver(const QString& project, const std::string& program) {
    return attempt(project, program, Foreign::TakeOver);
}

std::optional<LockOwner> ProjectLock::owner(const QString& project) {
    const int fd = ::open(QFile::encodeName(fileOf(project)).constData(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW);
    if (fd < 0)
        return std::nullopt;
    std::optional<LockOwner> found;
    if (::flock(fd, LOCK_SH | LOCK_NB) != 0)
        found = readOwner(fd);
    else if (const LockOwner left = readOwner(fd); !left.host.empty() && left.host != hostName())
        found = left;
    ::close(fd);
    return found;
}

} // namespace store
