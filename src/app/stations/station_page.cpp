// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/station_page.h"

#include <QKeyEvent>

namespace app {

StationPage::StationPage(Context& context, Painter painter, QWidget* parent)
    : PaintedPanel(context, parent), m_painter(std::move(painter)) {}

QRectF StationPage::inside() const { return QRectF(rect()).adjusted(16 + 13, 16 + 8, -9 - 10, -9 - 8); }

QPushButton* StationPage::addButton(const QString& text, const QString& objectName, int fromRight, int fromTop,
                                    int width, int height) {
    auto* button = new QPushButton(text, this);
    button->setObjectName(objectName);
    m_buttons.push_back({button, fromRight, fromTop, width, height});
    return button;
}

void StationPage::resizeEvent(QResizeEvent*) {
    const QRectF r = inside();
    for (const Placed& b : m_buttons)
        b.button->setGeometry(static_cast<int>(r.right()) - b.fromRight - b.width,
                              static_cast<int>(b.fromTop >= 0 ? r.top() + b.fromTop : r.bottom() + b.fromTop), b.width,
                              b.height);
}

void StationPage::paintInside(Canvas& canvas, const QRectF& r) const {
    const View v = m_context.view();
    if (v.isPending() && !v.evaluation() && !v.project().revisions.empty())
        return emptyStage(canvas, r, tr("Working it out ..."));
    m_painter(canvas, r, v);
    if (v.isPending()) // what stands here is of before
        canvas.plate({r.center().x(), r.top() + 11}, tr("working it out ..."), 11.5);
}

QString StationPage::zoneOf(const core::Thing& thing) const {
    for (const Hit& hit : m_hits)
        if (hit.thing == thing) {
            const int column = std::clamp(static_cast<int>(hit.rect.center().x() / std::max(1, width()) * 6), 0, 5);
            const int row = std::clamp(static_cast<int>(hit.rect.center().y() / std::max(1, height()) * 6), 0, 5);
            return QChar(u'P' + row) + QString::number(column + 1);
        }
    return {};
}

void paintBorder(Canvas& c, const QRectF& r) {
    c.p.fillRect(r, c.t.paper);
    const QRectF in = r.adjusted(16, 16, -9, -9);
    c.box(in, {}, c.t.line, 1);
    for (int i = 0; i < 6; ++i) {
        const double x = in.left() + in.width() * (i + 0.5) / 6, y = in.top() + in.height() * (i + 0.5) / 6;
        c.text({x - 10, r.top() + 1, 20, 14}, QString::number(i + 1), 11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
        c.text({r.left() + 1, y - 8, 14, 16}, QString(QChar(u'P' + i)), 11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
        if (i == 0)
            continue;
        const double ex = in.left() + in.width() * i / 6, ey = in.top() + in.height() * i / 6;
        c.vline(ex, in.top() - 5, in.top(), c.t.line);
        c.vline(ex, in.bottom(), in.bottom() + 5, c.t.line);
        c.hline(in.left() - 5, in.left(), ey, c.t.line);
        c.hline(in.right(), in.right() + 5, ey, c.t.line);
    }
}

void StationPage::clicked(const Hit& hit) {
    const auto* revision = std::get_if<core::RevisionRef>(&hit.thing);
    if (revision && hit.is(Act::LookAt))
        m_context.document.selectRevision(core::RevisionRef(*revision).id);
    else
        PaintedPanel::clicked(hit);
}

void StationPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        Q_EMIT opened(m_context.selection.thing());
    else
        PaintedPanel::keyPressEvent(event);
}

void StationPage::paintContent(Canvas& c) {
    // The border is the same until the sheet is another size or colour.
    const double ratio = devicePixelRatioF();
    if (m_border.size() != size() * ratio || m_borderPaper != c.t.paper) {
        m_border = QPixmap(size() * ratio);
        m_border.setDevicePixelRatio(ratio);
        QPainter on(&m_border);
        on.setRenderHint(QPainter::Antialiasing);
        Canvas border(on, c.t);
        paintBorder(border, QRectF(rect()));
        m_borderPaper = c.t.paper;
    }
    c.p.drawPixmap(0, 0, m_border);
    paintInside(c, inside());
}

} // namespace app

#include "moc_station_page.cpp"
