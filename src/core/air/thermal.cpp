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

namespace {

double forcedThrough(const Network& net, const Solution& s, const CooledPart::Stream& stream, double flowM3s) {
    const Branch& branch = net.branches[stream.branch];
    const std::size_t up = flowM3s >= 0 ? branch.from : branch.to;
    const double q = std::abs(flowM3s);
    const double carried = density(net.pressurePa, s.temperatureC[up]) * airHeat * q;
    return forcedConductance(carried, stream.gRefWk * std::pow(q / stream.qRefM3s, stream.exponent));
}

CooledPart::Stream ownStream(const CooledPart& part) { return {part.branch, part.gRefWk, part.qRefM3s, part.exponent}; }

} // namespace

double forcedAt(const Network& net, const Solution& s, const CooledPart& part, double flowM3s) {
    return forcedThrough(net, s, ownStream(part), flowM3s);
}

CoolerStream coolerStream(const Network& net, const Solution& s, const CooledPart::Stream& stream) {
    const Branch& branch = net.branches[stream.branch];
    const double q = s.flowM3s[stream.branch];
    return {q >= 0 ? branch.from : branch.to, q >= 0 ? branch.to : branch.from, forcedThrough(net, s, stream, q)};
}

CoolerStream coolerStream(const Network& net, const Solution& s, const CooledPart& part) {
    return coolerStream(net, s, ownStream(part));
}

SinkLosses sinkLosses(const Network& net, const Solution& s, const CooledPart& part) {
    SinkLosses losses{.wk = part.naturalWk, .towardsW = part.naturalWk * s.temperatureC[part.home]};
    double inlets = 0, streams = 0;
    eachStream(net, s, part, [&](const CoolerStream& stream) {
        const double up = s.temperatureC[stream.up];
        losses.forcedWk += stream.forcedWk;
        losses.towardsW += stream.forcedWk * up;
        inlets += up;
        ++streams;
        losses.inletC += stream.forcedWk * up;
    });
    losses.wk += losses.forcedWk;
    // Where nothing is carried off it is what stands before the fins.
    losses.inletC = losses.forcedWk > 1e-12 ? losses.inletC / losses.forcedWk
                    : streams > 0           ? inlets / streams
                                            : s.temperatureC[part.home];
    return losses;
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

double supplyDuty(const Network& net, const Solution& s, double inletC) {
    static constexpr std::array<std::pair<double, double>, 5> byLoad{{{0, 0}, {.25, 0}, {.35, .28}, {.6, .45}, {1, 1}}};
    static constexpr std::array<std::pair<double, double>, 4> byInlet{{{25, 0}, {35, 0}, {45, .35}, {60, 1}}};
    return std::max(interpolate(byLoad, supplyLoadW(net, s) / net.supply.ratedW), interpolate(byInlet, inletC));
}

double supplyLossW(const Network& net, const Solution& s) {
    return supplyLoadW(net, s) * (1.0 / net.supply.efficiency - 1.0);
}

double FanDrive::dutyAt(double temperatureC) const {
    const double duty = interpolate(curve, temperatureC);
    return duty <= 0 && !startC ? 0.0 : std::clamp(duty, minShare, 1.0);
}

Books booksOf(const Network& net, const Solution& s) {
    Books books{.massKgs = s.massResidual};
    for (const Zone& zone : net.zones)
        books.heatInW += zone.heatW;
    for (const double watts : s.passiveW)
        books.heatInW += watts;
    const double room = net.roomC;
    for (std::size_t i = 0; i < net.parts.size(); ++i) {
        books.heatInW += s.parts[i].powerW + net.parts[i].extraW;
        eachStream(net, s, net.parts[i], [&](const CoolerStream& stream) { // straight out, past every room
            if (stream.down == 0)
                books.heatOutW += stream.forcedWk * (s.parts[i].sinkC - s.temperatureC[stream.up]);
        });
    }
    for (std::size_t b = 0; b < net.branches.size(); ++b) {
        const Branch& branch = net.branches[b];
        const std::size_t up = s.flowM3s[b] >= 0 ? branch.from : branch.to,
                          down = s.flowM3s[b] >= 0 ? branch.to : branch.from;
        if (up != down && down == 0)
            books.heatOutW += density(net.pressurePa, s.temperatureC[up]) * std::abs(s.flowM3s[b]) * airHeat *
                              (s.temperatureC[up] - room);
    }
    for (std::size_t k = 1; k < net.zones.size(); ++k)
        books.heatOutW += net.zones[k].uaWk * (s.temperatureC[k] - room);
    const auto conductance = exchangeConductance(net, s, airSpeeds(net, s));
    for (std::size_t x = 0; x < net.exchanges.size(); ++x) {
        const Branch& branch = net.branches[net.exchanges[x].branch];
        if (branch.from == 0 || branch.to == 0)
            books.heatOutW += conductance[x] * (s.temperatureC[branch.from == 0 ? branch.to : branch.from] - room);
    }
    return books;
}

} // namespace core::air
