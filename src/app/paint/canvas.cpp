// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/canvas.h"

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

bool Canvas::isVector() const {
    const QPaintEngine* engine = p.paintEngine();
    return !engine || engine->type() != QPaintEngine::Raster;
}

const Canvas::Type& Canvas::type(double px, Weight w) const {
    thread_local std::map<int, Type> types; // by size on the screen and weight: the same in every theme
    const int key = static_cast<int>(std::lround(px * t.textScale * 4)) * 4 + static_cast<int>(w);
    if (const auto it = types.find(key); it != types.end())
        return it->second;
    const QFont font = t.font(px, w);
    return types.emplace(key, Type{font, QFontMetricsF(font), {}, {}}).first->second;
}

/// Most texts of a frame stood in the one before.
double Canvas::Type::width(const QString& s) const {
    constexpr qsizetype most = 4000;
    if (const auto it = widths.constFind(s); it != widths.cend())
        return *it;
    if (widths.size() >= most)
        widths.clear();
    return *widths.insert(s, metrics.horizontalAdvance(s));
}

const QStaticText& Canvas::Type::shaped(const QString& s) const {
    constexpr qsizetype most = 2000;
    if (const auto it = laidOut.constFind(s); it != laidOut.cend())
        return *it;
    if (laidOut.size() >= most)
        laidOut.clear();
    QStaticText text(s);
    text.setTextFormat(Qt::PlainText);
    text.prepare({}, font);
    return *laidOut.insert(s, text);
}

QString Canvas::Type::elided(const QString& s, double widthPx) const {
    return width(s) <= widthPx ? s : metrics.elidedText(s, Qt::ElideRight, widthPx);
}

void Canvas::text(const QRectF& r, const QString& s, double px, Weight w, const QColor& c, Qt::Alignment align) {
    const Type& words = type(px, w);
    p.setFont(words.font);
    p.setPen(c);
    // On paper words stay words; on the screen shaping them anew was a third of the time of a frame.
    if (isVector() || p.worldTransform().type() > QTransform::TxTranslate || s.contains(QLatin1Char('\n')))
        return p.drawText(r, static_cast<int>(align) | Qt::TextSingleLine | Qt::TextDontClip, s);
    const double width = words.width(s), height = words.metrics.height();
    const double x = align & Qt::AlignRight     ? r.right() - width
                     : align & Qt::AlignHCenter ? r.left() + (r.width() - width) / 2
                                                : r.left();
    const double y = align & Qt::AlignTop      ? r.top()
                     : align & Qt::AlignBottom ? r.bottom() - height
                                               : r.top() + (r.height() - height) / 2;
    p.drawStaticText(QPointF(x, y), words.shaped(s));
}

double Canvas::number(double x, double y, const QString& n, const QString& unit, double px, Weight w) {
    text({x - 200, y - 10, 200, 20}, n, px, w, t.ink, Qt::AlignRight | Qt::AlignVCenter);
    if (unit.isEmpty())
        return x;
    text({x + 4, y - 10, 80, 20}, unit, 11.5, Weight::Regular, t.ink2);
    return x + 4 + width(unit, 11.5);
}

double Canvas::width(const QString& s, double px, Weight w) const { return type(px, w).width(s); }

QString Canvas::elided(const QString& s, double widthPx, double px, Weight w) const {
    return type(px, w).elided(s, widthPx);
}

