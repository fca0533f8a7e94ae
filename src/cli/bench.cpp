// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "core/base/text.h"

namespace cli {
namespace {

store::Json runJson(const core::Run& run, const core::bench::RunAnalysis& a, const core::Reader& reader) {
    using store::Json;
    Json channels = Json::array();
    for (const auto& c : a.channels) {
        Json j{{"name", c.name},
               {"unit", c.unit},
               {"kind", std::string(core::channelKindWord(c.kind))},
               {"subject", c.subject},
               {"assumed", c.assumed},
               {"state", std::string(core::bench::settleWord(c.state))},
               {"settled", finite(c.settled)},
               {"low", finite(c.low)},
               {"high", finite(c.high)},
               {"tau_s", c.fit ? finite(c.tauS) : Json()},
               {"more_minutes", c.moreMinutes ? Json(*c.moreMinutes) : Json()},
               {"mean", finite(c.mean)},
               {"p95", finite(c.p95)},
               {"sustained_max", finite(c.sustainedMax)},
               {"why", reader.text(c.why)}};
        if (c.atReference) {
            j["at_reference"] = c.atReference->value;
            j["at_reference_u"] = c.atReference->u;
        }
        channels.push_back(std::move(j));
    }
    Json out{{"run", run.id},
             {"revision", run.revision},
             {"load", run.load},
             {"room_c", a.roomC},
             {"room_logged", a.roomLogged},
             {"simulated", run.simulated},
             {"unsettled", reader.text(a.unsettled)}};
    Json throttles = Json::array();
    for (const auto& t : a.throttles)
        throttles.push_back({{"subject", t.subject},
                             {"kind", t.kind == core::bench::Throttle::Thermal      ? "thermal"
                                      : t.kind == core::bench::Throttle::PowerLimit ? "power limit"
                                                                                    : "other"},
                             {"share", t.share},
                             {"drop", t.drop}});
    out["throttles"] = throttles;
    out["load_interval"] =
        a.load
            ? Json{{"start_s", a.load->startS}, {"end_s", a.load->endS}, {"from_temperature", a.load->fromTemperature}}
            : Json();
    out["steady_from_s"] = a.steadyFromS ? Json(*a.steadyFromS) : Json();
    out["throttle"] = a.throttle == core::bench::Throttle::None         ? "none"
                      : a.throttle == core::bench::Throttle::Thermal    ? "thermal"
                      : a.throttle == core::bench::Throttle::PowerLimit ? "power limit"
                                                                        : "other";
    out["throttle_share"] = a.throttleShare;
    out["notes"] = reader.texts(a.notes);
    // What decides the exit code, in one list.
    Json findings = Json::array();
    if (!a.load)
        findings.push_back({{"severity", "blocker"},
                            {"subject", run.id},
                            {"text", "no load was found in the log: mark its start and end"},
                            {"rule", "run-load"}});
    for (const auto& c : a.channels)
        if (c.state == core::bench::SettleState::Refused)
            findings.push_back({{"severity", "blocker"},
                                {"subject", c.name},
                                {"text", reader.text(core::say("{} is refused: {}", c.name, c.why))},
                                {"rule", "run-refused"}});
    out["findings"] = findings;
    out["channels"] = channels;
    return out;
}

/// A settled value as a person reads it: temperatures in the reader's unit, all else in that of the log.
std::string settledText(const store::Json& channel, const core::Reader& reader) {
    const double value = channel["settled"].get<double>();
    const std::string kind = channel["kind"].get<std::string>();
    if (kind == core::channelKindWord(core::ChannelKind::Temperature) ||
        kind == core::channelKindWord(core::ChannelKind::Ambient))
        return reader.text(core::figure::celsius(value));
    return core::fixed(value, 1) + " " + channel["unit"].get<std::string>();
}

} // namespace

int bench(const Options& options) {
    const auto loaded = loadToLook(options);
    if (!loaded)
        return badInput(loaded.error());
    const core::Project* project = loaded->get();
    if (!options.run.empty() && !project->run(options.run))
        return badInput({"--run", "run \"" + options.run + "\" is not there", "one of the project's runs"});
    if (!options.revision.empty() && !project->revision(options.revision))
        return badInput(
            {"--revision", "revision \"" + options.revision + "\" is not there", "one of the project's revisions"});
    const auto isWanted = [&](const core::Run& run) {
        return (options.run.empty() || run.id == options.run) &&
               (options.revision.empty() || run.revision == options.revision);
    };
    results::Results results(*loaded);
    const auto analyses = results.analyses(isWanted);
    const core::Reader reader = readerOf(options, *project);
    store::Json runs = store::Json::array();
    bool unsettled = false;
    for (const core::Run& run : project->runs) {
        if (!isWanted(run))
            continue;
        const auto& a = *analyses.at(run.id);
        for (const auto& c : a.channels)
            unsettled = unsettled || c.state == core::bench::SettleState::Refused;
        unsettled = unsettled || !a.load;
        runs.push_back(runJson(run, a, reader));
    }
    if (runs.empty())
        return badInput({options.project, "there is no such run", "import a log first"});
    if (options.json) {
        // One run is given as it is; several as a list, with all channels once more in one list.
        store::Json all = store::Json::array();
        for (const auto& run : runs)
            for (store::Json c : run["channels"]) {
                c["run"] = run["run"];
                all.push_back(std::move(c));
            }
        print(runs.size() == 1 ? runs[0] : store::Json{{"runs", runs}, {"channels", all}});
    } else {
        for (const auto& run : runs) {
            say("%s, revision %s%s\n", run["run"].get<std::string>().c_str(),
                run["revision"].get<std::string>().c_str(), run["simulated"].get<bool>() ? ", simulated" : "");
            if (const auto words = run["unsettled"].get<std::string>(); !words.empty())
                say("  %s\n", words.c_str());
            for (const auto& c : run["channels"])
                say("  %-14s %-9s %s  %s\n", c["name"].get<std::string>().c_str(),
                    c["state"].get<std::string>().c_str(),
                    c["settled"].is_null() ? "-" : settledText(c, reader).c_str(), c["why"].get<std::string>().c_str());
            for (const auto& n : run["notes"])
                say("  note: %s\n", n.get<std::string>().c_str());
            sayFindings(run["findings"]);
        }
    }
    return unsettled ? ExitNotMet : ExitFine;
}

} // namespace cli
