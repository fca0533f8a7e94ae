// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/brief_dialog.h"
#include "app/stations/brief/start_dialog.h"
#include "app/stations/make/printer_dialog.h"
#include "app/ui/dialogs/change_dialog.h"
#include "app/ui/dialogs/import_dialog.h"
#include "app/ui/dialogs/part_dialog.h"
#include "app/ui/dialogs/part_edit_dialog.h"
#include "app/ui/dialogs/part_sheet.h"
#include "app/ui/dialogs/record_dialog.h"
#include "store/project_json.h"
#include "store/safe_write.h"
#include "support/demo.h"
#include "support/patience.h"
#include "support/registry.h"
#include "support/things.h"

#include <QApplication>
#include <QCheckBox>
#include <QListWidget>
#include <QPushButton>
#include <QSignalSpy>
#include <QTableWidget>
#include <QTemporaryDir>

namespace tst_dialogs {

using namespace app;

/// Each dialog on its own: what is typed reaches the project in stored units, what is wrong is said.
class DialogsTest : public QObject {
    Q_OBJECT
    Context m_context;

    template <class T> static T* in(QWidget* dialog, const char* name) {
        return dialog->findChild<T*>(QString::fromLatin1(name));
    }
    const core::Project& projectNow() { return m_context.document.project(); }

private slots:
    void init() {
        m_context.settings = {};
        m_context.document.reset(support::demoProject(), {});
    }

