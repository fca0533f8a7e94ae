// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/bands.h"
#include "core/air/local_heat.h"
#include "core/air/own_values.h"
#include "core/air/thermal.h"
#include "core/explain/working.h"
#include "core/fit/room.h"

#include "core/base/text.h"
#include "core/model/facts.h"
#include "core/model/fields/choices_of.h"

namespace core::explain {
namespace {

/// What changes that were tried on the model do to a part; the largest four.
std::vector<Effect> effectsOn(const air::Prediction& air, const air::PartResult& now,
                              const std::vector<advise::AirTrial>& trials, double limit) {
    std::vector<Effect> out;
    for (const advise::AirTrial& trial : trials) {
        const air::PartResult* then = trial.air.part(now.id);
        const auto difference = air::differenceOf(air, trial.air, now.id);
        if (!then || !difference)
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
            effect.instead =
                say("reaches {}, slows down", figure::usual(Quantity::Temperature, then->temperatureC).bare());
        } else if (std::abs(effect.change) < difference->bandK) {
            effect.instead = say("{} ±{}, uncertain",
                                 figure::usual(Quantity::TemperatureDifference, effect.change).signedFigure().bare(),
                                 figure::usual(Quantity::TemperatureDifference, difference->bandK));
        }
        out.push_back(std::move(effect));
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const Effect& x, const Effect& y) { return std::abs(x.change) > std::abs(y.change); });
    if (out.size() > 4)
        out.resize(4);
    return out;
}

/// What a die is above its sink, with the watts that go through it.
Sentence dieOverSink(const air::Prediction& air, const air::PartResult& part) {
    const auto whole = figure::usual(Quantity::Power, part.powerW);
    if (air.solved)
        for (const air::CooledPart& die : air.solved->compiled.network.parts)
            if (die.id == part.id && die.boardShare > 0)
                return say("Die over sink, {} of {}: the rest goes into its board",
                           figure::usual(Quantity::Power, die.intoSink(part.powerW)), whole);
    return say("Die over sink, {}", whole);
}

} // namespace

namespace {
/// A part that gives off no heat of its own: what is known of it are its sizes.
Working ofColdPart(const stages::Evaluation& e, std::string_view mount, const Project* project) {
    const Placed* p = e.build.at(mount);
    Working w{.thing = PartRef{std::string(mount)},
              .place = say("Fit, part"),
              .title = named(p ? p->name : std::string(mount)),
              .known = false,
              .sentence = say("No temperature is worked out for this part: it gives off no heat of its own."),
              .method =
                  say("Sizes as stated, with their tolerance, along the part's own axes. Where it lies follows from "
                      "its place in the case.")};
    if (project)
        for (const air::LocalHeat& heat : air::localHeat(*project, e.build, e.air))
            if (heat.mount == mount) {
                w.rows.push_back({"", say("Air about it"), Quantity::Temperature, heat.airC, 0, Stamp::Computed});
                w.rows.push_back({"", heat.near.empty() ? say("Its wall") : say("Its wall, beside {}", heat.near),
                                  Quantity::Temperature, heat.wallC, heat.bandK, Stamp::Computed});
            }
    for (std::size_t own = 0; p && own < 3; ++own) {
        const Measure& size = p->part->size[own];
        w.rows.push_back({"", term(fit::ownAxisWord(own)), Quantity::Length, size.value.mm(), size.tolerance.mm(),
                          stampOf(size.source)});
    }
    return w;
}
} // namespace

std::vector<DoubtShare> doubtOf(const air::Prediction& air, const air::PartResult& part) {
    const auto row = static_cast<std::size_t>(&part - air.parts.data());
    std::vector<DoubtShare> all;
    double sum = 0;
    for (const air::Influence& i : air.influences) {
        all.push_back({i.what, i.kelvin[row] * i.kelvin[row]});
        sum += all.back().share;
    }
    std::stable_sort(all.begin(), all.end(),
                     [](const DoubtShare& a, const DoubtShare& b) { return a.share > b.share; });
    constexpr std::size_t most = 4;
    if (sum <= 0)
        return {};
    double rest = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        all[i].share /= sum;
        rest += i >= most ? all[i].share : 0;
    }
    if (all.size() > most) {
        all.resize(most);
        all.push_back({say("all else"), rest});
    }
    return all;
}

