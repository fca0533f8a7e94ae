// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace store {

/// One record of RFC 4180 from @p at on: a field that starts with a quote goes to its closing quote, across separators
/// and line ends, "" inside it is one quote. A quote anywhere else is an ordinary letter. Blanks around plain fields
/// are taken off.
struct CsvRecord {
    std::vector<std::string> fields;
    std::size_t end = 0;   ///< behind its line end
    std::size_t lines = 1; ///< of text it took
    bool closed = true;    ///< false: a quote was opened and never closed within longestRecord
};
constexpr std::size_t longestRecord = 1 << 20; ///< bytes
[[nodiscard]] CsvRecord readRecord(std::string_view text, std::size_t at, char separator);
/// Fields of one line.
[[nodiscard]] std::vector<std::string> splitFields(std::string_view line, char separator);

/// What core::csvField() put into a heading is taken off again.
[[nodiscard]] std::string headingFrom(std::string_view field);

/// Text of a log as UTF-8: byte order marks taken off, UTF-16 and Latin-1 (Windows-1252) recognised and converted.
[[nodiscard]] std::string decodeText(std::string bytes);

/// A number with the given decimal sign; surrounding blanks are allowed.
[[nodiscard]] bool parseNumber(std::string_view field, char decimal, double& value);
/// hh:mm:ss, mm:ss, with fractions; seconds since midnight.
[[nodiscard]] bool parseClock(std::string_view field, double& seconds);
/// YYYY-MM-DDThh:mm:ss with fractions and zone; seconds since 1970 UTC (no zone is taken as UTC).
[[nodiscard]] bool parseIso8601(std::string_view field, double& seconds);
/// A date alone, "2026-05-04" or "04.05.2026"; seconds since 1970 UTC at its start.
[[nodiscard]] bool parseDate(std::string_view field, double& seconds);
/// "04.05.2026 18:30:05", with fractions; seconds since 1970 UTC.
[[nodiscard]] bool parseDayMonthYear(std::string_view field, double& seconds);
/// A date with slashes, "05/04/2026": it can be read two ways, so it is refused with words.
[[nodiscard]] bool looksLikeSlashDate(std::string_view field);

} // namespace store
