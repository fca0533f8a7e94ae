// SPDX-License-Identifier: GPL-3.0-or-later
#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "store/csv.h"
#include "store/subjects.h"
#include "support/builds.h"
#include "support/registry.h"
#endif

#include <QtTest>

namespace tst_subjects {

using namespace support;

namespace {

/// Two cards beside the processor of the test box, or one.
Project box(int cards) {
    Project p = project();
    if (cards == 2) {
        p.shelf[0].mounts.push_back({.id = "second",
                                     .name = "Second card place",
                                     .accepts = {PartKind::Card},
                                     .at = {low(3), high(2), low(120)},
                                     .facing = {Axis::Z, -1},
                                     .up = {Axis::X, 1}});
        p.revisions[0].changes.push_back(PlacePart{"card", "second"});
    }
    return p;
}

core::Samples samplesOf(const QString& headings) {
    std::string text = "time_s", row = "0", next = "1";
    for (const QString& h : headings.split('|')) {
        text += "," + h.toStdString();
        row += ",40";
        next += ",41";
    }
    text = "T" + text.substr(1) + "\n" + row + "\n" + next + "\n"; // not one of our own
    const auto format = store::recogniseCsv(text, "log.csv");
    if (!format)
        qFatal("%s", format.error().text().c_str());
    auto samples = store::readCsv(text, *format, "log.csv");
    if (!samples)
        qFatal("%s", samples.error().text().c_str());
    return std::move(*samples);
}

QString subjectsOf(const core::Samples& s) {
    QStringList all;
    for (const core::Channel& c : s.channels)
        all << QString::fromStdString(c.subject) + (c.assumed ? "?" : "");
    return all.join('|');
}

} // namespace

/// Only a heading that names the part, or the user, says whose a column is.
class SubjectsTest : public QObject {
    Q_OBJECT
private slots:
    void assigned_data() {
        QTest::addColumn<QString>("headings");
        QTest::addColumn<int>("cards");
        QTest::addColumn<QString>("subjects");
        QTest::addColumn<int>("ambiguous");
        // Common practice, no source.
        QTest::newRow("named") << "CPU (°C)|GPU temp" << 1 << "tray/cpu|card" << 0;
        QTest::newRow("a board sensor is no processor") << "Board (°C)|CPU Package (°C)" << 1 << "|tray/cpu" << 0;
        QTest::newRow("nor is the socket of the board") << "CPU socket (°C)|CPU Package (°C)" << 1 << "|tray/cpu" << 0;
        QTest::newRow("the package among cores")
            << "CPU core 1 °C|CPU core 2 °C|CPU package °C" << 1 << "||tray/cpu" << 0;
        QTest::newRow("cores alone are ambiguous") << "CPU core 1 °C|CPU core 2 °C" << 1 << "|" << 1;
        QTest::newRow("one unnamed is assumed") << "temp °C" << 1 << "tray/cpu?" << 0;
        QTest::newRow("two unnamed are nobody's") << "temp 1 °C|temp 2 °C" << 1 << "|" << 0;
        QTest::newRow("unnamed beside a named one") << "temp °C|CPU °C" << 1 << "|tray/cpu" << 0;
        QTest::newRow("two cards, one column") << "GPU temp" << 2 << "" << 1;
        QTest::newRow("two cards, named by their places") << "GPU second temp|CPU °C" << 2 << "second|tray/cpu" << 0;
        QTest::newRow("no drive placed") << "SSD temp|CPU °C" << 1 << "|tray/cpu" << 0;
    }
    void assigned() {
        QFETCH(QString, headings);
        QFETCH(int, cards);
        QFETCH(QString, subjects);
        QFETCH(int, ambiguous);
        core::Samples s = samplesOf(headings);
        const auto found = store::assignSubjects(box(cards), "R1", s);
        QCOMPARE(subjectsOf(s), subjects);
        QCOMPARE(static_cast<int>(found.size()), ambiguous);
        for (const auto& a : found)
            QVERIFY2(a.text().find("could be") != std::string::npos, a.text().c_str());
    }
    void theUserSays() {
        core::Samples s = samplesOf("CPU core 1 °C|CPU core 2 °C");
        const Project p = box(1);
        QVERIFY(store::assignSubject(p, "R1", "CPU core 2 °C=tray/cpu", s));
        QVERIFY(store::assignSubjects(p, "R1", s).empty());
        QCOMPARE(subjectsOf(s), QStringLiteral("|tray/cpu"));
        for (const char* wrong : {"CPU core 2 °C", "CPU core 3 °C=tray/cpu", "CPU core 2 °C=nowhere"}) {
            const auto refused = store::assignSubject(p, "R1", wrong, s);
            QVERIFY(!refused && !refused.error().remedy.empty());
        }
    }
    void kinds_data() {
        QTest::addColumn<QString>("heading");
        QTest::addColumn<int>("kind");
        QTest::newRow("battery in per cent is no noise") << "Battery level [%]" << int(ChannelKind::Other);
        QTest::newRow("a level of anything is no noise") << "Water level" << int(ChannelKind::Other);
        QTest::newRow("noise") << "Noise [dB(A)]" << int(ChannelKind::Level);
        QTest::newRow("sound level") << "Sound level" << int(ChannelKind::Level);
        QTest::newRow("processor load") << "CPU load [%]" << int(ChannelKind::Other);
    }
    void kinds() {
        QFETCH(QString, heading);
        QFETCH(int, kind);
        QCOMPARE(static_cast<int>(store::columnFromHeader(heading.toStdString()).kind), kind);
    }
};
} // namespace tst_subjects
MD_TEST(tst_subjects, SubjectsTest)
#include "tst_subjects.moc"
