// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_page.h"

#include "app/stations/fit/box_editor.h"
#include "core/make/plan.h"
#include "core/model/choices.h"

#include <QKeyEvent>
#include <QMouseEvent>

namespace app {
using core::Axis;
using List = FitLook::List;

FitPage::FitPage(Context& context, QWidget* parent)
    : StationPage(
          context,
          [this](Canvas& c, const QRectF& r, const View& v) {
              if (m_boxEditor && m_boxEditor->isVisible())
                  return; // it lies over all of this
              answer();
              paintFit(c, r, v, m_look);
          },
          parent) {
    connect(&context.document, &Document::pathChanged, this, [this] { m_look = {}; });
    connect(&context.selection, &Selection::ghostChanged, this, &FitPage::makeGhost);
    connect(&context.selection, &Selection::changed, this, [this] {
        m_drawFirstWay = false;
        m_look.leadCorner = -1;
    });
    connect(&context.document, &Document::changed, this, [this] {
        answer();
        drawFirstWay();
    });
}

double& FitPage::cut(Axis axis) {
    return axis == Axis::Y ? m_look.cuts.a : axis == Axis::X ? m_look.cuts.b : m_look.cuts.c;
}

/// Asks for what the list shows; never waits. What is not there yet follows with Document::changed().
void FitPage::answer() const {
    const View v = m_context.view();
    m_look.answers = &m_answers;
    if (m_answeredOf != &v.result()) { // what is not asked for again is of another result
        m_answers = {};
        m_answeredOf = &v.result();
    }
    if (!v.evaluation())
        return;
    const Document& d = m_context.document;
    switch (m_look.list) {
    case List::Gaps:
    case List::Leads:
        return;
    case List::Change:
        if (const auto* gap =
                gapToMend(v.evaluation()->fit, m_context.selection.thing())) // a row of the list is about the same gap
            m_answers.mends = d.mends(gap->ref);
        return;
    case List::Measure:
        return void(m_answers.measure = d.measures());
    case List::Room:
        return void(m_answers.rooms = d.rooms());
    case List::GoingIn:
        return void(m_answers.ways = d.ways());
    }
}

/// The first way in is drawn as soon as it is known, unless something else was chosen by then.
void FitPage::drawFirstWay() {
    if (!m_drawFirstWay || m_answers.ways.standing != Standing::Ready)
        return;
    m_drawFirstWay = false;
    if (m_look.list == List::GoingIn && !answered(m_answers.ways).empty())
        m_context.selection.select(core::WayRef{answered(m_answers.ways).front().mount});
}

void FitPage::choose(List list) {
    m_look.list = list;
    scrollToTop();
    answer();
    m_drawFirstWay = list == List::GoingIn && !std::holds_alternative<core::WayRef>(m_context.selection.thing());
    drawFirstWay();
    update();
}

void FitPage::makeGhost() {
    m_ghost.clear();
    m_look.ghostByMm = {};
    m_look.ghostShort = 0;
    const auto& ghost = m_context.selection.ghost();
    if (ghost && m_context.view().evaluation()) {
        core::Project trial = m_context.document.project();
        core::Part part = ghost->part;
        part.id = core::freePartId(trial, part.id);
        trial.shelf.push_back(part);
        takeGhost(trial, {core::PlacePart{part.id, ghost->mount, core::FanFlow::In}}, ghost->mount);
    }
    m_look.ghost = m_ghost.empty() ? nullptr : &m_ghost;
    update();
}

/// The bodies of the part at @p mount as @p changes would have it, and how many gaps would be short there.
void FitPage::takeGhost(const core::Project& trial, const std::vector<core::Change>& changes,
                        const std::string& mount) {
    const auto build = core::resolveWith(trial, m_context.document.revision(), changes);
    for (std::size_t i = 0; build && i < build->placed.size(); ++i)
        if (build->placed[i].mount == mount) {
            m_ghost = core::fit::bodiesOf(*build, i);
            for (const auto& gap : core::fit::gapsOf(*build, i, {.needs = trial.needs}))
                m_look.ghostShort += gap.isShort() ? 1 : 0;
        }
    for (auto& b : m_ghost) { // the trial ends here; what is drawn are boxes and pieces alone
        b.primitives = core::fit::primitivesOf(b);
        b.body = nullptr;
        b.port = nullptr;
    }
}

void FitPage::dragPart(const QPointF& at, bool fine) {
    m_partDrag->moveTo(at, fine);
    if (!m_partDrag->moving)
        return;
    m_ghost.clear();
    m_look.ghostShort = 0;
    m_look.ghostByMm = m_partDrag->byMm;
    takeGhost(m_context.document.project(), m_partDrag->changes(), m_partDrag->mount);
    m_look.ghost = m_ghost.empty() ? nullptr : &m_ghost;
    update();
}

/// Lets go of the part; @p take: where it is now it stays, as one step.
void FitPage::dropPart(bool take) {
    const auto drag = std::exchange(m_partDrag, std::nullopt);
    if (!drag || !drag->moving)
        return;
    makeGhost();
    const auto changes = drag->changes();
    if (!take || changes.empty())
        return;
    auto& stack = m_context.document.undoStack();
    stack.beginMacro(tr("Drag %1").arg(qs(drag->mount)));
    core::Result<std::string> done;
    for (const core::Change& change : changes)
        if (done)
            done = m_context.document.addChange(change);
    stack.endMacro();
    if (!done)
        Q_EMIT refused(done.error());
}

void FitPage::apply(std::size_t row) {
    if (row >= answered(m_answers.mends).all.size())
        return;
    const core::advise::Mend mend = answered(m_answers.mends).all[row]; // the list is made anew by the edit
    const core::Change& change = mend.change;
    const auto& with = mend.with;
    auto& stack = m_context.document.undoStack();
    stack.beginMacro(m_context.view().words(mend.text)); // a pair is one step
    auto done = m_context.document.addChange(change);
    if (done && with)
        done = m_context.document.addChange(*with);
    stack.endMacro();
    if (!done)
        Q_EMIT refused(done.error());
    m_context.selection.select({});
}

void FitPage::zoomBy(double factor, const QPointF& about) {
    const double zoom = std::clamp(m_look.zoom * factor, 1.0, 12.0);
    // The point under the cursor stays there. The drawing grows from its upper left corner.
    const QPointF origin = inside().topLeft() + QPointF(12, 34 + 40), at = about - origin;
    m_look.pan = at - (at - m_look.pan) * (zoom / m_look.zoom);
    m_look.zoom = zoom;
    if (zoom == 1.0)
        m_look.pan = {};
    update();
}

/// Nothing, the revision it came from, the baseline: what is laid over the sections in grey.
void FitPage::nextOverlay() {
    const core::Project& project = m_context.document.project();
    const core::Revision* now = project.revision(m_context.document.revision());
    std::vector<std::string> all{{}};
    for (const std::string& id : {now ? now->parent : std::string{}, project.baseline})
        if (!id.empty() && now && id != now->id && std::find(all.begin(), all.end(), id) == all.end())
            all.push_back(id);
    const auto at = std::find(all.begin(), all.end(), m_look.over);
    m_look.over = at == all.end() || at + 1 == all.end() ? std::string{} : *(at + 1);
    if (at == all.end() && all.size() > 1) // of another revision than the one looked at now
        m_look.over = all[1];
    update();
}

void FitPage::layOver(const std::string& revision) {
    m_look.over = m_look.over == revision || revision == m_context.document.revision() ? std::string{} : revision;
    update();
}

void FitPage::turnPart() {
    const auto* e = m_context.view().evaluation();
    const core::Placed* p = e ? e->build.at(core::mountOf(m_context.selection.thing())) : nullptr;
    const core::Mount* mount = p ? core::mountAt(e->build, p->mount) : nullptr;
    if (!mount)
        return;
    if (mount->variants.empty())
        return Q_EMIT refused({p->name, "its place has one way to sit there",
                               "state another way of the place in Edit the box; a fan is turned round with F in Air"});
    std::vector<std::string> ways{{}};
    for (const core::MountVariant& way : mount->variants)
        ways.push_back(way.id);
    const auto now = std::find(ways.begin(), ways.end(), p->variant);
    const std::string next = now == ways.end() || now + 1 == ways.end() ? std::string{} : *(now + 1);
    if (const auto done = m_context.document.addChange(core::ChooseVariant{p->mount, next}); !done)
        Q_EMIT refused(done.error());
}

void FitPage::editBox(bool on) {
    if (on && m_context.document.project().revisions.empty())
        return;
    if (on && !m_boxEditor) {
        m_boxEditor = new BoxEditor(m_context, this);
        connect(m_boxEditor, &BoxEditor::closed, this, [this] { editBox(false); });
    }
    if (!m_boxEditor)
        return;
    m_boxEditor->setGeometry(inside().adjusted(-8, -6, 10, 6).toRect());
    m_boxEditor->setVisible(on);
    m_boxEditor->raise();
    if (!on)
        setFocus();
}

void FitPage::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    if (m_boxEditor)
        m_boxEditor->setGeometry(inside().adjusted(-8, -6, 10, 6).toRect());
}

