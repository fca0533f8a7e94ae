// SPDX-License-Identifier: GPL-3.0-or-later
#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>

#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "store/run_files.h"
#include "support/demo.h"
#include "support/disk.h"
#include "support/patience.h"

#include <csignal>
#include <random>
#endif

using namespace core;
using support::bytesOf, support::leftIn;

// The programs driven by force: the disk fails at every call, the process is killed at every call and at random, two
// write at once. In every case the old or the new state stands there, whole, and words and exit code tell the truth.
// MD_KILLS, MD_WRITERS and MD_FAULT_CALLS make it longer by hand.
namespace {

int number(const char* name, int usual) {
    return qEnvironmentVariableIsSet(name) ? qEnvironmentVariableIntValue(name) : usual;
}

struct Ended {
    int code = -1;
    bool killed = false;
    QString out, err;
};

Ended run(const QStringList& arguments, const QString& fail = {}, const QString& dir = {}, const QString& mark = {},
          int killAfterMs = -1) {
    QProcess process;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    if (!fail.isEmpty()) {
        environment.insert("LD_PRELOAD", MD_SHIM);
        environment.insert("MD_FAIL", fail);
        environment.insert("MD_FAIL_DIR", dir);
        environment.insert("MD_FAIL_MARK", mark);
        environment.insert("ASAN_OPTIONS", "verify_asan_link_order=0");
    }
    process.setProcessEnvironment(environment);
    process.start(QStringLiteral(MD_BIN_DIR) + "/mini-draft-cli", arguments);
    if (killAfterMs >= 0) {
        process.waitForStarted();
        QTest::qSleep(killAfterMs);
        ::kill(static_cast<pid_t>(process.processId()), SIGKILL);
    }
    process.waitForFinished(60000 * kPatience);
    return {process.exitCode(), process.exitStatus() == QProcess::CrashExit,
            QString::fromUtf8(process.readAllStandardOutput()), QString::fromUtf8(process.readAllStandardError())};
}

} // namespace

class FaultsTest : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;
    Project m_small; ///< two runs
    QString m_log;
    std::mt19937 m_random{20261125};

    /// One operation on one place: how it starts, what is done, and what must stand there before and afterwards.
    struct Scene {
        QString name, place;
        QStringList command;
        std::function<QString()> state; ///< "old", "new", or what is wrong
    };

    QString projectState(const QString& place, std::size_t oldRuns) const {
        const auto loaded = store::openProject(place);
        if (!loaded)
            return "cannot be opened: " + QString::fromStdString(loaded.error().text());
        if (!loaded->warnings.empty())
            return "warns: " + QString::fromStdString(loaded->warnings.front().text());
        const auto& runs = loaded->project.runs;
        if (runs.size() != oldRuns && runs.size() != oldRuns + 1)
            return QString("has %1 runs").arg(runs.size());
        for (std::size_t i = 0; i < oldRuns; ++i)
            if (!(sameSamples(*runs[i].samples, *m_small.runs[i].samples)))
                return "run " + QString::fromStdString(runs[i].id) + " has other readings";
        if (runs.size() == oldRuns)
            return "old";
        const auto& last = runs.back();
        if (last.samples->timeS.size() != 600)
            return "the new run is not whole";
        if (!last.original || store::originalBytes(*last.original).value_or("") != bytesOf(m_log).toStdString())
            return "the log beside the new run is not what was read in";
        return "new";
    }

    Scene scene(const QString& kind, const QString& dir) {
        QDir().mkpath(dir);
        Scene s{.name = kind, .place = {}, .command = {}, .state = {}};
        if (kind == "file" || kind == "folder") {
            s.place = dir + (kind == "file" ? "/box.minidraft" : "/box");
            const auto saved = store::saveProject(m_small, s.place);
            if (!saved)
                qFatal("%s", saved.error().text().c_str());
            s.command = {"import", s.place, m_log, "--name", "third", "-r", "R10"};
            s.state = [this, place = s.place] { return projectState(place, m_small.runs.size()); };
        } else if (kind == "fresh file" || kind == "fresh folder") {
            s.place = dir + (kind == "fresh file" ? "/out.minidraft" : "/out");
            const QString from = m_dir.filePath("source.minidraft");
            s.command = {"export", from, "-o", s.place};
            s.state = [place = s.place, this] {
                const bool there = store::projectPath(place).form == store::ProjectPath::Form::Database
                                       ? QFileInfo::exists(place)
                                       : QFileInfo::exists(place + "/project.json");
                return there ? (projectState(place, m_small.runs.size()) == "old"
                                    ? QString("new")
                                    : projectState(place, m_small.runs.size()))
                             : QString("old");
            };
        } else {
            s.place = dir + "/report.html";
            QFile old(s.place);
            if (old.open(QIODevice::WriteOnly))
                old.write("old report");
            old.close();
            s.command = {"report", m_dir.filePath("source.minidraft"), "-o", s.place, "--force"};
            s.state = [place = s.place] {
                const QByteArray now = bytesOf(place);
                return now == "old report"                 ? QString("old")
                       : now.trimmed().endsWith("</html>") ? QString("new")
                                                           : QString("is cut at %1 bytes").arg(now.size());
            };
        }
        return s;
    }

    static void scenes() {
        QTest::addColumn<QString>("kind");
        for (const char* kind : {"file", "folder", "fresh file", "fresh folder", "report"})
            QTest::newRow(kind) << QString(kind);
    }

