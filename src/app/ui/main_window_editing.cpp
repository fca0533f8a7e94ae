// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"

#include "app/ui/dialogs/change_dialog.h"
#include "app/ui/dialogs/link_dialog.h"
#include "app/ui/dialogs/part_edit_dialog.h"
#include "app/ui/shell/revision_rail.h"
#include "app/ui/shell/working_panel.h"
#include "app/ui/shell/working_tab.h"
#include "app/ui/stations/fit_page.h"
#include "core/model/edits.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QInputDialog>
#include <QMenu>

// What is selected can be edited, renamed, copied, replaced and taken out: by double click, Enter, F2, Delete and its menu.
namespace app {
namespace {

/// "part:tray/cpu" -> the kind and the rest.
struct Thing { QString kind; std::string id; };
Thing thingOf(const QString& key) { return {key.section(QLatin1Char(':'), 0, 0), key.section(QLatin1Char(':'), 1).toStdString()}; }

} // namespace

/// The part of the shelf that sits at the mount of a key; empty: the key means no part.
std::string MainWindow::partAt(const QString& key) const {
    const Thing thing = thingOf(key);
    const auto* e = m_context.view().evaluation();
    if (!e || (thing.kind != QLatin1String("part") && thing.kind != QLatin1String("fan")))
        return {};
    const core::Placed* p = e->build.at(thing.id);
    return p ? p->part->id : std::string{};
}

QString MainWindow::thingSelected() const {
    return m_rail->cards()->hasFocus() ? QStringLiteral("revision:") + qs(m_context.document.revision()) : m_context.selection.key();
}

void MainWindow::editThing(const QString& key) {
    if (const std::string part = partAt(key); !part.empty())
        (new PartEditDialog(m_context, part, this))->open();
    else if (thingOf(key).kind == QLatin1String("run") || thingOf(key).kind == QLatin1String("revision"))
        renameThing(key);
    else if (key.startsWith(QLatin1String("gap:")))
        changeNeed();
}

void MainWindow::renameThing(const QString& key) {
    const Thing thing = thingOf(key);
    if (!partAt(key).empty())
        return editThing(key); // its name is the first field
    const auto& project = m_context.document.project();
    const core::Run* run = thing.kind == QLatin1String("run") ? project.run(thing.id) : nullptr;
    const bool isRevision = thing.kind == QLatin1String("revision") && project.revision(thing.id);
    if (!run && !isRevision)
        return;
    bool taken = false;
    const QString name = QInputDialog::getText(this, run ? tr("Rename run") : tr("Rename revision"), tr("New name"), QLineEdit::Normal, run ? qs(run->name) : qs(thing.id), &taken).trimmed();
    if (taken)
        renameTo(key, name);
}

void MainWindow::renameTo(const QString& key, const QString& name) {
    const Thing thing = thingOf(key);
    const bool run = thing.kind == QLatin1String("run");
    const std::string to = name.toStdString();
    change(tr("Rename %1").arg(qs(thing.id)), [&](core::Project& p) { return run ? core::renameRun(p, thing.id, to) : core::renameRevision(p, thing.id, to); });
    if (!run && m_context.document.project().revision(to))
        m_context.document.selectRevision(to);
}

void MainWindow::removeThing(const QString& key) {
    const Thing thing = thingOf(key);
    if (!partAt(key).empty()) {
        const auto done = m_context.document.addChange(core::RemovePart{thing.id});
        if (!done)
            return tell(done.error());
        m_context.selection.select({});
    } else if (thing.kind == QLatin1String("run")) {
        change(tr("Delete run %1").arg(qs(thing.id)), [&](core::Project& p) { return core::removeRun(p, thing.id); });
    } else if (thing.kind == QLatin1String("revision")) {
        const core::Revision* revision = m_context.document.project().revision(thing.id);
        const std::string parent = revision ? revision->parent : std::string{};
        if (!parent.empty() && m_context.document.revision() == thing.id)
            m_context.document.selectRevision(parent);
        change(tr("Delete revision %1").arg(qs(thing.id)), [&](core::Project& p) { return core::removeRevision(p, thing.id); });
    }
}

void MainWindow::duplicateThing(const QString& key) {
    const std::string part = partAt(key);
    if (part.empty())
        return;
    // The copy takes the place of the original here, so that it can be changed alone.
    const std::string mount = thingOf(key).id;
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

void MainWindow::replaceThing(const QString& key) {
    if (!partAt(key).empty())
        (new ChangeDialog(m_context, QStringLiteral("part:") + qs(thingOf(key).id), this))->open();
}

void MainWindow::observeLink(const QString& key) {
    const auto* e = m_context.view().evaluation();
    if (const core::Placed* part = e ? e->build.at(thingOf(key).id) : nullptr; part && part->part->link)
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

QMenu* MainWindow::menuOf(const QString& key) {
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("thingMenu"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](const QString& text, const QKeySequence& keys, auto&& run) {
        QAction* a = menu->addAction(text);
        a->setShortcut(keys); // shown; the window's own action listens
        a->setShortcutContext(Qt::WidgetShortcut);
        connect(a, &QAction::triggered, this, [this, key, run] { (this->*run)(key); });
    };
    const auto act = [&](const QString& text, const QKeySequence& keys, const std::function<void()>& run) {
        QAction* a = menu->addAction(text);
        a->setShortcut(keys);
        a->setShortcutContext(Qt::WidgetShortcut);
        connect(a, &QAction::triggered, this, run);
    };
    const auto list = [this](FitLook::List which) {
        return [this, which] {
            setStation(1);
            fitPage()->choose(which);
        };
    };
    const Thing thing = thingOf(key);
    if (!partAt(key).empty()) {
        add(tr("&Edit ..."), QKeySequence(Qt::Key_Return), &MainWindow::editThing);
        add(tr("&Replace ..."), {}, &MainWindow::replaceThing);
        add(tr("&Duplicate, and use the copy here"), {}, &MainWindow::duplicateThing);
        if (const auto* e = m_context.view().evaluation(); e && e->build.at(thing.id)->part->link)
            add(tr("Observed &link ..."), {}, &MainWindow::observeLink);
        add(tr("&Take out"), QKeySequence(Qt::Key_Delete), &MainWindow::removeThing);
        menu->addSeparator();
        act(tr("&Move it: Alt and the arrows, in Fit"), {}, [this, key] {
            setStation(1);
            m_context.selection.select(key);
            fitPage()->setFocus(Qt::ShortcutFocusReason);
        });
        act(tr("Roo&m left at the places"), QKeySequence(Qt::Key_R), list(FitLook::List::Room));
        act(tr("How parts &go in"), QKeySequence(Qt::Key_I), list(FitLook::List::GoingIn));
    } else if (thing.kind == QLatin1String("run") || thing.kind == QLatin1String("revision")) {
        add(tr("Re&name ..."), QKeySequence(Qt::Key_F2), &MainWindow::renameThing);
        add(tr("&Delete"), QKeySequence(Qt::Key_Delete), &MainWindow::removeThing);
    } else if (key.startsWith(QLatin1String("gap:"))) {
        act(tr("&Change: what would mend it"), QKeySequence(Qt::Key_M), list(FitLook::List::Change));
        act(tr("&Measure: what to measure next"), QKeySequence(Qt::Key_T), list(FitLook::List::Measure));
        add(tr("&Need of this gap ..."), QKeySequence(Qt::Key_Return), &MainWindow::editThing);
    } else if (key == QLatin1String("paper:") || key == QLatin1String("listbody:")) {
        act(tr("&Add a part ..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_A), [this] { addPart(); });
        act(tr("&New revision ..."), QKeySequence(Qt::CTRL | Qt::Key_N), [this] { newRevision(); });
    }
    if (const auto working = workingOf(m_context.view(), key)) {
        menu->addSeparator();
        act(tr("Show its &Working"), {}, [this] {
            if (m_narrow && !m_working->isVisible())
                Q_EMIT m_workingTab->toggled();
            m_working->sheet()->setFocus(Qt::ShortcutFocusReason);
        });
        act(tr("Co&py figure"), {}, [this, key] { copyFigure(key); });
    }
    return menu;
}

/// "Noise at 1 m: 39.1 dB(A) ±1.0", to be pasted elsewhere.
void MainWindow::copyFigure(const QString& key) {
    const View v = m_context.view();
    const auto w = workingOf(v, key);
    if (!w)
        return;
    QString text = qs(w->title);
    if (w->known) {
        text += QStringLiteral(": ") + v.text(w->quantity, w->value);
        if (w->band > 0)
            text += QStringLiteral(" ±") + v.number(w->quantity == core::Quantity::Temperature ? core::Quantity::TemperatureDifference : w->quantity, w->band);
    } else {
        text += QStringLiteral(": ") + qs(w->sentence);
    }
    QGuiApplication::clipboard()->setText(text);
}

FitPage* MainWindow::fitPage() const { return static_cast<FitPage*>(m_pages[1]); }

void MainWindow::showMenuOf(const QString& key, const QPoint& at) {
    m_context.selection.select(key);
    QMenu* menu = menuOf(key);
    if (menu->isEmpty())
        return menu->deleteLater();
    menu->popup(at);
}

} // namespace app
