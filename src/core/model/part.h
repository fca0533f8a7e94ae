// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/measure.h"

#include <array>
#include <map>
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace core {

enum class PartKind {
    Case,
    Board,
    Processor,
    Cooler,
    Fan,
    Card,
    PowerSupply,
    Drive,
    Memory,
    Adapter,
    Cable,
    Made,
    Radiator
};
enum class Axis { X, Y, Z };

[[nodiscard]] constexpr std::size_t index(Axis axis) { return static_cast<std::size_t>(axis); }
constexpr std::array<Axis, 3> allAxes{Axis::X, Axis::Y, Axis::Z};

/// A signed axis such as "+x". Case axes: x left to right, y front to rear, z bottom to top.
struct Direction {
    Axis axis = Axis::Z;
    int sign = 1; ///< +1 or -1
    friend bool operator==(const Direction&, const Direction&) = default;
};

using Size3 = std::array<Measure, 3>;

/// What an offset is measured from, in the axes of the parent.
enum class Ref {
    Low,    ///< the part's low face from the parent's low face
    High,   ///< the part's high face from the parent's high face, inwards
    Centre, ///< the part's middle from the parent's low face
    Above,  ///< the part's low face from the parent's high face, outwards
    Below   ///< the part's high face from the parent's low face, outwards
};

struct Offset {
    Ref ref = Ref::Low;
    Measure value;
    friend bool operator==(const Offset&, const Offset&) = default;
};

/// Another way a part can sit at a mount: a supply turned, a fan outside, a radiator biased to one end. What is not
/// said is as in the mount itself.
struct MountVariant {
    std::string id;
    std::string name;
    std::optional<std::vector<PartKind>> accepts;
    std::optional<std::array<Offset, 3>> at;
    std::optional<Direction> facing;
    std::optional<Direction> up;
    bool outside = false; ///< of the case, on purpose
    friend bool operator==(const MountVariant&, const MountVariant&) = default;
};

/// How far a part may be moved at its mount without new holes: rows of holes, slots, stand-offs.
struct Slide {
    Axis axis = Axis::X; ///< of the owner
    double fromMm = 0;
    double toMm = 0;
    double stepMm = 0; ///< 0: anywhere between
    friend bool operator==(const Slide&, const Slide&) = default;
};

/// A named place where a part of a kind can go. Axes are those of the owner (the case, or a part that carries others).
struct Mount {
    std::string id;
    std::string name;
    std::vector<PartKind> accepts;
    std::array<Offset, 3> at;
    Direction facing{Axis::Z, 1}; ///< owner direction into which the part's depth (its own z) grows
    Direction up{Axis::Y, 1};     ///< owner direction of the part's own y
    std::vector<MountVariant> variants;
    std::vector<Slide> slides;
    bool outside = false; ///< of the case, on purpose
    double frameMm = 0;   ///< of the fan its holes are drilled for; 0: not stated
    friend bool operator==(const Mount&, const Mount&) = default;
};

/// Tube and ribbon are swept along a route: round (tubes, leads) or flat (risers, flat leads).
enum class Shape { Box, Cylinder, Tube, Ribbon };
enum class BodyRole { Solid, KeepOut };
/// What a keep-out is kept for. It decides what the neighbour must leave free.
enum class Use { Plug, Lead, Blades, Tool, Foot, Frame };

/// A hole through a plate, from the body's low corner in the two axes across @c along, in their order.
struct Cutout {
    bool round = false; ///< an ellipse that fills the rectangle
    std::array<double, 2> atMm{};
    std::array<double, 2> sizeMm{};
    friend bool operator==(const Cutout&, const Cutout&) = default;
};

/// A solid or a space that must stay free, as an offset from the part's low corner in the part's own axes.
struct Body {
    std::string name;
    Shape shape = Shape::Box;
    Axis along = Axis::Z; ///< axis of a cylinder, and of the holes through a plate
    BodyRole role = BodyRole::Solid;
    std::array<Measure, 3> at;
    Size3 size;                      ///< tube: diameter twice; ribbon: width and thickness; the third is not used
    Use use = Use::Plug;             ///< of a keep-out
    std::array<double, 3> turnDeg{}; ///< turned about its own middle: about x, then y, then z of the part
    std::vector<Cutout> cutouts;     ///< of a box
    std::vector<std::array<double, 3>> routeMm; ///< middle line of a tube or ribbon, from @c at
    double bendMm = 0;                          ///< least bend radius of a tube or ribbon, of its middle line
    friend bool operator==(const Body&, const Body&) = default;
};

enum class PlugStyle { Straight, Angled };

/// A socket of a part at its place: the plug that goes in needs room, and a lead can be measured to it.
struct Port {
    std::string id;
    std::string kind;          ///< of the plug, e.g. "card-8"
    std::array<Measure, 3> at; ///< middle of the socket, from the part's low corner in its own axes
    Direction out{Axis::Z, 1}; ///< own direction in which the plug is pulled off
    PlugStyle plug = PlugStyle::Straight;
    Direction towards{
        Axis::Y, 1}; ///< own direction in which the lead bends, or leaves an angled plug; the plug is narrow along it
    std::vector<Direction> angledWays; ///< directions in which angled plugs can be had; empty: none
    friend bool operator==(const Port&, const Port&) = default;
};

/// What a part with lanes can do, or a pair of sockets lets through.
struct Link {
    int generation = 3; ///< 1 to 5
    int lanes = 4;      ///< 1 to 16
    double needGbs = 0; ///< what the job needs of it, Gb/s; 0: not said
    friend bool operator==(const Link&, const Link&) = default;
};

enum class Side { Left, Right, Front, Rear, Bottom, Top };
enum class OpeningStyle { Mesh, Printed, Plain, Closed };
enum class Screen { None, Fine, Coarse };
enum class WallMaterial { Steel, Aluminium, Plastic };

/// An air space of a case: a box in case coordinates, mm.
struct Chamber {
    std::string id;
    std::string name;
    std::array<double, 3> lowMm{};
    std::array<double, 3> highMm{};
    friend bool operator==(const Chamber&, const Chamber&) = default;
};

/// A rectangle of a panel that air may pass. In-plane axes: (y,z) on left and right, (x,z) on front and rear, (x,y)
/// else.
struct Opening {
    std::string id;
    std::string name;
    Side side = Side::Left;
    std::string chamber;
    std::string to; ///< the chamber behind it, empty for the outside
    std::array<double, 2> centreMm{};
    std::array<double, 2> sizeMm{};
    bool round = false; ///< an ellipse that fills the rectangle
    OpeningStyle style = OpeningStyle::Mesh;
    double perforation = 0.45; ///< open share of the plate, 0..1
    double holeMm = 3.0;
    double thicknessMm = 1.0;
    Screen screen = Screen::None;
    double fouling = 1.0;      ///< 1 clean, 2..3 after months
    double blockedShare = 0.0; ///< share of the area covered by something not modelled, 0..1
    friend bool operator==(const Opening&, const Opening&) = default;
};

struct Panel {
    Side side = Side::Left;
    bool flexible = false; ///< may be forced out by up to 2 mm
    bool removable = true;
    double lipMm = 0; ///< frame that stays around the opening when the panel is off, on all four edges
    friend bool operator==(const Panel&, const Panel&) = default;
};

/// Something a modification takes away, and what does its work afterwards.
struct Loss {
    std::string what;       ///< e.g. "front USB"
    std::string gives;      ///< kind of plug the case no longer offers; empty: none
    std::string needs;      ///< kind of plug the case no longer takes up; empty: none
    std::string mount;      ///< place that is gone; empty: none
    std::string replace;    ///< what then needs replacing, in words; empty: nothing
    std::string replacedBy; ///< kind of plug that the replacement brings; the ledger looks for it in the build
    friend bool operator==(const Loss&, const Loss&) = default;
};

/// A change that can be made to a case with tools: what it takes away, what it costs and how it is done.
struct Modification {
    std::string id;
    std::string name;
    std::vector<Loss> losses;
    std::vector<std::string> opens; ///< openings that become plain holes
    double minutes = 0;
    double price = 0;
    std::string tool;
    std::string safety; ///< empty: the usual cautions for cutting
    friend bool operator==(const Modification&, const Modification&) = default;
};

struct CaseSpec {
    Measure wall;        ///< wall thickness, the same on all sides
    double feetMm = 8.0; ///< free height under the case
    WallMaterial material = WallMaterial::Steel;
    std::vector<std::string> pieces;      ///< made parts on the shelf that this case is put together from
    std::vector<std::string> boardForms;  ///< forms that the tray takes, e.g. "mini-itx"
    std::vector<std::string> supplyForms; ///< forms that the supply bay takes, e.g. "sfx"; empty: not stated
    int slotCovers = 0;                   ///< at the rear, for cards; 0: not stated
    std::vector<Chamber> chambers;
    std::vector<Panel> panels;
    std::vector<Opening> openings;
    std::vector<Modification> modifications; ///< that can be made
    friend bool operator==(const CaseSpec&, const CaseSpec&) = default;
};

/// A slot with lanes. Slots that share lanes name the same group: one of them in use halves or stops the other.
struct BoardSlot {
    std::string kind; ///< of plug, e.g. "slot-x16", "m.2"
    int generation = 4;
    int lanes = 4;
    bool chipset = false; ///< lanes come from the chipset, else from the processor
    std::string group;    ///< shared lanes; empty: its own
    int lanesShared = 0;  ///< left when another slot of the group is in use
    friend bool operator==(const BoardSlot&, const BoardSlot&) = default;
};

struct BoardSpec {
    std::string form = "mini-itx";
    std::string socket;
    std::string memoryKind;
    bool graphicsOutput = true; ///< has a socket for the picture of a processor with graphics
    int memorySlots = 2;
    int memoryChannels = 2;
    int chipsetLanes = 0; ///< the chipset has for slots; 0: not stated
    std::vector<BoardSlot> laneSlots;
    double headerA = 1.0; ///< a fan header carries
    friend bool operator==(const BoardSpec&, const BoardSpec&) = default;
};

struct ProcessorSpec {
    std::string socket;
    bool graphics = false;
    double clockMhz = 4000; ///< sustained clock at its power at 70 °C
    double limitC = 95;
    double dieResistance = 0.30; ///< K/W, die to lid with paste
    int lanes = 0;               ///< for slots, 0: not stated
    double peakW = 0;            ///< for seconds, before it falls back to its sustained power; 0: not stated
    double peakS = 0;            ///< how long it holds that; 0: not stated, facts::peakSeconds
    friend bool operator==(const ProcessorSpec&, const ProcessorSpec&) = default;
};

enum class CoolerType { TopDown, Tower, Liquid };

struct CoolerSpec {
    CoolerType type = CoolerType::TopDown;
    std::vector<std::string> sockets;
    double fanFrameMm = 92;
    double fanThicknessMm = 15;
    int fans = 1;             ///< alike, one behind the other: before and behind the fins of a tower
    double ratedTdpW = 0;     ///< 0: not stated, the fins are taken from the size
    std::string metal;        ///< of what the liquid touches: "copper", "aluminium", "nickel"; empty: no liquid
    bool pump = false;        ///< the pump sits on this block
    bool sealed = false;      ///< bought filled, as one loop with its radiator
    double pumpDba = 0;       ///< of the pump at 1 m; 0: not stated
    double fill = 1.0;        ///< share of its liquid that was left when it was last looked at or filled
    double years = 0;         ///< since then
    double lossPerYear = 0;   ///< share of what is left that goes in a year; 0: not stated, facts::liquidLoss
    double boardShare = 0.05; ///< of the heat of what a block sits on, that goes into its board: engineering judgement
    std::string loop;         ///< name of its loop, where there are several
    friend bool operator==(const CoolerSpec&, const CoolerSpec&) = default;
};

/// A point of the curve of a fan at its rated speed.
struct FanPoint {
    double flowM3s = 0;
    double pressurePa = 0;
    friend bool operator==(const FanPoint&, const FanPoint&) = default;
};

/// Rated values of a fan; zero means "not stated, use the class of its frame and thickness".
struct FanSpec {
    double rpm = 0;
    double freeFlowM3s = 0;
    double shutoffPa = 0;
    double levelDba = 0; ///< at 1 m
    double minDuty = 0.20;
    double currentA = 0;         ///< 0: not stated, power / 12 V
    std::vector<FanPoint> curve; ///< goes before free flow and shutoff pressure; empty: not stated
    friend bool operator==(const FanSpec&, const FanSpec&) = default;
};

enum class CardCooler { Single, Dual, Triple, Blower };

struct CardSpec {
    CardCooler cooler = CardCooler::Dual;
    int slotCount = 2;
    double clockMhz = 1800;
    double limitC = 0; ///< 0: 87 °C, blower 83 °C
    double peakW = 0;  ///< for seconds, before it falls back to its sustained power; 0: not stated
    double peakS = 0;  ///< how long it holds that; 0: not stated, facts::peakSeconds
    friend bool operator==(const CardSpec&, const CardSpec&) = default;
};

struct PowerSupplySpec {
    std::string form = "sfx";
    double ratedW = 600;
    double efficiency = 0.90;
    bool brick = false;      ///< converter outside the case
    double peakW = 0;        ///< for a millisecond; 0: not stated
    double rail12A = 0;      ///< current of the 12 V rail; 0: not stated
    double twelvePinW = 0;   ///< what the sense wires of its 12-pin plug allow: 150, 300, 450 or 600; 0: not stated
    std::string cableFamily; ///< its modular leads; empty: leads are fixed
    double levelDba = 0;     ///< at 1 m at full load; 0: not stated, told from its form
    double fanFrameMm = 0;   ///< 0: not stated, told from its form
    friend bool operator==(const PowerSupplySpec&, const PowerSupplySpec&) = default;
};

enum class DriveForm { Inch35, Inch25, M2Bare, M2Sink };

struct DriveSpec {
    DriveForm form = DriveForm::M2Bare;
    double limitC = 70;
    double spinUpA = 0;  ///< at 12 V while it starts; 0: not stated
    double levelDba = 0; ///< at 1 m, seeking; 0: not stated
    friend bool operator==(const DriveSpec&, const DriveSpec&) = default;
};

struct RadiatorSpec {
    double frameMm = 120; ///< of one fan place
    int fans = 1;
    double plateMm = 1.0;            ///< of the plate its fan screws go through
    std::string metal = "aluminium"; ///< of what the liquid touches
    bool pump = false;               ///< the pump sits in its end tank
    double pumpDba = 0;              ///< of the pump at 1 m; 0: not stated
    std::string loop;                ///< name of its loop, where there are several
    friend bool operator==(const RadiatorSpec&, const RadiatorSpec&) = default;
};

struct AdapterSpec {
    double limitW = 0;    ///< it passes at most; 0: the limit of its plugs
    bool moulded = false; ///< plug moulded on the wires, not crimped
    friend bool operator==(const AdapterSpec&, const AdapterSpec&) = default;
};

struct CableSpec {
    double lengthMm = 500;  ///< plug to plug
    std::string family;     ///< of modular supplies it belongs to; empty: any
    double limitW = 0;      ///< it passes at most; 0: the limit of its plugs
    double widthMm = 0;     ///< of a flat one; 0: it is round, or flat and not stated where it has lanes
    double thicknessMm = 0; ///< diameter of a round one; 0: not stated
    double bendMm = 0;      ///< least bend radius of its middle line; 0: not stated
    friend bool operator==(const CableSpec&, const CableSpec&) = default;
};

struct MemorySpec {
    std::string memoryKind;
    int modules = 1;
    friend bool operator==(const MemorySpec&, const MemorySpec&) = default;
};

enum class Process { Print, Cut };

struct MadeSpec {
    Process process = Process::Print;
    std::string material = "petg";
    double volumeCm3 = 0; ///< solid volume of the outer shape, cm³
    double shellShare = 0.35;
    double infillShare = 0.20;
    int count = 1;
    friend bool operator==(const MadeSpec&, const MadeSpec&) = default;
};

using AnySpec = std::variant<std::monostate, CaseSpec, BoardSpec, ProcessorSpec, CoolerSpec, FanSpec, CardSpec,
                             PowerSupplySpec, DriveSpec, MemorySpec, MadeSpec, RadiatorSpec, AdapterSpec, CableSpec>;

/// What only parts of one kind have. A class of its own for the same reason as Change.
struct Spec : AnySpec {
    using AnySpec::AnySpec;
    Spec();
    Spec(const Spec& other);
    Spec(Spec&& other) noexcept;
    Spec& operator=(const Spec& other);
    Spec& operator=(Spec&& other) noexcept;
    ~Spec();
    friend bool operator==(const Spec& a, const Spec& b);
};

struct Fastener {
    std::string kind; ///< e.g. "M3 x 6 pan"
    int count = 0;
    friend bool operator==(const Fastener&, const Fastener&) = default;
};

/// How a part is put in; empty fields are filled from its kind.
struct StepHint {
    std::string tool;
    double minutes = 0;
    std::vector<std::string> after; ///< mounts that must be filled before
    std::string safety;
    friend bool operator==(const StepHint&, const StepHint&) = default;
};

struct Part {
    std::string id;
    PartKind kind = PartKind::Made;
    std::string name;
    Size3 size; ///< outer box, own axes: x width, y height, z depth off the mount. Case: inside width, depth, height
    std::vector<Body> bodies; ///< empty: one box of the whole size
    std::vector<Mount> mounts;
    std::map<std::string, int> gives; ///< sockets and plugs it offers, by kind
    std::map<std::string, int> needs; ///< sockets and plugs it takes up, by kind
    std::vector<Port> ports;          ///< those whose place is known
    std::optional<Link> link;         ///< lanes of a card, drive or adapter
    double powerW = 0;                ///< sustained draw
    double massG = 0;
    double price = 0;
    std::vector<Fastener> fasteners;
    StepHint step;
    Spec spec;
    friend bool operator==(const Part&, const Part&) = default;
};

[[nodiscard]] std::string_view kindWord(PartKind kind);
[[nodiscard]] std::optional<PartKind> kindFromWord(std::string_view word);
[[nodiscard]] std::string_view sideWord(Side side);
[[nodiscard]] std::optional<Side> sideFromWord(std::string_view word);
/// "+x" ... "-z".
[[nodiscard]] std::string directionWord(Direction direction);
[[nodiscard]] std::optional<Direction> directionFromWord(std::string_view word);
/// The direction that points out of the case through @p side.
[[nodiscard]] Direction outward(Side side);
[[nodiscard]] Side sideOf(Direction direction);
/// The two axes that lie in the plane of @p side, in the order used by openings.
[[nodiscard]] std::array<Axis, 2> planeAxes(Side side);

} // namespace core

// Compiled once, in part.cpp.
extern template class std::vector<core::Body>;
extern template class std::vector<core::Mount>;
extern template class std::vector<core::MountVariant>;
extern template class std::vector<core::Slide>;
extern template class std::vector<core::Cutout>;
extern template class std::vector<core::Port>;
extern template class std::vector<core::Chamber>;
extern template class std::vector<core::Opening>;
extern template class std::vector<core::Panel>;
extern template class std::vector<core::Loss>;
extern template class std::vector<core::Modification>;
extern template class std::vector<core::BoardSlot>;
extern template class std::vector<core::Fastener>;
extern template class std::vector<core::Part>;
