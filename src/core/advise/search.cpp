// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/advise/search.h"

#include "core/base/text.h"
#include "core/model/choices.h"

#include <cmath>
#include <limits>
#include <queue>

namespace core::advise {
namespace {

struct Option {
    Choice choice;
    const Part* part = nullptr;
    bool refused = false;
    double logOdds = 0;
    double marginMm = 1e9;
    double coolingK = 0;   ///< predicted change against the revision, processor and card together
    double noisePower = 0; ///< change of sound power, in parts of the reference
    double price = 0;
    double watts = 0, supplyW = 0;
};
struct Slot {
    std::string mount, name;
    std::vector<Option> options;
};
/// Between two options of two slots.
struct Pair {
    bool short_ = false;
    double logOdds = 0;
    double marginMm = 1e9;
};

class Search {
public:
    Search(const Project& project, const stages::Evaluation& now, const SearchRequest& request,
           const std::function<bool(double)>& progress)
        : m_project(project), m_now(now), m_request(request), m_progress(progress) {}
    Result<SearchResult> run();

private:
    void findSlots();
    [[nodiscard]] std::vector<Change> changesTo(const std::vector<std::pair<std::size_t, std::size_t>>& taken,
                                                bool clearOthers) const;
    void lookAtOption(std::size_t slot, Option& option);
    [[nodiscard]] Pair lookAtPair(std::size_t s, std::size_t o, std::size_t t, std::size_t p) const;
    bool lookAtAll();
    void walk();
    void finish();
    [[nodiscard]] Sentence wordsOf(const Slot& slot, const Option& option) const;
    bool tell(double share) {
        m_result.cancelled = m_result.cancelled || (m_progress && !m_progress(share));
        return !m_result.cancelled;
    }
    static void addGap(const fit::Gap& gap, bool& isShort, double& logOdds, double& marginMm) {
        isShort = isShort || gap.isWrong();
        // The odds that it closes: how much air there is, is told by the prediction.
        logOdds += std::log(std::max(
            1e-12, fit::chanceAbove(gap.nominal.mm(), gap.rssBandMm, gap.breathing ? gap.touchMm : gap.requiredMm)));
        marginMm = std::min(marginMm, gap.touchMarginMm());
    }

