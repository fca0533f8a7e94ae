// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/explain/working.h"

namespace core::explain {
namespace {

Quantity quantityOf(ChannelKind kind) {
    switch (kind) {
    case ChannelKind::Temperature:
    case ChannelKind::Ambient:
        return Quantity::Temperature;
    case ChannelKind::Rpm:
        return Quantity::Speed;
    case ChannelKind::Clock:
        return Quantity::Clock;
    case ChannelKind::Power:
        return Quantity::Power;
    case ChannelKind::Level:
        return Quantity::Level;
    case ChannelKind::Other:
        break;
    }
    return Quantity::None;
}

} // namespace

Stamp stampOf(verdict::Basis basis, bool simulated) {
    return basis != verdict::Basis::Measured ? Stamp::Computed : simulated ? Stamp::Simulated : Stamp::Measured;
}

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

Working ofTarget(const stages::Evaluation& e, const verdict::TargetResult& target, const Show& show) {
    const Quantity q = quantityOf(target.kind);
    const Quantity difference = q == Quantity::Temperature ? Quantity::TemperatureDifference : q;
    Working w{.thing = TargetRef{target.id, e.build.revision},
              .place = "Verdict, " + e.build.revision,
              .title = target.name + ", " + e.build.revision,
              .quantity = q,
              .value = target.value,
              .band = 0.5 * (target.high - target.low),
              .known = target.basis != verdict::Basis::Missing,
              .mark = target.state};
    if (!w.known) {
        w.sentence = "Missing: " + target.why + ".";
        return w;
    }
    const std::string kept = show.text(difference, std::abs(target.headroom));
    w.sentence = (target.headroom >= 0 ? kept + " of headroom" : kept + " over the limit") +
                 (target.state == Mark::Open ? ", and the band reaches the limit: not proven. " : ". ") +
                 (target.basis == verdict::Basis::Predicted ? "Predicted, not measured: " + target.why + "." : "");
    w.rows = {{"", isFloor(target.kind) ? "At least" : "At most", q, target.limit, 0, Stamp::Setting},
              {"", verdict::basisText(target), q, target.value, w.band, stampOf(target.basis, target.simulated)},
              {"", "Headroom", difference, target.headroom, w.band, Stamp::Computed}};
    w.sum = target.why;
    w.usedBy = {"validation of " + e.build.revision};
    w.method = "Holds when the whole band keeps the limit, crossed when the whole band breaks it, open between.";
    return w;
}

Working ofChannel(const Run& run, const bench::RunAnalysis& analysis, const bench::ChannelResult& c, const Show&) {
    const Quantity q = quantityOf(c.kind);
    Working w{.thing = ChannelRef{run.id, c.name},
              .place = "Bench, run " + run.name,
              .title = c.name + ", settled",
              .quantity = q,
              .value = c.settled,
              .band = 0.5 * (c.high - c.low),
              .known = std::isfinite(c.settled),
              .mark = Mark::None,
              .settle = c.state,
              .sentence = c.why + "."};
    const Stamp read = stampOf(verdict::Basis::Measured, run.simulated);
    if (c.moreMinutes && *c.moreMinutes > 0)
        w.sentence += " About " + fixed(*c.moreMinutes / 2, 0) + " to " + fixed(2 * *c.moreMinutes, 0) +
                      " minutes more would settle it.";
    if (c.fit && c.fit->lengthS > 0) {
        const bench::SettleResult& f = *c.fit;
        const Stamp room = analysis.roomLogged ? read : Stamp::Assumed;
        w.rows.push_back({"", "End of the fitted rise over the room", Quantity::TemperatureDifference, f.estimate,
                          f.half, Stamp::Computed});
        w.rows.push_back({"+", "Room in the last five minutes", Quantity::Temperature, analysis.roomC,
                          analysis.roomLogged ? 0.3 : 1.0, room});
        if (c.atReference)
            w.rows.push_back({"", "At the reference room", Quantity::Temperature, c.atReference->value,
                              1.96 * c.atReference->u, Stamp::Computed});
        w.rows.push_back(
            {"", "Fitted at the end of the log", Quantity::TemperatureDifference, f.now, 0, Stamp::Computed});
        w.sum = "Slow time constant " + fixed(f.tauSlowS / 60, 1) + " min, " + fixed(100 * f.fraction, 0) +
                " % of the rise done, " + std::to_string(f.bins) + " bins.";
        const double model = std::pow(0.5 * (f.modelHigh - f.modelLow), 2),
                     structure = std::pow(1.96 * f.uStructure, 2), sensor = std::pow(1.96 * f.uQuantiser, 2);
        const double sum = model + structure + sensor;
        if (sum > 0)
            w.doubt = {{"spread around the fit", model / sum},
                       {"shape of the warm-up", structure / sum},
                       {"sensor step", sensor / sum}};
    }
    w.rows.push_back({"", "Mean under load", q, c.mean, 0, read});
    w.rows.push_back({"", "95th percentile", q, c.p95, 0, read});
    if (std::isfinite(c.sustainedMax))
        w.rows.push_back({"", "Held for 10 s", q, c.sustainedMax, 0, read});
    w.usedBy = {"targets of " + run.revision};
    w.method = c.fit ? "Two exponentials by variable projection, averaged over their time constants; never a mean of "
                       "the last minutes."
                     : "Mean of the last five minutes with the correlation of its readings.";
    return w;
}

Working ofMadePart(const Project& project, const make::MadePart& part, const Show& show) {
    const bool print = part.process == Process::Print;
    Working w{.thing = MadeRef{part.id},
              .place = "Make, parts",
              .title = part.name + (print ? ", print time" : ", cut"),
              .quantity = Quantity::Hours,
              .value = part.hours,
              .band = 0.15 * part.hours,
              .mark = part.fits ? Mark::Holds : Mark::Crossed};
    w.sentence = !print               ? "Cut by hand or laser; no print time."
                 : !part.fits         ? "Does not fit the bed in any position."
                 : part.onItsSide     ? "Fits the bed when stood on another face."
                 : part.turnedDeg > 0 ? "Fits the bed turned by " + fixed(part.turnedDeg, 0) + " degrees."
                                      : "Fits the bed as drawn.";
    if (print)
        w.rows = {{"", "Plastic laid for one, mm³", Quantity::None, std::round(part.plasticMm3), 0, Stamp::Computed},
                  {"×", "Copies", Quantity::None, static_cast<double>(part.count), 0, Stamp::Setting},
                  {"÷", "Volume flow, mm³/s", Quantity::None, project.printer.flowMm3s, 0, Stamp::Setting},
                  {"÷", "Seconds of an hour", Quantity::None, 3600, 0, Stamp::Setting}};
    w.sum = show.text(Quantity::Mass, part.massG) + " in all, " + show.text(Quantity::Money, part.cost) + ".";
    w.method = print
                   ? "(shell + infill share x inside) x volume / flow; mass with the density of " + part.material + "."
                   : "Mass and price as stated.";
    return w;
}

Working ofStep(const make::Plan& plan, std::size_t index, const Show&) {
    const make::Step& step = plan.steps[index];
    Working w{.thing = step.ref,
              .place = "Make, step " + std::to_string(index + 1),
              .title = "To reach " + step.text + " again",
              .quantity = Quantity::None,
              .value = step.undoMinutes,
              .mark = Mark::Note};
    w.sentence = "minutes, " + std::to_string(step.undoScrews) + " screws: take back " +
                 std::to_string(step.undo.size()) + (step.undo.size() == 1 ? " step." : " steps.");
    for (const std::size_t i : step.undo)
        w.rows.push_back({"+", "step " + std::to_string(i + 1) + ", " + plan.steps[i].text, Quantity::None,
                          0.5 * plan.steps[i].minutes, 0, Stamp::Assumed});
    w.sum = step.safety;
    w.method = "Taking out is counted as half of putting in, for this step and all that rest on it.";
    return w;
}

Working ofScrews(const make::Plan& plan, const make::Purchase& purchase) {
    Working w{.thing = ScrewRef{purchase.kind},
              .place = "Make, screws and inserts",
              .title = purchase.kind,
              .value = static_cast<double>(purchase.count),
              .mark = Mark::Note,
              .sentence = "Pieces to have at hand."};
    for (std::size_t i = 0; i < plan.steps.size(); ++i)
        for (const Fastener& f : plan.steps[i].fasteners)
            if (f.kind == purchase.kind)
                w.rows.push_back({w.rows.empty() ? "" : "+",
                                  "step " + std::to_string(i + 1) + ", " + plan.steps[i].text, Quantity::None,
                                  static_cast<double>(f.count), 0, Stamp::Sheet});
    double rest = w.value;
    for (const Row& row : w.rows)
        rest -= row.value;
    if (rest > 0.5)
        w.rows.push_back({w.rows.empty() ? "" : "+", "for made parts, before they are fitted", Quantity::None, rest, 0,
                          Stamp::Sheet});
    w.method = "Counted over the steps of assembly, and over the inserts of made parts.";
    return w;
}

} // namespace core::explain
