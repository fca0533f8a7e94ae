// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "store/csv.h"
#include "store/csv_fields.h"

#include <algorithm>
#include <map>

namespace store {
namespace {

bool has(const std::string& text, std::initializer_list<const char*> words) {
    return std::any_of(words.begin(), words.end(), [&](const char* w) { return text.find(w) != std::string::npos; });
}

/// The first records as text: a line end between quotes does not end one.
std::vector<std::string_view> firstRecords(std::string_view text, std::size_t count) {
    std::vector<std::string_view> records;
    while (!text.empty() && records.size() < count) {
        std::size_t end = text.find('\n');
        if (std::string_view line = text.substr(0, end); line.find('"') != std::string_view::npos) {
            // Which separator it is comes later: a quote opens behind any of them.
            bool open = false, start = true;
            for (end = 0; end < std::min(text.size(), longestRecord) && (open || text[end] != '\n'); ++end) {
                const char c = text[end];
                if (open)
                    open = c != '"';
                else if (c == '"')
                    open = start || (end > 0 && text[end - 1] == '"');
                start = !open && (c == ',' || c == ';' || c == '\t' || c == '|' || (start && c == ' '));
            }
            if (end == std::min(text.size(), longestRecord) && end < text.size())
                end = text.find('\n'); // never closed: the reader says so
        }
        std::string_view record = text.substr(0, end);
        if (record.ends_with('\r'))
            record.remove_suffix(1);
        if (!record.empty())
            records.push_back(record);
        text = end >= text.size() ? std::string_view{} : text.substr(end + 1);
    }
    return records;
}

/// How often a separator stands outside of quotes.
std::ptrdiff_t countOutside(std::string_view record, char separator) {
    if (record.find('"') == std::string_view::npos)
        return std::count(record.begin(), record.end(), separator);
    return static_cast<std::ptrdiff_t>(readRecord(record, 0, separator).fields.size()) - 1;
}

/// The separator that cuts the lines into the most equal columns.
char findSeparator(const std::vector<std::string_view>& lines) {
    char best = ',';
    double bestScore = -1;
    for (const char c : {';', '\t', ',', '|'}) {
        // The number that most lines have: headings may have more, footers fewer.
        std::map<std::ptrdiff_t, int> counts;
        for (const auto& line : lines)
            ++counts[countOutside(line, c)];
        const auto most = std::max_element(counts.begin(), counts.end(),
                                           [](const auto& a, const auto& b) { return a.second < b.second; });
        if (most->first == 0)
            continue;
        const double same = most->second;
        // A decimal comma also cuts lines evenly: a semicolon or tab in the same lines has precedence.
        const double score = same * 10 + (c == ',' ? 0 : 5);
        if (score > bestScore) {
            bestScore = score;
            best = c;
        }
    }
    return best;
}

std::optional<TimeFormat> timeFormatOf(std::string_view field) {
    double seconds = 0;
    if (parseIso8601(field, seconds))
        return TimeFormat::Iso8601;
    if (parseDayMonthYear(field, seconds))
        return TimeFormat::DayMonthYear;
    if (parseClock(field, seconds))
        return TimeFormat::Clock;
    return std::nullopt;
}

/// Milliseconds and microseconds are told by their size: as a moment since 1970, or by the step between rows; no log of
/// a machine has a row every eight minutes. A heading that names its unit is believed.
double timeScaleOf(std::string_view heading, const std::vector<double>& times) {
    const std::string h = core::asciiLower(heading);
    const auto ends = [&](std::string_view suffix) { return h.ends_with(suffix); };
    if (has(h, {"micros", "[us]", "(us)", "[µs]", "(µs)"}) || ends("_us") || ends("_µs"))
        return 1e-6;
    if (has(h, {"millis", "[ms]", "(ms)"}) || ends("_ms"))
        return 1e-3;
    if (has(h, {"second", "[s]", "(s)"}) || ends("_s") || h == "s" || times.empty())
        return 1;
    constexpr double momentMs = 1e11, momentUs = 1e14, momentNs = 1e17, stepMs = 500, stepUs = 500'000;
    const double first = std::abs(times.front());
    if (first >= momentNs)
        return 1e-9;
    if (first >= momentMs)
        return first >= momentUs ? 1e-6 : 1e-3;
    std::vector<double> steps;
    for (std::size_t i = 1; i < times.size(); ++i)
        steps.push_back(times[i] - times[i - 1]);
    if (steps.size() < 2 || first >= 1e8) // a moment in seconds, whatever the step
        return 1;
    std::nth_element(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2), steps.end());
    const double step = steps[steps.size() / 2];
    return step >= stepUs ? 1e-6 : step >= stepMs ? 1e-3 : 1;
}

/// The row below the header names units: no number in it, and at least one unit.
bool isUnitRow(const std::vector<std::string>& fields) {
    bool unit = false;
    for (const std::string& f : fields) {
        double v = 0;
        if (parseNumber(f, '.', v) || parseNumber(f, ',', v) || timeFormatOf(f))
            return false;
        const std::string low = core::asciiLower(f);
        for (const char* word :
             {"s", "ms", "us",  "sec",   "°c", "c",   "degc", "°f",   "f",    "degf",  "rpm",   "mhz", "ghz",
              "w", "mw", "dba", "db(a)", "%",  "[s]", "[ms]", "[°c]", "[°f]", "[rpm]", "[mhz]", "[w]", "[%]"})
            unit = unit || low == word;
    }
    return unit;
}

/// Of several columns of time one is taken, with the date that may stand beside it; the others are left out.
void chooseTime(CsvFormat& format, const std::vector<std::vector<std::string>>& rows) {
    const auto& body = rows.empty() ? std::vector<std::string>{} : rows.front();
    const auto fieldOf = [&](std::size_t i) {
        return i < body.size() ? std::string_view(body[i]) : std::string_view{};
    };
    std::size_t at = format.columns.size(), date = format.columns.size();
    double seconds = 0;
    for (std::size_t i = 0; i < format.columns.size(); ++i) {
        if (!format.columns[i].isTime)
            continue;
        if (parseDate(fieldOf(i), seconds))
            date = std::min(date, i);
        else
            at = std::min(at, i);
    }
    if (at == format.columns.size())
        std::swap(at, date); // a date alone; the reader says what it takes
    for (std::size_t i = 0; i < format.columns.size(); ++i)
        if (format.columns[i].isTime && i != at)
            format.columns[i].isTime = format.columns[i].use = false;
    format.time = timeFormatOf(fieldOf(at)).value_or(TimeFormat::Seconds);
    if (date < format.columns.size() && format.time == TimeFormat::Clock)
        format.columns[date].date = true;
    if (format.time != TimeFormat::Seconds)
        return;
    std::vector<double> times;
    for (const auto& row : rows)
        if (double v = 0; at < row.size() && parseNumber(row[at], format.decimal, v))
            times.push_back(v);
    const std::string& heading = format.columns[at].header;
    format.timeScale = timeScaleOf(heading, times);
}

bool isNumber(std::string_view field, char decimal) {
    double v = 0;
    return parseNumber(field, decimal, v);
}

/// By their headings and the row of units; without headings by their place.
void addColumns(CsvFormat& format, const std::vector<std::string>& head, const std::vector<std::string>& units) {
    for (std::size_t i = 0; i < head.size(); ++i) {
        if (!format.header) {
            format.columns.push_back(
                {.header = i == 0 ? "time_s" : "column " + std::to_string(i + 1), .isTime = i == 0});
            continue;
        }
        const std::string heading = headingFrom(head[i]);
        CsvColumn column =
            columnFromHeader(i < units.size() && !units[i].empty() ? heading + " [" + units[i] + "]" : heading);
        column.header = heading;
        format.columns.push_back(std::move(column));
    }
}

/// The first column is the time, whatever the others are called.
void useOurColumns(CsvFormat& format) {
    for (std::size_t i = 0; i < format.columns.size(); ++i) {
        format.columns[i].isTime = i == 0;
        format.columns[i].use = format.columns[i].header != simulatedHead;
    }
}

} // namespace

