// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/box_sheet.h"

#include "app/stations/fit/box_details.h"
#include "core/model/cutout_edits.h"
#include "core/model/slot_covers.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>

namespace app {
using core::Axis;
using core::box::Extent;
using core::box::Item;
using core::box::Kind;

namespace {
constexpr double hitPx = 12, snapPx = 6;
constexpr std::array<std::pair<Axis, Axis>, 3> planes{{{Axis::X, Axis::Z}, {Axis::Y, Axis::Z}, {Axis::Y, Axis::X}}};
} // namespace

BoxSheet::BoxSheet(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("boxSheet"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumSize(360, 300);
    setAccessibleName(tr("The box from the front, the right and above"));
}

void BoxSheet::show(const core::Build* build, const core::Part* casePart) {
    m_build = build;
    m_case = casePart;
    layOut();
    update();
}

void BoxSheet::select(const std::optional<Item>& item) {
    m_item = item;
    update();
}

Extent BoxSheet::extentOf(const Item& item) const {
    std::array<double, 3> part{};
    if (item.kind == Kind::Cutout) {
        const core::Placed* panel = panelOf(item);
        return panel ? core::box::cutoutExtent(*panel, item.hole) : Extent{};
    }
    if (item.kind == Kind::Place && m_build && item.index < m_case->mounts.size())
        if (const core::Placed* placed = m_build->at(m_case->mounts[item.index].id); placed && placed->variant.empty())
            for (std::size_t a = 0; a < 3; ++a)
                part[a] = placed->highAt[a].mm() - placed->lowAt[a].mm();
    return core::box::extentOf(*m_case, item, part);
}

const core::Placed* BoxSheet::panelAt(const Item& item) const {
    return item.kind == Kind::Place ? panelOf(item) : nullptr;
}

const core::Placed* BoxSheet::panelOf(const Item& item) const {
    return m_build && m_case ? core::box::panelOf(*m_case, *m_build, item) : nullptr;
}

QString BoxSheet::nameOf(const Item& item) const {
    if (item.kind != Kind::Cutout)
        return m_case ? qs(core::box::nameOf(*m_case, item)) : QString();
    const core::Placed* panel = panelOf(item);
    return panel ? tr("Cut-out %1 of %2").arg(item.hole + 1).arg(qs(panel->name)) : QString();
}

std::vector<Axis> BoxSheet::freeAxes(const Item& item) const {
    std::vector<Axis> free;
    const core::Placed* panel = item.kind == Kind::Cutout ? panelOf(item) : nullptr;
    for (const Axis axis : core::allAxes)
        if (item.kind == Kind::Vent     ? core::box::canResize(*m_case, item, axis)
            : item.kind == Kind::Cutout ? panel && core::box::isAcross(*panel, item.hole, axis)
                                        : true)
            free.push_back(axis);
    return free;
}

bool BoxSheet::isSeen(const Item& item, const Side& side) const {
    const core::Placed* panel = item.kind == Kind::Cutout ? panelOf(item) : nullptr;
    return !panel || !core::box::isAcross(*panel, item.hole, side.through());
}

bool BoxSheet::canPull(Axis axis) const {
    if (!m_item || !m_case)
        return false;
    if (m_item->kind == Kind::Cutout) {
        const auto free = freeAxes(*m_item);
        return std::find(free.begin(), free.end(), axis) != free.end();
    }
    return core::box::canResize(*m_case, *m_item, axis) || panelAt(*m_item);
}

std::vector<Item> BoxSheet::things() const {
    return m_build ? core::box::thingsOf(*m_case, *m_build) : core::box::itemsOf(*m_case);
}

std::vector<Extent> BoxSheet::extents() const {
    std::vector<Extent> all;
    for (const Item& item : core::box::itemsOf(*m_case)) // of the case itself: fans lie on its vents
        all.push_back(extentOf(item));
    return all;
}

std::optional<core::box::VentOnFan> BoxSheet::ventOnFan() const {
    return m_item && m_case ? core::box::ventOnFan(*m_case, *m_item, extents()) : std::nullopt;
}

/// The front left, the right side beside it, the view from above under that: one scale.
void BoxSheet::layOut() {
    if (!m_build)
        return;
    const double w = m_build->insideAt[0].mm(), d = m_build->insideAt[1].mm(), h = m_build->insideAt[2].mm();
    constexpr double margin = 26, gap = 34, title = 18;
    // A wall that is dragged stays under the pointer: the scale waits for the end of the drag.
    const double fits = std::max(
        0.05, std::min((width() - 2 * margin - gap) / (w + d), (height() - 2 * margin - gap - 2 * title) / (h + w)));
    const double scale = m_grip.view >= 0 ? m_sides[0].scale : fits;
    const double left = margin, top = margin + title;
    m_sides[0] = {planes[0].first, planes[0].second, QRectF(left, top, w * scale, h * scale), scale};
    m_sides[1] = {planes[1].first, planes[1].second, QRectF(left + w * scale + gap, top, d * scale, h * scale), scale};
    m_sides[2] = {planes[2].first, planes[2].second,
                  QRectF(left + w * scale + gap, top + h * scale + gap + title, d * scale, w * scale), scale};
}

/// Keys that the window has for parts are for the things of the box here.
bool BoxSheet::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const auto* key = static_cast<QKeyEvent*>(event);
        const bool copies = key->key() == Qt::Key_D && key->modifiers() == Qt::ControlModifier;
        if (copies || key->key() == Qt::Key_Delete || key->key() == Qt::Key_F2 || key->key() == Qt::Key_Escape ||
            (!(key->modifiers() & ~Qt::ShiftModifier) && !key->text().isEmpty()))
            event->accept();
    }
    return QWidget::event(event);
}

