// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "store/csv.h"

#include <QFileInfo>

#include <cstdio>

namespace cli {
namespace {

/// Writes the project back to where it came from, in the same form.
core::Result<void> saveBack(const core::Project& project, const std::string& path) {
    QString target = QString::fromStdString(path);
    if (target.endsWith(QLatin1String("project.json")))
        target = QFileInfo(target).absolutePath();
    return store::saveProject(project, target);
}

} // namespace

int importLog(const Options& options) {
    auto project = load(options);
    if (!project)
        return badInput(project.error());
    const auto revision = revisionOf(options, *project);
    if (!revision)
        return badInput(revision.error());
    if (!options.load.empty() && !project->load(options.load))
        return badInput({"--load", "load \"" + options.load + "\" is not there", "one of the project's loads"});
    auto text = store::readFile(options.log);
    if (!text)
        return badInput(text.error());
    const auto format = store::recogniseCsv(*text, options.log);
    if (!format)
        return badInput(format.error());
    auto samples = store::readCsv(*text, *format, options.log, options.readTheRest ? store::BadField::ReadTheRest : store::BadField::Refuse);
    if (!samples)
        return badInput(samples.error());
    store::nameSubjects(*project, *revision, *samples);
    core::Run run{.id = options.name.empty() ? QFileInfo(QString::fromStdString(options.log)).completeBaseName().toStdString() : options.name,
                  .revision = *revision, .load = options.load.empty() ? project->brief.load : options.load, .source = "file"};
    run.name = run.id;
    if (options.room < 1e8)
        run.roomC = options.room;
    if (project->run(run.id))
        return badInput({"--name", "a run \"" + run.id + "\" is there already", "another name"});
    const std::size_t rows = samples->timeS.size(), columns = samples->channels.size();
    run.samples = std::make_shared<core::Samples>(std::move(*samples));
    project->runs.push_back(std::move(run));
    if (auto wrong = core::validate(*project); !wrong.empty())
        return badInput(wrong.front());
    if (const auto done = saveBack(*project, options.project); !done)
        return badInput(done.error());
    if (options.json)
        print({{"run", project->runs.back().id}, {"rows", rows}, {"channels", columns}, {"revision", *revision}});
    else
        std::printf("run %s: %zu rows, %zu channels, revision %s\n", project->runs.back().id.c_str(), rows, columns, revision->c_str());
    return ExitFine;
}

int exportFolder(const Options& options) {
    const auto project = load(options);
    if (!project)
        return badInput(project.error());
    if (const auto done = store::saveProject(*project, QString::fromStdString(options.output)); !done)
        return badInput(done.error());
    if (options.json)
        print({{"written", options.output}, {"revisions", project->revisions.size()}, {"runs", project->runs.size()}});
    else
        std::printf("%s\n", options.output.c_str());
    return ExitFine;
}

} // namespace cli
