// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/sqlite/database.h"

#include "core/model/build.h"
#include "store/project_fields.h"

#include <QFile>
#include <QFileInfo>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QUuid>
#include <QVariant>

#include <bit>
#include <cstring>
#include <fcntl.h>
#include <unistd.h>

namespace store {
namespace {

// Whole things (a part, a revision, the head of a run) are JSON in one column, in the words of the interchange format;
// what refers to what is in columns of its own, so that the database itself refuses a broken reference.
constexpr std::array<const char*, 6> schema{
    "CREATE TABLE project (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID",
    "CREATE TABLE part (id TEXT PRIMARY KEY, position INTEGER NOT NULL UNIQUE, kind TEXT NOT NULL, json TEXT NOT NULL)",
    "CREATE TABLE revision (id TEXT PRIMARY KEY, position INTEGER NOT NULL UNIQUE, parent TEXT REFERENCES revision(id) DEFERRABLE INITIALLY DEFERRED, json TEXT NOT NULL)",
    "CREATE TABLE run (id TEXT PRIMARY KEY, position INTEGER NOT NULL UNIQUE, revision TEXT NOT NULL REFERENCES revision(id), json TEXT NOT NULL)",
    "CREATE TABLE channel (run TEXT NOT NULL REFERENCES run(id), position INTEGER NOT NULL, json TEXT NOT NULL, PRIMARY KEY (run, position))",
    "CREATE TABLE sample_block (run TEXT NOT NULL REFERENCES run(id), channel INTEGER NOT NULL, block INTEGER NOT NULL, rows INTEGER NOT NULL, data BLOB NOT NULL, PRIMARY KEY (run, channel, block))",
};
constexpr int blockRows = 65536;
constexpr int timeChannel = -1;

/// One connection, closed and forgotten at the end of its life.
class Connection {
public:
    Connection(const QString& path, const QString& options) : m_name(QUuid::createUuid().toString()) {
        m_db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), m_name);
        m_db.setDatabaseName(path);
        m_db.setConnectOptions(options);
        m_open = m_db.open();
    }
    ~Connection() {
        m_db.close();
        m_db = {};
        QSqlDatabase::removeDatabase(m_name);
    }
    Connection(const Connection&) = delete;
    Connection& operator=(const Connection&) = delete;

    [[nodiscard]] bool isOpen() const { return m_open; }
    QSqlDatabase& db() { return m_db; }

private:
    QString m_name;
    QSqlDatabase m_db;
    bool m_open = false;
};

struct SqlFailure { QString text; };

QSqlQuery run(QSqlDatabase& db, const QString& sql, const QVariantList& values = {}) {
    QSqlQuery query(db);
    query.setForwardOnly(true);
    bool ok = query.prepare(sql);
    for (const QVariant& v : values)
        query.addBindValue(v);
    ok = ok && query.exec();
    if (!ok)
        throw SqlFailure{query.lastError().text()};
    return query;
}

int pragma(QSqlDatabase& db, const char* name) {
    QSqlQuery query = run(db, QStringLiteral("PRAGMA %1").arg(QLatin1String(name)));
    return query.next() ? query.value(0).toInt() : 0;
}

QString text(const std::string& s) { return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size())); }
template <class T> QString jsonText(const T& value) { return text(JsonWriter::toJson(value).dump(-1, ' ', false, Json::error_handler_t::replace)); }

void writeBlocks(QSqlDatabase& db, const QString& runId, int channel, const std::vector<double>& values) {
    static_assert(std::endian::native == std::endian::little, "blocks are little-endian doubles");
    QSqlQuery query(db);
    query.prepare(QStringLiteral("INSERT INTO sample_block VALUES (?,?,?,?,?)"));
    for (std::size_t from = 0, block = 0; from < values.size(); from += blockRows, ++block) {
        const std::size_t rows = std::min<std::size_t>(blockRows, values.size() - from);
        const QByteArray raw = QByteArray::fromRawData(reinterpret_cast<const char*>(values.data() + from), static_cast<qsizetype>(rows * sizeof(double)));
        query.addBindValue(runId);
        query.addBindValue(channel);
        query.addBindValue(static_cast<int>(block));
        query.addBindValue(static_cast<int>(rows));
        query.addBindValue(qCompress(raw, 1));
        if (!query.exec())
            throw SqlFailure{query.lastError().text()};
    }
}

