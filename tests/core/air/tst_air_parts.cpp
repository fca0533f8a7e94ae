// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/acoustics/noise.h"
#include "core/air/predict.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_air_parts {

using namespace support;

namespace {

air::Prediction predictOf(const Project& p, const std::string& id = "R1", double room = 23) {
    return air::predict(built(p, id), {.roomC = room});
}
double of(const air::Prediction& a, const char* mount) {
    return a.part(mount) ? a.part(mount)->temperatureC : std::nan("");
}

} // namespace

/// Each kind of part in the network, one change at a time; directions from physics, no magnitudes claimed.
class AirPartsTest : public QObject {
    Q_OBJECT
private slots:
    void cardCoolers_data() {
        QTest::addColumn<int>("cooler");
        for (const auto& [name, cooler] :
             {std::pair{"single", CardCooler::Single}, std::pair{"dual", CardCooler::Dual},
              std::pair{"triple", CardCooler::Triple}, std::pair{"blower", CardCooler::Blower}})
            QTest::newRow(name) << int(cooler);
    }
    void cardCoolers() {
        QFETCH(int, cooler);
        Project p = project();
        std::get<CardSpec>(partOf(p, "card").spec).cooler = static_cast<CardCooler>(cooler);
        const auto a = predictOf(p);
        QVERIFY(a.converged);
        QVERIFY(of(a, "card") > 40 && of(a, "card") < 90);
        QCOMPARE(a.part("card")->limitC, cooler == int(CardCooler::Blower) ? 83.0 : 87.0);
        QVERIFY(a.part("card")->clockMhz > 1000);
    }
    void aBlowerSendsItsHeatOut() {
        Project axial = project(), blower = project();
        std::get<CardSpec>(partOf(blower, "card").spec).cooler = CardCooler::Blower;
        QVERIFY(predictOf(blower).chambers[0].airC < predictOf(axial).chambers[0].airC);
    }
    void moreCardPowerIsHotterForAll() {
        Project p = project();
        const auto before = predictOf(p);
        partOf(p, "card").powerW = 160;
        const auto after = predictOf(p);
        QVERIFY(of(after, "card") > of(before, "card"));
        QVERIFY(of(after, "tray/cpu") > of(before, "tray/cpu"));
        QVERIFY(after.totalPowerW > before.totalPowerW + 35);
    }
    void towerCooler() {
        Project p = project();
        Part tower{.id = "tower",
                   .kind = PartKind::Cooler,
                   .name = "Tower",
                   .size = {mm(94), mm(60), mm(60)},
                   .needs = {{"fan", 1}},
                   .powerW = 1.5};
        tower.spec = CoolerSpec{.type = CoolerType::Tower, .sockets = {"A"}, .fanFrameMm = 92, .fanThicknessMm = 25};
        p.shelf.push_back(tower);
        p = with(p, {SwapPart{"tray/cpu/lid", "tower"}});
        const auto a = predictOf(p, "R2");
        QVERIFY(a.converged);
        QVERIFY(of(a, "tray/cpu") > 30 && of(a, "tray/cpu") <= 95.01);
    }
    /// A second fan behind the fins of a tower pushes the same air: more of it, a cooler processor, 3 dB more at the
    /// same speed.
    void towerWithTwoFans() {
        Project p = project();
        Part tower{.id = "tower", .kind = PartKind::Cooler, .name = "Tower", .size = {mm(94), mm(60), mm(60)}};
        tower.spec = CoolerSpec{.type = CoolerType::Tower, .sockets = {"A"}, .fanFrameMm = 92, .fanThicknessMm = 15};
        p.shelf.push_back(tower);
        p = with(p, {SwapPart{"tray/cpu/lid", "tower"}, SetFan{"tray/cpu/lid", {FanMode::Fixed, 0.7}}});
        const auto state = [&](int fans) {
            std::get<CoolerSpec>(partOf(p, "tower").spec).fans = fans;
            return predictOf(p, "R2");
        };
        const auto fanOfTower = [](const auto& a) {
            return *std::find_if(a.fans.begin(), a.fans.end(), [](const auto& f) { return f.id == "tray/cpu/lid"; });
        };
        const auto one = state(1), two = state(2);
        QVERIFY(one.converged && two.converged);
        const double more = fanOfTower(two).flowM3h / fanOfTower(one).flowM3h;
        QVERIFY2(more > 1.02 && more < 2,
                 qPrintable(QString::number(more))); // at most doubled, where fins are all viscous
        QVERIFY(of(two, "tray/cpu") < of(one, "tray/cpu") - 0.1);
        const auto levelOf = [&](int fans) {
            std::get<CoolerSpec>(partOf(p, "tower").spec).fans = fans;
            const Build build = *resolve(p, "R2");
            const auto noise = acoustics::noiseOf(build, predictOf(p, "R2"), 1);
            for (const auto& source : noise.sources)
                if (source.id == "tray/cpu/lid")
                    return source.levelDba;
            return 0.0;
        };
        QCOMPARE_LE(std::abs(levelOf(2) - levelOf(1) - 3.0103), 1e-3);
    }
    void coolerKnownByItsRating() {
        Project p = project();
        std::get<CoolerSpec>(partOf(p, "cooler-37").spec).ratedTdpW = 65;
        const double small = of(predictOf(p), "tray/cpu");
        std::get<CoolerSpec>(partOf(p, "cooler-37").spec).ratedTdpW = 130;
        QVERIFY(of(predictOf(p), "tray/cpu") < small);
    }
    void processorDie() {
        Project p = project();
        const double usual = of(predictOf(p), "tray/cpu");
        std::get<ProcessorSpec>(partOf(p, "cpu").spec).dieResistance = 0.40;
        QVERIFY(of(predictOf(p), "tray/cpu") > usual + 2);
    }
    void warmerRoomCostsClock() {
        const Project p = project();
        const auto cool = predictOf(p, "R1", 20), warm = predictOf(p, "R1", 35);
        QVERIFY(warm.part("tray/cpu")->clockMhz < cool.part("tray/cpu")->clockMhz);
        QVERIFY(warm.part("card")->clockMhz < cool.part("card")->clockMhz);
        // A regulated cooler hides part of the room's rise in its fan.
        QVERIFY(of(warm, "tray/cpu") - of(cool, "tray/cpu") < 15);
    }
    void drivesAndTheirForms_data() {
        QTest::addColumn<int>("form");
        QTest::newRow("3.5") << int(DriveForm::Inch35);
        QTest::newRow("2.5") << int(DriveForm::Inch25);
        QTest::newRow("M.2") << int(DriveForm::M2Bare);
        QTest::newRow("M.2 with a sink") << int(DriveForm::M2Sink);
    }
    void drivesAndTheirForms() {
        QFETCH(int, form);
        Project p = project();
        Part drive{
            .id = "drive", .kind = PartKind::Drive, .name = "Drive", .size = {mm(40), mm(22), mm(4)}, .powerW = 5};
        drive.spec = DriveSpec{.form = static_cast<DriveForm>(form)};
        p.shelf.push_back(drive);
        p = with(p, {PlacePart{"drive", "shelf"}});
        const auto a = predictOf(p, "R2");
        QVERIFY(a.part("shelf"));
        QVERIFY(of(a, "shelf") > a.chambers[0].airC);
        QCOMPARE(a.part("shelf")->limitC, 70.0);
    }
    void aSinkCoolsADrive() {
        const auto temperature = [](DriveForm form) {
            Project p = project();
            Part drive{
                .id = "drive", .kind = PartKind::Drive, .name = "Drive", .size = {mm(80), mm(22), mm(4)}, .powerW = 6};
            drive.spec = DriveSpec{.form = form};
            p.shelf.push_back(drive);
            p = with(p, {PlacePart{"drive", "shelf"}});
            return of(predictOf(p, "R2"), "shelf");
        };
        QVERIFY(temperature(DriveForm::M2Sink) < temperature(DriveForm::M2Bare) - 5);
    }
    void supplyLossWarms() {
        Project good = project(), poor = project();
        std::get<PowerSupplySpec>(partOf(poor, "supply").spec).efficiency = 0.78;
        QVERIFY(of(predictOf(poor), "bay") > of(predictOf(good), "bay"));
        // Loss = load (1/efficiency - 1).
        const auto a = predictOf(good);
        double load = 0;
        for (const auto& part : a.parts)
            load += part.kind == PartKind::PowerSupply ? 0 : part.powerW;
        QCOMPARE_LE(std::abs(a.part("bay")->powerW / (load * (1 / 0.9 - 1)) - 1), 0.2);
    }
    void aBrickLeavesItsLossOutside() {
        Project inside = project(), outside = project();
        std::get<PowerSupplySpec>(partOf(outside, "supply").spec).brick = true;
        const auto a = predictOf(inside), b = predictOf(outside);
        QVERIFY(a.part("bay") && !b.part("bay"));
        // Its fan is missing too, which carries air out.
        QVERIFY(std::any_of(a.fans.begin(), a.fans.end(),
                            [](const auto& f) { return f.id == "bay" && f.direction == air::FanDirection::Out; }));
        QVERIFY(std::none_of(b.fans.begin(), b.fans.end(), [](const auto& f) { return f.id == "bay"; }));
    }
    void wallsCarryHeat() {
        const auto airC = [](WallMaterial material) {
            Project p = with(project(), {RemovePart{"side"}, SetOpening{"side-grille", OpeningStyle::Closed, 0},
                                         SetOpening{"top-grille", OpeningStyle::Closed, 0},
                                         SetOpening{"floor-vent", OpeningStyle::Closed, 0}});
            std::get<CaseSpec>(p.shelf[0].spec).material = material;
            return air::predict(built(p, "R2"), {.roomC = 23, .processorShare = 0.2, .cardShare = 0.1})
                .chambers[0]
                .airC;
        };
        QVERIFY(airC(WallMaterial::Plastic) > airC(WallMaterial::Aluminium));
    }
    void openingStyles_data() {
        QTest::addColumn<int>("style");
        QTest::addColumn<double>("share");
        QTest::newRow("plain hole") << int(OpeningStyle::Plain) << 1.0;
        QTest::newRow("wide mesh") << int(OpeningStyle::Mesh) << 0.7;
        QTest::newRow("mesh") << int(OpeningStyle::Mesh) << 0.4;
        QTest::newRow("tight mesh") << int(OpeningStyle::Mesh) << 0.15;
    }
    void openingStyles() {
        // The more open the floor vent, the more air the card draws through it: each row is compared with the next
        // tighter one.
        QFETCH(int, style);
        QFETCH(double, share);
        const auto drawn = [](OpeningStyle s, double e) {
            const Project p = with(project(), {SetOpening{"floor-vent", s, e}});
            const auto a = predictOf(p, "R2");
            for (const auto& o : a.openings)
                if (o.id == "floor-vent")
                    return o.inM3h;
            return -1.0;
        };
        QVERIFY(drawn(static_cast<OpeningStyle>(style), share) > drawn(OpeningStyle::Mesh, share * 0.6));
    }
    void flowsOfTheCaseBalance() {
        // What comes in by openings and fans goes out by openings, fans and slots; volumes differ by the warmth alone.
        const auto a = predictOf(project());
        double in = 0, out = 0;
        for (const auto& o : a.openings) {
            in += o.inM3h;
            out += o.outM3h;
        }
        for (const auto& f : a.fans) {
            in += f.direction == air::FanDirection::In ? f.flowM3h : 0;
            out += f.direction == air::FanDirection::Out ? f.flowM3h : 0;
        }
        QVERIFY2(std::abs(in - out) < 0.35 * std::max(in, out),
                 qPrintable(QStringLiteral("%1 in, %2 out").arg(in).arg(out)));
    }
    void twoChambers() {
        Project p = project();
        auto& spec = std::get<CaseSpec>(p.shelf[0].spec);
        spec.chambers = {{.id = "in", .name = "Rear", .lowMm = {0, 120, 0}, .highMm = {82, 300, 250}},
                         {.id = "front", .name = "Front", .lowMm = {0, 0, 0}, .highMm = {82, 118, 250}}};
        spec.openings.push_back({.id = "hole",
                                 .name = "Lead hole",
                                 .side = Side::Front,
                                 .chamber = "in",
                                 .to = "front",
                                 .centreMm = {40, 30},
                                 .sizeMm = {40, 30},
                                 .style = OpeningStyle::Plain});
        const auto a = predictOf(p);
        QVERIFY(a.converged);
        QCOMPARE(a.chambers.size(), std::size_t{2});
        QVERIFY(a.chambers[0].airC != a.chambers[1].airC);
        for (const auto& chamber : a.chambers)
            QVERIFY(chamber.airC > 23);
    }
};
} // namespace tst_air_parts
MD_TEST(tst_air_parts, AirPartsTest)
#include "tst_air_parts.moc"
