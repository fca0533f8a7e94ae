// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/painted_panel.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QShortcut>
#include <QToolTip>

namespace app {

PaintedPanel::PaintedPanel(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    connect(&context.selection, &Selection::changed, this, [this] { update(); });
    connect(&context.selection, &Selection::hoverChanged, this, [this] { update(); });
    m_nextFrame.setSingleShot(true);
    connect(&m_nextFrame, &QTimer::timeout, this, [this] {
        refreshKept();
        update();
    });
    connect(&context.document, &Document::changed, this, &PaintedPanel::paintAnew);
    connect(&context.document, &Document::revisionSelected, this, &PaintedPanel::paintAnew);
}

void PaintedPanel::paintAnew() {
    m_order.clear();
    if (m_isAside && m_context.document.stages().pace() == StageStore::Pace::Beside)
        return m_nextFrame.start(0); // after what is painted now
    refreshKept();
    update();
}

void PaintedPanel::paintEvent(QPaintEvent*) {
    const PaintingNow painting; // no stage starts in here
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    Canvas canvas(painter, m_context.theme, m_context.selection.thing(), m_context.selection.hovered());
    canvas.hoveredHandle = m_hoveredHandle;
    m_lists.places.clear();
    canvas.lists = &m_lists;
    paintContent(canvas);
    m_hits = std::move(canvas.hits);
    if (hasFocus() && m_ring) {
        painter.setPen(QPen(m_context.theme.ink, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(QRectF(rect()).adjusted(2, 2, -2, -2));
    }
}

/// A ring for who came by keyboard; a click shows by itself where it went.
void PaintedPanel::focusInEvent(QFocusEvent* event) {
    m_ring = event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason ||
             event->reason() == Qt::ShortcutFocusReason;
    QWidget::focusInEvent(event);
    update();
}

void PaintedPanel::focusOutEvent(QFocusEvent* event) {
    QWidget::focusOutEvent(event);
    update();
}

void PaintedPanel::clicked(const Hit& hit) {
    if (core::isNothing(hit.thing))
        return;
    m_context.selection.select(hit.thing);
    Q_EMIT activated(hit.thing);
}

void PaintedPanel::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    if (const Hit* hit = hitAt(event->position())) {
        const Hit copy = *hit; // a click may repaint, and so replace the list
        if (!pressList(copy, event->position()))
            clicked(copy);
    }
}

bool PaintedPanel::pressList(const Hit& hit, const QPointF& at) {
    if (hit.is(Act::SortList)) {
        m_lists.sortBy(hit.handle.list, hit.handle.row);
        update();
        return true;
    }
    if (hit.is(Act::FilterList)) {
        typeFilter(hit);
        return true;
    }
    if (!hit.is(Act::ScrollList))
        return false;
    m_draggedList = hit.handle.list;
    m_lists.scrollTo(m_draggedList, (at.y() - hit.rect.top() - 12) / std::max(1.0, hit.rect.height() - 24));
    update();
    return true;
}

/// A field over the place of the filter; Enter, Escape or leaving it puts it away, what was typed holds on.
void PaintedPanel::typeFilter(const Hit& hit) {
    const QString id = hit.handle.list;
    auto* field = new QLineEdit(m_lists.states[id].filter, this);
    field->setObjectName(QStringLiteral("listFilter"));
    field->setPlaceholderText(tr("filter"));
    field->setClearButtonEnabled(true);
    const QRect place = hit.rect.toRect();
    field->setGeometry(place.right() - std::max(120, place.width()), place.top() - 3, std::max(120, place.width()), 26);
    connect(field, &QLineEdit::textChanged, this, [this, id](const QString& text) {
        m_lists.states[id].filter = text.trimmed();
        m_lists.states[id].top = 0;
        update();
    });
    connect(field, &QLineEdit::editingFinished, field, &QObject::deleteLater);
    auto* away = new QShortcut(QKeySequence(Qt::Key_Escape), field, nullptr, nullptr, Qt::WidgetShortcut);
    connect(away, &QShortcut::activated, this, [this] { setFocus(Qt::OtherFocusReason); });
    field->show();
    field->setFocus(Qt::OtherFocusReason);
    field->selectAll();
}

bool PaintedPanel::turnList(const QPointF& at, int rows) {
    const ListPlace* place = m_lists.at(at);
    if (!place || place->rows <= place->shown)
        return false;
    m_lists.scroll(QString(place->id), rows);
    update();
    return true;
}

void PaintedPanel::wheelEvent(QWheelEvent* event) {
    if (event->angleDelta().y() != 0 && turnList(event->position(), event->angleDelta().y() < 0 ? 3 : -3))
        event->accept();
    else
        QWidget::wheelEvent(event);
}

void PaintedPanel::mouseReleaseEvent(QMouseEvent* event) {
    m_draggedList.clear();
    QWidget::mouseReleaseEvent(event);
}

void PaintedPanel::mouseDoubleClickEvent(QMouseEvent* event) {
    if (const Hit* hit = hitAt(event->position());
        hit && event->button() == Qt::LeftButton && !core::isNothing(hit->thing))
        Q_EMIT opened(core::Thing(hit->thing));
}

/// By mouse for what lies under it, by key for what is selected.
void PaintedPanel::contextMenuEvent(QContextMenuEvent* event) {
    const bool byMouse = event->reason() == QContextMenuEvent::Mouse;
    const Hit* hit = byMouse ? hitAt(event->pos()) : nullptr;
    QPoint at = event->globalPos();
    const core::Thing under = !hit ? core::Thing{} : core::isNothing(hit->thing) ? hit->handle.of : hit->thing;
    if (hit && core::isNothing(under))
        return Q_EMIT sheetMenuWanted(hit->handle.act, at);
    const core::Thing thing = byMouse ? under : m_context.selection.thing();
    if (!byMouse)
        for (const Hit& h : m_hits)
            if (h.thing == thing)
                at = mapToGlobal(h.rect.center().toPoint());
    if (!core::isNothing(thing))
        Q_EMIT menuWanted(thing, at);
}

void PaintedPanel::mouseMoveEvent(QMouseEvent* event) {
    if (!m_draggedList.isEmpty())
        for (const Hit& hit : m_hits)
            if (hit.is(Act::ScrollList) && hit.handle.list == m_draggedList) {
                const Hit copy = hit;
                pressList(copy, event->position());
                return;
            }
    const Hit* hit = hitAt(event->position());
    setCursor(hit ? Qt::PointingHandCursor : Qt::ArrowCursor);
    hover(hit);
}

void PaintedPanel::hover(const Hit* hit) {
    const Handle handle = hit ? hit->handle : Handle{};
    if (!(handle == m_hoveredHandle)) {
        m_hoveredHandle = handle;
        update();
    }
    m_context.selection.hover(hit ? hit->thing : core::Thing{});
}

void PaintedPanel::leaveEvent(QEvent*) { hover(nullptr); }

bool PaintedPanel::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(event);
        if (const Hit* hit = hitAt(help->pos())) {
            // Below what it explains, not over it; a place as large as the sheet has it at the pointer.
            constexpr double large = 120;
            constexpr int tipOffset = 14; // Qt puts the tip that much below the point
            const QPoint below = mapToGlobal(QPoint(help->pos().x(), static_cast<int>(hit->rect.bottom()) - tipOffset));
            QToolTip::showText(hit->rect.height() > large ? help->globalPos() : below, hit->name, this);
        } else {
            QToolTip::hideText();
        }
        return true;
    }
    return QWidget::event(event);
}

