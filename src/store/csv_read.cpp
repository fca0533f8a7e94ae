// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/csv.h"

#include "core/base/csv_field.h"
#include "store/csv_fields.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdio>
#include <memory>

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace store {
namespace {

bool meansMissing(std::string_view f) {
    return f.empty() || f == "nan" || f == "NaN" || f == "NAN" || f == "-" || f == "N/A" || f == "n/a" || f == "null";
}

bool parseTime(std::string_view field, const CsvFormat& format, double& seconds) {
    switch (format.time) {
    case TimeFormat::Seconds:
        if (!parseNumber(field, format.decimal, seconds))
            return false;
        seconds *= format.timeScale;
        return true;
    case TimeFormat::DayMonthYear:
        return parseDayMonthYear(field, seconds);
    case TimeFormat::Clock:
        return parseClock(field, seconds);
    case TimeFormat::Iso8601:
        return parseIso8601(field, seconds);
    }
    return false;
}

const char* timeWords(TimeFormat time) {
    switch (time) {
    case TimeFormat::Seconds:
        return "seconds as a number";
    case TimeFormat::Clock:
        return "hh:mm:ss";
    case TimeFormat::DayMonthYear:
        return "a date and time such as 04.05.2026 18:30:00";
    case TimeFormat::Iso8601:
        break;
    }
    return "a date and time such as 2026-05-04T18:30:00";
}

class CsvReader {
public:
    CsvReader(std::string_view text, const CsvFormat& format, const std::string& fileName, BadField bad)
        : m_text(text), m_format(format), m_file(fileName), m_bad(bad) {
        for (const CsvColumn& c : format.columns) {
            m_target.push_back(-1);
            if (c.isTime || c.date || !c.use)
                continue;
            m_target.back() = static_cast<int>(m_samples.channels.size());
            m_samples.channels.push_back({c.header, std::string(core::channelUnit(c.kind)), c.kind, c.subject, {}});
        }
    }

    core::Result<core::Samples> run(const std::function<bool(double)>& progress) {
        if (std::none_of(m_format.columns.begin(), m_format.columns.end(), [](const CsvColumn& c) { return c.isTime; }))
            return core::problem(m_file + ", line 1", "no column of time", "a column named \"time_s\", or choose one");
        if (m_format.columns.size() > mostColumns)
            return core::problem(m_file + ", line 1", "has " + std::to_string(m_format.columns.size()) + " columns",
                                 "at most " + std::to_string(mostColumns));
        std::size_t at = m_format.header ? readRecord(m_text, 0, m_format.separator).end : 0;
        m_line = m_format.header ? readRecord(m_text, 0, m_format.separator).lines : 0;
        if (m_format.unitRow) {
            at = readRecord(m_text, at, m_format.separator).end;
            ++m_line;
        }
        // A short row counts as missing readings; a file of nothing else must not cost a thousand times its size.
        const std::size_t mostValues = m_text.size() * 2 + 4'000'000;
        while (at < m_text.size()) {
            std::size_t end = std::min(m_text.find('\n', at), m_text.size());
            std::string_view line = m_text.substr(at, end - at);
            ++m_line;
            if (line.find('"') != std::string_view::npos) {
                const CsvRecord record = readRecord(m_text, at, m_format.separator);
                if (!record.closed)
                    return core::problem(m_file + ", line " + std::to_string(m_line),
                                         "a quote is opened and not closed", "a closing quote, or none");
                if (auto wrong = row({}, &record.fields)) {
                    if (!m_samples.timeS.empty() && isFooter(at))
                        break;
                    return tl::make_unexpected(*wrong);
                }
                m_line += record.lines - 1;
                end = record.end - (record.end < m_text.size() || m_text.ends_with('\n') ? 1 : 0);
            } else if (auto wrong = row(line, nullptr)) {
                if (!m_samples.timeS.empty() && isFooter(at))
                    break;
                return tl::make_unexpected(*wrong);
            }
            if (!m_format.ours && saysNothing() && isFooter(at)) {
                dropLast();
                break;
            }
            at = end + 1;
            if (m_samples.timeS.size() * m_format.columns.size() > mostValues)
                return core::problem(m_file + ", line " + std::to_string(m_line), "nearly all fields are missing",
                                     "rows with as many fields as there are columns");
            if (progress && m_line % 20000 == 0 &&
                !progress(static_cast<double>(at) / static_cast<double>(m_text.size())))
                return core::problem(m_file, "stopped", "");
        }
        if (m_samples.timeS.empty() && !m_format.mayBeEmpty)
            return core::problem(m_file, "no row could be read", "rows of numbers below the header");
        finishTime();
        return std::move(m_samples);
    }

private:
    std::optional<core::Problem> row(std::string_view line, const std::vector<std::string>* split);
    [[nodiscard]] bool isFooter(std::size_t at) const;
    /// The last row has neither a time nor a reading.
    [[nodiscard]] bool saysNothing() const {
        return m_samples.timeS.size() > 1 && std::isnan(m_samples.timeS.back()) &&
               std::all_of(m_samples.channels.begin(), m_samples.channels.end(),
                           [](const core::Channel& c) { return std::isnan(c.values.back()); });
    }
    void dropLast() {
        m_samples.timeS.pop_back();
        for (core::Channel& c : m_samples.channels)
            c.values.pop_back();
    }
    std::optional<core::Problem> wrong(std::size_t column, std::string_view field, const char* expected) {
        return core::Problem{
            m_file + ", line " + std::to_string(m_line) + ", column \"" +
                (column < m_format.columns.size() ? m_format.columns[column].header : std::to_string(column + 1)) +
                "\"",
            "found \"" + std::string(field.substr(0, 40)) + "\"", expected};
    }
    void finishTime();

    std::string_view m_text;
    const CsvFormat& m_format;
    const std::string& m_file;
    BadField m_bad;
    core::Samples m_samples;
    std::vector<int> m_target;
    std::size_t m_line = 0;
};

/// A row as its line, or already cut into @p split where it has quotes.
std::optional<core::Problem> CsvReader::row(std::string_view line, const std::vector<std::string>* split) {
    if (line.ends_with('\r'))
        line.remove_suffix(1);
    if (!split && line.find_first_not_of(" \t") == std::string_view::npos)
        return std::nullopt;
    const std::size_t columns = m_format.columns.size();
    const std::size_t before = m_samples.timeS.size();
    std::size_t at = 0, column = 0;
    std::optional<double> dateS;
    const auto drop = [&] {
        m_samples.timeS.resize(before);
        for (core::Channel& c : m_samples.channels)
            c.values.resize(before);
    };
    for (; column < columns; ++column) {
        std::string_view field;
        if (split) {
            if (column < split->size())
                field = (*split)[column];
        } else if (at <= line.size()) {
            const std::size_t end = std::min(line.find(m_format.separator, at), line.size());
            field = line.substr(at, end - at);
            at = end + 1;
        }
        while (!field.empty() && field.front() == ' ')
            field.remove_prefix(1);
        while (!field.empty() && field.back() == ' ')
            field.remove_suffix(1);
        const CsvColumn& c = m_format.columns[column];
        double v = std::nan("");
        if (c.isTime) {
            if (!parseTime(field, m_format, v) && !meansMissing(field)) {
                drop();
                if (m_bad == BadField::ReadTheRest)
                    return std::nullopt;
                return wrong(column, field, timeWords(m_format.time));
            }
            m_samples.timeS.push_back(v);
            continue;
        }
        if (c.date) {
            if (!parseDate(field, v) && !meansMissing(field)) {
                drop();
                return wrong(column, field, "a date such as 2026-05-04 or 04.05.2026");
            }
            dateS = v;
            continue;
        }
        if (m_target[column] < 0)
            continue;
        if (!meansMissing(field) && !parseNumber(field, m_format.decimal, v)) {
            if (m_bad == BadField::Refuse) {
                drop();
                return wrong(column, field, "a number, or nothing where there was no reading");
            }
            v = std::nan("");
        }
        if (c.fahrenheit)
            v = (v - 32) / 1.8;
        m_samples.channels[static_cast<std::size_t>(m_target[column])].values.push_back(c.scale == 1 ? v : v * c.scale);
    }
    if (dateS && m_samples.timeS.size() > before)
        m_samples.timeS.back() += *dateS;
    return std::nullopt;
}

/// What loggers write below the last row: a few lines that hold no time, with nothing but such lines behind them.
bool CsvReader::isFooter(std::size_t at) const {
    constexpr int mostLines = 20;
    constexpr std::size_t longest = 400;
    const auto time = static_cast<std::size_t>(
        std::find_if(m_format.columns.begin(), m_format.columns.end(), [](const CsvColumn& c) { return c.isTime; }) -
        m_format.columns.begin());
    for (int lines = 0; at < m_text.size(); ++lines) {
        const CsvRecord record = readRecord(m_text, at, m_format.separator);
        double v = 0;
        const bool reads = std::any_of(record.fields.begin(), record.fields.end(),
                                       [&](const std::string& f) { return parseNumber(f, m_format.decimal, v); });
        if (lines == mostLines || !record.closed || reads || record.end - at > longest ||
            (time < record.fields.size() && parseTime(record.fields[time], m_format, v)))
            return false;
        at = record.end;
    }
    return true;
}

/// Clock times may pass midnight; everything but plain seconds is counted from the first row.
void CsvReader::finishTime() {
    auto& t = m_samples.timeS;
    const bool dated =
        std::any_of(m_format.columns.begin(), m_format.columns.end(), [](const CsvColumn& c) { return c.date; });
    if (m_format.time == TimeFormat::Clock && !dated) {
        double add = 0;
        for (std::size_t i = 1; i < t.size(); ++i) {
            if (t[i] + add < t[i - 1] - 43200)
                add += 86400;
            t[i] += add;
        }
    }
    constexpr double moment = 1e8; // a number of seconds since 1970, not since the log began
    if (t.empty() ||
        (m_format.time == TimeFormat::Seconds && m_format.timeScale == 1 && (m_format.ours || !(t.front() > moment))))
        return;
    const double start = t.front();
    for (double& v : t)
        v -= start;
}

/// Nothing where there is no reading; the shortest digits that read back the same.
void append(std::string& out, double v) {
    if (std::isnan(v))
        return;
    if (std::isinf(v)) {
        out += v > 0 ? "inf" : "-inf";
        return;
    }
    char buffer[32];
    out.append(buffer, std::to_chars(buffer, buffer + sizeof buffer, v).ptr);
}

} // namespace

core::Result<core::Samples> readCsv(std::string_view text, const CsvFormat& format, const std::string& fileName,
                                    BadField bad, const std::function<bool(double)>& progress) {
    if (text.starts_with("\xEF\xBB\xBF"))
        text.remove_prefix(3);
    return CsvReader(text, format, fileName, bad).run(progress);
}

std::string writeCsv(const core::Samples& samples) {
    std::string out = canonicalHead;
    for (const core::Channel& c : samples.channels)
        out += "," + core::csvField(c.name);
    out += "\n";
    for (std::size_t i = 0; i < samples.timeS.size(); ++i)
        appendCsvRow(out, samples, i);
    return out;
}

void appendCsvRow(std::string& out, const core::Samples& samples, std::size_t row) {
    if (std::isnan(samples.timeS[row]))
        out += "nan"; // an empty line would be no row at all
    append(out, samples.timeS[row]);
    for (const core::Channel& c : samples.channels) {
        out += ',';
        append(out, c.values[row]);
    }
    out += '\n';
}

core::Result<std::string> readFile(const std::string& path, std::size_t most) {
    // Opened without waiting: a pipe or a device that never answers is refused, not read.
    const int fd = ::open(path.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC);
    if (fd < 0)
        return core::problem(path, std::string("the file cannot be opened: ") + std::strerror(errno),
                             "check that it is there and may be read");
    const std::unique_ptr<std::FILE, int (*)(std::FILE*)> file(::fdopen(fd, "rb"), &std::fclose);
    struct stat about {};
    if (!file || ::fstat(fd, &about) != 0 || S_ISDIR(about.st_mode))
        return core::problem(path, "is a folder", "a file");
    if (!S_ISREG(about.st_mode))
        return core::problem(path, "is a pipe or a device", "an ordinary file");
    if (about.st_size < 0 || static_cast<std::size_t>(about.st_size) > most)
        return core::problem(path, "the file is too large (" + std::to_string(about.st_size / 1'000'000) + " MB)",
                             "at most " + std::to_string(most / 1'000'000) + " MB");
    std::string text(static_cast<std::size_t>(about.st_size), '\0');
    text.resize(std::fread(text.data(), 1, text.size(), file.get()));
    if (std::ferror(file.get()))
        return core::problem(path, "reading stopped half way", "check the disk");
    return text;
}

core::Result<std::string> readLogText(const std::string& path) {
    auto text = readFile(path);
    if (text)
        *text = decodeText(std::move(*text));
    return text;
}

} // namespace store
