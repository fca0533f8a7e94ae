// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/settings.h"
#include "core/base/error.h"
#include "core/model/part.h"

namespace app {

/// Parts of one's own that are kept across projects: a parts file in the folder where the system keeps data. What a
/// project uses is a copy of its own.
[[nodiscard]] QString ownShelfFile(const Settings& settings);
/// What is kept; none where there is no such file yet. Errors: it cannot be read, by place.
[[nodiscard]] core::Result<std::vector<core::Part>> ownParts(const QString& file);
/// Keeps a part; one with its id is replaced. Errors: the file is damaged (it stays as it is), the words of the disk.
[[nodiscard]] core::Result<void> keepPart(const QString& file, const core::Part& part);
/// Takes a part off the shelf. Errors as keepPart(), or it is not there.
[[nodiscard]] core::Result<void> dropPart(const QString& file, const std::string& id);

} // namespace app