    const Project& m_project;
    const stages::Evaluation& m_now;
    const SearchRequest& m_request;
    const std::function<bool(double)>& m_progress;
    std::vector<Slot> m_slots;
    std::vector<std::vector<std::vector<Pair>>> m_pairs; ///< [s * n + t][o][p], s < t
    SearchResult m_result;
    double m_baseWatts = 0, m_baseSupplyW = 0;
    double m_baseLogOdds = 0, m_baseMarginMm = 1e9;
    struct Found {
        double score;
        std::vector<std::size_t> options;
        double logOdds, marginMm;
    };
    struct Worse {
        bool operator()(const Found& a, const Found& b) const { return a.score > b.score; }
    };
    std::priority_queue<Found, std::vector<Found>, Worse> m_best;
};

void Search::findSlots() {
    for (const MountChoice& mount : mountsOf(m_now.build)) {
        const bool wanted = std::any_of(mount.accepts.begin(), mount.accepts.end(), [&](PartKind k) {
            return std::find(m_request.kinds.begin(), m_request.kinds.end(), k) != m_request.kinds.end();
        });
        if (!wanted)
            continue;
        Slot slot{.mount = mount.path, .name = mount.name};
        const bool mayBeEmpty = !mount.taken || mount.taken->kind == PartKind::Fan;
        if (mayBeEmpty)
            slot.options.push_back({.choice = {mount.path, {}, {}}});
        std::vector<std::string> variants{""};
        if (const Mount* m = mountAt(m_now.build, mount.path))
            for (const MountVariant& v : m->variants)
                variants.push_back(v.id);
        for (const Part& part : m_project.shelf) {
            const bool kindWanted =
                std::find(m_request.kinds.begin(), m_request.kinds.end(), part.kind) != m_request.kinds.end();
            if (!kindWanted || std::find(mount.accepts.begin(), mount.accepts.end(), part.kind) == mount.accepts.end())
                continue;
            for (const std::string& v : variants)
                slot.options.push_back({.choice = {mount.path, part.id, v}, .part = &part});
        }
        if (slot.options.size() > 1)
            m_slots.push_back(std::move(slot));
    }
}

/// Changes that bring the named slots to their options; the other slots stay as they are, or are cleared.
std::vector<Change> Search::changesTo(const std::vector<std::pair<std::size_t, std::size_t>>& taken,
                                      bool clearOthers) const {
    std::vector<Change> changes;
    for (std::size_t s = 0; s < m_slots.size(); ++s) {
        const Placed* here = m_now.build.at(m_slots[s].mount);
        const auto it = std::find_if(taken.begin(), taken.end(), [&](const auto& t) { return t.first == s; });
        if (it == taken.end()) {
            if (clearOthers && here)
                changes.push_back(RemovePart{m_slots[s].mount});
            continue;
        }
        const Choice& c = m_slots[s].options[it->second].choice;
        if (c.part.empty()) {
            if (here)
                changes.push_back(RemovePart{c.mount});
            continue;
        }
        if (!here)
            changes.push_back(PlacePart{c.part, c.mount});
        else if (here->part->id != c.part)
            changes.push_back(SwapPart{c.mount, c.part});
        if ((here ? here->variant : std::string{}) != c.variant)
            changes.push_back(ChooseVariant{c.mount, c.variant});
    }
    return changes;
}

void Search::lookAtOption(std::size_t slot, Option& option) {
    const std::size_t o = static_cast<std::size_t>(&option - m_slots[slot].options.data());
    if (option.part) {
        option.price = option.part->price;
        if (option.part->kind == PartKind::PowerSupply)
            option.supplyW = std::get<PowerSupplySpec>(option.part->spec).ratedW;
        else
            option.watts = option.part->powerW;
        // Its gaps with all that is not chosen anew.
        const auto alone = resolveWith(m_project, m_now.build.revision, changesTo({{slot, o}}, true));
        if (!alone) {
            option.refused = true;
            return;
        }
        for (std::size_t i = 0; i < alone->placed.size(); ++i)
            if (alone->placed[i].mount == option.choice.mount)
                for (const fit::Gap& gap : fit::gapsOf(*alone, i, {.needs = m_project.needs}))
                    addGap(gap, option.refused, option.logOdds, option.marginMm);
        if (option.refused)
            return;
    }
    // What it does for heat and noise, put alone into the revision as it stands.
    auto build = resolveWith(m_project, m_now.build.revision, changesTo({{slot, o}}, false));
    auto then = build ? stages::evaluateBuild(m_project, std::move(*build))
                      : Result<stages::Evaluation>(tl::make_unexpected(build.error()));
    if (!then) {
        option.refused = true;
        return;
    }
    for (const auto& part : then->air.parts)
        if (const auto* before = m_now.air.part(part.id);
            before && (part.kind == PartKind::Processor || part.kind == PartKind::Card))
            option.coolingK += part.temperatureC - before->temperatureC;
    option.noisePower = std::pow(10, then->noise.totalDba / 10) - std::pow(10, m_now.noise.totalDba / 10);
    for (const rules::Finding& f : then->findings)
        if (f.severity == rules::Severity::Blocker && f.about == Thing(PartRef{option.choice.mount}) &&
            f.station == rules::Station::Brief)
            option.refused = option.refused || std::none_of(m_now.findings.begin(), m_now.findings.end(),
                                                            [&](const rules::Finding& b) { return b.id == f.id; });
}

Pair Search::lookAtPair(std::size_t s, std::size_t o, std::size_t t, std::size_t p) const {
    Pair pair;
    const Option &a = m_slots[s].options[o], &b = m_slots[t].options[p];
    if (!a.part || !b.part || a.refused || b.refused)
        return pair;
    const auto both = resolveWith(m_project, m_now.build.revision, changesTo({{s, o}, {t, p}}, true));
    if (!both) {
        pair.short_ = true;
        return pair;
    }
    for (std::size_t i = 0; i < both->placed.size(); ++i)
        if (both->placed[i].mount == a.choice.mount)
            for (const fit::Gap& gap : fit::gapsOf(*both, i, {.needs = m_project.needs}))
                if (gap.between[0].mount == b.choice.mount || gap.between[1].mount == b.choice.mount)
                    addGap(gap, pair.short_, pair.logOdds, pair.marginMm);
    return pair;
}

bool Search::lookAtAll() {
    const std::size_t n = m_slots.size();
    std::size_t singles = 0, pairs = 0, done = 0;
    for (std::size_t s = 0; s < n; ++s) {
        singles += m_slots[s].options.size();
        for (std::size_t t = s + 1; t < n; ++t)
            pairs += m_slots[s].options.size() * m_slots[t].options.size();
    }
    const double all = static_cast<double>(10 * singles + pairs);
    for (std::size_t s = 0; s < n; ++s)
        for (Option& option : m_slots[s].options) {
            lookAtOption(s, option);
            if (!tell(0.5 * static_cast<double>(done += 10) / all))
                return false;
        }
    m_pairs.assign(n * n, {});
    for (std::size_t s = 0; s < n; ++s)
        for (std::size_t t = s + 1; t < n; ++t) {
            auto& table = m_pairs[s * n + t];
            table.assign(m_slots[s].options.size(), std::vector<Pair>(m_slots[t].options.size()));
            for (std::size_t o = 0; o < m_slots[s].options.size(); ++o) {
                for (std::size_t p = 0; p < m_slots[t].options.size(); ++p)
                    table[o][p] = lookAtPair(s, o, t, p);
                done += m_slots[t].options.size();
                if (!tell(0.5 * static_cast<double>(done) / all))
                    return false;
            }
        }
    // What is there anyway: gaps between parts that are not chosen anew, power they draw or give.
    if (const auto bare = resolveWith(m_project, m_now.build.revision, changesTo({}, true))) {
        bool ignored = false;
        for (const fit::Gap& gap : fit::check(*bare, {.needs = m_project.needs}).gaps) {
            addGap(gap, ignored, m_baseLogOdds, m_baseMarginMm);
            if (gap.isWrong())
                m_result.otherwiseShort.push_back(say("{} to {}", gap.between[0].text, gap.between[1].text));
        }
        const auto budget = rules::powerBudget(*bare);
        m_baseWatts = budget.drawW;
        m_baseSupplyW = budget.supplyW;
    }
    return true;
}

void Search::walk() {
    const std::size_t n = m_slots.size();
    // Ranges of what adds up, so that the weights mean the same whatever is on the shelf.
    struct Range {
        double low = 0, high = 0;
    };
    const auto rangeOf = [&](auto&& value) {
        Range r;
        for (const Slot& slot : m_slots) {
            double low = 1e18, high = -1e18;
            for (const Option& o : slot.options)
                if (!o.refused) {
                    low = std::min(low, value(o));
                    high = std::max(high, value(o));
                }
            if (low <= high) {
                r.low += low;
                r.high += high;
            }
        }
        return r;
    };
    const Range cool = rangeOf([](const Option&o) { return o.coolingK; }),
                noise = rangeOf([](const Option&o) { return o.noisePower; }),
                price = rangeOf([](const Option&o) { return o.price; });
    const auto good = [](double value, const Range& r) {
        return r.high - r.low > 1e-9 ? (r.high - value) / (r.high - r.low) : 1.0;
    };
    const Weights& w = m_request.weights;
    const double sum = std::max(1e-9, w.odds + w.cooling + w.noise + w.price);
    std::vector<std::size_t> at(n, 0);
    const double total = std::max(1.0, static_cast<double>(m_result.combinations));
    for (std::size_t count = 0;; ++count) {
        if (count % 16384 == 0 && !tell(0.5 + 0.4 * static_cast<double>(count) / total))
            return;
        bool fits = true;
        double logOdds = m_baseLogOdds, margin = m_baseMarginMm, coolK = 0, noiseP = 0, cost = 0, watts = m_baseWatts,
               supply = m_baseSupplyW;
        for (std::size_t s = 0; s < n && fits; ++s) {
            const Option& o = m_slots[s].options[at[s]];
            fits = !o.refused;
            logOdds += o.logOdds;
            margin = std::min(margin, o.marginMm);
            coolK += o.coolingK;
            noiseP += o.noisePower;
            cost += o.price;
            watts += o.watts;
            supply += o.supplyW;
            for (std::size_t t = 0; t < s && fits; ++t) {
                const Pair& pair = m_pairs[t * n + s][at[t]][at[s]];
                fits = !pair.short_;
                logOdds += pair.logOdds;
                margin = std::min(margin, pair.marginMm);
            }
        }
        if (fits && (supply <= 0 || watts <= supply)) {
            ++m_result.fitting;
            const double score = (w.odds * std::exp(logOdds) + w.cooling * good(coolK, cool) +
                                  w.noise * good(noiseP, noise) + w.price * good(cost, price)) /
                                 sum;
            if (m_best.size() < m_request.best || score > m_best.top().score) {
                m_best.push({score, at, logOdds, margin});
                if (m_best.size() > m_request.best)
                    m_best.pop();
            }
        }
        std::size_t s = 0;
        while (s < n && ++at[s] == m_slots[s].options.size())
            at[s++] = 0;
        if (s == n)
            return;
    }
}

/// "Side fan A: Fan 92-25, outside the panel"; nothing when it stays as it is.
Sentence Search::wordsOf(const Slot& slot, const Option& option) const {
    const Placed* here = m_now.build.at(slot.mount);
    if (here ? option.part && here->part->id == option.part->id && here->variant == option.choice.variant
             : !option.part)
        return {};
    Sentence words = option.part ? say("{}: {}", slot.name, option.part->name) : say("{}: left empty", slot.name);
    if (const Mount* mount = mountAt(m_now.build, slot.mount))
        for (const MountVariant& v : mount->variants)
            if (v.id == option.choice.variant)
                words += say(", {}", v.name.empty() ? v.id : v.name);
    return words;
}

void Search::finish() {
    std::vector<Found> found;
    for (; !m_best.empty(); m_best.pop())
        found.push_back(m_best.top());
    std::reverse(found.begin(), found.end());
    for (const Found& f : found) {
        Combination c{.score = f.score, .odds = std::exp(f.logOdds), .worstMarginMm = f.marginMm};
        std::vector<std::pair<std::size_t, std::size_t>> taken;
        for (std::size_t s = 0; s < m_slots.size(); ++s) {
            taken.emplace_back(s, f.options[s]);
            c.choices.push_back(m_slots[s].options[f.options[s]].choice);
        }
        c.changes = changesTo(taken, false);
        for (std::size_t s = 0; s < m_slots.size(); ++s)
            if (const Sentence words = wordsOf(m_slots[s], m_slots[s].options[f.options[s]]); !words.empty())
                c.text += c.text.empty() ? words : say("; {}", words);
        if (c.text.empty())
            c.text = say("as it is");
        auto build = resolveWith(m_project, m_now.build.revision, c.changes);
        auto e = build ? stages::evaluateBuild(m_project, std::move(*build))
                       : Result<stages::Evaluation>(tl::make_unexpected(build.error()));
        if (!e)
            continue;
        c.processorC = c.cardC = std::numeric_limits<double>::quiet_NaN();
        for (const auto& part : e->air.parts) {
            if (part.kind == PartKind::Processor)
                c.processorC = part.temperatureC;
            else if (part.kind == PartKind::Card)
                c.cardC = part.temperatureC;
        }
        c.noiseDba = e->noise.totalDba;
        c.price = e->price;
        if (!e->fit.gaps.empty())
            c.worstMarginMm = e->fit.gaps.front().marginMm();
        m_result.best.push_back(std::move(c));
    }
}

Result<SearchResult> Search::run() {
    findSlots();
    if (m_slots.empty())
        return problem("search", "there is nothing to choose",
                       "put parts of these kinds on the shelf, and name kinds that have a place");
    m_result.combinations = 1;
    for (const Slot& slot : m_slots) {
        m_result.combinations *= slot.options.size();
        if (m_result.combinations > m_request.most)
            return problem("search", "more than " + std::to_string(m_request.most) + " combinations",
                           "name fewer kinds, or take parts off the shelf");
    }
    if (lookAtAll())
        walk();
    if (!m_result.cancelled)
        finish();
    (void)tell(1);
    return std::move(m_result);
}

} // namespace

Result<SearchResult> search(const Project& project, const stages::Evaluation& now, const SearchRequest& request,
                            const std::function<bool(double)>& progress) {
    return Search(project, now, request, progress).run();
}

} // namespace core::advise
