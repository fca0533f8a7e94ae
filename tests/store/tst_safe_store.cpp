// SPDX-License-Identifier: GPL-3.0-or-later
#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>

#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "core/base/csv_field.h"
#include "store/csv_fields.h"
#include "store/pack.h"
#include "store/run_files.h"
#include "support/disk.h"
#include "support/json.h"
#include "support/patience.h"
#include "support/registry.h"

#include <random>
#include <sys/stat.h>
#include <unistd.h>
#endif

namespace tst_safe_store {

using namespace core;
using namespace support;

// What stands on a disk, and what a stranger's file may do.
namespace {

QString refusal(const QString& path) {
    const auto loaded = store::openProject(path);
    return loaded ? QString() : QString::fromStdString(loaded.error().text());
}
void copyFolder(const QString& from, const QString& to) { QProcess::execute("cp", {"-r", from, to}); }

} // namespace

class SafeStoreTest : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;
    Project m_small; ///< two runs

    [[nodiscard]] QString path(const char* name) const { return m_dir.filePath(QString::fromLatin1(name)); }

private slots:
    void initTestCase() {
        m_small = support::demoProject();
        m_small.runs.resize(2);
        for (Run& run : m_small.runs) { // short, so that thousands of openings take seconds
            auto s = std::make_shared<Samples>(*run.samples);
            s->timeS.resize(200);
            for (Channel& c : s->channels)
                c.values.resize(200);
            run.samples = s;
            run.file = nullptr;
        }
    }

    // ---- a project file ----

    /// Any single bit of a file is noticed when it flips, and put right.
    void everyFlippedBitIsNoticed() {
        QVERIFY(store::saveProject(m_small, path("bits.minidraft")));
        const QByteArray good = bytesOf(path("bits.minidraft"));
        std::vector<qsizetype> bits;
        for (qsizetype i = 0; i < 100 * 8; ++i)
            bits.push_back(i); // all of the head
        for (qsizetype i = (good.size() - 64) * 8; i < good.size() * 8; ++i)
            bits.push_back(i); // all of the seal
        std::mt19937 random(5);
        for (int i = 0; i < 400; ++i)
            bits.push_back(static_cast<qsizetype>(random() % static_cast<unsigned>(good.size() * 8)));
        for (const qsizetype bit : bits) {
            QByteArray bad = good;
            bad[bit / 8] = static_cast<char>(bad[bit / 8] ^ (1 << (bit % 8)));
            write(path("flip.minidraft"), bad);
            const auto loaded = store::openProject(path("flip.minidraft"));
            QVERIFY2(loaded,
                     loaded ? ""
                            : qPrintable(QString("bit %1: ").arg(bit) + QString::fromStdString(loaded.error().text())));
            QVERIFY2(loaded->damaged && !loaded->warnings.empty(),
                     qPrintable(QString("bit %1 was not noticed").arg(bit)));
            QVERIFY2(loaded->project == m_small, qPrintable(QString("bit %1").arg(bit)));
        }
    }
    /// A bad sector costs the readings that stood in it; which, is said.
    void damagedReadingsAreNamed() {
        QVERIFY(store::saveProject(m_small, path("sector.minidraft")));
        QByteArray bad = bytesOf(path("sector.minidraft"));
        // The packed readings of one channel, found by their bytes.
        const std::string raw(reinterpret_cast<const char*>(m_small.runs[1].samples->channels[0].values.data()),
                              200 * sizeof(double));
        const std::string packed = store::pack(raw);
        const auto at = bad.indexOf(QByteArray::fromStdString(packed.substr(0, 60)));
        QVERIFY(at > 0);
        for (int i = 0; i < 20; ++i)
            bad[at + 20 + i] = 0;
        write(path("sector.minidraft"), bad);
        const auto loaded = store::openProject(path("sector.minidraft"));
        QVERIFY2(loaded, loaded ? "" : loaded.error().text().c_str());
        QVERIFY(loaded->damaged);
        QVERIFY2(loaded->warnings.front().text().find("run " + m_small.runs[1].id + ", channel " +
                                                      m_small.runs[1].samples->channels[0].name + ": rows 1 to 200") !=
                     std::string::npos,
                 loaded->warnings.front().text().c_str());
        QVERIFY(loaded->project.runs[0] == m_small.runs[0]);
        QVERIFY(std::isnan(loaded->project.runs[1].samples->channels[0].values[7]));
        QCOMPARE(loaded->project.runs[1].samples->channels[1].values, m_small.runs[1].samples->channels[1].values);
        // Saving keeps the damaged file, and does not push it over the last good copy.
        write(path("sector.minidraft~"), "the older good copy");
        QVERIFY(
            store::saveProject(loaded->project, path("sector.minidraft"), {.openedFrom = path("sector.minidraft")}));
        QCOMPARE(bytesOf(path("sector.minidraft.damaged")), bad);
        QCOMPARE(bytesOf(path("sector.minidraft~")), QByteArray("the older good copy"));
    }
    /// A damaged page of texts is read from the second copy.
    void damagedTextsHaveASecondCopy() {
        QVERIFY(store::saveProject(m_small, path("text.minidraft")));
        QByteArray bad = bytesOf(path("text.minidraft"));
        const auto at = bad.indexOf("\"revision\":\"R1\"");
        QVERIFY(at > 0);
        bad.replace(at, 15, "\"revision\":\"RX\"");
        write(path("text.minidraft"), bad);
        const auto loaded = store::openProject(path("text.minidraft"));
        QVERIFY2(loaded, loaded ? "" : loaded.error().text().c_str());
        QVERIFY(loaded->damaged);
        QVERIFY(loaded->project == m_small);
    }
    void cutFiles() {
        QVERIFY(store::saveProject(m_small, path("cut.minidraft")));
        const QByteArray good = bytesOf(path("cut.minidraft"));
        for (const double share : {0.02, 0.3, 0.7, 0.97, 0.9999}) {
            write(path("cut2.minidraft"), good.left(static_cast<qsizetype>(share * static_cast<double>(good.size()))));
            const auto loaded = store::openProject(path("cut2.minidraft"));
            QVERIFY(!loaded ? !loaded.error().remedy.empty() : loaded->damaged);
        }
    }
    /// Files of the first schema are read, without checks and as they are.
    void schemaOne() {
        const auto old = store::openProject(support::sourcePath("tests/data/schema-1.minidraft"));
        QVERIFY2(old, old ? "" : old.error().text().c_str());
        QVERIFY(old->warnings.empty());
        const auto now = store::openProject(support::sourcePath("examples/hand-written"));
        QVERIFY(sameSamples(*old->project.runs[0].samples, *now->project.runs[0].samples));
        QVERIFY(old->project.shelf == now->project.shelf);
    }

