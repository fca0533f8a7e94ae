// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/fit.h"
#include "core/fit/section_drawing.h"
#include "core/rules/findings.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

#include <numbers>
#include <set>

namespace tst_fit_cases {

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
                    {.name = "kept",
                     .role = BodyRole::KeepOut,
                     .at = {mm(0), mm(0), mm(10)},
                     .size = {mm(40), mm(40), mm(10)},
                     .use = use}};
    };
    if (face == "blades")
        kind(PartKind::Fan, FanSpec{});
    if (face == "radiator")
        kind(PartKind::Radiator, RadiatorSpec{});
    if (face == "liquid block")
        kind(PartKind::Cooler, CoolerSpec{.type = CoolerType::Liquid});
    if (face == "brick")
        kind(PartKind::PowerSupply, PowerSupplySpec{.brick = true});
    if (face == "deep card") { // stated deeper than its shroud is
        kind(PartKind::Card, CardSpec{});
        p.bodies = {{.name = "plate", .at = {mm(0), mm(0), mm(0)}, .size = {mm(40), mm(40), mm(2)}},
                    {.name = "shroud", .at = {mm(0), mm(0), mm(2)}, .size = {mm(40), mm(40), mm(13)}}};
    }
    if (face == "cooler fan")
        kind(PartKind::Cooler, CoolerSpec{});
    if (face == "tower")
        kind(PartKind::Cooler, CoolerSpec{.type = CoolerType::Tower});
    if (face == "card fan")
        kind(PartKind::Card, CardSpec{});
    if (face == "supply")
        kind(PartKind::PowerSupply, PowerSupplySpec{});
    if (face == "drive" || face == "still drive")
        kind(PartKind::Drive, DriveSpec{});
    if (face == "underside")
        kind(PartKind::Board, BoardSpec{});
    if (face == "card back")
        kind(PartKind::Card, CardSpec{});
    if (face == "plug")
        keepOut(Use::Plug);
    if (face == "lead")
        keepOut(Use::Lead);
    if (face == "tool")
        keepOut(Use::Tool);
    if (face == "frame")
        keepOut(Use::Frame);
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
        spec.openings = {{.id = "mesh",
                          .name = "Mesh",
                          .side = Side::Right,
                          .chamber = "in",
                          .centreMm = {100, 100},
                          .sizeMm = {190, 190}}};
    box.spec = spec;
    const std::vector<PartKind> all{PartKind::Board,       PartKind::Cooler, PartKind::Fan,  PartKind::Card,
                                    PartKind::PowerSupply, PartKind::Drive,  PartKind::Made, PartKind::Radiator};
    const bool panel = upper.endsWith("panel");
    // The outer face of the lower part looks right, or (undersides and backs) its inner one does.
    const Direction right{Axis::X, 1}, left{Axis::X, -1};
    box.mounts = {{.id = "a",
                   .name = "A",
                   .accepts = all,
                   .at = {low(panel ? 200 - 20 - gapMm : 50), low(80), low(80)},
                   .facing = looksBack(lower) ? left : right,
                   .up = {Axis::Z, 1}},
                  {.id = "b",
                   .name = "B",
                   .accepts = all,
                   .at = {low(70 + gapMm), low(80), low(80)},
                   .facing = looksBack(upper) ? right : left,
                   .up = {Axis::Z, 1}},
                  {.id = "far",
                   .name = "Far fan",
                   .accepts = all,
                   .at = {low(5), low(5), low(5)},
                   .facing = {Axis::Y, 1},
                   .up = {Axis::Z, 1}}};
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

