// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/findings.h"
#include "support/builds.h"
#include "support/registry.h"

#include <QtTest>

#include <functional>
#include <set>

namespace tst_compat_cases {

using namespace support;
using rules::Severity;

namespace {

using Edit = std::function<void(Project&)>;

template <class S> S& spec(Project& p, const std::string& id) { return std::get<S>(partOf(p, id).spec); }
void change(Project& p, Change c) { p.revisions[0].changes.push_back(std::move(c)); }
Part lead(const std::string& id, double length, const std::string& family = {}) {
    Part part{.id = id, .kind = PartKind::Cable, .name = "Lead " + id};
    part.spec = CableSpec{.lengthMm = length, .family = family};
    return part;
}
Part adapter(const std::string& id, std::map<std::string, int> needs, std::map<std::string, int> gives,
             AdapterSpec s = {}) {
    Part part{.id = id,
              .kind = PartKind::Adapter,
              .name = "Adapter " + id,
              .gives = std::move(gives),
              .needs = std::move(needs)};
    part.spec = s;
    return part;
}
/// A drive on the shelf place of the test box.
void addDrive(Project& p, std::map<std::string, int> needs, std::optional<Link> link = {}, double watts = 5) {
    Part drive{.id = "drive",
               .kind = PartKind::Drive,
               .name = "Drive",
               .size = {mm(69.85), mm(100.45), mm(7)},
               .needs = std::move(needs),
               .link = link,
               .powerW = watts};
    drive.spec = DriveSpec{.form = DriveForm::Inch25};
    p.shelf.push_back(drive);
    change(p, PlacePart{"drive", "shelf"});
}
void addSlot(Project& p, const std::string& kind, int generation, int lanes, bool chipset = false,
             const std::string& group = {}, int shared = 0) {
    partOf(p, "board").gives[kind] += 1;
    spec<BoardSpec>(p, "board").laneSlots.push_back({kind, generation, lanes, chipset, group, shared});
}
/// A liquid cooler on the lid, and a radiator with a fan of 25 at the top of the case.
void addLoop(Project& p, const std::string& block, const std::string& radiator, bool pumpInBlock,
             const std::string& screw = "M4 x 30") {
    spec<CoolerSpec>(p, "cooler-37") =
        CoolerSpec{.type = CoolerType::Liquid, .sockets = {"A"}, .metal = block, .pump = pumpInBlock};
    Part r{.id = "radiator", .kind = PartKind::Radiator, .name = "Radiator", .size = {mm(120), mm(150), mm(27)}};
    r.spec = RadiatorSpec{.plateMm = 1, .metal = radiator, .pump = !pumpInBlock};
    r.mounts = {{.id = "fan",
                 .name = "Fan",
                 .accepts = {PartKind::Fan},
                 .at = {centre(60), centre(75), {Ref::Below, {}}},
                 .facing = {Axis::Z, 1},
                 .up = {Axis::Y, 1}}};
    p.shelf.push_back(r);
    Part f = fan("r-fan", 120, 25);
    f.fasteners = {{screw, 4}};
    p.shelf.push_back(f);
    p.shelf[0].mounts.push_back({.id = "roof",
                                 .name = "Roof",
                                 .accepts = {PartKind::Radiator},
                                 .at = {centre(41), centre(150), high(0)},
                                 .facing = {Axis::Z, 1},
                                 .up = {Axis::Y, 1}});
    change(p, PlacePart{"radiator", "roof"});
    change(p, PlacePart{"r-fan", "roof/fan"});
}
void addFanHub(Project& p, double amperes) {
    p.shelf.push_back(adapter("hub", {{"fan", 1}}, {{"fan", 3}}));
    for (const char* id : {"fan-15"})
        spec<FanSpec>(p, id).currentA = amperes;
    p.shelf[0].mounts.push_back({.id = "side-2",
                                 .name = "Side 2",
                                 .accepts = {PartKind::Fan},
                                 .at = {high(0), centre(100), centre(180)},
                                 .facing = {Axis::X, 1},
                                 .up = {Axis::Z, 1}});
    change(p, PlacePart{"fan-15", "side-2"});
    change(p, Connect{"hub", "tray:fan", {"side:fan", "side-2:fan"}});
}
void cutCase(Project& p, Loss loss) {
    spec<CaseSpec>(p, "box").modifications = {{.id = "cut", .name = "Front cut open", .losses = {std::move(loss)}}};
    change(p, Modify{"cut"});
}
/// Sockets at known places: the supply's at its rear face, the board's near its front edge.
void placePorts(Project& p) {
    partOf(p, "supply").ports = {
        {.id = "eps-8", .kind = "eps-8", .at = {mm(50), mm(60), mm(63.5)}, .out = {Axis::Z, 1}}};
    partOf(p, "supply").gives["eps-8"] = 1;
    partOf(p, "board").ports = {
        {.id = "eps-8", .kind = "eps-8", .at = {mm(20), mm(160), mm(1.6)}, .out = {Axis::Z, 1}}};
    partOf(p, "board").needs["eps-8"] = 1;
}

constexpr const char* common = "common practice, no source";
constexpr const char* judged = "engineering judgement";
constexpr const char* cem = "PCI Express card electromechanical specification (from memory)";
constexpr const char* base = "PCI Express base specification (from memory)";
constexpr const char* sata = "Serial ATA specification (from memory)";

} // namespace

/// Each rule on both sides of its limit: with the edit it speaks, one step less and it does not.
class CompatCasesTest : public QObject {
    Q_OBJECT
    struct Row {
        Edit edit;
        std::string rule;
        std::optional<Severity> severity;
    };
    std::vector<Row> m_rows;
    void row(const char* name, const char* source, Edit edit, const char* rule, std::optional<Severity> severity) {
        QTest::addRow("%s (%s)", name, source) << static_cast<int>(m_rows.size());
        m_rows.push_back({std::move(edit), rule, severity});
    }
    const std::optional<Severity> quiet;

private slots:
    void rules_data() {
        QTest::addColumn<int>("row");
        const auto no = quiet;
        // sockets, forms, memory, picture
        row(
            "same socket", common, [](Project&) {}, "socket", no);
        row(
            "other socket", common, [](Project& p) { spec<ProcessorSpec>(p, "cpu").socket = "B"; }, "socket",
            Severity::Blocker);
        row(
            "kit for the socket", common, [](Project&) {}, "cooler-socket", no);
        row(
            "no kit for the socket", common, [](Project& p) { spec<CoolerSpec>(p, "cooler-37").sockets = {"B"}; },
            "cooler-socket", Severity::Blocker);
        row(
            "no cooler", common, [](Project& p) { change(p, RemovePart{"tray/cpu/lid"}); }, "cooler-missing",
            Severity::Blocker);
        row(
            "board the case takes", "Mini-ITX addendum to microATX (from memory)", [](Project&) {}, "board-form", no);
        row(
            "board too large a form", "microATX specification (from memory)",
            [](Project& p) { spec<BoardSpec>(p, "board").form = "micro-atx"; }, "board-form", Severity::Blocker);
        row(
            "memory of another kind", common, [](Project& p) { spec<MemorySpec>(p, "memory").memoryKind = "D4"; },
            "memory-kind", Severity::Blocker);
        row(
            "two modules, two slots", common, [](Project&) {}, "memory-slots", no);
        row(
            "three modules, two slots", common, [](Project& p) { spec<MemorySpec>(p, "memory").modules = 3; },
            "memory-slots", Severity::Blocker);
        row(
            "four slots: fill the second of each channel", common,
            [](Project& p) { spec<BoardSpec>(p, "board").memorySlots = 4; }, "memory-fill", Severity::Note);
        row(
            "two slots: nothing to choose", common, [](Project&) {}, "memory-fill", no);
        row(
            "one module on two channels", common, [](Project& p) { spec<MemorySpec>(p, "memory").modules = 1; },
            "memory-channels", Severity::Note);
        row(
            "picture from the card", common, [](Project&) {}, "picture", no);
        row(
            "no card, no graphics", common, [](Project& p) { change(p, RemovePart{"card"}); }, "picture",
            Severity::Blocker);
        row(
            "graphics of the processor", common,
            [](Project& p) {
                change(p, RemovePart{"card"});
                spec<ProcessorSpec>(p, "cpu").graphics = true;
            },
            "picture", no);
        // power: 201.7 W of parts
        const auto supply = [](double watts, bool brick = false) {
            return [=](Project& p) {
                spec<PowerSupplySpec>(p, "supply").ratedW = watts;
                spec<PowerSupplySpec>(p, "supply").brick = brick;
            };
        };
        row("79 % of the supply", common, supply(255), "power-share", no);
        row("81 % of the supply", common, supply(248), "power-share", Severity::Caution);
        row("101 % of the supply", common, supply(199), "power-share", Severity::Blocker);
        row("brick at 91 %", common, supply(220, true), "power-share", Severity::Blocker);
        row("brick at 89 %", common, supply(226, true), "power-share", Severity::Caution);
        row("39 % of the supply", common, supply(520), "power-share-low", Severity::Note);
        row(
            "no supply", common, [](Project& p) { change(p, RemovePart{"bay"}); }, "supply-missing", Severity::Blocker);
        const auto peak = [](double watts) {
            return [=](Project& p) { spec<PowerSupplySpec>(p, "supply").peakW = watts; };
        };
        row("peak of 201.7 + 120 W within 322", judged, peak(322), "power-peak", no);
        row("peak of 201.7 + 120 W over 321", judged, peak(321), "power-peak", Severity::Caution);
        row("peak not stated, over the rated power", judged, supply(300), "power-peak", Severity::Note);
        row("peak not stated, within the rated power", judged, supply(330), "power-peak", no);
        const auto rail = [](double amperes) {
            return [=](Project& p) { spec<PowerSupplySpec>(p, "supply").rail12A = amperes; };
        };
        row("rail: 16.8 A of 62 A (744 W), in words", common, rail(62), "rail-12v", Severity::Note);
        row("rail not stated", common, rail(0), "rail-12v", no);
        row("rail: 16.8 A of 20 A", common, rail(20), "rail-12v", Severity::Caution);
        row("rail: 16.8 A of 16 A", common, rail(16), "rail-12v", Severity::Blocker);
        // plugs: the card has a slot (75 W) and an 8-pin (150 W)
        row(
            "card of 225 W on slot and 8-pin", cem, [](Project& p) { partOf(p, "card").powerW = 225; }, "card-feed",
            no);
        row(
            "card of 226 W on slot and 8-pin", cem, [](Project& p) { partOf(p, "card").powerW = 226; }, "card-feed",
            Severity::Blocker);
        const auto sense = [](double senseW, double cardW) {
            return [=](Project& p) {
                partOf(p, "card").needs = {{"slot-x16", 1}, {"card-12", 1}};
                partOf(p, "card").powerW = cardW;
                partOf(p, "supply").gives["card-12"] = 1;
                spec<PowerSupplySpec>(p, "supply").twelvePinW = senseW;
            };
        };
        row("12-pin, sense wires 300: card of 375", cem, sense(300, 375), "card-feed", no);
        row("12-pin, sense wires 300: card of 376", cem, sense(300, 376), "card-feed", Severity::Blocker);
        row("12-pin, sense wires not stated: card of 225 on slot and 150", cem, sense(0, 225), "sense-wires", no);
        row("12-pin, sense wires not stated: card of 226", cem, sense(0, 226), "sense-wires", Severity::Caution);
        row("12-pin, sense wires stated", cem, sense(300, 226), "sense-wires", no);
        const auto splitter = [](double cpuW) {
            return [=](Project& p) {
                partOf(p, "cpu").powerW = cpuW;
                partOf(p, "board").needs["eps-8"] = 1;
                partOf(p, "supply").gives["eps-4"] = 1;
                p.shelf.push_back(adapter("4to8", {{"eps-4", 1}}, {{"eps-8", 1}}));
                change(p, Connect{"4to8", "bay:eps-4", {"tray:eps-8"}});
            };
        };
        row("4-to-8-pin splitter, small processor of 120 W", judged, splitter(120), "processor-feed", no);
        row("4-to-8-pin splitter adds no capacity: 121 W, a fifth of 150 stays in reserve", judged, splitter(121),
            "processor-feed", Severity::Blocker);
        const auto sataLead = [](double watts) {
            return [=](Project& p) {
                addDrive(p, {{"sata-power", 1}}, {}, watts);
                partOf(p, "supply").gives["sata-power"] = 1;
                p.shelf.push_back(adapter("y", {{"sata-power", 1}}, {{"sata-power", 2}}));
                change(p, Connect{"y", "bay:sata-power", {"shelf:sata-power"}});
            };
        };
        row("SATA power: 54 W is 4.5 A", sata, sataLead(54), "sata-rail", no);
        row("SATA power: 55 W", sata, sataLead(55), "sata-rail", Severity::Caution);
        const auto molex = [](bool moulded) {
            return [=](Project& p) {
                addDrive(p, {{"sata-power", 1}});
                partOf(p, "supply").gives["molex-4"] = 1;
                p.shelf.push_back(adapter("m", {{"molex-4", 1}}, {{"sata-power", 1}}, {.moulded = moulded}));
                change(p, Connect{"m", "bay:molex-4", {"shelf:sata-power"}});
            };
        };
        row("crimped 4-pin to SATA adapter", common, molex(false), "moulded", no);
        row("moulded 4-pin to SATA adapter", common, molex(true), "moulded", Severity::Caution);
        const auto family = [](const char* lead1) {
            return [=](Project& p) {
                placePorts(p);
                spec<PowerSupplySpec>(p, "supply").cableFamily = "S1";
                p.shelf.push_back(lead("l", 400, lead1));
                change(p, Connect{"l", "bay:eps-8", {"tray:eps-8"}});
            };
        };
        row("modular lead of its own family", common, family("S1"), "lead-family", no);
        row("modular lead of another family", common, family("S2"), "lead-family", Severity::Blocker);
        row(
            "enough plugs", common, [](Project&) {}, "plug-count", no);
        row(
            "a drive without a SATA plug", common,
            [](Project& p) {
                addDrive(p, {{"sata", 1}});
            },
            "plug-count", Severity::Blocker);
        row(
            "front USB without a header", common, [](Project& p) { partOf(p, "box").needs["front-usb"] = 1; },
            "plug-count", Severity::Caution);
        row(
            "two fans of 0.5 A on one header", common, [](Project& p) { addFanHub(p, 0.5); }, "fan-current", no);
        row(
            "two fans of 0.51 A on one header", common, [](Project& p) { addFanHub(p, 0.51); }, "fan-current",
            Severity::Caution);
        // links: 10 Gb/s Ethernet needs 4 lanes of generation 2 or 2 of generation 3
        const auto ethernet = [](int generation, int lanes) {
            return [=](Project& p) {
                addSlot(p, "m.2", generation, lanes);
                addDrive(p, {{"m.2", 1}}, Link{3, 4, 10});
            };
        };
        row("10 Gb/s on 4 lanes of generation 2", base, ethernet(2, 4), "link-need", no);
        row("10 Gb/s on 2 lanes of generation 3", base, ethernet(3, 2), "link-need", no);
        row("10 Gb/s on 2 lanes of generation 2", base, ethernet(2, 2), "link-need", Severity::Caution);
        row("10 Gb/s on 1 lane of generation 3", base, ethernet(3, 1), "link-need", Severity::Caution);
        row("narrower than it could", base, ethernet(3, 2), "link-narrow", Severity::Note);
        row("as wide as it could", base, ethernet(3, 4), "link-narrow", no);
        const auto shared = [](int left) {
            return [=](Project& p) {
                partOf(p, "card").link = Link{4, 16, 0};
                spec<BoardSpec>(p, "board").laneSlots = {{"slot-x16", 4, 16, false, "g", 8}};
                addSlot(p, "m.2", 4, 4, false, "g", left);
                addDrive(p, {{"m.2", 1}}, Link{4, 4, 0});
            };
        };
        row("shared slot keeps 2 lanes", common, shared(2), "link-lanes", no);
        row("shared slot has none left", common, shared(0), "link-lanes", Severity::Blocker);
        const auto budget = [](int lanes) {
            return [=](Project& p) {
                partOf(p, "card").link = Link{4, 16, 0};
                spec<BoardSpec>(p, "board").laneSlots = {{"slot-x16", 4, 16}};
                addSlot(p, "m.2", 4, 4);
                addDrive(p, {{"m.2", 1}}, Link{4, 4, 0});
                spec<ProcessorSpec>(p, "cpu").lanes = lanes;
            };
        };
        row("16 + 4 of 20 lanes", common, budget(20), "lane-budget", no);
        row("16 + 4 of 19 lanes", common, budget(19), "lane-budget", Severity::Blocker);
        // liquid
        row(
            "copper block, copper radiator", common, [](Project& p) { addLoop(p, "copper", "copper", true); },
            "loop-metals", no);
        row(
            "copper block, aluminium radiator", common, [](Project& p) { addLoop(p, "copper", "aluminium", true); },
            "loop-metals", Severity::Blocker);
        row(
            "radiator above the pump", common, [](Project& p) { addLoop(p, "copper", "copper", true); }, "pump-high",
            no);
        row(
            "pump in the top tank", common, [](Project& p) { addLoop(p, "copper", "copper", false); }, "pump-high",
            Severity::Caution);
        row(
            "upside down the block is highest", common,
            [](Project& p) {
                addLoop(p, "copper", "copper", true);
                change(p, Orient{Side::Top});
            },
            "pump-high", Severity::Caution);
        row(
            "block without a radiator", common,
            [](Project& p) {
                addLoop(p, "copper", "copper", true);
                change(p, RemovePart{"roof"});
            },
            "radiator-missing", Severity::Blocker);
        row(
            "radiator without a block", common,
            [](Project& p) {
                addLoop(p, "copper", "copper", true);
                change(p, SwapPart{"tray/cpu/lid", "cooler-47"});
            },
            "block-missing", Severity::Blocker);
        row(
            "screw of 31 behind a fan of 25 and a plate of 1", common,
            [](Project& p) { addLoop(p, "copper", "copper", true, "M4 x 31"); }, "screw-long", no);
        row(
            "screw of 32 pierces", common, [](Project& p) { addLoop(p, "copper", "copper", true, "M4 x 32"); },
            "screw-long", Severity::Blocker);
        row(
            "screw of 27 holds with 2", common, [](Project& p) { addLoop(p, "copper", "copper", true, "M4 x 27"); },
            "screw-short", no);
        row(
            "screw of 26 holds with 1", common, [](Project& p) { addLoop(p, "copper", "copper", true, "M4 x 26"); },
            "screw-short", Severity::Caution);
        const auto riser = [](double bend) {
            return [=](Project& p) {
                partOf(p, "card").bodies = {
                    {.name = "card", .at = {mm(0), mm(0), mm(0)}, .size = partOf(p, "card").size},
                    {.name = "riser",
                     .shape = Shape::Ribbon,
                     .role = BodyRole::KeepOut,
                     .at = {mm(40), mm(0), mm(0)},
                     .size = {mm(30), mm(1), mm(0)},
                     .use = Use::Lead,
                     .routeMm = {{0, 0, 0}, {0, 10, 0}, {0, 10, 30}},
                     .bendMm = bend}};
            };
        };
        row("riser folded with 10", common, riser(10), "bend", no);
        row("riser that takes no less than 11", common, riser(11), "bend", Severity::Caution);
        // leads: out of both plugs and along the edges; the way is worked out in leadLengths()
        const auto leadOf = [](double length) {
            return [=](Project& p) {
                placePorts(p);
                p.shelf.push_back(lead("l", length));
                change(p, Connect{"l", "bay:eps-8", {"tray:eps-8"}});
            };
        };
        row("lead of 388 for a way of 351.9", judged, leadOf(388), "lead-tight", no);
        row("lead of 387 for 351.9: less than 10 % slack", judged, leadOf(387), "lead-tight", Severity::Caution);
        row("lead of 351 for 351.9", judged, leadOf(351), "lead-short", Severity::Blocker);
        row("lead of 352 is not too short", judged, leadOf(352), "lead-short", no);
        row("lead of 501 is little to stow", judged, leadOf(501), "lead-long", no);
        row("lead of 502 is much to stow", judged, leadOf(502), "lead-long", Severity::Note);
        // plugs that fit several sockets
        const auto slotFor = [](const char* asked, const char* offered) {
            return [=](Project& p) {
                partOf(p, "card").needs = {{asked, 1}, {"card-8", 1}};
                partOf(p, "board").gives.erase("slot-x16");
                partOf(p, "board").gives[offered] = 1;
            };
        };
        row("card x4 in a slot x16", common, slotFor("slot-x4", "slot-x16"), "plug-count", no);
        row("card x8 in a slot x8", common, slotFor("slot-x8", "slot-x8"), "plug-count", no);
        row("card x16 in a slot x8", common, slotFor("slot-x16", "slot-x8"), "plug-count", Severity::Blocker);
        const auto eps = [](const char* asked, const char* offered, double watts) {
            return [=](Project& p) {
                partOf(p, "board").needs[asked] = 1;
                partOf(p, "supply").gives[offered] = 1;
                partOf(p, "cpu").powerW = watts;
            };
        };
        row("4+4 in an 8-pin", common, eps("eps-8", "eps-4+4", 200), "plug-count", no);
        row("4+4 in an 8-pin carries as one", judged, eps("eps-8", "eps-4+4", 300), "processor-feed", no);
        row("4+4 in an 8-pin, 301 W", judged, eps("eps-8", "eps-4+4", 301), "processor-feed", Severity::Blocker);
        row("half a 4+4 on a 4-pin", common, eps("eps-4", "eps-4+4", 65), "plug-count", no);
        row("half a 4+4 carries as a 4-pin: 120 W", judged, eps("eps-4", "eps-4+4", 120), "processor-feed", no);
        row("half a 4+4, 121 W", judged, eps("eps-4", "eps-4+4", 121), "processor-feed", Severity::Blocker);
        row("8-pin does not go into a 4-pin", common, eps("eps-4", "eps-8", 65), "plug-count", Severity::Blocker);
        row("4-pin in an 8-pin, a note", common, eps("eps-8", "eps-4", 65), "plug-narrow", Severity::Note);
        row("4-pin in an 8-pin, a small processor", common, eps("eps-8", "eps-4", 120), "processor-feed", no);
        row("4-pin in an 8-pin, a large processor", common, eps("eps-8", "eps-4", 121), "processor-feed",
            Severity::Blocker);
        row("4-pin in an 8-pin is not missing", common, eps("eps-8", "eps-4", 65), "plug-count", no);
        row("8-pin for an 8-pin, no note", common, eps("eps-8", "eps-8", 65), "plug-narrow", no);
        const auto cards = [](const char* asked, const char* offered, double watts) {
            return [=](Project& p) {
                partOf(p, "card").needs = {{"slot-x16", 1}, {asked, 1}};
                partOf(p, "supply").gives = {{"atx-24", 1}, {offered, 1}};
                partOf(p, "card").powerW = watts;
            };
        };
        row("6+2 in a 6-pin", common, cards("card-6", "card-6+2", 150), "plug-count", no);
        row("6+2 in an 8-pin", common, cards("card-8", "card-6+2", 225), "plug-count", no);
        row("6+2 in an 8-pin: 225 W with the slot", cem, cards("card-8", "card-6+2", 225), "card-feed", no);
        row("6+2 in an 8-pin: 226 W", cem, cards("card-8", "card-6+2", 226), "card-feed", Severity::Blocker);
        row("6-pin does not go into an 8-pin", common, cards("card-8", "card-6", 100), "plug-count", Severity::Blocker);
        row("missing is told once, not as 0 W as well", common, cards("card-8", "card-6", 160), "card-feed", no);
        row(
            "20+4 in a 24-pin", common,
            [](Project& p) {
                partOf(p, "supply").gives = {{"atx-20+4", 1}, {"card-8", 1}};
            },
            "plug-count", no);
        row(
            "20 in a 24-pin", common,
            [](Project& p) {
                partOf(p, "supply").gives = {{"atx-20", 1}, {"card-8", 1}};
            },
            "plug-count", Severity::Blocker);
        const auto fans = [](const char* asked, const char* offered) {
            return [=](Project& p) {
                partOf(p, "fan-15").needs = {{asked, 1}};
                partOf(p, "board").gives = {{"slot-x16", 1}, {"memory-slot", 2}, {"fan", 1}, {offered, 1}};
            };
        };
        row("3-pin fan on a 4-pin header", common, fans("fan-3", "fan-4"), "plug-count", no);
        row("4-pin fan on a 3-pin header", common, fans("fan-4", "fan-3"), "plug-count", no);
        row("4-pin fan on a 3-pin header is not controlled", common, fans("fan-4", "fan-3"), "plug-narrow",
            Severity::Note);
        row("small plug on no header of its own", common, fans("fan-mini", "fan-4"), "plug-count", Severity::Blocker);
        // what was said nowhere
        row(
            "no board", common, [](Project& p) { change(p, RemovePart{"tray"}); }, "board-missing", Severity::Blocker);
        row(
            "a board", common, [](Project&) {}, "board-missing", no);
        row(
            "no processor", common, [](Project& p) { change(p, RemovePart{"tray/cpu"}); }, "processor-missing",
            Severity::Blocker);
        row(
            "no memory", common, [](Project& p) { change(p, RemovePart{"tray/memory"}); }, "memory-missing",
            Severity::Blocker);
        row(
            "memory", common, [](Project&) {}, "memory-missing", no);
        row(
            "no storage", common, [](Project&) {}, "storage-missing", Severity::Caution);
        row(
            "storage", common, [](Project& p) { addDrive(p, {}); }, "storage-missing", no);
        const auto unplugged = [](double watts) {
            return [=](Project& p) {
                partOf(p, "card").needs = {{"slot-x16", 1}};
                partOf(p, "card").powerW = watts;
            };
        };
        row("card of 75 W from the slot", cem, unplugged(75), "plugs-unstated", no);
        row("card of 76 W and no plug stated", cem, unplugged(76), "plugs-unstated", Severity::Caution);
        row(
            "processor of 75 W, no plug stated", judged, [](Project& p) { partOf(p, "cpu").powerW = 75; },
            "plugs-unstated", no);
        row(
            "processor of 76 W, no plug stated", judged, [](Project& p) { partOf(p, "cpu").powerW = 76; },
            "plugs-unstated", Severity::Caution);
        row(
            "board without a power plug", common, [](Project& p) { partOf(p, "board").needs.clear(); },
            "plugs-unstated", Severity::Caution);
        row(
            "place of a plug not stated", common, [](Project&) {}, "plug-place", Severity::Note);
        row(
            "place of all plugs stated", common,
            [](Project& p) {
                partOf(p, "board").ports = {{.id = "atx-24", .kind = "atx-24", .at = {mm(2), mm(80), mm(1.6)}}};
                partOf(p, "card").ports = {
                    {.id = "card-8", .kind = "card-8", .at = {mm(80), mm(58), mm(19)}, .out = {Axis::Y, 1}}};
            },
            "plug-place", no);
        row(
            "place of the mains socket not stated", common, [](Project&) {}, "mains-place", Severity::Note);
        row(
            "place of the mains socket stated", common,
            [](Project& p) {
                partOf(p, "supply").ports = {
                    {.id = "mains", .kind = "mains", .at = {mm(50), mm(0), mm(30)}, .out = {Axis::Y, -1}}};
            },
            "mains-place", no);
        row("a brick has none inside", common, supply(400, true), "mains-place", no);
        const auto rated = [](double watts) {
            return [=](Project& p) { spec<CoolerSpec>(p, "cooler-37").ratedTdpW = watts; };
        };
        row("65 W under a cooler for 65", common, rated(65), "cooler-rating", no);
        row("65 W under a cooler for 64", judged, rated(64), "cooler-rating", Severity::Caution);
        row("65 W under a cooler for 50: 1.3 times", judged, rated(50), "cooler-rating", Severity::Caution);
        row("65 W under a cooler for 49.9", judged, rated(49.9), "cooler-rating", Severity::Blocker);
        row(
            "a limit helps", common,
            [](Project& p) {
                spec<CoolerSpec>(p, "cooler-37").ratedTdpW = 50;
                change(p, LimitPower{"tray/cpu", 50});
            },
            "cooler-rating", no);
        const auto bay = [](std::vector<std::string> forms) {
            return [=](Project& p) { spec<CaseSpec>(p, "box").supplyForms = forms; };
        };
        row("bay not stated", common, bay({}), "supply-form", no);
        row("SFX in a bay for SFX", "SFX12V design guide (from memory)", bay({"flex", "sfx"}), "supply-form", no);
        row("SFX in a bay for Flex", "Flex ATX design guide (from memory)", bay({"flex"}), "supply-form",
            Severity::Blocker);
        const auto covers = [](int there, int wanted) {
            return [=](Project& p) {
                spec<CaseSpec>(p, "box").slotCovers = there;
                spec<CardSpec>(p, "card").slotCount = wanted;
            };
        };
        row("two slots, two covers", common, covers(2, 2), "slot-covers", no);
        row("three slots, two covers", common, covers(2, 3), "slot-covers", Severity::Blocker);
        row("covers not stated", common, covers(0, 3), "slot-covers", no);
        // The card lies at z 8 to -30 below the board's place: 8 is its upper face as it faces down.
        const auto slotAt = [](double upMm) {
            return [=](Project& p) {
                partOf(p, "board").ports = {{.id = "slot", .kind = "slot-x16", .at = {mm(85), mm(upMm), mm(1.6)}}};
            };
        };
        row(
            "place of the slot not stated", common, [](Project&) {}, "slot-place", Severity::Note);
        row("card at its slot", judged, slotAt(-30), "riser-missing", no);
        row("card away from its slot", judged, slotAt(80), "riser-missing", Severity::Blocker);
        const auto riserOf = [](double lengthMm, int generation) {
            return [=](Project& p) {
                Part r = lead("riser", lengthMm);
                r.link = Link{.generation = generation, .lanes = 16};
                p.shelf.push_back(r);
                partOf(p, "board").ports = {{.id = "slot", .kind = "slot-x16", .at = {mm(85), mm(80), mm(1.6)}}};
                change(p, Connect{"riser", "tray:slot", {"card:slot-x16"}});
            };
        };
        row("a riser joins them", common, riserOf(300, 4), "riser-missing", no);
        row("riser of 300 at generation 4", judged, riserOf(300, 4), "riser-long", no);
        row("riser of 301 at generation 4", judged, riserOf(301, 4), "riser-long", Severity::Caution);
        row("a lead without bodies", common, riserOf(300, 4), "lead-bodies", no);
        row(
            "a lead with a body", common,
            [=](Project& p) {
                riserOf(300, 4)(p);
                p.shelf.back().bodies = {Body{.name = "plug", .size = {mm(10), mm(10), mm(10)}}};
            },
            "lead-bodies", Severity::Caution);
        row("riser of 400 at generation 3", judged, riserOf(400, 3), "riser-long", no);
        const auto spin = [](double railA, DriveForm form, double stated = 0) {
            return [=](Project& p) {
                addDrive(p, {}, {}, 6);
                spec<DriveSpec>(p, "drive").form = form;
                spec<DriveSpec>(p, "drive").spinUpA = stated;
                spec<PowerSupplySpec>(p, "supply").rail12A = railA;
            };
        };
        row("drive starts: 18.8 A of 18.9 A", common, spin(18.9, DriveForm::Inch35), "spin-up", Severity::Note);
        row("drive starts: 18.8 A of 18.7 A", common, spin(18.7, DriveForm::Inch35), "spin-up", Severity::Caution);
        row("a 2.5 in drive starts gently", common, spin(18.7, DriveForm::Inch25), "spin-up", no);
        row("unless it says otherwise", common, spin(18.7, DriveForm::Inch25, 3), "spin-up", Severity::Caution);
        row(
            "standing on the rear", common, [](Project& p) { change(p, Orient{Side::Rear}); }, "rear-down",
            Severity::Caution);
        row(
            "standing on the rear with feet of 39", common,
            [](Project& p) {
                change(p, Orient{Side::Rear});
                change(p, SetFeet{39});
            },
            "rear-down", Severity::Caution);
        row(
            "standing on the rear with feet of 40", common,
            [](Project& p) {
                change(p, Orient{Side::Rear});
                change(p, SetFeet{40});
            },
            "rear-down", Severity::Note);
        row(
            "standing on the bottom", common, [](Project&) {}, "rear-down", no);
        // an observed link against its chain: generation 4, 16 lanes
        const auto seen = [](int generation, int lanes, const char* mount = "card") {
            return [=](Project& p) {
                addSlot(p, "slot-x16", 4, 16);
                partOf(p, "board").gives["slot-x16"] = 1;
                partOf(p, "card").link = Link{.generation = 4, .lanes = 16};
                p.revisions.back().observed = {{mount, generation, lanes}};
            };
        };
        row("seen as it should be", common, seen(4, 16), "link-observed", Severity::Note);
        row("seen with fewer lanes", common, seen(4, 8), "link-observed", Severity::Caution);
        row("seen at an older generation", common, seen(3, 16), "link-observed", Severity::Caution);
        row("seen where nothing is", common, seen(4, 16, "nowhere"), "link-observed", Severity::Caution);
        row(
            "lanes in use, in words", common,
            [=](Project& p) {
                seen(4, 16)(p);
                spec<ProcessorSpec>(p, "cpu").lanes = 16;
            },
            "lanes-used", Severity::Note);
        row(
            "more lanes than there are is no note", common,
            [=](Project& p) {
                seen(4, 16)(p);
                spec<ProcessorSpec>(p, "cpu").lanes = 15;
            },
            "lanes-used", no);
        // two loops: each by itself
        const auto second = [](const std::string& name, const std::string& metal, bool pump) {
            return [=](Project& p) {
                addLoop(p, "copper", "copper", true);
                Part r = partOf(p, "radiator");
                r.id = "second";
                std::get<RadiatorSpec>(r.spec) = {.metal = metal, .pump = pump, .loop = name};
                p.shelf.push_back(r);
                p.shelf[0].mounts.push_back(p.shelf[0].mounts.back());
                p.shelf[0].mounts.back().id = "roof-2";
                change(p, PlacePart{"second", "roof-2"});
            };
        };
        row("a second radiator of the same loop, of aluminium", common, second("", "aluminium", false), "loop-metals",
            Severity::Blocker);
        row("a second radiator of aluminium in a loop of its own", common, second("other", "aluminium", false),
            "loop-metals", no);
        row("a radiator whose loop has no block", common, second("other", "copper", true), "block-missing",
            Severity::Blocker);
        row("two radiators of one loop", common, second("", "copper", false), "block-missing", no);
        // a loop that is sold filled
        const auto sealed = [](bool is) {
            return [=](Project& p) {
                addLoop(p, "copper", "aluminium", true);
                spec<CoolerSpec>(p, "cooler-37").sealed = is;
            };
        };
        row("aluminium and copper, one fills it", common, sealed(false), "loop-metals", Severity::Blocker);
        row("aluminium and copper, sold sealed", common, sealed(true), "loop-metals", Severity::Caution);
        const auto boost = [](double watts) {
            return [=](Project& p) {
                spec<PowerSupplySpec>(p, "supply").peakW = 400;
                spec<ProcessorSpec>(p, "cpu").peakW = watts;
            };
        };
        row("peak with the processor's: 201.7 + 120 + 78 W within 400", judged, boost(143), "power-peak", no);
        row("peak with the processor's: 201.7 + 120 + 79 W", judged, boost(144), "power-peak", Severity::Caution);
        const auto cardBoost = [](double watts) {
            return [=](Project& p) {
                spec<PowerSupplySpec>(p, "supply").peakW = 400;
                spec<CardSpec>(p, "card").peakW = watts;
            };
        };
        row("a card that states 300 W for seconds: 201.7 + 180 W", judged, cardBoost(300), "power-peak", no);
        row("a card that states 320 W for seconds: 201.7 + 200 W", judged, cardBoost(320), "power-peak",
            Severity::Caution);
        row(
            "a limited processor has no peak", common,
            [=](Project& p) {
                boost(300)(p);
                change(p, LimitPower{"tray/cpu", 65});
            },
            "power-peak", no);
        // frames, vents and cut-outs: an opening of the right panel under a fan of 92 at (200, 60)
        const auto vent = [](double u, double size, bool round, OpeningStyle style = OpeningStyle::Mesh) {
            return [=](Project& p) {
                Opening& o = spec<CaseSpec>(p, "box").openings[0];
                o.centreMm = {u, 60};
                o.sizeMm = {size, size};
                o.round = round;
                o.style = style;
            };
        };
        row("round vent of 92 on the middle", common, vent(200, 92, true), "vent-offset", no);
        row("round vent of 92, 16 off", judged, vent(216, 92, true), "vent-offset", Severity::Note); // 78 % of the disc
        row("round vent of 92, 20 off", judged, vent(220, 92, true), "vent-offset", Severity::Caution); // 73 %
        row("round vent of 60: 43 % of the disc", judged, vent(200, 60, true), "vent-offset", Severity::Caution);
        row("holes of 82.5 beside a round cut-out of 90", common, vent(200, 90, true, OpeningStyle::Plain), "hole-edge",
            no); // 58.3 from the middle, 13.3 from the edge
        row("holes beside a square cut-out of 74: 6.0", judged, vent(200, 74, false, OpeningStyle::Plain), "hole-edge",
            no); // (41.25 - 37) * 1.414
        row("holes beside a square cut-out of 74.1: 5.9", judged, vent(200, 74.1, false, OpeningStyle::Plain),
            "hole-edge", Severity::Caution);
        row(
            "in plastic 8 are wanted: a cut-out of 71.1", judged,
            [=](Project& p) {
                vent(200, 71.1, false, OpeningStyle::Plain)(p);
                spec<CaseSpec>(p, "box").material = WallMaterial::Plastic;
            },
            "hole-edge", no);
        row(
            "in plastic: a cut-out of 71.2", judged,
            [=](Project& p) {
                vent(200, 71.2, false, OpeningStyle::Plain)(p);
                spec<CaseSpec>(p, "box").material = WallMaterial::Plastic;
            },
            "hole-edge", Severity::Caution);
        row("all holes in the cut-out", common, vent(200, 90, false, OpeningStyle::Plain), "seat", Severity::Blocker);
        row("two holes in the cut-out", common, vent(210, 90, false, OpeningStyle::Plain), "seat", Severity::Caution);
        row("a grille carries its screws", common, vent(200, 98, false), "seat", no);
        const auto place = [](double mm) { return [=](Project& p) { p.shelf[0].mounts[2].frameMm = mm; }; };
        row("fan of 92 on a place for 92", common, place(92), "frame-place", no);
        row("fan of 92 on a place for 80", common, place(80), "frame-place", Severity::Caution);
        row("place not stated", common, place(0), "frame-place", no);
        row(
            "fan of 120 on a radiator of 120", common, [](Project& p) { addLoop(p, "copper", "copper", true); },
            "frame-place", no);
        row(
            "fan of 120 on a radiator of 140", common,
            [](Project& p) {
                addLoop(p, "copper", "copper", true);
                spec<RadiatorSpec>(p, "radiator").frameMm = 140;
            },
            "frame-place", Severity::Caution);
        const auto cutRoof = [](double u, double v) {
            return [=](Project& p) {
                addLoop(p, "copper", "copper", true);
                Opening& o = spec<CaseSpec>(p, "box").openings[1]; // under a radiator of 120 x 150 at (41, 150)
                o.sizeMm = {u, v};
                o.style = OpeningStyle::Plain;
            };
        };
        row("radiator over a smaller cut-out", common, cutRoof(70, 110), "radiator-overlap", no);
        row("cut-out beyond the radiator", common, cutRoof(70, 151), "radiator-overlap", Severity::Caution);
        row("cut-out as long as the radiator", common, cutRoof(70, 150), "radiator-overlap", no);
        // modifications
        row(
            "cut without a loss to replace", common, [](Project& p) { cutCase(p, {.what = "a divider"}); }, "modified",
            Severity::Note);
        row(
            "cut takes the front USB", common,
            [](Project& p) { cutCase(p, {.what = "front USB", .needs = "front-usb", .replace = "USB at the rear"}); },
            "modified", Severity::Caution);
        row(
            "cut takes the place of a part", common,
            [](Project& p) {
                addDrive(p, {});
                cutCase(p, {.what = "drive shelf", .mount = "shelf"});
            },
            "modified", Severity::Blocker);
        row(
            "gone with the front, the USB plug is not missed", common,
            [](Project& p) {
                partOf(p, "box").needs["front-usb"] = 1;
                cutCase(p, {.what = "front USB", .needs = "front-usb"});
            },
            "plug-count", no);
    }
    void rules() {
        QFETCH(int, row);
        const Row& r = m_rows[static_cast<std::size_t>(row)];
        Project p = project();
        r.edit(p);
        const Build b = built(p, "R1");
        std::optional<Severity> found;
        for (const auto& f : rules::compatibility(b))
            if (f.rule == r.rule) {
                found = found ? std::min(*found, f.severity) : f.severity;
                QVERIFY(!f.text.empty());
            }
        QCOMPARE(found.has_value(), r.severity.has_value());
        if (found)
            QCOMPARE(static_cast<int>(*found), static_cast<int>(*r.severity));
    }

