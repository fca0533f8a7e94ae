// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/csv_field.h"

namespace core {

bool isFormula(std::string_view text) {
    const auto at = text.find_first_not_of('\'');
    return at != std::string_view::npos && std::string_view("=+-@\t\r").find(text[at]) != std::string_view::npos;
}

std::string csvField(std::string_view text) {
    std::string safe = (isFormula(text) ? "'" : "") + std::string(text);
    const bool plain = safe.find_first_of("\",;|\t\r\n") == std::string::npos && !safe.empty() && safe.front() != ' ' &&
                       safe.back() != ' ';
    if (plain)
        return safe;
    std::string out = "\"";
    for (const char c : safe) {
        if (c == '"')
            out += '"';
        out += c;
    }
    return out + "\"";
}

} // namespace core
