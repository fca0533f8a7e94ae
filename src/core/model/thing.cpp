// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/thing.h"

#include "core/base/text.h"

#include <algorithm>
#include <type_traits>
#include <vector>

namespace core {

Thing::Thing() = default;
Thing::Thing(const Thing& other) = default;
Thing::Thing(Thing&& other) noexcept = default;
Thing& Thing::operator=(const Thing& other) = default;
Thing& Thing::operator=(Thing&& other) noexcept = default;
Thing::~Thing() = default;
bool operator==(const Thing& a, const Thing& b) {
    return static_cast<const AnyThing&>(a) == static_cast<const AnyThing&>(b);
}
std::strong_ordering operator<=>(const Thing& a, const Thing& b) {
    return static_cast<const AnyThing&>(a) <=> static_cast<const AnyThing&>(b);
}
namespace {

constexpr std::array<std::string_view, 6> totalWords{"noise", "power", "volume", "balance", "mass", "price"};
constexpr std::array<std::string_view, 3> stepWords{"place", "lead", "modify"};

// ---- one row a kind: its word, and its fields in order ----
template <class Ref> constexpr std::string_view kindOf = {};
template <> constexpr std::string_view kindOf<PartRef> = "part";
template <> constexpr std::string_view kindOf<FanRef> = "fan";
template <> constexpr std::string_view kindOf<GapRef> = "gap";
template <> constexpr std::string_view kindOf<OpeningRef> = "opening";
template <> constexpr std::string_view kindOf<ChamberRef> = "chamber";
template <> constexpr std::string_view kindOf<PortRef> = "port";
template <> constexpr std::string_view kindOf<LeadRef> = "lead";
template <> constexpr std::string_view kindOf<TargetRef> = "target";
template <> constexpr std::string_view kindOf<RevisionRef> = "revision";
template <> constexpr std::string_view kindOf<RunRef> = "run";
template <> constexpr std::string_view kindOf<ChannelRef> = "channel";
template <> constexpr std::string_view kindOf<StepRef> = "step";
template <> constexpr std::string_view kindOf<MadeRef> = "made";
template <> constexpr std::string_view kindOf<ScrewRef> = "screws";
template <> constexpr std::string_view kindOf<RoomRef> = "room";
template <> constexpr std::string_view kindOf<WayRef> = "way";
template <> constexpr std::string_view kindOf<DimensionRef> = "measure";
template <> constexpr std::string_view kindOf<MendRef> = "mend";
template <> constexpr std::string_view kindOf<TotalRef> = "total";
template <> constexpr std::string_view kindOf<TopicRef> = "topic";
template <> constexpr std::string_view kindOf<BranchRef> = "branch";

template <class Ref, class... Kinds> constexpr bool isOneOf = (std::is_same_v<std::remove_const_t<Ref>, Kinds> || ...);

/// Hands the fields of a reference to @p act, in the order in which they are written.
template <class Act, class Ref> void fieldsOf(Act& act, Ref& r) {
    const auto each = [&](auto&... fields) { (act(fields), ...); };
    if constexpr (isOneOf<Ref, PartRef, FanRef, WayRef>)
        each(r.mount);
    else if constexpr (isOneOf<Ref, OpeningRef, ChamberRef, RevisionRef, RunRef>)
        each(r.id);
    else if constexpr (isOneOf<Ref, GapRef>)
        each(r.ends[0], r.ends[1], r.axis, r.copy);
    else if constexpr (isOneOf<Ref, PortRef>)
        each(r.mount, r.kind, r.number);
    else if constexpr (isOneOf<Ref, LeadRef>)
        each(r.part, r.from, r.copy);
    else if constexpr (isOneOf<Ref, TargetRef>)
        each(r.id, r.revision);
    else if constexpr (isOneOf<Ref, ChannelRef>)
        each(r.run, r.channel);
    else if constexpr (isOneOf<Ref, StepRef>)
        each(r.kind, r.id, r.from);
    else if constexpr (isOneOf<Ref, MadeRef>)
        each(r.part);
    else if constexpr (isOneOf<Ref, ScrewRef>)
        each(r.kind);
    else if constexpr (isOneOf<Ref, RoomRef>)
        each(r.mount, r.own);
    else if constexpr (isOneOf<Ref, DimensionRef>)
        each(r.label);
    else if constexpr (isOneOf<Ref, MendRef>)
        each(r.row, r.gap.ends[0], r.gap.ends[1], r.gap.axis, r.gap.copy);
    else if constexpr (isOneOf<Ref, TotalRef>)
        each(r.total);
    else
        each(r.name);
}

// ---- writing ----
std::string escaped(std::string_view text) {
    constexpr std::string_view hex = "0123456789abcdef";
    std::string out;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte < 0x20 || byte == 0x7f || c == '%' || c == '|' || c == '#') {
            out += '%';
            out += hex[byte >> 4];
            out += hex[byte & 15];
        } else {
            out += c;
        }
    }
    return out;
}

