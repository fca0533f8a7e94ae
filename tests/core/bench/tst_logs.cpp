// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/analyse.h"
#include "core/model/build.h"
#include "support/json.h"
#include "support/patience.h"
#include "support/registry.h"

namespace tst_logs {

using namespace core;
using namespace core::bench;

namespace {

const ChannelResult* temperatureOf(const RunAnalysis& a) {
    for (const auto& c : a.channels)
        if (c.kind == ChannelKind::Temperature)
            return &c;
    return nullptr;
}

} // namespace

/// Whole logs with known truth: where the load was, what the machine settles at after hours without noise.
class LogsTest : public QObject {
    Q_OBJECT
private slots:
    void sampleLogs_data() {
        QTest::addColumn<bool>("claims"); // a settled value is offered
        QTest::newRow("stress_fixed") << true;
        QTest::newRow("baseline_A") << true;
        QTest::newRow("game_auto") << false; // its load wanders too slowly for the length of the run
        QTest::newRow("ambient_drift") << true;
        QTest::newRow("bad_logger") << true;
        QTest::newRow("stress_short") << false;
        QTest::newRow("cooler_B_unfinished") << false;
        QTest::newRow("thermal_throttle") << false;
    }
    void sampleLogs() {
        QFETCH(bool, claims);
        const QString name = QString::fromLatin1(QTest::currentDataTag());
        const auto truth = support::jsonFile(support::sourcePath("tests/data/") + name + QStringLiteral(".truth.json"));
        const Run run = support::logRun(name);
        const double cap = truth["spec"]["cap"].is_number() ? truth["spec"]["cap"].get<double>() : 1e9;
        AnalyseOptions options;
        const ChannelResult* c = nullptr;
        for (const Channel& channel : run.samples->channels)
            if (channel.kind == ChannelKind::Temperature && cap < 1e8)
                options.capC[channel.subject] = cap;
        const RunAnalysis a = analyse(run, options);
        QVERIFY2(a.load, "no load was found");
        QCOMPARE_LE(std::abs(a.load->startS - truth["load_start_s"].get<double>()), 26.0);
        QCOMPARE_LE(std::abs(a.load->endS - truth["load_end_s"].get<double>()), 26.0);
        c = temperatureOf(a);
        QVERIFY(c);
        const bool offered = c->state != SettleState::Refused;
        QVERIFY2(offered == claims, core::english(c->why).c_str());
        QVERIFY(!c->why.empty());
        if (!offered)
            return;
        // The interval, at the room of the run, holds the true value.
        const double expected = truth["settled_rise_long_run_k"].get<double>() + a.roomC;
        QVERIFY2(c->low - 0.2 <= expected && expected <= c->high + 0.2,
                 qPrintable(QStringLiteral("%1 .. %2 does not hold %3").arg(c->low).arg(c->high).arg(expected)));
    }

    void defectsAreReported() {
        const RunAnalysis a = analyse(support::logRun(QStringLiteral("bad_logger")), {});
        QVERIFY(a.time.duplicates > 0);
        QVERIFY(a.time.backwards > 0);
        QVERIFY(!a.time.gaps.empty());
        QVERIFY(a.invalidValues > 0);
    }

    void throttledRunIsHeldAtItsCap() {
        Run run = support::logRun(QStringLiteral("thermal_throttle"));
        AnalyseOptions options;
        for (const Channel& c : run.samples->channels)
            if (c.kind == ChannelKind::Temperature)
                options.capC[c.subject] =
                    support::jsonFile(support::sourcePath("tests/data/thermal_throttle.truth.json"))["spec"]["cap"]
                        .get<double>();
        const RunAnalysis a = analyse(run, options);
        QCOMPARE(a.throttle, Throttle::Thermal);
        QVERIFY(a.throttleShare > 0.1);
        QVERIFY(core::english(temperatureOf(a)->why).find("cap") != std::string::npos);
    }

    void fanStepRestartsTheFit() {
        const RunAnalysis a = analyse(support::logRun(QStringLiteral("fan_step")), {});
        QVERIFY(a.stepped);
        QVERIFY2(core::english(temperatureOf(a)->why).find("step") != std::string::npos,
                 core::english(temperatureOf(a)->why).c_str());
    }

    void driftOfTheRoomIsTakenOff() {
        const RunAnalysis a = analyse(support::logRun(QStringLiteral("ambient_drift")), {});
        QVERIFY(a.roomLogged);
        QVERIFY(a.roomSpanK > 0.5);
    }

