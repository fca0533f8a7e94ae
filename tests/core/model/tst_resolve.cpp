// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_resolve {

using namespace support;

class ResolveTest : public QObject {
    Q_OBJECT

    static QString problemOf(const Project& p, const std::string& id = "R2") {
        const auto b = resolve(p, id);
        return b ? QString() : QString::fromStdString(b.error().text());
    }

private slots:
    /// A limit belongs to the part it was set for: it ends with a swap, and never raises what the part draws.
    void powerLimits() {
        const auto watts = [](std::vector<Change> changes) {
            const Project p = with(project(), std::move(changes));
            return built(p, "R2").at("tray/cpu/lid")->powerW();
        };
        QCOMPARE(watts({}), 1.2);
        QCOMPARE(watts({LimitPower{"tray/cpu/lid", 1}}), 1.0);
        QCOMPARE(watts({LimitPower{"tray/cpu/lid", 5}}), 1.2);
        QCOMPARE(watts({LimitPower{"tray/cpu/lid", 1}, SwapPart{"tray/cpu/lid", "cooler-47"}}), 1.2);
        QCOMPARE(watts({LimitPower{"tray/cpu/lid", 1}, SwapPart{"tray/cpu/lid", "cooler-37"}}),
                 1.0); // the same part again
    }

    /// What the newer kinds of change say in words, and how they are refused.
    void wordsOfChanges() {
        Project p = project();
        p.shelf[0].mounts[2].variants = {{.id = "out",
                                          .name = "outside the panel",
                                          .at = std::array{Offset{Ref::Above, {}}, centre(200), centre(60)}}};
        std::get<CaseSpec>(p.shelf[0].spec).modifications = {
            {.id = "cut", .name = "Front cut open", .opens = {"top-grille"}}};
        Part lead{.id = "lead", .kind = PartKind::Cable, .name = "Lead 300"};
        lead.spec = CableSpec{};
        p.shelf.push_back(lead);
        for (Part& part : p.shelf)
            if (part.id == "card")
                part.ports = {{.id = "power", .kind = "card-8", .at = {mm(100), mm(58), mm(19)}, .out = {Axis::Y, 1}}};
        const auto words = [&](const Change& c) { return QString::fromStdString(english(describe(c, p, "R1"))); };
        QCOMPARE(words(ChooseVariant{"side", "out"}), QStringLiteral("Fan fan-15: outside the panel"));
        QCOMPARE(words(ChooseVariant{"side", ""}), QStringLiteral("Fan fan-15 as the place is drawn"));
        QCOMPARE(words(SetPlug{"card", "power", PlugStyle::Straight, {}}),
                 QStringLiteral("Card card, straight plug at power"));
        QVERIFY(words(SetPlug{"card", "power", PlugStyle::Angled, {Axis::X, 1}}).contains("lead to the"));
        QCOMPARE(words(Connect{"lead", "bay:card-8", {"card:power"}}),
                 QStringLiteral("Lead 300 from Supply (card-8) to Card card (power)"));
        QCOMPARE(words(Disconnect{"lead", "bay:card-8"}), QStringLiteral("Lead 300 at Supply (card-8) unplugged"));
        QCOMPARE(words(SetFeet{12.5}), QStringLiteral("Feet of 12.5 mm"));
        QVERIFY(words(SetFouling{"floor-vent", 2.5}).endsWith("clogged, 2.5 times the resistance of its clean screen"));
        QVERIFY(words(SetFouling{"floor-vent", 1}).endsWith(" cleaned"));
        QCOMPARE(words(Modify{"cut"}), QStringLiteral("Front cut open"));
        const Project changed = with(p, {Modify{"cut"}, Connect{"lead", "bay:card-8", {"card:power"}}});
        const Build cut = built(changed, "R2");
        QCOMPARE(cut.opening("top-grille")->style, OpeningStyle::Plain);
        QCOMPARE(cut.joined.size(), std::size_t{1});
        // What an earlier change of the same revision put there has its name.
        const Sentences both =
            describe(Revision{.id = "R2",
                              .parent = "R1",
                              .changes = {SwapPart{"side", "fan-25"}, SetFan{"side", {FanMode::Fixed, 0.4}}}},
                     p);
        QCOMPARE(QString::fromStdString(english(both[1])),
                 QString::fromStdString(p.part("fan-25")->name) + " held at 40 %");
        // Taking a part out takes its leads along.
        QVERIFY(
            built(with(p, {Connect{"lead", "bay:card-8", {"card:power"}}, RemovePart{"card"}}), "R2").joined.empty());
        QVERIFY(built(with(p, {Connect{"lead", "bay:card-8", {"card:power"}}, Disconnect{"lead", "bay:card-8"}}), "R2")
                    .joined.empty());
    }
    /// Words of a way that puts in a second part of a kind say which of the two they mean.
    void equalPartsAreToldApartInWords() {
        Project p = project();
        p.shelf[0].mounts.push_back(p.shelf[0].mounts[2]); // as "side"
        p.shelf[0].mounts.back().id = "side-2";
        const auto words = [&](std::vector<Change> changes) {
            QStringList all;
            for (const Sentence& s : describe({.id = "R9", .parent = "R1", .changes = std::move(changes)}, p))
                all << QString::fromStdString(english(s));
            return all;
        };
        const std::string there = built(p, "R1").at("side")->part->id;
        const QString name = QString::fromStdString(p.part(there)->name);
        QCOMPARE(words({SetFan{"side", {.duty = 0.5}}}), QStringList{name + " held at 50 %"});
        QCOMPARE(words({PlacePart{there, "side-2"}, SetFan{"side-2", {.duty = 0.5}}, SetFan{"side", {.duty = 0.6}}}),
                 (QStringList{name + ", side-2 added", name + ", side-2 held at 50 %", name + ", side held at 60 %"}));
        QCOMPARE(words({RemovePart{"side"}, PlacePart{there, "side-2"}}),
                 (QStringList{name + " taken out", name + ", side-2 added"})); // it went elsewhere
    }
    /// What is said again of a vent replaces what was said of it, past changes of other things; not past another case.
    void saidAgain() {
        std::vector<Change> changes{SetOpening{"a", OpeningStyle::Mesh, 0.4}, SetFeet{5}, SetScreen{"a", Screen::Fine}};
        addTo(changes, SetOpening{"a", OpeningStyle::Mesh, 0.5});
        QCOMPARE(changes.size(), std::size_t{3});
        QCOMPARE(std::get<SetOpening>(changes[0]).perforation, 0.5);
        addTo(changes, SetOpening{"b", OpeningStyle::Mesh, 0.5});
        QCOMPARE(changes.size(), std::size_t{4});
        changes.emplace_back(SetCase{"other"});
        addTo(changes, SetOpening{"a", OpeningStyle::Mesh, 0.6});
        QCOMPARE(changes.size(), std::size_t{6});
        QCOMPARE(std::get<SetOpening>(changes[0]).perforation, 0.5);
        addTo(changes, SetFeet{6}); // of a thing that is no vent only the last one is replaced
        QCOMPARE(changes.size(), std::size_t{7});
    }
    void refusedChanges_data() {
        QTest::addColumn<int>("which");
        QTest::addColumn<QString>("says");
        QTest::newRow("variant of nothing") << 0 << "a part at mount";
        QTest::newRow("unknown variant") << 1 << "has no variant";
        QTest::newRow("a fan as a cable") << 2 << "is a fan";
        QTest::newRow("cable to nowhere") << 3 << "nothing is placed at";
        QTest::newRow("unplugging what is not in") << 4 << "is not there";
        QTest::newRow("feet of 300") << 5 << "feet of 300";
        QTest::newRow("unknown modification") << 6 << "modification";
        QTest::newRow("plug of nothing") << 7 << "a part at mount";
    }
    void refusedChanges() {
        QFETCH(int, which);
        QFETCH(QString, says);
        Project p = project();
        Part lead{.id = "lead", .kind = PartKind::Cable, .name = "Lead 300"};
        lead.spec = CableSpec{};
        p.shelf.push_back(lead);
        const std::vector<Change> changes{ChooseVariant{"nowhere", "x"},
                                          ChooseVariant{"side", "x"},
                                          Connect{"fan-15", "bay:fan", {}},
                                          Connect{"lead", "bay:fan", {"nowhere:fan"}},
                                          Disconnect{"lead", "bay:fan"},
                                          SetFeet{300},
                                          Modify{"none"},
                                          SetPlug{"nowhere", "x", PlugStyle::Straight, {}}};
        const auto b = resolve(with(p, {changes[static_cast<std::size_t>(which)]}), "R2");
        QVERIFY(!b);
        QVERIFY2(QString::fromStdString(b.error().text()).contains(says), b.error().text().c_str());
        QVERIFY(!b.error().remedy.empty());
    }
    /// A trial resolves as the revision it would become.
    void trialsAreRevisions() {
        const Project p = project();
        const std::vector<Change> more{SwapPart{"tray/cpu/lid", "cooler-47"},
                                       MovePart{"card", Axis::Y, Length::fromMm(-3)}};
        const auto trial = resolveWith(p, "R1", more);
        const Project after = with(p, more); // a build points into its project
        const Build made = built(after, "R2");
        QVERIFY(trial);
        QCOMPARE(trial->placed.size(), made.placed.size());
        for (std::size_t i = 0; i < made.placed.size(); ++i)
            QVERIFY(trial->placed[i].lowAt == made.placed[i].lowAt &&
                    trial->placed[i].part == p.part(made.placed[i].part->id));
    }
    void placesAlongTheCase() {
        const Project p = project();
        const Build b = built(p, "R1");
        QCOMPARE(b.placed.size(), std::size_t{7});
        const Placed* board = b.at("tray");
        QVERIFY(board);
        // Tray 6.0 off the left wall; the board's depth grows to the right; 20 below the top; flush with the rear.
        QCOMPARE(board->lowAt[0].mm(), 6.0);
        QCOMPARE(board->highAt[0].mm(), 7.6);
        QCOMPARE(board->highAt[1].mm(), 300.0);
        QCOMPARE(board->lowAt[1].mm(), 130.0);
        QCOMPARE(board->highAt[2].mm(), 230.0);
        QCOMPARE(board->lowAt[2].mm(), 60.0);
    }

