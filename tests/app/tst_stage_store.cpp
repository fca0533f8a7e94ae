// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_page.h"
#include "support/patience.h"
#include "support/registry.h"
#include "support/window.h"

#include <QElapsedTimer>
#include <QSignalSpy>

#include <atomic>
#include <random>

namespace tst_stage_store {

using app::StageStore;
using app::Standing;
using core::stages::Stage;

/// Results beside the window: remembered by content, the newest wins, what was there stays until then, nobody waits.
class StageStoreTest : public QObject {
    Q_OBJECT
    core::Project m_demo;

    /// A stage that answers its input, and waits for a word first.
    struct Slow {
        std::shared_ptr<std::atomic<bool>> go = std::make_shared<std::atomic<bool>>(false);
        std::shared_ptr<std::atomic<int>> begun = std::make_shared<std::atomic<int>>(0),
                                          stopped = std::make_shared<std::atomic<int>>(0);
        auto operator()(int input) const {
            return [*this, input](const results::Watch& stop) -> core::Result<std::shared_ptr<const int>> {
                ++*begun;
                while (!*go && !stop())
                    QThread::msleep(1);
                if (stop())
                    ++*stopped;
                return std::make_shared<int>(input);
            };
        }
    };
    static constexpr StageStore::Key key() { return {Stage::Gaps, {}}; }

private slots:
    void initTestCase() {
        QStandardPaths::setTestModeEnabled(true);
        app::loadFonts();
        m_demo = support::demoProject();
    }

    void rememberedByContent() {
        StageStore store;
        Slow slow;
        *slow.go = true;
        QCOMPARE(*store.ask<int>(key(), 7, slow(7)).value, 7);
        QCOMPARE(*store.ask<int>(key(), 7, slow(8)).value, 7); // reads the same: not worked out again
        QCOMPARE(*store.ask<int>(key(), 9, slow(9)).value, 9);
        QCOMPARE(store.started(Stage::Gaps), 2);
    }
    void theNewestWins() {
        StageStore store;
        store.setPace(StageStore::Pace::Beside);
        QSignalSpy published(&store, &StageStore::published), idle(&store, &StageStore::idle);
        Slow slow;
        for (int i = 1; i <= 5; ++i)
            QCOMPARE(store.ask<int>(key(), i, slow(i)).standing, Standing::Pending);
        *slow.go = true;
        WAIT_COMPARE(idle.count(), 1);
        const auto answer = store.peek<int>(key());
        QCOMPARE(answer.standing, Standing::Ready);
        QCOMPARE(*answer.value, 5);
        QCOMPARE(published.count(), 1); // the others told nobody
    }
    /// What somebody pressed a button for does not stand behind hundreds of analyses; forgotten work is no longer
    /// waited for, and who works in idle time is told.
    void aSearchWaitsForNobody() {
        StageStore store;
        store.setPace(StageStore::Pace::Beside);
        QSignalSpy idle(&store, &StageStore::idle);
        Slow run, search;
        (void)store.ask<int>({Stage::Run, "a"}, 1, run(1));
        WAIT_COMPARE(run.begun->load(), 1);
        (void)store.ask<int>({Stage::Search, "R1"}, 1, search(1));
        WAIT_COMPARE(search.begun->load(), 1);
        *run.go = true;
        WAIT_VERIFY(!store.isPending({Stage::Run, "a"}));
        QVERIFY(!store.isIdle());
        QCOMPARE(idle.count(), 0);
        store.forget({Stage::Search, "R1"});
        WAIT_COMPARE(idle.count(), 1);
        QVERIFY(store.isIdle());
    }
    void whatWasThereStays() {
        StageStore store;
        store.setPace(StageStore::Pace::Beside);
        Slow first, second;
        *first.go = true;
        (void)store.ask<int>(key(), 1, first(1));
        store.wait(key());
        const auto meanwhile = store.ask<int>(key(), 2, second(2));
        QCOMPARE(meanwhile.standing, Standing::Pending);
        QCOMPARE(*meanwhile.value, 1);
        *second.go = true;
        store.wait(key());
        QCOMPARE(*store.peek<int>(key()).value, 2);
    }
    void failedInWords() {
        StageStore store;
        const auto answer =
            store.ask<int>(key(), 1, [](const results::Watch&) -> core::Result<std::shared_ptr<const int>> {
                return core::problem("here", "it cannot be", "something else");
            });
        QCOMPARE(answer.standing, Standing::Failed);
        QVERIFY(QString::fromStdString(answer.why).contains("it cannot be"));
    }
    /// Quitting ends at once, whatever runs and whatever waits.
    void endsAtOnce() {
        Slow slow;
        QElapsedTimer timer;
        {
            StageStore store;
            store.setPace(StageStore::Pace::Beside);
            for (int i = 0; i < 20; ++i)
                (void)store.ask<int>({i % 2 ? Stage::Run : Stage::Gaps, std::to_string(i)}, i, slow(i));
            WAIT_VERIFY(*slow.begun >= 1);
            timer.start();
        }
        QVERIFY2(timer.elapsed() < 300 * kPatience, qPrintable(QString::number(timer.elapsed())));
    }
    void quittingWhileRunsAreAnalysed() {
        QElapsedTimer timer;
        {
            app::Document d;
            d.setBackground(true);
            d.reset(m_demo, {});
            for (const core::Run& run : m_demo.runs)
                (void)d.analysis(run.id);
            (void)d.ways();
            (void)d.rooms();
            QTest::qWait(30); // the first is in the middle of its work
            timer.start();
        }
        QVERIFY2(timer.elapsed() < 300 * kPatience, qPrintable(QString::number(timer.elapsed())));
    }
    /// A guard: what is asked for while something is painted begins afterwards.
    void nothingStartsWhilePainting() {
        StageStore store;
        store.setPace(StageStore::Pace::Beside);
        Slow slow;
        *slow.go = true;
        {
            const results::PaintingNow painting;
            QCOMPARE(store.ask<int>(key(), 1, slow(1)).standing, Standing::Pending);
            QCOMPARE(store.started(Stage::Gaps), 0);
        }
        WAIT_COMPARE(store.peek<int>(key()).standing, Standing::Ready);
        QCOMPARE(store.started(Stage::Gaps), 1);
        QCOMPARE(store.startedWhilePainting(), 0);
    }

