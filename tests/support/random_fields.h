// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/project_fields.h"

#include <rapidcheck.h>

// Random values of every field, from the field lists: a field that is added is tried by the round trip without more
// words.
namespace support {

/// Names may hold anything that people type.
inline rc::Gen<std::string> anyName() {
    return rc::gen::element<std::string>("Plain", "With, comma", "\"Quoted\"", "Größe ±0,5", "line\nbreak", "tab\there",
                                         "emoji \xF0\x9F\x94\xA7", "trailing \\", "<b>&amp;");
}
inline rc::Gen<double> within(double low, double high) {
    return rc::gen::map(rc::gen::inRange(0, 1'000'001), [=](int i) { return low + (high - low) * i / 1e6; });
}

/// The archive that fills what it is shown. Texts that name something stay empty: the test says what there is to name.
class RandomFields {
public:
    template <class F, class T> void operator()(const F& field, T& value) { fill(field, value); }
    template <class F, class T> void operator()(const F& field, T& value, const T& otherwise) {
        value = otherwise;
        if (*rc::gen::inRange(0, 4))
            fill(field, value);
    }
    template <class F, class T> void optional(const F& field, std::optional<T>& value) {
        value = std::nullopt;
        if (*rc::gen::arbitrary<bool>())
            fill(field, value.emplace());
    }
    void measure(const core::NumberField& field, core::Measure& value, core::Source) { fill(field, value); }
    template <std::size_t N>
    void measures(const core::NumberField& field, std::array<core::Measure, N>& values, core::Source,
                  core::SheetKind = {}) {
        fill(field, values);
    }
    void place(std::array<core::Offset, 3>& at) {
        for (core::Offset& o : at) {
            fill(core::choice("", ""), o.ref);
            fill(core::number("", core::unit::mm, -2000, 2000, ""), o.value);
        }
    }
    void place(std::optional<std::array<core::Offset, 3>>& at) {
        at = std::nullopt;
        if (*rc::gen::arbitrary<bool>())
            place(at.emplace());
    }
    void spec(core::Part& part) {
        core::withSpecOf(part.kind, [&]<class S>() {
            S s{};
            fields(*this, s);
            part.spec = std::move(s);
        });
    }
    void oneOf(core::Change& change) {
        const auto wanted =
            static_cast<std::size_t>(*rc::gen::inRange(0, static_cast<int>(std::variant_size_v<core::AnyChange>)));
        std::size_t i = 0;
        core::forEachChange([&]<class C>() {
            if (i++ != wanted)
                return;
            C c;
            fields(*this, c);
            change = std::move(c);
        });
    }

private:
    template <class F> void fill(const F& field, std::string& v) {
        v = std::string_view(field.key) == "id"   ? "id-" + std::to_string(++m_ids)
            : field.names != core::Names::Nothing ? std::string{}
                                                  : *anyName();
    }
    template <class F> void fill(const F&, bool& v) { v = *rc::gen::arbitrary<bool>(); }
    void fill(const core::NumberField& field, double& v) {
        v = field.zeroIsUnstated && !*rc::gen::inRange(0, 4) ? 0 : *within(field.low, field.high);
    }
    void fill(const core::NumberField& field, int& v) {
        v = *rc::gen::inRange(static_cast<int>(field.low), static_cast<int>(field.high) + 1);
    }
    void fill(const core::NumberField& field, core::Length& v) {
        v = core::Length::fromMm(*within(field.low, field.high));
    }
    void fill(const core::NumberField& field, core::Measure& v) {
        fill(field, v.value);
        fill(core::choice("", ""), v.source);
        v.toleranceStated = *rc::gen::arbitrary<bool>();
        v.tolerance =
            v.toleranceStated ? core::Length::fromMm(*within(0, 100)) : core::defaultTolerance(v.source, v.value);
    }
    void fill(const core::NumberField& field, std::map<std::string, int>& v) {
        v.clear();
        for (int i = 0, n = *rc::gen::inRange(0, 3); i < n; ++i)
            fill(field, v[*anyName()]);
    }
    template <class F, core::Chosen E> void fill(const F&, E& v) {
        constexpr int count = static_cast<int>(core::ChoicesOf<E>::all.size());
        v = core::ChoicesOf<E>::all[static_cast<std::size_t>(*rc::gen::inRange(0, count))].value;
    }
    template <class F, class T, std::size_t N> void fill(const F& field, std::array<T, N>& v) {
        for (T& item : v)
            fill(field, item);
    }
    template <class F, class T> void fill(const F& field, std::vector<T>& v) { several(field, v); }
    template <class F, class T> void fill(const F& field, core::SharedList<T>& v) { several(field, v); }
    template <class F, class List> void several(const F& field, List& v) {
        v.clear();
        for (int i = 0, n = *rc::gen::inRange(field.least, field.least + 3); i < n; ++i) {
            typename List::value_type item{};
            fill(field, item);
            v.push_back(std::move(item));
        }
    }
    template <class F, class T>
    requires(std::is_class_v<T> && !core::Chosen<T>) void fill(const F&, T& v) { fields(*this, v); }

    int m_ids = 0;
};

template <class T> T randomValue() {
    T value{};
    RandomFields random;
    fields(random, value);
    return value;
}

} // namespace support
