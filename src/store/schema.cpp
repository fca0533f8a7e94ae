// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/schema.h"

#include "core/base/text.h"
#include "core/model/fields/outline.h"
#include "store/project_fields.h"
#include "store/project_json.h"

namespace store {
namespace {
using core::FieldOutline;
using core::Holds;
using core::StructOutline;

std::string nameOf(std::string name) {
    std::replace(name.begin(), name.end(), ' ', '-');
    return name;
}
Json reference(const std::string& structName) { return {{"$ref", "#/$defs/" + nameOf(structName)}}; }

/// An object that takes these keys, remarks, and no others.
Json object(Json properties, Json required) {
    return {{"type", "object"},
            {"required", std::move(required)},
            {"properties", std::move(properties)},
            {"additionalProperties", false},
            {"patternProperties", {{"^//", true}}}};
}
Json oneNumber(const char* type, const core::NumberField& f) {
    Json j = {{"type", type}, {"minimum", f.low}, {"maximum", f.high}};
    return f.zeroIsUnstated && f.low > 0 ? Json{{"anyOf", {{{"const", 0}}, std::move(j)}}} : j;
}
Json measure(const core::NumberField& f) {
    const Json mm = oneNumber("number", f);
    Json sources = Json::array();
    for (const auto& choice : core::ChoicesOf<core::Source>::all)
        sources.push_back(std::string(choice.word));
    return {{"anyOf",
             {mm, object({{"mm", mm},
                          {"tol_mm", {{"type", "number"}, {"minimum", 0}, {"maximum", 100}}},
                          {"source", {{"enum", sources}}}},
                         {"mm"})}}};
}
Json offset(const core::NumberField& f) {
    Json ways = Json::array();
    for (const auto& choice : core::ChoicesOf<core::Ref>::all)
        ways.push_back(object({{std::string(choice.word), measure(f)}}, {std::string(choice.word)}));
    return {{"oneOf", ways}};
}

/// One value, its brackets aside.
Json value(const FieldOutline& f) {
    switch (f.holds) {
    case Holds::Text:
        return f.required && std::string_view(f.about.key) == "id" ? Json{{"type", "string"}, {"minLength", 1}}
                                                                   : Json{{"type", "string"}};
    case Holds::Flag:
        return {{"type", "boolean"}};
    case Holds::Number:
        return oneNumber("number", f.about);
    case Holds::Whole:
        return oneNumber("integer", f.about);
    case Holds::Choice:
        return {{"enum", f.choices}};
    case Holds::Size:
        return measure(f.about);
    case Holds::Offset:
        return offset(f.about);
    case Holds::Counts:
        return {{"type", "object"}, {"additionalProperties", oneNumber("integer", f.about)}};
    case Holds::Struct:
        break;
    }
    return reference(f.structName);
}

std::string withUnit(const FieldOutline& f) {
    std::string text = f.about.label;
    if (*f.about.help)
        text += (text.empty() ? "" : ": ") + std::string(f.about.help);
    if (*f.about.standard)
        text += "; standard: " + std::string(f.about.standard);
    if (*f.about.unit.text)
        text += " (" + std::string(f.about.unit.text) + ")";
    return text;
}

Json schemaOf(const FieldOutline& f) {
    Json j = value(f);
    for (auto level = f.items.rbegin(); level != f.items.rend(); ++level) {
        j = {{"type", "array"}, {"items", std::move(j)}};
        if (const int least = *level ? *level : level + 1 == f.items.rend() ? f.about.least : 0)
            j["minItems"] = least;
        if (*level)
            j["maxItems"] = *level;
    }
    if (const std::string text = withUnit(f); !text.empty())
        j["description"] = text;
    if (!f.otherwise.empty())
        j["default"] = Json::parse(f.otherwise);
    return j;
}

Json schemaOf(const StructOutline& s, const Json& first = Json::object()) {
    Json properties = first, required = Json::array(), kinds = Json::array();
    for (const auto& [key, unused] : first.items())
        required.push_back(key);
    for (const FieldOutline& f : s.fields) {
        properties[f.about.key] = schemaOf(f);
        if (f.required)
            required.push_back(f.about.key);
    }
    for (const StructOutline& kind : s.oneOf)
        kinds.push_back(schemaOf(kind, {{"do", {{"const", kind.name}}}}));
    Json j = s.oneOf.empty() ? object(std::move(properties), std::move(required)) : Json{{"oneOf", std::move(kinds)}};
    j["description"] = s.about;
    return j;
}

/// A part must say what only its kind has, where something of it is required.
Json requiredByKind(const std::vector<StructOutline>& all) {
    Json rules = Json::array();
    for (const auto& kind : core::ChoicesOf<core::PartKind>::all)
        for (const StructOutline& s : all)
            if (s.name == kind.word &&
                std::any_of(s.fields.begin(), s.fields.end(), [](const FieldOutline& f) { return f.required; }))
                rules.push_back({{"if", {{"properties", {{"kind", {{"const", std::string(kind.word)}}}}}}},
                                 {"then", {{"required", {std::string(kind.word)}}}}});
    return rules;
}

Json definitions(const std::vector<StructOutline>& all) {
    Json defs = Json::object();
    for (const StructOutline& s : all)
        if (s.name != "project")
            defs[nameOf(s.name)] = schemaOf(s);
    defs["part"]["allOf"] = requiredByKind(all);
    for (const char* file : {"file", "original"})
        defs["run"]["properties"][file]["pattern"] = "^(?!/)(?!(.*/)?\\.\\.(/|$)).+";
    return defs;
}

Json head(const char* title, const char* about) {
    return {{"$schema", "https://json-schema.org/draft/2020-12/schema"}, {"title", title}, {"description", about}};
}
Json envelope(const char* word) { return {{"format", {{"const", word}}}, {"version", {{"const", formatVersion}}}}; }

std::string rangeWords(const FieldOutline& f) {
    const auto word = [](double v) {
        return std::abs(v) >= 1e5 ? std::to_string(static_cast<long long>(v)) : core::shortest(v);
    };
    return std::string(f.about.unit.text) + (*f.about.unit.text ? ", " : "") + (f.about.zeroIsUnstated ? "0 or " : "") +
           word(f.about.low) + " to " + word(f.about.high);
}
std::string joined(const std::vector<std::string>& items) {
    std::string text;
    for (const std::string& word : items)
        text += (text.empty() ? "" : ", ") + word;
    return text;
}
std::string link(const std::string& structName) { return "[" + structName + "](#" + nameOf(structName) + ")"; }

/// "list of numbers, mm, 0 to 2000" and the like.
std::string kindWords(const FieldOutline& f) {
    std::string text;
    for (const int n : f.items)
        text += n ? "[" + std::to_string(n) + "] of " : "list of ";
    switch (f.holds) {
    case Holds::Text:
        return text + "text";
    case Holds::Flag:
        return text + "true or false";
    case Holds::Number:
        return text + "number, " + rangeWords(f);
    case Holds::Whole:
        return text + "whole number, " + rangeWords(f);
    case Holds::Choice:
        return text + joined(f.choices);
    case Holds::Size:
        return text + "size, " + rangeWords(f) + "; a bare number: " + f.source;
    case Holds::Offset:
        return text + "offset, " + rangeWords(f);
    case Holds::Counts:
        return text + "counts by kind, " + rangeWords(f);
    case Holds::Struct:
        break;
    }
    return text + link(f.structName);
}

std::string row(const FieldOutline& f, bool labels) {
    const std::string key = "`" + std::string(f.about.key) + "`";
    std::string what = labels ? f.about.label : "";
    if (*f.about.help)
        what += (what.empty() ? "" : ": ") + std::string(f.about.help);
    if (*f.about.standard)
        what += (what.empty() ? "" : "; ") + std::string("standard: ") + f.about.standard;
    return "| " + (f.required ? "**" + key + "**" : key) + " | " + kindWords(f) + " | " +
           (f.otherwise.empty() ? "" : "`" + f.otherwise + "`") + " | " + what + " |\n";
}

std::string table(const StructOutline& s) {
    std::string text = "#### " + s.name + "\n" + s.about + "\n\n";
    if (s.oneOf.empty()) {
        text += "| key | takes | left out | what |\n|---|---|---|---|\n";
        for (const FieldOutline& f : s.fields)
            text += row(f, true);
        return text + "\n";
    }
    text += "| do | key | takes | left out | what |\n|---|---|---|---|---|\n";
    for (const StructOutline& kind : s.oneOf) {
        text += "| `" + kind.name + "` | | | | " + kind.about + " |\n";
        for (const FieldOutline& f : kind.fields)
            text += "| " + row(f, true);
    }
    return text + "\n";
}

} // namespace

std::vector<StructOutline> fileOutlines() {
    auto all = core::outlines();
    for (StructOutline& s : all)
        if (s.name == "run") {
            const auto add = [&](core::Field field, bool required) -> FieldOutline& {
                FieldOutline f{.required = required};
                static_cast<core::Field&>(f.about) = field;
                return s.fields.emplace_back(std::move(f));
            };
            add(core::text("file", "Readings", "A file inside the folder, e.g. runs/first.csv"), true);
            add(core::text("original", "Log",
                           "The log it was read in from, inside the folder, where that says more than the readings"),
                false);
            FieldOutline& channels =
                add(core::list("channels", "Columns", "What they are; left out: told from their headings"), false);
            channels.holds = Holds::Struct;
            channels.structName = "channel";
            channels.items = {0};
        }
    return all;
}

Json projectSchema() {
    const auto all = fileOutlines();
    Json schema = head("Mini Draft project", "project.json of an interchange folder. docs/format.md says it in words.");
    schema.update(schemaOf(all.front(), envelope(formatWord)));
    schema["description"] = "project.json of an interchange folder. docs/format.md says it in words.";
    schema["properties"]["runs"] = {{"type", "array"}, {"items", reference("run")}, {"description", "Logged tests"}};
    schema["$defs"] = definitions(all);
    return schema;
}

Json shelfSchema() {
    Json schema = head("Mini Draft shelf", "A list of parts to take over into a project.");
    Json properties = envelope(shelfFormatWord);
    properties["about"] = {{"type", "object"}};
    properties["parts"] = {{"type", "array"}, {"items", reference("part")}};
    schema.update(Json{{"type", "object"}, {"required", {"format", "version", "parts"}}, {"properties", properties}});
    const Json defs = definitions(fileOutlines());
    // Only what a part is made of.
    Json kept = Json::object();
    const std::function<void(const Json&)> keep = [&](const Json& j) {
        if (j.is_object())
            if (const auto ref = j.find("$ref"); ref != j.end()) {
                const std::string name = ref->get<std::string>().substr(std::string("#/$defs/").size());
                if (!kept.contains(name)) {
                    kept[name] = defs[name];
                    keep(defs[name]);
                }
            }
        for (const Json& inner : j)
            if (inner.is_structured())
                keep(inner);
    };
    keep(properties);
    schema["$defs"] = std::move(kept);
    return schema;
}

std::vector<Way> waysInWindow() {
    const auto all = fileOutlines();
    std::vector<Way> ways{{"project", false, {}}, {"run", true, {}}};
    for (std::size_t i = 0; i < ways.size(); ++i) { // grows on the way
        const Way way = ways[i];
        const auto s = std::find_if(all.begin(), all.end(), [&](const auto& o) { return o.name == way.structName; });
        if (s == all.end())
            continue;
        const auto further = [&](const FieldOutline& f, const std::string& kind) {
            const bool known =
                std::any_of(ways.begin(), ways.end(), [&](const Way& w) { return w.structName == f.structName; });
            if (f.holds != Holds::Struct || known)
                return;
            ways.push_back({f.structName, way.ofRun, way.path, kind});
            ways.back().path.emplace_back(f.about.key);
        };
        for (const FieldOutline& f : s->fields)
            further(f, {});
        for (const StructOutline& kind : s->oneOf)
            for (const FieldOutline& f : kind.fields)
                further(f, kind.name);
    }
    return ways;
}

namespace {

/// The quicker ways of what has a place of its own; every entry is driven by a test of the window.
std::string quickerWay(const std::string& name) {
    static const std::map<std::string, std::string> ways{
        {"brief", "Edit, Brief (Ctrl+B)"},
        {"target", "Edit, Brief (Ctrl+B)"},
        {"printer", "Edit, Printer for made parts"},
        {"need", "Fit, a gap, Edit, Need of the selected gap (Ctrl+G)"},
        {"part", "Add a part (Ctrl+Shift+A); Enter on a part; its menu, All details"},
        {"body", "menu of the part, All details: dragged on its three sides"},
        {"fan point", "menu of the part, All details: a table, pasted or dropped as a file"},
        {"curve point", "Revision, New revision, Set a fan's speed; Air, Explore, Open as a revision"},
        {"air value", "Air, Network (N), Enter on a room or way of air"},
        {"port", "menu of the part, All details: dragged on its three sides"},
        {"mount", "Fit, Edit the box (E); menu of the part, All details"},
        {"case", "Fit, Edit the box (E)"},
        {"chamber", "Fit, Edit the box (E)"},
        {"opening", "Fit, Edit the box (E)"},
        {"panel", "Fit, Edit the box (E)"},
        {"revision", "Revision, New revision (Ctrl+N)"},
        {"change", "Revision, New revision (Ctrl+N); on the drawings"},
        {"observed link", "menu of the part, Observed link"},
        {"run", "File, Read in a log (Ctrl+I); menu of the run, All details"},
        {"channel", "File, Read in a log (Ctrl+I); menu of the run, All details"}};
    const auto at = ways.find(name);
    return at == ways.end() ? std::string() : at->second;
}

std::string wayTable() {
    std::string text = "#### In the window\nWhere each of these is stated. *Edit, All details of the project* has "
                       "all of them, a page each; a part has its own pages under *All details* of its menu.\n\n"
                       "| struct | page | or |\n|---|---|---|\n";
    for (const Way& way : waysInWindow()) {
        std::string page = way.ofRun ? "menu of the run, All details" : "All details of the project";
        for (const std::string& key : way.path)
            page += " > " + key;
        text += "| " + link(way.structName) + " | " + page + " | " + quickerWay(way.structName) + " |\n";
    }
    return text + "\n";
}

} // namespace

std::string fieldTables() {
    std::string text;
    for (const StructOutline& s : fileOutlines())
        text += table(s);
    return text + wayTable();
}

} // namespace store
