// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/distance.h"
#include "core/fit/insertion.h"
#include "core/fit/measure_next.h"
#include "core/fit/room.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

#include <random>

namespace tst_answers {

using namespace support;
using fit::Passage;

namespace {

const fit::Room* roomOf(const std::vector<fit::Room>& rooms, const std::string& mount, std::size_t own) {
    for (const auto& r : rooms)
        if (r.mount == mount && r.own == own)
            return &r;
    return nullptr;
}
const fit::Insertion* wayOf(const std::vector<fit::Insertion>& all, const std::string& mount) {
    for (const auto& i : all)
        if (i.mount == mount)
            return &i;
    return nullptr;
}

/// A case of 100 x 200 x 200 whose right panel comes off, with a drive and what stands before it.
Project chest(double lip = 0) {
    Project p;
    Part box{.id = "box", .kind = PartKind::Case, .name = "Chest", .size = {mm(100), mm(200), mm(200)}};
    CaseSpec spec{.wall = mm(2)};
    spec.chambers = {{.id = "in", .name = "Inside", .lowMm = {0, 0, 0}, .highMm = {100, 200, 200}}};
    spec.panels = {{.side = Side::Right, .lipMm = lip},       {.side = Side::Left, .removable = false},
                   {.side = Side::Top, .removable = false},   {.side = Side::Bottom, .removable = false},
                   {.side = Side::Front, .removable = false}, {.side = Side::Rear, .removable = false}};
    box.spec = spec;
    const std::vector<PartKind> kinds{PartKind::Drive, PartKind::Made};
    box.mounts = {{.id = "bay",
                   .name = "Bay",
                   .accepts = kinds,
                   .at = {low(10), low(40), low(60)},
                   .facing = {Axis::X, 1},
                   .up = {Axis::Z, 1}},
                  {.id = "bar",
                   .name = "Bar",
                   .accepts = kinds,
                   .at = {low(60), low(0), low(0)},
                   .facing = {Axis::X, 1},
                   .up = {Axis::Z, 1}}};
    Part drive{
        .id = "drive", .kind = PartKind::Drive, .name = "Drive", .size = {mm(120), mm(70), mm(15)}}; // along y, z, x
    drive.spec = DriveSpec{};
    p.shelf = {box, drive};
    p.revisions = {{.id = "R1", .changes = {SetCase{"box"}, PlacePart{"drive", "bay"}}}};
    return p;
}
/// A bar across the whole height that covers the depth from @p from to @p to.
void addBar(Project& p, double from, double to) {
    Part bar{.id = "bar", .kind = PartKind::Made, .name = "Bar", .size = {mm(to - from), mm(200), mm(10)}};
    bar.spec = MadeSpec{};
    p.shelf.push_back(bar);
    p.shelf[0].mounts[1].at[1] = low(from);
    p.revisions[0].changes.push_back(PlacePart{"bar", "bar"});
}

} // namespace

/// Room left, what to measure next, and going in.
class AnswersTest : public QObject {
    Q_OBJECT
private slots:
    /// With the side fan in place, how wide may the card be? 82 - 15 - 3 (place) - 10 (a fan breathes) = 54.
    void howWideMayTheCardBe() {
        const Project p = project();
        const auto* room = roomOf(fit::roomLeft(p, built(p, "R1")), "card", 1);
        const auto rooms = fit::roomLeft(p, built(p, "R1"));
        room = roomOf(rooms, "card", 1);
        QVERIFY(room);
        QCOMPARE(room->nowMm, 58.0);
        QCOMPARE_LE(std::abs(room->mostMm - 54.0), 1e-9);
        QCOMPARE_LE(std::abs(room->surelyMm - (54.0 - 1.2)), 1e-9); // the chain carries 1.2
        QCOMPARE(QString::fromStdString(room->limit), QStringLiteral("Fan fan-15"));
    }

