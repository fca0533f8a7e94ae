// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/patience.h"
#include "support/window.h"

#include "app/stations/brief/brief_dialog.h"
#include "app/stations/fit/fit_page.h"
#include "app/ui/dialogs/change_dialog.h"
#include "app/ui/fields/number_box.h"
#include "app/ui/shell/revision_rail.h"
#include "support/registry.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QMessageBox>
#include <QRegularExpression>
#include <QToolTip>
#include <QTreeWidget>
#include <QWheelEvent>

#include <map>
#include <set>

namespace tst_hands {

using app::NumberBox;
using support::Window;

namespace {
/// The demo with nine more top fans, one into the other, and forty more revisions, of which the last was run.
core::Project manyFansAndRevisions() {
    core::Project p = support::demoProject();
    core::Part& box = *p.shelf.edit("case-1");
    const core::Mount top =
        *std::find_if(box.mounts.begin(), box.mounts.end(), [](const core::Mount& m) { return m.id == "top"; });
    core::Revision& crowded = *p.revisions.edit("R10");
    for (int i = 1; i <= 9; ++i) {
        core::Mount more = top;
        more.id = "top" + std::to_string(i);
        more.name = "Top fan " + std::to_string(i);
        box.mounts.push_back(more);
        crowded.changes.emplace_back(core::PlacePart{"fan-80-15", more.id, core::FanFlow::Out});
    }
    for (int i = 1; i <= 40; ++i)
        p.revisions.push_back({.id = "X" + std::to_string(i),
                               .parent = "R10",
                               .changes = {core::SetFan{"top", core::FanMode::Fixed, 0.5 + 0.01 * i}}});
    core::Run last = p.runs[p.runs.size() - 1];
    last.id = last.name = "the last";
    last.revision = "X40";
    p.runs.push_back(last);
    return p;
}
} // namespace

/// What a hand does in the window: numbers typed as people type them, focus that can be seen, keys that work, things
/// that can be changed after they were made.
class HandsTest : public QObject {
    Q_OBJECT

