// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/network.h"
#include "core/air/transient.h"
#include "support/registry.h"

#include <QtTest>

#include <random>

namespace tst_air_networks {

using namespace core::air;

namespace {

Zone open(const char* id) { return {.id = id, .crossSectionM2 = 1e9}; } // so wide that stirring plays no part

/// Fan in through a panel, panel out, 100 W.
Network oneZone() {
    Network net;
    net.roomC = 23;
    net.zones = {open("outside"), open("box")};
    net.zones[1].heatW = 100;
    net.branches.push_back({.id = "fan",
                            .from = 0,
                            .to = 1,
                            .resistance = perforated(0.0113, 0.6, 0.008, 0.003),
                            .fan = 0,
                            .curve = {0.0264, 18}});
    net.branches.push_back({.id = "out", .from = 1, .to = 0, .resistance = perforated(0.02, 0.45, 0.003, 0.001)});
    net.fans.push_back({.id = "fan", .fixedDuty = 0.7});
    return net;
}

/// A card before a perforated panel, with the gap zone between.
Network cardBeforePanel(Resistance gapPanel) {
    Network net;
    net.roomC = 29;
    net.zones = {open("outside"), open("compartment"), open("gap")};
    net.branches.push_back({.id = "rest", .from = 1, .to = 0, .resistance = perforated(0.03, 0.5, 0.003, 0.001)});
    net.branches.push_back({.id = "panel", .from = 2, .to = 0, .resistance = gapPanel});
    net.branches.push_back({.id = "edge", .from = 1, .to = 2, .resistance = slot(0.0084, 0.020, 0.0275)});
    const double qRef = 150 / (1.2 * airHeat * 8);
    const double c = 1.2 * airHeat * qRef;
    const double full = qRef / 0.55;
    const double drop = 40 * (1 - 0.36 - 0.144);
    net.branches.push_back({.id = "cooler",
                            .from = 2,
                            .to = 1,
                            .resistance = {0.5 * drop / (full * 1.85e-5), 0.5 * drop / (1.2 * full * full)},
                            .fan = 0,
                            .curve = {full / 0.6, 40}});
    net.fans.push_back({.id = "card", .fixedDuty = 0.6});
    net.parts.push_back({.id = "card",
                         .branch = 3,
                         .home = 1,
                         .powerW = 150,
                         .dieResistance = 0.1,
                         .gRefWk = -c * std::log(1 - 150 / (c * 30)),
                         .qRefM3s = qRef,
                         .exponent = 0.65,
                         .naturalWk = 1});
    return net;
}

Network chimney(double heightM) {
    Network net;
    net.roomC = 23;
    net.zones = {open("outside"), open("box")};
    net.zones[1].uaWk = 0.5;
    net.zones[1].heatW = 20;
    for (const double z : {0.0, heightM})
        net.branches.push_back(
            {.id = "panel", .from = 1, .to = 0, .resistance = perforated(0.01, 0.45, 0.003, 0.001), .heightM = z});
    return net;
}

constexpr double litre = 1000.0;

} // namespace

/// The three reference networks were worked out beforehand with an independent circuit simulator.
class AirNetworksTest : public QObject {
    Q_OBJECT
private slots:
    void fanThroughPanels() {
        const Solution s = solve(oneZone());
        QVERIFY(s.converged);
        QCOMPARE_LE(std::abs(s.flowM3s[0] * litre - 12.85676), 2e-5);
        QCOMPARE_LE(std::abs(s.flowM3s[1] * litre - 13.13837), 2e-5);
        QCOMPARE_LE(std::abs(s.pressurePa[1] - 1.71484), 1e-5);
        QCOMPARE_LE(std::abs(s.temperatureC[1] - 29.4867), 1e-4);
    }

