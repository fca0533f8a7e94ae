// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/spec_fields.h"

// A part, its bodies, places and sockets.
namespace core {

MD_FIELDS(MountVariant, "variant",
          "Another way to sit at a mount; what is not said is as in the mount. x, y and z go together.") {
    a(text("id", "Name in files", "Used once at this place"), v.id);
    a(text("name", "Name"), v.name, v.id.empty() ? std::string{} : v.id);
    a.optional(list("accepts", "Takes", "Kinds of parts"), v.accepts);
    a.place(v.at);
    a.optional(choice("facing", "Facing", "The owner's direction into which the part's depth grows"), v.facing);
    a.optional(choice("up", "Up", "The owner's direction of the part's own y"), v.up);
    a(flag("outside", "Outside the case", "On purpose"), v.outside, false);
}
MD_FIELDS(Slide, "slide", "How far a part may be moved at its mount without new holes.") {
    a(choice("axis", "Along", "Of the owner"), v.axis);
    a(number("from_mm", unit::mm, -2000, 2000, "From"), v.fromMm);
    a(number("to_mm", unit::mm, -2000, 2000, "To"), v.toMm);
    a(number("step_mm", unit::mm, 0, 2000, "Step", "0: anywhere between"), v.stepMm, 0.0);
}
MD_FIELDS(Mount, "mount", "A named place, on a case or on a part that carries others.") {
    a(text("id", "Name in files", "Used once on its owner; the full name is the path, e.g. tray/cpu/lid"), v.id);
    a(text("name", "Name"), v.name, v.id.empty() ? std::string{} : v.id);
    a(list("accepts", "Takes", "Kinds of parts"), v.accepts);
    a.place(v.at);
    a(choice("facing", "Facing",
             "The owner's direction into which the part's depth grows, away from what it is fixed to"),
      v.facing, Direction{Axis::Z, 1});
    a(choice("up", "Up", "The owner's direction of the part's own y"), v.up, Direction{Axis::Y, 1});
    a(list("variants", "Other ways to sit there"), v.variants, {});
    a(list("slides", "Rows of holes and slots"), v.slides, {});
    a(flag("outside", "Outside the case", "On purpose; else a part that lies wholly outside is refused"), v.outside,
      false);
    a(stated("frame_mm", unit::mm, 20, 300, "Holes for a fan of", "Frame of the fan its holes are drilled for"),
      v.frameMm, 0.0);
}
MD_FIELDS(Cutout, "cutout", "A hole through a plate, in the two axes across the axis its body lies along.") {
    a(flag("round", "Round", "An ellipse that fills its rectangle"), v.round, false);
    a(number("at_mm", unit::mm, -2000, 2000, "Low corner"), v.atMm);
    a(number("size_mm", unit::mm, 0.01, 2000, "Size"), v.sizeMm);
}
MD_FIELDS(Body, "body", "A solid, or a space that must stay free, in the part's own axes.") {
    a(text("name", "Name"), v.name);
    a(choice("shape", "Shape", "tube and ribbon follow route_mm"), v.shape, Shape::Box);
    a(choice("along", "Along", "Axis of a cylinder, and of the holes through a plate"), v.along, Axis::Z);
    a(choice("role", "Role", "A keep-out is space that must stay free"), v.role, BodyRole::Solid);
    a.measures(number("at_mm", unit::mm, -2000, 2000, "Low corner", "From the part's low corner"), v.at,
               Source::Drawing);
    a.measures(number("size_mm", unit::mm, 0, 2000, "Size",
                      "A tube: its diameter twice; a ribbon: width and thickness; the third is not used then"),
               v.size, Source::Sheet);
    a(choice("use", "Kept free for", "Of a keep-out: decides what its neighbour must leave"), v.use, Use::Plug);
    a(number("turn_deg", unit::degrees, -360, 360, "Turned",
             "About its own middle: about x, then y, then z of the part"),
      v.turnDeg, std::array<double, 3>{});
    a(list("cutouts", "Holes through it", "Of a box"), v.cutouts, {});
    a(number("route_mm", unit::mm, -2000, 2000, "Points of its middle line", "Of a tube or ribbon, from at_mm"),
      v.routeMm, {});
    a(number("bend_mm", unit::mm, 0, 500, "Least bend radius", "Of the middle line of a tube or ribbon"), v.bendMm,
      0.0);
}
MD_FIELDS(Port, "port", "A socket at its place: the plug that goes in needs room, and a lead can be measured to it.") {
    a(text("id", "Name", "Used once on its part"), v.id);
    a(text("kind", "Plug", "Kind of the plug, e.g. card-8; left out: as its id").naming(Names::Plug), v.kind, v.id);
    a.measures(
        number("at_mm", unit::mm, -2000, 2000, "Middle of the socket", "From the part's low corner in its own axes"),
        v.at, Source::Drawing);
    a(choice("out", "Pulled off", "Own direction in which the plug is pulled off"), v.out, Direction{Axis::Z, 1});
    a(choice("plug", "Plug in it"), v.plug, PlugStyle::Straight);
    a(choice("towards", "Lead goes", "Own direction in which the lead bends, or leaves an angled plug"), v.towards,
      Direction{Axis::Y, 1});
    a(list("angled_ways", "Angled plugs", "Directions in which angled plugs can be had"), v.angledWays, {});
}
MD_FIELDS(Link, "link", "What a card, drive or adapter with lanes can do.") {
    a(number("generation", unit::none, 1, 5, "Generation"), v.generation);
    a(number("lanes", unit::none, 1, 16, "Lanes"), v.lanes);
    a(number("need_gb_s", unit::gigabits, 0, 10000, "The job needs", "0: not said"), v.needGbs, 0.0);
}
MD_FIELDS(Fastener, "fastener", "Screws of one kind.") {
    a(text("kind", "Kind", "e.g. M3 x 6 pan"), v.kind);
    a(number("count", unit::none, 0, 1000, "Count"), v.count);
}
MD_FIELDS(StepHint, "step", "How a part is put in; what is left out is filled from its kind.") {
    a(text("tool", "Tool"), v.tool, std::string{});
    a(number("minutes", unit::minutes, 0, 10000, "Minutes", "0: usual for its kind"), v.minutes, 0.0);
    a(list("after", "After", "Mounts that must be filled first"), v.after, {});
    a(text("safety", "Caution"), v.safety, std::string{});
}
MD_FIELDS(Part, "part",
          "A part of the shelf. size_mm is [width, height, depth] in its own axes: x width, y height, z depth off the "
          "mount; of a case it is the inside [width, depth, height] along x, y, z.") {
    a(text("id", "Name in files", "Used once"), v.id);
    a(choice("kind", "Kind"), v.kind);
    a(text("name", "Name"), v.name);
    // Makers state cooler heights and card sizes more loosely than other sizes; a bare number means that looser
    // tolerance.
    const bool loose = v.kind == PartKind::Cooler || v.kind == PartKind::Card;
    a.measures(number("size_mm", unit::mm, 0, 2000, "Size"), v.size, Source::Sheet,
               loose ? SheetKind::CoolerOrCard : SheetKind::Ordinary);
    a(list("bodies", "Bodies", "None: one box of the whole size"), v.bodies, {});
    a(list("mounts", "Places on it"), v.mounts, {});
    a(number("gives", unit::none, 0, 1000, "Gives plugs", "Sockets and plugs it offers, by kind, with their number"),
      v.gives, {});
    a(number("needs", unit::none, 0, 1000, "Needs plugs", "Sockets and plugs it takes up, by kind, with their number"),
      v.needs, {});
    a(list("ports", "Sockets at their place"), v.ports, {});
    a.optional(group("link", "Link"), v.link);
    a(number("power_w", unit::watt, 0, 2000, "Power, held", "What it draws for as long as the load lasts"), v.powerW,
      0.0);
    a(number("mass_g", unit::gram, 0, 50000, "Mass"), v.massG, 0.0);
    a(number("price", unit::money, 0, 1e6, "Price"), v.price, 0.0);
    a(list("fasteners", "Screws"), v.fasteners, {});
    a(group("step", "How it is put in"), v.step, StepHint{});
    a.spec(v);
}

} // namespace core
