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

Working ofTarget(const stages::Evaluation& e, const verdict::TargetResult& target) {
    const Quantity q = core::quantityOf(target.kind), difference = headroomOf(target.kind);
    Working w{.thing = TargetRef{target.id, e.build.revision},
              .place = say("Verdict, {}", e.build.revision),
              .title = say("{}, {}", target.name, e.build.revision),
              .quantity = q,
              .value = target.value,
              .band = 0.5 * (target.high - target.low),
              .known = target.basis != verdict::Basis::Missing,
              .mark = target.state};
    if (!w.known) {
        w.sentence = say("Missing: {}.", target.why);
        return w;
    }
    const Figure kept = figure::usual(difference, std::abs(target.headroom));
    const bool open = target.state == Mark::Open;
    w.sentence = target.headroom < 0
                     ? sayCounted(open, "{} over the limit, and the band reaches the limit: not proven. ",
                                  "{} over the limit. ", kept)
                     : sayCounted(open, "{} of headroom, and the band reaches the limit: not proven. ",
                                  "{} of headroom. ", kept);
    if (target.basis == verdict::Basis::Predicted)
        w.sentence += say("Predicted, not measured: {}.", target.why);
    w.rows = {{"", isFloor(target.kind) ? say("At least") : say("At most"), q, target.limit, 0, Stamp::Setting},
              {"", verdict::basisText(target), q, target.value, w.band, stampOf(target.basis, target.simulated)},
              {"", say("Headroom"), difference, target.headroom, w.band, Stamp::Computed}};
    w.sum = target.why;
    w.usedBy = {say("validation of {}", e.build.revision)};
    w.method = say("Holds when the whole band keeps the limit, crossed when the whole band breaks it, open between.");
    return w;
}

Working ofChannel(const Run& run, const bench::RunAnalysis& analysis, const bench::ChannelResult& c) {
    const Quantity q = quantityOf(c.kind);
    Working w{.thing = ChannelRef{run.id, c.name},
              .place = say("Bench, run {}", run.name),
              .title = say("{}, settled", c.name),
              .quantity = q,
              .value = c.settled,
              .band = 0.5 * (c.high - c.low),
              .known = std::isfinite(c.settled),
              .mark = Mark::None,
              .settle = c.state,
              .sentence = say("{}.", c.why)};
    const Stamp read = stampOf(verdict::Basis::Measured, run.simulated);
    if (c.moreMinutes && *c.moreMinutes > 0)
        w.sentence += say(" About {} to {} minutes more would settle it.", figure::number(*c.moreMinutes / 2, 0),
                          figure::number(2 * *c.moreMinutes, 0));
    if (c.fit && c.fit->lengthS > 0) {
        const bench::SettleResult& f = *c.fit;
        const Stamp room = analysis.roomLogged ? read : Stamp::Assumed;
        w.rows.push_back({"", say("End of the fitted rise over the room"), Quantity::TemperatureDifference, f.estimate,
                          f.half, Stamp::Computed});
        w.rows.push_back({"+", say("Room in the last five minutes"), Quantity::Temperature, analysis.roomC,
                          analysis.roomLogged ? 0.3 : 1.0, room});
        if (c.atReference)
            w.rows.push_back({"", say("At the reference room"), Quantity::Temperature, c.atReference->value,
                              1.96 * c.atReference->u, Stamp::Computed});
        w.rows.push_back(
            {"", say("Fitted at the end of the log"), Quantity::TemperatureDifference, f.now, 0, Stamp::Computed});
        w.sum = say("Slow time constant {} min, {} of the rise done, {} bins.", figure::number(f.tauSlowS / 60, 1),
                    figure::percent(f.fraction, 0), f.bins);
        const double model = std::pow(0.5 * (f.modelHigh - f.modelLow), 2),
                     structure = std::pow(1.96 * f.uStructure, 2), sensor = std::pow(1.96 * f.uQuantiser, 2);
        const double sum = model + structure + sensor;
        if (sum > 0)
            w.doubt = {{say("spread around the fit"), model / sum},
                       {say("shape of the warm-up"), structure / sum},
                       {say("sensor step"), sensor / sum}};
    }
    w.rows.push_back({"", say("Mean under load"), q, c.mean, 0, read});
    w.rows.push_back({"", say("95th percentile"), q, c.p95, 0, read});
    if (std::isfinite(c.sustainedMax))
        w.rows.push_back({"", say("Held for 10 s"), q, c.sustainedMax, 0, read});
    w.usedBy = {say("targets of {}", run.revision)};
    w.method = c.fit
                   ? say("Two exponentials by variable projection, averaged over their time constants; never a mean of "
                         "the last minutes.")
                   : say("Mean of the last five minutes with the correlation of its readings.");
    return w;
}

