// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/network.h"

#include <Eigen/Dense>

namespace core::air {

/// The zone heat balance: one row per inner zone, upwind, so that the matrix is an M-matrix and its solution unique.
/// Outside enters through its known temperature.
class ZoneBalance {
public:
    ZoneBalance(const Network& net, const Solution& s);

    /// A conductance between zone @p k and a body of temperature @p bodyC.
    void addSurface(std::size_t k, double wk, double bodyC);
    void addHeat(std::size_t k, double watts);
    /// Row @p k gains coefficient * T(zone j); the outside is moved to the right-hand side.
    void addTerm(std::size_t k, std::size_t j, double coefficient);
    /// Temperatures of all zones; the outside is the room.
    [[nodiscard]] std::vector<double> solve() const;

private:
    using Matrix = Eigen::MatrixXd;
    using Vector = Eigen::VectorXd;
    double m_roomC;
    Matrix m_matrix; // sum of outgoing coefficients, so that matrix * T = heat
    Vector m_heat;
};

/// Where the air of a cooler comes from and goes to, by the sign of its flow.
struct CoolerStream {
    std::size_t up = 0, down = 0;
    double forcedWk = 0;
};
[[nodiscard]] CoolerStream coolerStream(const Network& net, const Solution& s, const CooledPart& part);
[[nodiscard]] CoolerStream coolerStream(const Network& net, const Solution& s, const CooledPart::Stream& stream);
/// Each stream that takes heat from the sink of a part.
template <typename Visit>
void eachStream(const Network& net, const Solution& s, const CooledPart& part, Visit&& visit) {
    if (part.sinkOf)
        return;
    if (part.streams.empty())
        return visit(coolerStream(net, s, part));
    for (const CooledPart::Stream& stream : part.streams)
        visit(coolerStream(net, s, stream));
}
/// The parts whose heat goes into the sink of part @p i: itself, and other blocks of its loop.
template <typename Visit> void eachDie(const Network& net, std::size_t i, Visit&& visit) {
    for (std::size_t d = 0; d < net.parts.size(); ++d)
        if (d == i || net.parts[d].sinkOf == i)
            visit(d);
}
/// What leaves a sink and where to: sum of conductances, and of conductance times temperature of the air, W.
struct SinkLosses {
    double forcedWk = 0, wk = 0, towardsW = 0;
    double inletC = 0; ///< mean of the streams by what they take
};
[[nodiscard]] SinkLosses sinkLosses(const Network& net, const Solution& s, const CooledPart& part);
/// The same at another flow, m³/s.
[[nodiscard]] double forcedAt(const Network& net, const Solution& s, const CooledPart& part, double flowM3s);

/// Walls and structure, exchanges and flows are in the balance; @p useWalls is off when a structure node stands for
/// them.
enum class Walls { Included, LeftOut };
[[nodiscard]] ZoneBalance makeBalance(const Network& net, const Solution& s, Walls walls);

/// Conductance of a passive part to its zone at the air speed of that zone, W/K.
[[nodiscard]] double passiveConductance(const PassivePart& part, double speedMs);
/// Powers that depend on others: regulators and the loss of the supply.
[[nodiscard]] double supplyLossW(const Network& net, const Solution& s);
[[nodiscard]] double supplyLoadW(const Network& net, const Solution& s);
/// What the fan of the supply wants: the larger of what its load and its inlet ask for.
[[nodiscard]] double supplyDuty(const Network& net, const Solution& s, double inletC);

/// What goes in and comes out of the whole box: equal but for rounding, or the solve is wrong.
struct Books {
    double heatInW = 0, heatOutW = 0;
    double massKgs = 0; ///< largest that any room is off by
};
[[nodiscard]] Books booksOf(const Network& network, const Solution& solution);

} // namespace core::air
