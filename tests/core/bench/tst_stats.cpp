// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/analyse.h"
#include "support/json.h"
#include "support/registry.h"

namespace tst_stats {

using namespace core;
using namespace core::bench;

namespace {

std::vector<double> lcg(std::size_t n, std::uint32_t x = 12345) {
    std::vector<double> u;
    for (std::size_t i = 0; i < n; ++i) {
        x = 1664525U * x + 1013904223U;
        u.push_back(x / 4294967296.0 - 0.5);
    }
    return u;
}
const double none = std::nan("");

} // namespace

/// Expected values were worked out beforehand by an independent implementation; tests/data/bench-check-values.json
/// holds them in full.
class StatsTest : public QObject {
    Q_OBJECT
    store::Json m_expected;

private slots:
    void initTestCase() { m_expected = support::jsonFile(support::sourcePath("tests/data/bench-check-values.json")); }

    void percentiles_data() {
        QTest::addColumn<QVector<double>>("values");
        QTest::addColumn<double>("p");
        QTest::addColumn<double>("expected");
        // Type 7: linear between order statistics at (n-1)p. Source: Hyndman & Fan (1996).
        QTest::newRow("median of four") << QVector<double>{1, 2, 3, 4} << 0.5 << 2.5;
        QTest::newRow("95 % of 0..100") << QVector<double>{0, 25, 50, 75, 100} << 0.95 << 95.0;
        QTest::newRow("lowest") << QVector<double>{7, 3, 9} << 0.0 << 3.0;
        QTest::newRow("highest") << QVector<double>{7, 3, 9} << 1.0 << 9.0;
        QTest::newRow("gaps left out") << QVector<double>{1, none, 3} << 0.5 << 2.0;
    }
    void percentiles() {
        QFETCH(QVector<double>, values);
        QFETCH(double, p);
        QFETCH(double, expected);
        QCOMPARE_LE(std::abs(percentile(std::vector<double>(values.begin(), values.end()), p) - expected), 1e-12);
    }

    /// Quantiles from tables of the t and normal distributions (from memory, to four figures).
    void quantiles_data() {
        QTest::addColumn<double>("nu");
        QTest::addColumn<double>("t");
        QTest::newRow("2") << 2.0 << 4.3027;
        QTest::newRow("5") << 5.0 << 2.5706;
        QTest::newRow("10") << 10.0 << 2.2281;
        QTest::newRow("30") << 30.0 << 2.0423;
        QTest::newRow("many") << 1e6 << 1.9600;
    }
    void quantiles() {
        QFETCH(double, nu);
        QFETCH(double, t);
        QCOMPARE_LE(std::abs(tQuantile(0.975, nu) / t - 1), 0.01);
        QCOMPARE_LE(std::abs(tQuantile(0.025, nu) / t + 1), 0.01);
    }
    void normal() {
        QCOMPARE_LE(std::abs(normalQuantile(0.975) - 1.959964), 1e-5);
        QCOMPARE_LE(std::abs(normalCdf(1.0) - 0.8413447), 1e-6);
        QCOMPARE_LE(std::abs(normalCdf(normalQuantile(0.31)) - 0.31), 1e-6);
    }

    void sustained() {
        const std::vector<double> t{0, 1, 2, 3, 4, 5, 6, 7, 8, 9}, y{1, 5, 5, 2, 4, 4, 4, 4, 9, 1};
        QCOMPARE(sustainedMaximum(t, y, 3), 4.0);
        // A plateau of 10 s held for the whole of it, one of 9 not, nor the 6 s a log begins with.
        std::vector<double> seconds, level;
        for (int i = 0; i <= 60; ++i) {
            seconds.push_back(i);
            level.push_back(i <= 6 ? 95 : i >= 10 && i <= 20 ? 80 : i >= 40 && i <= 49 ? 90 : 20);
        }
        QCOMPARE(sustainedMaximum(seconds, level, 10), 80.0);
        QCOMPARE(sustainedMaximum(seconds, level, 9), 90.0);
        QCOMPARE(median({4, 1, 3, 2}), 2.5);
        QCOMPARE(sustainedMaximum(t, y, 1), 5.0);
    }

