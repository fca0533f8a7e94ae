// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/calibrate.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

#include <random>

namespace tst_calibrate {

using namespace support;

namespace {

/// The box in six ways, as one would test it.
Project tested() {
    Project p = project();
    const auto add = [&](const char* id, std::vector<Change> changes) {
        p.revisions.push_back({.id = id, .parent = "R1", .changes = std::move(changes)});
    };
    add("fast", {SetFan{"side", FanMode::Fixed, 1.0}});
    add("slow", {SetFan{"side", FanMode::Fixed, 0.3}});
    add("out", {FlipFan{"side"}});
    add("screen", {SetScreen{"floor-vent", Screen::Fine}});
    add("none", {RemovePart{"side"}});
    return p;
}
/// A run of a machine whose inputs are off by what is drawn for their ids; read to 0.7 K.
air::Observation played(const Project& p, const std::string& id, const std::map<std::string, double>& truth,
                        std::mt19937& random) {
    air::Observation o{.run = "run " + id, .revision = id, .build = built(p, id), .conditions = {.roomC = 24}};
    const auto compiled = air::compile(o.build, o.conditions);
    air::Network net = compiled.network;
    for (const air::Input& input : air::inputsOf(o.build, compiled))
        if (const auto it = truth.find(input.id); it != truth.end())
            input.move(net, it->second);
    const auto s = air::solve(net);
    std::normal_distribution<double> noise(0, 0.7);
    for (std::size_t i = 0; i < net.parts.size(); ++i)
        if (!net.parts[i].isSupply)
            o.readings.push_back({net.parts[i].id, s.parts[i].temperatureC + noise(random)});
    return o;
}
std::map<std::string, double> drawn(const Project& p, std::mt19937& random) {
    std::map<std::string, double> truth;
    std::normal_distribution<double> normal;
    for (const Revision& r : p.revisions) {
        const Build b = built(p, r.id);
        for (const air::Input& input : air::inputsOf(b, air::compile(b, {.roomC = 24})))
            if (input.id != "room")
                truth.try_emplace(input.id, normal(random));
    }
    return truth;
}

} // namespace

/// Logged runs narrow the model; what they cannot tell stays in doubt.
class CalibrateTest : public QObject {
    Q_OBJECT
private slots:
    /// 20 machines drawn from the doubts of the inputs: learned on half the runs, the other half is told at least twice
    /// as well, and lies in its bands nine times out of ten.
    void halfTellsTheOtherHalf() {
        std::mt19937 random(11);
        const Project p = tested();
        double before = 0, after = 0;
        int inside = 0, all = 0;
        for (int machine = 0; machine < 20; ++machine) {
            const auto truth = drawn(p, random);
            std::vector<air::Observation> half;
            for (const char* id : {"R1", "slow", "screen"})
                half.push_back(played(p, id, truth, random));
            const air::Calibration c = air::calibrate(half, 0.7);
            for (const char* id : {"fast", "out", "none"}) {
                const auto other = played(p, id, truth, random);
                const auto compiled = air::compile(other.build, other.conditions);
                const auto raw = air::solve(compiled.network);
                auto told = air::summarise(other.build, other.conditions, compiled, raw);
                told.influences = air::influencesOf(other.build, compiled, raw);
                const auto known = air::solve(air::learned(other.build, compiled, c));
                const auto bands = air::bandsAfter(told, c);
                for (const auto& reading : other.readings)
                    for (std::size_t i = 0; i < compiled.network.parts.size(); ++i)
                        if (compiled.network.parts[i].id == reading.mount) {
                            before += std::pow(raw.parts[i].temperatureC - reading.temperatureC, 2);
                            const double off = known.parts[i].temperatureC - reading.temperatureC;
                            after += off * off;
                            inside += std::abs(off) <= std::hypot(bands[i], 1.96 * 0.7) ? 1 : 0;
                            ++all;
                        }
            }
        }
        QVERIFY2(std::sqrt(after) * 2 < std::sqrt(before),
                 qPrintable(QStringLiteral("%1 K, was %2 K").arg(std::sqrt(after / all)).arg(std::sqrt(before / all))));
        QVERIFY2(inside >= 0.9 * all, qPrintable(QStringLiteral("%1 of %2").arg(inside).arg(all)));
    }
    /// One reading of a part: worked by hand for a linear model, a weighted mean of what it says and what was thought.
    void oneReadingByHand() {
        const Project p = tested();
        air::Observation o{.run = "r", .revision = "R1", .build = built(p, "R1"), .conditions = {.roomC = 24}};
        const auto compiled = air::compile(o.build, o.conditions);
        const auto s = air::solve(compiled.network);
        const auto influences = air::influencesOf(o.build, compiled, s);
        std::size_t cpu = 0;
        while (!compiled.network.parts[cpu].isProcessor)
            ++cpu;
        double variance = 0;
        for (const auto& x : influences)
            variance += x.id == "room" ? 0 : x.kelvin[cpu] * x.kelvin[cpu];
        o.readings = {{"tray/cpu", s.parts[cpu].temperatureC + 1.0}};
        const auto c = air::calibrate({o}, 1.0);
        const double expected = 1.0 * variance / (variance + 1.0);
        QCOMPARE_LE(std::abs(c.compared[0].afterC - c.compared[0].beforeC - expected), 0.1);
        QCOMPARE_LE(std::abs(c.compared[0].bandAfterK / 1.96 - std::sqrt(variance / (variance + 1.0))), 0.15);
        QVERIFY(c.compared[0].bandBeforeK > 2 * c.compared[0].bandAfterK);
    }
    /// A run of something else than is described is said, not absorbed.
    void aRunThatContradicts() {
        std::mt19937 random(5);
        const Project p = tested();
        std::vector<air::Observation> runs;
        for (const char* id : {"R1", "fast", "slow", "screen", "none"})
            runs.push_back(played(p, id, {}, random));
        QVERIFY(air::calibrate(runs).contradicting.empty());
        for (auto& reading : runs[2].readings)
            reading.temperatureC += reading.mount == "card" ? -24 : 22; // another box, or another load
        const auto c = air::calibrate(runs);
        QCOMPARE(c.contradicting, std::vector<std::string>{"run slow"});
        QVERIFY(c.rmsAfterK < 1.5);
        for (const auto& learned : c.inputs)
            QVERIFY(std::abs(learned.sigmas) < 1.5);
        QCOMPARE(c.compared.size(), std::size_t{10}); // it is shown beside the others
    }
    /// Without runs nothing is learned; a part that no run has keeps its whole doubt.
    void whatNoRunSays() {
        QVERIFY(air::calibrate({}).inputs.empty());
        const Project p = with(tested(), {SwapPart{"tray/cpu/lid", "cooler-60"}}, "other");
        std::mt19937 random(3);
        const auto c = air::calibrate({played(p, "R1", {}, random)});
        QVERIFY(c.input("fins tray/cpu cooler-37") && !c.input("fins tray/cpu cooler-60"));
        QVERIFY(c.input("die tray/cpu cpu")->left < 1);
        const auto other = air::predictWithBands(built(p, "other"), {.roomC = 24});
        const auto bands = air::bandsAfter(other, c);
        const auto cpu = static_cast<std::size_t>(other.part("tray/cpu") - other.parts.data());
        QVERIFY(bands[cpu] < other.parts[cpu].bandK); // the die is the same
        double fins = 0;
        for (const auto& x : other.influences)
            if (x.id == "fins tray/cpu cooler-60")
                fins = x.kelvin[cpu];
        QVERIFY(bands[cpu] > 1.96 * std::abs(fins)); // its fins are not
    }
};

} // namespace tst_calibrate
MD_TEST(tst_calibrate, CalibrateTest)
#include "tst_calibrate.moc"
