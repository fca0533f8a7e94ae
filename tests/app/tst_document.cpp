// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/background_job.h"
#include "app/model/document.h"
#include "app/model/jobs.h"
#include "app/model/settings.h"
#include "support/demo.h"
#include "support/patience.h"
#include "support/registry.h"

#include <QElapsedTimer>
#include <QSignalSpy>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QThread>

#include <malloc.h>
#include <random>

namespace tst_document {

using namespace app;
using core::FlipFan;

class DocumentTest : public QObject {
    Q_OBJECT
    core::Project m_demo;

private slots:
    void initTestCase() { m_demo = support::demoProject(); }

    void looksAtTheValidatedRevisionFirst() {
        Document d;
        d.reset(m_demo, {});
        QCOMPARE(d.revision(), std::string("R10"));
        QVERIFY(!d.isModified());
    }

    /// What was worked out of a log holds for the same log opened again, and for no other.
    void anOpenedLogIsAnalysedOnce() {
        Document d;
        d.reset(m_demo, {});
        (void)d.analyses();
        const int before = d.stages().started(core::stages::Stage::Run);
        core::Project again = m_demo;
        for (core::Run& run : again.runs)
            run.samples = std::make_shared<core::Samples>(*run.samples);
        d.reset(again, {});
        QCOMPARE(d.analyses().size(), m_demo.runs.size());
        QCOMPARE(d.stages().started(core::stages::Stage::Run), before);
        auto other = std::make_shared<core::Samples>(*again.runs.front().samples);
        other->channels.front().values.front() += 1;
        again.runs.front().samples = other;
        d.reset(again, {});
        (void)d.analyses();
        QCOMPARE(d.stages().started(core::stages::Stage::Run), before + 1);
        d.reset({}, {});
        QVERIFY(!d.stages().peek<core::bench::RunAnalysis>({core::stages::Stage::Run, again.runs.front().id}).value);
    }
    void changeOfALoggedRevisionMakesANewOne() {
        Document d;
        d.reset(m_demo, {});
        const auto id = d.addChange(FlipFan{"top"});
        QVERIFY(id);
        QCOMPARE(*id, std::string("R13"));
        QCOMPARE(d.revision(), std::string("R13"));
        QCOMPARE(d.project().revision("R13")->parent, std::string("R10"));
        // The new one has no runs yet: the next change stays in it.
        QCOMPARE(*d.addChange(core::SetFan{"top", core::FanMode::Fixed, 0.9}), std::string("R13"));
        QCOMPARE(d.project().revision("R13")->changes.size(), std::size_t{2});
    }

    void undoReachesEverything() {
        Document d;
        d.reset(m_demo, {});
        std::mt19937 random(9);
        std::vector<core::Project> states{d.project()};
        for (int i = 0; i < 40; ++i) {
            switch (random() % 5) {
            case 0:
                (void)d.addChange(FlipFan{"side-a"});
                break;
            case 1:
                (void)d.addChange(
                    core::SetFan{"side-a", core::FanMode::Fixed, 0.2 + 0.1 * static_cast<double>(random() % 8)});
                break;
            case 2:
                (void)d.edit("brief",
                             [&](core::Project& p) { p.brief.roomC = 20 + static_cast<double>(random() % 10); });
                break;
            case 3:
                (void)d.edit("baseline", [&](core::Project& p) { p.baseline = random() % 2 ? "R4" : "R6"; });
                break;
            default:
                (void)d.newRevision(d.revision(), {core::SetScreen{"floor-vent", core::Screen::Coarse}});
                break;
            }
            if (!(d.project() == states.back()))
                states.push_back(d.project());
        }
        QVERIFY(states.size() > 10);
        QCOMPARE(static_cast<std::size_t>(d.undoStack().count()), states.size() - 1);
        for (std::size_t i = states.size() - 1; i-- > 0;) {
            d.undoStack().undo();
            QVERIFY(d.project() == states[i]);
        }
        for (std::size_t i = 1; i < states.size(); ++i) {
            d.undoStack().redo();
            QVERIFY(d.project() == states[i]);
        }
    }

    void refusedEditsChangeNothing() {
        Document d;
        d.reset(m_demo, {});
        const auto before = d.shared();
        QVERIFY(!d.addChange(core::PlacePart{"nothing", "side-b"}));
        QVERIFY(!d.edit("room", [](core::Project& p) { p.brief.roomC = 500; }));
        QVERIFY(!d.edit("shelf", [](core::Project& p) { p.shelf.clear(); }));
        QCOMPARE(d.shared(), before);
        QCOMPARE(d.undoStack().count(), 0);
    }

