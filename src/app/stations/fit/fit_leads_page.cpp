// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_page.h"

#include <QKeyEvent>

#include <cmath>

// Leads of Fit: their corners dragged, moved by keys, put in and taken out.
namespace app {
using core::fit::LeadRoute;

/// The lead that is selected; of several ends the one whose corner was chosen last, else the first.
const LeadRoute* FitPage::selectedLead() const {
    const auto* e = m_context.view().evaluation();
    const auto* ref = std::get_if<core::LeadRef>(&m_context.selection.thing());
    if (!e || !ref)
        return nullptr;
    const LeadRoute* first = nullptr;
    for (const LeadRoute& route : e->wiring.routes)
        if (route.ref == *ref) {
            if (route.end == m_look.leadEnd)
                return &route;
            if (!first)
                first = &route;
        }
    return first;
}

/// Of a lead with several ends the one whose line passes nearest to a place on the drawing.
void FitPage::chooseLeadEnd(const core::LeadRef& lead, const QPointF& at) {
    const Sheet sheet = sheetOf(fitDrawing(inside()), m_context.view(), m_look);
    const Section* section = sectionAt(sheet, at);
    const auto* e = m_context.view().evaluation();
    double least = 1e18;
    if (section && e)
        for (const LeadRoute& route : e->wiring.routes)
            if (route.ref == lead) {
                const QPointF off = section->point(nearestLeg(*section, route, at).at) - at;
                if (const double far = QPointF::dotProduct(off, off); far < least) {
                    least = far;
                    m_look.leadEnd = route.end;
                }
            }
}

void FitPage::chooseCorner(int corner) {
    m_look.leadCorner = corner;
    update();
}

/// What a drag would make of the lead: its way, bends and what it comes too near to, before it is made.
void FitPage::tryWay(const LeadWay& way) {
    const auto build = core::resolveWith(m_context.document.project(), m_context.document.revision(), {way.change});
    m_look.leadTrial = nullptr;
    m_leadTrial.reset();
    if (!build)
        return;
    for (LeadRoute& route : core::fit::leadRoutes(*build))
        if (route.ref == way.lead && route.end == way.end)
            m_leadTrial = std::move(route);
    m_look.leadTrial = m_leadTrial ? &*m_leadTrial : nullptr;
    update();
}

void FitPage::takeWay(LeadWay way, int corner) {
    way.round();
    m_look.leadTrial = nullptr;
    m_leadTrial.reset();
    m_look.leadEnd = way.end;
    const auto done = m_context.document.addChange(way.change);
    if (!done)
        Q_EMIT refused(done.error());
    chooseCorner(done ? corner : -1);
}

/// Corners behind each other on a section: the one that was chosen, else the first.
bool FitPage::pressCorner(const Hit& hit, const QPointF& at) {
    if (!hit.is(Act::DragCorner) || !selectedLead())
        return false;
    const bool chosen = std::any_of(m_hits.begin(), m_hits.end(), [&](const Hit& h) {
        return h.is(Act::DragCorner) && h.handle.row == m_look.leadCorner && h.rect.contains(at);
    });
    const int corner = chosen ? m_look.leadCorner : hit.handle.row;
    m_cornerDrag = CornerDrag::at(sheetOf(fitDrawing(inside()), m_context.view(), m_look), *selectedLead(),
                                  static_cast<std::size_t>(corner), at);
    chooseCorner(corner);
    return m_cornerDrag.has_value();
}

void FitPage::dragCorner(const QPointF& at, bool fine) {
    m_cornerDrag->moveTo(at, fine);
    if (m_cornerDrag->moving)
        tryWay(m_cornerDrag->way);
}

/// Lets go of the corner; @p take: where it is now it stays, as one step.
void FitPage::dropCorner(bool take) {
    const auto drag = std::exchange(m_cornerDrag, std::nullopt);
    if (!drag)
        return;
    m_look.leadTrial = nullptr;
    if (drag->moving && take)
        takeWay(drag->way, static_cast<int>(drag->corner));
    update();
}

/// A corner more where the line of the lead was double-clicked; without a place on its longest leg.
void FitPage::addCorner(const QPointF* at) {
    const LeadRoute* route = selectedLead();
    if (!route)
        return;
    const Sheet sheet = sheetOf(fitDrawing(inside()), m_context.view(), m_look);
    const Section* section = at ? sectionAt(sheet, *at) : nullptr;
    const NearestLeg near = section ? nearestLeg(*section, *route, *at) : NearestLeg{};
    const MoreCorners more = section ? withCornerIn(*route, near.leg, near.at) : withCornerOnLongestLeg(*route);
    takeWay(LeadWay::of(*route, more.corners), static_cast<int>(more.at));
}

void FitPage::removeCorner() {
    const LeadRoute* route = selectedLead();
    auto corners = route ? core::fit::cornersOf(*route) : std::vector<core::fit::Point>{};
    if (m_look.leadCorner < 0 || m_look.leadCorner >= static_cast<int>(corners.size()))
        return;
    corners.erase(corners.begin() + m_look.leadCorner);
    takeWay(LeadWay::of(*route, corners), std::min(m_look.leadCorner, static_cast<int>(corners.size()) - 1));
}

/// Without corners: along the edges of the case again.
void FitPage::straightenLead() {
    if (const LeadRoute* route = selectedLead(); route && route->stated)
        takeWay(LeadWay::of(*route, {}), -1);
}

/// Moves the corner that was chosen; false: there is none.
bool FitPage::nudgeCorner(core::Axis axis, double mm) {
    const LeadRoute* route = selectedLead();
    auto corners = route ? core::fit::cornersOf(*route) : std::vector<core::fit::Point>{};
    if (m_look.leadCorner < 0 || m_look.leadCorner >= static_cast<int>(corners.size()))
        return false;
    corners[static_cast<std::size_t>(m_look.leadCorner)][core::index(axis)] += mm;
    takeWay(LeadWay::of(*route, corners), m_look.leadCorner);
    return true;
}

/// The next corner of the lead, round.
void FitPage::nextCorner() {
    const LeadRoute* route = selectedLead();
    const int count = route ? static_cast<int>(core::fit::cornersOf(*route).size()) : 0;
    chooseCorner(count > 0 ? (m_look.leadCorner + 1) % count : -1);
}

/// What keys do to the lead that is selected; false: not of it.
bool FitPage::leadKey(int key) {
    if (!selectedLead())
        return false;
    switch (key) {
    case Qt::Key_Insert:
        addCorner(nullptr);
        return true;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        if (m_look.leadCorner < 0)
            return false;
        removeCorner();
        return true;
    case Qt::Key_N:
        nextCorner();
        return true;
    default:
        return false;
    }
}

/// While a corner is chosen the keys that take something out are about it, and Esc drops what is dragged.
bool FitPage::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const bool takesOut = key == Qt::Key_Delete || key == Qt::Key_Backspace;
        if ((takesOut && m_look.leadCorner >= 0 && selectedLead()) ||
            (key == Qt::Key_Escape && (m_cornerDrag || m_partDrag)))
            event->accept();
    }
    return StationPage::event(event);
}

} // namespace app
