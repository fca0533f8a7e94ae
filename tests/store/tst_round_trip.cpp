// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/build.h"
#include "store/files.h"

#include <rapidcheck.h>

#include <QTemporaryDir>
#include <QtTest>

using namespace core;

// Any project that validates goes to a database and to a folder and comes back equal.
namespace {

rc::Gen<std::string> word() { return rc::gen::nonEmpty(rc::gen::container<std::string>(rc::gen::elementOf(std::string("abcdefghijklmnopqrstuvwxyz-0123456789")))); }
/// Names may hold anything that people type.
rc::Gen<std::string> name() { return rc::gen::element<std::string>("Plain", "With, comma", "\"Quoted\"", "Größe ±0,5", "line\nbreak", "tab\there", "emoji \xF0\x9F\x94\xA7", "trailing \\", "<b>&amp;"); }
/// Headings of a log: any Unicode, separators, quotes, line ends, what spreadsheets run, two of one name.
rc::Gen<std::string> heading() {
    return rc::gen::oneOf(name(), rc::gen::element<std::string>("a_c", "a,b;c|d", "=1+1", "+x", "-x", "@x", "'=x", "time_s", "Time", "clock [GHz]", "CPU (°F)", "", " blanks ", "a\r\nb", "\"", "''", "\xE6\xB8\xA9\xE5\xBA\xA6"), word());
}
rc::Gen<double> within(double low, double high) {
    return rc::gen::map(rc::gen::inRange(0, 1'000'000), [=](int i) { return low + (high - low) * i / 1e6; });
}
rc::Gen<Measure> measure(double low, double high) {
    return rc::gen::build<Measure>(rc::gen::set(&Measure::value, rc::gen::map(within(low, high), [](double v) { return Length::fromMm(v); })), rc::gen::set(&Measure::tolerance, rc::gen::map(within(0, 2), [](double v) { return Length::fromMm(v); })),
                                   rc::gen::set(&Measure::source, rc::gen::map(rc::gen::inRange(0, 11), [](int i) { return static_cast<Source>(i); })), rc::gen::set(&Measure::toleranceStated, rc::gen::just(true)));
}
Size3 size3(double low, double high) { return {*measure(low, high), *measure(low, high), *measure(low, high)}; }

Part casePart() {
    Part p{.id = "case", .kind = PartKind::Case, .name = *name(), .size = size3(100, 400), .massG = *within(0, 5000), .price = *within(0, 900)};
    p.mounts = {{.id = "m", .name = *name(), .accepts = {PartKind::Fan, PartKind::Made}, .at = {Offset{static_cast<Ref>(*rc::gen::inRange(0, 3)), *measure(0, 50)}, Offset{Ref::Low, *measure(0, 50)}, Offset{Ref::High, *measure(0, 50)}},
                 .facing = {Axis::X, *rc::gen::element(1, -1)}, .up = {Axis::Z, *rc::gen::element(1, -1)},
                 .variants = {{.id = "turned", .name = *name(), .accepts = std::vector{PartKind::Fan, PartKind::Made}, .facing = Direction{Axis::X, -1}},
                              {.id = "biased", .name = *name(), .at = std::array{Offset{Ref::Low, *measure(0, 9)}, Offset{}, Offset{Ref::Centre, *measure(0, 90)}}, .up = Direction{Axis::Z, -1}}},
                 .slides = {{Axis::Y, *within(-9, 0), *within(0, 9), *within(0, 3)}}, .outside = true, .frameMm = *within(20, 300)}};
    CaseSpec spec{.wall = *measure(0.5, 4), .feetMm = *within(0, 20), .material = static_cast<WallMaterial>(*rc::gen::inRange(0, 3))};
    spec.chambers = {{.id = "c", .name = *name(), .lowMm = {0, 0, 0}, .highMm = {*within(1, 300), *within(1, 300), *within(1, 300)}}};
    spec.panels = {{.side = static_cast<Side>(*rc::gen::inRange(0, 6)), .flexible = *rc::gen::arbitrary<bool>(), .removable = *rc::gen::arbitrary<bool>()}};
    spec.openings = {{.id = "o", .name = *name(), .side = static_cast<Side>(*rc::gen::inRange(0, 6)), .chamber = "c", .centreMm = {*within(0, 200), *within(0, 200)}, .sizeMm = {*within(1, 200), *within(1, 200)},
                      .round = *rc::gen::arbitrary<bool>(), .style = static_cast<OpeningStyle>(*rc::gen::inRange(0, 4)), .perforation = *within(0, 1), .holeMm = *within(0.5, 9), .thicknessMm = *within(0, 5), .screen = static_cast<Screen>(*rc::gen::inRange(0, 3)), .fouling = *within(1, 3), .blockedShare = *within(0, 1)}};
    spec.modifications = {{.id = "cut", .name = *name(), .losses = {{*name(), *word(), *word(), *word(), *name(), *word()}}, .opens = {"o"}, .minutes = *within(0, 90), .price = *within(0, 9), .tool = *name(), .safety = *name()}};
    spec.panels[0].lipMm = *within(0, 9);
    p.spec = spec;
    return p;
}

Part otherPart(int i) {
    static const std::vector<PartKind> kinds{PartKind::Board, PartKind::Processor, PartKind::Cooler, PartKind::Fan, PartKind::Card, PartKind::PowerSupply, PartKind::Drive, PartKind::Memory, PartKind::Made, PartKind::Adapter, PartKind::Cable, PartKind::Radiator};
    Part p{.id = "part-" + std::to_string(i), .kind = *rc::gen::elementOf(kinds), .name = *name(), .size = size3(3, 300), .powerW = *within(0, 300), .massG = *within(0, 900), .price = *within(0, 900)};
    p.gives = {{*word(), *rc::gen::inRange(1, 5)}};
    p.needs = {{*word(), *rc::gen::inRange(1, 5)}};
    p.fasteners = {{*name(), *rc::gen::inRange(1, 20)}};
    p.step = {.tool = *word(), .minutes = *within(0, 60), .after = {*word()}, .safety = *name()};
    const bool isLead = p.kind == PartKind::Cable || p.kind == PartKind::Adapter; // they have no place, and so no bodies
    if (*rc::gen::arbitrary<bool>() && !isLead)
        p.bodies = {{.name = *name(), .shape = static_cast<Shape>(*rc::gen::inRange(0, 2)), .along = static_cast<Axis>(*rc::gen::inRange(0, 3)), .role = static_cast<BodyRole>(*rc::gen::inRange(0, 2)), .at = size3(-20, 20), .size = size3(1, 50),
                     .use = static_cast<Use>(*rc::gen::inRange(0, 6)), .turnDeg = {*within(-90, 90), 0, *within(-90, 90)}, .cutouts = {{.round = *rc::gen::arbitrary<bool>(), .atMm = {*within(0, 9), 1}, .sizeMm = {*within(1, 9), 2}}}},
                    {.name = "run", .shape = *rc::gen::element(Shape::Tube, Shape::Ribbon), .at = size3(0, 9), .size = size3(1, 9), .routeMm = {{0, 0, 0}, {*within(1, 50), 0, 0}, {9, *within(1, 50), 0}}, .bendMm = *within(0, 40)}};
    if (*rc::gen::arbitrary<bool>())
        p.ports = {{.id = *word(), .kind = *word(), .at = size3(0, 90), .out = {Axis::X, *rc::gen::element(1, -1)}, .plug = static_cast<PlugStyle>(*rc::gen::inRange(0, 2)), .towards = {Axis::Z, -1}, .angledWays = {{Axis::Z, 1}, {Axis::Y, -1}}}};
    if (*rc::gen::arbitrary<bool>())
        p.link = Link{*rc::gen::inRange(1, 6), *rc::gen::inRange(1, 17), *within(0, 40)};
    switch (p.kind) {
    case PartKind::Board: p.spec = BoardSpec{.form = *word(), .socket = *word(), .memoryKind = *word(), .graphicsOutput = *rc::gen::arbitrary<bool>(), .memorySlots = *rc::gen::inRange(1, 5), .chipsetLanes = *rc::gen::inRange(0, 20), .laneSlots = {{*word(), *rc::gen::inRange(1, 6), *rc::gen::inRange(1, 17), *rc::gen::arbitrary<bool>(), *word(), *rc::gen::inRange(0, 8)}}, .headerA = *within(0.5, 2)}; break;
    case PartKind::Processor: p.spec = ProcessorSpec{*word(), *rc::gen::arbitrary<bool>(), *within(500, 6000), *within(60, 110), *within(0.1, 0.5), *rc::gen::inRange(0, 25)}; break;
    case PartKind::Cooler: p.spec = CoolerSpec{static_cast<CoolerType>(*rc::gen::inRange(0, 3)), {*word()}, *within(40, 140), *within(10, 30), *within(1, 200), *word(), *rc::gen::arbitrary<bool>()}; break;
    case PartKind::Fan: p.spec = FanSpec{*within(100, 3000), *within(0.001, 0.1), *within(1, 50), *within(10, 50), *within(0, 1)}; break;
    case PartKind::Card: p.spec = CardSpec{static_cast<CardCooler>(*rc::gen::inRange(0, 4)), *rc::gen::inRange(1, 4), *within(500, 3000), *within(50, 100)}; break;
    case PartKind::PowerSupply: p.spec = PowerSupplySpec{*word(), *within(60, 1000), *within(0.7, 0.98), *rc::gen::arbitrary<bool>(), *within(10, 900), *within(1, 90), *within(10, 600), *word()}; break;
    case PartKind::Drive: p.spec = DriveSpec{static_cast<DriveForm>(*rc::gen::inRange(0, 4)), *within(40, 90)}; break;
    case PartKind::Memory: p.spec = MemorySpec{*word(), *rc::gen::inRange(1, 5)}; break;
    case PartKind::Radiator: p.spec = RadiatorSpec{*within(80, 140), *rc::gen::inRange(1, 4), *within(0, 3), *word(), *rc::gen::arbitrary<bool>()}; break;
    case PartKind::Adapter: p.spec = AdapterSpec{*within(0, 300), *rc::gen::arbitrary<bool>()}; break;
    case PartKind::Cable: p.spec = CableSpec{*within(10, 900), *word(), *within(0, 300)}; break;
    case PartKind::Made: p.spec = MadeSpec{static_cast<Process>(*rc::gen::inRange(0, 2)), *word(), *within(0, 500), *within(0, 1), *within(0, 1), *rc::gen::inRange(1, 9)}; break;
    default: break;
    }
    return p;
}

Run run(int i) {
    Run r{.id = "run " + std::to_string(i) + "/x", .name = *name(), .revision = "R1", .load = "full", .instruments = *name(), .note = *name(), .source = "file", .distanceM = *within(0.3, 3)};
    if (*rc::gen::arbitrary<bool>())
        r.roomC = *within(10, 40);
    if (*rc::gen::arbitrary<bool>())
        r.loadStartS = *within(0, 100);
    auto samples = std::make_shared<Samples>();
    const int rows = *rc::gen::inRange(0, 40);
    samples->channels = {{.name = *heading(), .unit = "°C", .kind = ChannelKind::Temperature, .subject = *word()}, {.name = *heading(), .unit = "", .kind = ChannelKind::Other}};
    for (int k = 0; k < rows; ++k) {
        samples->timeS.push_back(k + *within(0, 0.9));
        samples->channels[0].values.push_back(*rc::gen::inRange(0, 5) ? *within(-30, 130) : std::nan(""));
        samples->channels[1].values.push_back(*within(-1e9, 1e9));
    }
    r.samples = samples;
    return r;
}

Project anyProject() {
    Project p;
    p.name = *name();
    p.currency = *word();
    p.brief = {.purpose = *name(), .roomC = *within(-10, 50), .listenerM = *within(0.2, 5), .altitudeM = *within(-300, 4000), .load = "full"};
    for (int i = 0, n = *rc::gen::inRange(0, 4); i < n; ++i)
        p.brief.targets.push_back({"t" + std::to_string(i), *name(), static_cast<TargetKind>(*rc::gen::inRange(0, 8)), *word(), *within(-100, 5000)});
    p.printer = {.bedMm = {*within(50, 400), *within(50, 400), *within(50, 400)}, .flowMm3s = *within(1, 30), .pricePerKg = *within(5, 90)};
    p.loads = {{"full", *name(), *within(0, 2), *within(0, 2)}};
    p.shelf.push_back(casePart());
    for (int i = 0, n = *rc::gen::inRange(0, 6); i < n; ++i)
        p.shelf.push_back(otherPart(i));
    p.revisions.push_back({.id = "R1", .changes = {SetCase{"case"}}, .note = *name(), .validated = *rc::gen::arbitrary<bool>()});
    for (const Part& part : p.shelf)
        if ((part.kind == PartKind::Fan || part.kind == PartKind::Made) && p.revisions.size() == 1) {
            std::vector<Change> changes{PlacePart{part.id, "m", *rc::gen::element(FanFlow::In, FanFlow::Out)}, SetScreen{"o", Screen::Fine}, SetOpening{"o", OpeningStyle::Printed, *within(0, 1)}, MovePart{"m", Axis::Y, Length::fromUm(*rc::gen::inRange(-50000, 50000))},
                                        Orient{static_cast<Side>(*rc::gen::inRange(0, 6))}, LimitPower{"m", *within(1, 500)}, SetFan{"m", static_cast<FanMode>(*rc::gen::inRange(0, 3)), *within(0, 1)}};
            changes.insert(changes.end(), {ChooseVariant{"m", *rc::gen::element<std::string>("turned", "biased", "")}, SetPlug{"m", *word(), PlugStyle::Angled, {Axis::Y, -1}}, SetFeet{*within(0, 40)}, Modify{"cut"}});
            for (const Part& lead : p.shelf)
                if (lead.kind == PartKind::Cable || lead.kind == PartKind::Adapter) {
                    changes.push_back(Connect{lead.id, "case:" + *word(), {"m:" + *word()}});
                    if (*rc::gen::arbitrary<bool>())
                        changes.push_back(Disconnect{lead.id, std::get<Connect>(changes.back()).from});
                }
            if (part.kind == PartKind::Fan)
                changes.push_back(FlipFan{"m"});
            p.revisions.push_back({.id = "R2", .parent = "R1", .changes = changes});
            p.revisions.push_back({.id = "R3", .parent = "R2", .changes = {RemovePart{"m"}}});
        }
    p.brief.carryBoxMm = {*within(0, 400), *within(0, 400), *within(0, 400)};
    p.needs = {{*word(), *within(0, 20), *name()}};
    p.baseline = *rc::gen::element<std::string>("", "R1");
    for (int i = 0, n = *rc::gen::element(0, 1, 2, 3, 60); i < n; ++i)
        p.runs.push_back(i < 3 ? run(i) : p.runs[static_cast<std::size_t>(i % 3)]);
    for (std::size_t i = 3; i < p.runs.size(); ++i)
        p.runs[i].id = "run " + std::to_string(i) + (i % 2 ? "!" : "?");
    return p;
}

} // namespace

class RoundTripTest : public QObject {
    Q_OBJECT
private slots:
    void anyProjectComesBackEqual_data() {
        QTest::addColumn<bool>("database");
        QTest::newRow("database") << true;
        QTest::newRow("folder") << false;
    }
    void anyProjectComesBackEqual() {
        QFETCH(bool, database);
        int n = 0;
        QTemporaryDir dir;
        const bool ok = rc::check([&] {
            const Project p = anyProject();
            const auto wrong = validate(p);
            if (!wrong.empty())
                RC_FAIL(wrong.front().text());
            const QString path = dir.filePath(QString::number(++n) + (database ? ".minidraft" : ""));
            RC_ASSERT(store::saveProject(p, path).has_value());
            const auto back = store::openProject(path);
            if (!back)
                RC_FAIL(back.error().text());
            RC_ASSERT(back->warnings.empty());
            RC_ASSERT(back->project == p);
        });
        QVERIFY(ok);
    }
};
QTEST_GUILESS_MAIN(RoundTripTest)
#include "tst_round_trip.moc"