    /// 400 parts, 300 revisions, 500 edits: a step of undo costs what it changed, and an edit is a fraction of a frame.
    void undoOfALargeProjectIsSmall() {
        core::Project p = m_demo;
        p.runs.clear();
        for (int i = 0; static_cast<int>(p.shelf.size()) < 400; ++i) {
            core::Part copy = std::as_const(p.shelf)[static_cast<std::size_t>(i) % m_demo.shelf.size()];
            copy.id = "copy-" + std::to_string(i);
            p.shelf.push_back(copy);
        }
        const std::string base = p.revisions.back().id;
        for (int i = 0; static_cast<int>(p.revisions.size()) < 300; ++i)
            p.revisions.push_back({.id = "Q" + std::to_string(i),
                                   .parent = base,
                                   .changes = {core::LimitPower{"tray/cpu", 40.0 + i % 20}},
                                   .note = "tried on a warm evening"});
        Document d;
        d.reset(p, {});
        d.selectRevision("Q250");
        const auto used = [] { return static_cast<double>(mallinfo2().uordblks + mallinfo2().hblkhd) / 1e6; };
        const double before = used();
        std::vector<double> tookMs;
        for (int i = 0; i < 500; ++i) {
            QElapsedTimer timer;
            timer.start();
            const bool done =
                i % 3 == 0
                    ? d.edit("price",
                             [&](core::Project& q) { q.shelf.edit("copy-" + std::to_string(i % 50))->price = 5 + i; })
                          .has_value()
                : i % 3 == 1 ? d.addChange(core::LimitPower{"tray/cpu", 30.0 + i % 30}).has_value()
                             : d.edit("room", [&](core::Project& q) { q.brief.roomC = 18 + i % 9; }).has_value();
            tookMs.push_back(static_cast<double>(timer.nsecsElapsed()) / 1e6);
            QVERIFY(done);
        }
        const double megabytes = used() - before;
        std::sort(tookMs.begin(), tookMs.end());
        qInfo("500 steps: %.1f MB; an edit %.2f ms in the middle, %.2f ms at the 95th percentile", megabytes,
              tookMs[250], tookMs[475]);
        QVERIFY2(megabytes < 50, qPrintable(QString::number(megabytes)));
        QVERIFY2(tookMs[250] < 5 * kPatience, qPrintable(QString::number(tookMs[250])));
        while (d.undoStack().canUndo())
            d.undoStack().undo();
        QVERIFY(d.project() == p);
    }
    /// An edit that walks over all parts shares again what it did not change.
    void whatIsOnlyLookedAtStaysShared() {
        Document d;
        d.reset(m_demo, {});
        const auto before = d.shared();
        QVERIFY(d.edit("one of them", [](core::Project& p) {
            for (core::Part& part : p.shelf)
                if (part.kind == core::PartKind::Fan)
                    part.price += 1;
        }));
        for (std::size_t i = 0; i < before->shelf.size(); ++i)
            QCOMPARE(d.project().shelf.isSame(i, before->shelf), before->shelf[i].kind != core::PartKind::Fan);
    }
    void resultsFollowTheProject() {
        Document d;
        d.reset(m_demo, {});
        const double before = d.result().evaluation->air.part("tray/cpu")->temperatureC;
        QVERIFY(d.edit("room", [](core::Project& p) { p.brief.roomC += 5; }));
        const double after = d.result().evaluation->air.part("tray/cpu")->temperatureC;
        QVERIFY(after > before + 1);
        d.undoStack().undo();
        QCOMPARE(d.result().evaluation->air.part("tray/cpu")->temperatureC, before);
        QVERIFY(d.lastEvaluationMs() < 50);
    }

    void backgroundAnalysesEndAlike() {
        Document now, later;
        now.reset(m_demo, {});
        later.setBackground(true);
        later.reset(m_demo, {});
        QSignalSpy changed(&later, &Document::changed);
        for (const core::Run& run : m_demo.runs)
            QVERIFY(!later.analysis(run.id) || !later.isAnalysing(run.id));
        QVERIFY(later.isAnalysing(m_demo.runs.front().id));
        QTRY_VERIFY_WITH_TIMEOUT(!later.isAnalysing(m_demo.runs.back().id) && changed.count() > 0, 20000 * kPatience);
        for (const core::Run& run : m_demo.runs) {
            const auto *a = now.analysis(run.id), *b = later.analysis(run.id);
            QVERIFY(a && b);
            QCOMPARE(a->channels.size(), b->channels.size());
            QCOMPARE(a->channels.front().settled, b->channels.front().settled);
        }
        QCOMPARE(now.result().verdict.proven, later.result().verdict.proven);
    }
    /// What a dialog asks for is told to the dialog: the window does not paint anew for each key.
    void previewsAndSearchesAreNoNews() {
        Document d;
        d.setBackground(true);
        d.reset(m_demo, {});
        d.finishAnalyses();
        (void)d.result();
        WAIT_VERIFY(d.stages().isIdle());
        QTest::qWait(300); // what is told together has been told
        QSignalSpy changed(&d, &Document::changed), published(&d.stages(), &StageStore::published);
        const auto other = std::make_shared<core::Project>(m_demo);
        (void)d.results().preview(other, "R3", d.revision());
        (void)d.results().search(d.revision(), {.kinds = {core::PartKind::Cooler}});
        WAIT_VERIFY(published.count() >= 2);
        WAIT_VERIFY(d.stages().isIdle());
        QTest::qWait(300);
        QCOMPARE(changed.count(), 0);
    }
    void waitingForAnalyses() {
        Document d;
        d.setBackground(true);
        d.reset(m_demo, {});
        d.finishAnalyses();
        for (const core::Run& run : m_demo.runs)
            QVERIFY(d.analysis(run.id));
        QCOMPARE(d.analyses().size(), m_demo.runs.size());
        d.reset(m_demo, {}); // and away while some are under way
        (void)d.analysis(m_demo.runs.front().id);
    }