    void startInInches() {
        m_context.settings.units.inch = true;
        StartDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        core::Project made;
        connect(&dialog, &StartDialog::created, this, [&](const core::Project& p) { made = p; });
        in<QDoubleSpinBox>(&dialog, "width")->setValue(5); // inch
        in<QComboBox>(&dialog, "material")->setCurrentIndex(2);
        dialog.accept();
        QCOMPARE_LE(std::abs(made.shelf[0].size[0].value.mm() - 127), 0.01);
        QCOMPARE(std::get<core::CaseSpec>(made.shelf[0].spec).material, core::WallMaterial::Plastic);
        QVERIFY(core::validate(made).empty());
        QVERIFY(core::resolve(made, "R1"));
    }
    /// Every arrangement can be chosen and begun with; drawing, litres and words follow.
    void everyArrangementBegins() {
        for (int row = 0; row < static_cast<int>(core::arrange::arrangements().size()); ++row) {
            StartDialog dialog(m_context, nullptr);
            dialog.setAttribute(Qt::WA_DeleteOnClose, false);
            core::Project made;
            connect(&dialog, &StartDialog::created, this, [&](const core::Project& p) { made = p; });
            dialog.show();
            auto* grid = in<ArrangementGrid>(&dialog, "arrangements");
            grid->setFocus();
            QTest::keyClick(grid, Qt::Key_Home);
            for (int i = 0; i < row; ++i)
                QTest::keyClick(grid, i % 3 == 2 ? Qt::Key_Down : Qt::Key_Right);
            grid->choose(row);
            const auto& a = core::arrange::arrangements()[static_cast<std::size_t>(row)];
            const QString litres = in<QLabel>(&dialog, "litres")->text();
            in<QDoubleSpinBox>(&dialog, "width")->stepUp();
            QVERIFY(in<QLabel>(&dialog, "litres")->text() != litres);
            QVERIFY2(a.meant.empty() || in<QLabel>(&dialog, "check")->text().contains("nothing is short"),
                     qPrintable(in<QLabel>(&dialog, "check")->text()));
            QApplication::processEvents();
            QTest::keyClick(grid, Qt::Key_Return);
            QCOMPARE(dialog.focusWidget(), in<QDoubleSpinBox>(&dialog, "width"));
            QTest::keyClick(dialog.focusWidget(), Qt::Key_Return, Qt::ControlModifier);
            QCOMPARE(qs(made.shelf[0].name), qs(a.name));
            QVERIFY(core::validate(made).empty());
        }
    }
    /// A case that is stated elsewhere is begun with: its walls, places and vents, with nothing placed.
    void aCaseIsTakenOver() {
        QTemporaryDir dir;
        core::Project other = support::demoProject();
        const core::Part wanted = *other.part("case-2");
        core::SharedList<core::Part> shelf;
        for (const core::Part& p : std::as_const(other.shelf))
            if (p.id != "case-1")
                shelf.push_back(p);
        const QString parts = dir.filePath("parts.json");
        QVERIFY(store::writeWhole(parts, QByteArray::fromStdString(store::writeShelfJson(shelf))));
        StartDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        core::Project made;
        connect(&dialog, &StartDialog::created, this, [&](const core::Project& p) { made = p; });
        in<QLineEdit>(&dialog, "name")->setText("Third print");
        dialog.takeCaseOf(parts);
        QCOMPARE(made.name, std::string("Third print"));
        QCOMPARE(*made.part("case-2"), wanted);
        QVERIFY(core::validate(made).empty());
        QVERIFY(core::resolve(made, "R1")->placed.empty());
        // What holds none is said.
        StartDialog again(m_context, nullptr);
        again.setAttribute(Qt::WA_DeleteOnClose, false);
        again.takeCaseOf(dir.filePath("not there"));
        QVERIFY(!in<QLabel>(&again, "problem")->text().isEmpty());
        QVERIFY(store::writeWhole(parts, QByteArray::fromStdString(store::writeShelfJson({wanted}))));
        core::Part fan = *other.part("fan-92-15");
        QVERIFY(store::writeWhole(parts, QByteArray::fromStdString(store::writeShelfJson({fan}))));
        again.takeCaseOf(parts);
        QVERIFY(in<QLabel>(&again, "problem")->text().contains("holds no case"));
    }
    /// A part that several revisions put in says so before it is changed.
    void aSharedPartSaysWhereElse() {
        PartEditDialog shared(m_context, "fan-80-15", nullptr);
        shared.setAttribute(Qt::WA_DeleteOnClose, false);
        PartEditDialog spine(m_context, "spine", nullptr);
        // Its picture follows what is typed.
        auto* picture = spine.findChild<PartSheet*>("partPicture");
        QVERIFY(picture);
        auto* width = spine.findChild<QDoubleSpinBox*>("width");
        width->setValue(width->value() + 7);
        QCOMPARE(picture->part().size[0].value.mm(),
                 m_context.document.project().part("spine")->size[0].value.mm() + 7);
        spine.setAttribute(Qt::WA_DeleteOnClose, false);
        QVERIFY(!spine.findChild<QLabel*>("whereElse"));
        PartEditDialog caseParts(m_context, "lead-eps", nullptr);
        caseParts.setAttribute(Qt::WA_DeleteOnClose, false);
        core::Project p = support::demoProject();
        p.revisions.back().changes.push_back(core::SwapPart{"tray/cpu/lid", "cooler-l55"});
        m_context.document.reset(p, {});
        PartEditDialog twice(m_context, "cooler-l55", nullptr);
        twice.setAttribute(Qt::WA_DeleteOnClose, false);
        auto* words = twice.findChild<QLabel*>("whereElse");
        QVERIFY(words && words->text().contains("R3, R12"));
    }
    /// What does not go in is said with the gap, and refuses nothing; a size nobody can build keeps the last picture.
    void whatDoesNotGoInIsSaid() {
        StartDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        auto* check = in<QLabel>(&dialog, "check");
        in<QDoubleSpinBox>(&dialog, "width")->setValue(70);
        QVERIFY2(check->text().contains("overlap") && !check->text().contains("nothing is short"),
                 qPrintable(check->text()));
        const QString litres = in<QLabel>(&dialog, "litres")->text();
        in<QDoubleSpinBox>(&dialog, "spine")->setValue(305);
        QVERIFY2(check->text().contains("Cooler bay"), qPrintable(check->text()));
        QCOMPARE(in<QLabel>(&dialog, "litres")->text(), litres);
        in<QPushButton>(&dialog, "usualSizes")->click();
        QVERIFY2(check->text().contains("nothing is short"), qPrintable(check->text()));
    }
    /// Enter on an entry of the shelf goes on to its fields: choosing is not adding.
    void enterOnTheShelfDoesNotAdd() {
        PartDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        dialog.show();
        auto* list = in<QListWidget>(&dialog, "shelf");
        list->setFocus();
        QTest::keyClick(list, Qt::Key_Return);
        QVERIFY(dialog.isVisible());
        QCOMPARE(dialog.focusWidget(), in<QLineEdit>(&dialog, "name"));
        QCOMPARE(in<QLineEdit>(&dialog, "name")->selectedText(), in<QLineEdit>(&dialog, "name")->text());
    }
    void sourceSetsTheTolerance() {
        StartDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        core::Project made;
        connect(&dialog, &StartDialog::created, this, [&](const core::Project& p) { made = p; });
        in<QDoubleSpinBox>(&dialog, "depth")->setValue(320);
        auto* source = in<QComboBox>(&dialog, "source-depth");
        QCOMPARE(source->currentData().toInt(), static_cast<int>(core::Source::Caliper)); // typed: somebody measured
        source->setCurrentIndex(source->findData(static_cast<int>(core::Source::SteelRule)));
        Q_EMIT source->activated(source->currentIndex());
        // The figure that stands there, typed again, is stated too.
        auto* height = in<QDoubleSpinBox>(&dialog, "height");
        height->selectAll();
        QTest::keyClicks(height, height->cleanText());
        dialog.accept();
        QCOMPARE(made.shelf[0].size[1].tolerance.mm(), 0.5);
        QCOMPARE(made.shelf[0].size[1].source, core::Source::SteelRule);
        QCOMPARE(made.shelf[0].size[2].source, core::Source::Caliper);
        QCOMPARE(made.shelf[0].size[0].source, core::Source::Estimate); // nobody stated it
        QVERIFY(made.shelf[0].size[0].tolerance > made.shelf[0].size[1].tolerance);
    }

