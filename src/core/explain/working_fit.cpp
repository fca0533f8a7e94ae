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

std::string gapSentence(const fit::Gap& gap, const Show& show) {
    const std::string need = show.text(Quantity::Length, gap.requiredMm);
    switch (gap.state) {
    case fit::GapState::Clash:
        return "Short of the " + need + " it needs: " + std::string(gap.reason) + ".";
    case fit::GapState::Blocked:
        return "Blocked: less than a third of the " + need + " it needs to breathe: " + std::string(gap.reason) + ".";
    case fit::GapState::Starved:
        return "Short of air, less than the " + need + " it needs: " + std::string(gap.reason) + ".";
    case fit::GapState::Bulge:
        return "Closes under stress: the panel is forced out by " + show.text(Quantity::Length, -gap.nominal.mm()) +
               ".";
    case fit::GapState::Rub:
        return "Less than the " + need + " it needs: " + std::string(gap.reason) + ".";
    case fit::GapState::Clear:
        break;
    }
    if (gap.marginMm() >= 0)
        return "Keeps " + show.text(Quantity::Length, gap.marginMm()) + " beyond the " + need +
               " it needs, with every tolerance at its worst.";
    return "Holds as drawn; with every tolerance at its worst it is " + show.text(Quantity::Length, -gap.marginMm()) +
           " short of " + need + ".";
}

} // namespace

Working ofGap(const fit::Gap& gap, std::size_t rung, const Show& show) {
    Working w{.thing = gap.ref,
              .place = "Fit, gap " + std::to_string(rung),
              .title = gap.between[0].text + " to " + gap.between[1].text,
              .quantity = Quantity::Length,
              .value = gap.nominal.mm(),
              .band = gap.worstBandMm,
              .mark = gap.mark,
              .sentence = gapSentence(gap, show)};
    double squares = 0;
    const fit::ChainItem* loosest = nullptr;
    for (const fit::ChainItem& item : gap.chain) {
        const std::string label = item.factor == 1 ? item.label : item.label + ", half";
        w.rows.push_back({item.sign > 0 ? "+" : "\u2212", label, Quantity::Length, item.factor * item.valueMm,
                          item.factor * item.toleranceMm, stampOf(item.source)});
        squares += std::pow(item.factor * item.toleranceMm, 2);
        if (!loosest || item.factor * item.toleranceMm > loosest->factor * loosest->toleranceMm)
            loosest = &item;
    }
    w.sum = show.number(Quantity::Length, gap.nominal.mm()) + " \u2212 " +
            show.number(Quantity::Length, gap.worstBandMm) + " \u2212 " +
            show.number(Quantity::Length, gap.requiredMm) + " = " +
            show.signedNumber(Quantity::Length, gap.marginMm()) + " at worst. If errors are independent, ±" +
            show.number(Quantity::Length, gap.rssBandMm) + "; the chance that it stays above the need is " +
            show.number(Quantity::Share, gap.chance) + " %.";
    for (const fit::ChainItem& item : gap.chain)
        if (squares > 0)
            w.doubt.push_back({item.label, std::pow(item.factor * item.toleranceMm, 2) / squares});
    std::stable_sort(w.doubt.begin(), w.doubt.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
    if (loosest && loosest->toleranceMm > 0.1) {
        const double won = loosest->factor * (loosest->toleranceMm - 0.1);
        w.changes.push_back({"Measure " + loosest->label + " with a caliper", Quantity::Length, won,
                             markOf(gap.nominal.mm() - gap.requiredMm, gap.worstBandMm - won, 2.0)});
    }
    if (!gap.overridden.empty())
        w.sentence += " The need is the user's own: " + gap.overridden + ".";
    if (!gap.breathing)
        w.usedBy = {"target \"every gap\""};
    w.method = "Signed sum of the sizes between the two faces; worst case adds all tolerances, the likely one their "
               "squares as 3 sigma. Need: " +
               std::string(gap.reason) + " (" + std::string(gap.ruleSource) + ").";
    return w;
}

Working ofVolume(const stages::Evaluation& e, const Show& show) {
    Working w{.thing = TotalRef{Total::Volume},
              .place = "Brief, volume",
              .title = "Volume outside",
              .quantity = Quantity::Volume,
              .value = e.fit.volumeL,
              .mark = Mark::Note,
              .sentence = "Outer width x depth x height, without feet and handle."};
    constexpr std::array<const char*, 3> words{"Outer width", "Outer depth", "Outer height"};
    for (std::size_t a = 0; a < 3; ++a)
        w.rows.push_back({a ? "×" : "", words[a], Quantity::Length, e.fit.outsideMm[a], 0, Stamp::Computed});
    w.sum = "Stands on " + std::to_string(std::lround(e.fit.footprintCm2)) + " cm²; feet of " +
            show.text(Quantity::Length, e.fit.feetMm) + " are left out.";
    w.method = "Inner size plus both walls along each axis.";
    return w;
}

Working ofTotals(const stages::Evaluation& e, Quantity what, const Show&) {
    const bool mass = what == Quantity::Mass;
    Working w{.thing = TotalRef{mass ? Total::Mass : Total::Price},
              .place = "Brief, parts",
              .title = mass ? "Mass of all parts" : "Price of all parts",
              .quantity = what,
              .value = mass ? e.massG : e.price,
              .mark = Mark::Note,
              .sentence = "The case, every placed part, and what is printed or cut."};
    const auto add = [&](const Part& part) {
        const double v = mass ? part.massG : part.price;
        if (part.kind != PartKind::Made && v > 0)
            w.rows.push_back({"+", part.name, what, v, 0, Stamp::Sheet});
    };
    add(*e.build.casePart);
    for (const Placed& p : e.build.placed)
        add(*p.part);
    for (const Joined& j : e.build.joined)
        add(*j.part);
    w.rows.push_back({"+", "Made parts", what, mass ? e.make.massG : e.make.cost, 0, Stamp::Computed});
    w.method = "Sum over the parts of the revision.";
    return w;
}

Working ofPower(const stages::Evaluation& e, const Show& show) {
    Working w{.thing = TotalRef{Total::Power},
              .place = "Brief, power budget",
              .title = "Sustained draw of all parts",
              .quantity = Quantity::Power,
              .value = e.power.drawW,
              .mark = e.power.share > 1     ? Mark::Crossed
                      : e.power.share > 0.8 ? Mark::Open
                                            : Mark::Holds};
    w.sentence = e.power.supplyW > 0
                     ? show.number(Quantity::Share, e.power.share) + " % of the " +
                           show.text(Quantity::Power, e.power.supplyW) + " supply; 40 to 80 % is preferred."
                     : "No supply is placed.";
    for (const auto& item : e.power.items)
        w.rows.push_back({"+", item.name, Quantity::Power, item.watts, 0, Stamp::Sheet});
    w.sum = "At the wall " + show.text(Quantity::Power, e.power.wallW) + ", with the loss of the supply.";
    w.method = "Sum of sustained draw; the wall adds the loss (1/efficiency \u2212 1).";
    return w;
}

} // namespace core::explain