double Canvas::paragraph(const QRectF& r, const QString& s, double px, Weight w, const QColor& c, int maxLines) {
    p.setFont(type(px, w).font);
    p.setPen(c);
    const Type& words = type(px, w);
    const QFontMetricsF& metrics = words.metrics;
    const double lineHeight = std::ceil(metrics.height() * 1.06);
    QStringList lines;
    QString line;
    for (const QString& word : s.split(QLatin1Char(' '), Qt::SkipEmptyParts)) {
        const QString next = line.isEmpty() ? word : line + QLatin1Char(' ') + word;
        if (words.width(next) > r.width() && !line.isEmpty()) {
            lines << line;
            line = word;
        } else {
            line = next;
        }
    }
    if (!line.isEmpty())
        lines << line;
    if (lines.size() > maxLines) {
        lines[maxLines - 1] = words.elided(QStringList(lines.mid(maxLines - 1)).join(QLatin1Char(' ')), r.width());
        lines = lines.mid(0, maxLines);
    }
    double y = r.top();
    for (const QString& l : lines) {
        text({r.left(), y, r.width(), metrics.height()}, words.elided(l, r.width()), px, w, c,
             Qt::AlignLeft | Qt::AlignTop);
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

QRectF Canvas::plateUpright(const QPointF& centre, const QString& s, double px, Weight w) {
    const double wide = width(s, px, w) + 8, high = px + 6;
    p.save();
    p.translate(std::round(centre.x()), std::round(centre.y()));
    p.rotate(-90);
    const QRectF r(-wide / 2, -high / 2, wide, high);
    p.setPen(Qt::NoPen);
    p.setBrush(t.sheet);
    p.drawRoundedRect(r, 1, 1);
    text(r, s, px, w, t.ink, Qt::AlignCenter);
    p.restore();
    const QRectF upright(centre.x() - high / 2, centre.y() - wide / 2, high, wide);
    label(upright);
    return upright;
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
    if (isVector() && p.hasClipping()) {
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
    case Mark::Holds:
        return t.ok;
    case Mark::Open:
        return t.tight;
    case Mark::Crossed:
        return t.block;
    case Mark::Running:
        return t.ink;
    case Mark::Note:
        return t.ink2;
    case Mark::None:
        break;
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
    case Mark::Open:
        p.drawArc(notch, 180 * 16, 180 * 16);
        break;
    case Mark::Running:
        p.drawArc(notch, 180 * 16, 180 * 16);
        p.setBrush(c);
        p.drawPie(notch, 180 * 16, 90 * 16);
        break;
    case Mark::Crossed:
        p.drawLine(QPointF(at.x() + 2.5, y + 1), QPointF(at.x() + 11.5, y + 9));
        p.drawLine(QPointF(at.x() + 11.5, y + 1), QPointF(at.x() + 2.5, y + 9));
        break;
    case Mark::Note:
        p.drawLine(QPointF(at.x() + 7, y), QPointF(at.x() + 7, y + 8));
        break;
    case Mark::None:
        break;
    }
}

QString settleText(core::bench::SettleState state) {
    using core::bench::SettleState;
    switch (state) {
    case SettleState::Settled:
        return QObject::tr("settled");
    case SettleState::Estimate:
        return QObject::tr("estimated");
    case SettleState::Rough:
        return QObject::tr("rough");
    case SettleState::Refused:
        break;
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
    case SettleState::Rough:
        rise.cubicTo(at + QPointF(3, 7), at + QPointF(7, 4), at + QPointF(14, 1.5));
        break;
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
    const auto letter = [&](const char* l, const QColor& c) {
        text(r, QLatin1String(l), 11, Weight::SemiBold, c, Qt::AlignCenter);
    };
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
        const QPolygonF triangle{
            {r.center().x(), r.top() + 1}, {r.right(), r.bottom() - 1}, {r.left(), r.bottom() - 1}};
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
    if (isVector())
        return drawFan(p, t, c, radius, intoPage);
    const double ratio = p.device()->devicePixelRatioF(), half = std::ceil(radius) + 2;
    const QString key = QStringLiteral("glyph:%1:%2:%3:%4:%5")
                            .arg(radius)
                            .arg(intoPage)
                            .arg(t.ink.rgba())
                            .arg(t.sheet.rgba())
                            .arg(ratio);
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

void Canvas::hit(const QRectF& r, Hit what) {
    // Small drawings still get a target of at least 24 px.
    QRectF target = window.isNull() ? r : r.intersected(window);
    if (target.isEmpty())
        return;
    if (target.width() < 24)
        target.adjust(-(24 - target.width()) / 2, 0, (24 - target.width()) / 2, 0);
    if (target.height() < 24)
        target.adjust(0, -(24 - target.height()) / 2, 0, (24 - target.height()) / 2);
    const bool hovered =
        what.handle.act != Act::None ? what.handle == hoveredHandle : isHovered(what.thing) && !isSelected(what.thing);
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