    /// The way on paper: 20 straight out of each plug, then along x, y and z between their ends.
    void leadLengths() {
        Project p = project();
        placePorts(p);
        p.shelf.push_back(lead("l", 300));
        change(p, Connect{"l", "bay:eps-8", {"tray:eps-8"}});
        const core::Build build = built(p, "R1");
        const auto cables = rules::cables(build, core::fit::leadRoutes(build));
        QCOMPARE(cables.size(), std::size_t{1});
        // Supply in its bay at (4, 4, 4) facing +x, up +z: own x runs back along y. Board at x 6, its top 20 under the
        // roof.
        const Build b = built(p, "R1");
        const double supplyX = b.at("bay")->highAt[0].mm() + 20, boardX = b.at("tray")->highAt[0].mm() + 20;
        const auto along = [&](const char* mount, double own) { // own x in the case
            const Placed* at = b.at(mount);
            return at->frame.axis[0].sign > 0 ? at->lowAt[1].mm() + own : at->highAt[1].mm() - own;
        };
        const double way = 20 + 20 + std::abs(supplyX - boardX) + std::abs(along("bay", 50) - along("tray", 20)) +
                           std::abs((4.0 + 60) - (250 - 20 - 170 + 160.0));
        QCOMPARE_LE(std::abs(cables[0].wayMm - way), 1e-9);
        QCOMPARE_LE(std::abs(way - 351.9), 1e-9);
        QVERIFY(!cables[0].assumed);
    }

