// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/explain/fit_words.h"
#include "core/explain/working.h"
#include "core/model/facts.h"
#include "core/rules/lead_mark.h"

namespace core::explain {

Working ofRoom(const fit::Room& room) {
    Working w{.thing = RoomRef{room.mount, room.own},
              .place = say("Fit, room left"),
              .title = say("{}, largest {}", room.name, term(fit::ownAxisWord(room.own))),
              .quantity = Quantity::Length,
              .value = room.mostMm,
              .band = room.mostMm - room.surelyMm,
              .mark = room.free || room.surelyMm >= room.nowMm ? Mark::Holds
                      : room.mostMm >= room.nowMm              ? Mark::Open
                                                               : Mark::Crossed};
    w.sentence = say("{}.", textOf(room));
    if (!room.free)
        w.rows.push_back({"", say("size now"), Quantity::Length, room.nowMm, 0, Stamp::Sheet});
    w.rows.push_back({room.free ? "" : "+", room.free ? say("as drawn") : say("as drawn, to spare"), Quantity::Length,
                      room.mostMm - (room.free ? 0 : room.nowMm), 0, Stamp::Computed});
    w.rows.push_back({"\u2212", say("all tolerances at their worst"), Quantity::Length, room.mostMm - room.surelyMm, 0,
                      Stamp::Computed});
    w.method = say("The least of nominal gap less need over all neighbours in the way of its growth; a centred part "
                   "grows to both sides. Limit: {}, rule {}.",
                   room.limit, room.rule);
    return w;
}

Working ofWay(const fit::Insertion& way) {
    using fit::Passage;
    Working w{.thing = WayRef{way.mount},
              .place = say("Fit, going in"),
              .title = named(way.name),
              .quantity = Quantity::Length,
              .value = std::min(way.marginMm, 999.0),
              .known = way.passage == Passage::Straight,
              .mark = way.passage == Passage::Blocked                  ? Mark::Crossed
                      : way.passage == Passage::Straight && !way.tight ? Mark::Holds
                                                                       : Mark::Open,
              .sentence = say("{}.", way.text)};
    if (way.passage == Passage::Straight)
        w.rows.push_back({"", say("least room beside it"), Quantity::Length, way.marginMm, 0, Stamp::Computed});
    if (way.passage == Passage::Straight)
        w.rows.push_back({"", say("wanted where parts slide past"), Quantity::Length, 1.0, 0, Stamp::Setting});
    w.sum = say("{} positions are drawn on the section in whose plane it moves.", way.poses.size());
    w.method = say(
        "Parts fitted earlier, in the order of the steps, stand in its way; plugs are not in yet. Straight out through "
        "each panel that comes off; else a search over places ({}) and tilts (3°) of a plane motion about either "
        "end, each step checked halfway as well. {} is kept where there is room (engineering judgement).",
        figure::mm(4, 0), figure::mm(1));
    return w;
}

Working ofMeasure(const fit::MeasureNext& next) {
    Working w{.thing = DimensionRef{next.label},
              .place = say("Fit, measure next"),
              .title = named(next.label),
              .quantity = Quantity::Length,
              .value = next.now.value.mm(),
              .band = next.now.tolerance.mm(),
              .mark = next.settles() >= 0.0005 ? Mark::Open : Mark::Note,
              .sentence = say("{}.", textOf(next))};
    w.rows.push_back(
        {"", say("risk of a wrong answer now, %"), Quantity::None, 100 * next.riskNow, 0, Stamp::Computed});
    w.rows.push_back({"", say("expected with a caliper, %"), Quantity::None, 100 * next.riskThen, 0, Stamp::Computed});
    for (const std::string& gap : next.gaps)
        w.usedBy.push_back(named(gap));
    w.method =
        say("The risk of a gap is the chance of being on the other side of its need than the likelier one. What the "
            "caliper (±{}) may show is normal about the present value; the risk is averaged over it.",
            figure::mm(0.1));
    return w;
}

Working ofMend(const advise::Mend& mend, const fit::Gap& gap) {
    Working w{.thing = MendRef{gap.ref, 0},
              .place = say("Fit, change"),
              .title = mend.text,
              .quantity = Quantity::Length,
              .value = mend.marginMm,
              .mark = mend.mark(),
              .sentence = say("{}.", textOf(mend))};
    w.rows.push_back({"", say("{} to {}, margin now", gap.between[0].text, gap.between[1].text), Quantity::Length,
                      gap.marginMm(), 0, Stamp::Computed});
    w.rows.push_back({"+", say("won"), Quantity::Length, mend.wonMm, 0, Stamp::Computed});
    for (const Sentence& spoiled : mend.spoils)
        w.usedBy.push_back(spoiled);
    w.method =
        say("The change is made on a copy of the revision, and everything is computed anew: gaps, checks, air, noise, "
            "screws, minutes and money. Predicted differences of temperature carry {}; below {} none is told.",
            figure::kelvin(facts::differenceBand.value, 0), figure::kelvin(facts::noticeable.value, 1));
    return w;
}

Working ofLead(const stages::Evaluation& e, const LeadRef& lead) {
    Working w{.thing = lead,
              .place = say("Brief, leads"),
              .title = named(lead.part),
              .quantity = Quantity::Length,
              .known = false,
              .mark = Mark::Note,
              .method =
                  say("It is in use because a change of a revision plugs it in; its way is only measured where both "
                      "of its ends are stated.")};
    for (std::size_t i = 0; i < e.build.joined.size(); ++i)
        if (leadRef(e.build, i) == lead) {
            const Joined& j = e.build.joined[i];
            w.title = named(j.part->name);
            w.sentence = j.from.empty() ? say("It is fed from the first free socket that fits.")
                                        : say("It is fed at {}.", j.from);
            for (const std::string& to : j.to) {
                const EndName end = endName(to);
                const Placed* p = e.build.at(end.mount);
                w.usedBy.push_back(p ? say("{}, {}", p->name, end.port) : named(to));
            }
        }
    for (const rules::CableResult& cable : e.wiring.cables)
        if (cable.ref == lead && (!w.known || cable.slackMm < w.value)) { // of several ends the one that pulls hardest
            w.known = true;
            w.value = cable.slackMm;
            for (const fit::LeadRoute& route : e.wiring.routes)
                if (route.ref == cable.ref && route.end == cable.end)
                    w.mark = rules::markOfLead(&cable, route);
            w.sentence = say("{}.", cable.text);
            w.rows = {{"", say("Its length"), Quantity::Length, cable.lengthMm, 0, Stamp::Sheet},
                      {"\u2212", say("Way from {} to {}", cable.from, cable.to), Quantity::Length, cable.wayMm, 0,
                       cable.assumed ? Stamp::Assumed : Stamp::Computed}};
            w.sum = say("What is left is slack: {}", figure::usual(Quantity::Length, cable.slackMm));
            w.method = cable.stated
                           ? say("Straight out of both plugs, and from corner to corner as its way is stated; corners "
                                 "count sharp, so that it is never longer than this. A tenth of the way is wanted for "
                                 "bends; more than {} over is much to stow (engineering judgement).",
                                 figure::mm(150, 0))
                           : say("Straight out of both plugs, and along the edges of the case between them: an "
                                 "estimate until its corners are stated. A tenth of the way is wanted for bends; more "
                                 "than {} over is much to stow (engineering judgement).",
                                 figure::mm(150, 0));
        }
    for (const fit::LeadRoute& route : e.wiring.routes)
        if (route.ref == lead && route.stated && std::isfinite(route.tightestMm))
            w.sentence += say(" At its tightest corner there is room for a bend of {}; it needs {}",
                              figure::mm(route.tightestMm, 1), figure::mm(route.body.bendMm, 1)) +
                          (route.body.assumed ? say(" (assumed).") : say("."));
    return w;
}

Found foundOf(const rules::Finding& finding) {
    return {rules::markOf(finding.severity), finding.text, finding.remedies};
}

Working ofFinding(const rules::Finding& finding) {
    Working w{.thing = finding.about,
              .place = say("{}, finding", term(rules::stationWord(finding.station))),
              .title = capitalised(term(rules::severityWord(finding.severity))),
              .known = false,
              .mark = rules::markOf(finding.severity),
              .sentence = say("Nothing of this is drawn: it is about what is not there, or about the whole.")};
    w.found.push_back(foundOf(finding));
    w.method = say("Found by the rule {}; docs/model/rules.md tells what each rule looks at, and why.", finding.rule);
    return w;
}

} // namespace core::explain
