// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/build.h"
#include "store/files.h"
#include "store/project_fields.h"
#include "support/json.h"
#include "support/random_fields.h"
#include "support/registry.h"

#include <QTemporaryDir>
#include <QtTest>

namespace tst_round_trip {

using namespace core;

// Any project that validates goes to a database and to a folder and comes back equal.
namespace {

using support::within;
rc::Gen<std::string> name() { return support::anyName(); }
rc::Gen<std::string> word() {
    return rc::gen::nonEmpty(
        rc::gen::container<std::string>(rc::gen::elementOf(std::string("abcdefghijklmnopqrstuvwxyz-0123456789"))));
}
/// Headings of a log: any Unicode, separators, quotes, line ends, what spreadsheets run, two of one name.
rc::Gen<std::string> heading() {
    return rc::gen::oneOf(name(),
                          rc::gen::element<std::string>("a_c", "a,b;c|d", "=1+1", "+x", "-x", "@x", "'=x", "time_s",
                                                        "Time", "clock [GHz]", "CPU (°F)", "", " blanks ", "a\r\nb",
                                                        "\"", "''", "\xE6\xB8\xA9\xE5\xBA\xA6"),
                          word());
}

/// What holds between fields, and no field can say of itself.
void mend(Part& p) {
    const bool isLead =
        p.kind == PartKind::Cable || p.kind == PartKind::Adapter; // they have no place, and so no bodies
    if (isLead)
        p.bodies.clear();
    const auto atLeast = [](Measure& m, double least) { m.value = std::max(m.value, Length::fromMm(least)); };
    const auto settle = [&](Measure& m) {
        if (!m.toleranceStated)
            m.tolerance = defaultTolerance(
                m.source, m.value,
                p.kind == PartKind::Cooler || p.kind == PartKind::Card ? SheetKind::CoolerOrCard : SheetKind::Ordinary);
    };
    for (Measure& m : p.size) {
        atLeast(m, p.kind == PartKind::Fan ? 3 : 0.01);
        settle(m);
    }
    for (Body& b : p.bodies) {
        for (Measure& m : b.size)
            atLeast(m, 0.01);
        if (b.shape == Shape::Tube || b.shape == Shape::Ribbon)
            b.routeMm.insert(b.routeMm.end(), {{0, 0, 0}, {9, 9, 0}});
    }
    for (Port& port : p.ports)
        if (port.towards.axis == port.out.axis)
            port.plug = PlugStyle::Straight;
    for (Mount& m : p.mounts)
        for (Slide& s : m.slides)
            if (s.stepMm > 0 && (s.toMm - s.fromMm) / s.stepMm > 10000)
                s.stepMm = 0;
    if (auto* fan = std::get_if<FanSpec>(&p.spec); fan && !fan->curve.empty())
        fan->curve = {{0, 1 + fan->curve.front().pressurePa / 2}, {0.02, fan->curve.front().pressurePa / 4}};
    if (auto* spec = std::get_if<CaseSpec>(&p.spec)) {
        for (Chamber& c : spec->chambers)
            for (std::size_t a = 0; a < 3; ++a)
                if (!(c.highMm[a] > c.lowMm[a]))
                    c.highMm[a] = c.lowMm[a] + 1;
        for (Opening& o : spec->openings)
            o.chamber = spec->chambers.front().id;
    }
}

Part part(PartKind kind, const std::string& id) {
    Part p;
    support::RandomFields random;
    fields(random, p);
    p.kind = kind;
    random.spec(p);
    p.id = id;
    mend(p);
    return p;
}

Part casePart() {
    Part p = part(PartKind::Case, "case");
    for (Measure& m : p.size)
        m.value = std::max(m.value, Length::fromMm(100));
    // A place that takes what the changes below put there.
    p.mounts = {
        {.id = "m",
         .name = *name(),
         .accepts = {PartKind::Fan, PartKind::Made},
         .at = {Offset{static_cast<Ref>(*rc::gen::inRange(0, 3)), measureMm(20)}, Offset{Ref::Low, measureMm(7)},
                Offset{Ref::High, measureMm(1)}},
         .facing = {Axis::X, *rc::gen::element(1, -1)},
         .up = {Axis::Z, *rc::gen::element(1, -1)},
         .variants = {{.id = "turned",
                       .name = *name(),
                       .accepts = std::vector{PartKind::Fan, PartKind::Made},
                       .facing = Direction{Axis::X, -1}},
                      {.id = "biased",
                       .name = *name(),
                       .at = std::array{Offset{Ref::Low, measureMm(3)}, Offset{}, Offset{Ref::Centre, measureMm(50)}},
                       .up = Direction{Axis::Z, -1}}},
         .slides = {{Axis::Y, *within(-9, 0), *within(0, 9), *within(0, 3)}},
         .outside = true,
         .frameMm = *within(20, 300)}};
    CaseSpec& spec = std::get<CaseSpec>(p.spec);
    spec.openings = {support::randomValue<Opening>()};
    spec.openings[0].id = "o";
    spec.openings[0].chamber = spec.chambers[0].id;
    spec.modifications = {support::randomValue<Modification>()};
    spec.modifications[0].id = "cut";
    spec.modifications[0].opens = {"o"};
    return p;
}

Part otherPart(int i) {
    static const std::vector<PartKind> kinds{PartKind::Board,   PartKind::Processor, PartKind::Cooler,
                                             PartKind::Fan,     PartKind::Card,      PartKind::PowerSupply,
                                             PartKind::Drive,   PartKind::Memory,    PartKind::Made,
                                             PartKind::Adapter, PartKind::Cable,     PartKind::Radiator};
    Part p = part(*rc::gen::elementOf(kinds), "part-" + std::to_string(i));
    for (Mount& m : p.mounts)
        m.accepts.clear(); // nothing is put there
    return p;
}

Run run(int i) {
    Run r = support::randomValue<Run>();
    r.id = "run " + std::to_string(i) + "/x";
    r.revision = "R1";
    r.load = "full";
    if (r.loadStartS && r.loadEndS && *r.loadEndS <= *r.loadStartS)
        r.loadEndS = *r.loadStartS + 1;
    auto samples = std::make_shared<Samples>();
    const int rows = *rc::gen::inRange(0, 40);
    samples->channels = {{.name = *heading(), .unit = "°C", .kind = ChannelKind::Temperature, .subject = *word()},
                         {.name = *heading(), .unit = "", .kind = ChannelKind::Other}};
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
    p.brief = support::randomValue<Brief>();
    p.brief.load = "full";
    p.printer = support::randomValue<Printer>();
    p.loads = {support::randomValue<Load>()};
    p.loads[0].id = "full";
    for (std::size_t i = 0; i < p.loads[0].powers.size(); ++i)
        p.loads[0].powers[i].mount += std::to_string(i); // each once
    p.shelf.push_back(casePart());
    for (int i = 0, n = *rc::gen::inRange(0, 6); i < n; ++i)
        p.shelf.push_back(otherPart(i));
    p.revisions.push_back(
        {.id = "R1", .changes = {SetCase{"case"}}, .note = *name(), .validated = *rc::gen::arbitrary<bool>()});
    for (const Part& part : p.shelf)
        if ((part.kind == PartKind::Fan || part.kind == PartKind::Made) && p.revisions.size() == 1) {
            std::vector<Change> changes{PlacePart{part.id, "m", *rc::gen::element(FanFlow::In, FanFlow::Out)},
                                        SetScreen{"o", Screen::Fine},
                                        SetOpening{"o", OpeningStyle::Printed, *within(0, 1)},
                                        MovePart{"m", Axis::Y, Length::fromUm(*rc::gen::inRange(-50000, 50000))},
                                        Orient{static_cast<Side>(*rc::gen::inRange(0, 6))},
                                        LimitPower{"m", *within(1, 500)},
                                        SetFan{"m",
                                               {.mode = static_cast<FanMode>(*rc::gen::inRange(0, 4)),
                                                .duty = *within(0, 1),
                                                .follows = "m",
                                                .curve = {{30, *within(0, 1)}, {70, *within(0, 1)}},
                                                .hysteresisK = *within(0, 9)}}};
            changes.insert(changes.end(), {ChooseVariant{"m", *rc::gen::element<std::string>("turned", "biased", "")},
                                           SetPlug{"m", *word(), PlugStyle::Angled, {Axis::Y, -1}},
                                           SetFeet{*within(0, 40)}, Modify{"cut"}});
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
    p.needs = {support::randomValue<NeedOverride>(), support::randomValue<NeedOverride>()};
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
    /// What is written of a value is read back equal, and writing that again gives the same text.
    template <class T> static bool comesBack() {
        return rc::check([] {
            T value = support::randomValue<T>();
            if constexpr (std::same_as<T, Part>)
                mend(value);
            store::JsonWriter writer;
            fields(writer, std::as_const(value));
            std::vector<Problem> warnings;
            T back{};
            store::JsonReader reader(writer.json, "", warnings);
            fields(reader, back);
            reader.finish();
            RC_ASSERT(warnings.empty());
            store::JsonWriter again;
            fields(again, std::as_const(back));
            RC_ASSERT(again.json == writer.json);
            if constexpr (!std::same_as<T, Channel>)
                RC_ASSERT(back == value);
        });
    }
private slots:
    /// Each struct by itself, with every field anywhere in its range: changes of every kind, also those no build would
    /// take.
    void anyValueComesBackEqual() {
        QVERIFY(comesBack<Change>());
        QVERIFY(comesBack<Part>());
        QVERIFY(comesBack<Revision>());
        QVERIFY(comesBack<Run>());
        QVERIFY(comesBack<Channel>());
        QVERIFY(comesBack<Brief>());
    }
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
} // namespace tst_round_trip
MD_TEST(tst_round_trip, RoundTripTest)
#include "tst_round_trip.moc"
