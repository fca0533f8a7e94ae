// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/sqlite/database.h"

#include "core/model/build.h"
#include "store/pack.h"
#include "store/project_fields.h"
#include "store/project_json.h"
#include "store/run_files.h"
#include "store/sqlite/schema.h"
#include "store/sqlite/seal.h"

#include <QFile>
#include <QFileInfo>

#include <bit>

namespace store {
namespace {
using namespace sql;

struct Stopped {};

template <class T> std::string jsonLine(const T& value) {
    return JsonWriter::toJson(value).dump(-1, ' ', false, Json::error_handler_t::replace);
}

class Writer {
public:
    Writer(Connection& db, const core::Project& project, Packing packing, const Progress& progress)
        : m_db(db), m_project(project), m_packing(packing), m_progress(progress) {}

    void all() {
        m_db.run(("PRAGMA application_id = " + std::to_string(applicationId) +
                  "; PRAGMA user_version = " + std::to_string(schemaVersion) + "; BEGIN")
                     .c_str());
        for (const Table& table : tables2)
            m_db.run(table.create);
        texts();
        for (std::size_t i = 0; i < m_project.runs.size(); ++i) {
            run(static_cast<int>(i), m_project.runs[i]);
            if (m_progress && !m_progress(static_cast<double>(i + 1) / static_cast<double>(m_project.runs.size() + 1)))
                throw Stopped{};
        }
        m_db.run("COMMIT");
    }
    [[nodiscard]] std::uint64_t rawBytes() const { return m_raw; }

private:
    void texts() {
        core::Project head = m_project;
        head.shelf.clear();
        head.revisions.clear();
        head.runs.clear();
        const std::string text = jsonLine(head);
        Statement(m_db, "INSERT INTO project VALUES ('head', ?, ?)")
            .bind(text)
            .bind(Check().add(text).value())
            .execute();
        int position = 0;
        Statement part(m_db, "INSERT INTO part VALUES (?,?,?,?,?)");
        for (const core::Part& p : m_project.shelf) {
            const std::string json = jsonLine(p), kind(core::kindWord(p.kind));
            part.bind(p.id)
                .bind(position)
                .bind(kind)
                .bind(json)
                .bind(Check().add(p.id).add(position).add(kind).add(json).value())
                .execute();
            ++position;
        }
        position = 0;
        Statement revision(m_db, "INSERT INTO revision VALUES (?,?,?,?,?)");
        for (const core::Revision& r : m_project.revisions) {
            const std::string json = jsonLine(r);
            revision.bind(r.id).bind(position);
            r.parent.empty() ? revision.bindNull() : revision.bind(r.parent);
            revision.bind(json).bind(Check().add(r.id).add(position).add(r.parent).add(json).value()).execute();
            ++position;
        }
        // All texts once more in one piece: a damaged page costs none of them.
        const std::string spare = writeProjectJson(m_project), packed = pack(spare);
        Statement(m_db, "INSERT INTO spare VALUES ('texts', ?, ?, ?)")
            .bind(static_cast<long long>(spare.size()))
            .blob(packed)
            .bind(Check().add("texts").add(static_cast<long long>(spare.size())).add(packed).value())
            .execute();
    }

    void run(int position, const core::Run& r) {
        const std::string json = jsonLine(r);
        Statement(m_db, "INSERT INTO run VALUES (?,?,?,?,?)")
            .bind(r.id)
            .bind(position)
            .bind(r.revision)
            .bind(json)
            .bind(Check().add(r.id).add(position).add(r.revision).add(json).value())
            .execute();
        blocks(r.id, timeChannel, r.samples->timeS);
        Statement channel(m_db, "INSERT INTO channel VALUES (?,?,?,?)");
        for (std::size_t c = 0; c < r.samples->channels.size(); ++c) {
            const std::string head = jsonLine(r.samples->channels[c]);
            const auto number = static_cast<long long>(c);
            channel.bind(r.id).bind(number).bind(head).bind(Check().add(r.id).add(number).add(head).value()).execute();
            blocks(r.id, static_cast<int>(c), r.samples->channels[c].values);
        }
        if (const auto original = originalOf(r)) {
            const auto size = static_cast<long long>(original->size);
            Statement(m_db, "INSERT INTO original VALUES (?,?,?,?,?)")
                .bind(r.id)
                .bind(original->name)
                .bind(size)
                .blob(original->packed)
                .bind(Check().add(r.id).add(original->name).add(size).add(original->packed).value())
                .execute();
        }
    }

