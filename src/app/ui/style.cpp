// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/style.h"

#include "app/ui/style_parts.h"

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

SheetStyle::SheetStyle(const Theme& theme)
    : QProxyStyle(QStyleFactory::create(QStringLiteral("Fusion"))), m_theme(theme) {}

void SheetStyle::drawControl(ControlElement element, const QStyleOption* option, QPainter* painter,
                             const QWidget* widget) const {
    if (element != CE_PushButtonBevel && element != CE_PushButtonLabel)
        return drawOwn(element, option, painter, widget);
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

/// Heads and bars; what has no look of its own is Fusion's.
void SheetStyle::drawOwn(ControlElement element, const QStyleOption* option, QPainter* painter,
                         const QWidget* widget) const {
    const ControlParts parts(painter, m_theme);
    painter->save();
    const auto* bar = qstyleoption_cast<const QStyleOptionProgressBar*>(option);
    if (element == CE_HeaderSection || element == CE_HeaderEmptyArea)
        parts.header(option->rect);
    else if (element == CE_ProgressBarGroove)
        parts.field(option->rect, true, ControlParts::Ground::Field);
    else if (element == CE_ProgressBarContents && bar)
        parts.progress(*bar);
    else
        QProxyStyle::drawControl(element, option, painter, widget);
    painter->restore();
}

/// Edges, boxes and indicators; answers whether it was one of them.
bool SheetStyle::drawPart(PrimitiveElement element, const QStyleOption* option, QPainter* painter) const {
    const ControlParts parts(painter, m_theme);
    const bool enabled = option->state & State_Enabled;
    const auto* frame = qstyleoption_cast<const QStyleOptionFrame*>(option);
    switch (element) {
    case PE_PanelLineEdit:
        if (frame && frame->lineWidth > 0)
            parts.field(option->rect, enabled, ControlParts::Ground::Field);
        return true;
    case PE_FrameLineEdit:
    case PE_Frame:
    case PE_FrameMenu:
    case PE_FrameGroupBox:
    case PE_FrameTabWidget:
        parts.frame(option->rect);
        return true;
    case PE_PanelMenu:
    case PE_PanelTipLabel:
        painter->fillRect(option->rect, m_theme.sheet);
        parts.frame(option->rect);
        return true;
    case PE_IndicatorCheckBox:
    case PE_IndicatorItemViewItemCheck:
        parts.check(option->rect, option->state);
        return true;
    case PE_IndicatorRadioButton:
        parts.radio(option->rect, option->state);
        return true;
    case PE_IndicatorArrowUp:
        parts.arrow(option->rect, Qt::UpArrow, enabled);
        return true;
    case PE_IndicatorArrowDown:
        parts.arrow(option->rect, Qt::DownArrow, enabled);
        return true;
    case PE_IndicatorArrowLeft:
        parts.arrow(option->rect, Qt::LeftArrow, enabled);
        return true;
    case PE_IndicatorArrowRight:
        parts.arrow(option->rect, Qt::RightArrow, enabled);
        return true;
    case PE_PanelButtonTool:
        parts.toolButton(option->rect, option->state);
        return true;
    default:
        return false;
    }
}

void SheetStyle::drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                               const QWidget* widget) const {
    if (element == PE_FrameFocusRect) {
        // On the ink-filled main action the ring is of paper.
        const bool filled = widget && widget->property(mainAction).toBool() && widget->isEnabled();
        painter->save();
        painter->setPen(QPen(filled ? m_theme.paper : m_theme.ink, 2));
        painter->setBrush(Qt::NoBrush);
        painter->drawRect(filled ? QRectF(option->rect).adjusted(3, 3, -3, -3)
                                 : QRectF(option->rect).adjusted(1, 1, -1, -1));
        painter->restore();
        return;
    }
    painter->save();
    const bool own = drawPart(element, option, painter);
    painter->restore();
    if (!own)
        QProxyStyle::drawPrimitive(element, option, painter, widget);
    if (element == PE_PanelLineEdit && (option->state & State_HasFocus))
        ring(painter, option->rect);
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
    switch (metric) {
    case PM_ScrollBarExtent:
        return scrollBarExtent;
    case PM_MenuPanelWidth:
        return 1; // its edge
    default:
        return QProxyStyle::pixelMetric(metric, option, widget);
    }
}

/// Spin boxes, choices and sliders; answers whether it was one of them.
bool SheetStyle::drawBox(ComplexControl control, const QStyleOptionComplex* option, QPainter* painter,
                         const QWidget* widget) const {
    const ControlParts parts(painter, m_theme);
    const auto at = [&](SubControl sub) { return subControlRect(control, option, sub, widget); };
    if (const auto* spin = qstyleoption_cast<const QStyleOptionSpinBox*>(option); spin && control == CC_SpinBox)
        parts.spinBox(*spin, at(SC_SpinBoxUp), at(SC_SpinBoxDown));
    else if (const auto* combo = qstyleoption_cast<const QStyleOptionComboBox*>(option);
             combo && control == CC_ComboBox)
        parts.comboBox(*combo, at(SC_ComboBoxArrow));
    else if (const auto* slider = qstyleoption_cast<const QStyleOptionSlider*>(option); slider && control == CC_Slider)
        parts.slider(*slider, at(SC_SliderGroove), at(SC_SliderHandle));
    else
        return false;
    return true;
}

