// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"

#include "app/stations/bench/bench_page.h"
#include "app/stations/brief/brief_dialog.h"
#include "app/stations/brief/brief_page.h"
#include "app/stations/brief/start_dialog.h"
#include "app/stations/fit/fit_page.h"
#include "app/stations/make/printer_dialog.h"
#include "app/stations/registry.h"
#include "app/ui/dialogs/change_dialog.h"
#include "app/ui/dialogs/find_dialog.h"
#include "app/ui/dialogs/keys_dialog.h"
#include "app/ui/dialogs/measure_dialog.h"
#include "app/ui/dialogs/need_dialog.h"
#include "app/ui/dialogs/part_dialog.h"
#include "app/ui/dialogs/project_dialog.h"
#include "app/ui/dialogs/search_dialog.h"
#include "app/ui/recording/recorder.h"
#include "app/ui/shell/working_panel.h"
#include "app/ui/shell/working_tab.h"
#include "app/ui/style.h"

#include <QAction>
#include <QActionGroup>
#include <QApplication>
#include <QKeyEvent>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QShortcut>

namespace app {

QAction* MainWindow::action(QMenu* menu, const QString& text, const QKeySequence& keys, std::function<void()> run,
                            const QString& objectName) {
    auto* a = new QAction(text, this);
    if (!keys.isEmpty())
        a->setShortcut(keys);
    a->setObjectName(objectName);
    connect(a, &QAction::triggered, this, [run = std::move(run)] { run(); });
    menu->addAction(a);
    addAction(a); // the shortcut works while the menu is closed
    return a;
}

void MainWindow::buildActions() {
    m_menu = new QMenu(this);
    buildFileActions();
    buildEditActions();
    buildRevisionActions();
    buildViewActions();
    QMenu* help = m_menu->addMenu(tr("&Help"));
    action(
        help, tr("&Keys ..."), QKeySequence(tr("F1")), [this] { (new KeysDialog(m_context, *m_menu, this))->open(); },
        QStringLiteral("actKeys"));
    action(help, tr("&About Mini Draft"), {}, [this] { about(); });
    // An action that is not shown has no keys either.
    connect(new QShortcut(QKeySequence(tr("F10")), this), &QShortcut::activated, this, &MainWindow::openMenu);
    qApp->installEventFilter(this);
}

void MainWindow::buildFileActions() {
    QMenu* file = m_menu->addMenu(tr("&File"));
    action(
        file, tr("&New project ..."), QKeySequence(tr("Ctrl+Shift+N")), [this] { newProject(); },
        QStringLiteral("actNewProject"));
    action(file, tr("&Open ..."), QKeySequence::Open, [this] { open(); });
    m_recent = file->addMenu(tr("Open &recent"));
    connect(m_recent, &QMenu::aboutToShow, this, &MainWindow::fillRecent);
    fillRecent();
    action(
        file, tr("&Save"), QKeySequence::Save, [this] { save(); }, QStringLiteral("actSave"));
    action(file, tr("Save &as ..."), QKeySequence(tr("Ctrl+Shift+S")), [this] { saveAs(); });
    action(file, tr("E&xport as a folder ..."), {}, [this] { exportFolder(); });
    file->addSeparator();
    action(file, tr("Read in a &log ..."), QKeySequence(tr("Ctrl+I")), [this] { askImport(); });
    action(file, tr("&Write report ..."), QKeySequence(tr("Ctrl+E")), [this] { askReport(); });
    action(file, tr("&Print this sheet ..."), QKeySequence::Print, [this] { askPrint(); });
    action(
        file, tr("Print &measuring sheet ..."), {}, [this] { printMeasures({}); }, QStringLiteral("actPrintMeasures"));
    action(
        file, tr("Export s&ections ..."), QKeySequence(tr("Ctrl+Shift+E")), [this] { askSections(); },
        QStringLiteral("actSections"));
    file->addSeparator();
    action(file, tr("&Quit"), QKeySequence::Quit, [this] { close(); });
}

void MainWindow::buildEditActions() {
    QMenu* edit = m_menu->addMenu(tr("&Edit"));
    QUndoStack& undo = m_context.document.undoStack();
    for (auto* a : {undo.createUndoAction(this, tr("Undo")), undo.createRedoAction(this, tr("Redo"))}) {
        edit->addAction(a);
        addAction(a);
    }
    edit->actions()[0]->setShortcut(QKeySequence::Undo);
    edit->actions()[1]->setShortcuts({QKeySequence(tr("Ctrl+Shift+Z")), QKeySequence(tr("Ctrl+Y"))});
    edit->addSeparator();
    action(edit, tr("&Brief ..."), QKeySequence(tr("Ctrl+B")), [this] { editBrief(); });
    action(edit, tr("Pr&inter for made parts ..."), {}, [this] { (new PrinterDialog(m_context, this))->open(); });
    action(
        edit, tr("All details of the pro&ject ..."), {}, [this] { (new ProjectDialog(m_context, {}, this))->open(); },
        QStringLiteral("actProjectDetails"));
    action(
        edit, tr("&Add a part ..."), QKeySequence(tr("Ctrl+Shift+A")), [this] { addPart(); },
        QStringLiteral("actAddPart"));
    action(
        edit, tr("Edit the bo&x"), {},
        [this] {
            goTo(core::rules::Station::Fit);
            fitPage()->editBox(true);
        },
        QStringLiteral("actEditBox"));
    action(
        edit, tr("&Search combinations ..."), QKeySequence(tr("Ctrl+Shift+F")), [this] { searchCombinations(); },
        QStringLiteral("actSearch"));
    action(
        edit, tr("&Measuring sheet ..."), QKeySequence(tr("Ctrl+M")), [this] { fillInMeasures(); },
        QStringLiteral("actMeasure"));
    action(
        edit, tr("Need of the selected &gap ..."), QKeySequence(tr("Ctrl+G")), [this] { changeNeed(); },
        QStringLiteral("actNeed"));
    action(
        edit, tr("&Edit what is selected ..."), {}, [this] { editThing(m_context.selection.thing()); },
        QStringLiteral("actEditThing"));
    action(
        edit, tr("Re&name ..."), QKeySequence(tr("F2")), [this] { renameThing(thingSelected()); },
        QStringLiteral("actRename"));
    action(
        edit, tr("&Take out, delete"), QKeySequence::Delete, [this] { removeThing(thingSelected()); },
        QStringLiteral("actRemove"));
    action(edit, tr("&Find a part or number ..."), QKeySequence(tr("/")), [this] { find(); });
}

void MainWindow::buildRevisionActions() {
    QMenu* revision = m_menu->addMenu(tr("&Revision"));
    action(
        revision, tr("&New revision ..."), QKeySequence(tr("Ctrl+N")), [this] { newRevision(); },
        QStringLiteral("actNewRevision"));
    action(
        revision, tr("&Pin as baseline"), QKeySequence(tr("P")), [this] { pinBaseline(); }, QStringLiteral("actPin"));
    m_validateAction = action(revision, tr("&Validate"), {}, [this] { validateRevision(); });
    action(revision, tr("&Older on the trunk"), QKeySequence(tr("[")), [this] { stepRevision(-1); });
    action(revision, tr("Ne&wer on the trunk"), QKeySequence(tr("]")), [this] { stepRevision(1); });

    QMenu* bench = m_menu->addMenu(tr("&Bench"));
    action(bench, tr("&Record ..."), QKeySequence(tr("Ctrl+R")), [this] { record(); });
    m_stopAction = action(bench, tr("&Stop recording"), QKeySequence(tr("Ctrl+.")), [this] { m_recorder->stop(); });
}

void MainWindow::buildViewActions() {
    QMenu* view = m_menu->addMenu(tr("&View"));
    for (int i = 0; i < static_cast<int>(stations().size()); ++i)
        action(view, stations()[static_cast<std::size_t>(i)].title(), QKeySequence(QString::number(i + 1)),
               [this, i] { setStation(i); });
    view->addSeparator();
    action(view, tr("Next figure"), QKeySequence(tr("J")), [this] { page(station())->stepSelection(1); });
    action(view, tr("Previous figure"), QKeySequence(tr("K")), [this] { page(station())->stepSelection(-1); });
    action(view, tr("All findings"), QKeySequence(tr("F")), [this] { toggleFindings(); });
    action(view, tr("Open or fold Working"), QKeySequence(tr("W")), [this] {
        if (m_narrow)
            Q_EMIT m_workingTab->toggled();
    });
    action(view, tr("Next region"), QKeySequence(tr("F6")), [this] { nextRegion(1); });
    action(view, tr("Previous region"), QKeySequence(tr("Shift+F6")), [this] { nextRegion(-1); });
    view->addSeparator();
    action(view, tr("Light, dark, follow the system"), QKeySequence(tr("Ctrl+L")),
           [this] { applyTheme(static_cast<ThemeChoice>((static_cast<int>(m_context.settings.theme) + 1) % 3)); });
    addSizes(view->addMenu(tr("Text &size")));
    addUnits(view->addMenu(tr("&Units")));
}

void MainWindow::addSizes(QMenu* sizes) {
    auto* group = new QActionGroup(sizes);
    for (const int percent : {100, 110, 125, 150}) {
        QAction* a = action(
            sizes, tr("%1 %").arg(percent), {},
            [this, percent] {
                m_context.settings.sizePercent = percent;
                m_context.settings.save();
                offerRestart(percent);
            },
            QStringLiteral("size%1").arg(percent));
        a->setCheckable(true);
        a->setChecked(m_context.settings.sizePercent == percent);
        group->addAction(a);
    }
}

void MainWindow::addUnits(QMenu* units) {
    const auto unit = [&](const QString& text, const QString& name, bool core::UnitChoice::*member) {
        QAction* a = action(
            units, text, {}, [] {}, name);
        a->setCheckable(true);
        a->setChecked(m_context.settings.units.*member);
        connect(a, &QAction::toggled, this, [this, member](bool on) {
            m_context.settings.units.*member = on;
            m_context.settings.save();
            Q_EMIT m_context.document.revisionSelected(); // the figures are the same, their words are not
        });
    };
    unit(tr("Temperatures in °F"), QStringLiteral("actFahrenheit"), &core::UnitChoice::fahrenheit);
    unit(tr("Flows in CFM"), QStringLiteral("actCfm"), &core::UnitChoice::cfm);
    unit(tr("Lengths in inch"), QStringLiteral("actInch"), &core::UnitChoice::inch);
}

void MainWindow::openMenu() {
    m_menu->popup(mapToGlobal(QPoint(8, 56)));
    // On the first menu, not in it: letters then choose among the menus.
    QKeyEvent down(QEvent::KeyPress, Qt::Key_Down, Qt::NoModifier);
    QApplication::sendEvent(m_menu, &down);
}

/// Alt pressed and let go with nothing in between opens the menu, as in every window with a menu bar.
bool MainWindow::eventFilter(QObject* watched, QEvent* event) {
    const auto type = event->type();
    if (type == QEvent::KeyPress || type == QEvent::ShortcutOverride) {
        const auto* key = static_cast<QKeyEvent*>(event);
        m_altAlone = key->key() == Qt::Key_Alt && (key->modifiers() & ~Qt::AltModifier) == Qt::NoModifier;
    } else if (type == QEvent::MouseButtonPress || type == QEvent::Wheel || type == QEvent::WindowDeactivate ||
               type == QEvent::Shortcut) {
        m_altAlone = false;
    } else if (type == QEvent::KeyRelease && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Alt &&
               std::exchange(m_altAlone, false) && isActiveWindow() && !QApplication::activeModalWidget() &&
               !QApplication::activePopupWidget()) {
        openMenu();
        return true;
    }
    return QMainWindow::eventFilter(watched, event);
}

void MainWindow::fillRecent() {
    m_recent->clear();
    for (const QString& path : m_context.settings.recent)
        connect(m_recent->addAction(path), &QAction::triggered, this,
                [this, path] { whenSafe([this, path] { openInBackground(path); }); });
    m_recent->setEnabled(!m_context.settings.recent.isEmpty());
}

/// Qt takes the size of text and drawing when it starts; so the program offers to start anew with what is open.
void MainWindow::offerRestart(int percent) {
    m_lastMessage = tr("Text and drawing at %1 %").arg(percent);
    auto* ask = new QMessageBox(QMessageBox::NoIcon, m_lastMessage,
                                tr("The program starts anew to show it, with this project and this window. It needs a "
                                   "screen of at least %1 × %2.")
                                    .arg(1100 * percent / 100)
                                    .arg(700 * percent / 100),
                                QMessageBox::NoButton, this);
    ask->setObjectName(QStringLiteral("restart"));
    ask->setAttribute(Qt::WA_DeleteOnClose);
    QPushButton* now = ask->addButton(tr("Start anew"), QMessageBox::AcceptRole);
    now->setObjectName(QStringLiteral("restartNow"));
    now->setProperty(mainAction, true);
    ask->addButton(tr("At the next start"), QMessageBox::RejectRole);
    connect(now, &QPushButton::clicked, this, [this] {
        whenSafe([this] {
            m_closing = m_restart = true;
            close();
        });
    });
    ask->open();
}

void MainWindow::newProject() {
    whenSafe([this] {
        if (m_context.document.project().revisions.empty()) { // it is the first station before there is anything
            goTo(core::rules::Station::Brief);
            return static_cast<BriefPage*>(page(core::rules::Station::Brief))->begin();
        }
        auto* dialog = new StartDialog(m_context, this);
        connect(dialog, &StartDialog::created, this, &MainWindow::startProject);
        dialog->open();
    });
}

void MainWindow::newRevision() {
    if (m_context.document.project().revisions.empty())
        return newProject();
    (new ChangeDialog(m_context, m_context.selection.thing(), this))->open();
}

void MainWindow::addPart(const QString& search) {
    if (m_context.document.project().revisions.empty())
        return newProject();
    (new PartDialog(m_context, this, search))->open();
}

void MainWindow::editBrief() { (new BriefDialog(m_context, this))->open(); }

void MainWindow::find() {
    auto* dialog = new FindDialog(m_context, this);
    connect(dialog, &FindDialog::found, this, [this](core::rules::Station where, const core::Thing& thing) {
        goTo(where);
        if (std::holds_alternative<core::LeadRef>(thing)) // where leads are drawn
            fitPage()->choose(FitLook::List::Leads);
        m_context.selection.select(thing);
    });
    dialog->open();
}

void MainWindow::searchCombinations() {
    if (m_context.document.result().evaluation)
        (new SearchDialog(m_context, this))->open();
}

void MainWindow::fillInMeasures() {
    if (m_context.document.result().evaluation)
        (new MeasureDialog(m_context, this))->open();
}

void MainWindow::changeNeed() {
    const auto& e = m_context.document.result().evaluation;
    if (!e)
        return;
    const auto* ref = std::get_if<core::GapRef>(&m_context.selection.thing());
    if (const auto* gap = ref ? e->fit.gap(*ref) : nullptr) {
        (new NeedDialog(m_context, *gap, this))->open();
        return;
    }
    tell(tr("No gap is selected"), tr("Select a gap in Fit, then say what it needs."));
}

void MainWindow::pinBaseline() {
    const std::string id = m_context.document.revision();
    if (!id.empty())
        (void)m_context.document.edit(tr("%1 is the baseline").arg(qs(id)),
                                      [&](core::Project& p) { p.baseline = p.baseline == id ? std::string{} : id; });
}

void MainWindow::validateRevision() {
    const std::string id = m_context.document.revision();
    if (!m_context.document.result().verdict.canBeValidated)
        return tell(tr("%1 cannot be validated yet").arg(qs(id)),
                    m_context.view().words(m_context.document.result().verdict.before.empty()
                                               ? core::say("no targets are set in the brief")
                                               : m_context.document.result().verdict.before.front().text));
    const bool withdraw = m_context.document.result().verdict.validated;
    if (withdraw) {
        auto* ask = new QMessageBox(QMessageBox::Question, tr("Withdraw the validation"),
                                    tr("%1 was validated. Withdraw that?").arg(qs(id)), QMessageBox::Cancel, this);
        ask->setObjectName(QStringLiteral("withdraw"));
        ask->setAttribute(Qt::WA_DeleteOnClose);
        ask->addButton(tr("Withdraw"), QMessageBox::AcceptRole);
        connect(ask, &QMessageBox::buttonClicked, this, [this, ask, id](QAbstractButton* button) {
            if (ask->buttonRole(button) == QMessageBox::AcceptRole)
                setValidated(id, false);
        });
        return ask->open();
    }
    setValidated(id, true);
}

void MainWindow::setValidated(const std::string& id, bool validated) {
    (void)m_context.document.edit(validated ? tr("Validate %1").arg(qs(id))
                                            : tr("Withdraw the validation of %1").arg(qs(id)),
                                  [&](core::Project& p) {
                                      if (core::Revision* r = p.revisions.edit(id))
                                          r->validated = validated;
                                  });
}

void MainWindow::about() {
    tell(tr("Mini Draft %1").arg(QApplication::applicationVersion()),
         tr("Plans, tests and validates a compact computer. Figures are predictions or measurements with their doubt; "
            "they do not replace the maker's limits, local electrical code or a qualified person.\n"
            "Licence GPL-3.0-or-later. Typeface Asap Condensed, SIL Open Font Licence 1.1."));
}

} // namespace app