/// What can be stepped to, each thing once, in the order in which it is painted while nothing is selected: a selection
/// paints places of its own, and an order that changes with each step goes round in circles.
const Places& PaintedPanel::figuresInOrder() {
    // Painted for it only when other things are on the sheet than last time: a step is one frame.
    // What stands in a list is stepped to there, and not where a drawing shows it too, also while its row is out of
    // sight: else a list that follows the selection would scroll back before its last rows are reached.
    const auto inOrder = [this](const Places& places, const ListLook& lists) {
        const auto isListed = [&](const Hit& hit) {
            return std::any_of(lists.places.begin(), lists.places.end(),
                               [&](const ListPlace& place) { return place.rect.contains(hit.rect.center()); });
        };
        Places listed, kept;
        std::copy_if(places.begin(), places.end(), std::back_inserter(listed), isListed);
        std::copy_if(places.begin(), places.end(), std::back_inserter(kept), [&](const Hit& hit) {
            return isListed(hit) || (!holdsThing(listed, hit.thing) &&
                                     std::find(m_listed.begin(), m_listed.end(), hit.thing) == m_listed.end());
        });
        return figuresOf(kept);
    };
    const Places now = inOrder(m_hits, m_lists);
    const auto allIn = [](const Places& these, const Places& those) {
        return std::all_of(these.begin(), these.end(), [&](const Hit& h) { return holdsThing(those, h.thing); });
    };
    if (!m_order.empty() && allIn(m_order, m_hits) && allIn(now, m_order))
        return m_order;
    QImage probe(1, 1, QImage::Format_ARGB32_Premultiplied);
    QPainter painter(&probe);
    Canvas canvas(painter, m_context.theme, {});
    ListLook lists = m_lists;
    lists.places.clear();
    lists.asksThings = true;
    canvas.lists = &lists;
    paintContent(canvas);
    m_listed.clear();
    for (const ListPlace& place : lists.places)
        m_listed.insert(m_listed.end(), place.things.begin(), place.things.end());
    m_order = inOrder(canvas.hits, lists);
    return m_order;
}

