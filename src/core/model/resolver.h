// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/text.h"
#include "core/model/build.h"

#include <map>

namespace core {

/// Builds up a Build change by change. Changes name mounts; the placing happens at the end, parents before children,
/// so that swapping a board does not disturb what sits on it.
class Resolver {
public:
    explicit Resolver(const Project& project) : m_project(project) {}

    Result<Build> run(std::string_view revisionId, const std::vector<Change>& more);

    using Check = std::optional<Problem>;

private:
    struct Order {
        const Part* part = nullptr;
        std::string mount;
        std::string place; ///< of the change that put it there
        FanFlow flow = FanFlow::In;
        FanControl control;
        std::optional<double> powerLimitW;
        std::array<Length, 3> shift{};
        std::string variant;
        std::vector<SetPlug> plugs;
    };

    Check apply(const Change& change, const std::string& place);
    /// One a kind of change: what it does to the build, or why it cannot.
    template <class C> Check applyTo(const C& change, const std::string& place);

    Check placeAll();
    void nameParts();
    Check outsideIsSaid(const Order& order, const Placed& placed) const;
    Check placeOne(const Order& order);
    /// The place of an order: its owner, and the mount in the variant that was chosen.
    struct Place {
        const Part* owner = nullptr;
        Frame frame; ///< of the owner
        Mount mount;
        std::string id; ///< of the mount
    };
    Result<Place> placeOf(const Order& order, Placed& placed) const;
    void placeAlong(std::size_t own, const Order& order, const Place& place, Placed& placed);
    static Check setPlugs(const Order& order, Placed& placed);
    Check checkEnds() const;
    Order* order(std::string_view mount);
    Opening* opening(std::string_view id);
    std::size_t dimension(std::string label, const Measure& measure, DimensionOrigin origin = {});
    static Problem unknown(const std::string& place, const std::string& kind, const std::string& id) {
        return {place, kind + " \"" + id + "\" is not there", "name one that exists, or add it first"};
    }

    const Project& m_project;
    Build m_build;
    std::vector<Order> m_orders;
    std::map<Orientation, Measure> m_feet; ///< by the side they are under; set for the side it stands on then
};

} // namespace core
