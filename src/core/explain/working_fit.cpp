// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/working.h"

namespace core::explain {

Stamp stampOf(Source source) {
    switch (source) {
    case Source::Caliper:
    case Source::SteelRule:
        return Stamp::Measured;
    case Source::Estimate:
        return Stamp::Assumed;
    case Source::Computed:
        return Stamp::Computed;
    default:
        return Stamp::Sheet;
    }
}

namespace {

Sentence gapSentence(const fit::Gap& gap) {
    const Figure need = figure::mm(gap.requiredMm);
    switch (gap.state) {
    case fit::GapState::Clash:
        return say("Short of the {} it needs: {}.", need, gap.reason);
    case fit::GapState::Blocked:
        return say("Blocked: less than a third of the {} it needs to breathe: {}.", need, gap.reason);
    case fit::GapState::Starved:
        return say("Short of air, less than the {} it needs: {}.", need, gap.reason);
    case fit::GapState::Bulge:
        return say("Closes under stress: the panel is forced out by {}.",
                   figure::usual(Quantity::Length, -gap.nominal.mm()));
    case fit::GapState::Rub:
        return say("Less than the {} it needs: {}.", need, gap.reason);
    case fit::GapState::Clear:
        break;
    }
    if (gap.marginMm() >= 0)
        return say("Keeps {} beyond the {} it needs, with every tolerance at its worst.",
                   figure::usual(Quantity::Length, gap.marginMm()), need);
    return say("Holds as drawn; with every tolerance at its worst it is {} short of {}.",
               figure::usual(Quantity::Length, -gap.marginMm()), need);
}

} // namespace

Working ofGap(const fit::Gap& gap, std::size_t rung) {
    Working w{.thing = gap.ref,
              .place = say("Fit, gap {}", rung),
              .title = say("{} to {}", gap.between[0].text, gap.between[1].text),
              .quantity = Quantity::Length,
              .value = gap.nominal.mm(),
              .band = gap.worstBandMm,
              .mark = gap.mark,
              .sentence = gapSentence(gap)};
    double squares = 0;
    const fit::ChainItem* loosest = nullptr;
    for (const fit::ChainItem& item : gap.chain) {
        const Sentence label = item.factor == 1 ? named(item.label) : say("{}, half", item.label);
        w.rows.push_back({item.sign > 0 ? "+" : "\u2212", label, Quantity::Length, item.factor * item.valueMm,
                          item.factor * item.toleranceMm, stampOf(item.source)});
        squares += std::pow(item.factor * item.toleranceMm, 2);
        if (!loosest || item.factor * item.toleranceMm > loosest->factor * loosest->toleranceMm)
            loosest = &item;
    }
    w.sum = say("{} \u2212 {} \u2212 {} = {} at worst. If errors are independent, ±{}; the chance that it stays above "
                "the need is {}.",
                figure::usual(Quantity::Length, gap.nominal.mm()).bare(),
                figure::usual(Quantity::Length, gap.worstBandMm).bare(),
                figure::usual(Quantity::Length, gap.requiredMm).bare(),
                figure::usual(Quantity::Length, gap.marginMm()).signedFigure().bare(),
                figure::usual(Quantity::Length, gap.rssBandMm).bare(), figure::percent(gap.chance));
    for (const fit::ChainItem& item : gap.chain)
        if (squares > 0)
            w.doubt.push_back({named(item.label), std::pow(item.factor * item.toleranceMm, 2) / squares});
    std::stable_sort(w.doubt.begin(), w.doubt.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
    if (loosest && loosest->toleranceMm > 0.1) {
        const double won = loosest->factor * (loosest->toleranceMm - 0.1);
        w.changes.push_back({say("Measure {} with a caliper", loosest->label), Quantity::Length, won,
                             markOf(gap.nominal.mm() - gap.requiredMm, gap.worstBandMm - won, 2.0)});
    }
    if (!gap.overridden.empty())
        w.sentence += say(" The need is the user's own: {}.", gap.overridden);
    if (!gap.breathing)
        w.usedBy = {say("target \"every gap\"")};
    w.method = say("Signed sum of the sizes between the two faces; worst case adds all tolerances, the likely one "
                   "their squares as 3 sigma. Need: {} ({}).",
                   gap.reason, term(gap.ruleSource));
    return w;
}

Working ofTotals(const stages::Evaluation& e, Quantity what) {
    const bool mass = what == Quantity::Mass;
    Working w{.thing = TotalRef{mass ? Total::Mass : Total::Price},
              .place = say("Brief, parts"),
              .title = mass ? say("Mass of all parts") : say("Price of all parts"),
              .quantity = what,
              .value = mass ? e.massG : e.price,
              .mark = Mark::Note,
              .sentence = say("The case, every placed part, and what is printed or cut.")};
    const auto add = [&](const Part& part) {
        const double v = mass ? part.massG : part.price;
        if (part.kind != PartKind::Made && v > 0)
            w.rows.push_back({"+", named(part.name), what, v, 0, Stamp::Sheet});
    };
    add(*e.build.casePart);
    for (const Placed& p : e.build.placed)
        add(*p.part);
    for (const Joined& j : e.build.joined)
        add(*j.part);
    w.rows.push_back({"+", say("Made parts"), what, mass ? e.make.massG : e.make.cost, 0, Stamp::Computed});
    w.method = say("Sum over the parts of the revision.");
    return w;
}

Working ofPower(const stages::Evaluation& e) {
    Working w{.thing = TotalRef{Total::Power},
              .place = say("Brief, power budget"),
              .title = say("Sustained draw of all parts"),
              .quantity = Quantity::Power,
              .value = e.power.drawW,
              .mark = e.power.share > 1     ? Mark::Crossed
                      : e.power.share > 0.8 ? Mark::Open
                                            : Mark::Holds};
    w.sentence = e.power.supplyW > 0
                     ? say("{} of the {} supply; 40 to 80 % is preferred.", figure::percent(e.power.share),
                           figure::usual(Quantity::Power, e.power.supplyW))
                     : say("No supply is placed.");
    for (const auto& item : e.power.items)
        w.rows.push_back({"+", named(item.name), Quantity::Power, item.watts, 0, Stamp::Sheet});
    w.sum = say("At the wall {}, with the loss of the supply.", figure::usual(Quantity::Power, e.power.wallW));
    w.method = say("Sum of sustained draw; the wall adds the loss (1/efficiency \u2212 1).");
    return w;
}

} // namespace core::explain