    void hostileDatabases_data() {
        QTest::addColumn<QString>("statement");
        QTest::addColumn<QString>("words");
        QTest::newRow("view in place of a table")
            << "ALTER TABLE part RENAME TO p2; CREATE VIEW part AS SELECT * FROM p2"
            << "does not have";
        QTest::newRow("endless view")
            << "DROP TABLE part; CREATE VIEW part AS WITH RECURSIVE c(x) AS (SELECT 1 UNION ALL SELECT x+1 FROM c) "
               "SELECT x AS id, x AS position, x AS kind, x AS json, x AS sum FROM c"
            << "holds a view";
        QTest::newRow("trigger") << "CREATE TRIGGER t AFTER INSERT ON part BEGIN DELETE FROM run; END"
                                 << "holds a trigger";
        QTest::newRow("table of its own") << "CREATE TABLE extra (a)"
                                          << "holds a table \"extra\"";
        QTest::newRow("other columns")
            << "DROP TABLE sample_block; CREATE TABLE sample_block (run, channel, block, rows, data, sum)"
            << "does not have";
        QTest::newRow("no table") << "DROP TABLE channel"
                                  << "has no table \"channel\"";
        QTest::newRow("virtual table")
            << "DROP TABLE spare; CREATE VIRTUAL TABLE spare USING fts5(key, size, data, sum)"
            << "does not have";
        QTest::newRow("newer") << "PRAGMA user_version = 77"
                               << "newer version";
        QTest::newRow("negative schema") << "PRAGMA user_version = -3"
                                         << "names schema -3";
    }
    void hostileDatabases() {
        QFETCH(QString, statement);
        QFETCH(QString, words);
        QVERIFY(store::saveProject(m_small, path("h.minidraft"), {.foreign = store::Foreign::Replace}));
        sql(path("h.minidraft"), statement);
        const QByteArray before = bytesOf(path("h.minidraft"));
        QElapsedTimer timer;
        timer.start();
        const QString said = refusal(path("h.minidraft"));
        QVERIFY2(said.contains(words), qPrintable(said));
        QVERIFY(timer.elapsed() < 3000 * kPatience);
        QCOMPARE(bytesOf(path("h.minidraft")), before);
        QFile::remove(path("h.minidraft"));
    }
    /// What a block says of its size is not believed, and many bombs are refused before they take the memory.
    void bombs() {
        QVERIFY(store::saveProject(m_small, path("bomb.minidraft"), {.foreign = store::Foreign::Replace}));
        const QString run = QString::fromStdString(m_small.runs[0].id);
        sql(path("bomb.minidraft"),
            QString("UPDATE sample_block SET rows = 60000 WHERE run = '%1' AND channel = 0").arg(run));
        auto loaded = store::openProject(path("bomb.minidraft"));
        QVERIFY(!loaded || loaded->damaged);
        // 512 KiB of zeros pack into 560 bytes; four thousand of them would be 2 GiB.
        const QByteArray packed = QByteArray::fromStdString(store::pack(std::string(65536 * 8, '\0')));
        QVERIFY(packed.size() < 4000);
        sql(path("bomb.minidraft"),
            QString(
                "DELETE FROM sample_block WHERE run = '%1' AND channel = 0; WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL "
                "SELECT i+1 FROM n WHERE i < 3999) INSERT INTO sample_block SELECT '%1', 0, i, 65536, x'%2', 0 FROM n")
                .arg(run, QString::fromLatin1(packed.toHex())));
        QElapsedTimer timer;
        timer.start();
        loaded = store::openProject(path("bomb.minidraft"));
        QVERIFY2(!loaded || loaded->damaged, "a bomb went off unnoticed");
        QVERIFY2(timer.elapsed() < 15000 * kPatience, qPrintable(QString::number(timer.elapsed())));
    }
    void endlessZerosAndDeepBrackets() {
        QFile zeros(path("zeros.json"));
        QVERIFY(zeros.open(QIODevice::WriteOnly));
        QVERIFY(zeros.resize(900'000'000)); // a hole on the disk
        zeros.close();
        QVERIFY2(refusal(path("zeros.json")).contains("too large"), qPrintable(refusal(path("zeros.json"))));
        zeros.remove();
        for (const char* open : {"[", "{\"a\":"}) {
            write(path("deep.json"), "{\"format\":\"mini-draft-project\",\"version\":1,\"name\":\"x\",\"shelf\":" +
                                         QByteArray(open).repeated(100000));
            QVERIFY(refusal(path("deep.json")).contains("nest deeper"));
        }
    }

