// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/typed_number.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_typed {

using core::TypedNumber;
using core::typedNumber;

/// Figures as people type them, into fields of any unit.
class TypedTest : public QObject {
    Q_OBJECT
private slots:
    void isRead_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("unit");
        QTest::addColumn<double>("value");
        const auto row = [](const char* text, const char* unit, double value) {
            QTest::addRow("%s as %s", text, unit) << QString::fromUtf8(text) << QString::fromUtf8(unit) << value;
        };
        row("84.6", "mm", 84.6);
        row("84,6", "mm", 84.6);
        row(" 84,6 mm ", "mm", 84.6);
        row("84.6\u00a0mm", "mm", 84.6);
        row("84.6 mm mm", "mm", 84.6); // typed before the unit that stood there
        row("4 in", "mm", 101.6);
        row("3.33in", "mm", 84.582);
        row("4\"", "mm", 101.6);
        row("8.46 cm", "mm", 84.6);
        row("101.6 mm", "in", 4);
        row("120+15", "mm", 135);
        row("80+4.6", "mm", 84.6);
        row("120 - 2,5 - 2.5 mm", "mm", 115);
        row("4in + 1 mm", "mm", 102.6);
        row("-5", "mm", -5);
        row("\u22125", "mm", -5);
        row("+5", "mm", 5);
        row("1e1", "mm", 10);
        row("1,5e+1 + 1", "mm", 16);
        row("65w", "W", 65);
        row("0.5 kW", "W", 500);
        row("38 cfm", "m\u00b3/h", 38 * 1.699);
        row("0.01 m3/s", "m\u00b3/h", 36);
        row("64.562 m3/h", "CFM", 38);
        row("77 f", "\u00b0C", 25);
        row("25 C", "\u00b0F", 77);
        row("3.8 ghz", "MHz", 3800);
        row("650 g", "kg", 0.65);
        row("2 h", "min", 120);
        row("25 EUR", "EUR", 25);
        row("7", "", 7);
        row("30 dB", "dB(A)", 30);
    }
    void isRead() {
        QFETCH(QString, text);
        QFETCH(QString, unit);
        QFETCH(double, value);
        const std::string t = text.toStdString(), u = unit.toStdString();
        const TypedNumber n = typedNumber(t, u);
        QCOMPARE(n.wrong, TypedNumber::Wrong::Nothing);
        QVERIFY2(std::abs(n.value - value) < 1e-3, qPrintable(QString::number(n.value)));
    }
    void isRefused_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("unit");
        QTest::addColumn<int>("wrong");
        using Wrong = TypedNumber::Wrong;
        const auto row = [](const char* text, const char* unit, Wrong wrong) {
            QTest::addRow("%s as %s", text, unit)
                << QString::fromUtf8(text) << QString::fromUtf8(unit) << static_cast<int>(wrong);
        };
        row("", "mm", Wrong::Empty);
        row("  mm", "mm", Wrong::Empty);
        row("84,6,1", "mm", Wrong::TwoMarks);
        row("1.234,5", "mm", Wrong::TwoMarks);
        row("wide", "mm", Wrong::NoNumber);
        row("1e999", "mm", Wrong::NoNumber);
        row("12+", "mm", Wrong::NoNumber);
        row("--5", "mm", Wrong::NoNumber);
        row("12 13", "mm", Wrong::NoNumber);
        row("12 furlong", "mm", Wrong::UnknownUnit);
        row("12 W", "mm", Wrong::OtherUnit);
        row("12 mm", "", Wrong::OtherUnit);
        row("20 C + 5 F", "\u00b0C", Wrong::OtherUnit); // a sum of two scales says nothing
    }
    void isRefused() {
        QFETCH(QString, text);
        QFETCH(QString, unit);
        QFETCH(int, wrong);
        const std::string t = text.toStdString(), u = unit.toStdString();
        QCOMPARE(static_cast<int>(typedNumber(t, u).wrong), wrong);
    }
};
} // namespace tst_typed
MD_TEST(tst_typed, TypedTest)
#include "tst_typed.moc"