struct Writer {
    std::string out;
    bool first = true;
    void put(std::string_view text) {
        if (!first)
            out += '|';
        first = false;
        out += text;
    }
    void operator()(const std::string& text) { put(escaped(text)); }
    void operator()(std::size_t number) { put(std::to_string(number)); }
    void operator()(int number) { put(std::to_string(number)); }
    void operator()(Axis axis) { put(std::string(1, static_cast<char>('x' + static_cast<int>(axis)))); }
    void operator()(Total total) { put(totalWord(total)); }
    void operator()(StepKind kind) { put(stepWords[static_cast<std::size_t>(kind)]); }
    void operator()(const GapEndRef& end) {
        put(escaped(end.mount) + (end.item.empty() ? "" : "#" + escaped(end.item)));
    }
};

// ---- reading ----
std::optional<int> digit(char c) {
    if (c >= '0' && c <= '9')
        return c - '0';
    const char low = asciiLower(c);
    return low >= 'a' && low <= 'f' ? std::optional(low - 'a' + 10) : std::nullopt;
}

struct Reader {
    std::vector<std::string_view> fields;
    std::size_t next = 0;
    std::string wrong; ///< the first thing that was not as it should be

    std::string_view take() {
        if (next >= fields.size()) {
            fail("it has " + std::to_string(fields.size()) + " fields, more are wanted");
            return {};
        }
        return fields[next++];
    }
    void fail(std::string why) {
        if (wrong.empty())
            wrong = std::move(why);
    }
    std::string plain(std::string_view text) {
        std::string out;
        for (std::size_t i = 0; i < text.size(); ++i) {
            if (text[i] != '%') {
                out += text[i];
                continue;
            }
            const auto high = i + 1 < text.size() ? digit(text[i + 1]) : std::nullopt,
                       low = i + 2 < text.size() ? digit(text[i + 2]) : std::nullopt;
            if (!high || !low) {
                fail("\"%\" is not followed by two hexadecimal digits");
                return out;
            }
            out += static_cast<char>(*high * 16 + *low);
            i += 2;
        }
        return out;
    }
    double whole(double least) {
        const std::string_view text = take();
        const auto number = numberFrom(text);
        if (!number || *number < least || *number > 1e6 || *number != static_cast<double>(static_cast<int>(*number))) {
            fail("\"" + std::string(text) + "\" is no count");
            return least;
        }
        return *number;
    }
    void operator()(std::string& text) { text = plain(take()); }
    void operator()(std::size_t& number) { number = static_cast<std::size_t>(whole(0)); }
    void operator()(int& number) { number = static_cast<int>(whole(0)); }
    void operator()(Axis& axis) {
        const std::string_view text = take();
        if (text.size() == 1 && text[0] >= 'x' && text[0] <= 'z')
            axis = static_cast<Axis>(text[0] - 'x');
        else
            fail("\"" + std::string(text) + "\" is no axis; x, y or z");
    }
    template <class Enum, std::size_t N>
    void word(Enum& value, const std::array<std::string_view, N>& words, const char* wanted) {
        const std::string_view text = take();
        const auto at = std::find(words.begin(), words.end(), text);
        if (at == words.end())
            fail("\"" + std::string(text) + "\" is not one of " + wanted);
        else
            value = static_cast<Enum>(at - words.begin());
    }
    void operator()(Total& total) { word(total, totalWords, "noise, power, volume, balance, mass, price"); }
    void operator()(StepKind& kind) { word(kind, stepWords, "place, lead, modify"); }
    void operator()(GapEndRef& end) {
        const std::string_view text = take();
        const auto cut = text.find('#');
        end.mount = plain(text.substr(0, cut));
        end.item = cut == std::string_view::npos ? std::string{} : plain(text.substr(cut + 1));
    }
};

