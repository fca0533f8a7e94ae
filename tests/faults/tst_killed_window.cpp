// SPDX-License-Identifier: GPL-3.0-or-later
#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "support/disk.h"
#include "support/patience.h"
#include "support/window.h"

#include "app/model/recovery.h"
#include "app/ui/dialogs/record_dialog.h"
#include "app/ui/recording/recorder.h"
#include "store/log_about.h"

#include <csignal>
#include <cstdio>
#include <random>
#endif

using support::Window;

// The real window is killed at random while it edits, saves, keeps its copy of what is not saved, and records; all four
// at the same time. MD_WINDOW_KILLS makes it longer by hand.
namespace {

constexpr int tickMs = 12;
/// State number n, told from n alone: what stands on the disk must be one of these, whole.
constexpr int editsPerRun = 4;

core::Run runNumber(const core::Project& p, int i) {
    core::Run run = p.runs.front();
    run.id = run.name = "run " + std::to_string(i);
    auto samples = std::make_shared<core::Samples>(*run.samples);
    for (core::Channel& c : samples->channels)
        for (double& v : c.values)
            v += i;
    run.samples = samples;
    run.original = nullptr;
    run.file = nullptr;
    return run;
}

void say(const char* word, qint64 number, qint64 ms) {
    std::printf("%s %lld %lld\n", word, static_cast<long long>(number), static_cast<long long>(ms));
    std::fflush(stdout);
}

/// The program that is killed: an edit each tick, a save after every few, a recording beside it.
int victim(const QString& path, const QString& data, bool recording) {
    Window w(data);
    if (!w.window->openPath(path))
        return 3;
    if (recording) {
        const std::string load = w.document().project().brief.load;
        auto source = app::rigSource(w.document().project(), w.document().revision(),
                                     {.load = load, .minutes = 600, .speed = 400});
        if (!source)
            return 4;
        w.window->recorder()->start(std::move(*source), load);
    }
    QElapsedTimer clock;
    clock.start();
    int n = 0;
    QTimer tick;
    QObject::connect(&tick, &QTimer::timeout, [&] {
        say("saved", QString::fromStdString(w.document().saved()->name).section(' ', -1).toInt(), clock.elapsed());
        say("rows", static_cast<qint64>(w.window->recorder()->live().timeS.size()), clock.elapsed());
        ++n;
        const bool taken = bool(w.document().edit(QStringLiteral("edit"), [&](core::Project& p) {
            p.name = "box " + std::to_string(n);
            if (n % editsPerRun == 0)
                p.runs.push_back(runNumber(p, n / editsPerRun));
        }));
        if (!taken)
            qFatal("the edit was not taken");
        say("edit", n, clock.elapsed());
        // Saving drops the copy of what is not saved: half a second with saves, then a while without.
        if (clock.elapsed() % 2000 < 500 && n % 5 == 0)
            w.window->startSave(path, store::Foreign::Refuse);
    });
    tick.start(tickMs);
    say("ready", 0, 0);
    return QApplication::exec();
}

struct Said {
    int saved = 0, edited = 0, editedLongAgo = 0, rows = 0, rowsLongAgo = 0;
};

/// What the victim said before it died; "long ago" is what had to be on the disk by then.
Said read(const QByteArray& out) {
    Said s;
    qint64 end = 0;
    QList<QList<QByteArray>> lines;
    for (const QByteArray& line : out.split('\n'))
        if (const auto words = line.split(' '); words.size() == 3 && out.contains(line + '\n'))
            lines << words, end = std::max(end, words[2].toLongLong());
    for (const auto& words : lines) {
        const int number = words[1].toInt();
        const qint64 ago = end - words[2].toLongLong();
        if (words[0] == "saved")
            s.saved = std::max(s.saved, number);
        if (words[0] == "edit") {
            s.edited = std::max(s.edited, number);
            if (ago > 2000)
                s.editedLongAgo = std::max(s.editedLongAgo, number);
        }
        if (words[0] == "rows") {
            s.rows = std::max(s.rows, number);
            if (ago > 1000)
                s.rowsLongAgo = std::max(s.rowsLongAgo, number);
        }
    }
    return s;
}

} // namespace

class KilledWindowTest : public QObject {
    Q_OBJECT
    core::Project m_base; ///< one run
    std::mt19937 m_random{20261125};

    /// The number of the state, or what is wrong with it.
    std::pair<int, QString> stateOf(const core::Project& p) const {
        bool isNumber = false;
        const int n = QString::fromStdString(p.name).section(' ', -1).toInt(&isNumber);
        if (!isNumber)
            return {-1, "is named " + QString::fromStdString(p.name)};
        if (p.runs.size() != m_base.runs.size() + static_cast<std::size_t>(n / editsPerRun))
            return {-1, QString("state %1 has %2 runs").arg(n).arg(p.runs.size())};
        for (int i = 0; i <= n / editsPerRun; ++i) {
            const core::Run expected = i == 0 ? m_base.runs.front() : runNumber(m_base, i);
            if (!core::sameSamples(*p.runs[static_cast<std::size_t>(i)].samples, *expected.samples))
                return {-1, QString("run %1 of state %2 has other readings").arg(i).arg(n)};
        }
        core::Project rest = p;
        rest.runs = m_base.runs;
        rest.name = m_base.name;
        rest.id = m_base.id;
        if (!(rest == m_base))
            return {-1, "something else was changed"};
        return {n, {}};
    }

private slots:
    void initTestCase() {
        QStandardPaths::setTestModeEnabled(true);
        m_base = support::demoProject();
        m_base.runs.resize(1);
        m_base.runs.front().original = nullptr;
        m_base.runs.front().file = nullptr;
        m_base.name = "box 0";
        m_base.id = "d0000000-0000-4000-8000-000000000001";
    }

