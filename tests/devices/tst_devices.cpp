// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/capture_file.h"
#include "devices/line_protocol.h"
#include "devices/sample_source.h"
#include "store/log_about.h"
#include "support/demo.h"
#include "support/patience.h"
#include "support/process.h"
#include "support/registry.h"

#include <QLocalServer>
#include <QLocalSocket>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QtTest>

#include <csignal>
#include <random>

namespace tst_devices {

using namespace devices;

class DevicesTest : public QObject {
    Q_OBJECT
    [[nodiscard]] static QString demo() { return support::sourcePath("data/demo/dig-tent"); }
    [[nodiscard]] static QStringList rigArguments(const QStringList& more = {}) {
        return QStringList{demo(), "--revision",  "R10", "--idle",  "5", "--duration",
                           "30",   "--cool-down", "5",   "--speed", "0"} +
               more;
    }
    [[nodiscard]] static QString bin(const char* name) {
        return QStringLiteral(MD_BIN_DIR) + QLatin1Char('/') + QString::fromLatin1(name);
    }

private slots:
    void lines_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<int>("kind"); // index of the variant, -1: refused
        QTest::newRow("hello") << "M mini-draft 1 rig" << 0;
        QTest::newRow("newer protocol") << "M mini-draft 2 rig" << -1;
        QTest::newRow("another protocol") << "M something 1 rig" << -1;
        QTest::newRow("channel") << "C cpu_c temperature °C tray/cpu" << 1;
        QTest::newRow("channel without unit") << "C level_dba level" << 1;
        QTest::newRow("unknown kind") << "C x loudness dB -" << -1;
        QTest::newRow("data") << "D 12 40.5 - 1500" << 2;
        QTest::newRow("data without time") << "D" << -1;
        QTest::newRow("text in data") << "D 12 hot" << -1;
        QTest::newRow("time that is none") << "D - 40" << -1;
        QTest::newRow("note") << "N fan changed" << 3;
        QTest::newRow("end") << "E done" << 4;
        QTest::newRow("empty") << "" << -1;
        QTest::newRow("rubbish") << "hello world" << -1;
    }
    void lines() {
        QFETCH(QString, text);
        QFETCH(int, kind);
        const auto line = parseLine(text.toStdString());
        QCOMPARE(line ? static_cast<int>(line->index()) : -1, kind);
        if (!line)
            QVERIFY(!line.error().remedy.empty());
    }
    void linesGoBothWays() {
        const core::Channel c{
            .name = "cpu_c", .unit = "°C", .kind = core::ChannelKind::Temperature, .subject = "tray/cpu"};
        const auto back = parseLine(channelText(c));
        QVERIFY(back);
        const auto& channel = std::get<ChannelLine>(*back).channel;
        QCOMPARE(channel.subject, c.subject);
        QCOMPARE(channel.unit, c.unit);
        const auto data = parseLine(dataText(1.5, {40.125, std::nan(""), -3}));
        const auto& d = std::get<DataLine>(*data);
        QCOMPARE(d.timeS, 1.5);
        QCOMPARE(d.values.size(), std::size_t{3});
        QCOMPARE(d.values[0], 40.125);
        QVERIFY(std::isnan(d.values[1]));
    }
    void linesFuzzed() {
        std::mt19937 random(5);
        const std::string seeds[] = {"M mini-draft 1 rig", "C cpu_c temperature °C tray/cpu", "D 12 40.5 - 1500",
                                     "E done"};
        for (int i = 0; i < 20000; ++i) {
            std::string text = seeds[random() % 4];
            for (int k = 0; k < 4; ++k)
                text[random() % text.size()] = static_cast<char>(random());
            (void)parseLine(text);
        }
    }

    void captureIsAnOrdinaryLog() {
        QTemporaryDir dir;
        CaptureFile file;
        QVERIFY(
            file.open(dir.filePath("a.csv"), {.channels = {{.name = "cpu_c", .kind = core::ChannelKind::Temperature},
                                                           {.name = "room_c", .kind = core::ChannelKind::Ambient}}}));
        QVERIFY(file.add(0, {40.5, 23}));
        QVERIFY(file.add(1, {std::nan(""), 23.1}));
        // Before it is closed, what was written is there: a killed program loses at most the last second.
        auto text = store::readFile(dir.filePath("a.csv").toStdString());
        QCOMPARE(QString::fromStdString(*text), QString("time_s,cpu_c,room_c\n0,40.5,23\n1,,23.1\n"));
        QVERIFY(file.close());
    }
    void captureWhereNothingCanBeWritten() {
        CaptureFile file;
        const auto opened = file.open("/proc/none/a.csv", {});
        QVERIFY(!opened);
        QVERIFY(opened.error().text().find("/proc/none/a.csv") != std::string::npos);
    }

