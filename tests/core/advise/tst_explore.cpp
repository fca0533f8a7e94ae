// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/fan_curves.h"
#include "core/advise/open_questions.h"
#include "core/advise/schools.h"
#include "store/files.h"
#include "support/builds.h"
#include "support/demo.h"
#include "support/looked.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_explore {

using namespace support;
using advise::Against;

namespace {

/// Enough plugs for what is tried, and a brief to be kept.
Project asked() {
    Project p = project();
    p.brief.roomC = 24;
    p.brief.hottestC = 30;
    p.brief.targets = {
        {.id = "cpu", .name = "CPU", .kind = TargetKind::Temperature, .subject = "tray/cpu", .limit = 85},
        {.id = "noise", .name = "Noise", .kind = TargetKind::Noise, .limit = 44}};
    return p;
}
const advise::School* named(const std::vector<advise::School>& all, std::string_view question, std::string_view name) {
    for (const auto& s : all)
        if (english(s.question) == question && english(s.name).find(name) != std::string::npos)
            return &s;
    return nullptr;
}

} // namespace

/// What is left open is searched, and the questions on which builders disagree are worked out.
class ExploreTest : public QObject {
    Q_OBJECT
private slots:
    /// The same seed gives the same answer, whatever the number of threads.
    void theSameForTheSameSeed() {
        const Project p = asked();
        const auto e = looked(p, "R1");
        const auto one = advise::explore(p, e, {.most = 600, .threads = 1}),
                   two = advise::explore(p, e, {.most = 600, .threads = 3});
        QVERIFY(one && two);
        QCOMPARE(one->front.size(), two->front.size());
        for (std::size_t i = 0; i < one->front.size(); ++i) {
            QCOMPARE(one->front[i].changes, two->front[i].changes);
            QCOMPARE(one->front[i].noiseDba, two->front[i].noiseDba);
        }
        QVERIFY(one->counted <= 600 && one->possible > 600);
        const auto other = advise::explore(p, e, {.seed = 8, .most = 600});
        QVERIFY(other && other->cloud != one->cloud);
    }
    /// Nothing that was counted is quieter and cooler than a point of the front, but for steps nobody notices.
    void theFrontIsOne() {
        const Project p = asked();
        const auto found = advise::explore(p, looked(p, "R1"), {.most = 800});
        QVERIFY(found && found->front.size() >= 2);
        for (std::size_t i = 1; i < found->front.size(); ++i) {
            QVERIFY(found->front[i].noiseDba >= found->front[i - 1].noiseDba);
            QVERIFY(found->front[i].headroomK > found->front[i - 1].headroomK);
        }
        QCOMPARE(found->didNotGoIn, std::size_t{0}); // else the cloud may hold what was dropped
        for (const auto& dot : found->cloud)
            for (const auto& point : found->front)
                QVERIFY(dot[0] > point.noiseDba - 0.31 || dot[1] < point.headroomK + 0.31);
        for (const auto& point : found->front) {
            QVERIFY(point.hotHeadroomK < point.headroomK + 1e-6 && point.bandK >= 0);
            QVERIFY(advise::goesIn(p, looked(p, "R1"), point.changes)); // as it is told, with nothing that does nothing
        }
    }
    /// A change that does nothing for the air but frees what others need stays in a way: here the header of a fan that
    /// only stirs, without which two more have one too few.
    void whatOthersNeedIsKept() {
        Project p = asked();
        auto& box = p.shelf[0];
        const auto place = [&](const char* id, double y, Offset up) {
            box.mounts.push_back({.id = id,
                                  .name = id,
                                  .accepts = {PartKind::Fan},
                                  .at = {centre(41), centre(y), up},
                                  .facing = {Axis::Z, 1},
                                  .up = {Axis::Y, 1},
                                  .frameMm = 60});
        };
        place("stirs", 40, centre(180));
        place("out-a", 50, high(0));
        place("out-b", 150, high(0));
        std::get<CaseSpec>(box.spec).openings.push_back({.id = "a-grille",
                                                         .name = "Grille A",
                                                         .side = Side::Top,
                                                         .chamber = "in",
                                                         .centreMm = {41, 50},
                                                         .sizeMm = {60, 60}});
        p.shelf.push_back(fan("small", 60, 15));
        for (Part& part : p.shelf)
            if (part.kind == PartKind::Board)
                part.gives["fan"] = 4;
        auto& changes = p.revisions[0].changes;
        changes.emplace_back(PlacePart{"small", "stirs"});
        changes.emplace_back(SetFan{"stirs", {.duty = 0.2}});
        const auto e = looked(p, "R1");
        const Change a = PlacePart{"small", "out-a", FanFlow::Out}, b = PlacePart{"small", "out-b", FanFlow::Out};
        QVERIFY(advise::goesIn(p, e, {a}) && advise::goesIn(p, e, {b}) && !advise::goesIn(p, e, {a, b}));
        QVERIFY(advise::goesIn(p, e, {RemovePart{"stirs"}, a, b}));
        const auto found = advise::explore(
            p, e, {.screens = false, .panels = false, .lying = false, .keep = {"side", "card", "tray/cpu/lid"}});
        QVERIFY(found && !found->front.empty());
        std::size_t most = 0;
        for (const auto& point : found->front) {
            std::size_t placed = 0;
            for (const Change& c : point.changes)
                placed += std::holds_alternative<PlacePart>(c) ? 1 : 0;
            most = std::max(most, placed);
            QVERIFY(advise::goesIn(p, e, point.changes));
        }
        QCOMPARE(most, std::size_t{2});
    }
    /// Fan curves of a way, set on its fans: as quiet and as cool at full load as the way itself.
    void curvesKeepWhatTheWayPromises() {
        const Project p = asked();
        const auto e = looked(p, "R1");
        const auto found = advise::explore(p, e, {.most = 800});
        QVERIFY(found && advise::chosenOf(*found) >= 0);
        const auto& way = found->front[static_cast<std::size_t>(advise::chosenOf(*found))];
        const auto curves = advise::fanCurves(p, e, way.changes);
        QVERIFY(curves && !curves->empty());
        auto changes = way.changes;
        for (Change& change : advise::asChanges(*curves))
            changes.push_back(std::move(change));
        const auto held = looked(with(p, way.changes), "R2"), followed = looked(with(p, changes), "R2");
        QCOMPARE_LE(std::abs(followed.noise.totalDba - held.noise.totalDba), 1.0);
        for (const auto& part : held.air.parts)
            QCOMPARE_LE(std::abs(followed.air.part(part.id)->temperatureC - part.temperatureC), 1.5);
        QVERIFY(advise::curvesCsv(*curves).starts_with("fan,follows,temperature_c,duty_percent\n"));
    }
    /// A point is what the same changes give when they are made.
    void aPointIsWhatItsChangesGive() {
        const Project p = asked();
        const auto found = advise::explore(p, looked(p, "R1"), {.most = 300});
        QVERIFY(found);
        const auto& point = found->front.back();
        const auto e = looked(with(p, point.changes), "R2");
        QCOMPARE_LE(std::abs(e.noise.totalDba - point.noiseDba), 0.02);
        double least = 1e9;
        for (const auto& part : e.air.parts) {
            const double cap = part.id == "tray/cpu" ? 85 : part.limitC;
            if (cap > 0 && cap < 1e8)
                least = std::min(least, cap - part.temperatureC);
        }
        QCOMPARE_LE(std::abs(least - point.headroomK), 0.05);
    }
    /// Places of parts that carry fans are open as well, as on a radiator.
    void fansOfARadiatorAreOpen() {
        const auto opened = store::openProject(support::sourcePath("examples/liquid-cooled"));
        QVERIFY(opened);
        const Project& p = opened->project;
        const auto found = advise::explore(p, looked(p, "R1"), {.most = 400});
        QVERIFY(found);
        const bool touched = std::any_of(found->front.begin(), found->front.end(), [](const auto& point) {
            return std::any_of(point.changes.begin(), point.changes.end(), [](const Change& change) {
                const auto* set = std::get_if<SetFan>(&change);
                return set && set->mount == "side-radiator/fan-1";
            });
        });
        QVERIFY(touched);
    }
    /// Each vent may get a screen by itself; where that is more than can be numbered, all get the same.
    void screensOneByOne() {
        Project p = asked();
        const auto screens = [](const Project& of) {
            std::vector<advise::OpenQuestion> all;
            for (auto& q : advise::openQuestions(of, looked(of, "R1"),
                                                 {.fans = false, .panels = false, .places = false, .lying = false}))
                all.push_back(q);
            return all;
        };
        const auto few = screens(p);
        std::size_t vents = 0;
        for (const Opening& o : std::get<CaseSpec>(p.shelf[0].spec).openings)
            vents += o.to.empty() && o.style != OpeningStyle::Closed ? 1 : 0;
        QVERIFY(vents >= 2);
        QCOMPARE(few.size(), vents);
        for (const auto& q : few)
            for (const auto& answer : q.answers)
                QVERIFY(answer.size() <= 1);
        auto& openings = std::get<CaseSpec>(p.shelf[0].spec).openings;
        for (int i = 0; i < 40; ++i) {
            openings.push_back(openings.front());
            openings.back().id = "more-" + std::to_string(i);
        }
        const auto many = screens(p);
        QCOMPARE(many.size(), 1UL);
        QVERIFY(many[0].answers.size() == 3 && many[0].answers[1].size() == vents + 40);
    }
    void canBeStopped() {
        const Project p = asked();
        int calls = 0;
        const auto found =
            advise::explore(p, looked(p, "R1"), {.most = 5000, .threads = 2}, [&](double) { return ++calls < 3; });
        QVERIFY(found && found->cancelled && found->counted < 1000);
    }
    void nothingOpenSaysSo() {
        const Project p = asked();
        const auto found = advise::explore(
            p, looked(p, "R1"), {.fans = false, .screens = false, .panels = false, .places = false, .lying = false});
        QVERIFY(!found);
    }