    /// Against the median of each window, taken one by one; readings that are missing are left out.
    void runningMedianIsThatOfItsWindow() {
        auto values = lcg(200);
        for (const std::size_t i : {0u, 7u, 8u, 9u, 50u, 199u})
            values[i] = std::nan("");
        values[20] = values[21] = values[22];
        for (const std::size_t half : {0u, 1u, 2u, 7u, 300u}) {
            const auto found = runningMedian(values, half);
            QCOMPARE(found.size(), values.size());
            for (std::size_t i = 0; i < values.size(); ++i) {
                std::vector<double> window;
                for (std::size_t k = i < half ? 0 : i - half; k < std::min(values.size(), i + half + 1); ++k)
                    if (std::isfinite(values[k]))
                        window.push_back(values[k]);
                const double expected = median(window);
                QVERIFY2(found[i] == expected || (std::isnan(found[i]) && std::isnan(expected)),
                         qPrintable(QString("%1, half %2").arg(i).arg(half)));
            }
        }
        QVERIFY(runningMedian({}, 3).empty());
    }
    void meanOfCorrelatedReadings() {
        const auto u = lcg(300);
        std::vector<double> z;
        for (int i = 0; i < 300; ++i) {
            double s = 0;
            for (int k = -2; k <= 2; ++k)
                s += i + k >= 0 && i + k < 300 ? u[static_cast<std::size_t>(i + k)] : 0.0;
            z.push_back(60 + 2 * s / 5);
        }
        const auto m = meanWithUncertainty(z);
        QCOMPARE_LE(std::abs(m.mean - 60.007141), 1e-6);
        QCOMPARE_LE(std::abs(m.nEff - 24.7047), 1e-3);
        QCOMPARE_LE(std::abs(m.u - 0.0461309), 1e-6);
        QCOMPARE_LE(std::abs(m.expanded - 0.0952722), 5e-5);
        QCOMPARE_LE(std::abs(percentile(z, 0.95) - 60.381010), 1e-6);
        QVERIFY(!m.tooShort);
    }

    void quantiser() {
        QCOMPARE_LE(std::abs(quantiserUncertainty(1, 0) - 0.288675), 1e-6);
        QCOMPARE(quantiserUncertainty(0, 0.3), 0.0);
        QVERIFY(quantiserUncertainty(1, 2.0) < 1e-6); // noise far above the step averages it away
    }

    void normalisedToTheReferenceRoom_data() {
        QTest::addColumn<double>("s");
        QTest::addColumn<double>("uS");
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("u");
        QTest::newRow("fixed fan") << 1.0 << 0.06 << 67.900 << 0.470761;
        QTest::newRow("automatic fan") << 0.75 << 0.15 << 68.750 << 0.633028;
    }
    void normalisedToTheReferenceRoom() {
        QFETCH(double, s);
        QFETCH(double, uS);
        QFETCH(double, value);
        QFETCH(double, u);
        const auto n = normalise(71.3, 0.3, 26.4, 0.3, 23, s, uS);
        QCOMPARE_LE(std::abs(n.value - value), 1e-9);
        QCOMPARE_LE(std::abs(n.u - u), 1e-6);
    }

    void laggedRoom() {
        std::vector<double> t, room;
        for (int i = 0; i <= 150; ++i) {
            t.push_back(i);
            room.push_back(i < 60 ? 22 : 24);
        }
        QCOMPARE_LE(std::abs(lagged(t, room).back() - 23.272371), 0.01);
    }

    void timeIsCleaned() {
        const std::vector<double> t{0, 1, 2, 2, 4, 3, 5, 30, 31, none, 32};
        TimeReport report;
        const auto kept = cleanTime(t, report);
        QCOMPARE(kept, (std::vector<std::size_t>{0, 1, 3, 5, 4, 6, 7, 8, 10}));
        QCOMPARE(report.duplicates, 1);
        QCOMPARE(report.backwards, 1);
        QCOMPARE(report.nonFinite, 1);
        QCOMPARE(report.gaps.size(), std::size_t{1});
        QCOMPARE(report.gaps[0].first, 5.0);
        QCOMPARE(report.gaps[0].second, 30.0);
    }

