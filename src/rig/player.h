// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/acoustics/noise.h"
#include "core/air/transient.h"
#include "core/model/build.h"

#include <random>
#include <set>

namespace rig {

enum class FaultKind { DropOut, Stuck, Disconnect, Spike };
struct Fault {
    FaultKind kind = FaultKind::DropOut;
    double fromS = 0;
    double lengthS = 5;
    std::string channel; ///< empty: all
};
/// "dropout@300+10:cpu_c", "stuck@400+60:card_c", "disconnect@900", "spike@200:cpu_c".
[[nodiscard]] core::Result<Fault> parseFault(std::string_view text);

struct FanStep {
    std::string mount;
    double atS = 0;
    double share = 1;
};

struct Script {
    core::air::Conditions conditions; ///< room and load
    double idleS = 60;
    double loadS = 1800;
    double coolS = 60;
    double roomDriftKh = 0;
    double listenerM = 1;
    double backgroundDba = 22;
    double noise = 1; ///< multiplies the noise of all sensors, 0 for none
    unsigned seed = 1;
    /// 0: a machine that is as the model says. Else one of its own: each input of the model is off by what is drawn
    /// from its doubt, the same for the same thing in every revision, as a real machine differs from its sheets.
    unsigned machine = 0;
    std::vector<Fault> faults;
    std::vector<FanStep> fanSteps;
};

/// Plays a build through the transient model, one row a second, with sensor noise, quantising and faults.
class Player {
public:
    Player(const core::Build& build, Script script);

    [[nodiscard]] const std::vector<core::Channel>& channels() const { return m_channels; }
    [[nodiscard]] bool done() const { return m_second > m_script.idleS + m_script.loadS + m_script.coolS; }
    [[nodiscard]] bool disconnected() const;
    /// Readings at the present second; then the model moves on by one.
    struct Row {
        double timeS = 0;
        std::vector<double> values;
    };
    Row next();

    /// Steady temperatures of the true model at the room of the end of the load, by channel.
    [[nodiscard]] std::vector<std::pair<std::string, double>> truth() const;

private:
    struct Sensor {
        double quantum = 0, sd = 0, phi = 0.6, state = 0, last = 0;
    };
    void addChannel(core::ChannelKind kind, const std::string& name, const std::string& subject, double quantum,
                    double sd);
    [[nodiscard]] std::vector<double> trueValues();
    [[nodiscard]] bool faulty(FaultKind kind, const std::string& channel) const;

    core::Build m_build;
    Script m_script;
    core::air::Compiled m_compiled;
    core::air::Transient m_model;
    std::vector<core::Channel> m_channels;
    std::vector<Sensor> m_sensors;
    std::vector<std::string> m_fanIds;
    std::mt19937 m_random;
    double m_second = 0;
};

} // namespace rig
