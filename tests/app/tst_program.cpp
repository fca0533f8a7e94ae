// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/project_lock.h"
#include "support/demo.h"
#include "support/disk.h"
#include "support/patience.h"
#include "support/process.h"
#include "support/registry.h"

#include <QImage>
#include <QTemporaryDir>
#include <QtTest>

namespace tst_program {

using support::run;

/// The program as a process: pictures of each station, its start, odd arguments.
class ProgramTest : public QObject {
    Q_OBJECT
    [[nodiscard]] static QString demo() { return support::sourcePath("data/demo/dig-tent"); }

private slots:
    void shots_data() {
        QTest::addColumn<QStringList>("more");
        QTest::addColumn<QSize>("size");
        QTest::newRow("usual") << QStringList{} << QSize(1280, 800);
        QTest::newRow("dark, least size")
            << QStringList{"--theme", "dark", "--size", "1100x700", "--revision", "R3"} << QSize(1100, 700);
        QTest::newRow("large") << QStringList{"--size", "2300x1300"} << QSize(2300, 1300);
    }
    void shots() {
        QFETCH(QStringList, more);
        QFETCH(QSize, size);
        QTemporaryDir dir;
        const auto e = run("mini-draft", QStringList{"--shots", dir.filePath("p"), demo()} + more);
        QVERIFY2(e.code == 0 && !e.crashed, qPrintable(e.err));
        for (const char* name : {"brief", "fit", "fit-box", "air", "make", "bench", "verdict"}) {
            const QImage image(dir.filePath(QStringLiteral("p/%1.png").arg(name)));
            QCOMPARE(image.size(), size);
            QSet<QRgb> colours;
            for (int y = 0; y < image.height(); y += 7)
                for (int x = 0; x < image.width(); x += 7)
                    colours.insert(image.pixel(x, y));
            QVERIFY2(colours.size() > 30, name); // something was drawn
        }
    }
    /// Somebody else may work on it meanwhile: pictures take nothing and leave nothing, beside the project or at home.
    void picturesLeaveNothingBehind() {
        QTemporaryDir dir;
        const QString project = dir.filePath("project");
        const auto small = store::openProject(support::sourcePath("examples/hand-written")); // it is soon drawn
        QVERIFY(small && store::saveProject(small->project, project + "/project.json"));
        const auto written = [&] {
            return QFileInfo(project).lastModified();
        }; // a file that comes and goes is seen too
        const QDateTime before = written();
        qputenv("XDG_CONFIG_HOME", dir.filePath("config").toUtf8());
        const auto picture = [&](const QString& to) {
            const auto e = run("mini-draft", {"--shots", dir.filePath(to), project});
            return e.code == 0 ? support::bytesOf(dir.filePath(to) + "/fit.png") : QByteArray();
        };
        const QByteArray alone = picture("alone");
        QVERIFY(!alone.isEmpty());
        QCOMPARE(written(), before);
        const auto lock = store::ProjectLock::take(project, "another program");
        QVERIFY(lock);
        QVERIFY(picture("beside") == alone);
        QVERIFY(store::ProjectLock::owner(project));
        QVERIFY(QDir(dir.filePath("config")).isEmpty());
        qunsetenv("XDG_CONFIG_HOME");
    }
    void handWrittenFolderOpens() {
        QTemporaryDir dir;
        const auto e = run("mini-draft", {"--shots", dir.path(), support::sourcePath("examples/hand-written")});
        QCOMPARE(e.code, 0);
        QVERIFY(QFileInfo(dir.filePath("bench.png")).size() > 20000);
    }
    void nothingToOpen() {
        QTemporaryDir dir;
        QCOMPARE(run("mini-draft", {"--shots", dir.filePath("a")}).code, 0);
        const auto e = run("mini-draft", {"--shots", dir.filePath("b"), "/no/such/project"});
        QCOMPARE(e.code, 0); // the window opens empty and says why in a dialog
        QVERIFY(!e.crashed);
    }
    void shotsWhereNothingCanBeWritten() {
        const auto e = run("mini-draft", {"--shots", "/proc/none", demo()});
        QCOMPARE(e.code, 2);
        QVERIFY(e.err.contains("cannot be written"));
    }
    /// Start to first painted window below 0.7 s; sanitizers are given their time.
    void start() {
        int best = 100000;
        for (int i = 0; i < 3; ++i) {
            const auto e = run("mini-draft", {"--time-to-paint", demo()});
            QCOMPARE(e.code, 0);
            best = std::min(best, e.out.section(' ', 0, 0).toInt());
        }
#if defined(__SANITIZE_ADDRESS__)
        QVERIFY(best < 20000);
#else
        QVERIFY2(best < 700, qPrintable(QString::number(best)));
#endif
    }
    void options() {
        QVERIFY(run("mini-draft", {"--version"}).out.contains("0.1.0"));
        QVERIFY(run("mini-draft", {"--help"}).out.contains("--shots"));
        QCOMPARE(run("mini-draft", {"--sideways"}).code, 1);
    }
    /// What it is and what it takes is told where no window can stand, as over a remote shell.
    void toldWithoutADisplay() {
        QProcessEnvironment bare = QProcessEnvironment::systemEnvironment();
        for (const char* name : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"})
            bare.remove(name);
        const auto told = [&](const QStringList& arguments) {
            QProcess process;
            process.setProcessEnvironment(bare);
            process.start(QStringLiteral(MD_BIN_DIR "/mini-draft"), arguments);
            if (!process.waitForFinished(60000 * kPatience) || process.exitStatus() == QProcess::CrashExit)
                return std::pair(-1, QString());
            return std::pair(process.exitCode(), QString::fromUtf8(process.readAllStandardOutput()));
        };
        QCOMPARE(told({"--version"}), std::pair(0, QStringLiteral("mini-draft 0.1.0\n")));
        QVERIFY(told({"--help"}).second.contains("--shots"));
        QCOMPARE(told({}).first, 2);
    }
};

} // namespace tst_program
MD_TEST(tst_program, ProgramTest)
#include "tst_program.moc"