    void usableGigabits() {
        // 2.0, 4.0, 7.88, 15.75, 31.5 Gb/s a lane (PCI Express base specification, from memory).
        const std::array<double, 5> published{2.0, 4.0, 7.88, 15.75, 31.5};
        for (int g = 1; g <= 5; ++g)
            QCOMPARE(rules::laneGbs(g), published[static_cast<std::size_t>(g - 1)]);
        // 8 and 16 GT/s with 128b/130b: 8 x 128/130 = 7.877.
        QCOMPARE_LE(std::abs(rules::laneGbs(3) - 8.0 * 128 / 130), 0.005);
        QCOMPARE_LE(std::abs(rules::laneGbs(1) - 2.5 * 8 / 10), 1e-9);
    }

    /// A card on a riser through an M.2 adapter: the chain runs at its narrowest.
    void chainOfAdapters() {
        Project p = project();
        partOf(p, "card").link = Link{4, 16, 0};
        partOf(p, "board").gives.erase("slot-x16");
        addSlot(p, "m.2", 4, 4);
        Part a = adapter("m2-to-slot", {{"m.2", 1}}, {{"slot-x16", 1}});
        a.link = Link{3, 4, 0};
        p.shelf.push_back(a);
        change(p, Connect{"m2-to-slot", "tray:m.2", {"card:slot-x16"}});
        const auto w = rules::wiring(built(p, "R1"));
        QCOMPARE(w.links.size(), std::size_t{1});
        QCOMPARE(w.links[0].lanes, 4);
        QCOMPARE(w.links[0].generation, 3);
        QCOMPARE(w.links[0].chain.size(), std::size_t{3});
        QCOMPARE_LE(std::abs(w.links[0].usableGbs - 4 * 7.88 * 0.87), 1e-9);
        QVERIFY(core::english(w.links[0].narrowest).find("m2-to-slot") != std::string::npos);
    }