    void rigSpeaksTheProtocol() {
        const auto e = support::run("mini-draft-rig", rigArguments());
        QCOMPARE(e.code, 0);
        const auto lines = e.out.split('\n', Qt::SkipEmptyParts);
        QVERIFY(lines.first().startsWith("M mini-draft 1"));
        QCOMPARE(lines.last(), QString("E done"));
        int channels = 0, data = 0;
        for (const QString& text : lines) {
            const auto line = parseLine(text.toStdString());
            QVERIFY2(line, qPrintable(text));
            channels += std::holds_alternative<ChannelLine>(*line);
            if (const auto* d = std::get_if<DataLine>(&*line)) {
                ++data;
                QCOMPARE(static_cast<int>(d->values.size()), channels);
            }
        }
        QVERIFY(channels >= 8);
        QCOMPARE(data, 41); // 5 + 30 + 5 seconds, both ends
    }
    /// What the prediction says stands still stands still here too: no header, no fan.
    void rigLeavesStandingWhatFindsNoPlug() {
        auto loaded = store::openProject(demo());
        QVERIFY(loaded);
        for (core::Part& part : loaded->project.shelf)
            part.gives.erase("fan");
        loaded->project.runs.clear();
        QTemporaryDir dir;
        const QString path = dir.filePath("no-headers.minidraft");
        QVERIFY(store::saveProject(loaded->project, path));
        const auto e = support::run("mini-draft-rig", {path, "--revision", "R10", "--idle", "5", "--duration", "30",
                                                       "--cool-down", "5", "--speed", "0"});
        QCOMPARE(e.code, 0);
        std::vector<std::string> names;
        std::vector<double> last;
        for (const QString& text : e.out.split('\n', Qt::SkipEmptyParts)) {
            const auto line = parseLine(text.toStdString());
            QVERIFY(line);
            if (const auto* c = std::get_if<ChannelLine>(&*line))
                names.push_back(c->channel.name);
            if (const auto* d = std::get_if<DataLine>(&*line))
                last = d->values;
        }
        int still = 0, turning = 0;
        for (std::size_t i = 0; i < names.size(); ++i) {
            still += (names[i] == "side_a_rpm" || names[i] == "top_rpm" || names[i] == "tray_cpu_lid_rpm") &&
                     std::abs(last[i]) < 30;                    // the noise of the sensor
            turning += names[i] == "card_rpm" && last[i] > 100; // it needs no header
        }
        QCOMPARE(still, 3);
        QCOMPARE(turning, 1);
    }
    void rigIsSeeded() {
        const auto a = support::run("mini-draft-rig", rigArguments({"--seed", "7"})),
                   b = support::run("mini-draft-rig", rigArguments({"--seed", "7"})),
                   c = support::run("mini-draft-rig", rigArguments({"--seed", "8"}));
        QCOMPARE(a.out, b.out);
        QVERIFY(a.out != c.out);
    }
    void rigFaults() {
        const auto plain = support::run("mini-draft-rig", rigArguments());
        const auto column = [](const QString& out, const QString& name, int second) {
            int at = 0;
            for (const QString& line : out.split('\n')) {
                const auto w = line.split(' ', Qt::SkipEmptyParts);
                if (w.size() > 1 && w[0] == "C" && ++at && w[1] == name)
                    for (const QString& row : out.split('\n'))
                        if (row.startsWith(QStringLiteral("D %1 ").arg(second)))
                            return row.split(' ')[1 + at];
            }
            return QString();
        };
        const auto dropped = support::run("mini-draft-rig", rigArguments({"--fault", "dropout@10+5:cpu_c"}));
        QCOMPARE(column(dropped.out, "cpu_c", 12), QString("-"));
        QVERIFY(column(dropped.out, "cpu_c", 16) != "-");
        const auto stuck = support::run("mini-draft-rig", rigArguments({"--fault", "stuck@10+10:cpu_c"}));
        QCOMPARE(column(stuck.out, "cpu_c", 19), column(stuck.out, "cpu_c", 10));
        const auto spike = support::run("mini-draft-rig", rigArguments({"--fault", "spike@20:cpu_c"}));
        QCOMPARE_LE(
            std::abs(column(spike.out, "cpu_c", 20).toDouble() - column(plain.out, "cpu_c", 20).toDouble() - 25), 1e-6);
        const auto gone = support::run("mini-draft-rig", rigArguments({"--fault", "disconnect@15"}));
        QVERIFY(!gone.out.contains("E done"));
        QVERIFY(gone.out.contains("\nD 14 "));
        QVERIFY(!gone.out.contains("\nD 15 "));
    }
    void rigRefuses_data() {
        QTest::addColumn<QStringList>("more");
        QTest::addColumn<QString>("words");
        QTest::newRow("fault") << QStringList{"--fault", "flood@3"} << "is not understood";
        QTest::newRow("load") << QStringList{"--load", "sprint"} << "load \"sprint\" is not there";
        QTest::newRow("fan step") << QStringList{"--fan-step", "side-a"} << "mount@seconds=share";
    }
    void rigRefuses() {
        QFETCH(QStringList, more);
        QFETCH(QString, words);
        const auto e = support::run("mini-draft-rig", rigArguments(more));
        QCOMPARE(e.code, 2);
        QVERIFY2(e.err.contains(words), qPrintable(e.err));
    }

