// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"

namespace app {

/// A recording under way.
struct LiveLook {
    const core::Samples& samples;
    std::string revision;
    bool simulated = false;
    QString note; ///< what its source said last
};
/// That it records, since when, and the newest readings.
void paintLiveHead(Canvas& c, const QRectF& r, const View& v, const LiveLook& look);

/// The readings of a running recording over time: temperatures with the caps that the brief sets for them, and the
/// noise with its cap below.
void paintLiveTraces(Canvas& c, const QRectF& r, const View& v, const core::Samples& samples,
                     const std::string& revision);

} // namespace app
