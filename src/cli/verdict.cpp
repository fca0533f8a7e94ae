// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "core/base/text.h"
#include "core/verdict/compare.h"
#include "report/html_report.h"

namespace cli {
namespace {
using core::verdict::RevisionVerdict;

std::vector<std::string> texts(const std::vector<core::verdict::Reason>& reasons, const core::Reader& reader) {
    std::vector<std::string> all;
    all.reserve(reasons.size());
    for (const auto& reason : reasons)
        all.push_back(reader.text(reason.text));
    return all;
}

store::Json verdictJson(const RevisionVerdict& v, const core::Reader& reader) {
    using store::Json;
    Json targets = Json::array();
    for (const auto& t : v.targets)
        targets.push_back({{"id", t.id},
                           {"name", t.name},
                           {"unit", std::string(core::targetUnit(t.kind))},
                           {"value", finite(t.value)},
                           {"low", finite(t.low)},
                           {"high", finite(t.high)},
                           {"limit", t.limit},
                           {"headroom", finite(t.headroom)},
                           {"state", std::string(core::markWord(t.state))},
                           {"basis", std::string(core::verdict::basisWord(t.basis))},
                           {"run", t.run},
                           {"runs", t.runs},
                           {"simulated", t.simulated},
                           {"why", reader.text(t.why)}});
    return {{"id", v.id},
            {"targets", targets},
            {"proven", v.proven},
            {"blockers", v.blockers},
            {"can_be_validated", v.canBeValidated},
            {"validated", v.validated},
            {"before", texts(v.before, reader)},
            {"problem", v.problem}};
}
} // namespace

int verdict(const Options& options) {
    const auto loaded = loadToLook(options);
    if (!loaded)
        return badInput(loaded.error());
    const core::Project* project = loaded->get();
    results::Results results(*loaded);
    const auto chosen = revisionOf(options, *project);
    if (!chosen)
        return badInput(chosen.error());
    const core::Reader reader = readerOf(options, *project);
    const auto& baseline = results.waitedFor(project->baseline).evaluation;
    store::Json revisions = store::Json::array();
    bool met = false;
    for (const core::Revision& r : project->revisions) {
        if (!options.revision.empty() && r.id != options.revision)
            continue;
        store::Json differences = store::Json::object();
        std::string words;
        store::Json findings = store::Json::array();
        const results::Look& look = results.waitedFor(r.id);
        const RevisionVerdict& v = look.verdict;
        const auto& e = look.evaluation;
        if (e)
            findings = findingsJson(e->findings, reader,
                                    [](const auto& f) { return f.severity == core::rules::Severity::Blocker; });
        if (r.id == *chosen) {
            met = v.blockers == 0 && v.problem.empty();
            for (const auto& t : v.targets)
                met = met && t.state != core::Mark::Crossed && t.basis != core::verdict::Basis::Missing;
        }
        revisions.push_back(verdictJson(v, reader));
        revisions.back()["findings"] = findings;
        if (e && baseline && r.id != project->baseline)
            for (const auto& d : core::verdict::against(*e, *baseline)) {
                differences[d.id] = {{"now", d.now},
                                     {"baseline", d.then},
                                     {"by", d.by()},
                                     {"percent", d.then != 0 ? store::Json(d.percent()) : store::Json()}};
                words +=
                    (words.empty() ? "" : "; ") + reader.text(core::say("{} {}", d.name, core::verdict::textOf(d)));
            }
        revisions.back()["against_baseline"] = differences;
        if (options.json)
            continue;
        say("%s: %d of %zu targets proven, %d blockers%s\n", v.id.c_str(), v.proven, v.targets.size(), v.blockers,
            v.validated ? ", validated" : "");
        for (const auto& t : v.targets)
            say("  %-8s %-26s %s\n", std::string(core::markWord(t.state)), t.name,
                reader.text(t.basis == core::verdict::Basis::Missing
                                ? core::say("missing: {}", t.why)
                                : core::say("{}, {}", core::figure::usual(core::quantityOf(t.kind), t.value),
                                            core::verdict::basisText(t))));
        if (!v.problem.empty())
            say("  does not resolve: %s\n", v.problem.c_str());
        if (!words.empty())
            say("  against %s: %s\n", project->baseline.c_str(), words.c_str());
        sayFindings(findings);
    }
    if (options.json)
        print({{"simulation", project->simulation}, {"revisions", revisions}});
    return met ? ExitFine : ExitNotMet;
}

int report(const Options& options) {
    const auto loaded = loadToLook(options);
    if (!loaded)
        return badInput(loaded.error());
    const core::Project* project = loaded->get();
    results::Results results(*loaded);
    const auto revision = revisionOf(options, *project);
    if (!revision)
        return badInput(revision.error());
    const std::string page =
        report::html(*project, results.evaluations(), results.analyses(), *revision, readerOf(options, *project));
    const QString path = options.output.empty() ? QString::fromStdString(core::fileNameFrom(*revision) + ".html")
                                                : QString::fromStdString(options.output);
    if (const auto done = store::writeWhole(path, QByteArray::fromStdString(page), overwrite(options)); !done)
        return badInput(done.error());
    if (options.json)
        print({{"file", path.toStdString()}, {"bytes", page.size()}, {"revision", *revision}});
    else
        say("%s\n", path.toStdString().c_str());
    return ExitFine;
}

} // namespace cli
