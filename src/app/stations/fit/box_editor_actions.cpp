// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/case_edit.h"
#include "app/stations/fit/box_editor.h"
#include "core/model/cutout_edits.h"
#include "core/model/panel_edits.h"

#include <QInputDialog>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>

// How an edit of the box is carried out, and what is done to one of its things as a whole: added, copied, mirrored, put
// in a row, split, renamed, deleted.
namespace app {
using core::Axis;
using core::box::Item;
using core::box::Kind;

QMenu* BoxEditor::addMenu() {
    auto* menu = new QMenu(this);
    using core::Side;
    const std::array<std::pair<Side, QString>, 6> sides{{{Side::Left, tr("left")},
                                                         {Side::Right, tr("right")},
                                                         {Side::Front, tr("front")},
                                                         {Side::Rear, tr("rear")},
                                                         {Side::Bottom, tr("floor")},
                                                         {Side::Top, tr("top")}}};
    auto* vents = menu->addMenu(tr("A vent"));
    auto* fans = menu->addMenu(tr("A fan place with its vent"));
    for (const auto& [side, words] : sides) {
        connect(vents->addAction(words), &QAction::triggered, this, [this, side = side] { add(Kind::Vent, side); });
        connect(fans->addAction(words), &QAction::triggered, this, [this, side = side] { add(Kind::Place, side); });
    }
    auto* places = menu->addMenu(tr("A place for a part"));
    using core::PartKind;
    for (const auto& [kind, words] :
         {std::pair{PartKind::Board, tr("a board")}, std::pair{PartKind::Card, tr("a card")},
          std::pair{PartKind::PowerSupply, tr("a supply")}, std::pair{PartKind::Drive, tr("a drive")},
          std::pair{PartKind::Radiator, tr("a radiator")}, std::pair{PartKind::Made, tr("a made part or inner panel")}})
        connect(places->addAction(words), &QAction::triggered, this,
                [this, kind = kind] { add(Kind::Place, Side::Left, kind); });
    connect(menu->addAction(tr("A chamber")), &QAction::triggered, this, [this] { add(Kind::Chamber, Side::Left); });
    QAction* cut = menu->addAction(tr("A cut-out in the inner panel that is chosen"), this, &BoxEditor::addCutout);
    cut->setObjectName(QStringLiteral("boxCut"));
    connect(menu, &QMenu::aboutToShow, this, [this, cut] { cut->setEnabled(panelPart()); });
    return menu;
}

bool BoxEditor::pull(const QString& text, const core::Part& base, Axis axis, bool high, double mm, int mergeId) {
    if (m_item->kind == Kind::Cutout)
        return panelPart() && editPanel(
                                  text, m_basePanelPart ? *m_basePanelPart : *panelPart(),
                                  [&](core::Part& made, const core::Placed& panel) {
                                      return core::box::resizeCutout(made, panel, m_item->hole, axis, high, mm);
                                  },
                                  mergeId);
    const core::Placed* now = m_sheet->panelAt(*m_item);
    if (!now)
        return editWith(
            text, base, [&](core::Part& part) { return core::box::resize(part, *m_item, axis, high, mm); }, mergeId);
    const core::Part* casePart = this->casePart();
    core::Part tried = base, made = m_basePanelPart ? *m_basePanelPart : *now->part;
    const core::Placed from = m_basePanel ? *m_basePanel : *now;
    auto done = core::box::resizePanel(tried, made, *m_item, from, axis, high, mm);
    if (tried == base) // its place stays: of a logged case nothing else is taken along either
        tried = *casePart;
    tried.id = casePart->id; // both may be parts of their own since the drag began
    made.id = now->part->id;
    if (done)
        done = changePanel(m_context.document, text, std::move(tried), std::move(made), now->mount, mergeId);
    m_problem->setText(done ? QString() : qs(done.error().text()));
    m_problem->setVisible(!done);
    refresh();
    return done.has_value();
}

const core::Part* BoxEditor::panelPart() const {
    const core::Placed* panel = m_item ? m_sheet->panelOf(*m_item) : nullptr;
    return panel ? panel->part : nullptr;
}

bool BoxEditor::editPanel(const QString& text, const core::Part& base,
                          const std::function<core::Result<void>(core::Part&, const core::Placed&)>& change,
                          int mergeId) {
    const core::Placed* now = m_item ? m_sheet->panelOf(*m_item) : nullptr;
    if (!now || !casePart())
        return false;
    core::Part made = base;
    auto done = change(made, m_basePanel ? *m_basePanel : *now);
    made.id = now->part->id; // it may be a part of its own since the drag began
    if (done)
        done = changePanel(m_context.document, text, core::Part(*casePart()), std::move(made), now->mount, mergeId);
    m_problem->setText(done ? QString() : qs(done.error().text()));
    m_problem->setVisible(!done);
    refresh();
    return done.has_value();
}

bool BoxEditor::edit(const QString& text, const std::function<core::Result<void>(core::Part&)>& change, int mergeId) {
    const core::Part* part = casePart();
    return part && editWith(text, core::Part(*part), change, mergeId);
}

bool BoxEditor::editWith(const QString& text, const core::Part& base,
                         const std::function<core::Result<void>(core::Part&)>& change, int mergeId) {
    const core::Part* now = casePart();
    if (!now)
        return false;
    core::Part tried = base;
    tried.id = now->id; // a case of its own since the drag began
    auto done = change(tried);
    if (done)
        done = changePart(m_context.document, text, std::move(tried), mergeId);
    m_problem->setText(done ? QString() : qs(done.error().text()));
    m_problem->setVisible(!done);
    refresh();
    return done.has_value();
}

void BoxEditor::make(const QString& text, const std::function<core::Result<Item>(core::Part&)>& how) {
    remember();
    std::optional<Item> made;
    edit(text, [&](core::Part& part) -> core::Result<void> {
        const auto done = how(part);
        if (!done)
            return tl::make_unexpected(done.error());
        made = *done;
        return {};
    });
    if (made)
        choose(*made);
}

void BoxEditor::addCutout() {
    if (!panelPart())
        return;
    remember();
    std::size_t hole = 0;
    if (editPanel(tr("Cut %1").arg(qs(panelPart()->name)), core::Part(*panelPart()),
                  [&](core::Part& made, const core::Placed&) -> core::Result<void> {
                      const auto added = core::box::addCutout(made);
                      if (!added)
                          return tl::make_unexpected(added.error());
                      hole = *added;
                      return {};
                  }))
        choose({Kind::Cutout, m_item->index, hole});
}

/// A fan place comes with the vent it blows through.
void BoxEditor::add(Kind kind, core::Side side, core::PartKind takes) {
    make(tr("Add to the box"), [&](core::Part& part) -> core::Result<Item> {
        const bool fan = kind == Kind::Place && takes == core::PartKind::Fan;
        if (fan)
            if (auto vent = core::box::add(part, Kind::Vent, side); !vent)
                return vent;
        auto done = core::box::add(part, kind, side, takes);
        if (done && fan) {
            core::Opening& o = std::get<core::CaseSpec>(part.spec).openings.back();
            const core::Mount& m = part.mounts.back();
            for (std::size_t i = 0; i < 2; ++i)
                o.centreMm[i] = m.at[core::index(core::planeAxes(side)[i])].value.value.mm();
            o.sizeMm = {m.frameMm - 4, m.frameMm - 4};
            o.round = true;
        }
        return done;
    });
}

/// Beside it, where there is room.
void BoxEditor::copy() {
    if (!m_item || m_item->kind == Kind::Walls)
        return;
    if (m_item->kind == Kind::Cutout && panelPart()) {
        remember();
        std::size_t hole = m_item->hole;
        if (editPanel(tr("Copy %1").arg(m_sheet->nameOf(*m_item)), core::Part(*panelPart()),
                      [&](core::Part& made, const core::Placed& panel) -> core::Result<void> {
                          const auto copied = core::box::copyCutout(made, panel, m_item->hole);
                          if (!copied)
                              return tl::make_unexpected(copied.error());
                          hole = *copied;
                          return {};
                      }))
            choose({Kind::Cutout, m_item->index, hole});
        return;
    }
    make(tr("Copy %1").arg(qs(core::box::nameOf(*casePart(), *m_item))), [&](core::Part& part) {
        const auto free = std::find_if(core::allAxes.begin(), core::allAxes.end(), [&](Axis axis) {
            return m_item->kind != Kind::Vent || core::box::canResize(part, *m_item, axis);
        });
        for (const double by : {10.0, -10.0}) {
            std::array<double, 3> way{};
            way[core::index(*free)] = by;
            if (auto done = core::box::copy(part, *m_item, way))
                return done;
        }
        return core::box::copy(part, *m_item, {});
    });
}

void BoxEditor::mirror(Axis axis) {
    if (m_item)
        make(tr("Mirror %1").arg(qs(core::box::nameOf(*casePart(), *m_item))),
             [&](core::Part& part) { return core::box::mirror(part, *m_item, axis); });
}

/// In the middle, with room for an inner panel of 2 mm.
void BoxEditor::split(Axis axis) {
    if (!m_item || m_item->kind != Kind::Chamber)
        return;
    const auto e = m_sheet->extentOf(*m_item);
    const std::size_t a = core::index(axis);
    make(tr("Split %1").arg(qs(core::box::nameOf(*casePart(), *m_item))),
         [&](core::Part& part) { return core::box::split(part, *m_item, axis, (e.low[a] + e.high[a]) / 2, 2); });
}

void BoxEditor::join(std::size_t other) {
    if (m_item && m_item->kind == Kind::Chamber)
        make(tr("Join %1").arg(qs(core::box::nameOf(*casePart(), *m_item))),
             [&](core::Part& part) { return core::box::join(part, *m_item, other); });
}

/// The chambers beside the one that is selected, at the end of the menu that splits it.
void BoxEditor::offerJoins(QMenu* menu) {
    for (QAction* action : menu->actions())
        if (action->data().isValid())
            menu->removeAction(action);
    const core::Part* part = casePart();
    if (!part || !m_item)
        return;
    for (const std::size_t other : core::box::joinable(*part, *m_item)) {
        QAction* action =
            menu->addAction(tr("Join with %1").arg(qs(core::box::nameOf(*part, Item{Kind::Chamber, other}))), this,
                            [this, other] { join(other); });
        action->setData(static_cast<int>(other));
    }
}

void BoxEditor::rowOf() {
    if (!m_item || m_item->kind == Kind::Walls)
        return;
    bool chosen = false;
    const QString said =
        QInputDialog::getText(this, tr("A row of it"), tr("How many more, along x, y or z, and how far apart in mm:"),
                              QLineEdit::Normal, QStringLiteral("2 y 40"), &chosen);
    const QStringList words = said.simplified().split(QLatin1Char(' '));
    if (!chosen)
        return;
    const qsizetype axis = words.size() == 3 ? QStringLiteral("xyz").indexOf(words[1].toLower()) : -1;
    QString plain = words.size() == 3 ? words[2] : QString();
    plain.replace(QLatin1Char(','), QLatin1Char('.'));
    bool isNumber = false;
    const double stepMm = plain.toDouble(&isNumber);
    const int count = words.front().toInt();
    if (axis < 0 || !isNumber || count < 1 || count > 60) {
        m_problem->setText(
            tr("\u201c%1\u201d is not understood: e.g. \u201c2 y 40\u201d for two more, 40 mm apart to the rear")
                .arg(said));
        return m_problem->show();
    }
    remember();
    edit(tr("Row of %1").arg(qs(core::box::nameOf(*casePart(), *m_item))),
         [&](core::Part& part) { return core::box::row(part, *m_item, count, static_cast<Axis>(axis), stepMm); });
}

void BoxEditor::rename() {
    if (!m_item || !casePart())
        return;
    if (m_item->kind == Kind::Cutout) {
        m_problem->setText(tr("A cut-out has no name of its own: it is known by its number and its panel"));
        return m_problem->show();
    }
    bool taken = false;
    const QString name = QInputDialog::getText(this, tr("Rename"), tr("New name"), QLineEdit::Normal,
                                               qs(core::box::nameOf(*casePart(), *m_item)), &taken)
                             .trimmed();
    if (taken)
        edit(tr("Rename"), [&](core::Part& part) { return core::box::rename(part, *m_item, name.toStdString()); });
}

/// What hangs on it is named first.
void BoxEditor::remove() {
    const core::Part* part = casePart();
    if (!m_item || !part || m_item->kind == Kind::Walls)
        return;
    if (m_item->kind == Kind::Cutout && panelPart()) {
        remember();
        const Item item = *m_item;
        if (editPanel(tr("Delete %1").arg(m_sheet->nameOf(item)), core::Part(*panelPart()),
                      [&](core::Part& made, const core::Placed&) { return core::box::removeCutout(made, item.hole); }))
            choose({Kind::Place, item.index});
        return;
    }
    const auto go = [this, item = *m_item] {
        remember();
        if (edit(tr("Delete %1").arg(qs(core::box::nameOf(*casePart(), item))),
                 [&](core::Part& p) { return core::box::remove(p, item); }))
            if (!m_items.empty())
                choose(m_items.front());
    };
    const auto hanging = core::box::hangsOn(m_context.document.project(), *part, *m_item);
    if (hanging.empty())
        return go();
    QStringList all;
    for (std::size_t i = 0; i < hanging.size() && i < 6; ++i)
        all << qs(hanging[i]);
    if (hanging.size() > 6)
        all << tr("and %1 more").arg(hanging.size() - 6);
    auto* ask =
        new QMessageBox(QMessageBox::NoIcon, tr("Delete %1").arg(qs(core::box::nameOf(*part, *m_item))),
                        tr("This hangs on it:\n%1").arg(all.join(QLatin1Char('\n'))), QMessageBox::Cancel, this);
    ask->setObjectName(QStringLiteral("hangsOn"));
    ask->setAttribute(Qt::WA_DeleteOnClose);
    connect(ask->addButton(tr("Delete all the same"), QMessageBox::AcceptRole), &QPushButton::clicked, this, go);
    ask->open();
}

} // namespace app