void FitPage::showAll() {
    m_look.zoom = 1;
    m_look.pan = {};
    update();
}

void FitPage::mousePressEvent(QMouseEvent* event) {
    m_press = event->position();
    const Hit* hit = hitAt(event->position());
    m_drag =
        hit && (hit->is(Act::SlideCut) || hit->is(Act::DragCut) || hit->is(Act::MoveSheet)) ? hit->handle : Handle{};
    const auto* e = m_context.view().evaluation();
    m_partDrag.reset();
    m_cornerDrag.reset();
    if (const auto* lead = hit && e ? std::get_if<core::LeadRef>(&hit->thing) : nullptr)
        chooseLeadEnd(*lead, event->position());
    if (hit && e && event->button() == Qt::LeftButton && pressCorner(*hit, event->position()))
        return setFocus(Qt::MouseFocusReason);
    if (hit && e && event->button() == Qt::LeftButton && m_look.list != List::GoingIn)
        m_partDrag = PartDrag::at(sheetOf(fitDrawing(inside()), m_context.view(), m_look), *hit, event->position());
    StationPage::mousePressEvent(event);
}

void FitPage::mouseReleaseEvent(QMouseEvent* event) {
    dropPart(true);
    dropCorner(true);
    StationPage::mouseReleaseEvent(event);
}

