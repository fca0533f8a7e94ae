// SPDX-License-Identifier: GPL-3.0-or-later
// The network as it is solved, whole: with it another program can work it out again.
#include "cli/air_more.h"

#include "core/air/own_values.h"
#include "core/model/fields/choices_of.h"

namespace cli {
namespace {

using core::air::Network;
using core::air::Solution;
using store::Json;

/// The values of an element that the user sets.
Json ownOf(const Asked& asked, const std::string& element) {
    Json all = Json::array();
    for (const core::AirValue& value : asked.evaluation().air.conditions.own)
        if (value.element == element)
            all.push_back(core::choiceWord(value.quantity));
    return all;
}

Json zonesOf(const Asked& asked, const Network& net, const Solution& s) {
    Json zones = Json::array();
    for (std::size_t i = 0; i < net.zones.size(); ++i)
        zones.push_back({{"id", net.zones[i].id},
                         {"air_c", s.temperatureC[i]},
                         {"pressure_pa", s.pressurePa[i]},
                         {"wall_wk", net.zones[i].uaWk},
                         {"heat_w", net.zones[i].heatW},
                         {"cross_m2", net.zones[i].crossSectionM2},
                         {"own", ownOf(asked, net.zones[i].id)}});
    return zones;
}

Json branchesOf(const Asked& asked, const Network& net, const Solution& s) {
    Json branches = Json::array();
    const auto names = core::air::branchNames(net);
    for (std::size_t b = 0; b < net.branches.size(); ++b) {
        const auto& branch = net.branches[b];
        const auto ofFan = [&](double value) { return branch.fan ? Json(value) : Json(); };
        branches.push_back({{"id", names[b]},
                            {"from", net.zones[branch.from].id},
                            {"to", net.zones[branch.to].id},
                            {"a_per_m3", branch.resistance.a},
                            {"b_per_m4", branch.resistance.b},
                            {"height_m", branch.heightM},
                            {"fan", branch.fan ? Json(net.fans[*branch.fan].id) : Json()},
                            {"free_flow_m3s", ofFan(branch.curve.freeFlowM3s)},
                            {"shutoff_pa", ofFan(branch.curve.shutoffPa)},
                            {"curve_linear", ofFan(branch.curve.linear)},
                            {"flow_m3h", s.flowM3s[b] * 3600},
                            {"own", ownOf(asked, names[b])}});
    }
    return branches;
}

Json exchangesOf(const Network& net) {
    Json exchanges = Json::array();
    const auto names = core::air::branchNames(net);
    for (const auto& x : net.exchanges)
        exchanges.push_back({{"branch", names[x.branch]},
                             {"area_m2", x.areaM2},
                             {"k", x.k},
                             {"buoyant", x.c},
                             {"length_m", x.lengthM},
                             {"level", x.level},
                             {"from_is_below", x.fromIsBelow}});
    return exchanges;
}

std::string followed(const Network& net, const core::air::FanDrive& fan) {
    if (fan.heldShare >= 0 || fan.source == core::air::ControlSource::Fixed)
        return {};
    return fan.passive ? net.passive[*fan.passive].id : net.parts[fan.part].id;
}

Json fansOf(const Network& net, const Solution& s) {
    Json fans = Json::array();
    for (std::size_t f = 0; f < net.fans.size(); ++f) {
        const auto& fan = net.fans[f];
        const std::string part = followed(net, fan);
        fans.push_back({{"id", fan.id},
                        {"share", s.speed[f]},
                        {"least_share", fan.minShare},
                        {"follows", part.empty() ? Json() : Json(part)},
                        {"by_load", fan.source == core::air::ControlSource::Supply},
                        {"curve", fan.curve},
                        {"starts_c", fan.startC ? Json(*fan.startC) : Json()}});
    }
    return fans;
}

/// The streams of air that take heat from a sink.
Json streamsOf(const core::air::CooledPart& part, const std::vector<std::string>& names) {
    Json streams = Json::array();
    const auto add = [&](std::size_t branch, double wk, double m3s, double exponent) {
        streams.push_back({{"branch", names[branch]}, {"wk", wk}, {"at_m3s", m3s}, {"exponent", exponent}});
    };
    if (part.streams.empty() && !part.sinkOf && part.gRefWk > 0)
        add(part.branch, part.gRefWk, part.qRefM3s, part.exponent);
    for (const auto& stream : part.streams)
        add(stream.branch, stream.gRefWk, stream.qRefM3s, stream.exponent);
    return streams;
}

Json partsOf(const Asked& asked, const Network& net, const Solution& s) {
    Json parts = Json::array();
    const auto names = core::air::branchNames(net);
    for (std::size_t i = 0; i < net.parts.size(); ++i) {
        const auto& part = net.parts[i];
        parts.push_back({{"id", part.id},
                         {"home", net.zones[part.home].id},
                         {"power_w", part.powerW},
                         {"die_kw", part.dieResistance},
                         {"sink_wk", part.gRefWk},
                         {"natural_wk", part.naturalWk},
                         {"limit_c", part.limitC},
                         {"streams", streamsOf(part, names)},
                         {"sink_of", part.sinkOf ? Json(net.parts[*part.sinkOf].id) : Json()},
                         {"pump_w", part.extraW},
                         {"board_share", part.boardShare},
                         {"board_zone", net.zones[part.boardZone].id},
                         {"processor", part.isProcessor},
                         {"supply", part.isSupply},
                         {"settled_c", s.parts[i].temperatureC},
                         {"settled_w", s.parts[i].powerW},
                         {"own", ownOf(asked, part.id)}});
    }
    return parts;
}

Json passiveOf(const Network& net, const Solution& s) {
    Json parts = Json::array();
    for (std::size_t i = 0; i < net.passive.size(); ++i) {
        const auto& part = net.passive[i];
        parts.push_back({{"id", part.id},
                         {"zone", net.zones[part.zone].id},
                         {"in_air_of", net.zones[part.airZone()].id},
                         {"power_w", part.isRegulators ? Json() : Json(part.powerW)},
                         {"surface_m2", part.surfaceM2},
                         {"h0_wm2k", part.h0},
                         {"h1_wm2k", part.h1},
                         {"inside_kw", part.insideResistance},
                         {"settled_c", s.passiveC[i]}});
    }
    return parts;
}

} // namespace

Json networkJson(const Asked& asked) {
    const auto& solved = *asked.evaluation().air.solved;
    const Network& net = solved.compiled.network;
    const Solution& s = solved.solution;
    return {{"room_c", net.roomC},
            {"absolute_pa", net.pressurePa},
            {"zones", zonesOf(asked, net, s)},
            {"branches", branchesOf(asked, net, s)},
            {"exchanges", exchangesOf(net)},
            {"fans", fansOf(net, s)},
            {"parts", partsOf(asked, net, s)},
            {"passive", passiveOf(net, s)},
            {"supply",
             {{"efficiency", net.supply.efficiency}, {"rated_w", net.supply.ratedW}, {"other_w", net.supply.otherW}}},
            {"converged", s.converged},
            {"outer_iterations", s.outerIterations},
            {"mass_residual_kgs", s.massResidual}};
}

} // namespace cli
