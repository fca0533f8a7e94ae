// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/labels.h"
#include "support/registry.h"
#include "support/window.h"

#include <QSignalSpy>

#include <random>
#include <set>

namespace tst_labels {

// Nothing is covered and nothing is cut in silence: where words stand, and whether every row is reached.
class LabelsTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase() { QStandardPaths::setTestModeEnabled(true); }

    void randomScenes() {
        std::mt19937 random(9);
        const auto any = [&](double a, double b) {
            return a + (b - a) * std::uniform_real_distribution<double>()(random);
        };
        int placed = 0, refused = 0;
        for (int scene = 0; scene < 500; ++scene) {
            const QRectF room(0, 0, any(120, 700), any(80, 500));
            app::Labels labels(room);
            std::vector<QRectF> there;
            for (int i = 0; i < static_cast<int>(random() % 12); ++i) {
                there.emplace_back(any(0, room.width()), any(0, room.height()), any(4, 80), any(4, 60));
                labels.keepOff(there.back());
            }
            for (int i = 0; i < 20; ++i) {
                const QPointF near(any(-20, room.width() + 20), any(-20, room.height() + 20));
                const QSizeF size(any(16, 130), any(14, 22));
                const double reach = any(20, 200);
                const auto at =
                    random() % 2 ? labels.place(size, near, reach) : labels.placeLed(size, near, near, reach);
                ++(at ? placed : refused);
                if (!at)
                    continue;
                QVERIFY(room.contains(*at) && at->size() == size);
                QVERIFY(std::hypot(at->center().x() - near.x(), at->center().y() - near.y()) <= reach + 1e-6);
                for (const QRectF& other : there)
                    QVERIFY(!other.intersects(*at));
                there.push_back(*at);
            }
        }
        QVERIFY2(placed > 2000 && refused > 500,
                 qPrintable(QStringLiteral("%1 placed, %2 refused").arg(placed).arg(refused)));
    }
    void theNearestFreePlace() {
        app::Labels labels(QRectF(0, 0, 400, 200));
        QCOMPARE(labels.place({40, 18}, {100, 100})->center(), QPointF(100, 100));
        const auto second = labels.place({40, 18}, {100, 100});
        QVERIFY(second && std::abs(second->center().y() - 100) < 30 && std::abs(second->center().x() - 100) < 60);
        QVERIFY(!labels.place({40, 18}, {100, 100}, 5));
        QVERIFY(!labels.place({500, 18}, {100, 100}));
    }
    void aLeaderCrossesNothing() {
        app::Labels labels(QRectF(0, 0, 400, 200));
        labels.keepOff(QRectF(60, 80, 80, 20)); // a name between the gap and the place above it
        const auto at = labels.placeLed({40, 18}, {100, 60}, {100, 120}, 120);
        QVERIFY(at);
        const QLineF leader(QPointF(100, 120), at->center());
        QVERIFY(leader.intersects(QLineF(60, 100, 140, 100), nullptr) != QLineF::BoundedIntersection);
    }

    void nothingCoversAnother_data() {
        QTest::addColumn<QSize>("size");
        for (const QSize size : {QSize(1100, 700), QSize(1280, 800), QSize(1600, 1000), QSize(1100, 1300)})
            QTest::addRow("%dx%d", size.width(), size.height()) << size;
    }
    void nothingCoversAnother() {
        QFETCH(QSize, size);
        support::Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(size);
        for (const core::Revision& r : w.document().project().revisions) {
            w.document().selectRevision(r.id);
            for (int station = 0; station < 6; ++station) {
                if (station == 4)
                    continue; // plots, no drawing
                w.window->setStation(station);
                auto* page = w.window->page(station);
                QImage image(page->size(), QImage::Format_ARGB32_Premultiplied);
                QPainter p(&image);
                const app::Theme theme = app::Theme::light();
                app::Canvas c(p, theme);
                page->paintInside(c, page->inside());
                for (std::size_t i = 0; i < c.labels.size(); ++i)
                    for (std::size_t k = 0; k < i; ++k)
                        QVERIFY2(!c.labels[i].adjusted(0.6, 0.6, -0.6, -0.6).intersects(c.labels[k]),
                                 qPrintable(QStringLiteral("%1 station %2: at %3 %4 and %5 %6")
                                                .arg(QString::fromStdString(r.id))
                                                .arg(station)
                                                .arg(c.labels[i].x())
                                                .arg(c.labels[i].y())
                                                .arg(c.labels[k].x())
                                                .arg(c.labels[k].y())));
                QVERIFY(station == 3 || station == 5 || !c.labels.empty());
            }
        }
    }

    // ---- lists ----

