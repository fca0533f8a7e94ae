// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/recovery.h"
#include "app/ui/main_window.h"
#include "app/ui/shell/findings_line.h"
#include "core/base/text.h"
#include "core/model/differences.h"

#include <QCoreApplication>
#include <QDir>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QStandardPaths>
#include <QUuid>

namespace app {

// ---- opening ----

void MainWindow::openInBackground(const QString& path) { startOpen(path, false); }

namespace {
/// Where it was installed, or where it was built.
QString demoFile() {
    const QDir program(QCoreApplication::applicationDirPath());
    const QString beside = QStringLiteral("mini-draft/demo/dig-tent/project.json");
    for (const QString& at : {program.filePath(QStringLiteral("../share/") + beside),
                              program.filePath(QStringLiteral("../../../data/demo/dig-tent/project.json"))})
        if (QFileInfo::exists(at))
            return QFileInfo(at).canonicalFilePath();
    return QStandardPaths::locate(QStandardPaths::GenericDataLocation, beside);
}
} // namespace

void MainWindow::openDemo() {
    const QString file = demoFile();
    if (file.isEmpty())
        return tell(tr("The demo"), tr("It is not beside the program. It comes with the sources, in data/demo: open it "
                                       "from there."));
    whenSafe([this, file] { startOpen(file, true); });
}

void MainWindow::startOpen(const QString& path, bool asCopy) {
    if (m_openJob)
        m_openJob->cancel();
    auto opened = std::make_shared<Opened>();
    opened->path = QFileInfo(path).absoluteFilePath();
    opened->asCopy = asCopy;
    opened->before = m_context.document.shared();
    m_openJob = new BackgroundJob(
        m_context.document.workers(),
        [opened](const BackgroundJob::Progress& progress) {
            opened->stamp = store::stampOf(opened->path);
            opened->loaded = store::openProject(opened->path, progress);
        },
        [this, opened] {
            m_openJob = nullptr;
            finishOpen(*opened);
        });
    showProgress(m_openJob, tr("Opening %1").arg(QFileInfo(path).fileName()));
}

bool MainWindow::openPath(const QString& path) {
    openInBackground(path);
    m_openJob->wait();
    return m_openedWell;
}

namespace {
/// What is locked for a project: its file, or the whole folder of readable files.
QString lockedFor(const QString& path) {
    const store::ProjectPath at = store::projectPath(path);
    const QFileInfo file(at.file);
    const bool folder = at.form == store::ProjectPath::Form::Folder && file.fileName() == QLatin1String("project.json");
    return folder ? file.path() : at.file;
}

/// Answers false, and the place says why, when another writer has it or nobody can write there.
bool takeLock(Document::Place& place, const QString& locked) {
    auto lock = store::ProjectLock::take(locked, store::windowProgram);
    if (lock)
        place.lock = std::move(*lock);
    else
        place.readOnlyBecause = qs(lock.error().what);
    return lock.has_value();
}
} // namespace

void MainWindow::finishOpen(Opened& opened) {
    m_openedWell = false;
    if (!opened.loaded) {
        if (opened.loaded.error().what != "stopped")
            tell(opened.loaded.error());
        return;
    }
    if (m_context.document.shared() != opened.before && m_context.document.isModified())
        return tell(tr("Not opened"), tr("%1 was changed while %2 was read. Save it, then open once more.")
                                          .arg(qs(m_context.document.project().name), opened.path));
    m_openedWell = true;
    m_knownFiles.clear();
    m_findings->setProblem({}); // what was said of the project before
    opened.asCopy ? startCopy(std::move(opened.loaded->project)) : placeOpened(opened);
    if (!opened.loaded->warnings.empty())
        tellWarnings(*opened.loaded);
    QMetaObject::invokeMethod(this, &MainWindow::offerLeft, Qt::QueuedConnection);
}

void MainWindow::placeOpened(Opened& opened) {
    const auto& now = m_context.document.place();
    Document::Place place{.path = opened.path, .lock = {}, .readOnlyBecause = {}, .stamp = opened.stamp};
    const QString locked = lockedFor(opened.path);
    bool inUse = false;
    if (now.lock && now.lock->covers(locked))
        place.lock = now.lock;
    else if (!m_onlyLooks)
        inUse = !takeLock(place, locked) && store::ProjectLock::owner(locked).has_value();
    m_context.document.resetAt(std::move(opened.loaded->project), std::move(place));
    if (!m_onlyLooks)
        remember(opened.path);
    if (inUse)
        askAboutSecondWindow();
}

void MainWindow::tellWarnings(const store::Loaded& loaded) {
    constexpr qsizetype most = 12;
    QStringList lines;
    for (const core::Problem& w : loaded.warnings)
        lines << qs(w.text());
    if (const qsizetype more = lines.size() - most; more > 0)
        lines = lines.mid(0, most) << tr("and %1 more").arg(more);
    tell(loaded.damaged ? tr("The file is damaged; the rest was read")
                        : tr("The project was read; something was left out"),
         lines.join(QLatin1Char('\n')));
}

/// Two writers would erase each other's work: the second window looks, or works on a copy of its own.
void MainWindow::askAboutSecondWindow() {
    const auto& place = m_context.document.place();
    auto* box = new QMessageBox(QMessageBox::NoIcon, tr("Open elsewhere"),
                                tr("%1 %2.\n\nIt is shown here read-only. To change something, work on a copy.")
                                    .arg(QFileInfo(place.path).fileName(), place.readOnlyBecause),
                                QMessageBox::NoButton, this);
    box->setObjectName(QStringLiteral("openElsewhere"));
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->addButton(tr("Look only"), QMessageBox::RejectRole);
    auto* copy = box->addButton(tr("Work on a copy"), QMessageBox::AcceptRole);
    connect(box, &QMessageBox::buttonClicked, this, [this, copy](QAbstractButton* b) {
        if (b == copy)
            workOnACopy();
    });
    box->open();
}

void MainWindow::workOnACopy() { startCopy(m_context.document.project()); }

void MainWindow::startCopy(core::Project copy) {
    copy.name = tr("%1 (copy)").arg(qs(copy.name)).toStdString();
    copy.id = QUuid::createUuid().toString(QUuid::WithoutBraces).toStdString();
    m_knownFiles.clear();
    m_context.document.resetAt(std::move(copy), {});
}

void MainWindow::startProject(const core::Project& project) {
    core::Project fresh = project;
    if (fresh.id.empty())
        fresh.id = QUuid::createUuid().toString(QUuid::WithoutBraces).toStdString();
    m_knownFiles.clear();
    m_context.document.resetAt(std::move(fresh), {});
    goTo(core::rules::Station::Brief);
}

void MainWindow::open() {
    whenSafe([this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a project"),
                                                          QFileInfo(m_context.document.path()).absolutePath(),
                                                          tr("Projects (*.minidraft project.json);;All files (*)"));
        if (!path.isEmpty())
            openInBackground(path);
    });
}

