// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/fit_words.h"
#include "support/demo.h"
#include "support/registry.h"

#include <functional>
#include <map>
#include <set>

namespace tst_changes {

using namespace core;

namespace {

/// What a result says in one domain, as text, so that any difference counts.
using Domain = std::function<std::string(const stages::Evaluation&)>;

std::string said(double v) { return std::to_string(std::round(v * 1e6) / 1e6) + ' '; }

const std::map<std::string, Domain>& domains() {
    static const std::map<std::string, Domain> all{
        {"fit",
         [](const auto& e) {
             std::string s;
             for (const auto& g : e.fit.gaps)
                 s += g.id + said(g.nominal.mm()) + said(g.requiredMm) + said(g.chance);
             return s;
         }},
        {"air",
         [](const auto& e) {
             std::string s;
             for (const auto& p : e.air.parts)
                 s += p.id + said(p.temperatureC);
             for (const auto& f : e.air.fans)
                 s += f.id + said(f.flowM3h);
             return s;
         }},
        {"noise", [](const auto& e) { return said(e.noise.totalDba); }},
        {"steps",
         [](const auto& e) {
             std::string s = said(e.make.minutes) + said(e.make.screws);
             for (const auto& step : e.make.steps)
                 s += step.mount + step.text;
             return s;
         }},
        {"leads",
         [](const auto& e) {
             std::string s;
             for (const auto& route : e.wiring.routes)
                 s += route.to + " " + std::to_string(route.wayMm) + " ";
             return s;
         }},
        {"wiring",
         [](const auto& e) {
             std::string s;
             for (std::size_t i = 0; i < e.wiring.ports.needs.size(); ++i)
                 s += english(explain::textOf(e.wiring.ports, i));
             return s;
         }},
        {"power", [](const auto& e) { return said(e.power.drawW) + said(e.power.wallW); }},
        {"mass", [](const auto& e) { return said(e.massG); }},
        {"money", [](const auto& e) { return said(e.price + e.make.cost); }},
        {"volume", [](const auto& e) { return said(e.fit.volumeL); }},
        {"findings",
         [](const auto& e) {
             std::string s;
             for (const auto& f : e.findings)
                 s += f.id + english(f.text);
             return s;
         }},
    };
    return all;
}

struct Row {
    const char* name;
    const char* base; ///< the revision it is made on
    Change change;
    QStringList alters, leaves;
};
const std::vector<Row>& rows() {
    static const std::vector<Row> all{
        {"case", "R10", SetCase{"case-2"}, {"air"}, {"power"}},
        {"place a made part",
         "R10",
         PlacePart{"caddy-86", "caddy"},
         {"fit", "steps", "mass", "money"},
         {"wiring", "power", "volume"}},
        {"place a fan",
         "R10",
         PlacePart{"fan-92-15", "side-b"},
         {"fit", "air", "noise", "steps", "wiring", "power", "mass", "money"},
         {"volume"}},
        {"swap a cooler",
         "R10",
         SwapPart{"tray/cpu/lid", "cooler-l37"},
         {"fit", "air", "noise", "mass", "money"},
         {"volume"}},
        {"swap a card", "R10", SwapPart{"card", "card-168t"}, {"fit", "findings"}, {"volume"}},
        {"take a fan out",
         "R10",
         RemovePart{"top"},
         {"fit", "air", "noise", "steps", "wiring", "power", "mass", "money"},
         {"volume"}},
        {"take the card out",
         "R10",
         RemovePart{"card"},
         {"fit", "air", "steps", "wiring", "power", "mass", "money", "findings"},
         {"volume"}},
        {"turn a fan round", "R10", FlipFan{"top"}, {"air"}, {"steps", "wiring", "power", "mass", "money", "volume"}},
        {"fan slower",
         "R10",
         SetFan{"top", FanMode::Fixed, 0.3},
         {"air", "noise"},
         {"fit", "steps", "wiring", "mass", "money", "volume"}},
        {"screen",
         "R10",
         SetScreen{"top-grille", Screen::Fine},
         {"air", "noise"},
         {"fit", "wiring", "power", "volume"}},
        {"opening",
         "R10",
         SetOpening{"side-a-grille", OpeningStyle::Mesh, 0.2},
         {"air", "noise"},
         {"wiring", "power", "mass", "volume"}},
        {"close an opening",
         "R10",
         SetOpening{"side-a-grille", OpeningStyle::Closed, 0},
         {"fit", "air", "findings"},
         {"wiring", "power", "volume"}},
        {"move",
         "R10",
         MovePart{"card", Axis::Y, Length::fromMm(-5)},
         {"fit"},
         {"wiring", "power", "mass", "money", "volume"}},
        {"lay down", "R10", Orient{Side::Left}, {"air"}, {"steps", "wiring", "power", "mass", "money", "volume"}},
        {"limit the processor",
         "R10",
         LimitPower{"tray/cpu", 35},
         {"air", "power"},
         {"fit", "steps", "wiring", "mass", "money", "volume"}},
        {"limit the card",
         "R10",
         LimitPower{"card", 60},
         {"air", "power"},
         {"fit", "steps", "wiring", "mass", "money", "volume"}},
        {"variant", "R10", ChooseVariant{"side-a", "outside"}, {"fit", "volume"}, {"wiring", "power", "mass"}},
        {"plug",
         "R1",
         SetPlug{"card", "power", PlugStyle::Angled, {Axis::X, -1}},
         {"fit"},
         {"air", "noise", "power", "mass", "volume"}},
        {"connect",
         "R10",
         Connect{"fan-hub", "tray:fan", {"side-a:fan", "top:fan"}},
         {"wiring", "mass", "money"},
         {"air", "noise", "volume"}},
        {"disconnect",
         "R10",
         Disconnect{"lead-eps", "front-bay:eps-8"},
         {"wiring"},
         {"air", "noise", "power", "volume"}},
        {"the way of a lead",
         "R10",
         RouteLead{"lead-eps", "front-bay:eps-8", {}, {{20, 40, 20}, {20, 200, 20}}},
         {"leads"},
         {"air", "noise", "power", "mass", "money", "volume", "wiring", "steps", "fit"}},
        {"dust",
         "R10",
         SetFouling{"floor-vent", 3},
         {"air"},
         {"fit", "wiring", "power", "steps", "mass", "money", "volume"}},
        {"feet", "R10", SetFeet{1}, {"fit", "air"}, {"steps", "wiring", "power", "mass", "money", "volume"}},
        {"modify", "R10", Modify{"no-front-usb"}, {"steps", "findings"}, {"air", "noise", "power", "volume"}},
    };
    return all;
}

} // namespace

/// Each kind of change reaches every domain that it should, and none that it cannot: nothing is remembered from before.
class ChangesTest : public QObject {
    Q_OBJECT
private slots:
    void reachesItsDomains_data() {
        QTest::addColumn<int>("row");
        for (std::size_t i = 0; i < rows().size(); ++i)
            QTest::newRow(rows()[i].name) << static_cast<int>(i);
    }
    void reachesItsDomains() {
        QFETCH(int, row);
        const Row& r = rows()[static_cast<std::size_t>(row)];
        Project p = support::demoProject();
        p.runs.clear();
        p.revisions.push_back({.id = "next", .parent = r.base, .changes = {r.change}});
        const auto before = stages::evaluate(p, r.base), after = stages::evaluate(p, "next");
        QVERIFY(before);
        QVERIFY2(after, after ? "" : after.error().text().c_str());
        for (const auto& [name, domain] : domains()) {
            const bool altered = domain(*before) != domain(*after);
            const QString word = QString::fromStdString(name);
            QVERIFY2(altered || !r.alters.contains(word), qPrintable(word + " does not follow"));
            QVERIFY2(!altered || !r.leaves.contains(word), qPrintable(word + " follows"));
        }
    }
    void everyKindIsTried() {
        std::set<std::size_t> kinds;
        for (const Row& r : rows()) {
            kinds.insert(r.change.index());
            for (const QString& word : r.alters + r.leaves)
                QVERIFY2(domains().contains(word.toStdString()), qPrintable(word));
        }
        QCOMPARE(kinds.size(), std::variant_size_v<AnyChange>);
    }
};
} // namespace tst_changes
MD_TEST(tst_changes, ChangesTest)
#include "tst_changes.moc"