    void cardWithGap_data() {
        QTest::addColumn<bool>("screened");
        QTest::addColumn<double>("panelLs");
        QTest::addColumn<double>("edgeLs");
        QTest::addColumn<double>("coolerLs");
        QTest::addColumn<double>("compartmentC");
        QTest::addColumn<double>("gapC");
        QTest::addColumn<double>("dieC");
        QTest::newRow("plain") << false << -6.73323 << 7.32104 << 14.05428 << 47.9554 << 38.5860 << 81.9490;
        QTest::newRow("fine screen") << true << -3.98386 << 9.40453 << 13.38839 << 61.0371 << 50.8158 << 95.2968;
    }
    void cardWithGap() {
        QFETCH(bool, screened);
        QFETCH(double, panelLs);
        QFETCH(double, edgeLs);
        QFETCH(double, coolerLs);
        QFETCH(double, compartmentC);
        QFETCH(double, gapC);
        QFETCH(double, dieC);
        Resistance panel = perforated(0.0187, 0.5, 0.003, 0.001);
        if (screened)
            panel = panel + screen(0.0187, 0.40, 0.15e-3, 1.0);
        const Solution s = solve(cardBeforePanel(panel));
        QVERIFY(s.converged);
        QCOMPARE_LE(std::abs(s.flowM3s[1] * litre - panelLs), 2e-5);
        QCOMPARE_LE(std::abs(s.flowM3s[2] * litre - edgeLs), 2e-5);
        QCOMPARE_LE(std::abs(s.flowM3s[3] * litre - coolerLs), 2e-5);
        QCOMPARE_LE(std::abs(s.temperatureC[1] - compartmentC), 2e-3);
        QCOMPARE_LE(std::abs(s.temperatureC[2] - gapC), 2e-3);
        QCOMPARE_LE(std::abs(s.parts[0].temperatureC - dieC), 2e-3);
    }

    void chimneyStandingAndLying() {
        const Solution standing = solve(chimney(0.3));
        QCOMPARE_LE(std::abs(standing.flowM3s[1] * litre - 0.98070), 2e-5);
        QCOMPARE_LE(std::abs(standing.flowM3s[0] * litre + 0.94166), 2e-5);
        QCOMPARE_LE(std::abs(standing.temperatureC[1] - 35.2766), 1e-3);
        const Solution lying = solve(chimney(0.0));
        QCOMPARE_LE(std::abs(lying.flowM3s[1]), 1e-9);
        QCOMPARE_LE(std::abs(lying.temperatureC[1] - 63.0), 1e-3);
    }

    void heatCarriedOutEqualsPower() {
        Network net = cardBeforePanel(perforated(0.0187, 0.5, 0.003, 0.001));
        net.zones[1].uaWk = 0.4;
        const Solution s = solve(net);
        double out = 0.4 * (s.temperatureC[1] - net.roomC);
        for (std::size_t b = 0; b < net.branches.size(); ++b) {
            const Branch& branch = net.branches[b];
            if (branch.from != 0 && branch.to != 0)
                continue;
            const double leaving = branch.to == 0 ? s.flowM3s[b] : -s.flowM3s[b];
            if (leaving > 0)
                out += leaving * density(net.pressurePa, s.temperatureC[branch.from + branch.to]) * airHeat *
                       (s.temperatureC[branch.from + branch.to] - net.roomC);
        }
        QCOMPARE_LE(std::abs(out - 150.0), 0.04);
        QCOMPARE_LE(s.massResidual, 1e-10);
    }

    /// 10 000 networks of up to twelve rooms, with areas over four decades and fans of up to 500 Pa that blow any way:
    /// each is solved from rest, with the books of mass at rounding level.
    void anyNetworkIsSolved() {
        std::mt19937 random(77);
        const auto uniform = [&](double a, double b) {
            return a + (b - a) * static_cast<double>(random()) / 4294967296.0;
        };
        double worst = 0;
        for (int round = 0; round < 10000; ++round) {
            Network net;
            const std::size_t zones = 1 + random() % 12;
            net.zones.resize(zones + 1);
            const auto add = [&](std::size_t from, std::size_t to, double areaM2) {
                net.branches.push_back({.id = "b",
                                        .from = from,
                                        .to = to,
                                        .resistance = perforated(areaM2, uniform(0.05, 0.99), 0.004, 0.001),
                                        .heightM = uniform(-0.5, 0.5)});
                if (random() % 3 == 0) {
                    net.branches.back().fan = net.fans.size();
                    net.branches.back().curve = {std::pow(10.0, uniform(-3, -1)), uniform(1, 500), uniform(0, 1)};
                    net.fans.push_back({.id = "f"});
                }
            };
            for (std::size_t z = 1; z <= zones; ++z)
                add(z, 0, 2e-4);
            for (std::size_t k = 0; k < 2 * zones; ++k) {
                const std::size_t from = random() % (zones + 1), to = random() % (zones + 1);
                add(from, to, std::pow(10.0, uniform(-5, -1)));
            }
            Solution s;
            s.pressurePa.assign(zones + 1, 0);
            for (std::size_t z = 0; z <= zones; ++z)
                s.temperatureC.push_back(z ? uniform(10, 120) : 20);
            for (std::size_t f = 0; f < net.fans.size(); ++f)
                s.speed.push_back(random() % 5 ? uniform(0, 1) : 0);
            solveFlows(net, s);
            double carried = 0;
            for (std::size_t b = 0; b < net.branches.size(); ++b) {
                QVERIFY2(std::isfinite(s.flowM3s[b]), qPrintable(QString::number(round)));
                carried = std::max(carried, std::abs(s.flowM3s[b]));
            }
            worst = std::max(worst, s.massResidual / std::max(1e-3, carried));
            QVERIFY2(s.massResidual < 1e-10 * std::max(1.0, carried * 100), qPrintable(QString::number(round)));
        }
        QVERIFY2(worst < 1e-8, qPrintable(QString::number(worst)));
    }

