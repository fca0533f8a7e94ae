// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/rules/findings.h"

#include "core/base/text.h"
#include "core/model/standard_sizes.h"
#include "core/base/words.h"

namespace core::rules {
namespace {
constexpr WordTable<Severity, 3> severityWords{{{Severity::Blocker, "blocker"}, {Severity::Caution, "caution"}, {Severity::Note, "note"}}};
constexpr WordTable<Station, 6> stationWords{{{Station::Brief, "Brief"}, {Station::Fit, "Fit"}, {Station::Air, "Air"},
    {Station::Make, "Make"}, {Station::Bench, "Bench"}, {Station::Verdict, "Verdict"}}};

template <class T> bool contains(const std::vector<T>& items, const T& item) {
    return std::find(items.begin(), items.end(), item) != items.end();
}

/// Collects findings about one build; one function a rule.
class Checks {
public:
    explicit Checks(const Build& build) : m_build(build) {}

    std::vector<Finding> run() {
        socketOfProcessor();
        socketOfCooler();
        formOfBoard();
        memoryKind();
        pictureOutput();
        plugs();
        power();
        sizeOfForm();
        return std::move(m_findings);
    }

private:
    void add(std::string rule, Severity severity, std::string subject, std::string text, std::vector<std::string> remedies) {
        m_findings.push_back({rule + ":" + subject, severity, Station::Brief, subject, std::move(text), rule, std::move(remedies)});
    }
    template <class S> const S* specOf(PartKind kind, const Placed** where = nullptr) const {
        const Placed* p = m_build.firstOf(kind);
        if (where)
            *where = p;
        return p ? &std::get<S>(p->part->spec) : nullptr;
    }
    void socketOfProcessor();
    void socketOfCooler();
    void formOfBoard();
    void memoryKind();
    void pictureOutput();
    void plugs();
    void power();
    void sizeOfForm();

