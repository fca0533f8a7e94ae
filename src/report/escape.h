// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/text.h"

#include <string>
#include <string_view>

namespace report {

/// Text as it may stand in HTML, SVG and XML, in attributes too.
[[nodiscard]] inline std::string escape(std::string_view text) {
    std::string out;
    for (const char c : core::printable(text)) // XML knows no control characters, whatever is put before them
        switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        default:
            out += c;
        }
    return out;
}

} // namespace report
