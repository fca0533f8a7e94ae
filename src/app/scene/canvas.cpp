// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/scene/canvas.h"

#include <QObject>

#include <QFontMetricsF>
#include <QPaintEngine>
#include <QPainterPath>
#include <QPixmapCache>

#include <cmath>
#include <functional>
#include <numbers>

namespace app {
using core::Mark;

namespace {
/// SVG, PDF and printers, where lines stay lines.
bool isVector(const QPainter& p) {
    const QPaintEngine* engine = p.paintEngine();
    return !engine || engine->type() != QPaintEngine::Raster;
}
} // namespace

const Canvas::Type& Canvas::type(double px, Weight w) const {
    const int key = static_cast<int>(std::lround(px * 4)) * 4 + static_cast<int>(w);
    const auto it = m_types.find(key);
    if (it != m_types.end())
        return it->second;
    const QFont font = t.font(px, w);
    return m_types.emplace(key, Type{font, QFontMetricsF(font)}).first->second;
}

void Canvas::text(const QRectF& r, const QString& s, double px, Weight w, const QColor& c, Qt::Alignment align) {
    p.setFont(type(px, w).font);
    p.setPen(c);
    p.drawText(r, static_cast<int>(align) | Qt::TextSingleLine | Qt::TextDontClip, s);
}

double Canvas::number(double x, double y, const QString& n, const QString& unit, double px, Weight w) {
    text({x - 200, y - 10, 200, 20}, n, px, w, t.ink, Qt::AlignRight | Qt::AlignVCenter);
    if (unit.isEmpty())
        return x;
    text({x + 4, y - 10, 80, 20}, unit, 11.5, Weight::Regular, t.ink2);
    return x + 4 + width(unit, 11.5);
}

double Canvas::width(const QString& s, double px, Weight w) const { return type(px, w).metrics.horizontalAdvance(s); }

QString Canvas::elided(const QString& s, double widthPx, double px, Weight w) const { return type(px, w).metrics.elidedText(s, Qt::ElideRight, widthPx); }

double Canvas::paragraph(const QRectF& r, const QString& s, double px, Weight w, const QColor& c, int maxLines) {
    p.setFont(type(px, w).font);
    p.setPen(c);
    const QFontMetricsF& metrics = type(px, w).metrics;
    const double lineHeight = std::ceil(metrics.height() * 1.06);
    QStringList lines;
    QString line;
    for (const QString& word : s.split(QLatin1Char(' '), Qt::SkipEmptyParts)) {
        const QString next = line.isEmpty() ? word : line + QLatin1Char(' ') + word;
        if (metrics.horizontalAdvance(next) > r.width() && !line.isEmpty()) {
            lines << line;
            line = word;
        } else {
            line = next;
        }
    }
    if (!line.isEmpty())
        lines << line;
    if (lines.size() > maxLines) {
        lines[maxLines - 1] = metrics.elidedText(QStringList(lines.mid(maxLines - 1)).join(QLatin1Char(' ')), Qt::ElideRight, r.width());
        lines = lines.mid(0, maxLines);
    }
    double y = r.top();
    for (const QString& l : lines) {
        p.drawText(QPointF(r.left(), y + metrics.ascent()), metrics.elidedText(l, Qt::ElideRight, r.width()));
        y += lineHeight;
    }
    return y - r.top();
}

void Canvas::heading(double x, double y, double w, const QString& left, const QString& right) {
    text({x, y, w, 20}, left, 14, Weight::SemiBold);
    if (!right.isEmpty()) {
        const double free = w - width(left, 14, Weight::SemiBold) - 12;
        second({x, y, w, 20}, elided(right, free, 12), Qt::AlignRight | Qt::AlignVCenter);
    }
    hline(x, x + w, y + 23, t.ink, 1);
}

QRectF Canvas::headingRoom(const QRectF& r, const QString& left, const QString& right) const {
    const double from = width(left, 14, Weight::SemiBold) + 12, to = r.width() - width(right, 12) - 10;
    return {r.left() + from, r.top() + 1, std::max(0.0, to - from), 20};
}

QRectF Canvas::plate(const QPointF& centre, const QString& s, double px, Weight w, const QColor& edge) {
    const double wide = width(s, px, w) + 8, high = px + 6;
    const QRectF r(std::round(centre.x() - wide / 2), std::round(centre.y() - high / 2), wide, high);
    p.setPen(edge.isValid() ? QPen(edge, 1) : Qt::NoPen);
    p.setBrush(t.sheet);
    p.drawRoundedRect(r, 1, 1);
    text(r, s, px, w, t.ink, Qt::AlignCenter);
    label(r);
    return r;
}

void Canvas::hline(double x1, double x2, double y, const QColor& c, double w, Qt::PenStyle style) {
    p.setRenderHint(QPainter::Antialiasing, w != 1);
    QPen pen(c, w, style, Qt::FlatCap);
    p.setPen(pen);
    const double snapped = w == 1 ? std::floor(y) + 0.5 : y;
    p.drawLine(QPointF(x1, snapped), QPointF(x2, snapped));
    p.setRenderHint(QPainter::Antialiasing, true);
}

void Canvas::vline(double x, double y1, double y2, const QColor& c, double w, Qt::PenStyle style) {
    p.setRenderHint(QPainter::Antialiasing, w != 1);
    p.setPen(QPen(c, w, style, Qt::FlatCap));
    const double snapped = w == 1 ? std::floor(x) + 0.5 : x;
    p.drawLine(QPointF(snapped, y1), QPointF(snapped, y2));
    p.setRenderHint(QPainter::Antialiasing, true);
}

void Canvas::box(const QRectF& r, const QColor& fill, const QColor& edge, double w) {
    p.setPen(edge.isValid() ? QPen(edge, w, Qt::SolidLine, Qt::SquareCap, Qt::MiterJoin) : Qt::NoPen);
    p.setBrush(fill.isValid() ? QBrush(fill) : Qt::NoBrush);
    if (isVector(p) && p.hasClipping()) {
        QPainterPath whole;
        whole.addRect(r);
        p.drawPath(whole.intersected(p.clipPath()));
    } else {
        p.drawRect(r);
    }
}

void Canvas::arrow(const QPointF& from, const QPointF& to, const QColor& c, double w) {
    p.setPen(QPen(c, w));
    p.drawLine(from, to);
    const double a = std::atan2(to.y() - from.y(), to.x() - from.x());
    QPainterPath head(to);
    head.lineTo(to - QPointF(7 * std::cos(a - 0.4), 7 * std::sin(a - 0.4)));
    head.lineTo(to - QPointF(7 * std::cos(a + 0.4), 7 * std::sin(a + 0.4)));
    head.closeSubpath();
    p.fillPath(head, c);
}

QColor Canvas::markColor(Mark m) const {
    switch (m) {
    case Mark::Holds: return t.ok;
    case Mark::Open: return t.tight;
    case Mark::Crossed: return t.block;
    case Mark::Running: return t.ink;
    case Mark::Note: return t.ink2;
    case Mark::None: break;
    }
    return t.line;
}

/// An edge line 14 wide with a half-round notch of radius 5 hanging from it.
void Canvas::mark(const QPointF& at, Mark m) {
    const QColor c = markColor(m);
    const double y = at.y() + 2;
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(c, 1.6, m == Mark::None ? Qt::DashLine : Qt::SolidLine, Qt::FlatCap));
    p.drawLine(QPointF(at.x(), y), QPointF(at.x() + 14, y));
    const QRectF notch(at.x() + 2, y - 5, 10, 10);
    switch (m) {
    case Mark::Holds:
        p.setBrush(c);
        p.drawChord(notch, 180 * 16, 180 * 16);
        break;
    case Mark::Open: p.drawArc(notch, 180 * 16, 180 * 16); break;
    case Mark::Running:
        p.drawArc(notch, 180 * 16, 180 * 16);
        p.setBrush(c);
        p.drawPie(notch, 180 * 16, 90 * 16);
        break;
    case Mark::Crossed:
        p.drawLine(QPointF(at.x() + 2.5, y + 1), QPointF(at.x() + 11.5, y + 9));
        p.drawLine(QPointF(at.x() + 11.5, y + 1), QPointF(at.x() + 2.5, y + 9));
        break;
    case Mark::Note: p.drawLine(QPointF(at.x() + 7, y), QPointF(at.x() + 7, y + 8)); break;
    case Mark::None: break;
    }
}