    // ---- a folder ----

    void namesThatLeadOut_data() {
        QTest::addColumn<QString>("file");
        QTest::newRow("up") << "../out.csv";
        QTest::newRow("up in the middle") << "runs/../../out.csv";
        QTest::newRow("absolute") << "/etc/hostname";
        QTest::newRow("link to a file") << "runs/link.csv";
        QTest::newRow("through a linked folder") << "away/out.csv";
        QTest::newRow("pipe") << "runs/pipe.csv";
        QTest::newRow("device") << "runs/null.csv";
        QTest::newRow("folder") << "runs";
    }
    void namesThatLeadOut() {
        QFETCH(QString, file);
        QTemporaryDir dir;
        QDir(dir.path()).mkpath("p/runs");
        write(dir.filePath("out.csv"), "time_s,a\n0,1\n");
        QVERIFY(QFile::link(dir.filePath("out.csv"), dir.filePath("p/runs/link.csv")));
        QVERIFY(QFile::link(dir.path(), dir.filePath("p/away")));
        QVERIFY(QFile::link("/dev/zero", dir.filePath("p/runs/null.csv")));
        QCOMPARE(::mkfifo(QFile::encodeName(dir.filePath("p/runs/pipe.csv")).constData(), 0600), 0);
        write(dir.filePath("p/project.json"), QString("{\"format\":\"mini-draft-project\",\"version\":1,\"name\":\"x\","
                                                      "\"runs\":[{\"id\":\"a\",\"revision\":\"R1\",\"file\":\"%1\"}]}")
                                                  .arg(file)
                                                  .toUtf8());
        QElapsedTimer timer;
        timer.start();
        const QString said = refusal(dir.filePath("p"));
        QVERIFY2(said.contains("leads out") || said.contains("no ordinary file"), qPrintable(said));
        QVERIFY(timer.elapsed() < 1000 * kPatience); // a pipe that never answers is not waited for
    }
    void dotsInsideANameAreNoWayUp() {
        QTemporaryDir dir;
        QDir(dir.path()).mkpath("runs");
        write(dir.filePath("runs/a..b.csv"), "time_s,cpu_c\n0,1\n");
        write(dir.filePath("project.json"), "{\"format\":\"mini-draft-project\",\"version\":1,\"name\":\"x\",\"runs\":["
                                            "{\"id\":\"a\",\"revision\":\"R1\",\"file\":\"runs/a..b.csv\"}]}");
        QVERIFY2(!refusal(dir.path()).contains("leads out"), qPrintable(refusal(dir.path())));
    }
    void pipesAsProjects() {
        QCOMPARE(::mkfifo(QFile::encodeName(path("p.minidraft")).constData(), 0600), 0);
        QVERIFY(refusal(path("p.minidraft")).contains("pipe"));
    }

