// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_page.h"
#include "app/ui/dialogs/air_value_dialog.h"
#include "app/ui/dialogs/change_dialog.h"
#include "app/ui/fields/points_edit.h"
#include "app/ui/fields/struct_form.h"
#include "core/base/text.h"
#include "core/explain/working.h"
#include "store/files.h"
#include "support/demo.h"
#include "support/disk.h"
#include "support/registry.h"
#include "support/window.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QPushButton>
#include <QtTest>

namespace tst_air_window {

using support::Window;

namespace {

app::AirPage* airOf(Window& w) {
    w.window->setStation(2);
    auto* page = static_cast<app::AirPage*>(w.window->page(2));
    page->exploreAtMost(3000); // what is shown of them is the same for all
    return page;
}
double cpu(Window& w) { return w.document().result().evaluation->air.part("tray/cpu")->temperatureC; }
/// States a change in the dialog that Ctrl+N opens, as a person does: its kind, then what stands in its rows.
void state(Window& w, const char* kind, const std::vector<std::pair<const char*, QString>>& rows) {
    w.key(Qt::Key_N, Qt::ControlModifier);
    app::ChangeDialog* dialog = nullptr;
    QVERIFY(QTest::qWaitFor([&] { return (dialog = w.window->findChild<app::ChangeDialog*>()) != nullptr; }));
    auto* kinds = dialog->findChild<QComboBox*>("kind");
    QVERIFY2(kinds->findText(kind) >= 0, kind);
    kinds->setCurrentIndex(kinds->findText(kind));
    for (const auto& [name, value] : rows) {
        if (auto* number = dialog->findChild<QDoubleSpinBox*>(name)) {
            number->setFocus();
            number->selectAll();
            QTest::keyClicks(number, value);
            continue;
        }
        auto* choice = dialog->findChild<QComboBox*>(name);
        QVERIFY2(choice, name);
        const int at = choice->findData(value) >= 0 ? choice->findData(value) : choice->findText(value);
        QVERIFY2(at >= 0, qPrintable(value));
        choice->setCurrentIndex(at);
    }
    const auto buttons = dialog->findChild<QDialogButtonBox*>();
    QTest::mouseClick(buttons->button(QDialogButtonBox::Ok), Qt::LeftButton);
    QVERIFY2(!dialog->isVisible(), qPrintable(dialog->windowTitle()));
    QCoreApplication::sendPostedEvents(dialog, QEvent::DeferredDelete);
}
/// Waits for what is worked out beside the window.
bool explored(app::AirPage* page) {
    return QTest::qWaitFor(
        [&] {
            return app::answered(page->exploreLook().explored).front.size() > 0 &&
                   !app::answered(page->exploreLook().schools).empty();
        },
        60000);
}

} // namespace

/// The Air station by mouse and keys: fans, screens, the way it stands, what is left open.
class AirWindowTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