QString settleText(core::bench::SettleState state) {
    using core::bench::SettleState;
    switch (state) {
    case SettleState::Settled: return QObject::tr("settled");
    case SettleState::Estimate: return QObject::tr("estimated");
    case SettleState::Rough: return QObject::tr("rough");
    case SettleState::Refused: break;
    }
    return QObject::tr("not settled");
}

void Canvas::settleSign(const QPointF& at, core::bench::SettleState state) {
    using core::bench::SettleState;
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(t.ink, 1.6, Qt::SolidLine, Qt::FlatCap));
    QPainterPath rise(at + QPointF(0.5, 11));
    switch (state) {
    case SettleState::Settled:
        rise.cubicTo(at + QPointF(2, 5), at + QPointF(4, 3), at + QPointF(7, 3));
        rise.lineTo(at + QPointF(14, 3));
        break;
    case SettleState::Estimate:
    case SettleState::Rough: rise.cubicTo(at + QPointF(3, 7), at + QPointF(7, 4), at + QPointF(14, 1.5)); break;
    case SettleState::Refused:
        rise.lineTo(at + QPointF(6, 5));
        p.drawLine(at + QPointF(9.5, 0.5), at + QPointF(9.5, 11.5)); // cut off
        break;
    }
    p.drawPath(rise);
    if (state == SettleState::Settled)
        p.fillRect(QRectF(at + QPointF(11, 1), QSizeF(3, 4)), t.ink);
}