QSize SheetStyle::sizeFromContents(ContentsType type, const QStyleOption* option, const QSize& contents,
                                   const QWidget* widget) const {
    QSize size = QProxyStyle::sizeFromContents(type, option, contents, widget);
    if (type == CT_ItemViewItem || type == CT_MenuItem || type == CT_HeaderSection || type == CT_LineEdit ||
        type == CT_SpinBox || type == CT_ComboBox)
        if (const auto* item = qstyleoption_cast<const QStyleOptionMenuItem*>(option);
            !item || item->menuItemType != QStyleOptionMenuItem::Separator)
            size.setHeight(std::max(size.height(), listRowPx));
    return size;
}

QIcon SheetStyle::standardIcon(StandardPixmap which, const QStyleOption* option, const QWidget* widget) const {
    const QIcon own = listIcon(which, m_theme);
    return own.isNull() ? QProxyStyle::standardIcon(which, option, widget) : own;
}

void SheetStyle::drawComplexControl(ComplexControl control, const QStyleOptionComplex* option, QPainter* painter,
                                    const QWidget* widget) const {
    const auto* bar = qstyleoption_cast<const QStyleOptionSlider*>(option);
    if (control != CC_ScrollBar || !bar) {
        painter->save();
        if (!drawBox(control, option, painter, widget))
            QProxyStyle::drawComplexControl(control, option, painter, widget);
        painter->restore();
        if ((control == CC_SpinBox || control == CC_ComboBox || control == CC_Slider) &&
            (option->state & State_HasFocus))
            ring(painter, option->rect);
        return;
    }
    // A plain track and handle; no arrows.
    painter->fillRect(bar->rect, m_theme.tray);
    const double range = bar->maximum - bar->minimum + bar->pageStep;
    if (range <= 0)
        return;
    const bool upright = bar->orientation == Qt::Vertical;
    const double length = upright ? bar->rect.height() : bar->rect.width(),
                 from = (bar->sliderPosition - bar->minimum) / range * length,
                 size = std::max(20.0, bar->pageStep / range * length);
    painter->fillRect(upright ? QRectF(bar->rect.x() + 2, from, bar->rect.width() - 4, size)
                              : QRectF(from, bar->rect.y() + 2, size, bar->rect.height() - 4),
                      m_theme.line);
}

QRect SheetStyle::subControlRect(ComplexControl control, const QStyleOptionComplex* option, SubControl sub,
                                 const QWidget* widget) const {
    const auto* bar = qstyleoption_cast<const QStyleOptionSlider*>(option);
    if (control != CC_ScrollBar || !bar)
        return QProxyStyle::subControlRect(control, option, sub, widget);
    const double range = std::max(1, bar->maximum - bar->minimum + bar->pageStep);
    const bool upright = bar->orientation == Qt::Vertical;
    const int length = upright ? bar->rect.height() : bar->rect.width();
    const int from = static_cast<int>((bar->sliderPosition - bar->minimum) / range * length),
              size = std::max(20, static_cast<int>(bar->pageStep / range * length));
    const auto part = [&](int a, int n) {
        return upright ? QRect(0, a, bar->rect.width(), n) : QRect(a, 0, n, bar->rect.height());
    };
    switch (sub) {
    case SC_ScrollBarSlider:
        return part(from, size);
    case SC_ScrollBarGroove:
        return part(0, length);
    case SC_ScrollBarSubPage:
        return part(0, from);
    case SC_ScrollBarAddPage:
        return part(from + size, length - from - size);
    default:
        return {};
    }
}

void SheetStyle::polish(QWidget* widget) {
    QProxyStyle::polish(widget);
    if (auto* label = qobject_cast<QLabel*>(widget); label && label->textFormat() == Qt::AutoText)
        label->setTextFormat(Qt::PlainText);
    // A wheel that passes over a field on its way down the page changes nothing in it.
    if (qobject_cast<QAbstractSpinBox*>(widget) || qobject_cast<QComboBox*>(widget) ||
        (qobject_cast<QAbstractSlider*>(widget) && !qobject_cast<QScrollBar*>(widget))) {
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

int SheetStyle::styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget,
                          QStyleHintReturn* data) const {
    if (hint == SH_ToolTip_WakeUpDelay)
        return 600;
    return QProxyStyle::styleHint(hint, option, widget, data);
}

} // namespace app

#include "moc_style.cpp"
