// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/fit.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

#include <random>
#include <set>

namespace tst_fit {

using namespace support;
using fit::GapState;

namespace {

const fit::Gap* gapBetween(const fit::FitResult& fit, const std::string& a, const std::string& b, Axis axis) {
    for (const fit::Gap& gap : fit.gaps)
        if (gap.axis == axis && gap.between[0].text.find(a) != std::string::npos &&
            gap.between[1].text.find(b) != std::string::npos)
            return &gap;
    return nullptr;
}

} // namespace

class FitTest : public QObject {
    Q_OBJECT
private slots:
    /// The textbook sum: 82.0 inside, a 15.0 fan, a card whose edge lies at 61.0. Common practice, no source.
    void cardEdgeToSideFan() {
        const Project p = project();
        const auto result = fit::check(built(p, "R1"));
        const auto* gap = gapBetween(result, "Card card", "Fan fan-15", Axis::X);
        QVERIFY(gap);
        QCOMPARE(gap->nominal.mm(), 6.0); // 82 - 15 - 3 - 58
        QCOMPARE(gap->chain.size(), std::size_t{4});
        double sum = 0, band = 0, squares = 0;
        for (const auto& item : gap->chain) {
            sum += item.sign * item.factor * item.valueMm;
            band += item.factor * item.toleranceMm;
            squares += std::pow(item.factor * item.toleranceMm, 2);
        }
        QCOMPARE_LE(std::abs(sum - gap->nominal.mm()), 1e-9); // the chain adds up to the gap
        QCOMPARE_LE(std::abs(band - gap->worstBandMm), 1e-9);
        QCOMPARE_LE(std::abs(gap->worstBandMm - 1.2), 1e-9); // 0.5 case + 0.3 fan + 0.1 place + 0.3 card
        QCOMPARE_LE(std::abs(gap->rssBandMm - std::sqrt(squares)), 1e-9);
        QCOMPARE(gap->requiredMm, 10.0); // a fan before a closed face: it closes, and is short of air
        QCOMPARE(gap->state, GapState::Starved);
    }

    void heightOfTheCoolerDecides_data() {
        QTest::addColumn<QString>("cooler");
        QTest::addColumn<QString>("fan");
        QTest::addColumn<double>("gapMm");
        QTest::addColumn<QString>("state");
        // From 82: the cooler's top at 15.2 + height, the fan's face at 82 - thickness.
        QTest::newRow("37 under a slim fan") << "cooler-37"
                                             << "fan-15" << 14.8 << "clear";
        QTest::newRow("47 under a slim fan") << "cooler-47"
                                             << "fan-15" << 4.8 << "starved";
        QTest::newRow("47 under a normal fan") << "cooler-47"
                                               << "fan-25" << -5.2 << "clash";
        QTest::newRow("60 under a slim fan") << "cooler-60"
                                             << "fan-15" << -8.2 << "clash";
    }
    void heightOfTheCoolerDecides() {
        QFETCH(QString, cooler);
        QFETCH(QString, fan);
        QFETCH(double, gapMm);
        QFETCH(QString, state);
        Project p = project();
        // The fan is lifted before the cooler, so that they face each other.
        std::get<CaseSpec>(p.shelf[0].spec).openings[0].centreMm = {200, 155};
        p.shelf[0].mounts[2].at[2] = centre(155);
        p = with(p, {SwapPart{"tray/cpu/lid", cooler.toStdString()}, SwapPart{"side", fan.toStdString()}});
        const auto result = fit::check(built(p, "R2"));
        const auto* gap = gapBetween(result, "Cooler", "Fan", Axis::X);
        QVERIFY(gap);
        QCOMPARE(gap->nominal.mm(), gapMm);
        QCOMPARE(QString::fromUtf8(fit::gapStateWord(gap->state).data()), state);
        QCOMPARE(gap->mark == Mark::Crossed, state == "clash");
    }

    /// The four states of one gap: a made part of growing width against the right wall, which flexes.
    void fourStates_data() {
        QTest::addColumn<double>("width");
        QTest::addColumn<bool>("flexible");
        QTest::addColumn<QString>("state");
        QTest::newRow("clear") << 80.0 << true << "clear";
        QTest::newRow("rub: less than 0.5") << 81.8 << true << "rub";
        QTest::newRow("rub: a tenth is left") << 81.9 << true << "rub";
        QTest::newRow("bulge: 1.5 over, panel flexes") << 83.5 << true << "bulge";
        QTest::newRow("bulge: at most 2") << 84.0 << true << "bulge";
        QTest::newRow("clash: 2.6 over") << 84.6 << true << "clash";
        QTest::newRow("clash: panel is stiff") << 83.5 << false << "clash";
    }
    void fourStates() {
        QFETCH(double, width);
        QFETCH(bool, flexible);
        QFETCH(QString, state);
        Project p = project();
        std::get<CaseSpec>(p.shelf[0].spec).panels[0].flexible = flexible;
        for (Part& part : p.shelf)
            if (part.id == "caddy")
                part.size[0] = mm(width);
        p = with(p, {PlacePart{"caddy", "shelf"}});
        const auto result = fit::check(built(p, "R2"));
        const auto* gap = gapBetween(result, "Caddy", "right wall", Axis::X);
        QVERIFY(gap);
        QCOMPARE(QString::fromUtf8(fit::gapStateWord(gap->state).data()), state);
    }

