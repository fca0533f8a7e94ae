// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/ranges.h"

#include "core/base/text.h"

namespace core {
namespace {

class Ranges {
public:
    explicit Ranges(const std::function<void(Problem)>& add) : m_add(add) {}

    /// What @p sound holds as well was found to be in range before.
    void project(const Project& p, const Project& sound) {
        brief(p.brief);
        for (const NeedOverride& need : p.needs)
            check("needs " + need.rule + ", need_mm", need.needMm, 0, 200, "mm");
        for (const double mm : p.printer.bedMm)
            check("printer.bed_mm", mm, 10, 2000, "mm");
        check("printer.flow_mm3_s", p.printer.flowMm3s, 0.1, 200, "mm³/s");
        check("printer.price_per_kg", p.printer.pricePerKg, 0, 1e5, "");
        check("printer.border_mm", p.printer.borderMm, 0, 100, "mm");
        for (std::size_t i = 0; i < p.revisions.size(); ++i)
            if (!p.revisions.isSame(i, sound.revisions))
                revision(p.revisions[i]);
        for (const Load& load : p.loads) {
            check("load " + load.id + ", processor_share", load.processorShare, 0, 2, "");
            check("load " + load.id + ", card_share", load.cardShare, 0, 2, "");
        }
        for (std::size_t i = 0; i < p.shelf.size(); ++i)
            if (!p.shelf.isSame(i, sound.shelf))
                part("shelf[" + std::to_string(i) + "] (" + p.shelf[i].id + ")", p.shelf[i]);
        for (std::size_t i = 0; i < p.runs.size(); ++i)
            if (!p.runs.isSame(i, sound.runs))
                run("run " + p.runs[i].id, p.runs[i]);
    }

private:
    void check(const std::string& place, double value, double low, double high, const char* unit) {
        if (value >= low && value <= high)
            return;
        const std::string u = *unit ? std::string(" ") + unit : std::string{};
        m_add({place, "the value " + shortest(value) + u + " is out of range", "from " + shortest(low) + " to " + shortest(high) + u});
    }
    /// 0 stands for "not stated".
    void stated(const std::string& place, double value, double low, double high, const char* unit) {
        if (value != 0)
            check(place, value, low, high, unit);
    }
    void size(const std::string& place, const Measure& m, double least, double most = 2000) {
        check(place, m.value.mm(), least, most, "mm");
        check(place + ", tolerance", m.tolerance.mm(), 0, 100, "mm");
    }
    void count(const std::string& place, int value, int low, int high) { check(place, value, low, high, ""); }

    void revision(const Revision& r) {
        for (const ObservedLink& seen : r.observed)
            link("revision " + r.id + ", observed_links " + seen.mount, seen.generation, seen.lanes);
    }
    void brief(const Brief& b) {
        check("brief.room_c", b.roomC, -20, 60, "°C");
        check("brief.listener_m", b.listenerM, 0.1, 10, "m");
        check("brief.altitude_m", b.altitudeM, -400, 6000, "m");
        for (const double mm : b.carryBoxMm)
            check("brief.carry_box_mm", mm, 0, 3000, "mm");
        for (const Target& t : b.targets)
            check("brief.targets " + t.id + ", limit", t.limit, -1e6, 1e6, "");
    }

    void part(const std::string& place, const Part& p) {
        const bool flat = p.kind == PartKind::Adapter || p.kind == PartKind::Cable;
        for (const Measure& m : p.size)
            size(place + ".size_mm", m, p.kind == PartKind::Fan ? 3 : flat ? 0 : 0.01);
        check(place + ".power_w", p.powerW, 0, 2000, "W");
        check(place + ".mass_g", p.massG, 0, 50000, "g");
        check(place + ".price", p.price, 0, 1e6, "");
        check(place + ".step.minutes", p.step.minutes, 0, 10000, "min");
        for (const Fastener& f : p.fasteners)
            count(place + ".fasteners " + f.kind + ", count", f.count, 0, 1000);
        for (const auto* plugs : {&p.gives, &p.needs})
            for (const auto& [kind, n] : *plugs)
                count(place + (plugs == &p.gives ? ".gives." : ".needs.") + kind, n, 0, 1000);
        for (const Body& b : p.bodies)
            body(place + ".bodies " + b.name, b);
        for (const Mount& m : p.mounts)
            mount(place + ".mounts " + m.id, m);
        for (const Port& port : p.ports)
            for (const Measure& m : port.at)
                size(place + ".ports " + port.id + ", at_mm", m, -2000);
        if (p.link) {
            link(place + ".link", p.link->generation, p.link->lanes);
            check(place + ".link.need_gb_s", p.link->needGbs, 0, 10000, "Gb/s");
        }
        std::visit([&](const auto& spec) { this->spec(place, spec); }, p.spec);
    }

