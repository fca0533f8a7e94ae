// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/loops.h"

#include "core/model/facts.h"

#include <algorithm>
#include <cmath>

namespace core {

bool isBlock(const Placed& p) {
    const auto* cooler = std::get_if<CoolerSpec>(&p.part->spec);
    return cooler && cooler->type == CoolerType::Liquid;
}

std::vector<LiquidLoop> loopsOf(const Build& build) {
    std::vector<LiquidLoop> loops;
    const auto named = [&](const std::string& name) -> LiquidLoop& {
        const auto it = std::find_if(loops.begin(), loops.end(), [&](const LiquidLoop& l) { return l.name == name; });
        if (it != loops.end())
            return *it;
        loops.push_back({.name = name, .blocks = {}, .radiators = {}});
        return loops.back();
    };
    for (const Placed& p : build.placed)
        if (isBlock(p))
            named(std::get<CoolerSpec>(p.part->spec).loop).blocks.push_back(&p);
        else if (const auto* radiator = std::get_if<RadiatorSpec>(&p.part->spec))
            named(radiator->loop).radiators.push_back(&p);
    return loops;
}

double fillLeft(const CoolerSpec& block) {
    const double lost = block.lossPerYear > 0 ? block.lossPerYear : facts::liquidLoss.value;
    return block.fill * std::pow(1 - lost, block.years);
}

} // namespace core
