// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/verdict/compare.h"
#include "core/verdict/judge.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_verdict {

using namespace support;
using verdict::Basis;

namespace {

Project judged() {
    Project p = project();
    p.brief.targets = {
        {.id = "cpu", .name = "CPU", .kind = TargetKind::Temperature, .subject = "tray/cpu", .limit = 85},
        {.id = "noise", .name = "Noise", .kind = TargetKind::Noise, .limit = 45},
        {.id = "clock", .name = "Clock", .kind = TargetKind::Clock, .subject = "tray/cpu", .limit = 3000},
        {.id = "volume", .name = "Volume", .kind = TargetKind::Volume, .limit = 7},
        {.id = "cost", .name = "Cost", .kind = TargetKind::Cost, .limit = 5000}};
    return p;
}

/// A made-up analysis: the processor settled at a temperature.
std::shared_ptr<const bench::RunAnalysis> analysis(double settled, double half,
                                                   bench::SettleState state = bench::SettleState::Settled) {
    auto a = std::make_shared<bench::RunAnalysis>();
    a->load = bench::LoadInterval{60, 1800};
    bench::ChannelResult c{.name = "cpu_c",
                           .kind = ChannelKind::Temperature,
                           .subject = "tray/cpu",
                           .state = state,
                           .why = say("made up"),
                           .settled = settled,
                           .low = settled - half,
                           .high = settled + half};
    if (state == bench::SettleState::Refused)
        c.settled = std::nan("");
    else
        c.atReference = bench::Normalised{settled, half / 1.96};
    a->channels.push_back(c);
    bench::ChannelResult level{.name = "level_dba",
                               .kind = ChannelKind::Level,
                               .state = bench::SettleState::Settled,
                               .settled = 36,
                               .low = 35.8,
                               .high = 36.2};
    a->channels.push_back(level);
    return a;
}

const verdict::TargetResult& of(const verdict::RevisionVerdict& v, const std::string& id) {
    return *std::find_if(v.targets.begin(), v.targets.end(), [&](const auto& t) { return t.id == id; });
}

} // namespace

class VerdictTest : public QObject {
    Q_OBJECT
private slots:
    /// Screws 31 down to 19 is 39 % less: common practice, no source.
    void againstTheBaseline() {
        const verdict::Difference screws{.id = "screws", .name = say("Screws"), .now = 19, .then = 31};
        QCOMPARE(QString::fromStdString(english(verdict::textOf(screws))),
                 QString::fromUtf8("31 to 19, \u221212 (\u221239 %)"));
        const Project p = with(project(), {SwapPart{"tray/cpu/lid", "cooler-47"}, RemovePart{"side"}});
        const auto now = stages::evaluate(p, "R2"), then = stages::evaluate(p, "R1");
        QVERIFY(now && then);
        const auto all = verdict::against(*now, *then);
        QCOMPARE(all.size(), std::size_t{4});
        QCOMPARE(all[0].by(), -4.0);                   // the screws of the side fan
        QCOMPARE_LE(std::abs(all[2].by() + 15), 1e-9); // and its price
        QCOMPARE(all[3].by(), 0.0);
        QCOMPARE_LE(std::abs(all[2].percent() + 100 * 15 / then->price), 1e-9);
        QCOMPARE((verdict::Difference{.now = 3, .then = 0}.percent()), 0.0); // no share of nothing
    }

    void marksThatChange() {
        const Project p = with(project(), {SwapPart{"tray/cpu/lid", "cooler-60"}});
        const auto now = stages::evaluate(p, "R1"), then = stages::evaluate(p, "R2");
        QVERIFY(now && then);
        QVERIFY(verdict::markChanges(p, *now, *now).empty());
        const auto there = verdict::markChanges(p, *now, *then), back = verdict::markChanges(p, *then, *now);
        QVERIFY(!there.empty()); // 60 high in 82 less tray and socket meets the wall or a fan
        QCOMPARE(there.size(), back.size());
        QVERIFY(there.front().after == Mark::Crossed || there.front().after == Mark::Open); // worse first
        for (const auto& change : there)
            QVERIFY(std::any_of(back.begin(), back.end(),
                                [&](const auto& b) { return b.before == change.after && b.after == change.before; }));
        QCOMPARE(english(verdict::textOf(verdict::MarkChange{say("A to B"), Mark::Holds, Mark::Crossed})),
                 std::string("A to B: holds to crossed"));
        QCOMPARE(english(verdict::textOf(verdict::MarkChange{say("x"), Mark::None, Mark::Open})),
                 std::string("new: x, open"));
        QCOMPARE(english(verdict::textOf(verdict::MarkChange{say("x"), Mark::Open, Mark::None})),
                 std::string("gone: x, was open"));
    }

