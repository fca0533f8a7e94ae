// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/standard_sizes.h"

#include <algorithm>
#include <cmath>

namespace core {
namespace {

constexpr std::string_view itx = "Mini-ITX addendum to microATX", atx = "ATX and microATX specifications",
                           fans = "common practice, no source";

constexpr std::array<StandardSize, 25> sizes{{
    {PartKind::Board, "mini-itx", {170, 170, 0}, {157.48, 154.94}, itx},
    {PartKind::Board, "micro-atx", {244, 244, 0}, {}, atx},
    {PartKind::Board, "atx", {305, 244, 0}, {}, atx},
    {PartKind::PowerSupply, "atx", {150, 140, 86}, {}, "ATX12V design guide"},
    {PartKind::PowerSupply, "sfx", {125, 100, 63.5}, {}, "SFX12V design guide"},
    {PartKind::PowerSupply, "sfx-l", {130, 125, 63.5}, {}, fans},
    {PartKind::PowerSupply, "tfx", {175, 85, 65}, {}, "TFX12V design guide"},
    {PartKind::PowerSupply, "flex", {150, 81.5, 40.5}, {}, "Flex ATX design guide"},
    {PartKind::Drive, "3.5", {147, 101.6, 26.1}, {}, "SFF-8301"},
    {PartKind::Drive, "2.5", {100.45, 69.85, 0}, {}, "SFF-8201; 7, 9.5 or 15 thick"},
    {PartKind::Drive, "m.2", {0, 22, 0}, {}, "PCI Express M.2 specification; 30 to 110 long"},
    {PartKind::Drive, "m.2-sink", {0, 22, 0}, {}, "PCI Express M.2 specification; 30 to 110 long"},
    {PartKind::Fan, "40", {40, 40, 0}, {32, 32}, fans},
    {PartKind::Fan, "50", {50, 50, 0}, {40, 40}, fans},
    {PartKind::Fan, "60", {60, 60, 0}, {50, 50}, fans},
    {PartKind::Fan, "70", {70, 70, 0}, {60, 60}, fans},
    {PartKind::Fan, "80", {80, 80, 0}, {71.5, 71.5}, fans},
    {PartKind::Fan, "92", {92, 92, 0}, {82.5, 82.5}, fans},
    {PartKind::Fan, "120", {120, 120, 0}, {105, 105}, fans},
    {PartKind::Fan, "140", {140, 140, 0}, {124.5, 124.5}, fans},
    {PartKind::Fan, "200", {200, 200, 0}, {154, 154}, "common practice, no source; varies by maker"},
    {PartKind::Card,
     "1",
     {0, 111.15, 20.32},
     {},
     "PCI Express card electromechanical specification: slot pitch, full height"},
    {PartKind::Card,
     "2",
     {0, 111.15, 40.64},
     {},
     "PCI Express card electromechanical specification: slot pitch, full height"},
    {PartKind::Card,
     "3",
     {0, 111.15, 60.96},
     {},
     "PCI Express card electromechanical specification: slot pitch, full height"},
    {PartKind::Card,
     "4",
     {0, 111.15, 81.28},
     {},
     "PCI Express card electromechanical specification: slot pitch, full height"},
}};

std::string formWord(const Part& part) {
    switch (part.kind) {
    case PartKind::Board:
        return std::get<BoardSpec>(part.spec).form;
    case PartKind::PowerSupply:
        return std::get<PowerSupplySpec>(part.spec).form;
    case PartKind::Drive:
        switch (std::get<DriveSpec>(part.spec).form) {
        case DriveForm::Inch35:
            return "3.5";
        case DriveForm::Inch25:
            return "2.5";
        case DriveForm::M2Bare:
            return "m.2";
        case DriveForm::M2Sink:
            return "m.2-sink";
        }
        return {};
    case PartKind::Fan:
        return std::to_string(std::lround(std::max(part.size[0].value.mm(), part.size[1].value.mm())));
    case PartKind::Card:
        return std::to_string(std::get<CardSpec>(part.spec).slotCount);
    default:
        return {};
    }
}

} // namespace

std::span<const StandardSize> standardSizes() { return sizes; }

const StandardSize* standardOf(const Part& part) {
    const std::string form = formWord(part);
    const auto it = std::find_if(sizes.begin(), sizes.end(),
                                 [&](const StandardSize& s) { return s.kind == part.kind && s.form == form; });
    return it == sizes.end() ? nullptr : &*it;
}

double offStandardMm(const Part& part, const StandardSize& standard) {
    // Each fixed size is met by the nearest of the part's sizes that no other one has taken.
    std::array<bool, 3> taken{};
    double worst = 0;
    for (const double wanted : standard.sizeMm) {
        if (wanted <= 0)
            continue;
        std::size_t best = 3;
        for (std::size_t i = 0; i < 3; ++i)
            if (!taken[i] && (best == 3 || std::abs(part.size[i].value.mm() - wanted) <
                                               std::abs(part.size[best].value.mm() - wanted)))
                best = i;
        taken[best] = true;
        worst = std::max(worst, std::abs(part.size[best].value.mm() - wanted));
    }
    return worst;
}

} // namespace core