    void sourceFromAProgram() {
        const auto source = LineSource::fromProgram(bin("mini-draft-rig"), rigArguments());
        QSignalSpy ended(source.get(), &SampleSource::ended);
        int rows = 0;
        double last = -1;
        connect(source.get(), &SampleSource::reading, this, [&](double t, const std::vector<double>& values) {
            ++rows;
            QVERIFY(t > last);
            last = t;
            QCOMPARE(values.size(), source->channels().size());
        });
        source->start();
        QVERIFY(ended.wait(20000 * kPatience));
        QCOMPARE(ended[0][0].toString(), QString());
        QCOMPARE(rows, 41);
        QCOMPARE(source->name(), QString("rig"));
    }
    void sourceThatIsNotThere() {
        const auto source = LineSource::fromProgram("/no/such/program", {});
        QSignalSpy ended(source.get(), &SampleSource::ended);
        source->start();
        QVERIFY(ended.count() || ended.wait(5000 * kPatience));
        QVERIFY(ended[0][0].toString().contains("cannot be started"));
        const auto socket = LineSource::fromSocket("no-such-socket-of-mini-draft");
        QSignalSpy closed(socket.get(), &SampleSource::ended);
        socket->start();
        QVERIFY(closed.count() || closed.wait(5000 * kPatience));
        QVERIFY(!closed[0][0].toString().isEmpty());
    }
    void sourceFromASocketThatBreaks() {
        QLocalServer server;
        const QString name = QStringLiteral("mini-draft-test-%1").arg(QCoreApplication::applicationPid());
        QVERIFY(server.listen(name));
        connect(&server, &QLocalServer::newConnection, this, [&] {
            auto* socket = server.nextPendingConnection();
            socket->write("M mini-draft 1 meter\nC level_dba level dB(A) -\nD 0 30.5\nD rubbish\nN moved\nD 1 31\n");
            socket->flush();
            socket->disconnectFromServer();
        });
        const auto source = LineSource::fromSocket(name);
        QSignalSpy ended(source.get(), &SampleSource::ended), notes(source.get(), &SampleSource::note),
            readings(source.get(), &SampleSource::reading);
        int rows = 0;
        connect(source.get(), &SampleSource::reading, this, [&](double, const std::vector<double>&) { ++rows; });
        source->start();
        QVERIFY(ended.count() || ended.wait(5000 * kPatience));
        QVERIFY(ended[0][0].toString().contains("closed"));
        QCOMPARE(rows, 2);
        QCOMPARE(notes.count(), 2); // the rubbish is said, the note is passed on
    }

