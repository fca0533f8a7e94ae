// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/change_fields.h"
#include "core/model/fields/part_fields.h"

// The project, its brief, revisions and the heads of its runs.
namespace core {

MD_FIELDS(Target, "target",
          "One thing the computer must hold, in °C, dB(A), MHz, mm, L, g, money or W by its kind; clock and gap are "
          "floors, the others caps.") {
    a(text("id", "Name in files", "Used once"), v.id);
    a(text("name", "Name"), v.name, v.id.empty() ? std::string{} : v.id);
    a(choice("kind", "Kind"), v.kind);
    a(text("subject", "Of", "Mount of the part, for temperature and clock").naming(Names::TakenPlace), v.subject,
      std::string{});
    a(number("limit", unit::none, -1e6, 1e6, "Limit"), v.limit);
}
MD_FIELDS(LoadPower, "load power", "What a part draws under a load.") {
    a(text("mount", "Part").naming(Names::PoweredPlace), v.mount);
    a(number("power_w", unit::watt, 0, 2000, "Power"), v.watts);
}
MD_FIELDS(Load, "load", "How hard the machine works: shares of the rated power of its parts.") {
    a(text("id", "Name in files", "Used once"), v.id);
    a(text("name", "Name"), v.name, v.id.empty() ? std::string{} : v.id);
    a(number("processor_share", unit::share, 0, 2, "Processor"), v.processorShare, 1.0);
    a(number("card_share", unit::share, 0, 2, "Card"), v.cardShare, 1.0);
    a(list("powers", "Watts of single parts", "They go before the shares"), v.powers, {});
}
MD_FIELDS(Brief, "brief", "What must hold.") {
    a(text("purpose", "Purpose"), v.purpose, std::string{});
    a(number("room_c", unit::celsius, -20, 60, "Room temperature", "All is judged at it"), v.roomC, 23.0);
    a(number("hottest_room_c", unit::celsius, 0, 60, "Hottest room", "At which it must still hold; 0: not stated"),
      v.hottestC, 0.0);
    a(number("listener_m", unit::m, 0.1, 10, "Listener at", "Distance at which noise is judged"), v.listenerM, 1.0);
    a(number("altitude_m", unit::m, -400, 6000, "Altitude"), v.altitudeM, 0.0);
    a(text("load", "Load judged at", "The targets are judged at it").naming(Names::Load), v.load, std::string{});
    a(list("targets", "Targets"), v.targets, {});
    a(stated("carry_box_mm", unit::mm, 0.01, 3000, "Carry box",
             "Inner size of the box it is carried in, any way round; 0: none"),
      v.carryBoxMm, std::array<double, 3>{});
}
MD_FIELDS(NeedOverride, "need", "A need of your own instead of the one of a clearance rule.") {
    a(text("rule", "Rule", "Of a clearance, by its name"), v.rule);
    a(number("need_mm", unit::mm, 0, 200, "Need"), v.needMm);
    a(text("note", "Why"), v.note, std::string{});
}
MD_FIELDS(AirValue, "air value",
          "A value of your own in the air network, instead of the one that follows from the box.") {
    a(text("element", "Element", "Room, opening, fan or part, as the network names it"), v.element);
    a(choice("quantity", "What", "In the unit that the network tells it in"), v.quantity);
    a(number("value", unit::none, -1e12, 1e12, "Value", "Only a height can be below nought"), v.value);
    a(text("note", "Why"), v.note, std::string{});
}
MD_FIELDS(Printer, "printer", "The printer that made parts must fit.") {
    a(number("bed_mm", unit::mm, 10, 2000, "Bed", "Width, depth and height"), v.bedMm);
    a(number("flow_mm3_s", unit::cubicMillimetresPerSecond, 0.1, 200, "Plastic",
             "Volume a second, averaged over a print"),
      v.flowMm3s, 9.0);
    a(number("price_per_kg", unit::money, 0, 1e5, "Price a kilogram"), v.pricePerKg, 25.0);
    a(number("border_mm", unit::mm, 0, 100, "Border", "Of the bed that stays free on each side"), v.borderMm, 5.0);
}
MD_FIELDS(ObservedLink, "observed link",
          "What a link was seen to run at on the machine built so, by the tool that reads it.") {
    a(text("mount", "Part").naming(Names::TakenPlace), v.mount);
    a(number("generation", unit::none, 1, 5, "Generation"), v.generation);
    a(number("lanes", unit::none, 1, 16, "Lanes"), v.lanes);
}
MD_FIELDS(Revision, "revision", "A parent plus changes; the first has no parent and starts with a case.") {
    a(text("id", "Name", "Used once"), v.id);
    a(text("parent", "Made from", "Left out: it is the first").naming(Names::Revision), v.parent, std::string{});
    a(list("changes", "Changes"), v.changes, {});
    a(text("note", "Note"), v.note, std::string{});
    a(flag("validated", "Validated"), v.validated, false);
    a(list("observed_links", "Links seen"), v.observed, {});
}
MD_FIELDS(Channel, "channel", "What a column of a log is. Values are taken in °C, rpm, MHz, W and dB(A).") {
    a(text("name", "Column", "Its heading; of columns with one heading the first is the first named one"), v.name);
    a(choice("kind", "Kind"), v.kind);
    a(text("unit", "Unit"), v.unit, std::string{});
    a(text("subject", "Whose", "Mount of the part").naming(Names::TakenPlace), v.subject, std::string{});
    a(flag("assumed", "A guess", "Whose it is was guessed: it proves nothing"), v.assumed, false);
}
/// Readings are kept apart: in runs/*.csv, or in blocks of the database.
MD_FIELDS(Run, "run", "A logged test.") {
    a(text("id", "Name in files", "Used once"), v.id);
    a(text("name", "Name"), v.name, v.id.empty() ? std::string{} : v.id);
    a(text("revision", "Revision").naming(Names::Revision), v.revision);
    a(text("load", "Load").naming(Names::Load), v.load, std::string{});
    a.optional(number("room_c", unit::celsius, -30, 60, "Room", "Typed in, where the log has no room channel"),
               v.roomC);
    a(text("instruments", "Instruments"), v.instruments, std::string{});
    a(text("note", "Note"), v.note, std::string{});
    a(text("source", "Source", "file, rig or capture"), v.source, std::string{});
    a(flag("simulated", "Simulated",
           "Made by a simulated device: for ever, and it proves nothing, except in a project that is a simulation"),
      v.simulated, v.source == "rig"); // so it was said before the mark was
    a(number("distance_m", unit::m, 0.01, 100, "Meter at", "Distance of the sound level meter"), v.distanceM, 1.0);
    a.optional(number("load_start_s", unit::seconds, -1e10, 1e10, "Load starts",
                      "Where the program does not find it by itself"),
               v.loadStartS);
    a.optional(number("load_end_s", unit::seconds, -1e10, 1e10, "Load ends"), v.loadEndS);
}
MD_FIELDS(Project, "project", "Everything but readings.") {
    a(text("id", "Name in files",
           "Made for a project that was started in the window: tells two projects of one name apart"),
      v.id, std::string{});
    a(text("name", "Name"), v.name);
    a(text("currency", "Currency", "Word behind prices"), v.currency, std::string("EUR"));
    a(flag("simulation", "A simulation",
           "The project says of itself that it is one: its simulated runs count, and every page says so"),
      v.simulation, false);
    a(group("brief", "Brief"), v.brief, Brief{});
    a(group("printer", "Printer"), v.printer, Printer{});
    a(list("loads", "Loads"), v.loads, {});
    a(list("needs", "Needs of your own", "Instead of a clearance rule's"), v.needs, {});
    a(list("air_values", "Air values of your own", "Instead of what the network takes from the box"), v.airValues, {});
    a(list("shelf", "Shelf", "The parts at hand"), v.shelf, {});
    a(list("revisions", "Revisions"), v.revisions, {});
    a(text("baseline", "Baseline", "Revision that others are compared with").naming(Names::Revision), v.baseline,
      std::string{});
}

} // namespace core
