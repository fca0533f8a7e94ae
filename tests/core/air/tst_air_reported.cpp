// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/bands.h"
#include "core/air/predict.h"
#include "store/files.h"
#include "support/builds.h"
#include "support/demo.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_air_reported {

using namespace support;

namespace {

/// What a reading passed on by word of mouth is good to, K: judgement.
constexpr double readingK = 3;
/// What the model itself adds to a change of a real build, beyond its inputs, K: judgement, docs/model/air.md.
constexpr double modelK = 3;

air::Prediction at(const char* example, const char* revision) {
    static std::map<std::string, Project> kept;
    if (!kept.contains(example)) {
        const auto opened = store::openProject(support::sourcePath("examples/reported") + "/" + example);
        if (!opened)
            qFatal("%s", opened.error().text().c_str());
        kept.emplace(example, opened->project);
    }
    const Project& p = kept.at(example);
    return air::predictWithBands(built(p, revision), air::conditionsOf(p));
}
double of(const air::Prediction& a, const char* mount) {
    return a.part(mount) ? a.part(mount)->temperatureC : std::nan("");
}

} // namespace

/// Builds whose builders told what they read: common practice, no source. Defaults throughout.
class AirReportedTest : public QObject {
    Q_OBJECT
private slots:
    void readings_data() {
        QTest::addColumn<QString>("example");
        QTest::addColumn<QString>("revision");
        QTest::addColumn<QString>("part");
        QTest::addColumn<double>("read");
        const auto row = [](const char* example, const char* revision, const char* part, double read) {
            QTest::addRow("%s %s %s", example, revision, part)
                << QString(example) << QString(revision) << QString(part) << read;
        };
        row("top-fan", "intake", "card", 65);
        row("top-fan", "drives", "card", 67);
        row("top-fan", "exhaust", "card", 62);
        for (const char* revision : {"intake", "drives", "exhaust"})
            row("top-fan", revision, "tray/cpu", 73);
        row("fine-screens", "screens", "tray/cpu", 89.9);
        row("fine-screens", "screens", "card", 82.5);
        row("fine-screens", "left-off", "tray/cpu", 84);
        row("fine-screens", "right-off", "card", 77);
        row("small-tower", "built", "tray/cpu", 74);
    }
    /// Each reading lies within the band of its prediction and what the reading itself is good to.
    void readings() {
        QFETCH(QString, example);
        QFETCH(QString, revision);
        QFETCH(QString, part);
        QFETCH(double, read);
        const auto a = at(qPrintable(example), qPrintable(revision));
        QVERIFY(a.converged);
        const auto* p = a.part(part.toStdString());
        QVERIFY(p);
        QVERIFY2(std::abs(p->temperatureC - read) <= std::hypot(p->bandK, readingK),
                 qPrintable(QString("%1 ±%2, read %3").arg(p->temperatureC).arg(p->bandK).arg(read)));
        QVERIFY2(p->bandK < 17, "a band that holds anything says nothing");
    }
    /// Each change has the sign that was seen, and its size lies within the band of the difference, the
    /// model's own and the reading's.
    void changes() {
        const auto changed = [](const char* example, const char* from, const char* to, const char* part, double seenK) {
            const auto before = at(example, from), after = at(example, to);
            const auto difference = air::differenceOf(before, after, part);
            const bool sign = (of(after, part) - of(before, part)) * seenK > 0;
            return difference && sign &&
                   std::abs(difference->kelvin - seenK) <= std::hypot(difference->bandK, readingK, modelK);
        };
        QVERIFY(changed("top-fan", "intake", "drives", "card", 2));
        QVERIFY(changed("top-fan", "intake", "exhaust", "card", -3));
        QVERIFY(changed("top-fan", "drives", "exhaust", "card", -5));
        QVERIFY(changed("fine-screens", "screens", "left-off", "tray/cpu", -5.9));
        QVERIFY(changed("fine-screens", "screens", "right-off", "card", -5.5));
    }
    /// What the fan does in the card's chamber is not felt in the board's.
    void theOtherChamberIsLeftAlone() {
        const double intake = of(at("top-fan", "intake"), "tray/cpu");
        for (const char* revision : {"drives", "exhaust"})
            QCOMPARE_LE(std::abs(of(at("top-fan", revision), "tray/cpu") - intake), 0.5);
    }
    /// With its screen off the card runs a little faster, as was seen; drives in the fan's place are the warmest place.
    void clockAndDrives() {
        QVERIFY(at("fine-screens", "right-off").part("card")->clockMhz >
                at("fine-screens", "screens").part("card")->clockMhz + 5);
        const auto drives = at("top-fan", "drives");
        QVERIFY(of(drives, "top-a") > 23 + 20); // "very hot"
    }
    /// The sum of rated flows, 202 CFM, says positive pressure, and so it is; what really flows is far less.
    void ratedSumsAreNotFlows() {
        const auto a = at("two-in-one-out", "built");
        const double sum = a.balance.ratedInM3h - a.balance.ratedOutM3h;
        QCOMPARE_LE(std::abs(sum / 3600 / 4.719e-4 - 202), 2.0);
        QVERIFY(a.balance.pressurePa > 1);
        double net = 0;
        for (const auto& fan : a.fans)
            net += fan.direction == air::FanDirection::In    ? fan.flowM3h
                   : fan.direction == air::FanDirection::Out ? -fan.flowM3h
                                                             : 0;
        QVERIFY2(net < 0.5 * sum, qPrintable(QString("%1 of %2").arg(net).arg(sum)));
    }
};
} // namespace tst_air_reported
MD_TEST(tst_air_reported, AirReportedTest)
#include "tst_air_reported.moc"
