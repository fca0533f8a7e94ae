// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/gap_chain.h"

namespace core::fit {

using What = DimensionOrigin::What;

std::size_t GapChains::add(std::string label, const Measure& m, DimensionOrigin origin) {
    m_extra.push_back({std::move(label), m, std::move(origin)});
    return m_build.dimensions.size() + m_extra.size() - 1;
}

Length GapChains::nominal(const Chain& chain) const {
    std::int64_t halfUm = 0;
    for (const Chain::Term& term : chain.terms)
        halfUm += term.halves * dimension(term.dimension).measure.value.um();
    return Length::fromUm(halfUm >= 0 ? (halfUm + 1) / 2 : (halfUm - 1) / 2);
}

/// The way from the part's low corner, along own axis @p own, to a face of a body or plug of its own.
void GapChains::addOwn(Chain& chain, const PlacedBody& b, std::size_t own, bool high, bool flipped) {
    const Part& part = *m_build.placed[b.placed].part;
    const int sign = flipped ? -2 : 2;
    const auto item = [&](const std::string& name, const char* word, const Measure& m, DimensionOrigin origin) {
        if (m.value != Length{} || m.tolerance != Length{})
            chain.add(add(part.name + ", " + name + word, m, std::move(origin)), sign);
    };
    if (b.port) {
        const PlugRoom room = *plugRoom(*b.port);
        const Measure edge{.value = Length::fromMm(room.low[own] + (high ? room.size[own] : 0)),
                           .source = Source::Standard};
        item(b.port->id, ", place", b.port->at[own], {What::PortAt, part.id, b.port->id, {}, own});
        item(b.port->id, " plug, room", edge, {});
        return;
    }
    const Body& body = *b.body;
    if (!b.isBox()) {
        // Turned bodies, plates and runs: the outer face lies where the drawing has it; its place is the part's own.
        const Placed& p = m_build.placed[b.placed];
        const std::size_t a = index(p.frame.axis[own].axis);
        const bool caseHigh = high != flipped;
        const Length at = caseHigh ? b.high[a] : b.low[a];
        const Length way = flipped ? p.highAt[a] - at : at - p.lowAt[a];
        const Measure place{.value = way,
                            .tolerance = body.at[own].tolerance + body.size[own].tolerance,
                            .source = body.size[own].source,
                            .toleranceStated = true};
        item(body.name, ", face", place, {});
        return;
    }
    item(body.name, ", place", body.at[own], {What::BodyAt, part.id, body.name, {}, own});
    if (high)
        item(body.name, ", size", body.size[own], {What::BodySize, part.id, body.name, {}, own});
}

Chain GapChains::face(std::size_t body, std::size_t axis, bool high) {
    if (body == caseWall)
        return high ? m_build.inside[axis] : Chain{};
    const PlacedBody& b = m_bodies[body];
    const Placed& p = m_build.placed[b.placed];
    if (!b.body && !b.port)
        return high ? p.high[axis] : p.low[axis];
    const auto key = std::tuple(body, axis, high);
    if (const auto known = m_faces.find(key); known != m_faces.end())
        return known->second;
    std::size_t own = 0;
    while (index(p.frame.axis[own].axis) != axis)
        ++own;
    const bool flipped = p.frame.axis[own].sign < 0, ownHigh = high != flipped;
    // A face that is the part's own face has the part's own chain; measuring it twice would add doubt that is not
    // there.
    if (b.body && b.isBox() && ownHigh && b.body->at[own].value + b.body->size[own].value == p.part->size[own].value)
        return m_faces[key] = high ? p.high[axis] : p.low[axis];
    Chain chain = flipped ? p.high[axis] : p.low[axis];
    addOwn(chain, b, own, ownHigh, flipped);
    return m_faces[key] = chain;
}

GapChains::Terms GapChains::slanted(const Candidate& c) {
    const Separation& s = *c.slanted;
    std::map<std::size_t, double> factors;
    const auto place = [&](std::size_t body, std::size_t k, double at, double factor) {
        const PlacedBody& b = m_bodies[body];
        const double low = b.low[k].mm(), high = b.high[k].mm();
        const auto addFace = [&](bool isHigh, double share) {
            for (const Chain::Term& term : face(body, k, isHigh).terms)
                factors[term.dimension] += factor * share * term.halves / 2.0;
        };
        // The nearest point moves with the face it lies on; in between with both, by its share.
        const double share = high - low > 1e-9 ? std::clamp((at - low) / (high - low), 0.0, 1.0) : 0.0;
        if (share < 1 - 1e-6)
            addFace(false, 1 - share);
        if (share > 1e-6)
            addFace(true, share);
    };
    for (std::size_t k = 0; k < 3; ++k) {
        if (std::abs(s.way[k]) < 1e-6)
            continue;
        place(c.upper, k, s.to[k], s.way[k]);
        place(c.lower, k, s.from[k], -s.way[k]);
    }
    Terms out;
    out.nominal = Length::fromMm(s.mm);
    double sum = 0;
    for (const auto& [dimensionIndex, factor] : factors)
        if (std::abs(factor) > 1e-9) {
            out.terms.push_back({dimensionIndex, factor});
            sum += factor * dimension(dimensionIndex).measure.value.mm();
        }
    out.shapeMm = out.nominal.mm() - sum;
    return out;
}

GapChains::Terms GapChains::of(const Candidate& c) {
    Terms out;
    if (c.slanted) {
        out = slanted(c);
    } else {
        const std::size_t k = index(c.axis);
        const Chain chain = face(c.upper, k, c.upper == caseWall).minus(face(c.lower, k, c.lower != caseWall));
        out.nominal = nominal(chain);
        for (const Chain::Term& term : chain.terms)
            out.terms.push_back({term.dimension, term.halves / 2.0});
    }
    double squares = 0;
    for (const Term& term : out.terms) {
        const double t = std::abs(term.factor) * dimension(term.dimension).measure.tolerance.mm();
        out.worstMm += t;
        squares += t * t;
    }
    out.rssMm = std::sqrt(squares);
    return out;
}

} // namespace core::fit