    /// What the answer says is true: at the size told every need is kept, a tenth more and one is not.
    void theAnswerHolds() {
        const Project p = project();
        int tried = 0;
        for (const auto& room : fit::roomLeft(p, built(p, "R1"))) {
            if (room.free || room.mostMm > 300)
                continue;
            for (const double more : {0.0, 0.2}) {
                Project q = p;
                const Build before = built(q, "R1");
                Part& part = partOf(q, before.at(room.mount)->part->id);
                part.size[room.own].value = Length::fromMm(room.mostMm + more);
                const Build b = built(q, "R1");
                const auto at = static_cast<std::size_t>(b.at(room.mount) - b.placed.data());
                bool isShort = false;
                for (const auto& gap : fit::gapsOf(b, at))
                    isShort = isShort || (gap.isShort() && gap.axis == room.axis);
                QVERIFY2(isShort == (more > 0),
                         qPrintable(QString::fromStdString(room.name + " " + std::string(fit::ownAxisWord(room.own)))));
            }
            ++tried;
        }
        QVERIFY(tried >= 10);
    }

    void freePlacesAreFelt() {
        Project p = project();
        p.revisions[0].changes.erase(p.revisions[0].changes.begin() + 6); // the side fan
        const auto rooms = fit::roomLeft(p, built(p, "R1"));
        const auto* room = roomOf(rooms, "side", 2);
        QVERIFY(room && room->free);
        QCOMPARE_LE(std::abs(room->mostMm - (82 - 61 - 3)),
                    1e-9); // down to the card's edge at 61, less 3 before blades
    }

    /// 0.2 % of a Monte Carlo run over what the caliper may show and what is left unknown.
    void expectedRiskAgainstMonteCarlo_data() {
        QTest::addColumn<double>("margin");
        QTest::addColumn<double>("sigma");
        QTest::addColumn<double>("after");
        QTest::newRow("even odds") << 0.0 << 0.4 << 0.1;
        QTest::newRow("likely") << 0.3 << 0.4 << 0.2;
        QTest::newRow("unlikely") << -0.5 << 0.4 << 0.3;
        QTest::newRow("nothing learnt") << 0.2 << 0.4 << 0.4;
        QTest::newRow("all learnt") << 0.2 << 0.4 << 0.0;
    }
    void expectedRiskAgainstMonteCarlo() {
        QFETCH(double, margin);
        QFETCH(double, sigma);
        QFETCH(double, after);
        std::mt19937_64 g(3);
        std::normal_distribution<double> n;
        int wrong = 0;
        constexpr int runs = 1000000;
        const double known = std::sqrt(std::max(0.0, sigma * sigma - after * after));
        for (int i = 0; i < runs; ++i) {
            const double shown = margin + known * n(g), truth = shown + after * n(g);
            wrong += (shown >= 0) != (truth >= 0) ? 1 : 0;
        }
        QCOMPARE_LE(std::abs(fit::expectedRisk(margin, sigma, after) - static_cast<double>(wrong) / runs), 0.002);
    }

    /// The loosest size of a doubtful gap comes first, and measuring it takes the doubt away as foretold.
    void measureTheLoosest() {
        Project p = project();
        partOf(p, "card").size[1] = measureMm(60.5, Source::Estimate); // 3.5 left, 3 needed, give or take 2
        const auto fit = fit::check(built(p, "R1"));
        const auto next = fit::measureNext(fit);
        QVERIFY(!next.empty());
        QCOMPARE(QString::fromStdString(next[0].label), QStringLiteral("Card card, height"));
        QCOMPARE(QString::fromStdString(next[0].origin.part), QStringLiteral("card"));
        QVERIFY(next[0].riskNow > 0.2 && next[0].riskThen < 0.5 * next[0].riskNow);
        for (std::size_t i = 1; i < next.size(); ++i)
            QVERIFY(next[i - 1].settles() >= next[i].settles() - 0.001);
        // Filled in: the source, the size and the odds follow.
        const auto chanceOf = [](const Project& q) {
            for (const auto& gap : fit::check(built(q, "R1")).gaps)
                if (gap.between[0].mount == "card" && gap.between[1].mount == "side")
                    return fit::chanceAbove(gap.nominal.mm(), gap.rssBandMm, gap.touchMm); // that it closes
            return -1.0;
        };
        const double before = chanceOf(p);
        QVERIFY(setMeasured(p, next[0].origin, measureMm(60.2, Source::Caliper)));
        QCOMPARE(partOf(p, "card").size[1].source, Source::Caliper);
        QCOMPARE(partOf(p, "card").size[1].value.mm(), 60.2);
        QVERIFY(before < 0.9 && chanceOf(p) > 0.99);
    }
    void measuredPlaces() {
        using What = DimensionOrigin::What;
        Project p = project();
        partOf(p, "card").bodies = {{.name = "plug",
                                     .role = BodyRole::KeepOut,
                                     .at = {mm(0), mm(58), mm(0)},
                                     .size = {mm(10), mm(20), mm(10)}}};
        p.shelf[0].mounts[0].variants = {{.id = "v", .name = "v", .at = std::array{low(1), low(2), low(3)}}};
        const Measure m = measureMm(7.5, Source::Caliper);
        QVERIFY(setMeasured(p, {What::MountAt, "box", "tray", "", 2}, m));
        QCOMPARE(p.shelf[0].mounts[0].at[2].value, m);
        QVERIFY(setMeasured(p, {What::VariantAt, "box", "tray", "v", 1}, m));
        QCOMPARE((*p.shelf[0].mounts[0].variants[0].at)[1].value, m);
        QVERIFY(setMeasured(p, {What::BodyAt, "card", "plug", "", 0}, m));
        QVERIFY(setMeasured(p, {What::BodySize, "card", "plug", "", 1}, m));
        QCOMPARE(partOf(p, "card").bodies[0].at[0], m);
        QCOMPARE(partOf(p, "card").bodies[0].size[1], m);
        const auto gone = setMeasured(p, {What::BodyAt, "card", "no such", "", 0}, m);
        QVERIFY(!gone && !gone.error().remedy.empty());
        QVERIFY(!setMeasured(p, {}, m));
    }