CsvColumn columnFromHeader(std::string_view header) {
    CsvColumn c{.header = std::string(header)};
    const std::string h = core::asciiLower(header);
    const auto ends = [&](std::string_view suffix) { return h.ends_with(suffix); };
    using core::ChannelKind;
    if (has(h, {"time", "date", "elapsed", "timestamp"}) || h == "t" || h == "t_s" || h == "s" || h == "seconds") {
        c.isTime = true;
        return c;
    }
    c.fahrenheit = has(h, {"°f", "degf", "[f]", "(f)"}) || ends("_f");
    const bool thermal = c.fahrenheit || has(h, {"temp", "°c", "degc", "[c]", "(c)", "tdie", "tctl"}) || ends("_c");
    if (has(h, {"rpm", "fan speed"}))
        c.kind = ChannelKind::Rpm;
    else if (has(h, {"%", "percent", "battery", "volt", "load", "usage", "memory used"}) && !has(h, {"db"}) && !thermal)
        c.kind = ChannelKind::Other; // a level in per cent is none of sound
    else if (has(h, {"dba", "db(a)", "noise", "sound", "spl"}))
        c.kind = ChannelKind::Level;
    else if (has(h, {"ambient", "room", "intake air"}) && !has(h, {"humid"}))
        c.kind = ChannelKind::Ambient;
    else if (has(h, {"ghz"})) {
        c.kind = ChannelKind::Clock;
        c.scale = 1000;
    } else if (has(h, {"mhz", "clock", "freq"}))
        c.kind = ChannelKind::Clock;
    else if (has(h, {"power", "watt", "[w]", "(w)"}) || ends("_w"))
        c.kind = ChannelKind::Power;
    else if (thermal)
        c.kind = ChannelKind::Temperature;
    // Not a mount yet: the importer turns these words into the mounts of the build. A heading without the name of a
    // part belongs to none: a board sensor is no processor.
    if (has(h, {"card", "gpu", "graphics"}))
        c.subject = "card";
    else if (has(h, {"drive", "ssd", "disk", "store", "nvme"}))
        c.subject = "drive";
    else if (has(h, {"cpu", "core", "package", "processor", "tdie", "tctl"}) && !has(h, {"board", "socket", "vrm"}))
        c.subject = "processor";
    return c;
}

