// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include "store/csv.h"
#include "store/csv_fields.h"
#include "store/log_about.h"
#include "store/run_files.h"
#include "store/subjects.h"

#include <QFileInfo>

namespace cli {

int importLog(const Options& options) {
    // Locked before it is read: what another writer adds in between would be lost with this save.
    const QString path = QString::fromStdString(options.project);
    std::unique_ptr<store::ProjectLock> lock;
    if (QFileInfo::exists(path)) {
        auto taken = store::ProjectLock::take(path, "mini-draft-cli", 30'000);
        if (!taken)
            return badInput(taken.error());
        lock = std::move(*taken);
    }
    auto project = load(options);
    if (!project)
        return badInput(project.error());
    const auto revision = revisionOf(options, *project);
    if (!revision)
        return badInput(revision.error());
    if (!options.load.empty() && !project->load(options.load))
        return badInput({"--load", "load \"" + options.load + "\" is not there", "one of the project's loads"});
    const auto bytes = store::readFile(options.log);
    if (!bytes)
        return badInput(bytes.error());
    const auto text = std::make_unique<std::string>(store::decodeText(*bytes));
    const auto format = store::recogniseCsv(*text, options.log);
    if (!format)
        return badInput(format.error());
    auto samples = store::readCsv(*text, *format, options.log,
                                  options.readTheRest ? store::BadField::ReadTheRest : store::BadField::Refuse);
    if (!samples)
        return badInput(samples.error());
    const auto declared = store::readLogAbout(options.log);
    if (declared)
        store::applyAbout(*declared, *samples);
    for (const std::string& said : options.subjects)
        if (const auto done = store::assignSubject(*project, *revision, said, *samples); !done)
            return badInput(done.error());
    for (const store::Ambiguous& a :
         store::assignSubjects(*project, *revision, *samples, declared ? store::Guess::Never : store::Guess::Assume))
        return badInput({options.log, a.text(), "--subject \"" + a.columns.front() + "=MOUNT\" for the one it is"});
    for (const core::Channel& c : samples->channels)
        if (c.assumed)
            note("note: " + c.name + " is assumed to be of " + c.subject + " and proves nothing; --subject \"" +
                 c.name + "=" + c.subject + "\" says that it is");
    core::Run run{.id = options.name.empty()
                            ? QFileInfo(QString::fromStdString(options.log)).completeBaseName().toStdString()
                            : options.name,
                  .revision = *revision,
                  .load = options.load.empty() ? project->brief.load : options.load,
                  .source = "file"};
    run.name = run.id;
    run.simulated = format->simulated || (declared && declared->simulated);
    if (options.room < 1e8)
        run.roomC = options.room;
    if (project->run(run.id))
        return badInput({"--name", "a run \"" + run.id + "\" is there already", "another name"});
    const std::size_t rows = samples->timeS.size(), columns = samples->channels.size();
    run.original =
        store::originalFrom(QFileInfo(QString::fromStdString(options.log)).fileName().toStdString(), *bytes, *samples);
    run.samples = std::make_shared<core::Samples>(std::move(*samples));
    project->runs.push_back(std::move(run));
    if (auto wrong = core::validate(*project); !wrong.empty())
        return badInput(wrong.front());
    if (const auto done = store::saveProject(*project, path, {.lock = lock.get(), .openedFrom = path}); !done)
        return badInput(done.error());
    if (options.json)
        print({{"run", project->runs.back().id}, {"rows", rows}, {"channels", columns}, {"revision", *revision}});
    else
        say("run %s: %zu rows, %zu channels, revision %s\n", project->runs.back().id.c_str(), rows, columns,
            revision->c_str());
    return ExitFine;
}

int exportFolder(const Options& options) {
    const auto project = load(options);
    if (!project)
        return badInput(project.error());
    if (const auto done =
            store::saveProject(*project, QString::fromStdString(options.output),
                               {.foreign = options.force ? store::Foreign::Replace : store::Foreign::Refuse});
        !done)
        return badInput(done.error());
    if (options.json)
        print({{"written", options.output}, {"revisions", project->revisions.size()}, {"runs", project->runs.size()}});
    else
        say("%s\n", options.output.c_str());
    return ExitFine;
}

} // namespace cli
