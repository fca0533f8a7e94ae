// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/base/measure.h"

#include <nlohmann/json.hpp>

#include <array>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

// One field list a struct serves reading and writing, so that what is written is what is read.
// fields(archive, object) calls archive(key, member) for required and archive(key, member, default) for optional keys.
namespace store {

using Json = nlohmann::ordered_json;

/// What grows at its end: std::vector and core::SharedList, but no text.
template <class T> concept IsList = requires(T& t, typename T::value_type item) { t.push_back(std::move(item)); t.clear(); } && !std::is_same_v<T, std::string>;

/// Thrown inside the reader only; turned into a core::Problem at its border.
struct ReadError { core::Problem problem; };

/// Words of an enum; specialised next to the field lists.
template <class E> struct EnumWords;

/// Whether values that a file may leave out are written as well.
enum class Defaults { Omit, Write };

class JsonWriter {
public:
    static constexpr bool reading = false;
    Json json = Json::object();

    explicit JsonWriter(Defaults defaults = Defaults::Omit) : m_defaults(defaults) {}
    [[nodiscard]] Defaults defaults() const { return m_defaults; }

    template <class T> void operator()(const char* key, const T& value) { json[key] = toJson(value, m_defaults); }
    template <class T> void operator()(const char* key, const T& value, const T& otherwise) {
        if (m_defaults == Defaults::Write || !(value == otherwise))
            json[key] = toJson(value, m_defaults);
    }
    template <class T> void optional(const char* key, const std::optional<T>& value) {
        if (value)
            json[key] = toJson(*value, m_defaults);
    }
    void measure(const char* key, const core::Measure& value, const core::Measure& plain) { json[key] = measureJson(value, plain); }
    template <std::size_t N> void measures(const char* key, const std::array<core::Measure, N>& values, core::Source source) {
        json[key] = Json::array();
        for (const core::Measure& m : values)
            json[key].push_back(measureJson(m, plainMeasure(m.value.mm(), source)));
    }
    /// What a bare number stands for.
    static core::Measure plainMeasure(double mm, core::Source source) {
        core::Measure m = core::measureMm(mm, source);
        if (mm == 0)
            m.tolerance = {};
        return m;
    }

    template <class T> static Json toJson(const T& value, Defaults defaults = Defaults::Omit) {
        if constexpr (std::is_enum_v<T>) {
            return std::string(EnumWords<T>::word(value));
        } else if constexpr (std::is_arithmetic_v<T> || std::is_same_v<T, std::string>) {
            return value;
        } else {
            JsonWriter w(defaults);
            fields(w, value);
            return std::move(w.json);
        }
    }
    template <IsList List> static Json toJson(const List& values, Defaults defaults = Defaults::Omit) {
        Json array = Json::array();
        for (const auto& v : values)
            array.push_back(toJson(v, defaults));
        return array;
    }
    template <class T, std::size_t N> static Json toJson(const std::array<T, N>& values, Defaults defaults = Defaults::Omit) {
        Json array = Json::array();
        for (const T& v : values)
            array.push_back(toJson(v, defaults));
        return array;
    }
    static Json toJson(const std::map<std::string, int>& values, Defaults = Defaults::Omit) {
        Json object = Json::object();
        for (const auto& [key, n] : values)
            object[key] = n;
        return object;
    }
    static Json toJson(const core::Length& value, Defaults = Defaults::Omit) { return value.mm(); }

private:
    static Json measureJson(const core::Measure& m, const core::Measure& plain) {
        if (m == plain)
            return m.value.mm();
        Json j = {{"mm", m.value.mm()}, {"source", std::string(core::sourceWord(m.source))}};
        if (m.toleranceStated || m.tolerance != core::defaultTolerance(m.source, m.value))
            j["tol_mm"] = m.tolerance.mm();
        return j;
    }
    Defaults m_defaults;
};

class JsonReader {
public:
    static constexpr bool reading = true;
    JsonReader(const Json& json, std::string path, std::vector<core::Problem>& warnings) : m_json(json), m_path(std::move(path)), m_warnings(warnings) {
        if (!json.is_object())
            fail(m_path, "is " + typeWord(json), "an object in { }");
    }

