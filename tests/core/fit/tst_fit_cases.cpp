// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/fit.h"
#include "core/fit/section_drawing.h"
#include "support/builds.h"

#include <QtTest>

#include <numbers>
#include <set>

using namespace support;
using fit::GapState;

namespace {

/// A part of 40 x 40 x 20 whose outer face (own +z) shows what the word says.
Part shows(const std::string& id, const QString& face) {
    Part p{.id = id, .kind = PartKind::Made, .name = "Part " + id, .size = {mm(40), mm(40), mm(20)}};
    p.spec = MadeSpec{};
    const auto kind = [&](PartKind k, Spec spec) {
        p.kind = k;
        p.spec = std::move(spec);
    };
    const auto keepOut = [&](Use use) {
        p.bodies = {{.name = "body", .at = {mm(0), mm(0), mm(0)}, .size = {mm(40), mm(40), mm(10)}},
                    {.name = "kept", .role = BodyRole::KeepOut, .at = {mm(0), mm(0), mm(10)}, .size = {mm(40), mm(40), mm(10)}, .use = use}};
    };
    if (face == "blades") kind(PartKind::Fan, FanSpec{});
    if (face == "cooler fan") kind(PartKind::Cooler, CoolerSpec{});
    if (face == "tower") kind(PartKind::Cooler, CoolerSpec{.type = CoolerType::Tower});
    if (face == "card fan") kind(PartKind::Card, CardSpec{});
    if (face == "supply") kind(PartKind::PowerSupply, PowerSupplySpec{});
    if (face == "drive" || face == "still drive") kind(PartKind::Drive, DriveSpec{});
    if (face == "underside") kind(PartKind::Board, BoardSpec{});
    if (face == "card back") kind(PartKind::Card, CardSpec{});
    if (face == "plug") keepOut(Use::Plug);
    if (face == "lead") keepOut(Use::Lead);
    if (face == "tool") keepOut(Use::Tool);
    if (face == "frame") keepOut(Use::Frame);
    return p;
}
bool looksBack(const QString& face) { return face == "underside" || face == "card back"; }

/// Two faces along x with a gap between them; the upper one may be a panel.
Project facing(const QString& lower, const QString& upper, double gapMm, bool flexible = false) {
    Project p;
    Part box{.id = "box", .kind = PartKind::Case, .name = "Box", .size = {mm(200), mm(200), mm(200)}};
    CaseSpec spec{.wall = mm(1)};
    spec.chambers = {{.id = "in", .name = "Inside", .lowMm = {0, 0, 0}, .highMm = {200, 200, 200}}};
    spec.panels = {{.side = Side::Right, .flexible = flexible}};
    if (upper == "open panel")
        spec.openings = {{.id = "mesh", .name = "Mesh", .side = Side::Right, .chamber = "in", .centreMm = {100, 100}, .sizeMm = {190, 190}}};
    box.spec = spec;
    const std::vector<PartKind> all{PartKind::Board, PartKind::Cooler, PartKind::Fan, PartKind::Card, PartKind::PowerSupply, PartKind::Drive, PartKind::Made};
    const bool panel = upper.endsWith("panel");
    // The outer face of the lower part looks right, or (undersides and backs) its inner one does.
    const Direction right{Axis::X, 1}, left{Axis::X, -1};
    box.mounts = {{.id = "a", .name = "A", .accepts = all, .at = {low(panel ? 200 - 20 - gapMm : 50), low(80), low(80)}, .facing = looksBack(lower) ? left : right, .up = {Axis::Z, 1}},
                  {.id = "b", .name = "B", .accepts = all, .at = {low(70 + gapMm), low(80), low(80)}, .facing = looksBack(upper) ? right : left, .up = {Axis::Z, 1}},
                  {.id = "far", .name = "Far fan", .accepts = all, .at = {low(5), low(5), low(5)}, .facing = {Axis::Y, 1}, .up = {Axis::Z, 1}}};
    p.shelf = {box, shows("a", lower)};
    std::vector<Change> changes{SetCase{"box"}, PlacePart{"a", "a"}};
    if (!panel) {
        p.shelf.push_back(shows("b", upper));
        changes.push_back(PlacePart{"b", "b"});
    }
    if (lower == "drive") {
        p.shelf.push_back(shows("fan", "blades"));
        changes.push_back(PlacePart{"fan", "far"});
    }
    p.revisions = {{.id = "R1", .changes = changes}};
    return p;
}

const fit::Gap* between(const fit::FitResult& fit, const std::string& a, const std::string& b) {
    for (const fit::Gap& gap : fit.gaps)
        if (gap.axis == Axis::X && gap.between[0].mount == a && gap.between[1].mount == b)
            return &gap;
    return nullptr;
}

constexpr const char* common = "common practice, no source";
constexpr const char* judged = "engineering judgement";
constexpr const char* atx = "ATX specification (from memory)";

} // namespace