    void blocks(const std::string& runId, int channel, const std::vector<double>& values) {
        static_assert(std::endian::native == std::endian::little, "blocks are little-endian doubles");
        Statement insert(m_db, "INSERT INTO sample_block VALUES (?,?,?,?,?,?)");
        int block = 0;
        for (std::size_t from = 0; from < values.size(); from += blockRows, ++block) {
            const std::size_t rows = std::min<std::size_t>(blockRows, values.size() - from);
            const std::string packed =
                pack({reinterpret_cast<const char*>(values.data() + from), rows * sizeof(double)}, m_packing);
            const auto count = static_cast<long long>(rows);
            insert.bind(runId)
                .bind(channel)
                .bind(block)
                .bind(count)
                .blob(packed)
                .bind(Check().add(runId).add(channel).add(block).add(count).add(packed).value())
                .execute();
            m_raw += rows * sizeof(double);
        }
    }

    Connection& m_db;
    const core::Project& m_project;
    Packing m_packing;
    const Progress& m_progress;
    std::uint64_t m_raw = 0;
};

/// Fills a fresh file; answers how many bytes of readings it holds.
std::uint64_t fill(const QString& path, const core::Project& project, Packing packing, const Progress& progress) {
    Connection db(path, Connection::Mode::Fresh);
    Writer writer(db, project, packing, progress);
    writer.all();
    return writer.rawBytes();
}

core::Result<void> seal(FreshFile& file) {
    const auto size = static_cast<std::uint64_t>(QFileInfo(file.path()).size());
    const auto seal = computeSeal(file.path(), size);
    if (!seal)
        return tl::make_unexpected(seal.error());
    const auto text = sealText(*seal);
    return file.append(text.data(), text.size());
}

/// A damaged file must not push the last good copy out of its place.
core::Result<FreshFile::Backup> backupFor(const QString& target) {
    if (!QFileInfo::exists(target) || QFileInfo(target).size() == 0)
        return FreshFile::Backup::None;
    const auto found = examine(target);
    const bool unsealedDamage = found && found->soundness == Soundness::Unsealed && !readDatabase(target);
    if (found && found->soundness != Soundness::Damaged && found->soundness != Soundness::OneBit && !unsealedDamage)
        return FreshFile::Backup::KeepOld;
    const QString aside = target + QStringLiteral(".damaged");
    QFile::remove(aside);
    if (auto kept = linkOrCopy(target, aside); !kept)
        return tl::make_unexpected(kept.error());
    return FreshFile::Backup::None;
}

} // namespace

core::Result<void> writeDatabase(const core::Project& project, const QString& path, const Progress& progress) {
    auto fresh = FreshFile::beside(path);
    if (!fresh)
        return tl::make_unexpected(fresh.error());
    try {
        const std::uint64_t raw = fill(fresh->path(), project, Packing::Fast, progress);
        const auto size = static_cast<std::uint64_t>(QFileInfo(fresh->path()).size());
        if (raw > mostTimes * size + alwaysBytes / 2) {
            // Readings that hardly change pack so well that reading them back would look like a bomb.
            fresh = FreshFile::beside(path);
            if (!fresh)
                return tl::make_unexpected(fresh.error());
            (void)fill(fresh->path(), project, Packing::Plain, progress);
        }
    } catch (const Stopped&) {
        return core::problem(path.toStdString(), "stopped", "");
    } catch (const Failure& e) {
        const int error = e.code == SQLITE_FULL ? ENOSPC : 0;
        return error ? tl::make_unexpected(cannotWrite(path, error))
                     : core::problem(path.toStdString(), "cannot be written: " + e.text,
                                     "check the folder and the space left");
    }
    if (auto done = seal(*fresh); !done)
        return done;
    const auto backup = backupFor(fresh->target());
    if (!backup)
        return tl::make_unexpected(backup.error());
    return fresh->commit(*backup);
}

} // namespace store