QString PaintedPanel::listAt(const QRectF& place) const {
    const auto at = std::find_if(m_lists.places.begin(), m_lists.places.end(),
                                 [&](const ListPlace& list) { return list.rect.contains(place.center()); });
    return at == m_lists.places.end() ? QString() : at->id;
}

QString PaintedPanel::listOf(const core::Thing& thing) {
    for (const Hit& hit : figuresInOrder())
        if (hit.thing == thing)
            return listAt(hit.rect);
    return {};
}

std::optional<PaintedPanel::Step> PaintedPanel::stepFrom(const core::Thing& from, int direction) {
    const Places& figures = figuresInOrder();
    if (figures.empty())
        return std::nullopt;
    const auto n = static_cast<std::ptrdiff_t>(figures.size());
    const auto now = std::find_if(figures.begin(), figures.end(), [&](const Hit& h) { return h.thing == from; });
    const std::ptrdiff_t at = now == figures.end() ? (direction > 0 ? -1 : n) : now - figures.begin(),
                         next = (at + direction + n) % n;
    return Step{figures[static_cast<std::size_t>(next)], next != at + direction};
}

std::optional<Hit> PaintedPanel::endOfList(const QString& id, bool last) {
    std::optional<Hit> end;
    for (const Hit& hit : figuresInOrder())
        if (listAt(hit.rect) == id && (last || !end))
            end = hit;
    return end;
}

bool PaintedPanel::turn(const QString& list, int rows) {
    const bool moved = !list.isEmpty() && m_lists.scroll(list, rows);
    if (moved)
        m_order.clear(); // other rows are in sight
    return moved;
}

/// Every row is reached: past the last one in sight its list is turned until another comes, and from elsewhere a list
/// is entered at its beginning.
void PaintedPanel::stepSelection(int direction) {
    constexpr int whole = 1'000'000;
    const core::Thing from = m_context.selection.thing();
    const QString list = listOf(from);
    auto step = stepFrom(from, direction);
    while (step && !list.isEmpty() && (step->around || listAt(step->to.rect) != list) && turn(list, direction)) {
        const bool inSight = listOf(from) == list; // another list may have it too
        const auto end = inSight ? std::nullopt : endOfList(list, direction < 0);
        step = end ? Step{*end, false} : stepFrom(from, direction);
    }
    if (!step)
        return;
    const QString into = listAt(step->to.rect);
    if (!into.isEmpty() && (into != list || step->around) && turn(into, direction > 0 ? -whole : whole))
        if (const auto end = endOfList(into, direction < 0))
            step->to = *end;
    const Hit next = step->to; // a copy: selecting may paint
    setAccessibleDescription(next.name);
    m_context.selection.select(next.thing);
}

} // namespace app

#include "moc_painted_panel.cpp"