    static void type(NumberBox* box, const QString& text) {
        box->setFocus();
        box->selectAll();
        QTest::keyClicks(box, text);
    }
    static void wheel(QWidget* over) {
        QWheelEvent event(QPointF(4, 4), over->mapToGlobal(QPointF(4, 4)), {}, {0, 120}, Qt::NoButton, Qt::NoModifier,
                          Qt::NoScrollPhase, false);
        QApplication::sendEvent(over, &event);
    }
    static const core::Part* partAt(Window& w, const char* mount) {
        const core::Placed* p = w.document().result().evaluation->build.at(mount);
        return p ? p->part : nullptr;
    }

private Q_SLOTS:
    /// A tip stands beside what it explains, not over it.
    void tipsKeepOffWhatTheyExplain() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(4);
        auto* page = w.window->page(4);
        page->grab();
        int looked = 0;
        for (const app::Hit& hit : page->hits()) {
            if (!support::stands<core::RunRef>(hit) || hit.rect.height() > 60)
                continue;
            const QPoint at = hit.rect.center().toPoint();
            QHelpEvent event(QEvent::ToolTip, at, page->mapToGlobal(at));
            QApplication::sendEvent(page, &event);
            for (const QWidget* tip : QApplication::topLevelWidgets())
                if (tip->inherits("QTipLabel") && tip->isVisible()) {
                    const QRect place(page->mapToGlobal(hit.rect.topLeft().toPoint()), hit.rect.size().toSize());
                    QVERIFY2(!tip->geometry().intersects(place.adjusted(1, 1, -1, -1)), qPrintable(hit.name));
                    ++looked;
                }
            QToolTip::hideText();
        }
        QVERIFY(looked >= 3);
    }
    /// Where nothing on the shelf mends a missing plug, the next step is offered: the shelf, searched for adapters.
    void noAdapterIsNoDeadEnd() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        QVERIFY(w.document().edit("test", [](core::Project& p) {
            for (core::Part& part : p.shelf)
                if (part.id == "card-168e")
                    part.needs["no-such-plug"] = 1;
        }));
        w.window->setStation(0);
        QVERIFY(w.click(w.window->page(0), app::Act::AddAdapter));
        auto* search = w.dialog<QLineEdit>("search");
        QVERIFY(search);
        QCOMPARE(search->text(), QString("adapter"));
    }
    /// Everything that Find lists has a name of its own, is selected by Enter, and is worked out.
    void findLeadsToEverything() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        QVERIFY(w.document().edit("the same name", [](core::Project& p) {
            p.runs.edit("r10-both-2")->name = p.run("r10-both")->name;
            for (int twice = 0; twice < 2; ++twice)
                p.revisions.edit("R11")->changes.emplace_back(core::Connect{.part = "fan-hub"});
        }));
        support::Things met;
        QSet<QString> names;
        std::set<int> stations;
        for (int row = 0, rows = 1; row < rows; ++row) {
            w.document().selectRevision("R11"); // a run that was found has shown its own
            w.key(Qt::Key_Slash);
            auto* text = w.dialog<QLineEdit>("findText");
            QVERIFY(text);
            auto* list = text->window()->findChild<QListWidget*>();
            rows = list->count();
            list->setCurrentRow(row);
            const QString name = list->currentItem()->text();
            QVERIFY2(!names.contains(name), qPrintable(name));
            names << name;
            QTest::keyClick(text, Qt::Key_Return);
            const core::Thing found = w.context.selection.thing();
            QVERIFY2(app::workingOf(w.context.view(), found), qPrintable(name));
            const auto* fit = static_cast<app::FitPage*>(w.window->page(1));
            QVERIFY(!std::holds_alternative<core::LeadRef>(found) || fit->look().list == app::FitLook::List::Leads);
            met.insert(found);
            stations.insert(w.window->station());
            QCOMPARE(static_cast<int>(met.size()), row + 1);
        }
        QVERIFY(met.contains(core::PortRef{"front-bay", "eps-8", 0}));
        QVERIFY(met.size() > 60 && stations.size() == 6);
    }
    /// What is remembered may be of a program with other stations.
    void aStationThatIsNotThere() {
        Window w;
        w.window->setStation(9);
        QCOMPARE(w.window->station(), 5);
        w.window->setStation(-1);
        QCOMPARE(w.window->station(), 0);
    }
    /// Of many revisions the one that is looked at is in sight in Bench's coverage, whatever is selected.
    void theRevisionLookedAtIsInSight() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->startProject(manyFansAndRevisions());
        w.window->resize(1100, 700);
        auto* bench = w.window->page(4);
        for (const char* id : {"X38", "R2", "X20"}) {
            w.document().selectRevision(id);
            w.context.selection.select({});
            w.window->setStation(4);
            bench->grab();
            const bool inSight = std::any_of(bench->hits().begin(), bench->hits().end(), [&](const app::Hit& hit) {
                return hit.is(app::Act::LookAt) && hit.thing == core::Thing(core::RevisionRef{id});
            });
            QVERIFY2(inSight, id);
        }
    }
    /// At the smallest window every row of every list is reached by J: as many things as the list says it has. Also
    /// where there are more fans, parts and revisions than a sheet has room for.
    void everyRowIsReachedByKeys_data() {
        QTest::addColumn<bool>("crowded");
        QTest::newRow("demo") << false;
        QTest::newRow("crowded") << true;
    }
    void everyRowIsReachedByKeys() {
        QFETCH(bool, crowded);
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        if (crowded)
            w.window->startProject(manyFansAndRevisions());
        w.document().selectRevision("R10");
        const std::size_t fans = w.document().result().evaluation->air.fans.size();
        QCOMPARE(fans, std::size_t{crowded ? 14U : 5U});
        w.window->resize(1100, 700);
        int lists = 0, scrolled = 0;
        for (int station = 0; station < 6; ++station) {
            w.window->setStation(station);
            auto* page = w.window->page(station);
            w.context.selection.select({});
            page->grab();
            std::map<QString, support::Things> met;
            core::Thing first;
            bool round = false;
            for (int i = 0; i < 400 && !round; ++i) {
                page->stepSelection(1);
                if (i == 0)
                    first = w.context.selection.thing();
                round = i > 0 && w.context.selection.thing() == first;
                page->grab();
                for (const app::ListPlace& place : page->lists().places)
                    for (const app::Hit& hit : page->hits())
                        if (hit.thing == w.context.selection.thing() && place.rect.contains(hit.rect.center()))
                            met[place.id].insert(hit.thing);
            }
            QVERIFY2(round, qPrintable(page->objectName())); // from the last on to the first
            for (const app::ListPlace& place : page->lists().places) {
                if (place.id == "fans")
                    QCOMPARE(place.rows, fans);
                if (place.id == "coverage") { // what was run in each revision under each load
                    std::set<std::pair<std::string, std::string>> cells;
                    for (const core::Run& run : w.document().project().runs)
                        cells.insert({run.revision, run.load});
                    QVERIFY2(met[place.id].size() >= cells.size(), qPrintable(QString::number(met[place.id].size())));
                    continue;
                }
                if (place.id == "before" || place.id == "noise sources") // words: nothing to select
                    continue;
                ++lists;
                scrolled += place.rows > place.shown;
                QVERIFY2(
                    met[place.id].size() >= place.rows,
                    qPrintable(QStringLiteral("%1: %2 of %3").arg(place.id).arg(met[place.id].size()).arg(place.rows)));
            }
        }
        QVERIFY(lists >= 6);
        QVERIFY(scrolled >= 3);
    }
    /// The size of text is taken at once: the program offers to start anew with what is open, and asks for unsaved work
    /// first.
    void textSizeStartsAnew() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* action = w.window->findChild<QAction*>("size125");
        QVERIFY(action);
        action->trigger();
        QCOMPARE(w.context.settings.sizePercent, 125);
        auto* box = w.window->findChild<QMessageBox*>("restart");
        QVERIFY(box);
        box->findChild<QPushButton*>("restartNow")->click();
        WAIT_VERIFY(!w.window->isVisible());
        QVERIFY(w.window->wantsRestart());

        Window edited;
        QTemporaryDir other;
        edited.openDemo(other);
        QVERIFY(edited.document().addChange(core::FlipFan{"top"}));
        edited.window->findChild<QAction*>("size150")->trigger();
        edited.window->findChild<QMessageBox*>("restart")->findChild<QPushButton*>("restartNow")->click();
        QApplication::processEvents();
        QVERIFY(edited.window->isVisible());
        QVERIFY(!edited.window->wantsRestart());
        QVERIFY(edited.window->findChild<QMessageBox*>("keepChanges"));
        app::Settings{}.save(); // what other tests start with
    }
    /// A list is narrowed by typing; what is hidden is counted, and comes back.
    void listsAreFiltered() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        w.window->setStation(3);
        auto* page = w.window->page(3);
        const auto rows = [&] {
            page->grab();
            return std::count_if(page->hits().begin(), page->hits().end(),
                                 [](const app::Hit& h) { return support::stands<core::ScrewRef>(h); });
        };
        const auto all = rows();
        QVERIFY(all > 1);
        QVERIFY(w.click(page, app::Handle{.act = app::Act::FilterList, .list = "screws"}));
        auto* field = page->findChild<QLineEdit*>("listFilter");
        QVERIFY(field);
        QTest::keyClicks(field, "m3");
        const auto some = rows();
        QVERIFY(some > 0);
        for (const app::Hit& hit : page->hits())
            QVERIFY(!support::stands<core::ScrewRef>(hit) ||
                    support::text(hit.thing).contains("m3", Qt::CaseInsensitive));
        const auto place = page->lists().places;
        QVERIFY(std::any_of(place.begin(), place.end(),
                            [&](const auto& p) { return p.id == "screws" && p.rows >= std::size_t(some); }));
        field->clear();
        QCOMPARE(rows(), all);
        QTest::keyClick(field, Qt::Key_Return);
        WAIT_VERIFY(!page->findChild<QLineEdit*>("listFilter"));
    }

    void initTestCase() {
        QStandardPaths::setTestModeEnabled(true);
        QCoreApplication::setOrganizationName("mini-draft-test");
    }
    void cleanup() {
        QApplication::processEvents();
        for (QWidget* top : QApplication::topLevelWidgets())
            if (qobject_cast<QDialog*>(top) || qobject_cast<QMenu*>(top))
                delete top;
    }

    // ---- numbers ----
    void numbers_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<double>("value"); // of a field from 0 to 100 with two digits that held 12.5 mm
        QTest::addColumn<QString>("refusal");
        QTest::newRow("point") << "65.5" << 65.5 << "";
        QTest::newRow("comma") << "65,5" << 65.5 << "";
        QTest::newRow("with its unit") << "65,5 mm" << 65.5 << "";
        QTest::newRow("with a plus") << "+7" << 7.0 << "";
        QTest::newRow("small exponent") << "1e1" << 10.0 << "";
        QTest::newRow("not finite") << "1e999" << 12.5 << "is no number";
        QTest::newRow("too large") << "999999" << 12.5 << "out of range";
        QTest::newRow("too small") << "-300" << 12.5 << "out of range";
        QTest::newRow("thousands") << "1.234,5" << 12.5 << "more than one comma or point";
        QTest::newRow("words") << "wide" << 12.5 << "is no number";
        QTest::newRow("nothing") << " " << 12.5 << "nothing is typed";
        QTest::newRow("at the limit") << "100" << 100.0 << "";
        QTest::newRow("over the limit") << "100,01" << 12.5 << "out of range";
    }
    void numbers() {
        QFETCH(QString, typed);
        QFETCH(double, value);
        QFETCH(QString, refusal);
        for (const QLocale& locale : {QLocale::c(), QLocale(QLocale::German), QLocale(QLocale::Turkish)}) {
            QLocale::setDefault(locale);
            NumberBox box;
            box.setDecimals(2);
            box.setRange(0, 100);
            box.setSuffix(QStringLiteral("\u00a0mm"));
            box.setValue(12.5);
            QString said;
            connect(&box, &NumberBox::refused, this, [&](const QString& why) { said = why; });
            box.show();
            type(&box, typed);
            QVERIFY(box.text().contains(typed.trimmed().left(1)) ||
                    typed.trimmed().isEmpty()); // nothing is swallowed while typing
            QTest::keyClick(&box, Qt::Key_Return);
            QCOMPARE(box.value(), value);
            QCOMPARE(said.isEmpty(), refusal.isEmpty());
            if (!refusal.isEmpty())
                QVERIFY2(said.contains(refusal) && said.contains("12.50") && said.contains("stays"), qPrintable(said));
        }
        QLocale::setDefault(QLocale::c());
    }
    /// Refused in a dialog: said below the field, and Enter does not take the old value for the new one unseen.
    void refusedInADialog() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* dialog = new app::BriefDialog(w.context, w.window.get());
        dialog->open();
        auto* room = dialog->findChild<NumberBox*>("room_c");
        QVERIFY(room);
        const double before = w.document().project().brief.roomC;
        type(room, "3400");
        QTest::keyClick(room, Qt::Key_Return);
        QVERIFY(dialog->isVisible());
        auto* note = dialog->findChild<QLabel*>("room_cRefused");
        QVERIFY(note && note->isVisible() && note->text().contains("out of range"));
        QCOMPARE(dialog->focusWidget(), room);
        type(room, "31,5");
        QVERIFY(!note->isVisible());
        QTest::keyClick(room, Qt::Key_Return);
        WAIT_COMPARE(w.document().project().brief.roomC, 31.5);
        QVERIFY(before != 31.5);
    }
    void theWheelNeedsFocus() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* dialog = new app::BriefDialog(w.context, w.window.get());
        dialog->open();
        auto* room = dialog->findChild<NumberBox*>("room_c");
        auto* load = dialog->findChild<QComboBox*>("load");
        QVERIFY(room && load);
        dialog->findChild<QPushButton*>()->setFocus();
        const double value = room->value();
        const int index = load->currentIndex();
        wheel(room);
        wheel(load);
        QCOMPARE(room->value(), value);
        QCOMPARE(load->currentIndex(), index);
        QApplication::setActiveWindow(dialog);
        room->setFocus();
        wheel(room);
        QVERIFY(room->value() != value);
    }

    // ---- focus and keys ----
    void typingGoesToTheFirstField() {
        Window w;
        QMetaObject::invokeMethod(w.window.get(), "newProject");
        QDialog* dialog = w.openDialog();
        QVERIFY(dialog);
        QVERIFY(qobject_cast<QLineEdit*>(dialog->focusWidget()));
        QTest::keyClicks(dialog->focusWidget(), "Cellar");
        QCOMPARE(dialog->findChild<QLineEdit*>("name")->text(), QStringLiteral("Cellar"));
        QVERIFY(w.document().project().revisions.empty()); // no project was started by it
    }
    /// A ring of ink on what has the focus by key, in both themes.
    void focusCanBeSeen() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        for (const auto theme : {app::ThemeChoice::Light, app::ThemeChoice::Dark}) {
            w.window->applyTheme(theme);
            w.window->resize(1100, 700);
            for (int i = 0; i < 5; ++i) {
                w.key(Qt::Key_F6);
                auto* panel = qobject_cast<app::PaintedPanel*>(QApplication::focusWidget());
                QVERIFY(panel);
                const QImage image = panel->grab().toImage();
                QCOMPARE(QColor(image.pixel(image.width() / 2, 2)).name(), w.context.theme.ink.name());
            }
        }
    }
    void keysWorkAfterTheRail() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(1);
        auto* fit = static_cast<app::FitPage*>(w.window->page(1));
        auto* cards = w.window->findChild<app::RevisionRail*>()->cards();
        QVERIFY(w.click(cards, core::RevisionRef{"R8"}));
        QVERIFY(cards->hasFocus());
        using List = app::FitLook::List;
        for (const auto& [key, list] :
             {std::pair{Qt::Key_M, List::Change}, std::pair{Qt::Key_T, List::Measure}, std::pair{Qt::Key_R, List::Room},
              std::pair{Qt::Key_I, List::GoingIn}, std::pair{Qt::Key_G, List::Gaps}}) {
            QTest::keyClick(cards, key);
            QCOMPARE(fit->look().list, list);
        }
        QTest::keyClick(cards, Qt::Key_Up); // the rail keeps its own
        QCOMPARE(w.document().revision(), std::string("R7"));
    }
    void menuAndKeysPage() {
        Window w;
        w.key(Qt::Key_F10);
        auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
        QVERIFY(menu);
        QVERIFY(menu->isVisible() && !menu->actions().isEmpty());
        while (QWidget* popup = QApplication::activePopupWidget()) // the first of its menus is open as well
            popup->close();
        QTest::qWait(50);
        w.key(Qt::Key_F1);
        auto* tree = w.dialog<QTreeWidget>("keysTree");
        QVERIFY(tree);
        QStringList all;
        for (QTreeWidgetItemIterator it(tree); *it; ++it)
            all << (*it)->text(0) + ": " + (*it)->text(1);
        const QString text = all.join('\n');
        for (const char* words : {"Save: Ctrl+S", "Next figure: J", "G, M, T, R, I", "F10", "Delete"})
            QVERIFY2(text.contains(words), words);
    }
    /// The part that fails stands first in the table of Air, also in a low window.
    void nothingThatFailsIsHidden() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(1100, 700);
        w.document().selectRevision("R1");
        w.window->setStation(2);
        const auto& parts = w.document().result().evaluation->air.parts;
        int failing = 0;
        for (const auto& p : parts)
            if (p.limitC > 0 && p.temperatureC > p.limitC - 6) {
                ++failing;
                int rows = 0;
                w.window->page(2)->grab();
                for (const auto& hit : w.window->page(2)->hits())
                    rows += hit.thing == core::Thing(core::PartRef{p.id}) && hit.rect.width() > 200 &&
                            w.window->page(2)->rect().contains(hit.rect.toRect());
                QVERIFY2(rows == 1, p.name.c_str());
            }
        QVERIFY(failing > 0);
    }

    // ---- things that were made ----
    void aPartIsEdited() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R12");
        w.window->setStation(1);
        auto* page = w.window->page(1);
        const auto hit = w.place(page, core::PartRef{"tray/cpu/lid"});
        QVERIFY(hit);
        QTest::mouseDClick(page, Qt::LeftButton, {}, hit->rect.center().toPoint());
        auto* name = w.dialog<QLineEdit>("name");
        QVERIFY(name && name->hasFocus());
        name->setText("My cooler");
        auto* depth = w.openDialog()->findChild<NumberBox*>("depth");
        const double was = partAt(w, "tray/cpu/lid")->size[2].value.mm();
        const auto width = partAt(w, "tray/cpu/lid")->size[0];
        type(depth, QString::number(was - 1).replace('.', ','));
        QTest::keyClick(depth, Qt::Key_Return);
        WAIT_COMPARE(partAt(w, "tray/cpu/lid")->name, std::string("My cooler"));
        QCOMPARE(partAt(w, "tray/cpu/lid")->size[2].value.mm(), was - 1);
        QVERIFY(partAt(w, "tray/cpu/lid")->size[0] == width); // what was not touched
        w.document().undoStack().undo();
        QCOMPARE(partAt(w, "tray/cpu/lid")->size[2].value.mm(), was);
        // Enter opens it as well.
        w.context.selection.select(core::PartRef{"tray/cpu/lid"});
        page->setFocus();
        QTest::keyClick(page, Qt::Key_Return);
        QVERIFY(w.dialog<QLineEdit>("name"));
    }
    void partsAreTakenOutAndDuplicated() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        const auto shelf = w.document().project().shelf.size();
        w.context.selection.select(core::PartRef{"top"});
        w.window->duplicateThing(core::PartRef{"top"});
        QCOMPARE(w.document().project().shelf.size(), shelf + 1);
        QVERIFY(partAt(w, "top")->name.ends_with("copy"));
        w.document().undoStack().undo(); // one step
        QCOMPARE(w.document().project().shelf.size(), shelf);
        w.context.selection.select(core::PartRef{"top"});
        w.key(Qt::Key_Delete);
        QVERIFY(!partAt(w, "top"));
        w.document().undoStack().undo();
        QVERIFY(partAt(w, "top"));
    }
    /// What the machine's own tools say of a link is typed in where the part is, and held against its chain.
    void observedLinkIsTypedIn() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const std::string id = w.document().revision();
        const auto observed = [&] { return w.document().project().revision(id)->observed; };
        const auto choose = [&](const char* field, int value) {
            auto* box = w.dialog<QComboBox>(field);
            box->setCurrentIndex(box->findData(value));
        };
        const auto open = [&] {
            std::unique_ptr<QMenu> menu(w.window->menuOf(core::PartRef{"card"}));
            for (QAction* a : menu->actions())
                if (QString(a->text()).remove('&').startsWith("Observed link"))
                    a->trigger();
        };
        open();
        choose("generation", 1);
        choose("lanes", 2);
        w.openDialog()->accept();
        QCOMPARE(observed(), (std::vector<core::ObservedLink>{{"card", 1, 2}}));
        const auto told = [&] {
            const auto* e = w.context.view().evaluation();
            return e && std::any_of(e->findings.begin(), e->findings.end(), [](const auto& f) {
                       return f.id.starts_with("link-observed") && f.severity == core::rules::Severity::Caution;
                   });
        };
        WAIT_VERIFY(told());
        open(); // it begins with what was seen, and can be taken back
        QCOMPARE(w.dialog<QComboBox>("lanes")->currentData().toInt(), 2);
        w.dialog<QCheckBox>("none")->setChecked(true);
        w.openDialog()->accept();
        QVERIFY(observed().empty());
        w.document().undoStack().undo();
        QCOMPARE(observed().size(), std::size_t{1});
    }
    void contextMenus() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(1);
        const auto words = [&](const core::Thing& key) {
            QStringList all;
            std::unique_ptr<QMenu> menu(w.window->menuOf(key));
            for (const QAction* a : menu->actions())
                all << QString(a->text()).remove('&');
            return all;
        };
        QCOMPARE(words(core::PartRef{"top"}).mid(0, 4),
                 (QStringList{"Edit ...", "All details ...", "Replace ...", "Duplicate, and use the copy here"}));
        QCOMPARE(words(core::RunRef{"r10-both"}).mid(0, 2), (QStringList{"Rename ...", "Delete"}));
        QCOMPARE(words(core::RevisionRef{"R10"}), (QStringList{"Rename ...", "Delete", "All details ..."}));
        QCOMPARE(words(support::thing("total:power")).last(), QString("Copy figure"));
        std::unique_ptr<QMenu> sheetMenu(w.window->sheetMenu());
        const auto actions = sheetMenu->actions();
        QVERIFY(std::any_of(actions.begin(), actions.end(),
                            [](const QAction* a) { return QString(a->text()).remove('&') == "Add a part ..."; }));
        // What can be done with a gap is done from its menu, and a figure goes to the clipboard with its unit.
        const auto& gap = w.document().result().evaluation->fit.gaps.front();
        const core::Thing gapKey = gap.ref;
        const auto choose = [&](const core::Thing& key, const char* text) {
            std::unique_ptr<QMenu> menu(w.window->menuOf(key));
            for (QAction* a : menu->actions())
                if (QString(a->text()).remove('&').startsWith(QLatin1String(text)))
                    a->trigger();
        };
        choose(gapKey, "Change");
        QCOMPARE(static_cast<app::FitPage*>(w.window->page(1))->look().list, app::FitLook::List::Change);
        choose(gapKey, "Measure");
        QCOMPARE(static_cast<app::FitPage*>(w.window->page(1))->look().list, app::FitLook::List::Measure);
        choose(support::thing("total:noise"), "Copy figure");
        QVERIFY2(QGuiApplication::clipboard()->text().contains("dB(A)") &&
                     QGuiApplication::clipboard()->text().contains("±"),
                 qPrintable(QGuiApplication::clipboard()->text()));
        // Each figure of each station has a menu that can copy it.
        for (int station = 0; station < 6; ++station) {
            w.window->setStation(station);
            w.window->page(station)->grab();
            for (const app::Hit& hit : w.window->page(station)->hits())
                if (app::workingOf(w.context.view(), hit.thing))
                    QVERIFY2(words(hit.thing).contains("Copy figure"), qPrintable(support::text(hit.thing)));
        }
        w.window->setStation(1);
        auto* page = w.window->page(1);
        const auto hit = w.place(page, core::PartRef{"tray/cpu/lid"});
        QContextMenuEvent event(QContextMenuEvent::Mouse, hit->rect.center().toPoint(),
                                page->mapToGlobal(hit->rect.center().toPoint()));
        QApplication::sendEvent(page, &event);
        QVERIFY(qobject_cast<QMenu*>(QApplication::activePopupWidget()));
        QApplication::activePopupWidget()->close();
        QCOMPARE(w.context.selection.thing(), support::thing("part:tray/cpu/lid"));
    }
    void runsAndRevisions() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->renameTo(core::RunRef{"r10-both"}, "evening");
        QCOMPARE(w.document().project().run("r10-both")->name, std::string("evening"));
        w.window->removeThing(core::RunRef{"r10-both"});
        QVERIFY(!w.document().project().run("r10-both"));
        w.document().undoStack().undo();
        QVERIFY(w.document().project().run("r10-both"));
        w.window->renameTo(core::RevisionRef{"R10"}, "final");
        const auto& p = w.document().project();
        QVERIFY(p.revision("final") && !p.revision("R10"));
        QCOMPARE(p.run("r10-both")->revision, std::string("final"));
        QCOMPARE(w.document().revision(), std::string("final"));
        // Others come from it, or runs were logged of it: refused, with words.
        const auto before = p.revisions.size();
        w.window->removeThing(core::RevisionRef{"R4"});
        QCOMPARE(w.document().project().revisions.size(), before);
        WAIT_VERIFY(w.window->findChild<QMessageBox*>());
        QVERIFY2(w.window->findChild<QMessageBox*>()->text().contains("comes from it"),
                 qPrintable(w.window->findChild<QMessageBox*>()->text()));
    }

    // ---- on paper ----
    /// Hatches end where their parts do: nothing is drawn beyond the page, whatever a browser makes of clipping.
    void reportDrawingsStayOnTheirPage() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R3");
        w.document().finishAnalyses();
        const QString path = qEnvironmentVariable("MD_REPORT", dir.filePath("r.html"));
        QVERIFY(w.window->writeReport(path));
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QString html = QString::fromUtf8(file.readAll());
        static const QRegularExpression group("<g [^>]*transform=\"matrix\\(1,0,0,1,0,0\\)\"[^>]*>(.*?)</g>",
                                              QRegularExpression::DotMatchesEverythingOption),
            line("<polyline[^>]*points=\"([^\"]*)\""), number("-?[0-9.]+(e-?[0-9]+)?");
        int lines = 0;
        double least = 1e9, most = -1e9;
        for (auto g = group.globalMatch(html); g.hasNext();) {
            const QString inner = g.next().captured(1);
            for (auto l = line.globalMatch(inner); l.hasNext();) {
                const QString points = l.next().captured(1);
                ++lines;
                for (auto n = number.globalMatch(points); n.hasNext();) {
                    const double v = n.next().captured(0).toDouble();
                    least = std::min(least, v);
                    most = std::max(most, v);
                }
            }
        }
        QVERIFY(lines > 500);
        QVERIFY2(least >= -2 && most <= 1002, qPrintable(QString("%1 to %2").arg(least).arg(most)));
        // Nothing to click on paper; parts, names and traces are there.
        for (const char* words : {">Measure<", ">Going in<", "the wheel turns", "Move a cut"})
            QVERIFY2(!html.contains(words), words);
        for (const char* words : {"<h2>Parts</h2>", "Screws and inserts", "simulation"})
            QVERIFY2(html.contains(words), words);
        w.document().selectRevision("R10");
        QVERIFY(w.window->writeReport(dir.filePath("r10.html")));
        QFile ten(dir.filePath("r10.html"));
        QVERIFY(ten.open(QIODevice::ReadOnly));
        const QString text = QString::fromUtf8(ten.readAll());
        QVERIFY(text.contains("aria-label=\"Temperatures of r10 both\"") && text.contains(">Processor P8-65<") &&
                !text.contains("<td>cpu_c</td>"));
    }

    // ---- a new revision ----
    void standardSizesAndSeveralChanges() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const auto shelf = w.document().project().shelf.size(), revisions = w.document().project().revisions.size();
        auto* dialog = new app::ChangeDialog(w.context, core::PartRef{"top"}, w.window.get());
        dialog->open();
        auto* kind = dialog->findChild<QComboBox*>("kind");
        kind->setCurrentIndex(kind->findText("Swap a part"));
        auto* subject = dialog->findChild<QComboBox*>("mount");
        auto* value = dialog->findChild<QComboBox*>("part");
        subject->setCurrentIndex(subject->findData("top"));
        int standard = -1;
        for (int i = 0; i < value->count(); ++i)
            if (value->itemText(i).contains("standard size") && value->itemText(i).contains("80"))
                standard = i;
        QVERIFY(standard >= 0);
        value->setCurrentIndex(standard);
        QTest::mouseClick(dialog->findChild<QPushButton*>("oneMore"), Qt::LeftButton);
        auto* stated = dialog->findChild<QLabel*>("stated");
        QVERIFY(stated->isVisible() && stated->text().startsWith("So far:"));
        kind->setCurrentIndex(kind->findText("Set a fan's speed"));
        subject = dialog->findChild<QComboBox*>("mount");
        subject->setCurrentIndex(subject->findData("side-a"));
        dialog->accept();
        const auto& p = w.document().project();
        QCOMPARE(p.revisions.size(), revisions + 1);
        QCOMPARE(p.revisions.back().changes.size(), std::size_t{2});
        QCOMPARE(p.shelf.size(), shelf + 1);
        w.document().undoStack().undo(); // one step
        QCOMPARE(w.document().project().revisions.size(), revisions);
        QCOMPARE(w.document().project().shelf.size(), shelf);
    }
};
} // namespace tst_hands
MD_TEST(tst_hands, HandsTest)
#include "tst_hands.moc"
