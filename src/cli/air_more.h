// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cli/commands.h"

namespace cli {

/// Zones and branches of the air of a revision, with what was solved.
[[nodiscard]] store::Json networkJson(const Asked& asked);
void sayNetwork(const store::Json& network, const core::Reader& reader);
void sayTransient(const store::Json& transient, const core::Reader& reader);
/// Warm-up from idle, every 10 s.
[[nodiscard]] store::Json transientJson(const Asked& asked, double minutes);
/// The questions on which builders disagree, for this build.
[[nodiscard]] store::Json schoolsJson(const Asked& asked, const std::string& load, const core::Reader& reader);
void saySchools(const Asked& asked, const std::string& load, const core::Reader& reader);
/// What the logged runs say about the inputs of the model, and the parts of this revision with it.
[[nodiscard]] store::Json calibrationJson(const Asked& asked, const core::Reader& reader);
void sayCalibration(const store::Json& calibration);
/// The quietest and coolest of what is left open.
[[nodiscard]] core::Result<store::Json> exploreJson(const Asked& asked, const Options& options,
                                                    const core::Reader& reader);
void sayExplored(const store::Json& explored);

} // namespace cli