    void nextIdIsFree() {
        QCOMPARE(nextRevisionId(m_demo), std::string("R13"));
        QCOMPARE(nextRevisionId({}), std::string("R1"));
    }

    void settingsComeBack() {
        QStandardPaths::setTestModeEnabled(true);
        QCoreApplication::setOrganizationName("mini-draft-test");
        Settings s;
        s.units.fahrenheit = true;
        s.theme = ThemeChoice::Dark;
        s.station = 3;
        for (int i = 0; i < 12; ++i)
            s.addRecent(QStringLiteral("/p%1").arg(i));
        s.addRecent("/p8");
        s.save();
        const Settings back = Settings::load();
        QVERIFY(back.units.fahrenheit && !back.units.inch);
        QCOMPARE(back.theme, ThemeChoice::Dark);
        QCOMPARE(back.station, 3);
        QCOMPARE(back.recent.size(), 8);
        QCOMPARE(back.recent.first(), QString("/p8"));
        QCOMPARE(back.recent.count("/p8"), 1);
    }

    void readLogJob() {
        const QString path = support::sourcePath("tests/data/stress_fixed.csv");
        const auto format = store::recogniseCsv(*store::readFile(path.toStdString()), "x");
        Workers workers(1);
        ReadLogJob job(workers, path, *format, store::BadField::Refuse);
        std::size_t rows = 0;
        connect(&job, &ReadLogJob::done, this, [&](const ReadLog& log) { rows = log.samples.timeS.size(); });
        job.start();
        QTRY_COMPARE_WITH_TIMEOUT(rows, std::size_t{1380}, 10000 * kPatience);
        ReadLogJob missing(workers, "/none.csv", *format, store::BadField::Refuse);
        QSignalSpy refused(&missing, &ReadLogJob::refused);
        missing.start();
        QVERIFY(refused.wait(5000 * kPatience));
    }
    void cancelledJobsSayNothing() {
        QTemporaryDir dir;
        QFile file(dir.filePath("big.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        QByteArray rows;
        for (int i = 0; i < 400000; ++i)
            rows += QByteArray::number(i) + ",40.5\n";
        file.write("time_s,cpu_c\n" + rows);
        file.close();
        const auto format = store::recogniseCsv("time_s,cpu_c\n0,1\n", "x");
        Workers workers(1);
        for (const bool cancelled : {false, true}) {
            ReadLogJob job(workers, file.fileName(), *format, store::BadField::Refuse);
            QSignalSpy done(&job, &ReadLogJob::done), refused(&job, &ReadLogJob::refused);
            job.start();
            if (cancelled)
                job.cancel();
            workers.pool()->waitForDone(); // nothing is under way any more: what there is to say has been said
            QCoreApplication::processEvents();
            QCOMPARE(done.count(), cancelled ? 0 : 1);
            QCOMPARE(refused.count(), 0);
        }
    }
    /// What was handed in is done even when its owner goes before a thread is free: it may be a copy that keeps work
    /// from being lost. It is told to stop, and delivers nothing.
    void workOfAJobThatGoesIsDone() {
        app::Workers workers(1);
        std::atomic<bool> go = false, begun = false;
        auto* before = new app::BackgroundJob(
            workers,
            [&](const app::BackgroundJob::Progress&) {
                begun = true;
                while (!go)
                    QThread::msleep(1);
            },
            [] {});
        WAIT_VERIFY(begun);
        int done = 0, delivered = 0;
        bool goesOn = true;
        auto* waiting = new app::BackgroundJob(
            workers,
            [&](const app::BackgroundJob::Progress& progress) {
                goesOn = progress(0.5);
                ++done;
            },
            [&] { ++delivered; });
        delete waiting; // its thread is still busy
        QCOMPARE(done, 1);
        QVERIFY(!goesOn);
        go = true;
        before->wait();
        workers.pool()->waitForDone();
        QCoreApplication::processEvents();
        QCOMPARE(done, 1);
        QCOMPARE(delivered, 0);
    }
    /// Progress and the end arrive in the owner's thread, once; work that throws ends like any other.
    void aJobTellsItsOwner() {
        app::Workers workers(1);
        int delivered = 0;
        auto* job = new app::BackgroundJob(
            workers,
            [](const app::BackgroundJob::Progress& progress) {
                (void)progress(0.25);
                QThread::msleep(20);
                (void)progress(0.75);
                throw std::bad_alloc();
            },
            [&] { ++delivered; });
        QSignalSpy told(job, &app::BackgroundJob::progressed);
        WAIT_COMPARE(delivered, 1);
        QVERIFY(!told.isEmpty());
        QCOMPARE(told.last().at(0).toInt(), 75);
        QTest::qWait(20);
        QCOMPARE(delivered, 1);
    }
};
} // namespace tst_document

MD_TEST(tst_document, DocumentTest)
#include "tst_document.moc"
