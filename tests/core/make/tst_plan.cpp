// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/make/plan.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_plan {

using namespace support;

class PlanTest : public QObject {
    Q_OBJECT
private slots:
    /// Cutting comes before anything is in the case, with its cautions; leads go in when both of their ends are there.
    void modificationsFirstLeadsLast() {
        Project p = project();
        std::get<CaseSpec>(p.shelf[0].spec).modifications = {
            {.id = "cut", .name = "Front cut open", .minutes = 40, .price = 3}};
        Part lead{.id = "lead", .kind = PartKind::Cable, .name = "Lead"};
        lead.spec = CableSpec{};
        p.shelf.push_back(lead);
        const Project before = with(p, {});
        const Project after = with(p, {Connect{"lead", "bay:card-8", {"card:card-8"}}, Modify{"cut"}});
        const auto then = make::plan(after, built(after, "R2")), now = make::plan(before, built(before, "R2"));
        QVERIFY(then && now);
        QCOMPARE(then->steps.size(), now->steps.size() + 2);
        QCOMPARE(then->steps.front().text, std::string("Front cut open"));
        QVERIFY(core::english(then->steps.front().safety).find("Eyes") != std::string::npos);
        QCOMPARE(then->steps.back().text, std::string("Lead"));
        QCOMPARE(then->steps.back().needs.size(), std::size_t{2});
        QCOMPARE_LE(std::abs(then->minutes - now->minutes - 41.5), 1e-9);
        QCOMPARE_LE(std::abs(then->cost - now->cost - 3), 1e-9);
        for (const auto& step : then->steps)
            for (const std::size_t need : step.needs)
                QVERIFY(need < static_cast<std::size_t>(&step - then->steps.data())); // still a legal order
        // Getting the card out again now means unplugging it.
        const auto undo = [](const make::Plan& plan) {
            for (const auto& s : plan.steps)
                if (s.mount == "card")
                    return s.undo.size();
            return std::size_t{0};
        };
        QCOMPARE(undo(*then), undo(*now) + 1);
    }
    /// Rectangle in rectangle: turned only where that helps.
    void turnToFit_data() {
        QTest::addColumn<double>("w");
        QTest::addColumn<double>("h");
        QTest::addColumn<double>("degrees"); // -1: does not fit
        QTest::newRow("fits as it lies") << 200.0 << 150.0 << 0.0;
        QTest::newRow("fills the bed") << 210.0 << 210.0 << 0.0;
        QTest::newRow("a little too wide") << 211.0 << 210.0 << -1.0;
        QTest::newRow("long and thin: on the diagonal") << 270.0 << 20.0 << 35.0;
        QTest::newRow("longer than the diagonal") << 300.0 << 5.0 << -1.0;
    }
    void turnToFit() {
        QFETCH(double, w);
        QFETCH(double, h);
        QFETCH(double, degrees);
        const auto turn = make::turnToFit(w, h, 210, 210);
        QCOMPARE(turn.has_value(), degrees >= 0);
        if (!turn)
            return;
        if (degrees == 0)
            QCOMPARE(*turn, 0.0);
        // Checked against the corners of the turned rectangle.
        const double a = *turn * M_PI / 180;
        QVERIFY(w * std::cos(a) + h * std::sin(a) <= 210 + 1e-6);
        QVERIFY(w * std::sin(a) + h * std::cos(a) <= 210 + 1e-6);
    }
    void bedIsNotSquare() {
        QVERIFY(!make::turnToFit(150, 90, 100, 100));
        const auto turn = make::turnToFit(150, 90, 100, 200); // upright, or nearly
        QVERIFY(turn && *turn > 80);
        QVERIFY(150 * std::cos(*turn * M_PI / 180) + 90 * std::sin(*turn * M_PI / 180) <= 100 + 1e-6);
    }

    void massHoursAndMoney() {
        Project p = with(project(), {PlacePart{"caddy", "shelf"}});
        p.printer = {.bedMm = {220, 220, 240}, .flowMm3s = 5, .pricePerKg = 20};
        const auto plan = make::plan(p, built(p, "R2"));
        QVERIFY(plan);
        QCOMPARE(plan->parts.size(), std::size_t{1});
        const auto& part = plan->parts[0];
        // 40 cm³, 35 % shell, 20 % of the rest: 40 x (0.35 + 0.2 x 0.65) = 19.2 cm³ of plastic at 1.27 g/cm³ and 5
        // mm³/s.
        QCOMPARE_LE(std::abs(part.massG - 19.2 * 1.27), 1e-9);
        QCOMPARE_LE(std::abs(part.hours - 19200.0 / 5 / 3600), 1e-9);
        QCOMPARE_LE(std::abs(part.cost - 19.2 * 1.27 / 1000 * 20), 1e-9);
        QVERIFY(part.fits);
    }

