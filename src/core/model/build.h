// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/project.h"
#include "core/model/thing.h"

#include <algorithm>

namespace core {

/// Where in the project a dimension is written down, so that a measured value can be put in its place.
struct DimensionOrigin {
    enum class What { None, PartSize, MountAt, VariantAt, BodyAt, BodySize, PortAt, Wall, Feet };
    What what = What::None;
    std::string part;     ///< id on the shelf of the part that owns it
    std::string item;     ///< id of the mount, name of the body, id of the port
    std::string variant;  ///< of the mount
    std::size_t axis = 0; ///< own axis of the owner
    friend bool operator==(const DimensionOrigin&, const DimensionOrigin&) = default;
};

/// One measured size or offset that chains are made of.
struct Dimension {
    std::string label;
    Measure measure;
    DimensionOrigin origin;
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
    std::array<Chain, 3> low; ///< case axes
    std::array<Chain, 3> high;
    std::array<Length, 3> lowAt; ///< nominal values of the chains
    std::array<Length, 3> highAt;
    FanFlow flow = FanFlow::In;
    FanControl control;
    std::optional<double> powerLimitW;
    std::string variant;     ///< of its mount; empty: the mount as it is
    std::vector<Port> ports; ///< of the part, with the plugs chosen
    std::string name;     ///< of the part; with its place where another part of the build has the same: "Fan 92, top"
    bool outside = false; ///< of the case, said so by its mount or by an offset outwards

    /// Sustained draw at a load share of one, W; a limit never raises it.
    [[nodiscard]] double powerW() const { return powerLimitW ? std::min(*powerLimitW, part->powerW) : part->powerW; }
    [[nodiscard]] Direction facing() const { return frame.axis[2]; }
    /// A point given from the low corner in the part's own axes, brought into the case, mm.
    [[nodiscard]] std::array<double, 3> inCaseMm(const std::array<Measure, 3>& own) const;
    /// An own direction of the part, in the axes of the case.
    [[nodiscard]] Direction inCase(Direction own) const;
};

/// How the case is named where a mount is asked for.
constexpr std::string_view caseMount = "case";

/// A cable or adapter in use. Ends are "mount:port"; the case is caseMount.
struct Joined {
    const Part* part = nullptr;
    std::string from;
    std::vector<std::string> to;
    std::vector<std::vector<std::array<double, 3>>> routesMm = {}; ///< corners of its way to each end, mm in the case

    /// Corners to an end, by its number; empty: no way is stated.
    [[nodiscard]] std::vector<std::array<double, 3>> routeTo(std::size_t end) const {
        return end < routesMm.size() ? routesMm[end] : std::vector<std::array<double, 3>>{};
    }
};
/// Mount and port of an end "tray/cpu:eps-8".
struct EndName {
    std::string mount, port;
};
[[nodiscard]] EndName endName(std::string_view end);

struct Build {
    std::string revision;
    const Part* casePart = nullptr;
    std::vector<Placed> placed;
    std::vector<Opening> openings;
    std::vector<Dimension> dimensions;
    std::array<Chain, 3> inside; ///< inner size of the case along x, y, z
    std::array<Length, 3> insideAt;
    Orientation down = Side::Bottom;
    std::vector<Joined> joined;
    std::vector<const Modification*> modified; ///< of the case, in the order they were made
    Measure feet;                              ///< under the side it stands on
    std::vector<ObservedLink> observed;        ///< on the machine built as this very revision

    [[nodiscard]] const CaseSpec& caseSpec() const { return std::get<CaseSpec>(casePart->spec); }
    [[nodiscard]] const Placed* at(std::string_view mount) const;
    [[nodiscard]] const Placed* firstOf(PartKind kind) const;
    [[nodiscard]] const Opening* opening(std::string_view id) const;
};

/// What a lead is called, of Build::joined. Equal ones are told apart by their order.
[[nodiscard]] LeadRef leadRef(const Build& build, std::size_t joined);
/// The part at a mount; its volume where the mount is the case.
[[nodiscard]] Thing partOrCase(std::string_view mount);

/// The revision @p revisionId with every part placed, every opening and fan mode known.
/// Errors: unknown revision, part or mount, a lineage that runs in a circle, a part of the wrong kind, a mount taken
/// twice, a size or share out of range; each names its place in the project.
[[nodiscard]] Result<Build> resolve(const Project& project, std::string_view revisionId);

/// The chain of revisions from the first to @p revisionId. Errors as in resolve().
[[nodiscard]] Result<std::vector<const Revision*>> lineage(const Project& project, std::string_view revisionId);

/// As resolve(), with changes added to the revision: what a trial would give, without a copy of the project.
[[nodiscard]] Result<Build> resolveWith(const Project& project, std::string_view revisionId,
                                        const std::vector<Change>& more);

/// Puts a measured value in the place a dimension comes from. Errors: it comes from nowhere that can be measured, or
/// the part, mount, body or port is gone.
[[nodiscard]] Result<void> setMeasured(Project& project, const DimensionOrigin& origin, const Measure& value);

/// Checks ranges and references of the whole project: every problem found, in order of appearance.
[[nodiscard]] std::vector<Problem> validate(const Project& project);
/// The same where @p sound is known to have no problem: only revisions that an edit can have touched are resolved
/// again.
[[nodiscard]] std::vector<Problem> validateEdit(const Project& project, const Project& sound);

} // namespace core
