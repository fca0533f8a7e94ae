// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/selection.h"
#include "app/stations/bench/live_trace.h"
#include "app/ui/shell/working_panel.h"
#include "core/model/choices.h"
#include "support/builds.h"
#include "support/painted_words.h"
#include "support/registry.h"
#include "support/window.h"

#include <QRegularExpression>

#include <random>
#include <set>

namespace tst_things {

// What a finding is about: "Show" leads to a thing that can be explained, whatever the project.
namespace {

core::Project withoutRuns(core::Project p) {
    p.runs.clear();
    return p;
}

/// A project with its last revision bent at random: parts out, others in, plugs and sizes changed, stood on another
/// side.
core::Project bent(core::Project p, std::mt19937& random) {
    const auto any = [&](std::size_t n) { return static_cast<std::size_t>(random() % n); };
    for (core::Part& part : p.shelf)
        switch (random() % 9) {
        case 0:
            part.needs.clear();
            break;
        case 1:
            part.gives.clear();
            break;
        case 2:
            part.powerW *= 6;
            break;
        case 3:
            part.mounts.size() > 1 ? part.mounts.pop_back() : void();
            break;
        case 4:
            part.size[any(3)].value += core::Length::fromMm(static_cast<double>(any(30)));
            break;
        case 5:
            part.ports.clear();
            break;
        default:
            break;
        }
    core::Revision next{.id = "bent", .parent = p.revisions.back().id};
    const core::Revision& last = p.revisions.back();
    const auto build = core::resolve(p, last.id);
    if (!build)
        return p;
    for (int k = 0; k < 3; ++k) {
        const core::Placed& at = build->placed[any(build->placed.size())];
        switch (random() % 5) {
        case 0:
            core::addTo(next.changes, core::RemovePart{at.mount});
            break;
        case 1:
            core::addTo(next.changes, core::SwapPart{at.mount, p.shelf[any(p.shelf.size())].id});
            break;
        case 2:
            core::addTo(next.changes, core::Orient{static_cast<core::Side>(random() % 6)});
            break;
        case 3:
            core::addTo(next.changes, core::MovePart{at.mount, static_cast<core::Axis>(random() % 3),
                                                     core::Length::fromMm(static_cast<double>(any(20)) - 10)});
            break;
        default:
            core::addTo(next.changes, core::SetFeet{static_cast<double>(any(12))});
            break;
        }
    }
    p.revisions.push_back(next);
    return p;
}

} // namespace

class ThingsTest : public QObject {
    Q_OBJECT
    std::set<std::size_t> m_kinds; ///< of things met on the sheets
    std::set<std::string> m_rules; ///< met on the way, so that the property covers something

    void everyFindingLeadsSomewhere(const core::Project& project) {
        app::Document document;
        document.reset(project, {});
        for (const core::Revision& r : document.project().revisions) {
            document.selectRevision(r.id);
            const app::View v{document, core::Show()};
            if (!v.evaluation())
                continue;
            std::set<std::string> ids;
            for (const auto& f : v.evaluation()->findings) {
                const std::string where = r.id + ": " + f.id + ": " + core::english(f.text);
                m_rules.insert(f.rule);
                QVERIFY2(ids.insert(f.id).second, where.c_str());
                const core::Thing& thing = f.about;
                QVERIFY2(!core::isNothing(thing), where.c_str());
                QCOMPARE(core::thingFrom(core::textOf(thing)).value_or(core::Thing{}), thing);
                const auto working = app::workingOf(v, thing);
                QVERIFY2(working, qPrintable(QString::fromStdString(where) + " leads to " + support::text(thing)));
                QVERIFY2(!working->title.empty() && !working->sentence.empty() && !working->method.empty(),
                         where.c_str());
                QVERIFY2(std::any_of(working->found.begin(), working->found.end(),
                                     [&](const auto& found) {
                                         return found.text == f.text && found.mark == core::rules::markOf(f.severity);
                                     }),
                         where.c_str());
            }
        }
    }

