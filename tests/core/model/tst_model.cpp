// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/choices.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_model {

using namespace support;

class ModelTest : public QObject {
    Q_OBJECT
private slots:
    void changesInWords_data() {
        QTest::addColumn<QString>("words");
        QTest::newRow("swap") << "Cooler 37 to Cooler 47";
        QTest::newRow("place") << "Caddy added";
        QTest::newRow("remove") << "Memory taken out";
        QTest::newRow("flip") << "Fan fan-15 turned to blow out";
        QTest::newRow("speed") << "Fan fan-15 held at 45 %";
        QTest::newRow("follow") << "Fan fan-15 follows the processor";
        QTest::newRow("screen on") << "Fine dust screen on Floor vent";
        QTest::newRow("screen off") << "Dust screen off Floor vent";
        QTest::newRow("open share") << "Top grille 45 % to 58 % open";
        QTest::newRow("closed") << "Top grille closed";
        QTest::newRow("move") << "Card card moved 20.0 mm up";
        QTest::newRow("move left") << "Card card moved 0.5 mm left";
        QTest::newRow("lay") << "Laid on its left side";
        QTest::newRow("stand") << "Standing upright";
        QTest::newRow("limit") << "Card card limited to 90 W";
        QTest::newRow("case") << "Case Box";
    }
    void changesInWords() {
        const std::map<QString, Change> changes{{"swap", SwapPart{"tray/cpu/lid", "cooler-47"}},
                                                {"place", PlacePart{"caddy", "shelf"}},
                                                {"remove", RemovePart{"tray/memory"}},
                                                {"flip", FlipFan{"side"}},
                                                {"speed", SetFan{"side", FanMode::Fixed, 0.45}},
                                                {"follow", SetFan{"side", FanMode::Processor, 0.5}},
                                                {"screen on", SetScreen{"floor-vent", Screen::Fine}},
                                                {"screen off", SetScreen{"floor-vent", Screen::None}},
                                                {"open share", SetOpening{"top-grille", OpeningStyle::Mesh, 0.58}},
                                                {"closed", SetOpening{"top-grille", OpeningStyle::Closed, 0}},
                                                {"move", MovePart{"card", Axis::Z, Length::fromMm(20)}},
                                                {"move left", MovePart{"card", Axis::X, Length::fromMm(-0.5)}},
                                                {"lay", Orient{Side::Left}},
                                                {"stand", Orient{Side::Bottom}},
                                                {"limit", LimitPower{"card", 90}},
                                                {"case", SetCase{"box"}}};
        QFETCH(QString, words);
        const Project p = project();
        QCOMPARE(QString::fromStdString(
                     english(describe(changes.at(QString::fromLatin1(QTest::currentDataTag())), p, "R1"))),
                 words);
    }

    void mountsTakenAndFree() {
        const Project p = project();
        const Build b = built(p, "R1");
        const auto mounts = mountsOf(b);
        const auto find = [&](const std::string& path) {
            return std::find_if(mounts.begin(), mounts.end(), [&](const MountChoice& m) { return m.path == path; });
        };
        QVERIFY(find("shelf") != mounts.end());
        QVERIFY(!find("shelf")->taken);
        QCOMPARE(find("tray")->taken->id, std::string("board"));
        QVERIFY(find("tray/cpu/lid") != mounts.end()); // every processor has a lid
        QCOMPARE(find("tray/cpu/lid")->taken->id, std::string("cooler-37"));
    }