    void childrenFollowTheirParent() {
        const Project p = project();
        const Build b = built(p, "R1");
        const Placed* cooler = b.at("tray/cpu/lid");
        QVERIFY(cooler);
        // Board face 7.6 + 0.6 socket + 7.0 processor: the cooler stands on 15.2 and is 37 high.
        QCOMPARE(cooler->lowAt[0].mm(), 15.2);
        QCOMPARE(cooler->highAt[0].mm(), 52.2);
        QCOMPARE(cooler->facing(), (Direction{Axis::X, 1}));
        // Centred on the processor in both other directions.
        const Placed* cpu = b.at("tray/cpu");
        for (const std::size_t a : {1U, 2U})
            QCOMPARE_LE(std::abs((cooler->lowAt[a] + cooler->highAt[a] - cpu->lowAt[a] - cpu->highAt[a]).mm()), 0.002);
    }

    void cardLiesAlongTheFloor() {
        const Project p = project();
        const Build b = built(p, "R1");
        const Placed* card = b.at("card");
        QCOMPARE(card->lowAt[0].mm(), 3.0);   // its own height points right
        QCOMPARE(card->highAt[0].mm(), 61.0); // 3 + 58
        QCOMPARE(card->lowAt[2].mm(), 8.0);
        QCOMPARE(card->highAt[2].mm(), 46.0);
        QCOMPARE(card->highAt[1].mm(), 298.0); // 2 before the rear wall
    }

