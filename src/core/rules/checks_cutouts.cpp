// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/fit/cutouts.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {

std::string percent(double share) { return fixed(share * 100, 0) + " %"; }

void concentric(const Checks& c, const fit::Seat& s) {
    if (s.radiator || s.uncoveredShare >= 0.9)
        return;
    const bool little = s.uncoveredShare < 0.75;
    c.add("vent-offset", little ? Severity::Caution : Severity::Note, s.mount,
          s.name + " lies " + fixed(s.offsetMm, 1) + " mm off the middle of " + s.openingName + ": " +
              percent(s.uncoveredShare) + " of it is uncovered",
          {"the vent on the middle of the fan", "a larger vent"}, Station::Fit);
}

/// What carries a frame over a plain hole is the metal around it.
void carried(const Checks& c, const fit::Seat& s) {
    if (!s.cutOut || s.holes == 0)
        return;
    const std::string over = s.name + " over " + s.openingName;
    if (s.holesInMetal == 0)
        c.add("seat", Severity::Blocker, s.mount,
              over + ": all of its " + std::to_string(s.holes) + " screw holes lie in the cut-out, nothing carries it",
              {"a smaller cut-out", "a frame of its own that carries it"}, Station::Fit);
    else if (s.holesInMetal < s.holes)
        c.add("seat", Severity::Caution, s.mount,
              over + ": " + std::to_string(s.holes - s.holesInMetal) + " of " + std::to_string(s.holes) +
                  " screw holes lie in the cut-out",
              {"a smaller cut-out", "another place"}, Station::Fit);
    else if (s.edgeMm + 1e-9 < s.needEdgeMm)
        c.add("hole-edge", Severity::Caution, s.mount,
              over + ": a screw hole lies " + fixed(s.edgeMm, 1) + " mm from the edge, " + fixed(s.needEdgeMm, 1) +
                  " are wanted (engineering judgement)",
              {"a smaller cut-out", "a plate over both"}, Station::Fit);
}

void overlap(const Checks& c, const fit::Seat& s) {
    if (!s.radiator)
        return;
    const double least = *std::min_element(s.overlapMm.begin(), s.overlapMm.end());
    if (least < 0)
        c.add("radiator-overlap", Severity::Caution, s.mount,
              s.openingName + " reaches " + fixed(-least, 1) + " mm beyond " + s.name +
                  ": air passes beside it, and that side rests on nothing",
              {"a smaller cut-out", "a foam strip"}, Station::Fit);
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
        std::string text = w.name + " has a frame of " + fixed(w.frameMm, 0) + " mm, " + w.place + " is made for " +
                           fixed(w.placeMm, 0);
        if (own && place)
            text += ": its holes are " + fixed(*own, 1) + " apart, those there " + fixed(*place, 1);
        c.add("frame-place", Severity::Caution, w.mount, text,
              {"a fan of " + fixed(w.placeMm, 0) + " mm", "an adapter frame"}, Station::Fit);
    }
}

} // namespace core::rules