    /// kill -9 in the middle of a capture leaves a log that loses at most the last second.
    void captureSurvivesKill() {
        QTemporaryDir dir;
        QProcess capture;
        capture.start(bin("mini-draft-cli"),
                      QStringList{"capture", "-o", dir.filePath("k.csv"), bin("mini-draft-rig"), "--"} +
                          QStringList{demo(), "--revision", "R10", "--duration", "3000", "--speed", "20"});
        QVERIFY(capture.waitForStarted());
        QTRY_VERIFY_WITH_TIMEOUT(QFileInfo(dir.filePath("k.csv")).size() > 2000, 20000 * kPatience);
        ::kill(static_cast<pid_t>(capture.processId()), SIGKILL);
        capture.waitForFinished();
        const auto text = store::readFile(dir.filePath("k.csv").toStdString());
        const auto rows = static_cast<long>(std::count(text->begin(), text->end(), '\n')) - 1;
        const auto format = store::recogniseCsv(*text, "k.csv");
        QVERIFY(format);
        const auto samples = store::readCsv(*text, *format, "k.csv");
        QVERIFY2(samples, samples ? "" : samples.error().text().c_str());
        QVERIFY(static_cast<long>(samples->timeS.size()) >= rows);
        QVERIFY(samples->timeS.size() > 10);
    }

    /// Channels are what they are at the first reading; what comes later, or does not fit, is said and left out.
    void lateChannelsAndOddReadings() {
        auto source = LineSource::fromProgram(
            "/bin/sh",
            {"-c",
             "printf 'M mini-draft 1 odd\\nC a temperature - -\\nD 0 1\\nC late rpm - -\\nD 1 2 3\\nD 2\\nE done\\n'"});
        QStringList notes;
        std::vector<std::vector<double>> rows;
        bool over = false;
        connect(source.get(), &SampleSource::note, this, [&](const QString& t) { notes << t; });
        connect(source.get(), &SampleSource::reading, this,
                [&](double, const std::vector<double>& v) { rows.push_back(v); });
        connect(source.get(), &SampleSource::ended, this, [&] { over = true; });
        source->start();
        QTRY_VERIFY_WITH_TIMEOUT(over, 10000 * kPatience);
        QCOMPARE(source->channels().size(), std::size_t{1});
        QCOMPARE(rows.size(), std::size_t{3});
        for (const auto& row : rows)
            QCOMPARE(row.size(), std::size_t{1});
        QVERIFY2(notes.join(" ").contains("late was announced after the first reading"), qPrintable(notes.join("\n")));
        QVERIFY2(notes.join(" ").contains("2 values for 1 channels"), qPrintable(notes.join("\n")));
    }
    /// Ctrl+C ends a capture like any other end: a summary, whole rows, and what was declared beside them.
    void captureEndsWithASummary() {
        for (const int number : {SIGINT, SIGTERM}) {
            QTemporaryDir dir;
            QProcess capture;
            capture.start(bin("mini-draft-cli"),
                          QStringList{"capture", "-o", dir.filePath("s.csv"), bin("mini-draft-rig"), "--"} +
                              QStringList{demo(), "--revision", "R10", "--duration", "3000", "--speed", "20"});
            QVERIFY(capture.waitForStarted());
            QTRY_VERIFY_WITH_TIMEOUT(QFileInfo(dir.filePath("s.csv")).size() > 1000, 20000 * kPatience);
            ::kill(static_cast<pid_t>(capture.processId()), number);
            QVERIFY(capture.waitForFinished(5000 * kPatience));
            QCOMPARE(capture.exitStatus(), QProcess::NormalExit);
            QCOMPARE(capture.exitCode(), 0);
            QVERIFY(QString::fromUtf8(capture.readAllStandardOutput()).contains(" rows"));
            const auto about = store::readLogAbout(dir.filePath("s.csv").toStdString());
            QVERIFY(about);
            QCOMPARE(about->source, std::string("rig"));
            QVERIFY(std::any_of(about->channels.begin(), about->channels.end(), [](const core::Channel& c) {
                return c.subject == "tray/cpu" && c.kind == core::ChannelKind::Temperature;
            }));
        }
    }
};

} // namespace tst_devices
MD_TEST(tst_devices, DevicesTest)
#include "tst_devices.moc"
