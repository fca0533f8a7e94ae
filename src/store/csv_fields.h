// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string_view>
#include <vector>

namespace store {

/// Fields of one line; quotes around a field are taken off.
[[nodiscard]] std::vector<std::string_view> splitFields(std::string_view line, char separator);
/// A number with the given decimal sign; surrounding blanks are allowed.
[[nodiscard]] bool parseNumber(std::string_view field, char decimal, double& value);
/// hh:mm:ss, mm:ss, with fractions; seconds since midnight.
[[nodiscard]] bool parseClock(std::string_view field, double& seconds);
/// YYYY-MM-DDThh:mm:ss with fractions and zone; seconds since 1970 UTC (no zone is taken as UTC).
[[nodiscard]] bool parseIso8601(std::string_view field, double& seconds);

} // namespace store
