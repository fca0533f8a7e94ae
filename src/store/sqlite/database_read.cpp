// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/sqlite/database.h"

#include "core/base/text.h"
#include "core/model/build.h"
#include "store/csv.h"
#include "store/pack.h"
#include "store/project_fields.h"
#include "store/project_json.h"
#include "store/sqlite/schema.h"
#include "store/sqlite/seal.h"

#include <QFile>
#include <QFileInfo>

#include <algorithm>
#include <cstring>

namespace store {
namespace {
using namespace sql;

core::Problem damaged(const QString& path, const std::string& why) {
    return {path.toStdString(), "the project file is damaged: " + why,
            "open the copy beside it (" + QFileInfo(path).fileName().toStdString() + "~), or an exported folder"};
}

template <class T> T fromJson(std::string_view text, const std::string& place, std::vector<core::Problem>& warnings) {
    const auto json = parseJson(std::string(text), place);
    if (!json)
        throw ReadError{json.error()};
    T value{};
    JsonReader reader(*json, place, warnings);
    fields(reader, value);
    reader.finish();
    return value;
}

/// Reads one database. What is damaged is left out and named; what cannot be done without is thrown.
class Reader {
public:
    Reader(Connection& db, Loaded& loaded, std::uint64_t fileSize, const Progress& progress)
        : m_db(db), m_loaded(loaded), m_left(fileSize * mostTimes + alwaysBytes), m_progress(progress) {}

    /// Another program's or a newer file, or one whose tables are not ours: refused with words. Answers the schema's
    /// version.
    core::Result<int> head(const QString& path) {
        if (number("PRAGMA application_id") != applicationId)
            return core::problem(path.toStdString(), "is a database of another program",
                                 "a file saved by this program");
        const auto version = number("PRAGMA user_version");
        if (version > schemaVersion)
            return core::problem(path.toStdString(),
                                 "was written by a newer version (schema " + std::to_string(version) +
                                     ", this program reads up to " + std::to_string(schemaVersion) + ")",
                                 "a newer version of the program; the file was not touched");
        if (version < 1)
            return core::problem(path.toStdString(), "names schema " + std::to_string(version),
                                 "1 or " + std::to_string(schemaVersion));
        m_checked = version >= 2;
        m_names = {};
        Statement q(m_db, "SELECT type, name, sql FROM sqlite_schema WHERE type <> 'index' OR sql IS NOT NULL");
        while (q.step()) {
            const std::string type = q.text(0), name = q.text(1), sql = q.text(2);
            const auto ours = [&](const auto& known) {
                return std::any_of(known.begin(), known.end(),
                                   [&](const Table& t) { return name == t.name && sql == t.create; });
            };
            if (type != "table" || !(m_checked ? ours(tables2) : ours(tables1)))
                return core::problem(path.toStdString(),
                                     "holds a " + core::printable(type, core::LineEnds::Show).substr(0, 20) + " \"" +
                                         core::printable(name, core::LineEnds::Show).substr(0, 40) +
                                         "\" that a project does not have",
                                     "a file saved by this program");
            m_names.push_back(name);
        }
        for (const Table& t : tables1)
            if (std::find(m_names.begin(), m_names.end(), t.name) == m_names.end())
                return core::problem(path.toStdString(), std::string("has no table \"") + t.name + "\"",
                                     "a file saved by this program");
        return static_cast<int>(version);
    }

    /// All texts; readings are still empty.
    void texts() {
        try {
            textRows();
        } catch (const Failure& e) {
            fromSpare(e.text);
        } catch (const ReadError& e) {
            if (!m_checked)
                throw;
            fromSpare(e.problem.text());
        }
    }

    void readings() {
        auto& runs = m_loaded.project.runs;
        for (std::size_t i = 0; i < runs.size(); ++i) {
            runs[i].samples = std::make_shared<core::Samples>(samplesOf(runs[i].id, runs[i].samples->channels));
            if (m_checked)
                original(runs[i]);
            if (m_progress && !m_progress(static_cast<double>(i + 1) / static_cast<double>(runs.size())))
                throw ReadError{{"", "stopped", ""}};
        }
    }

