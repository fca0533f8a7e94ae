// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/predict.h"
#include "core/air/transient.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

#include <random>

namespace tst_air_builds {

using namespace support;
using air::FanDirection;

namespace {

air::Prediction predictOf(const Project& p, const std::string& id, double room = 23) {
    return air::predict(built(p, id), {.roomC = room});
}
double cpu(const air::Prediction& a) { return a.part("tray/cpu")->temperatureC; }
double cardOf(const air::Prediction& a) { return a.part("card")->temperatureC; }

} // namespace

/// The network made from a described build: balances, directions of change, odd descriptions.
class AirBuildsTest : public QObject {
    Q_OBJECT
private slots:
    void convergesAndBalances() {
        const Project p = project();
        const Build b = built(p, "R1");
        const auto compiled = air::compile(b, {.roomC = 23});
        const auto s = air::solve(compiled.network);
        QVERIFY(s.converged);
        QCOMPARE_LE(s.massResidual, 1e-9);
        const auto a = air::summarise(b, {.roomC = 23}, compiled, s);
        QCOMPARE(a.chambers.size(), std::size_t{1});
        QVERIFY(a.part("tray/cpu") && a.part("card") && a.part("bay"));
        for (const auto& chamber : a.chambers)
            QVERIFY(chamber.airC > 23);
    }

    void caseFanDirection() {
        const Project p = with(project(), {FlipFan{"side"}});
        const auto in = predictOf(p, "R1"), out = predictOf(p, "R2");
        const auto fanOf = [](const air::Prediction& a) {
            return *std::find_if(a.fans.begin(), a.fans.end(), [](const auto& f) { return f.id == "side"; });
        };
        QCOMPARE(fanOf(in).direction, FanDirection::In);
        QCOMPARE(fanOf(out).direction, FanDirection::Out);
        QVERIFY(fanOf(in).flowM3h > 0 && fanOf(out).flowM3h > 0);
        QVERIFY(in.balance.ratedInM3h > 0 && in.balance.ratedOutM3h < in.balance.ratedInM3h);
        QVERIFY(out.balance.ratedOutM3h > in.balance.ratedOutM3h);
        // Solved flows stay below the rated add-up: grilles cut them.
        QVERIFY(fanOf(in).flowM3h < fanOf(in).ratedFlowM3h);
        QVERIFY(in.balance.pressurePa > out.balance.pressurePa);
    }

    /// Each row is hotter than the plain build. Directions follow from the physics; no magnitudes are claimed.
    void hotterWith_data() {
        QTest::addColumn<bool>("card");
        for (const char* tag : {"fine screen on the floor vent", "fouled screen", "floor vent closed",
                                "side fan out of the case", "warmer room", "altitude"})
            QTest::newRow(tag) << true;
        QTest::newRow("lower cooler") << false;
        QTest::newRow("slower side fan") << false;
    }
    void hotterWith() {
        QFETCH(bool, card);
        const QString tag = QString::fromLatin1(QTest::currentDataTag());
        Project p = project();
        std::vector<Change> changes;
        air::Conditions conditions{.roomC = 23};
        if (tag.startsWith("fine"))
            changes.push_back(SetScreen{"floor-vent", Screen::Fine});
        if (tag.startsWith("floor"))
            changes.push_back(SetOpening{"floor-vent", OpeningStyle::Closed, 0});
        if (tag.startsWith("side"))
            changes.push_back(RemovePart{"side"});
        if (tag.startsWith("warmer"))
            conditions.roomC = 30;
        if (tag.startsWith("altitude"))
            conditions.altitudeM = 2500;
        if (tag.startsWith("slower"))
            changes.push_back(SetFan{"side", FanMode::Fixed, 0.2});
        p = with(p, changes);
        std::string base = "R1";
        if (tag.startsWith("lower")) { // the base has the taller one
            p = with(project(), {SwapPart{"tray/cpu/lid", "cooler-47"}});
            const auto tall = predictOf(p, "R2"), flat = predictOf(p, "R1");
            QVERIFY(cpu(flat) > cpu(tall));
            return;
        }
        if (tag.startsWith("fouled")) {
            p = with(project(), {SetScreen{"floor-vent", Screen::Fine}});
            const double clean = cardOf(predictOf(p, "R2"));
            std::get<CaseSpec>(p.shelf[0].spec).openings[2].fouling = 3;
            QVERIFY(cardOf(predictOf(p, "R2")) > clean);
            return;
        }
        const auto before = predictOf(p, "R1");
        const auto after = air::predict(built(p, "R2"), conditions);
        QVERIFY2((card ? cardOf(after) > cardOf(before) : cpu(after) > cpu(before)),
                 qPrintable(QStringLiteral("card %1 -> %2, cpu %3 -> %4")
                                .arg(cardOf(before))
                                .arg(cardOf(after))
                                .arg(cpu(before))
                                .arg(cpu(after))));
    }

    void loadSharesScaleThePower() {
        const Project p = project();
        const Build b = built(p, "R1");
        const auto full = air::predict(b, {.roomC = 23}),
                   idle = air::predict(b, {.roomC = 23, .processorShare = 0.2, .cardShare = 0.1});
        QCOMPARE_LE(std::abs(full.part("tray/cpu")->powerW - 65), 0.1);
        QCOMPARE_LE(std::abs(idle.part("tray/cpu")->powerW - 13), 0.1);
        QVERIFY(cpu(idle) < cpu(full) - 10);
    }