/// Cases worked by hand, each with its source.
class FitCasesTest : public QObject {
    Q_OBJECT
private slots:
    void whatFacesWhat_data() {
        QTest::addColumn<QString>("lower");
        QTest::addColumn<QString>("upper");
        QTest::addColumn<double>("needMm");
        QTest::addColumn<QString>("rule");
        QTest::addColumn<QString>("source");
        const auto row = [](const char* lower, const char* upper, double need, const char* rule, const char* source) {
            QTest::addRow("%s: %s before %s (%s)", rule, lower, upper, source) << lower << upper << need << rule << source;
        };
        row("solid", "solid", 0.5, "solid", judged);
        row("solid", "closed panel", 0.5, "solid", judged);
        row("blades", "solid", 3, "blades-solid", common);
        row("solid", "blades", 3, "blades-solid", common);
        row("blades", "blades", 3, "blades-blades", judged);
        row("blades", "cooler fan", 3, "blades-cooler-fan", judged);
        row("blades", "closed panel", 3, "blades-closed", judged);
        row("plug", "blades", 5, "plug-blades", judged);
        row("plug", "cooler fan", 5, "plug-fan", judged);
        row("lead", "blades", 5, "lead-blades", judged);
        row("lead", "cooler fan", 5, "lead-fan", judged);
        row("plug", "solid", 0, "plug-solid", judged);
        row("plug", "plug", 0, "plug-plug", judged);
        row("plug", "closed panel", 0, "plug-closed", judged);
        row("plug", "open panel", 0, "plug-open", judged);
        row("lead", "solid", 0, "lead-solid", judged);
        row("lead", "closed panel", 0, "lead-closed", judged);
        row("lead", "open panel", 0, "lead-open", judged);
        row("tool", "solid", 0, "tool-solid", common);
        row("tool", "closed panel", 0, "tool-closed", common);
        row("frame", "solid", 0.5, "frame-solid", judged);
        row("cooler fan", "open panel", 5, "cooler-fan-open", judged);
        row("cooler fan", "closed panel", 15, "cooler-fan-closed", judged);
        row("cooler fan", "solid", 3, "cooler-fan-solid", common);
        row("cooler fan", "frame", 15, "cooler-fan-frame", judged);
        row("card fan", "closed panel", 15, "cooler-fan-closed", judged);
        row("card fan", "open panel", 5, "cooler-fan-open", judged);
        row("tower", "closed panel", 0.5, "solid", judged);
        row("supply", "closed panel", 15, "supply-closed", common);
        row("supply", "frame", 15, "supply-frame", common);
        row("supply", "open panel", 0.5, "solid", judged);
        row("drive", "drive", 3, "drive-drive", judged);
        row("still drive", "still drive", 8, "drive-drive-still", judged);
        row("underside", "closed panel", 2.5, "board-underside", atx);
        row("underside", "open panel", 2.5, "board-underside-open", atx);
        row("card back", "closed panel", 2, "card-back-closed", judged);
        row("card back", "open panel", 2, "card-back-open", judged);
        row("card back", "frame", 2, "card-back-frame", judged);
    }
    void whatFacesWhat() {
        QFETCH(QString, lower);
        QFETCH(QString, upper);
        QFETCH(double, needMm);
        QFETCH(QString, rule);
        QFETCH(QString, source);
        for (const double gapMm : {needMm, needMm - 0.1}) {
            const Project p = facing(lower, upper, gapMm);
            const auto fit = fit::check(built(p, "R1"));
            const auto* gap = between(fit, "a", upper.endsWith("panel") ? "" : "b");
            QVERIFY(gap);
            QCOMPARE(QString::fromStdString(std::string(gap->rule)), rule);
            QCOMPARE(QString::fromStdString(std::string(gap->ruleSource)), source);
            QCOMPARE(gap->requiredMm, needMm);
            QCOMPARE_LE(std::abs(gap->nominal.mm() - gapMm), 1e-9);
            const bool kept = gapMm == needMm;
            QCOMPARE(gap->state, kept ? GapState::Clear : gapMm >= 0 ? GapState::Rub : GapState::Clash);
            QCOMPARE(gap->isShort(), !kept);
        }
    }

