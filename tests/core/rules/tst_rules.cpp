// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/findings.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_rules {

using namespace support;
using rules::Severity;

namespace {

const rules::Finding* find(const std::vector<rules::Finding>& all, std::string_view rule) {
    const auto it = std::find_if(all.begin(), all.end(), [&](const rules::Finding& f) { return f.rule == rule; });
    return it == all.end() ? nullptr : &*it;
}

} // namespace

class RulesTest : public QObject {
    Q_OBJECT
private slots:
    void soundBuildHasNoBlocker() {
        const Project p = project();
        for (const auto& f : rules::compatibility(built(p, "R1")))
            QVERIFY2(f.severity != Severity::Blocker, core::english(f.text).c_str());
    }

    /// One row a rule: the part that is made wrong, and what is found. Common practice, no source.
    void compatibility_data() {
        QTest::addColumn<QString>("rule");
        QTest::addColumn<QString>("text");
        QTest::newRow("socket") << "socket"
                                << "has socket B, the board has A";
        QTest::newRow("cooler kit") << "cooler-socket"
                                    << "no mounting kit for socket A";
        QTest::newRow("no cooler") << "cooler-missing"
                                   << "has no cooler";
        QTest::newRow("form") << "board-form"
                              << "is atx, the case takes mini-itx";
        QTest::newRow("memory kind") << "memory-kind"
                                     << "does not match the board's D5";
        QTest::newRow("no picture") << "picture"
                                    << "No picture";
        QTest::newRow("short of a plug") << "plug-count"
                                         << "3 x fan needed, 2 there: 1 short";
        QTest::newRow("no supply") << "supply-missing"
                                   << "No power supply";
        QTest::newRow("overloaded") << "power-share"
                                    << "W of 180 W";
        QTest::newRow("brick") << "power-share"
                               << "W of 215 W";
    }
    void compatibility() {
        Project p = project();
        std::vector<Change> changes;
        const QString tag = QString::fromLatin1(QTest::currentDataTag());
        if (tag == "socket")
            std::get<ProcessorSpec>(partOf(p, "cpu").spec).socket = "B";
        if (tag == "cooler kit")
            std::get<CoolerSpec>(partOf(p, "cooler-37").spec).sockets = {"C"};
        if (tag == "no cooler")
            changes.push_back(RemovePart{"tray/cpu/lid"});
        if (tag == "form")
            std::get<BoardSpec>(partOf(p, "board").spec).form = "atx";
        if (tag == "memory kind")
            std::get<MemorySpec>(partOf(p, "memory").spec).memoryKind = "D4";
        if (tag == "no picture")
            changes.push_back(RemovePart{"card"});
        if (tag == "short of a plug") {
            partOf(p, "board").gives["fan"] = 2;
            partOf(p, "card").needs["fan"] = 1;
        }
        if (tag == "no supply")
            changes.push_back(RemovePart{"bay"});
        if (tag == "overloaded")
            std::get<PowerSupplySpec>(partOf(p, "supply").spec).ratedW = 180;
        if (tag == "brick")
            std::get<PowerSupplySpec>(partOf(p, "supply").spec) = {.ratedW = 215, .brick = true};
        const Project changed = with(p, changes);
        const auto findings = rules::compatibility(built(changed, "R2"));
        QFETCH(QString, rule);
        QFETCH(QString, text);
        const auto* f = find(findings, rule.toStdString());
        QVERIFY2(f, "the rule found nothing");
        QCOMPARE(f->severity, Severity::Blocker);
        QVERIFY2(QString::fromStdString(english(f->text)).contains(text), core::english(f->text).c_str());
        QVERIFY(!f->remedies.empty());
    }

    void graphicsInTheProcessorGiveAPicture() {
        Project p = project();
        std::get<ProcessorSpec>(partOf(p, "cpu").spec).graphics = true;
        p = with(p, {RemovePart{"card"}});
        QVERIFY(!find(rules::compatibility(built(p, "R2")), "picture"));
        std::get<BoardSpec>(partOf(p, "board").spec).graphicsOutput = false;
        QVERIFY(find(rules::compatibility(built(p, "R2")), "picture"));
    }

    /// Supply load: 40 to 80 % preferred. Common practice, no source.
    void supplyShare_data() {
        QTest::addColumn<double>("ratedW");
        QTest::addColumn<QString>("rule");
        QTest::addColumn<int>("severity");
        QTest::newRow("half used") << 400.0 << "" << 0;
        QTest::newRow("85 %") << 237.0 << "power-share" << int(Severity::Caution);
        QTest::newRow("101 %") << 200.0 << "power-share" << int(Severity::Blocker);
        QTest::newRow("30 %") << 670.0 << "power-share-low" << int(Severity::Note);
    }
    void supplyShare() {
        QFETCH(double, ratedW);
        QFETCH(QString, rule);
        QFETCH(int, severity);
        Project p = project();
        std::get<PowerSupplySpec>(partOf(p, "supply").spec).ratedW = ratedW;
        const auto findings = rules::compatibility(built(p, "R1"));
        if (rule.isEmpty()) {
            QVERIFY(!find(findings, "power-share") && !find(findings, "power-share-low"));
            return;
        }
        const auto* f = find(findings, rule.toStdString());
        QVERIFY(f);
        QCOMPARE(static_cast<int>(f->severity), severity);
    }

