// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/run.h"

#include <QString>

namespace store {

/// What a log cannot say by itself, in a small JSON file beside it ("log.csv.about.json"): what its columns are, where
/// it came from, and which project it belongs to.
struct LogAbout {
    std::string source;     ///< name of the device that wrote it, e.g. "rig"
    bool simulated = false; ///< that device is a stand-in
    std::string started;    ///< ISO 8601, UTC
    std::string load;
    double distanceM = 1.0;                      ///< of the sound level meter
    std::vector<core::Channel> channels;         ///< without readings
    std::string project, projectId, projectName; ///< path when it was saved already; empty in a log of the command line
    std::string revision;
    std::string run; ///< id of the run it became, once it did
};

[[nodiscard]] QString aboutPath(const QString& log);
[[nodiscard]] core::Result<void> writeLogAbout(const QString& log, const LogAbout& about);
/// Errors: not there, not ours.
[[nodiscard]] core::Result<LogAbout> readLogAbout(const std::string& log);
/// Names kind, unit and subject of the columns as they were declared; columns are found by name.
void applyAbout(const LogAbout& about, core::Samples& samples);

} // namespace store