    void zoneOrderDoesNotMatter() {
        Network net = cardBeforePanel(perforated(0.0187, 0.5, 0.003, 0.001));
        const Solution a = solve(net);
        std::swap(net.zones[1], net.zones[2]);
        const auto other = [](std::size_t z) { return z == 0 ? z : 3 - z; };
        for (Branch& b : net.branches) {
            b.from = other(b.from);
            b.to = other(b.to);
        }
        net.parts[0].home = 2;
        const Solution b = solve(net);
        QCOMPARE_LE(std::abs(a.parts[0].temperatureC - b.parts[0].temperatureC), 2e-3);
        QCOMPARE_LE(std::abs(a.temperatureC[1] - b.temperatureC[2]), 2e-3);
    }

    void altitudeAndRoomMakeItHotter() {
        Network net = oneZone();
        const double sea = solve(net).temperatureC[1];
        net.pressurePa = pressureAt(2000);
        const Solution high = solve(net);
        QCOMPARE_GT(high.temperatureC[1], sea + 0.5);
        QCOMPARE_LE(std::abs(high.flowM3s[0] * litre - 12.857), 0.15); // the volume flow hardly changes
    }

    void throttledPartIsHeldAtItsLimit() {
        Network net = cardBeforePanel(perforated(0.0187, 0.5, 0.003, 0.001));
        net.parts[0].limitC = 70;
        const Solution s = solve(net);
        QVERIFY(s.converged);
        QVERIFY(s.parts[0].throttled);
        QCOMPARE_LE(std::abs(s.parts[0].temperatureC - 70), 1e-3);
        QCOMPARE_LT(s.parts[0].powerW, 140.0);
        QCOMPARE_GT(s.parts[0].powerW, 80.0);
    }

    void regulatedCardGainsLessThanTheRoom() {
        Network net = cardBeforePanel(perforated(0.0187, 0.5, 0.003, 0.001));
        net.fans[0].source = ControlSource::Part;
        net.fans[0].ownFan = true;
        net.fans[0].curve = {{40, .30}, {50, .36}, {60, .48}, {70, .66}, {80, .86}, {87, 1}};
        const Solution cool = solve(net);
        net.roomC += 5;
        const Solution warm = solve(net);
        QVERIFY(cool.converged && warm.converged);
        const double rise = warm.parts[0].temperatureC - cool.parts[0].temperatureC;
        QCOMPARE_GT(rise, 0.5);
        QCOMPARE_LT(rise, 5.0);
    }

    void longTransientEndsAtTheSteadyState() {
        Network net = cardBeforePanel(perforated(0.0187, 0.5, 0.003, 0.001));
        net.zones[1].uaWk = 0.4;
        net.zones[1].insideWk = 0.8;
        net.zones[1].outsideWk = 0.8;
        net.zones[1].structureJk = 800;
        net.parts[0].sinkJk = 300;
        net.parts[0].dieJk = 20;
        const Solution steady = solve(net);
        Transient play(net, {.roomC = 29});
        QCOMPARE_LT(play.state().parts[0].temperatureC, 40.0);
        for (int i = 0; i < 7200; ++i)
            play.step({.roomC = 29});
        QCOMPARE_LE(std::abs(play.state().parts[0].temperatureC - steady.parts[0].temperatureC), 0.02);
        QCOMPARE_LE(std::abs(play.state().temperatureC[1] - steady.temperatureC[1]), 0.02);
    }
};
} // namespace tst_air_networks
MD_TEST(tst_air_networks, AirNetworksTest)
#include "tst_air_networks.moc"