    core::Samples samplesOf(const std::string& run, std::vector<core::Channel> channels) {
        core::Samples samples;
        std::vector<bool> lost;
        samples.timeS = blocks(run, timeChannel, "the times", std::nullopt, &lost);
        const std::size_t rows = samples.timeS.size();
        samples.channels = std::move(channels);
        for (std::size_t c = 0; c < samples.channels.size(); ++c)
            samples.channels[c].values =
                blocks(run, static_cast<int>(c), "channel " + samples.channels[c].name, rows, nullptr);
        if (std::find(lost.begin(), lost.end(), true) == lost.end())
            return samples;
        // A reading without its time is none.
        const auto keep = [&](std::vector<double>& v) {
            std::size_t to = 0;
            for (std::size_t i = 0; i < rows; ++i)
                if (!lost[i])
                    v[to++] = v[i];
            v.resize(to);
        };
        keep(samples.timeS);
        for (core::Channel& c : samples.channels)
            keep(c.values);
        return samples;
    }

    void headOnly() {
        Statement q(m_db, "SELECT value FROM project WHERE key = 'head'");
        if (!q.step())
            throw Failure{"the head of the project is missing"};
        m_loaded.project = fromJson<core::Project>(q.text(0), "project", m_loaded.warnings);
    }

    std::vector<core::Channel> channelsOf(const std::string& run) {
        std::vector<core::Channel> channels;
        Statement q(m_db, m_checked ? "SELECT position, json, sum FROM channel WHERE run = ? ORDER BY position"
                                    : "SELECT position, json, 0 FROM channel WHERE run = ? ORDER BY position");
        q.bind(run);
        while (q.step()) {
            const std::string json = q.text(1);
            expect(q.integer(2), Check().add(run).add(q.integer(0)).add(json), "channel of run " + run);
            channels.push_back(fromJson<core::Channel>(json, "run " + run + ", channel", m_loaded.warnings));
        }
        return channels;
    }

private:
    long long number(const char* pragma) {
        Statement q(m_db, pragma);
        return q.step() ? q.integer(0) : 0;
    }
    void expect(long long said, const Check& is, const std::string& what) {
        if (m_checked && said != static_cast<long long>(is.value()))
            throw Failure{"the text of " + what + " is not what was written"};
    }

    void textRows() {
        core::Project project;
        std::vector<core::Problem> warnings;
        std::swap(warnings, m_loaded.warnings);
        {
            Statement q(m_db, m_checked ? "SELECT value, sum FROM project WHERE key = 'head'"
                                        : "SELECT value, 0 FROM project WHERE key = 'head'");
            if (!q.step())
                throw Failure{"the head of the project is missing"};
            const std::string value = q.text(0);
            expect(q.integer(1), Check().add(value), "the head");
            project = fromJson<core::Project>(value, "project", m_loaded.warnings);
        }
        for (Statement q(m_db, m_checked ? "SELECT id, position, kind, json, sum FROM part ORDER BY position"
                                         : "SELECT id, position, kind, json, 0 FROM part ORDER BY position");
             q.step();) {
            const std::string id = q.text(0), kind = q.text(2), json = q.text(3);
            expect(q.integer(4), Check().add(id).add(q.integer(1)).add(kind).add(json), "part " + id);
            project.shelf.push_back(fromJson<core::Part>(json, "part " + id, m_loaded.warnings));
        }
        for (Statement q(m_db, m_checked ? "SELECT id, position, parent, json, sum FROM revision ORDER BY position"
                                         : "SELECT id, position, parent, json, 0 FROM revision ORDER BY position");
             q.step();) {
            const std::string id = q.text(0), parent = q.text(2), json = q.text(3);
            expect(q.integer(4), Check().add(id).add(q.integer(1)).add(parent).add(json), "revision " + id);
            project.revisions.push_back(fromJson<core::Revision>(json, "revision " + id, m_loaded.warnings));
        }
        for (Statement q(m_db, m_checked ? "SELECT id, position, revision, json, sum FROM run ORDER BY position"
                                         : "SELECT id, position, revision, json, 0 FROM run ORDER BY position");
             q.step();) {
            const std::string id = q.text(0), revision = q.text(2), json = q.text(3);
            expect(q.integer(4), Check().add(id).add(q.integer(1)).add(revision).add(json), "run " + id);
            auto run = fromJson<core::Run>(json, "run " + id, m_loaded.warnings);
            auto samples = std::make_shared<core::Samples>();
            samples->channels = channelsOf(id);
            run.samples = samples;
            project.runs.push_back(std::move(run));
        }
        m_loaded.project = std::move(project);
        m_loaded.warnings.insert(m_loaded.warnings.begin(), warnings.begin(), warnings.end());
    }

