// SPDX-License-Identifier: GPL-3.0-or-later
// How long a builder waits: one full look at a demo revision and its parts, beside a dense solve by Eigen of the same
// size.
#include "core/acoustics/noise.h"
#include "core/air/warm_up.h"
#include "core/verdict/judge.h"
#include "demo.h"

#include <Eigen/Dense>
#include <benchmark/benchmark.h>

using namespace core;
using shared::demo;

namespace {

void resolveRevision(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(resolve(demo(), "R10"));
}
BENCHMARK(resolveRevision)->Unit(benchmark::kMicrosecond);

void fitCheck(benchmark::State& state) {
    const auto build = resolve(demo(), "R10");
    for (auto _ : state)
        benchmark::DoNotOptimize(fit::check(*build));
}
BENCHMARK(fitCheck)->Unit(benchmark::kMicrosecond);

void airSolve(benchmark::State& state) {
    const auto build = resolve(demo(), "R10");
    for (auto _ : state)
        benchmark::DoNotOptimize(air::predict(*build, air::conditionsOf(demo())));
}
BENCHMARK(airSolve)->Unit(benchmark::kMicrosecond);

void airBands(benchmark::State& state) {
    const auto build = resolve(demo(), "R10");
    for ([[maybe_unused]] auto _ : state)
        benchmark::DoNotOptimize(air::predictWithBands(*build, air::conditionsOf(demo())));
}
BENCHMARK(airBands)->Unit(benchmark::kMicrosecond);

/// The solve alone: flows, heat and control of a network that is there already. The promise: below 100 us.
void airSolveAlone(benchmark::State& state) {
    const auto build = resolve(demo(), "R10");
    const auto compiled = air::compile(*build, air::conditionsOf(demo()));
    air::Solution solution;
    for ([[maybe_unused]] auto _ : state)
        benchmark::DoNotOptimize(solution = air::solve(compiled.network));
    state.counters["outer"] = solution.outerIterations;
    state.counters["newton"] = solution.newtonSteps;
}
BENCHMARK(airSolveAlone)->Unit(benchmark::kMicrosecond);

/// The promise: an hour of warm-up, second by second, below 50 ms.
void airWarmUpHour(benchmark::State& state) {
    const auto build = resolve(demo(), "R10");
    const auto compiled = air::compile(*build, air::conditionsOf(demo()));
    const auto settled = air::solve(compiled.network);
    for ([[maybe_unused]] auto _ : state)
        benchmark::DoNotOptimize(air::warmUp(compiled.network, settled, 60, 15));
}
BENCHMARK(airWarmUpHour)->Unit(benchmark::kMillisecond);

/// The promise: resolve, fit, air and noise of one revision below 2 ms.
void fullLook(benchmark::State& state) {
    for (auto _ : state) {
        const auto build = resolve(demo(), "R10");
        benchmark::DoNotOptimize(fit::check(*build));
        const auto prediction = air::predict(*build, air::conditionsOf(demo()));
        benchmark::DoNotOptimize(acoustics::noiseOf(*build, prediction, 1.0));
    }
}
BENCHMARK(fullLook)->Unit(benchmark::kMicrosecond);

void evaluateRevision(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(stages::evaluate(demo(), "R10"));
}
BENCHMARK(evaluateRevision)->Unit(benchmark::kMicrosecond);

/// Reference: as many dense 8 x 8 factorisations by Eigen as one air solve needs Newton and heat steps (about 60).
void eigenReference(benchmark::State& state) {
    Eigen::Matrix<double, 8, 8> a = Eigen::Matrix<double, 8, 8>::Random();
    a = a * a.transpose() + Eigen::Matrix<double, 8, 8>::Identity();
    const Eigen::Matrix<double, 8, 1> b = Eigen::Matrix<double, 8, 1>::Random();
    for (auto _ : state)
        for (int i = 0; i < 60; ++i) {
            Eigen::Matrix<double, 8, 1> x = a.ldlt().solve(b);
            benchmark::DoNotOptimize(x);
        }
}
BENCHMARK(eigenReference)->Unit(benchmark::kMicrosecond);

void analyseRun(benchmark::State& state) {
    const Run& run = *demo().run("r10-both");
    for (auto _ : state)
        benchmark::DoNotOptimize(bench::analyse(run, {.referenceRoomC = 34}));
}
BENCHMARK(analyseRun)->Unit(benchmark::kMillisecond);

} // namespace
BENCHMARK_MAIN();
