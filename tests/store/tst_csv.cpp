// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/csv.h"
#include "store/csv_fields.h"
#include "support/registry.h"

#include <QtTest>

#include <random>

namespace tst_csv {

using core::ChannelKind;

namespace {

core::Result<core::Samples> read(const std::string& text, store::BadField bad = store::BadField::Refuse) {
    const auto format = store::recogniseCsv(text, "log.csv");
    if (!format)
        return tl::make_unexpected(format.error());
    return store::readCsv(text, *format, "log.csv", bad);
}

} // namespace

class CsvTest : public QObject {
    Q_OBJECT
private slots:
    /// What loggers write, and what it must be taken for.
    void recognises_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("lastTimeS");
        QTest::addColumn<double>("lastValue");
        QTest::newRow("plain") << "time_s,cpu_c\n0,40\n1,41.5\n" << 1.0 << 41.5;
        QTest::newRow("semicolon, decimal comma") << "time_s;cpu_c\n0;40,0\n1;41,5\n" << 1.0 << 41.5;
        QTest::newRow("tab") << "time_s\tcpu_c\n0\t40\n1\t41.5\n" << 1.0 << 41.5;
        QTest::newRow("bar") << "time_s|cpu_c\n0|40\n1|41.5\n" << 1.0 << 41.5;
        QTest::newRow("no header") << "0,40\n1,41.5\n" << 1.0 << 41.5;
        QTest::newRow("clock time") << "Time,CPU Temp [°C]\n23:59:58,40\n23:59:59,41\n00:00:01,41.5\n" << 3.0 << 41.5;
        QTest::newRow("clock with fractions") << "time,cpu_c\n00:00:00.5,40\n00:01:01.0,41.5\n" << 60.5 << 41.5;
        QTest::newRow("ISO 8601") << "timestamp,cpu_c\n2026-05-04T18:30:00Z,40\n2026-05-04T18:31:00Z,41.5\n"
                                  << 60.0 << 41.5;
        QTest::newRow("ISO 8601 with zone")
            << "timestamp,cpu_c\n2026-05-04T18:30:00+02:00,40\n2026-05-04T16:31:00Z,41.5\n"
            << 60.0 << 41.5;
        QTest::newRow("date and time with a blank") << "date,cpu_c\n2026-05-04 18:30:00,40\n2026-05-04 18:30:10,41.5\n"
                                                    << 10.0 << 41.5;
        QTest::newRow("Fahrenheit") << "time_s,CPU (°F)\n0,104\n1,212\n" << 1.0 << 100.0;
        QTest::newRow("Windows lines") << "time_s,cpu_c\r\n0,40\r\n1,41.5\r\n" << 1.0 << 41.5;
        QTest::newRow("byte order mark") << QString::fromUtf8("\xEF\xBB\xBFtime_s,cpu_c\n0,40\n1,41.5\n") << 1.0
                                         << 41.5;
        QTest::newRow("quoted") << "\"time_s\",\"cpu_c\"\n\"0\",\"40\"\n\"1\",\"41.5\"\n" << 1.0 << 41.5;
        QTest::newRow("blank lines") << "time_s,cpu_c\n0,40\n\n1,41.5\n\n" << 1.0 << 41.5;
        QTest::newRow("no newline at the end") << "time_s,cpu_c\n0,40\n1,41.5" << 1.0 << 41.5;
        QTest::newRow("milliseconds by their size") << "time,cpu_c\n0,40\n1000,41\n2000,41.5\n" << 2.0 << 41.5;
        QTest::newRow("microseconds by their size") << "time,cpu_c\n0,40\n1000000,41\n2000000,41.5\n" << 2.0 << 41.5;
        QTest::newRow("a row every five minutes stays seconds") << "time,cpu_c\n0,40\n300,41\n600,41.5\n"
                                                                << 600.0 << 41.5;
        QTest::newRow("a heading with its unit is believed") << "time_s,cpu\n0,40\n1000,41\n2000,41.5\n"
                                                             << 2000.0 << 41.5;
        QTest::newRow("time_ms") << "time_ms,cpu_c\n0,40\n100,41\n200,41.5\n" << 0.2 << 41.5;
        QTest::newRow("moments in milliseconds") << "timestamp,cpu_c\n1777900000000,40\n1777900001000,41.5\n"
                                                 << 1.0 << 41.5;
        QTest::newRow("moments in seconds") << "timestamp,cpu_c\n1777900000,40\n1777900060,41.5\n" << 60.0 << 41.5;
        QTest::newRow("moments in microseconds") << "timestamp,cpu_c\n1777900000000000,40\n1777900002000000,41.5\n"
                                                 << 2.0 << 41.5;
        QTest::newRow("day.month.year") << "time;cpu_c\n04.05.2026 18:30:00;40\n04.05.2026 18:31:00,5;41,5\n"
                                        << 60.5 << 41.5;
        QTest::newRow("date and time in two columns")
            << "Date,Time,cpu_c\n2026-05-04,23:59:59,40\n2026-05-05,00:00:01,41.5\n"
            << 2.0 << 41.5;
        QTest::newRow("time and date in two columns, with points")
            << "Zeit;time;date;cpu_c\n1;23:59:59;04.05.2026;40\n1;00:00:01;05.05.2026;41,5\n"
            << 2.0 << 41.5;
        QTest::newRow("a row of units") << "time,cpu\ns,°F\n0,104\n1,212\n" << 1.0 << 100.0;
        QTest::newRow("a footer") << "time_s2,time_s,cpu_c\n0,0,40\n1,1,41.5\n,end of log,\n,,written by a logger\n"
                                  << 1.0 << 41.5;
        QTest::newRow("a footer of words") << "Time;cpu_c\n0;40\n1;41,5\nEnd of log\n" << 1.0 << 41.5;
        QTest::newRow("an empty column at the end") << "time,cpu_c,\n0,40,\n1,41.5,\n" << 1.0 << 41.5;
        QTest::newRow("GHz") << "time_s,clock [GHz]\n0,4.1\n1,4.2\n" << 1.0 << 4200.0;
    }
    void recognises() {
        QFETCH(QString, text);
        QFETCH(double, lastTimeS);
        QFETCH(double, lastValue);
        const auto samples = read(text.toStdString());
        QVERIFY2(samples, samples ? "" : samples.error().text().c_str());
        QCOMPARE_LE(std::abs(samples->timeS.back() - lastTimeS), 1e-6);
        QCOMPARE_LE(std::abs(samples->channels.back().values.back() - lastValue), 1e-9);
    }

