// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/stations.h"
#include "app/stations/registry.h"
#include "support/demo.h"
#include "support/registry.h"
#include "support/things.h"

#include <QImage>
#include <QSignalSpy>

namespace tst_scene {

using namespace app;

class SceneTest : public QObject {
    Q_OBJECT
    Document m_document;

    [[nodiscard]] View view(core::UnitChoice units = {}) const { return View{m_document, core::Show(units)}; }
    std::vector<Hit> paint(int station, const Theme& theme, QSize size = {790, 640}, const core::Thing& selected = {},
                           QImage* out = nullptr) {
        QImage image(size, QImage::Format_ARGB32_Premultiplied);
        image.fill(theme.paper);
        QPainter p(&image);
        p.setRenderHint(QPainter::Antialiasing);
        Canvas c(p, theme, selected);
        const QRectF r(8, 8, size.width() - 16, size.height() - 16);
        const View v = view();
        switch (station) {
        case 0:
            paintBrief(c, r, v);
            break;
        case 1:
            paintFit(c, r, v, {});
            break;
        case 2:
            paintAir(c, r, v);
            break;
        case 3:
            paintMake(c, r, v);
            break;
        case 4:
            paintBench(c, r, v, "r10-both");
            break;
        default:
            paintVerdict(c, r, v);
            break;
        }
        p.end();
        if (out)
            *out = image;
        return c.hits;
    }

private slots:
    void initTestCase() {
        loadFonts();
        m_document.reset(support::demoProject(), {});
    }

    /// What is hit follows from the places alone: the smallest under the point, whatever was painted last.
    void whatIsHit() {
        const core::Thing part = core::PartRef{"case"}, fan = core::FanRef{"side-a"};
        const Places places{{{10, 10, 20, 20}, fan, {}, "fan"},
                            {{0, 0, 100, 100}, part, {}, "part"},
                            {{12, 12, 4, 4}, fan, {.act = Act::TurnFan}, "turn"},
                            {{60, 60, 20, 20}, fan, {}, "fan again"}};
        QCOMPARE(placeAt(places, {50, 50})->name, QString("part"));
        QCOMPARE(placeAt(places, {25, 25})->name, QString("fan"));
        QCOMPARE(placeAt(places, {13, 13})->name, QString("turn"));
        QVERIFY(!placeAt(places, {150, 50}));
        const Places figures = figuresOf(places);
        QCOMPARE(figures.size(), 2u);
        QVERIFY(figures[0].name == "fan" && figures[1].name == "part");
        QVERIFY(!holdsThing(places, core::FanRef{"side-b"}));
    }
    /// Contrast after WCAG 2.1: text at least 4.5, marks, edges and axes at least 3.
    void contrastOfTheTokens_data() {
        QTest::addColumn<bool>("dark");
        QTest::newRow("light") << false;
        QTest::newRow("dark") << true;
    }
    void contrastOfTheTokens() {
        QFETCH(bool, dark);
        const Theme t = dark ? Theme::night_() : Theme::light();
        for (const QColor& ground : {t.paper, t.sheet, t.tray}) {
            for (const QColor& text : {t.ink, t.ink2, t.ok, t.tight, t.block, t.cool})
                QVERIFY2(contrast(text, ground) >= 4.5, qPrintable(text.name() + " on " + ground.name()));
            for (const QColor& line : {t.line, t.medge, t.warm})
                QVERIFY2(contrast(line, ground) >= 3.0, qPrintable(line.name() + " on " + ground.name()));
        }
        QVERIFY(contrast(t.ink, t.marker) >= 4.5);
        for (const QColor& tint : t.tint)
            QVERIFY2(contrast(t.ink, tint) >= 4.5, qPrintable(tint.name()));
        for (const QColor& flow : t.flow)
            QVERIFY2(contrast(flow, t.paper) >= 3.0, qPrintable(flow.name()));
    }
    void knownContrast() {
        QCOMPARE_LE(std::abs(contrast(Qt::black, Qt::white) - 21), 1e-6);
        QCOMPARE_LE(std::abs(contrast(Qt::white, Qt::white) - 1), 1e-6);
    }
    void scalesAreFixed() {
        const Theme t = Theme::light();
        QCOMPARE(t.tintOf(0), t.tint.front());
        QCOMPARE(t.tintOf(18), t.tint.back());
        QCOMPARE(t.tintOf(40), t.tint.back());
        QVERIFY(t.tintOf(9) != t.tintOf(12));
    }
    /// Columns line up: every figure is equally wide, in every weight.
    void figuresAreTabular() {
        const Theme t = Theme::light();
        for (const Weight w : {Weight::Regular, Weight::Medium, Weight::SemiBold}) {
            const QFontMetricsF metrics(t.font(20, w));
            for (const QChar c : QStringLiteral("0123456789"))
                QCOMPARE(metrics.horizontalAdvance(c), QFontMetricsF(t.font(20)).horizontalAdvance('0'));
            QVERIFY2(t.font(20, w).families().first().startsWith("Asap Condensed"), "the shipped font");
            QVERIFY2(QFontInfo(t.font(20, w)).family().startsWith("Asap"),
                     qPrintable(QFontInfo(t.font(20, w)).family()));
        }
    }
    void nothingBelowElevenPixels() {
        QCOMPARE(Theme::light().font(6).pixelSize(), 11);
        Theme large = Theme::light();
        large.textScale = 1.5;
        QCOMPARE(large.font(12).pixelSize(), 18);
    }

