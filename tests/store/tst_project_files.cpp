// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/build.h"
#include "store/sqlite/database.h"
#include "support/disk.h"
#include "support/json.h"
#include "support/registry.h"

#include <QProcess>
#include <QTemporaryDir>

#include <random>

namespace tst_project_files {

using namespace core;
using namespace support;

class ProjectFilesTest : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;
    Project m_demo;
    QByteArray m_json;

    [[nodiscard]] QString path(const char* name) const { return m_dir.filePath(QString::fromLatin1(name)); }
    [[nodiscard]] QString refused(const QString& p) const {
        const auto loaded = store::openProject(p);
        return loaded ? QString() : QString::fromStdString(loaded.error().text());
    }

private slots:
    void initTestCase() {
        m_demo = support::demoProject();
        m_json = bytesOf(support::sourcePath("data/demo/dig-tent/project.json"));
        QVERIFY(!m_json.isEmpty());
    }

    void databaseAndBack() {
        QVERIFY(store::saveProject(m_demo, path("a.minidraft")));
        const auto back = store::openProject(path("a.minidraft"));
        QVERIFY2(back, back ? "" : back.error().text().c_str());
        QVERIFY(back->project == m_demo);
        QVERIFY(back->warnings.empty());
    }
    void folderAndBack() {
        QVERIFY(store::saveProject(m_demo, path("folder")));
        const auto back = store::openProject(path("folder"));
        QVERIFY(back);
        QVERIFY(back->project == m_demo);
        const auto byFile = store::openProject(path("folder/project.json"));
        QVERIFY(byFile && byFile->project == m_demo);
    }
    void exportsHaveAFixedOrder() {
        QVERIFY(store::saveProject(m_demo, path("one")));
        const auto back = store::openProject(path("one"));
        QVERIFY(store::saveProject(back->project, path("two")));
        QCOMPARE(bytesOf(path("one/project.json")), bytesOf(path("two/project.json")));
        QCOMPARE(bytesOf(path("one/runs/r1-both.csv")), bytesOf(path("two/runs/r1-both.csv")));
    }

    void theFileNamesItself() {
        QVERIFY(store::saveProject(m_demo, path("b.minidraft")));
        QCOMPARE(sql(path("b.minidraft"), "PRAGMA application_id"), QString::number(store::applicationId));
        QCOMPARE(sql(path("b.minidraft"), "PRAGMA user_version"), QString::number(store::schemaVersion));
        QCOMPARE(sql(path("b.minidraft"), "PRAGMA foreign_key_check"), QString());
        QCOMPARE(sql(path("b.minidraft"), "SELECT count(*) FROM revision"), QString::number(m_demo.revisions.size()));
    }

    void savingKeepsTheLastGoodCopy() {
        Project first = m_demo;
        first.name = "First";
        QVERIFY(store::saveProject(first, path("c.minidraft")));
        QVERIFY(store::saveProject(m_demo, path("c.minidraft"), {.openedFrom = path("c.minidraft")}));
        const auto copy = store::openProject(path("c.minidraft~"));
        QVERIFY(copy);
        QCOMPARE(copy->project.name, std::string("First"));
        QCOMPARE(QDir(m_dir.path()).entryList({"*.saving", "*.lock"}, QDir::Files | QDir::Hidden), QStringList());
    }
    void savingWhereNothingCanBeWritten() {
        const auto done = store::saveProject(m_demo, QStringLiteral("/proc/none/x.minidraft"));
        QVERIFY(!done);
        QVERIFY(!done.error().remedy.empty());
        QVERIFY(!store::saveProject(m_demo, QStringLiteral("/proc/none/folder")));
    }

    void newerFilesAreRefusedUntouched() {
        QVERIFY(store::saveProject(m_demo, path("d.minidraft")));
        sql(path("d.minidraft"), "PRAGMA user_version = 99");
        const QByteArray before = bytesOf(path("d.minidraft"));
        QVERIFY2(refused(path("d.minidraft")).contains("newer version (schema 99"),
                 qPrintable(refused(path("d.minidraft"))));
        QCOMPARE(bytesOf(path("d.minidraft")), before);
    }
    void foreignDatabasesAreRefused() {
        sql(path("e.minidraft"), "CREATE TABLE x (a)");
        QVERIFY(refused(path("e.minidraft")).contains("another program"));
    }

