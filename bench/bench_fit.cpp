// SPDX-License-Identifier: GPL-3.0-or-later
// The Fit station: a nudge, ten times as many parts, the answers, and the search; beside the tree of the Flexible
// Collision Library over the same boxes.
#include "core/advise/search.h"
#include "core/advise/what_to_change.h"
#include "core/fit/insertion.h"
#include "core/fit/measure_next.h"
#include "core/fit/room.h"
#include "demo.h"

#include <fcl/broadphase/broadphase_dynamic_AABB_tree.h>
#include <fcl/geometry/shape/box.h>
#include <fcl/narrowphase/collision.h>
#include <fcl/narrowphase/collision_object.h>

#include <benchmark/benchmark.h>

using namespace core;
using shared::demo;

namespace {

/// The demo's build @p times over, side by side in a case so much wider.
Project widened(int times) {
    Project p = demo();
    Part& box = *std::find_if(p.shelf.begin(), p.shelf.end(), [](const Part& part) { return part.id == "case-1"; });
    const Length width = box.size[0].value;
    box.size[0].value = Length::fromUm(width.um() * times);
    const std::vector<Mount> mounts = std::move(box.mounts);
    box.mounts.clear();
    Revision r{.id = "wide", .changes = {SetCase{"case-1"}}};
    const auto line = lineage(demo(), "R10");
    for (int k = 0; k < times; ++k) {
        const std::string prefix = "k" + std::to_string(k) + "-";
        for (Mount m : mounts) {
            m.id = prefix + m.id;
            const int away = m.at[0].ref == Ref::High ? times - 1 - k : k;
            m.at[0].value.value += Length::fromUm(width.um() * away);
            box.mounts.push_back(std::move(m));
        }
        for (const Revision* revision : *line)
            for (const Change& change : revision->changes) {
                if (const auto* place = std::get_if<PlacePart>(&change))
                    r.changes.push_back(PlacePart{place->part, prefix + place->mount, place->flow});
                else if (const auto* swap = std::get_if<SwapPart>(&change))
                    r.changes.push_back(SwapPart{prefix + swap->mount, swap->part});
            }
    }
    p.revisions.push_back(std::move(r));
    return p;
}

/// A key press that moves the card by half a millimetre: resolved and checked anew.
void nudge(benchmark::State& state) {
    int step = 0;
    for (auto _ : state) {
        const auto build = resolveWith(demo(), "R10", {MovePart{"card", Axis::Y, Length::fromMm(-0.5 * (++step % 8))}});
        benchmark::DoNotOptimize(fit::check(*build, {.needs = demo().needs}));
    }
}
BENCHMARK(nudge)->Unit(benchmark::kMicrosecond);

void fitOfManyParts(benchmark::State& state) {
    const Project p = widened(static_cast<int>(state.range(0)));
    const auto build = resolve(p, "wide");
    if (!build)
        return state.SkipWithError(build.error().text().c_str());
    for (auto _ : state)
        benchmark::DoNotOptimize(fit::check(*build));
    state.counters["parts"] = static_cast<double>(build->placed.size());
}
BENCHMARK(fitOfManyParts)->Arg(1)->Arg(10)->Unit(benchmark::kMicrosecond);

/// The reference: which boxes touch, grown by the same reach, from the library's own tree. It finds pairs, no chains.
void libraryTree(benchmark::State& state) {
    const Project p = widened(static_cast<int>(state.range(0)));
    const auto build = resolve(p, "wide");
    for (auto _ : state) {
        std::vector<std::unique_ptr<fcl::CollisionObjectd>> objects;
        fcl::DynamicAABBTreeCollisionManagerd tree;
        for (const auto& b : fit::bodiesOf(*build)) {
            const auto size = [&](std::size_t k) { return (b.high[k] - b.low[k]).mm() + 25; };
            const auto middle = [&](std::size_t k) { return 0.5 * (b.high[k] + b.low[k]).mm(); };
            objects.push_back(std::make_unique<fcl::CollisionObjectd>(
                std::make_shared<fcl::Boxd>(size(0), size(1), size(2)), fcl::Matrix3d::Identity(),
                fcl::Vector3d(middle(0), middle(1), middle(2))));
            tree.registerObject(objects.back().get());
        }
        tree.setup();
        std::size_t pairs = 0;
        tree.collide(&pairs, [](fcl::CollisionObjectd* a, fcl::CollisionObjectd* b, void* count) {
            fcl::CollisionRequestd request;
            fcl::CollisionResultd result;
            *static_cast<std::size_t*>(count) += fcl::collide(a, b, request, result) > 0 ? 1 : 0;
            return false;
        });
        benchmark::DoNotOptimize(pairs);
    }
}
BENCHMARK(libraryTree)->Arg(1)->Arg(10)->Unit(benchmark::kMicrosecond);

void goingIn(benchmark::State& state) {
    const auto e = stages::evaluate(demo(), "R10");
    for (auto _ : state)
        benchmark::DoNotOptimize(fit::insertions(e->build, make::orderOf(e->make)));
}
BENCHMARK(goingIn)->Unit(benchmark::kMillisecond);

/// The hardest case: nothing passes straight, so every panel and both ends are searched for a tilt.
void goingInBlocked(benchmark::State& state) {
    Project p = demo();
    for (Part& part : p.shelf)
        if (part.kind == PartKind::Case)
            for (Panel& panel : std::get<CaseSpec>(part.spec).panels)
                panel.lipMm = 38;
    const auto e = stages::evaluate(p, "R10");
    for (auto _ : state)
        benchmark::DoNotOptimize(fit::insertions(e->build, make::orderOf(e->make)));
}
BENCHMARK(goingInBlocked)->Unit(benchmark::kMillisecond);

void rooms(benchmark::State& state) {
    const auto build = resolve(demo(), "R10");
    for (auto _ : state)
        benchmark::DoNotOptimize(fit::roomLeft(demo(), *build));
}
BENCHMARK(rooms)->Unit(benchmark::kMillisecond);

void whatWouldMend(benchmark::State& state) {
    const auto e = stages::evaluate(demo(), "R3");
    for (auto _ : state)
        benchmark::DoNotOptimize(advise::whatToChange(demo(), *e, e->fit.gaps.front()));
}
BENCHMARK(whatWouldMend)->Unit(benchmark::kMillisecond);

void measureNext(benchmark::State& state) {
    const auto e = stages::evaluate(demo(), "R10");
    for (auto _ : state)
        benchmark::DoNotOptimize(fit::measureNext(e->fit));
}
BENCHMARK(measureNext)->Unit(benchmark::kMicrosecond);

/// More than 100 000 combinations: coolers, three fan places and cards.
void searchHundredThousand(benchmark::State& state) {
    Project p = demo();
    const auto more = [&](const char* id, int copies, std::size_t own, double step) {
        const Part model = *p.part(id);
        for (int k = 1; k <= copies; ++k) {
            Part copy = model;
            copy.id += "-" + std::to_string(k);
            copy.name += " " + std::to_string(k);
            copy.price += k;
            copy.size[own].value = Length::fromMm(copy.size[own].value.mm() + step * k);
            p.shelf.push_back(copy);
        }
    };
    more("cooler-l37", 5, 2, 1.5);
    more("fan-92-15", 9, 2, -0.5);
    more("card-168e", 4, 1, -2);
    const auto e = stages::evaluate(p, "R10");
    std::size_t combinations = 0, fitting = 0;
    for (auto _ : state) {
        const auto found = advise::search(p, *e, {.kinds = {PartKind::Cooler, PartKind::Fan, PartKind::Card}});
        if (!found)
            return state.SkipWithError(found.error().text().c_str());
        combinations = found->combinations;
        fitting = found->fitting;
    }
    state.counters["combinations"] = static_cast<double>(combinations);
    state.counters["fitting"] = static_cast<double>(fitting);
}
BENCHMARK(searchHundredThousand)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
