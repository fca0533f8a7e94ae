// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/transient.h"

#include "core/air/thermal.h"

namespace core::air {
namespace {
constexpr double idleW = 12.0;
constexpr double dt = 1.0;
} // namespace

Transient::Transient(const Network& network, const Drive& drive) : m_net(network) {
    m_net.roomC = drive.roomC;
    Network idle = m_net;
    for (CooledPart& part : idle.parts)
        if (!part.isSupply)
            part.powerW = std::min(idleW, part.powerW);
    m_s = solve(idle);
    m_followedC.assign(m_net.fans.size(), m_net.roomC);
    m_limitShare.assign(m_net.parts.size(), 1.0);
    for (const double speed : m_s.speed)
        m_fanRunning.push_back(speed > 0);
    for (std::size_t i = 0; i < m_net.passive.size(); ++i)
        m_s.passiveC[i] -= m_s.passiveW[i] * m_net.passive[i].insideResistance; // the node is the surface
    m_structureC.assign(m_net.zones.size(), m_net.roomC);
    for (std::size_t k = 1; k < m_net.zones.size(); ++k) {
        const Zone& zone = m_net.zones[k];
        if (zone.insideWk > 0)
            m_structureC[k] =
                (zone.insideWk * m_s.temperatureC[k] + zone.outsideWk * m_net.roomC) / (zone.insideWk + zone.outsideWk);
    }
}

void Transient::holdFan(std::size_t fan, double share) { m_net.fans[fan].heldShare = share; }

double Transient::wantedPower(std::size_t i) const {
    const CooledPart& part = m_net.parts[i];
    if (part.isSupply)
        return supplyLossW(m_net, m_s);
    const double load = m_loadS < part.peakS ? std::max(part.powerW, part.peakW) : part.powerW;
    return (m_idle ? std::min(idleW, part.powerW) : load) * m_limitShare[i];
}

void Transient::step(const Drive& drive) {
    m_net.roomC = drive.roomC;
    m_s.temperatureC[0] = drive.roomC;
    stepFans();
    if (std::fmod(m_seconds, 5.0) < 0.5)
        solveFlows(m_net, m_s);
    stepAir();
    stepParts();
    stepSlowNodes();
    m_seconds += dt;
    m_loadS += m_idle ? 0 : dt;
}

double Transient::passiveReadingC(std::size_t i) const {
    return m_s.passiveC[i] + m_s.passiveW[i] * m_net.passive[i].insideResistance;
}

void Transient::stepFans() {
    constexpr double lagS = 4.0;
    for (std::size_t f = 0; f < m_net.fans.size(); ++f) {
        const FanDrive& fan = m_net.fans[f];
        double wanted = fan.fixedDuty;
        if (fan.heldShare >= 0) {
            wanted = fan.heldShare;
        } else if (fan.source == ControlSource::Supply) {
            wanted = supplyDuty(m_net, m_s, m_s.parts[fan.part].inletC);
            if (wanted > 0)
                wanted = std::max(wanted, fan.minShare);
        } else if (fan.source == ControlSource::Part) {
            const double t = fan.passive ? passiveReadingC(*fan.passive) : m_s.parts[fan.part].temperatureC;
            if (fan.startC) {
                if (t > *fan.startC)
                    m_fanRunning[f] = true;
                else if (t < *fan.startC - fan.stopK)
                    m_fanRunning[f] = false;
            } else {
                m_fanRunning[f] = true;
            }
            m_followedC[f] = std::clamp(m_followedC[f], t, t + fan.hysteresisK);
            wanted = m_fanRunning[f] ? fan.dutyAt(m_followedC[f]) : 0.0;
        }
        m_s.speed[f] += (wanted - m_s.speed[f]) * -std::expm1(-dt / lagS);
    }
}

void Transient::stepAir() {
    ZoneBalance balance = makeBalance(m_net, m_s, Walls::LeftOut);
    for (std::size_t k = 1; k < m_net.zones.size(); ++k)
        if (m_net.zones[k].insideWk > 0)
            balance.addSurface(k, m_net.zones[k].insideWk, m_structureC[k]);
    for (std::size_t i = 0; i < m_net.parts.size(); ++i) {
        const CooledPart& part = m_net.parts[i];
        balance.addHeat(part.boardZone, part.boardShare * m_s.parts[i].powerW);
        if (part.sinkOf)
            continue;
        eachStream(m_net, m_s, part, [&](const CoolerStream& stream) {
            balance.addHeat(stream.down, stream.forcedWk * m_s.parts[i].sinkC);
            balance.addTerm(stream.down, stream.up, -stream.forcedWk);
        });
        balance.addSurface(part.home, part.naturalWk, m_s.parts[i].sinkC);
    }
    const auto speeds = airSpeeds(m_net, m_s);
    for (std::size_t i = 0; i < m_net.passive.size(); ++i) {
        const PassivePart& part = m_net.passive[i];
        const double g = passiveConductance(part, speeds[part.zone]);
        balance.addHeat(part.zone, g * m_s.passiveC[i]);
        balance.addTerm(part.zone, part.airZone(), -g);
    }
    m_s.temperatureC = balance.solve();
}

/// Backward Euler on a sink and the dies on it, in half steps: each die follows from the sink, which leaves one
/// equation.
void Transient::stepSink(std::size_t owner) {
    constexpr double h = dt / 2; // a whole one lags 0.1 K behind while it warms fast
    const CooledPart& part = m_net.parts[owner];
    const SinkLosses losses = sinkLosses(m_net, m_s, part);
    double a = part.sinkJk / h + losses.wk;
    double b = part.sinkJk / h * m_s.parts[owner].sinkC + losses.towardsW + part.extraW;
    struct Row {
        std::size_t die;
        double g, a, b;
    };
    std::vector<Row> rows;
    eachDie(m_net, owner, [&](std::size_t d) {
        const CooledPart& die = m_net.parts[d];
        PartState& state = m_s.parts[d];
        state.powerW = wantedPower(d);
        const double g = 1.0 / std::max(1e-3, die.dieResistance), own = die.dieJk / h + g;
        const double right = die.dieJk / h * state.temperatureC + die.intoSink(state.powerW);
        rows.push_back({d, g, own, right});
        a += g - g * g / own;
        b += g * right / own;
    });
    const double sink = b / a;
    for (const Row& row : rows) {
        PartState& state = m_s.parts[row.die];
        state.sinkC = sink;
        state.temperatureC = (row.b + row.g * sink) / row.a;
        state.inletC = losses.inletC;
        state.forcedWk = losses.forcedWk;
    }
}

void Transient::stepParts() {
    for (std::size_t i = 0; i < m_net.parts.size(); ++i)
        for (int half = 0; half < 2 && !m_net.parts[i].sinkOf; ++half)
            stepSink(i);
    for (std::size_t i = 0; i < m_net.parts.size(); ++i) {
        const CooledPart& part = m_net.parts[i];
        PartState& state = m_s.parts[i];
        m_limitShare[i] = std::clamp(m_limitShare[i] - 0.004 * (state.temperatureC - part.limitC) * dt, 0.1, 1.0);
        state.throttled = m_limitShare[i] < 0.999;
        state.clockMhz = clockAt(part, state.powerW, state.temperatureC) * (m_idle ? 0.6 : 1.0);
    }
}

void Transient::stepSlowNodes() {
    for (std::size_t k = 1; k < m_net.zones.size(); ++k) {
        const Zone& zone = m_net.zones[k];
        if (zone.insideWk <= 0 || zone.structureJk <= 0)
            continue;
        const double sum = zone.insideWk + zone.outsideWk;
        const double target = (zone.insideWk * m_s.temperatureC[k] + zone.outsideWk * m_net.roomC) / sum;
        m_structureC[k] = target + (m_structureC[k] - target) * std::exp(-sum * dt / zone.structureJk);
    }
    const auto speeds = airSpeeds(m_net, m_s);
    double processorW = 0;
    for (std::size_t i = 0; i < m_net.parts.size(); ++i)
        if (m_net.parts[i].isProcessor)
            processorW += m_s.parts[i].powerW;
    for (std::size_t i = 0; i < m_net.passive.size(); ++i) {
        const PassivePart& part = m_net.passive[i];
        const double g = passiveConductance(part, speeds[part.zone]);
        const double power = part.isRegulators ? 0.1 * processorW : part.powerW;
        m_s.passiveW[i] = power;
        const double target = m_s.temperatureC[part.airZone()] + power / g;
        m_s.passiveC[i] = target + (m_s.passiveC[i] - target) * std::exp(-g * dt / part.heatJk);
    }
}

} // namespace core::air