void Canvas::baselineSign(const QPointF& c) {
    QPainterPath triangle(c + QPointF(0, -5));
    triangle.lineTo(c + QPointF(6, 4));
    triangle.lineTo(c + QPointF(-6, 4));
    triangle.closeSubpath();
    p.fillPath(triangle, t.ink);
    hline(c.x() - 7, c.x() + 7, c.y() + 5, t.ink, 1);
}

void Canvas::stamp(const QPointF& at, core::explain::Stamp s) {
    using core::explain::Stamp;
    const QRectF r(at, QSizeF(13, 13));
    const auto letter = [&](const char* l, const QColor& c) { text(r, QLatin1String(l), 11, Weight::SemiBold, c, Qt::AlignCenter); };
    switch (s) {
    case Stamp::Measured:
        box(r, t.ink2, {});
        letter("m", t.sheet);
        break;
    case Stamp::Simulated: // read like a measurement, from a machine that is none
    {
        QPen pen(t.ink2, 1);
        pen.setDashPattern({2.4, 2});
        p.setBrush(Qt::NoBrush);
        p.setPen(pen);
        p.drawRect(r);
    }
        letter("m", t.ink2);
        break;
    case Stamp::Sheet:
        box(r, {}, t.ink2);
        letter("s", t.ink2);
        break;
    case Stamp::Assumed:
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(t.ink2, 1, Qt::CustomDashLine));
        {
            QPen pen(t.ink2, 1);
            pen.setDashPattern({2.4, 2});
            p.setPen(pen);
        }
        p.drawEllipse(r);
        letter("a", t.ink2);
        break;
    case Stamp::Computed:
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(t.ink2, 1));
        p.drawEllipse(r);
        letter("c", t.ink2);
        break;
    case Stamp::Setting: {
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(t.ink2, 1));
        const QPolygonF triangle{{r.center().x(), r.top() + 1}, {r.right(), r.bottom() - 1}, {r.left(), r.bottom() - 1}};
        p.drawPolygon(triangle);
        break;
    }
    }
}

