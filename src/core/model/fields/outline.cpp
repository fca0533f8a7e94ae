// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/fields/outline.h"

#include "core/base/text.h"
#include "core/model/fields/project_fields.h"

namespace core {
namespace {

template <class T>
concept OutlinedList = !std::same_as<T, std::string> && requires {
    typename T::value_type;
}
&&!requires { typename T::key_type; };

std::string wordsOf(const std::string& v) { return v.empty() ? std::string{} : "\"" + v + "\""; }
std::string wordsOf(bool v) { return v ? "true" : "false"; }
std::string wordsOf(double v) { return shortest(v); }
std::string wordsOf(int v) { return std::to_string(v); }
template <Chosen E> std::string wordsOf(const E& v) { return "\"" + std::string(choiceWord(v)) + "\""; }
template <class T> std::string wordsOf(const T&) { return {}; }

/// The archive that writes down what it is told of each field. It walks over values as they are made, with nothing in
/// them.
class Outliner {
public:
    explicit Outliner(std::vector<StructOutline>& all) : m_all(all) {}

    template <class F, class T> void operator()(const F& field, const T&) { add<T>(field, true, {}); }
    template <class F, class T> void operator()(const F& field, const T&, const T& otherwise) {
        add<T>(field, false, wordsOf(otherwise));
    }
    template <class F, class T> void optional(const F& field, const std::optional<T>&) { add<T>(field, false, {}); }
    void measure(const NumberField& field, const Measure&, Source source) { size(field, {}, source); }
    template <std::size_t N>
    void measures(const NumberField& field, const std::array<Measure, N>&, Source source, SheetKind = {}) {
        size(field, {static_cast<int>(N)}, source);
    }
    void place(const std::array<Offset, 3>&) { offsets(""); }
    void place(const std::optional<std::array<Offset, 3>>&) { offsets("All three or none: as in the mount"); }
    void spec(const Part&) {
        for (const auto& kind : ChoicesOf<PartKind>::all)
            withSpecOf(kind.value, [&]<class S>() {
                FieldOutline& f = add<S>(group(kind.word.data(), ""), false, {});
                f.about.help = "Of this kind alone";
            });
    }
    void oneOf(const Change&) {
        forEachChange([&]<class C>() {
            std::vector<FieldOutline> mine;
            Outliner inner(m_all); // a struct that only a change has is told of like every other
            inner.m_fields = &mine;
            const C change{};
            fields(inner, change);
            kinds.push_back({ChangeWords<C>::word, ChangeWords<C>::about, std::move(mine), {}});
        });
    }
    template <class T> void walk() {
        const std::string name = Described<T>::name;
        for (const StructOutline& known : m_all)
            if (known.name == name)
                return;
        const std::size_t at = m_all.size();
        m_all.push_back({name, Described<T>::about, {}, {}});
        std::vector<FieldOutline> mine;
        Outliner inner(m_all);
        inner.m_fields = &mine;
        const T value{};
        fields(inner, value);
        m_all[at].fields = std::move(mine);
        m_all[at].oneOf = std::move(inner.kinds);
    }

private:
    template <class T, class F> FieldOutline& add(const F& field, bool required, std::string otherwise) {
        FieldOutline f;
        if constexpr (std::same_as<F, NumberField>)
            f.about = field;
        else
            static_cast<Field&>(f.about) = field;
        f.required = required;
        f.otherwise = std::move(otherwise);
        describe<T>(f);
        m_fields->push_back(std::move(f));
        return m_fields->back();
    }
    template <class T> void describe(FieldOutline& f) {
        if constexpr (std::same_as<T, bool>) {
            f.holds = Holds::Flag;
        } else if constexpr (std::integral<T>) {
            f.holds = Holds::Whole;
        } else if constexpr (std::floating_point<T> || std::same_as<T, Length>) {
            f.holds = Holds::Number;
        } else if constexpr (Chosen<T>) {
            f.holds = Holds::Choice;
            for (const auto& choice : ChoicesOf<T>::all)
                f.choices.emplace_back(choice.word);
        } else if constexpr (requires { typename T::key_type; }) {
            f.holds = Holds::Counts;
        } else if constexpr (OutlinedList<T>) {
            f.items.push_back(fixedSize<T>());
            describe<typename T::value_type>(f);
        } else if constexpr (!std::same_as<T, std::string>) {
            f.holds = Holds::Struct;
            f.structName = Described<T>::name;
            walk<T>();
        }
    }
    template <class T> static constexpr int fixedSize() {
        if constexpr (requires { std::tuple_size<T>::value; })
            return static_cast<int>(std::tuple_size<T>::value);
        else
            return 0;
    }
    void size(const NumberField& field, std::vector<int> items, Source source) {
        m_fields->push_back({.about = field,
                             .holds = Holds::Size,
                             .items = std::move(items),
                             .source = std::string(sourceWord(source))});
    }
    void offsets(const char* help) {
        for (const char* key : {"x", "y", "z"})
            m_fields->push_back({.about = number(key, unit::mm, -2000, 2000, "Offset", help),
                                 .holds = Holds::Offset,
                                 .required = false,
                                 .source = "drawing"});
    }

    std::vector<StructOutline>& m_all;
    std::vector<FieldOutline>* m_fields = nullptr;
    std::vector<StructOutline> kinds;
};

} // namespace

std::vector<StructOutline> outlines() {
    std::vector<StructOutline> all;
    Outliner outliner(all);
    outliner.walk<Project>();
    outliner.walk<Run>();
    outliner.walk<Channel>();
    return all;
}

} // namespace core
