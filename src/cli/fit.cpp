// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "core/base/text.h"
#include "core/explain/fit_words.h"
#include "core/fit/cutouts.h"

#include <cmath>
namespace cli {
namespace {

store::Json gapJson(const core::fit::Gap& gap) {
    store::Json chain = store::Json::array();
    for (const auto& item : gap.chain)
        chain.push_back({{"label", item.label},
                         {"sign", item.sign},
                         {"factor", item.factor},
                         {"value_mm", item.valueMm},
                         {"tolerance_mm", item.toleranceMm},
                         {"source", std::string(core::sourceWord(item.source))}});
    return {{"id", gap.id},
            {"thing", core::textOf(gap.ref)},
            {"between", {gap.between[0].text, gap.between[1].text}},
            {"axis", std::string(1, static_cast<char>('x' + static_cast<int>(gap.axis)))},
            {"nominal_mm", gap.nominal.mm()},
            {"worst_mm", gap.nominal.mm() - gap.worstBandMm},
            {"rss_mm", gap.nominal.mm() - gap.rssBandMm},
            {"worst_band_mm", gap.worstBandMm},
            {"rss_band_mm", gap.rssBandMm},
            {"required_mm", gap.requiredMm},
            {"margin_mm", gap.marginMm()},
            {"chance", gap.chance},
            {"state", std::string(core::fit::gapStateWord(gap.state))},
            {"mark", std::string(core::markWord(gap.mark))},
            {"rule", std::string(gap.rule)},
            {"need_note", gap.overridden},
            {"way", gap.way},
            {"slanted", gap.slanted},
            {"chain", chain}};
}

store::Json roomJson(const core::Project& project, const core::stages::Evaluation& e, const core::Reader& reader) {
    store::Json rooms = store::Json::array();
    for (const auto& r : core::fit::roomLeft(project, e.build, {.needs = project.needs}))
        rooms.push_back({{"mount", r.mount},
                         {"name", r.name},
                         {"free", r.free},
                         {"size", std::string(core::fit::ownAxisWord(r.own))},
                         {"now_mm", r.nowMm},
                         {"most_mm", r.mostMm},
                         {"surely_mm", r.surelyMm},
                         {"limit", r.limit},
                         {"rule", r.rule},
                         {"text", reader.text(core::explain::textOf(r))}});
    return rooms;
}

store::Json changesJson(const core::Project& project, const core::stages::Evaluation& e, const std::string& load,
                        const core::Reader& reader) {
    store::Json all = store::Json::array();
    for (const auto& gap : e.fit.gaps) {
        if (!gap.isShort())
            continue;
        store::Json mends = store::Json::array();
        for (const auto& m : core::advise::whatToChange(project, e, gap, load))
            mends.push_back({{"change", store::changeJson(m.change)},
                             {"mends", m.mends},
                             {"won_mm", m.wonMm},
                             {"margin_mm", m.marginMm},
                             {"spoils", reader.texts(m.spoils)},
                             {"processor_k", finite(m.processorK)},
                             {"card_k", finite(m.cardK)},
                             {"noise_db", m.noiseDb},
                             {"screws", m.screws},
                             {"minutes", m.minutes},
                             {"price", m.price},
                             {"volume_l", m.volumeL},
                             {"text", reader.text(core::explain::textOf(m))}});
        all.push_back({{"gap", gap.id},
                       {"short_mm", -gap.marginMm()},
                       {"mends", mends},
                       {"edit", reader.text(core::advise::whatToEdit(gap))}});
    }
    return all;
}

store::Json measureJson(const core::fit::FitResult& fit, const core::Reader& reader) {
    store::Json all = store::Json::array();
    for (const auto& m : core::fit::measureNext(fit))
        all.push_back({{"dimension", m.label},
                       {"part", m.origin.part},
                       {"value_mm", m.now.value.mm()},
                       {"tolerance_mm", m.now.tolerance.mm()},
                       {"source", std::string(core::sourceWord(m.now.source))},
                       {"risk_now", m.riskNow},
                       {"risk_then", m.riskThen},
                       {"worst_won_mm", m.worstWonMm},
                       {"gaps", m.gaps},
                       {"text", reader.text(core::explain::textOf(m))}});
    return all;
}

store::Json insertionJson(const core::stages::Evaluation& e, const core::Reader& reader) {
    store::Json all = store::Json::array();
    for (const auto& i : core::fit::insertions(e.build, core::make::orderOf(e.make)))
        all.push_back({{"mount", i.mount},
                       {"answer", std::string(core::fit::passageWord(i.passage))},
                       {"side", std::string(core::sideWord(i.side))},
                       {"margin_mm", i.marginMm},
                       {"tilt_deg", i.tiltDeg},
                       {"tight", i.tight},
                       {"before", i.before},
                       {"blocked_by", reader.text(i.blockedBy)},
                       {"positions", i.poses.size()},
                       {"text", reader.text(i.text)}});
    return all;
}

store::Json portsJson(const core::Build& build, const core::rules::PortMap& map, const core::Reader& reader) {
    const auto holder = [&](const core::rules::Holder& h) {
        return h.isLead ? core::textOf(core::rules::thingOf(build, h)) : h.mount;
    };
    store::Json needs = store::Json::array(), offers = store::Json::array(), free = store::Json::array();
    for (std::size_t n = 0; n < map.needs.size(); ++n) {
        const auto& need = map.needs[n];
        const auto* socket = need.socket < 0 ? nullptr : &map.sockets[static_cast<std::size_t>(need.socket)];
        needs.push_back({{"kind", need.kind},
                         {"taker", holder(need.taker)},
                         {"giver", socket ? store::Json(holder(socket->giver)) : store::Json(nullptr)},
                         {"via", need.via},
                         {"short", socket == nullptr},
                         {"text", reader.text(core::explain::textOf(map, n))}});
    }
    for (const auto& s : map.sockets)
        if (s.takenBy < 0)
            free.push_back({{"kind", s.kind}, {"giver", holder(s.giver)}});
    for (const auto& o : map.offers)
        offers.push_back(
            {{"part", o.part}, {"name", o.name}, {"kind", o.kind}, {"price", o.price}, {"can_be_fed", o.canBeFed}});
    return {{"plugs", needs}, {"free", free}, {"adapters", offers}};
}

store::Json linksJson(const core::rules::Wiring& wiring, const core::Reader& reader) {
    store::Json all = store::Json::array();
    for (const auto& l : wiring.links)
        all.push_back({{"mount", l.mount},
                       {"chain", l.chain},
                       {"generation", l.generation},
                       {"lanes", l.lanes},
                       {"usable_gb_s", l.usableGbs},
                       {"need_gb_s", l.needGbs},
                       {"narrowest", reader.text(l.narrowest)},
                       {"enough", l.enough},
                       {"text", reader.text(l.text)}});
    const auto budget = [](const core::rules::LaneBudget& b) {
        return store::Json{{"given", b.given}, {"used", b.used}, {"users", b.users}};
    };
    return {{"chains", all},
            {"lanes", {{"processor", budget(wiring.lanes.processor)}, {"chipset", budget(wiring.lanes.chipset)}}}};
}

store::Json ledgerJson(const core::rules::Wiring& wiring, const core::Reader& reader) {
    store::Json all = store::Json::array();
    for (const auto& row : wiring.ledger)
        all.push_back({{"modification", row.modification},
                       {"what", row.what},
                       {"replace", row.replace},
                       {"by", row.by},
                       {"homeless", row.homeless},
                       {"open", row.open},
                       {"text", reader.text(row.text)}});
    return all;
}

/// Where every part and socket came to lie, in the axes of the case.
store::Json placedJson(const core::Build& build) {
    store::Json all = store::Json::array();
    for (const core::Placed& p : build.placed) {
        store::Json low = store::Json::array(), high = store::Json::array(), ports = store::Json::array();
        for (std::size_t a = 0; a < 3; ++a) {
            low.push_back(p.lowAt[a].mm());
            high.push_back(p.highAt[a].mm());
        }
        for (const core::Port& port : p.ports)
            ports.push_back({{"id", port.id},
                             {"kind", port.kind},
                             {"at_mm", p.inCaseMm(port.at)},
                             {"direction", core::directionWord(p.inCase(port.out))}});
        all.push_back({{"mount", p.mount},
                       {"part", p.part->id},
                       {"name", p.name},
                       {"low_mm", low},
                       {"high_mm", high},
                       {"facing", core::directionWord(p.facing())},
                       {"up", core::directionWord(p.frame.axis[1])},
                       {"outside", p.outside},
                       {"ports", ports}});
    }
    return all;
}

store::Json seatsJson(const core::Build& build) {
    store::Json all = store::Json::array();
    for (const auto& s : core::fit::seats(build))
        all.push_back({{"mount", s.mount},
                       {"opening", s.opening},
                       {"offset_mm", s.offsetMm},
                       {"uncovered_share", s.uncoveredShare},
                       {"overlap_mm", s.overlapMm},
                       {"cut_out", s.cutOut},
                       {"holes", s.holes},
                       {"holes_in_metal", s.holesInMetal},
                       {"hole_edge_mm", finite(s.edgeMm)},
                       {"need_edge_mm", s.needEdgeMm}});
    return all;
}

store::Json jointsJson(const core::fit::FitResult& fit) {
    store::Json all = store::Json::array();
    for (const auto& j : fit.joints)
        all.push_back({{"between", j.between}, {"how", j.how}});
    return all;
}

store::Json cablesJson(const core::rules::Wiring& wiring, const core::Reader& reader) {
    store::Json all = store::Json::array();
    for (const auto& c : wiring.cables) {
        store::Json points = store::Json::array();
        for (const auto& route : wiring.routes)
            if (route.ref == c.ref && route.end == c.end)
                points = route.points;
        all.push_back({{"part", c.part},
                       {"from", reader.text(c.from)},
                       {"to", reader.text(c.to)},
                       {"length_mm", c.lengthMm},
                       {"way_mm", c.wayMm},
                       {"slack_mm", c.slackMm},
                       {"assumed", c.assumed},
                       {"stated", c.stated},
                       {"points_mm", points},
                       {"state", std::string(core::rules::leadStateWord(c.state))},
                       {"text", reader.text(c.text)}});
    }
    return all;
}

} // namespace

int fit(const Options& options) {
    const auto looked = look(options);
    if (!looked)
        return badInput(looked.error());
    const core::stages::Evaluation& e = looked->evaluation();
    const std::string& revision = looked->revision;
    const core::Reader reader = readerOf(options, looked->project());
    using core::rules::Station;
    const store::Json findings = findingsJson(e.findings, reader, [](const auto& f) {
        return f.station == Station::Brief || f.station == Station::Fit || f.rule == "bed";
    });
    const bool blocked =
        std::any_of(findings.begin(), findings.end(), [](const auto& f) { return f["severity"] == "blocker"; });
    if (options.json) {
        store::Json gaps = store::Json::array();
        for (const auto& gap : e.fit.gaps)
            gaps.push_back(gapJson(gap));
        print({{"revision", revision},
               {"gaps", gaps},
               {"joints", jointsJson(e.fit)},
               {"placed", placedJson(e.build)},
               {"seats", seatsJson(e.build)},
               {"room", roomJson(looked->project(), e, reader)},
               {"changes", changesJson(looked->project(), e, options.load, reader)},
               {"measure_next", measureJson(e.fit, reader)},
               {"insertion", insertionJson(e, reader)},
               {"ports", portsJson(e.build, e.wiring.ports, reader)},
               {"links", linksJson(e.wiring, reader)},
               {"ledger", ledgerJson(e.wiring, reader)},
               {"cables", cablesJson(e.wiring, reader)},
               {"findings", findings},
               {"volume_l", e.fit.volumeL},
               {"footprint_cm2", e.fit.footprintCm2},
               {"outside_mm", e.fit.outsideMm},
               {"mass_g", e.massG},
               {"price", e.price},
               {"power",
                {{"draw_w", e.power.drawW},
                 {"supply_w", e.power.supplyW},
                 {"share", e.power.share},
                 {"wall_w", e.power.wallW}}}});
        return blocked ? ExitNotMet : ExitFine;
    }
    using core::figure::mm;
    sayTo(reader, core::say("{}: {}, {} gaps, parts draw {} of {}", revision,
                            core::figure::usual(core::Quantity::Volume, e.fit.volumeL), e.fit.gaps.size(),
                            core::figure::watts(e.power.drawW), core::figure::watts(e.power.supplyW)));
    for (const auto& gap : e.fit.gaps)
        say("  %-7s %s\n", std::string(core::fit::gapStateWord(gap.state)),
            reader.text(core::say("{} to {}: {} ±{}, needs {}, {} at worst", gap.between[0].text, gap.between[1].text,
                                  mm(gap.nominal.mm()).bare(), mm(gap.worstBandMm), mm(gap.requiredMm).bare(),
                                  mm(gap.marginMm()).signedFigure().bare())));
    for (const auto& i : core::fit::insertions(e.build, core::make::orderOf(e.make)))
        say("  going in: %s\n", reader.text(i.text));
    for (const auto& gap : e.fit.gaps)
        if (gap.isShort())
            for (const auto& mend : core::advise::whatToChange(looked->project(), e, gap, options.load))
                if (mend.mends)
                    say("  would mend %s to %s: %s\n", gap.between[0].text.c_str(), gap.between[1].text.c_str(),
                        reader.text(core::explain::textOf(mend)));
    for (const auto& next : core::fit::measureNext(e.fit))
        say("  measure next: %s\n", reader.text(core::explain::textOf(next)));
    for (const auto& cable : e.wiring.cables)
        say("  lead    %s\n", reader.text(cable.stated ? core::say("{}, by its corners", cable.text)
                                                       : core::say("{}, along the edges: an estimate", cable.text)));
    for (const auto& j : e.fit.joints)
        say("  joined  %s to %s: %s\n", j.between[0].c_str(), j.between[1].c_str(), j.how.c_str());
    sayFindings(findings);
    return blocked ? ExitNotMet : ExitFine;
}

} // namespace cli
