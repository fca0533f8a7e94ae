// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/acoustics/noise.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_noise {

using namespace support;

class NoiseTest : public QObject {
    Q_OBJECT
private slots:
    void twoEqualSources() { QCOMPARE_LE(std::abs(acoustics::sumLevels({30, 30}) - 33.0103), 1e-4); }
    void threeLevels() { QCOMPARE_LE(std::abs(acoustics::sumLevels({30, 30, 35}) - 37.128414), 1e-6); }
    /// Blades that pass at 200 and 206 Hz beat 6 times a second; at 200 and 215 they are two tones, at 200 and 200 one.
    void beats() {
        const auto at = [](double one, double other) {
            return acoustics::beatsOf({{.name = "A", .bladeHz = one}, {.name = "B", .bladeHz = other}});
        };
        QCOMPARE(at(200, 206).size(), std::size_t{1});
        QCOMPARE_LE(std::abs(at(200, 206)[0].hz - 6), 1e-9);
        QVERIFY(at(200, 215).empty() && at(200, 200).empty() && at(200, 0).empty());
        // 7 blades: common practice, no source.
        const Project p = project();
        const Build b = built(p, "R1");
        const auto air = air::predict(b, {.roomC = 23});
        for (const auto& source : acoustics::noiseOf(b, air, 1).sources)
            for (const auto& fan : air.fans)
                if (fan.id == source.id)
                    QCOMPARE_LE(std::abs(source.bladeHz - fan.rpm / 60 * 7), 1e-9);
    }
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
    /// Supplies by form, at a third of their load and at full; a stated level goes before. Engineering judgement.
    void supplies_data() {
        QTest::addColumn<QString>("form");
        QTest::addColumn<double>("share");
        QTest::addColumn<double>("stated");
        QTest::addColumn<double>("levelDba");
        QTest::newRow("Flex, a third") << "flex" << 1.0 / 3 << 0.0 << 32.0;
        QTest::newRow("Flex, less than a third") << "flex" << 0.1 << 0.0 << 32.0;
        QTest::newRow("Flex, full") << "flex" << 1.0 << 0.0 << 45.0;
        QTest::newRow("1U, full") << "1u" << 1.0 << 0.0 << 45.0;
        QTest::newRow("SFX, a third") << "sfx" << 1.0 / 3 << 0.0 << 18.0;
        QTest::newRow("SFX, full") << "sfx" << 1.0 << 0.0 << 34.0;
        QTest::newRow("SFX, two thirds") << "sfx" << 2.0 / 3 << 0.0 << 26.0;
        QTest::newRow("Flex that states 40") << "flex" << 1.0 << 40.0 << 40.0;
    }
    void supplies() {
        QFETCH(QString, form);
        QFETCH(double, share);
        QFETCH(double, stated);
        QFETCH(double, levelDba);
        Project p = project();
        double watts = 0;
        for (const Placed& placed : built(p, "R1").placed)
            watts += placed.part->kind == PartKind::PowerSupply ? 0 : placed.powerW();
        for (Part& part : p.shelf)
            if (part.id == "supply")
                part.spec = PowerSupplySpec{.form = form.toStdString(), .ratedW = watts / share, .levelDba = stated};
        const Build b = built(p, "R1");
        const auto noise = acoustics::noiseOf(b, air::predict(b, {.roomC = 23}), 1.0);
        const auto supply =
            std::find_if(noise.sources.begin(), noise.sources.end(), [](const auto& s) { return s.id == "bay"; });
        QVERIFY(supply != noise.sources.end());
        QCOMPARE_LE(std::abs(supply->levelDba - levelDba), 0.01);
    }
    void drivesAndPumps() {
        Project p = project();
        Part drive{.id = "drive", .kind = PartKind::Drive, .name = "Drive", .size = {mm(60), mm(60), mm(20)}};
        drive.spec = DriveSpec{.form = DriveForm::Inch35};
        p.shelf.push_back(drive);
        const auto level = [](const Project& q, const char* id) {
            const Build b = built(q, "R2");
            for (const auto& s : acoustics::noiseOf(b, air::predict(b, {.roomC = 23}), 1.0).sources)
                if (s.id == id)
                    return s.levelDba;
            return 0.0;
        };
        QCOMPARE(level(with(p, {PlacePart{"drive", "shelf"}}), "shelf"), 32.0); // 29 and its panel
        std::get<DriveSpec>(p.shelf.back().spec).levelDba = 20;
        QCOMPARE(level(with(p, {PlacePart{"drive", "shelf"}}), "shelf"), 23.0);
        std::get<DriveSpec>(p.shelf.back().spec) = DriveSpec{.form = DriveForm::Inch25};
        QCOMPARE(level(with(p, {PlacePart{"drive", "shelf"}}), "shelf"), 0.0);
        for (Part& part : p.shelf)
            if (part.id == "cooler-37")
                part.spec = CoolerSpec{.type = CoolerType::Liquid, .pump = true, .pumpDba = 25};
        const Project pumped = with(p, {}); // the build points into it
        const Build b = built(pumped, "R2");
        const auto noise = acoustics::noiseOf(b, air::predict(b, {.roomC = 23}), 1.0);
        QVERIFY(std::any_of(noise.sources.begin(), noise.sources.end(),
                            [](const auto& s) { return s.name.ends_with(", pump") && s.levelDba == 25; }));
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
        QCOMPARE_LE(std::abs(acoustics::noiseOf(b, prediction, 0.5).totalDba -
                             acoustics::noiseOf(b, prediction, 1.0).totalDba - 6.0206),
                    1e-3);
    }
};
} // namespace tst_noise
MD_TEST(tst_noise, NoiseTest)
#include "tst_noise.moc"
