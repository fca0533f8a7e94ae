// SPDX-License-Identifier: GPL-3.0-or-later
#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "core/arrange/arrangement.h"
#include "core/model/box_snaps.h"
#include "core/model/build.h"
#include "core/model/cutout_edits.h"
#include "core/model/panel_edits.h"
#include "core/model/slot_covers.h"
#include "core/model/vent_on_fan.h"
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
    /// A vent before a fan: how far off its middle, and what is left of its rim to the blades. By hand: a fan of 92 has
    /// a circle of blades of 88, so 44; half a vent of 98 is 49.
    void aVentLiesOverAFan() {
        const Project demo = support::demoProject();
        const Build build = *resolve(demo, "R10");
        Part p = *build.casePart;
        std::vector<box::Extent> extents;
        for (const Item& item : box::itemsOf(p)) {
            std::array<double, 3> part{};
            if (item.kind == Kind::Place)
                if (const Placed* placed = build.at(p.mounts[item.index].id))
                    for (std::size_t a = 0; a < 3; ++a)
                        part[a] = placed->highAt[a].mm() - placed->lowAt[a].mm();
            extents.push_back(box::extentOf(p, item, part));
        }
        const Item grille = named(p, "side-a-grille");
        Opening& o = std::get<CaseSpec>(p.spec).openings[grille.index];
        auto on = box::ventOnFan(p, grille, extents);
        QVERIFY(on);
        QCOMPARE(p.mounts[on->place].id, std::string("side-a"));
        QCOMPARE(on->frameMm, 92.0);
        QCOMPARE(on->offMm(), 0.0);
        QCOMPARE(on->rimMm(), 5.0);
        o.centreMm[0] += 15.2;
        QCOMPARE(box::ventOnFan(p, grille, extents)->offMm(), 15.2);
        QCOMPARE(box::ventOnFan(p, grille, extents)->rimMm(), 5 - 15.2); // it lies over the blades
        o.centreMm[0] -= 15.2;
        o.round = true;
        o.sizeMm = {94, 94};
        QCOMPARE(box::ventOnFan(p, grille, extents)->rimMm(), 3.0);
        // From the place the same vent is found; a vent in another wall or far off is none.
        QCOMPARE(box::ventOnFan(p, named(p, "side-a"), extents)->vent, grille.index);
        QVERIFY(!box::ventOnFan(p, named(p, "front-slots"), extents));
        QVERIFY(!box::ventOnFan(p, named(p, "tray"), extents));
        o.centreMm[0] -= 120;
        QVERIFY(!box::ventOnFan(p, named(p, "side-a"), extents) ||
                box::ventOnFan(p, named(p, "side-a"), extents)->vent != grille.index);
    }
    /// Covers of 20.32 mm, one beside the other, from the board of the card to the side it faces.
    void slotCoversLieBeforeTheCard() {
        Project demo = support::demoProject();
        Part* casePart = demo.shelf.edit("case-1");
        QVERIFY(box::slotCoversOf(*resolve(demo, "R10")).empty()); // none are stated
        std::get<CaseSpec>(casePart->spec).slotCovers = 2;
        const Build build = *resolve(demo, "R10");
        const Placed* card = build.at("card");
        const auto covers = box::slotCoversOf(build);
        QCOMPARE(covers.size(), std::size_t(2));
        QCOMPARE(covers[0].high[2], card->highAt[2].mm()); // it faces down
        QCOMPARE(covers[0].low[2], card->highAt[2].mm() - 20.32);
        QCOMPARE(covers[1].high[2], covers[0].low[2]);
        QCOMPARE(covers[0].low[1], build.insideAt[1].mm()); // in the rear wall
    }
    /// Holes of an inner panel are moved, pulled, added, copied and taken away in the coordinates of the case,
    /// whichever way the panel stands; one that would leave its plate is refused and nothing changes.
    void cutoutsAreEditedInTheCase() {
        for (const Direction facing : {Direction{Axis::X, 1}, Direction{Axis::X, -1}})
            for (const Direction up : {Direction{Axis::Z, 1}, Direction{Axis::Z, -1}, Direction{Axis::Y, -1}}) {
                Project demo = support::demoProject();
                Part& made = *demo.shelf.edit("spine");
                made.bodies = {
                    {.name = "plate",
                     .size = made.size,
                     .cutouts = {{.atMm = {30, 40}, .sizeMm = {20, 10}}, {.atMm = {2, 3}, .sizeMm = {4, 5}}}}};
                Part& casePart = *demo.shelf.edit("case-1");
                for (Mount& m : casePart.mounts)
                    if (m.id == "spine")
                        std::tie(m.facing, m.up) = std::pair(facing, up);
                const Build build = *resolve(demo, "R10");
                const Placed& panel = *build.at("spine");
                const auto things = box::thingsOf(casePart, build);
                QCOMPARE(
                    std::count_if(things.begin(), things.end(), [](const Item& i) { return i.kind == Kind::Cutout; }),
                    2);
                const auto check = [&](const Part& part, std::size_t hole) { // by the corners, another way
                    Placed as = panel;
                    as.part = &part;
                    const Cutout& c = part.bodies[0].cutouts[hole];
                    const auto one = panel.inCaseMm({measureMm(c.atMm[0]), measureMm(c.atMm[1]), measureMm(0)}),
                               other = panel.inCaseMm({measureMm(c.atMm[0] + c.sizeMm[0]),
                                                       measureMm(c.atMm[1] + c.sizeMm[1]),
                                                       measureMm(part.size[2].value.mm())});
                    const auto e = box::cutoutExtent(as, hole);
                    for (std::size_t a = 0; a < 3; ++a)
                        QCOMPARE_LE(std::abs(e.low[a] - std::min(one[a], other[a])) +
                                        std::abs(e.high[a] - std::max(one[a], other[a])),
                                    1e-6);
                };
                check(made, 0);
                const auto was = box::cutoutExtent(panel, 0);
                for (const Axis axis : allAxes) {
                    const std::size_t a = index(axis);
                    Part moved = made, pulled = made;
                    const bool across = axis != Axis::X;
                    QCOMPARE(box::isAcross(panel, 0, axis), across);
                    std::array<double, 3> by{};
                    by[a] = 1.5;
                    QVERIFY(box::moveCutout(moved, panel, 0, by));
                    QCOMPARE(static_cast<bool>(box::resizeCutout(pulled, panel, 0, axis, true, was.high[a] + 2)),
                             across);
                    Placed then = panel;
                    then.part = &moved;
                    QCOMPARE_LE(std::abs(box::cutoutExtent(then, 0).low[a] - was.low[a] - (across ? 1.5 : 0)), 1e-6);
                    then.part = &pulled;
                    QCOMPARE_LE(std::abs(box::cutoutExtent(then, 0).high[a] - was.high[a] - (across ? 2 : 0)), 1e-6);
                    QCOMPARE_LE(std::abs(box::cutoutExtent(then, 0).low[a] - was.low[a]), 1e-6);
                    check(moved, 0);
                    check(pulled, 0);
                    if (!across)
                        continue;
                    const Part before = made;
                    by[a] = 500;
                    QVERIFY(!box::moveCutout(made, panel, 0, by));
                    QVERIFY(!box::resizeCutout(made, panel, 0, axis, false, was.low[a] - 500));
                    QVERIFY(!box::resizeCutout(made, panel, 0, axis, false, was.high[a] - 0.2)); // thinner than 0.5
                    QCOMPARE(made, before);
                }
                const auto copied = box::copyCutout(made, panel, 0);
                QVERIFY(copied && *copied == 1 && made.bodies[0].cutouts.size() == 3);
                QCOMPARE(made.bodies[0].cutouts[1].sizeMm, made.bodies[0].cutouts[0].sizeMm);
                QVERIFY(made.bodies[0].cutouts[1].atMm != made.bodies[0].cutouts[0].atMm);
                const auto added = box::addCutout(made);
                QVERIFY(added && *added == 3);
                check(made, 3);
                QVERIFY(box::removeCutout(made, 3) && box::removeCutout(made, 1) && !box::removeCutout(made, 2));
                QCOMPARE(made.bodies[0].cutouts.size(), std::size_t(2));
            }
        Part bare{.id = "bare", .name = "Bare"};
        QVERIFY(!box::addCutout(bare));
        bare.bodies = {{.name = "turned", .size = {measureMm(50), measureMm(50), measureMm(2)}, .turnDeg = {0, 0, 30}}};
        QVERIFY(!box::addCutout(bare) && box::cutoutsOf(bare).empty());
    }
    /// An inner panel is pulled from either end: the other stays, what is in it stays where it is in the case.
    void aPanelIsPulledFromEitherEnd() {
        for (const Axis axis : allAxes)
            for (const bool high : {false, true}) {
                Project demo = support::demoProject();
                Part* spine = demo.shelf.edit("spine");
                spine->bodies = {
                    {.name = "plate", .size = spine->size, .cutouts = {{.atMm = {30, 80}, .sizeMm = {20, 40}}}},
                    {.name = "boss",
                     .at = {measureMm(10), measureMm(10), measureMm(0)},
                     .size = {measureMm(4), measureMm(4), measureMm(4)}}};
                const auto build = resolve(demo, "R10");
                QVERIFY2(build, build ? "" : build.error().text().c_str());
                const Placed& was = *build->at("spine");
                QVERIFY(box::isPanel(&was) && !box::isPanel(build->at("tray")) && !box::isPanel(nullptr));
                const std::size_t a = index(axis);
                const double to = (high ? was.highAt : was.lowAt)[a].mm() + (high ? 3 : -3);
                Part casePart = *build->casePart, made = *was.part;
                const auto done = box::resizePanel(casePart, made, named(casePart, "spine"), was, axis, high, to);
                QVERIFY2(done, done ? "" : done.error().text().c_str());
                const auto hole = [](const Placed& p) {
                    const Cutout& c = p.part->bodies[0].cutouts[0];
                    return p.inCaseMm({measureMm(c.atMm[0]), measureMm(c.atMm[1]), measureMm(0)});
                };
                const auto before = std::pair{hole(was), was.inCaseMm(was.part->bodies[1].at)};
                const Length low = was.lowAt[a], top = was.highAt[a];
                const Axis own = was.frame.axis[2].axis; // across the plate a cut-out has no place of its own
                *demo.shelf.edit("spine") = made;
                *demo.shelf.edit(casePart.id) = casePart;
                const auto after = resolve(demo, "R10");
                QVERIFY(after);
                const Placed& now = *after->at("spine");
                QVERIFY(std::abs((high ? now.highAt : now.lowAt)[a].mm() - to) < 0.011);
                QVERIFY(std::abs(((high ? now.lowAt : now.highAt)[a] - (high ? low : top)).mm()) < 0.011);
                if (axis != own)
                    for (std::size_t i = 0; i < 3; ++i) {
                        QVERIFY2(std::abs(hole(now)[i] - before.first[i]) < 0.02, "the hole moved");
                        QVERIFY2(std::abs(now.inCaseMm(now.part->bodies[1].at)[i] - before.second[i]) < 0.02,
                                 "the boss moved");
                    }
            }
    }
    /// What cannot be done is said, and leaves both parts as they were.
    void aPanelDoesNotEndInACutOut() {
        Project demo = support::demoProject();
        Part* spine = demo.shelf.edit("spine");
        spine->bodies = {{.name = "plate", .size = spine->size, .cutouts = {{.atMm = {50, 10}, .sizeMm = {20, 40}}}}};
        const auto build = resolve(demo, "R10");
        const Placed& was = *build->at("spine");
        Part casePart = *build->casePart, made = *was.part;
        const Axis across = was.frame.axis[0].axis;
        const std::size_t a = index(across);
        const bool high = was.frame.axis[0].sign > 0;
        const double end = (high ? was.highAt : was.lowAt)[a].mm();
        const auto cut =
            box::resizePanel(casePart, made, named(casePart, "spine"), was, across, high, end + (high ? -20 : 20));
        QVERIFY(!cut && cut.error().text().find("cut-out") != std::string::npos);
        const auto thin = box::resizePanel(casePart, made, named(casePart, "spine"), was, was.frame.axis[2].axis, true,
                                           was.lowAt[index(was.frame.axis[2].axis)].mm());
        QVERIFY(!thin && thin.error().text().find("thinner") != std::string::npos);
        QVERIFY(!box::resizePanel(casePart, made, named(casePart, "tray"), *build->at("tray"), across, high, end));
        QCOMPARE(made, *was.part);
        QCOMPARE(casePart, *build->casePart);
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