    // ---- going in ----
    void straightWay() {
        const Project p = chest();
        const auto ways = fit::insertions(built(p, "R1"), {"bay"});
        const auto* way = wayOf(ways, "bay");
        QVERIFY(way);
        QCOMPARE(static_cast<int>(way->passage), static_cast<int>(Passage::Straight));
        QCOMPARE(static_cast<int>(way->side), static_cast<int>(Side::Right));
        QCOMPARE_LE(std::abs(way->marginMm - 40), 1e-6); // to the rim at y 0, and z 60 further off
        QVERIFY(way->poses.size() >= 3);
    }

    /// A bar over a quarter of the drive: tilted about its far end it slips out beside the bar.
    void tiltedWay() {
        Project p = chest();
        partOf(p, "drive").size[0] = mm(150); // from 40 to 190: there is no room to move aside
        addBar(p, 0, 60);
        const auto ways = fit::insertions(built(p, "R1"), {"bar", "bay"});
        const auto* way = wayOf(ways, "bay");
        QVERIFY(way);
        QCOMPARE(static_cast<int>(way->passage), static_cast<int>(Passage::Tilted));
        QVERIFY2(way->tiltDeg >= 3 && way->tiltDeg <= 60, qPrintable(QString::number(way->tiltDeg)));
        QVERIFY(way->poses.size() >= 4);
        QCOMPARE(QString::fromStdString(english(way->blockedBy)), QStringLiteral("Bar"));
        // Every position told is free of the bar: asked of the collision library, not of the planner.
        const Build b = built(p, "R1");
        fit::Primitive bar;
        for (std::size_t a = 0; a < 3; ++a) {
            bar.centre[a] = 0.5 * (b.at("bar")->lowAt[a].mm() + b.at("bar")->highAt[a].mm());
            bar.half[a] = 0.5 * (b.at("bar")->highAt[a] - b.at("bar")->lowAt[a]).mm();
        }
        for (const auto& pose : way->poses)
            for (const auto& c : pose.outlines) {
                fit::Primitive part;
                std::array<double, 3> along{}, up{};
                double l = 0, w = 0;
                for (std::size_t a = 0; a < 3; ++a) {
                    part.centre[a] = 0.25 * (c[0][a] + c[1][a] + c[2][a] + c[3][a]);
                    along[a] = c[1][a] - c[0][a];
                    up[a] = c[3][a] - c[0][a];
                    l += along[a] * along[a];
                    w += up[a] * up[a];
                }
                l = std::sqrt(l);
                w = std::sqrt(w);
                part.half = {l / 2, w / 2, 35};
                for (std::size_t a = 0; a < 3; ++a) {
                    part.turn[0][a] = along[a] / l;
                    part.turn[1][a] = up[a] / w;
                }
                part.turn[2] = {part.turn[0][1] * part.turn[1][2] - part.turn[0][2] * part.turn[1][1],
                                part.turn[0][2] * part.turn[1][0] - part.turn[0][0] * part.turn[1][2],
                                part.turn[0][0] * part.turn[1][1] - part.turn[0][1] * part.turn[1][0]};
                QVERIFY(!fit::touches(part, bar));
            }
    }

