// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/base/mark.h"
#include "core/model/build.h"

namespace core::make {

/// Density g/cm³ and softening temperature °C of a printing material. Source: polymer handbooks (from memory).
struct Material {
    std::string_view id;
    double densityGcm3;
    double softensC;
};
[[nodiscard]] const Material* materialOf(std::string_view id);

/// How a part that is too large for the bed can be cut: equal pieces along one of its own axes, joined by tongue and
/// groove.
struct Split {
    std::size_t axis = 0;     ///< own axis of the part
    std::vector<double> atMm; ///< where to cut, from its low face
    double pieceMm = 0;       ///< longest piece, with its tongue
    double jointMm = 0;       ///< a tongue adds to its piece
    double clearanceMm = 0;   ///< between tongue and groove; try 0.1, 0.2 and 0.3
};

struct MadePart {
    std::string id;
    std::string name;
    Process process = Process::Print;
    std::string material;
    int count = 1;
    bool fits = false;              ///< on the bed with its border
    double turnedDeg = 0;           ///< smallest turn at which it fits
    bool onItsSide = false;         ///< fits only when stood on another face
    std::array<double, 2> footMm{}; ///< as it lies on the bed
    double heightMm = 0;
    std::optional<Split> split; ///< when it does not fit and pieces would
    double plasticMm3 = 0;      ///< laid for one copy
    double hours = 0;           ///< of all copies
    double massG = 0;
    double cost = 0;
};

struct Purchase {
    std::string kind;
    int count = 0;
};

struct Step {
    StepRef ref;
    std::string mount; ///< of the part that is placed; empty for a lead or a modification
    std::string text;
    Sentence tool;
    std::string place; ///< the part that carries it, "case" at the bottom
    double minutes = 0;
    int screws = 0;
    std::vector<Fastener> fasteners;
    std::vector<std::size_t> needs; ///< indices of earlier steps
    Sentence safety;
    double undoMinutes = 0; ///< to get this part out again, with all that sits before it
    int undoScrews = 0;
    std::vector<std::size_t> undo; ///< steps to take back, last first, this one included
};

struct Plan {
    std::vector<MadePart> parts;
    double hours = 0, massG = 0, cost = 0;
    std::vector<Purchase> shopping; ///< screws and inserts by kind
    int screws = 0;
    std::vector<Step> steps; ///< in a legal order
    double minutes = 0;
    std::vector<std::string> cautions;
};

/// Made parts, purchases and assembly of a build. Errors: steps that wait for each other.
[[nodiscard]] Result<Plan> plan(const Project& project, const Build& build);

/// Mounts in the order in which their parts go in.
[[nodiscard]] std::vector<std::string> orderOf(const Plan& plan);

/// Caution of a part that does not fit the bed, with where to split it; empty when it fits.
[[nodiscard]] Sentence bedWords(const Project& project, const MadePart& part);

/// Smallest turn in degrees at which a w x h rectangle fits into a W x H bed, or nothing.
[[nodiscard]] std::optional<double> turnToFit(double w, double h, double bedW, double bedH);

} // namespace core::make
