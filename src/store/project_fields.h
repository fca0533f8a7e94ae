// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/part_fields.h"

// The field lists of changes, runs and the project in the interchange format.
namespace store {

#define MD_FIELDS(Type)                                                                                                                        \
    template <class A, class T> requires std::same_as<std::remove_const_t<T>, core::Type> void fields(A& a, T& v)

// ---- changes ----
MD_FIELDS(SetCase) { a("part", v.part); }
MD_FIELDS(PlacePart) {
    a("part", v.part);
    a("mount", v.mount);
    a("flow", v.flow, core::FanFlow::In);
}
MD_FIELDS(SwapPart) {
    a("mount", v.mount);
    a("part", v.part);
}
MD_FIELDS(RemovePart) { a("mount", v.mount); }
MD_FIELDS(FlipFan) { a("mount", v.mount); }
MD_FIELDS(SetFan) {
    a("mount", v.mount);
    a("mode", v.mode, core::FanMode::Fixed);
    a("duty", v.duty, 0.6);
}
MD_FIELDS(SetScreen) {
    a("opening", v.opening);
    a("screen", v.screen);
}
MD_FIELDS(SetOpening) {
    a("opening", v.opening);
    a("style", v.style);
    a("perforation", v.perforation, 0.45);
}
MD_FIELDS(MovePart) {
    a("mount", v.mount);
    a("axis", v.axis);
    a("by_mm", v.by);
}
MD_FIELDS(Orient) { a("down", v.down); }
MD_FIELDS(LimitPower) {
    a("mount", v.mount);
    a("power_w", v.watts);
}

MD_FIELDS(ChooseVariant) {
    a("mount", v.mount);
    a("variant", v.variant, std::string{});
}
MD_FIELDS(SetPlug) {
    a("mount", v.mount);
    a("port", v.port);
    a("plug", v.style, core::PlugStyle::Straight);
    directionField(a, "towards", v.towards, {core::Axis::Y, 1});
}
MD_FIELDS(Connect) {
    a("part", v.part);
    a("from", v.from, std::string{});
    list(a, "to", v.to);
}
MD_FIELDS(Disconnect) {
    a("part", v.part);
    a("from", v.from, std::string{});
}
MD_FIELDS(SetFeet) { a("feet_mm", v.mm); }
MD_FIELDS(Modify) { a("modification", v.modification); }

/// In the order of the alternatives of core::Change.
constexpr std::array<const char*, 17> changeWords{"case", "place", "swap", "remove", "flip-fan", "set-fan", "set-screen", "set-opening", "move", "lay", "limit-power", "variant", "plug", "connect", "disconnect", "feet", "modify"};
constexpr const char* changeWordList = "one of case, place, swap, remove, flip-fan, set-fan, set-screen, set-opening, move, lay, limit-power, variant, plug, connect, disconnect, feet, modify";
static_assert(changeWords.size() == std::variant_size_v<core::AnyChange>);

MD_FIELDS(Change) {
    if constexpr (A::reading) {
        std::string word;
        a("do", word);
        bool found = false;
        const auto attempt = [&]<std::size_t... I>(std::index_sequence<I...>) {
            ((word == changeWords[I] ? (found = true, v.template emplace<I>(), fields(a, std::get<I>(v))) : void()), ...);
        };
        attempt(std::make_index_sequence<changeWords.size()>{});
        if (!found)
            A::fail(a.at("do"), "is \"" + word.substr(0, 40) + "\"", changeWordList);
    } else {
        a("do", std::string(changeWords[v.index()]));
        std::visit([&](const auto& c) { fields(a, c); }, v);
    }
}

// ---- project ----
MD_FIELDS(Target) {
    a("id", v.id);
    a("name", v.name, v.id.empty() ? std::string{} : v.id);
    a("kind", v.kind);
    a("subject", v.subject, std::string{});
    a("limit", v.limit);
}
MD_FIELDS(Load) {
    a("id", v.id);
    a("name", v.name, v.id.empty() ? std::string{} : v.id);
    a("processor_share", v.processorShare, 1.0);
    a("card_share", v.cardShare, 1.0);
}
MD_FIELDS(Brief) {
    a("purpose", v.purpose, std::string{});
    a("room_c", v.roomC, 23.0);
    a("listener_m", v.listenerM, 1.0);
    a("altitude_m", v.altitudeM, 0.0);
    a("load", v.load, std::string{});
    list(a, "targets", v.targets);
    a("carry_box_mm", v.carryBoxMm, std::array<double, 3>{});
}
MD_FIELDS(NeedOverride) {
    a("rule", v.rule);
    a("need_mm", v.needMm);
    a("note", v.note, std::string{});
}
MD_FIELDS(Printer) {
    a("bed_mm", v.bedMm);
    a("flow_mm3_s", v.flowMm3s, 9.0);
    a("price_per_kg", v.pricePerKg, 25.0);
    a("border_mm", v.borderMm, 5.0);
}
MD_FIELDS(ObservedLink) {
    a("mount", v.mount);
    a("generation", v.generation);
    a("lanes", v.lanes);
}
MD_FIELDS(Revision) {
    a("id", v.id);
    a("parent", v.parent, std::string{});
    list(a, "changes", v.changes);
    a("note", v.note, std::string{});
    a("validated", v.validated, false);
    list(a, "observed_links", v.observed);
}
MD_FIELDS(Channel) {
    a("name", v.name);
    a("kind", v.kind);
    a("unit", v.unit, std::string{});
    a("subject", v.subject, std::string{});
    a("assumed", v.assumed, false);
}
/// Readings are kept apart: in runs/*.csv, or in blocks of the database.
MD_FIELDS(Run) {
    a("id", v.id);
    a("name", v.name, v.id.empty() ? std::string{} : v.id);
    a("revision", v.revision);
    a("load", v.load, std::string{});
    a.optional("room_c", v.roomC);
    a("instruments", v.instruments, std::string{});
    a("note", v.note, std::string{});
    a("source", v.source, std::string{});
    a("simulated", v.simulated, v.source == "rig"); // so it was said before the mark was
    a("distance_m", v.distanceM, 1.0);
    a.optional("load_start_s", v.loadStartS);
    a.optional("load_end_s", v.loadEndS);
}
MD_FIELDS(Project) {
    a("id", v.id, std::string{});
    a("name", v.name);
    a("currency", v.currency, std::string("EUR"));
    a("simulation", v.simulation, false);
    a("brief", v.brief, core::Brief{});
    a("printer", v.printer, core::Printer{});
    list(a, "loads", v.loads);
    list(a, "needs", v.needs);
    list(a, "shelf", v.shelf);
    list(a, "revisions", v.revisions);
    a("baseline", v.baseline, std::string{});
}
#undef MD_FIELDS

// Reading and writing them is compiled once, in fields_read.cpp and fields_write.cpp.
#define MD_FOR_OUTER_FIELDS(DO) \
    DO(Part) DO(Change) DO(Revision) DO(Channel) DO(Run) DO(Load) \
    DO(Target) DO(Brief) DO(NeedOverride) DO(Printer) DO(Project)
#define MD_NOT_HERE(Type) \
    extern template void fields<JsonReader, core::Type>(JsonReader&, core::Type&); \
    extern template void fields<JsonWriter, const core::Type>(JsonWriter&, const core::Type&);
MD_FOR_OUTER_FIELDS(MD_NOT_HERE)
#undef MD_NOT_HERE

} // namespace store
