// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/log_about.h"

#include "store/csv.h"
#include "store/project_fields.h"
#include "store/project_json.h"
#include "store/safe_write.h"

namespace store {
namespace {
constexpr const char* aboutWord = "mini-draft-log";

template <class A, class T>
requires std::same_as<std::remove_const_t<T>, LogAbout>
void fields(A& a, T& v) {
    a("source", v.source, std::string{});
    a("simulated", v.simulated, v.source == "rig");
    a("started", v.started, std::string{});
    a("load", v.load, std::string{});
    a("distance_m", v.distanceM, 1.0);
    if constexpr (A::reading)
        a("channels", v.channels, {});
    else
        a("channels", v.channels);
    a("project", v.project, std::string{});
    a("project_id", v.projectId, std::string{});
    a("project_name", v.projectName, std::string{});
    a("revision", v.revision, std::string{});
    a("run", v.run, std::string{});
}
} // namespace

QString aboutPath(const QString& log) { return log + QStringLiteral(".about.json"); }

core::Result<void> writeLogAbout(const QString& log, const LogAbout& about) {
    JsonWriter writer;
    writer("format", std::string(aboutWord));
    fields(writer, about);
    return writeWhole(aboutPath(log), QByteArray::fromStdString(jsonText(writer.json)));
}

core::Result<LogAbout> readLogAbout(const std::string& log) {
    const std::string path = aboutPath(QString::fromStdString(log)).toStdString();
    const auto text = readFile(path, mostJsonBytes);
    if (!text)
        return tl::make_unexpected(text.error());
    const auto json = parseJson(*text, path);
    if (!json)
        return tl::make_unexpected(json.error());
    LogAbout about;
    std::vector<core::Problem> warnings;
    try {
        JsonReader reader(*json, "", warnings);
        std::string format;
        reader("format", format);
        if (format != aboutWord)
            return core::problem(path, "is not about a log", std::string("\"format\": \"") + aboutWord + "\"");
        fields(reader, about);
    } catch (const ReadError& e) {
        return core::problem(path + ", " + e.problem.place, e.problem.what, e.problem.remedy);
    }
    return about;
}

void applyAbout(const LogAbout& about, core::Samples& samples) {
    std::vector<bool> taken(about.channels.size(), false);
    for (core::Channel& c : samples.channels)
        for (std::size_t i = 0; i < about.channels.size(); ++i)
            if (!taken[i] && about.channels[i].name == c.name) {
                taken[i] = true;
                c.kind = about.channels[i].kind;
                c.unit = about.channels[i].unit;
                c.subject = about.channels[i].subject;
                break;
            }
}

} // namespace store