    /// The box it is carried in: 86 x 304 x 254 outside with 10 of feet, any way round.
    void carryBox_data() {
        QTest::addColumn<double>("a");
        QTest::addColumn<double>("b");
        QTest::addColumn<double>("c");
        QTest::addColumn<bool>("told");
        QTest::newRow("none stated") << 0.0 << 300.0 << 300.0 << false;
        QTest::newRow("just fits, turned") << 304.0 << 264.0 << 86.0 << false;
        QTest::newRow("a millimetre too low") << 304.0 << 263.0 << 86.0 << true;
        QTest::newRow("too narrow") << 310.0 << 270.0 << 85.0 << true;
    }
    void carryBox() {
        QFETCH(double, a);
        QFETCH(double, b);
        QFETCH(double, c);
        QFETCH(bool, told);
        Project p = project();
        p.brief.carryBoxMm = {a, b, c};
        const auto e = stages::evaluate(p, "R1");
        QVERIFY(e);
        const bool found =
            std::any_of(e->findings.begin(), e->findings.end(), [](const auto& f) { return f.rule == "carry-box"; });
        QCOMPARE(found, told);
    }
    void withoutRunsAllIsPredicted() {
        const Project p = judged();
        const auto e = stages::evaluate(p, "R1");
        QVERIFY(e);
        const auto v = verdict::judge(p, *e, {});
        QCOMPARE(of(v, "cpu").basis, Basis::Predicted);
        QCOMPARE(of(v, "volume").basis, Basis::Computed);
        QVERIFY(!v.canBeValidated);
        bool said = false;
        for (const auto& [text, mark] : v.before)
            said = said || core::english(text).find("predicted only, log a settled run") != std::string::npos;
        QVERIFY(said);
    }

    void measuredValuesWin() {
        Project p = judged();
        p.runs.push_back({.id = "run", .name = "run", .revision = "R1", .load = "full"});
        const auto e = stages::evaluate(p, "R1");
        const auto v = verdict::judge(p, *e, {{"run", analysis(71, 0.5)}});
        QCOMPARE(of(v, "cpu").basis, Basis::Measured);
        QCOMPARE(of(v, "cpu").value, 71.0);
        QCOMPARE_LE(std::abs(of(v, "cpu").headroom - 14), 1e-9);
        QCOMPARE(of(v, "cpu").state, Mark::Holds);
        QCOMPARE(of(v, "cpu").run, std::string("run"));
        QVERIFY(of(v, "noise").high - of(v, "noise").low > 2); // the meter's own doubt is added
    }

    /// States of a cap of 85 °C by measured value and half band.
    void states_data() {
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("half");
        QTest::addColumn<int>("mark");
        QTest::newRow("well below") << 80.0 << 1.0 << int(Mark::Holds);
        QTest::newRow("band reaches the cap") << 84.5 << 1.0 << int(Mark::Open);
        QTest::newRow("band reaches back") << 85.5 << 1.0 << int(Mark::Open);
        QTest::newRow("over with all of it") << 87.0 << 1.0 << int(Mark::Crossed);
    }
    void states() {
        QFETCH(double, value);
        QFETCH(double, half);
        QFETCH(int, mark);
        Project p = judged();
        p.runs.push_back({.id = "run", .name = "run", .revision = "R1", .load = "full"});
        const auto e = stages::evaluate(p, "R1");
        QCOMPARE(static_cast<int>(of(verdict::judge(p, *e, {{"run", analysis(value, half)}}), "cpu").state), mark);
    }

    void whatDoesNotCountAsMeasured_data() {
        QTest::addColumn<QString>("why");
        QTest::newRow("other load") << "no run of this revision under the brief's load";
        QTest::newRow("other revision") << "no run of this revision";
        QTest::newRow("refused") << "made up";
        QTest::newRow("stepped") << "changed in the middle";
    }
    void whatDoesNotCountAsMeasured() {
        QFETCH(QString, why);
        const QString tag = QString::fromLatin1(QTest::currentDataTag());
        Project p = with(judged(), {});
        p.runs.push_back({.id = "run",
                          .name = "run",
                          .revision = tag == "other revision" ? "R2" : "R1",
                          .load = tag == "other load" ? "idle" : "full"});
        auto a = std::make_shared<bench::RunAnalysis>(
            *analysis(71, 0.5, tag == "refused" ? bench::SettleState::Refused : bench::SettleState::Settled));
        a->stepped = tag == "stepped";
        const auto e = stages::evaluate(p, "R1");
        const auto t = of(verdict::judge(p, *e, {{"run", a}}), "cpu");
        QCOMPARE(t.basis, Basis::Predicted);
        QVERIFY2(QString::fromStdString(english(t.why)).contains(why), core::english(t.why).c_str());
    }

