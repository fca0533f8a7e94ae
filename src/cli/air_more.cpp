// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/air_more.h"

#include "core/advise/explore.h"
#include "core/advise/fan_curves.h"
#include "core/advise/learn.h"
#include "core/advise/schools.h"
#include "core/air/warm_up.h"
#include "core/base/text.h"

#include <QFileInfo>

namespace cli {
namespace {

using store::Json;

Json optional(const std::optional<double>& value) { return value ? Json(*value) : Json(); }

std::string changeWords(const Asked& asked, const std::vector<core::Change>& changes, const core::Reader& reader) {
    core::Revision r{.id = "trial", .parent = asked.revision, .changes = changes};
    std::string words;
    for (const core::Sentence& s : core::describe(r, asked.project()))
        words += (words.empty() ? "" : ", ") + reader.text(s);
    return words.empty() ? reader.text(core::say("as it is")) : words;
}

} // namespace

Json transientJson(const Asked& asked, double minutes) {
    const auto& e = asked.evaluation();
    const auto& compiled = e.air.solved->compiled;
    constexpr double everyS = 10;
    const auto played = core::air::warmUp(compiled.network, e.air.solved->solution, minutes, everyS);
    Json names = Json::array(), rows = Json::array(), within = Json::array();
    for (const auto& part : compiled.network.parts)
        names.push_back(part.id);
    for (const auto& part : compiled.network.passive)
        names.push_back(part.id);
    for (std::size_t row = 0; row < played.rows.size(); ++row) {
        Json values = Json::array();
        for (std::size_t i = 0; i < names.size(); ++i)
            values.push_back(played.partC(row, i));
        rows.push_back({{"s", played.rows[row].seconds}, {"c", values}});
    }
    for (const double s : played.withinS)
        within.push_back(s >= 0 ? Json(s) : Json());
    return {{"from", "settled at idle, 12 W in each cooled part"},
            {"parts", names},
            {"within_1_k_after_s", within},
            {"rows", rows}};
}

void sayNetwork(const Json& j, const core::Reader& reader) {
    using namespace core::figure;
    for (const Json& z : j["zones"])
        if (z["id"] != "outside")
            say("  room %-28s %9s, %9s\n", z["id"].get<std::string>(), reader.text(celsius(z["air_c"].get<double>())),
                reader.text(usual(core::Quantity::Pressure, z["pressure_pa"].get<double>()).signedFigure()));
    for (const Json& b : j["branches"])
        say("  way  %-28s %11s, %s to %s%s\n", b["id"].get<std::string>(),
            reader.text(flow(b["flow_m3h"].get<double>(), 1).signedFigure()), b["from"].get<std::string>(),
            b["to"].get<std::string>(), b["own"].empty() ? "" : ", with a value of your own");
}

void sayTransient(const Json& j, const core::Reader& reader) {
    for (std::size_t i = 0; i < j["parts"].size(); ++i) {
        std::string line;
        for (std::size_t row = 0; row < j["rows"].size(); row += std::max<std::size_t>(1, j["rows"].size() / 6))
            line += "  " + reader.text(core::figure::celsius(j["rows"][row]["c"][i].get<double>(), 0));
        const Json& within = j["within_1_k_after_s"][i];
        say("  from idle %-24s%s, %s\n", j["parts"][i].get<std::string>(), line,
            reader.text(within.is_null()
                            ? core::say("not settled in that time")
                            : core::say("settled after {} min", core::figure::number(within.get<double>() / 60, 1))));
    }
}

Json schoolsJson(const Asked& asked, const std::string& load, const core::Reader& reader) {
    Json rows = Json::array();
    for (const auto& s : core::advise::schools(asked.project(), asked.evaluation(), {}, load)) {
        const auto difference = [](const std::optional<core::air::Difference>& d) {
            return d ? Json{{"k", d->kelvin}, {"band_k", d->bandK}} : Json();
        };
        const bool fits = s.against != core::advise::Against::DoesNotGoIn;
        rows.push_back({{"question", reader.text(s.question)},
                        {"name", reader.text(s.name)},
                        {"against", core::advise::againstWord(s.against)},
                        {"why", fits ? Json() : Json(reader.text(s.why))},
                        {"in_m3h", fits ? Json(s.inM3h) : Json()},
                        {"out_m3h", fits ? Json(s.outM3h) : Json()},
                        {"processor_c", fits ? optional(s.processorC) : Json()},
                        {"card_c", fits ? optional(s.cardC) : Json()},
                        {"processor", difference(s.processor)},
                        {"card", difference(s.card)},
                        {"noise_db", s.noiseDb},
                        {"unfiltered_share", s.unfilteredShare},
                        {"price", s.price},
                        {"changes", changeWords(asked, s.changes, reader)}});
    }
    return rows;
}

void saySchools(const Asked& asked, const std::string& load, const core::Reader& reader) {
    using namespace core::figure;
    core::Sentence last;
    for (const auto& s : core::advise::schools(asked.project(), asked.evaluation(), {}, load)) {
        const std::string name = reader.text(s.question) + ": " + reader.text(s.name);
        if (s.against == core::advise::Against::DoesNotGoIn) {
            say("  %-44s %s: %s\n", name, reader.text(core::say("does not go in")), reader.text(s.why));
            continue;
        }
        const auto difference = [&](const std::optional<core::air::Difference>& d) {
            return d ? reader.text(usual(core::Quantity::TemperatureDifference, d->kelvin).signedFigure().bare()) +
                           " ±" + reader.text(kelvin(d->bandK, 1))
                     : std::string("-");
        };
        say("  %-44s in %8s, out %8s, CPU %s, card %s, %+.1f dB, %3.0f %% unfiltered: %s\n", name,
            reader.text(flow(s.inM3h, 0)), reader.text(flow(s.outM3h, 0)), difference(s.processor), difference(s.card),
            s.noiseDb, 100 * s.unfilteredShare, reader.text(core::term(core::advise::againstWord(s.against))));
    }
}

Json calibrationJson(const Asked& asked, const core::Reader& reader) {
    const auto& e = asked.evaluation();
    results::Results results(asked.look->project);
    const auto runs = core::advise::observationsOf(asked.project(), results.analyses());
    const auto c = core::air::calibrate(runs);
    Json inputs = Json::array(), compared = Json::array(), parts = Json::array(), next = Json::array();
    for (const auto& i : c.inputs)
        inputs.push_back({{"id", i.id},
                          {"what", reader.text(i.what)},
                          {"factor", i.factor()},
                          {"sigma_before", i.sigma},
                          {"sigma_after", i.sigma * i.left}});
    for (const auto& p : c.compared)
        compared.push_back({{"run", p.run},
                            {"revision", p.revision},
                            {"part", p.mount},
                            {"measured_c", p.measuredC},
                            {"before_c", p.beforeC},
                            {"after_c", p.afterC},
                            {"band_before_k", p.bandBeforeK},
                            {"band_after_k", p.bandAfterK}});
    const auto& compiled = e.air.solved->compiled;
    const auto solved = core::air::solve(core::air::learned(e.build, compiled, c));
    const auto after = core::air::summarise(e.build, e.air.conditions, compiled, solved);
    const auto bands = core::air::bandsAfter(e.air, c);
    for (std::size_t i = 0; i < after.parts.size(); ++i)
        parts.push_back({{"id", after.parts[i].id},
                         {"before_c", e.air.parts[i].temperatureC},
                         {"after_c", after.parts[i].temperatureC},
                         {"band_before_k", e.air.parts[i].bandK},
                         {"band_after_k", bands[i]}});
    for (const auto& part : e.air.parts)
        if (part.kind == core::PartKind::Processor || part.kind == core::PartKind::Card)
            for (const auto& run : core::advise::nextRuns(asked.project(), e, runs, part.id))
                next.push_back({{"part", part.id}, {"run", reader.text(run.what)}, {"band_k", run.bandK}});
    return {{"runs", runs.size()},
            {"simulated", asked.project().simulation},
            {"contradicting", c.contradicting},
            {"rms_before_k", c.rmsBeforeK},
            {"rms_after_k", c.rmsAfterK},
            {"inputs", inputs},
            {"compared", compared},
            {"parts", parts},
            {"next_runs", next}};
}

void sayCalibration(const Json& j) {
    if (j["runs"] == 0)
        return say("no settled run: the bands are those of the sheets\n");
    say("%d settled runs: off by %.1f K before, %.1f K after learning (root mean square)\n", j["runs"].get<long>(),
        j["rms_before_k"].get<double>(), j["rms_after_k"].get<double>());
    if (j["simulated"] == true)
        say("  simulated: the runs are of a machine that was played, not of one that was built\n");
    for (const Json& run : j["contradicting"])
        say("  %s contradicts what is described, and is left out\n", run.get<std::string>());
    for (const Json& p : j["parts"])
        say("  %-28s %5.1f \u00b0C \u00b1%.0f, learned %5.1f \u00b0C \u00b1%.1f\n", p["id"].get<std::string>(),
            p["before_c"].get<double>(), p["band_before_k"].get<double>(), p["after_c"].get<double>(),
            p["band_after_k"].get<double>());
}

core::Result<Json> exploreJson(const Asked& asked, const Options& options, const core::Reader& reader) {
    core::advise::ExploreRequest request;
    request.seed = static_cast<std::uint32_t>(options.seed);
    if (options.most > 0)
        request.most = static_cast<std::size_t>(options.most);
    request.keep = options.keep;
    for (const std::string& id : options.keep)
        if (!asked.evaluation().build.at(id) && !asked.evaluation().build.opening(id))
            return core::problem("--keep", "\"" + id + "\" is neither a place that is taken nor an opening",
                                 "names as `show` and `air` print them");
    const auto isOpen = [&](const char* what) {
        return options.open.empty() || std::find(options.open.begin(), options.open.end(), what) != options.open.end();
    };
    request.fans = isOpen("fans");
    request.screens = isOpen("screens");
    request.panels = isOpen("panels");
    request.places = isOpen("places");
    request.lying = isOpen("lying");
    const QString curvesFile = QString::fromStdString(options.curves);
    if (!options.curves.empty() && !options.force && QFileInfo::exists(curvesFile))
        return core::problem(options.curves, "is there already and was not overwritten", "another name, or --force");
    const auto found = core::advise::explore(asked.project(), asked.evaluation(), request);
    if (!found)
        return tl::make_unexpected(found.error());
    const auto point = [&](const core::advise::ExplorePoint& p) {
        return Json{{"noise_dba", p.noiseDba},
                    {"headroom_k", p.headroomK},
                    {"band_k", p.bandK},
                    {"hot_headroom_k", p.hotHeadroomK},
                    {"part", p.part},
                    {"quiet_enough", p.quietEnough},
                    {"holds", p.holds()},
                    {"holds_hot", p.holdsHot()},
                    {"changes", changeWords(asked, p.changes, reader)}};
    };
    Json front = Json::array();
    for (const auto& p : found->front) {
        Json steps = Json::array();
        for (const auto& step : p.steps)
            steps.push_back({{"changes", changeWords(asked, step.changes, reader)},
                             {"noise_db", step.noiseDb},
                             {"headroom_k", step.kelvin},
                             {"screws", step.screws},
                             {"minutes", step.minutes},
                             {"price", step.price}});
        front.push_back(point(p));
        front.back()["steps"] = steps;
    }
    Json curves = Json::array();
    const int best = core::advise::chosenOf(*found);
    if (best >= 0) {
        const auto advice = core::advise::fanCurves(asked.project(), asked.evaluation(),
                                                    found->front[static_cast<std::size_t>(best)].changes);
        if (!advice)
            return tl::make_unexpected(advice.error());
        for (const auto& c : *advice) {
            Json points = Json::array();
            for (const auto& p : c.points)
                points.push_back({{"temperature_c", p.temperatureC}, {"duty", p.duty}});
            curves.push_back({{"fan", c.mount}, {"follows", c.follows}, {"points", points}});
        }
        if (!options.curves.empty() && !advice->empty()) {
            const auto csv = core::advise::curvesCsv(*advice);
            if (const auto done = store::writeWhole(curvesFile, QByteArray::fromStdString(csv)); !done)
                return tl::make_unexpected(done.error());
        }
    }
    if (!options.curves.empty() && curves.empty())
        return core::problem(options.curves, "was not written: the way that is chosen holds no fan at a speed",
                             "other things left open");
    return Json{{"seed", found->seed},
                {"possible", found->possible},
                {"counted", found->counted},
                {"solved", found->solved},
                {"did_not_go_in", found->didNotGoIn},
                {"noise_cap_dba", found->noiseCap > 0 ? Json(found->noiseCap) : Json()},
                {"room_c", found->roomC},
                {"hottest_room_c", found->hottestC},
                {"now", point(found->now)},
                {"chosen", best >= 0 ? Json(best) : Json()},
                {"fan_curves", curves},
                {"front", front}};
}

void sayExplored(const Json& j) {
    say("%d ways of %d looked at, seed %d\n", j["counted"].get<long>(), j["possible"].get<long>(),
        j["seed"].get<long>());
    const bool hotter = j["hottest_room_c"] > j["room_c"];
    const auto standing = [hotter](const Json& p) {
        const double least = std::min(p["headroom_k"].get<double>(), p["hot_headroom_k"].get<double>()),
                     band = p["band_k"].get<double>();
        return !p["quiet_enough"].get<bool>() ? "too loud"
               : least < -band                ? "does not hold"
               : least < band                 ? "uncertain: its band crosses the cap"
               : hotter                       ? "holds in the hottest room too"
                                              : "holds";
    };
    const auto line = [&standing](const char* mark, const Json& p) {
        say("  %-5s %5.1f dB(A), %+5.1f K ±%.0f (%s), %s: %s\n", mark, p["noise_dba"].get<double>(),
            p["headroom_k"].get<double>(), p["band_k"].get<double>(), p["part"].get<std::string>(), standing(p),
            p["changes"].get<std::string>());
    };
    line("now", j["now"]);
    for (const Json& p : j["front"])
        line("", p);
}

} // namespace cli