    void conditionsFollowTheBrief() {
        Project p = project();
        p.brief.roomC = 31;
        p.brief.altitudeM = 500;
        const auto c = air::conditionsOf(p), idle = air::conditionsOf(p, "idle");
        QCOMPARE(c.roomC, 31.0);
        QCOMPARE(c.altitudeM, 500.0);
        QCOMPARE(idle.processorShare, 0.2);
    }

    void layingChangesOnlyGravity() {
        const Project p = with(project(), {Orient{Side::Left}});
        const auto standing = predictOf(p, "R1"), lying = predictOf(p, "R2");
        QVERIFY(lying.converged);
        QCOMPARE(standing.fans.size(), lying.fans.size());
        QCOMPARE_LE(std::abs(cpu(standing) - cpu(lying)), 15.0);
        QVERIFY(cpu(standing) != cpu(lying));
    }

    void closedBoxThrottles() {
        const Project p = with(project(), {RemovePart{"side"}, SetOpening{"side-grille", OpeningStyle::Closed, 0},
                                           SetOpening{"top-grille", OpeningStyle::Closed, 0},
                                           SetOpening{"floor-vent", OpeningStyle::Closed, 0}});
        const auto a = predictOf(p, "R2", 30);
        QVERIFY(a.converged);
        bool throttled = false;
        for (const auto& part : a.parts) {
            throttled = throttled || part.throttled;
            if (part.throttled)
                QCOMPARE_LE(std::abs(part.temperatureC - part.limitC), 0.01);
        }
        QVERIFY(throttled);
    }

    void emptyCaseStaysCold() {
        Project p = project();
        p.revisions = {{.id = "R1", .changes = {SetCase{"box"}}}};
        const auto a = predictOf(p, "R1");
        QVERIFY(a.parts.empty());
        for (const auto& chamber : a.chambers)
            QCOMPARE_LE(std::abs(chamber.airC - 23), 0.01);
    }

    /// Random networks: the flow solve ends from any start, with every zone in balance.
    void randomNetworks() {
        std::mt19937 random(7);
        const auto uniform = [&](double a, double b) {
            return a + (b - a) * std::uniform_real_distribution<double>()(random);
        };
        int worst = 0;
        for (int round = 0; round < 2000; ++round) {
            air::Network net;
            const int zones = 1 + static_cast<int>(random() % 12);
            net.zones.resize(static_cast<std::size_t>(zones) + 1);
            for (int z = 1; z <= zones; ++z) { // a leak keeps every zone connected
                net.zones[static_cast<std::size_t>(z)].heatW = uniform(0, 50);
                net.branches.push_back({.id = "leak",
                                        .from = static_cast<std::size_t>(z),
                                        .to = 0,
                                        .resistance = air::perforated(2e-4, 0.6, 0.004, 0.001)});
            }
            const int branches = zones + static_cast<int>(random() % 14);
            for (int k = 0; k < branches; ++k) {
                const std::size_t from = random() % (static_cast<std::size_t>(zones) + 1);
                std::size_t to = random() % (static_cast<std::size_t>(zones) + 1);
                if (to == from)
                    to = (to + 1) % (static_cast<std::size_t>(zones) + 1);
                air::Branch b{.id = "b",
                              .from = from,
                              .to = to,
                              .resistance = air::perforated(std::pow(10, uniform(-4, -1)), uniform(0.1, 0.9),
                                                            uniform(0.001, 0.01), 0.001),
                              .heightM = uniform(0, 0.4)};
                if (random() % 3 == 0) {
                    b.fan = net.fans.size();
                    b.curve = {uniform(0.002, 0.06), uniform(5, 500)};
                    net.fans.push_back({.id = "f", .fixedDuty = uniform(0, 1)});
                }
                net.branches.push_back(b);
            }
            air::Solution s;
            s.pressurePa.assign(net.zones.size(), 0);
            s.temperatureC.assign(net.zones.size(), 23);
            for (std::size_t z = 1; z < net.zones.size(); ++z)
                s.temperatureC[z] = uniform(23, 70);
            for (const auto& f : net.fans)
                s.speed.push_back(f.fixedDuty);
            s.flowM3s.assign(net.branches.size(), 0);
            air::solveFlows(net, s);
            QVERIFY2(s.massResidual < 1e-9,
                     qPrintable(QStringLiteral("round %1: residual %2").arg(round).arg(s.massResidual)));
            worst = std::max(worst, s.newtonSteps);
        }
        QVERIFY2(worst < 60, qPrintable(QString::number(worst)));
    }

    void transientOfABuildEndsAtItsSteadyState() {
        const Project p = project();
        const Build b = built(p, "R1");
        const auto compiled = air::compile(b, {.roomC = 23});
        const auto steady = air::solve(compiled.network);
        air::Transient play(compiled.network, {.roomC = 23});
        for (int i = 0; i < 4 * 3600; ++i)
            play.step({.roomC = 23});
        for (std::size_t i = 0; i < steady.parts.size(); ++i)
            QCOMPARE_LE(std::abs(play.state().parts[i].temperatureC - steady.parts[i].temperatureC), 0.3);
    }
};
} // namespace tst_air_builds
MD_TEST(tst_air_builds, AirBuildsTest)
#include "tst_air_builds.moc"