void BoxSheet::resizeEvent(QResizeEvent*) { layOut(); }

const std::array<BoxSheet::Side, 3>& BoxSheet::sides() {
    layOut();
    return m_sides;
}

QRectF BoxSheet::rectOf(const Extent& e, const Side& s) const {
    return QRectF(s.at(e.low[core::index(s.across)], e.low[core::index(s.up)]),
                  s.at(e.high[core::index(s.across)], e.high[core::index(s.up)]))
        .normalized();
}

std::vector<BoxSheet::Grip> BoxSheet::grips() const {
    std::vector<Grip> all;
    if (!m_item || !m_case)
        return all;
    for (int view = 0; view < 3; ++view) {
        const Side& s = m_sides[static_cast<std::size_t>(view)];
        if (!isSeen(*m_item, s))
            continue;
        // A thin panel has one handle for its thickness: two and its middle would lie on each other.
        const QRectF r = rectOf(extentOf(*m_item), s);
        const auto ends = [&](double px) {
            return m_item->kind == Kind::Place && px < 3 * gripPx ? std::vector{1} : std::vector{-1, 1};
        };
        if (canPull(s.across))
            for (const int end : ends(r.width()))
                all.push_back({view, end, 0});
        if (canPull(s.up))
            for (const int end : ends(r.height()))
                all.push_back({view, 0, end});
        if (m_item->kind != Kind::Walls)
            all.push_back({view, 0, 0});
        else if (s.up == Axis::Z && m_build && m_build->down == core::Side::Bottom &&
                 std::abs(m_build->feet.value.mm() - std::get<core::CaseSpec>(m_case->spec).feetMm) < 0.01) // own ones
            all.push_back({view, 0, Grip::feet});
    }
    return all;
}

QPointF BoxSheet::gripAt(const Grip& grip) {
    if (grip.isFeet()) { // beside the middle, where the handle of the floor is
        const Side& s = sides()[static_cast<std::size_t>(grip.view)];
        const double under = m_build->caseSpec().wall.value.mm() + std::get<core::CaseSpec>(m_case->spec).feetMm;
        return {s.inside.left() + s.inside.width() * 0.2, s.at(0, -under).y()};
    }
    const QRectF r = rectOf(extentOf(*m_item), sides()[static_cast<std::size_t>(grip.view)]);
    return {grip.across < 0   ? r.left()
            : grip.across > 0 ? r.right()
                              : r.center().x(),
            grip.up < 0   ? r.bottom()
            : grip.up > 0 ? r.top()
                          : r.center().y()};
}