const fit::Gap* between(const fit::FitResult& fit, const std::string& a, const std::string& b,
                        const QString& rule = {}) {
    for (const fit::Gap& gap : fit.gaps)
        if (gap.axis == Axis::X && (rule.isEmpty() || QString::fromStdString(std::string(gap.rule)) == rule) &&
            gap.between[0].mount == a && gap.between[1].mount == b)
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
            QTest::addRow("%s: %s before %s (%s)", rule, lower, upper, source)
                << lower << upper << need << rule << source;
        };
        // Two at rest, plugs, leads and tools.
        row("solid", "solid", 0.5, "solid", judged);
        row("solid", "closed panel", 0.5, "solid", judged);
        row("solid", "open panel", 0.5, "solid", judged);
        row("plug", "blades", 5, "plug-blades", judged);
        row("plug", "cooler fan", 5, "plug-fan", judged);
        row("lead", "blades", 5, "lead-blades", judged);
        row("lead", "cooler fan", 5, "lead-fan", judged);
        row("plug", "solid", 0, "plug-solid", judged);
        row("plug", "supply", 0, "plug-solid", judged);
        row("plug", "plug", 0, "plug-plug", judged);
        row("plug", "closed panel", 0, "plug-closed", judged);
        row("plug", "open panel", 0, "plug-open", judged);
        row("lead", "solid", 0, "lead-solid", judged);
        row("lead", "closed panel", 0, "lead-closed", judged);
        row("lead", "open panel", 0, "lead-open", judged);
        row("tool", "solid", 0, "tool-solid", common);
        row("tool", "closed panel", 0, "tool-closed", common);
        row("frame", "solid", 0.5, "frame-solid", judged);
        // What faces a case fan: 10 to anything closed, 5 to a panel that is open enough, 10 to another fan.
        for (const char* closed : {"solid", "drive", "underside", "card back", "frame"})
            row("blades", closed, 10, "blades-face", judged);
        row("solid", "blades", 10, "blades-face", judged);
        row("blades", "closed panel", 10, "blades-closed", judged);
        row("blades", "open panel", 5, "blades-open", judged);
        for (const char* fan : {"blades", "cooler fan", "card fan", "supply"})
            row("blades", fan, 10, "fan-fan", judged);
        row("card fan", "supply", 10, "fan-fan", judged);
        row("blades", "radiator", 0, "fan-radiator", common);
        // Card, cooler and supply: 15 to anything closed.
        row("cooler fan", "open panel", 5, "cooler-fan-open", judged);
        row("cooler fan", "closed panel", 15, "cooler-fan-closed", judged);
        row("cooler fan", "frame", 15, "cooler-fan-frame", judged);
        for (const char* closed : {"solid", "drive", "underside", "card back"})
            row("cooler fan", closed, 15, "cooler-fan-face", judged);
        row("card fan", "closed panel", 15, "cooler-fan-closed", judged);
        row("card fan", "open panel", 5, "cooler-fan-open", judged);
        row("card fan", "solid", 15, "cooler-fan-face", judged);
        row("card fan", "radiator", 15, "cooler-fan-face", judged);
        row("supply", "closed panel", 15, "supply-closed", common);
        row("supply", "frame", 15, "supply-frame", common);
        row("supply", "open panel", 5, "supply-open", judged);
        for (const char* closed : {"solid", "drive", "underside", "card back"})
            row("supply", closed, 15, "supply-face", common);
        row("radiator", "closed panel", 10, "radiator-closed", judged);
        row("radiator", "solid", 10, "radiator-closed", judged);
        row("radiator", "open panel", 5, "radiator-open", judged);
        // What has no fan of its own that way.
        row("liquid block", "closed panel", 0.5, "solid", judged);
        row("drive", "drive", 3, "drive-drive", judged);
        row("still drive", "still drive", 8, "drive-drive-still", judged);
        row("underside", "closed panel", 2.5, "board-underside", atx);
        row("underside", "open panel", 2.5, "board-underside", atx);
        row("card back", "closed panel", 2, "card-back", judged);
        row("card back", "open panel", 2, "card-back", judged);
        row("card back", "frame", 2, "card-back", judged);
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
            // A plug stands before its part: the part behind it has a gap of its own.
            const auto* gap = between(fit, "a", upper.endsWith("panel") ? "" : "b", rule);
            QVERIFY(gap);
            QCOMPARE(QString::fromStdString(std::string(gap->rule)), rule);
            QCOMPARE(QString::fromStdString(std::string(gap->ruleSource)),
                     QString(source).remove(" (from memory)")); // the screen names the standard
            QCOMPARE(gap->requiredMm, needMm);
            QCOMPARE_LE(std::abs(gap->nominal.mm() - gapMm), 1e-9);
            const bool kept = gapMm == needMm;
            QCOMPARE(gap->state, kept                                       ? GapState::Clear
                                 : gapMm < 0                                ? GapState::Clash
                                 : fit::clearanceRule(gap->rule)->breathing ? GapState::Starved
                                                                            : GapState::Rub);
            QCOMPARE(gap->isShort(), !kept);
        }
    }

    void everyRuleIsUsed() {
        const std::set<std::string> elsewhere{
            "intake-desk", "blades-solid", "cooler-fan-solid",
            "tower-open",  "tower-closed", "fan-tower"}; // cornersOnlyTouch, towersBreatheAlongTheirFins
        std::set<std::string> used;
        whatFacesWhatIds(used);
        for (const auto& rule : fit::clearanceRules())
            QVERIFY2(used.contains(std::string(rule.id)) || elsewhere.contains(std::string(rule.id)),
                     qPrintable(QString::fromStdString(std::string(rule.id))));
    }

    /// Over the limit is not one thing. Common practice, no source: a flexible panel can be forced out by 2 mm.
    void states_data() {
        QTest::addColumn<QString>("lower");
        QTest::addColumn<QString>("upper");
        QTest::addColumn<double>("gapMm");
        QTest::addColumn<bool>("flexible");
        QTest::addColumn<QString>("state");
        const auto row = [](const char* name, const char* lower, const char* upper, double gapMm, bool flexible,
                            const char* state) { QTest::newRow(name) << lower << upper << gapMm << flexible << state; };
        row("0.5: clear", "solid", "closed panel", 0.5, false, "clear");
        row("0.4: rub", "drive", "closed panel", 0.4, false, "rub");
        row("0.0: rub", "drive", "closed panel", 0.0, false, "rub");
        row("-0.1 stiff: clash", "solid", "closed panel", -0.1, false, "clash");
        row("-2.0 flexible: bulge", "solid", "closed panel", -2.0, true, "bulge");
        row("-2.1 flexible: clash", "solid", "closed panel", -2.1, true, "clash");
        row("plug may bulge a panel", "plug", "closed panel", -1.0, true, "bulge");
        row("plug in the wall", "plug", "closed panel", -0.1, false, "clash");
        // Blades stop at 0, and never push anything away. An intake has no air at 0. Common practice, no source.
        row("blades at 0 before a panel", "blades", "closed panel", 0.0, false, "clash");
        row("blades at 0 before a part", "blades", "solid", 0.0, false, "clash");
        row("blades at 0 before a plug", "plug", "blades", 0.0, false, "clash");
        row("cooler fan at 0", "cooler fan", "solid", 0.0, false, "clash");
        row("card fan at 0 before mesh", "card fan", "open panel", 0.0, false, "clash");
        row("supply at 0 before a panel", "supply", "closed panel", 0.0, false, "blocked");
        row("supply at 0 before a part", "supply", "solid", 0.0, false, "blocked");
        row("blades never bulge", "blades", "closed panel", -0.5, true, "clash");
        row("an intake never bulges", "supply", "closed panel", -0.5, true, "clash");
        // An intake with less than a third of its need before a closed face is blocked: engineering judgement.
        row("supply, a third", "supply", "closed panel", 5.0, false, "starved");
        row("supply, less", "supply", "closed panel", 4.9, false, "blocked");
        row("supply before a part, a third", "supply", "drive", 5.0, false, "starved");
        row("supply before a part, less", "supply", "drive", 4.9, false, "blocked");
        row("card, a third", "card fan", "closed panel", 5.0, false, "starved");
        row("card, less", "card fan", "closed panel", 4.9, false, "blocked");
        row("radiator, a third", "radiator", "closed panel", 3.4, false, "starved");
        row("radiator, less", "radiator", "closed panel", 3.3, false, "blocked");
        row("before mesh it is not blocked", "supply", "open panel", 0.5, false, "starved");
        row("fans that face each other are not blocked", "blades", "card fan", 3.0, false, "starved");
        row("and may touch below 3", "blades", "card fan", 2.9, false, "rub");
    }
    void states() {
        QFETCH(QString, lower);
        QFETCH(QString, upper);
        QFETCH(double, gapMm);
        QFETCH(bool, flexible);
        QFETCH(QString, state);
        const Project p = facing(lower, upper, gapMm, flexible);
        const auto fit = fit::check(built(p, "R1"));
        const auto* gap = between(fit, "a", upper.endsWith("panel") ? "" : "b");
        QVERIFY(gap);
        QCOMPARE(QString::fromStdString(std::string(fit::gapStateWord(gap->state))), state);
        const auto findings = rules::gapFindings(fit);
        const auto told =
            std::find_if(findings.begin(), findings.end(), [&](const auto& f) { return f.subject == gap->id; });
        if (state == "clash" || state == "blocked") {
            QVERIFY(told != findings.end() && told->severity == rules::Severity::Blocker);
        } else if (state != "clear") {
            QVERIFY(told != findings.end() && told->severity == rules::Severity::Caution);
        }
        if (state == "starved")
            QVERIFY(core::english(told->text).find("short of air") != std::string::npos);
    }

    /// Which side of a case fan is its intake follows from its direction: only that one can be blocked.
    void onlyTheIntakeOfAFanIsBlocked_data() {
        QTest::addColumn<bool>("in");
        QTest::addColumn<QString>("state");
        // The fan sits 3.2 mm before the right panel: blowing in, its intake looks there; blowing out, its outlet does.
        QTest::newRow("blows in") << true << "blocked";
        QTest::newRow("blows out") << false << "starved";
    }
    void onlyTheIntakeOfAFanIsBlocked() {
        QFETCH(bool, in);
        QFETCH(QString, state);
        Project p = facing("blades", "closed panel", 3.2);
        std::get<PlacePart>(p.revisions[0].changes[1]).flow = in ? FanFlow::In : FanFlow::Out;
        const auto fit = fit::check(built(p, "R1"));
        QCOMPARE(QString::fromStdString(std::string(fit::gapStateWord(between(fit, "a", "")->state))), state);
    }

    /// A quarter of the face that breathes must be covered, else only touching counts. Engineering judgement.
    void cornersOnlyTouch_data() {
        QTest::addColumn<double>("shiftMm"); // of the part before a face of 40 x 40
        QTest::addColumn<QString>("lower");
        QTest::addColumn<QString>("rule");
        QTest::newRow("a quarter of a fan") << 30.0 << "blades"
                                            << "blades-face";
        QTest::newRow("less of a fan") << 30.5 << "blades"
                                       << "blades-solid";
        QTest::newRow("a quarter of a cooler") << 30.0 << "cooler fan"
                                               << "cooler-fan-face";
        QTest::newRow("less of a cooler") << 30.5 << "cooler fan"
                                          << "cooler-fan-solid";
        QTest::newRow("less of a supply") << 30.5 << "supply"
                                          << "solid";
    }
    void cornersOnlyTouch() {
        QFETCH(double, shiftMm);
        QFETCH(QString, lower);
        QFETCH(QString, rule);
        Project p = facing(lower, "solid", 4);
        p.shelf[0].mounts[1].at[1] = low(80 + shiftMm);
        const auto fit = fit::check(built(p, "R1"));
        const auto* gap = between(fit, "a", "b");
        QVERIFY(gap);
        QCOMPARE(QString::fromStdString(std::string(gap->rule)), rule);
    }

    /// A tower breathes along its own y, not to its sides and not to its top.
    void towersBreatheAlongTheirFins_data() {
        QTest::addColumn<int>("up");
        QTest::addColumn<bool>("open");
        QTest::addColumn<QString>("rule");
        QTest::newRow("fins to the closed panel") << 0 << false << "tower-closed";
        QTest::newRow("fins to the open panel") << 0 << true << "tower-open";
        QTest::newRow("side to the panel") << 2 << false << "solid";
    }
    void towersBreatheAlongTheirFins() {
        QFETCH(int, up);
        QFETCH(bool, open);
        QFETCH(QString, rule);
        Project p = facing("tower", open ? "open panel" : "closed panel", 4);
        p.shelf[1].size = {mm(20), mm(20), mm(20)};
        p.shelf[0].mounts[0].facing = {Axis::Y, 1};
        p.shelf[0].mounts[0].up = {static_cast<Axis>(up), 1};
        const auto fit = fit::check(built(p, "R1"));
        const auto* gap = between(fit, "a", "");
        QVERIFY(gap);
        QCOMPARE(QString::fromStdString(std::string(gap->rule)), rule);
        QCOMPARE(QString::fromStdString(std::string(fit::clearanceFor(fit::Face::Blades, fit::Face::Tower).id)),
                 QStringLiteral("fan-tower"));
    }

    /// How open a panel is: 45 % of the plate, over 45 % of the face. Common practice, no source.
    void openEnough_data() {
        QTest::addColumn<double>("perforation");
        QTest::addColumn<double>("widthMm"); // of an opening before a supply of 40 x 40
        QTest::addColumn<QString>("rule");
        QTest::newRow("plate open enough") << 0.45 << 60.0 << "supply-open";
        QTest::newRow("plate too closed") << 0.44 << 60.0 << "supply-closed";
        QTest::newRow("covers enough") << 0.6 << 18.0 << "supply-open";
        QTest::newRow("covers too little") << 0.6 << 17.9 << "supply-closed";
    }
    void openEnough() {
        QFETCH(double, perforation);
        QFETCH(double, widthMm);
        QFETCH(QString, rule);
        Project p = facing("supply", "open panel", 4);
        Opening& o = std::get<CaseSpec>(p.shelf[0].spec).openings[0];
        o.perforation = perforation;
        o.sizeMm = {widthMm, 60};
        const auto fit = fit::check(built(p, "R1"));
        QCOMPARE(QString::fromStdString(std::string(between(fit, "a", "")->rule)), rule);
    }

    /// Flush at 0 with no size between, as "high: 0" puts it: a pair like any other.
    void flushIsAGapOfZero_data() {
        QTest::addColumn<QString>("part");
        QTest::addColumn<QString>("state");
        QTest::newRow("supply intake on a closed panel") << "supply"
                                                         << "blocked";
        QTest::newRow("fan on a closed wall") << "blades"
                                              << "clash";
        QTest::newRow("card back on a wall") << "card back"
                                             << "rub";
        QTest::newRow("card fan on a wall") << "card fan"
                                            << "clash";
        QTest::newRow("solder side on the wall") << "underside"
                                                 << "rub";
    }
    void flushIsAGapOfZero() {
        QFETCH(QString, part);
        QFETCH(QString, state);
        Project p = facing(part, "closed panel", 0);
        p.shelf[0].mounts[0].at[0] = high(0);
        const auto fit = fit::check(built(p, "R1"));
        const auto* gap = between(fit, "a", "");
        QVERIFY(gap);
        QCOMPARE(gap->nominal.mm(), 0.0);
        QVERIFY(gap->chain.empty());
        QCOMPARE(QString::fromStdString(std::string(fit::gapStateWord(gap->state))), state);
    }
    /// What touches by design is said so and is no gap.
    void joints_data() {
        QTest::addColumn<QString>("part");
        QTest::addColumn<QString>("panel");
        QTest::addColumn<QString>("how");
        QTest::newRow("fan over its opening") << "blades"
                                              << "open panel"
                                              << "sits over its opening";
        QTest::newRow("supply over its opening") << "supply"
                                                 << "open panel"
                                                 << "sits over its opening";
        QTest::newRow("radiator over its opening") << "radiator"
                                                   << "open panel"
                                                   << "sits over its opening";
        QTest::newRow("drive screwed to the wall") << "still drive"
                                                   << "closed panel"
                                                   << "sits on the wall";
    }
    void joints() {
        QFETCH(QString, part);
        QFETCH(QString, panel);
        QFETCH(QString, how);
        Project p = facing(part, panel, 0);
        p.shelf[0].mounts[0].at[0] = high(0);
        const auto fit = fit::check(built(p, "R1"));
        QVERIFY(!between(fit, "a", ""));
        QVERIFY(std::any_of(fit.joints.begin(), fit.joints.end(),
                            [&](const auto& j) { return QString::fromStdString(j.how) == how; }));
    }
    /// A spine as deep as the case is made to touch; one tenth more does not go in.
    void spineAsDeepAsTheCase() {
        for (const double size : {200.0, 200.1}) {
            Project p = facing("solid", "solid", 10);
            p.shelf[1].size[2] = mm(size, 0.3);
            p.shelf[0].mounts[0].at[0] = low(0);
            p.revisions[0].changes.pop_back();
            const auto fit = fit::check(built(p, "R1"));
            const auto* gap = between(fit, "a", "");
            QCOMPARE(gap == nullptr, size == 200.0);
            if (gap)
                QCOMPARE(gap->state, GapState::Clash);
            QCOMPARE(std::any_of(fit.joints.begin(), fit.joints.end(),
                                 [](const auto& j) { return j.how.starts_with("made to touch"); }),
                     size == 200.0);
        }
    }
    /// A plug in the blades of a fan on a panel that flexes: the panel gives way, the blades do not.
    void bladesNeverBulge() {
        Project p = facing("plug", "blades", 30, true);
        p.shelf[0].mounts[1].at[0] = high(0); // 180 to 200
        std::get<CaseSpec>(p.shelf[0].spec).openings = {{.id = "mesh",
                                                         .name = "Mesh",
                                                         .side = Side::Right,
                                                         .chamber = "in",
                                                         .centreMm = {100, 100},
                                                         .sizeMm = {190, 190}}};
        for (const double into : {1.0, 0.0}) {
            p.shelf[0].mounts[0].at[0] = low(160 + into);
            const auto fit = fit::check(built(p, "R1"));
            const auto* gap = between(fit, "a", "b", "plug-blades");
            QVERIFY(gap && gap->flexible);
            QCOMPARE(gap->nominal.mm(), -into);
            QCOMPARE(gap->state, GapState::Clash);
        }
    }
    /// Every plug of a part has its own gap to a wall, not the tightest one only.
    void everyPlugHasItsOwn() {
        Project p = facing("solid", "closed panel", 12);
        p.shelf[1].bodies = {{.name = "body", .at = {mm(0), mm(0), mm(0)}, .size = {mm(40), mm(40), mm(20)}},
                             {.name = "left plug",
                              .role = BodyRole::KeepOut,
                              .at = {mm(0), mm(0), mm(20)},
                              .size = {mm(10), mm(10), mm(14)}},
                             {.name = "right plug",
                              .role = BodyRole::KeepOut,
                              .at = {mm(20), mm(0), mm(20)},
                              .size = {mm(10), mm(10), mm(13)}}};
        const auto fit = fit::check(built(p, "R1"));
        std::set<std::string> told;
        for (const auto& gap : fit.gaps)
            if (gap.state == GapState::Clash)
                told.insert(gap.between[0].text);
        QCOMPARE(told, (std::set<std::string>{"Part a, left plug", "Part a, right plug"}));
    }
    /// A made part that is nothing but the space it keeps takes no room of its own.
    void keepOutsOnly() {
        Project p = facing("solid", "solid", -5); // overlap, were it solid
        p.shelf[1].bodies = {{.name = "kept",
                              .role = BodyRole::KeepOut,
                              .at = {mm(0), mm(0), mm(0)},
                              .size = {mm(40), mm(40), mm(5)},
                              .use = Use::Tool}};
        for (const auto& gap : fit::check(built(p, "R1")).gaps)
            QVERIFY2(gap.state != GapState::Clash, gap.id.c_str());
    }
    /// Outside is said, or it is an offset typed ten times too large.
    void outsideIsSaid_data() {
        QTest::addColumn<double>("lowMm"); // of a part of 20 in a case of 200 with walls of 1
        QTest::addColumn<bool>("said");
        QTest::addColumn<bool>("taken");
        QTest::newRow("half through the wall: a clash, not an error") << 190.0 << false << true;
        QTest::newRow("beyond, not said") << 201.0 << false << false;
        QTest::newRow("beyond, said") << 201.0 << true << true;
        QTest::newRow("ten times too far") << 2000.0 << false << false;
        QTest::newRow("below the floor, not said") << -40.0 << false << false;
    }
    void outsideIsSaid() {
        QFETCH(double, lowMm);
        QFETCH(bool, said);
        QFETCH(bool, taken);
        Project p = facing("solid", "closed panel", 10);
        p.shelf[0].mounts[0].at[0] = low(lowMm);
        p.shelf[0].mounts[0].outside = said;
        const auto b = resolve(p, "R1");
        QCOMPARE(b.has_value(), taken);
        if (!taken)
            QVERIFY2(b.error().text().find("lies wholly outside the case: x from") != std::string::npos &&
                         b.error().text().find("revision R1") != std::string::npos,
                     b.error().text().c_str());
        p.shelf[0].mounts[0].at[0] = {Ref::Above, mm(1)}; // an offset outwards says it as well
        QVERIFY(resolve(p, "R1").has_value());
    }
    /// A card that is stated deeper than its shroud is breathes where the shroud ends.
    void shroudShorterThanStated() {
        for (const double away : {15.0, 14.9}) {
            const Project p = facing("deep card", "closed panel", away - 5);
            const auto fit = fit::check(built(p, "R1"));
            const auto* gap = between(fit, "a", "", "cooler-fan-closed");
            QVERIFY(gap);
            QCOMPARE_LE(std::abs(gap->nominal.mm() - away), 1e-9);
            QCOMPARE(gap->isShort(), away < 15);
        }
    }
    void aBrickTakesNoRoom() {
        Project p = facing("brick", "closed panel", -100);
        const auto fit = fit::check(built(p, "R1"));
        QVERIFY(fit.gaps.empty());
        QCOMPARE_LE(std::abs(fit.volumeL - 0.202 * 0.202 * 0.202 * 1000), 1e-9);
    }
    /// Feet set while it lies count for the side it lies on, and those of the bottom come back with it.
    void feetOfEachSide() {
        const auto feet = [](std::vector<Change> changes) {
            return fit::check(built(with(project(), std::move(changes)), "R2")).feetMm;
        };
        QCOMPARE(feet({}), 10.0);
        QCOMPARE(feet({Orient{Side::Rear}}), 3.0);
        QCOMPARE(feet({Orient{Side::Rear}, SetFeet{30}}), 30.0);
        QCOMPARE(feet({Orient{Side::Rear}, SetFeet{30}, Orient{Side::Bottom}}), 10.0);
        QCOMPARE(feet({SetFeet{14}, Orient{Side::Rear}, Orient{Side::Bottom}}), 14.0);
    }
    void equalPartsAreToldApart() {
        Project p = facing("blades", "solid", 30);
        p.revisions[0].changes[2] = PlacePart{"a", "b"};
        const Build b = built(p, "R1");
        QCOMPARE(QString::fromStdString(b.placed[0].name), QStringLiteral("Part a, a"));
        QCOMPARE(QString::fromStdString(b.placed[1].name), QStringLiteral("Part a, b"));
        std::set<std::string> ids;
        for (const auto& gap : fit::check(b).gaps)
            QVERIFY(ids.insert(gap.id).second);
    }

    /// Feet under an opening: 5 mm at least, common practice, no source. Laid on a side without an opening: no such
    /// gap.
    void deskUnderTheIntake() {
        for (const double feet : {5.0, 4.9}) {
            const Project p = with(project(), {SetFeet{feet}});
            const auto fit = fit::check(built(p, "R2"));
            const auto gap =
                std::find_if(fit.gaps.begin(), fit.gaps.end(), [](const auto& g) { return g.rule == "intake-desk"; });
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
        QCOMPARE(gap->state, GapState::Starved); // it closes; a fan breathes from 10
        QCOMPARE_LE(std::abs(gap->touchMarginMm() + gap->worstBandMm), 1e-9);
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
        plate.bodies = {{.name = "plate",
                         .at = {mm(0), mm(0), mm(0)},
                         .size = {mm(60), mm(60), mm(2)},
                         .cutouts = {{.round = true, .atMm = {15, 15}, .sizeMm = {30, 30}}}}};
        Part& rod = p.shelf[2];
        rod.size = {mm(rodMm), mm(rodMm), mm(60)};
        rod.bodies = {{.name = "rod",
                       .shape = Shape::Cylinder,
                       .at = {mm(0), mm(0), mm(0)},
                       .size = {mm(rodMm), mm(rodMm), mm(60)}}};
        p.shelf[0].mounts[0].at = {low(100), low(70), low(70)};
        p.shelf[0].mounts[1].at = {low(70), low(100 - rodMm / 2), low(100 - rodMm / 2)};
        const Build b = built(p, "R1");
        double least = 1e9;
        for (const auto& gap : fit::check(b).gaps)
            if (!gap.between[0].mount.empty() && !gap.between[1].mount.empty())
                least = std::min(least, gap.nominal.mm());
        if (distanceMm > 0)
            QVERIFY2(least > distanceMm - 1.0 && least <= distanceMm + 0.01,
                     qPrintable(QString::number(least))); // the hole is followed in strips, never too wide
        else
            QVERIFY2(least < 0, qPrintable(QString::number(least)));
    }

    /// A block turned by 45 degrees reaches half its diagonal: 20 x sqrt(2) / 2 = 14.142 from its middle.
    void turnedBlock() {
        Project p = facing("solid", "solid", 30);
        Part& turned = p.shelf[1];
        turned.size = {mm(20), mm(20), mm(20, 0.3)};
        turned.bodies = {
            {.name = "block", .at = {mm(0), mm(0), mm(0)}, .size = {mm(20), mm(20), mm(20)}, .turnDeg = {0, 45, 0}}};
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
            p.shelf[i].bodies = {{.name = "rod",
                                  .shape = Shape::Cylinder,
                                  .along = Axis::X,
                                  .at = {mm(0), mm(0), mm(0)},
                                  .size = {mm(60), mm(10), mm(10)}}};
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

    /// Plugs: a 12-pin one is straight for 35 before it bends, an 8-pin one takes 20 and 15 for the bend, SATA 20
    /// and 10. Common practice, no source.
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

    /// An angled plug has a direction: away from a wall it fits where a straight one, or one towards the wall, does
    /// not.
    void angledPlugs_data() {
        QTest::addColumn<QString>("style");
        QTest::addColumn<QString>("worst");
        QTest::newRow("straight meets the panel") << "straight"
                                                  << "clash";
        QTest::newRow("angled away from the wall") << "-y"
                                                   << "clear";
        QTest::newRow("angled towards the rear wall") << "+y"
                                                      << "clash";
    }
    void angledPlugs() {
        QFETCH(QString, style);
        QFETCH(QString, worst);
        Project p = facing("solid", "closed panel", 20);
        Part& a = p.shelf[1];
        a.ports = {{.id = "power",
                    .kind = "card-8",
                    .at = {support::mm(20), support::mm(20), support::mm(20)},
                    .out = {Axis::Z, 1},
                    .angledWays = {{Axis::X, 1}, {Axis::X, -1}}}};
        p.shelf[0].mounts[0].at[1] = high(5); // near the rear wall
        if (style != "straight") {
            // Own x of the part lies along the depth of the case, which way round the frame says.
            const Build b = built(p, "R1");
            const Direction own = b.placed[0].frame.axis[0];
            const int wanted = style == "+y" ? 1 : -1;
            p.revisions.push_back(
                {.id = "R2",
                 .parent = "R1",
                 .changes = {SetPlug{"a", "power", PlugStyle::Angled, {Axis::X, wanted * own.sign}}}});
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
        QCOMPARE_LE(std::abs(measure(fit::outlineOf(turned, Axis::X, Axis::Y)).second - 20.0 * 40.0),
                    1e-9); // seen along z it keeps its area
        QCOMPARE_LE(std::abs(measure(fit::outlineOf(turned, Axis::X, Axis::Z)).first - 60 * h),
                    1e-9); // and is (20 + 40) / sqrt 2 wide
        const fit::Primitive rod{.shape = Shape::Cylinder, .half = {5, 5, 20}};
        QCOMPARE_LE(std::abs(measure(fit::outlineOf(rod, Axis::X, Axis::Y)).second - std::numbers::pi * 25),
                    0.01 * std::numbers::pi * 25); // 48 sides
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
        QVERIFY(
            std::none_of(empty.lines.begin(), empty.lines.end(), [](const auto& line) { return line.layer == "cut"; }));
    }

    /// A fan of 15 mounted 2 outside the panel makes the case 15 wider than its wall: 2 + 82 + 2 + 15.
    void mountedOutside() {
        Project p = project();
        p.shelf[0].mounts[2].variants = {
            {.id = "out", .name = "outside", .at = std::array{Offset{Ref::Above, mm(2)}, centre(200), centre(60)}}};
        const auto inside = fit::check(built(p, "R1")),
                   outside = fit::check(built(with(p, {ChooseVariant{"side", "out"}}), "R2"));
        QCOMPARE_LE(std::abs(inside.outsideMm[0] - 86), 1e-9);
        QCOMPARE_LE(std::abs(outside.outsideMm[0] - 101), 1e-9);
        QCOMPARE_LE(std::abs(outside.volumeL / inside.volumeL - 101.0 / 86), 1e-9);
        for (const auto& gap : outside.gaps) // and no wall is before it
            QVERIFY(!(gap.between[0].mount == "side" && gap.between[1].mount.empty()) &&
                    !(gap.between[1].mount == "side" && gap.between[0].mount.empty()));
    }

    /// Mount variants: a supply turned, a fan outside, and what the mount does not have.
    void variants() {
        Project p = project();
        p.shelf[0].mounts[3].variants = {
            {.id = "turned", .name = "turned", .facing = Direction{Axis::Y, 1}, .up = Direction{Axis::Z, 1}},
            {.id = "high", .name = "at the top", .at = std::array{low(4), low(4), high(4)}}};
        const Build turned = built(with(p, {ChooseVariant{"bay", "turned"}}), "R2");
        QCOMPARE(turned.at("bay")->highAt[1].mm() - turned.at("bay")->lowAt[1].mm(),
                 63.5); // its depth lies along the case
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
                part.ports = {{.id = "eps",
                               .kind = "eps-8",
                               .at = {mm(alongMm), mm(95), mm(1.6)},
                               .out = {Axis::Z, 1}}}; // under the cooler
        const auto fit = fit::check(built(p, "R1"));
        const bool clash = std::any_of(fit.gaps.begin(), fit.gaps.end(), [](const auto& g) {
            return g.isShort() && (g.between[0].port == "eps" || g.between[1].port == "eps");
        });
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
                    {.name = "tube",
                     .shape = Shape::Tube,
                     .role = BodyRole::KeepOut,
                     .at = {mm(20), mm(20), mm(10)},
                     .size = {mm(10), mm(10), mm(0)},
                     .use = Use::Lead,
                     .routeMm = {{0, 0, 0}, {0, 0, 20}, {0, 60, 20}},
                     .bendMm = 15}};
        const auto fit = fit::check(built(p, "R1"));
        const auto gap = std::find_if(fit.gaps.begin(), fit.gaps.end(), [](const auto& g) {
            return g.between[1].mount.empty() && g.between[0].face == fit::Face::Lead && g.axis == Axis::X;
        });
        QVERIFY(gap != fit.gaps.end());
        // Middle line at 160 + 10 + 20 of 200, radius 5.
        QCOMPARE_LE(std::abs(gap->nominal.mm() - 5), 0.01);
    }

private:
    static void whatFacesWhatIds(std::set<std::string>& used) {
        for (const char* lower : {"solid", "blades", "plug", "lead", "tool", "frame", "cooler fan", "supply",
                                  "radiator", "drive", "still drive", "underside", "card back"})
            for (const char* upper : {"solid", "blades", "plug", "radiator", "cooler fan", "frame", "drive",
                                      "still drive", "closed panel", "open panel"}) {
                const auto fit = fit::check(built(facing(lower, upper, 1), "R1"));
                for (const auto& gap : fit.gaps)
                    used.insert(std::string(gap.rule));
            }
    }
};
} // namespace tst_fit_cases
MD_TEST(tst_fit_cases, FitCasesTest)
#include "tst_fit_cases.moc"
