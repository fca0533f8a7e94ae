// SPDX-License-Identifier: GPL-3.0-or-later
#include "report/html_report.h"

#include "core/base/text.h"
#include "core/model/facts.h"
#include "core/verdict/compare.h"
#include "report/escape.h"

#include <limits>

namespace report {
namespace {

using namespace core;

std::string markHtml(Mark mark) {
    return "<span class=\"mark " + std::string(markWord(mark)) + "\">" + std::string(markWord(mark)) + "</span>";
}

std::string stateHtml(fit::GapState state) {
    return state == fit::GapState::Starved ? "short of air" : std::string(fit::gapStateWord(state));
}

constexpr const char* style =
    R"(body{font:14px/1.45 "Asap Condensed",system-ui,sans-serif;max-width:60rem;margin:2rem auto;padding:0 1rem;
color:#26282b;background:#fcf9f2}
h1{font-size:1.6rem}h2,h3{break-after:avoid}h2{font-size:1.15rem;border-bottom:1.5px solid #26282b;margin-top:2rem}
table{border-collapse:collapse;width:100%}
th,td{text-align:left;padding:.2rem .6rem .2rem 0;border-bottom:1px solid #d5ccba;vertical-align:top;
overflow-wrap:anywhere}th{overflow-wrap:normal}tr,svg{break-inside:avoid}td.word{overflow-wrap:normal}
td.n,th.n{text-align:right;font-variant-numeric:tabular-nums}
.mark{font-weight:600}.holds{color:#2f6638}.open{color:#855000}.crossed{color:#8f1d5b}.no.data{color:#55534c}
.sub{color:#55534c}svg{max-width:100%;height:auto}
@page{size:A4;margin:14mm}@media print{body{background:#fff;margin:0;max-width:none;font-size:11px}})";

class Page {
public:
    Page(const Project& project, const Reader& reader) : m_project(project), m_reader(reader), m_show(reader.show()) {}

    void head(std::string_view revision) {
        m_out = "<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>" + escape(m_project.name) +
                ", " + escape(revision) + "</title><style>" + style + "</style></head><body>\n<h1>" +
                escape(m_project.name) + "</h1>\n<p>" + escape(m_project.brief.purpose) +
                "</p>\n<p class=\"sub\">Revision " + escape(revision) + ", judged in a room of " +
                m_show.text(Quantity::Temperature, m_project.brief.roomC) + ", noise at " +
                fixed(m_project.brief.listenerM, 1) + " m.</p>\n";
    }
    void lineage(const stages::Evaluation& e) {
        heading("How it came about");
        const auto line = core::lineage(m_project, e.build.revision);
        m_out += "<ol>";
        for (const Revision* r : *line) {
            m_out += "<li><b>" + escape(r->id) + "</b> ";
            for (std::size_t i = 0; i < r->changes.size() && i < 6; ++i)
                m_out += (i ? "; " : "") + words(describe(r->changes[i], m_project, r->parent));
            if (r->changes.size() > 6)
                m_out += "; and " + std::to_string(r->changes.size() - 6) + " more";
            m_out += "</li>";
        }
        m_out += "</ol>\n";
    }
    /// So many revisions side by side stay on a page; more make further tables.
    void verdictTable(const std::vector<verdict::RevisionVerdict>& all) {
        constexpr std::size_t across = 5;
        heading("Targets");
        if (m_project.simulation)
            m_out += "<p><b>This project says of itself that it is a simulation: its runs are simulated.</b></p>\n";
        for (std::size_t from = 0; from < all.size(); from += across)
            verdictColumns({all.begin() + static_cast<std::ptrdiff_t>(from),
                            all.begin() + static_cast<std::ptrdiff_t>(std::min(all.size(), from + across))});
    }
    void verdictColumns(const std::vector<verdict::RevisionVerdict>& some) {
        m_out += "<table><thead><tr><th>target</th><th class=n>limit</th>";
        for (const auto& v : some)
            m_out += "<th>" + escape(v.id) + (v.validated ? " (validated)" : "") + "</th>";
        m_out += "</tr></thead>\n";
        for (std::size_t t = 0; t < m_project.brief.targets.size(); ++t) {
            const Target& target = m_project.brief.targets[t];
            const Quantity q = core::quantityOf(target.kind);
            m_out += "<tr><td>" + escape(target.name) + "</td><td class=n>" +
                     (isFloor(target.kind) ? "at least " : "at most ") + m_show.text(q, target.limit) + "</td>";
            for (const auto& v : some) {
                if (t >= v.targets.size()) {
                    m_out += "<td class=sub>" + escape(v.problem) + "</td>";
                    continue;
                }
                const auto& r = v.targets[t];
                if (r.basis == verdict::Basis::Missing)
                    m_out += "<td class=sub>missing: " + words(r.why) + "</td>";
                else
                    m_out += "<td>" + m_show.number(q, r.value) + " " + markHtml(r.state) + "<br><span class=sub>" +
                             words(verdict::basisText(r)) + "</span></td>";
            }
            m_out += "</tr>\n";
        }
        m_out += "</table>\n";
    }
    /// What the revision is made of, with what still has to be bought.
    void parts(const stages::Evaluation& e) {
        heading("Parts");
        m_out += "<table><thead><tr><th>place</th><th>part</th><th>kind</th><th class=n>size, " +
                 m_show.unit(Quantity::Length) + "</th><th class=n>power</th><th class=n>price</th></tr></thead>\n";
        const auto row = [&](const std::string& place, const std::string& name, const Part& part, double watts) {
            const auto mm = [&](std::size_t i) { return m_show.number(Quantity::Length, part.size[i].value.mm()); };
            m_out += "<tr><td>" + escape(place) + "</td><td>" + escape(name) + "</td><td>" +
                     std::string(kindWord(part.kind)) + "</td><td class=n>" +
                     (part.size[0].value > Length{} ? mm(0) + " × " + mm(1) + " × " + mm(2) : "") +
                     "</td><td class=n>" + (watts > 0 ? m_show.text(Quantity::Power, watts) : "") +
                     "</td><td class=n>" + (part.price > 0 ? m_show.text(Quantity::Money, part.price) : "") +
                     "</td></tr>\n";
        };
        row("case", e.build.casePart->name, *e.build.casePart, 0);
        for (const Placed& p : e.build.placed)
            row(p.mount, p.name, *p.part, p.powerW());
        for (const Joined& j : e.build.joined)
            row("lead", j.part->name, *j.part, 0);
        m_out += "</table>\n<p>Screws and inserts: ";
        for (std::size_t i = 0; i < e.make.shopping.size(); ++i)
            m_out +=
                (i ? ", " : "") + std::to_string(e.make.shopping[i].count) + " × " + escape(e.make.shopping[i].kind);
        m_out += e.make.shopping.empty() ? "none stated.</p>\n" : ".</p>\n";
    }
    void before(const verdict::RevisionVerdict& v) {
        if (v.before.empty()) {
            m_out += "<p><b>Nothing stands in the way: " + escape(v.id) +
                     (v.validated ? " is validated." : " can be validated.") + "</b></p>\n";
            return;
        }
        m_out += "<p>Before " + escape(v.id) + " can be validated:</p><ul>";
        for (const auto& [text, mark] : v.before)
            m_out += "<li>" + words(text) + "</li>";
        m_out += "</ul>\n";
    }
    void againstBaseline(const stages::Evaluation& e, const stages::Evaluation& baseline) {
        m_out += "<h3>" + escape(e.build.revision) + " against the baseline " + escape(baseline.build.revision) +
                 "</h3><table>";
        for (const auto& d : verdict::against(e, baseline))
            m_out += "<tr><td>" + words(d.name) + "</td><td>" + words(verdict::textOf(d)) + "</td></tr>\n";
        m_out += "</table>\n";
    }
    void findings(const stages::Evaluation& e) {
        heading("Findings");
        if (e.findings.empty())
            m_out += "<p>None.</p>";
        m_out += "<ul>";
        for (const auto& f : e.findings)
            m_out += "<li><b>" + std::string(rules::severityWord(f.severity)) + "</b>, " +
                     std::string(rules::stationWord(f.station)) + ": " + words(f.text) + "</li>";
        m_out += "</ul>\n";
    }
    void gaps(const stages::Evaluation& e) {
        heading("Gaps");
        m_out += "<table><thead><tr><th>gap</th><th class=n>nominal</th><th class=n>needs</th><th class=n>left at "
                 "worst</th><th class=n>chance</th><th>state</th><th>how it adds up</th></tr></thead>\n";
        for (const fit::Gap& gap : e.fit.gaps) {
            std::string chain;
            for (const auto& item : gap.chain)
                chain += (chain.empty() ? "" : "; ") +
                         m_show.signedNumber(Quantity::Length, (item.sign > 0 ? 1 : -1) * item.factor * item.valueMm) +
                         " " + item.label;
            m_out += "<tr><td>" + escape(gap.between[0].text + " to " + gap.between[1].text) + "</td><td class=n>" +
                     m_show.text(Quantity::Length, gap.nominal.mm()) + " ±" +
                     m_show.number(Quantity::Length, gap.worstBandMm) + "</td><td class=n>" +
                     m_show.number(Quantity::Length, gap.requiredMm) + "</td><td class=n>" +
                     m_show.signedNumber(Quantity::Length, gap.marginMm()) + "</td><td class=n>" +
                     m_show.number(Quantity::Share, gap.chance) + " %</td><td class=word>" + stateHtml(gap.state) +
                     "</td><td class=sub>" + escape(chain) + "</td></tr>\n";
        }
        m_out += "</table>\n";
    }
    void air(const stages::Evaluation& e) {
        heading("Air, temperature and noise, predicted");
        m_out += "<table><thead><tr><th>part</th><th class=n>settled</th><th class=n>limit</th><th "
                 "class=n>power</th><th class=n>clock</th></tr></thead>\n";
        for (const auto& p : e.air.parts)
            m_out += "<tr><td>" + escape(p.name) + "</td><td class=n>" +
                     m_show.text(Quantity::Temperature, p.temperatureC) + " ±" +
                     m_show.number(Quantity::TemperatureDifference, p.bandK) + "</td><td class=n>" +
                     (p.limitC > 0 ? m_show.text(Quantity::Temperature, p.limitC) : "") + "</td><td class=n>" +
                     m_show.text(Quantity::Power, p.powerW) + "</td><td class=n>" +
                     (p.clockMhz > 0 ? m_show.text(Quantity::Clock, p.clockMhz) : "") + "</td></tr>\n";
        m_out += "</table>\n<table><thead><tr><th>fan</th><th class=n>speed</th><th class=n>flow</th></tr></thead>\n";
        for (const auto& f : e.air.fans)
            m_out += "<tr><td>" + escape(f.name) + "</td><td class=n>" + m_show.text(Quantity::Speed, f.rpm) +
                     "</td><td class=n>" + m_show.text(Quantity::Flow, f.flowM3h) + "</td></tr>\n";
        m_out += "</table>\n<p>Noise " + m_show.text(Quantity::Level, e.noise.totalDba) + ", pressure over the room " +
                 m_show.text(Quantity::Pressure, e.air.balance.pressurePa) + ".</p>\n";
    }
    /// Temperatures of a run over time, as a drawing of its own.
    void trace(const stages::Evaluation& e, const Run& run) {
        constexpr double w = 900, h = 240, left = 44, right = 150, top = 12, bottom = 28;
        constexpr std::size_t mostPoints = 400;
        constexpr std::array<const char*, 4> dashes{"", "7 3", "2 3", "9 3 2 3"};
        const auto& t = run.samples->timeS;
        double low = std::numeric_limits<double>::infinity(), high = -low;
        std::vector<const Channel*> shown;
        for (const Channel& c : run.samples->channels)
            if ((c.kind == ChannelKind::Temperature || c.kind == ChannelKind::Ambient) &&
                shown.size() < dashes.size()) {
                shown.push_back(&c);
                for (const double v : c.values)
                    if (std::isfinite(v)) {
                        low = std::min(low, v);
                        high = std::max(high, v);
                    }
            }
        if (shown.empty() || t.size() < 2 || !(high > low) || !(t.back() > t.front()))
            return;
        const auto x = [&](double s) { return left + (w - left - right) * (s - t.front()) / (t.back() - t.front()); };
        const auto y = [&](double v) { return h - bottom - (h - top - bottom) * (v - low) / (high - low); };
        m_out += "<svg viewBox=\"0 0 900 240\" role=\"img\" aria-label=\"Temperatures of " + escape(run.name) +
                 "\" font-size=\"12\">";
        m_out += "<path d=\"M" + fixed(left, 1) + " " + fixed(top, 1) + "V" + fixed(h - bottom, 1) + "H" +
                 fixed(w - right, 1) + "\" fill=\"none\" stroke=\"#26282b\"/>";
        for (const double v : {low, high})
            m_out += "<text x=\"" + fixed(left - 4, 1) + "\" y=\"" + fixed(y(v) + 4, 1) + "\" text-anchor=\"end\">" +
                     m_show.number(Quantity::Temperature, v) + "</text>";
        m_out += "<text x=\"2\" y=\"" + fixed((top + h - bottom) / 2, 1) + "\">" + m_show.unit(Quantity::Temperature) +
                 "</text><text x=\"" + fixed(left, 1) + "\" y=\"" + fixed(h - 8, 1) + "\">0</text><text x=\"" +
                 fixed(w - right, 1) + "\" y=\"" + fixed(h - 8, 1) + "\" text-anchor=\"end\">" +
                 fixed((t.back() - t.front()) / 60, 0) + " min</text>";
        double labelY = -1e9;
        std::vector<std::pair<double, std::size_t>> ends;
        for (std::size_t i = 0; i < shown.size(); ++i)
            ends.emplace_back(y(std::isfinite(shown[i]->values.back()) ? shown[i]->values.back() : high), i);
        std::sort(ends.begin(), ends.end());
        for (const auto& [at, i] : ends) {
            const Channel& c = *shown[i];
            const std::size_t step = std::max<std::size_t>(1, t.size() / mostPoints);
            std::string points;
            for (std::size_t k = 0; k < t.size(); k += step)
                if (std::isfinite(c.values[k]))
                    points += fixed(x(t[k]), 1) + "," + fixed(y(c.values[k]), 1) + " ";
            m_out += "<polyline fill=\"none\" stroke=\"#26282b\" stroke-width=\"1.2\" stroke-dasharray=\"" +
                     std::string(dashes[i]) + "\" points=\"" + points + "\"/>";
            labelY = std::max(at + 4, labelY + 14);
            m_out += "<text x=\"" + fixed(w - right + 6, 1) + "\" y=\"" + fixed(labelY, 1) + "\">" +
                     escape(channelTitle(e, c.kind, c.subject, c.name)) + "</text>";
        }
        m_out += "</svg>\n";
    }
    /// The part a channel belongs to by its name; else the heading of the log.
    static std::string channelTitle(const stages::Evaluation& e, ChannelKind kind, const std::string& subject,
                                    const std::string& name) {
        const Placed* p = e.build.at(subject);
        if (kind == ChannelKind::Ambient)
            return "Room";
        if (!p)
            return name;
        return kind == ChannelKind::Temperature ? p->name : p->name + ", " + std::string(channelKindWord(kind));
    }
    void runs(const stages::Evaluation& e, const verdict::RunAnalyses& analyses) {
        heading("Runs of " + e.build.revision);
        bool any = false;
        for (const Run& run : m_project.runs) {
            const auto it = analyses.find(run.id);
            if (run.revision != e.build.revision || it == analyses.end())
                continue;
            any = true;
            m_out += "<h3>" + escape(run.name) + (run.simulated ? ", simulated" : "") + "</h3>";
            if (run.simulated && !m_project.simulation)
                m_out += "<p><b>Readings of a simulated device: they prove nothing.</b></p>";
            if (!it->second->unsettled.empty())
                m_out += "<p><b>" + words(it->second->unsettled) + "</b></p>";
            m_out += "<table><thead><tr><th>channel</th><th>state</th><th class=n>settled</th><th class=n>mean</th><th "
                     "class=n>95th percentile</th><th>why</th></tr></thead>\n";
            for (const auto& c : it->second->channels)
                m_out += "<tr><td>" + escape(channelTitle(e, c.kind, c.subject, c.name)) +
                         (c.assumed ? " (assumed)" : "") + "</td><td class=word>" +
                         std::string(bench::settleWord(c.state)) + "</td><td class=n>" +
                         (std::isfinite(c.settled) ? reading(c, c.settled) + "<br><span class=sub>" +
                                                         reading(c, c.low) + " to " + reading(c, c.high) + "</span>"
                                                   : "") +
                         "</td><td class=n>" + reading(c, c.mean) + "</td><td class=n>" + reading(c, c.p95) +
                         "</td><td class=sub>" + words(c.why) + "</td></tr>\n";
            m_out += "</table>\n";
            trace(e, run);
        }
        if (!any)
            m_out += "<p>None logged yet.</p>\n";
    }
    void making(const stages::Evaluation& e) {
        heading("Making and assembly");
        m_out += "<p>" + fixed(e.make.hours, 1) + " h of printing, " + fixed(e.make.massG, 0) + " g, " +
                 std::to_string(e.make.screws) + " screws, about " + fixed(e.make.minutes, 0) +
                 " min to put together.</p><ol>";
        for (const auto& s : e.make.steps)
            m_out += "<li>" + escape(s.text) + ", " + words(s.tool) + ", " + std::to_string(s.screws) +
                     " screws. To reach it again: " + fixed(s.undoMinutes, 0) + " min, " +
                     std::to_string(s.undoScrews) + " screws." +
                     (s.safety.empty() ? "" : " <b>" + words(s.safety) + "</b>") + "</li>";
        m_out += "</ol>\n";
    }
    void pictures(const std::vector<Picture>& list) {
        for (const Picture& p : list) {
            heading(p.title);
            m_out += p.svg + "\n";
        }
    }
    std::string finish() {
        return m_out + "<p class=sub>" +
               words(say("Predictions: each temperature with the band that holds 19 of 20, noise to ±{}. "
                         "Mains work to local code, by a qualified person.",
                         say("{} dB", figure::number(5)))) +
               "</p></body></html>\n";
    }

private:
    /// A value of a channel in the reader's unit.
    [[nodiscard]] std::string reading(const bench::ChannelResult& c, double value) const {
        switch (c.kind) {
        case ChannelKind::Temperature:
        case ChannelKind::Ambient:
            return m_show.text(Quantity::Temperature, value);
        case ChannelKind::Rpm:
            return m_show.text(Quantity::Speed, value);
        case ChannelKind::Clock:
            return m_show.text(Quantity::Clock, value);
        case ChannelKind::Power:
            return m_show.text(Quantity::Power, value);
        case ChannelKind::Level:
            return m_show.text(Quantity::Level, value);
        case ChannelKind::Other:
            break;
        }
        return fixed(value, 1) + " " + escape(c.unit);
    }
    [[nodiscard]] std::string words(const Sentence& s) const { return escape(m_reader.text(s)); }
    void heading(const std::string& text) { m_out += "<h2>" + escape(text) + "</h2>\n"; }
    const Project& m_project;
    const Reader& m_reader;
    const Show& m_show;
    std::string m_out;
};

} // namespace

std::string html(const Project& project, const std::vector<const stages::Evaluation*>& evaluations,
                 const verdict::RunAnalyses& runs, std::string_view revision, const Reader& reader,
                 const std::vector<Picture>& pictures) {
    Page page(project, reader);
    page.head(revision);
    std::vector<verdict::RevisionVerdict> all;
    const stages::Evaluation* chosen = nullptr;
    for (const stages::Evaluation* e : evaluations) {
        all.push_back(verdict::judge(project, *e, runs));
        if (e->build.revision == revision)
            chosen = e;
    }
    if (chosen)
        page.lineage(*chosen);
    page.verdictTable(all);
    if (chosen) {
        for (const auto& v : all)
            if (v.id == revision)
                page.before(v);
        for (const stages::Evaluation* e : evaluations)
            if (e->build.revision == project.baseline && e->build.revision != revision)
                page.againstBaseline(*chosen, *e);
        page.pictures(pictures);
        page.parts(*chosen);
        page.findings(*chosen);
        page.gaps(*chosen);
        page.air(*chosen);
        page.runs(*chosen, runs);
        page.making(*chosen);
    }
    return page.finish();
}

} // namespace report
