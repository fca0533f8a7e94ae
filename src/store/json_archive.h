// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/fields/change_fields.h"
#include "core/model/fields/spec_fields.h"

#include <nlohmann/json.hpp>

#include <array>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

// Reading and writing JSON after the field lists of core/model/fields, so that what is written is what is read.
namespace store {

using Json = nlohmann::ordered_json;

/// What grows at its end: std::vector and core::SharedList, but no text.
template <class T>
concept IsList = requires(T& t, typename T::value_type item) {
    t.push_back(std::move(item));
    t.clear();
}
&&!std::is_same_v<T, std::string>;

/// Thrown inside the reader only; turned into a core::Problem at its border.
struct ReadError {
    core::Problem problem;
};

/// The key of a field; what else is said of it does not matter here.
struct Key {
    const char* text;
    Key(const char* key) : text(key) {}                // NOLINT: keys of an envelope are plain words
    Key(const core::Field& field) : text(field.key) {} // NOLINT
};

/// Whether values that a file may leave out are written as well.
enum class Defaults { Omit, Write };

class JsonWriter {
public:
    static constexpr bool reading = false;
    Json json = Json::object();

    explicit JsonWriter(Defaults defaults = Defaults::Omit) : m_defaults(defaults) {}
    [[nodiscard]] Defaults defaults() const { return m_defaults; }

    template <class T> void operator()(Key key, const T& value) { json[key.text] = toJson(value, m_defaults); }
    template <class T> void operator()(Key key, const T& value, const T& otherwise) {
        if (m_defaults == Defaults::Write || !(value == otherwise))
            json[key.text] = toJson(value, m_defaults);
    }
    template <class T> void optional(Key key, const std::optional<T>& value) {
        if (value)
            json[key.text] = toJson(*value, m_defaults);
    }
    void measure(Key key, const core::Measure& value, core::Source source) {
        json[key.text] = measureJson(value, plainMeasure(value.value.mm(), source));
    }
    template <std::size_t N>
    void measures(Key key, const std::array<core::Measure, N>& values, core::Source source, core::SheetKind kind = {}) {
        json[key.text] = Json::array();
        for (core::Measure m : values) {
            if (kind == core::SheetKind::CoolerOrCard && m.source == core::Source::Sheet && !m.toleranceStated)
                m.tolerance = core::defaultTolerance(m.source, m.value);
            json[key.text].push_back(measureJson(m, plainMeasure(m.value.mm(), source)));
        }
    }
    void place(const std::array<core::Offset, 3>& at) {
        for (std::size_t i = 0; i < 3; ++i)
            if (!(at[i] == core::Offset{}))
                json[placeKeys[i]] =
                    Json{{std::string(core::choiceWord(at[i].ref)),
                          measureJson(at[i].value, plainMeasure(at[i].value.value.mm(), core::Source::Drawing))}};
    }
    /// All of a place, or none of it.
    void place(const std::optional<std::array<core::Offset, 3>>& at) {
        if (!at)
            return;
        place(*at);
        if (*at == std::array<core::Offset, 3>{})
            json[placeKeys[0]] = Json{{"low", 0}}; // all zero is still said
    }
    /// What only parts of its kind have sits under the word of that kind: "case": {...}, "fan": {...}.
    void spec(const core::Part& part) {
        core::withSpecOf(part.kind, [&]<class S>() {
            JsonWriter inner(m_defaults);
            fields(inner, std::get<S>(part.spec));
            if (!inner.json.empty())
                json[std::string(core::kindWord(part.kind))] = std::move(inner.json);
        });
    }
    void oneOf(const core::Change& change) {
        std::visit(
            [&]<class C>(const C& c) {
                json["do"] = core::ChangeWords<C>::word;
                fields(*this, c);
            },
            change);
    }
    /// What a bare number stands for.
    static core::Measure plainMeasure(double mm, core::Source source) {
        core::Measure m = core::measureMm(mm, source);
        if (mm == 0)
            m.tolerance = {};
        return m;
    }