    /// All sheets of a revision, with every list of Fit.
    static std::vector<app::Hit> hitsOf(const app::View& v) {
        const app::Theme theme = app::Theme::light();
        app::FitAnswers answers;
        const auto& e = *v.evaluation();
        answers.measure = v.document.measures();
        answers.rooms = v.document.rooms();
        answers.ways = v.document.ways();
        if (const auto* gap = app::gapToMend(e.fit, {}))
            answers.mends = v.document.mends(gap->ref);
        std::vector<std::function<void(app::Canvas&, const QRectF&)>> sheets{
            [&](app::Canvas& c, const QRectF& r) { app::paintBrief(c, r, v); },
            [&](app::Canvas& c, const QRectF& r) { app::paintAir(c, r, v); },
            [&](app::Canvas& c, const QRectF& r) { app::paintMake(c, r, v); },
            [&](app::Canvas& c, const QRectF& r) { app::paintBench(c, r, v, {}); },
            [&](app::Canvas& c, const QRectF& r) { app::paintVerdict(c, r, v); }};
        for (int list = 0; list < 5; ++list)
            sheets.push_back([&v, &answers, list](app::Canvas& c, const QRectF& r) {
                app::paintFit(c, r, v, {.list = static_cast<app::FitLook::List>(list), .answers = &answers});
            });
        std::vector<app::Hit> hits;
        for (const auto& paint : sheets) {
            QImage image(900, 760, QImage::Format_ARGB32_Premultiplied);
            QPainter p(&image);
            app::ListLook lists;
            app::Canvas c(p, theme);
            c.lists = &lists;
            paint(c, {8, 8, 884, 744});
            hits.insert(hits.end(), c.hits.begin(), c.hits.end());
        }
        return hits;
    }
    /// Every place of every sheet stands for something that can be selected and explained, or says what it does.
    void everyPlaceLeadsSomewhere(const core::Project& project, bool allRevisions) {
        app::Document document;
        document.reset(project, {});
        for (const core::Revision& r : document.project().revisions) {
            if (!allRevisions && r.id != document.project().revisions.back().id)
                continue;
            document.selectRevision(r.id);
            const app::View v{document, core::Show()};
            if (!v.evaluation())
                continue;
            support::Things done;
            for (const app::Hit& hit : hitsOf(v)) {
                const QString where = QString::fromStdString(r.id) + ": " + hit.name + ": " + support::text(hit.thing);
                QVERIFY2(hit.isFigure() || hit.handle.act != app::Act::None, qPrintable(where));
                if (!hit.isFigure() || done.contains(hit.thing))
                    continue;
                done.insert(hit.thing);
                QCOMPARE(core::thingFrom(core::textOf(hit.thing)).value_or(core::Thing{}), hit.thing);
                app::Selection selection;
                selection.select(hit.thing);
                const auto working = app::workingOf(v, selection.thing());
                QVERIFY2(working && !working->title.empty() && working->thing == hit.thing, qPrintable(where));
                m_kinds.insert(hit.thing.index());
            }
        }
    }

private slots:
    void placesOfTheDemoAndTheExamples() {
        everyPlaceLeadsSomewhere(support::demoProject(), true);
        everyPlaceLeadsSomewhere(store::openProject(support::sourcePath("examples/hand-written"))->project, true);
        QVERIFY2(m_kinds.size() >= 14, qPrintable(QString::number(m_kinds.size())));
    }
    void placesOfRandomProjects() {
        std::mt19937 random(77);
        const core::Project demo = withoutRuns(support::demoProject()), box = support::project();
        for (int round = 0; round < 16 && !QTest::currentTestFailed(); ++round)
            everyPlaceLeadsSomewhere(bent(round % 2 ? demo : box, random), false);
    }
    /// Two equal fans are two things, with names that a person can tell apart everywhere they are named.
    void equalPartsHaveTwoNames() {
        app::Document document;
        document.reset(support::demoProject(), {});
        for (const core::Revision& r : document.project().revisions) {
            document.selectRevision(r.id);
            const app::View v{document, core::Show()};
            std::map<QString, core::Thing> named;
            for (const app::Hit& hit : hitsOf(v)) {
                if (!support::stands<core::PartRef>(hit) && !support::stands<core::FanRef>(hit))
                    continue;
                const auto working = app::workingOf(v, hit.thing);
                const QString name = QString::number(hit.thing.index()) + v.words(working->title);
                const auto [at, isNew] = named.try_emplace(name, hit.thing);
                QVERIFY2(isNew || at->second == hit.thing, qPrintable(QString::fromStdString(r.id) + ": " + name));
            }
            std::set<std::string> names;
            for (const core::Placed& p : v.evaluation()->build.placed)
                QVERIFY2(names.insert(p.name).second, p.name.c_str());
        }
    }
    void initTestCase() {
        QStandardPaths::setTestModeEnabled(true);
        app::loadFonts();
    }

