// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/sqlite/connection.h"

#include <QUrl>

namespace store::sql {
namespace {

constexpr int stepsBetweenLooks = 10'000;
/// No query of ours takes a hundredth of this, at 500 runs; a query that a stranger's file makes endless ends here.
constexpr long mostLooks = 100'000;
constexpr int mostBytesInAField = 64'000'000;

[[noreturn]] void fail(sqlite3* db, int code) { throw Failure{db ? sqlite3_errmsg(db) : sqlite3_errstr(code), code}; }

} // namespace

Connection::Connection(const QString& path, Mode mode) {
    const QByteArray name =
        QUrl::fromLocalFile(path).toEncoded() + (mode == Mode::Read ? "?immutable=1&mode=ro" : "?mode=rw");
    const int flags =
        SQLITE_OPEN_URI | SQLITE_OPEN_NOMUTEX | (mode == Mode::Read ? SQLITE_OPEN_READONLY : SQLITE_OPEN_READWRITE);
    if (const int code = sqlite3_open_v2(name.constData(), &m_db, flags, nullptr); code != SQLITE_OK) {
        const std::string words = m_db ? sqlite3_errmsg(m_db) : sqlite3_errstr(code);
        sqlite3_close(m_db);
        throw Failure{words, code};
    }
    try {
        if (mode == Mode::Fresh)
            run("PRAGMA journal_mode=OFF; PRAGMA synchronous=OFF; PRAGMA locking_mode=EXCLUSIVE; PRAGMA "
                "foreign_keys=ON");
        else
            guard();
    } catch (...) {
        sqlite3_close(m_db);
        throw;
    }
}

Connection::Connection(std::string& bytes) {
    if (const int code = sqlite3_open_v2(":memory:", &m_db, SQLITE_OPEN_READWRITE | SQLITE_OPEN_NOMUTEX, nullptr);
        code != SQLITE_OK) {
        sqlite3_close(m_db);
        throw Failure{sqlite3_errstr(code), code};
    }
    const auto size = static_cast<sqlite3_int64>(bytes.size());
    const int code = sqlite3_deserialize(m_db, "main", reinterpret_cast<unsigned char*>(bytes.data()), size, size,
                                         SQLITE_DESERIALIZE_READONLY);
    if (code != SQLITE_OK) {
        sqlite3_close(m_db);
        throw Failure{sqlite3_errstr(code), code};
    }
    guard();
}

Connection::~Connection() { sqlite3_close(m_db); }

void Connection::guard() {
    sqlite3_db_config(m_db, SQLITE_DBCONFIG_DEFENSIVE, 1, nullptr);
    sqlite3_db_config(m_db, SQLITE_DBCONFIG_TRUSTED_SCHEMA, 0, nullptr);
    sqlite3_db_config(m_db, SQLITE_DBCONFIG_ENABLE_TRIGGER, 0, nullptr);
    sqlite3_db_config(m_db, SQLITE_DBCONFIG_ENABLE_VIEW, 0, nullptr);
    sqlite3_limit(m_db, SQLITE_LIMIT_LENGTH, mostBytesInAField);
    sqlite3_limit(m_db, SQLITE_LIMIT_ATTACHED, 0);
    sqlite3_progress_handler(
        m_db, stepsBetweenLooks,
        [](void* self) { return ++static_cast<Connection*>(self)->m_steps > mostLooks ? 1 : 0; }, this);
}

void Connection::run(const char* sql) {
    if (const int code = sqlite3_exec(m_db, sql, nullptr, nullptr, nullptr); code != SQLITE_OK)
        fail(m_db, code);
}

Statement::Statement(Connection& connection, const char* sql) : m_connection(connection) {
    if (const int code = sqlite3_prepare_v2(connection.handle(), sql, -1, &m_statement, nullptr); code != SQLITE_OK)
        fail(connection.handle(), code);
}

Statement& Statement::bind(std::string_view text) {
    // A null pointer would be NULL and not the empty text.
    if (const int code = sqlite3_bind_text64(m_statement, m_next++, text.data() ? text.data() : "", text.size(),
                                             SQLITE_TRANSIENT, SQLITE_UTF8);
        code != SQLITE_OK)
        fail(m_connection.handle(), code);
    return *this;
}

Statement& Statement::bind(long long number) {
    if (const int code = sqlite3_bind_int64(m_statement, m_next++, number); code != SQLITE_OK)
        fail(m_connection.handle(), code);
    return *this;
}

Statement& Statement::bindNull() {
    ++m_next; // unbound is NULL
    return *this;
}

Statement& Statement::blob(std::string_view bytes) {
    if (const int code =
            sqlite3_bind_blob64(m_statement, m_next++, bytes.data() ? bytes.data() : "", bytes.size(), SQLITE_STATIC);
        code != SQLITE_OK)
        fail(m_connection.handle(), code);
    return *this;
}

bool Statement::step() {
    const int code = sqlite3_step(m_statement);
    if (code == SQLITE_ROW)
        return true;
    if (code != SQLITE_DONE)
        fail(m_connection.handle(), code);
    return false;
}

void Statement::execute() {
    while (step()) {
    }
    sqlite3_reset(m_statement);
    sqlite3_clear_bindings(m_statement);
    m_next = 1;
}

std::string Statement::text(int column) const { return std::string(bytes(column)); }

std::string_view Statement::bytes(int column) const {
    const void* data = sqlite3_column_blob(m_statement, column);
    return {static_cast<const char*>(data),
            data ? static_cast<std::size_t>(sqlite3_column_bytes(m_statement, column)) : 0};
}

} // namespace store::sql