    // ---- the document ----

    void anEditShowsWhatWasThereAndThenTheNew() {
        app::Document d;
        d.setBackground(true);
        d.reset(m_demo, {});
        d.selectRevision("R10");
        const double before = d.result().evaluation->noise.totalDba;
        QSignalSpy changed(&d, &app::Document::changed);
        QVERIFY(d.edit("listener", [](core::Project& p) { p.brief.listenerM *= 2; }));
        QVERIFY(d.isPending("R10"));
        QCOMPARE(d.shown("R10").evaluation->noise.totalDba, before); // nobody waited
        QTRY_VERIFY_WITH_TIMEOUT(changed.count() > 0 && !d.isPending("R10"), 5000 * kPatience);
        QVERIFY(d.shown("R10").evaluation->noise.totalDba < before - 5);
        // Who acts on it waits for it.
        QVERIFY(d.edit("listener", [](core::Project& p) { p.brief.listenerM /= 2; }));
        QCOMPARE(d.result().evaluation->noise.totalDba, before);
    }
    void manyEditsEndWhereTheLastOneLeads() {
        app::Document d;
        d.setBackground(true);
        d.reset(m_demo, {});
        d.selectRevision("R10");
        std::mt19937 random(3);
        for (int round = 0; round < 20; ++round) {
            for (int i = 0; i < 7; ++i)
                QVERIFY(d.addChange(
                    core::SetFan{"top", core::FanMode::Fixed, 0.3 + 0.1 * static_cast<double>(random() % 7)}));
            QTest::qWait(static_cast<int>(random() % 4));
            const auto fresh = core::stages::evaluate(d.project(), d.revision());
            QCOMPARE(d.result().evaluation->noise.totalDba, fresh->noise.totalDba);
        }
    }
    void aPriceStartsNoAir() {
        app::Document d;
        d.setBackground(true);
        d.reset(m_demo, {});
        d.selectRevision("R10");
        (void)d.result();
        QTRY_VERIFY_WITH_TIMEOUT(d.stages().isIdle(), 30000 * kPatience); // under a sanitizer the logs take seconds
        QTest::qWait(50);
        QTRY_VERIFY_WITH_TIMEOUT(d.stages().isIdle(), 30000 * kPatience); // under a sanitizer the logs take seconds
        const int air = d.stages().started(Stage::Air), gaps = d.stages().started(Stage::Gaps),
                  making = d.stages().started(Stage::Making);
        const double price = d.result().evaluation->price;
        QVERIFY(d.edit("price", [&](core::Project& p) {
            p.shelf.edit(d.result().evaluation->build.at("card")->part->id)->price += 11;
        }));
        QCOMPARE(d.result().evaluation->price, price + 11);
        WAIT_VERIFY(d.stages().isIdle());
        QCOMPARE(d.stages().started(Stage::Air), air);
        QCOMPARE(d.stages().started(Stage::Gaps), gaps);
        QVERIFY(d.stages().started(Stage::Making) > making);
    }
    /// What the result does not read is shown as it is now, though the result stays as it was: names, baseline, other
    /// runs.
    void whatIsNotReadIsShownAsItIs() {
        for (const bool beside : {false, true}) {
            app::Document d;
            d.setBackground(beside);
            d.reset(m_demo, {});
            d.selectRevision("R10");
            (void)d.result();
            QVERIFY(d.edit("name", [](core::Project& p) {
                p.name = "another name";
                p.baseline = "R2";
                p.revisions.push_back({.id = "R99", .parent = "R1"});
            }));
            WAIT_VERIFY(!d.isPending("R10") || (!beside && d.shown("R10").evaluation));
            const app::View v{d, core::Show()};
            QCOMPARE(v.project().name, std::string("another name"));
            QCOMPARE(v.project().baseline, std::string("R2"));
            QVERIFY(v.project().revision("R99"));
        }
    }
    /// Revisions that nobody looks at are there in the end, without being asked for.
    void outOfSightIsComputedInIdleTime() {
        app::Document d;
        d.setBackground(true);
        d.reset(m_demo, {});
        QTRY_VERIFY_WITH_TIMEOUT(std::none_of(m_demo.revisions.begin(), m_demo.revisions.end(),
                                              [&](const core::Revision& r) { return d.isPending(r.id); }),
                                 20000 * kPatience);
        const int looks = d.stages().started(Stage::Verdict);
        for (const core::Revision& r : m_demo.revisions)
            QVERIFY(d.shown(r.id).evaluation || !d.shown(r.id).problem.empty());
        QCOMPARE(d.stages().started(Stage::Verdict), looks);
    }