    void everyRuleIsUsed() {
        const std::set<std::string> elsewhere{"intake-desk"};
        std::set<std::string> used;
        whatFacesWhatIds(used);
        for (const auto& rule : fit::clearanceRules())
            QVERIFY2(used.contains(std::string(rule.id)) || elsewhere.contains(std::string(rule.id)), qPrintable(QString::fromStdString(std::string(rule.id))));
    }

    /// Over the limit is not one thing. Common practice, no source: a flexible panel can be forced out by 2 mm.
    void states_data() {
        QTest::addColumn<QString>("lower");
        QTest::addColumn<double>("gapMm");
        QTest::addColumn<bool>("flexible");
        QTest::addColumn<QString>("state");
        QTest::newRow("0.5: clear") << "solid" << 0.5 << false << "clear";
        QTest::newRow("0.0: rub") << "solid" << 0.0 << false << "rub";
        QTest::newRow("-0.1 stiff: clash") << "solid" << -0.1 << false << "clash";
        QTest::newRow("-2.0 flexible: bulge") << "solid" << -2.0 << true << "bulge";
        QTest::newRow("-2.1 flexible: clash") << "solid" << -2.1 << true << "clash";
        QTest::newRow("blades never bulge") << "blades" << -0.5 << true << "clash";
        QTest::newRow("plug may bulge a panel") << "plug" << -1.0 << true << "bulge";
    }
    void states() {
        QFETCH(QString, lower);
        QFETCH(double, gapMm);
        QFETCH(bool, flexible);
        QFETCH(QString, state);
        const Project p = facing(lower, "closed panel", gapMm, flexible);
        const auto fit = fit::check(built(p, "R1"));
        const auto* gap = between(fit, "a", "");
        QVERIFY(gap);
        QCOMPARE(QString::fromStdString(std::string(fit::gapStateWord(gap->state))), state);
    }

    /// Feet under an opening: 5 mm at least, common practice, no source. Laid on a side without an opening: no such gap.
    void deskUnderTheIntake() {
        for (const double feet : {5.0, 4.9}) {
            const Project p = with(project(), {SetFeet{feet}});
            const auto fit = fit::check(built(p, "R2"));
            const auto gap = std::find_if(fit.gaps.begin(), fit.gaps.end(), [](const auto& g) { return g.rule == "intake-desk"; });
            QVERIFY(gap != fit.gaps.end());
            QCOMPARE(gap->nominal.mm(), feet);
            QCOMPARE(gap->isShort(), feet < 5);
            QCOMPARE(fit.feetMm, feet);
        }
        const Project laid = with(project(), {Orient{Side::Rear}});
        for (const auto& gap : fit::check(built(laid, "R2")).gaps)
            QVERIFY(gap.rule != "intake-desk");
    }

    void aNeedOfOnesOwn() {
        const Project p = facing("solid", "solid", 1.0);
        const Build b = built(p, "R1");
        QCOMPARE(between(fit::check(b), "a", "b")->state, GapState::Clear);
        const auto fit = fit::check(b, {.needs = {{"solid", 1.5, "foam between them"}}});
        const auto* gap = between(fit, "a", "b");
        QCOMPARE(gap->requiredMm, 1.5);
        QCOMPARE(gap->state, GapState::Rub);
        QCOMPARE(QString::fromStdString(gap->overridden), QStringLiteral("foam between them"));
    }

    /// The textbook sum: 82.0 inside less a 15.0 slim fan leaves 67.0 for the card. Common practice, no source.
    void textbookSum() {
        Project p = project();
        p.shelf[0].mounts[1].at[0] = low(0, 0);
        for (Part& part : p.shelf)
            if (part.id == "card")
                part.size[1] = mm(64, 0.3); // 67.0 less the 3 before blades
        const auto fit = fit::check(built(p, "R1"));
        const auto* gap = between(fit, "card", "side");
        QVERIFY(gap);
        QCOMPARE_LE(std::abs(gap->nominal.mm() - (82.0 - 15.0 - 64.0)), 1e-9);
        QCOMPARE(gap->state, GapState::Clear);
    }

