// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/box_editor.h"

#include "app/model/case_edit.h"
#include "app/ui/fields/number_box.h"
#include "app/ui/style.h"
#include "core/fit/fit.h"
#include "core/model/cutout_edits.h"
#include "core/model/edits.h"
#include "store/struct_json.h"

#include <QCoreApplication>
#include <QKeyEvent>
#include <QMenu>
#include <QPushButton>
#include <QScopedValueRollback>

#include <algorithm>

namespace app {
using core::Axis;
using core::Quantity;
using core::box::Item;
using core::box::Kind;

BoxEditor::BoxEditor(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("boxEditor"));
    setAutoFillBackground(true);
    auto* whole = new QHBoxLayout(this);
    whole->setContentsMargins(8, 6, 8, 6);
    whole->setSpacing(12);
    auto* left = new QVBoxLayout;
    left->setSpacing(4);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Edit the box"), this);
    title->setFont(context.theme.font(14, Weight::SemiBold));
    auto* done = new QPushButton(tr("Done (E)"), this);
    done->setObjectName(QStringLiteral("boxDone"));
    connect(done, &QPushButton::clicked, this, &BoxEditor::closed);
    head->addWidget(title);
    head->addStretch(1);
    head->addWidget(done);
    left->addLayout(head);
    m_sheet = new BoxSheet(context, this);
    left->addWidget(m_sheet, 1);
    auto* ends = new QHBoxLayout;
    m_endLabel = new QLabel(this);
    const auto box = [&](const char* name) {
        auto* b = new NumberBox(this);
        b->setObjectName(QString::fromLatin1(name));
        b->setRange(-2000, 2000);
        b->setFixedWidth(96);
        return b;
    };
    m_fromLow = box("fromLow");
    m_fromHigh = box("fromHigh");
    ends->addWidget(m_endLabel);
    ends->addWidget(m_fromLow);
    ends->addWidget(m_lowLabel = new QLabel(this));
    ends->addWidget(m_fromHigh);
    ends->addWidget(m_highLabel = new QLabel(this));
    ends->addStretch(1);
    left->addLayout(ends);
    m_changes = new BoxChanges(context, this);
    left->addWidget(m_changes);
    m_problem = new QLabel(this);
    m_problem->setObjectName(QStringLiteral("boxProblem"));
    m_problem->setWordWrap(true);
    m_problem->hide();
    left->addWidget(m_problem);
    m_hint = new QLabel(this);
    m_hint->setObjectName(QStringLiteral("boxHint"));
    m_hint->setWordWrap(true);
    left->addWidget(m_hint);
    whole->addLayout(left, 1);
    auto* column = new QVBoxLayout;
    column->setSpacing(4);
    m_list = new BoxThings(this);
    m_list->installEventFilter(this);
    column->addWidget(m_list, 2);
    auto* buttons = new QGridLayout;
    buttons->setSpacing(4);
    int at = 0;
    const auto button = [&](const QString& text, const char* name, const QString& help, auto&& act) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(QString::fromLatin1(name));
        b->setToolTip(help);
        connect(b, &QPushButton::clicked, this, act);
        buttons->addWidget(b, at / 3, at % 3);
        ++at;
        return b;
    };
    auto* adding = button(tr("Add"), "boxAdd", tr("A vent, a fan place, a place for a part, a chamber"), [] {});
    adding->setMenu(addMenu());
    m_buttons = {button(tr("Copy"), "boxCopy", tr("A copy beside it (Ctrl+D)"), [this] { copy(); }),
                 button(tr("Mirror"), "boxMirror", tr("A copy on the other side of the middle"), [] {}),
                 button(tr("Row of ..."), "boxRow", tr("More of it in a row"), [this] { rowOf(); }),
                 button(tr("Split, join"), "boxSplit",
                        tr("A chamber in two, with an inner panel's room between; or one with the chamber beside it"),
                        [] {}),
                 button(tr("Delete"), "boxDelete", tr("Takes it away (Delete)"), [this] { remove(); })};
    for (const auto& [index, act] : {std::pair<std::size_t, bool>{1, true}, {3, false}}) {
        auto* menu = new QMenu(m_buttons[index]);
        for (const auto& [axis, words] :
             {std::pair{Axis::X, act ? tr("Left and right") : tr("Across: left and right part")},
              std::pair{Axis::Y, act ? tr("Front and rear") : tr("Front and rear part")},
              std::pair{Axis::Z, act ? tr("Top and floor") : tr("Lower and upper part")}})
            connect(menu->addAction(words), &QAction::triggered, this,
                    [this, axis = axis, act = act] { act ? mirror(axis) : split(axis); });
        m_buttons[index]->setMenu(menu);
        if (!act)
            connect(menu, &QMenu::aboutToShow, this, [this, menu] { offerJoins(menu); });
    }
    column->addLayout(buttons);
    m_changed = new QLabel(this);
    m_changed->setObjectName(QStringLiteral("boxChangedHere"));
    m_changed->setWordWrap(true);
    m_changed->hide();
    column->addWidget(m_changed);
    m_form = new StructEditor(context, this);
    column->addWidget(m_form, 3);
    auto* right = new QWidget(this);
    right->setFixedWidth(286); // the drawing has what is left
    right->setLayout(column);
    column->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(right);

    m_form->form()->setNarrow(true);
    m_form->form()->offers = [this](core::Names names) {
        QStringList all;
        if (const core::Part* part = casePart(); part && names == core::Names::Chamber)
            for (const auto& c : std::get<core::CaseSpec>(part->spec).chambers)
                all << qs(c.id);
        return all;
    };
    connect(m_sheet, &BoxSheet::chose, this, &BoxEditor::choose);
    connect(m_sheet, &BoxSheet::hinted, this, [this](const QString& words) {
        m_hint->setText(words.isEmpty() ? tr("Click a thing; drag its squares and its diamond. Arrows 0.5 mm, Shift 5, "
                                             "J and K next, Ctrl+D copy, Delete, F2 name, any figure types.")
                                        : words);
    });
    Q_EMIT m_sheet->hinted({});
    connect(m_sheet, &BoxSheet::dragBegan, this, [this] {
        remember();
        if (const core::Part* part = casePart()) // of a logged case a copy will follow, as it stands here
            m_base = m_build && isLogged(m_context.document.project(), part->id) ? asBuilt(*part, *m_build) : *part;
        if (const core::Placed* panel = m_item ? m_sheet->panelOf(*m_item) : nullptr) {
            m_basePanelPart = *panel->part;
            m_basePanel = *panel;
            m_basePanel->part = &*m_basePanelPart;
        }
        ++m_drag;
        m_undoIndex = m_context.document.undoStack().index();
    });
    connect(m_sheet, &BoxSheet::dragged, this, &BoxEditor::dragTo);
    connect(m_sheet, &BoxSheet::dragEnded, this, &BoxEditor::endDrag);
    connect(m_list, &BoxThings::chose, this, [this](int row) { choose(m_items[static_cast<std::size_t>(row)]); });
    connect(m_fromLow, &QDoubleSpinBox::valueChanged, this, [this](double v) { typedEnd(true, v); });
    connect(m_fromHigh, &QDoubleSpinBox::valueChanged, this, [this](double v) { typedEnd(false, v); });
    connect(m_form, &StructEditor::refused, this, [this](const QString& why) {
        m_problem->setText(why);
        m_problem->setVisible(!why.isEmpty());
    });
    connect(m_form, &StructEditor::edited, this, [this] {
        auto read = store::partFrom(m_form->value());
        m_problem->setText(read ? QString() : qs(read.error().text()));
        m_problem->setVisible(!read);
        if (!read)
            return;
        remember();
        const QScopedValueRollback mine(m_forming, true);
        const core::Part edited = *read;
        if (m_item && m_item->kind == Kind::Cutout)
            return void(editPanel(tr("Edit %1").arg(m_sheet->nameOf(*m_item)), edited,
                                  [](core::Part&, const core::Placed&) { return core::Result<void>{}; }));
        edit(tr("Edit the box"), [&](core::Part& part) {
            const std::string id = part.id;
            part = edited;
            part.id = id;
            return core::Result<void>{};
        });
    });
    connect(&context.document, &Document::changed, this, [this] {
        // Within a drag the drawing stands already when the results of a move arrive.
        if (isVisible() && m_base && m_project == m_context.document.shared())
            m_changes->refresh();
        else if (isVisible())
            refresh();
    });
    connect(&context.document, &Document::revisionSelected, this, [this] {
        if (isVisible())
            refresh();
    });
}

