// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/bodies.h"
#include "core/model/build.h"

namespace core::fit {

/// What runs along the way of a lead: round, or flat as a riser is.
struct LeadBody {
    double widthMm = 0; ///< of a flat one; a round one is as wide as thick
    double thicknessMm = 0;
    double bendMm = 0; ///< least bend radius of its middle line
    bool flat = false;
    bool assumed = false; ///< its sheet does not state one of these
};
/// Of a cable or adapter; what is not stated is the usual one, told in core/model/facts.h.
[[nodiscard]] LeadBody leadBodyOf(const Part& lead);

/// Something of the box that a lead comes nearer to than it may.
struct LeadMeeting {
    std::string mount; ///< of the part; empty: a wall
    std::string name;
    double mm = 0; ///< from surface to surface; negative: it would have to move by so much to be clear of it
    double needMm = 0;
    bool blades = false; ///< of a fan
    Point at{};          ///< on the lead
};

/// Another lead whose stated way takes the same room, where the two do not run beside each other.
struct LeadCrossing {
    std::size_t other = 0; ///< into what leadRoutes() told
    double deepMm = 0;     ///< so far one would have to move to lie beside the other
    double thickMm = 0;    ///< of the two lying on each other
    bool stiff = false;    ///< one of them is flat: nothing passes through a riser
};

/// The way of a lead to one of its ends, in case coordinates: from socket to socket.
struct LeadRoute {
    std::size_t joined = 0; ///< of Build::joined
    std::size_t end = 0;    ///< of its "to"
    LeadRef ref;
    std::string from, to; ///< "mount:port"
    LeadBody body;
    std::vector<Point> points;         ///< socket, where the plug ends, corners, where the other plug ends, socket
    bool stated = false;               ///< by points; else straight along the edges of the case, which is an estimate
    bool assumed = false;              ///< the place of a socket is not stated: the middle of its part was taken
    double wayMm = 0;                  ///< along the points, corners counted sharp
    double lengthMm = 0;               ///< of the lead; 0: it states none, as an adapter does
    double tightestMm = 0;             ///< the least bend radius its corners leave room for; infinite: straight
    bool leavesCase = false;           ///< a point that was stated lies outside
    std::vector<LeadMeeting> meets;    ///< of a stated way, nearest first
    std::vector<LeadCrossing> crosses; ///< of stated ways, told at the first of the two

    [[nodiscard]] double slackMm() const { return lengthMm - wayMm; }
    [[nodiscard]] bool bendsTooTight() const { return stated && tightestMm < body.bendMm - 1e-6; }
};

/// Ways of all leads whose two ends are stated. Those without points follow the edges of the case, of six orders the
/// one that passes through the fewest parts.
[[nodiscard]] std::vector<LeadRoute> leadRoutes(const Build& build);

/// Leads that run beside each other for a while.
struct Bundle {
    std::vector<std::size_t> routes; ///< into what leadRoutes() told
    Axis axis = Axis::X;
    Point from{}, to{};     ///< its middle
    double thicknessMm = 0; ///< of all of them tied together
};
/// Legs along one axis of the case that are nearer than @p reachMm to each other and run side by side for 20 mm or
/// more.
[[nodiscard]] std::vector<Bundle> bundlesOf(const std::vector<LeadRoute>& routes, double reachMm = 12);

/// What a lead from socket to socket ("mount:port") would need at least, along the edges of the case, mm.
[[nodiscard]] double wayAlongEdgesMm(const Build& build, const std::string& from, const std::string& to);

/// The corners between the two plugs.
[[nodiscard]] std::vector<Point> cornersOf(const LeadRoute& route);

} // namespace core::fit
