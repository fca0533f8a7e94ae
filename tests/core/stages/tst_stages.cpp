// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/choices.h"
#include "core/stages/evaluate.h"
#include "support/demo.h"
#include "support/registry.h"

#include <QtTest>

#include <random>
#include <set>

namespace tst_stages {

using namespace core;
using stages::Stage;

/// A stage that reads the same as before is not computed again, and what is kept is what would have been computed.
class StagesTest : public QObject {
    Q_OBJECT
    Project m_demo;

    struct Looked {
        stages::Evaluation evaluation;
        std::set<Stage> started;
    };
    static Looked look(const Project& project, const std::string& revision, const stages::Before* before = nullptr) {
        Looked l;
        auto e = stages::evaluate(project, revision, {.before = before, .watch = [&](Stage s) {
                                                          l.started.insert(s);
                                                          return true;
                                                      }});
        if (!e)
            qFatal("%s", e.error().text().c_str());
        l.evaluation = std::move(*e);
        return l;
    }
    /// Every figure and word of an evaluation, to be compared to the digit.
    static QStringList figures(const stages::Evaluation& e) {
        QStringList all;
        const auto add = [&](const std::string& what, double value) {
            all << QString::fromStdString(what) + " " + QString::number(value, 'g', 17);
        };
        for (const auto& g : e.fit.gaps) {
            add(g.id + textOf(g.ref), g.nominal.mm());
            add(g.id + " worst", g.worstBandMm);
            add(g.id + " need", g.requiredMm);
        }
        add("litres", e.fit.volumeL);
        for (const auto& p : e.air.parts)
            add(p.id + p.name, p.temperatureC);
        for (const auto& f : e.air.fans)
            add(f.id + f.name, f.flowM3h);
        for (const auto& o : e.air.openings)
            add(o.id + o.name, o.flowM3h);
        for (const auto& n : e.noise.sources)
            add(n.id + n.name, n.levelDba);
        add("noise", e.noise.totalDba);
        add("minutes", e.make.minutes);
        add("draw", e.power.drawW);
        add("mass", e.massG);
        add("price", e.price);
        for (const auto& f : e.findings)
            all << QString::fromStdString(f.id + ": " + english(f.text));
        return all;
    }

private slots:
    void initTestCase() { m_demo = support::demoProject(); }