std::vector<double> readBlocks(QSqlDatabase& db, const QString& runId, int channel) {
    std::vector<double> values;
    QSqlQuery query = run(db, QStringLiteral("SELECT rows, data FROM sample_block WHERE run = ? AND channel = ? ORDER BY block"), {runId, channel});
    while (query.next()) {
        const QByteArray raw = qUncompress(query.value(1).toByteArray());
        const auto rows = static_cast<std::size_t>(query.value(0).toInt());
        if (raw.size() != static_cast<qsizetype>(rows * sizeof(double)))
            throw SqlFailure{QStringLiteral("a block of readings of run %1 is damaged").arg(runId)};
        const std::size_t at = values.size();
        values.resize(at + rows);
        std::memcpy(values.data() + at, raw.data(), rows * sizeof(double));
    }
    return values;
}

void writeAll(QSqlDatabase& db, const core::Project& project) {
    run(db, QStringLiteral("PRAGMA foreign_keys = ON"));
    run(db, QStringLiteral("PRAGMA application_id = %1").arg(applicationId));
    run(db, QStringLiteral("PRAGMA user_version = %1").arg(schemaVersion));
    if (!db.transaction())
        throw SqlFailure{db.lastError().text()};
    for (const char* sql : schema)
        run(db, QLatin1String(sql));
    core::Project head = project;
    head.shelf.clear();
    head.revisions.clear();
    head.runs.clear();
    run(db, QStringLiteral("INSERT INTO project VALUES ('head', ?)"), {jsonText(head)});
    int position = 0;
    for (const core::Part& part : project.shelf)
        run(db, QStringLiteral("INSERT INTO part VALUES (?,?,?,?)"), {text(part.id), position++, text(std::string(core::kindWord(part.kind))), jsonText(part)});
    position = 0;
    for (const core::Revision& r : project.revisions)
        run(db, QStringLiteral("INSERT INTO revision VALUES (?,?,?,?)"), {text(r.id), position++, r.parent.empty() ? QVariant() : QVariant(text(r.parent)), jsonText(r)});
    position = 0;
    for (const core::Run& r : project.runs) {
        run(db, QStringLiteral("INSERT INTO run VALUES (?,?,?,?)"), {text(r.id), position++, text(r.revision), jsonText(r)});
        writeBlocks(db, text(r.id), timeChannel, r.samples->timeS);
        for (std::size_t c = 0; c < r.samples->channels.size(); ++c) {
            run(db, QStringLiteral("INSERT INTO channel VALUES (?,?,?)"), {text(r.id), static_cast<int>(c), jsonText(r.samples->channels[c])});
            writeBlocks(db, text(r.id), static_cast<int>(c), r.samples->channels[c].values);
        }
    }
    if (!db.commit())
        throw SqlFailure{db.lastError().text()};
}

template <class T> T readJson(const QString& source, const std::string& place, std::vector<core::Problem>& warnings) {
    const Json json = Json::parse(source.toStdString());
    T value{};
    JsonReader reader(json, place, warnings);
    fields(reader, value);
    reader.finish();
    return value;
}

core::Project readAll(QSqlDatabase& db, std::vector<core::Problem>& warnings) {
    QSqlQuery head = run(db, QStringLiteral("SELECT value FROM project WHERE key = 'head'"));
    if (!head.next())
        throw SqlFailure{QStringLiteral("the head of the project is missing")};
    auto project = readJson<core::Project>(head.value(0).toString(), "project", warnings);
    for (QSqlQuery q = run(db, QStringLiteral("SELECT id, json FROM part ORDER BY position")); q.next();)
        project.shelf.push_back(readJson<core::Part>(q.value(1).toString(), "part " + q.value(0).toString().toStdString(), warnings));
    for (QSqlQuery q = run(db, QStringLiteral("SELECT id, json FROM revision ORDER BY position")); q.next();)
        project.revisions.push_back(readJson<core::Revision>(q.value(1).toString(), "revision " + q.value(0).toString().toStdString(), warnings));
    for (QSqlQuery q = run(db, QStringLiteral("SELECT id, json FROM run ORDER BY position")); q.next();) {
        const QString id = q.value(0).toString();
        auto r = readJson<core::Run>(q.value(1).toString(), "run " + id.toStdString(), warnings);
        core::Samples samples;
        samples.timeS = readBlocks(db, id, timeChannel);
        int channel = 0;
        for (QSqlQuery c = run(db, QStringLiteral("SELECT json FROM channel WHERE run = ? ORDER BY position"), {id}); c.next(); ++channel) {
            samples.channels.push_back(readJson<core::Channel>(c.value(0).toString(), "run " + id.toStdString() + ", channel", warnings));
            samples.channels.back().values = readBlocks(db, id, channel);
        }
        r.samples = std::make_shared<core::Samples>(std::move(samples));
        project.runs.push_back(std::move(r));
    }
    return project;
}

