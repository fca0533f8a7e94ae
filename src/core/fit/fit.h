// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/mark.h"
#include "core/fit/clearance_rules.h"
#include "core/model/build.h"

namespace core::fit {

enum class GapState { Clear, Rub, Bulge, Clash };
[[nodiscard]] std::string_view gapStateWord(GapState state);

/// One signed size of a chain. A centred part enters with a factor of one half.
struct ChainItem {
    std::string label;
    int sign = 1;
    double factor = 1;
    double valueMm = 0;     ///< of the whole dimension
    double toleranceMm = 0; ///< half width
    Source source = Source::Sheet;
};

/// One end of a gap.
struct GapEnd {
    std::string mount; ///< empty: the case
    std::string text;  ///< e.g. "Card 172-2, power plug"
    Face face = Face::Solid;
};

/// A clearance between two neighbours along one axis of the case.
struct Gap {
    std::string id;
    std::array<GapEnd, 2> between; ///< lower coordinate first
    Axis axis = Axis::X;
    Length nominal;
    double worstBandMm = 0; ///< sum of all tolerances
    double rssBandMm = 0;   ///< root of the sum of squares
    double requiredMm = 0;
    std::string_view rule;
    std::string_view reason;
    std::string_view ruleSource;
    double chance = 0; ///< that the gap stays above what is required; tolerances as 3 sigma of independent normals
    GapState state = GapState::Clear;
    Mark mark = Mark::None;
    std::vector<ChainItem> chain;
    std::array<double, 3> fromMm{}; ///< where to draw it: from face to face
    std::array<double, 3> toMm{};

    [[nodiscard]] double marginMm() const { return nominal.mm() - worstBandMm - requiredMm; } ///< at worst
};

struct Options {
    double reachMm = 25;     ///< gaps wider than this are of no interest
    double reserveMm = 2;    ///< a gap that keeps less than this at worst is open, not held
    double bulgeMm = 2;      ///< a flexible panel can be forced out by so much
};

struct FitResult {
    std::vector<Gap> gaps; ///< tightest at worst first
    double volumeL = 0;    ///< outside, without feet
    std::array<double, 3> outsideMm{};
    double footprintCm2 = 0; ///< of the face it stands on
    double feetMm = 0;
};

/// A box of a placed part in case coordinates.
struct PlacedBody {
    std::size_t placed = 0;
    const Body* body = nullptr; ///< null: the whole part
    BodyRole role = BodyRole::Solid;
    Shape shape = Shape::Box;
    Axis along = Axis::Z; ///< of a cylinder, in the case
    std::array<Length, 3> low, high;
};
/// All bodies and keep-outs of a build.
[[nodiscard]] std::vector<PlacedBody> bodiesOf(const Build& build);

/// Gaps between neighbours and to the case along the axes, with their chains. Pure; well below a millisecond.
[[nodiscard]] FitResult check(const Build& build, const Options& options = {});

/// Chance that a normal gap of nominal @p gapMm stays above @p requiredMm, the root-sum-square band being 3 sigma.
[[nodiscard]] double chanceAbove(double gapMm, double rssBandMm, double requiredMm);

} // namespace core::fit
