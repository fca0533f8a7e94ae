// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_page.h"
#include "core/explain/working.h"
#include "support/registry.h"
#include "support/window.h"

#include <QtTest>

namespace tst_air_window {

using support::Window;

namespace {

app::AirPage* airOf(Window& w) {
    w.window->setStation(2);
    return static_cast<app::AirPage*>(w.window->page(2));
}
double cpu(Window& w) { return w.document().result().evaluation->air.part("tray/cpu")->temperatureC; }
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
        QVERIFY(w.document().addChange(core::Orient{core::Side::Left}));
        const auto* lying = w.document().result().evaluation->air.part("tray/cpu");
        QVERIFY(!lying->weak.empty() && lying->bandK >= 5);
        w.key(Qt::Key_Z, Qt::ControlModifier);
        const auto screened = [&] {
            const auto& openings = w.document().result().evaluation->build.openings;
            return std::find_if(openings.begin(), openings.end(),
                                [](const auto& o) { return o.screen != core::Screen::None; });
        };
        const std::string vent = screened()->id;
        const double covered = cpu(w);
        QVERIFY(w.document().addChange(core::SetScreen{vent, core::Screen::None}));
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
