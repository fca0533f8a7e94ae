// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/verdict/marks.h"
#include "support/builds.h"
#include "support/demo.h"
#include "support/registry.h"

#include <random>

namespace tst_marks {

using namespace core;
using verdict::Basis;

/// One number, one mark: what list, tab, rail, findings and verdict say of the same thing.
class MarksTest : public QObject {
    Q_OBJECT

    /// All that is said of gaps and temperatures of a revision, against each other.
    static void agrees(const Project& p, const std::string& id, const verdict::RunAnalyses& runs) {
        const auto e = stages::evaluate(p, id);
        if (!e)
            return;
        const auto v = verdict::judge(p, *e, runs);
        Mark gaps = Mark::None;
        for (const auto& gap : e->fit.gaps) {
            gaps = worse(gaps, gap.mark);
            for (const auto& f : e->findings)
                if (f.subject == gap.id && f.station == rules::Station::Fit && f.severity != rules::Severity::Note)
                    QVERIFY2(rules::markOf(f.severity) == gap.mark,
                             (id + ": " + english(f.text) + ": " + std::string(markWord(gap.mark))).c_str());
            if (gap.mark == Mark::Open || gap.mark == Mark::Crossed) // and nothing that is not kept is left unsaid
                QVERIFY2(std::any_of(
                             e->findings.begin(), e->findings.end(),
                             [&](const auto& f) { return f.subject == gap.id && f.severity != rules::Severity::Note; }),
                         (id + ": " + gap.id).c_str());
        }
        QVERIFY(worse(verdict::markOfFit(*e), gaps) == verdict::markOfFit(*e));
        QCOMPARE(verdict::markOfStation(*e, v, rules::Station::Fit), verdict::markOfFit(*e));
        Mark heat = Mark::None;
        for (const auto& part : e->air.parts)
            heat = worse(heat, verdict::temperatureOf(*e, v, part.id).mark);
        for (const auto& t : v.targets) {
            if (t.kind == TargetKind::Temperature && e->air.part(t.subject)) {
                // The list says nothing better of the part than the brief does, and names what decides.
                const auto d = verdict::temperatureOf(*e, v, t.subject);
                QVERIFY2(worse(d.mark, t.state) == d.mark, (id + ": " + t.name).c_str());
                QVERIFY(!d.name.empty());
                if (english(d.name) == t.name)
                    QCOMPARE(d.mark, t.state);
            }
            if (t.kind == TargetKind::Gap && t.basis == Basis::Computed && t.limit == 0) {
                // Never better than the figure beside it, nor than any gap that touches or clashes; short of air is
                // another matter.
                QVERIFY2((t.state == Mark::Holds) == (t.value >= 0),
                         (id + ": " + std::to_string(t.value) + " " + std::string(markWord(t.state))).c_str());
                Mark touching = t.value < 0 ? Mark::Open : Mark::Holds;
                for (const auto& gap : e->fit.gaps)
                    if (!gap.breathing || gap.state == fit::GapState::Clash)
                        touching = worse(touching, gap.mark);
                QVERIFY(worse(t.state, touching) == t.state);
            }
            if ((t.state == Mark::Crossed || t.state == Mark::Open) && t.basis != Basis::Missing)
                QVERIFY(!v.canBeValidated);
        }
        QVERIFY(worse(verdict::markOfHeat(*e, v), heat) == verdict::markOfHeat(*e, v));
        QVERIFY(worse(verdict::markOfStation(*e, v, rules::Station::Air), verdict::markOfHeat(*e, v)) ==
                verdict::markOfStation(*e, v, rules::Station::Air));
        if (v.blockers > 0)
            QCOMPARE(verdict::markOfStation(*e, v, rules::Station::Verdict), Mark::Crossed);
    }
    static verdict::RunAnalyses analysesOf(const Project& p) {
        verdict::RunAnalyses all;
        for (const Run& run : p.runs) {
            const auto build = resolve(p, run.revision);
            all[run.id] = std::make_shared<bench::RunAnalysis>(
                bench::analyse(run, stages::benchOptions(p, build ? &*build : nullptr)));
        }
        return all;
    }

private slots:
    void theDemoAgrees() {
        const Project p = support::demoProject();
        const auto runs = analysesOf(p);
        for (const Revision& r : p.revisions) {
            agrees(p, r.id, runs);
            if (QTest::currentTestFailed())
                return;
        }
    }
    /// The same boxes with sizes, limits and places bent at random.
    void randomBoxesAgree() {
        std::mt19937 random(5);
        const auto any = [&](double a, double b) {
            return a + (b - a) * std::uniform_real_distribution<double>()(random);
        };
        for (int round = 0; round < 150; ++round) {
            Project p = round % 2 ? support::demoProject() : support::project();
            p.runs.clear();
            for (Part& part : p.shelf)
                for (auto& size : part.size)
                    if (part.kind != PartKind::Case)
                        size.value += Length::fromMm(any(-4, 4));
            if (p.brief.targets.empty()) {
                p.brief.targets.push_back({.id = "g", .name = "Gaps", .kind = TargetKind::Gap, .limit = 0});
                p.brief.targets.push_back(
                    {.id = "t", .name = "CPU", .kind = TargetKind::Temperature, .subject = "tray/cpu", .limit = 80});
            }
            for (Target& t : p.brief.targets)
                if (t.kind == TargetKind::Temperature)
                    t.limit = any(50, 110);
            agrees(p, p.revisions[random() % p.revisions.size()].id, {});
            if (QTest::currentTestFailed())
                return;
        }
    }
    /// Measured 85.6 over a cap of 80 is crossed, though its maker allows 95: the cap decides, by name.
    void theCapDecides() {
        const Project p = support::demoProject();
        const auto e = stages::evaluate(p, "R1");
        const auto v = verdict::judge(p, *e, analysesOf(p));
        const auto d = verdict::temperatureOf(*e, v, "tray/cpu");
        QCOMPARE(d.mark, Mark::Crossed);
        QCOMPARE(d.limit, 80.0);
        QCOMPARE(d.basis, Basis::Measured);
        QVERIFY(d.simulated);
        QCOMPARE(verdict::markOfHeat(*e, v), Mark::Crossed);
        QCOMPARE(verdict::markOfStation(*e, v, rules::Station::Air), Mark::Crossed);
        // Without the brief its maker's limit is what is left, and it holds or is open by its own band.
        const auto alone = verdict::temperatureOf(*e, {}, "tray/cpu");
        QCOMPARE(english(alone.name), std::string("its maker's limit"));
        QCOMPARE(alone.mark, markOf(95 - alone.value, alone.band));
    }
    /// A reserve that the brief asks for is crossed when it is surely not there, open when it may be.
    void aReserveOfTheBrief() {
        Project p = support::project();
        p.brief.targets = {{.id = "g", .name = "Gaps", .kind = TargetKind::Gap, .limit = 0}};
        const auto e = stages::evaluate(p, "R1");
        QVERIFY(e);
        double surely = 1e9; // the most that the tightest gap can be
        for (const auto& gap : e->fit.gaps)
            surely =
                std::min(surely, gap.nominal.mm() - (gap.breathing ? gap.touchMm : gap.requiredMm) + gap.worstBandMm);
        const auto stateAt = [&](double limit) {
            p.brief.targets[0].limit = limit;
            return verdict::judge(p, *e, {}).targets[0].state;
        };
        QCOMPARE(stateAt(surely + 0.1), Mark::Crossed);
        QVERIFY(stateAt(surely - 0.05) != Mark::Holds);
    }
    void nothingIsNoData() {
        Project p = support::project();
        p.revisions[0].changes = {SetCase{"box"}};
        p.brief.targets = {{.id = "g", .name = "Gaps", .kind = TargetKind::Gap, .limit = 0},
                           {.id = "n", .name = "Noise", .kind = TargetKind::Noise, .limit = 38},
                           {.id = "m", .name = "Mass", .kind = TargetKind::Mass, .limit = 9000}};
        const auto e = stages::evaluate(p, "R1");
        QVERIFY(e);
        const auto v = verdict::judge(p, *e, {});
        QCOMPARE(v.proven, 0);
        for (const auto& t : v.targets) {
            QCOMPARE(t.basis, Basis::Missing);
            QCOMPARE(t.state, Mark::None);
        }
        for (const auto station :
             {rules::Station::Fit, rules::Station::Air, rules::Station::Make, rules::Station::Verdict})
            QCOMPARE(verdict::markOfStation(*e, v, station), Mark::None);
    }
    /// A fan without a header stands still, and what it cooled is warmer; a card without its plug is cold.
    void whatFindsNoPlugDoesNotRun() {
        Project p = support::project();
        const auto with = stages::evaluate(p, "R1");
        QVERIFY(with && with->air.conditions.idle.empty());
        Project noHeader = p;
        std::find_if(noHeader.shelf.begin(), noHeader.shelf.end(), [](const Part& part) {
            return part.id == "board";
        })->gives.erase("fan");
        const auto still = stages::evaluate(noHeader, "R1");
        QVERIFY(still);
        QVERIFY(!still->air.conditions.idle.empty());
        for (const auto& fan : still->air.fans)
            if (std::find(still->air.conditions.idle.begin(), still->air.conditions.idle.end(), fan.id) !=
                still->air.conditions.idle.end())
                QCOMPARE(fan.rpm, 0.0);
        QVERIFY(still->air.part("tray/cpu")->temperatureC > with->air.part("tray/cpu")->temperatureC + 5 ||
                still->air.part("tray/cpu")->throttled);
        QVERIFY(std::any_of(still->air.notes.begin(), still->air.notes.end(),
                            [](const Sentence& n) { return english(n).find("finds no plug") != std::string::npos; }));
        Project noPlug = p;
        std::find_if(noPlug.shelf.begin(), noPlug.shelf.end(), [](const Part& part) {
            return part.id == "supply";
        })->gives.erase("card-8");
        const auto cold = stages::evaluate(noPlug, "R1");
        QVERIFY(cold->air.part("card")->temperatureC < with->air.part("card")->temperatureC - 10);
        const auto v = verdict::judge(noPlug, *cold, {});
        QVERIFY(v.blockers > 0);
        QCOMPARE(verdict::markOfStation(*cold, v, rules::Station::Verdict),
                 v.targets.empty() ? Mark::None : Mark::Crossed);
    }
};
} // namespace tst_marks
MD_TEST(tst_marks, MarksTest)
#include "tst_marks.moc"
