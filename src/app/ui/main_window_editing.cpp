// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"

#include "app/model/own_shelf.h"
#include "app/stations/fit/fit_page.h"
#include "app/ui/dialogs/change_dialog.h"
#include "app/ui/dialogs/corners_dialog.h"
#include "app/ui/dialogs/details_dialog.h"
#include "app/ui/dialogs/link_dialog.h"
#include "app/ui/dialogs/part_edit_dialog.h"
#include "app/ui/dialogs/project_dialog.h"
#include "app/ui/shell/revision_rail.h"
#include "app/ui/shell/working_panel.h"
#include "app/ui/shell/working_tab.h"
#include "core/model/edits.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QInputDialog>
#include <QMenu>

// What is selected can be edited, renamed, copied, replaced and taken out: by double click, Enter, F2, Delete and its
// menu.
namespace app {
namespace {
bool isRunOrRevision(const core::Thing& thing) {
    return std::holds_alternative<core::RunRef>(thing) || std::holds_alternative<core::RevisionRef>(thing);
}
} // namespace

/// The part of the shelf that sits at the mount of a thing; empty: it is no part.
std::string MainWindow::partAt(const core::Thing& thing) const {
    const auto* e = m_context.view().evaluation();
    if (!e || !(std::holds_alternative<core::PartRef>(thing) || std::holds_alternative<core::FanRef>(thing)))
        return {};
    const core::Placed* p = e->build.at(core::mountOf(thing));
    return p ? p->part->id : std::string{};
}

core::Thing MainWindow::thingSelected() const {
    return m_rail->cards()->hasFocus() ? core::Thing(core::RevisionRef{m_context.document.revision()})
                                       : m_context.selection.thing();
}

void MainWindow::editThing(const core::Thing& thing) {
    if (const std::string part = partAt(thing); !part.empty())
        (new PartEditDialog(m_context, part, this))->open();
    else if (isRunOrRevision(thing))
        renameThing(thing);
    else if (std::holds_alternative<core::GapRef>(thing))
        changeNeed();
    else if (const auto* lead = std::get_if<core::LeadRef>(&thing))
        stateCorners(*lead, 0);
    else if (const auto* port = std::get_if<core::PortRef>(&thing))
        editThing(core::PartRef{port->mount});
}

/// The way of a lead by points; an end that is not stated has none.
void MainWindow::stateCorners(const core::LeadRef& lead, std::size_t end) {
    const auto* e = m_context.view().evaluation();
    for (const auto& route : e ? e->wiring.routes : std::vector<core::fit::LeadRoute>{})
        if (route.ref == lead && route.end == end)
            return (new CornersDialog(m_context, route, this))->open();
    tell(core::Problem{lead.part, "its way is not known: an end of it is not stated",
                       "plug it in again with both ends, by dragging from socket to plug in Brief"});
}

void MainWindow::unplug(const core::Thing& thing) {
    const auto& lead = std::get<core::LeadRef>(thing);
    if (const auto done = m_context.document.addChange(core::Disconnect{lead.part, lead.from}); !done)
        return tell(done.error());
    m_context.selection.select({});
}

/// Everything that can be said of a part, whatever its kind.
void MainWindow::detailsOf(const core::Thing& thing) {
    if (const std::string part = partAt(thing); !part.empty())
        (new DetailsDialog(m_context, part, this))->open();
}

/// A part of one's own, for other projects as well.
void MainWindow::keepThing(const core::Thing& thing) {
    const core::Part* part = m_context.document.project().part(partAt(thing));
    if (!part)
        return;
    if (const auto done = keepPart(ownShelfFile(m_context.settings), *part); !done)
        return tell(done.error());
    tell(tr("Kept on your shelf"), tr("%1: found in every project under Add a part").arg(qs(part->name)));
}

void MainWindow::renameThing(const core::Thing& thing) {
    if (!partAt(thing).empty())
        return editThing(thing); // its name is the first field
    const auto& project = m_context.document.project();
    const std::string id = core::subjectOf(thing);
    const core::Run* run = std::holds_alternative<core::RunRef>(thing) ? project.run(id) : nullptr;
    const bool isRevision = std::holds_alternative<core::RevisionRef>(thing) && project.revision(id);
    if (!run && !isRevision)
        return;
    bool taken = false;
    const QString name = QInputDialog::getText(this, run ? tr("Rename run") : tr("Rename revision"), tr("New name"),
                                               QLineEdit::Normal, run ? qs(run->name) : qs(id), &taken)
                             .trimmed();
    if (taken)
        renameTo(thing, name);
}

void MainWindow::renameTo(const core::Thing& thing, const QString& name) {
    const bool run = std::holds_alternative<core::RunRef>(thing);
    const std::string id = core::subjectOf(thing), to = name.toStdString();
    change(tr("Rename %1").arg(qs(id)),
           [&](core::Project& p) { return run ? core::renameRun(p, id, to) : core::renameRevision(p, id, to); });
    if (!run && m_context.document.project().revision(to))
        m_context.document.selectRevision(to);
}

void MainWindow::removeThing(const core::Thing& thing) {
    if (!partAt(thing).empty()) {
        const auto done = m_context.document.addChange(core::RemovePart{std::string(core::mountOf(thing))});
        if (!done)
            return tell(done.error());
        m_context.selection.select({});
    } else if (std::holds_alternative<core::LeadRef>(thing)) {
        unplug(thing);
    } else if (const auto* run = std::get_if<core::RunRef>(&thing)) {
        const std::string id = run->id;
        change(tr("Delete run %1").arg(qs(id)), [&](core::Project& p) { return core::removeRun(p, id); });
    } else if (const auto* ref = std::get_if<core::RevisionRef>(&thing)) {
        const std::string id = ref->id;
        const core::Revision* revision = m_context.document.project().revision(id);
        const std::string parent = revision ? revision->parent : std::string{};
        if (!parent.empty() && m_context.document.revision() == id)
            m_context.document.selectRevision(parent);
        change(tr("Delete revision %1").arg(qs(id)), [&](core::Project& p) { return core::removeRevision(p, id); });
    }
}

void MainWindow::duplicateThing(const core::Thing& thing) {
    const std::string part = partAt(thing);
    if (part.empty())
        return;
    // The copy takes the place of the original here, so that it can be changed alone.
    const std::string mount(core::mountOf(thing));
    auto& stack = m_context.document.undoStack();
    stack.beginMacro(tr("Duplicate"));
    std::string copy;
    const bool copied = change(tr("Duplicate"), [&](core::Project& p) {
        auto made = core::duplicatePart(p, part);
        if (made)
            copy = *made;
        return made ? core::Result<void>{} : tl::make_unexpected(made.error());
    });
    if (copied)
        if (const auto placed = m_context.document.addChange(core::SwapPart{mount, copy}); !placed)
            tell(placed.error());
    stack.endMacro();
}

void MainWindow::replaceThing(const core::Thing& thing) {
    if (!partAt(thing).empty())
        (new ChangeDialog(m_context, core::PartRef{std::string(core::mountOf(thing))}, this))->open();
}

void MainWindow::observeLink(const core::Thing& thing) {
    const auto* e = m_context.view().evaluation();
    if (const core::Placed* part = e ? e->build.at(core::mountOf(thing)) : nullptr; part && part->part->link)
        (new LinkDialog(m_context, *part, this))->open();
}

/// An edit of the project that may be refused; what was wrong is said.
bool MainWindow::change(const QString& text, const std::function<core::Result<void>(core::Project&)>& edit) {
    core::Project tried = m_context.document.project();
    auto done = edit(tried);
    if (done)
        done = m_context.document.edit(text, [&](core::Project& p) { p = tried; });
    if (!done)
        tell(done.error());
    return done.has_value();
}

QMenu* MainWindow::menuOf(const core::Thing& thing) {
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("thingMenu"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](const QString& text, const QKeySequence& keys, auto&& run) {
        QAction* a = menu->addAction(text);
        a->setShortcut(keys); // shown; the window's own action listens
        a->setShortcutContext(Qt::WidgetShortcut);
        connect(a, &QAction::triggered, this, [this, thing, run] { (this->*run)(thing); });
    };
    const auto act = [&](const QString& text, const QKeySequence& keys, const std::function<void()>& run) {
        QAction* a = menu->addAction(text);
        a->setShortcut(keys);
        a->setShortcutContext(Qt::WidgetShortcut);
        connect(a, &QAction::triggered, this, run);
    };
    const auto list = [this](FitLook::List which) {
        return [this, which] {
            goTo(core::rules::Station::Fit);
            fitPage()->choose(which);
        };
    };
    if (!partAt(thing).empty()) {
        add(tr("&Edit ..."), QKeySequence(Qt::Key_Return), &MainWindow::editThing);
        add(tr("All de&tails ..."), {}, &MainWindow::detailsOf);
        add(tr("&Replace ..."), {}, &MainWindow::replaceThing);
        add(tr("&Duplicate, and use the copy here"), {}, &MainWindow::duplicateThing);
        add(tr("&Keep on my shelf"), {}, &MainWindow::keepThing);
        if (const auto* e = m_context.view().evaluation(); e && e->build.at(core::mountOf(thing))->part->link)
            add(tr("Observed &link ..."), {}, &MainWindow::observeLink);
        add(tr("&Take out"), QKeySequence(Qt::Key_Delete), &MainWindow::removeThing);
        menu->addSeparator();
        act(tr("&Move it: Alt and the arrows, in Fit"), {}, [this, thing] {
            goTo(core::rules::Station::Fit);
            m_context.selection.select(thing);
            fitPage()->setFocus(Qt::ShortcutFocusReason);
        });
        act(tr("Sit the other &way at its place"), QKeySequence(Qt::Key_X), [this, thing] {
            m_context.selection.select(thing);
            fitPage()->turnPart();
        });
        act(tr("Roo&m left at the places"), QKeySequence(Qt::Key_R), list(FitLook::List::Room));
        act(tr("How parts &go in"), QKeySequence(Qt::Key_I), list(FitLook::List::GoingIn));
    } else if (isRunOrRevision(thing)) {
        add(tr("Re&name ..."), QKeySequence(Qt::Key_F2), &MainWindow::renameThing);
        add(tr("&Delete"), QKeySequence(Qt::Key_Delete), &MainWindow::removeThing);
        act(tr("All de&tails ..."), {}, [this, thing] {
            if (const auto* run = std::get_if<core::RunRef>(&thing))
                (new RunDialog(m_context, run->id, this))->open();
            else
                (new ProjectDialog(m_context, core::subjectOf(thing), this))->open();
        });
        if (const auto* revision = std::get_if<core::RevisionRef>(&thing);
            revision && revision->id != m_context.document.revision())
            act(tr("&Lay it over the sections, in grey"), {}, [this, id = revision->id] {
                goTo(core::rules::Station::Fit);
                fitPage()->layOver(id);
            });
    } else if (std::holds_alternative<core::LeadRef>(thing)) {
        add(tr("Co&rners ..."), QKeySequence(Qt::Key_Return), &MainWindow::editThing);
        act(tr("Along the ed&ges again"), {}, [this] { fitPage()->straightenLead(); });
        act(tr("Show the &leads in Fit"), QKeySequence(Qt::Key_L), list(FitLook::List::Leads));
        add(tr("&Unplug"), QKeySequence(Qt::Key_Delete), &MainWindow::removeThing);
    } else if (std::holds_alternative<core::GapRef>(thing)) {
        act(tr("&Change: what would mend it"), QKeySequence(Qt::Key_M), list(FitLook::List::Change));
        act(tr("&Measure: what to measure next"), QKeySequence(Qt::Key_T), list(FitLook::List::Measure));
        add(tr("&Need of this gap ..."), QKeySequence(Qt::Key_Return), &MainWindow::editThing);
    }
    if (workingOf(m_context.view(), thing)) {
        menu->addSeparator();
        act(tr("Show its &Working"), {}, [this] {
            if (m_narrow && !m_working->isVisible())
                Q_EMIT m_workingTab->toggled();
            m_working->sheet()->setFocus(Qt::ShortcutFocusReason);
        });
        act(tr("Co&py figure"), {}, [this, thing] { copyFigure(thing); });
    }
    return menu;
}

/// "Noise at 1 m: 39.1 dB(A) ±1.0", to be pasted elsewhere.
void MainWindow::copyFigure(const core::Thing& thing) {
    const View v = m_context.view();
    const auto w = workingOf(v, thing);
    if (!w)
        return;
    QString text = v.words(w->title);
    if (w->known) {
        text += QStringLiteral(": ") + v.text(w->quantity, w->value);
        if (w->band > 0)
            text += QStringLiteral(" ±") + v.number(w->quantity == core::Quantity::Temperature
                                                        ? core::Quantity::TemperatureDifference
                                                        : w->quantity,
                                                    w->band);
    } else {
        text += QStringLiteral(": ") + v.words(w->sentence);
    }
    QGuiApplication::clipboard()->setText(text);
}

FitPage* MainWindow::fitPage() const { return static_cast<FitPage*>(page(core::rules::Station::Fit)); }

void MainWindow::showMenuOf(const core::Thing& thing, const QPoint& at) {
    m_context.selection.select(thing);
    QMenu* menu = menuOf(thing);
    if (menu->isEmpty())
        return menu->deleteLater();
    menu->popup(at);
}

/// Over the sheet itself, where nothing stands.
QMenu* MainWindow::sheetMenu() {
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("thingMenu"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto act = [&](const QString& text, const QKeySequence& keys, const std::function<void()>& run) {
        QAction* a = menu->addAction(text);
        a->setShortcut(keys);
        a->setShortcutContext(Qt::WidgetShortcut);
        connect(a, &QAction::triggered, this, run);
    };
    act(tr("&Add a part ..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_A), [this] { addPart(); });
    act(tr("&New revision ..."), QKeySequence(Qt::CTRL | Qt::Key_N), [this] { newRevision(); });
    return menu;
}

void MainWindow::showSheetMenu(Act act, const QPoint& at) {
    if (act == Act::MoveSheet || act == Act::TurnList)
        sheetMenu()->popup(at);
}

} // namespace app