    /// Every socket is told from every other, also the half that is left of a plug that was split.
    void socketsAreToldApart() {
        Project p = project();
        partOf(p, "board").needs["eps-4"] = 2;
        partOf(p, "supply").gives["eps-4"] = 1;
        partOf(p, "supply").gives["eps-4+4"] = 1;
        const Build build = built(p, "R1");
        const auto map = rules::portMap(build);
        std::set<Thing> met;
        for (const rules::Socket& socket : map.sockets) {
            const Thing thing = rules::thingOf(build, socket);
            QVERIFY2(met.insert(thing).second, textOf(thing).c_str());
            QCOMPARE(rules::socketOf(map, std::get<PortRef>(thing)), &socket);
        }
        QVERIFY(met.contains(PortRef{"bay", "eps-4", 1}));
        QVERIFY(!rules::socketOf(map, {"tray", "fan", 99}));
        QVERIFY(!rules::socketOf(map, {"nowhere", "fan", 0}));
    }
    /// What is said of a fan header leads to that header.
    void anOverloadedHeaderIsASocket() {
        Project p = project();
        addFanHub(p, 0.51);
        const Build build = built(p, "R1");
        int told = 0;
        for (const auto& f : rules::compatibility(build, rules::wiring(build, &p)))
            if (f.rule == "fan-current") {
                ++told;
                QCOMPARE(textOf(f.about), std::string("port:tray|fan|0"));
                QCOMPARE(f.subject, std::string("tray:fan"));
            }
        QCOMPARE(told, 1);
    }