    void body(const std::string& place, const Body& b) {
        const bool run = b.shape == Shape::Tube || b.shape == Shape::Ribbon;
        for (std::size_t a = 0; a < 3; ++a) {
            size(place, b.size[a], run && a == 2 ? 0 : 0.01);
            size(place + ", at_mm", b.at[a], -2000);
        }
        check(place + ".bend_mm", b.bendMm, 0, 500, "mm");
        for (const double degrees : b.turnDeg)
            check(place + ".turn_deg", degrees, -360, 360, "°");
        for (const Cutout& hole : b.cutouts)
            for (std::size_t i = 0; i < 2; ++i) {
                check(place + ".cutouts size_mm", hole.sizeMm[i], 0.01, 2000, "mm");
                check(place + ".cutouts at_mm", hole.atMm[i], -2000, 2000, "mm");
            }
        for (const auto& point : b.routeMm)
            for (const double mm : point)
                check(place + ".route_mm", mm, -2000, 2000, "mm");
    }

    void mount(const std::string& place, const Mount& m) {
        for (const Offset& o : m.at)
            size(place, o.value, -2000);
        stated(place + ", frame_mm", m.frameMm, 20, 300, "mm");
        for (const MountVariant& v : m.variants)
            if (v.at)
                for (const Offset& o : *v.at)
                    size(place + ", variant " + v.id, o.value, -2000);
        for (const Slide& s : m.slides) {
            check(place + ".slides from_mm", s.fromMm, -2000, 2000, "mm");
            check(place + ".slides to_mm", s.toMm, -2000, 2000, "mm");
            check(place + ".slides step_mm", s.stepMm, 0, 2000, "mm");
            if (s.stepMm > 0 && (s.toMm - s.fromMm) / s.stepMm > 10000)
                m_add({place + ".slides step_mm", "more than 10 000 steps", "a larger step, or 0 for anywhere between"});
        }
    }

    void link(const std::string& place, int generation, int lanes) {
        count(place + ", generation", generation, 1, 5);
        count(place + ", lanes", lanes, 1, 16);
    }

