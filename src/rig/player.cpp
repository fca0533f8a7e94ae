// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/player.h"

#include "core/air/bands.h"
#include "core/base/text.h"

namespace rig {
namespace {

core::air::Drive driveOf(const Script& s, double second) {
    return {s.conditions.roomC + s.roomDriftKh * second / 3600};
}

std::string shortName(const std::string& mount) {
    std::string name;
    for (const char c : mount)
        name += core::isAsciiAlnum(c) ? c : '_';
    return name;
}

/// One number for a name, the same on every machine (FNV-1a).
unsigned numberOf(std::string_view name) {
    std::uint32_t hash = 2166136261U;
    for (const char c : name)
        hash = (hash ^ static_cast<unsigned char>(c)) * 16777619U;
    return hash;
}

core::air::Compiled machineOf(const core::Build& build, const Script& script) {
    core::air::Compiled machine = core::air::compile(build, script.conditions);
    if (script.machine == 0)
        return machine;
    for (const core::air::Input& input : core::air::inputsOf(build, machine)) {
        if (input.id == "room") // it is as the script says
            continue;
        std::mt19937 random(script.machine ^ numberOf(input.id));
        input.move(machine.network, std::normal_distribution<double>()(random));
    }
    return machine;
}

} // namespace

core::Result<Fault> parseFault(std::string_view text) {
    const auto wrong = [&] {
        return core::problem("fault \"" + std::string(text) + "\"", "is not understood",
                             "dropout@300+10:cpu_c, stuck@400+60:card_c, spike@200:cpu_c or disconnect@900");
    };
    const auto at = text.find('@');
    if (at == std::string_view::npos)
        return wrong();
    Fault f;
    const std::string_view word = text.substr(0, at);
    if (word == "dropout")
        f.kind = FaultKind::DropOut;
    else if (word == "stuck")
        f.kind = FaultKind::Stuck;
    else if (word == "disconnect")
        f.kind = FaultKind::Disconnect;
    else if (word == "spike")
        f.kind = FaultKind::Spike;
    else
        return wrong();
    std::string_view rest = text.substr(at + 1);
    if (const auto colon = rest.find(':'); colon != std::string_view::npos) {
        f.channel = std::string(rest.substr(colon + 1));
        rest = rest.substr(0, colon);
    }
    const auto plus = rest.find('+');
    const auto number = [](std::string_view s, double& v) {
        const auto found = core::numberFrom(s);
        v = found.value_or(0);
        return found.has_value();
    };
    if (!number(rest.substr(0, plus), f.fromS) ||
        (plus != std::string_view::npos && !number(rest.substr(plus + 1), f.lengthS)))
        return wrong();
    if (f.kind == FaultKind::Spike && plus == std::string_view::npos)
        f.lengthS = 1;
    return f;
}

Player::Player(const core::Build& build, Script script)
    : m_build(build), m_script(std::move(script)), m_compiled(machineOf(m_build, m_script)),
      m_model(m_compiled.network, driveOf(m_script, 0)), m_random(m_script.seed) {
    using core::ChannelKind;
    for (const auto& part : m_compiled.network.parts)
        if (!part.isSupply)
            addChannel(ChannelKind::Temperature, part.isProcessor ? "cpu_c" : shortName(part.id) + "_c", part.id,
                       part.isProcessor ? 0.125 : 0.5, 0.35);
    for (const auto& part : m_compiled.network.passive)
        if (const core::Placed* p = m_build.at(part.id); p && p->part->kind == core::PartKind::Drive)
            addChannel(ChannelKind::Temperature, shortName(part.id) + "_c", part.id, 0.5, 0.3);
    addChannel(ChannelKind::Ambient, "room_c", "", 0.1, 0.05);
    for (const auto& fan : m_compiled.fans) {
        m_fanIds.push_back(fan.mount);
        addChannel(ChannelKind::Rpm, shortName(fan.mount) + "_rpm", fan.mount, 1, 6);
    }
    for (const auto& part : m_compiled.network.parts)
        if (part.clockMhz > 0)
            addChannel(ChannelKind::Clock, part.isProcessor ? "cpu_mhz" : shortName(part.id) + "_mhz", part.id, 1, 8);
    addChannel(ChannelKind::Power, "power_w", "", 0.1, 0.6);
    addChannel(ChannelKind::Level, "level_dba", "", 0.1, 0.25);
}

void Player::addChannel(core::ChannelKind kind, const std::string& name, const std::string& subject, double quantum,
                        double sd) {
    m_channels.push_back({name, std::string(core::channelUnit(kind)), kind, subject, {}});
    m_sensors.push_back({.quantum = quantum, .sd = sd * m_script.noise});
}

std::vector<double> Player::trueValues() {
    std::vector<double> v;
    const auto& net = m_compiled.network;
    const auto& s = m_model.state();
    for (std::size_t i = 0; i < net.parts.size(); ++i)
        if (!net.parts[i].isSupply)
            v.push_back(s.parts[i].temperatureC);
    for (std::size_t i = 0; i < net.passive.size(); ++i)
        if (const core::Placed* p = m_build.at(net.passive[i].id); p && p->part->kind == core::PartKind::Drive)
            v.push_back(m_model.passiveReadingC(i));
    v.push_back(driveOf(m_script, m_second).roomC);
    for (const auto& fan : m_compiled.fans)
        v.push_back(s.speed[fan.fan] * net.fans[fan.fan].ratedRpm);
    double power = net.supply.otherW;
    for (std::size_t i = 0; i < net.parts.size(); ++i) {
        if (net.parts[i].clockMhz > 0)
            v.push_back(s.parts[i].clockMhz);
        if (!net.parts[i].isSupply)
            power += s.parts[i].powerW;
    }
    v.push_back(power);
    const auto prediction = core::air::summarise(m_build, m_script.conditions, m_compiled, s);
    const auto noise = core::acoustics::noiseOf(m_build, prediction, m_script.listenerM);
    v.push_back(core::acoustics::sumLevels({noise.sources.empty() ? -100.0 : noise.totalDba, m_script.backgroundDba}));
    return v;
}

bool Player::faulty(FaultKind kind, const std::string& channel) const {
    return std::any_of(m_script.faults.begin(), m_script.faults.end(), [&](const Fault& f) {
        return f.kind == kind && m_second >= f.fromS && m_second < f.fromS + f.lengthS &&
               (f.channel.empty() || f.channel == channel);
    });
}

bool Player::disconnected() const {
    return std::any_of(m_script.faults.begin(), m_script.faults.end(),
                       [&](const Fault& f) { return f.kind == FaultKind::Disconnect && m_second >= f.fromS; });
}

Player::Row Player::next() {
    m_model.setIdle(m_second < m_script.idleS || m_second >= m_script.idleS + m_script.loadS);
    for (const FanStep& step : m_script.fanSteps)
        if (m_second >= step.atS)
            for (const auto& fan : m_compiled.fans)
                if (fan.mount == step.mount)
                    m_model.holdFan(fan.fan, step.share);
    m_model.step(driveOf(m_script, m_second));
    Row row{m_second, trueValues()};
    std::normal_distribution<double> normal;
    for (std::size_t i = 0; i < row.values.size(); ++i) {
        Sensor& sensor = m_sensors[i];
        sensor.state = sensor.phi * sensor.state + std::sqrt(1 - sensor.phi * sensor.phi) * normal(m_random);
        double& v = row.values[i];
        v += sensor.sd * sensor.state;
        v = std::round(v / sensor.quantum) * sensor.quantum;
        if (faulty(FaultKind::Stuck, m_channels[i].name))
            v = sensor.last;
        sensor.last = v;
        if (faulty(FaultKind::Spike, m_channels[i].name))
            v += 25;
        if (faulty(FaultKind::DropOut, m_channels[i].name))
            v = std::nan("");
    }
    m_second += 1;
    return row;
}

std::vector<std::pair<std::string, double>> Player::truth() const {
    core::air::Network net = m_compiled.network;
    net.roomC = driveOf(m_script, m_script.idleS + m_script.loadS).roomC;
    for (const FanStep& step : m_script.fanSteps)
        for (const auto& fan : m_compiled.fans)
            if (fan.mount == step.mount)
                net.fans[fan.fan].heldShare = step.share;
    const auto s = core::air::solve(net);
    std::vector<std::pair<std::string, double>> out;
    std::size_t channel = 0;
    for (std::size_t i = 0; i < net.parts.size(); ++i)
        if (!net.parts[i].isSupply)
            out.emplace_back(m_channels[channel++].name, s.parts[i].temperatureC);
    for (std::size_t i = 0; i < net.passive.size(); ++i)
        if (const core::Placed* p = m_build.at(net.passive[i].id); p && p->part->kind == core::PartKind::Drive)
            out.emplace_back(m_channels[channel++].name, s.passiveC[i]);
    return out;
}

} // namespace rig