    /// The second copy of all texts, in place of damaged ones.
    void fromSpare(const std::string& why) {
        if (!m_checked)
            throw Failure{why};
        Statement q(m_db, "SELECT size, data, sum FROM spare WHERE key = 'texts'");
        if (!q.step())
            throw Failure{why + "; and the second copy is missing"};
        const auto size = q.integer(0);
        const std::string packed(q.bytes(1));
        if (size < 0 || size > static_cast<long long>(mostJsonBytes) ||
            q.integer(2) != static_cast<long long>(Check().add("texts").add(size).add(packed).value()))
            throw Failure{why + "; and the second copy is damaged too"};
        const auto text = unpack(packed, static_cast<std::size_t>(size));
        if (!text)
            throw Failure{why + "; and the second copy is damaged too"};
        // Channels are stated there; the readings come from the blocks.
        const auto json = parseJson(*text, "the second copy");
        if (!json)
            throw ReadError{json.error()};
        std::vector<core::Problem> ignored;
        JsonReader reader(*json, "", ignored);
        m_loaded.project = {};
        fields(reader, m_loaded.project);
        if (const auto runs = json->find("runs"); runs != json->end())
            for (const Json& j : *runs) {
                JsonReader r(j, "runs", ignored);
                core::Run run;
                fields(r, run);
                auto samples = std::make_shared<core::Samples>();
                r("channels", samples->channels, {});
                run.samples = samples;
                m_loaded.project.runs.push_back(std::move(run));
            }
        lost(why, "nothing is lost: it was read from its second copy");
    }

    void lost(const std::string& what, const std::string& remedy) {
        m_loaded.damaged = true;
        m_loaded.warnings.push_back({"damaged file", what, remedy});
    }

    /// Rows of a channel, the first counted from one.
    void sayLostRows(const std::string& run, const std::string& name, std::size_t from, std::size_t to) {
        lost("run " + run + ", " + name + ": rows " + std::to_string(from) + " to " + std::to_string(to) +
                 " are damaged",
             "they are lost, all others are here");
    }
    void sayLostBlock(const std::string& run, const std::string& name) {
        lost("run " + run + ", " + name + ": a block of readings is damaged", "those readings are lost");
    }