    template <class T> static Json toJson(const T& value, Defaults defaults = Defaults::Omit) {
        if constexpr (core::Chosen<T>) {
            return std::string(core::choiceWord(value));
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
    template <class T, std::size_t N>
    static Json toJson(const std::array<T, N>& values, Defaults defaults = Defaults::Omit) {
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

    static constexpr std::array<const char*, 3> placeKeys{"x", "y", "z"};

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
    JsonReader(const Json& json, std::string path, std::vector<core::Problem>& warnings)
        : m_json(json), m_path(std::move(path)), m_warnings(warnings) {
        if (!json.is_object())
            fail(m_path, "is " + typeWord(json), "an object in { }");
    }

    template <class T> void operator()(Key key, T& value) {
        read(wanted(key, "add \"" + std::string(key.text) + "\""), at(key.text), value);
    }
    template <class T> void operator()(Key key, T& value, const T& otherwise) {
        value = otherwise;
        if (const Json* j = found(key))
            read(*j, at(key.text), value);
    }
    template <class T> void optional(Key key, std::optional<T>& value) {
        value = std::nullopt;
        if (const Json* j = found(key); j && !j->is_null()) {
            T v{};
            read(*j, at(key.text), v);
            value = std::move(v);
        }
    }
    void measure(Key key, core::Measure& value, core::Source source) {
        value = readMeasure(wanted(key, "a number of mm, or {\"mm\": 12.5, \"source\": \"caliper\"}"), at(key.text),
                            source);
    }
    template <std::size_t N>
    void measures(Key key, std::array<core::Measure, N>& values, core::Source source, core::SheetKind kind = {}) {
        const Json& j = wanted(key, std::to_string(N) + " sizes in mm");
        if (!j.is_array() || j.size() != N)
            fail(at(key.text), j.is_array() ? "has " + std::to_string(j.size()) + " entries" : "is " + typeWord(j),
                 "an array of " + std::to_string(N) + " sizes in mm");
        for (std::size_t i = 0; i < N; ++i) {
            core::Measure& m = values[i];
            m = readMeasure(j[i], at(key.text) + "[" + std::to_string(i) + "]", source);
            if (kind == core::SheetKind::CoolerOrCard && m.source == core::Source::Sheet && !m.toleranceStated)
                m.tolerance = core::defaultTolerance(m.source, m.value, kind);
        }
    }
    void place(std::array<core::Offset, 3>& offsets) {
        for (std::size_t i = 0; i < 3; ++i) {
            const Json* j = found(JsonWriter::placeKeys[i]);
            offsets[i] = j ? readOffset(*j, at(JsonWriter::placeKeys[i])) : core::Offset{};
        }
    }
    void place(std::optional<std::array<core::Offset, 3>>& offsets) {
        const bool said = m_json.contains("x") || m_json.contains("y") || m_json.contains("z");
        std::array<core::Offset, 3> all;
        place(all);
        offsets = said ? std::optional(all) : std::nullopt;
    }
    void spec(core::Part& part) {
        core::withSpecOf(part.kind, [&]<class S>() {
            const std::string key(core::kindWord(part.kind));
            static const Json empty = Json::object();
            S spec{};
            const Json* j = found(key.c_str());
            read(j ? *j : empty, at(key), spec);
            part.spec = std::move(spec);
        });
    }
    void oneOf(core::Change& change) {
        std::string word, words;
        (*this)("do", word);
        bool known = false;
        core::forEachChange([&]<class C>() {
            words.append(words.empty() ? "one of " : ", ").append(core::ChangeWords<C>::word);
            if (word != core::ChangeWords<C>::word)
                return;
            known = true;
            C c;
            fields(*this, c);
            change = std::move(c);
        });
        if (!known)
            fail(at("do"), "is \"" + word.substr(0, 40) + "\"", words);
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
        case Json::value_t::null:
            return "null";
        case Json::value_t::object:
            return "an object";
        case Json::value_t::array:
            return "an array";
        case Json::value_t::string:
            return "the text \"" + j.get<std::string>().substr(0, 40) + "\"";
        case Json::value_t::boolean:
            return j.get<bool>() ? "true" : "false";
        default:
            return "the number " + j.dump();
        }
    }

private:
    const Json* found(Key key) {
        m_seen.insert(key.text);
        const auto it = m_json.find(key.text);
        return it == m_json.end() ? nullptr : &*it;
    }
    const Json& wanted(Key key, const std::string& remedy) {
        const Json* j = found(key);
        if (!j)
            fail(at(key.text), "is missing", remedy);
        return *j;
    }
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
            read(n, std::string(place).append(".").append(key), v[key]);
    }
    template <core::Chosen E> void read(const Json& j, const std::string& place, E& v) {
        std::string word;
        read(j, place, word);
        if (const auto value = core::choiceFrom<E>(word))
            v = *value;
        else
            fail(place, "is \"" + word.substr(0, 40) + "\"", "one of " + core::choiceList<E>());
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
            fail(place, j.is_array() ? "has " + std::to_string(j.size()) + " entries" : "is " + typeWord(j),
                 "an array of " + std::to_string(N));
        for (std::size_t i = 0; i < N; ++i)
            read(j[i], place + "[" + std::to_string(i) + "]", v[i]);
    }
    template <class T>
    requires(std::is_class_v<T> && !IsList<T> && !core::Chosen<T>) void read(const Json& j, const std::string& place,
                                                                             T& v) {
        JsonReader reader(j, place, m_warnings);
        fields(reader, v);
        reader.finish();
    }
    core::Offset readOffset(const Json& j, const std::string& place) {
        const auto ref = j.is_object() && j.size() == 1 ? core::choiceFrom<core::Ref>(j.begin().key()) : std::nullopt;
        if (!ref)
            fail(place, "is " + typeWord(j),
                 "one of {\"low\": mm}, {\"high\": mm}, {\"centre\": mm}, {\"above\": mm}, {\"below\": mm}");
        return {*ref, readMeasure(j.begin().value(), place + "." + j.begin().key(), core::Source::Drawing)};
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
            fail(place, "is " + typeWord(j),
                 "a number of mm, or {\"mm\": 12.5, \"tol_mm\": 0.1, \"source\": \"caliper\"}");
        core::Measure m{.value = length(j["mm"], place + ".mm"), .source = plain};
        if (j.contains("source"))
            read(j["source"], place + ".source", m.source);
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
