// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/acoustics/noise.h"
#include "support/builds.h"

#include <QtTest>

using namespace support;

class NoiseTest : public QObject {
    Q_OBJECT
private slots:
    void twoEqualSources() { QCOMPARE_LE(std::abs(acoustics::sumLevels({30, 30}) - 33.0103), 1e-4); }
    void threeLevels() { QCOMPARE_LE(std::abs(acoustics::sumLevels({30, 30, 35}) - 37.128414), 1e-6); }
    void silence() { QVERIFY(std::isinf(acoustics::sumLevels({}))); }

    /// Fan sound law, 50 lg of speed; 20 lg of distance in the free field.
    void laws_data() {
        QTest::addColumn<double>("share");
        QTest::addColumn<double>("distanceM");
        QTest::addColumn<double>("lossDb");
        QTest::addColumn<double>("levelDba");
        QTest::newRow("as rated, with the desk") << 1.0 << 1.0 << 0.0 << 26.5;
        QTest::newRow("half speed: -15.05") << 0.5 << 1.0 << 0.0 << 26.5 - 15.0515;
        QTest::newRow("twice the distance: -6.02") << 1.0 << 2.0 << 0.0 << 26.5 - 6.0206;
        QTest::newRow("behind a closed panel") << 1.0 << 1.0 << 4.0 << 22.5;
    }
    void laws() {
        QFETCH(double, share);
        QFETCH(double, distanceM);
        QFETCH(double, lossDb);
        QFETCH(double, levelDba);
        QCOMPARE_LE(std::abs(acoustics::fanLevel(25, share, distanceM, lossDb) - levelDba), 1e-3);
    }
    void stoppedFanIsSilent() { QVERIFY(std::isinf(acoustics::fanLevel(25, 0, 1, 0))); }

    void sharesAddUp() {
        const Project p = project();
        const Build b = built(p, "R1");
        const auto noise = acoustics::noiseOf(b, air::predict(b, {.roomC = 23}), 1.0);
        QVERIFY(noise.sources.size() >= 3);
        double shares = 0;
        std::vector<double> levels;
        for (const auto& s : noise.sources) {
            shares += s.powerShare;
            levels.push_back(s.levelDba);
        }
        QCOMPARE_LE(std::abs(shares - 1), 1e-9);
        QCOMPARE_LE(std::abs(acoustics::sumLevels(levels) - noise.totalDba), 1e-9);
        for (std::size_t i = 1; i < noise.sources.size(); ++i)
            QVERIFY(noise.sources[i - 1].levelDba >= noise.sources[i].levelDba);
    }
    void slowerIsQuieter() {
        const Project p = with(project(), {SetFan{"side", FanMode::Fixed, 0.3}});
        const Project q = with(project(), {SetFan{"side", FanMode::Fixed, 1.0}});
        const auto level = [](const Project& project, const char* id) {
            const Build b = built(project, "R2");
            for (const auto& s : acoustics::noiseOf(b, air::predict(b, {.roomC = 23}), 1.0).sources)
                if (s.id == id)
                    return s.levelDba;
            return 0.0;
        };
        QCOMPARE_LE(std::abs(level(q, "side") - level(p, "side") - 50 * std::log10(1 / 0.3)), 1e-6);
    }
    void closerIsLouder() {
        const Project p = project();
        const Build b = built(p, "R1");
        const auto prediction = air::predict(b, {.roomC = 23});
        QCOMPARE_LE(std::abs(acoustics::noiseOf(b, prediction, 0.5).totalDba - acoustics::noiseOf(b, prediction, 1.0).totalDba - 6.0206), 1e-3);
    }
};
QTEST_APPLESS_MAIN(NoiseTest)
#include "tst_noise.moc"