    void sharedSizesCancelInAChain() {
        const Project p = project();
        const Build b = built(p, "R1");
        const Placed* board = b.at("tray");
        const Placed* cpu = b.at("tray/cpu");
        // From board face to processor face only the socket counts: tray place and board thickness cancel.
        const Chain chain = cpu->low[0].minus(board->high[0]);
        QCOMPARE(chain.terms.size(), std::size_t{1});
        QCOMPARE(chain.nominal(b.dimensions).mm(), 0.6);
    }

    void centredPartsEnterWithHalfTheirSize() {
        const Project p = project();
        const Build b = built(p, "R1");
        const Placed* fan = b.at("side");
        QCOMPARE(fan->lowAt[1].mm(), 154.0);
        QCOMPARE(fan->highAt[1].mm(), 246.0);
        bool half = false;
        for (const Chain::Term& t : fan->low[1].terms)
            half = half || t.halves == -1;
        QVERIFY(half);
    }

    void changesAlongTheLineage() {
        Project p =
            with(project(), {SwapPart{"tray/cpu/lid", "cooler-47"}, FlipFan{"side"},
                             SetScreen{"floor-vent", Screen::Fine}, Orient{Side::Left}, LimitPower{"card", 90}});
        p.revisions.push_back(
            {.id = "R3",
             .parent = "R2",
             .changes = {SetFan{"side", FanMode::Processor, 0.4}, SetOpening{"top-grille", OpeningStyle::Closed, 0},
                         MovePart{"card", Axis::Z, Length::fromMm(20)}, RemovePart{"tray/memory"}}});
        const Build b = built(p, "R3");
        QCOMPARE(b.at("tray/cpu/lid")->part->id, std::string("cooler-47"));
        QCOMPARE(b.at("side")->flow, FanFlow::Out);
        QCOMPARE(b.at("side")->control.mode, FanMode::Processor);
        QCOMPARE(b.opening("floor-vent")->screen, Screen::Fine);
        QCOMPARE(b.opening("top-grille")->style, OpeningStyle::Closed);
        QCOMPARE(b.down, Side::Left);
        QCOMPARE(b.at("card")->powerW(), 90.0);
        QCOMPARE(b.at("card")->lowAt[2].mm(), 28.0);
        QVERIFY(!b.at("tray/memory"));
        // The parent is untouched.
        QCOMPARE(built(p, "R1").at("side")->flow, FanFlow::In);
        QVERIFY(built(p, "R2").at("tray/memory"));
    }

