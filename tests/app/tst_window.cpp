// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/bench_page.h"
#include "app/stations/fit/fit_page.h"
#include "app/ui/dialogs/import_dialog.h"
#include "app/ui/painted_accessible.h"
#include "app/ui/recording/recorder.h"
#include "app/ui/shell/findings_line.h"
#include "app/ui/shell/revision_rail.h"
#include "app/ui/shell/station_strip.h"
#include "app/ui/shell/working_panel.h"
#include "support/patience.h"
#include "support/registry.h"
#include "support/window.h"

#include <qcustomplot.h>

#include <QAccessible>
#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QScrollArea>
#include <QScrollBar>
#include <QSignalSpy>
#include <QStandardPaths>
#include <QTableWidget>

namespace tst_window {

using support::Window;

/// The real window, driven as a builder would: by mouse and by keyboard.
class WindowTest : public QObject {
    Q_OBJECT

    static void setNumber(QDoubleSpinBox* box, double value) { box->setValue(value); }
    static app::StationStrip* strip(Window& w) { return w.window->findChild<app::StationStrip*>("stationStrip"); }
    static void closeMessages() {
        for (QWidget* top : QApplication::topLevelWidgets())
            if (auto* box = qobject_cast<QMessageBox*>(top))
                delete box;
    }

private slots:
    void initTestCase() {
        QStandardPaths::setTestModeEnabled(true);
        QCoreApplication::setOrganizationName("mini-draft-test");
        app::installPaintedAccessibility();
    }
    void cleanup() {
        QApplication::processEvents();
        for (QWidget* top : QApplication::topLevelWidgets())
            if (qobject_cast<QDialog*>(top))
                delete top;
    }

    void stationsByMouseAndKey() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        for (int i = 0; i < 6; ++i) {
            QVERIFY(w.click(strip(w), app::Handle{.act = app::Act::OpenStation, .row = i}));
            QCOMPARE(w.window->station(), i);
            w.key(static_cast<Qt::Key>(Qt::Key_1 + (5 - i)));
            QCOMPARE(w.window->station(), 5 - i);
        }
        QTest::keyClick(strip(w), Qt::Key_Right);
        QCOMPARE(w.window->station(), 1);
    }

