// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/fit_words.h"

namespace core::explain {

Sentence marginText(double marginMm) {
    return marginMm < 0 ? say("{} short at worst", figure::mm(-marginMm))
                        : say("keeps {} at worst", figure::mm(marginMm));
}

Sentence textOf(const fit::Room& room) {
    const Figure most = figure::mm(room.mostMm), surely = figure::mm(room.surelyMm).bare();
    const Sentence size = term(fit::ownAxisWord(room.own));
    const Sentence head = room.free ? say("{} is free: {} up to {}", room.name, size, most)
                                    : say("{}, {} {}: up to {}", room.name, size, figure::mm(room.nowMm).bare(), most);
    return say("{} ({} for sure), stopped by {}", head, surely, room.limit);
}

Sentence textOf(const fit::MeasureNext& next) {
    Sentence text = say("{}, {} ±{} ({})", next.label, figure::mm(next.now.value.mm()).bare(),
                        figure::mm(next.now.tolerance.mm()), term(sourceWord(next.now.source)));
    text += sayCounted(next.gaps.size() == 1, ": takes {} of doubt off {} gap", ": takes {} of doubt off {} gaps",
                       figure::mm(next.worstWonMm), next.gaps.size());
    if (next.settles() >= 0.0005)
        text += say(", risk of a wrong answer {} to {}", figure::percent(next.riskNow).bare(),
                    figure::percent(next.riskThen));
    return text;
}

Sentence outcomeOf(const advise::Mend& mend) {
    const Figure won = figure::mm(mend.wonMm).signedFigure();
    const Figure spare = figure::mm(std::max(0.0, mend.spareMm));
    const Sentence result = mend.gone                    ? say("the two no longer meet")
                            : mend.mends && mend.starved ? say("{}, closes, still short of air", won)
                            : !mend.mends                ? say("{}, {}", won, marginText(mend.marginMm))
                            : mend.marginMm < 0          ? say("{}, {} over its need, measure to be sure", won, spare)
                                                         : say("{}, {} over its need", won, spare);
    Sentence text = say("{}; {}", result, mend.cost);
    for (const Sentence& spoiled : mend.spoils)
        text += say("; but {}", spoiled);
    return text;
}

Sentence textOf(const advise::Mend& mend) { return say("{}: {}", mend.text, outcomeOf(mend)); }

Sentence textOf(const rules::PortMap& map, std::size_t index) {
    const rules::Need& need = map.needs[index];
    if (need.socket < 0)
        return say("{}: {} finds no free socket", need.taker.name, need.kind);
    const std::string& giver = map.sockets[static_cast<std::size_t>(need.socket)].giver.name;
    return need.via.empty() ? say("{}: {} from {}", need.taker.name, need.kind, giver)
                            : say("{}: {} from {} by {}", need.taker.name, need.kind, giver, need.via);
}

Sentence textOf(Source source) {
    const Figure off = figure::mm(defaultTolerance(source, Length{}).mm());
    switch (source) {
    case Source::Caliper:
        return say("caliper, ±{}", off);
    case Source::SteelRule:
        return say("steel rule, ±{}", off);
    case Source::Drawing:
        return say("maker's drawing, ±{}", off);
    case Source::Sheet:
        return say("spec sheet, ±{}; cooler and card ±{}", off,
                   figure::mm(defaultTolerance(source, Length{}, SheetKind::CoolerOrCard).mm()));
    case Source::Standard:
        return say("published standard, ±{}", off);
    case Source::Printed:
        return say("printed, ±{} or 0.3 %", off);
    case Source::BentSheet:
        return say("bent sheet, ±{}", off);
    case Source::LaserCut:
        return say("laser cut, ±{}", off);
    case Source::HandCut:
        return say("hand cut, ±{}", off);
    case Source::Estimate:
        return say("estimate, ±{}", off);
    case Source::Computed:
        break;
    }
    return say("computed");
}

} // namespace core::explain