    /// A fan is flipped by its key, the case laid down, a screen taken off: each is seen at once, and taken back.
    void whatIsChangedIsSeen() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* page = airOf(w);
        const double before = cpu(w);
        w.context.selection.select(core::FanRef{"side-a"});
        QTest::keyClick(page, Qt::Key_R);
        QVERIFY(cpu(w) > before + 2); // it drew the cooler's air in
        w.key(Qt::Key_Z, Qt::ControlModifier);
        const std::string standing = w.document().revision();
        state(w, "Stand or lay the case", {{"down", "left"}});
        QVERIFY(w.document().revision() != standing);
        const auto* lying = w.document().result().evaluation->air.part("tray/cpu");
        QVERIFY(!lying->weak.empty() && lying->bandK >= 5);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        w.document().selectRevision(standing);
        const auto screened = [&] {
            const auto& openings = w.document().result().evaluation->build.openings;
            return std::find_if(openings.begin(), openings.end(),
                                [](const auto& o) { return o.screen != core::Screen::None; });
        };
        const std::string vent = screened()->id;
        const double covered = cpu(w);
        w.context.selection.select(core::OpeningRef{vent}); // the dialog is about what is selected
        state(w, "Dust screen", {{"screen", "off"}});
        QCOMPARE(w.document().result().evaluation->build.opening(vent)->screen, core::Screen::None);
        QVERIFY(cpu(w) < covered + 0.01);
    }
    /// E turns the station; what is found is listed, one is chosen by mouse and keys and made a revision.
    void exploredAndTaken() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* page = airOf(w);
        QTest::keyClick(page, Qt::Key_E);
        QVERIFY(page->isExploring());
        QVERIFY(explored(page));
        const auto& found = app::answered(page->exploreLook().explored);
        QVERIFY(found.counted > 1000 && found.front.size() >= 2);
        const int chosen = page->exploreLook().chosen; // the quietest that holds, else the coolest
        QVERIFY(chosen >= 0 && found.front[static_cast<std::size_t>(chosen)].holdsHot());
        QTest::keyClick(page, Qt::Key_Left);
        QCOMPARE(page->exploreLook().chosen, std::max(0, chosen - 1));
        page->grab();
        QVERIFY(w.click(page, app::Act::ChooseWay));
        const auto point = found.front[static_cast<std::size_t>(page->exploreLook().chosen)];
        // Each change by itself adds up to the whole, and its fan curves are written as a table and as words.
        double k = 0, db = 0;
        for (const auto& step : point.steps) {
            k += step.kelvin;
            db += step.noiseDb;
        }
        QCOMPARE_LE(std::abs(k - (point.headroomK - found.now.headroomK)), 0.2);
        QCOMPARE_LE(std::abs(db - (point.noiseDba - found.now.noiseDba)), 0.1);
        QVERIFY(page->saveCurves(dir.filePath("curves.csv")) && page->saveCurves(dir.filePath("curves.txt")));
        QFile csv(dir.filePath("curves.csv")), text(dir.filePath("curves.txt"));
        QVERIFY(csv.open(QIODevice::ReadOnly) && text.open(QIODevice::ReadOnly));
        QVERIFY(csv.readAll().startsWith("fan,follows,temperature_c,duty_percent\n"));
        QVERIFY(text.readAll().contains("follows"));
        QVERIFY(!page->saveCurves(dir.filePath("none/curves.csv")));
        QVERIFY(page->saveSheet(dir.filePath("ways.csv")) && page->saveSheet(dir.filePath("ways.svg")));
        QFile ways(dir.filePath("ways.csv")), drawn(dir.filePath("ways.svg"));
        QVERIFY(ways.open(QIODevice::ReadOnly) && drawn.open(QIODevice::ReadOnly));
        QCOMPARE(ways.readAll().count('\n'), static_cast<qsizetype>(found.front.size()) + 1);
        QVERIFY(drawn.readAll().contains("<svg"));
        const std::size_t revisions = w.document().project().revisions.size();
        QTest::keyClick(page, Qt::Key_Return);
        QVERIFY(!page->isExploring());
        QCOMPARE(w.document().project().revisions.size(), revisions + 1);
        const auto* made = w.document().project().revision(w.document().revision());
        QCOMPARE(made->parent, std::string("R10"));
        QCOMPARE(made->changes, point.changes);
        QCOMPARE_LE(std::abs(w.document().result().evaluation->noise.totalDba - point.noiseDba), 0.02);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(w.document().project().revisions.size(), revisions);
    }
    /// What is left open is turned on and off: other ways are possible, and what stays is in none of them.
    void whatIsLeftOpen() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* page = airOf(w);
        QTest::keyClick(page, Qt::Key_E);
        QVERIFY(explored(page));
        const auto possible = app::answered(page->exploreLook().explored).possible;
        for (const Qt::Key key : {Qt::Key_S, Qt::Key_A, Qt::Key_C}) // screens, panels, places
            QTest::keyClick(page, key);
        QVERIFY(w.click(page, app::Handle{.act = app::Act::TurnOpen, .of = {}, .row = 4})); // lying
        QVERIFY(QTest::qWaitFor(
            [&] {
                const auto& now = page->exploreLook().explored;
                return now.standing == app::Standing::Ready && app::answered(now).possible < possible;
            },
            60000));
        for (const auto& point : app::answered(page->exploreLook().explored).front)
            for (const core::Change& change : point.changes)
                QVERIFY(!std::holds_alternative<core::SetScreen>(change) &&
                        !std::holds_alternative<core::SetOpening>(change) &&
                        !std::holds_alternative<core::Orient>(change));
    }
    /// A, B and C look from the side, the front and above, D at what differs from the baseline: no label covers another
    /// or leaves the drawing, on any of them.
    void fromThreeSides() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* page = airOf(w);
        for (const QSize size : {QSize(1100, 700), QSize(1280, 800)}) {
            w.window->resize(size);
            for (const Qt::Key key : {Qt::Key_B, Qt::Key_C, Qt::Key_A, Qt::Key_D}) {
                QTest::keyClick(page, key);
                QImage image(page->size(), QImage::Format_ARGB32_Premultiplied);
                QPainter painter(&image);
                const app::Theme theme = app::Theme::light();
                app::Canvas c(painter, theme);
                page->paintInside(c, page->inside());
                QVERIFY2(c.labels.size() >= 4, qPrintable(QString::number(c.labels.size())));
                for (std::size_t i = 0; i < c.labels.size(); ++i) {
                    QVERIFY(page->inside().adjusted(-2, -2, 2, 2).contains(c.labels[i]));
                    for (std::size_t k = 0; k < i; ++k)
                        QVERIFY(!c.labels[i].adjusted(0.6, 0.6, -0.6, -0.6).intersects(c.labels[k]));
                }
            }
            QCOMPARE(page->airLook().againstBaseline, size.width() == 1100);
            QCOMPARE(page->airLook().sight, app::AirSight::Side);
        }
        QTest::keyClick(page, Qt::Key_D);
        page->grab();
        const auto differs = [](const app::Hit& hit) { return hit.name.contains("CPU") && hit.name.contains(" K"); };
        QVERIFY(std::any_of(page->hits().begin(), page->hits().end(), differs));
        QVERIFY(w.click(page, app::Act::TurnDifference));
        page->grab();
        QVERIFY(std::none_of(page->hits().begin(), page->hits().end(), differs));
        QVERIFY(w.click(page, app::Act::ChooseSight));
    }
    /// The network is looked at, a way of air chosen, its resistance set by hand with a note: temperatures follow, it
    /// is told, and taken back in one step.
    void aValueByHand() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        auto* page = airOf(w);
        const double before = cpu(w);
        QTest::keyClick(page, Qt::Key_N);
        QVERIFY(page->pane() == app::AirPane::Network);
        page->grab();
        std::size_t ways = 0;
        for (const app::Hit& hit : page->hits())
            ways += std::holds_alternative<core::BranchRef>(hit.thing) ? 1 : 0;
        const auto& net = w.document().result().evaluation->air.solved->compiled.network;
        QVERIFY(ways > net.branches.size()); // on the drawing and in the list
        w.context.selection.select(core::BranchRef{"cooler tray/cpu/lid"});
        QVERIFY(app::workingOf(w.context.view(), core::BranchRef{"cooler tray/cpu/lid"}));
        QTest::keyClick(page, Qt::Key_Return);
        auto* dialog = qobject_cast<app::AirValueDialog*>(w.openDialog());
        QVERIFY(dialog);
        auto* value = dialog->findChild<QLineEdit*>("value");
        dialog->findChild<QComboBox*>("quantity")->setCurrentIndex(1); // to fast air
        const double was = value->text().replace(',', '.').toDouble();
        QVERIFY(was > 100);
        value->setText(QString::number(was * 40));
        dialog->accept();
        QVERIFY(!dialog->problem().isEmpty()); // why, is asked for
        dialog->findChild<QLineEdit*>("note")->setText("fins full of dust");
        dialog->accept();
        QCOMPARE(w.document().project().airValues.size(), 1UL);
        QVERIFY2(cpu(w) > before + 0.5, qPrintable(QString::number(cpu(w) - before)));
        const auto& findings = w.document().result().evaluation->findings;
        QVERIFY(std::any_of(findings.begin(), findings.end(), [&](const auto& f) {
            return w.context.view().words(f.text).contains("fins full of dust");
        }));
        w.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(cpu(w), before);
        QTest::keyClick(page, Qt::Key_Escape);
        QVERIFY(page->pane() == app::AirPane::Section);
    }
    /// The warm-up is stepped through by keys, gone to with the mouse, and played to its end.
    void theWarmUpIsPlayed() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* page = airOf(w);
        QTest::keyClick(page, Qt::Key_H);
        QVERIFY(page->pane() == app::AirPane::WarmUp);
        QVERIFY(QTest::qWaitFor([&] { return !app::answered(page->airLook().warmUp).rows.empty(); }, 20000));
        const auto& warm = app::answered(page->airLook().warmUp);
        QVERIFY(warm.rows.back().seconds >= 3600);
        QTest::keyClick(page, Qt::Key_Right);
        QCOMPARE(page->airLook().row, 1UL);
        QTest::keyClick(page, Qt::Key_PageDown);
        QCOMPARE(page->airLook().row, 21UL);
        page->grab();
        for (const app::Hit& hit : page->hits())
            if (hit.is(app::Act::SetMoment)) {
                QTest::mouseClick(page, Qt::LeftButton, Qt::NoModifier, hit.rect.center().toPoint());
                break;
            }
        QCOMPARE_LE(std::abs(static_cast<double>(page->airLook().row) - static_cast<double>(warm.rows.size()) / 2),
                    3.0);
        page->grab();
        for (const app::Hit& hit : page->hits())
            if (hit.is(app::Act::SetMoment)) { // what the pointer is over is told
                QTest::mouseMove(page, (hit.rect.center() + QPointF(hit.rect.width() / 4, 0)).toPoint());
                break;
            }
        QVERIFY(page->airLook().pointed);
        QCOMPARE_LE(
            std::abs(static_cast<double>(*page->airLook().pointed) - static_cast<double>(warm.rows.size()) * 0.75),
            3.0);
        page->setMoment(static_cast<std::ptrdiff_t>(warm.rows.size()) - 4);
        QTest::keyClick(page, Qt::Key_Space);
        QVERIFY(page->airLook().playing);
        QVERIFY(QTest::qWaitFor([&] { return !page->airLook().playing; }, 5000));
        QCOMPARE(page->airLook().row, warm.rows.size() - 1);
        const auto& settled = w.document().result().evaluation->air;
        QCOMPARE_LE(std::abs(warm.partC(warm.rows.size() - 1, 0) - settled.part("card")->temperatureC), 0.3);
    }
    /// Space draws the way that is chosen over what is there: another build with readings of its own, nothing changed.
    void aWayIsDrawn() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* page = airOf(w);
        QTest::keyClick(page, Qt::Key_E);
        QVERIFY(explored(page));
        const core::Project before = w.document().project();
        QTest::keyClick(page, Qt::Key_Space);
        const auto ghost = [&] { return page->exploreLook().ghost.value.get(); };
        const auto drawn = [&] {
            return page->exploreLook().ghost.standing == results::Standing::Ready && ghost() && ghost()->evaluation;
        };
        QVERIFY(QTest::qWaitFor(drawn, 10000));
        const auto wayNow = [&] {
            return app::answered(page->exploreLook().explored)
                .front[static_cast<std::size_t>(page->exploreLook().chosen)];
        };
        QCOMPARE_LE(std::abs(ghost()->evaluation->noise.totalDba - wayNow().noiseDba),
                    0.05); // what the list says of it
        page->grab();
        QVERIFY(std::any_of(page->hits().begin(), page->hits().end(),
                            [](const app::Hit& hit) { return std::holds_alternative<core::PartRef>(hit.thing); }));
        QVERIFY(std::none_of(page->hits().begin(), page->hits().end(),
                             [](const app::Hit& hit) { return hit.is(app::Act::ChooseWay); }));
        QTest::keyClick(page, Qt::Key_Right); // arrows go along the front
        QVERIFY(QTest::qWaitFor(
            [&] { return drawn() && std::abs(ghost()->evaluation->noise.totalDba - wayNow().noiseDba) < 0.05; },
            10000));
        QVERIFY(w.document().project() == before);
        QVERIFY(page->saveSheet(dir.filePath("way.csv"))); // of what is drawn, not of what is there
        const std::string table = support::bytesOf(dir.filePath("way.csv")).toStdString();
        QVERIFY(table.starts_with("part,temperature_c"));
        const auto hottest = ghost()->evaluation->air.part("tray/cpu")->temperatureC;
        QVERIFY2(table.find(core::shortest(std::round(hottest * 1e6) / 1e6)) != std::string::npos, table.c_str());
        // A dialog that tries a change beside it takes nothing from it.
        const auto drawnBefore = page->exploreLook().ghost.value;
        const auto tried =
            std::make_shared<core::Project>(app::Document::withRevision(before, "R99", "R10", {core::FlipFan{"top"}}));
        QVERIFY(QTest::qWaitFor(
            [&] { return w.document().results().preview(tried, "R99", "R10").standing == results::Standing::Ready; },
            10000));
        QVERIFY(drawn() && page->exploreLook().ghost.value == drawnBefore);
        QTest::keyClick(page, Qt::Key_Escape); // back to the choices, not out of them
        QVERIFY(page->isExploring());
        page->grab();
        const auto button = std::find_if(page->hits().begin(), page->hits().end(),
                                         [](const app::Hit& hit) { return hit.is(app::Act::DrawWay); });
        QVERIFY(button != page->hits().end());
        QTest::mouseClick(page, Qt::LeftButton, Qt::NoModifier, button->rect.center().toPoint());
        QVERIFY(page->exploreLook().drawn);
        QVERIFY(page->saveSheet(dir.filePath("way.svg")));
    }
    /// M shows the section with what the runs taught put in; the project and what others show stay.
    void theSectionAsTaught() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* page = airOf(w);
        w.document().finishAnalyses();
        QTest::keyClick(page, Qt::Key_M);
        QVERIFY(page->airLook().asTaught);
        QVERIFY(QTest::qWaitFor([&] { return page->airLook().taught != nullptr; }, 60000));
        const auto& taught = page->airLook().taught->evaluation->air;
        const auto& known = *w.document().taught().value;
        for (std::size_t i = 0; i < known.parts.size(); ++i) {
            QCOMPARE(taught.parts[i].temperatureC, known.parts[i].afterC);
            QCOMPARE(taught.parts[i].bandK, known.parts[i].bandAfterK);
        }
        QVERIFY(known.parts.front().bandAfterK < known.parts.front().bandBeforeK);
        page->grab();
        // What is saved of it is what is shown: the taught figures, in the first rows of the table.
        const auto rows = [&] {
            if (!page->saveSheet(dir.filePath("air.csv")))
                return std::vector<QStringList>{};
            std::vector<QStringList> all;
            for (const QString& row : QString::fromUtf8(support::bytesOf(dir.filePath("air.csv"))).split('\n'))
                all.push_back(row.split(','));
            return all;
        };
        const auto shown = rows();
        QVERIFY(shown.size() > known.parts.size());
        for (std::size_t i = 0; i < known.parts.size(); ++i) {
            QCOMPARE_LE(std::abs(shown[i + 1].at(1).toDouble() - known.parts[i].afterC), 1e-5);
            QCOMPARE_LE(std::abs(shown[i + 1].at(2).toDouble() - known.parts[i].bandAfterK), 1e-5);
        }
        QTest::keyClick(page, Qt::Key_M);
        QCOMPARE_LE(std::abs(rows().at(1).at(2).toDouble() - known.parts.front().bandBeforeK), 1e-5);
        QVERIFY(!page->airLook().asTaught && !page->airLook().taught);
    }
    /// An edit while the warm-up is shown: the states of before are of another network, and are never put into it.
    void theWarmUpOfAnotherNetwork() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().setBackground(true);
        w.document().selectRevision("R11");
        auto* page = airOf(w);
        QTest::keyClick(page, Qt::Key_H);
        const auto played = [&] { return !app::answered(page->airLook().warmUp).rows.empty(); };
        QVERIFY(QTest::qWaitFor(played, 20000));
        page->setMoment(100);
        int waited = 0;
        for (const core::Change& change :
             {core::Change(core::RemovePart{"top"}), core::Change(core::RemovePart{"card"})}) {
            const auto before = app::answered(page->airLook().warmUp).of;
            QVERIFY(w.document().addChange(change));
            (void)w.document().result();
            page->grab(); // the new build with the answer of before: no moment of it is shown
            if (app::answered(page->airLook().warmUp).of != w.document().result().evaluation->air.solved) {
                ++waited;
                QVERIFY(std::none_of(page->hits().begin(), page->hits().end(),
                                     [](const app::Hit& hit) { return hit.is(app::Act::SetMoment); }));
            }
            QVERIFY(page->saveSheet(dir.filePath("warm.svg")));
            QVERIFY(QTest::qWaitFor(
                [&] {
                    const auto& now = app::answered(page->airLook().warmUp).of;
                    return now && now != before && now == w.document().result().evaluation->air.solved;
                },
                20000));
            page->grab();
        }
        QVERIFY(waited > 0);
        QCOMPARE(app::answered(page->airLook().warmUp).rows.front().state.parts.size(), std::size_t{2});
    }
    /// Noise is told under every load; what runs taught stands in Working with the run that would narrow it most.
    void loadsAndLearning() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        auto* page = airOf(w);
        QVERIFY(QTest::qWaitFor([&] { return app::answered(page->airLook().loads).size() == 4; }, 10000));
        w.document().finishAnalyses();
        QVERIFY(QTest::qWaitFor([&] { return !app::answered(w.document().taught()).parts.empty(); }, 60000));
        const auto working = app::workingOf(w.context.view(), core::PartRef{"card"});
        QVERIFY(working && !working->learned.empty());
        QVERIFY(w.context.view().words(working->learned).contains("simulated"));
        for (std::size_t i = 1; i < working->nextRuns.size(); ++i)
            QVERIFY(working->nextRuns[i - 1].bandK <= working->nextRuns[i].bandK);
    }
    /// Rooms and ways of air about a radiator are called by what one knows, not by how the network numbers them.
    void waysAboutARadiatorHaveNames() {
        Window w;
        QTemporaryDir dir;
        const QString path = dir.filePath("liquid");
        QVERIFY(
            store::saveProject(store::openProject(support::sourcePath("examples") + "/liquid-cooled")->project, path));
        QVERIFY(w.window->openPath(path));
        w.document().selectRevision("R1");
        auto* page = airOf(w);
        QTest::keyClick(page, Qt::Key_N);
        page->grab();
        int named = 0;
        for (const app::Hit& hit : page->hits()) {
            QVERIFY2(!hit.name.contains("side-radiator"), qPrintable(hit.name));
            named += hit.name.contains("through Radiator") || hit.name.contains("fans before Radiator") ||
                             hit.name.contains("fans behind Radiator")
                         ? 1
                         : 0;
        }
        QVERIFY(named >= 2);
    }
    /// A radiator where the grille stood free: it goes in, its fans too, the processor follows its air.
    void aRadiatorGoesIn() {
        Window w;
        QTemporaryDir dir;
        const QString path = dir.filePath("liquid");
        QVERIFY(
            store::saveProject(store::openProject(support::sourcePath("examples") + "/liquid-cooled")->project, path));
        QVERIFY(w.window->openPath(path));
        w.document().selectRevision("R1");
        airOf(w);
        const double cooled = cpu(w);
        QVERIFY(w.document().newRevision("R1", {core::RemovePart{"side-radiator"}}));
        w.document().selectRevision(w.document().project().revisions.back().id);
        const double bare = cpu(w);
        QVERIFY2(bare > cooled + 10, "a block without a radiator gives off next to nothing");
        state(w, "Place a part", {{"part", "radiator"}, {"mount", "side-radiator"}});
        QVERIFY(cpu(w) < bare); // its fins alone
        state(w, "Place a part", {{"part", "fan-120"}, {"mount", "side-radiator/fan-1"}});
        state(w, "Set a fan's speed", {{"mount", "side-radiator/fan-1"}, {"duty", "70"}});
        QCOMPARE_LE(std::abs(cpu(w) - cooled), 0.05);
    }
    /// A fan's curve is pasted as a table: with a heading that names units, with commas or tabs, from a file; what
    /// cannot be read is told by its line and taken by nobody.
    void aCurveIsPasted() {
        Window w;
        std::vector<core::NumberField> columns;
        for (const core::FieldOutline& f : app::StructForm::outlineOf("fan point")->fields)
            columns.push_back(f.about);
        app::PointsEdit edit(w.context, columns, nullptr);
        const auto close = [&](double flow, double pressure, std::size_t row) {
            const auto points = edit.points();
            return points && points->size() > row && std::abs((*points)[row][0] - flow) < 1e-7 &&
                   std::abs((*points)[row][1] - pressure) < 1e-6;
        };
        edit.setPlainText("flow (CFM)\tpressure (Pa)\n0\t20\n30\t7,5");
        QVERIFY(close(30 * 4.719474e-4, 7.5, 1));
        edit.setPlainText("0,20\n36,5"); // as a file has it: commas between
        QVERIFY(close(0.01, 5, 1));
        edit.setPlainText("36 5,5");
        QVERIFY(close(0.01, 5.5, 0));
        edit.setPlainText("0 20\n36 x");
        QVERIFY(!edit.points() && QString::fromStdString(edit.points().error().text()).contains("line 2"));
        edit.setPlainText("0 20 1");
        QVERIFY(!edit.points());
        edit.show({{0.01, 5}, {0.02, 0}});
        QVERIFY(close(0.01, 5, 0));
        edit.show({{0.0123456789012, 5}, {0.02, 0}}); // what is not touched stays to the last digit
        QCOMPARE((*edit.points())[0][0], 0.0123456789012);
        QTemporaryDir dir;
        QFile file(dir.filePath("curve.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("flow;pressure\r\n0;30\r\n72;0\r\n");
        file.close();
        QVERIFY(edit.read(file.fileName()));
        QVERIFY(close(0.02, 0, 1));
        QVERIFY(!edit.read(dir.filePath("none.csv")));
        QVERIFY(close(0.02, 0, 1)); // what stood there stays
        QSignalSpy refused(&edit, &app::PointsEdit::refused);
        QFile bytes(dir.filePath("picture.csv"));
        QVERIFY(bytes.open(QIODevice::WriteOnly));
        bytes.write(QByteArray(10, '\0'));
        bytes.close();
        auto* dropped = new QMimeData; // dropped or pasted: the same way in
        dropped->setUrls({QUrl::fromLocalFile(bytes.fileName())});
        QGuiApplication::clipboard()->setMimeData(dropped);
        edit.paste();
        QCOMPARE(refused.count(), 1);
        QVERIFY(close(0.02, 0, 1));
    }
    /// Of one temperature: its band, and what the band comes from.
    void bandAndWorking() {
        Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R11");
        airOf(w);
        const auto& e = *w.document().result().evaluation;
        const auto working = core::explain::ofPart(e, "tray/cpu");
        QVERIFY(working.band > 2 && working.doubt.size() >= 3);
        double sum = 0;
        for (const auto& d : working.doubt)
            sum += d.share;
        QCOMPARE_LE(std::abs(sum - 1), 1e-9);
    }
};

} // namespace tst_air_window
MD_TEST(tst_air_window, AirWindowTest)
#include "tst_air_window.moc"
