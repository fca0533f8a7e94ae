// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/mark.h"
#include "core/fit/bodies.h"
#include "core/fit/clearance_rules.h"
#include "core/model/build.h"
#include "core/model/thing.h"

#include <functional>

namespace core::fit {

/// Clear: at least what is needed. Starved: what breathes gets too little air. Rub: it closes, but may touch. Bulge: it
/// closes and forces a panel out. Blocked: an intake without air. Clash: it does not close, or blades touch.
enum class GapState { Clear, Starved, Rub, Bulge, Blocked, Clash };
/// The machine cannot be built, or not run, like this.
[[nodiscard]] constexpr bool isBlocking(GapState state) {
    return state == GapState::Clash || state == GapState::Blocked;
}
[[nodiscard]] std::string_view gapStateWord(GapState state);

/// One signed size of a chain. A centred part enters with a factor of one half, a slanted gap with that of its
/// direction.
struct ChainItem {
    std::string label;
    int sign = 1;
    double factor = 1;
    double valueMm = 0;     ///< of the whole dimension
    double toleranceMm = 0; ///< half width
    Source source = Source::Sheet;
    DimensionOrigin origin;
};

/// One end of a gap.
struct GapEnd {
    std::string mount; ///< empty: the case
    std::string text;  ///< e.g. "Card 172-2, power plug"
    Face face = Face::Solid;
    std::string port; ///< the socket, when the end is its plug
    std::string item; ///< the body, plug or wall that ends there; empty: the whole part

    [[nodiscard]] GapEndRef ref() const { return {mount, item}; }
};

/// A clearance between two neighbours, along one axis of the case or along their shortest way.
struct Gap {
    std::string id;                ///< in words, for people and files; unique in a build
    GapRef ref;                    ///< what it is, whatever its parts are called
    std::array<GapEnd, 2> between; ///< lower coordinate first
    Axis axis = Axis::X;           ///< along which it lies most
    Point way{};                   ///< unit vector from the first to the second
    bool slanted = false;          ///< not along an axis: the distance of turned or round bodies, or of corners
    Length nominal;
    double worstBandMm = 0; ///< sum of all tolerances
    double rssBandMm = 0;   ///< root of the sum of squares
    double requiredMm = 0;
    std::string_view rule;
    Sentence reason;
    std::string_view ruleSource;
    std::string overridden; ///< the user's note, when the need is the user's own
    double chance = 0;      ///< that the gap stays above what is required; tolerances as 3 sigma of independent normals
    GapState state = GapState::Clear;
    Mark mark = Mark::None;
    bool scarce = false;    ///< it may hold, with less than the reserve to spare at worst
    bool flexible = false;  ///< one side may be forced out
    bool breathing = false; ///< the need is one of air
    double touchMm = 0;     ///< of a breathing need: less may touch
    bool intake = false;    ///< and air goes in there, before a closed face
    std::vector<ChainItem> chain;
    std::array<double, 3> fromMm{}; ///< where to draw it: from face to face
    std::array<double, 3> toMm{};

    [[nodiscard]] double marginMm() const { return nominal.mm() - worstBandMm - requiredMm; } ///< at worst
    /// The same of what must not touch, whatever air it has.
    [[nodiscard]] double touchMarginMm() const {
        return nominal.mm() - worstBandMm - (breathing ? touchMm : requiredMm);
    }
    [[nodiscard]] bool isShort() const { return state != GapState::Clear; }
    /// Short of more than air: it touches, does not close or is blocked.
    [[nodiscard]] bool isWrong() const { return isShort() && state != GapState::Starved; }
};

/// Two things that touch by design and so have no gap: a part on what carries it, on a wall it is screwed to, over its
/// opening.
struct Joint {
    std::array<std::string, 2> between; ///< in words, as in a gap
    std::string how;                    ///< e.g. "sits on it"
};

struct Options {
    double reachMm = 25;             ///< gaps wider than this are of no interest
    double reserveMm = 2;            ///< a gap that keeps less than this at worst holds, and is told as scarce
    double bulgeMm = 2;              ///< a flexible panel can be forced out by so much
    std::vector<NeedOverride> needs; ///< the user's own
    std::function<bool()> stop =
        {}; ///< asked now and then by what takes long: true ends it early, its result means nothing then
};

struct FitResult {
    std::vector<Gap> gaps; ///< tightest at worst first
    std::vector<Joint> joints;
    double volumeL = 0; ///< outside, without feet
    std::array<double, 3> outsideMm{};
    double footprintCm2 = 0; ///< of the face it stands on
    double feetMm = 0;

    [[nodiscard]] const Gap* gap(const GapRef& ref) const; ///< null: there is none such
};

/// The least margin at worst before something touches, mm; air apart. NaN where there is no gap.
[[nodiscard]] double tightestMm(const FitResult& fit);

/// Gaps between neighbours and to the case, with their chains. Pure; well below a millisecond.
[[nodiscard]] FitResult check(const Build& build, const Options& options = {});
/// Only the gaps of one placed part.
[[nodiscard]] std::vector<Gap> gapsOf(const Build& build, std::size_t placed, const Options& options = {});

/// Chance that a normal gap of nominal @p gapMm stays above @p requiredMm, the root-sum-square band being 3 sigma.
[[nodiscard]] double chanceAbove(double gapMm, double rssBandMm, double requiredMm);

} // namespace core::fit
