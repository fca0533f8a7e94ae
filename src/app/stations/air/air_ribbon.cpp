// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_ribbon.h"

#include <QPainterPath>

#include <cmath>

namespace app {
namespace {

/// A path as points with their way from its start: asking the path itself measures it anew each time.
class PathLength {
public:
    explicit PathLength(const QPainterPath& path) {
        for (const QPolygonF& polygon : path.toSubpathPolygons())
            for (const QPointF& at : polygon) {
                m_way.push_back(m_at.empty() ? 0 : m_way.back() + QLineF(m_at.back(), at).length());
                m_at.push_back(at);
            }
    }
    [[nodiscard]] double length() const { return m_way.empty() ? 0 : m_way.back(); }
    [[nodiscard]] QPointF at(double share) const {
        const std::size_t i = piece(share);
        const double from = m_way[i], to = m_way[i + 1];
        return m_at[i] + (m_at[i + 1] - m_at[i]) * (to > from ? (share * length() - from) / (to - from) : 0);
    }
    /// Unit vector of the way there.
    [[nodiscard]] QPointF direction(double share) const {
        const std::size_t i = piece(share);
        const QLineF line(m_at[i], m_at[i + 1]);
        return line.length() > 0 ? QPointF(line.dx(), line.dy()) / line.length() : QPointF(1, 0);
    }

private:
    [[nodiscard]] std::size_t piece(double share) const {
        const auto next = std::upper_bound(m_way.begin() + 1, m_way.end() - 1, share * length());
        return static_cast<std::size_t>(next - m_way.begin()) - 1;
    }
    std::vector<QPointF> m_at;
    std::vector<double> m_way;
};

} // namespace

void ribbon(Canvas& c, const QPainterPath& path, double flowM3h, double fromK, double toK, bool arrowHead) {
    const double width = std::clamp(0.72 * flowM3h, 3.0, 26.0);
    QPen edge(c.t.sheet, width + 3, Qt::SolidLine, Qt::FlatCap, Qt::RoundJoin);
    c.p.setBrush(Qt::NoBrush);
    c.p.setPen(edge);
    c.p.drawPath(path);
    const PathLength along(path);
    const double length = along.length();
    if (length <= 0)
        return;
    const int pieces = std::max(8, static_cast<int>(length / 8));
    for (int i = 0; i < pieces; ++i) {
        const double a = static_cast<double>(i) / pieces, b = std::min(1.0, (i + 1.2) / pieces);
        c.p.setPen(QPen(c.t.flowOf(fromK + (toK - fromK) * a), width, Qt::SolidLine, Qt::FlatCap));
        c.p.drawLine(along.at(a), along.at(b));
    }
    c.p.setPen(QPen(c.t.sheet, 1.2));
    for (double s = 20; s < length - 10; s += 34) {
        const QPointF tip = along.at(s / length), on = along.direction(s / length), side(-on.y(), on.x());
        const double k = std::min(width * 0.3, 5.0);
        c.p.drawLine(tip, tip - on * 4 + side * k);
        c.p.drawLine(tip, tip - on * 4 - side * k);
    }
    if (arrowHead) {
        const QPointF tip = along.at(1), on = along.direction(0.999), side(-on.y(), on.x());
        const double k = width * 0.5 + 5;
        QPolygonF head{tip + on * (k * 0.9), tip + side * k, tip - side * k};
        c.p.setPen(QPen(c.t.sheet, 1));
        c.p.setBrush(c.t.flowOf(toK));
        c.p.drawPolygon(head);
    }
}

QPainterPath streamCurve(const QPointF& a, const QPointF& da, const QPointF& b, const QPointF& db) {
    QPainterPath path(a);
    const double k = 0.45 * std::hypot(b.x() - a.x(), b.y() - a.y());
    path.cubicTo(a + da * k, b - db * k, b);
    return path;
}

} // namespace app