    void flippingAFanMovesTheTemperature() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(2);
        const double before = w.cpu();
        QVERIFY(w.click(w.window->page(2), app::Handle{.act = app::Act::TurnFan, .of = core::FanRef{"side-a"}}));
        const double after = w.cpu();
        QVERIFY2(std::abs(after - before) > 3, qPrintable(QString::number(after - before)));
        QCOMPARE(w.document().revision(), std::string("R13")); // R10 has runs: a new revision was made
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(w.document().revision(), std::string("R10"));
        QCOMPARE(w.cpu(), before);
        w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(w.document().project().revision("R13"));
    }

    void fanSpeedByMouseAndKey() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(2);
        auto* air = w.window->page(2);
        const auto track = w.place(air, app::Handle{.act = app::Act::SetSpeed, .of = core::FanRef{"side-a"}});
        QVERIFY(track);
        const double before = w.cpu();
        QTest::mouseClick(air, Qt::LeftButton, {},
                          QPointF(track->rect.right() - 2, track->rect.center().y()).toPoint());
        QVERIFY(w.cpu() < before);
        const auto duty = [&] { return w.document().result().evaluation->build.at("side-a")->control.duty; };
        QVERIFY(duty() > 0.95);
        air->setFocus();
        QTest::keyClick(air, Qt::Key_Left);
        QTest::keyClick(air, Qt::Key_Left);
        QVERIFY(duty() < 0.95);
        QCOMPARE(w.document().project().revision(w.document().revision())->changes.size(),
                 std::size_t{1}); // nudging is one change
        QTest::keyClick(air, Qt::Key_R);
        QCOMPARE(w.document().result().evaluation->build.at("side-a")->flow, core::FanFlow::Out);
    }

    void aClickShowsTheWorking() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(1);
        const auto& gap = w.document().result().evaluation->fit.gaps.front();
        QVERIFY(w.click(w.window->page(1), gap.ref));
        const auto& working = w.window->working()->sheet()->working();
        QVERIFY(working);
        QCOMPARE(working->value, gap.nominal.mm());
        QVERIFY(
            w.window->working()->sheet()->accessibleDescription().contains(w.context.view().words(working->sentence)));
        // J and K walk over the figures, Escape and Backspace go back.
        const core::Thing first = w.context.selection.thing();
        w.key(Qt::Key_J);
        QVERIFY(w.context.selection.thing() != first);
        w.key(Qt::Key_Escape);
        QCOMPARE(w.context.selection.thing(), first);
        for (int i = 0; i < 60; ++i) {
            w.key(Qt::Key_J);
            QVERIFY(!core::isNothing(w.context.selection.thing()));
        }
    }

    void selectionIsOneThing() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(2);
        QVERIFY(w.click(w.window->page(2), core::PartRef{"tray/cpu"}));
        w.window->setStation(1);
        QCOMPARE(w.context.selection.thing(), support::thing("part:tray/cpu"));
        w.document().selectRevision("R1");
        QVERIFY(w.window->working()->sheet()->working());
        w.context.selection.select(core::PartRef{"caddy"}); // placed in R5 only
        QVERIFY(!w.window->working()->sheet()->working());
        w.document().selectRevision("R5");
    }

    void projectFromNothing() {
        Window w;
        auto* start = w.window->page(0)->findChild<QPushButton*>("start0");
        QVERIFY(start && start->isVisible());
        QTest::mouseClick(start, Qt::LeftButton);
        auto* name = w.dialog<QLineEdit>("name");
        QVERIFY(name);
        name->setText("Cellar box");
        setNumber(w.dialog<QDoubleSpinBox>("width"), 150);
        QTest::keyClick(name, Qt::Key_Return);
        QApplication::processEvents();
        QVERIFY(!w.openDialog());
        QCOMPARE(w.document().project().name, std::string("Cellar box"));
        QCOMPARE(w.document().revision(), std::string("R1"));
        QVERIFY(!start->isVisible());

        // Parts from the shelf of standard sizes, by keyboard: search, Enter.
        const auto add = [&](const QString& search, const QString& place) -> QString {
            w.key(Qt::Key_A, Qt::ControlModifier | Qt::ShiftModifier);
            auto* text = w.dialog<QLineEdit>("search");
            if (!text)
                return "no dialog";
            QTest::keyClicks(text, search);
            auto* list = w.dialog<QListWidget>("shelf");
            if (list->count() == 0)
                return "nothing found for " + search;
            auto* to = w.dialog<QComboBox>("place");
            if (!place.isEmpty() && to->findData(place) < 0)
                return place + " is not offered";
            if (!place.isEmpty())
                to->setCurrentIndex(to->findData(place));
            QTest::keyClick(text, Qt::Key_Return);
            QApplication::processEvents();
            return w.openDialog() ? "the dialog is still open" : QString();
        };
        for (const auto& [search, place] :
             {std::pair{"Mini-ITX", "tray"}, std::pair{"65 W", "tray/cpu"}, std::pair{"cooler 47", "tray/cpu/lid"},
              std::pair{"Card 170", "card"}, std::pair{"SFX supply", "supply"}, std::pair{"92 x 15", "side-a"}}) {
            const QString wrong = add(search, place);
            QVERIFY2(wrong.isEmpty(), qPrintable(wrong));
        }
        const auto& e = w.document().result().evaluation;
        QVERIFY(e);
        QCOMPARE(e->build.placed.size(), std::size_t{7});
        QVERIFY(std::isfinite(w.cpu()) && w.cpu() > 30);
        QVERIFY(e->fit.gaps.size() > 5);
        // Six and the inner panel. One step of undo takes one part away again, from the shelf too.
        const auto shelf = w.document().project().shelf.size();
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(w.document().result().evaluation->build.placed.size(), std::size_t{6});
        QCOMPARE(w.document().project().shelf.size(), shelf - 1);
        w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);

        // Saved, opened again.
        QTemporaryDir dir;
        QVERIFY(w.window->saveTo(dir.filePath("cellar.minidraft")));
        QVERIFY(!w.document().isModified());
        const core::Project saved = w.document().project();
        QVERIFY(w.window->openPath(dir.filePath("cellar.minidraft")));
        QVERIFY(w.document().project() == saved);
        QCOMPARE(w.context.settings.recent.first(), dir.filePath("cellar.minidraft"));
    }

    void wrongInputStandsInTheDialog() {
        Window w;
        w.window->newProject();
        auto* name = w.dialog<QLineEdit>("name");
        name->clear();
        auto* dialog = w.openDialog();
        dialog->accept();
        auto* problem = dialog->findChild<QLabel*>("problem");
        QVERIFY(problem->isVisible());
        QVERIFY(problem->text().contains("Name: is empty"));
        QVERIFY(dialog->isVisible());
        QVERIFY(w.document().project().revisions.empty());
    }

    void newRevisionByStatingAChange() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R2");
        w.key(Qt::Key_N, Qt::ControlModifier);
        auto* kind = w.dialog<QComboBox>("kind");
        QVERIFY(kind);
        kind->setCurrentIndex(kind->findText("Swap a part"));
        auto* subject = w.dialog<QComboBox>("mount");
        subject->setCurrentIndex(subject->findData("tray/cpu/lid"));
        auto* value = w.dialog<QComboBox>("part");
        value->setCurrentIndex(value->findData("cooler-l47"));
        auto* preview = w.dialog<QLabel>("preview");
        QVERIFY2(preview->text().contains("Cooler L37 to Cooler L47"), qPrintable(preview->text()));
        QVERIFY(preview->text().contains("tightest gap keeps"));
        w.openDialog()->accept();
        QApplication::processEvents();
        QCOMPARE(w.document().revision(), std::string("R13"));
        const auto& made = *w.document().project().revision("R13");
        QCOMPARE(made.parent, std::string("R2"));
        QVERIFY(made.changes.front() == core::Change(core::SwapPart{"tray/cpu/lid", "cooler-l47"}));
    }
    /// Each kind of change can be stated, or the dialog says why not.
    void everyKindOfChange() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        for (int k = 0; k < static_cast<int>(std::variant_size_v<core::AnyChange>); ++k) {
            w.document().selectRevision("R10");
            w.window->newRevision();
            auto* kind = w.dialog<QComboBox>("kind");
            QVERIFY(kind);
            kind->setCurrentIndex(k);
            auto* preview = w.dialog<QLabel>("preview");
            QVERIFY2(!preview->text().isEmpty(), qPrintable(kind->currentText()));
            const std::string before = w.document().revision();
            const QString words = kind->currentText();
            w.openDialog()->accept();
            QApplication::processEvents();
            if (auto* still = w.openDialog()) {
                still->reject();
                QApplication::processEvents();
            } else {
                QVERIFY2(w.document().revision() != before, qPrintable(words));
            }
        }
        QVERIFY(w.document().project().revisions.size() >= 12 + 8);
        QVERIFY(core::validate(w.document().project()).empty());
    }

    void baselineAndTrunk() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.key(Qt::Key_P);
        QCOMPARE(w.document().project().baseline, std::string("R10"));
        w.key(Qt::Key_P);
        QCOMPARE(w.document().project().baseline, std::string());
        w.key(Qt::Key_BracketLeft);
        QCOMPARE(w.document().revision(), std::string("R8"));
        w.key(Qt::Key_BracketRight);
        QCOMPARE(w.document().revision(), std::string("R9"));
        QVERIFY(w.click(w.window->rail()->cards(), core::RevisionRef{"R4"}));
        QCOMPARE(w.document().revision(), std::string("R4"));
        QTest::keyClick(w.window->rail()->cards(), Qt::Key_Down);
        QCOMPARE(w.document().revision(), std::string("R5"));
    }

    void unitsChangeOnlyWords() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const core::Project before = w.document().project();
        w.window->setStation(2);
        const auto name = [&] { return w.place(w.window->page(2), core::PartRef{"tray/cpu"})->name; };
        const QString celsius = name();
        w.window->findChild<QAction*>("actFahrenheit")->setChecked(true);
        w.window->findChild<QAction*>("actInch")->setChecked(true);
        w.window->findChild<QAction*>("actCfm")->setChecked(true);
        QApplication::processEvents();
        QVERIFY(celsius.contains(QStringLiteral("°C")));
        QVERIFY2(name().contains(QStringLiteral("°F")), qPrintable(name()));
        QVERIFY(w.document().project() == before);
        QVERIFY(!w.document().isModified());
        // What is typed in the other unit is stored in ours.
        w.window->editBrief();
        auto* room = w.dialog<QDoubleSpinBox>("room_c");
        QVERIFY(room->suffix().contains(QStringLiteral("°F")));
        room->setValue(86);
        w.openDialog()->accept();
        QCOMPARE_LE(std::abs(w.document().project().brief.roomC - 30), 1e-9);
    }

    void briefIsEdited() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const auto targets = w.document().project().brief.targets.size();
        w.window->editBrief();
        QTest::mouseClick(w.dialog<QPushButton>("addTarget"), Qt::LeftButton);
        w.openDialog()->accept();
        QApplication::processEvents();
        QCOMPARE(w.document().project().brief.targets.size(), targets + 1);
        // Saying nothing new changes nothing.
        const int steps = w.document().undoStack().count();
        w.window->editBrief();
        w.openDialog()->accept();
        QCOMPARE(w.document().undoStack().count(), steps);
    }

    void logIsReadIn() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        QFile log(dir.filePath("evening.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("Zeit;Processor heat;Room [°F]\n");
        for (int i = 0; i < 900; ++i)
            log.write(QStringLiteral("%1;%2;%3\n")
                          .arg(i)
                          .arg(QLocale(QLocale::German)
                                   .toString(35 + (i < 60 ? 0 : 40 * (1 - std::exp(-(i - 60) / 90.0))), 'f', 2))
                          .arg(73.4, 0, 'f', 1)
                          .replace("73.4", "73,4")
                          .toUtf8());
        log.close();
        w.window->importLog(log.fileName());
        auto* columns = w.dialog<QTableWidget>("columns");
        QVERIFY(columns);
        QCOMPARE(columns->rowCount(), 3);
        // "Zeit" and "Processor heat" say nothing to the program: the user says what they are.
        const auto choose = [&](int row, int column, const QString& text) {
            auto* box = static_cast<QComboBox*>(columns->cellWidget(row, column));
            box->setCurrentIndex(box->findText(text));
        };
        choose(0, 2, "time");
        choose(1, 2, "temperature");
        choose(1, 4, "Processor P8-65");
        w.openDialog()->accept();
        QTRY_VERIFY_WITH_TIMEOUT(w.document().project().run("evening"), 5000 * kPatience);
        const core::Run& run = *w.document().project().run("evening");
        QCOMPARE(run.revision, std::string("R11"));
        QCOMPARE(run.samples->timeS.size(), std::size_t{900});
        QCOMPARE(run.samples->channels[0].subject, std::string("tray/cpu"));
        QCOMPARE_LE(std::abs(run.samples->channels[1].values[0] - 23.0), 1e-9); // 73.4 °F
        QCOMPARE(w.window->bench()->run(), std::string("evening"));
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!w.document().project().run("evening"));
    }
    void badLogStaysInTheDialog() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const core::Project before = w.document().project();
        QFile log(dir.filePath("bad.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("time_s,cpu_c\n0,40\n1,warm\n2,42\n");
        log.close();
        w.window->importLog(log.fileName());
        QPointer<QDialog> dialog = w.openDialog();
        dialog->accept();
        auto* problem = dialog->findChild<QLabel*>("problem");
        QTRY_VERIFY_WITH_TIMEOUT(problem->isVisible(), 5000 * kPatience);
        QVERIFY2(problem->text().contains("line 3") && problem->text().contains("warm"), qPrintable(problem->text()));
        QVERIFY(w.document().project() == before);
        dialog->findChild<QCheckBox*>("readRest")->setChecked(true);
        dialog->accept();
        QTRY_VERIFY_WITH_TIMEOUT(w.document().project().run("bad"), 5000 * kPatience);
    }

    void recordingFromTheRig() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R8");
        const auto runs = w.document().project().runs.size();
        w.window->setStation(4);
        w.key(Qt::Key_R, Qt::ControlModifier);
        setNumber(w.dialog<QDoubleSpinBox>("minutes"), 1);
        setNumber(w.dialog<QDoubleSpinBox>("speed"), 1000);
        w.openDialog()->accept();
        QVERIFY(w.window->recorder()->isRecording());
        w.window->bench()->grab();
        QTRY_VERIFY_WITH_TIMEOUT(!w.window->recorder()->isRecording(), 30000 * kPatience);
        QCOMPARE(w.document().project().runs.size(), runs + 1);
        const core::Run& run = w.document().project().runs.back();
        QCOMPARE(run.revision, std::string("R8"));
        QCOMPARE(run.samples->timeS.size(), std::size_t{181});
        QVERIFY(run.samples->channels.size() >= 8);
        closeMessages();
    }
    /// What did not settle is not hatched as steady.
    void onlyWhatSettledIsHatched() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(4);
        int hatched = 0, bare = 0;
        for (const core::Run& run : w.document().project().runs) {
            w.document().selectRevision(run.revision);
            w.context.selection.select(core::RunRef{run.id});
            w.window->bench()->grab();
            QCOMPARE(w.window->bench()->run(), run.id);
            const bool steady = !w.window->bench()->findChildren<QCPItemRect*>().isEmpty();
            const auto& channels = w.document().analysis(run.id)->channels;
            const auto cpu = std::find_if(channels.begin(), channels.end(), [](const auto& c) {
                return c.kind == core::ChannelKind::Temperature && c.subject == "tray/cpu";
            });
            QVERIFY(cpu != channels.end());
            QVERIFY2(!steady || cpu->state != core::bench::SettleState::Refused, run.id.c_str());
            ++(steady ? hatched : bare);
        }
        QVERIFY2(hatched > 5, qPrintable(QString::number(hatched)));
    }
    void textSizeIsKept() {
        Window w;
        auto* action = w.window->findChild<QAction*>("size125");
        QVERIFY(action);
        action->trigger();
        QCOMPARE(w.context.settings.sizePercent, 125);
        QCOMPARE(app::Settings::load().sizePercent, 125);
        QVERIFY(action->isChecked());
        w.window->findChild<QAction*>("size100")->trigger();
        QCOMPARE(app::Settings::load().sizePercent, 100);
        closeMessages();
    }
    void recordingIsStopped() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const auto runs = w.document().project().runs.size();
        w.window->record();
        setNumber(w.dialog<QDoubleSpinBox>("speed"), 200);
        w.openDialog()->accept();
        QTRY_VERIFY_WITH_TIMEOUT(w.window->bench()->liveRows() > 20, 10000 * kPatience);
        w.window->bench()->grab();
        // One at a time, and the tab says so.
        auto* button = w.window->bench()->findChild<QPushButton*>("record");
        QVERIFY(!button->isEnabled());
        const auto tab =
            w.place(w.window->findChild<app::StationStrip*>(), app::Handle{.act = app::Act::OpenStation, .row = 4});
        QVERIFY2(tab && tab->name.contains("recording"), tab ? qPrintable(tab->name) : "");
        w.key(Qt::Key_Period, Qt::ControlModifier);
        WAIT_VERIFY(!w.window->recorder()->isRecording());
        QVERIFY(button->isEnabled());
        QCOMPARE(w.document().project().runs.size(), runs + 1);
        // The capture stays on disk until the project is saved with the run in it.
        QCOMPARE(QDir(w.captures()).entryList({"*.csv"}).size(), 1);
        w.window->save();
        QTRY_VERIFY_WITH_TIMEOUT(!w.document().isModified(), 10000 * kPatience);
        QCOMPARE(QDir(w.captures()).entryList({"*.csv"}).size(), 0);
    }

    void cutOffRecordingIsOffered() {
        QTemporaryDir dir;
        const QString folder = dir.filePath("captures");
        QDir().mkpath(folder);
        QFile::copy(support::sourcePath("tests/data/stress_short.csv"), folder + "/R1-left.csv");
        Window w(dir.path());
        w.openDemo(dir);
        QMessageBox* box = nullptr;
        WAIT_VERIFY((box = w.window->findChild<QMessageBox*>("leftCapture")));
        QTest::mouseClick(box->buttons().first(), Qt::LeftButton); // read in
        auto* columns = w.dialog<QTableWidget>("columns");
        QVERIFY(columns && columns->rowCount() > 2);
        w.openDialog()->accept();
        QTRY_VERIFY_WITH_TIMEOUT(w.document().project().run("R1-left"), 5000 * kPatience);
        // It stays until the run in it is read back from the saved project.
        QVERIFY(QFile::exists(folder + "/R1-left.csv"));
        QVERIFY(w.window->saveTo(dir.filePath("demo.minidraft")));
        QVERIFY(!QFile::exists(folder + "/R1-left.csv"));
    }

    void badFilesLeaveWhatIsOpen_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::newRow("0 bytes") << QByteArray();
        QTest::newRow("rubbish") << QByteArray(4000, 'x');
        QTest::newRow("cut database") << QByteArray("SQLite format 3\0 and no more", 28);
        QTest::newRow("wrong type") << QByteArray("{\"format\": \"mini-draft-project\", \"version\": 1, \"name\": 7}");
    }
    void badFilesLeaveWhatIsOpen() {
        QFETCH(QByteArray, bytes);
        Window w;
        QTemporaryDir dir;
        const QString good = w.openDemo(dir);
        (void)w.document().addChange(core::FlipFan{"top"});
        const core::Project before = w.document().project();
        QFile bad(dir.filePath("bad.minidraft"));
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.write(bytes);
        bad.close();
        QVERIFY(!w.window->openPath(bad.fileName()));
        QVERIFY(w.document().project() == before);
        QVERIFY(w.document().isModified());
        QCOMPARE(w.document().path(), good);
        QVERIFY(w.window->lastMessage().size() > 20);
        QVERIFY(w.openDialog()); // it is said in a dialog
    }
    void failedSaveStaysInSight() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        (void)w.document().addChange(core::FlipFan{"top"});
        QVERIFY(!w.window->saveTo("/proc/none/x.minidraft"));
        QVERIFY(w.document().isModified());
        QVERIFY(w.window->lastMessage().contains("/proc/none"));
        QVERIFY(w.window->saveTo(dir.filePath("ok.minidraft")));
        QVERIFY(!w.document().isModified());
    }

    void reportAndPrint() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        QVERIFY(w.window->writeReport(dir.filePath("r.html")));
        QFile html(dir.filePath("r.html"));
        QVERIFY(html.open(QIODevice::ReadOnly));
        const QByteArray text = html.readAll();
        QVERIFY(text.count("<svg") > 2); // two sheets, and a trace of each run
        QVERIFY(text.contains("Dig-tent box"));
        QVERIFY(!w.window->writeReport("/proc/none/r.html"));
        closeMessages();
        for (int i = 0; i < 6; ++i) {
            w.window->setStation(i);
            const QString pdf = dir.filePath(QStringLiteral("%1.pdf").arg(i));
            QVERIFY(w.window->printSheet(pdf));
            QVERIFY(QFileInfo(pdf).size() > 3000);
        }
    }

    void findingsLineGoesThere() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R3");
        w.window->setStation(0);
        auto* line = w.window->findChild<app::FindingsLine*>("findingsLine");
        QVERIFY(w.click(line, app::Act::FirstFinding));
        QCOMPARE(w.window->station(), 1);
        QVERIFY(std::holds_alternative<core::GapRef>(w.context.selection.thing()));
        QVERIFY(w.window->working()->sheet()->working());
        w.key(Qt::Key_F);
        auto* list = w.window->findChild<app::FindingsList*>("findingsList");
        QVERIFY(list->isVisible());
        list->grab();
        QTest::keyClick(list, Qt::Key_Down);
        QTest::keyClick(list, Qt::Key_Return);
        QVERIFY(list->isVisible()); // what it names is looked at beside it
        QTest::keyClick(list, Qt::Key_Escape);
        QVERIFY(!list->isVisible());
    }

    /// The list of findings takes room of its own, at every size: it lies over nothing.
    void findingsStandBesideTheDrawing() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R3");
        auto* list = w.window->findChild<app::FindingsList*>("findingsList");
        auto* line = w.window->findChild<app::FindingsLine*>("findingsLine");
        for (const QSize size : {QSize(1100, 700), QSize(1280, 800), QSize(1920, 1080)}) {
            w.window->resize(size);
            for (int station = 0; station < 6; ++station) {
                w.window->setStation(station);
                w.key(Qt::Key_F);
                QApplication::processEvents();
                QVERIFY(list->isVisible());
                const auto place = [&](const QWidget* x) {
                    return QRect(x->mapTo(w.window.get(), QPoint()), x->size());
                };
                const QWidget* stage = w.window->page(station)->parentWidget(); // what of it is in sight
                QVERIFY(!place(list).intersects(place(stage)));
                QVERIFY(!place(list).intersects(place(line)));
                QVERIFY(place(stage).height() > 250);
                QTest::keyClick(list, Qt::Key_Escape);
            }
        }
    }

    /// Alt alone opens the menu; Alt with another key does not, nor Alt held while something else is pressed.
    void altOpensTheMenu() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->activateWindow();
        QVERIFY(QTest::qWaitForWindowActive(w.window.get()));
        const auto menu = [] { return qobject_cast<QMenu*>(QApplication::activePopupWidget()); };
        QTest::keyPress(w.window.get(), Qt::Key_Alt, Qt::NoModifier);
        QVERIFY(!menu());
        QTest::keyRelease(w.window.get(), Qt::Key_Alt, Qt::AltModifier);
        QVERIFY(menu());
        QVERIFY(menu()->activeAction());
        QTest::keyClick(menu(), Qt::Key_V); // View, and not something of File
        QApplication::processEvents();
        QVERIFY(menu());
        QCOMPARE(menu()->actions().value(0)->text(), QString("Brief"));
        while (menu())
            menu()->close();
        QTest::keyPress(w.window.get(), Qt::Key_Alt, Qt::NoModifier);
        QTest::keyClick(w.window->page(1), Qt::Key_Up, Qt::AltModifier);
        QTest::keyRelease(w.window.get(), Qt::Key_Alt, Qt::AltModifier);
        QVERIFY(!menu());
    }

    /// However the rail is scrolled to its revision, the first card in sight is a whole one.
    void noFirstCardIsCut() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* area = w.window->rail()->findChild<QScrollArea*>();
        for (const QSize size : {QSize(1100, 700), QSize(1280, 800), QSize(1600, 900)}) {
            w.window->resize(size);
            for (const core::Revision& r : w.document().project().revisions) {
                w.document().selectRevision(r.id);
                QApplication::processEvents();
                w.window->rail()->cards()->grab();
                const int from = area->verticalScrollBar()->value(), to = from + area->viewport()->height(),
                          end = area->verticalScrollBar()->maximum();
                bool selectedInSight = false;
                for (const app::Hit& hit : w.window->rail()->cards()->hits()) {
                    if (!support::stands<core::RevisionRef>(hit))
                        continue;
                    QVERIFY2(hit.rect.top() >= from || hit.rect.bottom() <= from + 6 || from == end,
                             qPrintable(support::text(hit.thing))); // the end of the rail has no more to turn
                    selectedInSight = selectedInSight || (hit.thing == core::Thing(core::RevisionRef{r.id}) &&
                                                          hit.rect.top() >= from && hit.rect.bottom() <= to);
                }
                QVERIFY2(selectedInSight, r.id.c_str());
            }
        }
    }

    /// In a narrow window Working opens beside the sheet, so that the ladder stays in reach.
    void theLadderIsReachedWithWorkingOpen() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(1100, 700);
        w.window->setStation(1);
        auto* fit = w.window->page(1);
        QVERIFY(!w.window->working()->isVisible());
        w.key(Qt::Key_W);
        QApplication::processEvents();
        QVERIFY(w.window->working()->isVisible());
        const QRect working(w.window->working()->mapTo(w.window.get(), QPoint()), w.window->working()->size());
        const QRect stage(fit->mapTo(w.window.get(), QPoint()), fit->size());
        QVERIFY(!working.intersects(stage));
        QVERIFY2(stage.width() >= 760, qPrintable(QString::number(stage.width())));
        QVERIFY(w.place(fit,
                        app::Handle{.act = app::Act::ChooseList, .row = static_cast<int>(app::FitLook::List::Change)}));
        w.key(Qt::Key_W);
        QApplication::processEvents();
        QVERIFY(!w.window->working()->isVisible());
        QVERIFY(w.window->rail()->isVisible());
    }

    void partsAreAddedFromFit() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(1);
        QVERIFY(w.click(w.window->page(1), app::Act::AddPart));
        QVERIFY(w.dialog<QLineEdit>("search"));
    }

    void findByName() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(0);
        w.key(Qt::Key_Slash);
        auto* text = w.dialog<QLineEdit>("findText");
        QVERIFY(text);
        QTest::keyClicks(text, "pressure");
        QTest::keyClick(text, Qt::Key_Return);
        QApplication::processEvents();
        QCOMPARE(w.window->station(), 2);
        QCOMPARE(w.context.selection.thing(), support::thing("total:balance"));
    }

    void cutsMove() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(1);
        auto* fit = static_cast<app::FitPage*>(w.window->page(1));
        QVERIFY(w.click(fit, app::Handle{.act = app::Act::ChooseCut, .axis = core::Axis::X}));
        QCOMPARE(fit->cuts().moved, core::Axis::X);
        QTest::keyClick(fit, Qt::Key_Right);
        const double one = fit->cuts().b;
        QTest::keyClick(fit, Qt::Key_Right, Qt::ShiftModifier);
        QCOMPARE_LE(std::abs(fit->cuts().b - one - 10), 1e-9);
        QTest::keyClick(fit, Qt::Key_End);
        QVERIFY(fit->cuts().b > one + 10 || fit->cuts().b < one);
        QVERIFY(w.click(fit, app::Act::SlideCut));
        // A selected part is nudged by half a millimetre.
        w.context.selection.select(core::PartRef{"card"});
        const double before = w.document().result().evaluation->build.at("card")->lowAt[2].mm();
        QTest::keyClick(fit, Qt::Key_Up, Qt::AltModifier);
        QCOMPARE_LE(std::abs(w.document().result().evaluation->build.at("card")->lowAt[2].mm() - before - 0.5), 1e-9);
    }

    void validating() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(5);
        auto* button = w.window->page(5)->findChild<QPushButton*>("validate");
        QVERIFY(button->isEnabled()); // R10 is proven
        // Put on in one click, taken off only when asked.
        for (const bool sure : {false, true}) {
            QTest::mouseClick(button, Qt::LeftButton);
            auto* ask = w.window->findChild<QMessageBox*>("withdraw");
            QVERIFY(ask && ask->isVisible());
            for (QAbstractButton* b : ask->buttons())
                if ((ask->buttonRole(b) == QMessageBox::AcceptRole) == sure) {
                    b->click();
                    break;
                }
            QApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
            QCOMPARE(w.document().project().revision("R10")->validated, !sure);
        }
        QApplication::processEvents();
        QVERIFY(button->text().contains("Validate R10"));
        QTest::mouseClick(button, Qt::LeftButton);
        QVERIFY(w.document().project().revision("R10")->validated);
        w.document().selectRevision("R1");
        QApplication::processEvents();
        QVERIFY(!button->isEnabled());
        w.window->validateRevision();
        QVERIFY(w.window->lastMessage().contains("cannot be validated"));
        closeMessages();
    }

    void closingAsks() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        (void)w.document().addChange(core::FlipFan{"top"});
        w.window->close();
        QVERIFY(w.window->isVisible());
        auto* box = qobject_cast<QMessageBox*>(w.openDialog());
        QVERIFY(box);
        QTest::mouseClick(box->button(QMessageBox::Cancel), Qt::LeftButton);
        QVERIFY(w.window->isVisible());
        w.window->close();
        box = qobject_cast<QMessageBox*>(w.openDialog());
        QTest::mouseClick(box->button(QMessageBox::Save), Qt::LeftButton);
        WAIT_VERIFY(!w.window->isVisible());
        QCOMPARE(store::openProject(dir.filePath("demo.minidraft"))->project.revisions.back().id, std::string("R13"));
    }

    void droppedFiles() {
        Window w;
        QTemporaryDir dir;
        QVERIFY(store::saveProject(support::demoProject(), dir.filePath("d.minidraft")));
        const auto drop = [&](const QString& path) {
            QMimeData mime;
            mime.setUrls({QUrl::fromLocalFile(path)});
            QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
            QApplication::sendEvent(w.window.get(), &enter);
            QDropEvent event(QPointF(300, 300), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
            QApplication::sendEvent(w.window.get(), &event);
        };
        drop(dir.filePath("d.minidraft"));
        QTRY_COMPARE_WITH_TIMEOUT(w.document().project().name, std::string("Dig-tent box"), 10000 * kPatience);
        drop(support::sourcePath("tests/data/stress_short.csv"));
        QVERIFY(w.dialog<QTableWidget>("columns"));
    }

    void narrowWindowFoldsWorking() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(1100, 700);
        QApplication::processEvents();
        QVERIFY(!w.window->working()->isVisible());
        w.key(Qt::Key_W);
        QVERIFY(w.window->working()->isVisible());
        w.window->resize(1300, 800);
        QApplication::processEvents();
        QVERIFY(w.window->working()->isVisible());
        QVERIFY(w.window->page(0)->width() >= 760);
    }

    void themes() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        const QImage light = w.window->grab().toImage();
        w.window->applyTheme(app::ThemeChoice::Dark);
        QApplication::processEvents();
        const QImage dark = w.window->grab().toImage();
        QVERIFY(light.pixelColor(300, 700).lightness() > 180);
        QVERIFY(dark.pixelColor(300, 700).lightness() < 80);
        w.key(Qt::Key_L, Qt::ControlModifier);
        QCOMPARE(w.context.settings.theme, app::ThemeChoice::System);
    }

    /// Everything painted is a child with a name for screen readers, and can be pressed through it.
    void readOut() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->setStation(1);
        auto* page = w.window->page(1);
        page->grab();
        QAccessibleInterface* interface = QAccessible::queryAccessibleInterface(page);
        QVERIFY(interface);
        QCOMPARE(interface->childCount(), static_cast<int>(page->hits().size()));
        bool gap = false;
        for (int i = 0; i < interface->childCount(); ++i) {
            QAccessibleInterface* child = interface->child(i);
            QVERIFY(child && child->isValid());
            QVERIFY(!child->text(QAccessible::Name).isEmpty());
            if (child->text(QAccessible::Name).startsWith("Gap 1,")) {
                gap = true;
                child->actionInterface()->doAction(QAccessibleActionInterface::pressAction());
                QVERIFY(std::holds_alternative<core::GapRef>(w.context.selection.thing()));
                QVERIFY(child->state().selected);
            }
        }
        QVERIFY(gap);
    }

    void regionsByKey() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        QApplication::setActiveWindow(w.window.get());
        w.window->page(0)->setFocus();
        QSet<QWidget*> seen;
        for (int i = 0; i < 5; ++i) {
            w.key(Qt::Key_F6);
            seen.insert(QApplication::focusWidget());
        }
        QCOMPARE(seen.size(), 5);
    }
};
} // namespace tst_window
MD_TEST(tst_window, WindowTest)
#include "tst_window.moc"
