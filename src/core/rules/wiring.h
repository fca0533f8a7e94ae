// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/sentence.h"
#include "core/fit/lead_routes.h"
#include "core/rules/port_map.h"

namespace core::rules {

/// One link of a chain, with what it lets through by itself.
struct LinkStage {
    Sentence name;
    int generation = 0;
    int lanes = 0;
};

/// A part with lanes and the chain of sockets and adapters up to the board: it runs at the narrowest width and the
/// oldest generation on its way.
struct LinkResult {
    std::string mount;
    std::string name;
    std::vector<std::string> chain; ///< from the board to the part
    std::vector<LinkStage> stages;  ///< of it, those whose width and generation are stated
    int generation = 0;
    int lanes = 0;
    double usableGbs = 0;
    double needGbs = 0;
    Sentence narrowest; ///< what sets the width or the generation
    bool chipset = false;
    int slotLanes = 0;    ///< it takes of the budget
    bool stopped = false; ///< its slot has no lanes left: they are shared with another one
    bool enough = true;
    Sentence text;
};
/// Gb/s of one lane after line coding, generations 1 to 5: 2.0, 4.0, 7.88, 15.75, 31.5 (PCI Express base specification,
/// from memory: 8b/10b, then 128b/130b).
[[nodiscard]] double laneGbs(int generation);
/// What is left of it after packet overhead. Engineering judgement: 0.87.
constexpr double linkEfficiency = 0.87;
/// "4 lanes of generation 3".
[[nodiscard]] Sentence lanesInWords(int lanes, int generation);
[[nodiscard]] std::vector<LinkResult> links(const Build& build, const PortMap& map);

struct LaneBudget {
    int given = 0;
    int used = 0;
    std::vector<std::string> users;
}; ///< given 0: not stated
struct LaneBudgets {
    LaneBudget processor, chipset;
};
[[nodiscard]] LaneBudgets laneBudgets(const Build& build, const std::vector<LinkResult>& links);

enum class LeadState { Fits, Tight, Short, Long };
[[nodiscard]] std::string_view leadStateWord(LeadState state);

/// How a length stands to a way.
[[nodiscard]] LeadState leadState(double lengthMm, double wayMm);

/// A cable against the way between its sockets: straight out of both plugs, and round its corners between them, or
/// along the edges of the case where none are stated.
struct CableResult {
    LeadRef ref;
    std::size_t end = 0; ///< which of its ends
    std::string part;
    std::string name;
    Sentence from, to;   ///< in words
    std::string subject; ///< mount of the far end
    double lengthMm = 0;
    double wayMm = 0;
    double slackMm = 0;   ///< length - way
    bool assumed = false; ///< the place of a socket is not known: the middle of its part was taken
    bool stated = false;  ///< its way goes by corners that were stated
    LeadState state = LeadState::Fits;
    Sentence text;
};
/// Slack of 10 % is wanted; more than 150 mm over is much to stow. Engineering judgement.
[[nodiscard]] std::vector<CableResult> cables(const Build& build, const std::vector<fit::LeadRoute>& routes);

/// What a modification of the case took away, and what does its work now.
struct LedgerRow {
    std::string modification;
    std::string what;
    std::string replace;               ///< what then needs replacing; empty: nothing
    std::string by;                    ///< the part of the build that does it; empty: nothing yet
    std::vector<std::string> homeless; ///< mounts of parts whose place is gone
    bool open = false;                 ///< something is still to be replaced
    Sentence text;
};
[[nodiscard]] std::vector<LedgerRow> ledger(const Build& build);

/// Draw through one fan header of the board, with all fans that are chained on it.
struct HeaderLoad {
    Thing header; ///< the socket; of an adapter that nothing feeds, the adapter
    std::string board;
    int number = 0;
    double amperes = 0;
    double limitA = 1;
    std::vector<std::string> fans;
};
[[nodiscard]] std::vector<HeaderLoad> fanHeaders(const Build& build, const PortMap& map);

/// All of the above of one build.
struct Wiring {
    PortMap ports;
    std::vector<LinkResult> links;
    LaneBudgets lanes;
    std::vector<fit::LeadRoute> routes;
    std::vector<CableResult> cables;
    std::vector<LedgerRow> ledger;
    std::vector<HeaderLoad> headers;
};
[[nodiscard]] Wiring wiring(const Build& build, const Project* project = nullptr);

} // namespace core::rules