    /// A plate with a round hole: a rod goes through it, a thicker one does not.
    void throughAHole_data() {
        QTest::addColumn<double>("rodMm");
        QTest::addColumn<double>("distanceMm");
        QTest::newRow("20 in a hole of 30") << 20.0 << 5.0;
        QTest::newRow("36 in a hole of 30") << 36.0 << -1.0;
    }
    void throughAHole() {
        QFETCH(double, rodMm);
        QFETCH(double, distanceMm);
        Project p = facing("solid", "solid", 10);
        Part& plate = p.shelf[1];
        plate.size = {mm(60), mm(60), mm(2)};
        plate.bodies = {{.name = "plate", .at = {mm(0), mm(0), mm(0)}, .size = {mm(60), mm(60), mm(2)}, .cutouts = {{.round = true, .atMm = {15, 15}, .sizeMm = {30, 30}}}}};
        Part& rod = p.shelf[2];
        rod.size = {mm(rodMm), mm(rodMm), mm(60)};
        rod.bodies = {{.name = "rod", .shape = Shape::Cylinder, .at = {mm(0), mm(0), mm(0)}, .size = {mm(rodMm), mm(rodMm), mm(60)}}};
        p.shelf[0].mounts[0].at = {low(100), low(70), low(70)};
        p.shelf[0].mounts[1].at = {low(70), low(100 - rodMm / 2), low(100 - rodMm / 2)};
        const Build b = built(p, "R1");
        double least = 1e9;
        for (const auto& gap : fit::check(b).gaps)
            if (!gap.between[0].mount.empty() && !gap.between[1].mount.empty())
                least = std::min(least, gap.nominal.mm());
        if (distanceMm > 0)
            QVERIFY2(least > distanceMm - 1.0 && least <= distanceMm + 0.01, qPrintable(QString::number(least))); // the hole is followed in strips, never too wide
        else
            QVERIFY2(least < 0, qPrintable(QString::number(least)));
    }

    /// A block turned by 45 degrees reaches half its diagonal: 20 x sqrt(2) / 2 = 14.142 from its middle.
    void turnedBlock() {
        Project p = facing("solid", "solid", 30);
        Part& turned = p.shelf[1];
        turned.size = {mm(20), mm(20), mm(20, 0.3)};
        turned.bodies = {{.name = "block", .at = {mm(0), mm(0), mm(0)}, .size = {mm(20), mm(20), mm(20)}, .turnDeg = {0, 45, 0}}};
        const auto fit = fit::check(built(p, "R1"), {.reachMm = 60});
        const auto* gap = between(fit, "a", "b");
        QVERIFY(gap);
        QCOMPARE_LE(std::abs(gap->nominal.mm() - (100 - 60 - 10 * std::numbers::sqrt2)), 0.002);
        double sum = 0;
        for (const auto& item : gap->chain)
            sum += item.sign * item.factor * item.valueMm;
        QCOMPARE_LE(std::abs(sum - gap->nominal.mm()), 0.002); // the chain still adds up
    }

    /// Two rods across each other: the shortest way is slanted, 3-4-5.
    void slantedWay() {
        Project p = facing("solid", "solid", 0);
        for (const std::size_t i : {1U, 2U}) {
            p.shelf[i].size = {mm(60), mm(10, 0.2), mm(10, 0.2)};
            p.shelf[i].bodies = {{.name = "rod", .shape = Shape::Cylinder, .along = Axis::X, .at = {mm(0), mm(0), mm(0)}, .size = {mm(60), mm(10), mm(10)}}};
        }
        p.shelf[0].mounts[0].at = {low(50, 0.1), low(60), low(60, 0.1)};
        p.shelf[0].mounts[1].at = {low(62, 0.1), low(60), low(76, 0.1)}; // middles 12 and 16 apart: 20, less two radii
        const auto fit = fit::check(built(p, "R1"));
        const auto gap = std::find_if(fit.gaps.begin(), fit.gaps.end(), [](const auto& g) { return g.slanted; });
        QVERIFY(gap != fit.gaps.end());
        QCOMPARE_LE(std::abs(gap->nominal.mm() - 10), 0.002);
        QCOMPARE_LE(std::abs(gap->way[0] - 0.6), 1e-3);
        QCOMPARE_LE(std::abs(gap->way[2] - 0.8), 1e-3);
        // Places count by their share of the way: (0.1 + 0.1) x 0.6 + (0.1 + 0.1) x 0.8, and the sizes beside them.
        QVERIFY(gap->worstBandMm >= 0.28 - 1e-6 && gap->worstBandMm < 0.9);
        double sum = 0;
        for (const auto& item : gap->chain)
            sum += item.sign * item.factor * item.valueMm;
        QCOMPARE_LE(std::abs(sum - gap->nominal.mm()), 0.002);
    }