    template <class T> void operator()(const char* key, T& value) {
        m_seen.insert(key);
        const auto it = m_json.find(key);
        if (it == m_json.end())
            fail(at(key), "is missing", "add \"" + std::string(key) + "\"");
        read(*it, at(key), value);
    }
    template <class T> void operator()(const char* key, T& value, const T& otherwise) {
        m_seen.insert(key);
        const auto it = m_json.find(key);
        value = otherwise;
        if (it != m_json.end())
            read(*it, at(key), value);
    }
    template <class T> void optional(const char* key, std::optional<T>& value) {
        m_seen.insert(key);
        if (const auto it = m_json.find(key); it != m_json.end() && !it->is_null()) {
            T v{};
            read(*it, at(key), v);
            value = v;
        }
    }
    void measure(const char* key, core::Measure& value, const core::Measure& plain) {
        m_seen.insert(key);
        const auto it = m_json.find(key);
        if (it == m_json.end())
            fail(at(key), "is missing", "a number of mm, or {\"mm\": 12.5, \"source\": \"caliper\"}");
        value = readMeasure(*it, at(key), plain.source);
    }
    template <std::size_t N> void measures(const char* key, std::array<core::Measure, N>& values, core::Source source) {
        m_seen.insert(key);
        const auto it = m_json.find(key);
        if (it == m_json.end())
            fail(at(key), "is missing", std::to_string(N) + " sizes in mm");
        if (!it->is_array() || it->size() != N)
            fail(at(key), it->is_array() ? "has " + std::to_string(it->size()) + " entries" : "is " + typeWord(*it), "an array of " + std::to_string(N) + " sizes in mm");
        for (std::size_t i = 0; i < N; ++i)
            values[i] = readMeasure((*it)[i], at(key) + "[" + std::to_string(i) + "]", source);
    }
    [[nodiscard]] const Json& json() const { return m_json; }
    [[nodiscard]] std::string at(const std::string& key) const { return m_path.empty() ? key : m_path + "." + key; }
    [[nodiscard]] const std::string& path() const { return m_path; }
    void seen(const std::string& key) { m_seen.insert(key); }
    std::vector<core::Problem>& warnings() { return m_warnings; }

    /// Keys nobody asked for are most often misspelt; they are reported, not lost without a word.
    void finish() {
        for (const auto& [key, value] : m_json.items())
            if (!m_seen.contains(key) && !key.starts_with("//"))
                m_warnings.push_back({at(key), "is not a known field and is left out", "check its spelling"});
    }

