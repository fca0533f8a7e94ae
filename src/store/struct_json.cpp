// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/struct_json.h"

#include "core/model/build.h"
#include "store/project_fields.h"

namespace store {

Json partJson(const core::Part& part) {
    JsonWriter writer(Defaults::Write);
    core::fields(writer, part);
    return std::move(writer.json);
}

core::Result<core::Part> unfinishedPart(const Json& json) {
    core::Part part;
    std::vector<core::Problem> warnings;
    try {
        JsonReader reader(json, "", warnings);
        core::fields(reader, part);
    } catch (const ReadError& e) {
        return tl::make_unexpected(e.problem);
    } catch (const Json::exception& e) {
        return core::problem("part", e.what(), "check its fields");
    }
    return part;
}

core::Result<core::Part> partFrom(const Json& json) {
    auto read = unfinishedPart(json);
    if (!read)
        return read;
    core::Part part = std::move(*read);
    core::Project carrier;
    carrier.shelf.push_back(part);
    for (core::Problem wrong : core::validate(carrier)) {
        for (const char* end : {").", "]."}) // one part: where in it
            if (const auto dot = wrong.place.find(end); wrong.place.starts_with("shelf[") && dot != std::string::npos)
                wrong.place.erase(0, dot + 2);
        return tl::make_unexpected(wrong);
    }
    return part;
}

namespace {

/// The fields of a struct out of @p json into @p value.
template <class T> core::Result<void> readInto(T& value, const Json& json) {
    std::vector<core::Problem> warnings;
    try {
        JsonReader reader(json, "", warnings);
        core::fields(reader, value);
    } catch (const ReadError& e) {
        return tl::make_unexpected(e.problem);
    } catch (const Json::exception& e) {
        return core::problem("value", e.what(), "check its fields");
    }
    return {};
}

} // namespace

Json headJson(const core::Project& project) {
    JsonWriter writer(Defaults::Write);
    core::fields(writer, project);
    return std::move(writer.json);
}

core::Result<core::Project> projectFrom(const Json& json, const core::Project& base) {
    core::Project project;
    if (const auto read = readInto(project, json); !read)
        return tl::make_unexpected(read.error());
    project.runs = base.runs;
    if (const auto problems = core::validate(project); !problems.empty())
        return tl::make_unexpected(problems.front());
    return project;
}

Json runJson(const core::Run& run) {
    JsonWriter writer(Defaults::Write);
    core::fields(writer, run);
    writer.json["channels"] = Json::array();
    for (const core::Channel& channel : run.samples->channels) {
        JsonWriter one(Defaults::Write);
        core::fields(one, channel);
        writer.json["channels"].push_back(std::move(one.json));
    }
    return std::move(writer.json);
}

core::Result<core::Run> runFrom(const Json& json, const core::Run& base) {
    core::Run run = base;
    run.roomC.reset();
    run.loadStartS.reset();
    run.loadEndS.reset();
    Json head = json;
    head.erase("channels");
    if (const auto read = readInto(run, head); !read)
        return tl::make_unexpected(read.error());
    const Json& columns = json.contains("channels") ? json["channels"] : Json::array();
    auto samples = std::make_shared<core::Samples>(*base.samples);
    if (columns.size() != samples->channels.size())
        return core::problem("channels", "the log has " + std::to_string(samples->channels.size()) + " columns",
                             "as many here");
    for (std::size_t i = 0; i < columns.size(); ++i) {
        const std::string name = samples->channels[i].name;
        if (const auto read = readInto(samples->channels[i], columns[i]); !read)
            return tl::make_unexpected(read.error());
        if (samples->channels[i].name != name)
            return core::problem("channels[" + std::to_string(i) + "].name", "a column is called as its log calls it",
                                 "\"" + name + "\"");
    }
    const bool same =
        std::equal(samples->channels.begin(), samples->channels.end(), base.samples->channels.begin(),
                   base.samples->channels.end(), [](const core::Channel& a, const core::Channel& b) {
                       return a.kind == b.kind && a.unit == b.unit && a.subject == b.subject && a.assumed == b.assumed;
                   });
    if (!same)
        run.samples = std::move(samples);
    return run;
}

} // namespace store