    void headers_data() {
        QTest::addColumn<QString>("header");
        QTest::addColumn<int>("kind");
        QTest::addColumn<QString>("subject");
        QTest::newRow("cpu_c") << "cpu_c" << int(ChannelKind::Temperature) << "processor";
        QTest::newRow("GPU") << "GPU Temperature" << int(ChannelKind::Temperature) << "card";
        QTest::newRow("drive") << "SSD temp" << int(ChannelKind::Temperature) << "drive";
        QTest::newRow("room") << "Room (°C)" << int(ChannelKind::Ambient) << "";
        QTest::newRow("fan") << "Fan 1 [rpm]" << int(ChannelKind::Rpm) << "";
        QTest::newRow("clock") << "cpu_mhz" << int(ChannelKind::Clock) << "processor";
        QTest::newRow("power") << "power_w" << int(ChannelKind::Power) << "";
        QTest::newRow("level") << "Noise dB(A)" << int(ChannelKind::Level) << "";
        QTest::newRow("unknown") << "humidity" << int(ChannelKind::Other) << "";
    }
    void headers() {
        QFETCH(QString, header);
        QFETCH(int, kind);
        QFETCH(QString, subject);
        const auto c = store::columnFromHeader(header.toStdString());
        QCOMPARE(static_cast<int>(c.kind), kind);
        QCOMPARE(QString::fromStdString(c.subject), subject);
    }

