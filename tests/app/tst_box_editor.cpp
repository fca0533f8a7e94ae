// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/own_shelf.h"
#include "app/stations/fit/box_editor.h"
#include "app/stations/fit/fit_page.h"
#include "app/ui/dialogs/details_dialog.h"
#include "app/ui/dialogs/part_edit_dialog.h"
#include "app/ui/fields/number_box.h"
#include "core/base/text.h"
#include "core/model/cutout_edits.h"
#include "core/model/edits.h"
#include "support/disk.h"
#include "support/registry.h"
#include "support/window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QListWidget>
#include <QMenu>
#include <QMessageBox>
#include <QScrollArea>

namespace tst_box_editor {

using core::Axis;
using core::box::Item;
using core::box::Kind;
using support::Window;

namespace {

app::BoxEditor* open(Window& w) {
    w.window->setStation(1);
    QTest::keyClick(w.window->page(1), Qt::Key_E);
    return static_cast<app::FitPage*>(w.window->page(1))->boxEditor();
}
Item named(const app::BoxEditor& e, std::string_view id) {
    for (const Item& item : core::box::itemsOf(*e.casePart()))
        if (item.kind != Kind::Walls && core::box::idOf(*e.casePart(), item) == id)
            return item;
    qFatal("%s is not there", std::string(id).c_str());
}
const core::Opening& vent(const app::BoxEditor& e, std::string_view id) {
    return std::get<core::CaseSpec>(e.casePart()->spec).openings[named(e, id).index];
}
/// A drag of a grip by so many mm, in steps, with Alt: to the half of a tenth.
void drag(app::BoxEditor* e, const app::BoxSheet::Grip& grip, double acrossMm, double upMm, int steps = 4) {
    auto* sheet = e->sheet();
    const auto side = sheet->sides()[static_cast<std::size_t>(grip.view)];
    const QPointF from = sheet->gripAt(grip), by(acrossMm * side.scale, -upMm * side.scale);
    const auto send = [&](QEvent::Type type, const QPointF& at) { // whole pixels would be a millimetre off
        QMouseEvent event(type, at, sheet->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                          type == QEvent::MouseButtonRelease ? Qt::NoButton : Qt::LeftButton, Qt::AltModifier);
        QCoreApplication::sendEvent(sheet, &event);
    };
    send(QEvent::MouseButtonPress, from);
    for (int i = 1; i <= steps; ++i)
        send(QEvent::MouseMove, from + by * i / steps);
    send(QEvent::MouseButtonRelease, from + by);
    QApplication::processEvents();
}
} // namespace

/// The box is edited on the drawing, in the list and in the form, by mouse and by keys.
class BoxEditorTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

