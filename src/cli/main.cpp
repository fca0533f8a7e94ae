// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"

#include <CLI/CLI.hpp>
#include <QCoreApplication>

#include <clocale>
#include <cstdio>
#include <exception>

namespace {
int run(int argc, char** argv) {
    QCoreApplication app(argc, argv);
    std::setlocale(LC_NUMERIC, "C"); // options are read with a point everywhere
    cli::Options o;
    CLI::App cli("Fit, air, bench and verdict of a compact computer, without a screen.\nExit: 0 fine, 1 blockers or "
                 "targets missed, 2 bad input.",
                 "mini-draft-cli");
    cli.set_version_flag("--version", "mini-draft-cli 0.1.0");
    cli.require_subcommand(1);
    int (*command)(const cli::Options&) = nullptr;
    const auto add = [&](const char* name, const char* help, int (*function)(const cli::Options&)) {
        CLI::App* sub = cli.add_subcommand(name, help);
        sub->callback([&command, function] { command = function; });
        sub->add_flag("--json", o.json, "machine-readable answer");
        return sub;
    };
    const auto withProject = [&](CLI::App* sub) {
        sub->add_option("project", o.project, "project file (.minidraft) or interchange folder")->required();
        return sub;
    };
    const auto withForce = [&](CLI::App* sub, const char* help) { sub->add_flag("--force", o.force, help); };
    const auto withUnits = [&](CLI::App* sub) {
        sub->add_option("--units", o.units, "what is said in inch, f (°F), cfm; mm, °C and m³/h unless named")
            ->delimiter(',')
            ->check(CLI::IsMember({"inch", "f", "cfm", "mm", "c", "m3h"}));
        return sub;
    };
    const auto withRevision = [&](CLI::App* sub) {
        sub->add_option("-r,--revision", o.revision, "revision (default: the last one)");
        return sub;
    };
    withUnits(withRevision(withProject(add("fit", "gaps with their chains, answers, compatibility, power", cli::fit))))
        ->add_option("--load", o.load, "load of the project");
    auto* air =
        withUnits(withRevision(withProject(add("air", "flows, temperatures, clocks and noise, predicted", cli::air))));
    air->add_option("--load", o.load, "load of the project");
    air->add_flag("--network", o.network, "with zones and branches, as solved");
    air->add_option("--transient", o.transientMinutes, "with the warm-up from idle, so many minutes")
        ->check(CLI::Range(0.1, 600.0));
    air->add_flag("--schools", o.schools, "with the questions on which builders disagree, worked out for this build");
    air->add_flag("--calibrate", o.calibrate, "with what the logged runs say about the model");
    auto* explore = air->add_flag("--explore", o.explore, "with the quietest and coolest ways of what is left open");
    air->add_option("--open", o.open, "what --explore leaves open (default: all of it)")
        ->delimiter(',')
        ->check(CLI::IsMember({"fans", "screens", "panels", "places", "lying"}))
        ->needs(explore);
    air->add_option("--keep", o.keep, "places and openings that --explore leaves as they are")
        ->delimiter(',')
        ->needs(explore);
    air->add_option("--curves", o.curves, "file to write fan curves of the way that --explore chooses, as CSV")
        ->needs(explore);
    withForce(air, "overwrite a file of fan curves that is there");
    air->add_option("--seed", o.seed, "of --explore")->check(CLI::NonNegativeNumber);
    air->add_option("--most", o.most, "so many ways are looked at by --explore")->check(CLI::Range(1L, 1000000L));
    withUnits(withRevision(withProject(add("bench", "settled values of logged runs", cli::bench))))
        ->add_option("--run", o.run, "one run");
    withUnits(withRevision(withProject(add("verdict", "targets against measured or predicted values", cli::verdict))));
    auto* report = withUnits(withRevision(withProject(add("report", "one self-contained HTML page", cli::report))));
    report->add_option("-o,--output", o.output, "file to write");
    withForce(report, "overwrite a file that is there");
    auto* import = withRevision(withProject(add("import", "attach a CSV log to a revision", cli::importLog)));
    import->add_option("log", o.log, "CSV log")->required();
    import->add_option("--name", o.name, "id of the run (default: the file's name)");
    import->add_option("--subject", o.subjects, "COLUMN=MOUNT: whose a column is; may be repeated");
    import->add_option("--load", o.load, "load of the project (default: that of the brief)");
    import->add_option("--room", o.room, "room temperature in °C, when it was not logged");
    import->add_flag("--read-the-rest", o.readTheRest, "take fields that are not numbers as missing");
    auto* exporting =
        withProject(add("export", "write an interchange folder, or a .minidraft file", cli::exportFolder));
    exporting->add_option("-o,--output", o.output, "folder or file to write")->required();
    withForce(exporting, "replace another project that stands there");
    auto* sections =
        withRevision(withProject(add("sections", "front, side and top section as DXF or SVG, at 1:1", cli::sections)));
    sections->add_option("-o,--output", o.output, "file to write, .dxf or .svg")->required();
    withForce(sections, "overwrite a file that is there");
    sections->add_flag("--fit-page", o.fitPage, "fitted to the sheet (A4 unless said) instead of true size");
    sections->add_option("--sheet", o.sheet, "own (as large as the drawing), A4 or A3, lying");
    sections->add_option("--scale", o.scale, "1 is true size, 0.5 half of it");
    auto* capture = add("capture", "log live readings to a CSV file", cli::capture);
    capture->add_option("-o,--output", o.output, "CSV file to write")->required();
    withForce(capture, "overwrite a file that is there");
    capture->add_option("--seconds", o.seconds, "stop after so many seconds of readings");
    capture->add_option("source", o.source, "program that writes the line protocol, or socket:NAME")->required();
    capture->add_option("arguments", o.sourceArguments, "arguments of that program, after --");
    auto* start = add("start", "begin a project with a usual arrangement; without one, list them", cli::start);
    start->add_option("arrangement", o.what, "e.g. tall");
    start->add_option("-o,--output", o.output, "file or folder to write");
    start->add_option("--size", o.sizes, "KEY=MM: a size you measured; may be repeated");
    start->add_option("--way", o.way, "another way to use the same box");
    start->add_option("--name", o.name, "of the project");
    start->add_option("--parts", o.parts, "parts file with standard sizes: adds the parts it is meant for");
    withForce(start, "replace another project that stands there");
    CLI::App* schema =
        cli.add_subcommand("schema", "the JSON Schema of a project or a parts file, or all fields as tables");
    schema->callback([&command] { command = cli::schema; });
    schema->add_option("what", o.what, "project, shelf or tables")
        ->required()
        ->check(CLI::IsMember({"project", "shelf", "tables"}));
    try {
        cli.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return cli::finished(cli.exit(e) == 0 ? ExitFine : ExitBadInput);
    }
    return cli::finished(command(o));
}
} // namespace

int main(int argc, char** argv) {
    try {
        return run(argc, argv);
    } catch (const std::exception& e) { // no memory is left, most likely: said, and no figure is given
        std::fprintf(stderr, "mini-draft-cli: stopped: %s\n", e.what());
        return ExitBadInput;
    }
}
