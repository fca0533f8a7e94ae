// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/show.h"

#include <string_view>

// What is said of a field, once: fields(archive, value) of a struct hands each of its members to the archive together
// with what is written here. Reading, writing, ranges, the schemas, the tables of docs/format.md, forms and random
// values follow.
//
// An archive answers to
//   archive(field, member)             the field must be there
//   archive(field, member, otherwise)  it may be left out, and is @c otherwise then
//   archive.optional(field, member)    std::optional: it may be left out, and nothing is there then
//   archive.measure(field, member, source), .measures(field, array, source, kind)   sizes to which a source belongs; a
//   bare number has this one. What a published standard lays down says so: .by("its name").
//   archive.place(array or optional array of three offsets)   "x", "y" and "z" together
//   archive.spec(part)                 what only parts of its kind have
//   archive.oneOf(change)              "do" and the fields of that change
namespace core {

/// How a number is stored, and as what it is shown to people.
struct Unit {
    const char* text = "";              ///< as stored, e.g. "mm"
    Quantity quantity = Quantity::None; ///< as which it is shown
    double factor = 1;                  ///< from what is stored to what Show takes
    int decimals = 1;                   ///< of a form, where its quantity does not say
};

namespace unit {
inline constexpr Unit none{}, share{"", Quantity::Share}, mm{"mm", Quantity::Length}, m{"m"},
    celsius{"°C", Quantity::Temperature}, kelvin{"K", Quantity::TemperatureDifference}, watt{"W", Quantity::Power},
    gram{"g", Quantity::Mass}, money{"", Quantity::Money}, minutes{"min", Quantity::None, 1, 0}, seconds{"s"},
    years{"years"}, degrees{"°"}, megahertz{"MHz", Quantity::Clock}, kelvinPerWatt{"K/W", Quantity::None, 1, 3},
    rpm{"rpm", Quantity::Speed}, cubicMetresPerSecond{"m³/s", Quantity::Flow, 3600}, pascal{"Pa", Quantity::Pressure},
    dba{"dB(A)", Quantity::Level}, ampere{"A", Quantity::None, 1, 2}, gigabits{"Gb/s"}, cubicCentimetres{"cm³"},
    cubicMillimetresPerSecond{"mm³/s"};
}

/// What a text is the name of, when it is one: where it is looked up, and what a form offers.
enum class Names {
    Nothing,
    Part,
    CasePart,
    LeadPart,
    Load,
    Revision,
    Chamber,
    Place,
    TakenPlace,
    FreePlace,
    SwapPlace,
    TurnedPlace,
    FanPlace,
    PoweredPlace,
    PluggedPlace,
    VariedPlace,
    Variant,
    Opening,
    ScreenedOpening,
    Modification,
    Port,
    End,
    ServedEnd,
    JoinedLead,
    JoinedEnd,
    RoutedEnd,
    AngledWay,
    Plug
};

/// A field that is no number.
struct Field {
    const char* key;
    const char* label;     ///< on a form
    const char* help = ""; ///< one sentence, or nothing where the label says it all
    Names names = Names::Nothing;
    int least = 0;             ///< items of a list
    const char* standard = ""; ///< the published standard that lays down what it may be; nothing where there is none

    [[nodiscard]] constexpr Field naming(Names what) const {
        Field f = *this;
        f.names = what;
        return f;
    }
    [[nodiscard]] constexpr Field by(const char* published) const {
        Field f = *this;
        f.standard = published;
        return f;
    }
    [[nodiscard]] constexpr Field atLeast(int items) const {
        Field f = *this;
        f.least = items;
        return f;
    }
};

/// A number has a range in which it means something. The limits are generous: what is beyond them is a slip of the hand
/// or a broken file, and would make figures of nothing. Limits are engineering judgement.
struct NumberField : Field {
    Unit unit;
    double low = 0, high = 0;
    bool zeroIsUnstated = false; ///< 0 stands for "not stated" and is taken as well

    [[nodiscard]] constexpr NumberField by(const char* published) const {
        NumberField f = *this;
        f.standard = published;
        return f;
    }
    [[nodiscard]] constexpr bool holds(double value) const {
        return (value >= low && value <= high) || (zeroIsUnstated && value == 0);
    }
};

constexpr Field text(const char* key, const char* label, const char* help = "") { return {key, label, help}; }
constexpr Field choice(const char* key, const char* label, const char* help = "") { return {key, label, help}; }
constexpr Field flag(const char* key, const char* label, const char* help = "") { return {key, label, help}; }
constexpr Field list(const char* key, const char* label, const char* help = "") { return {key, label, help}; }
constexpr Field group(const char* key, const char* label, const char* help = "") { return {key, label, help}; }
constexpr NumberField number(const char* key, Unit unit, double low, double high, const char* label,
                             const char* help = "") {
    return {{key, label, help}, unit, low, high};
}
/// 0 when it is not stated.
constexpr NumberField stated(const char* key, Unit unit, double low, double high, const char* label,
                             const char* help = "") {
    return {{key, label, help}, unit, low, high, true};
}

/// What a struct is called where it is described: in the schemas and in docs/format.md. Specialised by MD_FIELDS.
template <class T> struct Described;

} // namespace core

/// The list of fields of @p Type, after its name and one sentence for people who write it by hand.
#define MD_FIELDS(Type, nameText, aboutText)                                                                           \
    template <> struct Described<Type> { static constexpr const char *name = nameText, *about = aboutText; };          \
    template <class A, class T>                                                                                        \
    requires std::same_as<std::remove_const_t<T>, Type>                                                                \
    void fields(A& a, T& v)