    void whatAnEditStarts_data() {
        QTest::addColumn<QString>("edit");
        QTest::addColumn<bool>("gaps");
        QTest::addColumn<bool>("air");
        QTest::addColumn<bool>("noise");
        QTest::newRow("a price") << "price" << false << false << false;
        QTest::newRow("a mass") << "mass" << false << false << false;
        QTest::newRow("a screw") << "screw" << false << false << false;
        QTest::newRow("a target of the brief") << "target" << false << false << false;
        QTest::newRow("watts of a part") << "watts" << false << true << true;
        QTest::newRow("a need of one's own") << "need" << true << false << false;
        QTest::newRow("the room") << "room" << false << true << true;
        QTest::newRow("the listener") << "listener" << false << false << true;
        QTest::newRow("a size") << "size" << true << true << true;
        QTest::newRow("a name") << "name" << true << true << true; // it stands in both
        QTest::newRow("speed of a fan") << "speed" << false << true << true;
        QTest::newRow("a fan turned") << "flip" << true << true << true;
        QTest::newRow("a note on a revision") << "note" << false << false << false;
        QTest::newRow("a part that nothing uses") << "unused" << false << false << false;
    }
    void whatAnEditStarts() {
        QFETCH(QString, edit);
        QFETCH(bool, gaps);
        QFETCH(bool, air);
        QFETCH(bool, noise);
        const std::string id = "R10";
        const Looked now = look(m_demo, id);
        Project p = m_demo;
        Part* card = p.shelf.edit(now.evaluation.build.at("card")->part->id);
        Revision* revision = p.revisions.edit(id);
        if (edit == "price")
            card->price += 10;
        if (edit == "mass")
            card->massG += 10;
        if (edit == "screw")
            card->fasteners.push_back({.kind = "M3 x 5", .count = 2});
        if (edit == "target")
            p.brief.targets.front().limit += 1;
        if (edit == "watts")
            card->powerW += 5;
        if (edit == "need")
            p.needs.push_back({"solid", 2.5, ""});
        if (edit == "room")
            p.brief.roomC += 1;
        if (edit == "listener")
            p.brief.listenerM += 0.5;
        if (edit == "size")
            card->size[0].value += Length::fromMm(0.5);
        if (edit == "name")
            card->name += " two";
        if (edit == "speed")
            addTo(revision->changes, SetFan{"top", FanMode::Fixed, 0.41});
        if (edit == "flip")
            addTo(revision->changes, FlipFan{"top"});
        if (edit == "note")
            revision->note += "later";
        if (edit == "unused")
            p.shelf.push_back({.id = "unused", .kind = PartKind::Made, .name = "Unused", .spec = MadeSpec{}});
        const stages::Before before{m_demo, now.evaluation};
        const Looked then = look(p, id, &before);
        QCOMPARE(then.started.contains(Stage::Gaps), gaps);
        QCOMPARE(then.started.contains(Stage::Air), air);
        QCOMPARE(then.started.contains(Stage::Noise), noise);
        QVERIFY(then.started.contains(Stage::Making) && then.started.contains(Stage::BriefFindings));
        QCOMPARE(then.started.contains(Stage::FitFindings), gaps);
        QCOMPARE(then.started.contains(Stage::AirFindings), air);
        QCOMPARE(figures(then.evaluation), figures(look(p, id).evaluation));
    }
    /// From any revision to any other, with parts bent at random: kept or computed, every figure is the same.
    void keptIsWhatWouldBeComputed() {
        std::mt19937 random(11);
        const auto any = [&](std::size_t n) { return static_cast<std::size_t>(random() % n); };
        int keptAir = 0, keptGaps = 0;
        for (int round = 0; round < 150; ++round) {
            const std::string from = std::as_const(m_demo.revisions)[any(m_demo.revisions.size())].id,
                              to = round % 2 ? from : std::as_const(m_demo.revisions)[any(m_demo.revisions.size())].id;
            Project p = m_demo;
            Part& part = p.shelf[any(p.shelf.size())];
            switch (random() % 6) {
            case 0:
                part.price += 3;
                break;
            case 1:
                part.powerW *= 1.1;
                break;
            case 2:
                part.size[any(3)].value += Length::fromMm(0.2);
                break;
            case 3:
                part.massG += 5;
                break;
            case 4:
                p.brief.listenerM = 2;
                break;
            default:
                break;
            }
            const Looked now = look(m_demo, from);
            if (!stages::evaluate(p, to))
                continue;
            const stages::Before before{m_demo, now.evaluation};
            const Looked then = look(p, to, &before);
            keptAir += !then.started.contains(Stage::Air);
            keptGaps += !then.started.contains(Stage::Gaps);
            QCOMPARE(figures(then.evaluation), figures(look(p, to).evaluation));
        }
        QVERIFY2(keptAir > 20 && keptGaps > 20, qPrintable(QStringLiteral("%1 %2").arg(keptAir).arg(keptGaps)));
    }
    void aWatchEndsIt() {
        int asked = 0;
        const auto e = stages::evaluate(m_demo, "R10", {.watch = [&](Stage) { return ++asked < 3; }});
        QVERIFY(!e);
        QVERIFY(QString::fromStdString(e.error().text()).contains("cancelled"));
        QCOMPARE(asked, 3); // nothing is asked after it said no
    }
};
} // namespace tst_stages
MD_TEST(tst_stages, StagesTest)
#include "tst_stages.moc"
