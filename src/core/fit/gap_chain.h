// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/fit/gap_search.h"

namespace core::fit {

/// The signed dimensions of gaps. Sizes of bodies and plugs join those of the build while it lives.
class GapChains {
public:
    GapChains(const Build& build, const std::vector<PlacedBody>& bodies) : m_build(build), m_bodies(bodies) {}

    struct Term {
        std::size_t dimension = 0;
        double factor = 1;
    };
    /// Signed factors of dimensions, and what they add up to.
    struct Terms {
        std::vector<Term> terms;
        Length nominal;
        double worstMm = 0, rssMm = 0;
        double shapeMm = 0; ///< of a slanted gap: what the dimensions do not add up to, turned and round shapes
    };
    /// Without terms where both ends hang on the same plane with nothing between: exactly flush.
    [[nodiscard]] Terms of(const Candidate& c);
    [[nodiscard]] const Dimension& dimension(std::size_t i) const {
        return i < m_build.dimensions.size() ? m_build.dimensions[i] : m_extra[i - m_build.dimensions.size()];
    }

private:
    [[nodiscard]] Chain face(std::size_t body, std::size_t axis, bool high);
    [[nodiscard]] std::size_t add(std::string label, const Measure& m, DimensionOrigin origin);
    void addOwn(Chain& chain, const PlacedBody& b, std::size_t own, bool high, bool flipped);
    [[nodiscard]] Terms slanted(const Candidate& c);
    [[nodiscard]] Length nominal(const Chain& chain) const;

    const Build& m_build;
    const std::vector<PlacedBody>& m_bodies;
    std::vector<Dimension> m_extra;
    std::map<std::tuple<std::size_t, std::size_t, bool>, Chain> m_faces; ///< each face is worked out once
};

} // namespace core::fit
