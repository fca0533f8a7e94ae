// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"

#include <charconv>
#include <cmath>

namespace core {
namespace {

/// Room for every double: 309 digits before the point, and the decimals asked for.
std::string digits(double value, int decimals) {
    char buffer[352];
    const auto end = std::to_chars(buffer, buffer + sizeof buffer, value, std::chars_format::fixed, decimals);
    return end.ec == std::errc{} ? std::string(buffer, end.ptr) : std::string("0");
}

bool isZero(const std::string& text) { return text.find_first_not_of("-0.") == std::string::npos; }

} // namespace

std::string fixed(double value, int decimals) {
    if (!std::isfinite(value))
        return "none";
    const std::string text = digits(std::abs(value), decimals);
    return value < 0 && !isZero(text) ? "\u2212" + text : text;
}

std::string withSign(double value, int decimals) {
    std::string text = fixed(value, decimals);
    return value > 0 && std::isfinite(value) && !isZero(text) ? "+" + text : text;
}

std::string plainFixed(double value, int decimals) {
    const std::string text = digits(std::isfinite(value) ? value : 0, decimals);
    return isZero(text) && text.starts_with('-') ? text.substr(1) : text;
}

std::string shortest(double value) {
    if (!std::isfinite(value))
        return std::isnan(value) ? "nan" : value > 0 ? "inf" : "-inf";
    char buffer[32];
    return {buffer, std::to_chars(buffer, buffer + sizeof buffer, value).ptr};
}

std::optional<double> numberFrom(std::string_view text) {
    double value = 0;
    const auto r = std::from_chars(text.data(), text.data() + text.size(), value);
    if (text.empty() || r.ec != std::errc{} || r.ptr != text.data() + text.size())
        return std::nullopt;
    return value;
}

std::string asciiLower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = asciiLower(c);
    return out;
}

std::string printable(std::string_view text, LineEnds lines) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto c = static_cast<unsigned char>(text[i]);
        // C1 controls are C2 80 to C2 9F in UTF-8; a terminal obeys them as it obeys ESC.
        const bool c1 = c == 0xC2 && i + 1 < text.size() && static_cast<unsigned char>(text[i + 1]) < 0xA0;
        if (c1)
            ++i;
        if (!c1 && (c == '\n' || c == '\t') && lines == LineEnds::Keep)
            out += text[i];
        else if (c1 || c < 0x20 || c == 0x7F)
            out += "\uFFFD";
        else
            out += text[i];
    }
    return out;
}

std::string fileNameFrom(std::string_view text) {
    constexpr std::size_t longest = 80;
    std::string name;
    for (const char c : text.substr(0, longest))
        name += isAsciiAlnum(c) || c == '-' || c == '_' || c == '.' ? c : '-';
    if (name.starts_with('.'))
        name.front() = '-';
    while (name.ends_with('.'))
        name.back() = '-';
    return name.empty() ? "unnamed" : name;
}

} // namespace core