    void keyEOpensAndLeaves() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* e = open(w);
        QVERIFY(e && e->isVisible());
        QTest::keyClick(e->sheet(), Qt::Key_E);
        QVERIFY(!e->isVisible());
        QTest::keyClick(w.window->page(1), Qt::Key_E);
        QVERIFY(e->isVisible());
        QTest::keyClick(e->sheet(), Qt::Key_Escape);
        QVERIFY(!e->isVisible());
        QVERIFY(w.click(w.window->page(1), app::Act::EditBox)); // and by mouse
        QVERIFY(e->isVisible());
        e->findChild<QPushButton*>("boxDone")->click();
        QVERIFY(!e->isVisible());
        w.window->setStation(0);
        w.window->findChild<QAction*>("actEditBox")->trigger(); // and from the menu
        QVERIFY(w.window->station() == 1 && e->isVisible());
    }
    /// Beside the drawing there is little room: no form of anything in the box, nor of what is listed in it, is cut.
    void noFormIsCut() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* e = open(w);
        const auto* area = e->form()->findChild<QScrollArea*>();
        const auto look = [&](const QString& what) {
            QApplication::processEvents();
            return area->widget()->width() <= area->viewport()->width() ? QString() : what;
        };
        QStringList cut;
        for (const Item item : std::vector<Item>(e->items())) {
            e->choose(item);
            const QString name = QString::fromStdString(core::box::nameOf(*e->casePart(), item));
            cut << look(name);
            for (const auto* list : e->form()->findChildren<QListWidget*>())
                if (list->count() > 0) {
                    const QString key = list->objectName();
                    e->form()->form()->findChild<QListWidget*>(key)->setCurrentRow(0);
                    e->form()->form()->findChild<QPushButton*>(key + "-open")->click();
                    cut << look(name + ", " + key);
                    break;
                }
        }
        cut.removeAll(QString());
        QVERIFY2(cut.isEmpty(), qPrintable(cut.join("; ")));
    }
    /// Groups fold and stay so; what is chosen comes into sight.
    void theListFolds() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* e = open(w);
        const auto group = [&](const QString& name) {
            for (int i = 0; i < e->list()->topLevelItemCount(); ++i)
                if (e->list()->topLevelItem(i)->text(0) == name)
                    return e->list()->topLevelItem(i);
            return static_cast<QTreeWidgetItem*>(nullptr);
        };
        QVERIFY(group("Places") && !group("Places")->isExpanded());
        QCOMPARE(group("Places")->text(1).toInt(), group("Places")->childCount());
        e->choose(named(*e, "side-a-grille"));
        QVERIFY(group("Vents and holes")->isExpanded());
        QCOMPARE(e->list()->currentItem()->text(1), QString("98 \u00d7 98"));
        e->choose(named(*e, "tray"));
        group("Vents and holes")->setExpanded(false);
        e->add(core::box::Kind::Vent, core::Side::Top);
        QVERIFY(group("Places")->isExpanded());          // it was, when the tray was chosen
        QVERIFY(group("Vents and holes")->isExpanded()); // what is new is chosen
    }
    /// A drag is one step of undo; gaps, litres and air follow, and what it did is told.
    void aVentIsDragged() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11"); // nothing was logged of its case
        auto* e = open(w);
        e->choose(named(*e, "side-a-grille"));
        const auto before = vent(*e, "side-a-grille");
        const int steps = w.document().undoStack().count();
        drag(e, {1, 0, 0}, 12, 6); // its middle, seen from the right
        const auto moved = vent(*e, "side-a-grille");
        QCOMPARE_LE(std::abs(moved.centreMm[0] - before.centreMm[0] - 12), 1.0);
        QCOMPARE_LE(std::abs(moved.centreMm[1] - before.centreMm[1] - 6), 1.0);
        QCOMPARE(moved.sizeMm, before.sizeMm);
        QCOMPARE(w.document().undoStack().count(), steps + 1);
        drag(e, {1, 1, 0}, -20, 0); // its rear end
        QCOMPARE_LE(std::abs(vent(*e, "side-a-grille").sizeMm[0] - before.sizeMm[0] + 20), 1.0);
        QCOMPARE(w.document().undoStack().count(), steps + 2);
        QVERIFY2(e->changes()->words().contains("CPU") && e->changes()->words().contains("Noise"),
                 qPrintable(e->changes()->words()));
        w.key(Qt::Key_Z, Qt::ControlModifier);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(vent(*e, "side-a-grille"), before);
        QCOMPARE(w.document().revision(), std::string("R11"));
    }
    /// What a revision made of a vent goes before what the case states; what one types goes before both.
    void whatIsTypedGoesBeforeARevision() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        e->choose(named(*e, "side-a-grille"));
        const auto now = [&] { return *w.document().result().evaluation->build.opening("side-a-grille"); };
        QVERIFY(now().perforation != vent(*e, "side-a-grille").perforation); // a change made it
        const core::Project before = w.document().project();
        auto* share = e->form()->findChild<app::NumberBox*>("perforation");
        for (const double percent : {44.0, 47.0}) {
            share->setFocus();
            share->selectAll();
            QTest::keyClicks(share, QString::number(percent));
            QTest::keyClick(share, Qt::Key_Return);
            QApplication::processEvents();
            QVERIFY2(e->findChild<QLabel*>("boxProblem")->text().isEmpty(),
                     qPrintable(e->findChild<QLabel*>("boxProblem")->text()));
            QCOMPARE(vent(*e, "side-a-grille").perforation, percent / 100);
            QCOMPARE(now().perforation, percent / 100);
        }
        const core::Revision& r = *w.document().project().revision("R11");
        QCOMPARE(std::count_if(r.changes.begin(), r.changes.end(),
                               [](const core::Change& c) {
                                   const auto* o = std::get_if<core::SetOpening>(&c);
                                   return o && o->opening == "side-a-grille";
                               }),
                 1);
        while (w.document().undoStack().canUndo())
            w.document().undoStack().undo();
        QVERIFY(w.document().project() == before);
    }
    /// A made part at a place of the case is pulled by its ends. Where others have it too, or runs were logged with it,
    /// it stays as it is there and the revision gets one of its own, in one step.
    void anInnerPanelIsPulled() {
        for (const std::string& of : {std::string("R10"), std::string("R11")}) {
            Window w;
            QTemporaryDir dir;
            w.openDemo(dir);
            w.document().selectRevision(of);
            auto* e = open(w);
            const QStringList rows = e->list()->words();
            QVERIFY2(rows.contains("Inner panels and made parts"), qPrintable(rows.join("|")));
            e->choose(named(*e, "spine"));
            const core::Project before = w.document().project();
            const auto top = [&] { return w.document().result().evaluation->build.at("spine")->highAt[2].mm(); };
            const double was = top();
            const int steps = w.document().undoStack().count();
            drag(e, {1, 0, 1}, 0, -12); // its upper end, seen from the right
            QVERIFY2(e->findChild<QLabel*>("boxProblem")->text().isEmpty(),
                     qPrintable(e->findChild<QLabel*>("boxProblem")->text()));
            QCOMPARE_LE(std::abs(top() - was + 12), 0.6);
            QCOMPARE(w.document().undoStack().count(), steps + 1);
            QCOMPARE(*w.document().project().part("spine"), *before.part("spine")); // others have it
            const core::Revision* now = w.document().project().revision(w.document().revision());
            QCOMPARE(w.document().revision() == of, of == "R11"); // R10 was logged
            QVERIFY(of == "R11" || (now->parent == of && now->note.find("Spine") != std::string::npos));
            drag(e, {1, 0, -1}, 0, -4); // its lower end takes the place along
            QVERIFY2(e->findChild<QLabel*>("boxProblem")->text().isEmpty(),
                     qPrintable(e->findChild<QLabel*>("boxProblem")->text()));
            QCOMPARE_LE(std::abs(top() - was + 12), 0.6);
            std::set<std::string> ids;
            for (const core::Part& part : w.document().project().shelf)
                QVERIFY2(ids.insert(part.id).second, part.id.c_str());
            w.key(Qt::Key_Z, Qt::ControlModifier);
            w.key(Qt::Key_Z, Qt::ControlModifier);
            QVERIFY(w.document().project() == before);
        }
    }
    /// Cut-outs of an inner panel are listed after it, cut, dragged, pulled, moved by arrows, typed, copied and deleted
    /// on the drawing; each is a step of undo, and of a panel that others have only this revision's changes.
    void cutoutsOfAPanelAreEdited() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        const core::Project before = w.document().project();
        const int steps = w.document().undoStack().count();
        const auto plate = [&]() -> const core::Part& {
            return *w.document().result().evaluation->build.at("spine")->part;
        };
        const auto holes = [&] {
            std::vector<core::Cutout> all;
            for (const auto& at : core::box::cutoutsOf(plate()))
                all.push_back(plate().bodies[at.body].cutouts[at.cutout]);
            return all;
        };
        const std::size_t had = holes().size();
        e->choose(named(*e, "spine"));
        QAction* cut = nullptr;
        for (QMenu* menu : e->findChildren<QMenu*>())
            for (QAction* action : menu->actions())
                if (action->objectName() == "boxCut") {
                    Q_EMIT menu->aboutToShow();
                    cut = action;
                }
        QVERIFY(cut && cut->isEnabled());
        cut->trigger();
        QVERIFY2(e->findChild<QLabel*>("boxProblem")->text().isEmpty(),
                 qPrintable(e->findChild<QLabel*>("boxProblem")->text()));
        QCOMPARE(holes().size(), had + 1);
        QCOMPARE(*w.document().project().part("spine"), *before.part("spine")); // others have it
        const Item hole = *e->sheet()->selected();
        QVERIFY(hole.kind == Kind::Cutout);
        QVERIFY(e->list()->currentItem()->text(0).contains("cut-out"));
        QVERIFY(e->form()->path().size() == 2 && e->form()->path()[1].key == "cutouts");
        const auto extent = [&] { return e->sheet()->extentOf(*e->sheet()->selected()); };
        const auto is = [&](const char* what, double mm, double expected) {
            QVERIFY2(std::abs(mm - expected) < 0.6, qPrintable(QString("%1: %2, %3").arg(what).arg(mm).arg(expected)));
        };
        auto was = extent();
        drag(e, {0, 0, 0}, 9, -6); // its middle, seen from the front
        is("moved right", extent().low[0], was.low[0] + 9);
        is("moved down", extent().high[2], was.high[2] - 6);
        was = extent();
        drag(e, {0, 1, 0}, 7, 0); // its right end
        is("pulled", extent().high[0], was.high[0] + 7);
        is("the other end stays", extent().low[0], was.low[0]);
        QCOMPARE(w.document().undoStack().count(), steps + 3);
        was = extent();
        e->sheet()->setFocus();
        QTest::keyClick(e->sheet(), Qt::Key_Right, Qt::ShiftModifier);
        QTest::keyClick(e->sheet(), Qt::Key_Up);
        QCOMPARE_LE(std::abs(extent().low[0] - was.low[0] - 5) + std::abs(extent().low[2] - was.low[2] - 0.5), 1e-6);
        was = extent();
        auto* low = e->findChild<app::NumberBox*>("fromLow");
        low->setFocus();
        low->selectAll();
        QTest::keyClicks(low, QString::number(was.high[0] + 3, 'f', 1));
        QTest::keyClick(low, Qt::Key_Return);
        QCOMPARE_LE(std::abs(extent().high[0] - std::round((was.high[0] + 3) * 10) / 10), 1e-6);
        // By figures, with what the form says.
        auto* round = e->form()->findChild<QCheckBox*>("round");
        QVERIFY(round);
        round->click();
        QVERIFY(holes()[hole.hole].round);
        e->sheet()->setFocus();
        QTest::keyClick(e->sheet(), Qt::Key_D, Qt::ControlModifier);
        QCOMPARE(holes().size(), had + 2);
        QVERIFY(e->sheet()->selected()->hole == hole.hole + 1);
        QTest::keyClick(e->sheet(), Qt::Key_Delete);
        QCOMPARE(holes().size(), had + 1);
        QVERIFY(*e->sheet()->selected() == named(*e, "spine"));
        QVERIFY(e->sheet()->panelOf(*e->sheet()->selected()));
        while (w.document().undoStack().canUndo())
            w.document().undoStack().undo();
        QVERIFY(w.document().project() == before);
    }
    /// What is chosen and taken back: its panel is chosen in its place, and the form writes the case again. A wall that
    /// is pulled over all that is in the box leaves nothing to draw, and can be pulled back.
    void whatIsGoneIsNotEdited() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        e->choose(named(*e, "spine"));
        e->addCutout();
        QVERIFY(e->sheet()->selected()->kind == Kind::Cutout);
        const core::Part cut = *w.document().result().evaluation->build.at("spine")->part;
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(*e->sheet()->selected() == named(*e, "spine"));
        QCOMPARE(e->form()->value().at("kind"), "case");
        QVERIFY(e->findChild<QPushButton*>("boxMirror")->isEnabled());
        const core::Project before = w.document().project();
        e->choose(named(*e, "side-a-grille"));
        e->copy();
        const core::Project copied = w.document().project();
        QVERIFY(e->sheet()->selected()->kind == Kind::Vent && copied != before);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(e->sheet()->selected()->kind == Kind::Walls);
        auto* name = e->form()->findChild<QLineEdit*>("name");
        QVERIFY(name);
        name->setFocus();
        name->selectAll();
        QTest::keyClicks(name, "Tent case");
        QTest::keyClick(name, Qt::Key_Return);
        QCOMPARE(e->casePart()->kind, core::PartKind::Case);
        QCOMPARE(e->casePart()->name, std::string("Tent case"));
        QCOMPARE(std::get<core::CaseSpec>(e->casePart()->spec).openings.size(),
                 std::get<core::CaseSpec>(core::caseOf(before, "R11")->spec).openings.size());
        // A wall stops before a part would lie outside, in words. Where nothing resolves nothing is drawn; the pointer
        // may pass over it all the same.
        drag(e, {1, 1, 0}, -280, 0, 14);
        QVERIFY(e->findChild<QLabel*>("boxProblem")->text().contains("high corner"));
        QVERIFY(core::resolve(w.document().project(), "R11"));
        e->sheet()->show(nullptr, e->casePart());
        for (const QPointF at : {QPointF(60, 60), QPointF(300, 200)})
            for (const Qt::MouseButtons held : {Qt::MouseButtons(Qt::NoButton), Qt::MouseButtons(Qt::LeftButton)}) {
                QMouseEvent event(held ? QEvent::MouseButtonPress : QEvent::MouseMove, at, e->sheet()->mapToGlobal(at),
                                  held ? Qt::LeftButton : Qt::NoButton, held, Qt::NoModifier);
                QCoreApplication::sendEvent(e->sheet(), &event);
            }
        e->sheet()->grab();
    }
    /// In a logged case a dragged cut-out makes a revision whose note says so.
    void aCutoutOfALoggedPanel() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* e = open(w);
        const core::Project before = w.document().project();
        e->choose(named(*e, "spine"));
        e->addCutout();
        QVERIFY(w.document().revision() != "R10");
        drag(e, {0, 0, 0}, 6, 0, 6);
        const core::Revision& now = *w.document().project().revision(w.document().revision());
        QVERIFY2(now.parent == "R10" && !now.note.empty(), now.note.c_str());
        QCOMPARE(w.document().result("R10").evaluation->build.at("spine")->part->bodies,
                 core::resolve(before, "R10")->at("spine")->part->bodies);
        while (w.document().undoStack().canUndo())
            w.document().undoStack().undo();
        QVERIFY(w.document().project() == before);
    }
    /// A panel that stands twice in a revision, or in one that others come from: the other one stays. The note that an
    /// edit made says where the drag ended, not where it began.
    void aSharedPanelIsNotChangedElsewhere() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        QVERIFY(w.document().addChange(core::PlacePart{"spine", "caddy"}));
        const core::Part before = *w.document().project().part("spine");
        auto* e = open(w);
        e->choose(named(*e, "spine"));
        drag(e, {1, 0, 1}, 0, -12);
        const auto at = [&](const char* mount) { return *w.document().result().evaluation->build.at(mount)->part; };
        QCOMPARE(at("caddy"), before);
        QVERIFY(at("spine").size != before.size);
        // Others come from it: they keep what they have.
        const std::string parent = w.document().revision();
        const auto child = w.document().newRevision(parent, {core::SetFeet{9}});
        QVERIFY(child);
        const core::Part childs = at("spine");
        w.document().selectRevision(parent);
        e->choose(named(*e, "spine"));
        drag(e, {1, 0, 1}, 0, -8);
        QVERIFY(w.document().revision() != parent);
        QCOMPARE(*w.document().result(*child).evaluation->build.at("spine")->part, childs);
        // Its lower end moves the place of a logged case: where it ends is what is noted.
        w.document().selectRevision("R10");
        e->choose(named(*e, "spine"));
        const double low = w.document().result().evaluation->build.at("spine")->lowAt[2].mm();
        drag(e, {1, 0, -1}, 0, -6, 6);
        const double moved = low - w.document().result().evaluation->build.at("spine")->lowAt[2].mm();
        const core::Revision& now = *w.document().project().revision(w.document().revision());
        const std::string words = core::fixed(moved, 1) + " mm down";
        QVERIFY2(now.note.find(words) != std::string::npos, (now.note + " / " + words).c_str());
    }
    /// What an edit did stands in rows with their margin, and a row leads to its gap.
    void whatAnEditChangesIsARowEach() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        e->changes()->grab();
        QVERIFY(!e->changes()->hits().empty()); // before any edit: the tightest gaps
        QVERIFY2(!e->changes()->words().contains(" to "), qPrintable(e->changes()->words()));
        e->choose({});
        drag(e, {0, 1, 0}, 6, 0);
        e->changes()->grab();
        QVERIFY(!e->changes()->hits().empty());
        QVERIFY(std::holds_alternative<core::GapRef>(e->changes()->hits().front().thing));
        const auto at = e->changes()->hits().front();
        QTest::mouseClick(e->changes(), Qt::LeftButton, {}, at.rect.center().toPoint());
        QVERIFY(w.context.selection.thing() == at.thing);
        w.window->resize(1100, 700);
        QApplication::processEvents();
        QCOMPARE(e->changes()->room(), std::size_t(2));
    }
    /// The feet are a handle below the walls; where a revision sets them the case's own are none.
    void theFeetAreDragged() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        e->choose({Kind::Walls, 0});
        const auto feet = [&] { return std::get<core::CaseSpec>(e->casePart()->spec).feetMm; };
        const double before = feet();
        const int steps = w.document().undoStack().count();
        drag(e, {1, 0, app::BoxSheet::Grip::feet}, 0, -6);
        QCOMPARE_LE(std::abs(feet() - before - 6), 1.0);
        QCOMPARE(w.document().undoStack().count(), steps + 1);
        drag(e, {1, 0, app::BoxSheet::Grip::feet}, 0, 300); // no feet are less than none
        QCOMPARE(feet(), 0.0);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(feet(), before);
    }
    /// From the menu of the buttons: a chamber in two and in one again, each one step.
    void aChamberIsSplitAndJoined() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        const auto count = [&] { return std::get<core::CaseSpec>(e->casePart()->spec).chambers.size(); };
        const auto before = count();
        e->choose(Item{Kind::Chamber, 0});
        e->split(Axis::Z);
        QCOMPARE(count(), before + 1);
        e->choose(Item{Kind::Chamber, 0});
        QMenu* menu = e->findChild<QPushButton*>("boxSplit")->menu();
        Q_EMIT menu->aboutToShow();
        QAction* join = nullptr;
        for (QAction* action : menu->actions())
            if (action->text().startsWith("Join"))
                join = action;
        QVERIFY(join);
        const int steps = w.document().undoStack().count();
        join->trigger();
        QCOMPARE(count(), before);
        QCOMPARE(w.document().undoStack().count(), steps + 1);
    }
    void wallsFollowTheMouseAndTheGapsFollowThem() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        e->choose({});
        const double was = e->casePart()->size[0].value.mm(), litres = w.document().result().evaluation->fit.volumeL;
        drag(e, {0, 1, 0}, 6, 0);
        QCOMPARE(e->findChild<QLabel*>("boxProblem")->text(), QString());
        QCOMPARE_LE(std::abs(e->casePart()->size[0].value.mm() - was - 6), 0.6);
        QVERIFY(w.document().result().evaluation->fit.volumeL > litres + 0.3);
        QVERIFY2(e->changes()->words().contains("at worst"), qPrintable(e->changes()->words()));
    }
    /// What was logged stays what it was of: the edited case is a part and a revision of its own, and says what
    /// changed.
    void aLoggedCaseBecomesARevision() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* e = open(w);
        const core::Part before = *e->casePart();
        const auto vents = w.document().result().evaluation->build.openings;
        e->choose(named(*e, "top-grille"));
        drag(e, {2, 0, 0}, 10, 0);
        QCOMPARE(w.document().revision(), std::string("R13"));
        QCOMPARE(*w.document().project().part("case-1"), before);
        const core::Revision& r = *w.document().project().revision("R13");
        QCOMPARE(r.parent, std::string("R10"));
        const std::string words = core::english(w.document().words("R13"));
        QVERIFY2(words.find("Top grille") == 0, words.c_str());
        QVERIFY2(r.note.find("Top grille") == 0 && r.note.find("to the rear") != std::string::npos, r.note.c_str());
        // Screens and plates that were changed on the way to R10 are as they were.
        for (const core::Opening& o : vents)
            QCOMPARE(w.document().result().evaluation->build.opening(o.id)->perforation, o.perforation);
        QCOMPARE(w.document().undoStack().count(), 1);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!w.document().project().revision("R13"));
    }
    /// A validated revision is not altered either, though nothing was logged of it.
    void aValidatedCaseBecomesARevision() {
        Window w;
        core::Project p = support::demoProject();
        p.runs.clear();
        w.document().reset(p, {});
        w.document().selectRevision("R10");
        QVERIFY(p.revision("R10")->validated);
        auto* e = open(w);
        e->choose(named(*e, "top-grille"));
        QCOMPARE(w.context.selection.thing(), core::Thing(core::OpeningRef{"top-grille"})); // Working tells of it
        drag(e, {2, 0, 0}, 10, 0);
        QCOMPARE(w.document().revision(), std::string("R13"));
        QCOMPARE(*w.document().project().part("case-1"), *p.part("case-1"));
    }
    /// Where changes of revisions made something else of a vent than its case states, the form says so.
    void whatRevisionsMadeIsSaid() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* e = open(w);
        auto* words = e->findChild<QLabel*>("boxChangedHere");
        e->choose(named(*e, "side-a-grille"));
        QVERIFY2(words->isVisible() && words->text().contains("58") && words->text().contains("coarse"),
                 qPrintable(words->text()));
        e->choose(named(*e, "top-grille"));
        QVERIFY(!words->isVisible());
    }
    /// A drag that is dropped leaves no step, no case and no revision; undo goes back to where one was.
    void aDroppedDragLeavesNothing() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        const core::Project before = w.document().project();
        auto* e = open(w);
        e->choose(named(*e, "top-grille"));
        auto* sheet = e->sheet();
        const QPointF from = sheet->gripAt({2, 0, 0});
        QTest::mousePress(sheet, Qt::LeftButton, Qt::AltModifier, from.toPoint());
        QMouseEvent move(QEvent::MouseMove, from + QPointF(9, 0), sheet->mapToGlobal(from), Qt::NoButton,
                         Qt::LeftButton, Qt::AltModifier);
        QCoreApplication::sendEvent(sheet, &move);
        QCOMPARE(w.document().revision(), std::string("R13"));
        QTest::keyClick(sheet, Qt::Key_Escape);
        QVERIFY(e->isVisible());
        QCOMPARE(w.document().revision(), std::string("R10"));
        QVERIFY(w.document().project() == before);
        QTest::mouseRelease(sheet, Qt::LeftButton, Qt::AltModifier, from.toPoint());
        QVERIFY(w.document().project() == before);
        drag(e, {2, 0, 0}, 10, 0);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(w.document().revision(), std::string("R10"));
    }
    void typedFromEitherSide() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        e->choose({});
        auto* low = e->findChild<app::NumberBox*>("fromLow");
        e->sheet()->setFocus();
        QTest::keyClick(e->sheet(), Qt::Key_9); // a figure starts typing there
        QTest::keyClicks(low, "1,5");
        QTest::keyClick(low, Qt::Key_Return);
        QCOMPARE(e->casePart()->size[0].value.mm(), 91.5);
        e->choose(named(*e, "floor-vent"));
        auto* high = e->findChild<app::NumberBox*>("fromHigh");
        high->setValue(20);
        const auto extent = e->sheet()->extentOf(named(*e, "floor-vent"));
        const auto axis = static_cast<Axis>(high->property("axis").toInt());
        const std::size_t a = core::index(axis);
        QCOMPARE_LE(std::abs(e->casePart()->size[a].value.mm() - extent.high[a] - 20), 0.01);
    }
    void keysMoveCopyAndDelete() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        e->choose(named(*e, "supply-grille"));
        const auto before = vent(*e, "supply-grille");
        QTest::keyClick(e->sheet(), Qt::Key_Right);
        QTest::keyClick(e->sheet(), Qt::Key_Up, Qt::ShiftModifier);
        QCOMPARE(vent(*e, "supply-grille").centreMm[0], before.centreMm[0] + 0.5);
        QCOMPARE(vent(*e, "supply-grille").centreMm[1], before.centreMm[1] + 5);
        const auto count = core::box::itemsOf(*e->casePart()).size();
        QTest::keyClick(e->sheet(), Qt::Key_D, Qt::ControlModifier);
        QCOMPARE(core::box::itemsOf(*e->casePart()).size(), count + 1);
        QTest::keyClick(e->sheet(), Qt::Key_Delete); // the copy is selected, and nothing hangs on it
        QCOMPARE(core::box::itemsOf(*e->casePart()).size(), count);
        // What hangs on a place is named before it goes.
        e->choose(named(*e, "tray"));
        QTest::keyClick(e->sheet(), Qt::Key_Delete);
        auto* ask = e->findChild<QMessageBox*>("hangsOn");
        QVERIFY(ask && ask->text().contains("ITX board K2"));
        ask->reject();
        QCOMPARE(core::box::itemsOf(*e->casePart()).size(), count);
        const Item first = named(*e, "tray");
        QTest::keyClick(e->sheet(), Qt::Key_J);
        QVERIFY(!(*e->sheet()->selected() == first));
    }
    void whatIsAddedStandsThere() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        e->add(Kind::Place, core::Side::Rear);
        QCOMPARE(core::box::nameOf(*e->casePart(), *e->sheet()->selected()), std::string("Fan place, rear"));
        QVERIFY(std::get<core::CaseSpec>(e->casePart()->spec).openings.back().round);
        e->add(Kind::Place, core::Side::Left, core::PartKind::Drive);
        QCOMPARE(e->casePart()->mounts.back().accepts.front(), core::PartKind::Drive);
        e->add(Kind::Chamber, core::Side::Left);
        QVERIFY(core::validate(w.document().project()).empty());
        // Saved, opened again: the same.
        QVERIFY(w.window->saveTo(dir.filePath("again.minidraft")));
        const core::Project saved = w.document().project();
        QVERIFY(w.window->openPath(dir.filePath("again.minidraft")));
        QVERIFY(w.document().project() == saved);
    }
    /// The form below states what is not drawn; wrong input is said and loses nothing.
    void theFormStatesTheRest() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* e = open(w);
        e->choose(named(*e, "top-grille"));
        auto* screen = e->form()->findChild<QComboBox*>("screen");
        QVERIFY(screen);
        screen->setCurrentText("coarse");
        QCOMPARE(vent(*e, "top-grille").screen, core::Screen::Coarse);
        // A field that was typed into keeps its place and the focus, also when the results follow.
        auto* share = e->form()->findChild<app::NumberBox*>("perforation");
        share->setFocus();
        share->selectAll();
        QTest::keyClicks(share, "55");
        QTest::keyClick(share, Qt::Key_Return);
        QCOMPARE(vent(*e, "top-grille").perforation, 0.55);
        QTest::qWait(40);
        QCOMPARE(e->form()->findChild<app::NumberBox*>("perforation"), share);
        QVERIFY(share->hasFocus());
        auto* id = e->form()->findChild<QLineEdit*>("id");
        id->setText("side-a-grille"); // taken
        Q_EMIT id->editingFinished();
        QVERIFY(e->findChild<QLabel*>("boxProblem")->isVisible());
        QCOMPARE(vent(*e, "top-grille").id, std::string("top-grille"));
    }

    /// A part that is kept is offered in another project; a damaged shelf is said, and stays as it is.
    void partsAreKeptAcrossProjects() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const QString file = app::ownShelfFile(w.context.settings);
        QVERIFY(file.startsWith(w.context.settings.dataFolder));
        w.window->keepThing(core::PartRef{"tray/cpu/lid"});
        QVERIFY2(w.window->lastMessage().contains("Cooler L47"), qPrintable(w.window->lastMessage()));
        QCOMPARE(app::ownParts(file)->size(), std::size_t{1});
        w.window->keepThing(core::PartRef{"tray/cpu/lid"}); // again: the same one
        QCOMPARE(app::ownParts(file)->size(), std::size_t{1});
        core::Project other = support::demoProject();
        other.runs.clear();
        w.document().reset(other, {});
        w.window->addPart("L47");
        auto* list = w.dialog<QListWidget>("shelf");
        QVERIFY(list && list->count() == 2); // the project's own, and the one that is kept
        w.openDialog()->reject();
        // What differs is said where the part is edited, and taken by hand.
        core::Part newer = *w.document().project().part("cooler-l47");
        newer.massG += 5;
        QVERIFY(app::keepPart(file, newer));
        app::PartEditDialog dialog(w.context, "cooler-l47", nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        auto* take = dialog.findChild<QPushButton*>("takeKept");
        QVERIFY(take);
        take->click();
        QCOMPARE(*w.document().project().part("cooler-l47"), newer);
        QFile damaged(file);
        QVERIFY(damaged.open(QIODevice::WriteOnly) && damaged.write("{ broken") > 0);
        damaged.close();
        QVERIFY(!app::keepPart(file, newer));
        QCOMPARE(support::bytesOf(file), QByteArray("{ broken"));
        w.window->addPart();
        QApplication::processEvents();
        bool said = false;
        for (const QLabel* label : w.window->findChildren<QLabel*>("problem"))
            said = said || label->text().contains("Your own shelf");
        QVERIFY(said);
        QVERIFY(!app::dropPart(file, "cooler-l47"));
    }
    /// A part of one's own gets a body and a plug on the pages of its details.
    void detailsOfAPart() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        app::DetailsDialog dialog(w.context, "card-168e", nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        const std::size_t bodies = w.document().project().part("card-168e")->bodies.size();
        dialog.editor()->findChild<QPushButton*>("bodies-add")->click();
        QApplication::processEvents();
        QCOMPARE(dialog.editor()->path().size(), std::size_t{1});
        auto* name = dialog.editor()->findChild<QLineEdit*>("name");
        name->setText("tail of the shroud");
        Q_EMIT name->editingFinished();
        dialog.editor()->go({});
        dialog.editor()->findChild<QPushButton*>("ports-add")->click();
        QApplication::processEvents();
        dialog.accept();
        const core::Part& part = *w.document().project().part("card-168e");
        QCOMPARE(part.bodies.size(), bodies + 1);
        QCOMPARE(part.bodies.back().name, std::string("tail of the shroud"));
        QVERIFY(!part.ports.empty());
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(w.document().project().part("card-168e")->bodies.size(), bodies);
    }
};
} // namespace tst_box_editor
MD_TEST(tst_box_editor, BoxEditorTest)
#include "tst_box_editor.moc"
