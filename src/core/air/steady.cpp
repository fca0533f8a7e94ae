// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/thermal.h"

namespace core::air {
namespace {

/// A scalar that follows its wanted value, with steps that shrink while it swings and recover while it does not.
struct Relaxed {
    double value = 0;
    double weight = 1;
    int swings = 0;
    double last = 0;

    double towards(double wanted) {
        const double change = wanted - value;
        if (change * last < 0) {
            weight = std::max(0.02, 0.6 * weight);
            ++swings;
        } else {
            weight = std::min(1.0, weight * (1.0 + 1.0 / (1.0 + swings)));
        }
        last = change;
        value += weight * change;
        return std::abs(change);
    }
};

/// Where a falling function crosses zero between @p low and @p high, to @p close; an end where it does not cross.
/// Regula falsi that halves the weight of an end which stays (the Illinois rule), from a guess.
template <typename F> double crossing(F&& f, double low, double high, double guess, double close) {
    double x = std::clamp(guess, low, high);
    if (x > low && x < high) { // most often it is where it was
        const double y = f(x);
        if (std::abs(y) < close)
            return x;
    }
    double atLow = f(low), atHigh = f(high);
    if (atLow <= 0)
        return low;
    if (atHigh >= 0)
        return high;
    int side = 0;
    for (int step = 0; step < 60; ++step) {
        const double y = f(x);
        if (std::abs(y) < close)
            return x;
        if (y > 0) {
            low = x;
            atLow = y;
            atHigh *= side == 1 ? 0.5 : 1;
            side = 1;
        } else {
            high = x;
            atHigh = y;
            atLow *= side == -1 ? 0.5 : 1;
            side = -1;
        }
        if (high - low < close)
            break;
        x = low + (high - low) * atLow / (atLow - atHigh);
    }
    return 0.5 * (low + high);
}

class SteadySolver {
public:
    explicit SteadySolver(const Network& net) : m_net(net) { start(); }
    SteadySolver(const Network& net, const Solution& near) : m_net(net) {
        start();
        startFrom(near);
    }

    Solution run() {
        constexpr int limit = 400;
        bool settled = m_warm;
        double error = m_warm ? 1.0 : 1e9;
        const double enough = m_warm ? 1e-2 : 1e-3; // what is solved from near is a difference of kelvins
        for (m_s.outerIterations = 1; m_s.outerIterations <= limit; ++m_s.outerIterations) {
            // While temperatures still move, flows that are right to a millionth are as good as exact ones.
            const bool exact = error < 0.01;
            solveFlows(m_net, m_s, exact ? 1e-12 : 1e-8);
            m_close = std::clamp(1e-4 * error, 1e-6, 1e-3); // so it is with the speeds of fans
            error = stepZones();
            error = std::max(error, stepParts());
            error = std::max(error, stepOwnFans());
            error = std::max(error, stepOtherFans(settled));
            error = std::max(error, stepPowers());
            if (error < enough && settled && exact) {
                m_s.converged = true;
                break;
            }
            settled = error < 2.0;
        }
        finish();
        return std::move(m_s);
    }

private:
    void start();
    void startFrom(const Solution& near);
    double stepZones();
    double stepParts();
    double stepOwnFans();
    double stepOtherFans(bool settled);
    double stepPowers();
    /// A fan has started: how things swung without it says nothing of how they swing with it.
    void forgetSwings() {
        for (auto* all : {&m_zone, &m_part, &m_speed, &m_power})
            for (Relaxed& r : *all)
                r = {.value = r.value};
    }
    void finish();
    void addPart(ZoneBalance& balance, std::size_t i);
    [[nodiscard]] double sinkC(std::size_t i, std::size_t free, const SinkLosses& losses) const;
    [[nodiscard]] double fullPower(std::size_t i) const {
        return m_net.parts[i].isSupply ? m_s.parts[i].powerW : m_net.parts[i].powerW;
    }
    [[nodiscard]] bool isDirect(const FanDrive& fan) const;
    [[nodiscard]] double followed(const FanDrive& fan, const std::vector<double>& speeds) const;
    [[nodiscard]] double passivePower(std::size_t i) const;
    [[nodiscard]] double passiveTemperature(std::size_t i, const std::vector<double>& speeds) const;

