// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/model/recovery.h"

#include "store/csv.h"
#include "store/json_archive.h"
#include "store/project_json.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QUuid>

#include <set>

namespace app {
namespace {

constexpr int afterEditMs = 800; // with the time of writing well within two seconds
constexpr const char* aboutWord = "mini-draft-recovery";

constexpr const char* ending = ".minidraft";
QString baseOf(const QString& file) {
    return file.chopped(static_cast<qsizetype>(std::char_traits<char>::length(ending)));
}
QString aboutOf(const QString& file) { return baseOf(file) + QStringLiteral(".json"); }

/// Readings are left out where the saved project holds them under the same run.
core::Project withoutSavedReadings(const core::Project& project, const core::Project& saved,
                                   std::vector<std::string>& inBase) {
    std::map<std::string, const core::Samples*> kept;
    for (const core::Run& run : saved.runs)
        kept.emplace(run.id, run.samples.get());
    core::Project bare = project;
    for (core::Run& run : bare.runs) {
        if (const auto it = kept.find(run.id); it == kept.end() || it->second != run.samples.get())
            continue;
        inBase.push_back(run.id);
        auto empty = std::make_shared<core::Samples>();
        for (const core::Channel& c : run.samples->channels)
            empty->channels.push_back({c.name, c.unit, c.kind, c.subject, {}});
        run.samples = empty;
        run.original = nullptr;
        run.file = nullptr;
    }
    return bare;
}

} // namespace

Recovery::Recovery(Document& document, QString folder, QObject* parent)
    : QObject(parent), m_document(document), m_folder(std::move(folder)) {
    m_timer.setSingleShot(true);
    connect(&m_timer, &QTimer::timeout, this, &Recovery::start);
    // The stack counts an edit after the document has told of it: its own signal comes when the edit is known to be
    // unsaved.
    connect(&document.undoStack(), &QUndoStack::indexChanged, this, [this] {
        if (m_document.isModified() && m_document.shared() != m_written && !m_timer.isActive())
            m_timer.start(afterEditMs);
    });
    connect(&document.undoStack(), &QUndoStack::cleanChanged, this, [this](bool clean) {
        if (clean)
            clear();
    });
}

Recovery::~Recovery() {
    if (m_job)
        delete m_job; // waits
    if (!m_document.isModified())
        clear();
}

bool Recovery::prepare() {
    if (m_lock)
        return true;
    QDir().mkpath(m_folder);
    m_file = QDir(m_folder).filePath(QUuid::createUuid().toString(QUuid::WithoutBraces) + QStringLiteral(".minidraft"));
    auto lock = store::ProjectLock::take(m_file, store::windowProgram);
    if (!lock) {
        if (!std::exchange(m_told, true))
            Q_EMIT failed(lock.error());
        return false;
    }
    m_lock = std::move(*lock);
    return true;
}

core::Result<void> Recovery::write(const Snapshot& s) {
    std::vector<std::string> inBase;
    const core::Project bare = withoutSavedReadings(*s.project, *s.saved, inBase);
    if (auto done = store::saveProject(bare, s.file, {.foreign = store::Foreign::Replace}); !done)
        return tl::make_unexpected(done.error());
    // The file that says what the copy is names it: until then the one before counts, readings and all.
    const store::Json about{{"format", aboutWord},
                            {"file", QFileInfo(s.file).fileName().toStdString()},
                            {"path", s.path.toStdString()},
                            {"name", s.project->name},
                            {"written", QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString()},
                            {"in_base", inBase}};
    if (auto done = store::writeWhole(s.about, QByteArray::fromStdString(store::jsonText(about))); !done)
        return done;
    dropOlder(s.about.chopped(5), s.file);
    return {};
}

void Recovery::dropOlder(const QString& base, const QString& kept) {
    const QFileInfo info(base);
    for (const QFileInfo& f :
         QDir(info.path())
             .entryInfoList({info.fileName() + QStringLiteral(".*") + QLatin1String(ending) + QStringLiteral("*"),
                             QLatin1Char('.') + info.fileName() + QStringLiteral(".*") + QLatin1String(ending) +
                                 QStringLiteral("*")},
                            QDir::Files | QDir::Hidden))
        if (f.filePath() != kept)
            QFile::remove(f.filePath());
}

Recovery::Snapshot Recovery::snapshot() {
    return {m_document.shared(), m_document.saved(), m_document.path(),
            baseOf(m_file) + QStringLiteral(".%1").arg(++m_number) + QLatin1String(ending), aboutOf(m_file)};
}

void Recovery::start() {
    if (!m_document.isModified() || m_document.shared() == m_written)
        return;
    if (m_job) { // one at a time; the newest state follows
        m_timer.start(afterEditMs);
        return;
    }
    if (!prepare())
        return;
    const Snapshot snapshot = this->snapshot();
    auto result = std::make_shared<core::Result<void>>();
    m_job = new BackgroundJob(
        m_document.workers(),
        [snapshot, lock = m_lock, result](const BackgroundJob::Progress&) { *result = write(snapshot); },
        [this, snapshot, result] {
            m_job = nullptr;
            if (*result) {
                m_written = snapshot.project;
                m_told = false;
            } else if (!std::exchange(m_told, true)) {
                Q_EMIT failed(result->error());
            }
            if (!m_document.isModified())
                clear();
            else if (*result && m_document.shared() != m_written)
                m_timer.start(afterEditMs);
        });
}

void Recovery::writeNow() {
    if (m_job)
        m_job->wait();
    if (m_document.isModified() && m_document.shared() != m_written && prepare())
        (void)write(snapshot());
}

void Recovery::clear() {
    m_timer.stop();
    m_written = nullptr;
    if (m_job || m_file.isEmpty())
        return; // the job clears behind itself
    drop({.about = aboutOf(m_file), .file = {}, .path = {}, .name = {}, .written = {}, .inBase = {}});
    m_lock = nullptr;
    m_file.clear();
}

void Recovery::drop(const Left& left) {
    const QString base = left.about.chopped(5), locked = base + QLatin1String(ending); // ".json"
    QFile::remove(left.about);
    if (!left.file.isEmpty())
        QFile::remove(left.file);
    dropOlder(base, {});
    if (!store::ProjectLock::owner(locked)) // of a killed program; our own goes with its lock
        QFile::remove(store::ProjectLock::fileOf(locked));
}

std::vector<Recovery::Left> Recovery::left(const QString& folder) {
    std::vector<Left> found;
    for (const QFileInfo& info : QDir(folder).entryInfoList({QStringLiteral("*.json")}, QDir::Files, QDir::Time)) {
        if (store::ProjectLock::owner(info.filePath().chopped(5) + QLatin1String(ending)))
            continue;
        const auto text = store::readFile(info.filePath().toStdString(), store::mostJsonBytes);
        const auto json = text ? store::parseJson(*text, "recovery") : tl::make_unexpected(text.error());
        if (!json || !json->is_object() || json->value("format", "") != aboutWord)
            continue;
        const QString file =
            QFileInfo(QString::fromStdString(json->value("file", info.completeBaseName().toStdString() + ending)))
                .fileName(); // never another folder's
        Left left{.about = info.filePath(),
                  .file = QDir(folder).filePath(file),
                  .path = QString::fromStdString(json->value("path", "")),
                  .name = QString::fromStdString(json->value("name", "")),
                  .written = info.lastModified().toString(QStringLiteral("yyyy-MM-dd HH:mm")),
                  .inBase = {}};
        if (json->contains("in_base") && (*json)["in_base"].is_array())
            for (const auto& id : (*json)["in_base"])
                if (id.is_string())
                    left.inBase.push_back(id.get<std::string>());
        found.push_back(std::move(left));
    }
    return found;
}

core::Result<Recovery::Recovered> Recovery::read(const Left& left) {
    auto copy = store::openProject(left.file);
    if (!copy)
        return tl::make_unexpected(copy.error());
    Recovered r{.project = std::move(copy->project), .base = {}, .lost = {}};
    core::Result<store::Loaded> base =
        left.path.isEmpty() ? core::Result<store::Loaded>(store::Loaded{}) : store::openProject(left.path);
    if (base)
        r.base = std::move(base->project);
    const std::set<std::string> inBase(left.inBase.begin(), left.inBase.end());
    for (core::Run& run : r.project.runs) {
        if (!inBase.contains(run.id))
            continue;
        if (const core::Run* kept = r.base.run(run.id)) {
            run.samples = kept->samples;
            run.original = kept->original;
            run.file = kept->file;
        } else {
            r.lost.push_back("readings of run " + run.name + ": " +
                             (base ? "the project does not hold them any more" : base.error().text()));
        }
    }
    return r;
}

} // namespace app

#include "moc_recovery.cpp"
