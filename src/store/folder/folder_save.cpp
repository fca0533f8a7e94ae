// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/folder/folder.h"

#include "core/base/text.h"
#include "store/csv.h"
#include "store/run_files.h"
#include "store/safe_write.h"
#include "store/write_fully.h"

#include <QCryptographicHash>
#include <QDir>
#include <QDirIterator>
#include <QFile>
#include <QFileInfo>

#include <algorithm>
#include <cerrno>
#include <fcntl.h>
#include <set>
#include <unistd.h>

namespace store {
namespace {

constexpr const char* logsFolder = "runs";
constexpr const char* originalsFolder = "originals";

QString text(const std::string& s) { return QString::fromStdString(s); }

/// Makes a folder inside ours; a link in its place would lead what we write elsewhere.
core::Result<void> innerFolder(const QDir& root, const QString& name) {
    const QFileInfo info(root.filePath(name));
    if (info.isSymLink())
        return core::problem(info.filePath().toStdString(), "is a link, and what is saved must stay inside the folder",
                             "a folder in its place");
    if (!info.isDir() && !root.mkdir(name))
        return core::problem(info.filePath().toStdString(), "the folder cannot be made",
                             "check the rights of the folder and the space left");
    return {};
}

/// A new file, whole; a file of that name is an error and stays as it is. It is forced to the disk by syncAll().
core::Result<void> createNew(const QString& path, const std::string& bytes) {
    const int fd =
        ::open(QFile::encodeName(path).constData(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, 0666);
    if (fd < 0)
        return tl::make_unexpected(cannotWrite(path, errno));
    int error = writeFully(fd, bytes.data(), bytes.size());
    if (::close(fd) != 0 && error == 0)
        error = errno;
    if (error != 0)
        return tl::make_unexpected(cannotWrite(path, error));
    return {};
}

core::Result<void> syncOne(const QString& path) {
    const int fd = ::open(QFile::encodeName(path).constData(), O_RDONLY | O_CLOEXEC);
    if (fd < 0)
        return tl::make_unexpected(cannotWrite(path, errno));
    const int error = ::fsync(fd) == 0 ? 0 : errno;
    ::close(fd);
    if (error != 0)
        return tl::make_unexpected(cannotWrite(path, error));
    return {};
}

std::optional<Json> jsonOf(const QString& path) {
    const auto bytes = readFile(path.toStdString(), mostJsonBytes);
    if (!bytes)
        return std::nullopt;
    auto json = parseJson(*bytes, path.toStdString());
    if (!json || !json->is_object())
        return std::nullopt;
    return std::move(*json);
}

class FolderSaver {
public:
    FolderSaver(const core::Project& project, const QString& jsonPath, const SaveOptions& options)
        : m_project(project), m_options(options), m_json(linkTarget(jsonPath)),
          m_root(QFileInfo(jsonPath).absolutePath()) {}

    core::Result<Saved> run() {
        if (auto done = save(); !done)
            return tl::make_unexpected(done.error());
        Saved saved;
        for (std::size_t i = 0; i < m_places.size(); ++i)
            if (auto file = logFile(m_root.path(), m_places[i].file)) {
                file->channelsStated = m_places[i].stateChannels;
                file->readings = m_project.runs[i].samples;
                saved.files.push_back(std::make_shared<core::LogFile>(std::move(*file)));
            }
        return saved;
    }

private:
    core::Result<void> save() {
        if (const QFileInfo link(m_root.filePath(QFileInfo(m_json).fileName()));
            QFileInfo(m_json).absolutePath() != m_root.absolutePath() && m_options.jsonLink == JsonLink::Refuse)
            return core::problem(link.filePath().toStdString(), "is a link that leads out of the folder",
                                 "name the file it leads to");
        if (auto done = recoverFolder(m_json); !done)
            return done;
        m_old = jsonOf(m_json);
        plan();
        m_new = projectJson(m_project, m_places);
        if (m_old && m_create.empty() && normalised(*m_old) == m_new)
            return {}; // nothing changed: nothing is written, and what was written by hand stays as it looks
        if (m_old)
            keepRemarks(*m_old, m_new);
        m_text = QByteArray::fromStdString(jsonText(m_new));
        if (auto done = writeJournal(); !done)
            return done;
        auto done = writeFiles();
        if (done)
            done = keepPrevious();
        if (done)
            done = writeWhole(m_json, m_text);
        // Whether the switch took place decides which way the rest goes, also after an error of the disk.
        auto ended = recoverFolder(m_json);
        return done ? ended : done;
    }

    /// The file that already holds a run's readings: the one they were read from or saved to, or the one of the same
    /// run whose bytes are what would be written.
    [[nodiscard]] std::optional<RunPlace> placeOf(const core::Run& run) const {
        const auto stands = [&](const std::shared_ptr<const core::LogFile>& file) {
            return file && standsIn(run, *file, m_root.path());
        };
        if (stands(run.file))
            return RunPlace{.file = run.file->name, .stateChannels = run.file->channelsStated};
        for (const auto& file : m_options.known)
            if (stands(file))
                return RunPlace{.file = file->name, .stateChannels = file->channelsStated};
        if (!m_old)
            return std::nullopt;
        if (const auto runs = m_old->find("runs"); runs != m_old->end() && runs->is_array())
            for (const Json& j : *runs) {
                if (!j.is_object() || !j.contains("id") || j["id"] != run.id || !j.contains("file") ||
                    !j["file"].is_string() || !j.contains("channels"))
                    continue;
                const std::string name = j["file"].get<std::string>();
                const auto path = insideFolder(m_root.path(), name);
                const auto bytes = path ? readFile(path->toStdString()) : tl::make_unexpected(path.error());
                if (bytes && *bytes == writeCsv(*run.samples))
                    return RunPlace{.file = name};
            }
        return std::nullopt;
    }

    /// The file beside the readings that already holds a log byte for byte.
    [[nodiscard]] std::optional<std::string> keptOriginal(const std::string& runId,
                                                          const core::Original& original) const {
        const auto wanted = originalBytes(original);
        if (m_old && wanted)
            if (const auto runs = m_old->find("runs"); runs != m_old->end() && runs->is_array())
                for (const Json& j : *runs)
                    if (j.is_object() && j.contains("id") && j["id"] == runId && j.contains("original") &&
                        j["original"].is_string()) {
                        const auto path = insideFolder(m_root.path(), j["original"].get<std::string>());
                        const auto bytes = path ? readFile(path->toStdString()) : tl::make_unexpected(path.error());
                        if (bytes && *bytes == *wanted)
                            return j["original"].get<std::string>();
                    }
        return std::nullopt;
    }

    struct Create {
        std::string name;
        std::size_t run;
        bool original;
    };

    /// Which runs keep their file, which get a new one, and which files nobody names any more.
    void plan() {
        std::set<std::string> taken;
        for (const char* inner : {logsFolder, originalsFolder})
            for (const QString& name :
                 QDir(m_root.filePath(QLatin1String(inner)))
                     .entryList(QDir::AllEntries | QDir::Hidden | QDir::System | QDir::NoDotAndDotDot))
                taken.insert(core::asciiLower(QFileInfo(name).completeBaseName().toStdString()));
        const auto names = logNames(m_project, taken);
        std::set<std::string> named;
        for (std::size_t i = 0; i < m_project.runs.size(); ++i) {
            const core::Run& run = m_project.runs[i];
            RunPlace place;
            const auto stands = placeOf(run);
            if (stands) {
                place = *stands;
            } else {
                place.file = std::string(logsFolder) + "/" + names[i];
                m_create.push_back({place.file, i, false});
            }
            if (run.original && !run.original->path.empty() &&
                text(run.original->path).startsWith(QFileInfo(m_root.path()).canonicalFilePath() + QLatin1Char('/'))) {
                place.original = QDir(QFileInfo(m_root.path()).canonicalFilePath())
                                     .relativeFilePath(text(run.original->path))
                                     .toStdString();
            } else if (run.original || (run.file && !stands)) {
                // Kept beside its reading: also a log that stood in another folder, and says more than its readings.
                m_originals[i] = originalOf(run);
                if (const auto kept = m_originals[i] ? keptOriginal(run.id, *m_originals[i]) : std::nullopt) {
                    place.original = *kept;
                } else if (m_originals[i]) {
                    place.original = std::string(originalsFolder) + "/" + names[i];
                    m_create.push_back({place.original, i, true});
                }
            }
            named.insert(place.file);
            named.insert(place.original);
            m_places.push_back(std::move(place));
        }
        if (m_old)
            for (const std::string& name : namedFiles(*m_old))
                if (!named.contains(name) && insideFolder(m_root.path(), name))
                    m_journal.removed.push_back(name);
    }

    core::Result<void> writeJournal() {
        m_journal.digest = digestOf(m_text);
        for (const Create& c : m_create)
            m_journal.created.push_back(c.name);
        const Json json{{"format", "mini-draft-journal"},
                        {"digest", m_journal.digest},
                        {"created", m_journal.created},
                        {"removed", m_journal.removed}};
        return writeWhole(journalPath(m_json), QByteArray::fromStdString(jsonText(json)));
    }

    core::Result<void> writeFiles() {
        if (m_create.empty())
            return {};
        for (const Create& c : m_create)
            if (auto made = innerFolder(m_root, QLatin1String(c.original ? originalsFolder : logsFolder)); !made)
                return made;
        double done = 0;
        for (const Create& c : m_create) {
            std::string bytes;
            if (c.original) {
                auto original = originalBytes(*m_originals.at(c.run));
                if (!original)
                    return tl::make_unexpected(original.error());
                bytes = std::move(*original);
            } else {
                bytes = writeCsv(*m_project.runs[c.run].samples);
            }
            if (auto written = createNew(m_root.filePath(text(c.name)), bytes); !written)
                return written;
            if (m_options.progress && !m_options.progress(++done / static_cast<double>(2 * m_create.size())))
                return core::problem(m_json.toStdString(), "stopped", "");
        }
        for (const Create& c : m_create) { // all written first: the disk takes them in one go
            if (auto synced = syncOne(m_root.filePath(text(c.name))); !synced)
                return synced;
            if (m_options.progress && !m_options.progress(++done / static_cast<double>(2 * m_create.size())))
                return core::problem(m_json.toStdString(), "stopped", "");
        }
        for (const char* inner : {logsFolder, originalsFolder})
            if (m_root.exists(QLatin1String(inner)))
                if (auto synced = syncFolder(m_root.filePath(QLatin1String(inner))); !synced)
                    return synced;
        return syncFolder(m_root.path());
    }

    /// The last good state as a folder of its own, of second names for the same files: it costs no room while nothing
    /// changes.
    core::Result<void> keepPrevious() {
        if (!m_old)
            return {};
        const QString previous = previousPath(m_json), fresh = previous + QStringLiteral(".new");
        if (QFileInfo(previous).isSymLink() || QFileInfo(fresh).isSymLink())
            return core::problem(previous.toStdString(), "is a link, and what is saved must stay inside the folder",
                                 "a folder in its place");
        QDir(fresh).removeRecursively();
        if (!m_root.mkpath(fresh))
            return core::problem(fresh.toStdString(), "the folder cannot be made", "check the space left");
        if (auto linked = linkOrCopy(m_json, fresh + QStringLiteral("/project.json")); !linked)
            return linked;
        for (const std::string& name : namedFiles(*m_old)) {
            const auto from = insideFolder(m_root.path(), name);
            if (!from)
                continue; // named, and not there: the last state was no better
            m_root.mkpath(QFileInfo(fresh + QLatin1Char('/') + text(name)).path());
            if (auto linked = linkOrCopy(*from, fresh + QLatin1Char('/') + text(name)); !linked)
                return linked;
        }
        const QString older = previous + QStringLiteral(".old");
        QDir(older).removeRecursively();
        if (QFileInfo::exists(previous) &&
            ::rename(QFile::encodeName(previous).constData(), QFile::encodeName(older).constData()) != 0)
            return tl::make_unexpected(cannotWrite(previous, errno));
        if (::rename(QFile::encodeName(fresh).constData(), QFile::encodeName(previous).constData()) != 0)
            return tl::make_unexpected(cannotWrite(previous, errno));
        QDir(older).removeRecursively();
        return {};
    }

    const core::Project& m_project;
    const SaveOptions& m_options;
    QString m_json;
    QDir m_root;
    std::optional<Json> m_old;
    Json m_new;
    QByteArray m_text;
    Journal m_journal;
    std::vector<RunPlace> m_places;
    std::vector<Create> m_create;
    std::map<std::size_t, std::shared_ptr<const core::Original>> m_originals;
};

} // namespace

std::string digestOf(const QByteArray& bytes) {
    return QCryptographicHash::hash(bytes, QCryptographicHash::Sha256).toHex().toStdString();
}

QString journalPath(const QString& jsonPath) {
    const QFileInfo info(jsonPath);
    return info.path() + QStringLiteral("/.") + info.completeBaseName() + QStringLiteral(".saving.json");
}

QString previousPath(const QString& jsonPath) {
    const QFileInfo info(jsonPath);
    return info.path() + QStringLiteral("/.") + info.completeBaseName() + QStringLiteral(".previous");
}

std::vector<std::string> namedFiles(const Json& json) {
    std::vector<std::string> names;
    if (const auto runs = json.find("runs"); runs != json.end() && runs->is_array())
        for (const Json& run : *runs)
            for (const char* key : {"file", "original"})
                if (run.is_object() && run.contains(key) && run[key].is_string())
                    names.push_back(run[key].get<std::string>());
    return names;
}

core::Result<Saved> saveFolder(const core::Project& project, const QString& jsonPath, const SaveOptions& options) {
    return FolderSaver(project, jsonPath, options).run();
}

core::Result<void> recoverFolder(const QString& jsonPath) {
    const QString journal = journalPath(jsonPath);
    const QDir root(QFileInfo(jsonPath).absolutePath());
    for (const char* end : {".new", ".old"}) {
        const QString left = previousPath(jsonPath) + QLatin1String(end);
        // Killed between two renames: the last good state still stands under its other name.
        if (QLatin1String(end) == QLatin1String(".old") && !QFileInfo::exists(previousPath(jsonPath)) &&
            QFileInfo(left).isDir())
            ::rename(QFile::encodeName(left).constData(), QFile::encodeName(previousPath(jsonPath)).constData());
        else if (QFileInfo(left).isDir() && !QFileInfo(left).isSymLink())
            QDir(left).removeRecursively();
    }
    if (!QFileInfo::exists(journal))
        return {};
    const auto entry = jsonOf(journal);
    QFile file(jsonPath);
    const QByteArray now = file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    const auto json = jsonOf(jsonPath);
    if (entry && entry->contains("digest") && (*entry)["digest"].is_string() && (json || now.isEmpty())) {
        const bool switched = (*entry)["digest"].get<std::string>() == digestOf(now);
        const auto named = json ? namedFiles(*json) : std::vector<std::string>{};
        const auto list = entry->find(switched ? "removed" : "created");
        if (list != entry->end() && list->is_array())
            for (const Json& name : *list) {
                if (!name.is_string() || std::find(named.begin(), named.end(), name.get<std::string>()) != named.end())
                    continue; // what the project names is never taken away
                if (const auto path = insideFolder(root.path(), name.get<std::string>()))
                    QFile::remove(*path);
            }
    }
    if (!QFile::remove(journal))
        return tl::make_unexpected(cannotWrite(journal, EACCES));
    return syncFolder(root.path());
}

} // namespace store