    void findingsOfTheDemoAndTheExamples() {
        everyFindingLeadsSomewhere(support::demoProject());
        everyFindingLeadsSomewhere(store::openProject(support::sourcePath("examples/hand-written"))->project);
        QVERIFY(m_rules.size() > 10);
    }
    void findingsOfRandomProjects() {
        std::mt19937 random(31);
        const core::Project demo = withoutRuns(support::demoProject()), box = support::project();
        for (int round = 0; round < 60; ++round) {
            everyFindingLeadsSomewhere(bent(round % 2 ? demo : box, random));
            if (QTest::currentTestFailed())
                return;
        }
        QVERIFY2(m_rules.size() >= 35, qPrintable(QString::number(m_rules.size())));
    }
    /// What is not there has no place: the finding itself is shown then.
    void whatIsMissingIsShownAsItself() {
        core::Project p = support::project();
        core::addTo(p.revisions[0].changes, core::RemovePart{"tray/memory"});
        app::Document d;
        d.reset(p, {});
        const app::View v{d, core::Show()};
        const auto& all = v.evaluation()->findings;
        const auto missing =
            std::find_if(all.begin(), all.end(), [](const auto& f) { return f.rule == "memory-missing"; });
        QVERIFY(missing != all.end());
        const auto w = app::workingOf(v, missing->about);
        QCOMPARE(v.words(w->title), QStringLiteral("Blocker"));
        QCOMPARE(w->found.front().remedies, missing->remedies);
        QVERIFY(!app::workingOf(v, core::TopicRef{"none"}));
    }
    /// By hand: each row of the list of findings, clicked and by Enter, ends on its station with a working that tells
    /// it.
    void showInTheWindow() {
        support::Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        auto* sheet = w.window->findChild<app::WorkingSheet*>();
        for (const char* revision : {"R1", "R3", "R9", "R10"}) {
            w.document().selectRevision(revision);
            const auto findings = w.document().result().evaluation->findings;
            QVERIFY(!findings.empty());
            for (const auto& f : findings) {
                w.window->showFinding(f);
                QCOMPARE(w.window->station(), static_cast<int>(f.station));
                QVERIFY2(sheet->working(), f.id.c_str());
                const auto words = sheet->working()->found;
                QVERIFY2(
                    std::any_of(words.begin(), words.end(), [&](const auto& found) { return found.text == f.text; }),
                    f.id.c_str());
                QVERIFY(sheet->accessibleDescription().contains(w.context.view().words(sheet->working()->title)));
            }
        }
    }

    // ---- words on the stages that a run or a verdict rests on ----

    void benchSaysWhatARunIs_data() {
        QTest::addColumn<QString>("revision");
        QTest::addColumn<QString>("words");
        QTest::newRow("cut off") << "R6"
                                 << "stopped early";
        QTest::newRow("all of them played") << "R10"
                                            << "runs, simulated";
    }
    void benchSaysWhatARunIs() {
        QFETCH(QString, revision);
        QFETCH(QString, words);
        app::Document d;
        d.reset(support::demoProject(), {});
        d.selectRevision(revision.toStdString());
        const app::View v{d, core::Show()};
        const QString all =
            support::paintedWords(
                [&](app::Canvas& c, const QRectF& r) { app::paintBench(c, r, v, d.project().runs.front().id); },
                {380, 640})
                .join('\n');
        QVERIFY2(all.contains(words), qPrintable(all));
    }
    /// A run whose fan was turned in the middle is told as disturbed, not as one that was too short.
    void aDisturbedRunIsNotStoppedEarly() {
        core::Project p = support::demoProject();
        core::Run& run = p.runs.front();
        auto samples = std::make_shared<core::Samples>(*run.samples);
        const double middle = samples->timeS[samples->timeS.size() / 2];
        for (core::Channel& c : samples->channels)
            if (c.kind == core::ChannelKind::Temperature && c.name != "room_c")
                for (std::size_t i = 0; i < c.values.size(); ++i)
                    if (samples->timeS[i] > middle)
                        c.values[i] -= 8 * -std::expm1(-(samples->timeS[i] - middle) / 30);
        run.samples = samples;
        app::Document d;
        d.reset(p, {});
        d.selectRevision(run.revision);
        const app::View v{d, core::Show()};
        const QStringList words = support::paintedWords(
            [&](app::Canvas& c, const QRectF& r) { app::paintBench(c, r, v, run.id); }, {380, 640});
        QVERIFY2(words.contains("disturbed"), qPrintable(words.join('\n')));
        QVERIFY2(!words.contains("stopped early"), qPrintable(words.join('\n')));
    }
    void aVerdictOfASimulationSaysSo_data() {
        QTest::addColumn<bool>("simulation");
        QTest::newRow("a simulation") << true;
        QTest::newRow("a real box") << false;
    }
    void aVerdictOfASimulationSaysSo() {
        QFETCH(bool, simulation);
        core::Project p = support::demoProject();
        p.simulation = simulation;
        app::Document d;
        d.reset(p, {});
        d.selectRevision("R10");
        const app::View v{d, core::Show()};
        const QStringList words =
            support::paintedWords([&](app::Canvas& c, const QRectF& r) { app::paintVerdict(c, r, v); });
        QCOMPARE(words.filter("A simulation: simulated readings count.").size(), simulation ? 1 : 0);
    }