    /// Each side of each question, with the changes that make it; the one that is there is marked.
    void schoolsAreWhatTheyChange() {
        Project p = asked();
        const auto e = looked(p, "R1");
        const auto all = advise::schools(p, e);
        const auto* in = named(all, "pressure", "positive");
        const auto* out = named(all, "pressure", "negative");
        QVERIFY(in && out);
        QCOMPARE(in->against, Against::Now);
        QCOMPARE(out->changes, std::vector<Change>{FlipFan{"side"}});
        const auto flipped = looked(with(p, {FlipFan{"side"}}), "R2");
        QCOMPARE_LE(std::abs(*out->processorC - flipped.air.part("tray/cpu")->temperatureC), 1e-6);
        QCOMPARE_LE(std::abs(out->processor->kelvin - flipped.air.part("tray/cpu")->temperatureC +
                             e.air.part("tray/cpu")->temperatureC),
                    1e-6);
        const auto* neutral = named(all, "pressure", "neutral");
        QVERIFY(neutral && neutral->against == Against::DoesNotGoIn); // there is one fan
        const auto *none = named(all, "screens", "none"), *fine = named(all, "screens", "fine");
        QCOMPARE(none->against, Against::Now);
        QCOMPARE(none->unfilteredShare, 1.0);
        QVERIFY(fine->unfilteredShare < 0.35); // leaks pass none
        QVERIFY(fine->processor->kelvin > 0 && fine->card->kelvin > 0);
        QCOMPARE(fine->against, Against::Worse);
        QVERIFY(named(all, "fans", "slim")->against == Against::Now && named(all, "fans", "thick"));
        QVERIFY(named(all, "cooler", "liquid")->against == Against::DoesNotGoIn);
        QVERIFY(english(named(all, "cooler", "liquid")->why).find("no liquid block") != std::string::npos);
    }
    /// Under another load than the brief's both sides are of that load.
    void schoolsUnderAnotherLoad() {
        const Project p = asked();
        const auto idle = stages::evaluate(p, "R1", {.load = "idle"});
        const Project turned = with(p, {FlipFan{"side"}});
        const auto then = stages::evaluate(turned, "R2", {.load = "idle"});
        QVERIFY(idle && then);
        const auto all = advise::schools(p, *idle, {}, "idle");
        const auto* out = named(all, "pressure", "negative");
        QVERIFY(out);
        QCOMPARE_LE(std::abs(*out->processorC - then->air.part("tray/cpu")->temperatureC), 1e-6);
    }
    /// Better and worse are told only beyond the band, and never for what no two runs tell apart.
    void neitherWithinTheBand() {
        const Project p = asked();
        for (const auto& s : advise::schools(p, looked(p, "R1"))) {
            const auto beyond = [](const std::optional<air::Difference>& d) {
                return d && std::abs(d->kelvin) > std::max(d->bandK, 0.5);
            };
            if (s.against == Against::Better || s.against == Against::Worse)
                QVERIFY(beyond(s.processor) || beyond(s.card));
            else if (s.against == Against::Neither)
                QVERIFY(!beyond(s.processor) && !beyond(s.card));
        }
    }
};

} // namespace tst_explore
MD_TEST(tst_explore, ExploreTest)
#include "tst_explore.moc"