Working ofPart(const stages::Evaluation& e, std::string_view mount, const verdict::Deciding* limit,
               const std::vector<advise::AirTrial>& trials, const Project* project) {
    const air::PartResult* part = e.air.part(mount);
    if (!part)
        return ofColdPart(e, mount, project);
    Working w{.thing = PartRef{std::string(mount)}, .place = say("Air"), .quantity = Quantity::Temperature};
    w.title = say("{}, settled", part->name);
    w.value = part->temperatureC;
    w.band = part->bandK;
    const verdict::Deciding judged = limit ? *limit : verdict::temperatureOf(e, {}, mount);
    w.mark = judged.mark == Mark::None ? Mark::Note : judged.mark;
    w.sentence = say("Predicted, in a room of {}.", figure::usual(Quantity::Temperature, e.air.conditions.roomC));
    if (judged.basis == verdict::Basis::Measured)
        w.sentence += sayCounted(judged.simulated, " Simulated readings settled at {} ±{}, which goes before.",
                                 " Runs settled at {} ±{}, which goes before.",
                                 figure::usual(Quantity::Temperature, judged.value),
                                 figure::usual(Quantity::TemperatureDifference, judged.band));
    if (judged.slowsDown)
        w.sentence += say(" Held at its limit: it gives {} and no more.", figure::usual(Quantity::Power, part->powerW));
    else if (judged.mark != Mark::None)
        w.sentence += sayCounted(judged.headroom < 0, " {} over {}, {}.", " {} under {}, {}.",
                                 figure::usual(Quantity::TemperatureDifference, std::abs(judged.headroom)), judged.name,
                                 figure::usual(Quantity::Temperature, judged.limit));
    const double room = e.air.conditions.roomC;
    w.rows.push_back({"", say("Room"), Quantity::Temperature, room, 0, Stamp::Setting});
    w.rows.push_back({"+", say("Air that reaches it, over the room"), Quantity::TemperatureDifference,
                      part->inletC - room, 0, Stamp::Computed});
    if (part->sinkC != part->temperatureC) {
        w.rows.push_back({"+", say("Sink over that air"), Quantity::TemperatureDifference, part->sinkC - part->inletC,
                          0, Stamp::Computed});
        w.rows.push_back({"+", dieOverSink(e.air, *part), Quantity::TemperatureDifference,
                          part->temperatureC - part->sinkC, 0, Stamp::Assumed});
    } else {
        w.rows.push_back({"+", say("Part over that air"), Quantity::TemperatureDifference,
                          part->temperatureC - part->inletC, 0, Stamp::Computed});
    }
    w.doubt = doubtOf(e.air, *part);
    for (const Sentence& why : part->weak)
        w.sentence += say(" Uncertain: {}.", why);
    if (part->throttled)
        w.sentence += say(" Its power is good to ±{}.", figure::usual(Quantity::Power, part->bandW));
    w.changes = effectsOn(e.air, *part, trials, judged.mark != Mark::None ? judged.limit : 0);
    w.usedBy = {say("target of this part"), say("noise, through its fan curve")};
    w.method =
        say("Steady solve of flows, zone temperatures, powers and fan speeds. Its band holds 19 of 20: every input "
            "moved by its own doubt and solved anew, {} of them; where the method itself is weak it is wider. In "
            "the difference of two revisions what both rest on cancels.",
            static_cast<int>(e.air.influences.size()));
    return w;
}

namespace {
/// A share of the flow, but never so little that it would read as exact: a small flow is the difference of larger ones.
double flowBandOf(double flowM3h) {
    constexpr double leastM3h = 1; // engineering judgement
    return std::max(leastM3h, facts::flowBand.value * std::abs(flowM3h));
}
} // namespace

