// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/verdict/judge.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_trust {

using namespace support;
using bench::SettleState;
using verdict::Basis;

namespace {

/// One temperature and one noise target, and runs with made-up analyses.
struct Bench {
    Project project = support::project();
    verdict::RunAnalyses analyses;

    explicit Bench(double capC = 85) {
        project.brief.targets = {
            {.id = "cpu", .name = "CPU", .kind = TargetKind::Temperature, .subject = "tray/cpu", .limit = capC},
            {.id = "noise", .name = "Noise", .kind = TargetKind::Noise, .limit = 45}};
    }
    bench::RunAnalysis& add(double settled, double half, SettleState state = SettleState::Settled,
                            bool simulated = false) {
        const std::string id = "run" + std::to_string(project.runs.size());
        project.runs.push_back({.id = id, .name = id, .revision = "R1", .load = "full", .simulated = simulated});
        auto a = std::make_shared<bench::RunAnalysis>();
        a->load = bench::LoadInterval{60, 1800};
        a->roomC = project.brief.roomC;
        bench::ChannelResult c{.name = "cpu_c",
                               .kind = ChannelKind::Temperature,
                               .subject = "tray/cpu",
                               .state = state,
                               .why = say("made up"),
                               .settled = settled,
                               .low = settled - half,
                               .high = settled + half,
                               .sustainedMax = settled};
        if (state == SettleState::Refused)
            c.settled = c.low = c.high = std::nan("");
        else
            c.atReference = bench::Normalised{settled, half / 1.96};
        a->channels.push_back(c);
        analyses[id] = a;
        return *a;
    }
    [[nodiscard]] verdict::TargetResult cpu() const {
        const auto e = stages::evaluate(project, "R1");
        return verdict::judge(project, *e, analyses).targets.front();
    }
    [[nodiscard]] int proven() const {
        const auto e = stages::evaluate(project, "R1");
        return verdict::judge(project, *e, analyses).proven;
    }
};

} // namespace

/// What proves a target, and what does not.
class TrustTest : public QObject {
    Q_OBJECT
private slots:
    void simulatedRunsProveNothing() {
        Bench b;
        b.add(70, 1, SettleState::Settled, true);
        QCOMPARE(b.cpu().basis, Basis::Predicted);
        QVERIFY(core::english(b.cpu().why).find("simulated: it proves nothing") != std::string::npos);
        QCOMPARE(b.proven(), 0);
        b.project.simulation = true; // a project that says of itself that it is one
        QCOMPARE(b.cpu().basis, Basis::Measured);
        QVERIFY(b.cpu().simulated);
        QCOMPARE(b.proven(), 1);
        // A real run beside a simulated one: only the real one counts.
        b.project.simulation = false;
        b.add(75, 1);
        QCOMPARE(b.cpu().basis, Basis::Measured);
        QCOMPARE(b.cpu().value, 75.0);
        QVERIFY(!b.cpu().simulated);
    }
    void aGuessProvesNothing() {
        Bench b;
        b.add(70, 1).channels[0].assumed = true;
        QCOMPARE(b.cpu().basis, Basis::Predicted);
        QVERIFY(core::english(b.cpu().why).find("only assumed") != std::string::npos);
    }
    /// A board sensor at 44 °C says nothing of a processor; of two sensors of one part the warmer counts.
    void onlyTheChannelOfThePart() {
        Bench b;
        auto& a = b.add(92, 0.5);
        a.channels.insert(a.channels.begin(), {.name = "board",
                                               .kind = ChannelKind::Temperature,
                                               .subject = "",
                                               .state = SettleState::Settled,
                                               .settled = 44,
                                               .low = 43,
                                               .high = 45});
        QCOMPARE(b.cpu().value, 92.0);
        QCOMPARE(b.cpu().state, Mark::Crossed);
        a.channels.insert(a.channels.begin(), {.name = "cpu_2",
                                               .kind = ChannelKind::Temperature,
                                               .subject = "tray/cpu",
                                               .state = SettleState::Settled,
                                               .settled = 60,
                                               .low = 59,
                                               .high = 61});
        QCOMPARE(b.cpu().value, 92.0);
    }
    void aRefusedRunCanRefute_data() {
        QTest::addColumn<double>("passedC");
        QTest::addColumn<double>("roomC"); // of the run; the reference is 23
        QTest::addColumn<bool>("refutes");
        QTest::newRow("passed the limit of 85") << 85.1 << 23.0 << true;
        QTest::newRow("did not") << 84.9 << 23.0 << false;
        QTest::newRow("passed it in a room 3 K warmer") << 87.9 << 26.0 << false;
        QTest::newRow("by more than the room") << 88.1 << 26.0 << true;
    }
    void aRefusedRunCanRefute() {
        QFETCH(double, passedC);
        QFETCH(double, roomC);
        QFETCH(bool, refutes);
        Bench b;
        auto& a = b.add(passedC, 1, SettleState::Refused);
        a.roomC = roomC;
        const auto t = b.cpu();
        QCOMPARE(t.basis, refutes ? Basis::Measured : Basis::Predicted);
        if (refutes)
            QVERIFY(t.headroom < 0 && core::english(t.why).find("passed the limit") != std::string::npos);
    }
    /// Three runs of 70, 72 and 74 ±1: mean 72, scatter 2; t(0.975, 2) = 4.303 (Student's t), 4.303 * 2 / sqrt(3)
    /// = 4.97, and hypot with the ±1 they share.
    void runsCountTogether() {
        Bench b;
        for (const double t : {70.0, 72.0, 74.0})
            b.add(t, 1);
        const auto t = b.cpu();
        QCOMPARE(t.runs, 3);
        QCOMPARE_LE(std::abs(t.value - 72), 1e-9);
        QCOMPARE_LE(std::abs(0.5 * (t.high - t.low) - std::hypot(4.303 * 2 / std::sqrt(3.0), 1.0)), 0.05);
        QVERIFY(core::english(t.why).find("3 runs together") != std::string::npos);
        b.add(60, 1, SettleState::Rough); // a worse kind of run does not dilute them
        QCOMPARE(b.cpu().runs, 3);
        QCOMPARE_LE(std::abs(b.cpu().value - 72), 1e-9);
    }
    void oneRunIsAsItWas() {
        Bench b;
        b.add(70, 1);
        QCOMPARE(b.cpu().runs, 1);
        QCOMPARE_LE(std::abs(b.cpu().high - 71), 1e-9);
    }
};
} // namespace tst_trust
MD_TEST(tst_trust, TrustTest)
#include "tst_trust.moc"
