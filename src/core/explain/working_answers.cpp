// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/explain/fit_words.h"
#include "core/explain/working.h"
#include "core/model/facts.h"

#include <cctype>

namespace core::explain {

Working ofRoom(const fit::Room& room, const Show& show) {
    Working w{.thing = RoomRef{room.mount, room.own},
              .place = "Fit, room left",
              .title = room.name + ", largest " + std::string(fit::ownAxisWord(room.own)),
              .quantity = Quantity::Length,
              .value = room.mostMm,
              .band = room.mostMm - room.surelyMm,
              .mark = room.free || room.surelyMm >= room.nowMm ? Mark::Holds
                      : room.mostMm >= room.nowMm              ? Mark::Open
                                                               : Mark::Crossed};
    w.sentence = textOf(room, show) + ".";
    if (!room.free)
        w.rows.push_back({"", "size now", Quantity::Length, room.nowMm, 0, Stamp::Sheet});
    w.rows.push_back({room.free ? "" : "+", room.free ? "as drawn" : "as drawn, to spare", Quantity::Length,
                      room.mostMm - (room.free ? 0 : room.nowMm), 0, Stamp::Computed});
    w.rows.push_back(
        {"\u2212", "all tolerances at their worst", Quantity::Length, room.mostMm - room.surelyMm, 0, Stamp::Computed});
    w.method = "The least of nominal gap less need over all neighbours in the way of its growth; a centred part grows "
               "to both sides. Limit: " +
               room.limit + ", rule " + room.rule + ".";
    return w;
}

Working ofWay(const fit::Insertion& way) {
    using fit::Passage;
    Working w{.thing = WayRef{way.mount},
              .place = "Fit, going in",
              .title = way.name,
              .quantity = Quantity::Length,
              .value = std::min(way.marginMm, 999.0),
              .known = way.passage == Passage::Straight,
              .mark = way.passage == Passage::Blocked                  ? Mark::Crossed
                      : way.passage == Passage::Straight && !way.tight ? Mark::Holds
                                                                       : Mark::Open,
              .sentence = way.text + "."};
    if (way.passage == Passage::Straight)
        w.rows.push_back({"", "least room beside it", Quantity::Length, way.marginMm, 0, Stamp::Computed});
    if (way.passage == Passage::Straight)
        w.rows.push_back({"", "wanted where parts slide past", Quantity::Length, 1.0, 0, Stamp::Setting});
    w.sum = std::to_string(way.poses.size()) + " positions are drawn on the section in whose plane it moves.";
    w.method =
        "Parts fitted earlier, in the order of the steps, stand in its way; plugs are not in yet. Straight out through "
        "each panel that comes off; else a search over places (4 mm) and tilts (3°) of a plane motion about either "
        "end, each step checked halfway as well. 1.0 mm is kept where there is room (engineering judgement).";
    return w;
}

Working ofMeasure(const fit::MeasureNext& next, const Show& show) {
    Working w{.thing = DimensionRef{next.label},
              .place = "Fit, measure next",
              .title = next.label,
              .quantity = Quantity::Length,
              .value = next.now.value.mm(),
              .band = next.now.tolerance.mm(),
              .mark = next.settles() >= 0.0005 ? Mark::Open : Mark::Note,
              .sentence = textOf(next, show) + "."};
    w.rows.push_back({"", "risk of a wrong answer now, %", Quantity::None, 100 * next.riskNow, 0, Stamp::Computed});
    w.rows.push_back({"", "expected with a caliper, %", Quantity::None, 100 * next.riskThen, 0, Stamp::Computed});
    w.usedBy = next.gaps;
    w.method = "The risk of a gap is the chance of being on the other side of its need than the likelier one. What the "
               "caliper (±0.1 mm) may show is normal about the present value; the risk is averaged over it.";
    return w;
}

Working ofMend(const advise::Mend& mend, const fit::Gap& gap, const Show& show) {
    Working w{.thing = MendRef{gap.ref, 0},
              .place = "Fit, change",
              .title = mend.text,
              .quantity = Quantity::Length,
              .value = mend.marginMm,
              .mark = mend.mark(),
              .sentence = textOf(mend, show) + "."};
    w.rows.push_back({"", gap.between[0].text + " to " + gap.between[1].text + ", margin now", Quantity::Length,
                      gap.marginMm(), 0, Stamp::Computed});
    w.rows.push_back({"+", "won", Quantity::Length, mend.wonMm, 0, Stamp::Computed});
    for (const std::string& spoiled : mend.spoils)
        w.usedBy.push_back(spoiled);
    w.method = "The change is made on a copy of the revision, and everything is computed anew: gaps, checks, air, "
               "noise, screws, minutes and money. Predicted differences of temperature carry " +
               fixed(facts::differenceBand.value, 0) + " K; below " + fixed(facts::noticeable.value, 1) +
               " K none is told.";
    return w;
}

Working ofLead(const stages::Evaluation& e, const LeadRef& lead, const Show& show) {
    Working w{.thing = lead,
              .place = "Brief, leads",
              .title = lead.part,
              .quantity = Quantity::Length,
              .known = false,
              .mark = Mark::Note,
              .method = "It is in use because a change of a revision plugs it in; its way is only measured where both "
                        "of its ends are stated."};
    for (std::size_t i = 0; i < e.build.joined.size(); ++i)
        if (leadRef(e.build, i) == lead) {
            const Joined& j = e.build.joined[i];
            w.title = j.part->name;
            w.sentence =
                j.from.empty() ? "It is fed from the first free socket that fits." : "It is fed at " + j.from + ".";
            for (const std::string& to : j.to)
                w.usedBy.push_back(to);
        }
    for (const rules::CableResult& cable : e.wiring.cables)
        if (cable.ref == lead && (!w.known || cable.slackMm < w.value)) { // of several ends the one that pulls hardest
            w.known = true;
            w.value = cable.slackMm;
            w.mark = cable.state == rules::LeadState::Short  ? Mark::Crossed
                     : cable.state == rules::LeadState::Fits ? Mark::Holds
                                                             : Mark::Open;
            w.sentence = cable.text + ".";
            w.rows = {{"", "Its length", Quantity::Length, cable.lengthMm, 0, Stamp::Sheet},
                      {"\u2212", "Way from " + cable.from + " to " + cable.to, Quantity::Length, cable.wayMm, 0,
                       cable.assumed ? Stamp::Assumed : Stamp::Computed}};
            w.sum = "What is left is slack: " + show.text(Quantity::Length, cable.slackMm);
            w.method = "Straight out of both plugs, and along the edges of the case between them. A tenth of the way "
                       "is wanted for bends; more than 150 mm over is much to stow (engineering judgement).";
        }
    return w;
}

Found foundOf(const rules::Finding& finding) {
    return {rules::markOf(finding.severity), finding.text, finding.remedies};
}

Working ofFinding(const rules::Finding& finding) {
    std::string title(rules::severityWord(finding.severity));
    title[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(title[0])));
    Working w{.thing = finding.about,
              .place = std::string(rules::stationWord(finding.station)) + ", finding",
              .title = std::move(title),
              .known = false,
              .mark = rules::markOf(finding.severity),
              .sentence = "Nothing of this is drawn: it is about what is not there, or about the whole."};
    w.found.push_back(foundOf(finding));
    w.method = "Found by the rule " + finding.rule + "; docs/model/rules.md tells what each rule looks at, and why.";
    return w;
}

} // namespace core::explain