    /// Plugs: a 12-pin one is straight for 35 before it bends, an 8-pin one takes 20 and 15 for the bend, SATA 20 and 10.
    /// Common practice, no source.
    void roomOfPlugs_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<double>("mm");
        QTest::newRow("12-pin: 35 straight, 20 bend") << "card-12" << 55.0;
        QTest::newRow("8-pin: 20 and 15") << "card-8" << 35.0;
        QTest::newRow("SATA power: 20 and 10") << "sata-power" << 30.0;
        QTest::newRow("24-pin: 20 and 10") << "atx-24" << 30.0;
        QTest::newRow("processor plug: 20 and 10") << "eps-8" << 30.0;
    }
    void roomOfPlugs() {
        QFETCH(QString, kind);
        QFETCH(double, mm);
        const Port port{.id = "p", .kind = kind.toStdString(), .out = {Axis::Z, 1}};
        const auto room = fit::plugRoom(port);
        QVERIFY(room.has_value());
        QCOMPARE(room->size[2], mm);
        QCOMPARE(room->low[2], 0.0);
        QVERIFY(!fit::plugRoom({.id = "x", .kind = "slot-x16"}).has_value());
    }

    /// An angled plug has a direction: away from a wall it fits where a straight one, or one towards the wall, does not.
    void angledPlugs_data() {
        QTest::addColumn<QString>("style");
        QTest::addColumn<QString>("worst");
        QTest::newRow("straight meets the panel") << "straight" << "clash";
        QTest::newRow("angled away from the wall") << "-y" << "clear";
        QTest::newRow("angled towards the rear wall") << "+y" << "clash";
    }
    void angledPlugs() {
        QFETCH(QString, style);
        QFETCH(QString, worst);
        Project p = facing("solid", "closed panel", 20);
        Part& a = p.shelf[1];
        a.ports = {{.id = "power", .kind = "card-8", .at = {support::mm(20), support::mm(20), support::mm(20)}, .out = {Axis::Z, 1}, .angledWays = {{Axis::X, 1}, {Axis::X, -1}}}};
        p.shelf[0].mounts[0].at[1] = high(5); // near the rear wall
        if (style != "straight") {
            // Own x of the part lies along the depth of the case, which way round the frame says.
            const Build b = built(p, "R1");
            const Direction own = b.placed[0].frame.axis[0];
            const int wanted = style == "+y" ? 1 : -1;
            p.revisions.push_back({.id = "R2", .parent = "R1", .changes = {SetPlug{"a", "power", PlugStyle::Angled, {Axis::X, wanted * own.sign}}}});
        }
        const auto fit = fit::check(built(p, style == "straight" ? "R1" : "R2"));
        GapState state = GapState::Clear;
        for (const auto& gap : fit.gaps)
            if (gap.between[0].port == "power" || gap.between[1].port == "power")
                state = std::max(state, gap.state);
        QCOMPARE(QString::fromStdString(std::string(fit::gapStateWord(state))), worst);
    }

    /// Silhouettes on the section planes: as wide and as large as geometry says.
    void silhouettes() {
        const auto measure = [](const std::vector<fit::Point2>& outline) {
            double area = 0, low = 1e9, high = -1e9;
            for (std::size_t i = 0; i < outline.size(); ++i) {
                const auto &a = outline[i], &b = outline[(i + 1) % outline.size()];
                area += 0.5 * (a[0] * b[1] - a[1] * b[0]);
                low = std::min(low, a[0]);
                high = std::max(high, a[0]);
            }
            return std::pair(high - low, std::abs(area));
        };
        const fit::Primitive box{.centre = {5, 5, 5}, .half = {10, 20, 30}};
        QCOMPARE(fit::outlineOf(box, Axis::X, Axis::Z).size(), std::size_t{4});
        QCOMPARE_LE(std::abs(measure(fit::outlineOf(box, Axis::X, Axis::Z)).second - 20.0 * 60.0), 1e-9);
        fit::Primitive turned = box;
        const double h = std::numbers::sqrt2 / 2;
        turned.turn = {{{h, h, 0}, {-h, h, 0}, {0, 0, 1}}}; // 45 degrees about z
        QCOMPARE_LE(std::abs(measure(fit::outlineOf(turned, Axis::X, Axis::Y)).second - 20.0 * 40.0), 1e-9); // seen along z it keeps its area
        QCOMPARE_LE(std::abs(measure(fit::outlineOf(turned, Axis::X, Axis::Z)).first - 60 * h), 1e-9);        // and is (20 + 40) / sqrt 2 wide
        const fit::Primitive rod{.shape = Shape::Cylinder, .half = {5, 5, 20}};
        QCOMPARE_LE(std::abs(measure(fit::outlineOf(rod, Axis::X, Axis::Y)).second - std::numbers::pi * 25), 0.01 * std::numbers::pi * 25); // 48 sides
        QCOMPARE_LE(std::abs(measure(fit::outlineOf(rod, Axis::X, Axis::Z)).second - 10.0 * 40.0), 1e-9);
    }

    /// What a drawing of a build holds: three views, each body once in each.
    void sectionsHoldEveryBody() {
        const Project p = project();
        const Build b = built(p, "R1");
        const auto drawing = fit::sectionDrawing(b, {41, 150, 125});
        std::size_t pieces = 0;
        for (const auto& body : fit::bodiesOf(b))
            pieces += fit::primitivesOf(body).size();
        std::map<std::string, std::size_t> lines;
        for (const auto& line : drawing.lines)
            ++lines[line.layer];
        QCOMPARE(lines["case"], std::size_t{6});
        QCOMPARE(lines["check"], std::size_t{3});
        QCOMPARE(lines["cut"] + lines["behind"] + lines["keep-out"], 3 * pieces);
        QVERIFY(lines["cut"] > 0 && lines["behind"] > 0);
        for (const auto& line : drawing.lines)
            for (const auto& [x, y] : line.points)
                QVERIFY(x >= 0 && y >= 0 && x <= drawing.sizeMm[0] && y <= drawing.sizeMm[1]);
        // A cut beyond everything cuts nothing.
        const auto empty = fit::sectionDrawing(b, {-5, -5, -5});
        QVERIFY(std::none_of(empty.lines.begin(), empty.lines.end(), [](const auto& line) { return line.layer == "cut"; }));
    }

    /// A fan of 15 mounted 2 outside the panel makes the case 15 wider than its wall: 2 + 82 + 2 + 15.
    void mountedOutside() {
        Project p = project();
        p.shelf[0].mounts[2].variants = {{.id = "out", .name = "outside", .at = std::array{Offset{Ref::Above, mm(2)}, centre(200), centre(60)}}};
        const auto inside = fit::check(built(p, "R1")), outside = fit::check(built(with(p, {ChooseVariant{"side", "out"}}), "R2"));
        QCOMPARE_LE(std::abs(inside.outsideMm[0] - 86), 1e-9);
        QCOMPARE_LE(std::abs(outside.outsideMm[0] - 101), 1e-9);
        QCOMPARE_LE(std::abs(outside.volumeL / inside.volumeL - 101.0 / 86), 1e-9);
        for (const auto& gap : outside.gaps) // and no wall is before it
            QVERIFY(!(gap.between[0].mount == "side" && gap.between[1].mount.empty()) && !(gap.between[1].mount == "side" && gap.between[0].mount.empty()));
    }

    /// Mount variants: a supply turned, a fan outside, and what the mount does not have.
    void variants() {
        Project p = project();
        p.shelf[0].mounts[3].variants = {{.id = "turned", .name = "turned", .facing = Direction{Axis::Y, 1}, .up = Direction{Axis::Z, 1}},
                                         {.id = "high", .name = "at the top", .at = std::array{low(4), low(4), high(4)}}};
        const Build turned = built(with(p, {ChooseVariant{"bay", "turned"}}), "R2");
        QCOMPARE(turned.at("bay")->highAt[1].mm() - turned.at("bay")->lowAt[1].mm(), 63.5); // its depth lies along the case
        const Project top = with(p, {ChooseVariant{"bay", "high"}});
        QCOMPARE(built(top, "R2").at("bay")->highAt[2].mm(), 246.0);
        const auto wrong = resolve(with(p, {ChooseVariant{"bay", "sideways"}}), "R2");
        QVERIFY(!wrong && wrong.error().what.find("sideways") != std::string::npos);
    }

    /// A plug of a board and the cooler on the same board: the carrier's plug counts, the carrier itself does not.
    void plugBesideWhatTheBoardCarries_data() {
        QTest::addColumn<double>("alongMm");
        QTest::newRow("the plug begins behind the cooler's front edge") << 80.0;
        QTest::newRow("the plug begins before it") << 35.0;
    }
    void plugBesideWhatTheBoardCarries() {
        QFETCH(double, alongMm);
        Project p = project();
        for (Part& part : p.shelf)
            if (part.id == "board")
                part.ports = {{.id = "eps", .kind = "eps-8", .at = {mm(alongMm), mm(95), mm(1.6)}, .out = {Axis::Z, 1}}}; // under the cooler
        const auto fit = fit::check(built(p, "R1"));
        const bool clash = std::any_of(fit.gaps.begin(), fit.gaps.end(), [](const auto& g) { return g.isShort() && (g.between[0].port == "eps" || g.between[1].port == "eps"); });
        QVERIFY(clash);
    }

    /// Least bend of a route: a right angle between legs of 20 leaves a radius of 20; between corners each gives half.
    void bends() {
        QCOMPARE_LE(std::abs(fit::tightestBend({{0, 0, 0}, {20, 0, 0}, {20, 20, 0}}) - 20), 1e-9);
        QCOMPARE_LE(std::abs(fit::tightestBend({{0, 0, 0}, {20, 0, 0}, {20, 20, 0}, {40, 20, 0}}) - 10), 1e-9);
        QVERIFY(std::isinf(fit::tightestBend({{0, 0, 0}, {20, 0, 0}, {40, 0, 0}})));
    }

    /// A tube beside a wall keeps its distance along its whole way, bend included.
    void tubeAlongAWall() {
        Project p = facing("solid", "closed panel", 20);
        Part& a = p.shelf[1];
        a.bodies = {{.name = "block", .at = {mm(0), mm(0), mm(0)}, .size = {mm(40), mm(40), mm(10)}},
                    {.name = "tube", .shape = Shape::Tube, .role = BodyRole::KeepOut, .at = {mm(20), mm(20), mm(10)}, .size = {mm(10), mm(10), mm(0)}, .use = Use::Lead,
                     .routeMm = {{0, 0, 0}, {0, 0, 20}, {0, 60, 20}}, .bendMm = 15}};
        const auto fit = fit::check(built(p, "R1"));
        const auto gap = std::find_if(fit.gaps.begin(), fit.gaps.end(), [](const auto& g) { return g.between[1].mount.empty() && g.between[0].face == fit::Face::Lead && g.axis == Axis::X; });
        QVERIFY(gap != fit.gaps.end());
        // Middle line at 160 + 10 + 20 of 200, radius 5.
        QCOMPARE_LE(std::abs(gap->nominal.mm() - 5), 0.01);
    }

private:
    static void whatFacesWhatIds(std::set<std::string>& used) {
        for (const char* lower : {"solid", "blades", "plug", "lead", "tool", "frame", "cooler fan", "supply", "drive", "still drive", "underside", "card back"})
            for (const char* upper : {"solid", "blades", "plug", "cooler fan", "frame", "drive", "still drive", "closed panel", "open panel"}) {
                const auto fit = fit::check(built(facing(lower, upper, 1), "R1"));
                for (const auto& gap : fit.gaps)
                    used.insert(std::string(gap.rule));
            }
    }
};
QTEST_APPLESS_MAIN(FitCasesTest)
#include "tst_fit_cases.moc"