namespace {
void drawFan(QPainter& on, const Theme& theme, const QPointF& c, double radius, bool intoPage) {
    on.setPen(QPen(theme.ink, 1.2));
    on.setBrush(theme.sheet);
    on.drawEllipse(c, radius, radius);
    on.setBrush(Qt::NoBrush);
    for (int i = 0; i < 5; ++i) {
        on.save();
        on.translate(c);
        on.rotate(72.0 * i);
        QPainterPath blade(QPointF(0, -radius * 0.25));
        blade.quadTo(QPointF(radius * 0.75, -radius * 0.5), QPointF(radius * 0.35, -radius * 0.92));
        on.drawPath(blade);
        on.restore();
    }
    on.setBrush(theme.sheet);
    on.drawEllipse(c, radius * 0.27, radius * 0.27);
    if (intoPage) {
        const double d = radius * 0.16;
        on.drawLine(c + QPointF(-d, -d), c + QPointF(d, d));
        on.drawLine(c + QPointF(-d, d), c + QPointF(d, -d));
    } else {
        on.setBrush(theme.ink);
        on.drawEllipse(c, radius * 0.1, radius * 0.1);
    }
}
} // namespace

/// On the screen it is painted once for each size and laid down on whole pixels.
void Canvas::fanGlyph(const QPointF& c, double radius, bool intoPage) {
    if (isVector(p))
        return drawFan(p, t, c, radius, intoPage);
    const double ratio = p.device()->devicePixelRatioF(), half = std::ceil(radius) + 2;
    const QString key = QStringLiteral("glyph:%1:%2:%3:%4:%5").arg(radius).arg(intoPage).arg(t.ink.rgba()).arg(t.sheet.rgba()).arg(ratio);
    QPixmap glyph;
    if (!QPixmapCache::find(key, &glyph)) {
        glyph = QPixmap(QSizeF(2 * half * ratio, 2 * half * ratio).toSize());
        glyph.setDevicePixelRatio(ratio);
        glyph.fill(Qt::transparent);
        QPainter on(&glyph);
        on.setRenderHint(QPainter::Antialiasing);
        drawFan(on, t, {half, half}, radius, intoPage);
        on.end();
        QPixmapCache::insert(key, glyph);
    }
    const QPointF at = c - QPointF(half, half);
    p.drawPixmap(QPointF(std::round(at.x() * ratio) / ratio, std::round(at.y() * ratio) / ratio), glyph);
}

void Canvas::screw(const QPointF& c) {
    p.setPen(QPen(t.ink, 1));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(c, 3.2, 3.2);
    p.drawLine(c + QPointF(-2.2, 2.2), c + QPointF(2.2, -2.2));
}