    void spec(const std::string&, const std::monostate&) {}
    void spec(const std::string& place, const CaseSpec& s) {
        size(place + ".wall_mm", s.wall, 0.01);
        check(place + ".feet_mm", s.feetMm, 0, 200, "mm");
        count(place + ".slot_covers", s.slotCovers, 0, 20);
        if (s.chambers.size() > mostChambers)
            m_add({place + ".chambers", std::to_string(s.chambers.size()) + " air spaces", "at most " + std::to_string(mostChambers)});
        for (const Chamber& c : s.chambers)
            for (std::size_t a = 0; a < 3; ++a) {
                check(place + ".chambers " + c.id + ", low_mm", c.lowMm[a], -2000, 2000, "mm");
                check(place + ".chambers " + c.id + ", high_mm", c.highMm[a], -2000, 2000, "mm");
            }
        for (const Panel& panel : s.panels)
            check(place + ".panels lip_mm", panel.lipMm, 0, 500, "mm");
        for (const Opening& o : s.openings)
            opening(place + ".openings " + o.id, o);
        for (const Modification& m : s.modifications) {
            check(place + ".modifications " + m.id + ", minutes", m.minutes, 0, 10000, "min");
            check(place + ".modifications " + m.id + ", price", m.price, 0, 1e6, "");
        }
    }
    void opening(const std::string& at, const Opening& o) {
        check(at + ", width", o.sizeMm[0], 1, 2000, "mm");
        check(at + ", height", o.sizeMm[1], 1, 2000, "mm");
        for (const double mm : o.centreMm)
            check(at + ", centre_mm", mm, -2000, 2000, "mm");
        check(at + ", perforation", o.perforation, 0, 1, "");
        check(at + ", blocked", o.blockedShare, 0, 1, "");
        check(at + ", hole_mm", o.holeMm, 0.1, 500, "mm");
        check(at + ", thickness_mm", o.thicknessMm, 0, 50, "mm");
        check(at + ", fouling", o.fouling, 1, 10, "");
    }
    void spec(const std::string& place, const BoardSpec& s) {
        count(place + ".memory_slots", s.memorySlots, 0, 16);
        count(place + ".memory_channels", s.memoryChannels, 1, 16);
        count(place + ".chipset_lanes", s.chipsetLanes, 0, 128);
        check(place + ".header_a", s.headerA, 0.05, 50, "A");
        for (const BoardSlot& slot : s.laneSlots) {
            link(place + ".slots " + slot.kind, slot.generation, slot.lanes);
            count(place + ".slots " + slot.kind + ", lanes_shared", slot.lanesShared, 0, 16);
        }
    }
    void spec(const std::string& place, const ProcessorSpec& s) {
        check(place + ".clock_mhz", s.clockMhz, 100, 20000, "MHz");
        check(place + ".limit_c", s.limitC, 40, 150, "°C");
        check(place + ".die_resistance_k_w", s.dieResistance, 0.001, 10, "K/W");
        count(place + ".lanes", s.lanes, 0, 256);
        stated(place + ".peak_w", s.peakW, 1, 2000, "W");
    }
    void spec(const std::string& place, const CoolerSpec& s) {
        check(place + ".fan_frame_mm", s.fanFrameMm, 20, 300, "mm");
        check(place + ".fan_thickness_mm", s.fanThicknessMm, 3, 100, "mm");
        stated(place + ".rated_tdp_w", s.ratedTdpW, 1, 2000, "W");
        stated(place + ".pump_dba", s.pumpDba, -20, 120, "dB(A)");
    }
    void spec(const std::string& place, const FanSpec& s) {
        stated(place + ".rpm", s.rpm, 50, 30000, "rpm");
        stated(place + ".free_flow_m3s", s.freeFlowM3s, 1e-5, 1, "m³/s");
        stated(place + ".shutoff_pa", s.shutoffPa, 0.05, 5000, "Pa");
        stated(place + ".level_dba", s.levelDba, -20, 120, "dB(A)");
        check(place + ".min_duty", s.minDuty, 0, 1, "");
        stated(place + ".current_a", s.currentA, 0.001, 50, "A");
    }
    void spec(const std::string& place, const CardSpec& s) {
        count(place + ".slots", s.slotCount, 1, 10);
        check(place + ".clock_mhz", s.clockMhz, 100, 20000, "MHz");
        stated(place + ".limit_c", s.limitC, 40, 150, "°C");
    }
    void spec(const std::string& place, const PowerSupplySpec& s) {
        check(place + ".rated_w", s.ratedW, 5, 5000, "W");
        check(place + ".efficiency", s.efficiency, 0.3, 1, "");
        stated(place + ".peak_w", s.peakW, 5, 20000, "W");
        stated(place + ".rail_12v_a", s.rail12A, 0.1, 1000, "A");
        stated(place + ".twelve_pin_w", s.twelvePinW, 10, 1000, "W");
        stated(place + ".level_dba", s.levelDba, -20, 120, "dB(A)");
    }
    void spec(const std::string& place, const DriveSpec& s) {
        check(place + ".limit_c", s.limitC, 30, 150, "°C");
        stated(place + ".spin_up_a", s.spinUpA, 0.001, 20, "A");
        stated(place + ".level_dba", s.levelDba, -20, 120, "dB(A)");
    }
    void spec(const std::string& place, const MemorySpec& s) { count(place + ".modules", s.modules, 1, 16); }
    void spec(const std::string& place, const RadiatorSpec& s) {
        check(place + ".frame_mm", s.frameMm, 20, 300, "mm");
        count(place + ".fans", s.fans, 1, 12);
        check(place + ".plate_mm", s.plateMm, 0, 50, "mm");
        stated(place + ".pump_dba", s.pumpDba, -20, 120, "dB(A)");
    }
    void spec(const std::string& place, const AdapterSpec& s) { check(place + ".limit_w", s.limitW, 0, 5000, "W"); }
    void spec(const std::string& place, const CableSpec& s) {
        check(place + ".length_mm", s.lengthMm, 1, 5000, "mm");
        check(place + ".limit_w", s.limitW, 0, 5000, "W");
    }
    void spec(const std::string& place, const MadeSpec& s) {
        check(place + ".volume_cm3", s.volumeCm3, 0, 1e6, "cm³");
        check(place + ".shell_share", s.shellShare, 0, 1, "");
        check(place + ".infill_share", s.infillShare, 0, 1, "");
        count(place + ".count", s.count, 1, 1000);
    }

    void run(const std::string& place, const Run& r) {
        if (r.roomC)
            check(place + ", room_c", *r.roomC, -30, 60, "°C");
        check(place + ", distance_m", r.distanceM, 0.01, 100, "m");
        if (r.loadStartS)
            check(place + ", load_start_s", *r.loadStartS, -1e10, 1e10, "s");
        if (r.loadEndS)
            check(place + ", load_end_s", *r.loadEndS, -1e10, 1e10, "s");
    }

    static constexpr std::size_t mostChambers = 64;
    const std::function<void(Problem)>& m_add;
};

} // namespace

void checkRanges(const Project& project, const std::function<void(Problem)>& add, const Project* sound) { Ranges(add).project(project, sound ? *sound : Project{}); }

} // namespace core
