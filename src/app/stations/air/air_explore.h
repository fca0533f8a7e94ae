// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/air/air_look.h"
#include "results/answers.h"

namespace app {

/// Keys that leave fans, screens, panels, places and lying open, or as they are.
constexpr std::string_view openKeys = "VSACL";

/// What the exploring side of Air shows; answers of before, or none, while they are worked out.
struct ExploreLook {
    Answer<results::Explored> explored;
    Answer<results::Schools> schools;
    Answer<results::Taught> taught;
    core::advise::ExploreRequest request; ///< what is left open
    int percent = 0;
    int chosen = -1; ///< of the front; -1: none
};

/// The questions on which builders disagree, worked out for this build.
void paintSchools(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look);
/// Every reading of every run against what the model says of it, as its sheets have it and as the runs taught it.
void paintTaught(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look);
/// Height of a row of these tables, px.
constexpr double exploreRow = 22;

/// All that is left open as noise against headroom, the best of it in words, and the questions on which builders
/// disagree, worked out for this build.
void paintExplore(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look);

} // namespace app