    /// While edits follow each other, as in a drag, only what is looked at is computed; the others, also those in sight
    /// on the rail, show what they had and follow when it is calm.
    void aDragHasTheProcessorForItself() {
        app::Document d;
        d.setBackground(true);
        d.reset(m_demo, {});
        const auto allThere = [&] {
            return std::none_of(m_demo.revisions.begin(), m_demo.revisions.end(),
                                [&](const core::Revision& r) { return d.isPending(r.id); });
        };
        QTRY_VERIFY_WITH_TIMEOUT(allThere(), 20000 * kPatience);
        const int before = d.stages().started(Stage::Verdict);
        constexpr int moves = 15;
        for (int i = 0; i < moves; ++i) {
            QVERIFY(d.edit(
                "drag",
                [](core::Project& p) {
                    std::get<core::CaseSpec>(p.shelf.edit("case-1")->spec).openings[0].centreMm[0] += 0.1;
                },
                77));
            for (const core::Revision& r : m_demo.revisions) // as the rail does
                QVERIFY(d.shown(r.id).evaluation || !d.shown(r.id).problem.empty());
            QTest::qWait(15);
        }
        QVERIFY(!allThere());
        QVERIFY2(d.stages().started(Stage::Verdict) - before <= moves,
                 qPrintable(QString::number(d.stages().started(Stage::Verdict) - before)));
        QTRY_VERIFY_WITH_TIMEOUT(allThere(), 20000 * kPatience);
        for (const core::Revision& r : m_demo.revisions)
            if (const auto fresh = core::stages::evaluate(d.project(), r.id))
                QCOMPARE(d.shown(r.id).evaluation->air.parts.front().temperatureC,
                         fresh->air.parts.front().temperatureC);
        // Taken back: what is there is told, though nothing has to be computed.
        QTest::qWait(300);
        QVERIFY(d.edit("there", [](core::Project& p) { p.brief.roomC += 1; }));
        d.undoStack().undo();
        (void)d.shown("R1");
        QSignalSpy told(&d, &app::Document::changed);
        WAIT_VERIFY(!told.isEmpty());
        QVERIFY(d.shown("R1").evaluation);
        QTRY_VERIFY_WITH_TIMEOUT(allThere(), 20000 * kPatience);
    }