// ---- what an earlier end left ----

void MainWindow::offerLeft() {
    if (m_asking)
        return;
    for (const Recovery::Left& left : Recovery::left(recoveryFolder())) {
        if (m_passed.contains(left.file))
            continue;
        m_asking = true;
        auto read = std::make_shared<core::Result<Recovery::Recovered>>();
        auto* job = new BackgroundJob(
            m_context.document.workers(),
            [read, left](const BackgroundJob::Progress&) { *read = Recovery::read(left); },
            [this, read, left] { offerRecovered(left, *read); });
        job->setParent(this);
        return;
    }
    offerLeftCapture();
}

void MainWindow::offerRecovered(const Recovery::Left& left, const core::Result<Recovery::Recovered>& read) {
    m_asking = false;
    m_passed.insert(left.file);
    QString text = tr("%1 was not saved when the program ended. A copy of %2 is here.").arg(left.name, left.written) +
                   QLatin1Char('\n');
    if (!left.path.isEmpty())
        text += left.path + QLatin1Char('\n');
    if (!read)
        text += tr("It cannot be read: %1").arg(qs(read.error().text()));
    else {
        text += left.path.isEmpty() ? tr("It was never saved. It holds:") : tr("Against the saved project:");
        const auto lines = core::differences(read->base, read->project);
        for (const std::string& line : lines)
            text += QStringLiteral("\n– ") + qs(line);
        if (lines.empty())
            text += tr("\n– no difference");
        for (const std::string& lost : read->lost)
            text += QStringLiteral("\n– ") + tr("lost: %1").arg(qs(lost));
    }
    auto* box =
        new QMessageBox(QMessageBox::NoIcon, tr("Changes that were not saved"), text, QMessageBox::NoButton, this);
    box->setObjectName(QStringLiteral("recover"));
    box->setAttribute(Qt::WA_DeleteOnClose);
    auto* take = read ? box->addButton(tr("Recover"), QMessageBox::AcceptRole) : nullptr;
    auto* drop = box->addButton(tr("Throw away"), QMessageBox::DestructiveRole);
    auto* later = box->addButton(tr("Later"), QMessageBox::RejectRole);
    box->setDefaultButton(take ? take : later);
    connect(box, &QMessageBox::buttonClicked, this, [this, left, read, take, drop](QAbstractButton* b) {
        if (take && b == take)
            whenSafe([this, left, read] { recover(left, *read); });
        else if (b == drop)
            Recovery::drop(left);
    });
    connect(box, &QMessageBox::finished, this,
            [this] { QMetaObject::invokeMethod(this, &MainWindow::offerLeft, Qt::QueuedConnection); });
    box->open();
}

void MainWindow::recover(const Recovery::Left& left, const Recovery::Recovered& state) {
    Document::Place place{.path = left.path,
                          .lock = {},
                          .readOnlyBecause = {},
                          .stamp = left.path.isEmpty() ? std::nullopt : store::stampOf(left.path)};
    if (!left.path.isEmpty()) {
        const auto& now = m_context.document.place();
        if (now.lock && now.path == left.path)
            place.lock = now.lock;
        else
            takeLock(place, lockedFor(left.path));
    }
    m_context.document.resetRecovered(state.project, state.base, std::move(place));
    m_recovery->writeNow(); // the new copy first, then the old one goes
    Recovery::drop(left);
}

// ---- drag and drop ----

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
    if (suffix == QLatin1String("csv") || suffix == QLatin1String("tsv") || suffix == QLatin1String("txt") ||
        suffix == QLatin1String("log"))
        importLog(path);
    else
        whenSafe([this, path] { openInBackground(path); });
}

} // namespace app