const core::Part* BoxEditor::casePart() const {
    return core::caseOf(m_context.document.project(), m_context.document.revision());
}

void BoxEditor::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    m_changes->forget();
    refresh();
    if (!m_item && !m_items.empty())
        choose(m_items.front());
    m_sheet->setFocus();
}

/// Where the window is low, what an edit changes gets two rows instead of four.
void BoxEditor::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    m_changes->showRows(height() >= 600 ? 4 : 2);
}

void BoxEditor::refresh() {
    const core::Part* part = casePart();
    m_project = m_context.document.shared();
    auto build = core::resolve(*m_project, m_context.document.revision());
    m_build.reset();
    if (build)
        m_build = std::move(*build);
    if (!m_base) // within a drag only the drawing and the figures follow
        fillList();
    if (m_item && std::find(m_items.begin(), m_items.end(), *m_item) == m_items.end())
        m_item = nearestOf(*m_item);
    m_sheet->show(m_build ? &*m_build : nullptr, part);
    m_sheet->select(m_item);
    enableButtons();
    if (!m_forming && !m_base && !formHolds(m_item && m_item->kind == Kind::Cutout ? panelPart() : part))
        showForm();
    showEnds();
    m_changes->refresh();
}

/// In the place of what is gone, as when it was taken back: the panel that a cut-out was in, else the walls. A form
/// with nothing chosen would still write what it shows.
std::optional<Item> BoxEditor::nearestOf(const Item& gone) const {
    const Item panel{Kind::Place, gone.index};
    if (gone.kind == Kind::Cutout && std::find(m_items.begin(), m_items.end(), panel) != m_items.end())
        return panel;
    return m_items.empty() ? std::nullopt : std::optional(m_items.front());
}

