// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/build.h"

#include <QtTest>

#include <algorithm>
#include <clocale>

// A small invented machine that core tests start from: every size by hand, so that chains can be checked on paper.
namespace support {

/// Tests run in the locale of their environment, as the programs do.
inline const bool inLocale = std::setlocale(LC_ALL, "") != nullptr;

using namespace core;

inline Offset low(double mm, double tol = 0) {
    return {Ref::Low,
            {.value = Length::fromMm(mm),
             .tolerance = Length::fromMm(tol),
             .source = Source::Caliper,
             .toleranceStated = true}};
}
inline Offset high(double mm, double tol = 0) { return {Ref::High, low(mm, tol).value}; }
inline Offset centre(double mm, double tol = 0) { return {Ref::Centre, low(mm, tol).value}; }
inline Measure mm(double value, double tol = 0) { return low(value, tol).value; }

/// The part of that id, to change it.
inline Part& partOf(Project& p, const std::string& id) {
    return *std::find_if(p.shelf.begin(), p.shelf.end(), [&](const Part& part) { return part.id == id; });
}

inline Part fan(const std::string& id, double frame, double thickness) {
    Part p{.id = id,
           .kind = PartKind::Fan,
           .name = "Fan " + id,
           .size = {mm(frame), mm(frame), mm(thickness, 0.3)},
           .needs = {{"fan", 1}},
           .powerW = 1.5,
           .massG = 90,
           .price = 15,
           .fasteners = {{"M4 x 20", 4}}};
    p.spec = FanSpec{};
    return p;
}

inline Part card(const std::string& id, double length, double height, double thickness) {
    Part p{.id = id,
           .kind = PartKind::Card,
           .name = "Card " + id,
           .size = {mm(length, 0.5), mm(height, 0.3), mm(thickness, 0.5)},
           .needs = {{"slot-x16", 1}, {"card-8", 1}},
           .powerW = 120,
           .massG = 600,
           .price = 400,
           .fasteners = {{"M3 x 6", 2}}};
    p.spec = CardSpec{};
    return p;
}

/// Inside 82.0 ±0.5 wide, 300 deep, 250 high; a tray on the left, a card along the floor, a fan on the right wall.
inline Project project() {
    Project p;
    p.name = "Test box";
    p.brief.load = "full";
    p.loads = {{.id = "full", .name = "Full"}, {.id = "idle", .name = "Idle", .processorShare = 0.2, .cardShare = 0.1}};
    Part box{.id = "box",
             .kind = PartKind::Case,
             .name = "Box",
             .size = {mm(82, 0.5), mm(300, 0.5), mm(250, 0.5)},
             .massG = 1000,
             .price = 90};
    box.mounts = {{.id = "tray",
                   .name = "Tray",
                   .accepts = {PartKind::Board},
                   .at = {low(6, 0.1), high(0), high(20, 0.1)},
                   .facing = {Axis::X, 1},
                   .up = {Axis::Z, 1}},
                  {.id = "card",
                   .name = "Card place",
                   .accepts = {PartKind::Card},
                   .at = {low(3, 0.1), high(2, 0.1), low(8, 0.1)},
                   .facing = {Axis::Z, -1},
                   .up = {Axis::X, 1}},
                  {.id = "side",
                   .name = "Side fan",
                   .accepts = {PartKind::Fan},
                   .at = {high(0), centre(200), centre(60)},
                   .facing = {Axis::X, 1},
                   .up = {Axis::Z, 1}},
                  {.id = "bay",
                   .name = "Supply bay",
                   .accepts = {PartKind::PowerSupply},
                   .at = {low(4), low(4), low(4)},
                   .facing = {Axis::X, 1},
                   .up = {Axis::Z, 1}},
                  {.id = "shelf",
                   .name = "Shelf",
                   .accepts = {PartKind::Made, PartKind::Drive},
                   .at = {low(0), low(10), high(5)},
                   .facing = {Axis::Z, 1},
                   .up = {Axis::Y, 1}}};
    CaseSpec spec{.wall = mm(2), .feetMm = 10, .boardForms = {"mini-itx"}};
    spec.chambers = {{.id = "in", .name = "Inside", .lowMm = {0, 0, 0}, .highMm = {82, 300, 250}}};
    spec.panels = {{.side = Side::Right, .flexible = true},
                   {.side = Side::Left},
                   {.side = Side::Top},
                   {.side = Side::Bottom},
                   {.side = Side::Front},
                   {.side = Side::Rear}};
    spec.openings = {{.id = "side-grille",
                      .name = "Side grille",
                      .side = Side::Right,
                      .chamber = "in",
                      .centreMm = {200, 60},
                      .sizeMm = {100, 100}},
                     {.id = "top-grille",
                      .name = "Top grille",
                      .side = Side::Top,
                      .chamber = "in",
                      .centreMm = {41, 150},
                      .sizeMm = {70, 120}},
                     {.id = "floor-vent",
                      .name = "Floor vent",
                      .side = Side::Bottom,
                      .chamber = "in",
                      .centreMm = {40, 210},
                      .sizeMm = {60, 150}}};
    box.spec = spec;
    p.shelf.push_back(box);

    Part board{.id = "board",
               .kind = PartKind::Board,
               .name = "Board",
               .size = {mm(170, 0.3), mm(170, 0.3), mm(1.6, 0.1)},
               .gives = {{"fan", 3}, {"slot-x16", 1}, {"memory-slot", 2}},
               .needs = {{"atx-24", 1}},
               .powerW = 8,
               .massG = 500,
               .price = 180,
               .fasteners = {{"M3 x 5", 4}}};
    board.mounts = {{.id = "cpu",
                     .name = "Socket",
                     .accepts = {PartKind::Processor},
                     .at = {centre(80), centre(95), {Ref::Above, mm(0.6, 0.1)}}},
                    {.id = "memory",
                     .name = "Memory",
                     .accepts = {PartKind::Memory},
                     .at = {low(8), low(20), {Ref::Above, mm(3)}}}};
    board.spec = BoardSpec{.socket = "A", .memoryKind = "D5"};
    p.shelf.push_back(board);
    Part cpu{.id = "cpu",
             .kind = PartKind::Processor,
             .name = "Processor",
             .size = {mm(40), mm(40), mm(7, 0.2)},
             .powerW = 65,
             .massG = 40,
             .price = 240};
    cpu.spec = ProcessorSpec{.socket = "A"};
    p.shelf.push_back(cpu);
    for (const double h : {37.0, 47.0, 60.0}) {
        Part cooler{.id = "cooler-" + std::to_string(static_cast<int>(h)),
                    .kind = PartKind::Cooler,
                    .name = "Cooler " + std::to_string(static_cast<int>(h)),
                    .size = {mm(94), mm(94), mm(h, 0.5)},
                    .needs = {{"fan", 1}},
                    .powerW = 1.2,
                    .massG = 400,
                    .price = 45,
                    .fasteners = {{"M3 x 10 spring", 4}}};
        cooler.spec = CoolerSpec{.sockets = {"A"}};
        p.shelf.push_back(cooler);
    }
    p.shelf.push_back(card("card", 170, 58, 38));
    p.shelf.push_back(fan("fan-15", 92, 15));
    p.shelf.push_back(fan("fan-25", 92, 25));
    Part supply{.id = "supply",
                .kind = PartKind::PowerSupply,
                .name = "Supply",
                .size = {mm(100), mm(125), mm(63.5)},
                .gives = {{"atx-24", 1}, {"card-8", 1}},
                .massG = 700,
                .price = 110,
                .fasteners = {{"6-32 x 6", 4}}};
    supply.spec = PowerSupplySpec{.ratedW = 400};
    p.shelf.push_back(supply);
    Part memory{.id = "memory",
                .kind = PartKind::Memory,
                .name = "Memory",
                .size = {mm(10), mm(133), mm(31)},
                .needs = {{"memory-slot", 2}},
                .powerW = 6,
                .massG = 60,
                .price = 120};
    memory.spec = MemorySpec{.memoryKind = "D5", .modules = 2};
    p.shelf.push_back(memory);
    Part caddy{.id = "caddy",
               .kind = PartKind::Made,
               .name = "Caddy",
               .size = {mm(83.5), mm(60), mm(20)},
               .fasteners = {{"M3 x 8", 4}}};
    caddy.spec = MadeSpec{.volumeCm3 = 40};
    p.shelf.push_back(caddy);
    p.revisions = {
        {.id = "R1",
         .changes = {SetCase{"box"}, PlacePart{"board", "tray"}, PlacePart{"cpu", "tray/cpu"},
                     PlacePart{"cooler-37", "tray/cpu/lid"}, PlacePart{"card", "card"}, PlacePart{"supply", "bay"},
                     PlacePart{"fan-15", "side"}, PlacePart{"memory", "tray/memory"}}}};
    return p;
}

inline Project with(Project p, std::vector<Change> changes, const std::string& id = "R2") {
    p.revisions.push_back({.id = id, .parent = "R1", .changes = std::move(changes)});
    return p;
}

inline Build built(const Project& p, const std::string& id) {
    auto b = resolve(p, id);
    if (!b)
        qFatal("%s", b.error().text().c_str());
    return std::move(*b);
}

} // namespace support