    /// What a hand wrote stays as it is: the log byte for byte, remarks in project.json, and nothing at all where
    /// nothing changed.
    void handWrittenFoldersStay() {
        QTemporaryDir dir;
        const QString p = dir.filePath("hand");
        copyFolder(support::sourcePath("examples/hand-written"), p);
        QByteArray json = bytesOf(p + "/project.json");
        json.replace("\"baseline\"", "\"// why\": \"the evening before\",\n  \"baseline\"");
        write(p + "/project.json", json);
        const QByteArray log = bytesOf(p + "/runs/first.csv");
        auto loaded = store::openProject(p);
        QVERIFY(loaded);
        QVERIFY(store::saveProject(loaded->project, p, {.openedFrom = p}));
        QCOMPARE(bytesOf(p + "/project.json"), json); // no change: not even the layout
        loaded->project.name = "Another name";
        QVERIFY(store::saveProject(loaded->project, p, {.openedFrom = p}));
        QCOMPARE(bytesOf(p + "/runs/first.csv"), log);
        QVERIFY(bytesOf(p + "/project.json").contains("the evening before"));
        QCOMPARE(bytesOf(p + "/.project.previous/project.json"), json);
        const auto again = store::openProject(p);
        QVERIFY(again);
        QVERIFY(again->project == loaded->project);
        // Into one file and out again: the log comes along.
        QVERIFY(store::saveProject(again->project, dir.filePath("one.minidraft")));
        const auto one = store::openProject(dir.filePath("one.minidraft"));
        QVERIFY(one && one->project.runs[0].original);
        QVERIFY(store::saveProject(one->project, dir.filePath("out/")));
        QCOMPARE(bytesOf(dir.filePath("out/originals/first.csv")), log);
        const auto out = store::openProject(dir.filePath("out"));
        QVERIFY(out && sameSamples(*out->project.runs[0].samples, *loaded->project.runs[0].samples));
    }
    void aColumnThatIsNotThere() {
        QTemporaryDir dir;
        const QString p = dir.filePath("hand");
        copyFolder(support::sourcePath("examples/hand-written"), p);
        QByteArray json = bytesOf(p + "/project.json");
        json.replace(
            "\"file\": \"runs/first.csv\"",
            "\"file\": \"runs/first.csv\", \"channels\": [{\"name\": \"CPU tmp\", \"kind\": \"temperature\"}]");
        write(p + "/project.json", json);
        const QString said = refusal(p);
        QVERIFY2(said.contains("runs[0].channels[0].name: column \"CPU tmp\" is not in runs/first.csv") &&
                     said.contains("CPU temp"),
                 qPrintable(said));
    }
    void removedRunsGo() {
        const QString p = path("gone");
        QVERIFY(store::saveProject(m_small, p));
        Project less = store::openProject(p)->project;
        const QString file = p + "/" + QString::fromStdString(less.runs[0].file->name);
        write(p + "/runs/mine.txt", "not of the project");
        less.runs.erase(less.runs.begin());
        QVERIFY(store::saveProject(less, p, {.openedFrom = p}));
        QVERIFY(!QFile::exists(file));
        QVERIFY(QFile::exists(p + "/runs/mine.txt"));
        const auto before = store::openProject(p + "/.project.previous");
        QVERIFY(before && before->project == m_small);
    }
    void anotherProjectIsNotMerged() {
        Project other = m_small;
        other.name = "Another box";
        for (const char* place : {"taken", "taken.minidraft"}) {
            QVERIFY(store::saveProject(m_small, path(place)));
            const auto refused = store::saveProject(other, path(place));
            QVERIFY(!refused);
            QVERIFY2(refused.error().text().find("holds another project, \"" + m_small.name) != std::string::npos,
                     refused.error().text().c_str());
            QVERIFY(store::openProject(path(place))->project == m_small);
            QVERIFY(store::saveProject(other, path(place), {.foreign = store::Foreign::Replace}));
            QVERIFY(store::openProject(path(place))->project == other);
        }
    }
    void aFileByNameIsThatFile() {
        QTemporaryDir dir;
        QVERIFY(store::saveProject(m_small, dir.path() + "/"));
        const QByteArray main = bytesOf(dir.filePath("project.json"));
        QVERIFY(QFile::copy(dir.filePath("project.json"), dir.filePath("old-project.json")));
        auto old = store::openProject(dir.filePath("old-project.json"));
        QVERIFY(old);
        old->project.name = "The old one";
        QVERIFY(store::saveProject(old->project, dir.filePath("old-project.json"),
                                   {.openedFrom = dir.filePath("old-project.json")}));
        QCOMPARE(bytesOf(dir.filePath("project.json")), main);
        QCOMPARE(store::openProject(dir.filePath("old-project.json"))->project.name, std::string("The old one"));
        QVERIFY(store::openProject(dir.path())->project == m_small);
        using Form = store::ProjectPath::Form;
        QCOMPARE(store::projectPath(dir.filePath("build 1.2")).form, Form::Folder);
        QCOMPARE(store::projectPath(dir.filePath("build 1.2.minidraft")).form, Form::Database);
        QCOMPARE(store::projectPath(dir.filePath("UPPER.MINIDRAFT")).form, Form::Database);
        QCOMPARE(store::projectPath(dir.filePath("x.json")).file, dir.filePath("x.json"));
    }
    void savingStaysInside() {
        QTemporaryDir dir;
        QDir(dir.path()).mkpath("elsewhere");
        QDir(dir.path()).mkpath("p");
        QVERIFY(QFile::link(dir.filePath("elsewhere"), dir.filePath("p/runs")));
        const auto done = store::saveProject(m_small, dir.filePath("p"));
        QVERIFY(!done);
        QVERIFY(done.error().text().find("is a link") != std::string::npos);
        QCOMPARE(QDir(dir.filePath("elsewhere")).entryList(QDir::Files).size(), 0);
        QVERIFY(!QFile::exists(dir.filePath("p/project.json")));
        // A project.json that is a link out of the folder is not followed either.
        QVERIFY(store::saveProject(m_small, dir.filePath("far/")));
        const QByteArray far = bytesOf(dir.filePath("far/project.json"));
        QDir(dir.path()).mkpath("q");
        QVERIFY(QFile::link(dir.filePath("far/project.json"), dir.filePath("q/project.json")));
        Project other = m_small;
        other.brief.roomC += 1;
        const auto followed = store::saveProject(other, dir.filePath("q"), {.foreign = store::Foreign::Replace});
        QVERIFY(!followed);
        QVERIFY2(followed.error().text().find("link that leads out") != std::string::npos,
                 followed.error().text().c_str());
        QCOMPARE(bytesOf(dir.filePath("far/project.json")), far);
        QCOMPARE(QDir(dir.filePath("q")).entryList(QDir::AllEntries | QDir::NoDotAndDotDot | QDir::Hidden),
                 QStringList{"project.json"});
    }
    void idsMakeSafeNames() {
        Project p = m_small;
        for (const char* id : {"../../../tmp/evil", "/etc/x", "a/b", "A/B", ".hidden", "..", "x\ny", "", "größe"})
            if (*id) {
                Run r = p.runs[0];
                r.id = r.name = id;
                p.runs.push_back(r);
            }
        QVERIFY(store::saveProject(p, path("ids/inner")));
        const auto back = store::openProject(path("ids/inner"));
        QVERIFY2(back, back ? "" : back.error().text().c_str());
        QVERIFY(back->project == p);
        QCOMPARE(QDir(path("ids")).entryList(QDir::AllEntries | QDir::NoDotAndDotDot | QDir::Hidden),
                 QStringList{"inner"});
        for (const std::string& name : store::logNames(p))
            QVERIFY2(name.find('/') == std::string::npos && name[0] != '.', name.c_str());
    }
    /// 500 short runs in less than two seconds; it was exponential once.
    void manyRuns() {
        Project p = m_small;
        const Run first = p.runs[0];
        for (int i = 0; i < 500; ++i) {
            p.runs.push_back(first);
            p.runs.back().id = "Run " + std::to_string(i / 2) + (i % 2 ? "!" : "?");
        }
        QElapsedTimer timer;
        timer.start();
        QVERIFY(store::saveProject(p, path("many")));
        QVERIFY2(timer.elapsed() < 2000 * kPatience, qPrintable(QString::number(timer.elapsed())));
        QVERIFY(store::openProject(path("many"))->project == p);
    }