/// One thing is selected in the whole window: Working tells of what is edited.
void BoxEditor::tellSelection() {
    const std::string id = core::box::idOf(*casePart(), *m_item);
    if (m_item->kind == Kind::Walls)
        m_context.selection.select(core::TotalRef{core::Total::Volume});
    else if (m_item->kind == Kind::Chamber)
        m_context.selection.select(core::ChamberRef{id});
    else if (m_item->kind == Kind::Vent)
        m_context.selection.select(core::OpeningRef{id});
    else if (const core::Placed* panel = m_sheet->panelOf(*m_item))
        m_context.selection.select(core::PartRef{panel->mount});
    else
        m_context.selection.select(m_build && m_build->at(id) ? core::Thing(core::PartRef{id}) : core::Thing());
}

void BoxEditor::enableButtons() {
    const Kind kind = m_item ? m_item->kind : Kind::Walls;
    for (QPushButton* b : m_buttons)
        b->setEnabled(kind != Kind::Walls);
    m_buttons[3]->setEnabled(kind == Kind::Chamber);
    for (const std::size_t b : {1, 2}) // copies of a cut-out are made one by one
        m_buttons[b]->setEnabled(kind != Kind::Walls && kind != Kind::Cutout);
}

void BoxEditor::choose(const Item& item) {
    m_item = item;
    if (casePart())
        tellSelection();
    m_list->choose(static_cast<int>(std::find(m_items.begin(), m_items.end(), item) - m_items.begin()));
    m_sheet->select(item);
    m_grip = {m_grip.view < 0 ? 0 : m_grip.view, m_grip.up ? 0 : 1, m_grip.up};
    showForm();
    showEnds();
    enableButtons();
}