    void tooLargeForTheBed() {
        Project p = with(project(), {PlacePart{"caddy", "shelf"}});
        p.printer.bedMm = {60, 60, 60};
        const auto plan = make::plan(p, built(p, "R2"));
        QVERIFY(plan);
        QVERIFY(!plan->parts[0].fits);
        p.printer.bedMm = {80, 40, 100}; // only on its side: 60 x 20 on the bed, 83.5 high
        const auto second = make::plan(p, built(p, "R2"));
        QVERIFY(second->parts[0].fits);
        QVERIFY(second->parts[0].onItsSide);
        QCOMPARE(second->parts[0].heightMm, 83.5);
    }

    void shoppingCountsByKind() {
        const Project p = with(project(), {PlacePart{"caddy", "shelf"}});
        const auto plan = make::plan(p, built(p, "R2"));
        int m3x8 = 0, all = 0;
        for (const auto& item : plan->shopping) {
            all += item.count;
            if (item.kind == "M3 x 8")
                m3x8 = item.count;
        }
        QCOMPARE(m3x8, 4);
        QCOMPARE(all, plan->screws);
        QCOMPARE(all, 4 + 4 + 2 + 4 + 4 + 4); // board, cooler, card, fan, supply, caddy
    }

    void orderIsLegal() {
        Project p = project();
        for (Part& part : p.shelf)
            if (part.id == "fan-15")
                part.step.after = {"tray/cpu/lid", "card"};
        const auto plan = make::plan(p, built(p, "R1"));
        QVERIFY(plan);
        QCOMPARE(plan->steps.size(), std::size_t{7});
        const auto at = [&](const std::string& mount) {
            return std::find_if(plan->steps.begin(), plan->steps.end(),
                                [&](const make::Step& s) { return s.mount == mount; }) -
                   plan->steps.begin();
        };
        QVERIFY(at("tray") < at("tray/cpu"));
        QVERIFY(at("tray/cpu") < at("tray/cpu/lid"));
        QVERIFY(at("side") > at("tray/cpu/lid"));
        QVERIFY(at("side") > at("card"));
        for (std::size_t i = 0; i < plan->steps.size(); ++i)
            for (const std::size_t needed : plan->steps[i].needs)
                QVERIFY(needed < i);
    }

    void waitingForEachOtherIsRefused() {
        Project p = project();
        for (Part& part : p.shelf) {
            if (part.id == "fan-15")
                part.step.after = {"card"};
            if (part.id == "card")
                part.step.after = {"side"};
        }
        const auto plan = make::plan(p, built(p, "R1"));
        QVERIFY(!plan);
        QVERIFY(plan.error().what.find("wait for each other") != std::string::npos);
    }

    void undoTakesBackWhatDependsOnIt() {
        const Project p = project();
        const auto plan = make::plan(p, built(p, "R1"));
        const auto& board = *std::find_if(plan->steps.begin(), plan->steps.end(),
                                          [](const make::Step& s) { return s.mount == "tray"; });
        QCOMPARE(board.undo.size(), std::size_t{4}); // board, processor, cooler, memory
        QCOMPARE(board.undoScrews, 8);               // of board and cooler
        const auto& fan = *std::find_if(plan->steps.begin(), plan->steps.end(),
                                        [](const make::Step& s) { return s.mount == "side"; });
        QCOMPARE(fan.undo.size(), std::size_t{1});
        QVERIFY(fan.undoMinutes < board.undoMinutes);
    }

    void safetyStandsWithTheStep() {
        const Project p = project();
        const auto plan = make::plan(p, built(p, "R1"));
        for (const auto& step : plan->steps)
            if (step.mount == "bay")
                QVERIFY(core::english(step.safety).find("Never open a supply") != std::string::npos);
    }

    void piecesOfTheCase() {
        Project p = project();
        std::get<CaseSpec>(p.shelf[0].spec).pieces = {"caddy"};
        QCOMPARE(make::plan(p, built(p, "R1"))->parts.size(), std::size_t{1});
        std::get<CaseSpec>(p.shelf[0].spec).pieces = {"ghost"};
        QVERIFY(!make::plan(p, built(p, "R1")));
    }

    void fumesAreCautioned() {
        Project p = with(project(), {PlacePart{"caddy", "shelf"}});
        for (Part& part : p.shelf)
            if (part.id == "caddy")
                std::get<MadeSpec>(part.spec).material = "asa";
        const auto plan = make::plan(p, built(p, "R2"));
        QCOMPARE(plan->cautions.size(), std::size_t{1});
        QVERIFY(plan->cautions[0].find("ventilate") != std::string::npos);
    }
};
} // namespace tst_plan
MD_TEST(tst_plan, PlanTest)
#include "tst_plan.moc"
