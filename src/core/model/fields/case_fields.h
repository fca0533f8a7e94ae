// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/choices_of.h"
#include "core/model/fields/field.h"

// What only a case has.
namespace core {

MD_FIELDS(Loss, "loss", "Something a modification takes away, and what does its work afterwards.") {
    a(text("what", "What is lost", "e.g. front USB"), v.what);
    a(text("gives", "Offered no more", "Kind of plug the case no longer offers").naming(Names::Plug), v.gives,
      std::string{});
    a(text("needs", "Taken up no more", "Kind of plug the case no longer takes up").naming(Names::Plug), v.needs,
      std::string{});
    a(text("mount", "Place that is gone").naming(Names::Place), v.mount, std::string{});
    a(text("replace", "What then needs replacing", "In words"), v.replace, std::string{});
    a(text("replaced_by", "Replaced by", "Kind of plug that the replacement brings").naming(Names::Plug), v.replacedBy,
      std::string{});
}
MD_FIELDS(Modification, "modification",
          "A change that can be made to a case with tools: what it takes away, what it costs and how it is done.") {
    a(text("id", "Name in files", "Used once"), v.id);
    a(text("name", "Name"), v.name, v.id.empty() ? std::string{} : v.id);
    a(list("losses", "What it takes away"), v.losses, {});
    a(list("opens", "Openings that become plain holes"), v.opens, {});
    a(number("minutes", unit::minutes, 0, 10000, "Minutes"), v.minutes, 0.0);
    a(number("price", unit::money, 0, 1e6, "Price"), v.price, 0.0);
    a(text("tool", "Tool"), v.tool, std::string{});
    a(text("safety", "Caution", "Left out: the usual cautions for cutting"), v.safety, std::string{});
}
MD_FIELDS(Chamber, "chamber", "An air space of a case: a box in case coordinates.") {
    a(text("id", "Name in files", "Used once"), v.id);
    a(text("name", "Name"), v.name, v.id.empty() ? std::string{} : v.id);
    a(number("low_mm", unit::mm, -2000, 2000, "Low corner"), v.lowMm);
    a(number("high_mm", unit::mm, -2000, 2000, "High corner"), v.highMm);
}
MD_FIELDS(Opening, "opening",
          "A part of a panel that air may pass. centre_mm and size_mm lie in its plane: (y, z) on left and right, (x, "
          "z) on front and rear, (x, y) on bottom and top.") {
    a(text("id", "Name in files", "Used once"), v.id);
    a(text("name", "Name"), v.name, v.id.empty() ? std::string{} : v.id);
    a(choice("side", "Side"), v.side);
    a(text("chamber", "Chamber", "The air space on its inner side").naming(Names::Chamber), v.chamber);
    a(text("to", "Leads to", "The chamber behind it; left out: the outside").naming(Names::Chamber), v.to,
      std::string{});
    a(number("centre_mm", unit::mm, -2000, 2000, "Middle"), v.centreMm);
    a(number("size_mm", unit::mm, 1, 2000, "Size"), v.sizeMm);
    a(flag("round", "Round", "An ellipse that fills size_mm"), v.round, false);
    a(choice("style", "Kind"), v.style, OpeningStyle::Mesh);
    const bool printed = v.style == OpeningStyle::Printed;
    a(number("perforation", unit::share, 0, 1, "Open share", "Of the plate; printed: 0.4 when left out"), v.perforation,
      printed ? 0.40 : 0.45);
    a(number("hole_mm", unit::mm, 0.1, 500, "Hole", "Across one hole; printed: 4 when left out"), v.holeMm,
      printed ? 4.0 : 3.0);
    a(number("thickness_mm", unit::mm, 0, 50, "Thickness", "Of the plate; printed: 3 when left out"), v.thicknessMm,
      printed ? 3.0 : 1.0);
    a(choice("screen", "Screen"), v.screen, Screen::None);
    a(number("fouling", unit::none, 1, 10, "Fouling",
             "How many times the resistance of its clean screen: 1 clean, 2 to 3 after months"),
      v.fouling, 1.0);
    a(number("blocked_share", unit::share, 0, 1, "Blocked",
             "Share of the area covered by something that is not modelled"),
      v.blockedShare, 0.0);
}
MD_FIELDS(Panel, "panel", "What is said of one side of a case.") {
    a(choice("side", "Side"), v.side);
    a(flag("flexible", "Flexible", "May be forced out by 2 mm"), v.flexible, false);
    a(flag("removable", "Comes off"), v.removable, true);
    a(number("lip_mm", unit::mm, 0, 500, "Lip",
             "Frame that stays around the opening when the panel is off, on all four edges"),
      v.lipMm, 0.0);
}
MD_FIELDS(CaseSpec, "case", "What only a case has.") {
    a.measure(number("wall_mm", unit::mm, 0.01, 2000, "Wall", "The same on all sides"), v.wall, Source::Drawing);
    a(number("feet_mm", unit::mm, 0, 200, "Feet", "Free height under the case"), v.feetMm, 8.0);
    a(choice("material", "Walls of"), v.material, WallMaterial::Steel);
    a(list("pieces", "Put together from", "Made parts of the shelf"), v.pieces, {});
    a(list("board_forms", "Board forms", "That its tray takes, e.g. mini-itx").by("Mini-ITX addendum to microATX"),
      v.boardForms, {});
    a(list("supply_forms", "Supply forms", "That its supply bay takes, e.g. sfx; none: not stated")
          .by("ATX12V and SFX12V design guides"),
      v.supplyForms, {});
    a(number("slot_covers", unit::none, 0, 20, "Slot covers", "At the rear, for cards; 0: not stated")
          .by("PCI Express card electromechanical specification"),
      v.slotCovers, 0);
    a(list("chambers", "Chambers", "Its air spaces, at least one and at most 64").atLeast(1), v.chambers);
    a(list("panels", "Panels"), v.panels, {});
    a(list("openings", "Openings"), v.openings, {});
    a(list("modifications", "Modifications", "That can be made to it"), v.modifications, {});
}

} // namespace core
