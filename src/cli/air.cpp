// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "core/base/text.h"

namespace cli {
namespace {

const char* directionWord(core::air::FanDirection d) {
    return d == core::air::FanDirection::In ? "in" : d == core::air::FanDirection::Out ? "out" : "inside";
}

store::Json airJson(const core::stages::Evaluation& e) {
    using store::Json;
    Json openings = Json::array(), fans = Json::array(), chambers = Json::array(), parts = Json::array(),
         sources = Json::array();
    for (const auto& o : e.air.openings)
        openings.push_back(
            {{"id", o.id}, {"flow_m3h", o.flowM3h}, {"in_m3h", o.inM3h}, {"out_m3h", o.outM3h}, {"air_c", o.airC}});
    for (const auto& f : e.air.fans)
        fans.push_back({{"id", f.id},
                        {"name", f.name},
                        {"rpm", f.rpm},
                        {"share", f.share},
                        {"flow_m3h", f.flowM3h},
                        {"direction", directionWord(f.direction)}});
    for (const auto& c : e.air.chambers)
        chambers.push_back({{"id", c.id}, {"air_c", c.airC}, {"pressure_pa", c.pressurePa}});
    for (const auto& p : e.air.parts)
        parts.push_back({{"id", p.id},
                         {"name", p.name},
                         {"temperature_c", p.temperatureC},
                         {"band_k", p.bandK},
                         {"power_w", p.powerW},
                         {"limit_c", p.limitC > 0 ? Json(p.limitC) : Json()},
                         {"clock_mhz", p.clockMhz > 0 ? Json(p.clockMhz) : Json()},
                         {"inlet_c", p.inletC},
                         {"throttled", p.throttled}});
    for (const auto& s : e.noise.sources)
        sources.push_back({{"id", s.id}, {"level_dba", s.levelDba}, {"power_share", s.powerShare}});
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
            {"distance_m", e.noise.distanceM},
            {"balance",
             {{"rated_in_m3h", b.ratedInM3h},
              {"rated_out_m3h", b.ratedOutM3h},
              {"in_m3h", b.inM3h},
              {"out_m3h", b.outM3h},
              {"pressure_pa", b.pressurePa}}}};
}

} // namespace

int air(const Options& options) {
    const auto looked = look(options);
    if (!looked)
        return badInput(looked.error());
    const core::stages::Evaluation& e = (*looked)->evaluation;
    const std::string& revision = (*looked)->revision;
    const store::Json findings =
        findingsJson(e.findings, [](const auto& f) { return f.station == core::rules::Station::Air; });
    const bool blocked =
        std::any_of(findings.begin(), findings.end(), [](const auto& f) { return f["severity"] == "blocker"; });
    if (options.json) {
        store::Json json = airJson(e);
        json["findings"] = findings;
        print(json);
        return blocked ? ExitNotMet : ExitFine;
    }
    say("%s in a room of %.1f °C: noise %s, pressure %+.2f Pa\n", revision.c_str(), e.air.conditions.roomC,
        std::isfinite(e.noise.totalDba) ? core::fixed(e.noise.totalDba, 1) + " dB(A)"
                                        : std::string("none: nothing that makes noise is in the revision"),
        e.air.balance.pressurePa);
    for (const auto& p : e.air.parts)
        say("  %-28s %6.1f °C ±%.0f, %5.1f W%s\n", p.name.c_str(), p.temperatureC, p.bandK, p.powerW,
            p.throttled ? ", held at its limit" : "");
    for (const auto& c : e.air.chambers)
        say("  air in %-21s %6.1f °C\n", c.id.c_str(), c.airC);
    for (const auto& f : e.air.fans)
        say("  %-28s %6.0f rpm, %6.1f m³/h %s\n", (f.name + " (" + f.id + ")").c_str(), f.rpm, f.flowM3h,
            directionWord(f.direction));
    sayFindings(findings);
    return blocked ? ExitNotMet : ExitFine;
}

} // namespace cli
