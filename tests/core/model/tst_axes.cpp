// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/builds.h"
#include "support/registry.h"

#include <QFile>
#include <QtTest>

namespace tst_axes {

using namespace support;

/// The table of usual pairs in docs/format.md says what the program does.
class AxesTest : public QObject {
    Q_OBJECT
private slots:
    void tableOfPairs() {
        QFile page(QStringLiteral(MD_SOURCE_DIR) + "/docs/format.md");
        QVERIFY(page.open(QIODevice::ReadOnly));
        const QStringList lines = QString::fromUtf8(page.readAll()).split('\n');
        int rows = 0;
        for (const QString& line : lines) {
            const QStringList cells = line.split('|');
            if (cells.size() != 8 || !cells[2].contains('`') || !cells[3].contains('`') || cells[2].contains("facing"))
                continue;
            const auto way = [&](int i) {
                return core::directionFromWord(QString(cells[i]).remove('`').trimmed().toStdString());
            };
            const auto facing = way(2), up = way(3), x = way(4), y = way(5), z = way(6);
            QVERIFY2(facing && up && x && y && z, qPrintable(line));
            Project p = project();
            p.shelf[0].mounts = {{.id = "m",
                                  .name = "M",
                                  .accepts = {PartKind::Made},
                                  .at = {low(10), low(10), low(10)},
                                  .facing = *facing,
                                  .up = *up}};
            Part block{.id = "block", .kind = PartKind::Made, .name = "Block", .size = {mm(10), mm(20), mm(30)}};
            block.spec = MadeSpec{};
            p.shelf.push_back(block);
            p.revisions = {{.id = "R1", .changes = {SetCase{"box"}, PlacePart{"block", "m"}}}};
            const Build b = built(p, "R1");
            QVERIFY2(b.placed[0].frame.axis[0] == *x && b.placed[0].frame.axis[1] == *y &&
                         b.placed[0].frame.axis[2] == *z,
                     qPrintable(line));
            ++rows;
        }
        QCOMPARE(rows, 8);
    }
};
} // namespace tst_axes
MD_TEST(tst_axes, AxesTest)
#include "tst_axes.moc"