    void valuesAreCleaned_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<QVector<double>>("values");
        QTest::addColumn<int>("invalid");
        QTest::newRow("temperature") << int(ChannelKind::Temperature)
                                     << QVector<double>{40, 41, 0, 41, -127, 42, none, 500, 43} << 4;
        QTest::newRow("nought is real in winter") << int(ChannelKind::Ambient) << QVector<double>{1, 0, 2, 1} << 0;
        QTest::newRow("stopped fan is real") << int(ChannelKind::Rpm) << QVector<double>{1500, 0, 0, 0, 0, 1500} << 0;
        QTest::newRow("two noughts between are not")
            << int(ChannelKind::Rpm) << QVector<double>{1500, 1500, 0, 1500, 1500} << 1;
        QTest::newRow("clock") << int(ChannelKind::Clock) << QVector<double>{4000, 0, 99999} << 2;
    }
    void valuesAreCleaned() {
        QFETCH(int, kind);
        QFETCH(QVector<double>, values);
        QFETCH(int, invalid);
        std::vector<double> v(values.begin(), values.end());
        const int before = static_cast<int>(std::count_if(v.begin(), v.end(), [](double x) { return std::isnan(x); }));
        (void)cleanValues(static_cast<ChannelKind>(kind), v);
        const int after = static_cast<int>(std::count_if(v.begin(), v.end(), [](double x) { return std::isnan(x); }));
        QCOMPARE(std::max(after, before), invalid);
    }

    void quantumIsFound() {
        QCOMPARE(quantum(std::vector<double>{40, 40.5, 41, 40.5, 42, 43.5, 43, 42.5, 41}), 0.5);
        QCOMPARE(quantum(std::vector<double>{40, 41}), 0.0); // too few steps to say
        std::vector<double> eighths;
        for (const double u : lcg(200))
            eighths.push_back(std::round((60 + u) * 8) / 8);
        QCOMPARE(quantum(eighths), 0.125);
    }

    void spikesAreFlagged() {
        std::vector<double> y(60, 50.0);
        const auto u = lcg(60);
        for (std::size_t i = 0; i < y.size(); ++i)
            y[i] += 0.2 * u[i];
        y[30] = 62;
        const auto flags = spikes(y, 0.125);
        QCOMPARE(std::count(flags.begin(), flags.end(), true), 1);
        QVERIFY(flags[30]);
    }

    void throttleIsTold() {
        std::vector<double> t, temperature, clock, power;
        const auto u = lcg(600), w = lcg(600, 7);
        for (int i = 0; i < 600; ++i) {
            t.push_back(i);
            temperature.push_back(std::min(60 + 35 * -std::expm1(-i / 80.0), 90.0) +
                                  0.4 * u[static_cast<std::size_t>(i)]);
            const double f = 4500 - 300 * std::clamp((i - 160) / 60.0, 0.0, 1.0);
            clock.push_back(f + 20 * w[static_cast<std::size_t>(i)]);
            power.push_back(120 * std::pow(f / 4500, 2));
        }
        const auto thermal = findThrottle(t, clock, temperature, &power, 90.0, 0);
        QCOMPARE(thermal.kind, Throttle::Thermal);
        QCOMPARE_LE(std::abs(thermal.share - m_expected["throttle"]["share"].get<double>()), 0.01);
        QCOMPARE_LE(std::abs(thermal.drop - m_expected["throttle"]["drop"].get<double>()), 0.003);
        const std::vector<double> steady(600, 4500.0);
        QCOMPARE(findThrottle(t, steady, temperature, &power, 90.0, 0).kind, Throttle::None);
    }

    void stepsOfAFan() {
        std::vector<double> t, rpm, ramp;
        const auto u = lcg(900);
        for (int i = 0; i < 900; ++i) {
            t.push_back(i);
            rpm.push_back((i < 500 ? 1500 : 1900) + 20 * u[static_cast<std::size_t>(i)]);
            ramp.push_back(1200 + 0.5 * i + 20 * u[static_cast<std::size_t>(i)]);
        }
        const auto step = lastStep(t, rpm, 0.08);
        QVERIFY(step);
        QCOMPARE_LE(std::abs(*step - 500), 5.0);
        QVERIFY(!lastStep(t, ramp, 0.08)); // a ramp that follows the temperature is no step
    }
};
} // namespace tst_stats
MD_TEST(tst_stats, StatsTest)
#include "tst_stats.moc"
