// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"

#include "app/ui/dialogs/import_dialog.h"
#include "app/ui/dialogs/measure_dialog.h"
#include "app/ui/dialogs/record_dialog.h"
#include "app/ui/report_pictures.h"
#include "app/ui/shell/findings_line.h"
#include "app/ui/shell/working_panel.h"
#include "app/ui/stations/bench_page.h"
#include "app/ui/stations/fit_page.h"
#include "report/drawing_export.h"
#include "report/html_report.h"
#include "store/files.h"

#include <QCloseEvent>
#include <QDateTime>
#include <QDir>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QLockFile>
#include <QMessageBox>
#include <QMimeData>
#include <QPainter>
#include <QPageSize>
#include <QPdfWriter>
#include <QPrintDialog>
#include <QPrinter>
#include <QStandardPaths>
#include <QTextDocument>

namespace app {

namespace {

QString captureFolder() {
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + QStringLiteral("/captures");
    QDir().mkpath(folder);
    return folder;
}

} // namespace

void MainWindow::remember(const QString& path) {
    m_context.settings.addRecent(QFileInfo(path).absoluteFilePath());
    m_context.settings.save();
    fillRecent();
}

bool MainWindow::openPath(const QString& path) {
    auto loaded = store::openProject(path);
    if (!loaded) {
        tell(loaded.error());
        return false;
    }
    m_context.document.reset(std::move(loaded->project), QFileInfo(path).absoluteFilePath());
    remember(path);
    if (!loaded->warnings.empty())
        tell(tr("The project was read; something was left out"), qs(loaded->warnings.front().text()));
    return true;
}

void MainWindow::startProject(const core::Project& project) {
    m_context.document.reset(project, {});
    setStation(0);
}

void MainWindow::open() {
    whenSafe([this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a project"), QFileInfo(m_context.document.path()).absolutePath(), tr("Projects (*.minidraft project.json);;All files (*)"));
        if (!path.isEmpty())
            openPath(path);
    });
}

bool MainWindow::saveTo(const QString& path) {
    const auto done = store::saveProject(m_context.document.project(), path);
    // A save that did not work stays in sight until one does; the work stays in memory.
    m_findings->setProblem(done ? QString() : tr("Not saved: %1").arg(qs(done.error().text())));
    if (!done) {
        m_lastMessage = qs(done.error().text());
        return false;
    }
    m_context.document.setSaved(path);
    m_bench->dropCaptures();
    remember(path);
    return true;
}

bool MainWindow::save() {
    QString path = m_context.document.path();
    if (path.isEmpty()) {
        saveAs();
        return !m_context.document.isModified();
    }
    if (path.endsWith(QLatin1String("project.json")))
        path = QFileInfo(path).absolutePath();
    return saveTo(path);
}

void MainWindow::saveAs() {
    QString path = QFileDialog::getSaveFileName(this, tr("Save the project"), m_context.document.path(), tr("Mini Draft projects (*.minidraft)"));
    if (path.isEmpty())
        return;
    if (QFileInfo(path).suffix().isEmpty())
        path += QStringLiteral(".minidraft");
    saveTo(path);
}

void MainWindow::exportFolder() {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Export as a folder"));
    if (folder.isEmpty())
        return;
    const QString target = QDir(folder).filePath(qs(m_context.document.project().name).replace(QRegularExpression(QStringLiteral("[^\\w-]+")), QStringLiteral("-")));
    if (const auto done = store::writeFolder(m_context.document.project(), target); !done)
        tell(done.error());
    else
        tell(tr("Exported"), target);
}

FormDialog* MainWindow::importLog(const QString& path) {
    if (m_context.document.revision().empty()) {
        tell(tr("No revision yet"), tr("A run belongs to a revision. Start a project first."));
        return nullptr;
    }
    setStation(4);
    auto* dialog = new ImportDialog(m_context, path, this);
    dialog->open();
    return dialog;
}

void MainWindow::askImport() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Read in a log"), {}, tr("Logs (*.csv *.txt *.tsv *.log);;All files (*)"));
    if (!path.isEmpty())
        importLog(path);
}

bool MainWindow::writeReport(const QString& path) {
    const Document& document = m_context.document;
    const core::Project& project = document.project();
    std::vector<core::verdict::Evaluation> evaluations;
    for (const core::Revision& r : project.revisions)
        if (const auto& result = document.result(r.id); result.evaluation)
            evaluations.push_back(*result.evaluation);
    const std::string html = report::html(project, evaluations, document.analyses(), document.revision(), m_context.show(), reportPictures(m_context));
    if (const auto done = store::writeWhole(path, QByteArray::fromStdString(html)); !done) {
        tell(done.error());
        return false;
    }
    return true;
}

void MainWindow::askReport() {
    const QString path = QFileDialog::getSaveFileName(this, tr("Write report"), qs(m_context.document.revision()) + QStringLiteral(".html"), tr("Web page (*.html)"));
    if (!path.isEmpty() && writeReport(path))
        tell(tr("Report written"), path);
}

