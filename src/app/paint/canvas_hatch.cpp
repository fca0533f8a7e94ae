// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/canvas.h"

#include <QPaintEngine>
#include <QPainterPath>
#include <QPixmapCache>

#include <cmath>
#include <functional>
#include <numbers>

// What parts are made of, as hatches and signs: tiles on the screen, lines on paper.
namespace app {

namespace {
bool onPaper(const QPainter& p) {
    const QPaintEngine* engine = p.paintEngine();
    return !engine || engine->type() != QPaintEngine::Raster;
}

/// What is drawn for SVG is cut here: its generator knows no clipping, and hatches would spill over the page.
class Cut {
public:
    Cut(QPainter& p, const QRectF& r) : m_p(p), m_rect(r), m_clipped(p.hasClipping()) {
        if (m_clipped)
            m_path = p.clipPath();
    }
    [[nodiscard]] bool contains(const QPointF& at) const {
        return m_rect.contains(at) && (!m_clipped || m_path.contains(at));
    }
    /// The parts of a line that lie inside: of the rectangle exactly, of a clip path within a tenth of a pixel.
    void line(QPointF a, QPointF b) {
        if (!toRect(a, b))
            return;
        if (!m_clipped)
            return m_p.drawLine(a, b);
        const int steps = std::max(1, static_cast<int>(std::hypot(b.x() - a.x(), b.y() - a.y())));
        const auto at = [&](double t) { return a + (b - a) * t; };
        const auto edge = [&](double in, double out) {
            for (int i = 0; i < 5; ++i)
                (m_path.contains(at((in + out) / 2)) ? in : out) = (in + out) / 2;
            return in;
        };
        double from = -1;
        for (int i = 0; i <= steps; ++i) {
            const double t = static_cast<double>(i) / steps, before = static_cast<double>(i - 1) / steps;
            const bool in = m_path.contains(at(t));
            if (in && from < 0)
                from = i == 0 ? 0 : edge(t, before);
            else if (!in && from >= 0) {
                m_p.drawLine(at(from), at(edge(before, t)));
                from = -1;
            }
        }
        if (from >= 0)
            m_p.drawLine(at(from), b);
    }

private:
    /// Liang and Barsky.
    [[nodiscard]] bool toRect(QPointF& a, QPointF& b) const {
        double t0 = 0, t1 = 1;
        const double dx = b.x() - a.x(), dy = b.y() - a.y();
        const double p[4] = {-dx, dx, -dy, dy}, q[4] = {a.x() - m_rect.left(), m_rect.right() - a.x(),
                                                        a.y() - m_rect.top(), m_rect.bottom() - a.y()};
        for (int i = 0; i < 4; ++i) {
            if (std::abs(p[i]) < 1e-12) {
                if (q[i] < 0)
                    return false;
                continue;
            }
            const double t = q[i] / p[i];
            p[i] < 0 ? t0 = std::max(t0, t) : t1 = std::min(t1, t);
        }
        if (t0 > t1)
            return false;
        const QPointF start = a, way(dx, dy);
        a = start + way * t0;
        b = start + way * t1;
        return true;
    }

