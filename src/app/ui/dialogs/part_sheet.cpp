// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/part_sheet.h"

#include "app/ui/own_canvas.h"
#include "core/fit/bodies.h"
#include "core/fit/section_drawing.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <cmath>

namespace app {
using core::Axis;
using core::own::Item;
using core::own::Kind;

namespace {
constexpr double handlePx = 4, reachPx = 11, snapReachPx = 5;
/// From the front (z towards the eye), from the right, from above.
constexpr std::array<std::pair<Axis, Axis>, 3> partSides{{{Axis::X, Axis::Y}, {Axis::Z, Axis::Y}, {Axis::X, Axis::Z}}};

/// The part alone, in its own axes.
core::Build alone(const core::Part& part) {
    core::Build build;
    core::Placed placed;
    placed.part = &part;
    placed.ports = part.ports;
    for (std::size_t k = 0; k < 3; ++k)
        placed.highAt[k] = part.size[k].value;
    build.placed.push_back(placed);
    return build;
}

/// How far it reaches with all that it keeps free, mm.
std::pair<std::array<double, 3>, std::array<double, 3>> reachOf(const core::Part& part) {
    std::array<double, 3> low{}, high{};
    for (std::size_t k = 0; k < 3; ++k)
        high[k] = std::max(1.0, part.size[k].value.mm());
    const core::Build build = alone(part);
    for (const core::fit::PlacedBody& body : core::fit::bodiesOf(build, 0))
        for (std::size_t k = 0; k < 3; ++k) {
            low[k] = std::min(low[k], body.low[k].mm());
            high[k] = std::max(high[k], body.high[k].mm());
        }
    for (const Item& item : core::own::itemsOf(part))
        for (std::size_t k = 0; k < 3; ++k) {
            low[k] = std::min(low[k], core::own::middleOf(part, item)[k]);
            high[k] = std::max(high[k], core::own::middleOf(part, item)[k]);
        }
    return {low, high};
}

QString kindText(Kind kind) {
    switch (kind) {
    case Kind::Body:
        return QObject::tr("body");
    case Kind::Plug:
        return QObject::tr("socket");
    case Kind::Place:
        return QObject::tr("place");
    case Kind::Corner:
        return QObject::tr("corner");
    }
    return {};
}
} // namespace

PartSheet::PartSheet(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("partSheet"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumSize(260, 300);
    setAccessibleName(tr("The part from the front, the right and above"));
}

void PartSheet::show(const core::Part& part) {
    m_part = part;
    if (m_item) {
        const auto items = core::own::itemsOf(m_part);
        if (std::find(items.begin(), items.end(), *m_item) == items.end())
            m_item.reset();
    }
    layOut();
    update();
}

void PartSheet::select(const std::optional<Item>& item) {
    m_item = item;
    update();
}

const std::array<PartSheet::Side, 3>& PartSheet::sides() {
    layOut();
    return m_sides;
}

/// Front at the left, the right beside it, from above below: one scale. What is dragged stays under the pointer.
void PartSheet::layOut() {
    if (m_dragging)
        return;
    const auto reach = reachOf(m_part);
    const auto &low = reach.first, &high = reach.second; // bindings of their own cannot be captured (clang 14)
    const std::array<double, 3> wide{high[0] - low[0], high[1] - low[1], high[2] - low[2]};
    constexpr double margin = 16, apart = 26, title = 20, foot = 26;
    const double scale = std::clamp(std::min((width() - 2 * margin - apart) / (wide[0] + wide[2]),
                                             (height() - margin - apart - 2 * title - foot) / (wide[1] + wide[2])),
                                    0.05, 8.0);
    // The corner of what is drawn, and in it the outer box.
    const auto side = [&](std::size_t i, double left, double top) {
        const auto [across, up] = partSides[i];
        const std::size_t a = core::index(across), u = core::index(up);
        m_sides[i] = {across, up,
                      QRectF(left - low[a] * scale, top + (high[u] - m_part.size[u].value.mm()) * scale,
                             m_part.size[a].value.mm() * scale, m_part.size[u].value.mm() * scale),
                      scale, QPointF(left, top - title)};
    };
    const double top = margin / 2 + title;
    side(0, margin, top);
    side(1, margin + wide[0] * scale + apart, top);
    side(2, margin, top + wide[1] * scale + apart + title);
}

void PartSheet::resizeEvent(QResizeEvent*) { layOut(); }

/// Letters and arrows are for the things here; Enter stays the dialog's.
bool PartSheet::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Delete || key == Qt::Key_Backspace || key == Qt::Key_J || key == Qt::Key_K ||
            (key == Qt::Key_Escape && m_dragging))
            event->accept();
    }
    return QWidget::event(event);
}

