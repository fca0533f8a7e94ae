// SPDX-License-Identifier: GPL-3.0-or-later
#include "report/drawing_export.h"
#include "report/html_report.h"
#include "support/demo.h"
#include "support/registry.h"

#include <QXmlStreamReader>
#include <QtTest>

namespace tst_report {

using namespace core;

class ReportTest : public QObject {
    Q_OBJECT
    Project m_project;
    std::vector<stages::Evaluation> m_all;
    std::vector<const stages::Evaluation*> m_evaluations;
    verdict::RunAnalyses m_runs;

private slots:
    void initTestCase() {
        m_project = support::demoProject();
        for (const Revision& r : m_project.revisions)
            m_all.push_back(*stages::evaluate(m_project, r.id));
        for (const auto& e : m_all)
            m_evaluations.push_back(&e);
        for (const Run& run : m_project.runs)
            m_runs[run.id] =
                std::make_shared<bench::RunAnalysis>(bench::analyse(run, stages::benchOptions(m_project, nullptr)));
    }

    /// Sections at true size: the check bar is 50 mm in every format, and the case as wide as it is.
    void sectionsAtTrueSize() {
        const auto& build = m_all.front().build;
        const auto drawing = fit::sectionDrawing(build, {42, 150, 120});
        const auto widthOf = [&](const std::string& layer, std::size_t n) {
            std::size_t k = 0;
            for (const auto& line : drawing.lines)
                if (line.layer == layer && k++ == n) {
                    const auto [lo, hi] = std::minmax_element(line.points.begin(), line.points.end());
                    return (*hi)[0] - (*lo)[0];
                }
            return 0.0;
        };
        QCOMPARE(widthOf("check", 0), 50.0);
        QCOMPARE_LE(std::abs(widthOf("case", 0) - build.insideAt[0].mm()), 1e-9);
        QCOMPARE_LE(std::abs(widthOf("case", 2) - build.insideAt[1].mm()), 1e-9);
        const auto fitted = report::layoutOn(drawing, report::Paper::A4, std::nullopt);
        QVERIFY(fitted);
        for (const double scale : {1.0, fitted->scale}) {
            const QString dxf = QString::fromStdString(report::drawingDxf(drawing, scale));
            QVERIFY(dxf.startsWith("0\nSECTION") && dxf.endsWith("0\nEOF\n"));
            QCOMPARE(dxf.count("\n0\nPOLYLINE\n"), static_cast<qsizetype>(drawing.lines.size()));
            QCOMPARE(dxf.count("\nSEQEND\n"), dxf.count("\nPOLYLINE\n"));
            // Codes and values alternate: an even number of lines, every code a number.
            const QStringList lines = dxf.split('\n');
            QCOMPARE((lines.size() - 1) % 2, 0);
            for (qsizetype i = 0; i + 1 < lines.size(); i += 2) {
                bool isNumber = false;
                lines[i].toInt(&isNumber);
                QVERIFY2(isNumber, qPrintable(lines[i]));
            }
            const qsizetype bar = dxf.indexOf("8\ncheck\n10\n");
            QVERIFY(bar > 0);
            QCOMPARE(dxf.mid(bar + 11).section('\n', 0, 0).toDouble(), QString::number(10 * scale, 'f', 4).toDouble());
            const QString svg = QString::fromStdString(report::drawingSvg(drawing, scale));
            QVERIFY(svg.contains(QStringLiteral("width=\"%1mm\"").arg(drawing.sizeMm[0] * scale, 0, 'f', 4)));
            QXmlStreamReader xml(svg);
            int paths = 0;
            while (!xml.atEnd())
                paths +=
                    xml.readNext() == QXmlStreamReader::StartElement && xml.name() == QLatin1String("path") ? 1 : 0;
            QVERIFY2(!xml.hasError(), qPrintable(xml.errorString()));
            QCOMPARE(paths, static_cast<int>(drawing.lines.size()));
        }
        QVERIFY(fitted->scale < 1);
        // In the middle of the sheet, between borders of 10 mm.
        for (std::size_t i = 0; i < 2; ++i) {
            QVERIFY(fitted->atMm[i] >= 10 - 1e-9);
            QCOMPARE_LE(std::abs(2 * fitted->atMm[i] + drawing.sizeMm[i] * fitted->scale - fitted->sheetMm[i]), 1e-9);
        }
        const auto tooLarge = report::layoutOn(drawing, report::Paper::A4, 1.0);
        QVERIFY(!tooLarge);
        // What the remedy offers is taken.
        const QString remedy = QString::fromStdString(tooLarge.error().remedy);
        const double offered = remedy.section("at most ", 1).toDouble();
        QVERIFY2(offered > 0, qPrintable(remedy));
        QVERIFY(report::layoutOn(drawing, report::Paper::A4, offered));
        QVERIFY(!report::layoutOn(drawing, report::Paper::Own, -1.0));
        QVERIFY(!report::drawingFile(drawing, *fitted, "sections.bmp"));
        QVERIFY(report::drawingDxf({.sizeMm = {10, 10}, .texts = {{{0, 0}, 3, "Größe µ"}}})
                    .find("Gr\\U+00F6\\U+00DFe \\U+00B5") != std::string::npos);
    }

