// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/compile_geometry.h"
#include "core/air/predict.h"
#include "core/model/facts.h"
#include "core/model/loops.h"

namespace core::air {

constexpr double mm = 1e-3;
constexpr double mm2 = 1e-6;
/// An open share that is as good as none: such a plate is closed, and a fan behind it nearly stands still.
constexpr double closedBelow = 0.001;
[[nodiscard]] inline bool isOpen(const Opening& o) {
    return o.style != OpeningStyle::Closed && (o.style == OpeningStyle::Plain || o.perforation > closedBelow);
}

/// The resistance of what covers a face: the plate, and a dust screen in front of it.
struct Cover {
    Resistance resistance;
    double k = 1.5;
};
[[nodiscard]] Cover coverOf(const Opening& o, double areaM2);

/// A part whose intake faces a panel, with the zone of the gap in front of it.
struct GapPart {
    const Placed* placed = nullptr;
    Side side = Side::Right;
    std::size_t zone = 0;
    std::size_t home = 0;
    Rect rect;
    double nearness = 1; ///< 1: its panel is before it; 0: too far away to be its own
};

/// What lies before one face of a fan or radiator.
struct Before {
    enum class Kind { Air, Open, Closed, Fins };
    Kind kind = Kind::Air;
    const Opening* opening = nullptr; ///< of Open
    Side side = Side::Left;           ///< of Open and Closed
    Rect rect;                        ///< of the opening that the face covers
    double gapMm = 0;                 ///< to the closed panel
    std::size_t zone = 0;             ///< of Fins: the room between the fans and the fins
    bool outside = false;             ///< of Fins: a vent lies behind them
};

/// From a build to its network, one room of rules a file: compile_gaps, compile_openings, compile_fans,
/// compile_coolers, compile_loop, compile_supply.
class Compiler {
public:
    Compiler(const Build& build, const Conditions& conditions)
        : m_build(build), m_spec(build.caseSpec()), m_conditions(conditions) {}
    Compiled run();

private:
    /// A radiator with the room between it and its fans, by side of its axis (0: low, 1: high).
    struct RadiatorRooms {
        const Placed* placed = nullptr;
        std::array<std::vector<const Placed*>, 2> fans;
        std::array<std::size_t, 2> room{}; ///< zone, 0: no fans on that side
    };
    struct FanPatch {
        std::string opening;
        Rect rect;
    };
    /// A zone that a fan face blows into or draws from, with the share of the face that looks at it.
    struct End {
        std::size_t zone = 0;
        double share = 1;
    };

    // ---- where things are ----
    [[nodiscard]] double up(Axis axis, double atMm) const;
    [[nodiscard]] double upOf(const std::array<double, 3>& pointMm) const;
    [[nodiscard]] bool isLevel(Side side) const { return outward(side).axis == outward(m_build.down).axis; }
    /// Height along gravity of a rectangle on a side and the height of its middle, m.
    [[nodiscard]] std::pair<double, double> vertical(Side side, const Rect& rect) const;
    [[nodiscard]] std::size_t zoneOf(const Placed& p) const {
        return m_out.chamberZones[chamberAt(m_spec, centreOf(p))];
    }
    [[nodiscard]] std::size_t zoneNamed(const std::string& chamber) const;
    [[nodiscard]] bool isIdle(const std::string& mount) const;

    std::size_t addZone(std::string id, double crossM2);
    std::size_t addBranch(Branch branch);
    void addChambers();

    // ---- gaps before intakes ----
    void findGapParts();
    void addEdges(const GapPart& gap, double clearanceMm);
    /// What fans that stand in a gap leave of its clearance, mm.
    [[nodiscard]] double clearanceLeft(const Placed& p, Side side, const Rect& rect) const;
    [[nodiscard]] const GapPart* gapOf(const Placed& p) const;

    // ---- openings ----
    void addOpenings();
    struct Behind {
        std::size_t zone = 0;
        double share = 1;
        Rect rect;
    };
    [[nodiscard]] std::vector<Behind> behind(const Opening& o, const Rect& whole) const;
    void addPatch(const Opening& o, const Rect& rect, double areaM2, std::size_t from, std::size_t to,
                  std::vector<std::size_t>& out);
    [[nodiscard]] Resistance deskSlot(const Opening& o, double areaM2) const;
    /// Share of a rectangle on a side that parts standing right before it leave open.
    [[nodiscard]] double uncovered(Side side, const Rect& rect) const;

    // ---- case fans ----
    void addCaseFans();
    void addCaseFan(const Placed& p);
    [[nodiscard]] Before before(const Placed& p, int sign) const;
    [[nodiscard]] std::size_t chamberAhead(const Placed& p, std::size_t axis, int sign) const;
    [[nodiscard]] std::vector<End> endsAt(const Placed& p, int sign, const Before& there) const;
    [[nodiscard]] Obstacle obstacleBefore(const Placed& p, int sign, double frameMm) const;
    void followParts();
    void stopIdleFans();
    void sayStrangers();
    void follow(FanDrive& drive, const Placed& p);

    // ---- coolers and cards ----
    void addCooler(const Placed& p);
    void addCard(const Placed& p);
    void addCardOutlets(const Placed& p, std::size_t finZone, double edgeArea, bool jets);
    [[nodiscard]] const Placed* carriedBy(const Placed& p, PartKind kind) const;
    std::size_t addOwnFan(const Placed& p, const FanClass& fan, std::size_t part,
                          std::vector<std::pair<double, double>> curve);

    // ---- liquid loops ----
    void findRadiators();
    void addLoops();
    void addLoop(const LiquidLoop& of);
    [[nodiscard]] const RadiatorRooms& roomsOf(const Placed& radiator) const;
    [[nodiscard]] std::optional<CooledPart> dieUnder(const Placed& block);
    void addRadiator(const RadiatorRooms& radiator, CooledPart& loop);
    [[nodiscard]] bool hasBlock(const Placed& card) const;

    // ---- the supply, and what the air of a chamber alone cools ----
    void addParts();
    void addSupply(const Placed& p);
    void addPassive(const Placed& p);
    /// Drives that stand right before what a card blows out.
    void addBlownDrives();

    const Build& m_build;
    const CaseSpec& m_spec;
    Conditions m_conditions;
    Compiled m_out;
    Network& m_net = m_out.network;
    std::vector<GapPart> m_gaps;
    std::vector<RadiatorRooms> m_radiators;
    std::vector<FanPatch> m_fanPatches;
};

} // namespace core::air
