// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/openings.h"

namespace core::fit {

/// A fan or radiator over the opening it blows through: how it sits there, and what its screws find.
struct Seat {
    std::string mount, name;
    std::string opening, openingName;
    Side side = Side::Left;
    bool radiator = false;
    double offsetMm = 0;       ///< between the middles
    double uncoveredShare = 0; ///< of the disc of the fan (of a radiator: of its rectangle) that lies over openings
    std::array<double, 4> overlapMm{}; ///< of the frame past the edge of the opening: low and high of the two axes of
                                       ///< the side; below 0: the opening reaches beyond
    bool cutOut = false;               ///< a plain hole: its screws need the metal beside it
    int holes = 0;                     ///< of the frame, 0: its spacing is not known
    int holesInMetal = 0;
    double edgeMm = 0;     ///< least distance of a hole in the metal from an edge
    double needEdgeMm = 0; ///< 1.5 diameters in metal, 2 in plastic: engineering judgement
};

/// Fans and radiators near a wall of the case, with the opening that most of them lies over; those over none are left
/// out.
[[nodiscard]] std::vector<Seat> seats(const Build& build);

/// Spacing of the holes of a fan frame, mm; nothing for a frame that is not a usual one.
[[nodiscard]] std::optional<double> holeSpacingMm(double frameMm);

/// A fan on a place that is drilled for another frame, or on a radiator of another one.
struct WrongFrame {
    std::string mount, name, place;
    double frameMm = 0, placeMm = 0;
};
[[nodiscard]] std::vector<WrongFrame> wrongFrames(const Build& build);

} // namespace core::fit