BoxSheet::Grip BoxSheet::gripUnder(const QPointF& at) {
    Grip best;
    double nearest = hitPx;
    for (const Grip& grip : grips()) {
        const QPointF d = gripAt(grip) - at;
        const double far = std::max(std::abs(d.x()), std::abs(d.y())) + (grip.isMiddle() ? 0.5 : 0);
        if (far <= nearest) {
            nearest = far;
            best = grip;
        }
    }
    return best;
}

/// The smallest thing under the pointer: a vent before the chamber it is of.
std::optional<Item> BoxSheet::itemUnder(const QPointF& at) {
    std::optional<Item> best;
    double area = 1e18;
    if (!m_case || !m_build)
        return best;
    for (const Item& item : things()) {
        const Extent e = extentOf(item);
        for (const Side& s : sides()) {
            if (!isSeen(item, s))
                continue;
            QRectF r = rectOf(e, s);
            r.adjust(r.width() < 8 ? -4 : 0, r.height() < 8 ? -4 : 0, r.width() < 8 ? 4 : 0, r.height() < 8 ? 4 : 0);
            if (item.kind == Kind::Walls)
                r.adjust(-6, -6, 6, 6);
            if (r.contains(at) && r.width() * r.height() < area) {
                area = r.width() * r.height();
                best = item;
            }
        }
    }
    return best;
}

/// To the ends and middles of other things, and of parts; a middle that is moved also to equal gaps and screw holes.
std::optional<BoxSheet::Snapped> BoxSheet::snapped(Axis axis, double mm, double reachMm) const {
    const std::size_t a = core::index(axis);
    std::optional<Snapped> best;
    double nearest = reachMm;
    const auto offer = [&](double to, const auto& why) {
        if (std::abs(to - mm) < nearest) {
            nearest = std::abs(to - mm);
            best = Snapped{to, why()};
        }
    };
    const auto ends = [&](double low, double high) {
        const auto why = [] { return tr("On an edge or middle of something else"); };
        offer(low, why);
        offer(high, why);
        offer((low + high) / 2, why);
    };
    for (const Item& item : things())
        if (!m_item || !(item == *m_item)) {
            const Extent e = extentOf(item);
            ends(e.low[a], e.high[a]);
        }
    if (m_build) // a wall may have been pulled so far that nothing resolves
        for (const core::Placed& p : m_build->placed)
            if (!(m_item && m_item->kind == Kind::Place && p.mount == m_case->mounts[m_item->index].id))
                ends(p.lowAt[a].mm(), p.highAt[a].mm());
    if (m_item && m_grip.isMiddle())
        for (const core::box::Snap& snap : core::box::snapsOf(*m_case, *m_item, axis, extents()))
            offer(snap.mm, [&] { return m_context.view().words(snap.why); });
    return best;
}

void BoxSheet::say(const QString& words) {
    if (m_hint != words) {
        m_hint = words;
        Q_EMIT hinted(words);
    }
}

void BoxSheet::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    if (!m_case || event->button() != Qt::LeftButton)
        return;
    m_grip = m_item ? gripUnder(event->position()) : Grip{};
    if (m_grip.view < 0) {
        const auto item = itemUnder(event->position());
        if (!item)
            return;
        if (!m_item || !(*item == *m_item)) {
            Q_EMIT chose(*item);
            return;
        }
        for (int view = 0; view < 3; ++view) // its own area is its middle
            if (rectOf(extentOf(*item), m_sides[static_cast<std::size_t>(view)]).contains(event->position()) &&
                item->kind != Kind::Walls && isSeen(*item, m_sides[static_cast<std::size_t>(view)]))
                m_grip = {view, 0, 0};
        if (m_grip.view < 0)
            return;
    }
    m_before = extentOf(*m_item);
    m_onFanBefore = ventOnFan();
    m_grabbed = (gripAt(m_grip) - event->position()) / m_sides[static_cast<std::size_t>(m_grip.view)].scale;
    Q_EMIT dragBegan();
}

