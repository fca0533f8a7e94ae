// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/working.h"
#include "core/fit/lead_routes.h"
#include "core/fit/section_drawing.h"
#include "core/model/choices.h"
#include "core/rules/lead_mark.h"
#include "core/rules/lead_offers.h"
#include "core/rules/offers.h"
#include "core/stages/evaluate.h"
#include "support/demo.h"
#include "support/registry.h"

#include <QtTest>

namespace tst_lead_routes {

using namespace core;
using fit::LeadRoute;
using fit::Point;

/// Ways of leads: along the edges as an estimate, by corners as they are stated, against what they pass.
class LeadRoutesTest : public QObject {
    Q_OBJECT

    static Project withWay(const std::vector<Point>& corners) {
        Project p = support::demoProject();
        p.runs.clear();
        p.revisions.push_back(
            {.id = "led", .parent = "R10", .changes = {RouteLead{"lead-eps", "front-bay:eps-8", {}, corners}}});
        return p;
    }
    static LeadRoute eps(const Build& build) {
        for (const LeadRoute& route : fit::leadRoutes(build))
            if (route.ref.part == "lead-eps")
                return route;
        return {};
    }
    static bool found(const stages::Evaluation& e, const std::string& rule) {
        return std::any_of(e.findings.begin(), e.findings.end(), [&](const auto& f) { return f.rule == rule; });
    }

private slots:
    /// The sum of the three distances and both plugs, whatever the order of the legs.
    void alongTheEdges() {
        const Project p = withWay({});
        const auto build = resolve(p, "led");
        QVERIFY(build);
        const LeadRoute route = eps(*build);
        QVERIFY(!route.stated && !route.assumed);
        const auto &a = route.points[1], &b = route.points[route.points.size() - 2];
        double sum = 2 * 20; // both plugs of 8 pins stand out straight by 20 mm: common practice, no source
        for (std::size_t k = 0; k < 3; ++k)
            sum += std::abs(a[k] - b[k]);
        QVERIFY(std::abs(route.wayMm - sum) < 1e-6);
        for (std::size_t i = 1; i + 2 < route.points.size(); ++i) { // each leg along one axis
            int moved = 0;
            for (std::size_t k = 0; k < 3; ++k)
                moved += std::abs(route.points[i][k] - route.points[i + 1][k]) > 1e-6 ? 1 : 0;
            QCOMPARE(moved, 1);
        }
        QVERIFY(route.meets.empty()); // an estimate is not held against what it passes
    }
    void byCorners() {
        const std::vector<Point> corners{{20, 40, 20}, {20, 200, 20}};
        const Project p = withWay(corners);
        const auto build = resolve(p, "led");
        QVERIFY(build);
        const LeadRoute route = eps(*build);
        QVERIFY(route.stated);
        QCOMPARE(fit::cornersOf(route), corners);
        const auto length = [](const Point& u, const Point& v) {
            return std::hypot(u[0] - v[0], u[1] - v[1], u[2] - v[2]);
        };
        double sum = 0;
        for (std::size_t i = 0; i + 1 < route.points.size(); ++i)
            sum += length(route.points[i], route.points[i + 1]);
        QVERIFY(std::abs(route.wayMm - sum) < 1e-9);
        QVERIFY(std::abs(route.slackMm() - (330 - sum)) < 1e-9);
    }
    /// A corner in the middle of the cooler is in the cooler; one beside it is not. A wall likewise.
    void whatItPasses() {
        const auto meets = [](const Point& corner, const std::string& mount) {
            const Project p = withWay({corner});
            const auto build = resolve(p, "led");
            const LeadRoute route = eps(*build);
            return std::any_of(route.meets.begin(), route.meets.end(),
                               [&](const fit::LeadMeeting& m) { return m.mount == mount && m.mm < m.needMm; });
        };
        const Project p = withWay({});
        const auto build = resolve(p, "led");
        const Placed* cooler = build->at("tray/cpu/lid");
        Point middle, beside;
        for (std::size_t k = 0; k < 3; ++k)
            middle[k] = beside[k] = 0.5 * (cooler->lowAt[k].mm() + cooler->highAt[k].mm());
        QVERIFY(meets(middle, "tray/cpu/lid"));
        beside[2] = build->insideAt[2].mm() - 8;
        beside[1] = 40;
        QVERIFY(!meets(beside, "tray/cpu/lid"));
        QVERIFY(!meets(beside, ""));
        beside[2] = build->insideAt[2].mm() - 1; // a lead of 6 mm has its middle 3 mm off the wall
        QVERIFY(meets(beside, ""));
    }
    /// Said where one looks: through a part, too tight, out of the case.
    void isToldAsFindings() {
        const auto of = [](const std::vector<Point>& corners) {
            const Project p = withWay(corners);
            return *stages::evaluate(p, "led");
        };
        const auto plain = of({});
        for (const char* rule : {"lead-through", "lead-near", "lead-bend", "lead-outside"})
            QVERIFY2(!found(plain, rule), rule);
        QVERIFY(found(of({{42, 210, 120}}), "lead-through"));
        QVERIFY(found(of({{20, 100, 200}, {20, 104, 200}, {20, 104, 150}}), "lead-bend"));
        QVERIFY(found(of({{-40, 100, 200}}), "lead-outside"));
    }
    /// Two soft leads that cross take the room of both; through a riser none goes; beside each other they are tied.
    void againstEachOther() {
        const auto rulesOf = [](const std::vector<Point>& second, double widthMm) {
            Project p = withWay({{20, 40, 120}, {20, 200, 120}});
            Part lead{.id = "second", .kind = PartKind::Cable, .name = "Second"};
            lead.spec = CableSpec{.lengthMm = 400, .widthMm = widthMm, .thicknessMm = widthMm > 0 ? 2.0 : 4.0};
            p.shelf.push_back(lead);
            p.revisions.back().changes.emplace_back(Connect{"second", "front-bay:x", {"tray:x"}});
            p.revisions.back().changes.emplace_back(RouteLead{"second", "front-bay:x", {}, second});
            const auto e = stages::evaluate(p, "led");
            std::vector<std::string> texts;
            for (const auto& f : e->findings)
                if (const auto* of = std::get_if<LeadRef>(&f.about);
                    of && of->part == "lead-eps" && english(f.text).find("Second") != std::string::npos)
                    texts.push_back(f.rule + ": " + english(f.text));
            return texts;
        };
        const std::vector<Point> across{{20, 120, 60}, {20, 120, 180}}, beside{{20, 40, 128}, {20, 200, 128}};
        const auto cross = rulesOf(across, 0), stiff = rulesOf(across, 50), tied = rulesOf(beside, 0);
        QCOMPARE(cross.size(), 1U);
        QVERIFY2(cross[0].starts_with("lead-cross: ") && cross[0].find("10.0 mm") != std::string::npos,
                 cross[0].c_str()); // 6 and 4
        QCOMPARE(stiff.size(), 1U);
        QVERIFY2(stiff[0].starts_with("lead-through: "), stiff[0].c_str());
        QVERIFY2(tied.empty(), tied.empty() ? "" : tied[0].c_str());
    }
    /// Where a socket is not stated the lead begins in the middle of its part: that is no collision with it.
    void anUnstatedSocketIsNoCollision() {
        Project p = support::demoProject();
        p.runs.clear();
        p.revisions.push_back({.id = "led",
                               .parent = "R10",
                               .changes = {RouteLead{"lead-card", "front-bay:card-8", {}, {{40, 100, 100}}}}});
        const auto build = resolve(p, "led");
        QVERIFY2(build, build ? "" : build.error().text().c_str());
        for (const LeadRoute& route : fit::leadRoutes(*build))
            if (route.ref.part == "lead-card") {
                QVERIFY(route.assumed && route.stated);
                for (const auto& m : route.meets)
                    QVERIFY2(m.mount != "card", m.name.c_str());
            }
    }
    /// On exported sections: each lead once in each of the three, apart whether its way is stated.
    void onExportedSections() {
        const auto count = [](const std::vector<Point>& corners, const std::string& layer) {
            const Project p = withWay(corners);
            const auto drawing = fit::sectionDrawing(*resolve(p, "led"), {40, 150, 120});
            return std::count_if(drawing.lines.begin(), drawing.lines.end(),
                                 [&](const auto& line) { return line.layer == layer && !line.closed; });
        };
        QCOMPARE(count({}, "lead-estimate"), 9);
        QCOMPARE(count({}, "lead"), 0);
        QCOMPARE(count({{20, 40, 20}}, "lead-estimate"), 6);
        QCOMPARE(count({{20, 40, 20}}, "lead"), 3);
    }
    /// One mark wherever a lead stands: assumed ends and what it passes leave it open, too short crosses it.
    void oneMark() {
        const auto markOf = [](const Project& p, const std::string& part) {
            const auto e = stages::evaluate(p, "led");
            for (const rules::CableResult& cable : e->wiring.cables)
                for (const LeadRoute& route : e->wiring.routes)
                    if (cable.part == part && route.ref == cable.ref && route.end == cable.end) {
                        const Mark mark = rules::markOfLead(&cable, route);
                        return explain::ofLead(*e, cable.ref).mark == mark ? mark : Mark::None;
                    }
            return Mark::None;
        };
        QCOMPARE(markOf(withWay({}), "lead-eps"), Mark::Holds);
        QCOMPARE(markOf(withWay({{42, 210, 120}}), "lead-eps"), Mark::Open); // through the cooler
        QCOMPARE(markOf(withWay({}), "lead-card"), Mark::Open);              // the card does not state its socket
        Project p = withWay({});
        std::get<CableSpec>(p.shelf.edit("lead-eps")->spec).lengthMm = 60;
        QCOMPARE(markOf(p, "lead-eps"), Mark::Crossed);
    }
    /// Another lead named in a form begins with its own corners, not with those of the one before.
    void cornersAsTheyAre() {
        const Project p = withWay({{20, 40, 20}});
        const auto build = resolve(p, "led");
        const auto corners = [&](const char* part) {
            for (const Joined& j : build->joined)
                if (j.part->id == part)
                    return std::get<RouteLead>(
                               rules::asItIs(*build, RouteLead{part, j.from, j.to.front(), {{1, 2, 3}, {4, 5, 6}}}))
                        .pointsMm.size();
            return std::size_t{99};
        };
        QCOMPARE(corners("lead-eps"), 1U);
        QCOMPARE(corners("lead-card"), 0U);
    }
    void riserIsFlat() {
        Part riser{.id = "r", .kind = PartKind::Cable, .name = "Riser", .link = Link{.generation = 4, .lanes = 16}};
        riser.spec = CableSpec{.lengthMm = 200};
        const fit::LeadBody body = fit::leadBodyOf(riser);
        QVERIFY(body.flat && body.assumed);
        QCOMPARE(body.bendMm, 10.0); // common practice, no source
        riser.spec = CableSpec{.lengthMm = 200, .widthMm = 70, .thicknessMm = 1.2, .bendMm = 12};
        const fit::LeadBody stated = fit::leadBodyOf(riser);
        QVERIFY(!stated.assumed);
        QCOMPARE(stated.widthMm, 70.0);
        QCOMPARE(stated.bendMm, 12.0);
    }
    /// Three equal round leads side by side: the bundle holds their areas at 0.7.
    void bundles() {
        std::vector<LeadRoute> routes(3);
        for (std::size_t i = 0; i < 3; ++i) {
            const double y = 4.0 * static_cast<double>(i);
            routes[i].points = {{0, y, 0}, {10.0 * static_cast<double>(i), y, 0}, {120, y, 0}, {120, y, 50}};
            routes[i].body.thicknessMm = 5;
        }
        const auto all = fit::bundlesOf(routes);
        QCOMPARE(all.size(), 2U); // along x and along z
        QCOMPARE(all[0].routes.size(), 3U);
        QVERIFY(std::abs(all[0].thicknessMm - std::sqrt(75 / 0.7)) < 1e-9);
        QCOMPARE(all[0].from[0], 20.0); // where the last one joins
        QCOMPARE(all[0].to[0], 120.0);
        routes[2].points = {{0, 90, 0}, {120, 90, 0}};
        QCOMPARE(fit::bundlesOf(routes)[0].routes.size(), 2U);
    }
    void wrongNamesAreRefused() {
        const auto error = [](const RouteLead& change) {
            Project p = support::demoProject();
            p.runs.clear();
            p.revisions.push_back({.id = "led", .parent = "R10", .changes = {change}});
            const auto build = resolve(p, "led");
            return build ? std::string() : build.error().text();
        };
        QVERIFY(error({"lead-eps", "front-bay:eps-8", {}, {}}).empty());
        QVERIFY(error({"lead-none", "front-bay:eps-8", {}, {}}).find("lead-none") != std::string::npos);
        QVERIFY(error({"lead-eps", "front-bay:eps-8", "card:card-8", {}}).find("does not go to") != std::string::npos);
    }
    /// A way that is stated again takes the place of the one before, also after another lead's.
    void stateOnce() {
        std::vector<Change> changes;
        const auto route = [](const char* part, double x) {
            return RouteLead{part, "front-bay:eps-8", {}, {{x, 0, 0}}};
        };
        addTo(changes, route("a", 1));
        addTo(changes, route("b", 1));
        addTo(changes, route("a", 2));
        QCOMPARE(changes.size(), 2U);
        QCOMPARE(std::get<RouteLead>(changes[0]).pointsMm[0][0], 2.0);
        addTo(changes, Disconnect{"a", "front-bay:eps-8"});
        addTo(changes, route("a", 3));
        QCOMPARE(changes.size(), 4U);
    }
    /// Leads offered for two ends: of the supply's family, those that fit the way first, one to be made last.
    void leadsForTwoEnds() {
        Project p = support::demoProject();
        const auto add = [&](const char* id, double length, const char* family) {
            Part lead{.id = id, .kind = PartKind::Cable, .name = id};
            lead.spec = CableSpec{.lengthMm = length, .family = family};
            p.shelf.push_back(lead);
        };
        add("short", 60, "S1");
        add("other", 300, "Q9");
        add("any", 240, "");
        const auto build = resolve(p, "R10");
        const auto offers = rules::leadsBetween(p, *build, "front-bay:eps-8", "tray:eps-8");
        const auto at = [&](const std::string& id) {
            return std::find_if(offers.leads.begin(), offers.leads.end(), [&](const auto& o) { return o.part == id; });
        };
        QVERIFY(at("other") == offers.leads.end());
        QVERIFY(at("any") != offers.leads.end() && at("short") != offers.leads.end());
        QVERIFY(at("any") < at("short"));
        QCOMPARE(at("short")->state, rules::LeadState::Short);
        QVERIFY(offers.leads.back().part.empty());
        QVERIFY(offers.leads.back().lengthMm >= 1.1 * offers.wayMm);
        const Part made = rules::plainLead(p, "eps-8", offers.wayMm);
        p.shelf.push_back(made);
        p.revisions.push_back({.id = "led",
                               .parent = "R10",
                               .changes = {Disconnect{"lead-eps", "front-bay:eps-8"},
                                           Connect{made.id, "front-bay:eps-8", {"tray:eps-8"}}}});
        const auto e = stages::evaluate(p, "led");
        QVERIFY2(e, e ? "" : e.error().text().c_str());
        QVERIFY(!found(*e, "lead-short") && !found(*e, "lead-tight"));
        QVERIFY(rules::leadsBetween(p, *build, "front-bay:eps-8", "card:card-8").leads.empty());
        QVERIFY(rules::plainLead(p, "slot-x16", 150).link.has_value());
    }
};

} // namespace tst_lead_routes
MD_TEST(tst_lead_routes, LeadRoutesTest)
#include "tst_lead_routes.moc"
