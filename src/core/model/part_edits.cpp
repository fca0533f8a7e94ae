// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/part_edits.h"

namespace core::own {
namespace {

constexpr double furthestMm = 2000; // as the field lists say

bool isSwept(const Body& body) { return body.shape == Shape::Tube || body.shape == Shape::Ribbon; }

bool isThere(const Part& part, const Item& item) {
    switch (item.kind) {
    case Kind::Body:
        return item.index < part.bodies.size();
    case Kind::Plug:
        return item.index < part.ports.size();
    case Kind::Place:
        return item.index < part.mounts.size();
    case Kind::Corner:
        return item.index < part.bodies.size() && item.corner < part.bodies[item.index].routeMm.size();
    }
    return false;
}

tl::unexpected<Problem> gone(const Part& part) {
    return problem(part.name, "what was meant is not there any more", "choose it again");
}

/// Offsets from a high face grow inwards.
int signOf(Ref ref) { return ref == Ref::High || ref == Ref::Below ? -1 : 1; }

double placeOf(const Offset& offset, double sizeMm) {
    const double mm = offset.value.value.mm();
    switch (offset.ref) {
    case Ref::High:
        return sizeMm - mm;
    case Ref::Above:
        return sizeMm + mm;
    case Ref::Below:
        return -mm;
    case Ref::Low:
    case Ref::Centre:
        break;
    }
    return mm;
}

Result<void> shift(const Part& part, Measure& measure, double mm) {
    const Length to = measure.value + Length::fromMm(mm);
    if (std::abs(to.mm()) > furthestMm)
        return problem(part.name, "it would lie more than 2 m away", "a place at the part");
    measure.value = to;
    return {};
}

} // namespace

std::vector<Item> itemsOf(const Part& part) {
    std::vector<Item> all;
    for (std::size_t i = 0; i < part.bodies.size(); ++i) {
        all.push_back({Kind::Body, i});
        if (isSwept(part.bodies[i]))
            for (std::size_t c = 0; c < part.bodies[i].routeMm.size(); ++c)
                all.push_back({Kind::Corner, i, c});
    }
    for (std::size_t i = 0; i < part.ports.size(); ++i)
        all.push_back({Kind::Plug, i});
    for (std::size_t i = 0; i < part.mounts.size(); ++i)
        all.push_back({Kind::Place, i});
    return all;
}

std::string nameOf(const Part& part, const Item& item) {
    if (!isThere(part, item))
        return {};
    switch (item.kind) {
    case Kind::Body:
        return part.bodies[item.index].name;
    case Kind::Plug:
        return part.ports[item.index].id;
    case Kind::Place:
        return part.mounts[item.index].name.empty() ? part.mounts[item.index].id : part.mounts[item.index].name;
    case Kind::Corner:
        return part.bodies[item.index].name + " " + std::to_string(item.corner + 1);
    }
    return {};
}

std::array<double, 3> middleOf(const Part& part, const Item& item) {
    std::array<double, 3> at{};
    if (!isThere(part, item))
        return at;
    for (std::size_t k = 0; k < 3; ++k)
        switch (item.kind) {
        case Kind::Plug:
            at[k] = part.ports[item.index].at[k].value.mm();
            break;
        case Kind::Place:
            at[k] = placeOf(part.mounts[item.index].at[k], part.size[k].value.mm());
            break;
        case Kind::Corner:
            at[k] = part.bodies[item.index].at[k].value.mm() + part.bodies[item.index].routeMm[item.corner][k];
            break;
        case Kind::Body: {
            const Body& body = part.bodies[item.index];
            at[k] = body.at[k].value.mm();
            if (!isSwept(body))
                at[k] += body.size[k].value.mm() / 2;
            else if (!body.routeMm.empty())
                at[k] += (body.routeMm.front()[k] + body.routeMm.back()[k]) / 2;
            break;
        }
        }
    return at;
}

Result<void> moveBy(Part& part, const Item& item, const std::array<double, 3>& mm) {
    if (!isThere(part, item))
        return gone(part);
    Part moved = part;
    for (std::size_t k = 0; k < 3; ++k) {
        if (mm[k] == 0)
            continue;
        if (item.kind == Kind::Corner) {
            double& at = moved.bodies[item.index].routeMm[item.corner][k];
            at += mm[k];
            if (std::abs(at) > furthestMm)
                return problem(part.name, "the corner would lie more than 2 m away", "a corner at the part");
            continue;
        }
        const bool place = item.kind == Kind::Place;
        Measure& measure = item.kind == Kind::Body   ? moved.bodies[item.index].at[k]
                           : item.kind == Kind::Plug ? moved.ports[item.index].at[k]
                                                     : moved.mounts[item.index].at[k].value;
        if (auto wrong = shift(part, measure, place ? signOf(moved.mounts[item.index].at[k].ref) * mm[k] : mm[k]);
            !wrong)
            return wrong;
    }
    part = std::move(moved);
    return {};
}

Result<Item> addCorner(Part& part, std::size_t body, std::size_t after) {
    if (body >= part.bodies.size())
        return gone(part);
    Body& swept = part.bodies[body];
    if (!isSwept(swept))
        return problem(swept.name, "it is no tube or ribbon, and follows no route",
                       "state its shape as tube or ribbon");
    auto& route = swept.routeMm;
    constexpr double firstLegMm = 50;
    if (route.size() < 2) {
        if (route.empty())
            route.push_back({0, 0, 0});
        std::array<double, 3> end = route.front();
        end[0] += firstLegMm;
        route.push_back(end);
        return Item{Kind::Corner, body, route.size() - 1};
    }
    const std::size_t at = std::min(after, route.size() - 2);
    std::array<double, 3> middle{};
    for (std::size_t k = 0; k < 3; ++k)
        middle[k] = (route[at][k] + route[at + 1][k]) / 2;
    route.insert(route.begin() + static_cast<std::ptrdiff_t>(at) + 1, middle);
    return Item{Kind::Corner, body, at + 1};
}

Result<void> remove(Part& part, const Item& item) {
    if (!isThere(part, item))
        return gone(part);
    const auto from = [&](auto& list) { list.erase(list.begin() + static_cast<std::ptrdiff_t>(item.index)); };
    switch (item.kind) {
    case Kind::Body:
        from(part.bodies);
        break;
    case Kind::Plug:
        from(part.ports);
        break;
    case Kind::Place:
        from(part.mounts);
        break;
    case Kind::Corner: {
        auto& route = part.bodies[item.index].routeMm;
        if (route.size() <= 2)
            return problem(part.bodies[item.index].name, "a route keeps its two ends", "delete the body instead");
        route.erase(route.begin() + static_cast<std::ptrdiff_t>(item.corner));
        break;
    }
    }
    return {};
}

} // namespace core::own
