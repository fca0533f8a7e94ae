// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/rules/wiring.h"

namespace core::rules {

/// A lead that could join a socket with a plug.
struct LeadOffer {
    std::string part; ///< on the shelf; empty: one that is to be made
    std::string name;
    double lengthMm = 0; ///< 0: it states none, as an adapter does
    LeadState state = LeadState::Fits;
};

/// Leads and adapters of the shelf for @p from and @p to ("mount:kind of plug"), those that fit the way first, then by
/// length; last a plain lead of a usual length that would fit. @p wayMm: along the edges, from wayAlongEdgesMm().
struct LeadOffers {
    double wayMm = 0;
    std::vector<LeadOffer> leads;
};
[[nodiscard]] LeadOffers leadsBetween(const Project& project, const Build& build, const std::string& from,
                                      const std::string& to);

/// A plain lead for those ends, of the next usual length (steps of 50 mm) with a tenth of slack, under a free id.
[[nodiscard]] Part plainLead(const Project& project, std::string_view plug, double wayMm);

/// A lead or adapter that is plugged in gets other ends; corners of the ends it keeps stay. No ends: it is unplugged.
[[nodiscard]] std::vector<Change> pluggedAs(const Joined& lead, const std::string& from,
                                            const std::vector<std::string>& to);

} // namespace core::rules
