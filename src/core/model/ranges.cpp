// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/ranges.h"

#include "core/base/text.h"
#include "core/model/fields/project_fields.h"

namespace core {
namespace {

/// Where a walk over the fields is: made into words only when something is wrong there.
struct Place {
    const Place* up = nullptr;
    const char* key = "";
    long index = -1;                 ///< in a list
    const std::string* id = nullptr; ///< of that item, for people

    [[nodiscard]] std::string text() const {
        std::string t = up ? up->text() : std::string{};
        if (index >= 0)
            t += "[" + std::to_string(index) + "]" + (id && !id->empty() ? " (" + *id + ")" : "");
        else if (*key)
            t += (t.empty() ? "" : ".") + std::string(key);
        return t;
    }
};

template <class T>
concept Text = std::same_as<T, std::string>;
template <class T>
concept Number = std::is_arithmetic_v<T> && !std::same_as<T, bool>;
template <class T>
concept Words = Chosen<T> || std::same_as<T, bool> || Text<T>;
template <class T>
concept Items = !Text<T> && requires(const T& list) {
    list.begin();
    list.size();
    list[0];
};

/// The archive that looks whether every number is within the range of its field. A number in a field without a range
/// does not compile.
class RangeCheck {
public:
    RangeCheck(const std::function<void(Problem)>& add, const Project& sound, Place at = {})
        : m_add(add), m_sound(sound), m_at(at) {}

    template <class F, class T> void operator()(const F& field, const T& value) {
        look(field, value, {&m_at, field.key});
    }
    template <class F, class T> void operator()(const F& field, const T& value, const T&) { (*this)(field, value); }
    template <class F, class T> void optional(const F& field, const std::optional<T>& value) {
        if (value)
            (*this)(field, *value);
    }
    void measure(const NumberField& field, const Measure& value, Source) { (*this)(field, value); }
    template <std::size_t N>
    void measures(const NumberField& field, const std::array<Measure, N>& values, Source, SheetKind = {}) {
        (*this)(field, values);
    }
    void place(const std::array<Offset, 3>& offsets) {
        static constexpr std::array fields{number("x", unit::mm, -2000, 2000, ""),
                                           number("y", unit::mm, -2000, 2000, ""),
                                           number("z", unit::mm, -2000, 2000, "")};
        for (std::size_t i = 0; i < 3; ++i)
            (*this)(fields[i], offsets[i].value);
    }
    void place(const std::optional<std::array<Offset, 3>>& offsets) {
        if (offsets)
            place(*offsets);
    }
    void spec(const Part& part) {
        withSpecOf(part.kind, [&]<class S>() {
            if (const S* s = std::get_if<S>(&part.spec))
                look(Field{}, *s, {&m_at, kindWord(part.kind).data()});
        });
    }
    void oneOf(const Change& change) {
        std::visit([&](const auto& c) { fields(*this, c); }, change);
    }

private:
    template <class F, Words T> void look(const F&, const T&, const Place&) {}
    template <class F, Number T> void look(const F& field, const T& value, const Place& place) {
        static_assert(std::same_as<F, NumberField>, "a number needs a range: number(key, unit, low, high, ...)");
        if (field.holds(static_cast<double>(value)))
            return;
        const std::string u = *field.unit.text ? std::string(" ") + field.unit.text : std::string{};
        m_add({place.text(), "the value " + shortest(static_cast<double>(value)) + u + " is out of range",
               std::string(field.zeroIsUnstated ? "0, or " : "") + "from " + shortest(field.low) + " to " +
                   shortest(field.high) + u});
    }
    template <class F> void look(const F& field, const Length& value, const Place& place) {
        look(field, value.mm(), place);
    }
    template <class F> void look(const F& field, const Measure& value, const Place& place) {
        look(field, value.value, place);
        look(number("tol_mm", unit::mm, 0, 100, ""), value.tolerance, {&place, "tol_mm"});
    }
    template <class F> void look(const F& field, const std::map<std::string, int>& counts, const Place& place) {
        for (const auto& [kind, count] : counts)
            look(field, count, {&place, kind.c_str()});
    }
    template <class F, Items T> void look(const F& field, const T& items, const Place& place) {
        const auto* sound = soundList(items);
        for (std::size_t i = 0; i < items.size(); ++i) {
            Place here{&place, "", static_cast<long>(i)};
            if constexpr (requires { items.isSame(i, items); })
                if (sound && items.isSame(i, *sound))
                    continue;
            if constexpr (requires { items[i].id; })
                here.id = &items[i].id;
            look(field, items[i], here);
        }
    }
    /// A struct: its own fields.
    template <class F, class T>
    requires(std::is_class_v<T> && !Words<T> && !Items<T>) void look(const F&, const T& value, const Place& place) {
        RangeCheck inner(m_add, m_sound, place);
        fields(inner, value);
    }

    // What the sound project holds as well was found to be in range before.
    const SharedList<Part>* soundList(const SharedList<Part>&) const { return &m_sound.shelf; }
    const SharedList<Revision>* soundList(const SharedList<Revision>&) const { return &m_sound.revisions; }
    const SharedList<Run>* soundList(const SharedList<Run>&) const { return &m_sound.runs; }
    template <class T> const T* soundList(const T&) const { return nullptr; }

    const std::function<void(Problem)>& m_add;
    const Project& m_sound;
    Place m_at;
};

} // namespace

void checkRanges(const Project& project, const std::function<void(Problem)>& add, const Project* sound) {
    static const Project nothing;
    RangeCheck check(add, sound ? *sound : nothing);
    fields(check, project);
    check(list("runs", ""), project.runs); // their readings are elsewhere, and so are their heads
}

} // namespace core
