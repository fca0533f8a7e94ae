// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/theme.h"

#include <QProxyStyle>

namespace app {

/// Everything square with a thin edge that stands out 3:1, one ink-filled main action, dashed when disabled, a clear
/// focus ring, rows of 24 px, icons of its own in file lists. What is not painted here is Fusion's.
class SheetStyle : public QProxyStyle {
    Q_OBJECT
public:
    explicit SheetStyle(const Theme& theme);
    void drawControl(ControlElement element, const QStyleOption* option, QPainter* painter,
                     const QWidget* widget) const override;
    void drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                       const QWidget* widget) const override;
    void drawComplexControl(ComplexControl control, const QStyleOptionComplex* option, QPainter* painter,
                            const QWidget* widget) const override;
    QRect subControlRect(ComplexControl control, const QStyleOptionComplex* option, SubControl sub,
                         const QWidget* widget) const override;
    int pixelMetric(PixelMetric metric, const QStyleOption* option, const QWidget* widget) const override;
    /// Names from files go into labels, messages and tool tips: they are plain text unless a label says otherwise. Rich
    /// text would load pictures from the disk.
    void polish(QWidget* widget) override;
    using QProxyStyle::polish;
    QSize sizeFromContents(ContentsType type, const QStyleOption* option, const QSize& contents,
                           const QWidget* widget) const override;
    QIcon standardIcon(StandardPixmap which, const QStyleOption* option, const QWidget* widget) const override;
    bool eventFilter(QObject* watched, QEvent* event) override;
    int styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget,
                  QStyleHintReturn* data) const override;

private:
    void drawOwn(ControlElement element, const QStyleOption* option, QPainter* painter, const QWidget* widget) const;
    bool drawPart(PrimitiveElement element, const QStyleOption* option, QPainter* painter) const;
    bool drawBox(ComplexControl control, const QStyleOptionComplex* option, QPainter* painter,
                 const QWidget* widget) const;
    /// What has the focus, in both themes.
    void ring(QPainter* painter, const QRect& rect) const;
    const Theme& m_theme;
};

/// Least height of a row, field or head, px.
constexpr int listRowPx = 24;
/// Width of scroll bars, px.
constexpr int scrollBarExtent = 9;
/// Set on the one button of a page that is its main action.
constexpr const char* mainAction = "mainAction";

} // namespace app