    /// K alone reaches every row of every list in a low window.
    void everyRowIsReachedByKeys() {
        support::Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(1100, 700);
        w.document().selectRevision("R10");
        const auto& e = *w.document().result().evaluation;
        const auto reached = [&](int station) {
            w.window->setStation(station);
            auto* page = w.window->page(station);
            w.context.selection.select({});
            page->grab();
            support::Things keys;
            for (int i = 0; i < 400; ++i) {
                page->stepSelection(1);
                page->grab();
                keys.insert(w.context.selection.thing());
            }
            return keys;
        };
        const auto brief = reached(0), air = reached(2), make = reached(3), bench = reached(4);
        for (const auto& p : e.build.placed)
            QVERIFY2(brief.contains(core::PartRef{p.mount}), p.mount.c_str());
        for (const auto& p : e.air.parts)
            QVERIFY2(air.contains(core::PartRef{p.id}), p.id.c_str());
        for (const auto& s : e.make.steps)
            QVERIFY2(make.contains(s.ref), s.mount.c_str());
        int screws = 0;
        for (const auto& item : e.make.shopping) {
            QVERIFY2(make.contains(core::ScrewRef{item.kind}), item.kind.c_str());
            screws += item.count;
        }
        QCOMPARE(screws, e.make.screws); // what the head says is what stands below it
        // The channels of the run that is shown while they are stepped through: a step over the runs before shows
        // another.
        int whole = 0;
        for (const core::Run& run : w.document().project().runs) {
            const auto& channels = w.document().analysis(run.id)->channels;
            whole += std::all_of(channels.begin(), channels.end(), [&](const auto& c) {
                return bench.contains(core::ChannelRef{run.id, c.name});
            });
        }
        QVERIFY(whole >= 1);
        w.document().selectRevision("R10"); // the runs that were stepped through are of others
        for (const auto& key : make.all)
            QVERIFY2(app::workingOf(w.context.view(), key), qPrintable(support::text(key)));
    }
    void wheelBarAndHeads() {
        support::Window w;
        QTemporaryDir dir;
        w.openDemo(dir);
        w.window->resize(1100, 700);
        w.document().selectRevision("R10");
        w.window->setStation(4);
        auto* page = w.window->page(4);
        const auto first = [&] {
            page->grab();
            for (const app::Hit& hit : page->hits())
                if (support::stands<core::ChannelRef>(hit) && hit.rect.width() > 100)
                    return hit.thing;
            return core::Thing();
        };
        const core::Thing before = first();
        const auto bar = w.place(page, app::Handle{.act = app::Act::ScrollList, .list = "channels"});
        QVERIFY(bar);
        QWheelEvent wheel(bar->rect.center() - QPointF(80, 0), page->mapToGlobal(bar->rect.center()), {},
                          QPoint(0, -120), Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
        QApplication::sendEvent(page, &wheel);
        QVERIFY(first() != before);
        QTest::mousePress(page, Qt::LeftButton, {}, (bar->rect.topLeft() + QPointF(5, 2)).toPoint());
        QTest::mouseRelease(page, Qt::LeftButton, {}, (bar->rect.topLeft() + QPointF(5, 2)).toPoint());
        QCOMPARE(first(), before);
        // A head sorts, the other way round, and back.
        w.window->setStation(2);
        page = w.window->page(2);
        const auto rows = [&] {
            page->grab();
            std::vector<core::Thing> keys;
            for (const app::Hit& hit : page->hits())
                if (support::stands<core::PartRef>(hit) && hit.rect.width() > 150 && hit.rect.height() < 25)
                    keys.push_back(hit.thing);
            return keys;
        };
        const auto own = rows();
        QVERIFY(w.click(page, app::Handle{.act = app::Act::SortList, .list = "warm", .row = 0}));
        const auto up = rows();
        QVERIFY(w.click(page, app::Handle{.act = app::Act::SortList, .list = "warm", .row = 0}));
        const auto down = rows();
        QVERIFY(up != own && down != up);
        QVERIFY(w.click(page, app::Handle{.act = app::Act::SortList, .list = "warm", .row = 0}));
        QCOMPARE(rows(), own);
    }
    /// On paper nothing scrolls: what has no room is counted.
    void paperSaysWhatIsLeftOut() {
        QImage image(300, 200, QImage::Format_ARGB32_Premultiplied);
        QPainter p(&image);
        const app::Theme theme = app::Theme::light();
        app::Canvas c(p, theme);
        int painted = 0;
        app::PaintedList list(c, "x", {0, 0, 200, 100}, 12, 20);
        list.paint([&](std::size_t, const QRectF&) { ++painted; });
        QCOMPARE(painted, 4); // and a line that says so
        painted = 0;
        app::PaintedList whole(c, "x", {0, 0, 200, 100}, 5, 20);
        whole.paint([&](std::size_t, const QRectF&) { ++painted; });
        QCOMPARE(painted, 5);
    }
};
} // namespace tst_labels
MD_TEST(tst_labels, LabelsTest)
#include "tst_labels.moc"