    void adaptersOnTheShelfAreOffered() {
        Project p = project();
        addDrive(p, {{"sata-power", 1}});
        p.shelf.push_back(adapter("no-feed", {{"molex-4", 1}}, {{"sata-power", 1}}));
        p.shelf.push_back(adapter("feed", {{"card-8", 0}, {"fan", 1}}, {{"sata-power", 1}}));
        const auto map = rules::portMap(built(p, "R1"), &p);
        QVERIFY(map.isShort("sata-power"));
        QCOMPARE(map.offers.size(), std::size_t{2});
        QCOMPARE(QString::fromStdString(map.offers[0].part),
                 QStringLiteral("feed")); // a fan header is free, no 4-pin is
        QVERIFY(map.offers[0].canBeFed && !map.offers[1].canBeFed);
        bool told = false;
        for (const auto& f : rules::compatibility(built(p, "R1"), rules::wiring(built(p, "R1"), &p)))
            told =
                told || (f.rule == "plug-count" && core::english(f.remedies.front()).find("feed") != std::string::npos);
        QVERIFY(told);
    }

    /// A replacement in the build closes the entry of the ledger.
    void ledgerFindsTheReplacement() {
        Project p = project();
        cutCase(p,
                {.what = "front USB", .needs = "front-usb", .replace = "USB at the rear", .replacedBy = "usb-outlet"});
        QVERIFY(rules::ledger(built(p, "R1"))[0].open);
        p.shelf.push_back(adapter("bracket", {}, {{"usb-outlet", 1}}));
        change(p, Connect{"bracket", "", {}});
        const auto rows = rules::ledger(built(p, "R1"));
        QVERIFY(!rows[0].open);
        QCOMPARE(QString::fromStdString(rows[0].by), QStringLiteral("Adapter bracket"));
    }
};
} // namespace tst_compat_cases
MD_TEST(tst_compat_cases, CompatCasesTest)
#include "tst_compat_cases.moc"