    /// Readings of a channel; a block that is damaged becomes readings that are missing, and is named.
    std::vector<double> blocks(const std::string& run, int channel, const std::string& name,
                               std::optional<std::size_t> wanted, std::vector<bool>* lostRows) {
        std::vector<double> values;
        try {
            Statement q(
                m_db,
                m_checked
                    ? "SELECT block, rows, data, sum FROM sample_block WHERE run = ? AND channel = ? ORDER BY block"
                    : "SELECT block, rows, data, 0 FROM sample_block WHERE run = ? AND channel = ? ORDER BY block");
            q.bind(run).bind(channel);
            for (long long expected = 0; q.step(); ++expected) {
                const long long block = q.integer(0), rows = q.integer(1);
                std::string_view data = q.bytes(2);
                if (!m_checked) // schema 1 put the length before each stream, which nobody needs to believe
                    data.remove_prefix(std::min<std::size_t>(4, data.size()));
                const std::size_t at = values.size();
                const bool sound =
                    block == expected && rows > 0 && rows <= blockRows &&
                    (!m_checked ||
                     q.integer(3) ==
                         static_cast<long long>(Check().add(run).add(channel).add(block).add(rows).add(data).value()));
                const std::size_t count = rows > 0 && rows <= blockRows ? static_cast<std::size_t>(rows) : 0;
                if (count * sizeof(double) > m_left)
                    throw ReadError{{"run " + run,
                                     "its readings unpack to more than " + std::to_string(mostTimes) +
                                         " times the size of the file",
                                     "a file saved by this program"}};
                if (count * sizeof(double) > data.size() * 1040 + 64) { // zlib cannot: not even memory is taken for it
                    sayLostBlock(run, name);
                    continue;
                }
                m_left -= count * sizeof(double);
                values.resize(at + count);
                if (sound && unpackInto(data, reinterpret_cast<char*>(values.data() + at), count * sizeof(double)))
                    continue;
                std::fill(values.begin() + static_cast<std::ptrdiff_t>(at), values.end(), std::nan(""));
                if (lostRows) {
                    lostRows->resize(at, false);
                    lostRows->resize(values.size(), true);
                }
                sayLostRows(run, name, at + 1, values.size());
            }
        } catch (const Failure& e) {
            lost("run " + run + ", " + name + ": " + e.text, "what could not be read is lost, all others are here");
        }
        if (lostRows)
            lostRows->resize(values.size(), false);
        if (wanted && values.size() != *wanted) {
            if (values.size() > *wanted || m_checked)
                lost("run " + run + ", " + name + ": " + std::to_string(values.size()) + " readings of " +
                         std::to_string(*wanted),
                     "the rest is lost");
            values.resize(*wanted, std::nan(""));
        }
        return values;
    }

    void original(core::Run& run) {
        try {
            Statement q(m_db, "SELECT name, size, data, sum FROM original WHERE run = ?");
            q.bind(run.id);
            if (!q.step())
                return;
            core::Original kept{
                .name = q.text(0), .packed = std::string(q.bytes(2)), .size = static_cast<std::uint64_t>(q.integer(1))};
            if (q.integer(3) !=
                static_cast<long long>(Check().add(run.id).add(kept.name).add(q.integer(1)).add(kept.packed).value()))
                throw Failure{"its bytes are not what was written"};
            run.original = std::make_shared<core::Original>(std::move(kept));
        } catch (const Failure& e) {
            lost("run " + run.id + ", the log it was read in from: " + e.text, "its readings are here");
        }
    }