    void validatedOnlyWhenAllIsProven() {
        Project p = judged();
        p.brief.targets.resize(1);
        p.runs.push_back({.id = "run", .name = "run", .revision = "R1", .load = "full"});
        p.revisions[0].validated = true;
        const auto e = stages::evaluate(p, "R1");
        const auto good = verdict::judge(p, *e, {{"run", analysis(71, 0.5)}});
        QCOMPARE(good.blockers == 0, good.canBeValidated);
        QCOMPARE(good.validated, good.canBeValidated);
        const auto bad = verdict::judge(p, *e, {{"run", analysis(90, 0.5)}});
        QVERIFY(!bad.validated); // a mark set by hand does not outlive what it stood on
    }

    void missingIsSaidAsMissing() {
        Project p = judged();
        p.brief.targets.push_back(
            {.id = "drive", .name = "Drive", .kind = TargetKind::Temperature, .subject = "nowhere", .limit = 70});
        const auto e = stages::evaluate(p, "R1");
        const auto v = verdict::judge(p, *e, {});
        QCOMPARE(of(v, "drive").basis, Basis::Missing);
        QVERIFY(std::isnan(of(v, "drive").value));
        QVERIFY(core::english(of(v, "drive").why).find("nowhere") != std::string::npos);
    }

    void floorsAndCaps() {
        Project p = judged();
        p.brief.targets = {
            {.id = "clock", .name = "Clock", .kind = TargetKind::Clock, .subject = "tray/cpu", .limit = 9000},
            {.id = "gap", .name = "Gap", .kind = TargetKind::Gap, .limit = 0}};
        const auto e = stages::evaluate(p, "R1");
        const auto v = verdict::judge(p, *e, {});
        double tightest = 1e9; // of what must not touch; air is no matter of a gap
        for (const auto& gap : e->fit.gaps)
            tightest =
                std::min(tightest, gap.nominal.mm() - gap.worstBandMm - (gap.breathing ? gap.touchMm : gap.requiredMm));
        QVERIFY(of(v, "clock").headroom < 0); // a floor of 9 GHz is not met
        QCOMPARE_LE(std::abs(of(v, "gap").value - tightest), 1e-12);
    }

    void briefLimitsBecomeFindings() {
        Project p = judged();
        p.brief.targets = {{.id = "volume", .name = "Volume", .kind = TargetKind::Volume, .limit = 1},
                           {.id = "mass", .name = "Mass", .kind = TargetKind::Mass, .limit = 10},
                           {.id = "cost", .name = "Cost", .kind = TargetKind::Cost, .limit = 10},
                           {.id = "power", .name = "Power", .kind = TargetKind::Power, .limit = 10}};
        const auto e = stages::evaluate(p, "R1");
        int found = 0;
        for (const auto& f : e->findings)
            found += f.rule == "target";
        QCOMPARE(found, 4);
    }

    void totals() {
        const Project p = with(project(), {PlacePart{"caddy", "shelf"}});
        const auto e = stages::evaluate(p, "R2");
        QCOMPARE_LE(std::abs(e->massG - (1000 + 500 + 40 + 400 + 600 + 700 + 90 + 60 + e->make.massG)), 1e-9);
        QCOMPARE_LE(std::abs(e->price - (90 + 180 + 240 + 45 + 400 + 110 + 15 + 120 + e->make.cost)), 1e-9);
    }

    void unresolvedIsAnError() {
        Project p = project();
        p.revisions[0].changes.push_back(PlacePart{"nothing", "shelf"});
        QVERIFY(!stages::evaluate(p, "R1"));
    }

    void limitsOfPartsReachTheBench() {
        const Project p = project();
        const Build b = built(p, "R1");
        const auto options = stages::benchOptions(p, &b);
        QCOMPARE(options.capC.at("tray/cpu"), 95.0);
        QCOMPARE(options.capC.at("card"), 87.0);
    }
};
} // namespace tst_verdict
MD_TEST(tst_verdict, VerdictTest)
#include "tst_verdict.moc"
