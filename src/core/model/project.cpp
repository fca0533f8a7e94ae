// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/project.h"

#include "core/base/words.h"
#include "core/model/fields/choices_of.h"

namespace core {
namespace {
constexpr WordTable<TargetKind, 8> targetUnits{{{TargetKind::Temperature, "°C"},
                                                {TargetKind::Noise, "dB(A)"},
                                                {TargetKind::Clock, "MHz"},
                                                {TargetKind::Gap, "mm"},
                                                {TargetKind::Volume, "L"},
                                                {TargetKind::Mass, "g"},
                                                {TargetKind::Cost, ""},
                                                {TargetKind::Power, "W"}}};

template <class List> const typename List::value_type* find(const List& items, std::string_view id) {
    const auto it = std::find_if(items.begin(), items.end(), [&](const auto& item) { return item.id == id; });
    return it == items.end() ? nullptr : &*it;
}
} // namespace

std::string_view targetWord(TargetKind kind) { return choiceWord(kind); }
std::optional<TargetKind> targetFromWord(std::string_view word) { return choiceFrom<TargetKind>(word); }
Quantity quantityOf(TargetKind kind) {
    switch (kind) {
    case TargetKind::Temperature:
        return Quantity::Temperature;
    case TargetKind::Noise:
        return Quantity::Level;
    case TargetKind::Clock:
        return Quantity::Clock;
    case TargetKind::Gap:
        return Quantity::Length;
    case TargetKind::Volume:
        return Quantity::Volume;
    case TargetKind::Mass:
        return Quantity::Mass;
    case TargetKind::Cost:
        return Quantity::Money;
    case TargetKind::Power:
        return Quantity::Power;
    }
    return Quantity::None;
}

Quantity headroomOf(TargetKind kind) {
    return kind == TargetKind::Temperature ? Quantity::TemperatureDifference : quantityOf(kind);
}

std::string_view targetUnit(TargetKind kind) { return wordOf(targetUnits, kind); }

const Part* Project::part(std::string_view wanted) const { return find(shelf, wanted); }
const Revision* Project::revision(std::string_view wanted) const { return find(revisions, wanted); }
const Load* Project::load(std::string_view wanted) const { return find(loads, wanted); }
const Run* Project::run(std::string_view wanted) const { return find(runs, wanted); }

} // namespace core

template class std::vector<core::Target>;
template class std::vector<core::Load>;
template class std::vector<core::NeedOverride>;
template class std::vector<core::AirValue>;
template class std::vector<core::ObservedLink>;
