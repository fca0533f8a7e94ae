// SPDX-License-Identifier: GPL-3.0-or-later
#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "core/arrange/arrangement.h"
#include "core/verdict/judge.h"
#include "support/demo.h"
#include "support/registry.h"
#endif

#include <QtTest>

namespace tst_arrange {

using namespace core;
using arrange::Arrangement;

namespace {

const std::vector<Part>& standard() {
    static const std::vector<Part> parts = [] {
        const auto text = store::readFile(support::sourcePath("data/shelf/standard.json").toStdString());
        auto read = store::readShelfJson(*text, "standard");
        if (!read)
            qFatal("%s", read.error().text().c_str());
        return *read;
    }();
    return parts;
}

void eachWay(const std::function<void(const Arrangement&, std::string_view way)>& with) {
    for (const Arrangement& a : arrange::arrangements()) {
        if (a.ways.empty())
            with(a, {});
        for (const arrange::Way& way : a.ways)
            with(a, way.id);
    }
}

/// Blockers and cautions of its first revision, in words.
std::string warned(const Project& project) {
    if (const auto wrong = validate(project); !wrong.empty())
        return wrong.front().text();
    const auto e = stages::evaluate(project, "R1");
    if (!e)
        return e.error().text();
    std::string all;
    for (const auto& f : e->findings)
        if (f.severity != rules::Severity::Note)
            all += "\n  " + f.rule + ": " + english(f.text);
    return all;
}

void row(const Arrangement& a, std::string_view way) {
    QTest::addRow("%s %s", std::string(a.id).c_str(), std::string(way).c_str())
        << QString::fromStdString(std::string(a.id)) << QString::fromStdString(std::string(way));
}
} // namespace

/// A box of usual sizes begins without a warning of its own, whatever the arrangement.
class ArrangeTest : public QObject {
    Q_OBJECT
private slots:
    void thereAreNine() {
        QVERIFY(arrange::arrangements().size() >= 9);
        for (const Arrangement& a : arrange::arrangements()) {
            QVERIFY2(a.sizes.size() >= 4 && a.sizes.size() <= 6, std::string(a.id).c_str());
            QCOMPARE(arrange::arrangement(a.id), &a);
        }
        QVERIFY(!arrange::arrangement("none"));
    }

    void withTheirPartsNothingWarns_data() {
        QTest::addColumn<QString>("id");
        QTest::addColumn<QString>("way");
        eachWay(row);
    }
    void withTheirPartsNothingWarns() {
        QFETCH(QString, id);
        QFETCH(QString, way);
        const Arrangement& a = *arrange::arrangement(id.toStdString());
        auto box = arrange::makeBox(a, arrange::usualSizes(a), way.toStdString());
        QVERIFY2(box, box ? "" : box.error().text().c_str());
        const auto empty = arrange::startWith(a, *box, "empty");
        QVERIFY2(warned(empty).empty(), warned(empty).c_str());
        if (a.meant.empty())
            return;
        const auto meant = arrange::meantProject(a, *box, standard());
        QVERIFY2(meant, meant ? "" : meant.error().text().c_str());
        QVERIFY2(warned(*meant).empty(), warned(*meant).c_str());
    }

    /// Sizes nobody typed are estimates; typed ones keep their source and stand in the case to the digit.
    void sizesKeepTheirSource() {
        const Arrangement& a = *arrange::arrangement("tall");
        arrange::Sizes sizes = arrange::usualSizes(a);
        sizes.all[arrange::width] = measureMm(86.3, Source::Caliper);
        const auto box = arrange::makeBox(a, sizes);
        QVERIFY(box);
        QCOMPARE(box->casePart.size[0], measureMm(86.3, Source::Caliper));
        QCOMPARE(box->casePart.size[1].source, Source::Estimate);
        QCOMPARE(std::get<CaseSpec>(box->casePart.spec).chambers.front().highMm[0], 86.3);
    }

    void wrongSizesAreRefusedByName() {
        const Arrangement& a = *arrange::arrangement("tall");
        arrange::Sizes sizes = arrange::usualSizes(a);
        sizes.all[arrange::depth] = measureMm(12, Source::Caliper);
        auto box = arrange::makeBox(a, sizes);
        QVERIFY(!box);
        QVERIFY2(box.error().text().find("Inner depth") != std::string::npos, box.error().text().c_str());
        sizes = arrange::usualSizes(a);
        sizes.all[5] = measureMm(305, Source::Caliper); // the spine in the rear wall
        box = arrange::makeBox(a, sizes);
        QVERIFY(!box);
        QVERIFY2(box.error().text().find("Cooler bay") != std::string::npos, box.error().text().c_str());
        QVERIFY(!arrange::makeBox(a, {}, {}));
        QVERIFY(!arrange::makeBox(a, arrange::usualSizes(a), "no such way"));
    }

    /// Over its whole range of sizes a box is made, or refused in words; never one that cannot be opened again.
    void anySizesMakeABoxOrWords() {
        std::mt19937 random(7);
        int made = 0, refused = 0;
        for (int i = 0; i < 400; ++i)
            for (const Arrangement& a : arrange::arrangements()) {
                arrange::Sizes sizes;
                for (const auto& s : a.sizes)
                    sizes.all.push_back(measureMm(
                        std::uniform_real_distribution<double>(s.lowMm, std::min(s.highMm, 2 * s.usualMm + 5))(random),
                        Source::Caliper));
                const auto box = arrange::makeBox(a, sizes);
                ++(box ? made : refused);
                if (!box) {
                    QVERIFY(!box.error().text().empty());
                    continue;
                }
                const Project p = arrange::startWith(a, *box, "any");
                const auto wrong = validate(p);
                QVERIFY2(wrong.empty(), wrong.empty() ? "" : (std::string(a.id) + ": " + wrong.front().text()).c_str());
                const auto e = stages::evaluate(p, "R1");
                QVERIFY2(e, e ? "" : e.error().text().c_str());
            }
        QVERIFY2(made > 500 && refused > 20, qPrintable(QString("%1 made, %2 refused").arg(made).arg(refused)));
    }
};
} // namespace tst_arrange
MD_TEST(tst_arrange, ArrangeTest)
#include "tst_arrange.moc"
