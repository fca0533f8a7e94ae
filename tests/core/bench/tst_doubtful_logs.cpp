// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/analyse.h"
#include "support/registry.h"

#include <QtTest>

#include <cmath>

namespace tst_doubtful_logs {

using namespace core;
using bench::SettleState;
using bench::Throttle;

namespace {

/// A log of 5 min of idle and the given minutes of load, one row a second; channels are added as functions of the
/// seconds of load (below 0: idle).
struct Log {
    Samples samples;
    double loadS;
    explicit Log(double loadMinutes = 40) : loadS(60 * loadMinutes) {
        for (double t = -300; t <= loadS; t += 1)
            samples.timeS.push_back(t + 300);
        add("power_w", ChannelKind::Power, "", [](double t) { return t < 0 ? 30.0 : 150.0 + 0.5 * std::sin(t); });
        add("room_c", ChannelKind::Ambient, "", [](double) { return 23.0; });
    }
    void add(const std::string& name, ChannelKind kind, const std::string& subject, auto&& value) {
        Channel c{.name = name, .unit = std::string(channelUnit(kind)), .kind = kind, .subject = subject};
        for (const double t : samples.timeS)
            c.values.push_back(value(t - 300));
        samples.channels.push_back(std::move(c));
    }
    /// Noise of one reading, in K, the same in each run: a slow sine would be a disturbance of its own.
    static double noise(double t) {
        const double x = std::sin(12.9898 * t + 0.5) * 43758.5453;
        return 0.1 * (x - std::floor(x) - 0.5);
    }
    /// Warms up by @p riseK with a time constant of @p tauS.
    void warm(const std::string& name, const std::string& subject, double riseK, double tauS = 180) {
        add(name, ChannelKind::Temperature, subject,
            [=](double t) { return 30 + (t < 0 ? 0 : riseK * (1 - std::exp(-t / tauS))) + noise(t); });
    }
    [[nodiscard]] bench::RunAnalysis analysed(const bench::AnalyseOptions& options = {}) const {
        Run run{.id = "r", .name = "r"};
        run.samples = std::make_shared<Samples>(samples);
        return bench::analyse(run, options);
    }
};

const bench::ChannelResult& of(const bench::RunAnalysis& a, const std::string& name) {
    return *std::find_if(a.channels.begin(), a.channels.end(), [&](const auto& c) { return c.name == name; });
}

} // namespace

/// Logs that would mislead: sensors that stand still, rooms at 0, throttling of another part, runs stopped early.
class DoubtfulLogsTest : public QObject {
    Q_OBJECT
private slots:
    void soundLog() {
        Log log;
        log.warm("cpu_c", "tray/cpu", 40);
        const auto a = log.analysed();
        QVERIFY(a.load);
        QCOMPARE(of(a, "cpu_c").state, SettleState::Settled);
        QVERIFY(a.unsettled.empty());
        QVERIFY(a.roomLogged);
    }
    void frozenSensor_data() {
        QTest::addColumn<double>("moves");
        QTest::addColumn<bool>("refused");
        QTest::newRow("stands still") << 0.0 << true;
        QTest::newRow("moves by a tenth") << 0.1 << false;
    }
    void frozenSensor() {
        QFETCH(double, moves);
        QFETCH(bool, refused);
        Log log;
        log.warm("card_c", "card", 40);
        log.add("cpu_c", ChannelKind::Temperature, "tray/cpu", [&](double t) { return 44.0 + (t < 0 ? 0 : moves); });
        const auto a = log.analysed();
        const auto& cpu = of(a, "cpu_c");
        QCOMPARE(cpu.state == SettleState::Refused && core::english(cpu.why).find("frozen") != std::string::npos,
                 refused);
        QVERIFY(of(a, "card_c").state != SettleState::Refused);
    }
    void roomAtZero() {
        Log log;
        log.warm("cpu_c", "tray/cpu", 40);
        for (Channel& c : log.samples.channels)
            if (c.kind == ChannelKind::Ambient)
                c.values.assign(c.values.size(), 0.0);
        const auto a = log.analysed({.referenceRoomC = 23});
        QVERIFY(!a.roomLogged);
        QCOMPARE(a.roomC, 23.0);
        QVERIFY(std::any_of(a.notes.begin(), a.notes.end(),
                            [](const auto& n) { return core::english(n).find("stands at 0") != std::string::npos; }));
        QCOMPARE_LE(std::abs(of(a, "cpu_c").settled - 70), 1.0);
    }
    /// The card throttles at its cap; the processor does not, and its temperature stays good.
    void throttlingBelongsToItsPart() {
        Log log;
        log.warm("cpu_c", "tray/cpu", 40);
        log.add("cpu_mhz", ChannelKind::Clock, "tray/cpu", [](double) { return 4000.0; });
        log.add("card_c", ChannelKind::Temperature, "card", [](double t) {
            return t < 0 ? 35 : std::min(83.0, 35 + 60 * (1 - std::exp(-t / 120))) + 0.05 * std::sin(1.3 * t);
        });
        log.add("card_mhz", ChannelKind::Clock, "card",
                [](double t) { return t < 200 ? 1800.0 : 1500.0 + 3 * std::sin(t); });
        const auto a = log.analysed({.capC = {{"card", 83}, {"tray/cpu", 95}}});
        QCOMPARE(a.throttle, Throttle::Thermal);
        QCOMPARE(a.throttles.size(), std::size_t{1});
        QCOMPARE(QString::fromStdString(a.throttles[0].subject), QStringLiteral("card"));
        QCOMPARE(of(a, "card_c").state, SettleState::Refused);
        QCOMPARE(of(a, "cpu_c").state, SettleState::Settled);
    }
    void stoppedTooEarly_data() {
        QTest::addColumn<double>("minutes");
        QTest::addColumn<bool>("early");
        QTest::newRow("8 min of a time constant of 10") << 8.0 << true;
        QTest::newRow("20 min") << 20.0 << true;
        QTest::newRow("90 min") << 90.0 << false;
    }
    void stoppedTooEarly() {
        QFETCH(double, minutes);
        QFETCH(bool, early);
        Log log(minutes);
        log.warm("cpu_c", "tray/cpu", 40, 600);
        const auto a = log.analysed();
        QVERIFY2(!a.unsettled.empty() == early, core::english(a.unsettled).c_str());
        if (early) {
            QVERIFY2(core::english(a.unsettled).starts_with("stopped too early: cpu_c"),
                     core::english(a.unsettled).c_str());
            // Where it can be said how long it would have taken, that is said.
            const auto& cpu = of(a, "cpu_c");
            QCOMPARE(core::english(a.unsettled).find("min more") != std::string::npos,
                     cpu.moreMinutes.has_value() && *cpu.moreMinutes > 0);
        }
    }
    /// A side taken off in the middle of a long run: more minutes would not have helped, and are not asked for.
    void disturbedIsNotEarly() {
        Log log(60);
        log.add("cpu_c", ChannelKind::Temperature, "tray/cpu", [](double t) {
            return 30 + (t < 0 ? 0 : 40 * (1 - std::exp(-t / 300))) - (t > 2400 ? 6 : 0) + Log::noise(t);
        });
        const auto a = log.analysed();
        QVERIFY2(core::english(a.unsettled).starts_with("disturbed: cpu_c"), core::english(a.unsettled).c_str());
    }
};
} // namespace tst_doubtful_logs
MD_TEST(tst_doubtful_logs, DoubtfulLogsTest)
#include "tst_doubtful_logs.moc"
