// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"

#include "app/stations/bench/bench_page.h"
#include "app/ui/dialogs/import_dialog.h"
#include "app/ui/dialogs/record_dialog.h"
#include "app/ui/recording/recorder.h"
#include "app/ui/shell/findings_line.h"
#include "core/base/text.h"

#include <QDateTime>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QPushButton>

namespace app {

ImportDialog* MainWindow::importLog(const QString& path) {
    if (m_context.document.revision().empty()) {
        tell(tr("No revision yet"), tr("A run belongs to a revision. Start a project first."));
        return nullptr;
    }
    goTo(core::rules::Station::Bench);
    auto* dialog = new ImportDialog(m_context, path, this);
    dialog->open();
    return dialog;
}

void MainWindow::askImport() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Read in a log"), {},
                                                      tr("Logs (*.csv *.txt *.tsv *.log);;All files (*)"));
    if (!path.isEmpty())
        importLog(path);
}

void MainWindow::record() {
    if (m_context.document.revision().empty())
        return tell(tr("No revision yet"), tr("A run belongs to a revision. Start a project first."));
    if (m_recorder->isRecording())
        return tell(tr("A recording is running"), tr("Stop it first (Ctrl+.)."));
    goTo(core::rules::Station::Bench);
    (new RecordDialog(
         m_context,
         [this](std::unique_ptr<devices::SampleSource> source, const std::string& load) {
             m_recorder->start(std::move(source), load);
         },
         this))
        ->open();
}

void MainWindow::connectRecorder() {
    connect(m_recorder, &Recorder::changed, this, [this] {
        m_bench->recordingMoved();
        refresh();
    });
    connect(m_recorder, &Recorder::reading, m_bench, qOverload<>(&QWidget::update));
    connect(m_recorder, &Recorder::refused, this, qOverload<const core::Problem&>(&MainWindow::tell));
    connect(m_recorder, &Recorder::failed, this, [this](const core::Problem& problem) {
        // Said by every way the window has: the line at the foot stays, the box asks to be read, the sound calls.
        m_findings->setProblem(tr("Recording stopped: %1").arg(qs(problem.text())));
        tell(tr("Recording stopped"),
             qs(problem.text()) + QLatin1Char('\n') + tr("What was read until then is kept whole."));
        QApplication::beep();
        QApplication::alert(this);
    });
    connect(m_recorder, &Recorder::ended, this, [this](const std::string& run, const QString& reason) {
        if (!run.empty())
            m_bench->selectRun(run);
        if (!reason.isEmpty())
            tell(tr("The recording ended"),
                 reason + QLatin1Char('\n') +
                     (run.empty() ? tr("Nothing was read.") : tr("What was read until then is kept as a run.")));
        refresh();
    });
}

namespace {
QString lengthText(double seconds) {
    return seconds >= 90 ? MainWindow::tr("%1 min").arg(digits(seconds / 60, 1))
                         : MainWindow::tr("%1 s").arg(qs(core::fixed(seconds, 0)));
}
/// When it began, as it says itself; else when its file was made.
QString whenText(const Recorder::Left& left) {
    const QDateTime said = QDateTime::fromString(qs(left.about.started), Qt::ISODate);
    return said.isValid() ? said.toLocalTime().toString(QStringLiteral("yyyy-MM-dd HH:mm")) : left.started;
}
} // namespace

/// Captures that an earlier end left behind are offered with the project they were made for.
void MainWindow::offerLeftCapture() {
    for (const Recorder::Left& left : m_recorder->leftOfProject()) {
        if (m_passed.contains(left.file))
            continue;
        m_passed.insert(left.file);
        const bool there = m_context.document.project().revision(left.about.revision) != nullptr;
        const QString whose =
            left.about.revision.empty()
                ? tr("It does not say for which revision.")
                : tr("It belongs to %1 of %2.").arg(qs(left.about.revision), qs(left.about.projectName));
        auto* box = new QMessageBox(QMessageBox::NoIcon, tr("A recording was cut off"),
                                    tr("%1 readings over %2, recorded %3, were not kept as a saved run. %4\n%5")
                                        .arg(left.rows)
                                        .arg(lengthText(left.seconds), whenText(left), whose, left.file),
                                    QMessageBox::NoButton, this);
        box->setObjectName(QStringLiteral("leftCapture"));
        box->setAttribute(Qt::WA_DeleteOnClose);
        auto* take = box->addButton(there ? tr("Read in for %1").arg(qs(left.about.revision))
                                          : tr("Read in for %1").arg(qs(m_context.document.revision())),
                                    QMessageBox::AcceptRole);
        auto* later = box->addButton(tr("Later"), QMessageBox::RejectRole);
        auto* drop = box->addButton(tr("Throw away ..."), QMessageBox::DestructiveRole);
        box->setDefaultButton(later);
        connect(box, &QMessageBox::buttonClicked, this, [this, left, there, take, drop](QAbstractButton* b) {
            if (b == take) {
                if (there)
                    m_context.document.selectRevision(left.about.revision);
                // Kept as a run, and the capture until that run is saved.
                if (ImportDialog* dialog = importLog(left.file))
                    connect(dialog, &QDialog::accepted, this,
                            [this, dialog, left] { m_recorder->readIn(left.file, dialog->runId()); });
            } else if (b == drop) {
                askToThrowAway(left.file, left.rows);
            }
        });
        connect(box, &QMessageBox::finished, this,
                [this] { QMetaObject::invokeMethod(this, &MainWindow::offerLeft, Qt::QueuedConnection); });
        box->open();
        return;
    }
    if (m_openJob)
        return; // its project may be on the way
    for (const Recorder::Left& left : m_recorder->leftOfOthers()) {
        if (left.about.project.empty())
            continue; // it is offered with its project, once that is open
        m_findings->setProblem(tr("A recording of %1 was cut off: open %2 to read it in")
                                   .arg(qs(left.about.projectName), qs(left.about.project)));
    }
}

void MainWindow::askToThrowAway(const QString& file, std::size_t rows) {
    auto* box = new QMessageBox(QMessageBox::NoIcon, tr("Throw the recording away?"),
                                tr("%1 readings will be gone for good.").arg(rows), QMessageBox::NoButton, this);
    box->setObjectName(QStringLiteral("throwAway"));
    box->setAttribute(Qt::WA_DeleteOnClose);
    auto* drop = box->addButton(tr("Throw away"), QMessageBox::DestructiveRole);
    box->setDefaultButton(box->addButton(tr("Keep"), QMessageBox::RejectRole));
    connect(box, &QMessageBox::buttonClicked, this, [file, drop](QAbstractButton* b) {
        if (b == drop)
            Recorder::drop(file);
    });
    box->open();
}

} // namespace app