    /// A place that is taken is listed with the reason, and cannot be chosen; no place at all is said.
    void takenPlacesSayWhy() {
        m_context.document.selectRevision("R11");
        PartDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        auto* place = in<QComboBox>(&dialog, "place");
        auto* search = in<QLineEdit>(&dialog, "search");
        search->setText("Card 168-T");
        QVERIFY(place->itemText(0).contains("no free place takes it"));
        QVERIFY(place->currentData().toString().isEmpty());
        const int taken = place->findText("taken by", Qt::MatchContains);
        QVERIFY(taken > 0);
        QVERIFY2(place->itemText(taken).contains("Card 168-E"), qPrintable(place->itemText(taken)));
        QVERIFY(!(place->model()->flags(place->model()->index(taken, 0)) & Qt::ItemIsEnabled));
        search->setText("Fan 92-15");
        QVERIFY(!place->currentData().toString().isEmpty());
    }
    void partWithItsOwnSize() {
        m_context.document.selectRevision("R11");
        PartDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        in<QLineEdit>(&dialog, "search")->setText("Fan 92 x 25");
        QCOMPARE(in<QListWidget>(&dialog, "shelf")->count(), 1);
        QVERIFY2(in<QLabel>(&dialog, "formSize")->text().contains("holes 82.5"),
                 qPrintable(in<QLabel>(&dialog, "formSize")->text()));
        in<QLineEdit>(&dialog, "name")->setText("Fan of mine");
        in<QDoubleSpinBox>(&dialog, "depth")->setValue(24.6);
        auto* source = in<QComboBox>(&dialog, "source");
        source->setCurrentIndex(source->findData(static_cast<int>(core::Source::Caliper)));
        auto* place = in<QComboBox>(&dialog, "place");
        QVERIFY(place->findData("side-b") >= 0);
        QVERIFY(place->findData("side-a") < 0); // taken
        QVERIFY(place->findData("tray") < 0);   // takes no fan
        place->setCurrentIndex(place->findData("side-b"));
        in<QComboBox>(&dialog, "flow")->setCurrentIndex(1);
        dialog.accept();
        const core::Part& part = projectNow().shelf.back();
        QCOMPARE(part.name, std::string("Fan of mine"));
        QCOMPARE(part.size[2], core::measureMm(24.6, core::Source::Caliper));
        const core::Placed* placed = m_context.document.result().evaluation->build.at("side-b");
        QVERIFY(placed);
        QCOMPARE(placed->flow, core::FanFlow::Out);
        QCOMPARE(m_context.selection.thing(), support::thing("part:side-b"));
    }
    void partForTheShelfAlone() {
        const auto revisions = projectNow().revisions;
        PartDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        in<QLineEdit>(&dialog, "search")->setText("SFX-L");
        auto* place = in<QComboBox>(&dialog, "place");
        place->setCurrentIndex(place->count() - 1);
        dialog.accept();
        QVERIFY(projectNow().part("psu-sfx-l"));
        QVERIFY(projectNow().revisions == revisions);
    }
    void partWithoutAName() {
        const auto shelf = projectNow().shelf.size();
        PartDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        in<QLineEdit>(&dialog, "name")->clear();
        dialog.accept();
        QVERIFY(dialog.problem().contains("Name"));
        QCOMPARE(projectNow().shelf.size(), shelf);
    }
    void searchThatFindsNothing() {
        PartDialog dialog(m_context, nullptr);
        in<QLineEdit>(&dialog, "search")->setText("quantum");
        QCOMPARE(in<QListWidget>(&dialog, "shelf")->count(), 0);
        bool anyEnabled = false;
        for (auto* button : dialog.findChildren<QPushButton*>())
            anyEnabled = anyEnabled || (button->text().contains("Add") && button->isEnabled());
        QVERIFY(!anyEnabled);
    }