    Connection& m_db;
    Loaded& m_loaded;
    std::uint64_t m_left;
    const Progress& m_progress;
    std::vector<std::string> m_names;
    bool m_checked = true;
};

/// The bytes of a file whose one flipped bit is put right.
core::Result<std::string> mended(const QString& path, std::uint64_t bit) {
    auto bytes = readFile(path.toStdString());
    if (!bytes)
        return bytes;
    bytes->resize(bytes->size() - sealBytes);
    (*bytes)[bit / 8] = static_cast<char>((*bytes)[bit / 8] ^ (1 << (bit % 8)));
    return bytes;
}

/// What of a file is wanted: all, its head, or one run.
struct Wanted {
    enum What { All, Head, Run } what = All;
    std::string run;
};

core::Result<Loaded> readFrom(Connection& db, const QString& path, std::uint64_t size, Loaded loaded,
                              const Progress& progress, const Wanted& wanted) {
    Reader reader(db, loaded, size, progress);
    const auto version = reader.head(path);
    if (!version)
        return tl::make_unexpected(version.error());
    if (*version == 1 && wanted.what == Wanted::All) { // without checks of its own, the database is asked
        Statement check(db, "PRAGMA quick_check");
        if (check.step() && check.text(0) != "ok")
            return tl::make_unexpected(damaged(path, check.text(0)));
    }
    if (wanted.what == Wanted::Head) {
        reader.headOnly();
        return loaded;
    }
    if (wanted.what == Wanted::Run) {
        core::Run run{.id = wanted.run};
        run.samples = std::make_shared<core::Samples>(reader.samplesOf(wanted.run, reader.channelsOf(wanted.run)));
        loaded.project.runs.push_back(std::move(run));
        return loaded;
    }
    reader.texts();
    reader.readings();
    return loaded;
}

core::Result<Loaded> read(const QString& path, const Progress& progress, const Wanted& wanted) {
    Loaded loaded;
    const auto state = wanted.what != Wanted::All ? core::Result<Sealed>(Sealed{Soundness::Whole, 0}) : examine(path);
    if (!state)
        return tl::make_unexpected(state.error());
    loaded.damaged = state->soundness == Soundness::OneBit || state->soundness == Soundness::Damaged ||
                     state->soundness == Soundness::BrokenSeal;
    try {
        if (state->soundness == Soundness::OneBit) {
            auto bytes = mended(path, state->bit);
            if (!bytes)
                return tl::make_unexpected(bytes.error());
            loaded.warnings.push_back({"damaged file",
                                       "one bit of byte " + std::to_string(state->bit / 8) +
                                           " was flipped; it was put right and nothing is lost",
                                       "save the project to store it sound again, and look after the disk"});
            Connection db(*bytes);
            return readFrom(db, path, bytes->size(), std::move(loaded), progress, wanted);
        }
        if (state->soundness == Soundness::BrokenSeal)
            loaded.warnings.push_back({"damaged file", "the seal at its end was damaged; nothing else is",
                                       "save the project to seal it again, and look after the disk"});
        Connection db(path, Connection::Mode::Read);
        const std::size_t before = loaded.warnings.size();
        auto found =
            readFrom(db, path, static_cast<std::uint64_t>(QFileInfo(path).size()), std::move(loaded), progress, wanted);
        const auto version = [&] {
            Statement q(db, "PRAGMA user_version");
            return q.step() ? q.integer(0) : 0;
        };
        const bool endIsGone = state->soundness == Soundness::Unsealed && found && version() >= 2;
        if (found && (state->soundness == Soundness::Damaged || endIsGone)) {
            found->damaged = true;
            if (found->warnings.size() == before)
                found->warnings.push_back(
                    {"damaged file",
                     endIsGone ? "its end is gone; all readings and texts are here"
                               : "bytes outside of the readings and texts were changed; all of these are here",
                     "save the project to store it sound again, and look after the disk"});
        }
        return found;
    } catch (const Failure& e) {
        return tl::make_unexpected(damaged(path, e.text));
    } catch (const ReadError& e) {
        return core::problem(path.toStdString() + (e.problem.place.empty() ? "" : ", " + e.problem.place),
                             e.problem.what, e.problem.remedy);
    } catch (const Json::exception& e) {
        return tl::make_unexpected(damaged(path, e.what()));
    }
}

} // namespace

bool looksLikeDatabase(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) && (file.read(15) == "SQLite format 3" || sealOf(path));
}

core::Result<Loaded> readDatabase(const QString& path, const Progress& progress) {
    auto loaded = read(path, progress, {});
    if (!loaded)
        return loaded;
    if (auto wrong = core::validate(loaded->project); !wrong.empty())
        return core::problem(path.toStdString() + ", " + wrong.front().place, wrong.front().what, wrong.front().remedy);
    return loaded;
}

core::Result<Loaded> readDatabaseBytes(std::string bytes) {
    const QString name = QStringLiteral("memory");
    try {
        Connection db(bytes);
        return readFrom(db, name, bytes.size(), {}, {}, {});
    } catch (const Failure& e) {
        return tl::make_unexpected(damaged(name, e.text));
    } catch (const ReadError& e) {
        return tl::make_unexpected(e.problem);
    } catch (const Json::exception& e) {
        return tl::make_unexpected(damaged(name, e.what()));
    }
}

core::Result<core::Project> readDatabaseHead(const QString& path) {
    auto loaded = read(path, {}, {Wanted::Head, {}});
    if (!loaded)
        return tl::make_unexpected(loaded.error());
    return std::move(loaded->project);
}

core::Result<core::Samples> readDatabaseRun(const QString& path, const std::string& run) {
    auto loaded = read(path, {}, {Wanted::Run, run});
    if (!loaded)
        return tl::make_unexpected(loaded.error());
    if (loaded->damaged)
        return tl::make_unexpected(damaged(path, loaded->warnings.front().text()));
    return *loaded->project.runs.front().samples;
}

} // namespace store