    /// While a recording runs: each temperature by its name, the caps that apply to it and no others, the noise with
    /// its cap.
    void liveTracesShowTheirCaps() {
        core::Project p = support::demoProject();
        app::Document d;
        d.reset(p, {});
        d.selectRevision("R10");
        core::Samples live;
        for (int i = 0; i < 600; ++i)
            live.timeS.push_back(i);
        const auto channel = [&](const char* name, core::ChannelKind kind, const std::string& subject, double from,
                                 double to) {
            core::Channel ch{.name = name, .kind = kind, .subject = subject};
            for (int i = 0; i < 600; ++i)
                ch.values.push_back(i % 97 == 5 ? std::nan("") : from + (to - from) * i / 600);
            live.channels.push_back(ch);
        };
        std::string capped;
        for (const core::Target& t : p.brief.targets)
            if (t.kind == core::TargetKind::Temperature)
                capped = t.subject;
        QVERIFY(!capped.empty());
        const auto words = [&](const core::Show& show = core::Show()) {
            const app::View v{d, show};
            return support::paintedWords(
                [&](app::Canvas& c, const QRectF& r) { app::paintLiveTraces(c, r, v, live, "R10"); }, {460, 380});
        };
        channel("nvme", core::ChannelKind::Temperature, "", 40, 50);
        QVERIFY2(words().filter("cap").isEmpty(), qPrintable(words().join('|')));
        channel("cpu", core::ChannelKind::Temperature, capped, 30, 80);
        QCOMPARE(words().filter("cap").size(), 1);
        channel("level", core::ChannelKind::Level, "", 30, 38);
        QCOMPARE(words().filter("cap").size(), 2);
        QVERIFY2(words().contains("nvme") && words().contains("10.0 min"), qPrintable(words().join('|')));
        QVERIFY2(words(core::Show({.fahrenheit = true})).contains(QStringLiteral("°F")), qPrintable(words().join('|')));
    }

    /// Who reads in inch, °F and CFM is told so everywhere: no sheet writes a millimetre, a degree Celsius or a cubic
    /// metre an hour, none says a unit twice, and Working's sentences follow.
    void oneUnitForEachQuantity() {
        app::Document d;
        d.reset(support::demoProject(), {});
        const core::Show american({.fahrenheit = true, .cfm = true, .inch = true});
        static const QRegularExpression metric(QStringLiteral(
            "[0-9.][ \\x{00a0}]?(mm|\u00b0C|m\u00b3/h)(?![\u00b3\u00b2/A-Za-z])|^(mm|\u00b0C|m\u00b3/h)$")),
            twice(QStringLiteral("\\b(in in|CFM CFM)\\b"));
        for (const char* revision : {"R1", "R3", "R10", "R11"}) {
            d.selectRevision(revision);
            const app::View v{d, american};
            const std::function<void(app::Canvas&, const QRectF&)> sheets[] = {
                [&](app::Canvas& c, const QRectF& r) { app::paintBrief(c, r, v); },
                [&](app::Canvas& c, const QRectF& r) { app::paintFit(c, r, v, {}); },
                [&](app::Canvas& c, const QRectF& r) { app::paintAir(c, r, v); },
                [&](app::Canvas& c, const QRectF& r) { app::paintMake(c, r, v); },
                [&](app::Canvas& c, const QRectF& r) { app::paintBench(c, r, v, "r10-both"); },
                [&](app::Canvas& c, const QRectF& r) { app::paintVerdict(c, r, v); }};
            for (std::size_t k = 0; k < std::size(sheets); ++k)
                for (const QString& words : support::paintedWords(sheets[k], {900, 760})) {
                    if (k == 3 && words.contains(" x ")) // screws are called by their standard sizes
                        continue;
                    QVERIFY2(!metric.match(words).hasMatch() && !twice.match(words).hasMatch(),
                             qPrintable(QStringLiteral("%1, sheet %2: %3").arg(revision).arg(k + 1).arg(words)));
                }
            for (const auto& finding : v.evaluation()->findings)
                QVERIFY2(!metric.match(v.words(finding.text)).hasMatch(), core::english(finding.text).c_str());
        }
    }
};
} // namespace tst_things
MD_TEST(tst_things, ThingsTest)
#include "tst_things.moc"