    void sizesOfAFormAreChecked() {
        Project p = project();
        QVERIFY(!find(rules::compatibility(built(p, "R1")), "form-size"));
        partOf(p, "supply").size[2] = mm(36.5); // two figures swapped
        const auto findings = rules::compatibility(built(p, "R1"));
        const auto* f = find(findings, "form-size");
        QVERIFY(f);
        QVERIFY2(core::english(f->text).find("says it is sfx, but is 27.0 mm off") != std::string::npos,
                 core::english(f->text).c_str());
    }

    void powerAddsUp() {
        const Project p = project();
        const auto budget = rules::powerBudget(built(p, "R1"));
        QCOMPARE_LE(std::abs(budget.drawW - (8 + 65 + 1.2 + 120 + 1.5 + 6)), 1e-9);
        double sum = 0;
        for (const auto& item : budget.items)
            sum += item.watts;
        QCOMPARE_LE(std::abs(sum - budget.drawW), 1e-9);
        QCOMPARE_LE(std::abs(budget.wallW - budget.drawW / 0.9), 1e-9);
        QCOMPARE(budget.items.front().mount, std::string("card"));
        QCOMPARE_LE(std::abs(budget.share - budget.drawW / 400), 1e-9);
    }
    void powerLimitCounts() {
        const Project p = with(project(), {LimitPower{"card", 90}});
        QCOMPARE_LE(std::abs(rules::powerBudget(built(p, "R1")).drawW - rules::powerBudget(built(p, "R2")).drawW - 30),
                    1e-9);
    }

    void gapsBecomeFindings() {
        Project p = project();
        partOf(p, "card").size[1] = mm(65);
        partOf(p, "caddy").size[0] = mm(83.5);
        p = with(p, {PlacePart{"caddy", "shelf"}});
        const auto findings = rules::gapFindings(fit::check(built(p, "R2")));
        bool clash = false, bulge = false;
        for (const auto& f : findings) {
            QVERIFY(f.station == rules::Station::Fit);
            clash = clash || (f.severity == Severity::Blocker &&
                              core::english(f.text).find("overlap 1.0 mm") != std::string::npos);
            bulge = bulge || (f.severity == Severity::Caution &&
                              core::english(f.text).find("forced out 1.5 mm") != std::string::npos);
        }
        QVERIFY(clash);
        QVERIFY(bulge);
    }

    void airBecomesFindings() {
        const Project p = with(project(), {SetOpening{"side-grille", OpeningStyle::Closed, 0},
                                           SetOpening{"top-grille", OpeningStyle::Closed, 0},
                                           SetOpening{"floor-vent", OpeningStyle::Closed, 0}, RemovePart{"side"}});
        const Build b = built(p, "R2");
        const auto findings = rules::airFindings(b, air::predict(b, {.roomC = 35}));
        const auto* f = find(findings, "throttles");
        QVERIFY2(f, "a closed box with 185 W must throttle");
        QCOMPARE(f->severity, Severity::Blocker);
    }

    void heaviestFirst() {
        std::vector<rules::Finding> all{{"a", Severity::Note, rules::Station::Brief, {}, {}, {}, {}},
                                        {"b", Severity::Blocker, rules::Station::Air, {}, {}, {}, {}},
                                        {"c", Severity::Blocker, rules::Station::Fit, {}, {}, {}, {}},
                                        {"d", Severity::Caution, rules::Station::Brief, {}, {}, {}, {}}};
        rules::sortFindings(all);
        QCOMPARE(all[0].id, std::string("c"));
        QCOMPARE(all[1].id, std::string("b"));
        QCOMPARE(all[2].id, std::string("d"));
        QCOMPARE(all[3].id, std::string("a"));
    }

    void connectorsAreCounted() {
        const Project p = project();
        const auto rows = rules::connectors(built(p, "R1")).rows;
        const auto row = std::find_if(rows.begin(), rows.end(), [](const auto& r) { return r.kind == "fan"; });
        QVERIFY(row != rows.end());
        QCOMPARE(row->given, 3);
        QCOMPARE(row->needed, 2); // cooler and side fan
        QCOMPARE(row->takers.size(), std::size_t{2});
    }
};
} // namespace tst_rules
MD_TEST(tst_rules, RulesTest)
#include "tst_rules.moc"
