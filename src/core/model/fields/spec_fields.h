// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/case_fields.h"

// What only parts of one kind have, kind by kind; a case is in case_fields.h.
namespace core {

/// The sound of a part, as sheets state it.
constexpr NumberField levelField(const char* key, const char* label, const char* help) {
    return stated(key, unit::dba, -20, 120, label, help);
}

MD_FIELDS(BoardSlot, "slot", "A slot with lanes. Slots of one group share lanes.") {
    a(text("kind", "Kind", "Of plug, e.g. slot-x16, m.2").naming(Names::Plug), v.kind);
    a(number("generation", unit::none, 1, 5, "Generation").by("PCI Express base specification"), v.generation, 4);
    a(number("lanes", unit::none, 1, 16, "Lanes").by("PCI Express base specification"), v.lanes, 4);
    a(flag("chipset", "From the chipset", "Else from the processor"), v.chipset, false);
    a(text("group", "Shares lanes with", "Slots of one group share lanes"), v.group, std::string{});
    a(number("lanes_shared", unit::none, 0, 16, "Lanes left", "When another slot of its group is in use"),
      v.lanesShared, 0);
}
MD_FIELDS(BoardSpec, "board", "What only a board has.") {
    a(text("form", "Form", "mini-itx, micro-atx, atx").by("Mini-ITX addendum to microATX"), v.form,
      std::string("mini-itx"));
    a(text("socket", "Socket", "Of the processor, by any name"), v.socket);
    a(text("memory_kind", "Memory kind", "By any name"), v.memoryKind, std::string{});
    a(flag("graphics_output", "Picture socket", "Has a socket for the picture of a processor with graphics"),
      v.graphicsOutput, true);
    a(number("memory_slots", unit::none, 0, 16, "Memory slots"), v.memorySlots, 2);
    a(number("memory_channels", unit::none, 1, 16, "Memory channels"), v.memoryChannels, 2);
    a(number("chipset_lanes", unit::none, 0, 128, "Chipset lanes", "That the chipset has for slots; 0: not stated"),
      v.chipsetLanes, 0);
    a(list("slots", "Slots with lanes"), v.laneSlots, {});
    a(number("header_a", unit::ampere, 0.05, 50, "Fan header carries"), v.headerA, 1.0);
}
MD_FIELDS(ProcessorSpec, "processor", "What only a processor has.") {
    a(text("socket", "Socket", "By any name"), v.socket);
    a(flag("graphics", "Shows a picture", "Without a card"), v.graphics, false);
    a(number("clock_mhz", unit::megahertz, 100, 20000, "Clock, held", "At its power at 70 °C"), v.clockMhz, 4000.0);
    a(number("limit_c", unit::celsius, 40, 150, "Limit", "It slows down above this temperature"), v.limitC, 95.0);
    a(number("die_resistance_k_w", unit::kelvinPerWatt, 0.001, 10, "Die to lid", "With paste"), v.dieResistance, 0.30);
    a(number("lanes", unit::none, 0, 256, "Lanes", "For slots; 0: not stated"), v.lanes, 0);
    a(stated("peak_w", unit::watt, 1, 2000, "Peak power", "For seconds, before it falls back to its held power"),
      v.peakW, 0.0);
    a(stated("peak_s", unit::seconds, 0.1, 600, "Peak lasts", "Not stated: 28 s"), v.peakS, 0.0);
}
MD_FIELDS(CoolerSpec, "cooler", "What only a cooler has.") {
    a(choice("type", "Type"), v.type, CoolerType::TopDown);
    a(list("sockets", "Sockets", "That it has kits for"), v.sockets, {});
    a(number("fan_frame_mm", unit::mm, 20, 300, "Fan frame"), v.fanFrameMm, 92.0);
    a(number("fan_thickness_mm", unit::mm, 3, 100, "Fan thickness"), v.fanThicknessMm, 15.0);
    a(number("fans", unit::none, 1, 2, "Fans", "Alike, one behind the other: before and behind the fins of a tower"),
      v.fans, 1);
    a(stated("rated_tdp_w", unit::watt, 1, 2000, "Rated power",
             "As its maker states; not stated: the fins are taken from the size"),
      v.ratedTdpW, 0.0);
    a(text("metal", "Liquid touches", "aluminium, copper or nickel; left out: no liquid"), v.metal, std::string{});
    a(flag("pump", "Pump on it"), v.pump, false);
    a(flag("sealed", "Bought filled", "As one loop with its radiator"), v.sealed, false);
    a(levelField("pump_dba", "Pump", "At 1 m; 0: 22 dB(A)"), v.pumpDba, 0.0);
    a(number("fill", unit::share, 0.3, 1, "Filled", "Share of its liquid that was left when it was filled; 1: full"),
      v.fill, 1.0);
    a(number("years", unit::years, 0, 30, "Years since", "It was filled: liquid is lost with them"), v.years, 0.0);
    a(stated("loss_per_year", unit::share, 0.001, 0.3, "Lost in a year", "Share of what is left; not stated: 0.015"),
      v.lossPerYear, 0.0);
    a(number("board_share", unit::share, 0, 0.5, "Into the board",
             "Share of the heat of what a liquid block sits on that goes into its board"),
      v.boardShare, 0.05);
    a(text("loop", "Loop", "Its name, the same at its radiator, where there are several; left out: the one loop"),
      v.loop, std::string{});
}
MD_FIELDS(FanPoint, "fan point", "A point of the curve of a fan at its rated speed.") {
    a(number("flow_m3s", unit::cubicMetresPerSecond, 0, 1, "Flow"), v.flowM3s);
    a(number("pressure_pa", unit::pascal, 0, 5000, "Pressure"), v.pressurePa);
}
MD_FIELDS(FanSpec, "fan", "What only a fan has; what is left out is taken from the class of its frame and thickness.") {
    a(stated("rpm", unit::rpm, 50, 30000, "Speed", "Rated, at 12 V"), v.rpm, 0.0);
    a(stated("free_flow_m3s", unit::cubicMetresPerSecond, 1e-5, 1, "Free flow", "Rated, without resistance"),
      v.freeFlowM3s, 0.0);
    a(stated("shutoff_pa", unit::pascal, 0.05, 5000, "Pressure", "Rated, at no flow"), v.shutoffPa, 0.0);
    a(levelField("level_dba", "Level", "At 1 m at rated speed"), v.levelDba, 0.0);
    a(number("min_duty", unit::share, 0, 1, "Least duty", "Share of full speed below which it does not go"), v.minDuty,
      0.20);
    a(stated("current_a", unit::ampere, 0.001, 50, "Current", "0: its power at 12 V"), v.currentA, 0.0);
    a(list("curve", "Curve",
           "Points of flow and pressure at rated speed, the flow rising: they go before free flow and pressure"),
      v.curve, {});
}
MD_FIELDS(CardSpec, "card", "What only a card has.") {
    a(choice("cooler", "Cooler"), v.cooler, CardCooler::Dual);
    a(number("slots", unit::none, 1, 10, "Slots it fills", "20.32 mm each")
          .by("PCI Express card electromechanical specification"),
      v.slotCount, 2);
    a(number("clock_mhz", unit::megahertz, 100, 20000, "Clock, held"), v.clockMhz, 1800.0);
    a(stated("limit_c", unit::celsius, 40, 150, "Limit", "0: 87 °C, blower 83 °C"), v.limitC, 0.0);
    a(stated("peak_w", unit::watt, 1, 2000, "Peak power", "For seconds, before it falls back to its held power"),
      v.peakW, 0.0);
    a(stated("peak_s", unit::seconds, 0.1, 600, "Peak lasts", "Not stated: 28 s"), v.peakS, 0.0);
}
MD_FIELDS(PowerSupplySpec, "supply", "What only a supply has.") {
    a(text("form", "Form", "atx, sfx, sfx-l, tfx, flex or 1u").by("ATX12V and SFX12V design guides"), v.form,
      std::string("sfx"));
    a(number("rated_w", unit::watt, 5, 5000, "Rated power", "Held"), v.ratedW);
    a(number("efficiency", unit::share, 0.3, 1, "Efficiency"), v.efficiency, 0.90);
    a(flag("brick", "Brick outside",
           "The converter stands outside and takes no room; what of it is inside are its bodies"),
      v.brick, false);
    a(stated("peak_w", unit::watt, 5, 20000, "Peak power", "For a millisecond"), v.peakW, 0.0);
    a(stated("rail_12v_a", unit::ampere, 0.1, 1000, "12 V rail"), v.rail12A, 0.0);
    a(stated("twelve_pin_w", unit::watt, 10, 1000, "12-pin plug",
             "What the sense wires of its 12-pin plug allow: 150, 300, 450 or 600"),
      v.twelvePinW, 0.0);
    a(text("cable_family", "Family of modular leads", "Left out: leads are fixed"), v.cableFamily, std::string{});
    a(levelField("level_dba", "Level", "At 1 m at full load; 0: told from its form"), v.levelDba, 0.0);
    a(stated("fan_frame_mm", unit::mm, 20, 200, "Fan frame", "0: told from its form"), v.fanFrameMm, 0.0);
}
MD_FIELDS(RadiatorSpec, "radiator", "What only a radiator has.") {
    a(number("frame_mm", unit::mm, 20, 300, "Fan frame", "Of one fan place"), v.frameMm, 120.0);
    a(number("fans", unit::none, 1, 12, "Fan places"), v.fans, 1);
    a(number("plate_mm", unit::mm, 0, 50, "Plate", "That its fan screws go through"), v.plateMm, 1.0);
    a(text("metal", "Liquid touches", "aluminium, copper or nickel"), v.metal, std::string("aluminium"));
    a(flag("pump", "Pump in its tank"), v.pump, false);
    a(levelField("pump_dba", "Pump", "At 1 m; 0: 22 dB(A)"), v.pumpDba, 0.0);
    a(text("loop", "Loop", "Its name, the same at its block, where there are several; left out: the one loop"), v.loop,
      std::string{});
}
MD_FIELDS(AdapterSpec, "adapter", "What only an adapter has: it gives and needs plugs.") {
    a(number("limit_w", unit::watt, 0, 5000, "It passes at most", "0: the limit of its plugs"), v.limitW, 0.0);
    a(flag("moulded", "Plug moulded on", "On the wires, not crimped"), v.moulded, false);
}
MD_FIELDS(CableSpec, "cable", "What only a cable has.") {
    a(number("length_mm", unit::mm, 1, 5000, "Length, plug to plug"), v.lengthMm, 500.0);
    a(text("family", "Family of modular leads", "Left out: any supply"), v.family, std::string{});
    a(number("limit_w", unit::watt, 0, 5000, "It passes at most", "0: the limit of its plugs"), v.limitW, 0.0);
    a(stated("width_mm", unit::mm, 1, 200, "Width", "Of a flat one, as risers are; left out: it is round"), v.widthMm,
      0.0);
    a(stated("thickness_mm", unit::mm, 0.2, 60, "Thickness", "Of a round one its diameter; 0: 6 mm, a flat one 2 mm"),
      v.thicknessMm, 0.0);
    a(stated("bend_mm", unit::mm, 0.5, 500, "Least bend radius",
             "Of its middle line; 0: three times its thickness, a flat one 10 mm"),
      v.bendMm, 0.0);
}
MD_FIELDS(DriveSpec, "drive", "What only a drive has.") {
    a(choice("form", "Form").by("PCI Express M.2 specification"), v.form, DriveForm::M2Bare);
    a(number("limit_c", unit::celsius, 30, 150, "Limit"), v.limitC, 70.0);
    a(stated("spin_up_a", unit::ampere, 0.001, 20, "Start-up current", "At 12 V; 0: 2 A for 3.5 in"), v.spinUpA, 0.0);
    a(levelField("level_dba", "Level", "At 1 m while it seeks; 0: 29 dB(A) for 3.5 in"), v.levelDba, 0.0);
}
MD_FIELDS(MemorySpec, "memory", "What only memory has.") {
    a(text("memory_kind", "Memory kind", "By any name"), v.memoryKind);
    a(number("modules", unit::none, 1, 16, "Modules"), v.modules, 1);
}
MD_FIELDS(MadeSpec, "made", "What only a part has that is made.") {
    a(choice("process", "Made by"), v.process, Process::Print);
    a(text("material", "Material", "pla, petg, abs, asa or tpu"), v.material, std::string("petg"));
    a(number("volume_cm3", unit::cubicCentimetres, 0, 1e6, "Volume", "Of the outer shape, solid"), v.volumeCm3, 0.0);
    a(number("shell_share", unit::share, 0, 1, "Shell", "Share of the volume that is outer wall"), v.shellShare, 0.35);
    a(number("infill_share", unit::share, 0, 1, "Infill"), v.infillShare, 0.20);
    a(number("count", unit::none, 1, 1000, "Count"), v.count, 1);
}

/// Calls @p f.operator()<S>() with the S that only parts of @p kind have.
template <class F> decltype(auto) withSpecOf(PartKind kind, F&& f) {
    switch (kind) {
    case PartKind::Case:
        return f.template operator()<CaseSpec>();
    case PartKind::Board:
        return f.template operator()<BoardSpec>();
    case PartKind::Processor:
        return f.template operator()<ProcessorSpec>();
    case PartKind::Cooler:
        return f.template operator()<CoolerSpec>();
    case PartKind::Fan:
        return f.template operator()<FanSpec>();
    case PartKind::Card:
        return f.template operator()<CardSpec>();
    case PartKind::PowerSupply:
        return f.template operator()<PowerSupplySpec>();
    case PartKind::Drive:
        return f.template operator()<DriveSpec>();
    case PartKind::Memory:
        return f.template operator()<MemorySpec>();
    case PartKind::Adapter:
        return f.template operator()<AdapterSpec>();
    case PartKind::Cable:
        return f.template operator()<CableSpec>();
    case PartKind::Radiator:
        return f.template operator()<RadiatorSpec>();
    case PartKind::Made:
        break;
    }
    return f.template operator()<MadeSpec>();
}

} // namespace core
