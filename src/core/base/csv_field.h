// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>
#include <string_view>

namespace core {

/// Text as a field of a table with commas: quoted where it must be; a leading "=", "+", "-" or "@" that a spreadsheet
/// would run gets a "'" before it (and one more where quotes stand before it already), which a reader takes off again.
[[nodiscard]] std::string csvField(std::string_view text);
/// Nothing, or the marks "'" and then a letter at which a spreadsheet starts to compute.
[[nodiscard]] bool isFormula(std::string_view text);

} // namespace core