    /// What only a fan has is asked in the reader's units, kept in those of the file; what was not touched stays to the
    /// last digit.
    void aFansDataAreEdited() {
        m_context.document.selectRevision("R10");
        const core::Part was = *projectNow().part("fan-92-15");
        PartEditDialog dialog(m_context, was.id, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        auto* flow = in<QDoubleSpinBox>(&dialog, "free_flow_m3s");
        QVERIFY(flow && flow->suffix().contains("m³/h"));
        QVERIFY(std::abs(flow->value() - std::get<core::FanSpec>(was.spec).freeFlowM3s * 3600) < 0.06);
        flow->setValue(61.2);
        QVERIFY(!in<QDoubleSpinBox>(&dialog, "level_dba")->toolTip().isEmpty());
        dialog.accept();
        core::Part wanted = was;
        std::get<core::FanSpec>(wanted.spec).freeFlowM3s = 61.2 / 3600;
        QVERIFY2(*projectNow().part(was.id) == wanted, qPrintable(dialog.problem()));
        m_context.document.undoStack().undo();
        QVERIFY(*projectNow().part(was.id) == was);
    }
    /// A value that its field cannot have is refused with the range, and nothing is lost.
    void aSpeedOutOfRangeIsRefused() {
        const core::Part was = *projectNow().part("fan-92-15");
        PartEditDialog dialog(m_context, was.id, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        dialog.show();
        in<QDoubleSpinBox>(&dialog, "rpm")->setValue(20); // 0 or 50 and more
        dialog.accept();
        QVERIFY(dialog.isVisible());
        QVERIFY2(dialog.problem().contains("0, or from 50 to 30000 rpm"), qPrintable(dialog.problem()));
        QVERIFY(*projectNow().part(was.id) == was);
    }
    /// What is not stated says so, and is no figure; typing one states it.
    void whatIsNotStatedIsNoFigure() {
        core::Part quiet = *projectNow().part("fan-92-15");
        quiet.id = "quiet";
        std::get<core::FanSpec>(quiet.spec).levelDba = 0;
        QVERIFY(m_context.document.edit("a fan", [&](core::Project& p) {
            p.shelf.push_back(quiet);
            p.brief.carryBoxMm = {};
        }));
        PartEditDialog dialog(m_context, "quiet", nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        auto* level = in<QDoubleSpinBox>(&dialog, "level_dba");
        QCOMPARE(level->text(), QStringLiteral("not stated"));
        level->setValue(24);
        dialog.accept();
        QCOMPARE(std::get<core::FanSpec>(projectNow().part("quiet")->spec).levelDba, 24.0);
        BriefDialog brief(m_context, nullptr);
        QCOMPARE(in<QDoubleSpinBox>(&brief, "carry_box_mm0")->text(), QStringLiteral("not stated"));
    }
    /// A plug is turned in the ways in which it can be had, and no others; dust is offered where there is a screen.
    void onlyWhatCanBeIsOffered() {
        m_context.document.selectRevision("R10");
        const std::string card = m_context.document.result().evaluation->build.at("card")->part->id;
        QVERIFY(m_context.document.edit("angled plugs", [&](core::Project& p) {
            p.shelf.edit(card)->ports = {{.id = "power",
                                          .kind = "card-8",
                                          .out = {core::Axis::Y, 1},
                                          .towards = {core::Axis::Z, 1},
                                          .angledWays = {{core::Axis::X, -1}, {core::Axis::X, 1}}}};
        }));
        ChangeDialog dialog(m_context, {}, nullptr);
        auto* kind = in<QComboBox>(&dialog, "kind");
        kind->setCurrentIndex(kind->findText("Another plug"));
        const auto* e = m_context.view().evaluation();
        const auto* placed = e->build.at(in<QComboBox>(&dialog, "mount")->currentData().toString().toStdString());
        QVERIFY(placed);
        const std::string id = in<QComboBox>(&dialog, "port")->currentData().toString().toStdString();
        const auto port =
            std::find_if(placed->ports.begin(), placed->ports.end(), [&](const auto& p) { return p.id == id; });
        QVERIFY(port != placed->ports.end());
        const auto* ways = in<QComboBox>(&dialog, "towards");
        QCOMPARE(ways->count(), static_cast<int>(port->angledWays.size()));
        for (int i = 0; i < ways->count(); ++i)
            QCOMPARE(ways->itemText(i).toStdString(),
                     core::directionWord(port->angledWays[static_cast<std::size_t>(i)]));
        kind->setCurrentIndex(kind->findText("Dust in a screen"));
        const auto* openings = in<QComboBox>(&dialog, "opening");
        QVERIFY(openings->count() > 0);
        for (int i = 0; i < openings->count(); ++i)
            QVERIFY(e->build.opening(openings->itemData(i).toString().toStdString())->screen != core::Screen::None);
    }
    void thePrinterIsDescribed() {
        PrinterDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        in<QDoubleSpinBox>(&dialog, "bed_mm2")->setValue(180);
        in<QDoubleSpinBox>(&dialog, "border_mm")->setValue(7.5);
        const core::Printer was = projectNow().printer;
        dialog.accept();
        QCOMPARE(projectNow().printer.bedMm[2], 180.0);
        QCOMPARE(projectNow().printer.borderMm, 7.5);
        QCOMPARE(projectNow().printer.bedMm[0], was.bedMm[0]);
        m_context.document.undoStack().undo();
        QVERIFY(projectNow().printer == was);
    }

    void changeStartsWithWhatIsSelected_data() {
        QTest::addColumn<QString>("key");
        QTest::addColumn<QString>("subject");
        QTest::newRow("fan") << "fan:top"
                             << "top";
        QTest::newRow("opening") << "opening:floor-vent"
                                 << "floor-vent";
        QTest::newRow("part") << "part:tray/cpu/lid"
                              << "tray/cpu/lid";
    }
    void changeStartsWithWhatIsSelected() {
        QFETCH(QString, key);
        QFETCH(QString, subject);
        ChangeDialog dialog(m_context, support::thing(key.toStdString()), nullptr);
        QCOMPARE(in<QComboBox>(&dialog, key.startsWith("opening") ? "opening" : "mount")->currentData().toString(),
                 subject);
        QVERIFY(!in<QLabel>(&dialog, "preview")->text().isEmpty());
    }
    void previewIsWhatComesOfIt() {
        ChangeDialog dialog(m_context, core::PartRef{"tray/cpu/lid"}, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        auto* value = in<QComboBox>(&dialog, "part");
        value->setCurrentIndex(value->findData("cooler-l55"));
        const QString preview = in<QLabel>(&dialog, "preview")->text();
        const auto before = m_context.document.revision();
        dialog.accept();
        const auto& after = *m_context.document.result().evaluation;
        QVERIFY(m_context.document.revision() != before);
        const QString margin = m_context.view().words(core::explain::marginText(core::fit::tightestMm(after.fit)));
        QVERIFY2(preview.contains(margin), qPrintable(preview + " / " + margin));
        // Each gap that is crossed or open now and was not is named.
        const auto was = core::stages::evaluate(projectNow(), before);
        int named = 0;
        for (const auto& gap : after.fit.gaps) {
            const auto same =
                std::find_if(was->fit.gaps.begin(), was->fit.gaps.end(), [&](const auto& g) { return g.id == gap.id; });
            const bool bad = gap.mark == core::Mark::Crossed || gap.mark == core::Mark::Open;
            if (!bad || (same != was->fit.gaps.end() && same->mark == gap.mark))
                continue;
            ++named;
            QVERIFY2(preview.contains(
                         QString::fromStdString(gap.between[0].text + " to " + gap.between[1].text).toHtmlEscaped()),
                     qPrintable(preview));
        }
        QVERIFY(named > 0);
    }
    /// With a window it is worked out beside it: what is typed is there at once, the figures follow, of the newest
    /// only.
    void previewFollows() {
        (void)m_context.document.result();
        m_context.document.setBackground(true);
        {
            ChangeDialog dialog(m_context, core::PartRef{"tray/cpu/lid"}, nullptr);
            auto* part = in<QComboBox>(&dialog, "part");
            auto* preview = in<QLabel>(&dialog, "preview");
            const int l47 = part->findData("cooler-l47"), l55 = part->findData("cooler-l55");
            part->setCurrentIndex(l55);
            part->setCurrentIndex(l47);
            QVERIFY(!preview->isEnabled()); // of before, and marked as such
            part->setCurrentIndex(l55);
            WAIT_VERIFY(preview->isEnabled());
            QVERIFY2(preview->text().contains("Cooler L55") && preview->text().contains("tightest gap"),
                     qPrintable(preview->text()));
        }
        m_context.document.stages().waitForAll();
        m_context.document.setBackground(false);
    }
    void speedIsSaidAsItIsTyped() {
        ChangeDialog dialog(m_context, core::FanRef{"side-a"}, nullptr);
        in<QDoubleSpinBox>(&dialog, "duty")->setValue(100);
        QVERIFY(in<QLabel>(&dialog, "preview")->text().contains("held at 100"));
    }

    void briefRefusesATemperatureOfNothing() {
        BriefDialog dialog(m_context, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        auto* table = in<QTableWidget>(&dialog, "targets");
        QTest::mouseClick(in<QPushButton>(&dialog, "addTarget"), Qt::LeftButton);
        auto* kind = static_cast<QComboBox*>(table->cellWidget(table->rowCount() - 1, 1));
        kind->setCurrentIndex(kind->findText("temperature"));
        dialog.accept();
        QVERIFY2(dialog.problem().contains("says no part"), qPrintable(dialog.problem()));
        auto* subject = static_cast<QComboBox*>(table->cellWidget(table->rowCount() - 1, 2));
        subject->setCurrentIndex(subject->findData("tray/store"));
        auto* limit = static_cast<QDoubleSpinBox*>(table->cellWidget(table->rowCount() - 1, 3));
        QVERIFY(limit->suffix().contains(QStringLiteral("°C")));
        QVERIFY(limit->prefix().contains("at most"));
        limit->setValue(61);
        dialog.accept();
        const core::Target& t = projectNow().brief.targets.back();
        QCOMPARE(t.kind, core::TargetKind::Temperature);
        QCOMPARE(t.subject, std::string("tray/store"));
        QCOMPARE(t.limit, 61.0);
        // Its id is its own.
        for (std::size_t i = 0; i + 1 < projectNow().brief.targets.size(); ++i)
            QVERIFY(projectNow().brief.targets[i].id != t.id);
    }
    void floorsSaySo() {
        BriefDialog dialog(m_context, nullptr);
        auto* table = in<QTableWidget>(&dialog, "targets");
        for (int row = 0; row < table->rowCount(); ++row) {
            const auto* kind = static_cast<QComboBox*>(table->cellWidget(row, 1));
            const auto* limit = static_cast<QDoubleSpinBox*>(table->cellWidget(row, 3));
            const bool floor = kind->currentText() == "clock" || kind->currentText() == "gap";
            QVERIFY(limit->prefix().contains(floor ? "at least" : "at most"));
        }
    }

    void recordNeedsASource() {
        int taken = 0;
        RecordDialog dialog(
            m_context, [&](std::unique_ptr<devices::SampleSource>, const std::string&) { ++taken; }, nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        in<QComboBox>(&dialog, "from")->setCurrentIndex(1);
        dialog.accept();
        QVERIFY(dialog.problem().contains("Program: is empty"));
        QCOMPARE(taken, 0);
        in<QLineEdit>(&dialog, "program")->setText("some-meter");
        dialog.accept();
        QCOMPARE(taken, 1);
    }

    void importRecognisesAgainWithAnotherSeparator() {
        QTemporaryDir dir;
        QFile log(dir.filePath("x.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("time_s|cpu_c;card_c\n0|40;50\n1|41;51\n");
        log.close();
        ImportDialog dialog(m_context, log.fileName(), nullptr);
        auto* columns = in<QTableWidget>(&dialog, "columns");
        const int before = columns->rowCount();
        auto* separator = in<QComboBox>(&dialog, "separator");
        for (int i = 0; i < separator->count(); ++i) {
            separator->setCurrentIndex(i);
            Q_EMIT separator->activated(i);
            QVERIFY(columns->rowCount() >= 1);
        }
        QCOMPARE(before, 2);
    }
    /// A heading without a unit is read as "other"; made a temperature by hand, it is asked about like one that said
    /// so.
    void importAsksAgainWhenAColumnIsChanged() {
        QTemporaryDir dir;
        QFile log(dir.filePath("x.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("time_s,Core #1,Core #2,Card\n0,41,42,50\n1,41,42,50\n");
        log.close();
        ImportDialog dialog(m_context, log.fileName(), nullptr);
        auto* columns = in<QTableWidget>(&dialog, "columns");
        auto* unclear = in<QLabel>(&dialog, "unclear");
        const auto box = [&](int row, int column) { return static_cast<QComboBox*>(columns->cellWidget(row, column)); };
        const auto choose = [&](QComboBox* b, int index) {
            b->setCurrentIndex(index);
            Q_EMIT b->activated(index);
        };
        for (int row = 1; row <= 3; ++row)
            choose(box(row, 2), box(row, 2)->findText("temperature"));
        QVERIFY2(!unclear->isHidden() && unclear->text().contains("Core #1") && unclear->text().contains("Core #2"),
                 qPrintable(unclear->text()));
        QCOMPARE(box(3, 4)->currentData().toString(), QString("card")); // only one that names it
        QCOMPARE(box(1, 4)->currentIndex() + box(2, 4)->currentIndex(), 0);
        choose(box(1, 4), box(1, 4)->findData("tray/cpu"));
        QVERIFY(unclear->isHidden()); // answered
        choose(box(2, 2), box(2, 2)->findText("temperature"));
        QCOMPARE(box(2, 4)->currentIndex(), 0); // one column a part
    }
    void importAsksWhoseAColumnIs_data() {
        QTest::addColumn<QByteArray>("headings");
        QTest::addColumn<bool>("asks");
        QTest::addColumn<int>("processors"); // how many columns are the processor's without a question
        QTest::newRow("one that names it") << QByteArray("time_s,CPU (C)") << false << 1;
        QTest::newRow("cores only") << QByteArray("time_s,CPU core 1 (C),CPU core 2 (C)") << true << 0;
        QTest::newRow("cores and the package") << QByteArray("time_s,CPU core 1 (C),CPU package (C)") << false << 1;
        QTest::newRow("names no part") << QByteArray("time_s,temp_c") << false << 0;
    }
    void importAsksWhoseAColumnIs() {
        QFETCH(QByteArray, headings);
        QFETCH(bool, asks);
        QFETCH(int, processors);
        QTemporaryDir dir;
        QFile log(dir.filePath("x.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        const QByteArray fields = QByteArray(",41").repeated(static_cast<int>(headings.count(',')));
        log.write(headings + "\n0" + fields + "\n1" + fields + "\n");
        log.close();
        ImportDialog dialog(m_context, log.fileName(), nullptr);
        QCOMPARE(!in<QLabel>(&dialog, "unclear")->isHidden(), asks);
        auto* columns = in<QTableWidget>(&dialog, "columns");
        int mine = 0;
        for (int row = 0; row < columns->rowCount(); ++row)
            mine += static_cast<QComboBox*>(columns->cellWidget(row, 4))->currentData().toString() ==
                            QLatin1String("tray/cpu")
                        ? 1
                        : 0;
        QCOMPARE(mine, processors);
    }
    /// A refusal leaves what was chosen; Enter tries again and throws nothing away.
    void importKeepsItsChoicesAfterARefusal() {
        QTemporaryDir dir;
        QFile log(dir.filePath("x.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("time_s,cpu_c\n0,40\n1,forty\n2,42\n");
        log.close();
        ImportDialog dialog(m_context, log.fileName(), nullptr);
        dialog.setAttribute(Qt::WA_DeleteOnClose, false);
        dialog.show();
        in<QLineEdit>(&dialog, "name")->setText("mine");
        auto* columns = in<QTableWidget>(&dialog, "columns");
        auto* role = static_cast<QComboBox*>(columns->cellWidget(1, 2));
        role->setCurrentIndex(role->findData(static_cast<int>(core::ChannelKind::Ambient)));
        const auto runs = projectNow().runs.size();
        for (int attempt = 0; attempt < 2; ++attempt) {
            in<QLineEdit>(&dialog, "name")->setFocus();
            QTest::keyClick(in<QLineEdit>(&dialog, "name"), Qt::Key_Return);
            WAIT_VERIFY(dialog.problem().contains("forty"));
            QVERIFY(dialog.isVisible());
            QCOMPARE(in<QLineEdit>(&dialog, "name")->text(), "mine");
            QCOMPARE(static_cast<QComboBox*>(columns->cellWidget(1, 2))->currentData().toInt(),
                     static_cast<int>(core::ChannelKind::Ambient));
        }
        QCOMPARE(projectNow().runs.size(), runs);
    }
    void importOfNothing() {
        QTemporaryDir dir;
        QFile log(dir.filePath("empty.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.close();
        ImportDialog dialog(m_context, log.fileName(), nullptr);
        QVERIFY(dialog.problem().contains("empty"));
        ImportDialog missing(m_context, "/no/such.csv", nullptr);
        QVERIFY(!missing.problem().isEmpty());
    }
    void importCancelledHalfWay() {
        QTemporaryDir dir;
        QFile log(dir.filePath("big.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("time_s,cpu_c\n");
        QByteArray rows;
        for (int i = 0; i < 300000; ++i)
            rows += QByteArray::number(i) + ",40.5\n";
        log.write(rows);
        log.close();
        for (const bool cancelled : {true, false}) { // the same log is kept when nobody stops it
            const auto runs = projectNow().runs.size();
            ImportDialog dialog(m_context, log.fileName(), nullptr);
            dialog.setAttribute(Qt::WA_DeleteOnClose, false);
            dialog.accept();
            if (cancelled)
                dialog.reject();
            m_context.document.workers().pool()->waitForDone();
            QCoreApplication::processEvents();
            QCOMPARE(projectNow().runs.size(), runs + (cancelled ? 0 : 1));
        }
    }
};
} // namespace tst_dialogs
MD_TEST(tst_dialogs, DialogsTest)
#include "tst_dialogs.moc"
