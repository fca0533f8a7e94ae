// SPDX-License-Identifier: GPL-3.0-or-later
// A log of a million rows and ten columns, beside the standard library's getline and strtod on the same text.
#include "store/csv.h"

#include <benchmark/benchmark.h>

#include <sstream>

#include <sys/resource.h>

namespace {

const std::string& bigLog() {
    static const std::string text = [] {
        std::string out = "time_s,a_c,b_c,c_c,d_c,fan_rpm,cpu_mhz,power_w,level_dba,other\n";
        char row[160];
        for (int i = 0; i < 1'000'000; ++i) {
            const int n =
                std::snprintf(row, sizeof row, "%d,%.2f,%.2f,%.1f,%.3f,%d,%d,%.1f,%.1f,%d\n", i, 40 + (i % 977) * 0.03,
                              50 + (i % 313) * 0.05, 60.5, 33.125, 1500 + i % 40, 4100 - i % 90, 203.4, 38.2, i % 7);
            out.append(row, static_cast<std::size_t>(n));
        }
        return out;
    }();
    return text;
}

double peakMb() {
    rusage use{};
    getrusage(RUSAGE_SELF, &use);
    return static_cast<double>(use.ru_maxrss) / 1024;
}

void readCsv(benchmark::State& state) {
    const auto format = store::recogniseCsv(bigLog(), "big.csv");
    for (auto _ : state) {
        const auto samples = store::readCsv(bigLog(), *format, "big.csv");
        if (!samples || samples->timeS.size() != 1'000'000 || samples->channels.size() != 9)
            state.SkipWithError("the log was not read whole");
        benchmark::DoNotOptimize(samples);
    }
    state.counters["peak_MB"] = peakMb();
}
BENCHMARK(readCsv)->Unit(benchmark::kMillisecond);

void standardLibraryReference(benchmark::State& state) {
    for (auto _ : state) {
        std::istringstream in(bigLog());
        std::string line;
        std::vector<double> all;
        std::getline(in, line);
        while (std::getline(in, line))
            for (const char* at = line.c_str();;) {
                char* end = nullptr;
                all.push_back(std::strtod(at, &end));
                if (*end != ',')
                    break;
                at = end + 1;
            }
        benchmark::DoNotOptimize(all);
    }
}
BENCHMARK(standardLibraryReference)->Unit(benchmark::kMillisecond);

} // namespace
BENCHMARK_MAIN();
