// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/choices_of.h"
#include "core/model/fields/field.h"

// What a revision can change, kind by kind: the word behind "do", and its fields. A kind is added here, in change.h,
// with the function of resolve.cpp that applies it and the one of describe.cpp that words it.
namespace core {

/// The word of a kind of change in files, what it is called in a list, and what is said of it.
template <class C> struct ChangeWords;

/// The list of fields of the change @p Type.
#define MD_CHANGE(Type, wordText, labelText, aboutText)                                                                \
    template <> struct ChangeWords<Type> {                                                                             \
        static constexpr const char *word = wordText, *label = labelText, *about = aboutText;                          \
    };                                                                                                                 \
    template <class A, class T>                                                                                        \
    requires std::same_as<std::remove_const_t<T>, Type>                                                                \
    void fields([[maybe_unused]] A& a, [[maybe_unused]] T& v)

constexpr Field partAt(Names places = Names::TakenPlace, const char* label = "Part") {
    return text("mount", label).naming(places);
}
constexpr Field openingField() { return text("opening", "Opening").naming(Names::Opening); }

MD_CHANGE(SetCase, "case", "Another case",
          "The case of the build; what was in it stays where its places are called the same.") {
    a(text("part", "Case").naming(Names::CasePart), v.part);
}
MD_CHANGE(PlacePart, "place", "Place a part", "Puts a part of the shelf at a free place.") {
    a(text("part", "Part").naming(Names::Part), v.part);
    a(partAt(Names::FreePlace, "Place"), v.mount);
    a(choice("flow", "Blows", "Fans only"), v.flow, FanFlow::In);
}
MD_CHANGE(SwapPart, "swap", "Swap a part", "Puts another part where one sits; what sits on it stays.") {
    a(partAt(Names::SwapPlace), v.mount);
    a(text("part", "New part").naming(Names::Part), v.part);
}
MD_CHANGE(RemovePart, "remove", "Take a part out", "With all that sits on it.") { a(partAt(), v.mount); }
MD_CHANGE(FlipFan, "flip-fan", "Turn a fan round", "What blew in blows out.") {
    a(partAt(Names::TurnedPlace, "Fan"), v.mount);
}
MD_FIELDS(CurvePoint, "curve point", "A point of the curve by which a fan follows a temperature.") {
    a(number("temperature_c", unit::celsius, 0, 130, "Temperature"), v.temperatureC);
    a(number("duty", unit::share, 0, 1, "Share of full speed"), v.duty);
}
MD_CHANGE(SetFan, "set-fan", "Set a fan's speed", "Held, or following the temperature of a part.") {
    a(partAt(Names::FanPlace, "Fan"), v.mount);
    a(choice("mode", "Speed"), v.control.mode, FanMode::Fixed);
    a(number("duty", unit::share, 0, 1, "Share of full speed", "Used when it is held"), v.control.duty, 0.6);
    a(text("follows", "Follows", "The part whose temperature it follows, of mode part").naming(Names::TakenPlace),
      v.control.follows, std::string{});
    a(list("curve", "Curve", "Temperatures rising, with the share of full speed at each; none: the usual curve"),
      v.control.curve, {});
    a(number("hysteresis_k", unit::kelvin, 0, 30, "Slows down after", "When the part is cooler by this much"),
      v.control.hysteresisK, 0.0);
}
MD_CHANGE(SetScreen, "set-screen", "Dust screen", "On, off or another.") {
    a(openingField(), v.opening);
    a(choice("screen", "Screen"), v.screen);
}
MD_CHANGE(SetOpening, "set-opening", "Open share of a panel",
          "Mesh, grille, hole or closed, and how much of it is open.") {
    a(openingField(), v.opening);
    a(choice("style", "Kind"), v.style);
    a(number("perforation", unit::share, 0, 1, "Open share"), v.perforation, 0.45);
}
MD_CHANGE(MovePart, "move", "Move a part", "Along an axis of the case.") {
    a(partAt(), v.mount);
    a(choice("axis", "Along"), v.axis);
    a(number("by_mm", unit::mm, -2000, 2000, "By"), v.by);
}
MD_CHANGE(Orient, "lay", "Stand or lay the case", "The side it stands on.") { a(choice("down", "Stands on"), v.down); }
MD_CHANGE(LimitPower, "limit-power", "Limit the power of a part",
          "Belongs to the part it was set for: it ends with a swap and never raises the power.") {
    a(partAt(Names::PoweredPlace), v.mount);
    a(number("power_w", unit::watt, 0.001, 2000, "Power, at most"), v.watts);
}
MD_CHANGE(ChooseVariant, "variant", "Another way to sit at its place",
          "One of the variants of a place; empty: as the place is drawn.") {
    a(partAt(Names::VariedPlace, "Place"), v.mount);
    a(text("variant", "Way").naming(Names::Variant), v.variant, std::string{});
}
MD_CHANGE(SetPlug, "plug", "Another plug",
          "Straight, or angled with its lead leaving in an own direction of the part.") {
    a(partAt(Names::PluggedPlace), v.mount);
    a(text("port", "Socket").naming(Names::Port), v.port);
    a(choice("plug", "Plug"), v.style, PlugStyle::Straight);
    a(choice("towards", "Lead goes", "Of an angled plug: the ways in which it can be had").naming(Names::AngledWay),
      v.towards, Direction{Axis::Y, 1});
}
MD_CHANGE(Connect, "connect", "Plug in a cable or adapter",
          "Ends are \"place:port\", or \"place:kind of plug\"; the case is \"case\".") {
    a(text("part", "Lead").naming(Names::LeadPart), v.part);
    a(text("from", "From", "Empty: whatever is free").naming(Names::End), v.from, std::string{});
    a(list("to", "To").naming(Names::ServedEnd), v.to, {});
}
MD_CHANGE(Disconnect, "disconnect", "Unplug a cable or adapter", "The one that was plugged in there.") {
    a(text("part", "Lead").naming(Names::JoinedLead), v.part);
    a(text("from", "From").naming(Names::JoinedEnd), v.from, std::string{});
}
MD_CHANGE(SetFeet, "feet", "Height of the feet",
          "Count for the side it stands on at that moment; laid on another side it stands on pads of 3 mm until feet "
          "say otherwise.") {
    a(number("feet_mm", unit::mm, 0, 200, "Free height under the case"), v.mm);
}
MD_CHANGE(Modify, "modify", "Modify the case", "Carries out a modification of the case.") {
    a(text("modification", "Modification").naming(Names::Modification), v.modification);
}
MD_CHANGE(SetFouling, "dust", "Dust in a screen",
          "How clogged the screen of an opening is: what it does after months, or cleaned.") {
    a(openingField().naming(Names::ScreenedOpening), v.opening);
    a(number("fouling", unit::none, 1, 10, "Fouling",
             "How many times the resistance of the clean screen: 1 clean, 2 to 3 after months"),
      v.fouling, 2.0);
}

MD_CHANGE(RouteLead, "route", "Way of a lead",
          "The corners of a lead between its plugs, in the axes of the case; without any it follows the edges.") {
    a(text("part", "Lead").naming(Names::JoinedLead), v.part);
    a(text("from", "From").naming(Names::JoinedEnd), v.from, std::string{});
    a(text("to", "To", "Empty: its first end").naming(Names::RoutedEnd), v.to, std::string{});
    a(number("points_mm", unit::mm, -2000, 2000, "Corners", "From the case's inner corner at the left, front, bottom"),
      v.pointsMm, {});
}

/// "do" and the fields of that change.
MD_FIELDS(Change, "change", "One change of a revision: \"do\" says which, the other keys what.") { a.oneOf(v); }

/// Calls @p f.operator()<C>() for every kind of change, in the order of core::Change.
template <class F> void forEachChange(F&& f) {
    [&]<std::size_t... I>(std::index_sequence<I...>) {
        (f.template operator()<std::variant_alternative_t<I, AnyChange>>(), ...);
    }
    (std::make_index_sequence<std::variant_size_v<AnyChange>>{});
}

} // namespace core
