// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/run.h"

#include <QString>

namespace store {

/// Readings of a log that this program wrote are what it says, digit for digit; any other says more and is kept as it
/// is.
[[nodiscard]] bool saysMoreThan(const std::string& bytes, const core::Samples& samples);
/// The log of @p name, packed, where it says more than @p samples; else nothing.
[[nodiscard]] std::shared_ptr<const core::Original> originalFrom(const std::string& name, const std::string& bytes,
                                                                 const core::Samples& samples);

/// The log a run was read in from, packed: its own, or the file in a folder that its readings stand in.
/// Nothing where the readings say it all, or the file is gone.
[[nodiscard]] std::shared_ptr<const core::Original> originalOf(const core::Run& run);
/// Its bytes, unpacked. Errors: the file is gone or was changed, the bytes are damaged.
[[nodiscard]] core::Result<std::string> originalBytes(const core::Original& original);

/// The file as it stands now.
[[nodiscard]] core::Result<core::LogFile> logFile(const QString& folder, const std::string& name);
/// True while @p file of @p folder holds @p run's readings and is the file that it was.
[[nodiscard]] bool standsIn(const core::Run& run, const core::LogFile& file, const QString& folder);

} // namespace store