    /// Errors name file, line, column and what was expected.
    void refuses_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("words");
        QTest::newRow("empty") << ""
                               << "log.csv: the file is empty";
        QTest::newRow("blanks only") << " \n\n"
                                     << "the file is empty";
        QTest::newRow("header alone") << "time_s,cpu_c\n"
                                      << "a header and no rows";
        QTest::newRow("text in numbers") << "time_s,cpu_c\n0,40\n1,warm\n"
                                         << "log.csv, line 3, column \"cpu_c\": found \"warm\"";
        QTest::newRow("text in time") << "time_s,cpu_c\n0,40\nsoon,41\n"
                                      << "line 3, column \"time_s\"";
        QTest::newRow("no time") << "cpu_c,card_c\n40,50\n41,51\n"
                                 << "no column of time";
        QTest::newRow("dates with slashes") << "date,cpu_c\n05/04/2026 18:30:00,40\n05/04/2026 18:31:00,41\n"
                                            << "can be read two ways";
        QTest::newRow("a footer of numbers is no footer") << "time_s,cpu_c\n0,40\n1,41\nmean,40.5\n"
                                                          << "line 4, column \"time_s\"";
        QTest::newRow("text in the middle is no footer") << "time_s,cpu_c\n0,40\npause,\n2,41\n"
                                                         << "line 3, column \"time_s\"";
        QTest::newRow("a date that is none") << "Date,Time,cpu_c\n2026-05-04,10:00:00,40\nyesterday,10:00:01,41\n"
                                             << "column \"Date\"";
        QTest::newRow("not text") << QString::fromLatin1("\x89PNG\r\n\x1a\n\0\0\0", 11) << "not text";
    }
    void refuses() {
        QFETCH(QString, text);
        QFETCH(QString, words);
        const auto samples = read(text.toLatin1().toStdString());
        QVERIFY(!samples);
        QVERIFY2(QString::fromStdString(samples.error().text()).contains(words), samples.error().text().c_str());
        QVERIFY(!samples.error().remedy.empty());
    }

    void readsTheRestWhenAsked() {
        const auto samples = read("time_s,cpu_c\n0,40\n1,warm\nsoon,42\n3,43\n", store::BadField::ReadTheRest);
        QVERIFY(samples);
        QCOMPARE(samples->timeS, (std::vector<double>{0, 1, 3}));
        QVERIFY(std::isnan(samples->channels[0].values[1]));
        QCOMPARE(samples->channels[0].values[2], 43.0);
    }

    void missingFieldsAreGaps() {
        const auto samples = read("time_s,a_c,b_c\n0,40,\n1,,51\n2,42\n3,N/A,-\n");
        QVERIFY(samples);
        QVERIFY(std::isnan(samples->channels[1].values[0]));
        QVERIFY(std::isnan(samples->channels[0].values[1]));
        QVERIFY(std::isnan(samples->channels[1].values[2])); // the row is short
        QVERIFY(std::isnan(samples->channels[0].values[3]));
        QCOMPARE(samples->channels[1].values.size(), samples->timeS.size());
    }

    void longLines() {
        const std::string line(200 << 20, 'x'); // 200 MB without an end
        const auto first = store::recogniseCsv(line, "log.csv");
        QVERIFY(!first);
        QVERIFY(first.error().text().find("longer than 1 MB") != std::string::npos);
        const auto later = read("time_s,cpu_c\n0,40\n" + line.substr(0, 50 << 20));
        QVERIFY(!later);
        QVERIFY(later.error().text().size() < 300); // the line is not repeated in the message
    }

    void canBeStopped() {
        std::string text = "time_s,cpu_c\n";
        for (int i = 0; i < 100000; ++i)
            text += std::to_string(i) + ",40\n";
        const auto format = store::recogniseCsv(text, "log.csv");
        int calls = 0;
        const auto stopped = store::readCsv(text, *format, "log.csv", store::BadField::Refuse, [&](double share) {
            ++calls;
            return share < 0.4;
        });
        QVERIFY(!stopped);
        QVERIFY(calls >= 2);
    }

    void writesWhatItReads() {
        core::Samples s{{0, 0.1, 1e9 + 0.25},
                        {{.name = "cpu_c",
                          .unit = "°C",
                          .kind = ChannelKind::Temperature,
                          .subject = "processor",
                          .values = {40.125, std::nan(""), 1.0 / 3}}}};
        const std::string text = store::writeCsv(s);
        const auto back = read(text);
        QVERIFY(back);
        QVERIFY(core::sameSamples(s, *back));
        QCOMPARE(store::writeCsv(*back), text);
    }

    /// Any bytes end in samples or in words, never in a crash; columns always match the time.
    void fuzz() {
        std::mt19937 random(1);
        const std::string seeds[] = {"time_s,cpu_c,card_c\n0,40,50\n1,41,51\n2,42,52\n",
                                     "Time;CPU;GPU\n00:00:01;40,5;50\n00:00:02;41;51,25\n",
                                     "timestamp\tt (°F)\n2026-05-04T18:30:00Z\t100\n2026-05-04T18:30:01Z\t101\n"};
        for (int i = 0; i < 20000; ++i) {
            std::string text = seeds[random() % 3];
            for (int k = 0; k < 1 + static_cast<int>(random() % 6); ++k) {
                const std::size_t at = random() % text.size();
                switch (random() % 4) {
                case 0:
                    text[at] = static_cast<char>(random());
                    break;
                case 1:
                    text.erase(at, random() % 8);
                    break;
                case 2:
                    text.insert(at, text.substr(random() % text.size(), random() % 8));
                    break;
                default:
                    text.insert(at, 1, ",;\t\"\n.:-"[random() % 8]);
                    break;
                }
                if (text.empty())
                    text = "x";
            }
            if (const auto samples = read(text, random() % 2 ? store::BadField::Refuse : store::BadField::ReadTheRest))
                for (const core::Channel& c : samples->channels)
                    QCOMPARE(c.values.size(), samples->timeS.size());
        }
    }

    void times_data() {
        QTest::addColumn<QString>("field");
        QTest::addColumn<bool>("clock");
        QTest::addColumn<double>("seconds"); // -1: refused
        QTest::newRow("hh:mm:ss") << "01:02:03" << true << 3723.0;
        QTest::newRow("mm:ss") << "02:03" << true << 123.0;
        QTest::newRow("61 seconds") << "00:00:61" << true << -1.0;
        QTest::newRow("one number") << "12" << true << -1.0;
        QTest::newRow("epoch") << "1970-01-01T00:00:00Z" << false << 0.0;
        QTest::newRow("leap day") << "2024-02-29T00:00:00Z" << false << 1709164800.0;
        QTest::newRow("no such day") << "2023-02-29T00:00:00Z" << false << -1.0;
        QTest::newRow("rubbish behind") << "1970-01-01T00:00:00Zx" << false << -1.0;
    }
    void times() {
        QFETCH(QString, field);
        QFETCH(bool, clock);
        QFETCH(double, seconds);
        double v = -1;
        const bool ok = clock ? store::parseClock(field.toStdString(), v) : store::parseIso8601(field.toStdString(), v);
        QCOMPARE(ok, seconds >= 0);
        if (ok)
            QCOMPARE(v, seconds);
    }
};
} // namespace tst_csv
MD_TEST(tst_csv, CsvTest)
#include "tst_csv.moc"
