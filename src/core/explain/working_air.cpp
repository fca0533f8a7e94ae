// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/working.h"
#include "core/fit/room.h"

#include "core/base/text.h"
#include "core/model/facts.h"

namespace core::explain {
namespace {

/// What changes that were tried on the model do to a part; the largest four.
std::vector<Effect> effectsOn(const air::PartResult& now, const std::vector<advise::AirTrial>& trials, double limit,
                              const Show& show) {
    std::vector<Effect> out;
    for (const advise::AirTrial& trial : trials) {
        const auto then = std::find_if(trial.parts.begin(), trial.parts.end(),
                                       [&](const air::PartResult& p) { return p.id == now.id; });
        if (then == trial.parts.end())
            continue;
        Effect effect{trial.text,
                      Quantity::TemperatureDifference,
                      then->temperatureC - now.temperatureC,
                      limit > 0 ? markOf(limit - then->temperatureC, 0) : Mark::Note,
                      {}};
        // A part that is held at its limit shows no more of what it would rise; below what the model can tell, nothing
        // is told.
        if (then->throttled) {
            effect.after = Mark::Crossed;
            effect.instead = "reaches " + show.number(Quantity::Temperature, then->temperatureC) + ", slows down";
        } else if (std::abs(effect.change) < facts::noticeable.value) {
            effect.instead = "within ±" + show.text(Quantity::TemperatureDifference, facts::differenceBand.value);
        }
        out.push_back(std::move(effect));
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const Effect& x, const Effect& y) { return std::abs(x.change) > std::abs(y.change); });
    if (out.size() > 4)
        out.resize(4);
    return out;
}

} // namespace

namespace {
/// A part that gives off no heat of its own: what is known of it are its sizes.
Working ofColdPart(const stages::Evaluation& e, std::string_view mount) {
    const Placed* p = e.build.at(mount);
    Working w{.thing = PartRef{std::string(mount)},
              .place = "Fit, part",
              .title = p ? p->name : std::string(mount),
              .known = false,
              .sentence = "No temperature is worked out for this part: it gives off no heat of its own.",
              .method = "Sizes as stated, with their tolerance, along the part's own axes. Where it lies follows from "
                        "its place in the case."};
    for (std::size_t own = 0; p && own < 3; ++own) {
        const Measure& size = p->part->size[own];
        w.rows.push_back({"", std::string(fit::ownAxisWord(own)), Quantity::Length, size.value.mm(),
                          size.tolerance.mm(), stampOf(size.source)});
    }
    return w;
}
} // namespace

