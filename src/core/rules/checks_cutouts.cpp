// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/fit/cutouts.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {

void concentric(const Checks& c, const fit::Seat& s) {
    if (s.radiator || s.uncoveredShare >= 0.9)
        return;
    const bool little = s.uncoveredShare < 0.75;
    c.add("vent-offset", little ? Severity::Caution : Severity::Note, s.mount,
          say("{} lies {} off the middle of {}: {} of it is uncovered", s.name, figure::mm(s.offsetMm, 1),
              s.openingName, figure::percent(s.uncoveredShare)),
          {say("the vent on the middle of the fan"), say("a larger vent")}, Station::Fit);
}

/// What carries a frame over a plain hole is the metal around it.
void carried(const Checks& c, const fit::Seat& s) {
    if (!s.cutOut || s.holes == 0)
        return;
    const Sentence over = say("{} over {}", s.name, s.openingName);
    if (s.holesInMetal == 0)
        c.add("seat", Severity::Blocker, s.mount,
              say("{}: all of its {} screw holes lie in the cut-out, nothing carries it", over, s.holes),
              {say("a smaller cut-out"), say("a frame of its own that carries it")}, Station::Fit);
    else if (s.holesInMetal < s.holes)
        c.add("seat", Severity::Caution, s.mount,
              say("{}: {} of {} screw holes lie in the cut-out", over, s.holes - s.holesInMetal, s.holes),
              {say("a smaller cut-out"), say("another place")}, Station::Fit);
    else if (s.edgeMm + 1e-9 < s.needEdgeMm)
        c.add("hole-edge", Severity::Caution, s.mount,
              say("{}: a screw hole lies {} from the edge, {} are wanted (engineering judgement)", over,
                  figure::mm(s.edgeMm, 1), figure::mm(s.needEdgeMm).bare()),
              {say("a smaller cut-out"), say("a plate over both")}, Station::Fit);
}

void overlap(const Checks& c, const fit::Seat& s) {
    if (!s.radiator)
        return;
    const double least = *std::min_element(s.overlapMm.begin(), s.overlapMm.end());
    if (least < 0)
        c.add("radiator-overlap", Severity::Caution, s.mount,
              say("{} reaches {} beyond {}: air passes beside it, and that side rests on nothing", s.openingName,
                  figure::mm(-least, 1), s.name),
              {say("a smaller cut-out"), say("a foam strip")}, Station::Fit);
}

} // namespace

void checkCutouts(const Checks& c) {
    for (const fit::Seat& s : fit::seats(c.build)) {
        concentric(c, s);
        carried(c, s);
        overlap(c, s);
    }
    for (const fit::WrongFrame& w : fit::wrongFrames(c.build)) {
        const auto own = fit::holeSpacingMm(w.frameMm), place = fit::holeSpacingMm(w.placeMm);
        Sentence text = say("{} has a frame of {}, {} is made for {}", w.name, figure::mm(w.frameMm, 0), w.place,
                            figure::mm(w.placeMm, 0).bare());
        if (own && place)
            text += say(": its holes are {} apart, those there {}", figure::mm(*own), figure::mm(*place).bare());
        c.add("frame-place", Severity::Caution, w.mount, text,
              {say("a fan of {}", figure::mm(w.placeMm, 0)), say("an adapter frame")}, Station::Fit);
    }
}

} // namespace core::rules