core::Result<CsvFormat> recogniseCsv(std::string_view text, const std::string& fileName, NoRows noRows) {
    if (text.starts_with("\xEF\xBB\xBF"))
        text.remove_prefix(3);
    if (text.find_first_not_of(" \t\r\n") == std::string_view::npos)
        return core::problem(fileName, "the file is empty", "a log with a line of headers and one row a reading");
    const auto newline = text.find('\n');
    if ((newline == std::string_view::npos ? text.size() : newline) > longestRecord)
        return core::problem(fileName + ", line 1", "the line is longer than 1 MB",
                             "a text file with one reading a line");
    const auto lines = firstRecords(text, 12);
    if (text.substr(0, 4096).find('\0') != std::string_view::npos || lines.front().find('\0') != std::string_view::npos)
        return core::problem(fileName, "the file is not text", "a log as text with separated values");
    CsvFormat format;
    // What this program wrote is known by its first word, and needs no guess.
    const std::string_view rest = text.substr(std::min(text.size(), std::string_view(canonicalHead).size()));
    const bool ours = text.starts_with(canonicalHead) && (rest.empty() || rest.front() == ',' || rest.front() == '\n');
    format.ours = ours;
    format.mayBeEmpty = ours && noRows == NoRows::Allow;
    format.separator = ours ? ',' : findSeparator(lines);
    if (!readRecord(text, 0, format.separator).closed)
        return core::problem(fileName + ", line 1", "a quote is opened and not closed", "a closing quote, or none");
    const auto head = splitFields(lines.front(), format.separator);
    format.header =
        ours ||
        (std::none_of(head.begin(), head.end(),
                      [&](std::string_view f) { return !f.empty() && (isNumber(f, '.') || isNumber(f, ',')); }) &&
         !timeFormatOf(head.front()));
    if (format.header && lines.size() < 2 && !format.mayBeEmpty)
        return core::problem(fileName, "there is a header and no rows", "at least one row of readings");
    format.unitRow = format.header && !ours && lines.size() > 2 && isUnitRow(splitFields(lines[1], format.separator));
    const std::size_t firstRow = (format.header ? 1 : 0) + (format.unitRow ? 1 : 0);
    if (format.separator != ',')
        for (std::size_t i = firstRow; i < lines.size(); ++i)
            for (const std::string& f : splitFields(lines[i], format.separator))
                if (f.find(',') != std::string::npos && isNumber(f, ','))
                    format.decimal = ',';
    addColumns(format, head, format.unitRow ? splitFields(lines[1], format.separator) : std::vector<std::string>{});
    for (std::size_t i = 1; i < format.columns.size(); ++i)
        format.simulated = format.simulated || format.columns[i].header == simulatedHead;
    if (ours) {
        useOurColumns(format);
        return format;
    }
    std::vector<std::vector<std::string>> rows;
    for (std::size_t i = firstRow; i < lines.size(); ++i)
        rows.push_back(splitFields(lines[i], format.separator));
    const auto body = rows.empty() ? std::vector<std::string>{} : rows.front();
    for (CsvColumn& c : format.columns)
        c.use = c.use && c.header != simulatedHead;
    // A column without a heading and without readings is a separator too many.
    for (std::size_t i = 0; i < format.columns.size(); ++i)
        if (format.columns[i].header.empty() &&
            std::all_of(rows.begin(), rows.end(), [&](const auto& row) { return i >= row.size() || row[i].empty(); }))
            format.columns[i].use = false;
    for (const std::string& field : body)
        if (looksLikeSlashDate(field))
            return core::problem(fileName + ", line " + std::to_string(firstRow + 1),
                                 "the date \"" + field.substr(0, 40) + "\" can be read two ways",
                                 "2026-05-04 18:30:00 or 04.05.2026 18:30:00, or seconds");
    auto time = std::find_if(format.columns.begin(), format.columns.end(), [](const CsvColumn& c) { return c.isTime; });
    if (time == format.columns.end() && !body.empty() && timeFormatOf(body.front())) {
        format.columns.front().isTime = true;
        time = format.columns.begin();
    }
    if (time == format.columns.end())
        return format; // for the reader to choose one; reading refuses it as it is
    chooseTime(format, rows);
    return format;
}

} // namespace store
