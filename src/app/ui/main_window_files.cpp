// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/main_window.h"

#include "app/model/recovery.h"
#include "app/stations/bench/bench_page.h"
#include "app/ui/recording/recorder.h"
#include "app/ui/shell/findings_line.h"
#include "core/base/text.h"
#include "core/model/differences.h"

#include <QCloseEvent>
#include <QDateTime>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QProgressDialog>
#include <QPushButton>
#include <QStandardPaths>

#include <unistd.h>

namespace app {

namespace {
/// A folder of ours that can be written to: where the system keeps data, or else for this session among temporary
/// files.
QString dataFolder(const QString& wanted, const QString& name) {
    QString usual = (wanted.isEmpty() ? QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) : wanted) +
                    QLatin1Char('/') + name;
    if (QDir().mkpath(usual) && QFileInfo(usual).isWritable())
        return usual;
    QString temporary = QDir::tempPath() + QStringLiteral("/mini-draft-%1/").arg(::getuid()) + name;
    QDir().mkpath(temporary);
    return temporary;
}
} // namespace

QString MainWindow::captureFolder() const {
    return dataFolder(m_context.settings.dataFolder, QStringLiteral("captures"));
}
QString MainWindow::recoveryFolder() const {
    return dataFolder(m_context.settings.dataFolder, QStringLiteral("recovery"));
}

void MainWindow::remember(const QString& path) {
    m_context.settings.addRecent(QFileInfo(path).absoluteFilePath());
    m_context.settings.save();
    fillRecent();
}

/// Shows itself when a job takes more than half a second, and can stop it.
void MainWindow::showProgress(BackgroundJob* job, const QString& text) {
    auto* dialog = new QProgressDialog(text, tr("Cancel"), 0, 100, this);
    dialog->setObjectName(QStringLiteral("progress"));
    dialog->setWindowModality(Qt::NonModal);
    dialog->setMinimumDuration(500);
    dialog->setAutoReset(false);
    dialog->setValue(0);
    connect(job, &BackgroundJob::progressed, dialog, &QProgressDialog::setValue);
    connect(dialog, &QProgressDialog::canceled, job, &BackgroundJob::cancel);
    connect(job, &BackgroundJob::done, dialog, [dialog, job] {
        // Progress that is still on its way would make it show itself again.
        QObject::disconnect(job, &BackgroundJob::progressed, dialog, nullptr);
        dialog->reset();
        dialog->hide();
        dialog->deleteLater();
    });
    connect(job, &QObject::destroyed, dialog, &QObject::deleteLater);
}

// ---- saving ----

bool MainWindow::saveTo(const QString& path) {
    startSave(path, store::Foreign::Refuse);
    if (m_saveJob)
        m_saveJob->wait();
    return m_savedWell;
}

void MainWindow::startSave(const QString& path, store::Foreign foreign, OnDisk onDisk) {
    m_savedWell = false;
    if (m_saveJob) // one at a time: what was asked for first is finished first
        m_saveJob->wait();
    m_savedWell = false;
    const Document& document = m_context.document;
    const bool same = !document.path().isEmpty() && QFileInfo(path).absoluteFilePath() == document.path();
    auto lock = same ? document.place().lock : nullptr;
    if (same && !lock) {
        tell(
            tr("Not saved"),
            tr("%1 %2. Save it under another name.").arg(QFileInfo(path).fileName(), document.place().readOnlyBecause));
        return saveAs();
    }
    if (same && onDisk == OnDisk::Ask) {
        const auto now = store::stampOf(path);
        if (now && document.place().stamp && *now != *document.place().stamp)
            return askAboutChange(path);
    }
    struct Outcome {
        core::Result<store::Saved> saved;
        std::shared_ptr<store::ProjectLock> lock;
        std::optional<store::FileStamp> stamp;
    };
    auto outcome = std::make_shared<Outcome>();
    outcome->lock = lock;
    const auto project = document.shared();
    store::SaveOptions options{.foreign = foreign,
                               .lock = lock.get(),
                               .openedFrom = document.path(),
                               .known = m_knownFiles,
                               .progress = {},
                               .program = store::windowProgram,
                               .waitMs = 2000};
    m_saveJob = new BackgroundJob(
        m_context.document.workers(),
        [outcome, project, path, options](const BackgroundJob::Progress& progress) mutable {
            options.progress = progress;
            outcome->saved = store::saveProject(*project, path, options);
            if (!outcome->saved)
                return;
            outcome->stamp = store::stampOf(path);
            if (!outcome->lock) // a new place: it is ours from now on
                if (auto taken = store::ProjectLock::take(path, store::windowProgram))
                    outcome->lock = std::move(*taken);
        },
        [this, outcome, project, path] {
            m_saveJob = nullptr;
            if (!outcome->saved)
                return saveFailed(outcome->saved.error());
            m_knownFiles = outcome->saved->files;
            saved({.path = QFileInfo(path).absoluteFilePath(),
                   .lock = outcome->lock,
                   .readOnlyBecause = outcome->lock ? QString() : tr("is in use elsewhere"),
                   .stamp = outcome->stamp},
                  project);
        });
    showProgress(m_saveJob, tr("Saving %1").arg(QFileInfo(path).fileName()));
}

