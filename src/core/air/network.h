// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/elements.h"
#include "core/model/facts.h"

#include <optional>
#include <string>
#include <vector>

namespace core::air {

/// A well-mixed air volume. Zone 0 is the outside. SI units, temperatures in °C.
struct Zone {
    std::string id;
    double uaWk = 0;           ///< conductance of the walls to the room
    double crossSectionM2 = 1; ///< smallest, for the air speed
    double heatW = 0;          ///< heat of parts without a cooler of their own
    double structureJk = 0;    ///< heat capacity of the structure (transient)
    double insideWk = 0;       ///< the two halves of uaWk (transient)
    double outsideWk = 0;
};

struct Branch {
    std::string id;
    std::size_t from = 0;
    std::size_t to = 0;
    Resistance resistance;
    double heightM = 0;             ///< along the direction of gravity, any common origin
    std::optional<std::size_t> fan; ///< index of the speed that drives it
    FanCurve curve;                 ///< pushes from -> to
};

/// Equal volumes both ways through one opening.
struct Exchange {
    std::size_t branch = 0;
    double areaM2 = 0;
    double k = 1.5;
    double c = 0;       ///< buoyant coefficient: 0.20 vertical, 0.07/sqrt(K) level, 0 for a slice of a tall panel
    double lengthM = 0; ///< D of the opening
    bool level = false; ///< exchanges by buoyancy only when the warmer zone lies below
    bool fromIsBelow = false;
};

enum class ControlSource { Fixed, Part, Supply };

/// One fan speed (a fan, or several that run alike).
struct FanDrive {
    std::string id;
    double ratedRpm = 0;
    double minShare = 0.20;
    ControlSource source = ControlSource::Fixed;
    double fixedDuty = 0.6;
    std::size_t part = 0;               ///< index into parts, for Part and Supply
    std::optional<std::size_t> passive; ///< for Part: index into the passive parts, followed instead
    bool ownFan = false;                ///< blows through the cooler of the part that carries it
    std::vector<std::pair<double, double>> curve;
    std::optional<double> startC; ///< zero-rpm fan: starts when the part passes this
    double stopK = 8;             ///< it stops when the part is that much cooler than at its start
    double hysteresisK = 0;       ///< it slows down only when the part is cooler by this much (transient)
    double heldShare = -1;        ///< >= 0: speed given from outside (logged)

    /// Share of rated speed that its curve asks for at a temperature, once it runs.
    [[nodiscard]] double dutyAt(double temperatureC) const;
};

/// A part with a cooler in an air stream.
struct CooledPart {
    std::string id;
    std::string name;
    std::string sink;       ///< what takes its heat: a part on the shelf
    std::size_t branch = 0; ///< the cooler branch
    std::size_t home = 0;   ///< zone around it
    double powerW = 0;
    double dieResistance = 0; ///< K/W between die and sink
    double gRefWk = 1;
    double qRefM3s = 0.01;
    double exponent = 0.6;
    double naturalWk = 0;
    double limitC = 1e9;
    double dieJk = 8;
    double sinkJk = 200;
    double clockMhz = 0; ///< at nominal power and 70 °C, 0: no clock
    double nominalW = 0;
    double clockExponent = facts::processorClock.exponent;
    double clockPerK = facts::processorClock.perK;
    double peakW = 0; ///< for the first @c peakS of a load (transient); 0: none
    double peakS = 0;
    bool isSupply = false;
    bool isProcessor = false;
    /// Another path of air that takes heat from the same sink: the radiators of a loop.
    struct Stream {
        std::size_t branch = 0;
        double gRefWk = 1;
        double qRefM3s = 0.01;
        double exponent = 0.6;
    };
    std::vector<Stream> streams; ///< of a loop; where there are any, @c branch and what belongs to it do not count
    std::optional<std::size_t> sinkOf; ///< another part whose sink takes its heat too: a second block of the loop
    double extraW = 0;                 ///< heat that goes into the sink besides: of a pump
    double boardShare = 0;             ///< of its power that goes past the sink, into the air about its board
    std::size_t boardZone = 0;
    /// What of a power goes into the sink, W.
    [[nodiscard]] double intoSink(double watts) const { return (1 - boardShare) * watts; }
};

/// A part cooled by the air of its zone alone.
struct PassivePart {
    std::string id;
    std::string name;
    std::size_t zone = 0;               ///< that takes its heat
    std::optional<std::size_t> blownBy; ///< whose air it stands in, where that is not its zone: what a card blows out
    double powerW = 0;
    double surfaceM2 = 0.01;
    double h0 = 10, h1 = 10;     ///< W/m²K, W/m²K per sqrt(m/s)
    double insideResistance = 0; ///< K/W
    double limitC = 1e9;
    double heatJk = 100;
    bool isRegulators = false; ///< 10 % of the processor's power
    /// The zone whose air is about it.
    [[nodiscard]] std::size_t airZone() const { return blownBy.value_or(zone); }
};

struct SupplyModel {
    std::optional<std::size_t> part; ///< index into parts
    double efficiency = 0.9;
    double ratedW = 600;
    double otherW = 25; ///< board, memory, fans, drives: all that is not a cooled part
};

struct Network {
    std::vector<Zone> zones; ///< [0] is the outside
    std::vector<Branch> branches;
    std::vector<Exchange> exchanges;
    std::vector<FanDrive> fans;
    std::vector<CooledPart> parts;
    std::vector<PassivePart> passive;
    SupplyModel supply;
    double roomC = 23;
    double pressurePa = 101325;
};

struct PartState {
    double temperatureC = 0; ///< die, or the body of a supply
    double sinkC = 0;
    double inletC = 0; ///< of several streams the mean, by what they carry off
    double powerW = 0;
    double forcedWk = 0;
    bool throttled = false;
    double clockMhz = 0;
};

struct Solution {
    bool converged = false;
    int outerIterations = 0;
    int newtonSteps = 0;
    std::vector<double> pressurePa;
    std::vector<double> temperatureC; ///< by zone
    std::vector<double> flowM3s;      ///< by branch
    std::vector<double> speed;        ///< by fan, share of rated
    std::vector<PartState> parts;
    std::vector<double> passiveC;
    std::vector<double> passiveW; ///< as it is in this state; of regulators it follows the processor
    double massResidual = 0;      ///< largest, kg/s
};

/// Steady state of flows, temperatures, powers and fan speeds. Never throws; converged is false when 400 outer
/// iterations were not enough. Method and limits: docs/model/air.md.
[[nodiscard]] Solution solve(const Network& network);
/// The same, from the solution of a network that differs in figures alone: a few iterations less. A fan that runs there
/// stays on.
[[nodiscard]] Solution solveFrom(const Network& network, const Solution& near);

/// Flows alone, for given zone temperatures and fan speeds; starts from the pressures in @p solution and ends when no
/// zone is off by more than @p residualKgs.
void solveFlows(const Network& network, Solution& solution, double residualKgs = 1e-12);

/// Air speed of a zone: half the flow through it over its smallest cross-section, m/s.
[[nodiscard]] std::vector<double> airSpeeds(const Network& network, const Solution& solution);
/// Conductance of each exchange, W/K.
[[nodiscard]] std::vector<double> exchangeConductance(const Network& network, const Solution& solution,
                                                      const std::vector<double>& speeds);
/// Clock a part holds at a power and temperature, MHz; 0 when it has none.
[[nodiscard]] double clockAt(const CooledPart& part, double powerW, double temperatureC);

} // namespace core::air
