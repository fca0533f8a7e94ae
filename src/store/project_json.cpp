// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/project_json.h"

#include "core/model/build.h"
#include "store/csv.h"
#include "store/files.h"
#include "store/project_fields.h"

namespace store {
namespace {

/// "line 12" of a syntax error, from the position that the parser names.
std::string lineOfByte(const std::string& text, std::size_t byte) {
    const auto line = 1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(std::min(byte, text.size())), '\n');
    return "line " + std::to_string(line);
}

/// Columns of a run file: what project.json says of them, else what their headers say.
void applyChannels(CsvFormat& format, const std::vector<core::Channel>& stated) {
    if (stated.empty())
        return;
    for (CsvColumn& column : format.columns) {
        if (column.isTime)
            continue;
        const auto it = std::find_if(stated.begin(), stated.end(), [&](const core::Channel& c) { return c.name == column.header; });
        column.use = it != stated.end();
        if (!column.use)
            continue;
        column.kind = it->kind;
        column.subject = it->subject;
        column.scale = 1; // stored values are in stored units
        column.fahrenheit = false;
    }
}

core::Result<core::Run> readRunEntry(const Json& j, const std::string& place, const core::Project& project, std::vector<core::Problem>& warnings,
                                     const std::function<core::Result<std::string>(const std::string&)>& readRun) {
    JsonReader reader(j, place, warnings);
    core::Run run;
    fields(reader, run);
    std::string file;
    std::vector<core::Channel> stated;
    reader("file", file);
    reader("channels", stated, {});
    reader.finish();
    if (file.find("..") != std::string::npos || file.starts_with('/'))
        return core::problem(place + ".file", "leads out of the project folder", "a name such as \"runs/first.csv\"");
    auto text = readRun(file);
    if (!text)
        return tl::make_unexpected(text.error());
    auto format = recogniseCsv(*text, file);
    if (!format)
        return tl::make_unexpected(format.error());
    applyChannels(*format, stated);
    auto samples = readCsv(*text, *format, file);
    if (!samples)
        return tl::make_unexpected(samples.error());
    for (core::Channel& c : samples->channels)
        for (const core::Channel& s : stated)
            if (s.name == c.name && !s.unit.empty())
                c.unit = s.unit;
    if (stated.empty())
        nameSubjects(project, run.revision, *samples);
    run.samples = std::make_shared<core::Samples>(std::move(*samples));
    return run;
}

core::Result<Json> parseJson(const std::string& text, const std::string& fileName) {
    try {
        return Json::parse(text);
    } catch (const Json::parse_error& e) {
        return core::problem(fileName + ", " + lineOfByte(text, e.byte), "this is not JSON from here on", "check for a missing comma, quote or bracket just before");
    }
}

/// "format" and "version" at the head of a file; a newer version is refused with words.
void checkHead(JsonReader& reader, const char* wantedFormat) {
    std::string format;
    int version = 0;
    reader("format", format);
    if (format != wantedFormat)
        JsonReader::fail("format", "is \"" + format.substr(0, 40) + "\"", std::string("\"") + wantedFormat + "\"");
    reader("version", version);
    if (version > formatVersion)
        JsonReader::fail("version", "is " + std::to_string(version) + ", this program reads up to " + std::to_string(formatVersion), "a newer version of the program");
    if (version < 1)
        JsonReader::fail("version", "is " + std::to_string(version), "1");
}

/// Puts file and line before the path inside the JSON.
core::Problem located(core::Problem p, const std::string& text, const std::string& fileName) {
    const int line = lineOfPath(text, p.place);
    p.place = fileName + (line > 0 ? ", line " + std::to_string(line) : "") + (p.place.empty() ? "" : ", " + p.place);
    return p;
}

} // namespace

std::string runFileName(const core::Project& project, std::size_t index) {
    std::string name;
    for (const char c : project.runs[index].id)
        name += std::isalnum(static_cast<unsigned char>(c)) || c == '-' || c == '_' ? c : '-';
    // Two ids that differ only in such characters must not share a file.
    for (std::size_t i = 0; i < index; ++i)
        if (runFileName(project, i) == "runs/" + name + ".csv")
            name += "-" + std::to_string(index + 1);
    return "runs/" + name + ".csv";
}

std::string writeProjectJson(const core::Project& project) {
    JsonWriter writer;
    writer("format", std::string(formatWord));
    writer("version", formatVersion);
    fields(writer, project);
    Json runs = Json::array();
    for (std::size_t i = 0; i < project.runs.size(); ++i) {
        JsonWriter run;
        fields(run, project.runs[i]);
        run("file", runFileName(project, i));
        run("channels", project.runs[i].samples->channels);
        runs.push_back(std::move(run.json));
    }
    if (!runs.empty())
        writer.json["runs"] = std::move(runs);
    return writer.json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

core::Result<Loaded> readProjectJson(const std::string& text, const std::string& fileName, const std::function<core::Result<std::string>(const std::string&)>& readRun) {
    Loaded loaded;
    const auto json = parseJson(text, fileName);
    if (!json)
        return tl::make_unexpected(json.error());
    try {
        JsonReader reader(*json, "", loaded.warnings);
        checkHead(reader, formatWord);
        fields(reader, loaded.project);
        reader.seen("runs");
        reader.finish();
        if (const auto runs = json->find("runs"); runs != json->end()) {
            if (!runs->is_array())
                JsonReader::fail("runs", "is " + JsonReader::typeWord(*runs), "an array in [ ]");
            for (std::size_t i = 0; i < runs->size(); ++i) {
                const std::string place = "runs[" + std::to_string(i) + "]";
                auto run = readRunEntry((*runs)[i], place, loaded.project, loaded.warnings, readRun);
                if (!run)
                    return tl::make_unexpected(run.error().place.starts_with("runs[") ? located(run.error(), text, fileName) : run.error());
                loaded.project.runs.push_back(std::move(*run));
            }
        }
    } catch (const ReadError& e) {
        return tl::make_unexpected(located(e.problem, text, fileName));
    } catch (const Json::exception& e) {
        return core::problem(fileName, e.what(), "a project written by this program, or by hand after docs/format.md");
    }
    for (core::Problem& w : loaded.warnings)
        w = located(w, text, fileName);
    if (auto wrong = core::validate(loaded.project); !wrong.empty())
        return tl::make_unexpected(located(wrong.front(), text, fileName));
    return loaded;
}

core::Result<std::vector<core::Part>> readShelfJson(const std::string& text, const std::string& fileName) {
    const auto json = parseJson(text, fileName);
    if (!json)
        return tl::make_unexpected(json.error());
    std::vector<core::Part> parts;
    std::vector<core::Problem> warnings;
    try {
        JsonReader reader(*json, "", warnings);
        checkHead(reader, shelfFormatWord);
        reader("parts", parts);
    } catch (const ReadError& e) {
        return tl::make_unexpected(located(e.problem, text, fileName));
    } catch (const Json::exception& e) {
        return core::problem(fileName, e.what(), "a shelf file");
    }
    core::Project carrier;
    carrier.shelf = parts;
    if (auto wrong = core::validate(carrier); !wrong.empty())
        return tl::make_unexpected(located(wrong.front(), text, fileName));
    return parts;
}

Json changeJson(const core::Change& change) {
    JsonWriter writer;
    fields(writer, change);
    return std::move(writer.json);
}

std::string writeShelfJson(const std::vector<core::Part>& parts) {
    JsonWriter writer;
    writer("format", std::string(shelfFormatWord));
    writer("version", formatVersion);
    writer("parts", parts);
    return writer.json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

} // namespace store