void MainWindow::saved(Document::Place place, const std::shared_ptr<const core::Project>& project) {
    m_savedWell = true;
    m_findings->setProblem({});
    const QString path = place.path;
    m_context.document.setSaved(std::move(place), project);
    for (const core::Problem& p : m_recorder->saved(path))
        tell(tr("A recording is kept"), qs(p.text()));
    remember(path);
    if (auto then = std::exchange(m_afterSave, {}); then && !m_context.document.isModified())
        then();
}

/// A save that did not work stays in sight until one does; the work stays in memory.
void MainWindow::saveFailed(const core::Problem& problem) {
    m_afterSave = {};
    m_lastMessage = qs(problem.text());
    if (problem.what == "stopped")
        return m_findings->setProblem(tr("Not saved: stopped. The file on the disk is the old one."));
    m_findings->setProblem(tr("Not saved: %1").arg(qs(problem.text())));
}

/// Somebody else wrote the file since it was read: both states are kept, whichever gets the name.
void MainWindow::askAboutChange(const QString& path) {
    struct Theirs {
        core::Result<store::Loaded> loaded;
    };
    auto theirs = std::make_shared<Theirs>();
    auto* job = new BackgroundJob(
        m_context.document.workers(),
        [theirs, path](const BackgroundJob::Progress& progress) {
            theirs->loaded = store::openProject(path, progress);
        },
        [this, theirs, path] {
            QString differs =
                theirs->loaded ? QString() : tr("It cannot be read: %1").arg(qs(theirs->loaded.error().text()));
            if (theirs->loaded)
                for (const std::string& line : core::differences(*m_context.document.saved(), theirs->loaded->project))
                    differs += QStringLiteral("\n– ") + qs(line);
            const QFileInfo info(path);
            auto* box = new QMessageBox(
                QMessageBox::NoIcon, tr("Changed on the disk"),
                tr("%1 was changed by another program since it was opened here. There, against what was "
                   "opened:%2\n\nNothing is thrown away: choose which state gets the name.")
                    .arg(info.fileName(), differs.isEmpty() ? tr("\n– nothing that this program reads") : differs),
                QMessageBox::NoButton, this);
            box->setObjectName(QStringLiteral("changedOnDisk"));
            box->setAttribute(Qt::WA_DeleteOnClose);
            const QString time = QDateTime::currentDateTime().toString(QStringLiteral("yyyy-MM-dd HH.mm.ss"));
            const QString base = info.isDir() ? path : info.path() + QLatin1Char('/') + info.completeBaseName();
            auto* beside = box->addButton(tr("Save mine beside it"), QMessageBox::AcceptRole);
            auto* inPlace = box->addButton(tr("Put mine in its place"), QMessageBox::DestructiveRole);
            box->addButton(tr("Cancel"), QMessageBox::RejectRole);
            connect(box, &QMessageBox::buttonClicked, this,
                    [this, box, beside, inPlace, theirs, path, base, time](QAbstractButton* b) {
                        (void)box;
                        if (b == beside)
                            return startSave(base + tr(" (mine %1)").arg(time) + QStringLiteral(".minidraft"),
                                             store::Foreign::Refuse);
                        if (b != inPlace)
                            return;
                        const QString kept = base + tr(" (other %1)").arg(time) + QStringLiteral(".minidraft");
                        const auto place = store::projectPath(path);
                        const auto aside =
                            place.form == store::ProjectPath::Form::Database || !theirs->loaded
                                ? store::linkOrCopy(place.file,
                                                    theirs->loaded ? kept : kept + QStringLiteral(".unread"))
                                : store::saveProject(theirs->loaded->project, kept).map([](const store::Saved&) {});
                        if (!aside)
                            return saveFailed(aside.error());
                        startSave(path, store::Foreign::Replace, OnDisk::Replace);
                    });
            box->open();
        });
    job->setParent(this);
}

void MainWindow::save() {
    const QString path = m_context.document.path();
    path.isEmpty() ? saveAs() : startSave(path, store::Foreign::Refuse);
}

