// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/learn.h"
#include "support/demo.h"
#include "support/registry.h"

#include <QtTest>

#include <map>

namespace tst_learn {

using namespace core;

namespace {

verdict::RunAnalyses analysed(const Project& project) {
    verdict::RunAnalyses all;
    for (const Run& run : project.runs) {
        const auto build = resolve(project, run.revision);
        if (!build)
            qFatal("%s", build.error().text().c_str());
        all[run.id] = std::make_shared<bench::RunAnalysis>(bench::analyse(run, stages::benchOptions(project, &*build)));
    }
    return all;
}

/// What was logged of how the fans ran goes before their curves.
air::Compiled compiledAs(const air::Observation& o) {
    air::Compiled compiled = air::compile(o.build, o.conditions);
    for (const auto& fan : compiled.fans)
        if (const auto logged = o.fanRpm.find(fan.mount); logged != o.fanRpm.end())
            compiled.network.fans[fan.fan].heldShare = logged->second / compiled.network.fans[fan.fan].ratedRpm;
    return compiled;
}

struct Told {
    double before = 0, after = 0; ///< sums of squares
    int inside = 0, all = 0;
    [[nodiscard]] QString words() const {
        return QStringLiteral("%1 K, was %2 K; %3 of %4 in their bands")
            .arg(std::sqrt(after / all))
            .arg(std::sqrt(before / all))
            .arg(inside)
            .arg(all);
    }
};

/// Learned on one half, what the model says of a run of the other against what was logged.
void tell(Told& told, const air::Observation& o, const air::Calibration& c) {
    const air::Compiled compiled = compiledAs(o);
    const air::Solution raw = air::solve(compiled.network);
    air::Prediction was = air::summarise(o.build, o.conditions, compiled, raw);
    was.influences = air::influencesOf(o.build, compiled, raw);
    const std::vector<double> bands = air::bandsAfter(was, c);
    const air::Prediction now =
        air::summarise(o.build, o.conditions, compiled, air::solve(air::learned(o.build, compiled, c)));
    constexpr double readingK = 1.0; // as calibrate() takes a reading to be good to
    for (const auto& reading : o.readings)
        for (std::size_t i = 0; i < was.parts.size(); ++i)
            if (was.parts[i].id == reading.mount) {
                told.before += std::pow(was.parts[i].temperatureC - reading.temperatureC, 2);
                const double off = now.parts[i].temperatureC - reading.temperatureC;
                told.after += off * off;
                told.inside += std::abs(off) <= std::hypot(bands[i], 1.96 * readingK) ? 1 : 0;
                ++told.all;
            }
}

} // namespace

/// The demo's runs are of a machine that differs from its sheets, analysed from its logs as anybody's are.
class LearnTest : public QObject {
    Q_OBJECT
private slots:
    /// Learned on half of them, the others are told at least twice as well, and nine of ten lie in their bands;
    /// whichever half it is.
    void halfOfTheDemosRunsTellsTheOthers() {
        const Project demo = support::demoProject();
        const auto all = advise::observationsOf(demo, analysed(demo));
        QVERIFY2(all.size() >= 12, qPrintable(QString::number(all.size())));
        const std::map<QString, std::function<bool(std::size_t)>> halves{
            {"every second", [](std::size_t i) { return i % 2 == 0; }},
            {"the others", [](std::size_t i) { return i % 2 == 1; }},
            {"the first", [&](std::size_t i) { return i < all.size() / 2; }}, // of other coolers and grilles
        };
        for (const auto& [name, learnedFrom] : halves) {
            std::vector<air::Observation> half;
            for (std::size_t i = 0; i < all.size(); ++i)
                if (learnedFrom(i))
                    half.push_back(all[i]);
            const air::Calibration c = air::calibrate(half);
            QVERIFY2(c.contradicting.empty(), qPrintable(name));
            Told told;
            for (std::size_t i = 0; i < all.size(); ++i)
                if (!learnedFrom(i))
                    tell(told, all[i], c);
            QVERIFY2(2 * std::sqrt(told.after) < std::sqrt(told.before), qPrintable(name + ": " + told.words()));
            QVERIFY2(told.inside >= 0.9 * told.all, qPrintable(name + ": " + told.words()));
            qInfo("%s: %s", qPrintable(name), qPrintable(told.words()));
        }
    }
    /// As the sheets have it the model is wrong about this machine, and its bands know.
    void theSheetsAreOff() {
        const Project demo = support::demoProject();
        const auto c = air::calibrate(advise::observationsOf(demo, analysed(demo)));
        QVERIFY2(c.rmsBeforeK > 1.5 && c.rmsAfterK < 0.6,
                 qPrintable(QStringLiteral("%1, %2").arg(c.rmsBeforeK).arg(c.rmsAfterK)));
        int inside = 0;
        for (const auto& compared : c.compared)
            inside += std::abs(compared.beforeC - compared.measuredC) <= compared.bandBeforeK ? 1 : 0;
        QVERIFY2(inside >= 0.9 * static_cast<double>(c.compared.size()), qPrintable(QString::number(inside)));
    }
};

} // namespace tst_learn
MD_TEST(tst_learn, LearnTest)
#include "tst_learn.moc"
