// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/thermal.h"

namespace core::air {

ZoneBalance::ZoneBalance(const Network& net, const Solution&) : m_roomC(net.roomC) {
    const auto n = static_cast<Eigen::Index>(net.zones.size()) - 1;
    m_matrix = Matrix::Zero(n, n);
    m_heat = Vector::Zero(n);
}

void ZoneBalance::addTerm(std::size_t k, std::size_t j, double coefficient) {
    if (k == 0)
        return;
    const auto row = static_cast<Eigen::Index>(k) - 1;
    if (j == 0)
        m_heat[row] += coefficient * m_roomC;
    else
        m_matrix(row, static_cast<Eigen::Index>(j) - 1) -= coefficient;
}

void ZoneBalance::addSurface(std::size_t k, double wk, double bodyC) {
    if (k == 0)
        return;
    addTerm(k, k, -wk);
    addHeat(k, wk * bodyC);
}

void ZoneBalance::addHeat(std::size_t k, double watts) {
    if (k != 0)
        m_heat[static_cast<Eigen::Index>(k) - 1] += watts;
}

std::vector<double> ZoneBalance::solve() const {
    const Vector t = m_matrix.partialPivLu().solve(m_heat);
    std::vector<double> result{m_roomC};
    result.insert(result.end(), t.begin(), t.end());
    return result;
}

ZoneBalance makeBalance(const Network& net, const Solution& s, Walls walls) {
    ZoneBalance balance(net, s);
    for (std::size_t b = 0; b < net.branches.size(); ++b) {
        const Branch& branch = net.branches[b];
        if (branch.from == branch.to)
            continue;
        const double q = s.flowM3s[b];
        const std::size_t up = q >= 0 ? branch.from : branch.to;
        const std::size_t down = q >= 0 ? branch.to : branch.from;
        const double stream = density(net.pressurePa, s.temperatureC[up]) * std::abs(q) * airHeat;
        balance.addTerm(down, up, stream);
        balance.addTerm(down, down, -stream);
    }
    const auto g = exchangeConductance(net, s, airSpeeds(net, s));
    for (std::size_t i = 0; i < g.size(); ++i) {
        const Branch& branch = net.branches[net.exchanges[i].branch];
        balance.addTerm(branch.from, branch.to, g[i]);
        balance.addTerm(branch.from, branch.from, -g[i]);
        balance.addTerm(branch.to, branch.from, g[i]);
        balance.addTerm(branch.to, branch.to, -g[i]);
    }
    for (std::size_t k = 1; k < net.zones.size(); ++k) {
        if (walls == Walls::Included)
            balance.addSurface(k, net.zones[k].uaWk, net.roomC);
        balance.addHeat(k, net.zones[k].heatW);
    }
    return balance;
}

double forcedAt(const Network& net, const Solution& s, const CooledPart& part, double flowM3s) {
    const Branch& branch = net.branches[part.branch];
    const std::size_t up = flowM3s >= 0 ? branch.from : branch.to;
    const double q = std::abs(flowM3s);
    const double stream = density(net.pressurePa, s.temperatureC[up]) * airHeat * q;
    return forcedConductance(stream, part.gRefWk * std::pow(q / part.qRefM3s, part.exponent));
}

CoolerStream coolerStream(const Network& net, const Solution& s, const CooledPart& part) {
    const Branch& branch = net.branches[part.branch];
    const double q = s.flowM3s[part.branch];
    return {q >= 0 ? branch.from : branch.to, q >= 0 ? branch.to : branch.from, forcedAt(net, s, part, q)};
}

double passiveConductance(const PassivePart& part, double speedMs) {
    return part.surfaceM2 * (part.h0 + part.h1 * std::sqrt(std::max(0.0, speedMs)));
}

double supplyLoadW(const Network& net, const Solution& s) {
    double sum = net.supply.otherW;
    for (std::size_t i = 0; i < net.parts.size(); ++i)
        if (!net.parts[i].isSupply)
            sum += s.parts[i].powerW;
    return sum;
}

double supplyLossW(const Network& net, const Solution& s) {
    return supplyLoadW(net, s) * (1.0 / net.supply.efficiency - 1.0);
}

} // namespace core::air
