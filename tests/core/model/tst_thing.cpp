// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/thing.h"
#include "support/registry.h"

#include <QtTest>

#include <random>
#include <unordered_set>

namespace tst_thing {

using namespace core;

/// The one text form of what is meant: written, read back, refused with words.
class ThingTest : public QObject {
    Q_OBJECT
    std::mt19937 m_random{5};

    /// Ids as people type them, and worse: separators of the text form, control characters, nothing, other alphabets.
    std::string word() {
        static const std::vector<std::string> pieces{
            "tray", "/", "cpu",          "|",   "%",  "#", ":", "@", " ", "Fan 92, top", "\n",
            "\x01", "ß", "\xE6\xB8\xA9", "%25", "\"", ""};
        std::string out;
        for (std::size_t n = m_random() % 4; n > 0; --n)
            out += pieces[m_random() % pieces.size()];
        return out;
    }
    int count() { return static_cast<int>(m_random() % 1000); }
    GapRef gap() {
        return {{GapEndRef{word(), word()}, GapEndRef{word(), word()}}, static_cast<Axis>(m_random() % 3), count()};
    }
    std::vector<Thing> oneOfEach() {
        return {{},
                PartRef{word()},
                FanRef{word()},
                gap(),
                OpeningRef{word()},
                ChamberRef{word()},
                PortRef{word(), word(), count()},
                LeadRef{word(), word(), count()},
                TargetRef{word(), word()},
                RevisionRef{word()},
                RunRef{word()},
                ChannelRef{word(), word()},
                StepRef{static_cast<StepKind>(m_random() % 3), word(), word()},
                MadeRef{word()},
                ScrewRef{word()},
                RoomRef{word(), m_random() % 3},
                WayRef{word()},
                DimensionRef{word()},
                MendRef{gap(), m_random() % 99},
                TotalRef{static_cast<Total>(m_random() % 6)},
                TopicRef{word()},
                BranchRef{word()}};
    }

private slots:
    void textIsReadBack() {
        for (int round = 0; round < 500; ++round) {
            const auto things = oneOfEach();
            QCOMPARE(things.size(), std::variant_size_v<AnyThing>);
            for (std::size_t i = 0; i < things.size(); ++i) {
                QCOMPARE(things[i].index(), i); // none is forgotten when a kind is added
                const std::string text = textOf(things[i]);
                const auto back = thingFrom(text);
                QVERIFY2(back, back ? "" : back.error().text().c_str());
                QVERIFY2(*back == things[i], text.c_str());
                QVERIFY2(text.find('\n') == std::string::npos, text.c_str()); // one line in any file
            }
        }
    }
    void textsOfDifferentThingsDiffer() {
        std::vector<Thing> all;
        for (int round = 0; round < 40; ++round)
            for (Thing& thing : oneOfEach())
                all.push_back(std::move(thing));
        std::sort(all.begin(), all.end());
        all.erase(std::unique(all.begin(), all.end()), all.end());
        std::set<std::string> texts;
        std::unordered_set<Thing> hashed;
        for (const Thing& thing : all) {
            texts.insert(textOf(thing));
            hashed.insert(thing);
        }
        QCOMPARE(texts.size(), all.size());
        QCOMPARE(hashed.size(), all.size());
    }
    void forms_data() {
        QTest::addColumn<QString>("text");
        QTest::newRow("part") << "part:tray/cpu";
        QTest::newRow("gap") << "gap:tray/cpu/lid|#right wall|x|1";
        QTest::newRow("end with a body") << "gap:card#power plug|#right wall|y|2";
        QTest::newRow("total") << "total:power";
        QTest::newRow("of a revision") << "target:noise|R3";
        QTest::newRow("escaped") << "topic:50%25 open%7c shut";
    }
    void forms() {
        QFETCH(QString, text);
        QCOMPARE(QString::fromStdString(textOf(*thingFrom(text.toStdString()))), text);
    }
    void whatIsNoThingIsRefused_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("says");
        QTest::newRow("unknown kind") << "card:1"
                                      << "no kind of thing";
        QTest::newRow("no colon") << "nonsense"
                                  << "no kind of thing";
        QTest::newRow("too few") << "channel:run"
                                 << "more are wanted";
        QTest::newRow("too many") << "part:a|b"
                                  << "1 are wanted";
        QTest::newRow("no axis") << "gap:a|b|w|1"
                                 << "no axis";
        QTest::newRow("no count") << "room:a|-1"
                                  << "no count";
        QTest::newRow("a part of a count") << "room:a|1.5"
                                           << "no count";
        QTest::newRow("too large a count") << "room:a|1e300"
                                           << "no count";
        QTest::newRow("no total") << "total:heat"
                                  << "not one of";
        QTest::newRow("half an escape") << "part:a%2"
                                        << "hexadecimal";
    }
    void whatIsNoThingIsRefused() {
        QFETCH(QString, text);
        QFETCH(QString, says);
        const auto read = thingFrom(text.toStdString());
        QVERIFY(!read);
        QVERIFY2(QString::fromStdString(read.error().text()).contains(says), read.error().text().c_str());
        QVERIFY(!read.error().remedy.empty());
    }
    void mountsAndSubjects() {
        QCOMPARE(mountOf(FanRef{"top"}), std::string_view("top"));
        QVERIFY(mountOf(TotalRef{Total::Noise}).empty());
        QCOMPARE(subjectOf(TargetRef{"noise", "R3"}), std::string("noise"));
        QCOMPARE(subjectOf(LeadRef{"eps", "psu:eps-8"}), std::string("eps"));
        QCOMPARE(subjectOf(TopicRef{"supply"}), std::string("supply"));
    }
};
} // namespace tst_thing
MD_TEST(tst_thing, ThingTest)
#include "tst_thing.moc"
