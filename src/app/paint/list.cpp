// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/list.h"

#include "app/paint/canvas.h"

#include <QObject>

#include <algorithm>
#include <cmath>
#include <numeric>

namespace app {

namespace {
constexpr double barWidth = 10, headHeight = 20;
}

bool ListLook::scroll(const QString& id, int rows) {
    for (const ListPlace& p : places)
        if (p.id == id && p.rows > p.shown) {
            ListState& state = states[id];
            const auto most = static_cast<int>(p.rows - p.shown),
                       to = std::clamp(static_cast<int>(state.top) + rows, 0, most);
            const bool moved = to != static_cast<int>(state.top);
            state.top = static_cast<std::size_t>(to);
            return moved;
        }
    return false;
}

void ListLook::scrollTo(const QString& id, double share) {
    for (const ListPlace& p : places)
        if (p.id == id && p.rows > p.shown)
            states[id].top = static_cast<std::size_t>(
                std::lround(std::clamp(share, 0.0, 1.0) * static_cast<double>(p.rows - p.shown)));
}

void ListLook::sortBy(const QString& id, int column) {
    ListState& s = states[id];
    // Once, the other way round, and back to its own order.
    if (s.column != column)
        s = {.column = column};
    else if (!s.descending)
        s.descending = true;
    else
        s = {};
}

const ListPlace* ListLook::at(const QPointF& point) const {
    const auto found =
        std::find_if(places.begin(), places.end(), [&](const ListPlace& p) { return p.rect.contains(point); });
    return found == places.end() ? nullptr : &*found;
}

PaintedList::PaintedList(Canvas& c, QString id, const QRectF& r, std::size_t rows, double rowHeight,
                         std::vector<ListColumn> heads)
    : m_c(c), m_id(std::move(id)), m_body(r), m_rowHeight(rowHeight), m_heads(std::move(heads)), m_order(rows),
      m_state(c.lists ? &c.lists->states[m_id] : nullptr) {
    std::iota(m_order.begin(), m_order.end(), std::size_t{0});
    if (!m_heads.empty())
        m_body.setTop(r.top() + headHeight);
    if (static_cast<double>(rows) * rowHeight > m_body.height() + 1 && m_state)
        m_body.setRight(r.right() - barWidth - 4);
    for (std::size_t i = 0; i < m_heads.size(); ++i) {
        const ListColumn& h = m_heads[i];
        const QRectF place(h.left, r.top(), h.right - h.left, headHeight);
        const bool sorted = m_state && m_state->column == static_cast<int>(i);
        const QString text =
            sorted ? h.name + (m_state->descending ? QStringLiteral(" \u2191") : QStringLiteral(" \u2193")) : h.name;
        c.text(place, c.elided(text, place.width(), 11.5), 11.5, sorted ? Weight::SemiBold : Weight::Regular,
               sorted ? c.t.ink : c.t.ink2, h.align | Qt::AlignVCenter);
        if (m_state)
            c.hit(place, Handle{.act = Act::SortList, .list = m_id, .row = static_cast<int>(i)},
                  QObject::tr("Sort by %1").arg(h.name));
    }
}

void PaintedList::filter(const QRectF& control, const std::function<QString(std::size_t)>& wordsOf) {
    constexpr std::size_t atAGlance = 6;
    if (!m_state || (m_order.size() <= atAGlance && m_state->filter.isEmpty()))
        return;
    const std::size_t all = m_order.size();
    const QString& wanted = m_state->filter;
    if (!wanted.isEmpty())
        std::erase_if(m_order, [&](std::size_t row) { return !wordsOf(row).contains(wanted, Qt::CaseInsensitive); });
    const QString words = wanted.isEmpty()
                              ? QObject::tr("filter ...")
                              : QObject::tr("\u201c%1\u201d: %2 of %3").arg(wanted).arg(m_order.size()).arg(all);
    m_c.text(control, m_c.elided(words, control.width(), 11.5), 11.5,
             wanted.isEmpty() ? Weight::Regular : Weight::SemiBold, wanted.isEmpty() ? m_c.t.ink2 : m_c.t.ink,
             Qt::AlignRight | Qt::AlignVCenter);
    m_c.hit(control, Handle{.act = Act::FilterList, .list = m_id},
            QObject::tr("Type to list only what holds it; empty lists all"));
}

void PaintedList::sort(const std::function<SortKey(std::size_t, int)>& keyOf) {
    if (!m_state || m_state->column < 0 || m_state->column >= static_cast<int>(m_heads.size()))
        return;
    std::stable_sort(m_order.begin(), m_order.end(), [&](std::size_t a, std::size_t b) {
        const SortKey x = keyOf(a, m_state->column), y = keyOf(b, m_state->column);
        return m_state->descending ? y < x : x < y;
    });
}

void PaintedList::follow(const std::function<core::Thing(std::size_t)>& thingOf) {
    const core::Thing& selected = m_c.selected();
    if (m_state && m_c.lists->asksThings)
        for (const std::size_t row : m_order)
            m_things.push_back(thingOf(row));
    if (!m_state || selected == m_state->selected)
        return;
    m_state->selected = selected;
    for (std::size_t i = 0; i < m_order.size(); ++i)
        if (thingOf(m_order[i]) == selected)
            bringIntoSight(i);
}

void PaintedList::keepInSight(std::size_t row) {
    if (!m_state || m_state->kept == row)
        return;
    m_state->kept = row;
    const auto at = std::find(m_order.begin(), m_order.end(), row);
    if (at != m_order.end())
        bringIntoSight(static_cast<std::size_t>(at - m_order.begin()));
}

std::size_t PaintedList::room() const {
    return static_cast<std::size_t>(std::max(1.0, std::floor(m_body.height() / m_rowHeight + 1e-6)));
}

void PaintedList::bringIntoSight(std::size_t place) {
    const std::size_t shown = room();
    if (place < m_state->top)
        m_state->top = place;
    else if (place >= m_state->top + shown)
        m_state->top = place + 1 - shown;
}

void PaintedList::paint(const std::function<void(std::size_t, const QRectF&)>& paint) {
    const std::size_t rows = m_order.size(), most = room();
    std::size_t shown = std::min(rows, most), top = 0;
    if (m_state) {
        m_state->top = std::min(m_state->top, rows - shown);
        top = m_state->top;
        m_c.lists->places.push_back({m_id, m_body.adjusted(0, 0, barWidth + 4, 0), rows, shown, std::move(m_things)});
    } else if (rows > most && most > 1) {
        --shown; // the last line says what follows
    }
    for (std::size_t i = 0; i < shown; ++i)
        paint(m_order[top + i],
              {m_body.left(), m_body.top() + m_rowHeight * static_cast<double>(i), m_body.width(), m_rowHeight});
    if (!m_state && shown < rows)
        m_c.second({m_body.left() + 4, m_body.top() + m_rowHeight * static_cast<double>(shown), m_body.width() - 4,
                    m_rowHeight},
                   QObject::tr("and %1 more").arg(rows - shown));
    else if (m_state && shown < rows)
        paintBar(top, shown);
}

void PaintedList::paintBar(std::size_t top, std::size_t shown) {
    const double rows = static_cast<double>(m_order.size());
    const QRectF track(m_body.right() + 4, m_body.top(), barWidth, m_rowHeight * static_cast<double>(shown));
    const double length = std::max(24.0, track.height() * static_cast<double>(shown) / rows);
    const double at =
        track.top() + (track.height() - length) * static_cast<double>(top) / (rows - static_cast<double>(shown));
    m_c.box(track, m_c.t.tray, m_c.t.hair, 1);
    m_c.box({track.left() + 1, at, track.width() - 2, length}, m_c.t.line, {});
    m_c.hit(
        track, Handle{.act = Act::ScrollList, .list = m_id},
        QObject::tr("Rows %1 to %2 of %3; drag, or turn the wheel").arg(top + 1).arg(top + shown).arg(m_order.size()));
}

} // namespace app
