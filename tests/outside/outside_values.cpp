// SPDX-License-Identifier: GPL-3.0-or-later
// Prints, as JSON, what the core computes for cases that tst_outside.py works out again with other people's programs.
#include "core/air/elements.h"
#include "core/air/network.h"
#include "core/air/transient.h"
#include "core/bench/settle.h"
#include "core/bench/stats.h"

#include <nlohmann/json.hpp>

#include <chrono>
#include <cmath>
#include <cstdio>
#include <random>

using namespace core;
using nlohmann::json;

namespace {

json atmosphere() {
    json out = json::array();
    for (const double h : {-200.0, 0.0, 350.0, 1000.0, 2500.0, 5000.0})
        for (const double t : {5.0, 23.0, 45.0})
            out.push_back({{"altitude_m", h},
                           {"temperature_c", t},
                           {"pressure_pa", air::pressureAt(h)},
                           {"density", air::density(air::pressureAt(h), t)},
                           {"viscosity", air::viscosity(t)}});
    return out;
}

/// A network of five zones with two fans, at given temperatures; every resistance is handed over with its a and b.
json flowNetwork() {
    air::Network net;
    net.roomC = 23;
    net.zones.resize(6);
    const auto branch = [&](std::size_t from, std::size_t to, air::Resistance r, double z,
                            std::optional<std::size_t> fan = {}, air::FanCurve curve = {}) {
        net.branches.push_back(
            {.id = "b", .from = from, .to = to, .resistance = r, .heightM = z, .fan = fan, .curve = curve});
    };
    branch(0, 1, air::perforated(0.0113, 0.6, 0.008, 0.003), 0.05, 0, {0.0264, 18});
    branch(1, 2, air::slot(0.004, 0.012, 0.03), 0.10);
    branch(1, 3, air::perforated(0.008, 0.4, 0.003, 0.001), 0.12);
    branch(2, 4, air::fins(0.0085, 0.02, 0.0015, 0.8, 2.0), 0.15, 1, {0.0151, 20});
    branch(3, 4, air::perforated(0.006, 0.5, 0.004, 0.001), 0.18);
    branch(4, 5, air::perforated(0.01, 0.45, 0.003, 0.001) + air::screen(0.01, 0.4, 0.15e-3, 1), 0.22);
    branch(5, 0, air::perforated(0.012, 0.45, 0.003, 0.001), 0.26);
    branch(3, 0, air::perforated(0.0015, 0.6, 0.004, 0.001), 0.03);
    branch(2, 0, air::perforated(0.0002, 0.6, 0.004, 0.001), 0.20);
    net.fans = {{.id = "in"}, {.id = "cooler"}};
    air::Solution s;
    s.temperatureC = {23, 26, 31, 29, 38, 36};
    s.pressurePa.assign(6, 0);
    s.flowM3s.assign(net.branches.size(), 0);
    s.speed = {0.7, 0.55};
    air::solveFlows(net, s);
    json out{{"absolute_pa", net.pressurePa},
             {"temperature_c", s.temperatureC},
             {"pressure_pa", s.pressurePa},
             {"speed", s.speed},
             {"branches", json::array()}};
    for (std::size_t i = 0; i < net.branches.size(); ++i) {
        const auto& b = net.branches[i];
        json j{{"from", b.from},        {"to", b.to},
               {"a", b.resistance.a},   {"b", b.resistance.b},
               {"height_m", b.heightM}, {"flow_m3s", s.flowM3s[i]}};
        if (b.fan)
            j["fan"] = {
                {"share", s.speed[*b.fan]}, {"free_flow_m3s", b.curve.freeFlowM3s}, {"shutoff_pa", b.curve.shutoffPa}};
        out["branches"].push_back(j);
    }
    return out;
}

/// A network with its temperatures and speeds, and what comes out.
struct Drawn {
    air::Network net;
    air::Solution s;
};
/// A thousand networks of up to six zones with fans, buoyancy and any openings, at given temperatures.
std::vector<Drawn> drawnNetworks() {
    std::mt19937 random(1000);
    const auto uniform = [&](double a, double b) {
        return a + (b - a) * (static_cast<double>(random()) / 4294967296.0);
    };
    std::vector<Drawn> all;
    for (int round = 0; round < 1000; ++round) {
        air::Network net;
        const std::size_t zones = 1 + random() % 6;
        net.zones.resize(zones + 1);
        const auto add = [&](std::size_t from, std::size_t to, air::Resistance r) {
            net.branches.push_back({.id = "b", .from = from, .to = to, .resistance = r, .heightM = uniform(0, 0.4)});
            if (random() % 3 == 0) {
                net.branches.back().fan = net.fans.size();
                net.branches.back().curve = {uniform(0.004, 0.05), uniform(5, 60)};
                net.fans.push_back({.id = "f"});
            }
        };
        for (std::size_t z = 1; z <= zones; ++z)
            add(z, 0, air::perforated(2e-4, 0.6, 0.003, 0.001));
        for (std::size_t k = 0; k < zones + random() % 8; ++k) {
            const std::size_t from = random() % (zones + 1), to = (from + 1 + random() % zones) % (zones + 1);
            add(from, to,
                random() % 4 == 0
                    ? air::slot(uniform(5e-4, 8e-3), uniform(0.004, 0.03), 0.03)
                    : air::perforated(uniform(5e-4, 2e-2), uniform(0.2, 0.9), uniform(0.002, 0.008), 0.001));
        }
        air::Solution s;
        s.pressurePa.assign(zones + 1, 0);
        s.temperatureC.assign(zones + 1, 23);
        for (std::size_t z = 1; z <= zones; ++z)
            s.temperatureC[z] = uniform(23, 65);
        for (std::size_t f = 0; f < net.fans.size(); ++f)
            s.speed.push_back(uniform(0, 1));
        all.push_back({std::move(net), std::move(s)});
    }
    return all;
}
json randomNetworks() {
    json all = json::array();
    for (auto& [net, s] : drawnNetworks()) {
        air::solveFlows(net, s);
        json branches = json::array();
        for (std::size_t i = 0; i < net.branches.size(); ++i) {
            const auto& b = net.branches[i];
            branches.push_back({b.from, b.to, b.resistance.a, b.resistance.b, b.heightM, s.flowM3s[i],
                                b.fan ? s.speed[*b.fan] : -1.0, b.curve.freeFlowM3s, b.curve.shutoffPa});
        }
        all.push_back({{"absolute_pa", net.pressurePa},
                       {"temperature_c", s.temperatureC},
                       {"pressure_pa", s.pressurePa},
                       {"branches", branches}});
    }
    return all;
}
/// Microseconds a network, from rest.
double timed() {
    const auto networks = drawnNetworks();
    double best = 1e300;
    for (int round = 0; round < 5; ++round) {
        const auto begin = std::chrono::steady_clock::now();
        for (const auto& [net, start] : networks) {
            air::Solution s = start;
            air::solveFlows(net, s);
        }
        const std::chrono::duration<double, std::micro> took = std::chrono::steady_clock::now() - begin;
        best = std::min(best, took.count() / static_cast<double>(networks.size()));
    }
    return best;
}

/// One cooled part in still air of a fixed temperature: die and sink as two heat nodes, no stream.
json warmUp() {
    air::Network net;
    net.roomC = 23;
    net.zones = {
        {.id = "outside", .crossSectionM2 = 1e9},
        {.id = "box", .uaWk = 1e6, .crossSectionM2 = 1e9, .structureJk = 1e9, .insideWk = 2e6, .outsideWk = 2e6}};
    net.branches.push_back({.id = "cooler", .from = 1, .to = 1, .resistance = {1e12, 1e12}});
    net.branches.push_back({.id = "leak", .from = 1, .to = 0, .resistance = air::perforated(2e-4, 0.6, 0.004, 0.001)});
    net.parts.push_back({.id = "part",
                         .branch = 0,
                         .home = 1,
                         .powerW = 40,
                         .dieResistance = 0.35,
                         .gRefWk = 1e-9,
                         .qRefM3s = 1,
                         .naturalWk = 1.6,
                         .dieJk = 10,
                         .sinkJk = 150});
    air::Transient play(net, {.roomC = 23});
    json out{{"power_w", 40}, {"idle_w", 12},   {"die_resistance", 0.35}, {"sink_wk", 1.6},
             {"die_jk", 10},  {"sink_jk", 150}, {"room_c", 23},           {"rows", json::array()}};
    for (int i = 0; i <= 600; ++i) {
        if (i % 20 == 0)
            out["rows"].push_back({i, play.state().parts[0].temperatureC, play.state().parts[0].sinkC});
        play.step({.roomC = 23});
    }
    return out;
}

/// A box with a fan in, a way out, a wall with its capacity, and a part whose cooler draws from the air of the box.
json boxWarmUp() {
    air::Network net;
    net.roomC = 27;
    net.zones = {
        {.id = "outside"},
        {.id = "box", .uaWk = 0.6, .crossSectionM2 = 0.03, .structureJk = 1600, .insideWk = 1.1, .outsideWk = 1.32}};
    const air::FanCurve in{0.0151, 18}, own{0.0198, 12};
    net.branches.push_back({.id = "in",
                            .from = 0,
                            .to = 1,
                            .resistance = air::perforated(0.0066, 0.5, 0.003, 0.001),
                            .fan = 0,
                            .curve = in});
    net.branches.push_back({.id = "out", .from = 1, .to = 0, .resistance = air::perforated(0.008, 0.45, 0.003, 0.001)});
    net.branches.push_back({.id = "cooler",
                            .from = 1,
                            .to = 1,
                            .resistance = air::fins(0.0085, 0.025, 0.0015, 0.8, 2.0),
                            .fan = 1,
                            .curve = own});
    net.fans = {{.id = "in", .minShare = 0.2, .fixedDuty = 0.7}, {.id = "own", .minShare = 0.2, .fixedDuty = 0.6}};
    const air::CooledPart part{.id = "part",
                               .branch = 2,
                               .home = 1,
                               .powerW = 85,
                               .dieResistance = 0.32,
                               .gRefWk = 6.5,
                               .qRefM3s = 0.0128,
                               .exponent = 0.6,
                               .naturalWk = 0.18,
                               .dieJk = 8,
                               .sinkJk = 210};
    net.parts.push_back(part);
    air::Transient play(net, {.roomC = net.roomC});
    json rows = json::array(), branches = json::array();
    for (int i = 0; i <= 2400; ++i) {
        if (i % 60 == 0)
            rows.push_back(
                {i, play.state().parts[0].temperatureC, play.state().parts[0].sinkC, play.state().temperatureC[1]});
        play.step({.roomC = net.roomC});
    }
    for (const auto& b : net.branches)
        branches.push_back({b.resistance.a, b.resistance.b, b.fan ? net.fans[*b.fan].fixedDuty : -1.0,
                            b.curve.freeFlowM3s, b.curve.shutoffPa});
    return {{"room_c", net.roomC},  {"absolute_pa", net.pressurePa},
            {"branches", branches}, {"power_w", part.powerW},
            {"idle_w", 12},         {"die_resistance", part.dieResistance},
            {"g_ref", part.gRefWk}, {"q_ref", part.qRefM3s},
            {"n", part.exponent},   {"natural_wk", part.naturalWk},
            {"die_jk", part.dieJk}, {"sink_jk", part.sinkJk},
            {"inside_wk", 1.1},     {"outside_wk", 1.32},
            {"structure_jk", 1600}, {"rows", rows}};
}

/// A warm-up log and its least-squares fit with two exponentials.
json settleFit() {
    std::uint32_t x = 12345;
    bench::SettleInput in{.quantumK = 0.125};
    json t = json::array(), y = json::array();
    for (int i = 0; i < 1500; ++i) {
        x = 1664525U * x + 1013904223U;
        const double clean = 33 + 20 * -std::expm1(-i / 60.0) + 10 * -std::expm1(-i / 500.0) + (x / 4294967296.0 - 0.5);
        in.timeS.push_back(i);
        in.values.push_back(std::floor(clean / 0.125 + 0.5) * 0.125);
        t.push_back(i);
        y.push_back(in.values.back());
    }
    const auto r = bench::settle(in);
    return {{"t", t},
            {"y", y},
            {"a", r.two.a},
            {"b", {r.two.b1, r.two.b2}},
            {"tau", {r.two.tau1, r.two.tau2}},
            {"estimate", r.estimate},
            {"low", r.low},
            {"high", r.high}};
}

json quantiles() {
    json out = json::array();
    for (const double nu : {2.0, 3.0, 5.0, 8.5, 12.0, 40.0, 300.0})
        for (const double p : {0.9, 0.95, 0.975})
            out.push_back({{"nu", nu}, {"p", p}, {"t", bench::tQuantile(p, nu)}, {"z", bench::normalQuantile(p)}});
    return out;
}

} // namespace

int main(int argc, char** argv) {
    if (argc > 1 && std::string(argv[1]) == "--time") {
        std::printf("%.3f\n", timed());
        return 0;
    }
    std::printf("%s\n", json{{"atmosphere", atmosphere()},
                             {"flow", flowNetwork()},
                             {"random", randomNetworks()},
                             {"warm_up", warmUp()},
                             {"box", boxWarmUp()},
                             {"settle", settleFit()},
                             {"quantiles", quantiles()}}
                            .dump()
                            .c_str());
    return 0;
}