    QPainter& m_p;
    QRectF m_rect;
    QPainterPath m_path;
    bool m_clipped;
};

/// As drawLines, for paper and SVG: every line ends where it should.
void cutLines(QPainter& p, const QRectF& r, double degrees, double step, const QPen& pen) {
    Cut cut(p, r);
    p.save();
    p.setPen(pen);
    const double a = degrees * std::numbers::pi / 180, reach = r.width() + r.height() + step;
    const QPointF along(std::cos(a), std::sin(a)), across(-std::sin(a), std::cos(a));
    for (double y = -std::ceil(reach / step) * step; y < reach; y += step)
        cut.line(r.topLeft() + across * y - along * reach, r.topLeft() + across * y + along * reach);
    p.restore();
}

/// Lines across a rectangle at an angle; @p step apart, origin fixed to the corner of the part.
void drawLines(QPainter& p, const QRectF& r, double degrees, double step, const QPen& pen) {
    p.save();
    p.setClipRect(r, Qt::IntersectClip);
    p.setPen(pen);
    p.translate(r.topLeft());
    p.rotate(degrees);
    const double reach = r.width() + r.height() + step;
    for (double y = -std::ceil(reach / step) * step; y < reach; y += step)
        p.drawLine(QPointF(-reach, y), QPointF(reach, y));
    p.restore();
}

/// Lays out a tile over a rectangle; it is drawn once for each key. For the screen only.
void layTiles(QPainter& p, const QRectF& r, const QString& what, int width, int height,
              const std::function<void(QPainter&)>& draw) {
    const double ratio = p.device()->devicePixelRatioF();
    const QString key = what + QStringLiteral(":%1").arg(ratio);
    QPixmap tile;
    if (!QPixmapCache::find(key, &tile)) {
        tile = QPixmap(static_cast<int>(std::ceil(width * ratio)), static_cast<int>(std::ceil(height * ratio)));
        tile.setDevicePixelRatio(ratio);
        tile.fill(Qt::transparent);
        QPainter t(&tile);
        t.setRenderHint(QPainter::Antialiasing);
        draw(t);
        t.end();
        QPixmapCache::insert(key, tile);
    }
    p.save();
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setBrushOrigin(r.topLeft());
    p.fillRect(r, QBrush(tile));
    p.restore();
}

/// On the screen a tile made once is laid out; on paper and in SVG the lines are drawn, so that they stay sharp.
void lines(QPainter& p, const QRectF& r, double degrees, double step, const QPen& pen) {
    if (onPaper(p))
        return cutLines(p, r, degrees, step, pen);
    // A tile must hold a whole number of lines; slanted ones repeat every step * sqrt(2) along its edges.
    const bool slanted = std::abs(std::fmod(degrees, 90.0)) > 1;
    const double period = slanted ? step * std::sqrt(2.0) : step;
    const int count = 6, size = static_cast<int>(std::lround(period * count));
    const double fitted = static_cast<double>(size) / count / (slanted ? std::sqrt(2.0) : 1.0);
    layTiles(p, r,
             QStringLiteral("hatch:%1:%2:%3:%4:%5")
                 .arg(degrees)
                 .arg(step)
                 .arg(pen.widthF())
                 .arg(pen.color().rgba())
                 .arg(pen.style()),
             size, size, [&](QPainter& t) { drawLines(t, QRectF(0, 0, size, size), degrees, fitted, pen); });
}

/// Rows of a zigzag: a made part.
void zigzag(QPainter& p, const QRectF& r, Cut& cut, const QPen& pen) {
    if (!onPaper(p))
        return layTiles(p, r, QStringLiteral("zigzag:%1").arg(pen.color().rgba()), 48, 40, [&](QPainter& on) {
            on.setPen(pen);
            for (int row = 0; row <= 8; ++row)
                for (int k = 0; k < 12; ++k)
                    on.drawLine(QPointF(4 * k, 2 + 5 * row + (k % 2 ? 2 : 0)),
                                QPointF(4 * k + 4, 2 + 5 * row + (k % 2 ? 0 : 2)));
        });
    p.setPen(pen);
    for (double y = r.top() + 2; y < r.bottom() + 5; y += 5) {
        QPolygonF line;
        int k = 0;
        for (double x = r.left(); x < r.right() + 8; x += 4, ++k)
            line << QPointF(x, y + (k % 2 ? 2 : 0));
        for (qsizetype i = 1; i < line.size(); ++i)
            cut.line(line[i - 1], line[i]);
    }
}
} // namespace

void Canvas::hatch(const QRectF& r, core::PartKind kind, const QColor& ground, const QColor& ink, double edge) {
    using core::PartKind;
    p.save();
    if (isVector() && p.hasClipping()) {
        QPainterPath whole;
        whole.addRect(r);
        p.fillPath(whole.intersected(p.clipPath()), ground);
    } else {
        p.fillRect(r, ground);
    }
    p.setClipRect(r, Qt::IntersectClip);
    Cut cut(p, r);
    const auto pen = [&](double w) { return QPen(ink, w); };
    // Signs on a square grid: tiles on the screen, each by itself on paper.
    const auto spread = [&](int step, auto&& draw) {
        if (!isVector())
            return layTiles(p, r,
                            QStringLiteral("signs:%1:%2:%3").arg(static_cast<int>(kind)).arg(step).arg(ink.rgba()),
                            8 * step, 8 * step, [&](QPainter& on) {
                                for (int row = 0; row < 8; ++row)
                                    for (int column = 0; column < 8; ++column)
                                        draw(on, QPointF(step * (column + 0.5), step * (row + 0.5)), nullptr);
                            });
        for (double y = r.top() + step / 2.0; y < r.bottom(); y += step)
            for (double x = r.left() + step / 2.0; x < r.right(); x += step)
                draw(p, QPointF(x, y), &cut);
    };
    switch (kind) {
    case PartKind::Board:
        lines(p, r, -45, 6, pen(0.7));
        break;
    case PartKind::Card:
        lines(p, r, 45, 9, pen(0.7));
        lines(p, r.translated(0, 0).adjusted(0, 2.5, 0, 0), 45, 9, pen(0.7));
        break;
    case PartKind::Cooler:
        lines(p, r, 90, 4, pen(0.8));
        break;
    case PartKind::PowerSupply:
        lines(p, r, 45, 8, pen(0.6));
        lines(p, r, -45, 8, pen(0.6));
        break;
    case PartKind::Fan:
        spread(6, [&](QPainter& on, const QPointF& c, Cut* within) {
            on.setPen(Qt::NoPen);
            on.setBrush(ink);
            if (!within || within->contains(c))
                on.drawEllipse(c, 0.9, 0.9);
        });
        break;
    case PartKind::Memory:
        spread(8, [&](QPainter& on, const QPointF& c, Cut* within) {
            on.setPen(pen(0.8));
            for (const QPointF& arm : {QPointF(2, 0), QPointF(0, 2)})
                within ? within->line(c - arm, c + arm) : on.drawLine(c - arm, c + arm);
        });
        break;
    case PartKind::Drive:
        lines(p, r, 0, 4, pen(0.8));
        break;
    case PartKind::Made:
        zigzag(p, r, cut, pen(0.7));
        break;
    case PartKind::Radiator:
        lines(p, r, 90, 4, pen(0.8));
        lines(p, r, 0, 12, pen(0.6));
        break;
    case PartKind::Processor:
    case PartKind::Case:
    case PartKind::Adapter:
    case PartKind::Cable:
        break;
    }
    p.restore();
    if (edge > 0)
        box(r, {}, ink, edge);
}

void Canvas::pattern(const QRectF& r, Pattern which) {
    switch (which) {
    case Pattern::Over:
        lines(p, r, -45, 5, QPen(t.block, 1.2));
        break;
    case Pattern::Holds: {
        QColor c = t.ok;
        c.setAlphaF(0.55F);
        lines(p, r, -45, 6, QPen(c, 0.6));
        break;
    }
    case Pattern::KeepClear: {
        QPen pen(t.tight, 1);
        pen.setDashPattern({4, 3});
        lines(p, r, -45, 7, pen);
        break;
    }
    case Pattern::LevelLines:
        lines(p, r, 0, 4, QPen(t.ink, 0.8));
        break;
    case Pattern::Diagonal:
        lines(p, r, -45, 5, QPen(t.ink, 0.8));
        break;
    case Pattern::Crossed:
        lines(p, r, 45, 6, QPen(t.ink, 0.7));
        lines(p, r, -45, 6, QPen(t.ink, 0.7));
        break;
    case Pattern::Solid:
        p.fillRect(r, t.ink);
        break;
    }
}

void Canvas::hatch(const QPainterPath& outline, core::PartKind kind, const QColor& ground, const QColor& ink,
                   double edge) {
    p.save();
    p.setClipPath(outline, Qt::IntersectClip);
    hatch(outline.boundingRect(), kind, ground, ink, 0);
    p.restore();
    if (edge > 0) {
        p.setPen(QPen(ink, edge));
        p.setBrush(Qt::NoBrush);
        p.drawPath(outline);
    }
}

} // namespace app