    const Network& m_net;
    Solution m_s;
    std::vector<Relaxed> m_zone, m_part, m_speed, m_power;
    std::vector<bool> m_throttled, m_running;
    bool m_warm = false;
    double m_close = 1e-6; ///< to which the speed of a fan that blows through its own cooler is found
    std::vector<double> m_regulatorsW;
    std::vector<CoolerStream> m_streams; ///< of the part at hand
};

void SteadySolver::start() {
    m_s.pressurePa.assign(m_net.zones.size(), 0.0);
    m_s.temperatureC.assign(m_net.zones.size(), m_net.roomC);
    m_s.flowM3s.assign(m_net.branches.size(), 0.0);
    m_s.parts.resize(m_net.parts.size());
    m_s.passiveC.assign(m_net.passive.size(), m_net.roomC);
    m_zone.assign(m_net.zones.size(), Relaxed{.value = m_net.roomC});
    m_throttled.assign(m_net.parts.size(), false);
    for (const CooledPart& part : m_net.parts) {
        m_part.push_back({.value = m_net.roomC});
        m_power.push_back({.value = part.powerW});
    }
    for (std::size_t i = 0; i < m_net.parts.size(); ++i) {
        m_s.parts[i].powerW = m_net.parts[i].powerW;
        m_s.parts[i].temperatureC = m_net.roomC;
    }
    for (const FanDrive& fan : m_net.fans) {
        const bool waits = fan.startC.has_value() || fan.source == ControlSource::Supply;
        double share = fan.source == ControlSource::Fixed
                           ? (fan.fixedDuty > 0 ? std::clamp(fan.fixedDuty, fan.minShare, 1.0) : 0.0)
                       : waits ? 0.0
                               : 0.5;
        if (fan.heldShare >= 0)
            share = fan.heldShare;
        m_speed.push_back({.value = share});
        m_running.push_back(!waits);
        m_s.speed.push_back(share);
    }
}

void SteadySolver::startFrom(const Solution& near) {
    m_warm = true;
    m_s.pressurePa = near.pressurePa;
    m_s.temperatureC = near.temperatureC;
    m_s.temperatureC[0] = m_net.roomC;
    for (std::size_t k = 1; k < m_zone.size(); ++k)
        m_zone[k].value = near.temperatureC[k];
    for (std::size_t i = 0; i < m_part.size(); ++i) {
        m_s.parts[i] = near.parts[i];
        m_part[i].value = near.parts[i].temperatureC;
        m_power[i].value = near.parts[i].powerW;
        m_throttled[i] = near.parts[i].throttled;
    }
    for (std::size_t f = 0; f < m_speed.size(); ++f) {
        const FanDrive& fan = m_net.fans[f];
        if (fan.heldShare >= 0 || fan.source == ControlSource::Fixed)
            continue;
        m_speed[f].value = m_s.speed[f] = near.speed[f];
        m_running[f] = near.speed[f] > 0 || !(fan.startC.has_value() || fan.source == ControlSource::Supply);
    }
    m_regulatorsW = near.passiveW;
}

/// A sink hands out what its dies put in; a throttled die is held at its limit, and puts in what the sink takes from a
/// body at that temperature. Both are linear in the temperatures of the air.
void SteadySolver::addPart(ZoneBalance& balance, std::size_t i) {
    const CooledPart& part = m_net.parts[i];
    if (part.sinkOf)
        return;
    double into = part.extraW, held = 0;
    eachDie(m_net, i, [&](std::size_t d) {
        const CooledPart& die = m_net.parts[d];
        if (!m_throttled[d]) {
            into += die.intoSink(m_s.parts[d].powerW);
            return;
        }
        const double g = 1.0 / std::max(1e-6, die.dieResistance);
        held += g;
        into += g * die.limitC;
    });
    m_streams.clear(); // each is gone through several times
    double sum = held + part.naturalWk;
    eachStream(m_net, m_s, part, [&](const CoolerStream& stream) {
        m_streams.push_back(stream);
        sum += stream.forcedWk;
    });
    sum = std::max(1e-9, sum);
    // To a zone: the conductance times how much warmer the sink is, with the sink written out.
    const auto handOut = [&](std::size_t row, std::size_t air, double wk) {
        balance.addHeat(row, wk * into / sum);
        balance.addTerm(row, part.home, wk * part.naturalWk / sum);
        for (const CoolerStream& other : m_streams)
            balance.addTerm(row, other.up, wk * other.forcedWk / sum);
        balance.addTerm(row, air, -wk);
    };
    for (const CoolerStream& stream : m_streams)
        handOut(stream.down, stream.up, stream.forcedWk);
    handOut(part.home, part.home, part.naturalWk);
}

double SteadySolver::stepZones() {
    ZoneBalance balance = makeBalance(m_net, m_s, Walls::Included);
    for (std::size_t i = 0; i < m_net.parts.size(); ++i) {
        addPart(balance, i);
        const CooledPart& part = m_net.parts[i];
        balance.addHeat(part.boardZone, part.boardShare * m_s.parts[i].powerW);
    }
    for (const PassivePart& part : m_net.passive)
        balance.addHeat(part.zone, part.isRegulators ? 0.0 : part.powerW);
    for (std::size_t i = 0; i < m_net.passive.size(); ++i)
        if (m_net.passive[i].isRegulators)
            balance.addHeat(m_net.passive[i].zone, m_regulatorsW.empty() ? m_net.passive[i].powerW : m_regulatorsW[i]);
    const auto wanted = balance.solve();
    double error = 0;
    for (std::size_t k = 1; k < wanted.size(); ++k) {
        error = std::max(error, m_zone[k].towards(wanted[k]));
        m_s.temperatureC[k] = m_zone[k].value;
    }
    return error;
}

/// Temperature of a sink when die @p free is not held back: all others are as they are.
double SteadySolver::sinkC(std::size_t i, std::size_t free, const SinkLosses& losses) const {
    double into = m_net.parts[i].extraW + losses.towardsW, sum = losses.wk;
    eachDie(m_net, i, [&](std::size_t d) {
        const CooledPart& die = m_net.parts[d];
        if (d == free || !m_throttled[d]) {
            into += die.intoSink(d == free ? fullPower(d) : m_s.parts[d].powerW);
            return;
        }
        const double g = 1.0 / std::max(1e-6, die.dieResistance);
        into += g * die.limitC;
        sum += g;
    });
    return into / std::max(1e-9, sum);
}

double SteadySolver::stepParts() {
    double error = 0;
    for (std::size_t i = 0; i < m_net.parts.size(); ++i) {
        const CooledPart& part = m_net.parts[i];
        const std::size_t owner = part.sinkOf.value_or(i);
        PartState& state = m_s.parts[i];
        const SinkLosses losses = sinkLosses(m_net, m_s, m_net.parts[owner]);
        const double full = fullPower(i), freeSink = sinkC(owner, i, losses);
        const double freeDie = freeSink + part.intoSink(full) * part.dieResistance;
        m_throttled[i] = !part.isSupply && freeDie > part.limitC;
        state.inletC = losses.inletC;
        state.forcedWk = losses.forcedWk;
        state.throttled = m_throttled[i];
        double wantedPower = full;
        if (m_throttled[i]) {
            const double g = 1.0 / std::max(1e-6, part.dieResistance);
            state.sinkC = sinkC(owner, m_net.parts.size(), losses);
            wantedPower = std::clamp(g * (part.limitC - state.sinkC) / part.intoSink(1), 0.0, full);
            error = std::max(error, m_part[i].towards(part.limitC));
        } else {
            state.sinkC = freeSink;
            error = std::max(error, m_part[i].towards(freeDie));
        }
        if (!part.isSupply) {
            error = std::max(error, 0.3 * m_power[i].towards(wantedPower));
            state.powerW = m_power[i].value;
        }
        state.temperatureC = m_part[i].value;
    }
    return error;
}

/// Blows through the cooler of the part it follows: its speed and that temperature are solved together.
bool SteadySolver::isDirect(const FanDrive& fan) const {
    const std::size_t f = static_cast<std::size_t>(&fan - m_net.fans.data());
    return fan.ownFan && !fan.passive && m_net.branches[m_net.parts[fan.part].branch].fan == f;
}

double SteadySolver::followed(const FanDrive& fan, const std::vector<double>& speeds) const {
    return fan.passive ? passiveTemperature(*fan.passive, speeds) : m_s.parts[fan.part].temperatureC;
}

double SteadySolver::passivePower(std::size_t i) const {
    const PassivePart& part = m_net.passive[i];
    return part.isRegulators && !m_regulatorsW.empty() ? m_regulatorsW[i] : part.powerW;
}

double SteadySolver::passiveTemperature(std::size_t i, const std::vector<double>& speeds) const {
    const PassivePart& part = m_net.passive[i];
    const double power = passivePower(i);
    return m_s.temperatureC[part.airZone()] + power / passiveConductance(part, speeds[part.zone]) +
           power * part.insideResistance;
}

double SteadySolver::stepOwnFans() {
    double error = 0;
    for (std::size_t f = 0; f < m_net.fans.size(); ++f) {
        const FanDrive& fan = m_net.fans[f];
        if (fan.source != ControlSource::Part || fan.heldShare >= 0 || !m_running[f] || !isDirect(fan))
            continue;
        const CooledPart& part = m_net.parts[fan.part];
        const PartState& state = m_s.parts[fan.part];
        const double q = m_s.flowM3s[part.branch];
        const double perSpeed =
            m_s.speed[f] > 0.01 ? q / m_s.speed[f] : 0.6 * m_net.branches[part.branch].curve.freeFlowM3s;
        const auto dieAt = [&](double speed) {
            const double forced = forcedAt(m_net, m_s, part, perSpeed * speed);
            const double total = std::max(1e-9, forced + part.naturalWk);
            const double watts = part.intoSink(part.powerW);
            const double sink = (watts + forced * state.inletC + part.naturalWk * m_s.temperatureC[part.home]) / total;
            return std::min(sink + watts * part.dieResistance, part.limitC);
        };
        const double wanted = crossing([&](double speed) { return fan.dutyAt(dieAt(speed)) - speed; }, fan.minShare,
                                       1.0, m_speed[f].value, m_close);
        error = std::max(error, 10.0 * m_speed[f].towards(wanted));
        m_s.speed[f] = m_speed[f].value;
    }
    return error;
}

double SteadySolver::stepOtherFans(bool settled) {
    double error = 0;
    std::vector<double> speeds;
    if (std::any_of(m_net.fans.begin(), m_net.fans.end(), [](const FanDrive& f) { return f.passive.has_value(); }))
        speeds = airSpeeds(m_net, m_s);
    for (std::size_t f = 0; f < m_net.fans.size(); ++f) {
        const FanDrive& fan = m_net.fans[f];
        if (fan.heldShare >= 0 || fan.source == ControlSource::Fixed)
            continue;
        double wanted = 0;
        if (fan.source == ControlSource::Supply) {
            wanted = supplyDuty(m_net, m_s, m_s.parts[fan.part].inletC);
            if (wanted <= 0 && !m_running[f])
                continue;
            if (!m_running[f] && !settled)
                continue; // the first iterations would start it on air that is not warm yet
            if (!m_running[f])
                forgetSwings();
            m_running[f] = true;
            wanted = std::clamp(wanted, fan.minShare, 1.0);
        } else {
            if (!m_running[f]) {
                if (!settled || followed(fan, speeds) <= fan.startC.value_or(-1e9))
                    continue;
                forgetSwings();
                m_running[f] = true; // latched: a steady solve does not hunt at the switch point
                error = std::max(error, 2.0);
            }
            if (isDirect(fan))
                continue;
            wanted = fan.dutyAt(followed(fan, speeds));
        }
        error = std::max(error, 10.0 * m_speed[f].towards(wanted));
        m_s.speed[f] = m_speed[f].value;
    }
    return error;
}

double SteadySolver::stepPowers() {
    double error = 0;
    double processorW = 0;
    for (std::size_t i = 0; i < m_net.parts.size(); ++i) {
        if (m_net.parts[i].isProcessor)
            processorW += m_s.parts[i].powerW;
        if (m_net.parts[i].isSupply) {
            error = std::max(error, 0.3 * m_power[i].towards(supplyLossW(m_net, m_s)));
            m_s.parts[i].powerW = m_power[i].value;
        }
    }
    m_regulatorsW.assign(m_net.passive.size(), 0.1 * processorW);
    return error;
}

void SteadySolver::finish() {
    const auto speeds = airSpeeds(m_net, m_s);
    for (std::size_t i = 0; i < m_net.passive.size(); ++i) {
        m_s.passiveW.push_back(passivePower(i));
        m_s.passiveC[i] = passiveTemperature(i, speeds);
    }
    for (std::size_t i = 0; i < m_net.parts.size(); ++i)
        m_s.parts[i].clockMhz = clockAt(m_net.parts[i], m_s.parts[i].powerW, m_s.parts[i].temperatureC);
    m_s.outerIterations = std::min(m_s.outerIterations, 400);
}

} // namespace

Solution solve(const Network& network) { return SteadySolver(network).run(); }
Solution solveFrom(const Network& network, const Solution& near) { return SteadySolver(network, near).run(); }

} // namespace core::air
