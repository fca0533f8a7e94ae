// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/elements.h"
#include "core/air/network.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_air_elements {

using namespace core::air;

namespace {
/// One zone, an inlet at a held pressure made by a strong fan, one outlet: gives flow and pressure of the outlet.
Network towards(Resistance outlet, double shutoffPa) {
    Network net;
    net.roomC = 20;
    net.zones = {{.id = "outside"}, {.id = "box", .crossSectionM2 = 1e9}};
    net.branches.push_back({.id = "in", .from = 0, .to = 1, .fan = 0, .curve = {100.0, shutoffPa}});
    net.branches.push_back({.id = "out", .from = 1, .to = 0, .resistance = outlet});
    net.fans.push_back({.id = "fan", .fixedDuty = 1.0});
    return net;
}
} // namespace

class AirElementsTest : public QObject {
    Q_OBJECT
private slots:
    /// Dry air: International Standard Atmosphere (from memory) gives 1.2250 kg/m³ at 15 °C and 1.789e-5 Pa s; at 100
    /// °C tables give 2.18e-5 Pa s (White, Fluid Mechanics, from memory).
    void air() {
        QCOMPARE_LE(std::abs(density(101325, 15) - 1.2250), 0.0005);
        QCOMPARE_LE(std::abs(viscosity(15) - 1.789e-5), 0.005e-5);
        QCOMPARE_LE(std::abs(viscosity(100) - 2.18e-5), 0.008e-5);
    }
    void betweenTwoPoints() {
        const std::vector<std::pair<double, double>> points{{0, 10}, {10, 110}, {20, 50}};
        QCOMPARE(interpolate(points, 2.5), 35.0);
        QCOMPARE(interpolate(points, 15), 80.0);
        QCOMPARE(interpolate(points, -5), 10.0);
        QCOMPARE(interpolate(points, 25), 50.0);
    }
    void resistances_data() {
        QTest::addColumn<double>("a");
        QTest::addColumn<double>("b");
        QTest::addColumn<double>("expectedA");
        QTest::addColumn<double>("expectedB");
        const auto row = [](const char* name, Resistance r, double a, double b) {
            QTest::newRow(name) << r.a << r.b << a << b;
        };
        // Worked out beforehand from the formulas named at each element.
        row("plate 0.0113", perforated(0.0113, 0.6, 0.008, 0.003), 5.6876e5, 7806);
        row("plate 0.02", perforated(0.02, 0.45, 0.003, 0.001), 1.0932e6, 7124.5);
        row("plate 0.03", perforated(0.03, 0.5, 0.003, 0.001), 6.5592e5, 2221.9);
        row("screened plate", perforated(0.0187, 0.5, 0.003, 0.001) + screen(0.0187, 0.40, 0.15e-3, 1.0), 9.4747e6,
            11348);
    }
    void resistances() {
        QFETCH(double, a);
        QFETCH(double, b);
        QFETCH(double, expectedA);
        QFETCH(double, expectedB);
        QCOMPARE_LE(std::abs(a / expectedA - 1), 1e-4);
        QCOMPARE_LE(std::abs(b / expectedB - 1), 1e-4);
    }

    void smallHoleHasDischarge059() {
        // e -> 0 is the sharp orifice: Q = 0.59 S sqrt(2 dp/rho).
        const Resistance r = perforated(1.0, 1e-3, 1e3, 0);
        const double cd = 1.0 / std::sqrt(2.0 * r.b * 1e-6);
        QCOMPARE_LE(std::abs(cd - 0.59), 0.005);
    }

    void platesFollowPoiseuille() {
        const double area = 0.01, h = 0.004, length = 0.05, velocity = 0.7, mu = viscosity(20);
        const Resistance r = slot(area, h, length, 0.0);
        QCOMPARE_LE(std::abs(mu * r.a * velocity * area - 12 * mu * length * velocity / (h * h)), 1e-12);
    }

    void openingsAddUp() {
        // Parallel: areas add; series: 1/S² adds.
        const Resistance one = perforated(0.01, 1.0, 0, 0), two = perforated(0.02, 1.0, 0, 0);
        QCOMPARE_LE(std::abs(one.b / two.b - 4.0), 1e-12);
        QCOMPARE_LE(std::abs((one + one).b - 2 * one.b), 1e-12);
    }

    void fanLaws() {
        Network net = towards({0, 5000}, 18);
        net.branches[0].curve = {0.0264, 18};
        const double full = solve(net).flowM3s[1];
        net.fans[0].fixedDuty = 0.5;
        const Solution half = solve(net);
        QCOMPARE_LE(std::abs(half.flowM3s[1] / full - 0.5), 1e-6);
        net.fans[0].fixedDuty = 1.0;
        net.pressurePa = pressureAt(1500);
        QCOMPARE_LE(std::abs(solve(net).flowM3s[1] / full - 1.0), 1e-6); // altitude leaves the volume flow unchanged
    }