/// What lies under the pointer: a handle near it, else the smallest body there. The one that is selected wins.
std::optional<PartSheet::Under> PartSheet::under(const QPointF& at) {
    std::optional<Under> best;
    double nearest = reachPx;
    const auto items = core::own::itemsOf(m_part);
    const auto& drawn = sides();
    for (int side = 0; side < 3; ++side)
        for (const Item& item : items) {
            const QPointF d = drawn[static_cast<std::size_t>(side)].at(core::own::middleOf(m_part, item)) - at;
            const double far = std::max(std::abs(d.x()), std::abs(d.y())) - (m_item == item ? 1 : 0);
            if (far < nearest) {
                nearest = far;
                best = Under{item, side};
            }
        }
    return best;
}

/// To the faces and the middle of the part, and level with other things of it.
double PartSheet::snapped(Axis axis, double mm) const {
    const std::size_t k = core::index(axis);
    const double size = m_part.size[k].value.mm();
    double best = std::round(mm * 2) / 2, nearest = snapReachPx / m_sides[0].scale;
    const auto offer = [&](double to) {
        if (std::abs(to - mm) < nearest) {
            nearest = std::abs(to - mm);
            best = to;
        }
    };
    for (const double to : {0.0, size / 2, size})
        offer(to);
    for (const Item& item : core::own::itemsOf(m_part))
        if (m_item != item)
            offer(core::own::middleOf(m_part, item)[k]);
    return best;
}

void PartSheet::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    const auto hit = event->button() == Qt::LeftButton ? under(event->position()) : std::nullopt;
    if (!hit)
        return;
    m_side = hit->side;
    m_press = event->position();
    m_from = core::own::middleOf(m_part, hit->item);
    if (m_item != hit->item) {
        m_item = hit->item;
        Q_EMIT chose(hit->item);
    }
    update();
}

void PartSheet::mouseMoveEvent(QMouseEvent* event) {
    if (!m_press || !m_item || !(event->buttons() & Qt::LeftButton)) {
        const auto hit = under(event->position());
        setCursor(hit ? Qt::SizeAllCursor : Qt::ArrowCursor);
        return Q_EMIT hinted(hit ? tr("Drag to move %1 %2; Alt: on tenths, without snapping")
                                       .arg(kindText(hit->item.kind), qs(core::own::nameOf(m_part, hit->item)))
                                 : QString());
    }
    const QPointF d = event->position() - *m_press;
    if (!m_dragging && d.manhattanLength() < 4)
        return;
    if (!m_dragging) {
        m_dragging = true;
        Q_EMIT dragBegan();
    }
    const Side& s = m_sides[static_cast<std::size_t>(m_side)];
    const bool fine = event->modifiers() & Qt::AltModifier;
    std::array<double, 3> by{};
    const auto move = [&](Axis axis, double px) {
        const std::size_t k = core::index(axis);
        const double to = m_from[k] + px / s.scale;
        by[k] = (fine ? std::round(to * 10) / 10 : snapped(axis, to)) - m_from[k];
    };
    move(s.across, d.x());
    move(s.up, -d.y());
    Q_EMIT draggedBy(by);
    Q_EMIT hinted(tr("Esc drops the drag"));
}

void PartSheet::mouseReleaseEvent(QMouseEvent*) {
    m_press.reset();
    if (std::exchange(m_dragging, false))
        Q_EMIT dragEnded(true);
    layOut();
    update();
}

void PartSheet::mouseDoubleClickEvent(QMouseEvent* event) {
    if (const auto hit = under(event->position()); hit && hit->item.kind == Kind::Corner)
        Q_EMIT cornerWanted(hit->item);
}

void PartSheet::step(int by) {
    const auto items = core::own::itemsOf(m_part);
    if (items.empty())
        return;
    const auto n = static_cast<std::ptrdiff_t>(items.size());
    const auto at = m_item ? std::find(items.begin(), items.end(), *m_item) - items.begin() : (by > 0 ? -1 : n);
    m_item = items[static_cast<std::size_t>(((at >= n ? n : at) + by + n) % n)];
    setAccessibleDescription(kindText(m_item->kind) + QLatin1Char(' ') + qs(core::own::nameOf(m_part, *m_item)));
    Q_EMIT chose(*m_item);
    update();
}

void PartSheet::keyPressEvent(QKeyEvent* event) {
    const Side& s = m_sides[static_cast<std::size_t>(m_side)];
    const double mm = event->modifiers() & Qt::ShiftModifier ? 5 : 0.5;
    std::array<double, 3> by{};
    switch (event->key()) {
    case Qt::Key_Escape:
        if (!m_dragging)
            return QWidget::keyPressEvent(event);
        m_dragging = false;
        m_press.reset();
        return Q_EMIT dragEnded(false);
    case Qt::Key_J:
        return step(1);
    case Qt::Key_K:
        return step(-1);
    case Qt::Key_V:
        m_side = (m_side + 1) % 3;
        return update();
    case Qt::Key_Insert:
        if (m_item && (m_item->kind == Kind::Corner || m_item->kind == Kind::Body))
            Q_EMIT cornerWanted(*m_item);
        return;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        if (m_item)
            Q_EMIT removeWanted();
        return;
    case Qt::Key_Left:
        by[core::index(s.across)] = -mm;
        break;
    case Qt::Key_Right:
        by[core::index(s.across)] = mm;
        break;
    case Qt::Key_Up:
        by[core::index(s.up)] = mm;
        break;
    case Qt::Key_Down:
        by[core::index(s.up)] = -mm;
        break;
    default:
        return QWidget::keyPressEvent(event);
    }
    if (m_item)
        Q_EMIT nudged(by);
}