    void removingACarrierTakesWhatSitsOnIt() {
        const Project p = with(project(), {RemovePart{"tray"}});
        const Build b = built(p, "R2");
        QVERIFY(!b.at("tray/cpu"));
        QVERIFY(!b.at("tray/cpu/lid"));
        QVERIFY(b.at("card"));
    }

    void screensSurviveASecondCase() {
        Project p = with(project(), {SetScreen{"floor-vent", Screen::Coarse}});
        Part second = p.shelf.front();
        second.id = "box-2";
        p.shelf.push_back(second);
        p.revisions.push_back({.id = "R3", .parent = "R2", .changes = {SetCase{"box-2"}}});
        QCOMPARE(built(p, "R3").opening("floor-vent")->screen, Screen::Coarse);
    }

    /// Everything that is wrong is an error value that names its place and a remedy.
    void refuses_data() {
        QTest::addColumn<QString>("what");
        QTest::newRow("unknown part") << "part \"nothing\" is not there";
        QTest::newRow("unknown mount") << "\"Box\" has no mount \"attic\"";
        QTest::newRow("mount taken") << "already taken";
        QTest::newRow("wrong kind") << "does not take a fan";
        QTest::newRow("no carrier") << "nothing is placed at \"bay2\"";
        QTest::newRow("no fan there") << "a fan at mount \"card\" is not there";
        QTest::newRow("unknown opening") << "opening \"porthole\" is not there";
        QTest::newRow("dust without a screen") << "dust in a bare opening is not modelled";
        QTest::newRow("duty") << "a share from 0 to 1";
        QTest::newRow("open share") << "a share from 0 to 1";
        QTest::newRow("power limit") << "more than 0 and at most 2000 W";
        QTest::newRow("case that is none") << "a part of kind case";
        QTest::newRow("swap of nothing") << "a part at mount \"shelf\" is not there";
    }
    void refuses() {
        const std::map<QString, Change> changes{{"unknown part", PlacePart{"nothing", "shelf"}},
                                                {"unknown mount", PlacePart{"fan-15", "attic"}},
                                                {"mount taken", PlacePart{"fan-15", "side"}},
                                                {"wrong kind", PlacePart{"fan-15", "shelf"}},
                                                {"no carrier", PlacePart{"fan-15", "bay2/x"}},
                                                {"no fan there", FlipFan{"card"}},
                                                {"unknown opening", SetScreen{"porthole", Screen::Fine}},
                                                {"dust without a screen", SetFouling{"top-grille", 2}},
                                                {"duty", SetFan{"side", FanMode::Fixed, 1.5}},
                                                {"open share", SetOpening{"top-grille", OpeningStyle::Mesh, -0.1}},
                                                {"power limit", LimitPower{"card", 0}},
                                                {"case that is none", SetCase{"fan-15"}},
                                                {"swap of nothing", SwapPart{"shelf", "caddy"}}};
        QFETCH(QString, what);
        const QString text = problemOf(with(project(), {changes.at(QString::fromLatin1(QTest::currentDataTag()))}));
        QVERIFY2(text.contains(what), qPrintable(text));
        QVERIFY2(text.startsWith("revision R2, change 1"), qPrintable(text));
        QVERIFY2(text.endsWith(")"), "a remedy stands in brackets");
    }

    void refusesLineages() {
        Project p = project();
        p.revisions.push_back({.id = "R2", .parent = "R3"});
        p.revisions.push_back({.id = "R3", .parent = "R2"});
        QVERIFY(problemOf(p).contains("lead back to itself"));
        p.revisions[1].parent = "R9";
        QVERIFY(problemOf(p).contains("\"R9\" is not there"));
        p.revisions.push_back({.id = "R4"});
        QVERIFY(problemOf(p, "R4").contains("no case is chosen"));
        QVERIFY(problemOf(p, "R77").contains("\"R77\" is not there"));
    }
};
} // namespace tst_resolve
MD_TEST(tst_resolve, ResolveTest)
#include "tst_resolve.moc"
