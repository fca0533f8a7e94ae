// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/project_json.h"
#include "store/subjects.h"

#include "core/base/text.h"
#include "core/model/build.h"
#include "store/csv.h"
#include "store/files.h"
#include "store/project_fields.h"

namespace store {
namespace {

/// "line 12" of a syntax error, from the position that the parser names.
std::string lineOfByte(const std::string& text, std::size_t byte) {
    const auto line =
        1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(std::min(byte, text.size())), '\n');
    return "line " + std::to_string(line);
}

/// Columns of a run file: what project.json says of them, else what their headers say. Of columns with one name the
/// first is the first stated one, and so on. Errors: a stated column that is not there.
core::Result<void> applyChannels(CsvFormat& format, const std::vector<core::Channel>& stated, const std::string& place,
                                 const std::string& file) {
    if (stated.empty())
        return {};
    std::vector<bool> found(stated.size(), false);
    std::string names;
    for (CsvColumn& column : format.columns) {
        if (column.isTime)
            continue;
        names += (names.empty() ? "" : ", ") + column.header;
        std::size_t at = 0;
        while (at < stated.size() && (found[at] || stated[at].name != column.header))
            ++at;
        column.use = at < stated.size();
        if (!column.use)
            continue;
        found[at] = true;
        column.kind = stated[at].kind;
        column.subject = stated[at].subject;
        column.scale = 1; // stored values are in stored units
        column.fahrenheit = false;
    }
    for (std::size_t i = 0; i < stated.size(); ++i)
        if (!found[i])
            return core::problem(place + ".channels[" + std::to_string(i) + "].name",
                                 "column \"" + core::printable(stated[i].name, core::LineEnds::Show) + "\" is not in " +
                                     file,
                                 "one of its columns: " + core::printable(names, core::LineEnds::Show).substr(0, 400));
    return {};
}

/// Units that project.json states; columns of one name are told apart by their order, as in applyChannels().
void applyUnits(core::Samples& samples, const std::vector<core::Channel>& stated) {
    std::vector<bool> taken(stated.size(), false);
    for (core::Channel& c : samples.channels)
        for (std::size_t i = 0; i < stated.size(); ++i)
            if (!taken[i] && stated[i].name == c.name) {
                taken[i] = true;
                if (!stated[i].unit.empty())
                    c.unit = stated[i].unit;
                break;
            }
}

/// Names of files stay inside the folder: no way up, no way from the root. Links are followed and looked at by the
/// caller.
core::Result<void> checkName(const std::string& name, const std::string& place) {
    bool out = name.empty() || name.front() == '/';
    for (std::size_t at = 0; at <= name.size() && !out;) {
        const std::size_t end = std::min(name.find('/', at), name.size());
        out = name.substr(at, end - at) == "..";
        at = end + 1;
    }
    if (out || name.find('\0') != std::string::npos)
        return core::problem(place, "leads out of the project folder", "a name such as \"runs/first.csv\"");
    return {};
}

core::Result<core::Run> readRunEntry(const Json& j, const std::string& place, const core::Project& project,
                                     std::vector<core::Problem>& warnings, const FolderFiles& files) {
    JsonReader reader(j, place, warnings);
    core::Run run;
    fields(reader, run);
    std::string file, original;
    std::vector<core::Channel> stated;
    reader("file", file);
    reader("original", original, {});
    reader("channels", stated, {});
    reader.finish();
    if (auto good = checkName(file, place + ".file"); !good)
        return tl::make_unexpected(good.error());
    auto log = files.log(file);
    if (!log)
        return tl::make_unexpected(log.error());
    auto format = recogniseCsv(log->text, file, NoRows::Allow);
    if (!format)
        return tl::make_unexpected(format.error());
    if (auto good = applyChannels(*format, stated, place, file); !good)
        return tl::make_unexpected(good.error());
    auto samples = readCsv(log->text, *format, file);
    if (!samples)
        return tl::make_unexpected(samples.error());
    if (stated.empty()) {
        for (const Ambiguous& a : assignSubjects(project, run.revision, *samples))
            warnings.push_back({place, a.text(), "say in \"channels\" which column is whose"});
    } else {
        applyUnits(*samples, stated);
    }
    run.simulated = run.simulated || format->simulated;
    run.samples = std::make_shared<core::Samples>(std::move(*samples));
    if (log->file) {
        log->file->channelsStated = !stated.empty();
        log->file->readings = run.samples;
        run.file = log->file;
    }
    if (!original.empty()) {
        if (auto good = checkName(original, place + ".original"); !good)
            return tl::make_unexpected(good.error());
        auto kept = files.original ? files.original(original)
                                   : core::problem(original, "is not there", "the log beside its readings");
        if (kept)
            run.original = std::make_shared<core::Original>(std::move(*kept));
        else
            warnings.push_back({place + ".original", kept.error().what, "the readings themselves are there"});
    }
    return run;
}

/// How deep brackets nest, quotes passed over.
int depthOf(const std::string& text) {
    int depth = 0, deepest = 0;
    bool quoted = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (quoted) {
            i += c == '\\' ? 1 : 0;
            quoted = c != '"';
        } else if (c == '"') {
            quoted = true;
        } else if (c == '{' || c == '[') {
            deepest = std::max(deepest, ++depth);
        } else if (c == '}' || c == ']') {
            --depth;
        }
    }
    return deepest;
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
        JsonReader::fail(
            "version", "is " + std::to_string(version) + ", this program reads up to " + std::to_string(formatVersion),
            "a newer version of the program");
    if (version < 1)
        JsonReader::fail("version", "is " + std::to_string(version), "1");
}