/// Bodies as they are, plugs with the room they take and the way they are pulled off, places as diamonds.
void PartSheet::paintItems(Canvas& c, const Side& s) {
    const bool isPicture = testAttribute(Qt::WA_TransparentForMouseEvents); // nothing can be taken hold of
    for (const Item& item : core::own::itemsOf(m_part)) {
        if (isPicture && (item.kind == Kind::Body || item.kind == Kind::Corner))
            continue;
        const bool on = m_item == item;
        const QPointF at = s.at(core::own::middleOf(m_part, item));
        c.p.setPen(QPen(on ? c.t.medge : c.t.ink, on ? 2 : 1.2));
        c.p.setBrush(on ? c.t.marker : c.t.sheet);
        const double r = handlePx + (on ? 1.5 : 0);
        switch (item.kind) {
        case Kind::Plug: {
            const core::Direction out = m_part.ports[item.index].out;
            std::array<double, 3> way{};
            way[core::index(out.axis)] = out.sign;
            const QPointF tip(way[core::index(s.across)], -way[core::index(s.up)]);
            if (!tip.isNull())
                c.arrow(at, at + 16 * tip, on ? c.t.medge : c.t.ink);
            c.p.drawEllipse(at, r, r);
            break;
        }
        case Kind::Place:
            c.p.drawPolygon(QPolygonF{at + QPointF(0, -r - 1.5), at + QPointF(r + 1.5, 0), at + QPointF(0, r + 1.5),
                                      at + QPointF(-r - 1.5, 0)});
            break;
        case Kind::Corner:
        case Kind::Body:
            c.p.drawRect(QRectF(at.x() - r, at.y() - r, 2 * r, 2 * r));
            break;
        }
    }
}

void PartSheet::paintSide(Canvas& c, int side, const std::vector<core::fit::PlacedBody>& bodies) {
    const Side& s = m_sides[static_cast<std::size_t>(side)];
    const std::array<QString, 3> titles{tr("front: x, y"), tr("right: z, y"), tr("above: x, z")};
    c.text(QRectF(s.title, QSizeF(120, 16)), titles.at(static_cast<std::size_t>(side)), 11.5,
           side == m_side && hasFocus() ? Weight::SemiBold : Weight::Regular,
           side == m_side && hasFocus() ? c.t.ink : c.t.ink2);
    for (const core::BodyRole role : {core::BodyRole::Solid, core::BodyRole::KeepOut})
        for (const core::fit::PlacedBody& body : bodies) {
            if (body.role != role)
                continue;
            for (const core::fit::Primitive& piece : core::fit::primitivesOf(body)) {
                QPainterPath path;
                QPolygonF outline;
                for (const auto& [a, u] : core::fit::outlineOf(piece, s.across, s.up))
                    outline << QPointF(s.box.left() + a * s.scale, s.box.bottom() - u * s.scale);
                path.addPolygon(outline);
                path.closeSubpath();
                if (role == core::BodyRole::Solid) {
                    c.hatch(path, m_part.kind, c.t.sheet, c.t.ink, 1);
                    continue;
                }
                QPen pen(c.t.tight, 1);
                pen.setDashPattern({9, 3, 2, 3});
                c.p.setPen(pen);
                c.p.setBrush(Qt::NoBrush);
                c.p.drawPath(path);
            }
        }
    QPen edge(c.t.line, 1);
    edge.setDashPattern({5, 3});
    c.p.setPen(edge);
    c.p.setBrush(Qt::NoBrush);
    c.p.drawRect(s.box);
    paintItems(c, s);
}

void PartSheet::paintEvent(QPaintEvent*) {
    OwnCanvas own(*this, m_context.theme);
    Canvas& c = own.canvas();
    c.p.fillRect(rect(), c.t.paper);
    const core::Build build = alone(m_part);
    const auto bodies = core::fit::bodiesOf(build, 0);
    for (int side = 0; side < 3; ++side)
        paintSide(c, side, bodies);
    if (m_item) {
        const auto at = core::own::middleOf(m_part, *m_item);
        const View v = m_context.view();
        c.second({8, height() - 22.0, width() - 16.0, 18},
                 c.elided(tr("%1 %2 at %3, %4, %5")
                              .arg(kindText(m_item->kind), qs(core::own::nameOf(m_part, *m_item)),
                                   v.number(core::Quantity::Length, at[0]), v.number(core::Quantity::Length, at[1]),
                                   v.text(core::Quantity::Length, at[2])),
                          width() - 16.0, 12));
    }
    if (hasFocus())
        c.box(QRectF(rect()).adjusted(1, 1, -1, -1), {}, c.t.ink, 1.5);
}

} // namespace app

#include "moc_part_sheet.cpp"
