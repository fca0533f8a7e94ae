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
    int chosen = -1;             ///< of the front; -1: none
    bool drawn = false;          ///< the chosen one is drawn over what is there
    Answer<results::Look> ghost; ///< the build it would be
};

/// How a way of the front is called.
[[nodiscard]] QString wayLetter(std::size_t i);
/// Each change of a way with what it does by itself, in the order in which one makes them; answers the height it took.
double paintSteps(Canvas& c, const QRectF& r, const View& v, const core::advise::ExplorePoint& way);

/// The questions on which builders disagree, worked out for this build.
void paintSchools(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look);
/// Every reading of every run against what the model says of it, as its sheets have it and as the runs taught it.
void paintTaught(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look);
/// Height of a row of these tables, px.
constexpr double exploreRow = 19;

/// All that is left open as noise against headroom, the best of it in words, and the questions on which builders
/// disagree, worked out for this build.
void paintExplore(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look);
/// The way that is chosen drawn over what is there: what differs stands out, what it takes out is an outline.
void paintGhost(Canvas& c, const QRectF& r, const View& v, const AirLook& view, const ExploreLook& look);

} // namespace app