bool MainWindow::printSheet(const QString& pdfPath) {
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageOrientation(QPageLayout::Landscape);
    if (!pdfPath.isEmpty()) {
        printer.setOutputFormat(QPrinter::PdfFormat);
        printer.setOutputFileName(pdfPath);
    } else if (QPrintDialog dialog(&printer, this); dialog.exec() != QDialog::Accepted) {
        return false;
    }
    QPainter painter;
    if (!painter.begin(&printer)) {
        tell(tr("Not printed"), tr("%1 cannot be written. Check the folder and the printer.").arg(pdfPath));
        return false;
    }
    // The sheet as it lies on the stage, in the light theme, scaled to the page.
    const QSizeF sheet(1000, 680);
    const QRectF area = printer.pageLayout().paintRectPixels(printer.resolution());
    painter.setRenderHint(QPainter::Antialiasing);
    const double scale = std::min(area.width() / sheet.width(), area.height() / sheet.height());
    painter.scale(scale, scale);
    const Theme screen = std::exchange(m_context.theme, Theme::light());
    m_bench->refreshTheme();
    Canvas canvas(painter, m_context.theme, m_context.selection.key());
    page(station())->paintInside(canvas, QRectF(QPointF(4, 4), sheet - QSizeF(8, 8)));
    m_context.theme = screen;
    m_bench->refreshTheme();
    return painter.end();
}

void MainWindow::askPrint() { printSheet({}); }

bool MainWindow::printMeasures(const QString& pdfPath) {
    QPrinter printer(QPrinter::HighResolution);
    if (!pdfPath.isEmpty()) {
        printer.setOutputFormat(QPrinter::PdfFormat);
        printer.setOutputFileName(pdfPath);
    } else if (QPrintDialog dialog(&printer, this); dialog.exec() != QDialog::Accepted) {
        return false;
    }
    QTextDocument sheet;
    sheet.setDefaultFont(QFont(QStringLiteral("Asap Condensed"), 11));
    sheet.setHtml(measuringSheet(m_context.view()));
    sheet.print(&printer);
    if (!pdfPath.isEmpty() && !QFileInfo::exists(pdfPath)) {
        tell(tr("Not printed"), tr("%1 cannot be written. Check the folder.").arg(pdfPath));
        return false;
    }
    return true;
}

namespace {
/// The same lines on paper; a page as large as the drawing, or A4 lying with the drawing fitted in.
bool writePdf(const core::fit::Drawing& drawing, const QString& path, double scale, bool trueSize) {
    QPdfWriter pdf(path);
    pdf.setResolution(1200);
    pdf.setPageSize(trueSize ? QPageSize(QSizeF(drawing.sizeMm[0], drawing.sizeMm[1]), QPageSize::Millimeter) : QPageSize(QPageSize::A4));
    pdf.setPageOrientation(trueSize ? QPageLayout::Portrait : QPageLayout::Landscape); // a page of its own size is as it is
    pdf.setPageMargins({0, 0, 0, 0});
    QPainter p;
    if (!p.begin(&pdf))
        return false;
    const double dots = 1200 / 25.4 * scale;
    const auto at = [&](const core::fit::Point2& mm) { return QPointF(mm[0] * dots, (drawing.sizeMm[1] - mm[1]) * dots); };
    for (const auto& line : drawing.lines) {
        QPen pen(Qt::black, (line.layer == "case" ? 0.7 : line.layer == "cut" ? 0.35 : 0.2) * dots);
        if (line.layer == "behind" || line.layer == "keep-out")
            pen.setStyle(Qt::DashLine);
        p.setPen(pen);
        QPolygonF polygon;
        for (const auto& point : line.points)
            polygon << at(point);
        line.closed ? p.drawPolygon(polygon) : p.drawPolyline(polygon);
    }
    for (const auto& text : drawing.texts) {
        QFont font(QStringLiteral("Asap Condensed"));
        font.setPixelSize(std::max(1, static_cast<int>(text.heightMm * dots)));
        p.setFont(font);
        p.drawText(QRectF(at(text.at) - QPointF(80 * dots, text.heightMm * dots), QSizeF(160 * dots, 2 * text.heightMm * dots)), Qt::AlignCenter, qs(text.text));
    }
    return p.end();
}
} // namespace

core::Result<void> MainWindow::exportSections(const QString& path, bool trueSize) {
    const auto* e = m_context.view().evaluation();
    if (!e)
        return core::problem("sections", "there is nothing to draw", "choose a case first");
    const Cuts& cuts = static_cast<FitPage*>(m_pages[1])->cuts();
    const auto& inside = e->build.insideAt;
    const core::fit::Drawing drawing = core::fit::sectionDrawing(e->build, {cuts.b >= 0 ? cuts.b : inside[0].mm() / 2, cuts.a >= 0 ? cuts.a : inside[1].mm() / 2, cuts.c >= 0 ? cuts.c : inside[2].mm() / 2});
    const double scale = trueSize ? 1 : report::scaleToFit(drawing, 277, 190);
    const QString suffix = QFileInfo(path).suffix().toLower();
    if (suffix == QLatin1String("pdf")) {
        if (!writePdf(drawing, path, scale, trueSize))
            return core::problem(path.toStdString(), "cannot be written", "another folder or name");
        return {};
    }
    if (suffix != QLatin1String("dxf") && suffix != QLatin1String("svg"))
        return core::problem(path.toStdString(), "is no kind of drawing", "a name that ends in .pdf, .svg or .dxf");
    return store::writeWhole(path, QByteArray::fromStdString(suffix == QLatin1String("dxf") ? report::drawingDxf(drawing, scale) : report::drawingSvg(drawing, scale)));
}