    void roomTypedInWidensTheBand() {
        Run run = support::logRun(QStringLiteral("stress_fixed"));
        const double logged = [&] {
            const auto a = analyse(run, {});
            return temperatureOf(a)->high - temperatureOf(a)->low;
        }();
        auto bare = std::make_shared<Samples>(*run.samples);
        std::erase_if(bare->channels, [](const Channel& c) { return c.kind == ChannelKind::Ambient; });
        run.samples = bare;
        run.roomC = 23;
        const auto a = analyse(run, {});
        QVERIFY(!a.roomLogged);
        QVERIFY(temperatureOf(a)->high - temperatureOf(a)->low > logged);
        QVERIFY(!a.notes.empty());
    }

    void marksOfTheUserWin() {
        Run run = support::logRun(QStringLiteral("stress_fixed"));
        run.loadStartS = 200;
        run.loadEndS = 900;
        const auto a = analyse(run, {});
        QVERIFY(a.load);
        QCOMPARE(a.load->startS, 200.0);
        QCOMPARE(a.load->endS, 900.0);
    }

    void steadyWindowHoldsStill() {
        int found = 0;
        for (const Run& run : support::demoProject().runs) {
            const auto a = analyse(run, {});
            if (!a.steadyFromS || a.stepped)
                continue;
            ++found;
            const auto& t = run.samples->timeS;
            const Channel& c = *std::find_if(run.samples->channels.begin(), run.samples->channels.end(),
                                             [](const Channel& ch) { return ch.kind == ChannelKind::Temperature; });
            double first = 0, last = 0;
            int n = 0, m = 0;
            for (std::size_t i = 0; i < t.size(); ++i) {
                if (!std::isfinite(c.values[i]))
                    continue;
                if (t[i] >= *a.steadyFromS && t[i] < *a.steadyFromS + 60) {
                    first += c.values[i];
                    ++n;
                }
                if (t[i] <= a.load->endS && t[i] > a.load->endS - 180) {
                    last += c.values[i];
                    ++m;
                }
            }
            QVERIFY2(std::abs(last / m - first / n) < 1.1,
                     qPrintable(QString::fromStdString(run.id) + QString::number(last / m - first / n)));
        }
        QVERIFY(found >= 6);
    }

    void nothingToFind_data() {
        QTest::addColumn<int>("rows");
        QTest::newRow("empty") << 0;
        QTest::newRow("one row") << 1;
        QTest::newRow("flat") << 600;
    }
    void nothingToFind() {
        QFETCH(int, rows);
        auto samples = std::make_shared<Samples>();
        samples->channels = {{.name = "cpu_c", .unit = "°C", .kind = ChannelKind::Temperature}};
        for (int i = 0; i < rows; ++i) {
            samples->timeS.push_back(i);
            samples->channels[0].values.push_back(40);
        }
        Run run{.id = "x"};
        run.samples = samples;
        const auto a = analyse(run, {});
        QVERIFY(!a.load);
        for (const auto& c : a.channels)
            QVERIFY(c.state == SettleState::Refused);
    }

    /// The demo's own runs against the model that played them.
    void demoRuns() {
        const Project p = support::demoProject();
        int claimed = 0, held = 0;
        for (const Run& run : p.runs) {
            const auto truth = support::jsonFile(support::sourcePath("data/demo/dig-tent/truth/") +
                                                 QString::fromStdString(run.id) + QStringLiteral(".truth.json"));
            const auto build = resolve(p, run.revision);
            QVERIFY(build);
            const auto a = analyse(run, {.referenceRoomC = p.brief.roomC});
            for (const auto& c : a.channels) {
                if (c.kind != ChannelKind::Temperature || c.state == SettleState::Refused || a.stepped ||
                    !truth["settled"].contains(c.name))
                    continue;
                ++claimed;
                const double expected = truth["settled"][c.name].get<double>();
                held += c.low - 0.5 <= expected && expected <= c.high + 0.5;
            }
        }
        QVERIFY2(claimed >= 25, qPrintable(QString::number(claimed)));
        QVERIFY2(held >= claimed * 9 / 10, qPrintable(QStringLiteral("%1 of %2").arg(held).arg(claimed)));
    }