Working ofNoise(const stages::Evaluation& e) {
    Working w{.thing = TotalRef{Total::Noise},
              .place = say("Air, noise"),
              .title = say("Noise at {} m", figure::number(e.noise.distanceM, 1)),
              .quantity = Quantity::Level,
              .value = e.noise.totalDba,
              .band = e.noise.bandDb,
              .mark = Mark::Note};
    w.sentence = e.noise.sources.empty()
                     ? say("No fan turns.")
                     : say("{} is the loudest, with {} of the sound power.", e.noise.sources.front().name,
                           figure::percent(e.noise.sources.front().powerShare));
    for (const auto& s : e.noise.sources) {
        w.rows.push_back({"+", say("{} at {}", s.name, figure::percent(s.speedShare)), Quantity::Level, s.levelDba, 0,
                          Stamp::Computed});
        w.doubt.push_back({named(s.name), s.powerShare});
    }
    for (const acoustics::Beat& beat : e.noise.beats)
        w.sentence += say(" {} and {} run so close together that their tones swell and fade {} times a second.",
                          beat.one, beat.other, figure::number(beat.hz, 1));
    w.sum = say("Levels add as power, so no plain sum.");
    w.method =
        say("Rated level + 50 lg speed \u2212 20 lg distance + 1.5 desk \u2212 panel loss; total 10 lg of the sum "
            "of powers. Absolute to ±5 dB, changes to ±2 dB.");
    return w;
}

Working ofFan(const stages::Evaluation& e, std::string_view mount) {
    Working w{
        .thing = FanRef{std::string(mount)}, .place = say("Air, fans"), .quantity = Quantity::Flow, .mark = Mark::Note};
    for (const air::FanResult& fan : e.air.fans) {
        if (fan.id != mount)
            continue;
        w.title = say("{}, flow", fan.name);
        w.value = fan.flowM3h;
        w.band = flowBandOf(fan.flowM3h);
        w.sentence = say(
            "{} of what it would move freely at this speed; the rest is lost against grilles, screens and gaps.",
            figure::percent(fan.ratedFlowM3h > 0 ? fan.flowM3h / (fan.ratedFlowM3h * std::max(0.01, fan.share)) : 0));
        w.rows = {{"", say("Free flow at rated speed"), Quantity::Flow, fan.ratedFlowM3h, 0, Stamp::Sheet},
                  {"×", say("Speed, share of rated"), Quantity::Share, fan.share, 0, Stamp::Computed},
                  {"", say("Speed"), Quantity::Speed, fan.rpm, 0, Stamp::Computed},
                  {"", say("Air it moves"), Quantity::Temperature, fan.airC, 0, Stamp::Computed}};
        w.method = say("dp = dp0 (s² \u2212 0.6 s q \u2212 0.4 q|q|), solved with the whole network. Flows to ±25 %, "
                       "engineering judgement.");
        return w;
    }
    w.title = named(std::string(mount));
    w.known = false;
    w.sentence = say("This fan moves no air: it has no opening to blow through.");
    return w;
}

Working ofOpening(const stages::Evaluation& e, std::string_view id) {
    Working w{.thing = OpeningRef{std::string(id)},
              .place = say("Air, openings"),
              .quantity = Quantity::Flow,
              .mark = Mark::Note};
    const Opening* o = e.build.opening(id);
    for (const air::OpeningFlow& flow : e.air.openings)
        if (flow.id == id && o) {
            w.title = named(o->name);
            w.value = flow.flowM3h;
            w.band = flowBandOf(flow.flowM3h);
            w.sentence = say("Through the part of the opening that no fan covers: {} in, {} out.",
                             figure::usual(Quantity::Flow, flow.inM3h), figure::usual(Quantity::Flow, flow.outM3h));
            const double area = o->sizeMm[0] * o->sizeMm[1] / 100;
            w.rows = {{"", say("Area, cm²"), Quantity::None, area, 0, Stamp::Sheet},
                      {"×", say("Open share of the plate"), Quantity::Share,
                       o->style == OpeningStyle::Closed  ? 0
                       : o->style == OpeningStyle::Plain ? 1
                                                         : o->perforation,
                       0, Stamp::Assumed},
                      {"", say("Air that passes"), Quantity::Temperature, flow.airC, 0, Stamp::Computed}};
            w.method =
                say("Perforated plate after Idelchik with its viscous part, dust screen after Brundrett in series.");
        }
    return w;
}