    void settingAgainReplaces() {
        std::vector<Change> changes;
        addTo(changes, SetFan{"side", FanMode::Fixed, 0.5});
        addTo(changes, SetFan{"side", FanMode::Fixed, 0.6});
        QCOMPARE(changes.size(), std::size_t{1});
        QCOMPARE(std::get<SetFan>(changes[0]).control.duty, 0.6);
        addTo(changes, SetFan{"top", FanMode::Fixed, 0.6});
        QCOMPARE(changes.size(), std::size_t{2}); // another fan is another change
        addTo(changes, FlipFan{"side"});
        addTo(changes, FlipFan{"side"});
        QCOMPARE(changes.size(), std::size_t{2}); // turned twice is as before
        addTo(changes, MovePart{"card", Axis::Z, Length::fromMm(0.5)});
        addTo(changes, MovePart{"card", Axis::Z, Length::fromMm(0.5)});
        QCOMPARE(changes.size(), std::size_t{3});
        QCOMPARE(std::get<MovePart>(changes[2]).by, Length::fromMm(1));
        addTo(changes, MovePart{"card", Axis::Z, Length::fromMm(-1)});
        QCOMPARE(changes.size(), std::size_t{2}); // nudged back is nothing
        addTo(changes, Orient{Side::Left});
        addTo(changes, Orient{Side::Bottom});
        QCOMPARE(changes.size(), std::size_t{3});
    }

    void freeIds() {
        Project p = project();
        QCOMPARE(freePartId(p, "new"), std::string("new"));
        QCOMPARE(freePartId(p, "caddy"), std::string("caddy-2"));
    }

    void soundProjectValidates() { QVERIFY(validate(project()).empty()); }

    void validateNamesEachProblem_data() {
        QTest::addColumn<QString>("what");
        QTest::newRow("negative size") << "out of range";
        QTest::newRow("id twice") << "used twice";
        QTest::newRow("watts twice") << "loads[0].powers[1].mount: the watts of \"card\" are stated twice";
        QTest::newRow("empty id") << "the id is empty";
        QTest::newRow("baseline") << "baseline: revision \"R9\"";
        QTest::newRow("brief load") << "load \"sprint\" is not there";
        QTest::newRow("no chamber") << "no chamber";
        QTest::newRow("opening without chamber") << "chamber \"attic\" is not there";
        QTest::newRow("run without revision") << "run x: revision \"R9\"";
        QTest::newRow("room") << "brief.room_c";
        QTest::newRow("perforation") << "perforation";
        QTest::newRow("flat chamber") << "not beyond its low corner";
        QTest::newRow("channel length") << "another length than the time";
    }
    void validateNamesEachProblem() {
        Project p = project();
        const QString tag = QString::fromLatin1(QTest::currentDataTag());
        auto& spec = std::get<CaseSpec>(p.shelf[0].spec);
        if (tag == "negative size")
            p.shelf[1].size[0] = mm(-3);
        if (tag == "id twice")
            p.shelf[2].id = "board";
        if (tag == "watts twice")
            p.loads[0].powers = {{"card", 80}, {"card", 90}};
        if (tag == "empty id")
            p.loads[0].id.clear();
        if (tag == "baseline")
            p.baseline = "R9";
        if (tag == "brief load")
            p.brief.load = "sprint";
        if (tag == "no chamber")
            spec.chambers.clear();
        if (tag == "opening without chamber")
            spec.openings[0].chamber = "attic";
        if (tag == "run without revision")
            p.runs.push_back({.id = "x", .revision = "R9"});
        if (tag == "room")
            p.brief.roomC = 400;
        if (tag == "perforation")
            spec.openings[0].perforation = 1.2;
        if (tag == "flat chamber")
            spec.chambers[0].highMm[1] = 0;
        if (tag == "channel length")
            p.runs.push_back({.id = "x",
                              .revision = "R1",
                              .samples = std::make_shared<Samples>(Samples{{0, 1}, {{.name = "a", .values = {1}}}})});
        QFETCH(QString, what);
        QString all;
        for (const Problem& problem : validate(p))
            all += QString::fromStdString(problem.text()) + '\n';
        QVERIFY2(all.contains(what), qPrintable(all));
    }

    void directionWords() {
        for (const Axis axis : allAxes)
            for (const int sign : {1, -1}) {
                const Direction d{axis, sign};
                QCOMPARE(directionFromWord(directionWord(d)), std::optional(d));
                QCOMPARE(outward(sideOf(d)), d);
            }
        QVERIFY(!directionFromWord("x"));
        QVERIFY(!directionFromWord("+w"));
    }
};
} // namespace tst_model
MD_TEST(tst_model, ModelTest)
#include "tst_model.moc"