    /// A clock that is set, or times in another unit: an answer in time that grows with the rows, and a note.
    void jumpsCutTheLog_data() {
        QTest::addColumn<double>("from"); // share of the rows
        QTest::addColumn<double>("addS");
        QTest::newRow("NTP forward by 40 years") << 0.2 << 1.3e9;
        QTest::newRow("back to 1970") << 0.8 << -1.7e9;
        QTest::newRow("two hours, summer time and a bit") << 0.3 << 7300.0;
    }
    void jumpsCutTheLog() {
        QFETCH(double, from);
        QFETCH(double, addS);
        core::Run run = support::logRun("stress_fixed");
        auto samples = std::make_shared<core::Samples>(*run.samples);
        const auto at = static_cast<std::size_t>(from * static_cast<double>(samples->timeS.size()));
        for (std::size_t i = at; i < samples->timeS.size(); ++i)
            samples->timeS[i] += addS;
        run.samples = samples;
        QElapsedTimer timer;
        timer.start();
        const auto a = analyse(run, {});
        QVERIFY2(timer.elapsed() < 2000 * kPatience, qPrintable(QString::number(timer.elapsed())));
        QCOMPARE(a.time.jumps, 1);
        QCOMPARE(a.time.cutRows, from < 0.5 ? at : samples->timeS.size() - at);
        QVERIFY(std::any_of(a.notes.begin(), a.notes.end(), [](const Sentence& n) {
            return english(n).find("clock was set once") != std::string::npos;
        }));
    }
    void timesInAnotherUnit() {
        for (const double factor : {1e3, 1e6, 1e9}) {
            core::Run run = support::logRun("stress_fixed");
            auto samples = std::make_shared<core::Samples>(*run.samples);
            for (double& t : samples->timeS)
                t *= factor;
            run.samples = samples;
            QElapsedTimer timer;
            timer.start();
            const auto a = analyse(run, {});
            QVERIFY2(timer.elapsed() < 2000 * kPatience, qPrintable(QString::number(timer.elapsed())));
            QVERIFY(std::any_of(a.notes.begin(), a.notes.end(), [](const Sentence& n) {
                return english(n).find("milliseconds") != std::string::npos;
            }));
        }
    }
    /// Logs of days cost in proportion to their rows.
    void longLogsAreLinear() {
        const auto logOf = [](std::size_t rows) {
            core::Run run{.id = "long"};
            auto samples = std::make_shared<core::Samples>();
            samples->channels = {{.name = "cpu_c", .kind = core::ChannelKind::Temperature},
                                 {.name = "power", .kind = core::ChannelKind::Power},
                                 {.name = "room_c", .kind = core::ChannelKind::Ambient},
                                 {.name = "fan", .kind = core::ChannelKind::Rpm}};
            for (std::size_t i = 0; i < rows; ++i) {
                const double t = static_cast<double>(i), on = i > 600 ? 1 : 0;
                samples->timeS.push_back(t);
                samples->channels[0].values.push_back(40 + 30 * on * (1 - std::exp(-(t - 600) / 500)) +
                                                      0.2 * std::sin(t * 1.7));
                samples->channels[1].values.push_back(20 + 80 * on + std::sin(t));
                samples->channels[2].values.push_back(23 + std::sin(t / 9000));
                samples->channels[3].values.push_back(900);
            }
            run.samples = samples;
            return run;
        };
        const auto seconds = [&](std::size_t rows) {
            const core::Run run = logOf(rows);
            QElapsedTimer timer;
            timer.start();
            const auto a = analyse(run, {});
            (void)a;
            return static_cast<double>(timer.nsecsElapsed()) / 1e9;
        };
        (void)seconds(3600);
        const auto best = [&](std::size_t rows) { // a busy machine makes some of them longer
            return std::min({seconds(rows), seconds(rows), seconds(rows)});
        };
        const double hours = best(7200 * 5), days = best(7200 * 50); // ten times the rows, 100 h
        QVERIFY2(days < 25 * hours, qPrintable(QString("%1 s for 10 h, %2 s for 100 h").arg(hours).arg(days)));
        QVERIFY2(days < 20, qPrintable(QString::number(days)));
    }
    /// A stopped analysis ends within one channel.
    void stopped() {
        int asked = 0;
        const core::Run run = support::logRun("stress_fixed");
        const auto a = analyse(run, {}, [&] { return ++asked > 1; });
        QVERIFY(asked > 1);
        QVERIFY(a.channels.size() <= 1);
        QVERIFY(analyse(run, {}).channels.size() > 3); // there was more to do
    }
};
} // namespace tst_logs
MD_TEST(tst_logs, LogsTest)
#include "tst_logs.moc"
