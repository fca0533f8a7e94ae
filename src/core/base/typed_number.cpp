// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/typed_number.h"

#include "core/base/text.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <string>

namespace core {
namespace {

/// A unit as a factor of the first one of its kind; temperatures have a zero of their own.
struct KnownUnit {
    std::string_view text; ///< in small letters
    int kind;
    double factor, zero = 0;
};
constexpr std::array<KnownUnit, 45> known{
    {{"mm", 0, 1},          {"cm", 0, 10},      {"m", 0, 1000},      {"in", 0, 25.4},
     {"inch", 0, 25.4},     {"\"", 0, 25.4},    {"\u2033", 0, 25.4}, {"\u00b5m", 0, 0.001},
     {"m\u00b3/h", 1, 1},   {"m3/h", 1, 1},     {"cfm", 1, 1.699},   {"m\u00b3/s", 1, 3600},
     {"m3/s", 1, 3600},     {"l/s", 1, 3.6},    {"l/min", 1, 0.06},  {"w", 2, 1},
     {"kw", 2, 1000},       {"\u00b0c", 3, 1},  {"c", 3, 1},         {"\u00b0f", 3, 1 / 1.8, 32},
     {"f", 3, 1 / 1.8, 32}, {"k", 4, 1},        {"g", 5, 1},         {"kg", 5, 1000},
     {"lb", 5, 453.59237},  {"oz", 5, 28.3495}, {"mhz", 6, 1},       {"ghz", 6, 1000},
     {"pa", 7, 1},          {"l", 8, 1},        {"ml", 8, 0.001},    {"rpm", 9, 1},
     {"db(a)", 10, 1},      {"dba", 10, 1},     {"db", 10, 1},       {"s", 11, 1},
     {"min", 11, 60},       {"h", 11, 3600},    {"%", 12, 1},        {"a", 13, 1},
     {"ma", 13, 0.001},     {"\u00b0", 14, 1},  {"deg", 14, 1},      {"gb/s", 15, 1},
     {"k/w", 16, 1}}};

const KnownUnit* unitOf(std::string_view text) {
    const std::string small = asciiLower(text);
    const auto it = std::find_if(known.begin(), known.end(), [&](const KnownUnit& u) { return u.text == small; });
    return it == known.end() ? nullptr : &*it;
}

bool isBlank(std::string_view text, std::size_t at, std::size_t& length) {
    length = text[at] == ' ' || text[at] == '\t'     ? 1
             : text.substr(at).starts_with("\u00a0") ? 2
             : text.substr(at).starts_with("\u202f") ? 3
                                                     : 0;
    return length > 0;
}
std::string_view trimmed(std::string_view text) {
    std::size_t n = 0;
    while (!text.empty() && isBlank(text, 0, n))
        text.remove_prefix(n);
    for (bool again = true; again && !text.empty();) {
        again = false;
        for (const std::string_view blank :
             {std::string_view(" "), std::string_view("\t"), std::string_view("\u00a0"), std::string_view("\u202f")})
            if (text.ends_with(blank)) {
                text.remove_suffix(blank.size());
                again = true;
            }
    }
    return text;
}

/// Signs count the same however they are typed.
std::string withPlainSigns(std::string_view text) {
    std::string plain(text);
    for (std::size_t at = 0; (at = plain.find("\u2212", at)) != std::string::npos;)
        plain.replace(at, 3, "-");
    return plain;
}

bool isDigit(std::string_view text, std::size_t at) { return at < text.size() && text[at] >= '0' && text[at] <= '9'; }

/// Where a number ends: its digits and marks, and a power of ten behind them.
std::size_t numberEnd(std::string_view text) {
    std::size_t end = std::min(text.find_first_not_of("0123456789.,"), text.size());
    if (end > 0 && end < text.size() && (text[end] == 'e' || text[end] == 'E')) {
        const std::size_t power =
            end + 1 + (end + 1 < text.size() && (text[end + 1] == '+' || text[end + 1] == '-') ? 1 : 0);
        if (isDigit(text, power))
            end = std::min(text.find_first_not_of("0123456789", power), text.size());
    }
    return end;
}

TypedNumber termOf(std::string_view term, std::string_view unit, std::string_view shown, bool alone) {
    using Wrong = TypedNumber::Wrong;
    term = trimmed(term);
    const std::size_t digits = numberEnd(term);
    std::string number(term.substr(0, digits));
    if (std::count_if(number.begin(), number.end(), [](char c) { return c == '.' || c == ','; }) > 1)
        return {0, Wrong::TwoMarks, shown};
    std::replace(number.begin(), number.end(), ',', '.');
    const auto value = numberFrom(number);
    if (!value || !std::isfinite(*value))
        return {0, Wrong::NoNumber, shown};
    // The unit that stands there may be followed by the one that was typed before it was deleted.
    std::string_view own = trimmed(term.substr(digits));
    if (!unit.empty() && own.ends_with(unit) &&
        trimmed(own.substr(0, own.size() - unit.size())).size() + unit.size() < own.size())
        own = trimmed(own.substr(0, own.size() - unit.size()));
    if (own.empty() || own == unit)
        return {*value, {}, {}};
    const KnownUnit *from = unitOf(own), *to = unitOf(unit);
    if (!from)
        return {0, own.find_first_of("0123456789") != std::string_view::npos ? Wrong::NoNumber : Wrong::UnknownUnit,
                shown};
    if (!to || from->kind != to->kind || (!alone && from->zero != to->zero))
        return {0, Wrong::OtherUnit, shown};
    return {(*value - from->zero) * from->factor / to->factor + to->zero, {}, {}};
}

} // namespace

TypedNumber typedNumber(std::string_view typed, std::string_view unit) {
    using Wrong = TypedNumber::Wrong;
    const std::string_view shown = trimmed(typed);
    const std::string plain = withPlainSigns(shown);
    std::string_view text = plain;
    if (text.empty() || text == unit)
        return {0, Wrong::Empty, shown};
    double sum = 0;
    bool first = true;
    while (!text.empty()) {
        double sign = 1;
        if (text.front() == '+' || text.front() == '-') {
            sign = text.front() == '-' ? -1 : 1;
            text = trimmed(text.substr(1));
        } else if (!first) {
            return {0, Wrong::NoNumber, shown};
        }
        const std::size_t end = std::min(text.find_first_of("+-", numberEnd(text)), text.size());
        const TypedNumber term = termOf(text.substr(0, end), unit, shown, first && end == text.size());
        if (term.wrong != Wrong::Nothing)
            return term;
        sum += sign * term.value;
        text = text.substr(end);
        first = false;
    }
    return {sum, {}, {}};
}

} // namespace core
