// SPDX-License-Identifier: GPL-3.0-or-later
#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "core/arrange/arrangement.h"
#include "core/model/box_snaps.h"
#include "core/model/build.h"
#include "store/struct_json.h"
#include "support/demo.h"
#include "support/registry.h"
#endif

#include <QtTest>

namespace tst_box_edits {

using namespace core;
using box::Item;
using box::Kind;

namespace {
Part tall() {
    const auto& a = *arrange::arrangement("tall");
    return arrange::makeBox(a, arrange::usualSizes(a))->casePart;
}
Item named(const Part& part, std::string_view id) {
    for (const Item& item : box::itemsOf(part))
        if (item.kind != Kind::Walls && box::idOf(part, item) == id)
            return item;
    qFatal("%s is not there", std::string(id).c_str());
}
QString said(const Part& a, const Part& b) {
    QStringList all;
    for (const Sentence& s : box::differences(a, b))
        all << QString::fromStdString(english(s));
    return all.join("; ");
}
const Opening& vent(const Part& part, std::string_view id) {
    return std::get<CaseSpec>(part.spec).openings[named(part, id).index];
}
} // namespace

/// The case is edited thing by thing; what an edit cannot do it says by name, and changes nothing.
class BoxEditsTest : public QObject {
    Q_OBJECT
private slots:
    void ventsArePulledFromOneEnd() {
        Part p = tall();
        const Part before = p;
        const Item front = named(p, "front-vent");
        const auto was = box::extentOf(p, front);
        QVERIFY(box::resize(p, front, Axis::Z, true, was.high[2] + 20));
        const auto now = box::extentOf(p, front);
        QCOMPARE(now.low, was.low);
        QCOMPARE(now.high[2], was.high[2] + 20);
        QCOMPARE(said(before, p), QString("Front vent 66.0 x 110.0 to 66.0 x 130.0 mm; Front vent 10.0 mm up"));
        QVERIFY(!box::resize(p, front, Axis::Y, true, 40)); // across its wall it has no size
        const Part unchanged = p;
        const auto refused = box::resize(p, front, Axis::Z, true, 900);
        QVERIFY(!refused && refused.error().text().find("Front vent") != std::string::npos);
        QVERIFY(!box::move(p, front, {900, 0, 0}));
        QCOMPARE(p, unchanged);
    }
    void placesMoveFromWhatTheyAreMeasuredFrom() {
        for (const Ref ref : {Ref::Low, Ref::High, Ref::Centre}) {
            Part p = tall();
            const Item item = named(p, "card");
            p.mounts[item.index].at[0] = {ref, measureMm(20, Source::Caliper)};
            const Part before = p;
            const auto was = box::extentOf(p, item, {68, 168, 18});
            QVERIFY(box::move(p, item, {15, 0, 0}));
            const auto now = box::extentOf(p, item, {68, 168, 18});
            QCOMPARE_LE(std::abs(now.low[0] - was.low[0] - 15), 0.001);
            QCOMPARE(p.mounts[item.index].at[0].value.source, Source::Caliper);
            QCOMPARE(said(before, p), QString("Card place 15.0 mm to the right"));
        }
    }
    /// Where a place lies is as resolve() says it, for every place of every arrangement and of the demo.
    void extentsAgreeWithResolve() {
        Project demo = support::demoProject();
        int checked = 0;
        for (const Revision& r : demo.revisions) {
            const auto build = resolve(demo, r.id);
            QVERIFY(build);
            for (const Item& item : box::itemsOf(*build->casePart)) {
                const Placed* placed =
                    item.kind == Kind::Place ? build->at(box::idOf(*build->casePart, item)) : nullptr;
                if (!placed || !placed->variant.empty())
                    continue;
                std::array<double, 3> size{};
                for (std::size_t a = 0; a < 3; ++a)
                    size[a] = placed->highAt[a].mm() - placed->lowAt[a].mm();
                const auto e = box::extentOf(*build->casePart, item, size);
                for (std::size_t a = 0; a < 3; ++a)
                    QCOMPARE_LE(std::abs(e.low[a] - placed->lowAt[a].mm()), 0.01);
                ++checked;
            }
        }
        QVERIFY(checked > 40);
    }
    /// A wall takes along what is measured from it: nothing else moves in the room.
    void wallsTakeAlongWhatIsMeasuredFromThem() {
        for (const Axis axis : allAxes)
            for (const bool high : {true, false}) {
                Part p = tall();
                const std::size_t a = index(axis);
                const double was = p.size[a].value.mm();
                const Part before = p;
                QVERIFY(box::resize(p, {}, axis, high, high ? was + 10 : -10));
                QCOMPARE_LE(std::abs(p.size[a].value.mm() - was - 10), 0.001);
                for (const Item& item : box::itemsOf(p)) {
                    if (item.kind != Kind::Place)
                        continue;
                    const Offset& at = p.mounts[item.index].at[a];
                    const bool touches = at.value.value == Length{};
                    const auto x = box::extentOf(before, item, {5, 5, 5}), y = box::extentOf(p, item, {5, 5, 5});
                    const bool follows = at.ref == Ref::High; // what is measured from the far wall
                    const double by = high ? (follows ? 10 : 0) : (follows || !touches ? 10 : 0);
                    QCOMPARE_LE(std::abs(y.low[a] - x.low[a] - by), 0.001);
                }
                std::vector<Problem> wrong;
                Project carrier;
                carrier.shelf.push_back(p);
                QVERIFY(validate(carrier).empty());
                QVERIFY2(said(before, p).startsWith("Inner"), qPrintable(said(before, p)));
            }
    }
    void copiesMirrorsAndRows() {
        Part p = tall();
        const std::size_t vents = std::get<CaseSpec>(p.spec).openings.size();
        const auto copied = box::copy(p, named(p, "supply-vent"), {0, 0, 20});
        QVERIFY(copied);
        QCOMPARE(box::idOf(p, *copied), std::string("supply-vent-2"));
        const auto other = box::mirror(p, named(p, "supply-vent"), Axis::X);
        QVERIFY(other);
        QCOMPARE(vent(p, box::idOf(p, *other)).side, Side::Left);
        QCOMPARE(vent(p, box::idOf(p, *other)).centreMm, vent(p, "supply-vent").centreMm);
        const auto place = box::mirror(p, named(p, "side-a"), Axis::X);
        QVERIFY(place);
        QCOMPARE(p.mounts[place->index].facing, (Direction{Axis::X, -1}));
        const auto e = box::extentOf(p, *place);
        QCOMPARE_LE(std::abs(e.low[0]), 0.001); // on the left wall
        const Part before = p;
        QVERIFY(box::row(p, named(p, "floor-vent"), 2, Axis::X, 1));
        QCOMPARE(std::get<CaseSpec>(p.spec).openings.size(), vents + 4);
        p = before;
        QVERIFY(!box::row(p, named(p, "floor-vent"), 9, Axis::X, 40)); // the wall ends before
        QCOMPARE(p, before);
        QVERIFY(said(tall(), p).contains("added"));
    }
    void chambersAreSplitAndTakenAway() {
        Part p = tall();
        const Item rear = named(p, "rear");
        QVERIFY(!box::split(p, rear, Axis::Y, 10, 2));
        const auto second = box::split(p, rear, Axis::Z, 120, 2);
        QVERIFY(second);
        const auto& chambers = std::get<CaseSpec>(p.spec).chambers;
        QCOMPARE(chambers[rear.index].highMm[2], 120.0);
        QCOMPARE(chambers[second->index].lowMm[2], 122.0);
        QCOMPARE(vent(p, "top-fan-vent").chamber, chambers[second->index].id); // it is of the upper one now
        QCOMPARE(vent(p, "floor-vent").chamber, std::string("rear"));
        Project project;
        project.shelf.push_back(p);
        const auto hanging = box::hangsOn(project, p, *second);
        QVERIFY(std::find(hanging.begin(), hanging.end(), "Top fan, its vent") != hanging.end());
        QVERIFY(box::remove(p, *second));
        project.shelf[0] = p;
        QVERIFY2(validate(project).empty(), validate(project).empty() ? "" : validate(project).front().text().c_str());
        while (std::get<CaseSpec>(p.spec).chambers.size() > 1)
            QVERIFY(box::remove(p, {Kind::Chamber, 0}));
        QVERIFY(!box::remove(p, {Kind::Chamber, 0})); // the last one stays
    }
    /// Split and joined again it is the chamber it was, with its vents; what makes no box is refused.
    void whatWasSplitIsJoined() {
        for (const char* id : {"case-1", "case-2"})
            for (const Axis axis : allAxes) {
                const Part before = *support::demoProject().part(id);
                Part p = before;
                for (std::size_t c = 0; c < std::get<CaseSpec>(before.spec).chambers.size(); ++c) {
                    const Item chamber{Kind::Chamber, c};
                    const auto extent = box::extentOf(p, chamber);
                    const auto second =
                        box::split(p, chamber, axis, 0.5 * (extent.low[index(axis)] + extent.high[index(axis)]), 2);
                    QVERIFY(second);
                    const auto able = box::joinable(p, chamber);
                    QVERIFY(std::find(able.begin(), able.end(), second->index) != able.end());
                    QVERIFY(box::join(p, chamber, second->index));
                    QVERIFY2(p == before, id);
                }
            }
        Part p = *support::demoProject().part("case-1");
        const auto refused = box::join(p, {Kind::Chamber, 0}, 0);
        QVERIFY(!refused && refused.error().what.find("no box") != std::string::npos);
    }
    /// Vents between two chambers that are joined are gone, those of the other are of the one that stays.
    void ventsOfJoinedChambers() {
        Part p = *support::demoProject().part("case-1");
        auto& spec = std::get<CaseSpec>(p.spec);
        const auto second = box::split(p, {Kind::Chamber, 0}, Axis::Z, 120, 2);
        QVERIFY(second);
        const std::string first = spec.chambers[0].id, other = spec.chambers[second->index].id;
        Opening between = spec.openings.front();
        between.id = "between";
        between.chamber = first;
        between.to = other;
        spec.openings.push_back(between);
        const auto count = spec.openings.size();
        QVERIFY(box::join(p, {Kind::Chamber, 0}, second->index));
        QCOMPARE(spec.openings.size(), count - 1);
        for (const Opening& o : spec.openings)
            QVERIFY(o.chamber != other && o.to != other);
    }
    /// The middle of a fan place between two others, one step on in their row, and on their screw holes.
    void snaps() {
        Part p = *support::demoProject().part("case-1");
        p.mounts.clear();
        const auto place = [&](const char* id, double y, double frame) {
            Mount m{.id = id, .name = id, .accepts = {PartKind::Fan}, .frameMm = frame};
            for (std::size_t a = 0; a < 3; ++a)
                m.at[a] = {Ref::Centre, measureMm(a == 1 ? y : 40, Source::Drawing)};
            p.mounts.push_back(m);
        };
        place("a", 60, 92);
        place("b", 160, 92);
        place("c", 205, 80);
        std::vector<box::Extent> extents;
        for (const Item& item : box::itemsOf(p))
            extents.push_back(box::extentOf(p, item));
        const auto has = [&](const Item& item, double mm, const std::string& why) {
            const auto all = box::snapsOf(p, item, Axis::Y, extents);
            return std::any_of(all.begin(), all.end(), [&](const box::Snap& s) {
                return std::abs(s.mm - mm) < 1e-6 && english(s.why).find(why) != std::string::npos;
            });
        };
        const double depth = p.size[1].value.mm();
        QVERIFY(has({Kind::Place, 2}, (206 + depth) / 2, "Equal gaps")); // between b, which ends at 206, and the rear
        QVERIFY(has({Kind::Place, 2}, 260, "As far apart"));
        QVERIFY(has({Kind::Place, 2}, 160 + 41.25 - 35.75, "screw holes of b")); // 82.5 and 71.5: common practice
        QVERIFY(has({Kind::Place, 0}, 160 - 82.5, "screw holes of b"));
        QCOMPARE(box::holePitchMm(120), 105.0);
        QCOMPARE(box::holePitchMm(97), 0.0);
        QVERIFY(box::snapsOf(p, {Kind::Walls, 0}, Axis::Y, extents).empty());
    }
    void whatHangsOnAPlaceIsNamed() {
        const Project demo = support::demoProject();
        const Part& p = *demo.part("case-1");
        const auto hanging = box::hangsOn(demo, p, named(p, "tray"));
        QVERIFY(std::any_of(hanging.begin(), hanging.end(), [](const auto& s) {
            return s.find("R4") == 0 && s.find("Cooler L47") != std::string::npos;
        }));
        QVERIFY(!box::hangsOn(demo, p, named(p, "side-a-grille")).empty()); // R6 changes it
    }
    /// Whatever is added anywhere, the case can be saved and opened again.
    void whatIsAddedIsSound() {
        for (const Arrangement& a : arrange::arrangements())
            for (const Side side : {Side::Left, Side::Right, Side::Front, Side::Rear, Side::Bottom, Side::Top})
                for (const auto& [kind, takes] : {std::pair{Kind::Vent, PartKind::Fan},
                                                  {Kind::Chamber, PartKind::Fan},
                                                  {Kind::Place, PartKind::Fan},
                                                  {Kind::Place, PartKind::Drive}}) {
                    Part p = arrange::makeBox(a, arrange::usualSizes(a))->casePart;
                    if (const auto made = box::add(p, kind, side, takes); !made)
                        continue; // said, and nothing changed
                    const auto read = store::partFrom(store::partJson(p));
                    QVERIFY2(read, read ? "" : read.error().text().c_str());
                    QCOMPARE(*read, p);
                }
    }

private:
    using Arrangement = arrange::Arrangement;
};
} // namespace tst_box_edits
MD_TEST(tst_box_edits, BoxEditsTest)
#include "tst_box_edits.moc"
