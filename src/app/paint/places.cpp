// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/places.h"

#include <algorithm>

namespace app {

const Hit* placeAt(const Places& places, const QPointF& at) {
    // A grip wins over what it lies on, else what is smaller; of two alike the one that was painted later.
    const auto rank = [](const Hit& hit) {
        return std::pair(!hit.is(Act::DragCorner), hit.rect.width() * hit.rect.height());
    };
    const Hit* best = nullptr;
    for (const Hit& hit : places)
        if (hit.rect.contains(at) && (!best || !(rank(*best) < rank(hit))))
            best = &hit;
    return best;
}

bool holdsThing(const Places& places, const core::Thing& thing) {
    return std::any_of(places.begin(), places.end(), [&](const Hit& hit) { return hit.thing == thing; });
}

Places figuresOf(const Places& places) {
    Places figures;
    for (const Hit& hit : places)
        if (hit.isFigure() && !holdsThing(figures, hit.thing))
            figures.push_back(hit);
    return figures;
}

} // namespace app
