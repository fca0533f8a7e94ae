// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/stages/reads.h"

namespace core::stages {
namespace {

enum class Watts { Read, LeftOut };

/// A shared part is the same without a look; what air and gaps do not read is blanked in both.
bool samePart(const Part* a, const Part* b, Watts watts) {
    if (a == b)
        return true;
    if (!a || !b)
        return false;
    const auto read = [&](const Part& part) {
        Part copy = part;
        copy.price = copy.massG = 0;
        copy.fasteners.clear();
        copy.step = {};
        if (watts == Watts::LeftOut)
            copy.powerW = 0;
        return copy;
    };
    return read(*a) == read(*b);
}

bool sameChain(const Chain& a, const Chain& b) { return a.terms == b.terms; }

bool samePlaced(const Placed& a, const Placed& b, Watts watts) {
    const bool still = a.mount == b.mount && a.name == b.name && a.parent == b.parent && a.frame.axis == b.frame.axis &&
                       a.lowAt == b.lowAt && a.highAt == b.highAt && a.flow == b.flow && a.variant == b.variant &&
                       a.outside == b.outside && a.ports == b.ports &&
                       std::equal(a.low.begin(), a.low.end(), b.low.begin(), sameChain) &&
                       std::equal(a.high.begin(), a.high.end(), b.high.begin(), sameChain);
    const bool driven = watts == Watts::LeftOut || (a.control == b.control && a.powerLimitW == b.powerLimitW);
    return still && driven && samePart(a.part, b.part, watts);
}

bool sameDimension(const Dimension& a, const Dimension& b) {
    return a.label == b.label && a.measure == b.measure && a.origin == b.origin;
}

bool same(const Build& a, const Build& b, Watts watts) {
    const auto joined = [&](const Joined& x, const Joined& y) {
        return x.from == y.from && x.to == y.to && x.routesMm == y.routesMm && samePart(x.part, y.part, watts);
    };
    return samePart(a.casePart, b.casePart, watts) && a.down == b.down && a.feet == b.feet &&
           a.insideAt == b.insideAt && a.openings == b.openings &&
           std::equal(a.inside.begin(), a.inside.end(), b.inside.begin(), sameChain) &&
           std::equal(a.dimensions.begin(), a.dimensions.end(), b.dimensions.begin(), b.dimensions.end(),
                      sameDimension) &&
           std::equal(a.placed.begin(), a.placed.end(), b.placed.begin(), b.placed.end(),
                      [&](const Placed& x, const Placed& y) { return samePlaced(x, y, watts); }) &&
           std::equal(a.joined.begin(), a.joined.end(), b.joined.begin(), b.joined.end(), joined) &&
           std::equal(a.modified.begin(), a.modified.end(), b.modified.begin(), b.modified.end(),
                      [](const Modification* x, const Modification* y) { return *x == *y; });
}

} // namespace

bool sameShapes(const Build& a, const Build& b) { return same(a, b, Watts::LeftOut); }
bool sameForAir(const Build& a, const Build& b) { return same(a, b, Watts::Read); }

} // namespace core::stages