    // ---- rights, links, locks ----

    void rightsAndLinksAreKept() {
        for (const char* name : {"r.minidraft", "r.html"}) {
            const QString file = path(name), link = path("link-") + QString(name);
            const auto save = [&](const QString& to, const QByteArray& text) {
                return QString(name).endsWith("html")
                           ? store::writeWhole(to, text).has_value()
                           : store::saveProject(m_small, to, {.foreign = store::Foreign::Replace}).has_value();
            };
            QVERIFY(save(file, "one"));
            QVERIFY(QFile::setPermissions(file, QFileDevice::ReadOwner | QFileDevice::WriteOwner));
            QVERIFY(QFile::link(file, link));
            QVERIFY(save(link, "two"));
            struct stat about {};
            QCOMPARE(::stat(QFile::encodeName(file).constData(), &about), 0);
            QCOMPARE(about.st_mode & 07777, 0600U);
            QVERIFY(QFileInfo(link).isSymLink());
            QCOMPARE(QFileInfo(link).symLinkTarget(), file);
        }
    }
    void newFilesFollowTheUmask() {
        const mode_t before = ::umask(027);
        QVERIFY(store::writeWhole(path("mask.txt"), "x"));
        ::umask(before);
        struct stat about {};
        ::stat(QFile::encodeName(path("mask.txt")).constData(), &about);
        QCOMPARE(about.st_mode & 07777, 0640U);
    }
    void notOverwritten() {
        QVERIFY(store::writeWhole(path("mine.txt"), "mine"));
        const auto done = store::writeWhole(path("mine.txt"), "yours", store::Overwrite::Refuse);
        QVERIFY(!done && done.error().text().find("not overwritten") != std::string::npos);
        QCOMPARE(bytesOf(path("mine.txt")), QByteArray("mine"));
    }
    void oneWriter() {
        QVERIFY(store::saveProject(m_small, path("l.minidraft")));
        auto lock = store::ProjectLock::take(path("l.minidraft"), "mini-draft");
        QVERIFY(lock);
        const auto second = store::ProjectLock::take(path("l.minidraft"), "mini-draft-cli");
        QVERIFY(!second);
        const std::string said = second.error().text();
        QVERIFY2(said.find("in use by mini-draft of ") != std::string::npos &&
                     said.find(QSysInfo::machineHostName().toStdString()) != std::string::npos,
                 said.c_str());
        QElapsedTimer timer;
        timer.start();
        QVERIFY(!store::saveProject(m_small, path("l.minidraft"))); // a window is not waited for
        QVERIFY(timer.elapsed() < 1000 * kPatience);
        QVERIFY(store::saveProject(m_small, path("l.minidraft"), {.lock = lock->get()}));
        QCOMPARE(store::ProjectLock::owner(path("l.minidraft"))->pid, static_cast<long>(::getpid()));
        lock->reset();
        QVERIFY(!store::ProjectLock::owner(path("l.minidraft")));
        QVERIFY(store::saveProject(m_small, path("l.minidraft")));
        QCOMPARE(QDir(m_dir.path()).entryList({".l.*"}, QDir::Files | QDir::Hidden).size(), 0);
    }
    void staleLocks() {
        QVERIFY(store::saveProject(m_small, path("s.minidraft")));
        // Of a killed program of this machine: the system has freed it.
        write(store::ProjectLock::fileOf(path("s.minidraft")),
              "somebody\n" + QSysInfo::machineHostName().toUtf8() + "\nmini-draft\n999999\n");
        QVERIFY(store::saveProject(m_small, path("s.minidraft")));
        // Of another machine, which cannot be asked: only when it is taken over.
        write(store::ProjectLock::fileOf(path("s.minidraft")), "anna\nstudio\nmini-draft\n12\n");
        const auto done = store::saveProject(m_small, path("s.minidraft"), {.waitMs = 0});
        QVERIFY(!done && done.error().text().find("anna on studio") != std::string::npos);
        QVERIFY(store::ProjectLock::takeOver(path("s.minidraft"), "mini-draft"));
    }

