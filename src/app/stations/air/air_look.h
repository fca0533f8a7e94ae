// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/air/air_section.h"
#include "results/results.h"

namespace app {

/// The sides of the Air sheet.
enum class AirPane { Section, Network, WarmUp, Explore };

/// How the station is looked at, and the answers its sides show; of before, or none, while they are worked out.
struct AirLook {
    AirPane pane = AirPane::Section;
    AirSight sight = AirSight::Side;
    bool againstBaseline = false;
    Answer<results::Loads> loads;
    bool tellsLoads = false;                      ///< they are asked for: their words keep room until they are there
    std::shared_ptr<const results::Look> loadsOf; ///< they are of; where another is shown they are of before
    Answer<results::WarmUp> warmUp;
    std::size_t row = 0; ///< of the warm-up: the moment that is shown
    bool playing = false;
    std::optional<std::size_t> pointed;          ///< the moment of the warm-up under the pointer
    bool asTaught = false;                       ///< with what the runs taught put in
    std::shared_ptr<const results::Look> taught; ///< that state, where it is worked out
    std::size_t taughtRuns = 0;
};

/// At the right of the head, for the buttons that turn the station.
constexpr double airHeadRoom = 300;

/// What is under the drawing of every side: from where it is looked at, and against what.
void paintSights(Canvas& c, const QRectF& r, const View& v, const AirLook& look);
/// What readings are compared with; null: nothing is asked for, or there is no baseline but this.
[[nodiscard]] const core::air::Prediction* comparedWith(const View& v, const AirLook& look);

/// The section with its fans, pressures, noise and parts.
void paintAir(Canvas& c, const QRectF& r, const View& v, const AirLook& look);
/// Every room and way of air with its figures, and where it lies.
void paintNetwork(Canvas& c, const QRectF& r, const View& v, const AirLook& look);
/// A load that begins on an idling machine: the section at one moment, and all parts over an hour.
void paintWarmUp(Canvas& c, const QRectF& r, const View& v, const AirLook& look);

} // namespace app
