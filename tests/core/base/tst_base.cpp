// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/mark.h"
#include "core/base/measure.h"
#include "core/base/show.h"
#include "core/base/text.h"
#include "support/registry.h"

#include <clocale>

#include <QtTest>

namespace tst_base {

using namespace core;

class BaseTest : public QObject {
    Q_OBJECT
private slots:
    /// The suite also runs where a comma parts decimals and where I has no small i of its own: this says that it really
    /// does.
    void theLocaleIsTheOneAskedFor() {
        QVERIFY(std::setlocale(LC_ALL, ""));
        const QByteArray wanted = qgetenv("LC_ALL");
        if (wanted.startsWith("de_DE") || wanted.startsWith("tr_TR"))
            QCOMPARE(QByteArray(std::localeconv()->decimal_point), QByteArray(","));
        QCOMPARE(core::fixed(23.46, 1), std::string("23.5"));
        QCOMPARE(core::plainFixed(-0.001, 2), std::string("0.00"));
        QCOMPARE(core::plainFixed(1e308, 1).size(), std::size_t{311});
        QCOMPARE(core::shortest(0.1), std::string("0.1"));
        QCOMPARE(core::numberFrom("65.5"), std::optional(65.5));
        QVERIFY(!core::numberFrom("65,5") && !core::numberFrom("") && !core::numberFrom("1x"));
        QCOMPARE(core::asciiLower("TITLE I"), std::string("title i"));
        QCOMPARE(core::printable("a\x1b[31mb\x07\xc2\x9b"
                                 "c"),
                 std::string("a\uFFFD[31mb\uFFFD\uFFFD"
                             "c"));
        QCOMPARE(core::fileNameFrom("../../etc/passwd"), std::string("-.-..-etc-passwd"));
        QCOMPARE(core::fileNameFrom(""), std::string("unnamed"));
    }
    void lengthsAddExactly() {
        Length sum;
        for (int i = 0; i < 10; ++i)
            sum += Length::fromMm(0.1);
        QCOMPARE(sum, Length::fromMm(1.0)); // ten times 0.1 is one, which doubles do not give
        QCOMPARE(Length::fromMm(-2.0005).um(), -2001);
        QCOMPARE(Length::fromUm(1500).metres(), 0.0015);
    }

    /// Default half widths by source. Common practice, no source.
    void tolerances_data() {
        QTest::addColumn<int>("source");
        QTest::addColumn<double>("mm");
        QTest::addColumn<bool>("loose");
        QTest::addColumn<double>("toleranceMm");
        QTest::newRow("caliper") << int(Source::Caliper) << 82.0 << false << 0.1;
        QTest::newRow("steel rule") << int(Source::SteelRule) << 82.0 << false << 0.5;
        QTest::newRow("drawing") << int(Source::Drawing) << 82.0 << false << 0.2;
        QTest::newRow("sheet") << int(Source::Sheet) << 82.0 << false << 0.5;
        QTest::newRow("sheet, cooler height") << int(Source::Sheet) << 47.0 << true << 1.0;
        QTest::newRow("estimate") << int(Source::Estimate) << 82.0 << false << 2.0;
        QTest::newRow("bent sheet") << int(Source::BentSheet) << 82.0 << false << 0.5;
        QTest::newRow("printed, short: 0.3") << int(Source::Printed) << 60.0 << false << 0.3;
        QTest::newRow("printed, long: 0.3 %") << int(Source::Printed) << 200.0 << false << 0.6;
        QTest::newRow("laser cut") << int(Source::LaserCut) << 82.0 << false << 0.2;
        QTest::newRow("hand cut") << int(Source::HandCut) << 82.0 << false << 1.0;
        QTest::newRow("caliper stays tight for coolers") << int(Source::Caliper) << 47.0 << true << 0.1;
    }
    void tolerances() {
        QFETCH(int, source);
        QFETCH(double, mm);
        QFETCH(bool, loose);
        QFETCH(double, toleranceMm);
        const Measure m =
            measureMm(mm, static_cast<Source>(source), loose ? SheetKind::CoolerOrCard : SheetKind::Ordinary);
        QCOMPARE(m.tolerance.mm(), toleranceMm);
        QVERIFY(!m.toleranceStated);
    }

    void sourceWordsGoBothWays() {
        for (int i = 0; i <= static_cast<int>(Source::Computed); ++i) {
            const auto back = sourceFromWord(sourceWord(static_cast<Source>(i)));
            QVERIFY(back);
            QCOMPARE(static_cast<int>(*back), i);
        }
        QVERIFY(!sourceFromWord("guess"));
    }