    // ---- logs ----

    void logsInOtherEncodings_data() {
        QTest::addColumn<QByteArray>("bytes");
        const QString text = QString::fromUtf8("time_s,Gehäuse °C\r\n0,40\r\n1,41.5\r\n");
        QTest::newRow("UTF-8") << text.toUtf8();
        QTest::newRow("UTF-8 with a mark") << QByteArray("\xEF\xBB\xBF") + text.toUtf8();
        QTest::newRow("Latin-1") << text.toLatin1();
        QByteArray little("\xFF\xFE", 2), big("\xFE\xFF", 2), bare;
        for (const QChar c : text) {
            little += static_cast<char>(c.unicode() & 0xFF);
            little += static_cast<char>(c.unicode() >> 8);
            big += static_cast<char>(c.unicode() >> 8);
            big += static_cast<char>(c.unicode() & 0xFF);
        }
        QTest::newRow("UTF-16, little end first") << little;
        QTest::newRow("UTF-16, big end first") << big;
        QTest::newRow("UTF-16 without a mark") << little.mid(2);
    }
    void logsInOtherEncodings() {
        QFETCH(QByteArray, bytes);
        write(path("enc.csv"), bytes);
        const auto text = store::readLogText(path("enc.csv").toStdString());
        QVERIFY(text);
        const auto format = store::recogniseCsv(*text, "enc.csv");
        QVERIFY2(format, format ? "" : format.error().text().c_str());
        const auto samples = store::readCsv(*text, *format, "enc.csv");
        QVERIFY(samples);
        QCOMPARE(samples->channels[0].name, std::string("Gehäuse °C"));
        QCOMPARE(samples->channels[0].values, (std::vector<double>{40, 41.5}));
    }
    /// What a spreadsheet would run is written so that it does not, and reads back as it was.
    void headingsThatComputeAreNeutral() {
        for (const char* name : {"=1+1", "+cmd", "-x", "@sum", "'=quoted", "''=twice", "\t=tab", "plain", "a=b",
                                 "'single", "with \"quotes\", commas\nand lines", "", " blank "}) {
            const std::string written = core::csvField(name);
            const auto record = store::readRecord(written, 0, ',');
            QCOMPARE(record.fields.size(), std::size_t{1});
            QCOMPARE(store::headingFrom(record.fields[0]), std::string(name));
            QVERIFY2(std::string_view("=+-@\t").find(record.fields[0].empty() ? 'x' : record.fields[0][0]) ==
                         std::string_view::npos,
                     name);
        }
    }
    void shortRowsDoNotTakeTheMemory() {
        std::string text = "time_s";
        for (int i = 0; i < 900; ++i)
            text += ",c" + std::to_string(i);
        text += "\n";
        for (int i = 0; i < 40000; ++i)
            text += "1\n";
        const auto format = store::recogniseCsv(text, "x.csv");
        QVERIFY(format);
        const auto samples = store::readCsv(text, *format, "x.csv");
        QVERIFY(!samples);
        QVERIFY(samples.error().text().find("nearly all fields are missing") != std::string::npos);
        const auto many = store::recogniseCsv("time_s" + std::string(5000, ',') + "\n1\n", "x.csv");
        QVERIFY2(!many || !store::readCsv("time_s" + std::string(5000, ',') + "\n1\n", *many, "x.csv"),
                 "five thousand empty columns were taken");
    }
    void quotesThatNeverClose() {
        const std::string text = "time_s,\"cpu" + std::string(2'000'000, 'x') + "\n0,1\n";
        const auto format = store::recogniseCsv(text, "x.csv");
        QVERIFY(!format);
        QVERIFY(!format.error().remedy.empty());
    }
};
} // namespace tst_safe_store
MD_TEST(tst_safe_store, SafeStoreTest)
#include "tst_safe_store.moc"
