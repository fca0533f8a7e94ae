// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/scene/theme.h"

#include <QProxyStyle>

namespace app {

/// Square buttons with a thin edge, one ink-filled main action, dashed when disabled, a clear focus ring; the rest is the plain style.
class SheetStyle : public QProxyStyle {
    Q_OBJECT
public:
    explicit SheetStyle(const Theme& theme);
    void drawControl(ControlElement element, const QStyleOption* option, QPainter* painter, const QWidget* widget) const override;
    void drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter, const QWidget* widget) const override;
    void drawComplexControl(ComplexControl control, const QStyleOptionComplex* option, QPainter* painter, const QWidget* widget) const override;
    QRect subControlRect(ComplexControl control, const QStyleOptionComplex* option, SubControl sub, const QWidget* widget) const override;
    int pixelMetric(PixelMetric metric, const QStyleOption* option, const QWidget* widget) const override;
    /// Names from files go into labels, messages and tool tips: they are plain text unless a label says otherwise. Rich text
    /// would load pictures from the disk.
    void polish(QWidget* widget) override;
    using QProxyStyle::polish;
    bool eventFilter(QObject* watched, QEvent* event) override;
    int styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget, QStyleHintReturn* data) const override;

private:
    /// What has the focus, in both themes.
    void ring(QPainter* painter, const QRect& rect) const;
    const Theme& m_theme;
};

/// Width of scroll bars, px.
constexpr int scrollBarExtent = 9;
/// Set on the one button of a page that is its main action.
constexpr const char* mainAction = "mainAction";

} // namespace app
