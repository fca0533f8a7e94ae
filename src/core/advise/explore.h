// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/stages/evaluate.h"

#include <cstdint>

namespace core::advise {

/// What is left open.
struct ExploreRequest {
    bool fans = true;    ///< each fan place: in, out, none, slim, thick, five speeds
    bool screens = true; ///< each vent: as it is, none, coarse, fine
    bool panels = true;  ///< each larger panel: as it is, closed, or mesh
    bool places = true;  ///< card, radiator and supply: the ways their places have, the ends of their rows of holes
    bool lying = true;   ///< standing as it is, or on its left side
    std::vector<std::string> keep = {}; ///< places and openings that stay as they are
    std::uint32_t seed = 7;
    std::size_t most = 20'000; ///< so many are looked at; more possibilities are drawn from at random
    unsigned threads = 2;
    bool operator==(const ExploreRequest&) const = default;
};

/// What an answer is about, in the order in which one makes such changes.
enum class Turn { Place, Panel, Screens, Fan, OwnFan, Lying };

/// One answer of a way, made after those before it.
struct ExploreStep {
    std::vector<Change> changes;
    double noiseDb = 0, kelvin = 0; ///< what it adds to the noise and to the headroom
    int screws = 0;
    double minutes = 0, price = 0; ///< of assembly; in the project's currency
};

/// One way to build it.
struct ExplorePoint {
    std::vector<Change> changes; ///< against the revision; empty: it is what is there
    double noiseDba = 0;
    double headroomK = 0;                ///< of the part nearest to its cap, at the reference room
    double hotHeadroomK = 0;             ///< the same at the hottest room; of front and present one only
    std::string part;                    ///< that is nearest to its cap
    double bandK = 0;                    ///< of its temperature
    bool quietEnough = true;             ///< within the caps of noise
    std::size_t number = 0;              ///< of all that are possible
    std::vector<ExploreStep> steps = {}; ///< of the front only
    [[nodiscard]] bool holds() const { return quietEnough && headroomK >= 0; }
    [[nodiscard]] bool holdsHot() const { return quietEnough && hotHeadroomK >= 0; }
};

struct Explored {
    std::vector<ExplorePoint> front; ///< nothing is quieter and cooler at once; quietest first
    ExplorePoint now;
    std::vector<std::array<float, 2>> cloud; ///< noise and headroom of all that were counted
    std::size_t possible = 0, counted = 0, solved = 0;
    std::size_t didNotGoIn = 0; ///< of the front, dropped because something would not go in
    double noiseCap = 0;        ///< 0: none is asked for
    double roomC = 0, hottestC = 0;
    std::uint32_t seed = 0; ///< they were drawn with
    bool cancelled = false;
};

/// The way one would take: the quietest of the front that holds in the hottest room and is no warmer than now, else the
/// coolest; -1: there is none.
[[nodiscard]] int chosenOf(const Explored& found);

/// Looks for the least noise that keeps every temperature cap of the brief and limit of a part. The same seed gives the
/// same answer, whatever the number of threads. @p progress gets 0..1 and answers false to stop.
/// Errors: nothing is left open.
[[nodiscard]] Result<Explored> explore(const Project& project, const stages::Evaluation& now,
                                       const ExploreRequest& request, const std::function<bool(double)>& progress = {});

} // namespace core::advise
