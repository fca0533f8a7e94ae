// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "core/base/text.h"

#include <cerrno>
#include <cmath>
#include <cstdio>
#include <cstring>

namespace cli {

void note(const std::string& text) {
    const std::string line = "mini-draft-cli: " + core::printable(text) + "\n";
    std::fwrite(line.data(), 1, line.size(), stderr);
}

int badInput(const core::Problem& problem) {
    note(problem.text());
    return ExitBadInput;
}

void put(const std::string& text) {
    const std::string clean = core::printable(text);
    std::fwrite(clean.data(), 1, clean.size(), stdout);
}

void putFormatted(fmt::string_view format, fmt::printf_args arguments) { put(fmt::vsprintf(format, arguments)); }

int finished(int code) {
    errno = 0;
    if (std::fflush(stdout) == 0 && !std::ferror(stdout))
        return code;
    note(std::string("standard output cannot be written: ") + std::strerror(errno ? errno : ENOSPC) +
         " (make room where it goes to)");
    return ExitBadInput;
}

core::Result<core::Project> load(const Options& options) {
    auto loaded = store::openProject(QString::fromStdString(options.project));
    if (!loaded)
        return tl::make_unexpected(loaded.error());
    for (const core::Problem& warning : loaded->warnings)
        note("note: " + warning.text());
    return std::move(loaded->project);
}

core::Result<std::shared_ptr<const core::Project>> loadToLook(const Options& options) {
    auto project = load(options);
    if (!project)
        return tl::make_unexpected(project.error());
    return std::make_shared<const core::Project>(std::move(*project));
}

core::Result<std::string> revisionOf(const Options& options, const core::Project& project) {
    if (!options.revision.empty()) {
        if (!project.revision(options.revision))
            return core::problem("--revision", "revision \"" + options.revision + "\" is not there",
                                 "one of the project's revisions");
        return options.revision;
    }
    if (project.revisions.empty())
        return core::problem(options.project, "the project has no revision",
                             "add one: its first change chooses the case");
    return project.revisions.back().id;
}

core::Result<Asked> look(const Options& options) {
    auto project = loadToLook(options);
    if (!project)
        return tl::make_unexpected(project.error());
    auto revision = revisionOf(options, **project);
    if (!revision)
        return tl::make_unexpected(revision.error());
    if (!options.load.empty() && !(*project)->load(options.load))
        return core::problem("--load", "load \"" + options.load + "\" is not there", "one of the project's loads");
    Asked asked{results::Results(*project).look(*revision, options.load).value, *revision};
    if (!asked.look->evaluation)
        return tl::make_unexpected(asked.look->why);
    return asked;
}

core::Reader readerOf(const Options& options, const core::Project& project) {
    const auto asked = [&](const char* unit) {
        return std::find(options.units.begin(), options.units.end(), unit) != options.units.end();
    };
    return core::Reader(core::Show(
        {.fahrenheit = asked("f"), .cfm = asked("cfm"), .inch = asked("inch"), .currency = project.currency}));
}

store::Json finite(double value) { return std::isfinite(value) ? store::Json(value) : store::Json(); }

void print(const store::Json& json) { put(json.dump(2, ' ', false, store::Json::error_handler_t::replace) + "\n"); }

store::Json findingsJson(const std::vector<core::rules::Finding>& findings, const core::Reader& reader,
                         const std::function<bool(const core::rules::Finding&)>& counts) {
    store::Json all = store::Json::array();
    for (const auto& f : findings)
        if (counts(f))
            all.push_back({{"id", f.id},
                           {"severity", std::string(core::rules::severityWord(f.severity))},
                           {"station", std::string(core::rules::stationWord(f.station))},
                           {"subject", f.subject},
                           {"about", core::textOf(f.about)},
                           {"text", reader.text(f.text)},
                           {"rule", f.rule},
                           {"remedies", reader.texts(f.remedies)}});
    return all;
}

void sayFindings(const store::Json& findings) {
    for (const auto& f : findings)
        say("  %s: %s\n", f["severity"].get<std::string>().c_str(), f["text"].get<std::string>().c_str());
}

} // namespace cli
