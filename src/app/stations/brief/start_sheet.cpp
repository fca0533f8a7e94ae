// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/start_sheet.h"

#include "app/stations/brief/box_drawing.h"
#include "app/ui/own_canvas.h"

namespace app {
using core::Quantity;

StartSheet::StartSheet(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setMinimumSize(300, 216);
    setAccessibleName(tr("Front and side"));
}

void StartSheet::show(ArrangedBox box) {
    m_box = std::move(box);
    update();
}

void StartSheet::point(int size, double wasMm) {
    m_size = size;
    m_wasMm = wasMm;
    update();
}

void StartSheet::paintEvent(QPaintEvent*) {
    if (!m_box.build)
        return;
    OwnCanvas own(*this, m_context.theme);
    Canvas& c = own.canvas();
    const BoxView front = frontView(*m_box.build), side = sideView(*m_box.build);
    const QSizeF a = front.sizeMm(), b = side.sizeMm();
    const double scale = std::min({(width() - 76.0) / (a.width() + b.width()), (height() - 62.0) / a.height(), 0.62});
    const double foot = 30 + a.height() * scale;
    const QRectF f = paintBox(c, front, {4, foot}, scale);
    const QRectF s = paintBox(c, side, {4 + a.width() * scale + 30, foot}, scale);
    c.second({f.left() - 4, foot + 4, 120, 16}, tr("front"), Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    c.second({s.left() - 4, foot + 4, 160, 16}, tr("side, from the right"), Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    const auto& in = m_box.build->insideAt;
    const double above = f.top() - 14, beside = s.right() + 28;
    dimension(c, {f.left(), above}, {f.right(), above}, in[0].mm(), m_size == 0);
    dimension(c, {s.left(), above}, {s.right(), above}, in[1].mm(), m_size == 1);
    dimension(c, {beside, s.top()}, {beside, s.bottom()}, in[2].mm(), m_size == 2);
    paintBefore(c, f, s, scale);
}

/// Where the end of the size that is typed was, while it is another.
void StartSheet::paintBefore(Canvas& c, const QRectF& front, const QRectF& side, double scale) const {
    if (m_size < 0 || m_size > 2 || m_wasMm <= 0 ||
        std::abs(m_wasMm - m_box.build->insideAt[static_cast<std::size_t>(m_size)].mm()) < 0.05)
        return;
    QPen dash(c.t.line, 1);
    dash.setDashPattern({5, 3});
    c.p.setPen(dash);
    const QString words = tr("was %1").arg(m_context.view().number(Quantity::Length, m_wasMm));
    const double room = c.width(words, 11.5) + 6;
    if (m_size == 2) {
        const double y = side.bottom() - m_wasMm * scale;
        c.p.drawLine(QPointF(side.left() - 8, y), QPointF(side.right() + 8, y));
        c.second({side.right() + 36, y - 8, room, 16}, words, Qt::AlignLeft | Qt::AlignVCenter, 11.5);
        return;
    }
    const QRectF& r = m_size == 0 ? front : side;
    const double x = r.left() + m_wasMm * scale;
    c.p.drawLine(QPointF(x, r.top() - 8), QPointF(x, r.bottom() + 8));
    c.second({std::min(x - room / 2, width() - room), r.bottom() + 20, room, 16}, words,
             Qt::AlignHCenter | Qt::AlignVCenter, 11.5);
}

void StartSheet::dimension(Canvas& c, const QPointF& from, const QPointF& to, double mm, bool focused) const {
    const QColor ink = focused ? c.t.medge : c.t.ink2;
    c.p.setPen(QPen(ink, focused ? 1.6 : 1));
    c.p.drawLine(from, to);
    for (const QPointF& end : {from, to})
        c.p.drawLine(end + QPointF(-3, 3), end + QPointF(3, -3));
    const QString words = m_context.view().number(Quantity::Length, mm);
    const QRectF plate = c.plate((from + to) / 2, words, 12, focused ? Weight::SemiBold : Weight::Medium,
                                 focused ? c.t.medge : QColor());
    if (focused) {
        c.box(plate, c.t.marker, c.t.medge, 1.6);
        c.text(plate, words, 12, Weight::SemiBold, c.t.ink, Qt::AlignCenter);
    }
}

} // namespace app

#include "moc_start_sheet.cpp"
