// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/build.h"

namespace core::rules {

/// What gives or takes a socket: a placed part, the case, or a lead or adapter in use.
struct Holder {
    std::string mount; ///< caseMount for the case; empty for a lead or adapter
    std::string name;
    const Part* part = nullptr;
    bool isLead = false;
    std::size_t joined = 0; ///< of a lead or adapter: its index in Build::joined

    [[nodiscard]] bool isSame(const Holder& other) const {
        return isLead == other.isLead && (isLead ? joined == other.joined : mount == other.mount);
    }
};
/// What a holder is: the part at its mount, the case, or the lead.
[[nodiscard]] Thing thingOf(const Build& build, const Holder& holder);

struct Socket;
/// The socket itself; those of a lead or adapter are the lead.
[[nodiscard]] Thing thingOf(const Build& build, const Socket& socket);

/// A socket that something offers.
struct Socket {
    std::string kind;
    Holder giver;
    int number = 0;   ///< among the giver's sockets of that kind
    int takenBy = -1; ///< index of the need that sits in it
};

/// A plug that looks for a socket, and the one it found.
struct Need {
    std::string kind;
    Holder taker;
    int socket = -1;  ///< index into PortMap::sockets; -1: nothing is free
    std::string via;  ///< cables that join the two, by name
    double leadW = 0; ///< the least a cable on the way passes; 0: not stated
    int cable = -1;   ///< index of the cable into Build::joined
};

/// An adapter on the shelf that would give what is short.
struct Offer {
    std::string part;
    std::string name;
    std::string kind;
    double price = 0;
    bool canBeFed = false;
};

/// What plugs into what. Stated connections first, then plugs made for each other, then those that fit as well; first
/// come, first served.
struct PortMap {
    std::vector<Socket> sockets;
    std::vector<Need> needs;
    std::vector<Offer> offers; ///< for what is short; those that can be fed from free sockets first
    /// The need of a lead or adapter itself: where it draws from.
    [[nodiscard]] std::vector<int> needsOf(const Holder& holder) const;
    [[nodiscard]] bool isShort(std::string_view kind) const;
    /// The kind of plug that sits in the socket a need found: the narrower of the two.
    [[nodiscard]] std::string_view plugOf(const Need& need) const;
    /// Socket at the far end of a chain of adapters, -1 when the chain ends nowhere.
    [[nodiscard]] int root(int need) const;
};
/// @p project for the offers; null: none are looked for.
[[nodiscard]] PortMap portMap(const Build& build, const Project* project = nullptr);

/// Mounts of fans, coolers and cards that find no plug: they do not run.
[[nodiscard]] std::vector<std::string> idleOf(const Build& build, const PortMap& map);

/// The socket that is meant; null: the build has none of that name.
[[nodiscard]] const Socket* socketOf(const PortMap& map, const PortRef& port);

/// One of the limits of a plug where it sits.
struct PlugLimit {
    enum class Of { Plug, Lead, Supply, Adapter, Fed } of = Of::Plug;
    double watts = 0;
};
/// All that are known; the least of them counts.
[[nodiscard]] std::vector<PlugLimit> limitsOf(const Build& build, const PortMap& map, int need);
/// What a plug may carry where it sits, W, with all adapters and leads on its way; 0: no limit is known.
[[nodiscard]] double capacityW(const Build& build, const PortMap& map, int need);

} // namespace core::rules
