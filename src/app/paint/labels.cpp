// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/labels.h"

#include <QLineF>

#include <algorithm>
#include <cmath>

namespace app {

namespace {
constexpr double stepX = 10, stepY = 9, farthest = 260, margin = 2;

struct Offset {
    QPointF by;
    double distance;
};

/// Steps from the place that is wanted, nearest first.
const std::vector<Offset>& offsets() {
    static const std::vector<Offset> all = [] {
        std::vector<Offset> list{{{0, 0}, 0}};
        for (double y = -farthest; y <= farthest; y += stepY)
            for (double x = -farthest; x <= farthest; x += stepX)
                if (const double d = std::hypot(x, y); d <= farthest)
                    list.push_back({{x, y}, d});
        std::stable_sort(list.begin(), list.end(),
                         [](const Offset& a, const Offset& b) { return a.distance < b.distance; });
        return list;
    }();
    return all;
}
} // namespace

bool Labels::isFree(const QRectF& r, double apart) const {
    const QRectF grown = r.adjusted(-apart, -apart, apart, apart);
    return (m_room.isNull() || m_room.contains(r)) &&
           std::none_of(m_taken.begin(), m_taken.end(), [&](const QRectF& t) { return t.intersects(grown); });
}

bool Labels::crosses(const QPointF& from, const QPointF& to) const {
    const QLineF line(from, to);
    return std::any_of(m_taken.begin(), m_taken.end(), [&](const QRectF& t) {
        if (t.contains(from)) // what it leads away from
            return false;
        const QLineF edges[] = {{t.topLeft(), t.topRight()},
                                {t.topRight(), t.bottomRight()},
                                {t.bottomRight(), t.bottomLeft()},
                                {t.bottomLeft(), t.topLeft()}};
        return std::any_of(std::begin(edges), std::end(edges),
                           [&](const QLineF& e) { return line.intersects(e, nullptr) == QLineF::BoundedIntersection; });
    });
}

std::optional<QRectF> Labels::place(const QSizeF& size, const QPointF& near, double reach, const QRectF& within) {
    const auto at = find(size, near, reach, within, nullptr);
    if (at)
        m_taken.push_back(*at);
    return at;
}

std::optional<QRectF> Labels::placeLed(const QSizeF& size, const QPointF& near, const QPointF& from, double reach,
                                       const QRectF& within) {
    auto at = find(size, near, reach, within, &from);
    if (!at)
        at = find(size, near, reach, within, nullptr);
    if (at)
        m_taken.push_back(*at);
    return at;
}

std::optional<QRectF> Labels::find(const QSizeF& size, const QPointF& near, double reach, const QRectF& within,
                                   const QPointF* from) {
    for (const Offset& offset : offsets()) {
        if (offset.distance > reach)
            break;
        const QRectF r(near + offset.by - QPointF(size.width() / 2, size.height() / 2), size);
        if ((!within.isNull() && !within.contains(r)) || !isFree(r, margin) || (from && crosses(*from, r.center())))
            continue;
        return r;
    }
    return std::nullopt;
}

} // namespace app
