// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/run.h"

#include <functional>

namespace store {

enum class TimeFormat { Seconds, Clock, Iso8601 };

/// What a column of a log is taken for; the user may change any of it.
struct CsvColumn {
    std::string header;
    bool isTime = false;
    bool use = true;
    bool fahrenheit = false;
    double scale = 1;     ///< to the stored unit, e.g. 1000 for GHz
    core::ChannelKind kind = core::ChannelKind::Other;
    std::string subject;  ///< mount of the part
};

struct CsvFormat {
    char separator = ',';
    char decimal = '.';
    bool header = true;
    TimeFormat time = TimeFormat::Seconds;
    std::vector<CsvColumn> columns;
};

/// What to do with a field that holds text where a number is expected.
enum class BadField { Refuse, ReadTheRest };

/// Recognises separator, decimal sign, header, units and columns from the first lines.
/// Where no column looks like time, none is marked: readCsv() refuses such a format, a dialog lets the user choose.
/// Errors: empty file, no text, a first line longer than 1 MB.
[[nodiscard]] core::Result<CsvFormat> recogniseCsv(std::string_view text, const std::string& fileName);

/// Reads a log; times become seconds from the first row. Errors name file, line and column; no column of time is one.
/// @p progress gets 0..1 and returns false to stop (the result is then an error "stopped").
[[nodiscard]] core::Result<core::Samples> readCsv(std::string_view text, const CsvFormat& format, const std::string& fileName,
                                                  BadField bad = BadField::Refuse, const std::function<bool(double)>& progress = {});

/// One row a reading, "time_s" first, shortest digits that read back the same; nan is an empty field.
[[nodiscard]] std::string writeCsv(const core::Samples& samples);

/// Kind and unit guessed from a header such as "cpu_c", "Fan [rpm]", "CPU Temp (°F)".
[[nodiscard]] CsvColumn columnFromHeader(std::string_view header);

/// A mapped file, or its bytes; errors name the file.
[[nodiscard]] core::Result<std::string> readFile(const std::string& path);

} // namespace store
