// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/air_more.h"

#include "core/air/local_heat.h"
#include "core/base/text.h"
#include "core/explain/working.h"
#include "core/stages/at_loads.h"

namespace cli {
namespace {

const char* directionWord(core::air::FanDirection d) {
    return d == core::air::FanDirection::In ? "in" : d == core::air::FanDirection::Out ? "out" : "inside";
}

store::Json peaksJson(const core::stages::Evaluation& e) {
    store::Json peaks = store::Json::array();
    for (const core::air::Peak& p : e.air.peaks)
        peaks.push_back({{"id", p.id},
                         {"power_w", p.watts},
                         {"lasts_s", p.seconds},
                         {"held_s", p.heldS},
                         {"hottest_c", p.hottestC},
                         {"clock_mhz", p.clockMhz > 0 ? store::Json(p.clockMhz) : store::Json()}});
    return peaks;
}

store::Json localJson(const Asked& asked) {
    store::Json all = store::Json::array();
    for (const auto& heat : core::air::localHeat(asked.project(), asked.evaluation().build, asked.evaluation().air))
        all.push_back({{"mount", heat.mount},
                       {"part", heat.part},
                       {"air_c", heat.airC},
                       {"wall_c", heat.wallC},
                       {"band_k", heat.bandK},
                       {"beside", heat.near}});
    return all;
}

store::Json loadsJson(const Asked& asked, const core::Reader& reader) {
    const auto optional = [](const std::optional<double>& v) { return v ? store::Json(*v) : store::Json(); };
    store::Json loads = store::Json::array();
    for (const auto& at : core::stages::atLoads(asked.project(), asked.evaluation())) {
        store::Json fans = store::Json::object();
        for (const auto& [mount, share] : at.fans)
            fans[mount] = share;
        loads.push_back({{"id", at.id},
                         {"name", reader.text(at.name)},
                         {"noise_dba", at.noiseDba},
                         {"power_w", at.powerW},
                         {"processor_c", optional(at.processorC)},
                         {"card_c", optional(at.cardC)},
                         {"throttled", at.throttled},
                         {"fan_shares", fans}});
    }
    return loads;
}

store::Json airJson(const core::stages::Evaluation& e, const core::Reader& reader) {
    using store::Json;
    Json openings = Json::array(), fans = Json::array(), chambers = Json::array(), parts = Json::array(),
         sources = Json::array();
    const auto causes = [&](const core::air::PartResult& p) {
        Json all = Json::array();
        for (const core::explain::DoubtShare& d : core::explain::doubtOf(e.air, p))
            all.push_back({{"what", reader.text(d.label)}, {"share", d.share}});
        return all;
    };
    const auto weak = [&](const core::air::PartResult& p) {
        Json all = Json::array();
        for (const core::Sentence& why : p.weak)
            all.push_back(reader.text(why));
        return all;
    };
    for (const auto& o : e.air.openings)
        openings.push_back(
            {{"id", o.id}, {"flow_m3h", o.flowM3h}, {"in_m3h", o.inM3h}, {"out_m3h", o.outM3h}, {"air_c", o.airC}});
    for (const auto& f : e.air.fans)
        fans.push_back({{"id", f.id},
                        {"name", f.name},
                        {"rpm", f.rpm},
                        {"share", f.share},
                        {"flow_m3h", f.flowM3h},
                        {"against_pa", f.againstPa},
                        {"direction", directionWord(f.direction)}});
    for (const auto& c : e.air.chambers)
        chambers.push_back({{"id", c.id}, {"air_c", c.airC}, {"band_k", c.bandK}, {"pressure_pa", c.pressurePa}});
    for (const auto& p : e.air.parts)
        parts.push_back({{"id", p.id},
                         {"name", p.name},
                         {"temperature_c", p.temperatureC},
                         {"band_k", p.bandK},
                         {"band_from", causes(p)},
                         {"uncertain", weak(p)},
                         {"power_w", p.powerW},
                         {"power_band_w", p.bandW},
                         {"clock_band_mhz", p.bandMhz},
                         {"limit_c", p.limitC > 0 ? Json(p.limitC) : Json()},
                         {"clock_mhz", p.clockMhz > 0 ? Json(p.clockMhz) : Json()},
                         {"inlet_c", p.inletC},
                         {"throttled", p.throttled}});
    for (const auto& s : e.noise.sources)
        sources.push_back({{"id", s.id},
                           {"level_dba", s.levelDba},
                           {"power_share", s.powerShare},
                           {"obstacle_db", s.obstacleDb},
                           {"blade_hz", s.bladeHz > 0 ? Json(s.bladeHz) : Json()}});
    Json notes = Json::array(), beats = Json::array();
    for (const auto& beat : e.noise.beats)
        beats.push_back({{"fans", {beat.one, beat.other}}, {"hz", beat.hz}});
    for (const core::Sentence& note : e.air.notes)
        notes.push_back(reader.text(note));
    const auto& b = e.air.balance;
    return {{"revision", e.build.revision},
            {"room_c", e.air.conditions.roomC},
            {"converged", e.air.converged},
            {"openings", openings},
            {"fans", fans},
            {"chambers", chambers},
            {"parts", parts},
            {"noise_dba", e.noise.totalDba},
            {"noise_sources", sources},
            {"beats", beats},
            {"notes", notes},
            {"distance_m", e.noise.distanceM},
            {"balance",
             {{"rated_in_m3h", b.ratedInM3h},
              {"rated_out_m3h", b.ratedOutM3h},
              {"in_m3h", b.inM3h},
              {"out_m3h", b.outM3h},
              {"pressure_pa", b.pressurePa},
              {"unfiltered_share", b.unfilteredShare}}},
            {"peaks", peaksJson(e)}};
}

void sayAir(const core::stages::Evaluation& e, const core::Reader& reader) {
    using namespace core::figure;
    const auto shown = [&](const core::Figure& f) { return reader.text(f); };
    const core::Sentence noise = std::isfinite(e.noise.totalDba)
                                     ? core::say("noise {}", usual(core::Quantity::Level, e.noise.totalDba))
                                     : core::say("noise none: nothing that makes noise is in the revision");
    sayTo(reader, core::say("{} in a room of {}: {}, pressure {}", e.build.revision, celsius(e.air.conditions.roomC),
                            noise, usual(core::Quantity::Pressure, e.air.balance.pressurePa).signedFigure()));
    for (const auto& p : e.air.parts)
        say("  %-28s %9s ±%s, %7s%s\n", p.name, shown(celsius(p.temperatureC)), shown(kelvin(p.bandK, 0).bare()),
            shown(watts(p.powerW, 1)), p.throttled ? ", held at its limit" : "");
    for (const auto& p : e.air.parts)
        for (const core::Sentence& why : p.weak)
            sayTo(reader, core::say("  uncertain: {}: {}", p.name, why));
    for (const auto& c : e.air.chambers)
        say("  air in %-21s %9s ±%s, %8s\n", c.id, shown(celsius(c.airC)), shown(kelvin(c.bandK, 0).bare()),
            shown(usual(core::Quantity::Pressure, c.pressurePa).signedFigure()));
    for (const auto& f : e.air.fans)
        say("  %-28s %8s, %11s %s\n", f.name + " (" + f.id + ")", shown(usual(core::Quantity::Speed, f.rpm)),
            shown(flow(f.flowM3h, 1)), directionWord(f.direction));
    for (const core::air::Peak& p : e.air.peaks)
        sayTo(reader, core::say("  peak of {}: {} for {} s of {} s, up to {}", p.id, watts(p.watts), number(p.heldS),
                                number(p.seconds), celsius(p.hottestC)));
    for (const auto& beat : e.noise.beats)
        sayTo(reader, core::say("  {} and {} beat: their tones swell and fade {} times a second", beat.one, beat.other,
                                core::figure::number(beat.hz, 1)));
}

void sayLoads(const Asked& asked, const core::Reader& reader) {
    using namespace core::figure;
    for (const auto& at : core::stages::atLoads(asked.project(), asked.evaluation())) {
        const auto degrees = [&](const std::optional<double>& c) {
            return c ? reader.text(celsius(*c)) : std::string("-");
        };
        say("  under %-22s %9s, CPU %s, card %s%s\n", reader.text(at.name),
            reader.text(usual(core::Quantity::Level, at.noiseDba)), degrees(at.processorC), degrees(at.cardC),
            at.throttled ? ", held at a limit" : "");
    }
}

} // namespace

int air(const Options& options) {
    const auto looked = look(options);
    if (!looked)
        return badInput(looked.error());
    const core::stages::Evaluation& e = looked->evaluation();
    const core::Reader reader = readerOf(options, looked->project());
    const store::Json findings =
        findingsJson(e.findings, reader, [](const auto& f) { return f.station == core::rules::Station::Air; });
    const bool blocked =
        std::any_of(findings.begin(), findings.end(), [](const auto& f) { return f["severity"] == "blocker"; });
    std::optional<store::Json> explored;
    if (options.explore) {
        auto found = exploreJson(*looked, options, reader);
        if (!found)
            return badInput(found.error());
        explored = std::move(*found);
    }
    if (options.json) {
        store::Json json = airJson(e, reader);
        json["findings"] = findings;
        json["loads"] = loadsJson(*looked, reader);
        json["local_heat"] = localJson(*looked);
        if (options.network)
            json["network"] = networkJson(*looked);
        if (options.transientMinutes > 0)
            json["transient"] = transientJson(*looked, options.transientMinutes);
        if (options.schools)
            json["schools"] = schoolsJson(*looked, options.load, reader);
        if (options.calibrate)
            json["calibration"] = calibrationJson(*looked, reader);
        if (explored)
            json["explore"] = *explored;
        print(json);
        return blocked ? ExitNotMet : ExitFine;
    }
    sayAir(e, reader);
    sayLoads(*looked, reader);
    if (options.network)
        sayNetwork(networkJson(*looked), reader);
    if (options.transientMinutes > 0)
        sayTransient(transientJson(*looked, options.transientMinutes), reader);
    if (options.schools)
        saySchools(*looked, options.load, reader);
    if (options.calibrate)
        sayCalibration(calibrationJson(*looked, reader));
    if (explored)
        sayExplored(*explored);
    sayFindings(findings);
    return blocked ? ExitNotMet : ExitFine;
}

} // namespace cli
