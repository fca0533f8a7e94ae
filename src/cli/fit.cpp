// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "core/base/text.h"

#include <cstdio>

namespace cli {
namespace {

store::Json gapJson(const core::fit::Gap& gap) {
    store::Json chain = store::Json::array();
    for (const auto& item : gap.chain)
        chain.push_back({{"label", item.label}, {"sign", item.sign}, {"factor", item.factor}, {"value_mm", item.valueMm}, {"tolerance_mm", item.toleranceMm},
                         {"source", std::string(core::sourceWord(item.source))}});
    return {{"id", gap.id},
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
            {"chain", chain}};
}

} // namespace

int fit(const Options& options) {
    const auto looked = look(options);
    if (!looked)
        return badInput(looked.error());
    const core::verdict::Evaluation& e = (*looked)->evaluation;
    const std::string& revision = (*looked)->revision;
    bool blocked = false;
    store::Json findings = store::Json::array();
    for (const auto& f : e.findings) {
        if (f.station != core::rules::Station::Brief && f.station != core::rules::Station::Fit)
            continue;
        blocked = blocked || f.severity == core::rules::Severity::Blocker;
        findings.push_back({{"id", f.id}, {"severity", std::string(core::rules::severityWord(f.severity))}, {"subject", f.subject}, {"text", f.text}, {"rule", f.rule}, {"remedies", f.remedies}});
    }
    if (options.json) {
        store::Json gaps = store::Json::array();
        for (const auto& gap : e.fit.gaps)
            gaps.push_back(gapJson(gap));
        print({{"revision", revision},
               {"gaps", gaps},
               {"findings", findings},
               {"volume_l", e.fit.volumeL},
               {"footprint_cm2", e.fit.footprintCm2},
               {"outside_mm", e.fit.outsideMm},
               {"mass_g", e.massG},
               {"price", e.price},
               {"power", {{"draw_w", e.power.drawW}, {"supply_w", e.power.supplyW}, {"share", e.power.share}, {"wall_w", e.power.wallW}}}});
        return blocked ? ExitNotMet : ExitFine;
    }
    std::printf("%s: %.2f L, %zu gaps, parts draw %.0f W of %.0f W\n", revision.c_str(), e.fit.volumeL, e.fit.gaps.size(), e.power.drawW, e.power.supplyW);
    for (const auto& gap : e.fit.gaps)
        std::printf("  %-7s %s to %s: %s ±%s mm, needs %s, %s at worst\n", std::string(core::fit::gapStateWord(gap.state)).c_str(), gap.between[0].text.c_str(), gap.between[1].text.c_str(),
                    core::fixed(gap.nominal.mm(), 1).c_str(), core::fixed(gap.worstBandMm, 1).c_str(), core::fixed(gap.requiredMm, 1).c_str(), core::withSign(gap.marginMm(), 1).c_str());
    for (const auto& f : findings)
        std::printf("  %s: %s\n", f["severity"].get<std::string>().c_str(), f["text"].get<std::string>().c_str());
    return blocked ? ExitNotMet : ExitFine;
}

} // namespace cli
