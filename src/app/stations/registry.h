// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"

#include <span>
#include <vector>

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
/// All of them, in the order of their numbers.
[[nodiscard]] std::span<const StationRow> stations();
/// The place of a station in that order, from 0 on.
[[nodiscard]] int numberOf(core::rules::Station station);
/// What every station says of the revision that is looked at, for the strip, in that order.
[[nodiscard]] std::vector<Live> liveResults(const View& v);

} // namespace app
