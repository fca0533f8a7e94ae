// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/json.h" // before <span>: the meta-object compiler stumbles over it

#include "core/model/standard_sizes.h"
#include "support/registry.h"

namespace tst_standard_sizes {

using namespace core;

/// Sizes and hole spacings against the standards they are quoted from (all from memory), typed here a second time.
class StandardSizesTest : public QObject {
    Q_OBJECT
    std::vector<Part> m_shelf;

private slots:
    void initTestCase() {
        auto text = store::readFile(support::sourcePath("data/shelf/standard.json").toStdString());
        auto parts = store::readShelfJson(*text, "standard.json");
        QVERIFY(parts);
        m_shelf = *parts;
    }

    void outlines_data() {
        QTest::addColumn<QString>("part");
        QTest::addColumn<QVector<double>>("sizes"); // those the standard fixes
        QTest::newRow("Mini-ITX addendum to microATX") << "board-itx" << QVector<double>{170, 170};
        QTest::newRow("microATX specification") << "board-matx" << QVector<double>{244, 244};
        QTest::newRow("ATX specification") << "board-atx" << QVector<double>{305, 244};
        QTest::newRow("SFX12V design guide") << "psu-sfx" << QVector<double>{125, 63.5, 100};
        QTest::newRow("SFX-L, common practice, no source") << "psu-sfx-l" << QVector<double>{125, 63.5, 130};
        QTest::newRow("ATX12V design guide") << "psu-atx" << QVector<double>{150, 86, 140};
        QTest::newRow("TFX12V design guide") << "psu-tfx" << QVector<double>{85, 65, 175};
        QTest::newRow("Flex ATX design guide") << "psu-flex" << QVector<double>{81.5, 40.5, 150};
        QTest::newRow("SFF-8301") << "drive-35" << QVector<double>{147, 101.6, 26.1};
        QTest::newRow("SFF-8201, 7 mm") << "drive-25" << QVector<double>{100.45, 69.85, 7};
        QTest::newRow("PCI Express M.2 specification, 2280") << "m2-2280" << QVector<double>{80, 22};
        QTest::newRow("PCI Express M.2 specification, 2230") << "m2-2230" << QVector<double>{30, 22};
        QTest::newRow("PCI Express CEM, low profile, half length") << "card-lp" << QVector<double>{167.65, 68.9};
        QTest::newRow("PCI Express CEM, full height") << "card-170" << QVector<double>{111.15};
    }
    void outlines() {
        QFETCH(QString, part);
        QFETCH(QVector<double>, sizes);
        const auto it =
            std::find_if(m_shelf.begin(), m_shelf.end(), [&](const Part& p) { return p.id == part.toStdString(); });
        QVERIFY(it != m_shelf.end());
        for (const double wanted : sizes) {
            double nearest = 1e9;
            for (const Measure& m : it->size)
                nearest = std::min(nearest, std::abs(m.value.mm() - wanted));
            QVERIFY2(nearest < 0.11, qPrintable(QStringLiteral("no size of %1").arg(wanted)));
        }
    }

    void holes_data() {
        QTest::addColumn<QString>("form");
        QTest::addColumn<double>("a");
        QTest::addColumn<double>("b");
        QTest::newRow("Mini-ITX addendum") << "mini-itx" << 157.48 << 154.94; // 6.2 and 6.1 inch
        // Fan frames: common practice, no source.
        QTest::newRow("40") << "40" << 32.0 << 32.0;
        QTest::newRow("60") << "60" << 50.0 << 50.0;
        QTest::newRow("80") << "80" << 71.5 << 71.5;
        QTest::newRow("92") << "92" << 82.5 << 82.5;
        QTest::newRow("120") << "120" << 105.0 << 105.0;
        QTest::newRow("140") << "140" << 124.5 << 124.5;
    }
    void holes() {
        QFETCH(QString, form);
        QFETCH(double, a);
        QFETCH(double, b);
        const auto all = standardSizes();
        const auto it =
            std::find_if(all.begin(), all.end(), [&](const StandardSize& s) { return s.form == form.toStdString(); });
        QVERIFY(it != all.end());
        QCOMPARE(it->holesMm[0], a);
        QCOMPARE(it->holesMm[1], b);
    }
    void itxHolesAreInches() {
        const auto& itx = *std::find_if(standardSizes().begin(), standardSizes().end(),
                                        [](const StandardSize& s) { return s.form == "mini-itx"; });
        QCOMPARE_LE(std::abs(itx.holesMm[0] / 25.4 - 6.2), 1e-9);
        QCOMPARE_LE(std::abs(itx.holesMm[1] / 25.4 - 6.1), 1e-9);
    }
    void slotPitch() {
        for (const StandardSize& s : standardSizes())
            if (s.kind == PartKind::Card)
                QCOMPARE_LE(std::abs(s.sizeMm[2] - 20.32 * std::stoi(std::string(s.form))), 1e-9); // 0.8 inch
    }

    void everyShelfPartIsOfItsForm() {
        int known = 0;
        for (const Part& p : m_shelf) {
            const StandardSize* s = standardOf(p);
            if (!s)
                continue;
            ++known;
            if (p.kind == PartKind::Card) // low profile cards and thinner coolers are within the standard
                continue;
            QVERIFY2(offStandardMm(p, *s) < 0.11, p.id.c_str());
        }
        QVERIFY(known >= 20);
    }
    void mistypedSizeIsFound() {
        Part p = *std::find_if(m_shelf.begin(), m_shelf.end(), [](const Part& x) { return x.id == "psu-sfx"; });
        p.size[2] = measureMm(36.5);
        QCOMPARE_LE(std::abs(offStandardMm(p, *standardOf(p)) - 27), 1e-9);
        std::swap(p.size[0], p.size[2]); // the order of the axes does not matter
        QCOMPARE_LE(std::abs(offStandardMm(p, *standardOf(p)) - 27), 1e-9);
    }
    void unknownForms() {
        Part p = *std::find_if(m_shelf.begin(), m_shelf.end(), [](const Part& x) { return x.id == "board-itx"; });
        std::get<BoardSpec>(p.spec).form = "my own";
        QVERIFY(!standardOf(p));
        for (const Part& memory : m_shelf)
            if (memory.kind == PartKind::Memory)
                QVERIFY(!standardOf(memory));
    }
};
} // namespace tst_standard_sizes
MD_TEST(tst_standard_sizes, StandardSizesTest)
#include "tst_standard_sizes.moc"
