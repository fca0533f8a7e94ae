// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/shell/station_strip.h"

#include "app/stations/registry.h"

#include <QCoreApplication>
#include <QKeyEvent>
#include <QPainterPath>

#include <cmath>

namespace app {

StationStrip::StationStrip(Context& context, QWidget* parent) : PaintedPanel(context, parent) {
    setFixedHeight(60);
    setAccessibleName(tr("Stations"));
    setObjectName(QStringLiteral("stationStrip"));
}

void StationStrip::setCurrent(int station) {
    m_current = station;
    update();
}

void StationStrip::clicked(const Hit& hit) {
    if (hit.is(Act::OpenMenu))
        Q_EMIT menuWanted(mapToGlobal(QPoint(8, height() - 4)));
    else
        Q_EMIT stationChosen(hit.handle.row);
}

void StationStrip::keyPressEvent(QKeyEvent* event) {
    const int count = static_cast<int>(stations().size());
    if (event->key() == Qt::Key_Right || event->key() == Qt::Key_Left)
        Q_EMIT stationChosen((m_current + (event->key() == Qt::Key_Right ? 1 : count - 1)) % count);
    else
        QWidget::keyPressEvent(event);
}

void StationStrip::paintContent(Canvas& c) {
    const Theme& t = c.t;
    c.p.fillRect(rect(), t.tray);
    const double h = height(), left = m_railWidth, tab = (width() - left) / share(stations().size());
    // A set square over two streams of air.
    c.p.setPen(QPen(t.ink, 1.6));
    c.p.setBrush(Qt::NoBrush);
    c.p.drawPolygon(QPolygonF{{12.5, 17}, {12.5, 41}, {36, 41}});
    c.p.drawPolygon(QPolygonF{{17, 28}, {17, 36.5}, {25, 36.5}});
    for (const auto& [dy, colour] : {std::pair{0.0, t.cool}, std::pair{6.0, t.warm}}) {
        QPainterPath wave(QPointF(20, 20 + dy));
        wave.cubicTo(24, 15 + dy, 28, 25 + dy, 33, 20 + dy);
        wave.quadTo(36, 17 + dy, 38, 19 + dy);
        c.p.setPen(QPen(colour, 1.6));
        c.p.drawPath(wave);
    }
    const View v = m_context.view();
    const QString name = qs(v.project().name);
    c.text({46, 12, left - 72, 20}, c.elided(name.isEmpty() ? tr("Mini Draft") : name, left - 74, 14, Weight::SemiBold),
           14, Weight::SemiBold);
    QString sub = v.evaluation() ? v.text(core::Quantity::Volume, v.evaluation()->fit.volumeL) : tr("no parts yet");
    sub += m_context.document.isModified()       ? tr(" · not saved")
           : m_context.document.path().isEmpty() ? QString()
           : m_context.document.isReadOnly()     ? tr(" · read-only")
                                                 : tr(" · saved");
    c.second({46, 31, left - 72, 18}, c.elided(sub, left - 74, 12));
    c.p.setPen(QPen(t.ink, 1.6));
    c.p.drawPolyline(QPolygonF{{left - 22, 26}, {left - 17, 32}, {left - 12, 26}});
    c.hit({0, 0, left - 2, h}, Handle{.act = Act::OpenMenu}, tr("Menu: file, edit, revision, bench, view, help (F10)"));
    auto live = liveResults(v);
    if (m_recording)
        live[static_cast<std::size_t>(numberOf(core::rules::Station::Bench))] = {tr("recording ..."),
                                                                                 core::Mark::Running};
    for (int i = 0; i < static_cast<int>(live.size()); ++i) {
        const QRectF r(left + tab * i, 6, tab, h - 6);
        const bool on = i == m_current;
        if (on) {
            QPainterPath path(QPointF(r.left(), h));
            path.lineTo(r.left(), r.top() + 8);
            path.lineTo(r.left() + 8, r.top());
            path.lineTo(r.right(), r.top());
            path.lineTo(r.right(), h);
            c.p.fillPath(path, t.paper);
            c.p.setPen(QPen(t.ink, 1.4));
            c.p.setBrush(Qt::NoBrush);
            c.p.drawPath(path);
            c.hline(r.left() + 8, r.right(), r.top(), t.ink, 3);
        } else if (i > 0 && i - 1 != m_current) {
            c.vline(r.left(), 16, h - 16, t.hair);
        }
        const QPointF balloon(r.left() + 23, h / 2 + 1);
        c.p.setPen(QPen(t.ink, 1.4));
        c.p.setBrush(on ? t.ink : QColor(Qt::transparent));
        c.p.drawEllipse(balloon, 11, 11);
        c.text({balloon.x() - 11, balloon.y() - 11, 22, 22}, QString::number(i + 1), 12, Weight::SemiBold,
               on ? t.paper : t.ink, Qt::AlignCenter);
        const auto& l = live[static_cast<std::size_t>(i)];
        const StationRow& row = stations()[static_cast<std::size_t>(i)];
        c.text({r.left() + 44, 13, tab - 70, 20}, row.title(), 15, on ? Weight::SemiBold : Weight::Medium, t.ink);
        QString words = l.text;
        if (c.width(words, 12) > tab - 50)
            words.remove(tr("tightest ")); // the word goes first when the tab is narrow
        c.text({r.left() + 44, 32, tab - 48, 18}, c.elided(words, tab - 50, 12, on ? Weight::Medium : Weight::Regular),
               12, on ? Weight::Medium : Weight::Regular, on ? t.ink : t.ink2);
        l.settle ? c.settleSign({r.right() - 24, 17}, *l.settle) : c.mark({r.right() - 24, 18}, l.mark);
        c.hit({r.left(), 0, tab, h}, Handle{.act = Act::OpenStation, .row = i},
              tr("%1: %2, %3. %4 Key %5")
                  .arg(row.title(), l.text, l.word(), QCoreApplication::translate("stations", row.question))
                  .arg(i + 1));
    }
    // The lower edge is a ruler, open under the current tab.
    const double a = left + tab * m_current, b = a + tab;
    c.hline(0, a, h - 1, t.ink, 1);
    c.hline(b, width(), h - 1, t.ink, 1);
    for (double x = left; x < width(); x += tab / 10)
        if (x < a - 1 || x > b + 1)
            c.vline(x, h - (static_cast<int>(std::lround((x - left) / (tab / 10))) % 5 ? 5 : 9), h - 1, t.line);
}

} // namespace app

#include "moc_station_strip.cpp"