    void killed_data() {
        QTest::addColumn<bool>("folder");
        QTest::newRow("file") << false;
        QTest::newRow("folder") << true;
    }
    void killed() {
        QFETCH(bool, folder);
        const int kills = std::max(
            1,
            (qEnvironmentVariableIsSet("MD_WINDOW_KILLS") ? qEnvironmentVariableIntValue("MD_WINDOW_KILLS") : 12) / 2);
        int copies = 0, beyondSaved = 0, inTime = 0, captures = 0;
        for (int i = 0; i < kills; ++i) {
            QTemporaryDir dir;
            const QString path = dir.filePath(folder ? "box" : "box.minidraft"), data = dir.filePath("data");
            QVERIFY(store::saveProject(m_base, path));
            QProcess child;
            child.start(QCoreApplication::applicationFilePath(), {"--victim", path, data, i % 2 ? "record" : "edit"});
            QByteArray out;
            while (!out.contains("ready") && child.waitForReadyRead(60000 * kPatience))
                out += child.readAllStandardOutput();
            QVERIFY2(out.contains("ready"), child.readAllStandardError());
            // While it saves, while it copies, and old enough to owe both copy and readings.
            QTest::qSleep(static_cast<int>(i % 3 == 0   ? m_random() % 600
                                           : i % 3 == 1 ? 1200 + m_random() % 800
                                                        : 2100 + m_random() % 1300));
            ::kill(static_cast<pid_t>(child.processId()), SIGKILL);
            child.waitForFinished();
            const Said said = read(out + child.readAllStandardOutput());

            const auto now = store::openProject(path);
            QVERIFY2(now, now ? "" : now.error().text().c_str());
            QVERIFY2(now->warnings.empty(), now->warnings.empty() ? "" : now->warnings.front().text().c_str());
            const auto [state, wrong] = stateOf(now->project);
            QVERIFY2(wrong.isEmpty(), qPrintable(wrong));
            QVERIFY2(state >= said.saved && state <= said.edited + 1,
                     qPrintable(QString("state %1 stands there; %2 was said to be saved, %3 was the last edit")
                                    .arg(state)
                                    .arg(said.saved)
                                    .arg(said.edited)));

            int best = state;
            for (const auto& left : app::Recovery::left(data + "/recovery")) {
                const auto copy = app::Recovery::read(left);
                QVERIFY2(copy, copy ? "" : copy.error().text().c_str());
                QVERIFY(copy->lost.empty());
                const auto [n, bad] = stateOf(copy->project);
                QVERIFY2(bad.isEmpty(), qPrintable("the copy: " + bad));
                best = std::max(best, n);
                ++copies;
                beyondSaved += n > state;
            }
            QVERIFY2(best >= said.editedLongAgo,
                     qPrintable(QString("edit %1 was two seconds old, %2 is the best on the disk")
                                    .arg(said.editedLongAgo)
                                    .arg(best)));
            inTime += said.editedLongAgo > 0;

            for (const QFileInfo& f : QDir(data + "/captures").entryInfoList({"*.csv"}, QDir::Files)) {
                const QByteArray log = support::bytesOf(f.filePath());
                if (log.isEmpty()) { // killed before its heading was written
                    QCOMPARE(said.rowsLongAgo, 0);
                    continue;
                }
                QVERIFY(log.endsWith('\n'));
                const auto rows = log.split('\n');
                for (qsizetype row = 1; row + 1 < rows.size(); ++row)
                    QCOMPARE(rows[row].count(','), rows[0].count(','));
                QVERIFY2(rows.size() - 2 >= said.rowsLongAgo,
                         qPrintable(QString("%1 rows in the file, %2 were a second old")
                                        .arg(rows.size() - 2)
                                        .arg(said.rowsLongAgo)));
                QVERIFY(store::readLogAbout(f.filePath().toStdString()));
                ++captures;
            }
            QVERIFY(said.rows == 0 || !QDir(data + "/captures").entryList({"*.csv"}, QDir::Files).isEmpty());

            // The next save works, and clears what the kill left.
            core::Project next = now->project;
            next.brief.roomC = 21;
            QVERIFY(store::saveProject(next, path));
            QVERIFY(store::openProject(path)->project == next);
            QVERIFY2(support::leftIn(dir.path(), {"data"}).isEmpty(),
                     qPrintable(support::leftIn(dir.path(), {"data"}).join(", ")));
        }
        qInfo("%d kills: %d copies, %d of them beyond what was saved, %d lived long enough to owe one, %d captures",
              kills, copies, beyondSaved, inTime, captures);
    }
};

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    const QStringList arguments = QApplication::arguments();
    if (arguments.size() == 5 && arguments[1] == "--victim")
        return victim(arguments[2], arguments[3], arguments[4] == "record");
    qputenv("QTEST_FUNCTION_TIMEOUT", "7200000"); // by hand it takes longer than five minutes
    KilledWindowTest test;
    return QTest::qExec(&test, argc, argv);
}
#include "tst_killed_window.moc"
