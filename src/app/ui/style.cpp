// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/style.h"

#include <QPainter>
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
        painter->save();
        painter->setPen(QPen(m_theme.ink, 2));
        painter->setBrush(Qt::NoBrush);
        painter->drawRect(QRectF(option->rect).adjusted(1, 1, -1, -1));
        painter->restore();
        return;
    }
    QProxyStyle::drawPrimitive(element, option, painter, widget);
}

int SheetStyle::styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget, QStyleHintReturn* data) const {
    if (hint == SH_ToolTip_WakeUpDelay)
        return 600;
    return QProxyStyle::styleHint(hint, option, widget, data);
}

} // namespace app