    /// A file cut anywhere, or with bytes overwritten, is read or refused in words; it never crashes and is never
    /// changed.
    void damagedFiles() {
        Project small = m_demo;
        small.runs.resize(1);
        QVERIFY(store::saveProject(small, path("f.minidraft")));
        const QByteArray good = bytesOf(path("f.minidraft"));
        std::mt19937 random(3);
        int whole = 0, told = 0, refusals = 0;
        for (int i = 0; i < 60; ++i) {
            QByteArray bad = good;
            if (i % 2)
                bad.truncate(static_cast<int>(random() % static_cast<unsigned>(good.size())));
            else
                for (int k = 0; k < 40; ++k)
                    bad[static_cast<int>(random() % static_cast<unsigned>(bad.size()))] = static_cast<char>(random());
            write(path("g.minidraft"), bad);
            const auto loaded = store::openProject(path("g.minidraft"));
            if (!loaded) {
                ++refusals;
                QVERIFY2(loaded.error().place.find("g.minidraft") != std::string::npos &&
                             !loaded.error().what.empty() && !loaded.error().remedy.empty(),
                         loaded.error().text().c_str());
            } else if (loaded->damaged) {
                ++told;
                QVERIFY(!loaded->warnings.empty());
            } else {
                ++whole;
                QVERIFY2(loaded->project == small, "other content was read, and nobody was told");
            }
            QCOMPARE(bytesOf(path("g.minidraft")), bad);
        }
        QVERIFY2(refusals > 5 && told + whole > 5,
                 qPrintable(QStringLiteral("%1 refused, %2 told, %3 whole").arg(refusals).arg(told).arg(whole)));
    }

    void refuses_data() {
        QTest::addColumn<QString>("find");
        QTest::addColumn<QString>("replace");
        QTest::addColumn<QString>("words"); // of the message
        QTest::newRow("wrong type") << "\"room_c\": 34"
                                    << "\"room_c\": \"warm\""
                                    << "brief.room_c: is the text \"warm\" (a number)";
        QTest::newRow("unknown part") << "\"part\": \"board-k2\""
                                      << "\"part\": \"board-k9\""
                                      << "part \"board-k9\" is not there";
        QTest::newRow("negative size") << "94.0,\n    94.0"
                                       << "-94.0,\n    94.0"
                                       << "out of range";
        QTest::newRow("unknown word") << "\"kind\": \"fan\""
                                      << "\"kind\": \"fanfare\""
                                      << "is \"fanfare\" (one of case, board";
        QTest::newRow("missing comma") << "\"currency\": \"EUR\","
                                       << "\"currency\": \"EUR\""
                                       << "not JSON from here on";
        QTest::newRow("newer") << "\"version\": 1"
                               << "\"version\": 7"
                               << "reads up to 1";
        QTest::newRow("another format") << "mini-draft-project"
                                        << "shopping-list"
                                        << "format: is \"shopping-list\"";
        QTest::newRow("unknown change") << "\"do\": \"flip-fan\""
                                        << "\"do\": \"flip\""
                                        << "one of case, place, swap";
        QTest::newRow("missing field") << "\"rated_w\": 330,"
                                       << ""
                                       << "rated_w: is missing";
        QTest::newRow("unknown parent") << "\"parent\": \"R8\""
                                        << "\"parent\": \"R88\""
                                        << "revision \"R88\" is not there";
        QTest::newRow("circle") << "\"id\": \"R1\","
                                << "\"id\": \"R1\", \"parent\": \"R2\","
                                << "lead back to itself";
        QTest::newRow("bad direction") << "\"facing\": \"+x\""
                                       << "\"facing\": \"right\""
                                       << "one of +x, -x, +y";
        QTest::newRow("bad offset") << "\"centre\": 214.0"
                                    << "\"middle\": 214.0"
                                    << "{\"centre\": mm}";
        QTest::newRow("unknown load") << "\"load\": \"stitch\""
                                      << "\"load\": \"sprint\""
                                      << "load \"sprint\" is not there";
    }
    void refuses() {
        QFETCH(QString, find);
        QFETCH(QString, replace);
        QFETCH(QString, words);
        QString text = QString::fromUtf8(m_json);
        const auto at = text.indexOf(find);
        QVERIFY2(at >= 0, "the row looks for something the demo does not have");
        text.replace(at, find.size(), replace);
        QTemporaryDir folder;
        QDir(folder.path()).mkdir("runs");
        for (const QFileInfo& csv : QDir(support::sourcePath("data/demo/dig-tent/runs")).entryInfoList({"*.csv"}))
            QFile::copy(csv.absoluteFilePath(), folder.filePath("runs/" + csv.fileName()));
        write(folder.filePath("project.json"), text.toUtf8());
        const QString message = refused(folder.path());
        QVERIFY2(message.contains(words), qPrintable(message));
        QVERIFY2(message.contains("project.json"), qPrintable(message));
    }