void BoxEditor::typedEnd(bool fromLow, double shown) {
    if (m_filling || !m_item || !casePart())
        return;
    const auto axis = static_cast<Axis>(m_fromLow->property("axis").toInt());
    const bool high = m_fromLow->property("high").toBool();
    const std::size_t a = core::index(axis);
    const double mm = m_context.show().stored(Quantity::Length, shown);
    const double to = fromLow ? mm : casePart()->size[a].value.mm() - mm;
    const auto e = m_sheet->extentOf(*m_item);
    remember();
    const QString text = tr("Size of %1").arg(m_sheet->nameOf(*m_item));
    if (m_sheet->canPull(axis)) {
        pull(text, core::Part(*casePart()), axis, high, to, 0);
        return;
    }
    edit(text, [&](core::Part& part) {
        std::array<double, 3> by{};
        by[a] = to - (high ? e.high[a] : e.low[a]);
        return core::box::move(part, *m_item, by);
    });
}

void BoxEditor::dragTo(const BoxSheet::Grip& grip, double across, double up) {
    if (!m_base || !m_item)
        return;
    m_grip = grip.isMiddle() ? BoxSheet::Grip{grip.view, 1, 0}
             : grip.isFeet() ? BoxSheet::Grip{grip.view, 0, -1}
                             : grip;
    const auto& side = m_sheet->sides()[static_cast<std::size_t>(grip.view)];
    const core::box::Extent was = core::box::extentOf(*m_base, *m_item);
    const auto from = m_sheet->m_before.value_or(was);
    const QString text = tr("Drag %1").arg(m_sheet->nameOf(*m_item));
    if (!grip.isMiddle() && !grip.isFeet()) {
        pull(text, *m_base, grip.across ? side.across : side.up, (grip.across ? grip.across : grip.up) > 0,
             grip.across ? across : up, m_drag);
        return;
    }
    std::array<double, 3> by{};
    const auto free = m_sheet->freeAxes(*m_item);
    for (const auto& [axis, to] : {std::pair{side.across, across}, std::pair{side.up, up}}) {
        const std::size_t a = core::index(axis);
        if (std::find(free.begin(), free.end(), axis) != free.end())
            by[a] = to - (from.low[a] + from.high[a]) / 2;
    }
    if (m_item->kind == Kind::Cutout) {
        if (m_basePanelPart)
            editPanel(
                text, *m_basePanelPart,
                [&](core::Part& made, const core::Placed& panel) {
                    return core::box::moveCutout(made, panel, m_item->hole, by);
                },
                m_drag);
        return;
    }
    editWith(
        text, *m_base,
        [&](core::Part& part) {
            if (grip.isFeet()) {
                auto& spec = std::get<core::CaseSpec>(part.spec);
                spec.feetMm = std::clamp(-up - spec.wall.value.mm(), 0.0, 200.0);
                return core::Result<void>{};
            }
            return core::box::move(part, *m_item, by);
        },
        m_drag);
}

/// What was dragged and dropped leaves nothing: the steps of a drag are one.
void BoxEditor::endDrag(bool taken) {
    auto& undo = m_context.document.undoStack();
    if (!taken && m_base && undo.index() > m_undoIndex)
        undo.undo();
    m_base.reset();
    m_basePanel.reset();
    m_basePanelPart.reset();
    ++m_drag;
    refresh();
}

