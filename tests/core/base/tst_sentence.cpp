// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/sentence.h"
#include "support/registry.h"

#include <clocale>

#include <QtTest>

namespace tst_sentence {

using namespace core;

Reader american() { return Reader(Show({.fahrenheit = true, .cfm = true, .inch = true})); }
QString text(const Reader& reader, const Sentence& s) { return QString::fromStdString(reader.text(s)); }

/// What is said with figures in every quantity: name, sentence, in stored units, in inch, °F and CFM.
struct Said {
    const char* name;
    Sentence sentence;
    const char* stored;
    const char* american;
};
/// Lengths by the inch of 25.4 mm (exact), CFM of 1.699 m³/h, °F = 1.8 °C + 32 (exact).
std::vector<Said> all() {
    using namespace figure;
    return {
        {"length", say("overlap {}", mm(25.4)), "overlap 25.4 mm", "overlap 1.000 in"},
        {"decimals of the stored unit", say("{} long", mm(254, 0)), "254 mm long", "10.000 in long"},
        {"bare beside a unit", say("{}, needs {}", mm(7.62), mm(12.7).bare()), "7.6 mm, needs 12.7",
         "0.300 in, needs 0.500"},
        {"box", boxMm({254, 127, 25.4}), "254 x 127 x 25 mm", "10.000 x 5.000 x 1.000 in"},
        {"warmth", say("reaches {}, cap {}", celsius(95, 0), celsius(80, 0).bare()), "reaches 95 °C, cap 80",
         "reaches 203.0 °F, cap 176.0"},
        {"a difference is no temperature", say("within {}", kelvin(10, 0)), "within 10 K", "within 18.0 °F"},
        {"sign", say("{}", mm(2.54).signedFigure()), "+2.5 mm", "+0.100 in"},
        {"minus", say("{}", mm(-2.54)), "\u22122.5 mm", "\u22120.100 in"},
        {"air", say("{} in", flow(16.99)), "17 m³/h in", "10 CFM in"},
        {"what has one unit only", say("{}, {} A, {}", watts(180), number(4.5, 1), percent(0.72)), "180 W, 4.5 A, 72 %",
         "180 W, 4.5 A, 72 %"},
        // A name is told as it is, whatever it looks like: this is why sentences are not searched for figures.
        {"a name with a figure", say("{} is {} short", std::string("Fan 92 mm, 35 °C"), mm(2.54)),
         "Fan 92 mm, 35 °C is 2.5 mm short", "Fan 92 mm, 35 °C is 0.100 in short"},
        {"a name with braces", say("{} and {}", std::string("{}"), std::string("{1}")), "{} and {1}", "{} and {1}"},
        {"count", say("{} of {} lanes", 3, std::size_t{4}), "3 of 4 lanes", "3 of 4 lanes"},
        {"one", sayCounted(true, "{} gap", "{} gaps", 1), "1 gap", "1 gap"},
        {"sentence in a sentence", say("{}: {}", say("{} to {}", std::string("A"), std::string("B")), say("no air")),
         "A to B: no air", "A to B: no air"},
        {"capital", capitalised(say("{} added", std::string("fan"))), "Fan added", "Fan added"},
        {"list", joined({say("a"), say("{}", mm(25.4)), say("c")}), "a, 25.4 mm, c", "a, 1.000 in, c"},
        {"nothing in a list", joined(Sentences{}), "", ""},
    };
}

class SentenceTest : public QObject {
    Q_OBJECT
private slots:
    void inTheReadersUnits_data() {
        QTest::addColumn<int>("row");
        int row = 0;
        for (const Said& said : all())
            QTest::newRow(said.name) << row++;
    }
    void inTheReadersUnits() {
        QFETCH(int, row);
        const Said said = all()[static_cast<std::size_t>(row)];
        QCOMPARE(QString::fromStdString(english(said.sentence)), QString::fromUtf8(said.stored));
        QCOMPARE(text(american(), said.sentence), QString::fromUtf8(said.american));
        // The core's figures have a point, whatever the system writes.
        for (const char* comma : {"de_DE.UTF-8", "tr_TR.UTF-8"}) {
            std::setlocale(LC_NUMERIC, comma);
            const QString there = text(american(), said.sentence);
            std::setlocale(LC_NUMERIC, "C");
            QCOMPARE(there, QString::fromUtf8(said.american));
        }
    }
    /// A translation may need another order, and leaves names and figures as they are.
    void inTheReadersLanguage() {
        const auto translate = [](const char* text) {
            const std::string_view s(text);
            return std::string(s == "{} is {} short"  ? "{1} fehlen an {0}"
                               : s == "short of air"  ? "zu wenig Luft"
                               : s == "{}: {}, at {}" ? "{} ({}) bei {}"
                                                      : text);
        };
        const Reader reader(Show(), translate, "\u00a0");
        QCOMPARE(text(reader, say("{} is {} short", std::string("Lüfter"), figure::mm(2.5))),
                 QStringLiteral("2.5\u00a0mm fehlen an Lüfter"));
        QCOMPARE(text(reader, say("{}: {}, at {}", std::string("A"), term("short of air"), figure::celsius(20, 0))),
                 QStringLiteral("A (zu wenig Luft) bei 20\u00a0°C"));
        QCOMPARE(text(reader, named("short of air")),
                 QStringLiteral("short of air")); // a name is nobody's to translate
    }
    /// A translation that names what is not there leaves it out, and shows no braces.
    void aWrongTranslationBreaksNothing() {
        const Reader reader(Show(), [](const char*) { return std::string("{0} {7} {x} {"); });
        QCOMPARE(text(reader, say("{}", std::string("A"))), QStringLiteral("A  {x} {"));
    }
    void equalityIsOfWhatIsSaid() {
        QVERIFY(say("{} a", figure::mm(1)) == say("{} a", figure::mm(1)));
        QVERIFY(!(say("{} a", figure::mm(1)) == say("{} a", figure::mm(1.01))));
        QVERIFY(!(say("{} a", figure::mm(1)) == say("{} b", figure::mm(1))));
        QVERIFY(!(named("a") == say("a")));
        QVERIFY(!(capitalised(say("a")) == say("a")));
        QVERIFY(Sentence().empty() && named("").empty() && !say("a").empty());
        QCOMPARE(QString::fromStdString(english(Sentence() + say("a") + Sentence() + say("b"))), QStringLiteral("ab"));
    }
};

} // namespace tst_sentence

MD_TEST(tst_sentence, SentenceTest)
#include "tst_sentence.moc"