    void errorsNameTheLine() {
        write(path("bad.json"), "{\n \"format\": \"mini-draft-project\",\n \"version\": 1,\n \"name\": 5\n}\n");
        QVERIFY2(refused(path("bad.json")).contains("bad.json, line 4, name"), qPrintable(refused(path("bad.json"))));
        // A number out of its range too, in what only parts of a kind have.
        write(path("fast.json"), "{\n \"format\": \"mini-draft-project\",\n \"version\": 1,\n \"name\": \"x\",\n "
                                 "\"shelf\": [{\"id\": \"f\", \"kind\": \"fan\", \"name\": \"f\", \"size_mm\": [92, "
                                 "92, 15],\n \"fan\": {\n \"rpm\": 99999 }}]\n}\n");
        QVERIFY2(
            refused(path("fast.json"))
                .contains(
                    "line 7, shelf[0] (f).fan.rpm: the value 99999 rpm is out of range (0, or from 50 to 30000 rpm)"),
            qPrintable(refused(path("fast.json"))));
    }
    void misspeltFieldsAreReported() {
        write(path("odd.json"), "{\"format\": \"mini-draft-project\", \"version\": 1, \"name\": \"x\", \"colour\": 3}");
        const auto loaded = store::openProject(path("odd.json"));
        QVERIFY(loaded);
        QCOMPARE(loaded->warnings.size(), std::size_t{1});
        QVERIFY(loaded->warnings[0].text().find("colour") != std::string::npos);
    }
    void runFilesStayInTheFolder() {
        write(path("out.json"), "{\"format\": \"mini-draft-project\", \"version\": 1, \"name\": \"x\", \"runs\": "
                                "[{\"id\": \"a\", \"revision\": \"R1\", \"file\": \"../secret.csv\"}]}");
        QVERIFY(refused(path("out.json")).contains("leads out of the project folder"));
    }

    void notProjects_data() {
        QTest::addColumn<QByteArray>("content");
        QTest::addColumn<QString>("words");
        QTest::newRow("0 bytes") << QByteArray() << "0 bytes";
        QTest::newRow("blank") << QByteArray("  \n") << "neither a project file";
        QTest::newRow("picture") << QByteArray("\x89PNG\r\n\x1a\n") << "neither a project file";
        QTest::newRow("open bracket") << QByteArray("{") << "not JSON";
        QTest::newRow("deep") << QByteArray("{\"a\":") + QByteArray(20000, '[') << "nest deeper";
    }
    void notProjects() {
        QFETCH(QByteArray, content);
        QFETCH(QString, words);
        write(path("x.json"), content);
        QVERIFY2(refused(path("x.json")).contains(words), qPrintable(refused(path("x.json"))));
    }
    void notThere() {
        QVERIFY(refused(path("nowhere")).contains("is not there"));
        QDir(m_dir.path()).mkdir("empty");
        QVERIFY(refused(path("empty")).contains("no project.json"));
    }

    /// Mutated JSON ends in a project or in words.
    void fuzz() {
        std::mt19937 random(11);
        int taken = 0, refusals = 0;
        const std::string seed = m_json.left(20000).toStdString();
        const store::FolderFiles noRuns{
            .log = [](const std::string& name) -> Result<store::LogText> { return problem(name, "not here", "none"); },
            .original = {},
            .progress = {}};
        const std::string small =
            "{\"format\":\"mini-draft-project\",\"version\":1,\"name\":\"x\",\"brief\":{\"room_c\":20,\"targets\":[{"
            "\"id\":\"a\",\"kind\":\"noise\",\"limit\":30}]},\"shelf\":[{\"id\":\"f\",\"kind\":\"fan\",\"name\":\"F\","
            "\"size_mm\":[92,92,15],\"fan\":{\"rpm\":1000}}]}";
        for (int i = 0; i < 4000; ++i) {
            std::string text = i % 8 ? small : seed;
            for (int k = 0; k < 1 + static_cast<int>(random() % 4); ++k) {
                const std::size_t at = random() % text.size();
                if (random() % 3 == 0)
                    text.erase(at, 1 + random() % 5);
                else
                    text[at] = "{}[],:\"0-1eE.xn "[random() % 16];
            }
            const auto loaded = store::readProjectJson(text, "fuzz", noRuns);
            ++(loaded ? taken : refusals);
            if (!loaded)
                QVERIFY2(loaded.error().place.starts_with("fuzz") && !loaded.error().what.empty() &&
                             !loaded.error().remedy.empty(),
                         loaded.error().text().c_str());
        }
        QVERIFY2(taken > 50 && refusals > 1000,
                 qPrintable(QStringLiteral("%1 taken, %2 refused").arg(taken).arg(refusals)));
    }

    void standardShelfIsSound() {
        auto text = store::readFile(support::sourcePath("data/shelf/standard.json").toStdString());
        const auto parts = store::readShelfJson(*text, "standard.json");
        QVERIFY2(parts, parts ? "" : parts.error().text().c_str());
        std::set<PartKind> kinds;
        for (const Part& p : *parts)
            kinds.insert(p.kind);
        QCOMPARE(kinds.size(), std::size_t{12}); // every kind but a case
        QVERIFY(parts->size() >= 80);
    }
    void shelfFilesAreRefusedInWords() {
        QVERIFY(
            store::readShelfJson("{\"format\":\"mini-draft-shelf\",\"version\":1,\"parts\":[{\"id\":\"a\"}]}", "s.json")
                .error()
                .text()
                .find("kind: is missing") != std::string::npos);
        QVERIFY(!store::readShelfJson("{\"format\":\"mini-draft-project\",\"version\":1,\"parts\":[]}", "s.json"));
        QVERIFY(!store::readShelfJson("{\"format\":\"mini-draft-shelf\",\"version\":9,\"parts\":[]}", "s.json"));
    }
};
} // namespace tst_project_files
MD_TEST(tst_project_files, ProjectFilesTest)
#include "tst_project_files.moc"
