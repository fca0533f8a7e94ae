// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/details_dialog.h"
#include "app/ui/fields/number_box.h"
#include "support/registry.h"
#include "support/window.h"

#include <QPlainTextEdit>

namespace tst_part_sheet {

using core::own::Item;
using core::own::Kind;
using support::Window;

namespace {
struct Open {
    Window w;
    QTemporaryDir dir;
    QPointer<app::DetailsDialog> dialog;

    explicit Open(const std::string& part) {
        w.openDemo(dir);
        w.document().selectRevision("R11");
        dialog = new app::DetailsDialog(w.context, part, w.window.get());
        dialog->open();
        QApplication::processEvents();
    }
    ~Open() { delete dialog; }
    [[nodiscard]] app::PartSheet* sheet() { return dialog->sheet(); }
    [[nodiscard]] std::array<double, 3> at(const Item& item) { return core::own::middleOf(sheet()->part(), item); }
    [[nodiscard]] QPointF px(const Item& item, std::size_t side) { return sheet()->sides()[side].at(at(item)); }
    /// Dragged on one side by so many mm; the last move is left to the caller where @p drop is false.
    void drag(const Item& item, std::size_t side, double acrossMm, double upMm, bool drop = true) {
        const QPointF from = px(item, side), to = from + QPointF(acrossMm, -upMm) * sheet()->sides()[side].scale;
        QTest::mousePress(sheet(), Qt::LeftButton, Qt::AltModifier, from.toPoint());
        for (int i = 1; i <= 4; ++i) {
            const QPointF at = from + (to - from) * i / 4.0;
            QMouseEvent move(QEvent::MouseMove, at, sheet()->mapToGlobal(at), Qt::NoButton, Qt::LeftButton,
                             Qt::AltModifier);
            QCoreApplication::sendEvent(sheet(), &move);
        }
        if (drop)
            QTest::mouseRelease(sheet(), Qt::LeftButton, Qt::AltModifier, to.toPoint());
        QApplication::processEvents();
    }
};
} // namespace

/// A part on its own three sides: what is dragged is typed, what is typed is drawn.
class PartSheetTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

    void aPlugIsDragged() {
        Open o("supply-550");
        QVERIFY(!o.sheet()->part().ports.empty());
        const Item plug{Kind::Plug, 0};
        const auto before = o.at(plug);
        o.drag(plug, 0, 12, -4);
        QCOMPARE_LE(std::abs(o.at(plug)[0] - before[0] - 12), 0.6);
        QCOMPARE_LE(std::abs(o.at(plug)[1] - before[1] + 4), 0.6);
        QCOMPARE(o.at(plug)[2], before[2]);
        // Its page is open, and shows where it lies.
        auto* x = o.dialog->editor()->findChild<app::NumberBox*>("at_mm0");
        QVERIFY(x);
        QCOMPARE_LE(std::abs(x->value() - o.at(plug)[0]), 0.01);
        x->setValue(20);
        QApplication::processEvents();
        QCOMPARE(o.at(plug)[0], 20.0); // the drawing follows what is typed
        QTest::keyClick(o.sheet(), Qt::Key_Right, Qt::ShiftModifier);
        QCOMPARE(o.at(plug)[0], 25.0);
        QTest::keyClick(o.dialog, Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(o.at(plug)[0], 20.0);
        QTest::keyClick(o.dialog, Qt::Key_Z, Qt::ControlModifier);
        QTest::keyClick(o.dialog, Qt::Key_Z, Qt::ControlModifier); // the drag, one step
        QCOMPARE(o.at(plug), before);
        // Nothing of it is in the project until it is saved; saved, it is one step.
        o.drag(plug, 2, 5, 5);
        const auto moved = o.at(plug);
        const int steps = o.w.document().undoStack().count();
        o.dialog->accept();
        QCOMPARE(o.w.document().undoStack().count(), steps + 1);
        const core::Part* saved = o.w.document().project().part("supply-550");
        QCOMPARE(core::own::middleOf(*saved, plug), moved);
    }
    void aDragIsDropped() {
        Open o("supply-550");
        const Item plug{Kind::Plug, 1};
        const auto before = o.at(plug);
        o.drag(plug, 0, 12, 0, false);
        QVERIFY(o.at(plug) != before);
        QTest::keyClick(o.sheet(), Qt::Key_Escape);
        QCOMPARE(o.at(plug), before);
        QVERIFY(o.dialog->isVisible());
    }
    void everyThingIsReachedByKeys() {
        Open o("board-k2");
        const auto items = core::own::itemsOf(o.sheet()->part());
        QVERIFY(items.size() > 4);
        o.sheet()->setFocus();
        std::set<Item> seen;
        for (std::size_t i = 0; i < items.size(); ++i) {
            QTest::keyClick(o.sheet(), Qt::Key_J);
            QVERIFY(o.sheet()->selected());
            seen.insert(*o.sheet()->selected());
        }
        QCOMPARE(seen.size(), items.size());
    }
    /// A route begins with a key, gets corners, is typed as a table.
    void aRouteIsDrawn() {
        Open o("spine");
        o.dialog->editor()->findChild<QPushButton*>("bodies-add")->click();
        QApplication::processEvents();
        const auto index = o.sheet()->part().bodies.size() - 1;
        o.dialog->editor()->findChild<QComboBox*>("shape")->setCurrentText("tube");
        QApplication::processEvents();
        QCOMPARE(o.sheet()->selected()->kind, Kind::Body);
        o.sheet()->setFocus();
        QTest::keyClick(o.sheet(), Qt::Key_Insert);
        QVERIFY2(o.dialog->problem().isEmpty(), qPrintable(o.dialog->problem()));
        QCOMPARE(o.sheet()->part().bodies[index].routeMm.size(), 2U);
        QTest::keyClick(o.sheet(), Qt::Key_Insert);
        QCOMPARE(o.sheet()->part().bodies[index].routeMm.size(), 3U);
        const Item corner = *o.sheet()->selected();
        QCOMPARE(corner.kind, Kind::Corner);
        const auto before = o.at(corner);
        QTest::keyClick(o.sheet(), Qt::Key_Up, Qt::ShiftModifier);
        QCOMPARE_LE(std::abs(o.at(corner)[1] - before[1] - 5), 1e-9);
        auto* table = o.dialog->editor()->findChild<QPlainTextEdit*>("route_mm");
        QVERIFY2(table->toPlainText().count('\n') == 2, qPrintable(table->toPlainText()));
        table->setPlainText("0 0 0\n30 0 0\n30 1 in 20");
        QVERIFY2(o.dialog->problem().contains("line 3"), qPrintable(o.dialog->problem()));
        QCOMPARE(o.sheet()->part().bodies[index].routeMm.size(), 3U);
        table->setPlainText("0 0 0\n30 0 0\n30;1 in;20");
        QVERIFY2(o.dialog->problem().isEmpty(), qPrintable(o.dialog->problem()));
        QCOMPARE_LE(std::abs(o.sheet()->part().bodies[index].routeMm[2][1] - 25.4), 1e-9);
        o.sheet()->select(Item{Kind::Corner, index, 1});
        QTest::keyClick(o.sheet(), Qt::Key_Delete);
        QCOMPARE(o.sheet()->part().bodies[index].routeMm.size(), 2U);
    }
};
} // namespace tst_part_sheet
MD_TEST(tst_part_sheet, PartSheetTest)
#include "tst_part_sheet.moc"
