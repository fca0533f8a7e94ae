// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/measure.h"

namespace core {
std::string_view sourceWord(Source source) { return choiceWord(source); }
std::optional<Source> sourceFromWord(std::string_view word) { return choiceFrom<Source>(word); }

Length defaultTolerance(Source source, Length value, SheetKind kind) {
    switch (source) {
    case Source::Caliper:
        return Length::fromUm(100);
    case Source::SteelRule:
        return Length::fromUm(500);
    case Source::Drawing:
        return Length::fromUm(200);
    case Source::Sheet:
        return Length::fromUm(kind == SheetKind::CoolerOrCard ? 1000 : 500);
    case Source::Estimate:
        return Length::fromUm(2000);
    case Source::BentSheet:
        return Length::fromUm(500);
    case Source::Printed: {
        const Length share = Length::fromUm(std::llabs(value.um()) * 3 / 1000);
        return share > Length::fromUm(300) ? share : Length::fromUm(300);
    }
    case Source::LaserCut:
        return Length::fromUm(200);
    case Source::HandCut:
        return Length::fromUm(1000);
    case Source::Standard:
        return Length::fromUm(200);
    case Source::Computed:
        return Length{};
    }
    return Length{};
}

Measure measureMm(double mm, Source source, SheetKind kind) {
    const Length value = Length::fromMm(mm);
    return {.value = value, .tolerance = defaultTolerance(source, value, kind), .source = source};
}

} // namespace core
