// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/style.h"

#include <QAbstractSpinBox>
#include <QComboBox>
#include <QEvent>
#include <QLabel>
#include <QPainter>
#include <QScrollBar>
#include <QStyleFactory>
#include <QStyleOption>
#include <QWidget>

namespace app {

SheetStyle::SheetStyle(const Theme& theme) : QProxyStyle(QStyleFactory::create(QStringLiteral("Fusion"))), m_theme(theme) {}

void SheetStyle::drawControl(ControlElement element, const QStyleOption* option, QPainter* painter, const QWidget* widget) const {
    if (element != CE_PushButtonBevel && element != CE_PushButtonLabel)
        return QProxyStyle::drawControl(element, option, painter, widget);
    const auto* button = qstyleoption_cast<const QStyleOptionButton*>(option);
    if (!button)
        return;
    const bool enabled = button->state & State_Enabled, down = button->state & (State_Sunken | State_On);
    const bool filled = enabled && ((widget && widget->property(mainAction).toBool()) != down);
    painter->save();
    if (element == CE_PushButtonBevel) {
        const QRectF r = QRectF(button->rect).adjusted(0.5, 0.5, -0.5, -0.5);
        QPen pen(filled ? m_theme.ink : m_theme.line, 1);
        if (!enabled)
            pen.setDashPattern({4, 3});
        painter->setPen(pen);
        painter->setBrush(filled ? m_theme.ink : enabled ? m_theme.sheet : QColor(Qt::transparent));
        painter->drawRect(r);
        if (enabled && (button->state & State_MouseOver)) {
            painter->setBrush(Qt::NoBrush);
            painter->setPen(QPen(m_theme.ink, 1.5));
            painter->drawRect(r.adjusted(0.5, 0.5, -0.5, -0.5));
        }
    } else {
        painter->setPen(filled ? m_theme.paper : enabled ? m_theme.ink : m_theme.ink2);
        painter->setFont(m_theme.font(12.5, Weight::Medium));
        painter->drawText(button->rect, Qt::AlignCenter | Qt::TextShowMnemonic, button->text);
    }
    painter->restore();
}

void SheetStyle::drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter, const QWidget* widget) const {
    if (element == PE_FrameFocusRect) {
        // On the ink-filled main action the ring is of paper.
        const bool filled = widget && widget->property(mainAction).toBool() && widget->isEnabled();
        painter->save();
        painter->setPen(QPen(filled ? m_theme.paper : m_theme.ink, 2));
        painter->setBrush(Qt::NoBrush);
        painter->drawRect(filled ? QRectF(option->rect).adjusted(3, 3, -3, -3) : QRectF(option->rect).adjusted(1, 1, -1, -1));
        painter->restore();
        return;
    }
    QProxyStyle::drawPrimitive(element, option, painter, widget);
    if (element == PE_PanelLineEdit && (option->state & State_HasFocus))
        ring(painter, option->rect);
    return;
}

void SheetStyle::ring(QPainter* painter, const QRect& rect) const {
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing, false);
    painter->setPen(QPen(m_theme.ink, 2));
    painter->setBrush(Qt::NoBrush);
    painter->drawRect(rect.adjusted(1, 1, -1, -1));
    painter->restore();
}

int SheetStyle::pixelMetric(PixelMetric metric, const QStyleOption* option, const QWidget* widget) const {
    return metric == PM_ScrollBarExtent ? scrollBarExtent : QProxyStyle::pixelMetric(metric, option, widget);
}

void SheetStyle::drawComplexControl(ComplexControl control, const QStyleOptionComplex* option, QPainter* painter, const QWidget* widget) const {
    const auto* bar = qstyleoption_cast<const QStyleOptionSlider*>(option);
    if (control != CC_ScrollBar || !bar) {
        QProxyStyle::drawComplexControl(control, option, painter, widget);
        if ((control == CC_SpinBox || control == CC_ComboBox || control == CC_Slider) && (option->state & State_HasFocus))
            ring(painter, option->rect);
        return;
    }
    // A plain track and handle; no arrows.
    painter->fillRect(bar->rect, m_theme.tray);
    const double range = bar->maximum - bar->minimum + bar->pageStep;
    if (range <= 0)
        return;
    const bool upright = bar->orientation == Qt::Vertical;
    const double length = upright ? bar->rect.height() : bar->rect.width(), from = (bar->sliderPosition - bar->minimum) / range * length, size = std::max(20.0, bar->pageStep / range * length);
    painter->fillRect(upright ? QRectF(bar->rect.x() + 2, from, bar->rect.width() - 4, size) : QRectF(from, bar->rect.y() + 2, size, bar->rect.height() - 4), m_theme.line);
}

QRect SheetStyle::subControlRect(ComplexControl control, const QStyleOptionComplex* option, SubControl sub, const QWidget* widget) const {
    const auto* bar = qstyleoption_cast<const QStyleOptionSlider*>(option);
    if (control != CC_ScrollBar || !bar)
        return QProxyStyle::subControlRect(control, option, sub, widget);
    const double range = std::max(1, bar->maximum - bar->minimum + bar->pageStep);
    const bool upright = bar->orientation == Qt::Vertical;
    const int length = upright ? bar->rect.height() : bar->rect.width();
    const int from = static_cast<int>((bar->sliderPosition - bar->minimum) / range * length), size = std::max(20, static_cast<int>(bar->pageStep / range * length));
    const auto part = [&](int a, int n) { return upright ? QRect(0, a, bar->rect.width(), n) : QRect(a, 0, n, bar->rect.height()); };
    switch (sub) {
    case SC_ScrollBarSlider: return part(from, size);
    case SC_ScrollBarGroove: return part(0, length);
    case SC_ScrollBarSubPage: return part(0, from);
    case SC_ScrollBarAddPage: return part(from + size, length - from - size);
    default: return {};
    }
}

void SheetStyle::polish(QWidget* widget) {
    QProxyStyle::polish(widget);
    if (auto* label = qobject_cast<QLabel*>(widget); label && label->textFormat() == Qt::AutoText)
        label->setTextFormat(Qt::PlainText);
    // A wheel that passes over a field on its way down the page changes nothing in it.
    if (qobject_cast<QAbstractSpinBox*>(widget) || qobject_cast<QComboBox*>(widget) || (qobject_cast<QAbstractSlider*>(widget) && !qobject_cast<QScrollBar*>(widget))) {
        if (widget->focusPolicy() == Qt::WheelFocus)
            widget->setFocusPolicy(Qt::StrongFocus);
        widget->installEventFilter(this);
    }
}

bool SheetStyle::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Wheel && !static_cast<QWidget*>(watched)->hasFocus()) {
        event->ignore(); // the page behind it scrolls
        return true;
    }
    return QProxyStyle::eventFilter(watched, event);
}

int SheetStyle::styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget, QStyleHintReturn* data) const {
    if (hint == SH_ToolTip_WakeUpDelay)
        return 600;
    return QProxyStyle::styleHint(hint, option, widget, data);
}

} // namespace app
