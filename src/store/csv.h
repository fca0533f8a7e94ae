// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/run.h"

#include <functional>

namespace store {

enum class TimeFormat { Seconds, Clock, Iso8601, DayMonthYear };

/// What a column of a log is taken for; the user may change any of it.
struct CsvColumn {
    std::string header;
    bool isTime = false;
    bool use = true;
    bool fahrenheit = false;
    double scale = 1; ///< to the stored unit, e.g. 1000 for GHz
    core::ChannelKind kind = core::ChannelKind::Other;
    std::string subject; ///< mount of the part
    bool date = false;   ///< the date of a time of day that stands in a column of its own
};

struct CsvFormat {
    char separator = ',';
    char decimal = '.';
    bool header = true;
    TimeFormat time = TimeFormat::Seconds;
    double timeScale = 1;    ///< of plain numbers to seconds: 0.001 for milliseconds, 1e-6 for microseconds
    bool simulated = false;  ///< it has a column that says so
    bool ours = false;       ///< written by this program: its times are taken as they are
    bool unitRow = false;    ///< the row below the header names units
    bool mayBeEmpty = false; ///< a log without rows is one
    std::vector<CsvColumn> columns;
};
constexpr std::size_t mostColumns = 1000;
/// What the first line of a log starts with that this program wrote.
constexpr const char* canonicalHead = "time_s";
/// Heading of a column of ones: the log comes from a simulated device.
constexpr const char* simulatedHead = "simulated";

/// What to do with a field that holds text where a number is expected.
enum class BadField { Refuse, ReadTheRest };
/// A project may hold a run without rows; a log that somebody reads in has some.
enum class NoRows { Refuse, Allow };

/// Recognises separator, decimal sign, header, units and columns from the first lines.
/// Where no column looks like time, none is marked: readCsv() refuses such a format, a dialog lets the user choose.
/// @p text is UTF-8 (decodeText). Errors: empty file, no text, a first line longer than 1 MB, a quote that is not
/// closed.
[[nodiscard]] core::Result<CsvFormat> recogniseCsv(std::string_view text, const std::string& fileName,
                                                   NoRows noRows = NoRows::Refuse);

/// Reads a log; times become seconds from the first row. Errors name file, line and column; no column of time is one.
/// @p progress gets 0..1 and returns false to stop (the result is then an error "stopped").
[[nodiscard]] core::Result<core::Samples> readCsv(std::string_view text, const CsvFormat& format,
                                                  const std::string& fileName, BadField bad = BadField::Refuse,
                                                  const std::function<bool(double)>& progress = {});

/// RFC 4180: one row a reading, "time_s" first, shortest digits that read back the same; nan is an empty field.
[[nodiscard]] std::string writeCsv(const core::Samples& samples);
/// One row of it, with its line end.
void appendCsvRow(std::string& out, const core::Samples& samples, std::size_t row);

/// Kind and unit guessed from a header such as "cpu_c", "Fan [rpm]", "CPU Temp (°F)".
/// Only a heading that names the part assigns it ("processor", "card", "drive"): the importer turns those into mounts.
[[nodiscard]] CsvColumn columnFromHeader(std::string_view header);

/// The bytes of an ordinary file. Errors name the file: not there, a folder, a pipe, larger than @p most bytes.
[[nodiscard]] core::Result<std::string> readFile(const std::string& path, std::size_t most = 2'000'000'000);
/// The text of a log as UTF-8, whatever it was written in.
[[nodiscard]] core::Result<std::string> readLogText(const std::string& path);

} // namespace store