core::Problem damaged(const QString& path, const QString& why) {
    return {path.toStdString(), "the project file is damaged: " + why.toStdString(), "open the copy beside it (" + QFileInfo(path).fileName().toStdString() + "~), or an exported folder"};
}

bool syncFile(const QString& path) {
    const int fd = ::open(QFile::encodeName(path).constData(), O_RDONLY);
    if (fd < 0)
        return false;
    const bool ok = ::fsync(fd) == 0;
    ::close(fd);
    return ok;
}

} // namespace

bool looksLikeDatabase(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) && file.read(15) == "SQLite format 3";
}

core::Result<Loaded> readDatabase(const QString& path) {
    Loaded loaded;
    try {
        Connection connection(path, QStringLiteral("QSQLITE_OPEN_READONLY"));
        if (!connection.isOpen())
            return tl::make_unexpected(damaged(path, connection.db().lastError().text()));
        QSqlDatabase& db = connection.db();
        if (pragma(db, "application_id") != applicationId)
            return core::problem(path.toStdString(), "is a database of another program", "a file saved by this program");
        if (const int version = pragma(db, "user_version"); version > schemaVersion)
            return core::problem(path.toStdString(), "was written by a newer version (schema " + std::to_string(version) + ", this program reads up to " + std::to_string(schemaVersion) + ")",
                                 "a newer version of the program; the file was not touched");
        QSqlQuery check = run(db, QStringLiteral("PRAGMA quick_check"));
        if (check.next() && check.value(0).toString() != QLatin1String("ok"))
            return tl::make_unexpected(damaged(path, check.value(0).toString()));
        check.finish();
        loaded.project = readAll(db, loaded.warnings);
    } catch (const SqlFailure& e) {
        return tl::make_unexpected(damaged(path, e.text));
    } catch (const ReadError& e) {
        return core::problem(path.toStdString() + ", " + e.problem.place, e.problem.what, e.problem.remedy);
    } catch (const Json::exception& e) {
        return tl::make_unexpected(damaged(path, QString::fromUtf8(e.what())));
    }
    if (auto wrong = core::validate(loaded.project); !wrong.empty())
        return core::problem(path.toStdString() + ", " + wrong.front().place, wrong.front().what, wrong.front().remedy);
    return loaded;
}

core::Result<void> writeDatabase(const core::Project& project, const QString& path) {
    const QString fresh = path + QStringLiteral(".saving");
    QFile::remove(fresh);
    try {
        Connection connection(fresh, {});
        if (!connection.isOpen())
            return core::problem(path.toStdString(), "cannot be written: " + connection.db().lastError().text().toStdString(), "check the folder and the space left");
        writeAll(connection.db(), project);
    } catch (const SqlFailure& e) {
        QFile::remove(fresh);
        return core::problem(path.toStdString(), "cannot be written: " + e.text.toStdString(), "check the folder and the space left");
    }
    syncFile(fresh);
    // The last good version stays beside the file; the rename swaps old for new in one step.
    if (QFile::exists(path)) {
        QFile::remove(path + QLatin1Char('~'));
        QFile::copy(path, path + QLatin1Char('~'));
    }
    if (::rename(QFile::encodeName(fresh).constData(), QFile::encodeName(path).constData()) != 0) {
        QFile::remove(fresh);
        return core::problem(path.toStdString(), "cannot be put in place", "check the rights of the folder");
    }
    syncFile(QFileInfo(path).absolutePath());
    return {};
}

} // namespace store