/// "shelf[3] (fan-92).power_w" without the id that stands there for people.
std::string withoutIds(std::string path) {
    for (std::size_t at = path.find("] ("); at != std::string::npos; at = path.find("] (", at + 1)) {
        std::size_t end = path.find(").", at);
        if (end == std::string::npos && path.back() == ')')
            end = path.size() - 1;
        if (end == std::string::npos)
            break;
        path.erase(at + 1, end - at);
    }
    return path;
}

/// Puts file and line before the path inside the JSON.
core::Problem located(core::Problem p, const std::string& text, const std::string& fileName) {
    const int line = lineOfPath(text, withoutIds(p.place));
    p.place = fileName + (line > 0 ? ", line " + std::to_string(line) : "") + (p.place.empty() ? "" : ", " + p.place);
    return p;
}

} // namespace

core::Result<Json> parseJson(const std::string& text, const std::string& fileName) {
    if (text.size() > mostJsonBytes)
        return core::problem(fileName, "is larger than " + std::to_string(mostJsonBytes / 1'000'000) + " MB",
                             "a smaller file; readings belong into runs/*.csv");
    if (depthOf(text) > deepestJson)
        return core::problem(fileName, "its brackets nest deeper than " + std::to_string(deepestJson),
                             "a file of this program");
    try {
        return Json::parse(text);
    } catch (const Json::parse_error& e) {
        return core::problem(fileName + ", " + lineOfByte(text, e.byte), "this is not JSON from here on",
                             "check for a missing comma, quote or bracket just before");
    } catch (const Json::exception& e) {
        return core::problem(fileName, std::string("a number is too large to be one: ") + e.what(), "a usual number");
    }
}

std::vector<std::string> logNames(const core::Project& project, std::set<std::string> taken) {
    std::vector<std::string> names;
    for (const core::Run& run : project.runs) {
        const std::string wanted = core::fileNameFrom(run.id);
        std::string name = wanted;
        // Two ids that differ only in letters a file system does not tell apart must not share a file.
        for (int n = 2; !taken.insert(core::asciiLower(name)).second; ++n)
            name = wanted + "-" + std::to_string(n);
        names.push_back(name + ".csv");
    }
    return names;
}

std::vector<RunPlace> freshPlaces(const core::Project& project) {
    std::vector<RunPlace> places;
    const auto names = logNames(project);
    for (std::size_t i = 0; i < names.size(); ++i)
        places.push_back({.file = "runs/" + names[i],
                          .original = project.runs[i].original ? "originals/" + names[i] : std::string{}});
    return places;
}

