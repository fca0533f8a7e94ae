// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"

#include <QString>

#include <memory>
#include <optional>

namespace store {

/// Who holds a project, in words for people.
struct LockOwner {
    std::string user, host, program;
    long pid = 0;
    [[nodiscard]] std::string text() const;
    friend bool operator==(const LockOwner&, const LockOwner&) = default;
};

/// One writer a project. The lock is a hidden file beside the project that names its owner, and a lock of the system on
/// that file: it ends with the process, so that a killed program leaves a stale file that the next one recognises.
class ProjectLock {
public:
    ~ProjectLock();
    ProjectLock(const ProjectLock&) = delete;
    ProjectLock& operator=(const ProjectLock&) = delete;

    /// Errors: another writer holds it, with its name; or the place cannot be written to.
    /// @p waitMs how long to wait for a short writer such as the command line; a window is not waited for.
    [[nodiscard]] static core::Result<std::unique_ptr<ProjectLock>> take(const QString& project,
                                                                         const std::string& program, int waitMs = 0);
    /// Takes a lock whose owner on another machine cannot be asked. Only after the user said so.
    [[nodiscard]] static core::Result<std::unique_ptr<ProjectLock>> takeOver(const QString& project,
                                                                             const std::string& program);
    /// Who holds it now, if anybody does.
    [[nodiscard]] static std::optional<LockOwner> owner(const QString& project);
    /// The lock file of a project file or folder.
    [[nodiscard]] static QString fileOf(const QString& project);

    /// True when this lock is the one of @p project.
    [[nodiscard]] bool covers(const QString& project) const;

private:
    ProjectLock(QString file, int fd) : m_file(std::move(file)), m_fd(fd) {}
    enum class Foreign { Respect, TakeOver };
    static core::Result<std::unique_ptr<ProjectLock>> attempt(const QString& project, const std::string& program,
                                                              Foreign foreign);
    QString m_file;
    int m_fd = -1;
};

constexpr const char* windowProgram = "mini-draft";

} // namespace store