namespace {
/// What the user put in place of what follows from the box.
void addOwn(Working& w, const stages::Evaluation& e, std::string_view element) {
    for (const AirValue& own : e.air.conditions.own)
        if (own.element == element)
            w.found.push_back({Mark::Note,
                               own.note.empty()
                                   ? say("{}: a value of your own", term(choiceText(own.quantity)))
                                   : say("{}: a value of your own; {}", term(choiceText(own.quantity)), own.note),
                               {}});
}

std::size_t indexOfZone(const air::Network& net, std::string_view id) {
    const auto it = std::find_if(net.zones.begin(), net.zones.end(), [&](const air::Zone& z) { return z.id == id; });
    return static_cast<std::size_t>(it - net.zones.begin());
}

/// A room that is no chamber: the gap before an intake, the fins of a card, the room between a radiator and its fans.
void ofOtherZone(Working& w, const stages::Evaluation& e, std::string_view id) {
    const air::Network& net = e.air.solved->compiled.network;
    const air::Solution& s = e.air.solved->solution;
    const std::size_t z = indexOfZone(net, id);
    if (z >= net.zones.size())
        return;
    w.title = say("{}, air", std::string(id));
    w.value = s.temperatureC[z];
    w.sentence = say("A room of the network between two faces: it has air of its own.");
    w.rows = {{"", say("Room"), Quantity::Temperature, e.air.conditions.roomC, 0, Stamp::Setting},
              {"+", say("Over the room"), Quantity::TemperatureDifference, w.value - e.air.conditions.roomC, 0,
               Stamp::Computed},
              {"", say("Pressure over the room"), Quantity::Pressure, s.pressurePa[z], 0, Stamp::Computed}};
    w.method = say("Heat balance of what streams in, and what mixes through its open edges.");
}
} // namespace

std::optional<Working> ofBranch(const stages::Evaluation& e, std::string_view name) {
    if (!e.air.solved)
        return std::nullopt;
    const air::Network& net = e.air.solved->compiled.network;
    const air::Solution& s = e.air.solved->solution;
    const auto names = air::branchNames(net);
    const auto it = std::find(names.begin(), names.end(), name);
    if (it == names.end())
        return std::nullopt;
    const auto b = static_cast<std::size_t>(it - names.begin());
    const air::Branch& branch = net.branches[b];
    Working w{.thing = BranchRef{std::string(name)},
              .place = say("Air, network"),
              .title = say("{}, from {} to {}", *it, net.zones[branch.from].id, net.zones[branch.to].id),
              .quantity = Quantity::Flow,
              .value = s.flowM3s[b] * 3600,
              .mark = Mark::Note};
    w.band = flowBandOf(w.value);
    w.sentence = say("A way of air between two rooms of the network; a flow below nought runs the other way.");
    w.rows = {
        {"", say("Pressure where it begins"), Quantity::Pressure, s.pressurePa[branch.from], 0, Stamp::Computed},
        {"\u2212", say("Pressure where it ends"), Quantity::Pressure, s.pressurePa[branch.to], 0, Stamp::Computed},
        {"", say("Height, m"), Quantity::None, branch.heightM, 0, Stamp::Computed},
        {"", say("Resistance to slow air, thousand 1/m³"), Quantity::None, branch.resistance.a / 1e3, 0,
         Stamp::Computed},
        {"", say("Resistance to fast air, thousand 1/m⁴"), Quantity::None, branch.resistance.b / 1e3, 0,
         Stamp::Computed}};
    if (branch.fan) {
        w.rows.push_back(
            {"", say("Free flow at rated speed"), Quantity::Flow, branch.curve.freeFlowM3s * 3600, 0, Stamp::Sheet});
        w.rows.push_back({"", say("Pressure at no flow"), Quantity::Pressure, branch.curve.shutoffPa, 0, Stamp::Sheet});
        w.rows.push_back(
            {"×", say("Speed, share of rated"), Quantity::Share, s.speed[*branch.fan], 0, Stamp::Computed});
    }
    addOwn(w, e, name);
    w.method =
        say("Pressure difference, buoyancy and fan = A Q + B Q|Q|, with A the viscosity times the first and B the "
            "density times the second resistance.");
    return w;
}

