// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/csv.h"
#include "core/base/text.h"
#include "store/csv_fields.h"

#include <algorithm>

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
        const auto first = countOutside(lines.back(), c);
        if (first == 0)
            continue;
        double same = 0;
        for (const auto& line : lines)
            same += countOutside(line, c) == first ? 1 : 0;
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
    if (parseClock(field, seconds))
        return TimeFormat::Clock;
    return std::nullopt;
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
    else if (has(h, {"dba", "db(a)", "noise", "level", "spl"}))
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
    // Not a mount yet: the importer turns "processor" and "card" into the mounts of the build.
    if (has(h, {"card", "gpu", "graphics"}))
        c.subject = "card";
    else if (has(h, {"drive", "ssd", "disk", "store", "nvme"}))
        c.subject = "drive";
    else if (has(h, {"cpu", "core", "package", "processor"}) || c.kind == ChannelKind::Temperature || c.kind == ChannelKind::Clock)
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
        return core::problem(fileName + ", line 1", "the line is longer than 1 MB", "a text file with one reading a line");
    const auto lines = firstRecords(text, 12);
    if (text.substr(0, 4096).find('\0') != std::string_view::npos || lines.front().find('\0') != std::string_view::npos)
        return core::problem(fileName, "the file is not text", "a log as text with separated values");
    CsvFormat format;
    // What this program wrote is known by its first word, and needs no guess.
    const std::string_view rest = text.substr(std::min(text.size(), std::string_view(canonicalHead).size()));
    const bool ours = text.starts_with(canonicalHead) && (rest.empty() || rest.front() == ',' || rest.front() == '\n');
    format.mayBeEmpty = ours && noRows == NoRows::Allow;
    format.separator = ours ? ',' : findSeparator(lines);
    if (!readRecord(text, 0, format.separator).closed)
        return core::problem(fileName + ", line 1", "a quote is opened and not closed", "a closing quote, or none");
    const auto head = splitFields(lines.front(), format.separator);
    const auto isNumber = [&](std::string_view f, char decimal) {
        double v = 0;
        return parseNumber(f, decimal, v);
    };
    format.header = ours || (std::none_of(head.begin(), head.end(), [&](std::string_view f) { return !f.empty() && (isNumber(f, '.') || isNumber(f, ',')); }) && !timeFormatOf(head.front()));
    if (format.header && lines.size() < 2 && !format.mayBeEmpty)
        return core::problem(fileName, "there is a header and no rows", "at least one row of readings");
    if (format.separator != ',')
        for (std::size_t i = format.header ? 1 : 0; i < lines.size(); ++i)
            for (const std::string& f : splitFields(lines[i], format.separator))
                if (f.find(',') != std::string::npos && isNumber(f, ','))
                    format.decimal = ',';
    for (std::size_t i = 0; i < head.size(); ++i) {
        if (format.header)
            format.columns.push_back(columnFromHeader(headingFrom(head[i])));
        else
            format.columns.push_back({.header = i == 0 ? "time_s" : "column " + std::to_string(i + 1), .isTime = i == 0});
    }
    if (ours) { // the first column is the time, whatever the others are called
        for (std::size_t i = 0; i < format.columns.size(); ++i) {
            format.columns[i].isTime = i == 0;
            format.columns[i].use = true;
        }
        return format;
    }
    const auto body = lines.size() > (format.header ? 1U : 0U) ? splitFields(lines[format.header ? 1 : 0], format.separator) : std::vector<std::string>{};
    auto time = std::find_if(format.columns.begin(), format.columns.end(), [](const CsvColumn& c) { return c.isTime; });
    if (time == format.columns.end() && !body.empty() && timeFormatOf(body.front())) {
        format.columns.front().isTime = true;
        time = format.columns.begin();
    }
    if (time == format.columns.end())
        return format; // for the reader to choose one; reading refuses it as it is
    for (auto other = time + 1; other != format.columns.end(); ++other)
        if (other->isTime)
            other->isTime = other->use = false;
    const auto at = static_cast<std::size_t>(time - format.columns.begin());
    if (at < body.size())
        format.time = timeFormatOf(body[at]).value_or(TimeFormat::Seconds);
    return format;
}

} // namespace store