    void everyStationPaintsEveryRevision_data() {
        QTest::addColumn<int>("station");
        for (int i = 0; i < 6; ++i)
            QTest::addRow("station %d", i + 1) << i;
    }
    void everyStationPaintsEveryRevision() {
        QFETCH(int, station);
        for (const core::Revision& r : m_document.project().revisions) {
            m_document.selectRevision(r.id);
            for (const QSize size : {QSize(790, 640), QSize(760, 560), QSize(1500, 1100)}) {
                const auto hits = paint(station, r.id == "R2" ? Theme::night_() : Theme::light(), size);
                QVERIFY2(hits.size() >= 4, r.id.c_str());
                for (const Hit& hit : hits) {
                    QVERIFY((!core::isNothing(hit.thing) || hit.handle.act != Act::None) && !hit.name.isEmpty());
                    QVERIFY2(hit.rect.width() >= 23.9 && hit.rect.height() >= 17.9, qPrintable(hit.name));
                    QVERIFY2(QRectF(0, 0, size.width(), size.height()).adjusted(-30, -30, 30, 30).contains(hit.rect),
                             qPrintable(QStringLiteral("%1 at %2").arg(hit.name).arg(hit.rect.x())));
                }
            }
        }
        m_document.selectRevision("R10");
    }
    /// Every figure that can be clicked has a working.
    void everyPlaceIsExplained() {
        const View v = view();
        for (int station = 0; station < 6; ++station)
            for (const Hit& hit : paint(station, Theme::light())) {
                if (!hit.isFigure())
                    continue;
                QVERIFY2(workingOf(v, hit.thing), qPrintable(support::text(hit.thing)));
            }
        QVERIFY(!workingOf(v, core::PartRef{"none"}));
        QVERIFY(!workingOf(v, core::GapRef{}));
        QVERIFY(!workingOf(v, {}));
    }
    void selectionIsSeen() {
        QImage plain, selected;
        const auto hits = paint(1, Theme::light(), {790, 640}, {}, &plain);
        const auto gap =
            std::find_if(hits.begin(), hits.end(), [](const Hit& h) { return support::stands<core::GapRef>(h); });
        QVERIFY(gap != hits.end());
        paint(1, Theme::light(), {790, 640}, gap->thing, &selected);
        QVERIFY(plain != selected);
        const QRgb marker = Theme::light().marker.rgb();
        int washed = 0;
        for (int y = 0; y < selected.height(); y += 2)
            for (int x = 0; x < selected.width(); x += 2)
                washed += selected.pixel(x, y) == marker;
        QVERIFY2(washed > 200, "the selected rung carries the marker wash");
    }
    void pinsKeepOffEachOther() {
        for (const char* id : {"R1", "R3", "R10"}) {
            m_document.selectRevision(id);
            std::vector<QRectF> tags;
            for (const Hit& hit : paint(1, Theme::light()))
                if (support::stands<core::GapRef>(hit) && hit.name.startsWith("Gap ") && !hit.name.contains(','))
                    tags.push_back(hit.rect);
            QVERIFY(tags.size() >= 4);
            for (std::size_t i = 0; i < tags.size(); ++i)
                for (std::size_t j = i + 1; j < tags.size(); ++j)
                    QVERIFY(!tags[i].adjusted(0, 3, 0, -3).intersects(tags[j].adjusted(0, 3, 0, -3)));
        }
        m_document.selectRevision("R10");
    }