namespace {
/// What is drawn for SVG is cut here: its generator knows no clipping, and hatches would spill over the page.
class Cut {
public:
    Cut(QPainter& p, const QRectF& r) : m_p(p), m_rect(r), m_clipped(p.hasClipping()) {
        if (m_clipped)
            m_path = p.clipPath();
    }
    [[nodiscard]] bool contains(const QPointF& at) const { return m_rect.contains(at) && (!m_clipped || m_path.contains(at)); }
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
        const double p[4] = {-dx, dx, -dy, dy}, q[4] = {a.x() - m_rect.left(), m_rect.right() - a.x(), a.y() - m_rect.top(), m_rect.bottom() - a.y()};
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
void layTiles(QPainter& p, const QRectF& r, const QString& what, int width, int height, const std::function<void(QPainter&)>& draw) {
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
    if (isVector(p))
        return cutLines(p, r, degrees, step, pen);
    // A tile must hold a whole number of lines; slanted ones repeat every step * sqrt(2) along its edges.
    const bool slanted = std::abs(std::fmod(degrees, 90.0)) > 1;
    const double period = slanted ? step * std::sqrt(2.0) : step;
    const int count = 6, size = static_cast<int>(std::lround(period * count));
    const double fitted = static_cast<double>(size) / count / (slanted ? std::sqrt(2.0) : 1.0);
    layTiles(p, r, QStringLiteral("hatch:%1:%2:%3:%4:%5").arg(degrees).arg(step).arg(pen.widthF()).arg(pen.color().rgba()).arg(pen.style()), size, size,
             [&](QPainter& t) { drawLines(t, QRectF(0, 0, size, size), degrees, fitted, pen); });
}
} // namespace

void Canvas::hatch(const QRectF& r, core::PartKind kind, const QColor& ground, const QColor& ink, double edge) {
    using core::PartKind;
    p.save();
    if (isVector(p) && p.hasClipping()) {
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
        if (!isVector(p))
            return layTiles(p, r, QStringLiteral("signs:%1:%2:%3").arg(static_cast<int>(kind)).arg(step).arg(ink.rgba()), 8 * step, 8 * step, [&](QPainter& on) {
                for (int k = 0; k < 64; ++k)
                    draw(on, QPointF(step * (k % 8 + 0.5), step * (k / 8 + 0.5)), nullptr);
            });
        for (double y = r.top() + step / 2.0; y < r.bottom(); y += step)
            for (double x = r.left() + step / 2.0; x < r.right(); x += step)
                draw(p, QPointF(x, y), &cut);
    };
    switch (kind) {
    case PartKind::Board: lines(p, r, -45, 6, pen(0.7)); break;
    case PartKind::Card:
        lines(p, r, 45, 9, pen(0.7));
        lines(p, r.translated(0, 0).adjusted(0, 2.5, 0, 0), 45, 9, pen(0.7));
        break;
    case PartKind::Cooler: lines(p, r, 90, 4, pen(0.8)); break;
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
    case PartKind::Drive: lines(p, r, 0, 4, pen(0.8)); break;
    case PartKind::Made:
        if (!isVector(p)) {
            layTiles(p, r, QStringLiteral("zigzag:%1").arg(ink.rgba()), 48, 40, [&](QPainter& on) {
                on.setPen(pen(0.7));
                for (int row = 0; row <= 8; ++row)
                    for (int k = 0; k < 12; ++k)
                        on.drawLine(QPointF(4 * k, 2 + 5 * row + (k % 2 ? 2 : 0)), QPointF(4 * k + 4, 2 + 5 * row + (k % 2 ? 0 : 2)));
            });
            break;
        }
        p.setPen(pen(0.7));
        for (double y = r.top() + 2; y < r.bottom() + 5; y += 5) {
            QPolygonF zigzag;
            int k = 0;
            for (double x = r.left(); x < r.right() + 8; x += 4, ++k)
                zigzag << QPointF(x, y + (k % 2 ? 2 : 0));
            for (qsizetype i = 1; i < zigzag.size(); ++i)
                cut.line(zigzag[i - 1], zigzag[i]);
        }
        break;
    case PartKind::Radiator:
        lines(p, r, 90, 4, pen(0.8));
        lines(p, r, 0, 12, pen(0.6));
        break;
    case PartKind::Processor:
    case PartKind::Case:
    case PartKind::Adapter:
    case PartKind::Cable: break;
    }
    p.restore();
    if (edge > 0)
        box(r, {}, ink, edge);
}

void Canvas::pattern(const QRectF& r, Pattern which) {
    switch (which) {
    case Pattern::Over: lines(p, r, -45, 5, QPen(t.block, 1.2)); break;
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
    case Pattern::LevelLines: lines(p, r, 0, 4, QPen(t.ink, 0.8)); break;
    case Pattern::Diagonal: lines(p, r, -45, 5, QPen(t.ink, 0.8)); break;
    case Pattern::Crossed:
        lines(p, r, 45, 6, QPen(t.ink, 0.7));
        lines(p, r, -45, 6, QPen(t.ink, 0.7));
        break;
    case Pattern::Solid: p.fillRect(r, t.ink); break;
    }
}

void Canvas::hatch(const QPainterPath& outline, core::PartKind kind, const QColor& ground, const QColor& ink, double edge) {
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

void Canvas::hit(const QRectF& r, Hit what) {
    // Small drawings still get a target of at least 24 px.
    QRectF target = window.isNull() ? r : r.intersected(window);
    if (target.isEmpty())
        return;
    if (target.width() < 24)
        target.adjust(-(24 - target.width()) / 2, 0, (24 - target.width()) / 2, 0);
    if (target.height() < 24)
        target.adjust(0, -(24 - target.height()) / 2, 0, (24 - target.height()) / 2);
    const bool hovered = what.handle.act != Act::None ? what.handle == hoveredHandle : isHovered(what.thing) && !isSelected(what.thing);
    if (hovered)
        box(r, {}, t.ink, 1.5);
    what.rect = target;
    hits.push_back(std::move(what));
}

void Canvas::washIfSelected(const QRectF& r, const core::Thing& thing) {
    if (isSelected(thing))
        box(r, t.marker, t.medge, 1.5);
}

} // namespace app
