// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"

namespace app {

struct Context;
class Recorder;
class StationPage;

/// One station: a folder of its own beside this file, and a row here. Its key is its number.
struct StationRow {
    core::rules::Station id;
    const char* name;     ///< as on its tab
    const char* question; ///< that it answers
    const char* picture;  ///< name of its picture for the documents
    Live (*live)(const View&, const core::stages::Evaluation&);
    StationPage* (*page)(Context&, const Recorder&);

    [[nodiscard]] QString title() const; ///< in the reader's language
};
[[nodiscard]] const std::array<StationRow, 6>& stations();
/// What every station says of the revision that is looked at, for the strip.
[[nodiscard]] std::array<Live, 6> liveResults(const View& v);

} // namespace app
