// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/shell/findings_line.h"

#include <QKeyEvent>

namespace app {
using core::Mark;
using core::rules::Severity;

FindingsLine::FindingsLine(Context& context, QWidget* parent) : PaintedPanel(context, parent) {
    setFixedHeight(30);
    setAccessibleName(tr("Findings"));
    setObjectName(QStringLiteral("findingsLine"));
}

void FindingsLine::clicked(const Hit& hit) {
    const auto* e = m_context.view().evaluation();
    if (hit.is(Act::FirstFinding) && e && !e->findings.empty())
        Q_EMIT show(e->findings.front());
    else
        Q_EMIT toggled();
}

void FindingsLine::paintContent(Canvas& c) {
    c.p.fillRect(rect(), c.t.tray);
    c.hline(0, width(), 0, c.t.ink, 1);
    const View v = m_context.view();
    const auto* e = v.evaluation();
    int blockers = 0, cautions = 0, notes = 0;
    if (e)
        for (const auto& f : e->findings)
            ++(f.severity == Severity::Blocker ? blockers : f.severity == Severity::Caution ? cautions : notes);
    double x = 16;
    for (const auto& [mark, text] : {std::pair{Mark::Crossed, counted(blockers, tr("1 blocker"), tr("%1 blockers"))},
                                     std::pair{Mark::Open, counted(cautions, tr("1 caution"), tr("%1 cautions"))},
                                     std::pair{Mark::Note, counted(notes, tr("1 note"), tr("%1 notes"))}}) {
        c.mark({x, 10}, mark);
        c.text({x + 20, 0, 100, 30}, text, 12.5, Weight::Medium, c.t.ink);
        x += 26 + c.width(text, 12.5, Weight::Medium) + 10;
    }
    c.vline(x, 6, 25, c.t.line);
    x += 14;
    const double end = width() - 120;
    QString first = m_problem;
    if (first.isEmpty() && e && !e->findings.empty())
        first = v.words(e->findings.front().text);
    if (first.isEmpty())
        first = v.project().revisions.empty() ? tr("Start with File, New, or drop a project here")
                : e                           ? tr("Nothing found that needs doing")
                                              : qs(v.result().problem);
    const QString link = m_problem.isEmpty() && e && !e->findings.empty()
                             ? tr("Show in %1").arg(qs(core::rules::stationWord(e->findings.front().station)))
                             : QString();
    const double room = end - x - c.width(link, 12.5, Weight::Medium) - 16;
    const QString shown = c.elided(first, room, 12.5, Weight::Medium);
    c.text({x, 0, room, 30}, shown, 12.5, Weight::Medium, m_problem.isEmpty() ? c.t.ink : c.t.block);
    if (!link.isEmpty()) {
        const double lx = x + c.width(shown, 12.5, Weight::Medium) + 14, lw = c.width(link, 12.5, Weight::Medium);
        c.text({lx, 0, lw, 30}, link, 12.5, Weight::Medium, c.t.ink);
        c.hline(lx, lx + lw, 22, c.t.ink);
        c.hit({lx - 4, 2, lw + 8, 26}, Handle{.act = Act::FirstFinding}, link);
    }
    const QString all = tr("All findings");
    c.text({width() - 110.0, 0, 80, 30}, all, 12.5, Weight::Medium, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    c.p.setPen(QPen(c.t.ink, 1.6));
    const double tip = m_open ? 18 : 12, ends = m_open ? 12 : 18;
    c.p.drawPolyline(QPolygonF{{width() - 22.0, ends}, {width() - 17.0, tip}, {width() - 12.0, ends}});
    c.hit({width() - 116.0, 2, 110, 26}, Handle{.act = Act::AllFindings},
          m_open ? tr("Close the list (F)") : tr("All findings (F)"));
}

FindingsList::FindingsList(Context& context, QWidget* parent) : PaintedPanel(context, parent) {
    setObjectName(QStringLiteral("findingsList"));
    setAccessibleName(tr("All findings"));
}

void FindingsList::clicked(const Hit& hit) {
    const auto* e = m_context.view().evaluation();
    if (!hit.is(Act::ShowFinding))
        return;
    m_row = hit.handle.row;
    if (e && m_row < static_cast<int>(e->findings.size()))
        Q_EMIT show(e->findings[static_cast<std::size_t>(m_row)]);
}

void FindingsList::keyPressEvent(QKeyEvent* event) {
    const auto* e = m_context.view().evaluation();
    const int n = e ? static_cast<int>(e->findings.size()) : 0;
    if (event->key() == Qt::Key_Escape || event->key() == Qt::Key_F)
        return Q_EMIT closed();
    if (n == 0)
        return;
    if (event->key() == Qt::Key_Down)
        m_row = std::min(m_row + 1, n - 1);
    else if (event->key() == Qt::Key_Up)
        m_row = std::max(m_row - 1, 0);
    else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        Q_EMIT show(e->findings[static_cast<std::size_t>(std::min(m_row, n - 1))]);
    else
        return QWidget::keyPressEvent(event);
    keepRowInSight();
    update();
}

void FindingsList::keepRowInSight() {
    for (const ListPlace& p : m_lists.places) {
        auto& top = m_lists.states[p.id].top;
        const auto row = static_cast<std::size_t>(m_row);
        top = row < top ? row : row >= top + p.shown ? row + 1 - p.shown : top;
    }
}

int FindingsList::wantedHeight() const {
    const auto* e = m_context.view().evaluation();
    return 44 + 24 * std::max<int>(1, e ? static_cast<int>(e->findings.size()) : 0);
}

void FindingsList::paintContent(Canvas& c) {
    c.p.fillRect(rect(), c.t.sheet);
    c.hline(0, width(), 0, c.t.ink, 1.4);
    const auto* e = m_context.view().evaluation();
    const std::size_t n = e ? e->findings.size() : 0;
    c.text({20, 8, 120, 24}, tr("Findings"), 14, Weight::SemiBold);
    c.second({100, 8, 300, 24}, tr("%1 in all, by weight, then by station").arg(n));
    c.second({width() - 140.0, 8, 124, 24}, tr("Esc closes"), Qt::AlignRight | Qt::AlignVCenter);
    PaintedList list(c, QStringLiteral("findings"), {12, 36, width() - 24.0, height() - 40.0}, n, 24);
    list.paint([&](std::size_t i, const QRectF& row) {
        const auto& f = e->findings[i];
        const double y = row.top(), right = row.right();
        if (static_cast<int>(i) == m_row && hasFocus())
            c.box(row, c.t.marker, c.t.medge, 1.5);
        c.mark({22, y + 6}, core::rules::markOf(f.severity));
        c.text({48, y, right - 240, 24}, c.elided(m_context.view().words(f.text), right - 244, 12.5), 12.5,
               Weight::Regular);
        const QString zone = zoneOf ? zoneOf(f) : QString();
        c.second({right - 180, y, 100, 24},
                 qs(core::rules::stationWord(f.station)) + (zone.isEmpty() ? QString() : QLatin1Char(' ') + zone));
        c.text({right - 70, y, 56, 24}, tr("Show"), 12.5, Weight::Medium, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.hline(row.left(), right, row.bottom(), c.t.hair);
        c.hit(row, Hit{{},
                       f.about,
                       {.act = Act::ShowFinding, .row = static_cast<int>(i)},
                       tr("%1: %2. %3")
                           .arg(qs(core::rules::severityWord(f.severity)), m_context.view().words(f.text),
                                m_context.view().words(f.remedies.empty() ? core::Sentence() : f.remedies.front()))});
    });
    if (n == 0)
        c.second({20, 40, 400, 24}, tr("Nothing found that needs doing."));
}

} // namespace app

#include "moc_findings_line.cpp"
