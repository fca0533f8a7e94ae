// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>

#include <sqlite3.h>

#include <memory>
#include <string>
#include <string_view>

// SQLite without the clothes: what this program needs of it, with errors as exceptions that stay inside store/sqlite.
namespace store::sql {

struct Failure {
    std::string text;
    int code = SQLITE_ERROR;
};

class Connection {
public:
    enum class Mode { Fresh, Read };
    /// Fresh: an empty file that is written without a journal, since it becomes the project only when it is complete.
    /// Read: nothing beside the file is looked at or made, no code of the file's schema runs, work is bounded.
    Connection(const QString& path, Mode mode);
    /// Reads a database that stands in memory; @p bytes must outlive the connection.
    explicit Connection(std::string& bytes);
    ~Connection();
    Connection(const Connection&) = delete;
    Connection& operator=(const Connection&) = delete;
    void run(const char* sql);
    [[nodiscard]] sqlite3* handle() const { return m_db; }

private:
    void guard();
    sqlite3* m_db = nullptr;
    long m_steps = 0;
};

class Statement {
public:
    Statement(Connection& connection, const char* sql);
    ~Statement() { sqlite3_finalize(m_statement); }
    Statement(const Statement&) = delete;
    Statement& operator=(const Statement&) = delete;

    Statement& bind(std::string_view text);
    Statement& bind(long long number);
    Statement& bindNull();
    Statement& blob(std::string_view bytes);
    /// True while there is a row.
    bool step();
    /// Runs it to its end and makes it ready for the next values.
    void execute();

    [[nodiscard]] long long integer(int column) const { return sqlite3_column_int64(m_statement, column); }
    [[nodiscard]] std::string text(int column) const;
    [[nodiscard]] std::string_view bytes(int column) const; ///< valid until the next step

private:
    Connection& m_connection;
    sqlite3_stmt* m_statement = nullptr;
    int m_next = 1;
};

} // namespace store::sql