    void marksDifferInGrey() {
        const auto grey = [](core::Mark mark) {
            QImage image(20, 16, QImage::Format_Grayscale8);
            image.fill(Qt::white);
            QPainter p(&image);
            const Theme t = Theme::light();
            Canvas c(p, t);
            c.mark({3, 3}, mark);
            p.end();
            return image;
        };
        const core::Mark all[] = {core::Mark::Holds,   core::Mark::Open, core::Mark::Crossed,
                                  core::Mark::Running, core::Mark::Note, core::Mark::None};
        for (int i = 0; i < 6; ++i)
            for (int j = i + 1; j < 6; ++j)
                QVERIFY2(grey(all[i]) != grey(all[j]), "two states must not look alike without colour");
    }
    void hatchesDifferByKind() {
        const auto drawn = [](core::PartKind kind) {
            QImage image(60, 40, QImage::Format_Grayscale8);
            image.fill(Qt::white);
            QPainter p(&image);
            const Theme t = Theme::light();
            Canvas c(p, t);
            c.hatch({2, 2, 56, 36}, kind, Qt::white, Qt::black);
            p.end();
            return image;
        };
        const core::PartKind kinds[] = {core::PartKind::Board,       core::PartKind::Card, core::PartKind::Cooler,
                                        core::PartKind::PowerSupply, core::PartKind::Fan,  core::PartKind::Memory,
                                        core::PartKind::Drive,       core::PartKind::Made};
        for (std::size_t i = 0; i < 8; ++i)
            for (std::size_t j = i + 1; j < 8; ++j)
                QVERIFY(drawn(kinds[i]) != drawn(kinds[j]));
    }

    void liveResults() {
        const auto live = app::liveResults(view());
        QVERIFY(live[1].text.startsWith("tightest +"));
        QVERIFY(live[2].text.startsWith("CPU "));
        QCOMPARE(live[5].text, QString("validated"));
        for (const auto& l : live)
            QVERIFY2(l.text.size() <= 24, qPrintable(l.text));
        m_document.selectRevision("R1");
        QCOMPARE(app::liveResults(view())[1].mark, core::Mark::Crossed);
        m_document.selectRevision("R10");
    }
    void emptyProject() {
        Document empty;
        const auto live = app::liveResults(View{empty, {}});
        QCOMPARE(live[0].text, QString("no parts yet"));
        QCOMPARE(live[0].mark, core::Mark::None);
        QImage image(800, 600, QImage::Format_ARGB32_Premultiplied);
        QPainter p(&image);
        const Theme t = Theme::light();
        Canvas c(p, t);
        paintBrief(c, {0, 0, 800, 600}, View{empty, {}});
        paintFit(c, {0, 0, 800, 600}, View{empty, {}}, {});
        paintAir(c, {0, 0, 800, 600}, View{empty, {}});
        paintMake(c, {0, 0, 800, 600}, View{empty, {}});
        paintBench(c, {0, 0, 800, 600}, View{empty, {}}, {});
        paintVerdict(c, {0, 0, 800, 600}, View{empty, {}});
    }
    void channelsInWords() {
        const View v = view();
        const core::Run& run = *m_document.project().run("r10-both");
        QCOMPARE(channelName(v, run, core::ChannelKind::Temperature, "tray/cpu", "cpu_c"), QString("CPU"));
        QCOMPARE(channelName(v, run, core::ChannelKind::Clock, "card", "card_mhz"), QString("Card clock"));
        QCOMPARE(channelName(v, run, core::ChannelKind::Rpm, "side-a", "x"), QString("Fan 92-15 speed"));
        QCOMPARE(channelName(v, run, core::ChannelKind::Other, "", "humidity"), QString("humidity"));
    }
};
} // namespace tst_scene
MD_TEST(tst_scene, SceneTest)
#include "tst_scene.moc"