    [[noreturn]] static void fail(std::string place, std::string what, std::string remedy) {
        throw ReadError{{std::move(place), std::move(what), std::move(remedy)}};
    }
    static std::string typeWord(const Json& j) {
        switch (j.type()) {
        case Json::value_t::null: return "null";
        case Json::value_t::object: return "an object";
        case Json::value_t::array: return "an array";
        case Json::value_t::string: return "the text \"" + j.get<std::string>().substr(0, 40) + "\"";
        case Json::value_t::boolean: return j.get<bool>() ? "true" : "false";
        default: return "the number " + j.dump();
        }
    }

private:
    void read(const Json& j, const std::string& place, double& v) {
        if (!j.is_number())
            fail(place, "is " + typeWord(j), "a number");
        v = j.get<double>();
        if (!(std::abs(v) <= 1e12)) // beyond any field's own range, and safe to calculate with
            fail(place, "is " + typeWord(j), "a number of usual size");
    }
    void read(const Json& j, const std::string& place, int& v) {
        if (!j.is_number_integer() || j.get<double>() < -2e9 || j.get<double>() > 2e9)
            fail(place, "is " + typeWord(j), "a whole number");
        v = j.get<int>();
    }
    void read(const Json& j, const std::string& place, bool& v) {
        if (!j.is_boolean())
            fail(place, "is " + typeWord(j), "true or false");
        v = j.get<bool>();
    }
    void read(const Json& j, const std::string& place, std::string& v) {
        if (!j.is_string())
            fail(place, "is " + typeWord(j), "text in quotes");
        v = j.get<std::string>();
    }
    void read(const Json& j, const std::string& place, core::Length& v) {
        double mm = 0;
        read(j, place, mm);
        if (!(std::abs(mm) < 1e6))
            fail(place, "is " + typeWord(j), "a length below 1 000 000 mm");
        v = core::Length::fromMm(mm);
    }
    void read(const Json& j, const std::string& place, std::map<std::string, int>& v) {
        if (!j.is_object())
            fail(place, "is " + typeWord(j), "an object of kind and number, e.g. {\"fan\": 2}");
        for (const auto& [key, n] : j.items())
            read(n, place + "." + key, v[key]);
    }
    template <class E> requires std::is_enum_v<E> void read(const Json& j, const std::string& place, E& v) {
        std::string word;
        read(j, place, word);
        if (const auto found = EnumWords<E>::from(word))
            v = *found;
        else
            fail(place, "is \"" + word.substr(0, 40) + "\"", "one of " + EnumWords<E>::list());
    }
    template <IsList List> void read(const Json& j, const std::string& place, List& v) {
        if (!j.is_array())
            fail(place, "is " + typeWord(j), "an array in [ ]");
        v.clear();
        for (std::size_t i = 0; i < j.size(); ++i) {
            typename List::value_type item{};
            read(j[i], place + "[" + std::to_string(i) + "]", item);
            v.push_back(std::move(item));
        }
    }
    template <class T, std::size_t N> void read(const Json& j, const std::string& place, std::array<T, N>& v) {
        if (!j.is_array() || j.size() != N)
            fail(place, j.is_array() ? "has " + std::to_string(j.size()) + " entries" : "is " + typeWord(j), "an array of " + std::to_string(N));
        for (std::size_t i = 0; i < N; ++i)
            read(j[i], place + "[" + std::to_string(i) + "]", v[i]);
    }
    template <class T> requires(std::is_class_v<T> && !IsList<T>) void read(const Json& j, const std::string& place, T& v) {
        JsonReader reader(j, place, m_warnings);
        fields(reader, v);
        reader.finish();
    }
    core::Measure readMeasure(const Json& j, const std::string& place, core::Source plain) {
        const auto length = [&](const Json& n, const std::string& where) {
            core::Length l;
            read(n, where, l);
            return l;
        };
        if (j.is_number())
            return JsonWriter::plainMeasure(length(j, place).mm(), plain);
        if (!j.is_object() || !j.contains("mm"))
            fail(place, "is " + typeWord(j), "a number of mm, or {\"mm\": 12.5, \"tol_mm\": 0.1, \"source\": \"caliper\"}");
        core::Measure m{.value = length(j["mm"], place + ".mm"), .source = plain};
        if (j.contains("source")) {
            std::string word;
            read(j["source"], place + ".source", word);
            const auto source = core::sourceFromWord(word);
            if (!source)
                fail(place + ".source", "is \"" + word.substr(0, 40) + "\"", "caliper, rule, drawing, sheet, estimate, bent-sheet, printed, laser-cut, hand-cut, standard or computed");
            m.source = *source;
        }
        m.tolerance = core::defaultTolerance(m.source, m.value);
        if (j.contains("tol_mm")) {
            m.tolerance = length(j["tol_mm"], place + ".tol_mm");
            m.toleranceStated = true;
            if (m.tolerance < core::Length{})
                fail(place + ".tol_mm", "is negative", "0 or more");
        }
        return m;
    }

    const Json& m_json;
    std::string m_path;
    std::vector<core::Problem>& m_warnings;
    std::set<std::string> m_seen;
};

/// Line of the value at a path like "shelf[3].size_mm[0]" in a JSON text, 1-based; 0 when it is not there.
[[nodiscard]] int lineOfPath(const std::string& text, const std::string& path);

} // namespace store
