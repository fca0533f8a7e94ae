// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"

#include <QByteArray>
#include <QString>

// The one way in which any program of ours puts a file on a disk. docs/safety.md says what it promises.
namespace store {

enum class Overwrite { Replace, Refuse };

/// Writes bytes so that either the old or the new content is there, whole: beside it, forced to the disk, then renamed.
/// Rights and ownership of a file that is replaced are kept, a symbolic link stays one, a device or pipe is written to.
/// Errors: the words of the system, or that the file is there already and @p overwrite refuses.
[[nodiscard]] core::Result<void> writeWhole(const QString& path, const QByteArray& bytes,
                                            Overwrite overwrite = Overwrite::Replace);

/// Forces a folder's list of names to the disk. File systems that cannot are taken for sure.
[[nodiscard]] core::Result<void> syncFolder(const QString& folder);

/// "cannot be written: No space left on device", from the last error of the system.
[[nodiscard]] core::Problem cannotWrite(const QString& path, int error);

/// A file that is made beside the one it will replace. Not committed, it disappears.
class FreshFile {
public:
    FreshFile() = default;
    FreshFile(FreshFile&& other) noexcept;
    FreshFile& operator=(FreshFile&& other) noexcept;
    ~FreshFile();

    /// Makes an empty file beside @p path, under a name that no other writer uses; what killed writers of the same file
    /// left is removed.
    [[nodiscard]] static core::Result<FreshFile> beside(const QString& path);
    /// Where it is written: links followed.
    [[nodiscard]] const QString& target() const { return m_target; }
    [[nodiscard]] const QString& path() const { return m_path; }
    [[nodiscard]] core::Result<void> append(const char* data, std::size_t size);

    enum class Backup { None, KeepOld }; ///< KeepOld: what is replaced stays as "name~"
    /// Forces it to the disk and puts it in place. When this fails, the old file is as it was.
    [[nodiscard]] core::Result<void> commit(Backup backup = Backup::None, Overwrite overwrite = Overwrite::Replace);

private:
    void drop();
    [[nodiscard]] core::Result<void> keepRights() const;
    QString m_asked, m_target, m_path;
    int m_fd = -1;
};

/// The file a path leads to: symbolic links followed, also where their end is not there yet.
[[nodiscard]] QString linkTarget(const QString& path);

/// A copy of a file under another name without its room on the disk, where the file system can; else a true copy.
/// @p to must not be there. Errors: the words of the system.
[[nodiscard]] core::Result<void> linkOrCopy(const QString& from, const QString& to);

} // namespace store