    void bladesNeverBulge() {
        Project p = project();
        for (Part& part : p.shelf)
            if (part.id == "card")
                part.size[1] = mm(65.0, 0.3); // its edge passes 1 mm into the fan
        const auto result = fit::check(built(with(p, {}), "R2"));
        const auto* gap = gapBetween(result, "Card", "Fan", Axis::X);
        QVERIFY(gap);
        QCOMPARE(gap->nominal.mm(), -1.0);
        QCOMPARE(gap->state, GapState::Clash);
    }

    void keepOutsCount() {
        Project p = project();
        for (Part& part : p.shelf)
            if (part.id == "card")
                part.bodies = {{.name = "shroud", .at = {mm(0), mm(0), mm(0)}, .size = part.size},
                               {.name = "power plug",
                                .role = BodyRole::KeepOut,
                                .at = {mm(80), mm(58), mm(10)},
                                .size = {mm(18), mm(35), mm(18)}}};
        const auto result = fit::check(built(p, "R1"));
        const auto* gap = gapBetween(result, "power plug", "right wall", Axis::X);
        if (!gap)
            gap = gapBetween(result, "power plug", "Fan", Axis::X);
        QVERIFY(gap);
        QVERIFY(gap->nominal < Length{}); // 61 + 35 is more than 82
        QCOMPARE(gap->state, GapState::Clash);
    }

    void roundPartsLeaveTheirCorners() {
        Project p = project();
        Part round{.id = "round", .kind = PartKind::Made, .name = "Round", .size = {mm(40), mm(40), mm(40)}};
        round.bodies = {{.name = "drum",
                         .shape = Shape::Cylinder,
                         .along = Axis::X,
                         .at = {mm(0), mm(0), mm(0)},
                         .size = {mm(40), mm(40), mm(40)}}};
        round.spec = MadeSpec{};
        Part block{.id = "block", .kind = PartKind::Made, .name = "Block", .size = {mm(40), mm(4), mm(4)}};
        block.spec = MadeSpec{};
        p.shelf.push_back(round);
        p.shelf.push_back(block);
        auto& mounts = p.shelf[0].mounts;
        mounts.push_back({.id = "a",
                          .name = "a",
                          .accepts = {PartKind::Made},
                          .at = {low(20), low(20), low(100)},
                          .facing = {Axis::Z, 1},
                          .up = {Axis::Y, 1}});
        mounts.push_back({.id = "b",
                          .name = "b",
                          .accepts = {PartKind::Made},
                          .at = {low(20), low(20), low(100)},
                          .facing = {Axis::Z, 1},
                          .up = {Axis::Y, 1}});
        p.revisions = {{.id = "R1", .changes = {SetCase{"box"}, PlacePart{"round", "a"}, PlacePart{"block", "b"}}}};
        // The block sits in the corner of the drum's box, 20 - 20/sqrt(2) = 5.86 off the round: no clash.
        const auto result = fit::check(built(p, "R1"));
        for (const auto& gap : result.gaps)
            QVERIFY2(gap.state != GapState::Clash || gap.between[1].text != "Block", gap.id.c_str());
        p.shelf.back().size = {mm(40), mm(12), mm(12)}; // larger: it reaches into the round
        const auto second = fit::check(built(p, "R1"));
        QVERIFY(std::any_of(second.gaps.begin(), second.gaps.end(),
                            [](const fit::Gap& g) { return g.state == GapState::Clash; }));
    }

    void hiddenNeighboursMakeNoGap() {
        const Project p = project();
        const auto result = fit::check(built(p, "R1"));
        // The processor lies wholly under its cooler: nothing else faces it.
        QVERIFY(!gapBetween(result, "Processor", "Fan", Axis::X));
    }

    void volumeAndFootprint() {
        const Project p = with(project(), {Orient{Side::Left}});
        const auto standing = fit::check(built(p, "R1")), lying = fit::check(built(p, "R2"));
        QCOMPARE_LE(std::abs(standing.volumeL - 0.086 * 0.304 * 0.254 * 1000), 1e-9); // walls of 2 on each side
        QCOMPARE(standing.volumeL, lying.volumeL);
        QCOMPARE_LE(std::abs(standing.footprintCm2 - 8.6 * 30.4), 1e-9);
        QCOMPARE_LE(std::abs(lying.footprintCm2 - 30.4 * 25.4), 1e-9);
        QCOMPARE(standing.feetMm, 10.0);
    }