Json projectJson(const core::Project& project, const std::vector<RunPlace>& places) {
    JsonWriter writer;
    writer("format", std::string(formatWord));
    writer("version", formatVersion);
    fields(writer, project);
    Json runs = Json::array();
    for (std::size_t i = 0; i < project.runs.size(); ++i) {
        JsonWriter run;
        fields(run, project.runs[i]);
        run("file", places[i].file);
        run("original", places[i].original, std::string{});
        if (places[i].stateChannels)
            run("channels", project.runs[i].samples->channels);
        runs.push_back(std::move(run.json));
    }
    if (!runs.empty())
        writer.json["runs"] = std::move(runs);
    return std::move(writer.json);
}

std::optional<Json> normalised(const Json& older) {
    core::Project project;
    std::vector<RunPlace> places;
    std::vector<core::Problem> ignored;
    try {
        JsonReader reader(older, "", ignored);
        fields(reader, project);
        if (const auto runs = older.find("runs"); runs != older.end())
            for (const Json& j : *runs) {
                JsonReader r(j, "runs", ignored);
                core::Run run;
                RunPlace place{.stateChannels = j.contains("channels")};
                auto samples = std::make_shared<core::Samples>();
                fields(r, run);
                r("file", place.file);
                r("original", place.original, std::string{});
                r("channels", samples->channels, {});
                run.samples = samples;
                project.runs.push_back(std::move(run));
                places.push_back(std::move(place));
            }
    } catch (const ReadError&) {
        return std::nullopt;
    } catch (const Json::exception&) {
        return std::nullopt;
    }
    return projectJson(project, places);
}

std::string jsonText(const Json& json) { return json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n"; }

std::string writeProjectJson(const core::Project& project) {
    return jsonText(projectJson(project, freshPlaces(project)));
}

void keepRemarks(const Json& older, Json& newer) {
    if (older.is_object() && newer.is_object()) {
        Json merged = Json::object();
        // A remark stands before what it speaks of: it keeps its place in front of the next key that is still there.
        auto at = newer.begin();
        for (auto it = older.begin(); it != older.end(); ++it) {
            if (it.key().starts_with("//")) {
                merged[it.key()] = it.value();
            } else if (newer.contains(it.key())) {
                for (; at != newer.end() && !merged.contains(it.key()); ++at)
                    if (!merged.contains(at.key()))
                        merged[at.key()] = at.value();
                keepRemarks(it.value(), merged[it.key()]);
            }
        }
        for (; at != newer.end(); ++at)
            merged[at.key()] = at.value();
        newer = std::move(merged);
    } else if (older.is_array() && newer.is_array()) {
        for (std::size_t i = 0; i < newer.size(); ++i) {
            const Json* same = nullptr;
            const auto id = newer[i].is_object() ? newer[i].find("id") : newer[i].end();
            if (newer[i].is_object() && id != newer[i].end()) {
                for (const Json& o : older)
                    if (o.is_object() && o.contains("id") && o["id"] == *id)
                        same = &o;
            } else if (i < older.size() && older.size() == newer.size()) {
                same = &older[i];
            }
            if (same)
                keepRemarks(*same, newer[i]);
        }
    }
}

core::Result<Loaded> readProjectJson(const std::string& text, const std::string& fileName, const FolderFiles& files) {
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
                auto run = readRunEntry((*runs)[i], place, loaded.project, loaded.warnings, files);
                if (!run)
                    return tl::make_unexpected(
                        run.error().place.starts_with("runs[") ? located(run.error(), text, fileName) : run.error());
                loaded.project.runs.push_back(std::move(*run));
                if (files.progress && !files.progress(static_cast<double>(i + 1) / static_cast<double>(runs->size())))
                    return core::problem(fileName, "stopped", "");
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
    carrier.shelf = core::SharedList<core::Part>(parts);
    if (auto wrong = core::validate(carrier); !wrong.empty())
        return tl::make_unexpected(located(wrong.front(), text, fileName));
    return parts;
}

Json changeJson(const core::Change& change) {
    JsonWriter writer;
    fields(writer, change);
    return std::move(writer.json);
}

std::string writeShelfJson(const core::SharedList<core::Part>& parts) {
    JsonWriter writer;
    writer("format", std::string(shelfFormatWord));
    writer("version", formatVersion);
    writer("parts", parts);
    return writer.json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

} // namespace store
