// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/sentence.h"
#include "core/model/part.h"

#include <variant>

namespace core {

struct Project;

enum class FanFlow { In, Out };
enum class FanMode { Fixed, Processor, Card, Part }; ///< fixed duty, or following the temperature of a part

/// A point of the curve by which a fan follows a temperature.
struct CurvePoint {
    double temperatureC = 0;
    double duty = 0; ///< share of full speed, 0..1
    friend bool operator==(const CurvePoint&, const CurvePoint&) = default;
};
/// How a fan is driven.
struct FanControl {
    FanMode mode = FanMode::Fixed;
    double duty = 0.6;                  ///< share of full speed, 0..1; used when fixed
    std::string follows = {};           ///< mount of the part, of FanMode::Part
    std::vector<CurvePoint> curve = {}; ///< temperatures rising; empty: the usual one
    double hysteresisK = 0;             ///< it slows down only when the part is cooler by this much
    friend bool operator==(const FanControl&, const FanControl&) = default;
};

/// Where the outside "down" is: the side the case stands on.
using Orientation = Side;

struct SetCase {
    std::string part;
    friend bool operator==(const SetCase&, const SetCase&) = default;
};
struct PlacePart {
    std::string part;
    std::string mount;
    FanFlow flow = FanFlow::In; ///< fans only
    friend bool operator==(const PlacePart&, const PlacePart&) = default;
};
struct SwapPart {
    std::string mount;
    std::string part;
    friend bool operator==(const SwapPart&, const SwapPart&) = default;
};
struct RemovePart {
    std::string mount;
    friend bool operator==(const RemovePart&, const RemovePart&) = default;
};
struct FlipFan {
    std::string mount;
    friend bool operator==(const FlipFan&, const FlipFan&) = default;
};
struct SetFan {
    std::string mount;
    FanControl control;
    friend bool operator==(const SetFan&, const SetFan&) = default;
};
struct SetScreen {
    std::string opening;
    Screen screen = Screen::None;
    friend bool operator==(const SetScreen&, const SetScreen&) = default;
};
struct SetOpening {
    std::string opening;
    OpeningStyle style = OpeningStyle::Mesh;
    double perforation = 0.45;
    friend bool operator==(const SetOpening&, const SetOpening&) = default;
};
struct MovePart {
    std::string mount;
    Axis axis = Axis::X; ///< case axis
    Length by;
    friend bool operator==(const MovePart&, const MovePart&) = default;
};
struct Orient {
    Orientation down = Side::Bottom;
    friend bool operator==(const Orient&, const Orient&) = default;
};
struct LimitPower {
    std::string mount;
    double watts = 0;
    friend bool operator==(const LimitPower&, const LimitPower&) = default;
};

/// Chooses one of the variants of a mount; empty: the mount as it is.
struct ChooseVariant {
    std::string mount;
    std::string variant;
    friend bool operator==(const ChooseVariant&, const ChooseVariant&) = default;
};
/// Another plug in a socket: straight, or angled with its lead leaving in an own direction of the part.
struct SetPlug {
    std::string mount;
    std::string port;
    PlugStyle style = PlugStyle::Straight;
    Direction towards{Axis::Y, 1};
    friend bool operator==(const SetPlug&, const SetPlug&) = default;
};
/// A cable or adapter that joins sockets, named "mount:port"; the case itself is "case".
struct Connect {
    std::string part;
    std::string from;
    std::vector<std::string> to;
    friend bool operator==(const Connect&, const Connect&) = default;
};
struct Disconnect {
    std::string part;
    std::string from;
    friend bool operator==(const Disconnect&, const Disconnect&) = default;
};
/// The way of a lead that is plugged in, by points in the case. Without points it follows the edges again.
struct RouteLead {
    std::string part;
    std::string from;
    std::string to;                              ///< of its ends; empty: the first
    std::vector<std::array<double, 3>> pointsMm; ///< corners between its plugs, from the first to the second
    friend bool operator==(const RouteLead&, const RouteLead&) = default;
};
struct SetFeet {
    double mm = 8;
    friend bool operator==(const SetFeet&, const SetFeet&) = default;
};
/// How clogged the screen of an opening is: months of dust, or cleaned.
struct SetFouling {
    std::string opening;
    double fouling = 2;
    friend bool operator==(const SetFouling&, const SetFouling&) = default;
};
/// Carries out a modification of the case.
struct Modify {
    std::string modification;
    friend bool operator==(const Modify&, const Modify&) = default;
};

using AnyChange =
    std::variant<SetCase, PlacePart, SwapPart, RemovePart, FlipFan, SetFan, SetScreen, SetOpening, MovePart, Orient,
                 LimitPower, ChooseVariant, SetPlug, Connect, Disconnect, SetFeet, Modify, SetFouling, RouteLead>;

/// One change. A class of its own, so that copying and comparing seventeen kinds is compiled once and not in every file
/// that holds a project.
struct Change : AnyChange {
    using AnyChange::AnyChange;
    Change();
    Change(const Change& other);
    Change(Change&& other) noexcept;
    Change& operator=(const Change& other);
    Change& operator=(Change&& other) noexcept;
    ~Change();
    friend bool operator==(const Change& a, const Change& b);
};

/// The change in words, made from the change itself, e.g. "Cooler L37 to Cooler L47".
/// @p before names what was there; pass the project so that parts are called by their names.
[[nodiscard]] Sentence describe(const Change& change, const Project& project, const std::string& parentRevision = {});

/// The mount, or the part, that a change names; empty: it names none.
[[nodiscard]] std::string changedMount(const Change& change);
[[nodiscard]] std::string changedPart(const Change& change);

[[nodiscard]] std::string_view styleWord(OpeningStyle style);
[[nodiscard]] std::optional<OpeningStyle> styleFromWord(std::string_view word);
[[nodiscard]] std::string_view screenWord(Screen screen);
[[nodiscard]] std::optional<Screen> screenFromWord(std::string_view word);
[[nodiscard]] std::string_view fanModeWord(FanMode mode);
[[nodiscard]] std::optional<FanMode> fanModeFromWord(std::string_view word);

} // namespace core

// Compiled once, in change.cpp.
extern template class std::vector<core::Change>;
