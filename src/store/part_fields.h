// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/words.h"
#include "core/model/project.h"
#include "store/json_archive.h"

// The field lists of parts in the interchange format. docs/format.md and docs/project.schema.json describe them for people.
namespace store {

#define MD_WORDS(Type, wordFunction, fromFunction, listText)                                                                                   \
    template <> struct EnumWords<Type> {                                                                                                       \
        static std::string_view word(Type v) { return wordFunction(v); }                                                                       \
        static std::optional<Type> from(std::string_view w) { return fromFunction(w); }                                                        \
        static std::string list() { return listText; }                                                                                         \
    };
MD_WORDS(core::PartKind, core::kindWord, core::kindFromWord, "case, board, processor, cooler, fan, card, supply, drive, memory, adapter, cable, made, radiator")
MD_WORDS(core::Side, core::sideWord, core::sideFromWord, "left, right, front, rear, bottom, top")
MD_WORDS(core::OpeningStyle, core::styleWord, core::styleFromWord, "mesh, printed, plain, closed")
MD_WORDS(core::Screen, core::screenWord, core::screenFromWord, "none, fine, coarse")
MD_WORDS(core::FanMode, core::fanModeWord, core::fanModeFromWord, "fixed, processor, card")
MD_WORDS(core::TargetKind, core::targetWord, core::targetFromWord, "temperature, noise, clock, gap, volume, mass, cost, power")
MD_WORDS(core::ChannelKind, core::channelKindWord, core::channelKindFromWord, "temperature, room, rpm, clock, power, level, other")
#undef MD_WORDS

// Words of the enums that only the files name.
#define MD_TABLE(Type, N, listText, ...)                                                                                                       \
    template <> struct EnumWords<Type> {                                                                                                       \
        static constexpr core::WordTable<Type, N> table{{__VA_ARGS__}};                                                                        \
        static std::string_view word(Type v) { return core::wordOf(table, v); }                                                                \
        static std::optional<Type> from(std::string_view w) { return core::fromWord(table, w); }                                               \
        static std::string list() { return listText; }                                                                                         \
    };
MD_TABLE(core::Axis, 3, "x, y, z", {core::Axis::X, "x"}, {core::Axis::Y, "y"}, {core::Axis::Z, "z"})
MD_TABLE(core::Shape, 4, "box, cylinder, tube, ribbon", {core::Shape::Box, "box"}, {core::Shape::Cylinder, "cylinder"}, {core::Shape::Tube, "tube"}, {core::Shape::Ribbon, "ribbon"})
MD_TABLE(core::Use, 6, "plug, lead, blades, tool, foot, frame", {core::Use::Plug, "plug"}, {core::Use::Lead, "lead"}, {core::Use::Blades, "blades"}, {core::Use::Tool, "tool"}, {core::Use::Foot, "foot"}, {core::Use::Frame, "frame"})
MD_TABLE(core::PlugStyle, 2, "straight, angled", {core::PlugStyle::Straight, "straight"}, {core::PlugStyle::Angled, "angled"})
MD_TABLE(core::BodyRole, 2, "solid, keep-out", {core::BodyRole::Solid, "solid"}, {core::BodyRole::KeepOut, "keep-out"})
MD_TABLE(core::WallMaterial, 3, "steel, aluminium, plastic", {core::WallMaterial::Steel, "steel"}, {core::WallMaterial::Aluminium, "aluminium"}, {core::WallMaterial::Plastic, "plastic"})
MD_TABLE(core::CoolerType, 3, "top-down, tower, liquid", {core::CoolerType::TopDown, "top-down"}, {core::CoolerType::Tower, "tower"}, {core::CoolerType::Liquid, "liquid"})
MD_TABLE(core::CardCooler, 4, "single, dual, triple, blower", {core::CardCooler::Single, "single"}, {core::CardCooler::Dual, "dual"}, {core::CardCooler::Triple, "triple"}, {core::CardCooler::Blower, "blower"})
MD_TABLE(core::DriveForm, 4, "3.5, 2.5, m.2, m.2-sink", {core::DriveForm::Inch35, "3.5"}, {core::DriveForm::Inch25, "2.5"}, {core::DriveForm::M2Bare, "m.2"}, {core::DriveForm::M2Sink, "m.2-sink"})
MD_TABLE(core::Process, 2, "print, cut", {core::Process::Print, "print"}, {core::Process::Cut, "cut"})
MD_TABLE(core::FanFlow, 2, "in, out", {core::FanFlow::In, "in"}, {core::FanFlow::Out, "out"})
#undef MD_TABLE

/// Lists are optional everywhere and empty by default.
template <class A, class T> void list(A& a, const char* key, T&& values) { a(key, values, std::decay_t<T>{}); }

// ---- parts ----

template <class A, class M> void directionField(A& a, const char* key, M& d, core::Direction otherwise) {
    std::string word = core::directionWord(d);
    a(key, word, core::directionWord(otherwise));
    if constexpr (A::reading) {
        const auto found = core::directionFromWord(word);
        if (!found)
            A::fail(a.at(key), "is \"" + word.substr(0, 40) + "\"", "+x, -x, +y, -y, +z or -z");
        d = *found;
    }
}

/// {"low": 6}: what the offset is measured from is the key.
template <class A, class O> void offsetField(A& a, const char* key, O& offset) {
    constexpr core::WordTable<core::Ref, 5> words{{{core::Ref::Low, "low"}, {core::Ref::High, "high"}, {core::Ref::Centre, "centre"}, {core::Ref::Above, "above"}, {core::Ref::Below, "below"}}};
    if constexpr (A::reading) {
        a.seen(key);
        const auto it = a.json().find(key);
        if (it == a.json().end()) {
            offset = {};
            return;
        }
        const std::string place = a.at(key);
        if (!it->is_object() || it->size() != 1 || !core::fromWord(words, it->begin().key()))
            A::fail(place, "is " + A::typeWord(*it), "one of {\"low\": mm}, {\"high\": mm}, {\"centre\": mm}, {\"above\": mm}, {\"below\": mm}");
        offset.ref = *core::fromWord(words, it->begin().key());
        JsonReader inner(*it, place, a.warnings());
        inner.measure(it->begin().key().c_str(), offset.value, core::measureMm(0, core::Source::Drawing));
    } else {
        if (offset == core::Offset{})
            return;
        JsonWriter inner;
        inner.measure(std::string(core::wordOf(words, offset.ref)).c_str(), offset.value, JsonWriter::plainMeasure(offset.value.value.mm(), core::Source::Drawing));
        a.json[key] = std::move(inner.json);
    }
}

#define MD_FIELDS(Type)                                                                                                                        \
    template <class A, class T> requires std::same_as<std::remove_const_t<T>, core::Type> void fields(A& a, T& v)

MD_FIELDS(MountVariant) {
    a("id", v.id);
    a("name", v.name, v.id.empty() ? std::string{} : v.id);
    a.optional("accepts", v.accepts);
    // Three offsets go together: a variant says all of its place, or none of it.
    const auto place = [&](core::Offset& x, core::Offset& y, core::Offset& z) {
        offsetField(a, "x", x);
        offsetField(a, "y", y);
        offsetField(a, "z", z);
    };
    if constexpr (A::reading) {
        const bool said = a.json().contains("x") || a.json().contains("y") || a.json().contains("z");
        std::array<core::Offset, 3> at;
        place(at[0], at[1], at[2]);
        v.at = said ? std::optional(at) : std::nullopt;
    } else if (v.at) {
        std::array<core::Offset, 3> at = *v.at;
        place(at[0], at[1], at[2]);
        if (!a.json.contains("x") && !a.json.contains("y") && !a.json.contains("z"))
            a.json["x"] = Json{{"low", 0}}; // all zero is still said
    }
    const auto way = [&](const char* key, auto& direction) {
        if constexpr (A::reading) {
            if (!a.json().contains(key)) {
                a.seen(key);
                direction = std::nullopt;
                return;
            }
            core::Direction d;
            directionField(a, key, d, {});
            direction = d;
        } else if (direction) {
            a.json[key] = core::directionWord(*direction);
        }
    };
    way("facing", v.facing);
    way("up", v.up);
    a("outside", v.outside, false);
}
MD_FIELDS(Slide) {
    a("axis", v.axis);
    a("from_mm", v.fromMm);
    a("to_mm", v.toMm);
    a("step_mm", v.stepMm, 0.0);
}
MD_FIELDS(Mount) {
    a("id", v.id);
    a("name", v.name, v.id.empty() ? std::string{} : v.id);
    a("accepts", v.accepts);
    offsetField(a, "x", v.at[0]);
    offsetField(a, "y", v.at[1]);
    offsetField(a, "z", v.at[2]);
    directionField(a, "facing", v.facing, {core::Axis::Z, 1});
    directionField(a, "up", v.up, {core::Axis::Y, 1});
    list(a, "variants", v.variants);
    list(a, "slides", v.slides);
    a("outside", v.outside, false);
    a("frame_mm", v.frameMm, 0.0);
}
MD_FIELDS(Cutout) {
    a("round", v.round, false);
    a("at_mm", v.atMm);
    a("size_mm", v.sizeMm);
}
MD_FIELDS(Body) {
    a("name", v.name);
    a("shape", v.shape, core::Shape::Box);
    a("along", v.along, core::Axis::Z);
    a("role", v.role, core::BodyRole::Solid);
    a.measures("at_mm", v.at, core::Source::Drawing);
    a.measures("size_mm", v.size, core::Source::Sheet);
    a("use", v.use, core::Use::Plug);
    a("turn_deg", v.turnDeg, std::array<double, 3>{});
    list(a, "cutouts", v.cutouts);
    list(a, "route_mm", v.routeMm);
    a("bend_mm", v.bendMm, 0.0);
}
template <class A, class V> void directionList(A& a, const char* key, V& ways) {
    std::vector<std::string> words;
    if constexpr (!A::reading)
        for (const core::Direction& d : ways)
            words.push_back(core::directionWord(d));
    list(a, key, words);
    if constexpr (A::reading) {
        ways.clear();
        for (const std::string& word : words) {
            const auto found = core::directionFromWord(word);
            if (!found)
                A::fail(a.at(key), "has \"" + word.substr(0, 40) + "\"", "+x, -x, +y, -y, +z or -z");
            ways.push_back(*found);
        }
    }
}
MD_FIELDS(Port) {
    a("id", v.id);
    a("kind", v.kind, v.id);
    a.measures("at_mm", v.at, core::Source::Drawing);
    directionField(a, "out", v.out, {core::Axis::Z, 1});
    a("plug", v.plug, core::PlugStyle::Straight);
    directionField(a, "towards", v.towards, {core::Axis::Y, 1});
    directionList(a, "angled_ways", v.angledWays);
}
MD_FIELDS(Link) {
    a("generation", v.generation);
    a("lanes", v.lanes);
    a("need_gb_s", v.needGbs, 0.0);
}
MD_FIELDS(Loss) {
    a("what", v.what);
    a("gives", v.gives, std::string{});
    a("needs", v.needs, std::string{});
    a("mount", v.mount, std::string{});
    a("replace", v.replace, std::string{});
    a("replaced_by", v.replacedBy, std::string{});
}
MD_FIELDS(Modification) {
    a("id", v.id);
    a("name", v.name, v.id.empty() ? std::string{} : v.id);
    list(a, "losses", v.losses);
    list(a, "opens", v.opens);
    a("minutes", v.minutes, 0.0);
    a("price", v.price, 0.0);
    a("tool", v.tool, std::string{});
    a("safety", v.safety, std::string{});
}
MD_FIELDS(Chamber) {
    a("id", v.id);
    a("name", v.name, v.id.empty() ? std::string{} : v.id);
    a("low_mm", v.lowMm);
    a("high_mm", v.highMm);
}
MD_FIELDS(Opening) {
    a("id", v.id);
    a("name", v.name, v.id.empty() ? std::string{} : v.id);
    a("side", v.side);
    a("chamber", v.chamber);
    a("to", v.to, std::string{});
    a("centre_mm", v.centreMm);
    a("size_mm", v.sizeMm);
    a("round", v.round, false);
    a("style", v.style, core::OpeningStyle::Mesh);
    const bool printed = v.style == core::OpeningStyle::Printed;
    a("perforation", v.perforation, printed ? 0.40 : 0.45);
    a("hole_mm", v.holeMm, printed ? 4.0 : 3.0);
    a("thickness_mm", v.thicknessMm, printed ? 3.0 : 1.0);
    a("screen", v.screen, core::Screen::None);
    a("fouling", v.fouling, 1.0);
    a("blocked_share", v.blockedShare, 0.0);
}
MD_FIELDS(Panel) {
    a("side", v.side);
    a("flexible", v.flexible, false);
    a("removable", v.removable, true);
    a("lip_mm", v.lipMm, 0.0);
}
MD_FIELDS(CaseSpec) {
    a.measure("wall_mm", v.wall, JsonWriter::plainMeasure(v.wall.value.mm(), core::Source::Drawing));
    a("feet_mm", v.feetMm, 8.0);
    a("material", v.material, core::WallMaterial::Steel);
    list(a, "pieces", v.pieces);
    list(a, "board_forms", v.boardForms);
    list(a, "supply_forms", v.supplyForms);
    a("slot_covers", v.slotCovers, 0);
    a("chambers", v.chambers);
    list(a, "panels", v.panels);
    list(a, "openings", v.openings);
    list(a, "modifications", v.modifications);
}
MD_FIELDS(BoardSlot) {
    a("kind", v.kind);
    a("generation", v.generation, 4);
    a("lanes", v.lanes, 4);
    a("chipset", v.chipset, false);
    a("group", v.group, std::string{});
    a("lanes_shared", v.lanesShared, 0);
}
MD_FIELDS(BoardSpec) {
    a("form", v.form, std::string("mini-itx"));
    a("socket", v.socket);
    a("memory_kind", v.memoryKind, std::string{});
    a("graphics_output", v.graphicsOutput, true);
    a("memory_slots", v.memorySlots, 2);
    a("memory_channels", v.memoryChannels, 2);
    a("chipset_lanes", v.chipsetLanes, 0);
    list(a, "slots", v.laneSlots);
    a("header_a", v.headerA, 1.0);
}
MD_FIELDS(ProcessorSpec) {
    a("socket", v.socket);
    a("graphics", v.graphics, false);
    a("clock_mhz", v.clockMhz, 4000.0);
    a("limit_c", v.limitC, 95.0);
    a("die_resistance_k_w", v.dieResistance, 0.30);
    a("lanes", v.lanes, 0);
    a("peak_w", v.peakW, 0.0);
}
MD_FIELDS(CoolerSpec) {
    a("type", v.type, core::CoolerType::TopDown);
    list(a, "sockets", v.sockets);
    a("fan_frame_mm", v.fanFrameMm, 92.0);
    a("fan_thickness_mm", v.fanThicknessMm, 15.0);
    a("rated_tdp_w", v.ratedTdpW, 0.0);
    a("metal", v.metal, std::string{});
    a("pump", v.pump, false);
    a("sealed", v.sealed, false);
    a("pump_dba", v.pumpDba, 0.0);
}
MD_FIELDS(FanSpec) {
    a("rpm", v.rpm, 0.0);
    a("free_flow_m3s", v.freeFlowM3s, 0.0);
    a("shutoff_pa", v.shutoffPa, 0.0);
    a("level_dba", v.levelDba, 0.0);
    a("min_duty", v.minDuty, 0.20);
    a("current_a", v.currentA, 0.0);
}
MD_FIELDS(CardSpec) {
    a("cooler", v.cooler, core::CardCooler::Dual);
    a("slots", v.slotCount, 2);
    a("clock_mhz", v.clockMhz, 1800.0);
    a("limit_c", v.limitC, 0.0);
}
MD_FIELDS(PowerSupplySpec) {
    a("form", v.form, std::string("sfx"));
    a("rated_w", v.ratedW);
    a("efficiency", v.efficiency, 0.90);
    a("brick", v.brick, false);
    a("peak_w", v.peakW, 0.0);
    a("rail_12v_a", v.rail12A, 0.0);
    a("twelve_pin_w", v.twelvePinW, 0.0);
    a("cable_family", v.cableFamily, std::string{});
    a("level_dba", v.levelDba, 0.0);
}
MD_FIELDS(RadiatorSpec) {
    a("frame_mm", v.frameMm, 120.0);
    a("fans", v.fans, 1);
    a("plate_mm", v.plateMm, 1.0);
    a("metal", v.metal, std::string("aluminium"));
    a("pump", v.pump, false);
    a("pump_dba", v.pumpDba, 0.0);
}
MD_FIELDS(AdapterSpec) {
    a("limit_w", v.limitW, 0.0);
    a("moulded", v.moulded, false);
}
MD_FIELDS(CableSpec) {
    a("length_mm", v.lengthMm, 500.0);
    a("family", v.family, std::string{});
    a("limit_w", v.limitW, 0.0);
}
MD_FIELDS(DriveSpec) {
    a("form", v.form, core::DriveForm::M2Bare);
    a("limit_c", v.limitC, 70.0);
    a("spin_up_a", v.spinUpA, 0.0);
    a("level_dba", v.levelDba, 0.0);
}
MD_FIELDS(MemorySpec) {
    a("memory_kind", v.memoryKind);
    a("modules", v.modules, 1);
}
MD_FIELDS(MadeSpec) {
    a("process", v.process, core::Process::Print);
    a("material", v.material, std::string("petg"));
    a("volume_cm3", v.volumeCm3, 0.0);
    a("shell_share", v.shellShare, 0.35);
    a("infill_share", v.infillShare, 0.20);
    a("count", v.count, 1);
}
MD_FIELDS(Fastener) {
    a("kind", v.kind);
    a("count", v.count);
}
MD_FIELDS(StepHint) {
    a("tool", v.tool, std::string{});
    a("minutes", v.minutes, 0.0);
    list(a, "after", v.after);
    a("safety", v.safety, std::string{});
}

/// The spec of a part sits under the word of its kind: "case": {...}, "fan": {...}.
template <class S, class A, class T> void specField(A& a, T& v) {
    const std::string key(core::kindWord(v.kind));
    if constexpr (A::reading) {
        a.seen(key);
        S spec{};
        const auto it = a.json().find(key);
        const Json empty = Json::object();
        JsonReader inner(it == a.json().end() ? empty : *it, a.at(key), a.warnings());
        fields(inner, spec);
        inner.finish();
        v.spec = std::move(spec);
    } else {
        JsonWriter inner(a.defaults());
        fields(inner, std::get<S>(v.spec));
        if (!inner.json.empty())
            a.json[key] = std::move(inner.json);
    }
}

MD_FIELDS(Part) {
    a("id", v.id);
    a("kind", v.kind);
    a("name", v.name);
    // Makers state cooler heights and card sizes more loosely than other sizes; a bare number means that looser tolerance.
    const auto loose = [&](const core::Measure& m) {
        return (v.kind == core::PartKind::Cooler || v.kind == core::PartKind::Card) && m.source == core::Source::Sheet && !m.toleranceStated;
    };
    core::Size3 size = v.size;
    if constexpr (!A::reading)
        for (core::Measure& m : size)
            m.tolerance = loose(m) ? core::defaultTolerance(m.source, m.value) : m.tolerance;
    a.measures("size_mm", size, core::Source::Sheet);
    if constexpr (A::reading) {
        for (core::Measure& m : size)
            m.tolerance = loose(m) ? core::defaultTolerance(m.source, m.value, core::SheetKind::CoolerOrCard) : m.tolerance;
        v.size = size;
    }
    list(a, "bodies", v.bodies);
    list(a, "mounts", v.mounts);
    list(a, "gives", v.gives);
    list(a, "needs", v.needs);
    list(a, "ports", v.ports);
    a.optional("link", v.link);
    a("power_w", v.powerW, 0.0);
    a("mass_g", v.massG, 0.0);
    a("price", v.price, 0.0);
    list(a, "fasteners", v.fasteners);
    a("step", v.step, core::StepHint{});
    switch (v.kind) {
    case core::PartKind::Case: specField<core::CaseSpec>(a, v); break;
    case core::PartKind::Board: specField<core::BoardSpec>(a, v); break;
    case core::PartKind::Processor: specField<core::ProcessorSpec>(a, v); break;
    case core::PartKind::Cooler: specField<core::CoolerSpec>(a, v); break;
    case core::PartKind::Fan: specField<core::FanSpec>(a, v); break;
    case core::PartKind::Card: specField<core::CardSpec>(a, v); break;
    case core::PartKind::PowerSupply: specField<core::PowerSupplySpec>(a, v); break;
    case core::PartKind::Drive: specField<core::DriveSpec>(a, v); break;
    case core::PartKind::Memory: specField<core::MemorySpec>(a, v); break;
    case core::PartKind::Made: specField<core::MadeSpec>(a, v); break;
    case core::PartKind::Radiator: specField<core::RadiatorSpec>(a, v); break;
    case core::PartKind::Adapter: specField<core::AdapterSpec>(a, v); break;
    case core::PartKind::Cable: specField<core::CableSpec>(a, v); break;
    }
}
#undef MD_FIELDS

} // namespace store
