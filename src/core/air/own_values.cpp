// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/own_values.h"

#include "core/model/fields/choices_of.h"

namespace core::air {
namespace {

/// Where a value stands in a branch; null: it has none.
double* valueIn(Branch& branch, AirQuantity quantity) {
    switch (quantity) {
    case AirQuantity::Linear:
        return &branch.resistance.a;
    case AirQuantity::Quadratic:
        return &branch.resistance.b;
    case AirQuantity::Height:
        return &branch.heightM;
    case AirQuantity::FreeFlow:
        return branch.fan ? &branch.curve.freeFlowM3s : nullptr;
    case AirQuantity::Shutoff:
        return branch.fan ? &branch.curve.shutoffPa : nullptr;
    default:
        return nullptr;
    }
}
double* valueIn(Zone& zone, AirQuantity quantity) {
    return quantity == AirQuantity::Heat ? &zone.heatW : quantity == AirQuantity::Wall ? &zone.uaWk : nullptr;
}
double* valueIn(CooledPart& part, AirQuantity quantity) {
    return quantity == AirQuantity::Die       ? &part.dieResistance
           : quantity == AirQuantity::Sink    ? &part.gRefWk
           : quantity == AirQuantity::Natural ? &part.naturalWk
                                              : nullptr;
}

/// All places that an element and quantity mean: one, or those of the branches that share an id.
std::vector<double*> placesOf(Network& net, std::string_view element, AirQuantity quantity) {
    std::vector<double*> places;
    const auto add = [&](double* place) {
        if (place)
            places.push_back(place);
    };
    const auto names = branchNames(net);
    for (std::size_t b = 0; b < net.branches.size(); ++b)
        if (names[b] == element)
            add(valueIn(net.branches[b], quantity));
    for (std::size_t z = 1; z < net.zones.size(); ++z)
        if (net.zones[z].id == element)
            add(valueIn(net.zones[z], quantity));
    for (CooledPart& part : net.parts)
        if (part.id == element)
            add(valueIn(part, quantity));
    return places;
}

bool isThere(const Network& net, std::string_view element) {
    const auto names = branchNames(net);
    const auto called = [&](const auto& e) { return e.id == element; };
    return std::find(names.begin(), names.end(), element) != names.end() ||
           std::any_of(net.zones.begin() + 1, net.zones.end(), called) ||
           std::any_of(net.parts.begin(), net.parts.end(), called);
}

/// What would leave the network without a solution.
bool mayBeNought(AirQuantity quantity) {
    return quantity == AirQuantity::Linear || quantity == AirQuantity::Height || quantity == AirQuantity::Heat ||
           quantity == AirQuantity::Die || quantity == AirQuantity::Natural || quantity == AirQuantity::Wall;
}

/// With the digits that tell it from its neighbours: values span from hundredths to millions.
Figure plainly(double value) {
    const double size = std::abs(value);
    return figure::number(value, size >= 100 ? 0 : size >= 1 ? 2 : 4);
}

void follow(Network& net, const AirValue& own) {
    if (own.quantity != AirQuantity::Wall)
        return;
    for (Zone& zone : net.zones) // its two halves, for the warm-up
        if (zone.id == own.element && zone.insideWk > 0) {
            const double half = 1 / zone.insideWk + 1 / zone.outsideWk, factor = zone.uaWk * half;
            zone.insideWk *= factor;
            zone.outsideWk *= factor;
        }
}

} // namespace

std::vector<std::string> branchNames(const Network& network) {
    std::vector<std::string> names;
    for (std::size_t b = 0; b < network.branches.size(); ++b) {
        const std::string& id = network.branches[b].id;
        const auto before =
            std::count_if(network.branches.begin(), network.branches.begin() + static_cast<std::ptrdiff_t>(b),
                          [&](const Branch& other) { return other.id == id; });
        names.push_back(before ? id + "#" + std::to_string(before + 1) : id);
    }
    return names;
}

std::optional<double> valueOf(const Network& network, std::string_view element, AirQuantity quantity) {
    Network copy = network;
    const auto places = placesOf(copy, element, quantity);
    return places.empty() ? std::nullopt : std::optional(*places.front());
}

Sentences applyOwn(Network& network, const std::vector<AirValue>& values) {
    Sentences said;
    for (const AirValue& own : values) {
        const Sentence what = term(choiceText(own.quantity));
        if (!isThere(network, own.element)) {
            said.push_back(say("Your own value of \"{}\" is not used: the network has no such element", own.element));
            continue;
        }
        const auto places = placesOf(network, own.element, own.quantity);
        if (places.empty()) {
            said.push_back(say("Your own value of \"{}\" is not used: it has no {}", own.element, what));
        } else if (own.value < 0 && own.quantity != AirQuantity::Height) {
            said.push_back(say("Your own value of \"{}\" is not used: its {} is below nought", own.element, what));
        } else if (own.value == 0 && !mayBeNought(own.quantity)) {
            said.push_back(say("Your own value of \"{}\" is not used: its {} must be above nought", own.element, what));
        } else {
            const double was = *places.front();
            for (double* place : places)
                *place = own.value;
            follow(network, own);
            const Sentence change =
                say("{}, {}: {} of your own instead of {}", own.element, what, plainly(own.value), plainly(was));
            said.push_back(own.note.empty() ? change : say("{}; {}", change, own.note));
        }
    }
    return said;
}

} // namespace core::air
