// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/arrange/box_maker.h"
#include "core/base/sentence.h"

#include <array>

// One function an arrangement: where its chambers, panels, places and vents lie. Figures are in mm and engineering
// judgement: usual rooms round parts of standard sizes.
namespace core::arrange {
namespace {

constexpr double boardSide = 170, boardUnder = 6; // a Mini-ITX board and the height of its stand-offs

/// A board that lies flat with its sockets at the rear.
void flatTray(BoxMaker& box, Offset x, double z) {
    box.place("tray", "Tray", PartKind::Board, {x, high(0), low(z)}, up, left);
    box.spec().boardForms = {"mini-itx"};
}
/// Middle of the processor on a flat board whose right edge is at @p rightMm, in the plane of the floor.
std::array<double, 2> flatProcessor(const BoxMaker& box, double rightMm) {
    return {rightMm - 95, box.d - boardSide + 78};
}

void backToBack(BoxMaker& box) {
    const double spine = box.size(5), second = spine + 2;
    box.chamber("card", "Card side", {0, 0, 0}, {spine, box.d, box.h});
    box.chamber("board", "Board side", {second, 0, 0}, {box.w, box.d, box.h});
    box.panel("spine", "Spine", {spine, 0, 0}, {2, box.d, box.h}, Axis::X);
    box.place("tray", "Tray", PartKind::Board, {low(second + boardUnder), high(0), high(22)}, right, up);
    box.spec().boardForms = {"mini-itx"};
    box.place("card", "Card place", PartKind::Card, {low(6), high(0), high(8)}, left, down);
    const double lift = box.is("raised") ? 46 : 0;
    box.place("supply", "Supply bay", PartKind::PowerSupply, {low(second + 5), low(5), low(6 + lift)}, right, up);
    box.spec().supplyForms = {"sfx"};
    box.spec().slotCovers = 2;
    const double middleOfBoard = (second + box.w) / 2;
    box.fan("top-rear", "Top fan, rear", Side::Top, "board", {middleOfBoard, box.d - 50}, 80);
    box.fan("top-front", "Top fan, front", Side::Top, "board", {middleOfBoard, box.d - 136}, 80);
    box.vent("card-vent", "Card vent", Side::Left, "card", {box.d - 140, box.h - 64}, {250, 104}, 0.55);
    box.vent("board-vent", "Cooler vent", Side::Right, "board", {box.d - 92, box.h - 97}, {110, 110}, 0.55);
    box.vent("supply-vent", "Supply vent", Side::Right, "board", {56, 68 + lift}, {90, 110}, 0.55);
    box.vent("card-floor", "Floor vent, card side", Side::Bottom, "card", {spine / 2, box.d / 2}, {spine - 12, 220});
    box.vent("board-floor", "Floor vent, board side", Side::Bottom, "board", {middleOfBoard, box.d - 90}, {60, 140});
    box.vent("card-rear", "Slots at the rear", Side::Rear, "card", {spine / 2, box.h - 60}, {spine - 14, 90});
}

void cardOverBoard(BoxMaker& box) {
    box.chamber("inside", "Inside", {0, 0, 0}, {box.w, box.d, box.h});
    flatTray(box, low(6), boardUnder);
    box.place("card", "Card place", PartKind::Card, {high(8), high(0), high(12)}, up, left);
    box.place("supply", "Supply bay", PartKind::PowerSupply, {low(8), low(5), low(6)}, up, left);
    box.spec().supplyForms = {"sfx"};
    box.spec().slotCovers = 2;
    box.fan("front-fan", "Front fan", Side::Front, "inside", {box.w - 26, 30}, 40);
    box.vent("card-vent", "Card vent", Side::Top, "inside", {box.w - 64, box.d - 87}, {104, 160}, 0.55);
    box.vent("supply-vent", "Supply vent", Side::Top, "inside", {70, 56}, {110, 90}, 0.55);
    for (const auto& [side, id, name] :
         {std::tuple{Side::Left, "left-vent", "Left vent"}, std::tuple{Side::Right, "right-vent", "Right vent"}})
        box.vent(id, name, side, "inside", {box.d - 85, 42}, {140, 60}, 0.55);
    box.vent("rear-vent", "Rear vent", Side::Rear, "inside", {box.w / 2, box.h - 24}, {box.w - 40, 26});
}

void oneChamber(BoxMaker& box) {
    box.chamber("inside", "Inside", {0, 0, 0}, {box.w, box.d, box.h});
    flatTray(box, low(7), boardUnder);
    box.place("supply", "Converter", PartKind::PowerSupply, {low(20), low(5), low(6)}, up, rear);
    box.spec().supplyForms = {"plug-in"};
    box.fan("front-fan", "Front fan", Side::Front, "inside", {box.w - 30, box.h / 2}, 40);
    box.vent("cooler-vent", "Cooler vent", Side::Top, "inside", flatProcessor(box, 7 + boardSide), {110, 110}, 0.6);
    for (const auto& [side, id, name] :
         {std::tuple{Side::Left, "left-vent", "Left vent"}, std::tuple{Side::Right, "right-vent", "Right vent"}})
        box.vent(id, name, side, "inside", {box.d - 90, box.h / 2}, {150, box.h - 24});
}

void tallBox(BoxMaker& box) {
    const double spine = box.size(5), behind = spine + 6;
    box.chamber("rear", "Cooler bay", {0, behind, 0}, {box.w, box.d, box.h});
    box.chamber("front", "Front bay", {0, 0, 0}, {box.w, spine, box.h});
    box.panel("spine", "Spine", {0, spine + 1, 42}, {box.w, 4, box.h - 42}, Axis::Y);
    box.place("tray", "Tray", PartKind::Board, {low(boardUnder), high(0), high(25)}, right, up);
    box.spec().boardForms = {"mini-itx"};
    box.place("card", "Card place", PartKind::Card, {low(6), high(0), low(8)}, down, right);
    const bool raised = box.is("raised"), turned = box.is("turned");
    box.place("supply", "Supply bay", PartKind::PowerSupply, {turned ? high(5) : low(9), low(6), low(raised ? 60 : 6)},
              turned ? left : right, up);
    box.spec().supplyForms = {"sfx"};
    box.spec().slotCovers = 1;
    box.fan("side-a", "Side fan", Side::Right, "rear", {box.d - 92, box.h - 94}, 92);
    box.fan("top-fan", "Top fan", Side::Top, "rear", {box.w / 2, box.d - 136}, 80);
    box.vent("supply-vent", "Supply vent", Side::Right, "front", {56, raised ? 122.0 : 68.0}, {90, 104}, 0.55);
    box.vent("front-vent", "Front vent", Side::Front, "front", {box.w / 2, 70}, {box.w - 24, 110});
    box.vent("floor-vent", "Floor vent", Side::Bottom, "rear", {box.w / 2, box.d - 92}, {box.w - 20, 160});
    box.vent("rear-slots", "Slots at the rear", Side::Rear, "rear", {box.w / 2, 24}, {box.w - 16, 30});
    box.hole("under-spine", "Hole for leads under the spine", Side::Front, "rear", "front", {box.w / 2, 21},
             {box.w - 8, 30});
}

void console(BoxMaker& box) {
    box.chamber("inside", "Inside", {0, 0, 0}, {box.w, box.d, box.h});
    flatTray(box, high(6), boardUnder);
    box.place("card", "Card place", PartKind::Card, {low(46), high(0), low(10)}, up, left);
    const bool inner = box.is("inner");
    box.place("supply", "Supply bay", PartKind::PowerSupply, {high(inner ? 34 : 10), low(5), low(5)}, up, left);
    box.spec().supplyForms = {"sfx"};
    box.spec().slotCovers = 2;
    box.fan("front-a", "Front fan, left", Side::Front, "inside", {60, box.h / 2}, 40);
    box.fan("front-b", "Front fan, right", Side::Front, "inside", {112, box.h / 2}, 40);
    box.vent("card-vent", "Card vent", Side::Top, "inside", {102, box.d - 122}, {104, 220}, 0.55);
    box.vent("cooler-vent", "Cooler vent", Side::Top, "inside", flatProcessor(box, box.w - 6), {108, 108}, 0.6);
    box.vent("supply-vent", "Supply vent", Side::Top, "inside", {box.w - (inner ? 34.0 : 10.0) - 62, 56}, {110, 90},
             0.55);
    box.vent("right-vent", "Right vent", Side::Right, "inside", {box.d - 90, box.h / 2}, {150, box.h - 26});
    box.vent("left-vent", "Left vent", Side::Left, "inside", {box.d - 120, box.h / 2}, {200, box.h - 26});
    box.vent("floor-vent", "Floor vent", Side::Bottom, "inside", {102, box.d - 122}, {104, 200});
}

void twoUnits(BoxMaker& box) {
    box.chamber("inside", "Inside", {0, 0, 0}, {box.w, box.d, box.h});
    flatTray(box, high(10), boardUnder);
    box.place("supply", "Supply bay", PartKind::PowerSupply, {low(10), high(2), low(5)}, up, left);
    box.spec().supplyForms = {"flex"};
    box.place("drive-1", "Drive, lower", PartKind::Drive, {low(10), low(40), low(6)}, up, rear);
    box.place("drive-2", "Drive, upper", PartKind::Drive, {low(10), low(40), low(44)}, up, rear);
    box.fan("front-a", "Front fan, left", Side::Front, "inside", {70, box.h / 2}, 60);
    box.fan("front-b", "Front fan, middle", Side::Front, "inside", {box.w / 2, box.h / 2}, 60);
    box.fan("front-c", "Front fan, right", Side::Front, "inside", {box.w - 70, box.h / 2}, 60);
    box.vent("rear-vent", "Rear vent", Side::Rear, "inside", {box.w / 2 - 40, box.h / 2}, {110, box.h - 26}, 0.6);
    box.vent("cooler-vent", "Cooler vent", Side::Top, "inside", flatProcessor(box, box.w - 10), {108, 108}, 0.6);
    box.vent("supply-vent", "Supply outlet", Side::Rear, "inside", {52, 26}, {70, 34}, 0.6);
}

void storageTower(BoxMaker& box) {
    const double shelf = box.size(5);
    box.chamber("drives", "Drive bay", {0, 0, 0}, {box.w, box.d, shelf});
    box.chamber("board", "Board bay", {0, 0, shelf + 2}, {box.w, box.d, box.h});
    box.panel("shelf", "Shelf", {0, 30, shelf}, {box.w, box.d - 30, 2}, Axis::Z);
    flatTray(box, low((box.w - boardSide) / 2), shelf + 2 + boardUnder);
    const double pitch = (box.w - 12 - 26.1) / 4;
    for (int i = 0; i < 5; ++i)
        box.place("drive-" + std::to_string(i + 1), "Drive " + std::to_string(i + 1), PartKind::Drive,
                  {low(6 + i * pitch), low(38), low(5)}, right, up);
    box.place("supply", "Supply bay", PartKind::PowerSupply, {low(8), low(8), high(7)}, up, left);
    box.spec().supplyForms = {"flex"};
    box.fan("front-fan", "Front fan", Side::Front, "drives", {box.w / 2, shelf / 2}, 92);
    box.fan("top-fan", "Top fan", Side::Top, "board", {box.w - 44, box.d / 2}, 80);
    box.vent("drives-rear", "Rear vent, drives", Side::Rear, "drives", {box.w / 2, shelf / 2}, {box.w - 30, shelf - 24},
             0.6);
    box.vent("left-vent", "Left vent", Side::Left, "board", {box.d / 2, shelf + 40}, {box.d - 40, 50}, 0.55);
    box.vent("right-vent", "Right vent", Side::Right, "board", {box.d / 2, shelf + 40}, {box.d - 40, 50}, 0.55);
    box.vent("supply-vent", "Supply outlet", Side::Top, "board", {50, box.d / 2}, {70, 120}, 0.55);
    box.hole("before-shelf", "Hole for leads before the shelf", Side::Top, "drives", "board", {box.w / 2, 15},
             {box.w - 20, 24});
}

void cube(BoxMaker& box) {
    box.chamber("inside", "Inside", {0, 0, 0}, {box.w, box.d, box.h});
    flatTray(box, high(5), boardUnder);
    box.place("radiator", "Radiator, left", PartKind::Radiator, {low(25), middle(box.d / 2), low(10)}, left, up);
    box.place("supply", "Supply bay", PartKind::PowerSupply, {high(8), low(44), high(7)}, up, left);
    box.spec().supplyForms = {"sfx"};
    box.fan("front-fan", "Front fan", Side::Front, "inside", {box.w - 70, 64}, 92);
    box.vent("radiator-vent", "Radiator vent", Side::Left, "inside", {box.d / 2, box.h / 2 - 4}, {120, 150}, 0.6);
    box.vent("supply-vent", "Supply vent", Side::Top, "inside", {box.w - 70, 96}, {110, 90}, 0.55);
    box.vent("right-vent", "Right vent", Side::Right, "inside", {box.d - 95, 60}, {150, 90}, 0.55);
    box.vent("rear-vent", "Rear vent", Side::Rear, "inside", {box.w / 2, box.h - 40}, {box.w - 60, 50}, 0.55);
}

void blank(BoxMaker& box) { box.chamber("inside", "Inside", {0, 0, 0}, {box.w, box.d, box.h}); }

constexpr std::string_view inner = word("inside, between the walls");
AskedSize askWidth(double usual) { return {"width", word("Inner width"), inner, usual, 60, 800}; }
AskedSize askDepth(double usual) { return {"depth", word("Inner depth"), inner, usual, 60, 800}; }
AskedSize askHeight(double usual) { return {"height", word("Inner height"), inner, usual, 40, 800}; }
AskedSize askWall(double usual) { return {"wall", word("Wall"), word("of one side"), usual, 0.3, 12}; }
AskedSize askFeet(double usual) { return {"feet", word("Feet"), word("free height below"), usual, 0, 60}; }
std::vector<AskedSize> ask(std::array<double, 3> inside, double wallMm, double feetMm) {
    return {askWidth(inside[0]), askDepth(inside[1]), askHeight(inside[2]), askWall(wallMm), askFeet(feetMm)};
}
std::vector<AskedSize> askWith(AskedSize own, std::array<double, 3> inside, double wallMm, double feetMm) {
    auto all = ask(inside, wallMm, feetMm);
    all.push_back(own);
    return all;
}

const Meant board{"board-itx", "tray"}, processor{"cpu-65", "tray/cpu"}, memory{"memory-2", "tray/memory"},
    store{"m2-2280-sink", "tray/store"}, sfx{"psu-sfx", "supply"};
constexpr std::string_view lid = "tray/cpu/lid";

std::vector<Arrangement> make() {
    return {{.id = "back-to-back",
             .name = word("Back to back on a spine"),
             .takes = word("Mini-ITX, card 270 on a riser, SFX"),
             .sizes = askWith({"spine", word("Spine from the left"), word("to its left face"), 58, 30, 700},
                              {148, 300, 196}, 1.5, 10),
             .ways = {{"usual", word("supply on the floor")}, {"raised", word("supply on upper rails")}},
             .meant = {board,
                       processor,
                       {"cooler-47", lid},
                       memory,
                       store,
                       {"card-2-270", "card"},
                       sfx,
                       {"fan-80-15", "top-rear", FanFlow::Out},
                       {"fan-80-15", "top-front", FanFlow::Out}},
             .leads = {{"riser", "tray:slot-x16", "card:slot-x16"}},
             .make = backToBack},
            {.id = "card-over-board",
             .name = word("Card over board"),
             .takes = word("Mini-ITX, card 168 on a riser, SFX"),
             .sizes = ask({184, 306, 128}, 1.5, 10),
             .ways = {},
             .meant = {board, processor, {"cooler-37", lid}, memory, store, {"card-2-168", "card"}, sfx},
             .leads = {{"riser", "tray:slot-x16", "card:slot-x16"}},
             .make = cardOverBoard},
            {.id = "one-chamber",
             .name = word("One chamber and a brick"),
             .takes = word("Mini-ITX, low cooler, no card"),
             .sizes = ask({184, 216, 68}, 1.5, 8),
             .ways = {},
             .meant = {board, {"cpu-35", "tray/cpu"}, {"cooler-37", lid}, memory, store, {"supply-brick", "supply"}},
             .leads = {{"splitter-eps", "supply:eps-4", "tray:eps-8"}},
             .make = oneChamber},
            {.id = "tall",
             .name = word("Tall box, card below"),
             .takes = word("Mini-ITX, low card 168, SFX"),
             .sizes = askWith({"spine", word("Spine from the front"), word("to its front face"), 118, 30, 700},
                              {90, 306, 250}, 2, 12),
             .ways = {{"usual", word("supply on the floor")},
                      {"raised", word("supply on upper rails")},
                      {"turned", word("supply turned about")}},
             .meant = {board,
                       processor,
                       {"cooler-37", lid},
                       memory,
                       store,
                       {"card-lp", "card"},
                       sfx,
                       {"fan-92-15", "side-a", FanFlow::In},
                       {"fan-80-15", "top-fan", FanFlow::Out}},
             .leads = {{"riser", "tray:slot-x16", "card:slot-x16"}},
             .make = tallBox},
            {.id = "console",
             .name = word("Console, lying flat"),
             .takes = word("Mini-ITX, card 240 on a riser, SFX"),
             .sizes = ask({344, 292, 78}, 1.5, 8),
             .ways = {{"usual", word("supply to the right")}, {"inner", word("supply to the middle")}},
             .meant = {board, processor, {"cooler-47", lid}, memory, store, {"card-240", "card"}, sfx},
             .leads = {{"riser", "tray:slot-x16", "card:slot-x16"}},
             .make = console},
            {.id = "two-units",
             .name = word("Two units, for a rack"),
             .takes = word("Mini-ITX, two 3.5 in drives, Flex"),
             .sizes = ask({426, 360, 85}, 1, 0),
             .ways = {},
             .meant = {board,
                       processor,
                       {"cooler-47", lid},
                       memory,
                       store,
                       {"psu-flex", "supply"},
                       {"drive-35", "drive-1"},
                       {"drive-35", "drive-2"},
                       {"fan-60-25", "front-a"},
                       {"fan-60-25", "front-c"}},
             .leads = {},
             .make = twoUnits},
            {.id = "storage-tower",
             .name = word("Storage tower"),
             .takes = word("Mini-ITX, five 3.5 in drives, Flex"),
             .sizes = askWith({"shelf", word("Shelf above the floor"), word("to its lower face"), 112, 60, 700},
                              {186, 194, 238}, 1.5, 10),
             .ways = {},
             .meant = {board,
                       {"cpu-35", "tray/cpu"},
                       {"cooler-37", lid},
                       memory,
                       {"psu-flex", "supply"},
                       {"drive-35", "drive-1"},
                       {"drive-35", "drive-2"},
                       {"drive-35", "drive-3"},
                       {"drive-35", "drive-4"},
                       {"drive-35", "drive-5"},
                       {"fan-92-25", "front-fan"}},
             .leads = {{"m2-to-sata", "tray:m.2", ""}, {"splitter-sata", "supply:sata-power", ""}},
             .make = storageTower},
            {.id = "cube",
             .name = word("Cube, side radiator"),
             .takes = word("Mini-ITX, liquid 120, SFX"),
             .sizes = ask({238, 204, 182}, 1.5, 10),
             .ways = {},
             .meant = {board,
                       processor,
                       {"block-liquid", lid},
                       memory,
                       store,
                       sfx,
                       {"radiator-120-27", "radiator"},
                       {"fan-120-25", "radiator/fan-1", FanFlow::Out}},
             .leads = {},
             .make = cube},
            {.id = "blank",
             .name = word("Blank"),
             .takes = word("walls and feet only"),
             .sizes = ask({150, 300, 200}, 1.5, 8),
             .ways = {},
             .meant = {},
             .leads = {},
             .make = blank}};
}

} // namespace

std::span<const Arrangement> arrangements() {
    static const std::vector<Arrangement> all = make();
    return all;
}

} // namespace core::arrange