std::vector<std::string_view> split(std::string_view text) {
    std::vector<std::string_view> fields;
    for (std::size_t from = 0;;) {
        const auto bar = text.find('|', from);
        fields.push_back(text.substr(from, bar == std::string_view::npos ? bar : bar - from));
        if (bar == std::string_view::npos)
            return fields;
        from = bar + 1;
    }
}

/// Tries the kinds of the variant one after another.
template <std::size_t I = 1>
Result<Thing> readKind(std::string_view whole, std::string_view kind, std::string_view rest) {
    if constexpr (I == std::variant_size_v<AnyThing>) {
        return problem("thing \"" + std::string(whole) + "\"", "\"" + std::string(kind) + "\" is no kind of thing",
                       "e.g. part:tray/cpu, target:noise or total:power");
    } else {
        using Ref = std::variant_alternative_t<I, AnyThing>;
        if (kind != kindOf<Ref>)
            return readKind<I + 1>(whole, kind, rest);
        Ref ref;
        Reader reader{split(rest)};
        fieldsOf(reader, ref);
        if (reader.next < reader.fields.size())
            reader.fail("it has " + std::to_string(reader.fields.size()) + " fields, " + std::to_string(reader.next) +
                        " are wanted");
        if (!reader.wrong.empty())
            return problem("thing \"" + std::string(whole) + "\"", reader.wrong,
                           "fields between bars, as the program writes them");
        return Thing(std::move(ref));
    }
}

} // namespace

std::string_view totalWord(Total total) { return totalWords[static_cast<std::size_t>(total)]; }

std::string textOf(const Thing& thing) {
    return std::visit(
        []<class Ref>(const Ref& ref) -> std::string {
            if constexpr (std::is_same_v<Ref, std::monostate>) {
                return {};
            } else {
                Writer writer;
                fieldsOf(writer, ref);
                return std::string(kindOf<Ref>) + ":" + writer.out;
            }
        },
        thing);
}

Result<Thing> thingFrom(std::string_view text) {
    if (text.empty())
        return Thing{};
    const auto colon = text.find(':');
    return readKind(text, text.substr(0, colon),
                    colon == std::string_view::npos ? std::string_view{} : text.substr(colon + 1));
}

std::string_view mountOf(const Thing& thing) {
    return std::visit(
        [](const auto& ref) -> std::string_view {
            if constexpr (requires { ref.mount; })
                return ref.mount;
            else
                return {};
        },
        thing);
}

std::string subjectOf(const Thing& thing) {
    return std::visit(
        []<class Ref>(const Ref& ref) -> std::string {
            if constexpr (std::is_same_v<Ref, PortRef>) // several of a part may have a finding each
                return ref.mount + ":" + ref.kind + (ref.number > 0 ? " " + std::to_string(ref.number + 1) : "");
            else if constexpr (requires { ref.mount; })
                return ref.mount;
            else if constexpr (requires { ref.id; })
                return ref.id;
            else if constexpr (requires { ref.part; })
                return ref.part;
            else if constexpr (requires { ref.name; })
                return ref.name;
            else if constexpr (std::is_same_v<Ref, TotalRef>)
                return std::string(totalWord(ref.total));
            else
                return textOf(ref);
        },
        thing);
}

} // namespace core

std::size_t std::hash<core::Thing>::operator()(const core::Thing& thing) const noexcept {
    return std::hash<std::string>{}(core::textOf(thing));
}
