// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/list.h"
#include "app/paint/places.h"
#include "app/paint/theme.h"
#include "core/base/mark.h"
#include "core/explain/working.h"

#include <QFontMetricsF>
#include <QHash>
#include <QPainter>
#include <QPainterPath>
#include <QStaticText>
#include <QString>

#include <map>
#include <vector>

namespace app {

/// A count to divide a length by; never zero.
[[nodiscard]] inline double share(std::size_t count) { return count == 0 ? 1.0 : static_cast<double>(count); }

/// "1 blocker", "3 blockers": @p many holds %1. English needs no translation file for this, others get both forms.
[[nodiscard]] inline QString counted(qsizetype n, const QString& one, const QString& many) {
    return n == 1 ? one : many.arg(n);
}

[[nodiscard]] QString settleText(core::bench::SettleState state);

/// The decimal mark of the language the program speaks.
[[nodiscard]] char decimalMark();
/// A number as the reader writes it, of whatever unit stands beside it.
[[nodiscard]] QString digits(double value, int decimals, bool hasSign = false);
[[nodiscard]] inline QString qs(std::string_view s) {
    return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

/// A painter with the theme's type, marks and hatches; collects the places that can be clicked. The same calls paint on
/// the screen, into a PNG and into an SVG.
class Canvas {
public:
    Canvas(QPainter& painter, const Theme& theme, core::Thing selected = {}, core::Thing hovered = {})
        : p(painter), t(theme), m_selected(std::move(selected)), m_hovered(std::move(hovered)) {}
    Canvas(QPainter& painter, Theme&& gone, core::Thing = {}, core::Thing = {}) = delete; // it is kept by reference

    QPainter& p;
    const Theme& t;
    Places hits;
    std::vector<QRectF> labels; ///< words that stand on a drawing, for who must keep off them
    void label(const QRectF& r) { labels.push_back(r); }
    ListLook* lists = nullptr; ///< null: on paper, where nothing scrolls
    Handle hoveredHandle;      ///< what the pointer is over, where it acts
    QRectF window;             ///< places outside it cannot be clicked; null: everywhere

    // ---- text ----
    void text(const QRectF& r, const QString& s, double px, Weight w, const QColor& c,
              Qt::Alignment align = Qt::AlignLeft | Qt::AlignVCenter);
    void text(const QRectF& r, const QString& s, double px = 12.5, Weight w = Weight::Regular) {
        text(r, s, px, w, t.ink);
    }
    void second(const QRectF& r, const QString& s, Qt::Alignment align = Qt::AlignLeft | Qt::AlignVCenter,
                double px = 12) {
        text(r, s, px, Weight::Regular, t.ink2, align);
    }
    /// Number right-aligned at @p x, its unit left-aligned after it; returns the end of the unit.
    double number(double x, double y, const QString& number, const QString& unit, double px = 12.5,
                  Weight w = Weight::SemiBold);
    [[nodiscard]] double width(const QString& s, double px, Weight w = Weight::Regular) const;
    [[nodiscard]] QString elided(const QString& s, double widthPx, double px, Weight w = Weight::Regular) const;
    /// Wrapped text; returns the height it took.
    double paragraph(const QRectF& r, const QString& s, double px, Weight w, const QColor& c, int maxLines = 99);
    /// What is left of a heading between its two texts.
    [[nodiscard]] QRectF headingRoom(const QRectF& r, const QString& left, const QString& right) const;
    void heading(double x, double y, double w, const QString& left, const QString& right = {});
    /// Text on a plate, so that it reads on hatches and tints.
    QRectF plate(const QPointF& centre, const QString& s, double px = 12, Weight w = Weight::Medium,
                 const QColor& edge = {});
    /// The same, read from below.
    QRectF plateUpright(const QPointF& centre, const QString& s, double px = 12, Weight w = Weight::Medium);

    // ---- lines ----
    void hline(double x1, double x2, double y, const QColor& c, double w = 1, Qt::PenStyle style = Qt::SolidLine);
    void vline(double x, double y1, double y2, const QColor& c, double w = 1, Qt::PenStyle style = Qt::SolidLine);
    void box(const QRectF& r, const QColor& fill, const QColor& edge, double w = 1);
    void arrow(const QPointF& from, const QPointF& to, const QColor& c, double w = 1.2);

    // ---- the product's own signs ----
    void mark(const QPointF& topLeft, core::Mark mark);
    /// How far a reading came to rest, apart from any limit: a curve that runs level, still rises, or breaks off. 14
    /// x 12.
    void settleSign(const QPointF& topLeft, core::bench::SettleState state);
    void baselineSign(const QPointF& centre);
    void stamp(const QPointF& topLeft, core::explain::Stamp stamp);
    void fanGlyph(const QPointF& centre, double radius, bool intoPage);
    /// SVG, PDF and printers, where lines stay lines.
    [[nodiscard]] bool isVector() const;
    void screw(const QPointF& centre);
    [[nodiscard]] QColor markColor(core::Mark mark) const;
    void hatch(const QRectF& r, core::PartKind kind, const QColor& ground, const QColor& ink, double edge = 1.2);
    /// The same inside any outline.
    void hatch(const QPainterPath& outline, core::PartKind kind, const QColor& ground, const QColor& ink,
               double edge = 1.2);
    enum class Pattern { Over, Holds, KeepClear, LevelLines, Diagonal, Solid, Crossed };
    void pattern(const QRectF& r, Pattern pattern);

    // ---- places ----
    void hit(const QRectF& r, Hit what);
    void hit(const QRectF& r, const core::Thing& thing, const QString& name) { hit(r, Hit{{}, thing, {}, name}); }
    void hit(const QRectF& r, const Handle& handle, const QString& name) { hit(r, Hit{{}, {}, handle, name}); }
    [[nodiscard]] bool isSelected(const core::Thing& thing) const {
        return !core::isNothing(thing) && thing == m_selected;
    }
    [[nodiscard]] bool isHovered(const core::Thing& thing) const {
        return !core::isNothing(thing) && thing == m_hovered;
    }
    [[nodiscard]] const core::Thing& selected() const { return m_selected; }
    /// Marker wash and edge behind a selected thing.
    void washIfSelected(const QRectF& r, const core::Thing& thing);
    [[nodiscard]] QColor fillOf(const core::Thing& thing, const QColor& otherwise) const {
        return isSelected(thing) ? t.marker : otherwise;
    }

private:
    struct Type {
        QFont font;
        QFontMetricsF metrics;
        mutable QHash<QString, double> widths;
        mutable QHash<QString, QStaticText> laidOut;
        [[nodiscard]] double width(const QString& s) const;
        /// Shaped once: most texts of a frame stood in the one before.
        [[nodiscard]] const QStaticText& shaped(const QString& s) const;
        [[nodiscard]] QString elided(const QString& s, double widthPx) const;
    };
    /// Fonts and their metrics are asked for hundreds of times a frame.
    const Type& type(double px, Weight w) const;
    core::Thing m_selected, m_hovered;
};

} // namespace app