void BoxSheet::mouseMoveEvent(QMouseEvent* event) {
    if (!m_case)
        return;
    if (m_grip.view < 0 || !(event->buttons() & Qt::LeftButton)) {
        const Grip under = m_item ? gripUnder(event->position()) : Grip{};
        const auto item = itemUnder(event->position());
        say(under.view >= 0 && under.isMiddle() ? tr("Drag to move %1; Alt: without snapping").arg(nameOf(*m_item))
            : under.isFeet()
                ? tr("Drag to set the feet: %1 stand free below the case")
                      .arg(m_context.view().text(core::Quantity::Length, std::get<core::CaseSpec>(m_case->spec).feetMm))
            : under.view >= 0 ? tr("Drag to pull this end of %1").arg(nameOf(*m_item))
            : overCover(event->position()) && (!item || item->kind == Kind::Walls || item->kind == Kind::Chamber)
                ? coversHint()
            : item ? tr("Click to choose %1").arg(nameOf(*item))
                   : QString());
        setCursor(under.view < 0     ? Qt::ArrowCursor
                  : under.isMiddle() ? Qt::SizeAllCursor
                  : under.across     ? Qt::SizeHorCursor
                                     : Qt::SizeVerCursor);
        if (!(m_hovered == under)) {
            m_hovered = under;
            update();
        }
        return;
    }
    const Side& s = m_sides[static_cast<std::size_t>(m_grip.view)];
    double a = (event->position().x() - s.inside.left()) / s.scale + m_grabbed.x(),
           u = (s.inside.bottom() - event->position().y()) / s.scale - m_grabbed.y();
    m_snap = {};
    QString why;
    if (!event->modifiers().testFlag(Qt::AltModifier)) {
        const double reach = snapPx / s.scale;
        const auto snap = [&](Axis axis, double& v) {
            const auto to = snapped(axis, v, reach);
            if (to) {
                m_snap[core::index(axis)] = to->mm;
                why = to->why;
            }
            v = to ? to->mm : std::round(v * 2) / 2; // else on half millimetres
        };
        snap(s.across, a);
        snap(s.up, u);
    }
    Q_EMIT dragged(m_grip, a, u);
    say(why.isEmpty() ? tr("Esc drops the drag") : tr("%1; Alt lets go").arg(why));
    update();
}

void BoxSheet::mouseReleaseEvent(QMouseEvent*) {
    if (m_grip.view < 0)
        return;
    m_grip = {};
    m_before.reset();
    m_snap = {};
    layOut();
    Q_EMIT dragEnded(true);
    update();
}

bool BoxSheet::isRound(const Item& item) const {
    if (item.kind == Kind::Vent)
        return std::get<core::CaseSpec>(m_case->spec).openings[item.index].round;
    const core::Placed* panel = item.kind == Kind::Cutout ? panelOf(item) : nullptr;
    const core::Cutout* hole = panel ? core::box::cutoutOf(*panel->part, item.hole) : nullptr;
    return hole && hole->round;
}

bool BoxSheet::overCover(const QPointF& at) {
    if (!m_build)
        return false;
    for (const Extent& e : core::box::slotCoversOf(*m_build))
        for (const Side& s : sides())
            if (s.across == Axis::Y && rectOf(e, s).adjusted(-4, 0, 6, 0).contains(at))
                return true;
    return false;
}

QString BoxSheet::coversHint() const {
    return tr("Slot covers: %1, %2 each, before the card. How many there are stands in the form of the walls")
        .arg(m_build->caseSpec().slotCovers)
        .arg(m_context.view().text(core::Quantity::Length, core::box::slotPitchMm));
}

} // namespace app

#include "moc_box_sheet.cpp"