/// A lead gets a corner where it was double-clicked; everything else is opened.
void FitPage::mouseDoubleClickEvent(QMouseEvent* event) {
    const Hit* hit = hitAt(event->position());
    const bool onDrawing = fitDrawing(inside()).contains(event->position());
    const auto* lead = hit ? std::get_if<core::LeadRef>(&hit->thing) : nullptr;
    if (!lead || !onDrawing || event->button() != Qt::LeftButton)
        return StationPage::mouseDoubleClickEvent(event);
    const QPointF at = event->position();
    chooseLeadEnd(*lead, at);
    m_context.selection.select(core::LeadRef(*lead));
    addCorner(&at);
}

void FitPage::mouseMoveEvent(QMouseEvent* event) {
    if (m_cornerDrag && event->buttons() & Qt::LeftButton)
        return dragCorner(event->position(), event->modifiers() & Qt::AltModifier);
    if (m_partDrag && event->buttons() & Qt::LeftButton)
        return dragPart(event->position(), event->modifiers() & Qt::AltModifier);
    if (event->buttons() & (Qt::LeftButton | Qt::MiddleButton)) {
        if (m_drag.act == Act::MoveSheet && m_look.zoom > 1) {
            m_look.pan += event->position() - m_press;
            m_press = event->position();
            return update();
        }
        if (m_drag.act == Act::SlideCut || m_drag.act == Act::DragCut)
            return dragTo(m_drag, event->position().x());
    }
    StationPage::mouseMoveEvent(event);
}

void FitPage::scrollList(int rows) {
    m_lists.scroll(QStringLiteral("fit"), rows);
    update();
}

void FitPage::scrollToTop() { m_lists.states[QStringLiteral("fit")].top = 0; }

void FitPage::wheelEvent(QWheelEvent* event) {
    for (const Hit& hit : m_hits)
        if (hit.is(Act::TurnList) && hit.rect.contains(event->position())) {
            scrollList(event->angleDelta().y() < 0 ? 1 : -1);
            return event->accept();
        }
    zoomBy(event->angleDelta().y() > 0 ? 1.25 : 0.8, event->position());
    event->accept();
}

/// A strip or slider spans the inner size along its cut.
void FitPage::dragTo(const Handle& handle, double x) {
    const auto* e = m_context.view().evaluation();
    if (!e)
        return;
    const Axis axis =
        handle.act == Act::DragCut ? handle.axis : movedCut(m_context.view(), m_look, m_context.selection.thing()).axis;
    for (const Hit& hit : m_hits)
        if (hit.handle == handle) {
            const double size = e->build.insideAt[core::index(axis)].mm();
            // A zoomed strip shows a part of the case and says which.
            const bool part = handle.toMm > handle.fromMm;
            const double from = part ? handle.fromMm : 0, to = part ? handle.toMm : size;
            cut(axis) = std::clamp(from + (x - hit.rect.left()) / hit.rect.width() * (to - from), 0.0, size);
            m_look.cuts.moved = axis;
            return update();
        }
}

void FitPage::clicked(const Hit& hit) {
    switch (hit.handle.act) {
    case Act::SlideCut:
    case Act::DragCut:
        return dragTo(hit.handle, m_press.x());
    case Act::ChooseCut:
        return chooseCut(hit.handle.axis);
    case Act::ChooseList:
        return choose(static_cast<List>(hit.handle.row));
    case Act::NextSort:
        return nextSort();
    case Act::NextFilter:
        return nextFilter();
    case Act::ShowAll:
        return showAll();
    case Act::ShowHarm:
        m_look.unfolded = !m_look.unfolded;
        return update();
    case Act::ApplyMend:
        return apply(static_cast<std::size_t>(hit.handle.row));
    case Act::EditBox:
        return editBox(true);
    case Act::StateCorners:
        return Q_EMIT cornersWanted(std::get<core::LeadRef>(hit.handle.of), static_cast<std::size_t>(hit.handle.row));
    case Act::AddPart:
        return Q_EMIT addPartWanted();
    case Act::FillIn:
        return Q_EMIT fillInWanted();
    case Act::PrintSheet:
        return Q_EMIT sheetWanted();
    default:
        StationPage::clicked(hit);
    }
}