void MainWindow::saveAs() {
    const QString chosen = QFileDialog::getSaveFileName(this, tr("Save the project"), m_context.document.path(),
                                                        tr("Mini Draft projects (*.minidraft)"));
    if (!chosen.isEmpty())
        saveAsNamed(chosen);
}

void MainWindow::saveAsNamed(const QString& chosen) {
    QString path = chosen;
    // Any dot may be part of a name ("build 1.2"): only the endings of projects are endings.
    const QString suffix = QFileInfo(path).suffix().toLower();
    if (suffix != QLatin1String("minidraft") && suffix != QLatin1String("json"))
        path += QStringLiteral(".minidraft");
    // The file dialog asked about the name it was given, not about one that was completed here.
    startSave(path, path == chosen ? store::Foreign::Replace : store::Foreign::Refuse);
}

void MainWindow::exportFolder() {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Export as a folder"));
    if (!folder.isEmpty())
        exportTo(QDir(folder).filePath(qs(core::fileNameFrom(m_context.document.project().name))),
                 store::Foreign::Refuse);
}

void MainWindow::exportTo(const QString& target, store::Foreign foreign) {
    auto result = std::make_shared<core::Result<store::Saved>>();
    const auto project = m_context.document.shared();
    auto* job = new BackgroundJob(
        m_context.document.workers(),
        [result, project, target, foreign](const BackgroundJob::Progress& progress) {
            *result = store::writeFolder(*project, target,
                                         {.foreign = foreign, .progress = progress, .program = store::windowProgram});
        },
        [this, result, target] {
            if (*result)
                return tell(tr("Exported"), target);
            if (result->error().what == "stopped")
                return;
            if (result->error().what.find("holds") != 0)
                return tell(result->error());
            auto* box = new QMessageBox(QMessageBox::NoIcon, tr("Something else stands there"),
                                        tr("%1 %2. Replace it? Its last state stays inside, in .project.previous.")
                                            .arg(target, qs(result->error().what)),
                                        QMessageBox::NoButton, this);
            box->setObjectName(QStringLiteral("replaceFolder"));
            box->setAttribute(Qt::WA_DeleteOnClose);
            auto* replace = box->addButton(tr("Replace"), QMessageBox::DestructiveRole);
            box->addButton(tr("Cancel"), QMessageBox::RejectRole);
            connect(box, &QMessageBox::buttonClicked, this, [this, target, replace](QAbstractButton* b) {
                if (b == replace)
                    exportTo(target, store::Foreign::Replace);
            });
            box->open();
        });
    job->setParent(this);
    showProgress(job, tr("Exporting to %1").arg(target));
}

// ---- before something ends ----

void MainWindow::whenSafe(const std::function<void()>& then) {
    if (m_recorder->isRecording())
        return askAboutRecording(then);
    if (!m_context.document.isModified())
        return then();
    auto* box = new QMessageBox(QMessageBox::NoIcon, tr("Keep the changes?"),
                                tr("%1 has changes that are not saved.").arg(qs(m_context.document.project().name)),
                                QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
    box->setObjectName(QStringLiteral("keepChanges"));
    box->setAttribute(Qt::WA_DeleteOnClose);
    connect(box, &QMessageBox::finished, this, [this, then](int button) {
        if (button == QMessageBox::Save) {
            m_afterSave = then;
            save();
        } else if (button == QMessageBox::Discard) {
            m_recovery->clear();
            then();
        }
    });
    box->open();
}

/// A recording belongs to the project and revision it was started for, and does not follow the window to another.
void MainWindow::askAboutRecording(const std::function<void()>& then) {
    auto* box = new QMessageBox(QMessageBox::NoIcon, tr("A recording is running"),
                                tr("Readings for %1 of %2 are being recorded. Stop, and keep them as a run?")
                                    .arg(qs(m_recorder->revision()), qs(m_context.document.project().name)),
                                QMessageBox::NoButton, this);
    box->setObjectName(QStringLiteral("recordingRuns"));
    box->setAttribute(Qt::WA_DeleteOnClose);
    auto* stopIt = box->addButton(tr("Stop and keep"), QMessageBox::AcceptRole);
    box->addButton(tr("Go on recording"), QMessageBox::RejectRole);
    connect(box, &QMessageBox::buttonClicked, this, [this, stopIt, then](QAbstractButton* b) {
        if (b != stopIt)
            return;
        m_recorder->stop();
        whenSafe(then);
    });
    box->open();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if ((m_context.document.isModified() || m_recorder->isRecording()) && !m_closing) {
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

void MainWindow::endNow() {
    m_recorder->stop();
    m_recovery->writeNow();
}

} // namespace app
