// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"

#include "app/stations/bench/bench_page.h"
#include "app/stations/fit/fit_page.h"
#include "app/ui/dialogs/measure_dialog.h"
#include "app/ui/dialogs/sections_dialog.h"
#include "app/ui/report_pictures.h"
#include "core/base/text.h"
#include "report/html_report.h"
#include "store/files.h"

#include <QBuffer>
#include <QFileDialog>
#include <QFileInfo>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QPrintDialog>
#include <QPrinter>
#include <QTextDocument>

namespace app {

bool MainWindow::writeReport(const QString& path) {
    startReport(path);
    m_reportJob->wait();
    return m_reportWell;
}

/// Everything the report needs is a snapshot; what was not analysed yet is analysed beside the window.
void MainWindow::startReport(const QString& path) {
    struct Outcome {
        core::Result<void> written;
    };
    auto outcome = std::make_shared<Outcome>();
    m_reportWell = false;
    Document& document = m_context.document;
    m_reportJob = new BackgroundJob(
        document.workers(),
        [outcome, path, kept = document.results().kept(), revision = document.revision(), reader = m_context.reader(),
         pictures = reportPictures(m_context)](const BackgroundJob::Progress& progress) {
            results::Results results(kept);
            const core::Project& project = results.project();
            double done = 0;
            const double all = static_cast<double>(project.runs.size() + project.revisions.size() + 1);
            const auto goesOn = [&] { return progress(++done / all); };
            outcome->written = core::problem(path.toStdString(), "stopped", "");
            for (const core::Run& run : project.runs) {
                (void)results.analysis(run);
                if (!goesOn())
                    return;
            }
            const auto evaluations = results.evaluations(goesOn);
            if (!goesOn())
                return;
            outcome->written =
                store::writeWhole(path, QByteArray::fromStdString(report::html(project, evaluations, results.analyses(),
                                                                               revision, reader, pictures)));
        },
        [this, outcome, path] {
            m_reportWell = outcome->written.has_value();
            if (m_reportWell)
                tell(tr("Report written"), path);
            else if (outcome->written.error().what != "stopped")
                tell(outcome->written.error());
        });
    showProgress(m_reportJob, tr("Writing the report"));
}

void MainWindow::askReport() {
    const QString path = QFileDialog::getSaveFileName(
        this, tr("Write report"), qs(core::fileNameFrom(m_context.document.revision())) + QStringLiteral(".html"),
        tr("Web page (*.html)"));
    if (!path.isEmpty())
        startReport(path);
}

namespace {
/// Asks for a printer; a file that was chosen there instead is answered as its path.
struct Paper {
    bool wanted = false;
    QString file;
};
Paper askForPaper(QPrinter& printer, QWidget* parent) {
    QPrintDialog dialog(&printer, parent);
    if (dialog.exec() != QDialog::Accepted)
        return {};
    return {true, printer.outputFormat() == QPrinter::PdfFormat ? printer.outputFileName() : QString()};
}

/// A PDF is made in memory and put on the disk whole, like every file.
core::Result<void> pdfTo(const QString& path, const std::function<bool(QPdfWriter&)>& draw) {
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter pdf(&buffer);
        pdf.setResolution(1200);
        if (!draw(pdf))
            return core::problem(path.toStdString(), "cannot be drawn", "another size of window or page");
    }
    return store::writeWhole(path, buffer.data());
}
} // namespace

/// The sheet as it lies on the stage, in the light theme, scaled to the page.
bool MainWindow::paintSheetOn(QPagedPaintDevice& device, double dotsPerInch) {
    QPainter painter;
    if (!painter.begin(&device))
        return false;
    const QSizeF sheet(1000, 680);
    const QRectF area = device.pageLayout().paintRectPixels(static_cast<int>(dotsPerInch));
    painter.setRenderHint(QPainter::Antialiasing);
    const double scale = std::min(area.width() / sheet.width(), area.height() / sheet.height());
    painter.scale(scale, scale);
    const Theme screen = std::exchange(m_context.theme, Theme::light());
    m_bench->refreshTheme();
    Canvas canvas(painter, m_context.theme, m_context.selection.thing());
    page(station())->paintInside(canvas, QRectF(QPointF(4, 4), sheet - QSizeF(8, 8)));
    m_context.theme = screen;
    m_bench->refreshTheme();
    return painter.end();
}

bool MainWindow::printSheet(const QString& pdfPath) {
    QString path = pdfPath;
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageOrientation(QPageLayout::Landscape);
    if (path.isEmpty()) {
        const Paper paper = askForPaper(printer, this);
        if (!paper.wanted)
            return false;
        path = paper.file;
    }
    const auto printed =
        !path.isEmpty() ? pdfTo(path,
                                [&](QPdfWriter& pdf) {
                                    pdf.setPageLayout(printer.pageLayout());
                                    return paintSheetOn(pdf, pdf.resolution());
                                })
        : paintSheetOn(printer, printer.resolution())
            ? core::Result<void>{}
            : core::problem(tr("Not printed").toStdString(), "the printer does not take it", "check the printer");
    if (!printed)
        tell(printed.error());
    return printed.has_value();
}

void MainWindow::askPrint() { printSheet({}); }

bool MainWindow::printMeasures(const QString& pdfPath) {
    QString path = pdfPath;
    QPrinter printer(QPrinter::HighResolution);
    if (path.isEmpty()) {
        const Paper paper = askForPaper(printer, this);
        if (!paper.wanted)
            return false;
        path = paper.file;
    }
    QTextDocument sheet;
    sheet.setDefaultFont(QFont(QStringLiteral("Asap Condensed"), 11));
    sheet.setHtml(measuringSheet(m_context.view()));
    if (path.isEmpty()) {
        sheet.print(&printer);
        return true;
    }
    const auto printed = pdfTo(path, [&](QPdfWriter& pdf) {
        sheet.print(&pdf);
        return true;
    });
    if (!printed)
        tell(printed.error());
    return printed.has_value();
}

void MainWindow::askSections() {
    const auto* e = m_context.view().evaluation();
    if (!e)
        return tell(tr("There is nothing to draw"), tr("Choose a case first."));
    const Cuts& cuts = fitPage()->cuts();
    const auto& inside = e->build.insideAt;
    const auto at = [&](double cut, std::size_t axis) { return cut >= 0 ? cut : inside[axis].mm() / 2; };
    (new SectionsDialog(m_context, core::fit::sectionDrawing(e->build, {at(cuts.b, 0), at(cuts.a, 1), at(cuts.c, 2)}),
                        this))
        ->open();
}

} // namespace app
