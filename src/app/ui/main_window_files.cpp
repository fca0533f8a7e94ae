// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"

#include "app/ui/dialogs/import_dialog.h"
#include "app/ui/dialogs/record_dialog.h"
#include "app/ui/report_pictures.h"
#include "app/ui/shell/findings_line.h"
#include "app/ui/shell/working_panel.h"
#include "app/ui/stations/bench_page.h"
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
#include <QPrintDialog>
#include <QPrinter>
#include <QStandardPaths>

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