    void numbersInText_data() {
        QTest::addColumn<double>("value");
        QTest::addColumn<int>("decimals");
        QTest::addColumn<QString>("plain");
        QTest::addColumn<QString>("withSign");
        QTest::newRow("positive") << 1.25 << 1 << "1.2"
                                  << "+1.2";
        QTest::newRow("negative has a real minus")
            << -3.04 << 1 << QStringLiteral("\u22123.0") << QStringLiteral("\u22123.0");
        QTest::newRow("never minus nought") << -0.04 << 1 << "0.0"
                                            << "0.0";
        QTest::newRow("nought has no sign") << 0.0 << 2 << "0.00"
                                            << "0.00";
        QTest::newRow("not a number") << std::nan("") << 1 << "none"
                                      << "none";
    }
    void numbersInText() {
        QFETCH(double, value);
        QFETCH(int, decimals);
        QFETCH(QString, plain);
        QFETCH(QString, withSign);
        QCOMPARE(QString::fromStdString(fixed(value, decimals)), plain);
        QCOMPARE(QString::fromStdString(core::withSign(value, decimals)), withSign);
    }

    /// Units on screen; exact definitions (1 in = 25.4 mm), 1 CFM = 1.699 m³/h.
    void units_data() {
        QTest::addColumn<int>("quantity");
        QTest::addColumn<double>("stored");
        QTest::addColumn<double>("shown");
        QTest::addColumn<QString>("unit");
        QTest::newRow("boiling") << int(Quantity::Temperature) << 100.0 << 212.0 << QStringLiteral("°F");
        QTest::newRow("a difference has no offset")
            << int(Quantity::TemperatureDifference) << 10.0 << 18.0 << QStringLiteral("°F");
        QTest::newRow("an inch") << int(Quantity::Length) << 25.4 << 1.0 << QStringLiteral("in");
        QTest::newRow("flow") << int(Quantity::Flow) << 16.99 << 10.0 << QStringLiteral("CFM");
        QTest::newRow("clock") << int(Quantity::Clock) << 4100.0 << 4.1 << QStringLiteral("GHz");
        QTest::newRow("mass") << int(Quantity::Mass) << 4620.0 << 4.62 << QStringLiteral("kg");
        QTest::newRow("share") << int(Quantity::Share) << 0.31 << 31.0 << QStringLiteral("%");
        QTest::newRow("watts stay") << int(Quantity::Power) << 65.0 << 65.0 << QStringLiteral("W");
    }
    void units() {
        QFETCH(int, quantity);
        QFETCH(double, stored);
        QFETCH(double, shown);
        QFETCH(QString, unit);
        const Show show({.fahrenheit = true, .cfm = true, .inch = true});
        const auto q = static_cast<Quantity>(quantity);
        QCOMPARE_LE(std::abs(show.value(q, stored) - shown), 1e-9);
        QCOMPARE_LE(std::abs(show.stored(q, shown) - stored), 1e-9);
        QCOMPARE(QString::fromStdString(show.unit(q)), unit);
    }
    void plainUnits() {
        const Show show;
        QCOMPARE(QString::fromStdString(show.text(Quantity::Temperature, 78.04)), QStringLiteral("78.0\u00a0°C"));
        QCOMPARE(QString::fromStdString(show.text(Quantity::Length, 9)), QStringLiteral("9.0\u00a0mm"));
        QCOMPARE(QString::fromStdString(show.signedNumber(Quantity::Level, 2.5)), QStringLiteral("+2.5"));
    }

    void marks_data() {
        QTest::addColumn<double>("headroom");
        QTest::addColumn<double>("band");
        QTest::addColumn<double>("reserve");
        QTest::addColumn<int>("mark");
        QTest::newRow("kept with the whole band") << 3.0 << 1.0 << 0.0 << int(Mark::Holds);
        QTest::newRow("just kept") << 1.0 << 1.0 << 0.0 << int(Mark::Holds);
        QTest::newRow("less than the reserve is left") << 3.0 << 1.5 << 2.0 << int(Mark::Open);
        QTest::newRow("band crosses the limit") << 0.5 << 1.0 << 0.0 << int(Mark::Open);
        QTest::newRow("over, but the band reaches back") << -0.5 << 1.0 << 0.0 << int(Mark::Open);
        QTest::newRow("broken with the whole band") << -2.0 << 1.0 << 0.0 << int(Mark::Crossed);
    }
    void marks() {
        QFETCH(double, headroom);
        QFETCH(double, band);
        QFETCH(double, reserve);
        QFETCH(int, mark);
        QCOMPARE(static_cast<int>(markOf(headroom, band, reserve)), mark);
    }
    void theHeavierMark() {
        QCOMPARE(worse(Mark::Holds, Mark::Crossed), Mark::Crossed);
        QCOMPARE(worse(Mark::Open, Mark::Holds), Mark::Open);
        QCOMPARE(worse(Mark::None, Mark::Holds), Mark::Holds);
        QCOMPARE(markWord(Mark::Open), std::string_view("open"));
    }
};
} // namespace tst_base
MD_TEST(tst_base, BaseTest)
#include "tst_base.moc"