Working ofMadePart(const Project& project, const make::MadePart& part) {
    const bool print = part.process == Process::Print;
    Working w{.thing = MadeRef{part.id},
              .place = say("Make, parts"),
              .title = sayCounted(print, "{}, print time", "{}, cut", part.name),
              .quantity = Quantity::Hours,
              .value = part.hours,
              .band = 0.15 * part.hours,
              .mark = part.fits ? Mark::Holds : Mark::Crossed};
    w.sentence = !print               ? say("Cut by hand or laser; no print time.")
                 : !part.fits         ? say("Does not fit the bed in any position.")
                 : part.onItsSide     ? say("Fits the bed when stood on another face.")
                 : part.turnedDeg > 0 ? say("Fits the bed turned by {} degrees.", figure::number(part.turnedDeg, 0))
                                      : say("Fits the bed as drawn.");
    if (print)
        w.rows = {
            {"", say("Plastic laid for one, mm³"), Quantity::None, std::round(part.plasticMm3), 0, Stamp::Computed},
            {"×", say("Copies"), Quantity::None, static_cast<double>(part.count), 0, Stamp::Setting},
            {"÷", say("Volume flow, mm³/s"), Quantity::None, project.printer.flowMm3s, 0, Stamp::Setting},
            {"÷", say("Seconds of an hour"), Quantity::None, 3600, 0, Stamp::Setting}};
    w.sum = say("{} in all, {}.", figure::usual(Quantity::Mass, part.massG), figure::usual(Quantity::Money, part.cost));
    w.method = print
                   ? say("(shell + infill share x inside) x volume / flow; mass with the density of {}.", part.material)
                   : say("Mass and price as stated.");
    return w;
}

Working ofStep(const make::Plan& plan, std::size_t index) {
    const make::Step& step = plan.steps[index];
    Working w{.thing = step.ref,
              .place = say("Make, step {}", index + 1),
              .title = say("To reach {} again", step.text),
              .quantity = Quantity::None,
              .value = step.undoMinutes,
              .mark = Mark::Note};
    w.sentence = sayCounted(step.undo.size() == 1, "minutes, {} screws: take back {} step.",
                            "minutes, {} screws: take back {} steps.", step.undoScrews, step.undo.size());
    for (const std::size_t i : step.undo)
        w.rows.push_back({"+", say("step {}, {}", i + 1, plan.steps[i].text), Quantity::None,
                          0.5 * plan.steps[i].minutes, 0, Stamp::Assumed});
    w.sum = step.safety;
    w.method = say("Taking out is counted as half of putting in, for this step and all that rest on it.");
    return w;
}

Working ofScrews(const make::Plan& plan, const make::Purchase& purchase) {
    Working w{.thing = ScrewRef{purchase.kind},
              .place = say("Make, screws and inserts"),
              .title = named(purchase.kind),
              .value = static_cast<double>(purchase.count),
              .mark = Mark::Note,
              .sentence = say("Pieces to have at hand.")};
    for (std::size_t i = 0; i < plan.steps.size(); ++i)
        for (const Fastener& f : plan.steps[i].fasteners)
            if (f.kind == purchase.kind)
                w.rows.push_back({w.rows.empty() ? "" : "+", say("step {}, {}", i + 1, plan.steps[i].text),
                                  Quantity::None, static_cast<double>(f.count), 0, Stamp::Sheet});
    double rest = w.value;
    for (const Row& row : w.rows)
        rest -= row.value;
    if (rest > 0.5)
        w.rows.push_back({w.rows.empty() ? "" : "+", say("for made parts, before they are fitted"), Quantity::None,
                          rest, 0, Stamp::Sheet});
    w.method = say("Counted over the steps of assembly, and over the inserts of made parts.");
    return w;
}

} // namespace core::explain