    void saysWhatTheProgramSays() {
        const QString html = QString::fromStdString(report::html(m_project, m_evaluations, m_runs, "R10", {}));
        for (const char* words :
             {"Dig-tent box", "R10", "CPU, stitch + mesh", "Noise at 1 m", "measured", "r10 both", "Cooler L47"})
            QVERIFY2(html.contains(QString::fromUtf8(words)), words);
        const auto& e =
            *std::find_if(m_all.begin(), m_all.end(), [](const auto& x) { return x.build.revision == "R10"; });
        QVERIFY(
            html.contains(QString::fromStdString(Show().number(Quantity::Length, e.fit.gaps.front().nominal.mm()))));
    }
    /// R12 has sizes that are negative in their chain: one sign stands before each, and states are said in words.
    void oneSignBeforeANumber() {
        const QString html = QString::fromStdString(report::html(m_project, m_evaluations, m_runs, "R12", {}));
        QVERIFY(!html.contains(QStringLiteral("+\u2212")));
        QVERIFY(!html.contains(QStringLiteral("\u2212\u2212")));
        QVERIFY(!html.contains(QStringLiteral(">starved<")));
        QVERIFY(html.contains(QStringLiteral("short of air")));
        QCOMPARE(html.count(QStringLiteral("<thead>")), 8);
        QCOMPARE(html.count(QStringLiteral("</tr></thead>")), 8); // heads come again on each page
    }
    void unitsFollowTheReader() {
        const QString plain = QString::fromStdString(report::html(m_project, m_evaluations, m_runs, "R10", {}));
        const QString other = QString::fromStdString(
            report::html(m_project, m_evaluations, m_runs, "R10", Reader(Show({.fahrenheit = true}))));
        QVERIFY(plain.contains(QStringLiteral("34.0\u00a0°C")));
        QVERIFY(other.contains(QStringLiteral("93.2\u00a0°F")));
        const QString runs = other.mid(other.indexOf("Runs of R10"),
                                       other.indexOf("Making and assembly") - other.indexOf("Runs of R10"));
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
        const QString html = QString::fromStdString(
            report::html(m_project, m_evaluations, m_runs, "R10", {}, {{"Fit", "<svg id=\"here\"></svg>"}}));
        QVERIFY(html.contains("<svg id=\"here\"></svg>"));
    }
    void everyRevisionHasAReport() {
        for (const auto& e : m_all)
            QVERIFY(report::html(m_project, m_evaluations, m_runs, e.build.revision, {}).size() > 3000);
    }
};

} // namespace tst_report
MD_TEST(tst_report, ReportTest)
#include "tst_report.moc"
