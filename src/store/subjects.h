// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/project.h"

namespace store {

/// Columns of a log that could all be the temperature of one part, or one column that could be of several parts.
struct Ambiguous {
    std::string part;                    ///< in words: "the processor", "a drive"
    std::vector<std::string> candidates; ///< column names, or names of parts
    std::vector<std::string> columns;    ///< names of the channels that are left without a part
    [[nodiscard]] std::string text() const;
};

enum class Guess { Assume, Never };

/// Turns "processor", "card", "drive" into mounts of the revision. Of several columns that name one part the one of the
/// whole package is taken; else they are left without a part and answered as ambiguous. A single temperature or clock
/// without the name of any part is assumed to be the processor's and marked so, where @p guess allows.
[[nodiscard]] std::vector<Ambiguous> assignSubjects(const core::Project& project, const std::string& revision,
                                                    core::Samples& samples, Guess guess = Guess::Assume);

/// "COLUMN=MOUNT": the user says whose a column is. Errors: no such column, nothing placed there.
[[nodiscard]] core::Result<void> assignSubject(const core::Project& project, const std::string& revision,
                                               const std::string& said, core::Samples& samples);

} // namespace store