    /// Chance against a Monte Carlo of 10^6 draws, each dimension a normal with its tolerance as 3 sigma.
    void chanceAgreesWithMonteCarlo_data() {
        QTest::addColumn<double>("cardHeight");
        QTest::newRow("comfortable") << 58.0;
        QTest::newRow("about half") << 61.0;
        QTest::newRow("doubtful") << 60.7;
        QTest::newRow("unlikely") << 61.5;
    }
    void chanceAgreesWithMonteCarlo() {
        QFETCH(double, cardHeight);
        Project p = project();
        for (Part& part : p.shelf)
            if (part.id == "card")
                part.size[1] = mm(cardHeight, 0.9);
        const auto result = fit::check(built(p, "R1"));
        const auto* gap = gapBetween(result, "Card", "Fan", Axis::X);
        QVERIFY(gap);
        std::mt19937_64 random(20260504);
        std::normal_distribution<double> normal;
        int above = 0;
        constexpr int draws = 1'000'000;
        for (int i = 0; i < draws; ++i) {
            double g = 0;
            for (const auto& item : gap->chain)
                g += item.sign * item.factor * (item.valueMm + item.toleranceMm / 3 * normal(random));
            above += g > gap->requiredMm;
        }
        QCOMPARE_LE(std::abs(gap->chance - static_cast<double>(above) / draws), 0.002);
    }

    void chanceOfExactSizes() {
        QCOMPARE(fit::chanceAbove(3, 0, 3), 1.0);
        QCOMPARE(fit::chanceAbove(2.99, 0, 3), 0.0);
        QCOMPARE_LE(std::abs(fit::chanceAbove(3, 1, 3) - 0.5), 1e-12);
        QCOMPARE_LE(std::abs(fit::chanceAbove(4, 3, 3) - 0.841345), 1e-6); // one sigma
    }

    void tightestFirst() {
        const Project p = project();
        const auto result = fit::check(built(p, "R1"));
        QVERIFY(result.gaps.size() > 8);
        for (std::size_t i = 1; i < result.gaps.size(); ++i)
            QVERIFY(result.gaps[i - 1].marginMm() <= result.gaps[i].marginMm());
    }

    void idsAreUnique() {
        const Project p = project();
        const auto result = fit::check(built(p, "R1"));
        std::set<std::string> ids;
        for (const auto& gap : result.gaps)
            QVERIFY2(ids.insert(gap.id).second, gap.id.c_str());
    }

    /// Every rule has a row that fails without it.
    void rules_data() {
        QTest::addColumn<int>("a");
        QTest::addColumn<int>("b");
        QTest::addColumn<double>("requiredMm");
        using fit::Face;
        // Engineering judgement or common practice, no source, unless the rule names a standard.
        QTest::newRow("plug before blades") << int(Face::KeepOut) << int(Face::Blades) << 5.0;
        QTest::newRow("plug before a cooler's fan") << int(Face::KeepOut) << int(Face::CoolerFan) << 5.0;
        QTest::newRow("plug before a solid") << int(Face::KeepOut) << int(Face::Solid) << 0.0;
        QTest::newRow("plug before a drive") << int(Face::KeepOut) << int(Face::Drive) << 0.0;
        QTest::newRow("blades before a solid") << int(Face::Blades) << int(Face::Solid) << 10.0;
        QTest::newRow("blades before a drive") << int(Face::Blades) << int(Face::Drive) << 10.0;
        QTest::newRow("blades before blades") << int(Face::Blades) << int(Face::Blades) << 10.0;
        QTest::newRow("blades before a closed panel") << int(Face::Blades) << int(Face::ClosedPanel) << 10.0;
        QTest::newRow("cooler before mesh") << int(Face::CoolerFan) << int(Face::OpenPanel) << 5.0;
        QTest::newRow("cooler before a closed panel") << int(Face::CoolerFan) << int(Face::ClosedPanel) << 15.0;
        QTest::newRow("cooler before a solid") << int(Face::CoolerFan) << int(Face::Solid) << 15.0;
        QTest::newRow("supply before a closed panel") << int(Face::SupplyIntake) << int(Face::ClosedPanel) << 15.0;
        QTest::newRow("drive beside drive") << int(Face::Drive) << int(Face::Drive) << 3.0;
        QTest::newRow("solder side above the tray") << int(Face::BoardUnderside) << int(Face::ClosedPanel) << 2.5;
        QTest::newRow("solid by solid") << int(Face::Solid) << int(Face::Solid) << 0.5;
        QTest::newRow("drive by a solid") << int(Face::Drive) << int(Face::Solid) << 0.5;
    }
    void rules() {
        QFETCH(int, a);
        QFETCH(int, b);
        QFETCH(double, requiredMm);
        const auto one = static_cast<fit::Face>(a), other = static_cast<fit::Face>(b);
        QCOMPARE(fit::clearanceFor(one, other).requiredMm, requiredMm);
        QCOMPARE(&fit::clearanceFor(one, other), &fit::clearanceFor(other, one));
        QVERIFY(!fit::clearanceFor(one, other).reason.sentence().empty());
        QVERIFY(!fit::clearanceFor(one, other).source.empty());
    }
};
} // namespace tst_fit
MD_TEST(tst_fit, FitTest)
#include "tst_fit.moc"
