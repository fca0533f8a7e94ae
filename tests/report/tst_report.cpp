// SPDX-License-Identifier: GPL-3.0-or-later
#include "report/html_report.h"
#include "support/demo.h"

#include <QXmlStreamReader>

using namespace core;

class ReportTest : public QObject {
    Q_OBJECT
    Project m_project;
    std::vector<verdict::Evaluation> m_evaluations;
    verdict::RunAnalyses m_runs;

private slots:
    void initTestCase() {
        m_project = support::demoProject();
        for (const Revision& r : m_project.revisions)
            m_evaluations.push_back(*verdict::evaluate(m_project, r.id));
        for (const Run& run : m_project.runs)
            m_runs[run.id] = std::make_shared<bench::RunAnalysis>(bench::analyse(run, verdict::benchOptions(m_project, nullptr)));
    }

    void saysWhatTheProgramSays() {
        const QString html = QString::fromStdString(report::html(m_project, m_evaluations, m_runs, "R10", {}));
        for (const char* words : {"Dig-tent box", "R10", "CPU, stitch + mesh", "Noise at 1 m", "measured", "r10 both", "Cooler L47"})
            QVERIFY2(html.contains(QString::fromUtf8(words)), words);
        const auto& e = *std::find_if(m_evaluations.begin(), m_evaluations.end(), [](const auto& x) { return x.build.revision == "R10"; });
        QVERIFY(html.contains(QString::fromStdString(Show().number(Quantity::Length, e.fit.gaps.front().nominal.mm()))));
    }
    void unitsFollowTheReader() {
        const QString plain = QString::fromStdString(report::html(m_project, m_evaluations, m_runs, "R10", {}));
        const QString other = QString::fromStdString(report::html(m_project, m_evaluations, m_runs, "R10", Show({.fahrenheit = true})));
        QVERIFY(plain.contains(QStringLiteral("34.0\u00a0°C")));
        QVERIFY(other.contains(QStringLiteral("93.2\u00a0°F")));
        const QString runs = other.mid(other.indexOf("Runs of R10"), other.indexOf("Making and assembly") - other.indexOf("Runs of R10"));
        QVERIFY(runs.contains(QStringLiteral("°F")));
        QVERIFY2(!runs.contains(QStringLiteral("°C")), "the readings of the runs follow too");
    }
    void namesCannotBreakThePage() {
        Project p = m_project;
        p.name = "<script>alert(1)</script>";
        p.brief.purpose = "a & b < c";
        const QString html = QString::fromStdString(report::html(p, m_evaluations, m_runs, "R10", {}));
        QVERIFY(!html.contains("<script>"));
        QVERIFY(html.contains("a &amp; b &lt; c"));
    }
    void picturesGoInWhole() {
        const QString html = QString::fromStdString(report::html(m_project, m_evaluations, m_runs, "R10", {}, {{"Fit", "<svg id=\"here\"></svg>"}}));
        QVERIFY(html.contains("<svg id=\"here\"></svg>"));
    }
    void everyRevisionHasAReport() {
        for (const auto& e : m_evaluations)
            QVERIFY(report::html(m_project, m_evaluations, m_runs, e.build.revision, {}).size() > 3000);
    }
};
QTEST_APPLESS_MAIN(ReportTest)
#include "tst_report.moc"