private slots:
    void initTestCase() {
        m_small = support::demoProject();
        m_small.runs.resize(2);
        m_log = m_dir.filePath("evening.csv");
        QFile log(m_log);
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("Time;CPU Temp (°C);Anmerkung\r\n");
        for (int i = 0; i < 600; ++i)
            log.write(QString("00:%1:%2;%3,5;%4\r\n")
                          .arg(i / 60, 2, 10, QChar('0'))
                          .arg(i % 60, 2, 10, QChar('0'))
                          .arg(40 + i % 20)
                          .arg(i)
                          .toUtf8());
        log.close();
        QVERIFY(store::saveProject(m_small, m_dir.filePath("source.minidraft")));
    }

    void everyCallFails_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<QString>("call");
        for (const char* kind : {"file", "folder", "fresh file", "fresh folder", "report"})
            for (const char* call : {"open", "write", "fsync", "rename", "unlink", "link", "kill"})
                QTest::addRow("%s, %s", kind, call) << QString(kind) << QString(call);
    }
    void everyCallFails() {
        QFETCH(QString, kind);
        QFETCH(QString, call);
        const int most = number("MD_FAULT_CALLS", 24);
        int struck = 0, sawOld = 0, sawNew = 0;
        for (int n = 1; n <= most; ++n) {
            QTemporaryDir dir;
            const Scene s = scene(kind, dir.filePath("d"));
            const QString mark = dir.filePath("struck");
            const Ended e = run(s.command, QString("%1:%2").arg(call).arg(n), dir.filePath("d"), mark);
            if (!QFile::exists(mark)) {
                QCOMPARE(e.code, 0);
                break; // there are no more calls of this kind
            }
            ++struck;
            const QString state = s.state(), place = QString("%1 %2 of %3: ").arg(call).arg(n).arg(kind);
            QVERIFY2(state == "old" || state == "new", qPrintable(place + state));
            (state == "old" ? sawOld : sawNew)++;
            if (!e.killed) {
                QVERIFY2(e.code == 0 ? state == "new" : e.err.size() > 20,
                         qPrintable(place + QString("exit %1, %2, %3").arg(e.code).arg(state, e.err)));
                if (e.code != 0)
                    QCOMPARE(e.code, 2);
            }
            // The next try works, and clears what this one left.
            if (state == "old") {
                const Ended again = run(s.command);
                QVERIFY2(again.code == 0, qPrintable(place + again.err));
                QCOMPARE(s.state(), QString("new"));
            } else if (kind == "file" || kind == "folder") {
                QStringList next = s.command;
                next[4] = "fourth";
                QVERIFY2(run(next).code == 0, "the next import works");
            } else {
                run(s.command);
            }
            // Nothing of a killed or failed save stays after the next one that works.
            QVERIFY2(leftIn(dir.filePath("d")).isEmpty(), qPrintable(place + leftIn(dir.filePath("d")).join(", ")));
        }
        if (call == "write" || call == "kill" || call == "fsync")
            QVERIFY2(struck >= (call == "kill" ? 4 : 1) && sawOld > 0, qPrintable(QString("%1 calls").arg(struck)));
    }

    void fullDisk_data() { scenes(); }
    void fullDisk() {
        QFETCH(QString, kind);
        for (const int bytes : {0, 1, 900, 5000, 20000, 60000}) {
            QTemporaryDir dir;
            const Scene s = scene(kind, dir.filePath("d"));
            const Ended e = run(s.command, QString("space:%1").arg(bytes), dir.filePath("d"), dir.filePath("struck"));
            const QString state = s.state();
            QVERIFY2(state == "old" || state == "new", qPrintable(QString("%1 bytes: ").arg(bytes) + state));
            if (QFile::exists(dir.filePath("struck"))) {
                QCOMPARE(e.code, 2);
                QVERIFY2(e.err.contains("No space left"), qPrintable(e.err));
                QCOMPARE(state, QString("old"));
            }
        }
    }
    void fullStandardOutput() {
        for (const QString& command :
             {QStringLiteral("fit"), QStringLiteral("verdict"), QStringLiteral("bench"), QStringLiteral("air")}) {
            QProcess shell;
            shell.start("/bin/sh", {"-c", QStringLiteral(MD_BIN_DIR) + "/mini-draft-cli " + command + " '" +
                                              m_dir.filePath("source.minidraft") + "' --json > /dev/full"});
            QVERIFY(shell.waitForFinished(30000 * kPatience));
            QCOMPARE(shell.exitCode(), 2);
            QVERIFY(shell.readAllStandardError().contains("No space left"));
        }
        QCOMPARE(run({"report", m_dir.filePath("source.minidraft"), "-o", "/dev/full"}).code, 2);
        QCOMPARE(run({"export", m_dir.filePath("source.minidraft"), "-o", "/proc/none/x.minidraft"}).code, 2);
    }

    /// A recording on a full disk stops at once; what stands in the file are whole rows.
    void captureOnAFullDisk() {
        for (const int bytes : {40, 700, 3001, 5003}) {
            QTemporaryDir dir;
            QDir().mkpath(dir.filePath("d"));
            const Ended e =
                run({"capture", "-o", dir.filePath("d/log.csv"), QStringLiteral(MD_BIN_DIR) + "/mini-draft-rig", "--",
                     support::sourcePath("data/demo/dig-tent"), "--revision", "R8", "--speed", "0"},
                    QString("space:%1").arg(bytes), dir.filePath("d"), dir.filePath("struck"));
            QCOMPARE(e.code, 2);
            QVERIFY2(e.err.contains("No space left"), qPrintable(e.err));
            const QByteArray log = bytesOf(dir.filePath("d/log.csv"));
            QVERIFY(log.isEmpty() || log.endsWith('\n'));
            const auto lines = log.split('\n');
            for (qsizetype i = 1; i + 1 < lines.size(); ++i)
                QCOMPARE(lines[i].count(','), lines[0].count(','));
        }
    }

    void killedAtRandom_data() { scenes(); }
    void killedAtRandom() {
        QFETCH(QString, kind);
        const int kills = std::max(1, number("MD_KILLS", 50) / 5);
        int sawOld = 0, sawNew = 0;
        for (int i = 0; i < kills; ++i) {
            QTemporaryDir dir;
            const Scene s = scene(kind, dir.filePath("d"));
            run(s.command, {}, {}, {}, static_cast<int>(m_random() % 60));
            const QString state = s.state();
            QVERIFY2(state == "old" || state == "new", qPrintable(state));
            (state == "old" ? sawOld : sawNew)++;
        }
        qInfo("%d kills: %d old, %d new", kills, sawOld, sawNew);
    }

    /// Two at once: each says what became of its run, and both are right.
    void twoWriters_data() {
        QTest::addColumn<QString>("kind");
        QTest::newRow("file") << QString("file");
        QTest::newRow("folder") << QString("folder");
    }
    void twoWriters() {
        QFETCH(QString, kind);
        for (int round = 0, rounds = std::max(1, number("MD_WRITERS", 10) / 2); round < rounds; ++round) {
            QTemporaryDir dir;
            const Scene s = scene(kind, dir.filePath("d"));
            QProcess a, b;
            QStringList other = s.command;
            other[4] = "other";
            a.start(QStringLiteral(MD_BIN_DIR) + "/mini-draft-cli", s.command);
            b.start(QStringLiteral(MD_BIN_DIR) + "/mini-draft-cli", other);
            QVERIFY(a.waitForFinished(60000 * kPatience) && b.waitForFinished(60000 * kPatience));
            const auto now = store::openProject(s.place);
            QVERIFY2(now, now ? "" : now.error().text().c_str());
            QCOMPARE(now->project.run("third") != nullptr, a.exitCode() == 0);
            QCOMPARE(now->project.run("other") != nullptr, b.exitCode() == 0);
            QVERIFY(a.exitCode() == 0 || b.exitCode() == 0);
            for (QProcess* p : {&a, &b})
                if (p->exitCode() != 0)
                    QVERIFY(p->readAllStandardError().contains("in use by"));
        }
    }
};
QTEST_GUILESS_MAIN(FaultsTest)
#include "tst_faults.moc"
