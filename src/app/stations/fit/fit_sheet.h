// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/fit/fit_section.h"

namespace app {

constexpr double sectionGapX = 44, sectionGapY = 64, sectionTitles = 40, cutStripHeight = 96;

/// Where the cuts are: as set, else through the cooler and the middle; mm in case axes.
struct CutPlaces {
    double x = 0, y = 0, z = 0;
};
[[nodiscard]] CutPlaces cutPlaces(const core::Build& build, const Cuts& cuts);

/// The three sections, aligned on shared edges: front beside side, top under side.
struct Sheet {
    Section front, side, above;
    double scale = 1; ///< px per mm
    [[nodiscard]] const Section& of(const core::fit::Gap& gap, std::size_t i) const {
        return gap.axis == core::Axis::X ? (i % 2 ? above : front) : side;
    }
};
[[nodiscard]] Sheet sheetOf(const QRectF& drawing, const View& v, const FitLook& look);

/// The way in whose positions are drawn; nothing when none is chosen, or it has no positions.
[[nodiscard]] const core::fit::Insertion* drawnWay(const FitLook& look, const core::Thing& selected);
/// The cut that keys and the strip move, and where it is as it is drawn: of a way in that is drawn the one it lies in.
struct MovedCut {
    core::Axis axis = core::Axis::Y;
    double mm = 0;
};
[[nodiscard]] MovedCut movedCut(const View& v, const FitLook& look, const core::Thing& selected);
/// One section in whose plane @p way lies, cut through the part that goes in, so small that all its positions have room
/// in @p room.
[[nodiscard]] Section waySection(const QRectF& room, const View& v, const FitLook& look,
                                 const core::fit::Insertion& way);

} // namespace app
