// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"

#include <charconv>
#include <cmath>

namespace core {

std::string fixed(double value, int decimals) {
    if (!std::isfinite(value))
        return "none";
    char buffer[64];
    const auto end = std::to_chars(buffer, buffer + sizeof buffer, std::abs(value), std::chars_format::fixed, decimals).ptr;
    std::string text(buffer, end);
    const bool zero = text.find_first_not_of("0.") == std::string::npos;
    return value < 0 && !zero ? "\u2212" + text : text;
}

std::string withSign(double value, int decimals) {
    std::string text = fixed(value, decimals);
    const bool zero = text.find_first_not_of("0.") == std::string::npos;
    return value > 0 && !zero ? "+" + text : text;
}

} // namespace core
