// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/network.h"

namespace core::air {

/// What happens from outside while a network is played; the shares of a load are in its powers already. Changing it
/// between steps is allowed.
struct Drive {
    double roomC = 23;
};

/// Plays a network through time: two heat nodes for each cooled part, one for the structure of each compartment, one
/// for each passive part; the air itself is quasi-steady. One step is one second.
class Transient {
public:
    /// Starts settled at idle: 12 W in each cooled part.
    explicit Transient(const Network& network, const Drive& drive);

    void step(const Drive& drive);
    /// Holds a fan at a share of its rated speed; negative hands it back to its controller.
    void holdFan(std::size_t fan, double share);
    void setIdle(bool idle) {
        m_idle = idle;
        m_loadS = idle ? 0 : m_loadS;
    }

    [[nodiscard]] const Solution& state() const { return m_s; }
    /// What the sensor inside passive part @p i reads, °C.
    [[nodiscard]] double passiveReadingC(std::size_t i) const;
    [[nodiscard]] double seconds() const { return m_seconds; }
    [[nodiscard]] const Network& network() const { return m_net; }

private:
    void stepFans();
    void stepAir();
    void stepParts();
    void stepSink(std::size_t owner);
    void stepSlowNodes();
    [[nodiscard]] double wantedPower(std::size_t part) const;

    Network m_net;
    Solution m_s;
    std::vector<double> m_structureC, m_limitShare;
    std::vector<bool> m_fanRunning;
    std::vector<double> m_followedC; ///< that the speed of each fan answers to; it falls behind by its hysteresis
    double m_seconds = 0, m_loadS = 0;
    bool m_idle = false;
};

} // namespace core::air