    void onlyBeforeTheBar() {
        Project p = chest();
        addBar(p, 20, 180); // openings of 20 at both ends: nothing slips through
        const Build b = built(p, "R1");
        const auto after = fit::insertions(b, {"bar", "bay"});
        QCOMPARE(static_cast<int>(wayOf(after, "bay")->passage), static_cast<int>(Passage::OnlyBefore));
        QCOMPARE(QString::fromStdString(wayOf(after, "bay")->before), QStringLiteral("Bar"));
        const auto before = fit::insertions(b, {"bay", "bar"});
        QCOMPARE(static_cast<int>(wayOf(before, "bay")->passage), static_cast<int>(Passage::Straight));
    }

    /// A frame around the opening: 120 of drive through 200 less two lips.
    void lipOfTheOpening_data() {
        QTest::addColumn<double>("lip");
        QTest::addColumn<QString>("answer");
        QTest::newRow("39 of lip leaves 1 beside it") << 39.0 << "passes";
        QTest::newRow("41 of lip: tilted at most") << 41.0 << "passes tilted";
        QTest::newRow("99 of lip: a slit of 2") << 99.0 << "does not pass";
    }
    void lipOfTheOpening() {
        QFETCH(double, lip);
        QFETCH(QString, answer);
        const Project p = chest(lip);
        const auto ways = fit::insertions(built(p, "R1"), {"bay"});
        QCOMPARE(QString::fromStdString(std::string(fit::passageWord(wayOf(ways, "bay")->passage))), answer);
        QVERIFY(!wayOf(ways, "bay")->text.empty());
    }
    void noPanelComesOff() {
        Project p = chest();
        std::get<CaseSpec>(p.shelf[0].spec).panels[0].removable = false;
        const auto ways = fit::insertions(built(p, "R1"), {"bay"});
        QCOMPARE(static_cast<int>(wayOf(ways, "bay")->passage), static_cast<int>(Passage::Blocked));
        // Where no panel is stated nothing is said of what comes off.
        Project unstated = p;
        std::get<CaseSpec>(unstated.shelf[0].spec).panels.clear();
        const Build bare = built(unstated, "R1");
        for (const auto& w : fit::insertions(bare, {"bay"})) {
            QCOMPARE(static_cast<int>(w.passage), static_cast<int>(Passage::Unstated));
            QVERIFY(core::english(w.text).find("is not stated") != std::string::npos);
        }
    }

    /// The planner's own overlap of rectangles against the collision library, as flat boxes.
    void rectanglesAgainstTheLibrary() {
        std::mt19937 g(5);
        std::uniform_real_distribution<double> place(-30, 30), half(1, 25), angle(-3, 3);
        int yes = 0;
        for (int i = 0; i < 4000; ++i) {
            const double turn = angle(g);
            const fit::Rectangle a{place(g), place(g), half(g), half(g), std::cos(turn), std::sin(turn)},
                b{place(g), place(g), half(g), half(g)};
            const auto box = [](const fit::Rectangle& r) {
                fit::Primitive p{.centre = {r.u, r.v, 0}, .half = {r.halfU, r.halfV, 5}};
                p.turn = {{{r.cosine, r.sine, 0}, {-r.sine, r.cosine, 0}, {0, 0, 1}}};
                return p;
            };
            const double mm = fit::separation(box(a), box(b)).mm;
            if (std::abs(mm) < 1e-3)
                continue;
            QCOMPARE(fit::overlap(a, b), mm < 0);
            yes += mm < 0 ? 1 : 0;
        }
        QVERIFY(yes > 500 && yes < 3500);
    }
};
} // namespace tst_answers
MD_TEST(tst_answers, AnswersTest)
#include "tst_answers.moc"
