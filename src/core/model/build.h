// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/project.h"

namespace core {

/// One measured size or offset that chains are made of.
struct Dimension {
    std::string label;
    Measure measure;
};

/// A coordinate as a signed sum of dimensions. Coefficients are in halves (2 = once), as centred parts need them.
struct Chain {
    struct Term {
        std::size_t dimension = 0;
        int halves = 2;
        friend bool operator==(const Term&, const Term&) = default;
    };
    std::vector<Term> terms;

    void add(std::size_t dimension, int halves);
    /// This minus @p other; dimensions on both sides cancel.
    [[nodiscard]] Chain minus(const Chain& other) const;
    [[nodiscard]] Length nominal(const std::vector<Dimension>& dimensions) const;
};

/// How the part's own axes lie in the case: own axis i points along @c axis[i].
struct Frame {
    std::array<Direction, 3> axis{Direction{Axis::X, 1}, Direction{Axis::Y, 1}, Direction{Axis::Z, 1}};
};

/// A part at its place. The parts themselves belong to the project, which must outlive the build.
struct Placed {
    std::string mount; ///< path, e.g. "tray/cpu/lid": also the name of the instance
    const Part* part = nullptr;
    std::ptrdiff_t parent = -1; ///< index into Build::placed, -1 the case
    Frame frame;
    std::array<Chain, 3> low;  ///< case axes
    std::array<Chain, 3> high;
    std::array<Length, 3> lowAt; ///< nominal values of the chains
    std::array<Length, 3> highAt;
    FanFlow flow = FanFlow::In;
    FanMode mode = FanMode::Fixed;
    double duty = 0.6;
    std::optional<double> powerLimitW;

    /// Sustained draw at a load share of one, W.
    [[nodiscard]] double powerW() const { return powerLimitW.value_or(part->powerW); }
    [[nodiscard]] Direction facing() const { return frame.axis[2]; }
};

struct Build {
    std::string revision;
    const Part* casePart = nullptr;
    std::vector<Placed> placed;
    std::vector<Opening> openings;
    std::vector<Dimension> dimensions;
    std::array<Chain, 3> inside; ///< inner size of the case along x, y, z
    std::array<Length, 3> insideAt;
    Orientation down = Side::Bottom;

    [[nodiscard]] const CaseSpec& caseSpec() const { return std::get<CaseSpec>(casePart->spec); }
    [[nodiscard]] const Placed* at(std::string_view mount) const;
    [[nodiscard]] const Placed* firstOf(PartKind kind) const;
    [[nodiscard]] const Opening* opening(std::string_view id) const;
};

/// The revision @p revisionId with every part placed, every opening and fan mode known.
/// Errors: unknown revision, part or mount, a lineage that runs in a circle, a part of the wrong kind, a mount taken
/// twice, a size or share out of range; each names its place in the project.
[[nodiscard]] Result<Build> resolve(const Project& project, std::string_view revisionId);

/// The chain of revisions from the first to @p revisionId. Errors as in resolve().
[[nodiscard]] Result<std::vector<const Revision*>> lineage(const Project& project, std::string_view revisionId);

/// Checks ranges and references of the whole project: every problem found, in order of appearance.
[[nodiscard]] std::vector<Problem> validate(const Project& project);

} // namespace core