    void freeFlowAndShutoff() {
        Network net = towards({1e-9, 1e-9}, 18);
        net.branches[0].curve = {0.0264, 18};
        QCOMPARE_LE(std::abs(solve(net).flowM3s[0] - 0.0264), 1e-6);
        Network closed = towards({1e12, 0}, 18);
        closed.branches[0].curve = {0.0264, 18};
        QCOMPARE_LE(std::abs(solve(closed).pressurePa[1] - 18.0 * density(closed.pressurePa, 20) / fanDensity), 1e-2);
    }

    void temperatureRiseRule() {
        // 1.76 K for each W and CFM at 20 °C: common practice, no source.
        Network net = towards({1e-9, 1e-9}, 18);
        net.branches[0].curve = {4.719e-4 * 10, 18};
        net.zones[1].heatW = 10;
        const Solution s = solve(net);
        const double perWattAndCfm = (s.temperatureC[1] - 20) / 10 * (s.flowM3s[0] / 4.719e-4);
        QCOMPARE_LE(std::abs(perWattAndCfm - 1.75), 0.01);
    }

    void stackOfTwoOpenings() {
        // Source: classical two-opening stack formula; worked here with the temperatures found.
        Network net;
        net.roomC = 20;
        net.zones = {{.id = "outside"}, {.id = "box", .uaWk = 0.2, .crossSectionM2 = 1e9, .heatW = 40}};
        for (const double z : {0.0, 0.4})
            net.branches.push_back({.id = "hole",
                                    .from = 1,
                                    .to = 0,
                                    .resistance = {1e-6, 1.0 / (2 * 0.6 * 0.6 * 0.01 * 0.01)},
                                    .heightM = z});
        const Solution s = solve(net);
        const double ro = density(net.pressurePa, 20), ri = density(net.pressurePa, s.temperatureC[1]),
                     rm = 0.5 * (ro + ri);
        const double m = 0.6 * 0.01 * std::sqrt(2 * (ro - ri) * gravity * 0.4 / (rm * (1 / (ro * ro) + 1 / (ri * ri))));
        QCOMPARE_LE(std::abs(s.flowM3s[1] * ri / m - 1), 1e-3);
    }

    void oneTallOpeningExchanges() {
        // Cd S/3 sqrt(g H dT/T), classical single-sided value, within 5 %.
        Network net;
        net.roomC = 20;
        net.zones = {{.id = "outside"}, {.id = "box", .uaWk = 0.05, .crossSectionM2 = 1e9, .heatW = 30}};
        const double s = 0.02, h = 0.2, cd = 0.6;
        for (const double sign : {-1.0, 1.0})
            net.branches.push_back({.id = "half",
                                    .from = 1,
                                    .to = 0,
                                    .resistance = {1e-6, 1.0 / (2 * cd * cd * s * s / 4)},
                                    .heightM = sign * 2 / 9 * h});
        const Solution sol = solve(net);
        const double dT = sol.temperatureC[1] - 20, t = 293.15 + dT / 2;
        QCOMPARE_LE(std::abs(sol.flowM3s[1] / (cd * s / 3 * std::sqrt(gravity * h * dT / t)) - 1), 0.05);
    }

    /// A screen with three times the dust has three times the resistance (the loss of a screen is proportional to it).
    void foulingOfAScreen() {
        const Resistance clean = screen(0.0187, 0.40, 0.15e-3, 1.0), dusty = screen(0.0187, 0.40, 0.15e-3, 3.0);
        QCOMPARE_LE(std::abs(dusty.a / clean.a - 3), 1e-12);
        QCOMPARE_LE(std::abs(dusty.b / clean.b - 3), 1e-12);
    }

    void coolerWithVanishingFlow() {
        QCOMPARE_LE(std::abs(forcedConductance(1e-4, 5.0) - 1e-4), 1e-12);
        QCOMPARE(forcedConductance(0.0, 5.0), 0.0);
        QCOMPARE_LE(std::abs(forcedConductance(2.0, 2.0) - 2.0 * (1 - std::exp(-1.0))),
                    1e-12); // one transfer unit: 63.2 %
    }

    void fanClasses_data() {
        QTest::addColumn<double>("frame");
        QTest::addColumn<double>("thickness");
        QTest::addColumn<double>("flowLs");
        QTest::newRow("92 x 15, common practice, no source") << 92.0 << 15.0 << 15.1;
        QTest::newRow("120 x 25, common practice, no source") << 120.0 << 25.0 << 26.4;
        QTest::newRow("140 x 15, common practice, no source") << 140.0 << 15.0 << 23.6;
    }
    void fanClasses() {
        QFETCH(double, frame);
        QFETCH(double, thickness);
        QFETCH(double, flowLs);
        QCOMPARE_LE(std::abs(fanClass(frame, thickness).curve.freeFlowM3s * 1000 - flowLs), 1e-9);
    }
    void unknownFanScales() {
        const FanClass small = fanClass(60, 20), big = fanClass(180, 30);
        QCOMPARE_LT(small.curve.freeFlowM3s, fanClass(80, 25).curve.freeFlowM3s);
        QCOMPARE_GT(big.curve.freeFlowM3s, fanClass(140, 25).curve.freeFlowM3s);
    }
};
} // namespace tst_air_elements
MD_TEST(tst_air_elements, AirElementsTest)
#include "tst_air_elements.moc"