void MainWindow::askSections() {
    QString chosen;
    const QString trueSize = tr("PDF at 1:1 (*.pdf)"), fitted = tr("PDF fitted to A4 (*.pdf)"), svg = tr("SVG at 1:1 (*.svg)"), svgFit = tr("SVG fitted to A4 (*.svg)"), dxf = tr("DXF at 1:1 (*.dxf)"), dxfFit = tr("DXF fitted to A4 (*.dxf)");
    QString path = QFileDialog::getSaveFileName(this, tr("Export sections"), {}, QStringList{trueSize, fitted, svg, svgFit, dxf, dxfFit}.join(QStringLiteral(";;")), &chosen);
    if (path.isEmpty())
        return;
    if (QFileInfo(path).suffix().isEmpty())
        path += chosen == svg || chosen == svgFit ? QStringLiteral(".svg") : chosen == dxf || chosen == dxfFit ? QStringLiteral(".dxf") : QStringLiteral(".pdf");
    if (const auto done = exportSections(path, chosen != fitted && chosen != svgFit && chosen != dxfFit); !done)
        tell(done.error());
}

void MainWindow::record() {
    if (m_context.document.revision().empty())
        return tell(tr("No revision yet"), tr("A run belongs to a revision. Start a project first."));
    setStation(4);
    (new RecordDialog(m_context, [this](std::unique_ptr<devices::SampleSource> source, const std::string& load) {
        m_bench->record(std::move(source), captureFolder() + QLatin1Char('/') + qs(m_context.document.revision()) + QDateTime::currentDateTimeUtc().toString(QStringLiteral("-yyyyMMdd-hhmmss'.csv'")), load);
    }, this))->open();
}

/// Captures that a crash left behind are offered once; another instance's live one is locked and left alone.
void MainWindow::offerLeftCaptures() {
    for (const QFileInfo& left : QDir(captureFolder()).entryInfoList({QStringLiteral("*.csv")}, QDir::Files)) {
        QLockFile lock(left.absoluteFilePath() + QStringLiteral(".lock"));
        lock.setStaleLockTime(0);
        if (!lock.tryLock(0))
            continue;
        auto* box = new QMessageBox(QMessageBox::NoIcon, tr("A recording was cut off"), tr("%1 holds readings that were not kept as a run. Read them in for %2?").arg(left.fileName(), qs(m_context.document.revision())), QMessageBox::NoButton, this);
        box->setObjectName(QStringLiteral("leftCapture"));
        box->setAttribute(Qt::WA_DeleteOnClose);
        const QString path = left.absoluteFilePath();
        auto* take = box->addButton(tr("Read in"), QMessageBox::AcceptRole);
        auto* drop = box->addButton(tr("Throw away"), QMessageBox::DestructiveRole);
        box->addButton(tr("Later"), QMessageBox::RejectRole);
        connect(box, &QMessageBox::buttonClicked, this, [this, path, take, drop](QAbstractButton* b) {
            if (b == take) {
                if (FormDialog* dialog = importLog(path)) // kept as a run: the capture has done its work
                    connect(dialog, &QDialog::accepted, this, [path] { QFile::remove(path); });
            } else if (b == drop)
                QFile::remove(path);
        });
        box->open();
        return;
    }
}

void MainWindow::whenSafe(std::function<void()> then) {
    if (!m_context.document.isModified())
        return then();
    auto* box = new QMessageBox(QMessageBox::NoIcon, tr("Keep the changes?"), tr("%1 has changes that are not saved.").arg(qs(m_context.document.project().name)), QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
    box->setObjectName(QStringLiteral("keepChanges"));
    box->setAttribute(Qt::WA_DeleteOnClose);
    connect(box, &QMessageBox::finished, this, [this, then](int button) {
        if (button == QMessageBox::Discard)
            m_bench->dropCaptures();
        if (button == QMessageBox::Discard || (button == QMessageBox::Save && save()))
            then();
    });
    box->open();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (m_context.document.isModified() && !m_closing) {
        event->ignore();
        whenSafe([this] {
            m_closing = true;
            close();
        });
        return;
    }
    m_context.settings.geometry = saveGeometry();
    m_context.settings.save();
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    const auto urls = event->mimeData()->urls();
    if (urls.isEmpty() || !urls.front().isLocalFile())
        return;
    const QString path = urls.front().toLocalFile();
    const QString suffix = QFileInfo(path).suffix().toLower();
    if (suffix == QLatin1String("csv") || suffix == QLatin1String("tsv") || suffix == QLatin1String("txt") || suffix == QLatin1String("log"))
        importLog(path);
    else
        whenSafe([this, path] { openPath(path); });
}

} // namespace app