void FitPage::nextSort() {
    m_look.sort = static_cast<FitLook::Sort>((static_cast<int>(m_look.sort) + 1) % 3);
    scrollToTop();
    update();
}

void FitPage::nextFilter() {
    m_look.filter = static_cast<FitLook::Filter>((static_cast<int>(m_look.filter) + 1) % 4);
    scrollToTop();
    update();
}

void FitPage::moveCut(double mm) {
    const auto* e = m_context.view().evaluation();
    if (!e)
        return;
    const MovedCut now = movedCut(m_context.view(), m_look, m_context.selection.thing());
    cut(now.axis) = std::clamp(now.mm + mm, 0.0, e->build.insideAt[core::index(now.axis)].mm());
    update();
}

/// The next face of a part along the cut axis, just beyond it.
void FitPage::moveToNextEdge() {
    const auto* e = m_context.view().evaluation();
    if (!e)
        return;
    const auto [axis, now] = movedCut(m_context.view(), m_look, m_context.selection.thing());
    const std::size_t k = core::index(axis);
    double& at = cut(axis);
    double next = 1e9, first = 1e9;
    for (const core::Placed& p : e->build.placed)
        for (const double edge : {p.lowAt[k].mm(), p.highAt[k].mm()}) {
            first = std::min(first, edge + 0.1);
            if (edge + 0.1 > now + 0.05)
                next = std::min(next, edge + 0.1);
        }
    at = next < 1e8 ? next : first < 1e8 ? first : now;
    update();
}

void FitPage::nudgePart(Axis axis, double mm) {
    if (nudgeCorner(axis, mm))
        return;
    const auto* part = std::get_if<core::PartRef>(&m_context.selection.thing());
    const auto* e = m_context.view().evaluation();
    if (!part || !e || !e->build.at(part->mount))
        return;
    if (const auto done = m_context.document.addChange(core::MovePart{part->mount, axis, core::Length::fromMm(mm)});
        !done)
        Q_EMIT refused(done.error());
}

void FitPage::keyPressEvent(QKeyEvent* event) {
    const bool shift = event->modifiers() & Qt::ShiftModifier, nudge = event->modifiers() & Qt::AltModifier;
    const double step = nudge ? (shift ? 5 : 0.5) : shift ? 10 : 1;
    const QPointF middle = inside().center();
    if (event->key() == Qt::Key_Escape && m_partDrag && m_partDrag->moving)
        return dropPart(false);
    if (event->key() == Qt::Key_Escape && m_cornerDrag)
        return dropCorner(false);
    if (leadKey(event->key()))
        return;
    switch (event->key()) {
    case Qt::Key_E:
        return editBox(true);
    case Qt::Key_O:
        return nextOverlay();
    case Qt::Key_X:
        return turnPart();
    case Qt::Key_A:
        return chooseCut(Axis::Y);
    case Qt::Key_B:
        return chooseCut(Axis::X);
    case Qt::Key_C:
        return chooseCut(Axis::Z);
    case Qt::Key_G:
        return choose(List::Gaps);
    case Qt::Key_M:
        return choose(List::Change);
    case Qt::Key_T:
        return choose(List::Measure);
    case Qt::Key_R:
        return choose(List::Room);
    case Qt::Key_I:
        return choose(List::GoingIn);
    case Qt::Key_L:
        return choose(List::Leads);
    case Qt::Key_S:
        return nextSort();
    case Qt::Key_D:
        return nextFilter();
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        return zoomBy(1.25, middle);
    case Qt::Key_Minus:
        return zoomBy(0.8, middle);
    case Qt::Key_0:
        return showAll();
    case Qt::Key_PageDown:
        return nudge ? nudgePart(Axis::X, -step) : scrollList(5);
    case Qt::Key_PageUp:
        return nudge ? nudgePart(Axis::X, step) : scrollList(-5);
    case Qt::Key_End:
        return moveToNextEdge();
    case Qt::Key_Left:
    case Qt::Key_Right: {
        const double mm = event->key() == Qt::Key_Left ? -step : step;
        return nudge ? nudgePart(Axis::Y, mm) : moveCut(mm);
    }
    case Qt::Key_Up:
    case Qt::Key_Down: {
        const double mm = event->key() == Qt::Key_Down ? -step : step;
        return nudge ? nudgePart(Axis::Z, mm) : moveCut(mm);
    }
    default:
        StationPage::keyPressEvent(event);
    }
}

} // namespace app

#include "moc_fit_page.cpp"
