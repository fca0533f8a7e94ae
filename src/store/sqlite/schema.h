// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sqlite/connection.h"

#include <array>

namespace store::sql {

/// One table as it was created; a file whose tables read otherwise is not one of ours.
struct Table {
    const char* name;
    const char* create;
};

// Whole things (a part, a revision, the head of a run) are JSON in one column, in the words of the interchange format;
// what refers to what is in columns of its own, so that the database itself refuses a broken reference.
// "sum" is the CRC-32 of the other columns: what is damaged is known row by row.
constexpr std::array<Table, 8> tables2{{
    {"project", "CREATE TABLE project (key TEXT PRIMARY KEY, value TEXT NOT NULL, sum INTEGER NOT NULL) WITHOUT ROWID"},
    {"part", "CREATE TABLE part (id TEXT PRIMARY KEY, position INTEGER NOT NULL UNIQUE, kind TEXT NOT NULL, json TEXT "
             "NOT NULL, sum INTEGER NOT NULL)"},
    {"revision", "CREATE TABLE revision (id TEXT PRIMARY KEY, position INTEGER NOT NULL UNIQUE, parent TEXT REFERENCES "
                 "revision(id) DEFERRABLE INITIALLY DEFERRED, json TEXT NOT NULL, sum INTEGER NOT NULL)"},
    {"run", "CREATE TABLE run (id TEXT PRIMARY KEY, position INTEGER NOT NULL UNIQUE, revision TEXT NOT NULL "
            "REFERENCES revision(id), json TEXT NOT NULL, sum INTEGER NOT NULL)"},
    {"channel", "CREATE TABLE channel (run TEXT NOT NULL REFERENCES run(id), position INTEGER NOT NULL, json TEXT NOT "
                "NULL, sum INTEGER NOT NULL, PRIMARY KEY (run, position))"},
    {"sample_block",
     "CREATE TABLE sample_block (run TEXT NOT NULL REFERENCES run(id), channel INTEGER NOT NULL, block INTEGER NOT "
     "NULL, rows INTEGER NOT NULL, data BLOB NOT NULL, sum INTEGER NOT NULL, PRIMARY KEY (run, channel, block))"},
    {"original", "CREATE TABLE original (run TEXT PRIMARY KEY REFERENCES run(id), name TEXT NOT NULL, size INTEGER NOT "
                 "NULL, data BLOB NOT NULL, sum INTEGER NOT NULL)"},
    {"spare",
     "CREATE TABLE spare (key TEXT PRIMARY KEY, size INTEGER NOT NULL, data BLOB NOT NULL, sum INTEGER NOT NULL)"},
}};
/// Schema 1, before checks, originals and the spare copy of all texts.
constexpr std::array<Table, 6> tables1{{
    {"project", "CREATE TABLE project (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID"},
    {"part", "CREATE TABLE part (id TEXT PRIMARY KEY, position INTEGER NOT NULL UNIQUE, kind TEXT NOT NULL, json TEXT "
             "NOT NULL)"},
    {"revision", "CREATE TABLE revision (id TEXT PRIMARY KEY, position INTEGER NOT NULL UNIQUE, parent TEXT REFERENCES "
                 "revision(id) DEFERRABLE INITIALLY DEFERRED, json TEXT NOT NULL)"},
    {"run", "CREATE TABLE run (id TEXT PRIMARY KEY, position INTEGER NOT NULL UNIQUE, revision TEXT NOT NULL "
            "REFERENCES revision(id), json TEXT NOT NULL)"},
    {"channel", "CREATE TABLE channel (run TEXT NOT NULL REFERENCES run(id), position INTEGER NOT NULL, json TEXT NOT "
                "NULL, PRIMARY KEY (run, position))"},
    {"sample_block", "CREATE TABLE sample_block (run TEXT NOT NULL REFERENCES run(id), channel INTEGER NOT NULL, block "
                     "INTEGER NOT NULL, rows INTEGER NOT NULL, data BLOB NOT NULL, PRIMARY KEY (run, channel, block))"},
}};

constexpr int blockRows = 65536; ///< rows of a block of readings
constexpr int timeChannel = -1;  ///< number of the time among the channels of a block

/// Bytes that readings of a file may take in memory: this many times its size, and this much always.
constexpr std::uint64_t mostTimes = 200, alwaysBytes = 32'000'000;

} // namespace store::sql
