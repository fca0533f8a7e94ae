// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/acoustics/noise.h"
#include "core/advise/air_trials.h"
#include "core/advise/explore.h"
#include "core/advise/learn.h"
#include "core/advise/schools.h"
#include "core/advise/search.h"
#include "core/advise/what_to_change.h"
#include "core/air/warm_up.h"
#include "core/fit/insertion.h"
#include "core/fit/measure_next.h"
#include "core/fit/room.h"
#include "core/stages/at_loads.h"

namespace results {

using Rooms = std::vector<core::fit::Room>;
using Measures = std::vector<core::fit::MeasureNext>;
using Ways = std::vector<core::fit::Insertion>;
using Trials = std::vector<core::advise::AirTrial>;
using Loads = std::vector<core::stages::AtLoad>;
/// An hour of warm-up, and the network it was played on: of another one its states mean nothing.
struct WarmUp : core::air::WarmUp {
    std::shared_ptr<const core::air::Solved> of;
};
using Schools = std::vector<core::advise::School>;
/// What the runs that are analysed say about the model.
struct Taught {
    core::air::Calibration calibration;
    std::size_t runs = 0;
    /// A part of the revision with what was learned put in, and the runs that would narrow it most, best first.
    struct Part {
        std::string id;
        double beforeC = 0, afterC = 0, bandBeforeK = 0, bandAfterK = 0;
        std::vector<core::advise::NextRun> next;
    };
    std::vector<Part> parts;
    core::air::Prediction air;    ///< of the revision with what was learned, with the bands that are left
    core::acoustics::Noise noise; ///< of that
};
using Explored = core::advise::Explored;
using Found = core::advise::SearchResult;
/// What could be changed about a gap.
struct Mends {
    core::GapRef of;
    std::vector<core::advise::Mend> all;
};

} // namespace results