void BoxEditor::nudge(Axis axis, double mm) {
    if (!m_item || m_item->kind == Kind::Walls)
        return;
    std::array<double, 3> by{};
    by[core::index(axis)] = mm;
    remember();
    const QString text = tr("Move %1").arg(m_sheet->nameOf(*m_item));
    if (m_item->kind == Kind::Cutout && panelPart())
        editPanel(text, core::Part(*panelPart()), [&](core::Part& made, const core::Placed& panel) {
            return core::box::moveCutout(made, panel, m_item->hole, by);
        });
    else
        edit(text, [&](core::Part& part) { return core::box::move(part, *m_item, by); });
}

void BoxEditor::step(int by) {
    if (m_items.empty())
        return;
    const auto at = m_item ? std::find(m_items.begin(), m_items.end(), *m_item) - m_items.begin() : 0;
    const auto n = static_cast<std::ptrdiff_t>(m_items.size());
    choose(m_items[static_cast<std::size_t>((at + by + n) % n)]);
}

bool BoxEditor::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_list && (event->type() == QEvent::KeyPress || event->type() == QEvent::ShortcutOverride)) {
        const auto* press = static_cast<QKeyEvent*>(event);
        const int key = press->key();
        if (key == Qt::Key_Delete || key == Qt::Key_F2 || key == Qt::Key_E || key == Qt::Key_Escape ||
            (key == Qt::Key_D && press->modifiers() == Qt::ControlModifier)) {
            if (event->type() == QEvent::KeyPress)
                keyPressEvent(static_cast<QKeyEvent*>(event));
            event->accept();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void BoxEditor::keyPressEvent(QKeyEvent* event) {
    const bool shift = event->modifiers() & Qt::ShiftModifier;
    const double mm = shift ? 5 : 0.5;
    const auto& side = m_sheet->sides()[static_cast<std::size_t>(std::max(0, m_grip.view))];
    // The view whose plane the thing lies in.
    Axis across = side.across, up = side.up;
    if (casePart() && m_item && (m_item->kind == Kind::Vent || m_item->kind == Kind::Cutout)) {
        const std::vector<Axis> free = m_sheet->freeAxes(*m_item);
        across = free.front() == Axis::X && free.back() == Axis::Y ? Axis::Y : free.front();
        up = across == free.front() ? free.back() : free.front();
    }
    switch (event->key()) {
    case Qt::Key_Escape:
        if (m_base) {
            m_sheet->m_grip = {};
            m_sheet->m_before.reset();
            return endDrag(false);
        }
        return Q_EMIT closed();
    case Qt::Key_E:
        return Q_EMIT closed();
    case Qt::Key_J:
        return step(1);
    case Qt::Key_K:
        return step(-1);
    case Qt::Key_Left:
        return nudge(across, -mm);
    case Qt::Key_Right:
        return nudge(across, mm);
    case Qt::Key_Up:
        return nudge(up, mm);
    case Qt::Key_Down:
        return nudge(up, -mm);
    case Qt::Key_Delete:
        return remove();
    case Qt::Key_F2:
        return rename();
    case Qt::Key_D:
        if (event->modifiers() & Qt::ControlModifier)
            return copy();
        break;
    case Qt::Key_Tab:
        break;
    default:
        if (const QString text = event->text(); m_sheet->hasFocus() && text.size() == 1 && text[0].isDigit()) {
            m_fromLow->setFocus(Qt::ShortcutFocusReason); // a figure starts typing in the last dimension
            m_fromLow->selectAll();
            QCoreApplication::sendEvent(m_fromLow, event);
            return;
        }
    }
    // Plain keys are for the box: the sheet below it would choose lists and open parts.
    if (!(event->modifiers() & ~(Qt::ShiftModifier | Qt::KeypadModifier)) &&
        (!event->text().isEmpty() || event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter))
        return event->accept();
    QWidget::keyPressEvent(event);
}

} // namespace app

#include "moc_box_editor.cpp"