    const Build& m_build;
    std::vector<Finding> m_findings;
};

void Checks::socketOfProcessor() {
    const Placed* at = nullptr;
    const auto* board = specOf<BoardSpec>(PartKind::Board);
    const auto* cpu = specOf<ProcessorSpec>(PartKind::Processor, &at);
    if (board && cpu && board->socket != cpu->socket)
        add("socket", Severity::Blocker, at->mount, at->part->name + " has socket " + cpu->socket + ", the board has " + board->socket,
            {"a processor for " + board->socket, "a board with " + cpu->socket});
}

void Checks::socketOfCooler() {
    const Placed* at = nullptr;
    const auto* cpu = specOf<ProcessorSpec>(PartKind::Processor);
    const auto* cooler = specOf<CoolerSpec>(PartKind::Cooler, &at);
    if (cpu && cooler && !cooler->sockets.empty() && !contains(cooler->sockets, cpu->socket))
        add("cooler-socket", Severity::Blocker, at->mount, at->part->name + " has no mounting kit for socket " + cpu->socket,
            {"a mounting kit for " + cpu->socket, "another cooler"});
    if (cpu && !cooler)
        add("cooler-missing", Severity::Blocker, m_build.firstOf(PartKind::Processor)->mount, "The processor has no cooler", {"place a cooler on its lid"});
}

void Checks::formOfBoard() {
    const Placed* at = nullptr;
    const auto* board = specOf<BoardSpec>(PartKind::Board, &at);
    const auto& forms = m_build.caseSpec().boardForms;
    if (board && !forms.empty() && !contains(forms, board->form))
        add("board-form", Severity::Blocker, at->mount, at->part->name + " is " + board->form + ", the case takes " + forms.front(),
            {"a board of form " + forms.front()});
}

void Checks::memoryKind() {
    const auto* board = specOf<BoardSpec>(PartKind::Board);
    for (const Placed& p : m_build.placed)
        if (board && p.part->kind == PartKind::Memory && std::get<MemorySpec>(p.part->spec).memoryKind != board->memoryKind)
            add("memory-kind", Severity::Blocker, p.mount, p.part->name + " does not match the board's " + board->memoryKind, {"memory of kind " + board->memoryKind});
}

void Checks::pictureOutput() {
    const Placed* at = nullptr;
    const auto* cpu = specOf<ProcessorSpec>(PartKind::Processor, &at);
    const auto* board = specOf<BoardSpec>(PartKind::Board);
    if (!cpu || m_build.firstOf(PartKind::Card))
        return;
    if (!cpu->graphics || (board && !board->graphicsOutput))
        add("picture", Severity::Blocker, at->mount, "No picture at first set-up: no card, and the processor shows none",
            {"a card", "a processor with graphics"});
}

void Checks::plugs() {
    for (const auto& row : connectors(m_build).rows) {
        if (row.needed <= row.given)
            continue;
        const int missing = row.needed - row.given;
        add("plug-count", Severity::Blocker, row.kind,
            std::to_string(row.needed) + " x " + row.kind + " needed, " + std::to_string(row.given) + " there: " + std::to_string(missing) + " short",
            {"an adapter that gives " + row.kind, "drop one of: " + row.takers.back()});
    }
}

void Checks::power() {
    const PowerBudget budget = powerBudget(m_build);
    if (budget.supplyW <= 0) {
        add("supply-missing", Severity::Blocker, "supply", "No power supply is placed", {"place a supply"});
        return;
    }
    const Placed* supply = m_build.firstOf(PartKind::PowerSupply);
    const std::string share = fixed(budget.share * 100, 0) + " %";
    const std::string text = "Parts draw " + fixed(budget.drawW, 0) + " W of " + fixed(budget.supplyW, 0) + " W, " + share;
    const std::vector<std::string> remedies{"a larger supply", "limit the power of the card or the processor"};
    if (budget.share > 1.0 || (budget.brick && budget.share > 0.9))
        add("power-share", Severity::Blocker, supply->mount, text, remedies);
    else if (budget.share > 0.8)
        add("power-share", Severity::Caution, supply->mount, text + ": 40 to 80 % is preferred", remedies);
    else if (budget.share < 0.4)
        add("power-share-low", Severity::Note, supply->mount, text + ": more supply than needed", {"a smaller supply"});
}

/// A part that names a form but has another outline: most often a size was mistyped. Longer supplies and cards exist.
void Checks::sizeOfForm() {
    for (const Placed& p : m_build.placed) {
        const StandardSize* standard = standardOf(*p.part);
        if (!standard || p.part->kind == PartKind::Fan || p.part->kind == PartKind::Card)
            continue;
        const double off = offStandardMm(*p.part, *standard);
        if (off > 2)
            add("form-size", Severity::Note, p.mount, p.part->name + " says it is " + std::string(standard->form) + ", but is " + fixed(off, 1) + " mm off its size (" + std::string(standard->source) + ")",
                {"check the size", "another form"});
    }
}

} // namespace

std::string_view severityWord(Severity severity) { return wordOf(severityWords, severity); }
std::string_view stationWord(Station station) { return wordOf(stationWords, station); }

PowerBudget powerBudget(const Build& build) {
    PowerBudget budget;
    double efficiency = 1;
    for (const Placed& p : build.placed) {
        if (p.part->kind == PartKind::PowerSupply) {
            const auto& spec = std::get<PowerSupplySpec>(p.part->spec);
            budget.supplyW += spec.ratedW;
            budget.brick = spec.brick;
            efficiency = spec.efficiency;
            continue;
        }
        if (p.powerW() > 0)
            budget.items.push_back({p.mount, p.part->name, p.part->kind, p.powerW()});
        budget.drawW += p.powerW();
    }
    std::stable_sort(budget.items.begin(), budget.items.end(), [](const auto& a, const auto& b) { return a.watts > b.watts; });
    budget.share = budget.supplyW > 0 ? budget.drawW / budget.supplyW : 0;
    budget.wallW = budget.drawW / efficiency;
    return budget;
}

Connectors connectors(const Build& build) {
    std::map<std::string, Connectors::Row> rows;
    const auto count = [&](const Part& part) {
        for (const auto& [kind, n] : part.gives) {
            rows[kind].given += n;
            rows[kind].givers.push_back(part.name);
        }
        for (const auto& [kind, n] : part.needs) {
            rows[kind].needed += n;
            rows[kind].takers.push_back(part.name);
        }
    };
    count(*build.casePart);
    for (const Placed& p : build.placed)
        count(*p.part);
    Connectors result;
    for (auto& [kind, row] : rows) {
        row.kind = kind;
        result.rows.push_back(std::move(row));
    }
    return result;
}

std::vector<Finding> compatibility(const Build& build) { return Checks(build).run(); }

std::vector<Finding> gapFindings(const fit::FitResult& fit) {
    std::vector<Finding> findings;
    for (const fit::Gap& gap : fit.gaps) {
        const std::string names = gap.between[0].text + " to " + gap.between[1].text;
        Finding f{std::string(gap.rule) + ":" + gap.id, Severity::Caution, Station::Fit, gap.id, "", std::string(gap.rule), {}};
        const bool plug = gap.between[0].face == fit::Face::KeepOut || gap.between[1].face == fit::Face::KeepOut;
        switch (gap.state) {
        case fit::GapState::Clash:
            f.severity = Severity::Blocker;
            if (plug)
                f.text = names + ": the plug has no room, " + fixed(-gap.nominal.mm(), 1) + " mm short";
            else if (gap.nominal < Length{})
                f.text = names + ": overlap " + fixed(-gap.nominal.mm(), 1) + " mm";
            else
                f.text = names + ": " + fixed(gap.nominal.mm(), 1) + " mm, needs " + fixed(gap.requiredMm, 1);
            f.remedies = {"a thinner part", "another mount", "measure the chain: it carries ±" + fixed(gap.worstBandMm, 1) + " mm"};
            break;
        case fit::GapState::Bulge:
            f.text = names + ": the panel is forced out " + fixed(-gap.nominal.mm(), 1) + " mm, it closes under stress";
            f.remedies = {"a thinner part", "a stiffer panel further out"};
            break;
        case fit::GapState::Rub:
            f.text = names + ": " + fixed(gap.nominal.mm(), 1) + " mm, needs " + fixed(gap.requiredMm, 1) + " (" + std::string(gap.reason) + ")";
            f.severity = Severity::Caution;
            f.remedies = {"a thinner part", "measure the chain"};
            break;
        case fit::GapState::Clear:
            if (gap.mark != Mark::Open)
                continue;
            f.severity = gap.marginMm() < 0 ? Severity::Caution : Severity::Note;
            f.text = names + " keeps " + fixed(gap.marginMm(), 1) + " mm at worst";
            f.remedies = {"measure the chain with a caliper"};
            break;
        }
        findings.push_back(std::move(f));
    }
    return findings;
}

std::vector<Finding> airFindings(const Build& build, const air::Prediction& prediction) {
    std::vector<Finding> findings;
    const auto add = [&](std::string rule, Severity severity, std::string subject, std::string text, std::vector<std::string> remedies) {
        findings.push_back({rule + ":" + subject, severity, Station::Air, subject, std::move(text), rule, std::move(remedies)});
    };
    for (const air::PartResult& part : prediction.parts) {
        if (part.throttled)
            add("throttles", Severity::Blocker, part.id, part.name + " is held at its limit of " + fixed(part.limitC, 0) + " °C and gives " +
                fixed(part.powerW, 0) + " W", {"more fan speed", "a larger cooler", "a lower power limit", "more open area before it"});
        else if (part.limitC > 0 && part.temperatureC > part.limitC)
            add("over-limit", Severity::Blocker, part.id, part.name + " reaches " + fixed(part.temperatureC, 0) + " °C, its maker allows " +
                fixed(part.limitC, 0), {"air across it", "a heatsink on it", "another place"});
        else if (part.limitC > 0 && part.temperatureC + part.bandK > part.limitC)
            add("near-limit", Severity::Note, part.id, part.name + " comes within ±" + fixed(part.bandK, 0) + " K of its limit of " +
                fixed(part.limitC, 0) + " °C", {"a measured run narrows the band"});
    }
    for (const air::FanResult& fan : prediction.fans)
        if (fan.share > 0.01 && fan.flowM3h < -0.5)
            add("fan-overblown", Severity::Caution, fan.id, fan.name + " is blown through backwards: others push harder", {"raise its speed", "turn it round"});
    for (const std::string& note : prediction.notes)
        add("air-assumption", Severity::Note, note, note, {});
    if (!prediction.converged)
        add("air-unsettled", Severity::Caution, build.revision, "The air solve did not settle; its figures are the last step", {"check openings and fans"});
    return findings;
}

void sortFindings(std::vector<Finding>& findings) {
    std::stable_sort(findings.begin(), findings.end(), [](const Finding& a, const Finding& b) {
        return std::pair(a.severity, a.station) < std::pair(b.severity, b.station);
    });
}

} // namespace core::rules