Working ofPart(const stages::Evaluation& e, std::string_view mount, const Show& show, const verdict::Deciding* limit,
               const std::vector<advise::AirTrial>& trials) {
    const air::PartResult* part = e.air.part(mount);
    if (!part)
        return ofColdPart(e, mount);
    Working w{.thing = PartRef{std::string(mount)}, .place = "Air", .quantity = Quantity::Temperature};
    w.title = part->name + ", settled";
    w.value = part->temperatureC;
    w.band = part->bandK;
    const verdict::Deciding judged = limit ? *limit : verdict::temperatureOf(e, {}, mount);
    w.mark = judged.mark == Mark::None ? Mark::Note : judged.mark;
    w.sentence = "Predicted, in a room of " + show.text(Quantity::Temperature, e.air.conditions.roomC) + ".";
    if (judged.basis == verdict::Basis::Measured)
        w.sentence += std::string(" ") + (judged.simulated ? "Simulated readings" : "Runs") + " settled at " +
                      show.text(Quantity::Temperature, judged.value) + " ±" +
                      show.text(Quantity::TemperatureDifference, judged.band) + ", which goes before.";
    if (judged.slowsDown)
        w.sentence += " Held at its limit: it gives " + show.text(Quantity::Power, part->powerW) + " and no more.";
    else if (judged.mark != Mark::None)
        w.sentence += " " + show.text(Quantity::TemperatureDifference, std::abs(judged.headroom)) +
                      (judged.headroom < 0 ? " over " : " under ") + judged.name + ", " +
                      show.text(Quantity::Temperature, judged.limit) + ".";
    const double room = e.air.conditions.roomC;
    w.rows.push_back({"", "Room", Quantity::Temperature, room, 0, Stamp::Setting});
    w.rows.push_back({"+", "Air that reaches it, over the room", Quantity::TemperatureDifference, part->inletC - room,
                      0.3 * (part->inletC - room), Stamp::Computed});
    if (part->sinkC != part->temperatureC) {
        const double sink = part->sinkC - part->inletC, die = part->temperatureC - part->sinkC;
        w.rows.push_back(
            {"+", "Sink over that air", Quantity::TemperatureDifference, sink, 0.2 * sink, Stamp::Computed});
        w.rows.push_back({"+", "Die over sink, " + show.text(Quantity::Power, part->powerW),
                          Quantity::TemperatureDifference, die, 0.25 * die, Stamp::Assumed});
        const double a = std::pow(0.3 * (part->inletC - room), 2), b = std::pow(0.2 * sink, 2),
                     c = std::pow(0.25 * die, 2), sum = a + b + c;
        if (sum > 0)
            w.doubt = {
                {"cooler, its fins and flow", b / sum}, {"die to sink", c / sum}, {"air that reaches it", a / sum}};
    } else {
        w.rows.push_back({"+", "Part over that air", Quantity::TemperatureDifference, part->temperatureC - part->inletC,
                          0, Stamp::Computed});
    }
    std::stable_sort(w.doubt.begin(), w.doubt.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
    w.changes = effectsOn(*part, trials, judged.mark != Mark::None ? judged.limit : 0, show);
    w.usedBy = {"target of this part", "noise, through its fan curve"};
    w.method = "Steady solve of flows, zone temperatures, powers and fan speeds. Absolute values to ±" +
               show.text(Quantity::TemperatureDifference, part->bandK) + ", changes between revisions to ±" +
               show.text(Quantity::TemperatureDifference, 3) + ".";
    return w;
}

Working ofNoise(const stages::Evaluation& e, const Show& show) {
    Working w{.thing = TotalRef{Total::Noise},
              .place = "Air, noise",
              .title = "Noise at " + fixed(e.noise.distanceM, 1) + " m",
              .quantity = Quantity::Level,
              .value = e.noise.totalDba,
              .band = e.noise.bandDb,
              .mark = Mark::Note};
    w.sentence = e.noise.sources.empty()
                     ? "No fan turns."
                     : e.noise.sources.front().name + " is the loudest, with " +
                           show.number(Quantity::Share, e.noise.sources.front().powerShare) + " % of the sound power.";
    for (const auto& s : e.noise.sources) {
        w.rows.push_back({"+", s.name + " at " + show.number(Quantity::Share, s.speedShare) + " %", Quantity::Level,
                          s.levelDba, 0, Stamp::Computed});
        w.doubt.push_back({s.name, s.powerShare});
    }
    w.sum = "Levels add as power, so no plain sum.";
    w.method = "Rated level + 50 lg speed \u2212 20 lg distance + 1.5 desk \u2212 panel loss; total 10 lg of the sum "
               "of powers. Absolute to ±5 dB, changes to ±2 dB.";
    return w;
}

Working ofFan(const stages::Evaluation& e, std::string_view mount, const Show& show) {
    Working w{
        .thing = FanRef{std::string(mount)}, .place = "Air, fans", .quantity = Quantity::Flow, .mark = Mark::Note};
    for (const air::FanResult& fan : e.air.fans) {
        if (fan.id != mount)
            continue;
        w.title = fan.name + ", flow";
        w.value = fan.flowM3h;
        w.band = 0.25 * std::abs(fan.flowM3h);
        w.sentence =
            show.number(Quantity::Share,
                        fan.ratedFlowM3h > 0 ? fan.flowM3h / (fan.ratedFlowM3h * std::max(0.01, fan.share)) : 0) +
            " % of what it would move freely at this speed; the rest is lost against grilles, screens and gaps.";
        w.rows = {{"", "Free flow at rated speed", Quantity::Flow, fan.ratedFlowM3h, 0, Stamp::Sheet},
                  {"×", "Speed, share of rated", Quantity::Share, fan.share, 0, Stamp::Computed},
                  {"", "Speed", Quantity::Speed, fan.rpm, 0, Stamp::Computed},
                  {"", "Air it moves", Quantity::Temperature, fan.airC, 0, Stamp::Computed}};
        w.method = "dp = dp0 (s² \u2212 0.6 s q \u2212 0.4 q|q|), solved with the whole network. Flows to ±25 %.";
        return w;
    }
    w.title = std::string(mount);
    w.known = false;
    w.sentence = "This fan moves no air: it has no opening to blow through.";
    return w;
}

Working ofOpening(const stages::Evaluation& e, std::string_view id, const Show& show) {
    Working w{
        .thing = OpeningRef{std::string(id)}, .place = "Air, openings", .quantity = Quantity::Flow, .mark = Mark::Note};
    const Opening* o = e.build.opening(id);
    for (const air::OpeningFlow& flow : e.air.openings)
        if (flow.id == id && o) {
            w.title = o->name;
            w.value = flow.flowM3h;
            w.band = 0.25 * std::abs(flow.flowM3h);
            w.sentence =
                "Through the part of the opening that no fan covers: " + show.text(Quantity::Flow, flow.inM3h) +
                " in, " + show.text(Quantity::Flow, flow.outM3h) + " out.";
            const double area = o->sizeMm[0] * o->sizeMm[1] / 100;
            w.rows = {{"", "Area, cm²", Quantity::None, area, 0, Stamp::Sheet},
                      {"×", "Open share of the plate", Quantity::Share,
                       o->style == OpeningStyle::Closed  ? 0
                       : o->style == OpeningStyle::Plain ? 1
                                                         : o->perforation,
                       0, Stamp::Assumed},
                      {"", "Air that passes", Quantity::Temperature, flow.airC, 0, Stamp::Computed}};
            w.method = "Perforated plate after Idelchik with its viscous part, dust screen after Brundrett in series.";
        }
    return w;
}

Working ofChamber(const stages::Evaluation& e, std::string_view id, const Show&) {
    Working w{.thing = ChamberRef{std::string(id)},
              .place = "Air, chambers",
              .quantity = Quantity::Temperature,
              .mark = Mark::Note};
    for (const air::ChamberResult& c : e.air.chambers)
        if (c.id == id) {
            w.title = c.name + ", air";
            w.value = c.airC;
            w.band = 4;
            w.sentence = "The mixed air of this chamber.";
            w.rows = {{"", "Room", Quantity::Temperature, e.air.conditions.roomC, 0, Stamp::Setting},
                      {"+", "Warmed by the parts in it", Quantity::TemperatureDifference,
                       c.airC - e.air.conditions.roomC, 0, Stamp::Computed},
                      {"", "Pressure over the room", Quantity::Pressure, c.pressurePa, 0, Stamp::Computed}};
            w.method = "Heat balance of the chamber: what streams in, what mixes through openings, walls and parts.";
        }
    return w;
}

Working ofBalance(const stages::Evaluation& e, const Show& show) {
    const air::Balance& b = e.air.balance;
    Working w{.thing = TotalRef{Total::Balance},
              .place = "Air, pressure",
              .title = "Pressure over the room",
              .quantity = Quantity::Pressure,
              .value = b.pressurePa,
              .mark = Mark::Note};
    w.sentence = b.pressurePa > 0.05
                     ? "Air leaves through the gaps: dust comes in only through the fans and their screens."
                 : b.pressurePa < -0.05 ? "Air is drawn in through every gap, past the screens."
                                        : "In and out are nearly level.";
    w.rows = {{"", "Fans in, rated at their speed", Quantity::Flow, b.ratedInM3h, 0, Stamp::Sheet},
              {"\u2212", "Fans out, rated at their speed", Quantity::Flow, b.ratedOutM3h, 0, Stamp::Sheet},
              {"", "In, solved", Quantity::Flow, b.inM3h, 0, Stamp::Computed},
              {"\u2212", "Out, solved", Quantity::Flow, b.outM3h, 0, Stamp::Computed}};
    w.sum = "Rated add-up " + show.signedNumber(Quantity::Flow, b.ratedInM3h - b.ratedOutM3h) +
            "; what really goes in leaves again, warmer and so a little more of it.";
    w.method = "Rated flows are a first guess: grilles, screens and stacked resistances cut them.";
    return w;
}

} // namespace core::explain