Working ofChamber(const stages::Evaluation& e, std::string_view id) {
    Working w{.thing = ChamberRef{std::string(id)},
              .place = say("Air, chambers"),
              .quantity = Quantity::Temperature,
              .mark = Mark::Note};
    addOwn(w, e, id);
    const bool isChamber = std::any_of(e.air.chambers.begin(), e.air.chambers.end(),
                                       [&](const air::ChamberResult& c) { return c.id == id; });
    if (!isChamber && e.air.solved)
        ofOtherZone(w, e, id);
    for (const air::ChamberResult& c : e.air.chambers)
        if (c.id == id) {
            w.title = say("{}, air", c.name);
            w.value = c.airC;
            w.band = c.bandK;
            w.sentence = say("The mixed air of this chamber.");
            w.rows = {{"", say("Room"), Quantity::Temperature, e.air.conditions.roomC, 0, Stamp::Setting},
                      {"+", say("Warmed by the parts in it"), Quantity::TemperatureDifference,
                       c.airC - e.air.conditions.roomC, 0, Stamp::Computed},
                      {"", say("Pressure over the room"), Quantity::Pressure, c.pressurePa, 0, Stamp::Computed}};
            w.method =
                say("Heat balance of the chamber: what streams in, what mixes through openings, walls and parts.");
        }
    return w;
}

Working ofBalance(const stages::Evaluation& e) {
    const air::Balance& b = e.air.balance;
    Working w{.thing = TotalRef{Total::Balance},
              .place = say("Air, pressure"),
              .title = say("Pressure over the room"),
              .quantity = Quantity::Pressure,
              .value = b.pressurePa,
              .mark = Mark::Note};
    w.sentence = b.pressurePa > 0.05
                     ? say("Air leaves through the gaps: dust comes in only through the fans and their screens.")
                 : b.pressurePa < -0.05 ? say("Air is drawn in through every gap, past the screens.")
                                        : say("In and out are nearly level.");
    w.rows = {{"", say("Fans in, rated at their speed"), Quantity::Flow, b.ratedInM3h, 0, Stamp::Sheet},
              {"\u2212", say("Fans out, rated at their speed"), Quantity::Flow, b.ratedOutM3h, 0, Stamp::Sheet},
              {"", say("In, solved"), Quantity::Flow, b.inM3h, 0, Stamp::Computed},
              {"\u2212", say("Out, solved"), Quantity::Flow, b.outM3h, 0, Stamp::Computed}};
    if (e.air.solved) {
        const air::Books books = air::booksOf(e.air.solved->compiled.network, e.air.solved->solution);
        w.rows.push_back({"", say("Heat put in"), Quantity::Power, books.heatInW, 0, Stamp::Computed});
        w.rows.push_back({"\u2212", say("Heat carried out"), Quantity::Power, books.heatOutW, 0, Stamp::Computed});
        w.sentence += say(" The books of mass close to {} mg/s.", figure::number(books.massKgs * 1e6, 3));
    }
    w.sum = say("Rated add-up {}; what really goes in leaves again, warmer and so a little more of it.",
                figure::usual(Quantity::Flow, b.ratedInM3h - b.ratedOutM3h).signedFigure().bare());
    w.method = say("Rated flows are a first guess: grilles, screens and stacked resistances cut them.");
    return w;
}

} // namespace core::explain