    // ---- the window, at the pace of the program ----

    /// Through every station, list and revision with edits in between: no stage starts inside a paint, all ends right.
    void theWindowStartsNothingWhilePainting() {
        support::Window w;
        w.document().setBackground(true);
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(1280, 800);
        auto* fit = static_cast<app::FitPage*>(w.window->page(1));
        for (const core::Revision& r : w.document().project().revisions) {
            w.document().selectRevision(r.id);
            for (int station = 0; station < 6; ++station) {
                w.window->setStation(station);
                w.window->page(station)->repaint();
                w.window->page(station)->stepSelection(1);
                QApplication::processEvents();
            }
            for (int list = 0; list < 5; ++list) {
                fit->choose(static_cast<app::FitLook::List>(list));
                fit->repaint();
                QApplication::processEvents();
            }
        }
        w.window->setStation(2);
        for (int i = 0; i < 6; ++i) {
            WAIT_VERIFY(w.click(w.window->page(2), app::Act::TurnFan));
            w.window->page(2)->repaint();
        }
        QTRY_VERIFY_WITH_TIMEOUT(w.document().stages().isIdle(), 30000 * kPatience);
        QCOMPARE(w.document().stages().startedWhilePainting(), 0);
        QVERIFY(!w.document().isPending(w.document().revision()));
        w.document().undoStack().setClean();
    }
    /// The lists of Fit fill when their answers are there.
    void answersFollow() {
        support::Window w;
        w.document().setBackground(true);
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R3");
        w.window->setStation(1);
        auto* fit = static_cast<app::FitPage*>(w.window->page(1));
        const auto rows = [&](auto stands) {
            fit->grab();
            return std::count_if(fit->hits().begin(), fit->hits().end(), stands);
        };
        using List = app::FitLook::List;
        fit->choose(List::Room);
        WAIT_VERIFY(rows(support::stands<core::RoomRef, app::Hit>) > 2);
        fit->choose(List::GoingIn);
        WAIT_VERIFY(
            std::holds_alternative<core::WayRef>(w.context.selection.thing())); // the first is drawn when it is known
        WAIT_VERIFY(rows(support::stands<core::WayRef, app::Hit>) > 2);
        fit->choose(List::Change);
        WAIT_VERIFY(rows(support::stands<core::MendRef, app::Hit>) > 1);
        fit->choose(List::Measure);
        WAIT_VERIFY(rows(support::stands<core::DimensionRef, app::Hit>) > 1);
    }
    /// The handler of a key does not wait for a stage: it is over long before the result is there.
    void inputDoesNotWait() {
        support::Window w;
        w.document().setBackground(true);
        QTemporaryDir dir;
        w.openDemo(dir);
        w.document().selectRevision("R10");
        w.window->setStation(2);
        (void)w.document().result();
        w.context.selection.select(core::FanRef{"top"});
        auto* air = w.window->page(2);
        int pending = 0;
        for (int i = 0; i < 20; ++i) {
            QTest::keyClick(air, Qt::Key_R);
            pending += w.document().isPending(w.document().revision());
            WAIT_VERIFY(!w.document().isPending(w.document().revision()));
        }
        QVERIFY2(pending >= 15, qPrintable(QString::number(pending))); // a quick stage may end first
        w.document().undoStack().setClean();
    }
};
} // namespace tst_stage_store
MD_TEST(tst_stage_store, StageStoreTest)
#include "tst_stage_store.moc"
