// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/bodies.h"
#include "core/model/part_edits.h"
#include "store/files.h"
#include "support/demo.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_part_edits {

using namespace core;
using own::Item;
using own::Kind;

/// Things of a part moved in its own axes.
class PartEditsTest : public QObject {
    Q_OBJECT
    static Part tube() {
        Part part{.id = "p", .name = "p"};
        part.size = {measureMm(100, Source::Sheet), measureMm(50, Source::Sheet), measureMm(20, Source::Sheet)};
        Body body{.name = "hose", .shape = Shape::Tube};
        body.at = {measureMm(10, Source::Drawing), measureMm(0, Source::Drawing), measureMm(5, Source::Drawing)};
        body.routeMm = {{0, 0, 0}, {40, 0, 0}, {40, 30, 0}};
        part.bodies.push_back(body);
        return part;
    }
private slots:
    /// Every thing of every part of the demo: moved by so much it lies there, and moved back it is the same part.
    void thereAndBack() {
        const std::array<double, 3> by{3.5, -2, 7};
        int tried = 0;
        for (const Part& original : support::demoProject().shelf)
            for (const Item& item : own::itemsOf(original)) {
                Part part = original;
                const auto before = own::middleOf(part, item);
                QVERIFY2(own::moveBy(part, item, by), original.name.c_str());
                for (std::size_t k = 0; k < 3; ++k)
                    QVERIFY(std::abs(own::middleOf(part, item)[k] - before[k] - by[k]) < 1e-6);
                QVERIFY(!(part == original));
                QVERIFY(own::moveBy(part, item, {-3.5, 2, -7}));
                QVERIFY2(part == original, own::nameOf(original, item).c_str());
                ++tried;
            }
        QVERIFY2(tried > 20, qPrintable(QString::number(tried)));
    }
    void cornersOfARoute() {
        Part part = tube();
        QCOMPARE(own::itemsOf(part).size(), 4U);
        const auto corner = own::addCorner(part, 0, 1);
        QVERIFY(corner);
        QCOMPARE(corner->corner, 2U);
        QCOMPARE(own::middleOf(part, *corner), (std::array<double, 3>{50, 15, 5})); // halfway along its leg
        QVERIFY(own::remove(part, *corner));
        QVERIFY(part == tube());
        QVERIFY(own::remove(part, {Kind::Corner, 0, 1}));
        const auto refused = own::remove(part, {Kind::Corner, 0, 0});
        QVERIFY(!refused && refused.error().what.find("two ends") != std::string::npos);
    }
    void aRouteBegins() {
        Part part = tube();
        part.bodies[0].routeMm.clear();
        QVERIFY(own::addCorner(part, 0, 0));
        QCOMPARE(part.bodies[0].routeMm.size(), 2U);
        part.bodies[0].shape = Shape::Box;
        QVERIFY(!own::addCorner(part, 0, 0));
    }
    void whatIsNotThereIsSaid() {
        Part part = tube();
        QVERIFY(!own::moveBy(part, {Kind::Plug, 3}, {1, 0, 0}));
        QVERIFY(!own::remove(part, {Kind::Place, 0}));
        QVERIFY(!own::addCorner(part, 7, 0));
        QVERIFY(!own::moveBy(part, {Kind::Body, 0}, {5000, 0, 0}));
        QVERIFY(part == tube());
    }
};
} // namespace tst_part_edits
MD_TEST(tst_part_edits, PartEditsTest)
#include "tst_part_edits.moc"
