// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/csv_fields.h"

#include "core/base/csv_field.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <chrono>
#include <cstring>

namespace store {
namespace {

std::string_view trim(std::string_view s) {
    while (!s.empty() && (s.front() == ' ' || s.front() == '\t'))
        s.remove_prefix(1);
    while (!s.empty() && (s.back() == ' ' || s.back() == '\t' || s.back() == '\r'))
        s.remove_suffix(1);
    return s;
}

bool digits(std::string_view s, std::size_t at, std::size_t n, int& value) {
    if (at + n > s.size())
        return false;
    value = 0;
    for (std::size_t i = at; i < at + n; ++i) {
        if (s[i] < '0' || s[i] > '9')
            return false;
        value = 10 * value + (s[i] - '0');
    }
    return true;
}

} // namespace

CsvRecord readRecord(std::string_view text, std::size_t at, char separator) {
    CsvRecord record;
    const std::size_t limit = std::min(text.size(), at + longestRecord);
    const auto blank = [&](std::size_t i) { return (text[i] == ' ' || text[i] == '\t') && text[i] != separator; };
    while (true) {
        std::size_t i = at;
        while (i < text.size() && blank(i))
            ++i;
        std::string field;
        bool quoted = i < text.size() && text[i] == '"';
        if (quoted) {
            std::size_t k = i + 1;
            for (; k < limit && (text[k] != '"' || (k + 1 < limit && text[k + 1] == '"')); ++k) {
                field += text[k];
                record.lines += text[k] == '\n' ? 1 : 0;
                if (text[k] == '"')
                    ++k;
            }
            record.closed = record.closed && k < limit;
            at = std::min(k + 1, text.size());
        }
        const std::size_t from = at;
        while (at < text.size() && text[at] != separator && text[at] != '\n')
            ++at;
        field += quoted ? std::string_view{}
                        : trim(text.substr(from, at - from)); // what follows a closing quote is no part of it
        record.fields.push_back(std::move(field));
        if (at >= text.size() || text[at] == '\n') {
            record.end = std::min(at + 1, text.size());
            return record;
        }
        ++at;
    }
}

std::vector<std::string> splitFields(std::string_view line, char separator) {
    return readRecord(line, 0, separator).fields;
}

std::string headingFrom(std::string_view field) {
    return std::string(field.starts_with('\'') && core::isFormula(field) ? field.substr(1) : field);
}

namespace {

void appendUtf8(std::string& out, char32_t c) {
    if (c < 0x80) {
        out += static_cast<char>(c);
    } else if (c < 0x800) {
        out += static_cast<char>(0xC0 | (c >> 6));
        out += static_cast<char>(0x80 | (c & 0x3F));
    } else if (c < 0x10000) {
        out += static_cast<char>(0xE0 | (c >> 12));
        out += static_cast<char>(0x80 | ((c >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (c & 0x3F));
    } else {
        out += static_cast<char>(0xF0 | (c >> 18));
        out += static_cast<char>(0x80 | ((c >> 12) & 0x3F));
        out += static_cast<char>(0x80 | ((c >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (c & 0x3F));
    }
}

std::string fromUtf16(std::string_view bytes, bool big) {
    std::string out;
    out.reserve(bytes.size());
    const auto unit = [&](std::size_t i) {
        const auto a = static_cast<unsigned char>(bytes[i]), b = static_cast<unsigned char>(bytes[i + 1]);
        return static_cast<char32_t>(big ? a << 8 | b : b << 8 | a);
    };
    for (std::size_t i = 0; i + 1 < bytes.size(); i += 2) {
        char32_t c = unit(i);
        const bool high = c >= 0xD800 && c < 0xDC00;
        if (high && i + 3 < bytes.size() && unit(i + 2) >= 0xDC00 && unit(i + 2) < 0xE000) {
            c = 0x10000 + ((c - 0xD800) << 10) + (unit(i + 2) - 0xDC00);
            i += 2;
        } else if (c >= 0xD800 && c < 0xE000) {
            c = 0xFFFD; // half of a pair
        }
        appendUtf8(out, c);
    }
    return out;
}

/// Length of the valid UTF-8 sequence at @p i, 0 when there is none.
std::size_t sequence(std::string_view s, std::size_t i) {
    const auto c = static_cast<unsigned char>(s[i]);
    const std::size_t n = c < 0x80                ? 1
                          : c >= 0xC2 && c < 0xE0 ? 2
                          : c >= 0xE0 && c < 0xF0 ? 3
                          : c >= 0xF0 && c < 0xF5 ? 4
                                                  : 0;
    if (n == 0 || i + n > s.size())
        return 0;
    for (std::size_t k = 1; k < n; ++k)
        if ((static_cast<unsigned char>(s[i + k]) & 0xC0) != 0x80)
            return 0;
    const auto second = n > 1 ? static_cast<unsigned char>(s[i + 1]) : 0;
    const bool wrong = (c == 0xE0 && second < 0xA0) || (c == 0xED && second > 0x9F) || (c == 0xF0 && second < 0x90) ||
                       (c == 0xF4 && second > 0x8F);
    return wrong ? 0 : n;
}

bool isUtf8(std::string_view s) {
    for (std::size_t i = 0; i < s.size();) {
        const std::size_t n = sequence(s, i);
        if (n == 0)
            return false;
        i += n;
    }
    return true;
}

/// Windows-1252: Latin-1 with letters where Latin-1 has control characters. Source: unicode.org, mapping table CP1252
/// (from memory).
std::string fromLatin1(std::string_view bytes) {
    static constexpr std::array<char16_t, 32> upper{0x20AC, 0x81,   0x201A, 0x0192, 0x201E, 0x2026, 0x2020, 0x2021,
                                                    0x02C6, 0x2030, 0x0160, 0x2039, 0x0152, 0x8D,   0x017D, 0x8F,
                                                    0x90,   0x2018, 0x2019, 0x201C, 0x201D, 0x2022, 0x2013, 0x2014,
                                                    0x02DC, 0x2122, 0x0161, 0x203A, 0x0153, 0x9D,   0x017E, 0x0178};
    std::string out;
    out.reserve(bytes.size() + bytes.size() / 8);
    for (const char b : bytes) {
        const auto c = static_cast<unsigned char>(b);
        appendUtf8(out, c >= 0x80 && c < 0xA0 ? upper[c - 0x80U] : c);
    }
    return out;
}

} // namespace

std::string decodeText(std::string bytes) {
    const std::string_view s = bytes;
    if (s.starts_with("\xEF\xBB\xBF"))
        return bytes.substr(3);
    if (s.starts_with("\xFF\xFE"))
        return fromUtf16(s.substr(2), false);
    if (s.starts_with("\xFE\xFF"))
        return fromUtf16(s.substr(2), true);
    // Without a mark, text in Latin letters has its zeros on one side of each pair.
    const std::string_view head = s.substr(0, 512);
    std::size_t even = 0, odd = 0;
    for (std::size_t i = 0; i < head.size(); ++i)
        if (head[i] == '\0')
            ++(i % 2 ? odd : even);
    if (head.size() >= 4 && (odd > head.size() / 3 || even > head.size() / 3) && (odd == 0 || even == 0))
        return fromUtf16(s, even > 0);
    if (!isUtf8(s))
        return fromLatin1(s);
    return bytes; // moved: it may be a hundred megabytes
}

bool parseNumber(std::string_view field, char decimal, double& value) {
    field = trim(field);
    if (field.starts_with('+'))
        field.remove_prefix(1);
    if (field.empty())
        return false;
    if (decimal != ',') {
        const auto result = std::from_chars(field.data(), field.data() + field.size(), value);
        return result.ec == std::errc{} && result.ptr == field.data() + field.size();
    }
    char buffer[64];
    if (field.size() >= sizeof buffer)
        return false;
    std::memcpy(buffer, field.data(), field.size());
    for (std::size_t i = 0; i < field.size(); ++i)
        if (buffer[i] == ',')
            buffer[i] = '.';
    const auto result = std::from_chars(buffer, buffer + field.size(), value);
    return result.ec == std::errc{} && result.ptr == buffer + field.size();
}

bool parseClock(std::string_view field, double& seconds) {
    field = trim(field);
    double total = 0;
    int parts = 0;
    while (true) {
        const auto colon = field.find(':');
        double v = 0;
        if (!parseNumber(field.substr(0, colon), field.find(',') != std::string_view::npos ? ',' : '.', v) || v < 0 ||
            (colon != std::string_view::npos && v != static_cast<int>(v)))
            return false;
        if (parts > 0 && v >= 60)
            return false;
        total = total * 60 + v;
        ++parts;
        if (colon == std::string_view::npos)
            break;
        field = field.substr(colon + 1);
    }
    seconds = total;
    return parts == 2 || parts == 3;
}

bool parseIso8601(std::string_view field, double& seconds) {
    field = trim(field);
    int year = 0, month = 0, day = 0, hour = 0, minute = 0;
    if (field.size() < 16 || !digits(field, 0, 4, year) || field[4] != '-' || !digits(field, 5, 2, month) ||
        field[7] != '-' || !digits(field, 8, 2, day) || (field[10] != 'T' && field[10] != ' ') ||
        !digits(field, 11, 2, hour) || field[13] != ':' || !digits(field, 14, 2, minute))
        return false;
    double second = 0;
    std::string_view rest = field.substr(16);
    if (rest.starts_with(':')) {
        std::size_t end = 1;
        while (end < rest.size() && ((rest[end] >= '0' && rest[end] <= '9') || rest[end] == '.' || rest[end] == ','))
            ++end;
        if (!parseNumber(rest.substr(1, end - 1), rest.find(',') != std::string_view::npos ? ',' : '.', second))
            return false;
        rest = rest.substr(end);
    }
    int zone = 0;
    if (rest.size() >= 3 && (rest[0] == '+' || rest[0] == '-')) {
        int zh = 0, zm = 0;
        if (!digits(rest, 1, 2, zh))
            return false;
        if (rest.size() > 3 && !digits(rest, rest[3] == ':' ? 4 : 3, 2, zm))
            return false;
        zone = (rest[0] == '+' ? 1 : -1) * (zh * 60 + zm);
    } else if (!rest.empty() && rest != "Z") {
        return false;
    }
    const std::chrono::year_month_day date{std::chrono::year{year}, std::chrono::month{static_cast<unsigned>(month)},
                                           std::chrono::day{static_cast<unsigned>(day)}};
    if (!date.ok() || hour > 24 || minute > 59 || second >= 61)
        return false;
    const auto days = std::chrono::sys_days{date}.time_since_epoch().count();
    seconds = static_cast<double>(days) * 86400.0 + hour * 3600 + (minute - zone) * 60 + second;
    return true;
}

bool parseDate(std::string_view field, double& seconds) {
    field = trim(field);
    int year = 0, month = 0, day = 0;
    if (field.size() != 10)
        return false;
    const bool iso = digits(field, 0, 4, year) && field[4] == '-' && digits(field, 5, 2, month) && field[7] == '-' &&
                     digits(field, 8, 2, day);
    if (!iso && !(digits(field, 0, 2, day) && field[2] == '.' && digits(field, 3, 2, month) && field[5] == '.' &&
                  digits(field, 6, 4, year)))
        return false;
    const std::chrono::year_month_day date{std::chrono::year{year}, std::chrono::month{static_cast<unsigned>(month)},
                                           std::chrono::day{static_cast<unsigned>(day)}};
    if (!date.ok())
        return false;
    seconds = static_cast<double>(std::chrono::sys_days{date}.time_since_epoch().count()) * 86400.0;
    return true;
}

bool parseDayMonthYear(std::string_view field, double& seconds) {
    field = trim(field);
    double date = 0, clock = 0;
    if (field.size() < 15 || field[2] != '.' || (field[10] != ' ' && field[10] != 'T') ||
        !parseDate(field.substr(0, 10), date) || !parseClock(field.substr(11), clock))
        return false;
    seconds = date + clock;
    return true;
}

bool looksLikeSlashDate(std::string_view field) {
    field = trim(field);
    int a = 0;
    return field.size() >= 10 && digits(field, 0, 2, a) && field[2] == '/' && digits(field, 3, 2, a) &&
           field[5] == '/' && digits(field, 6, 4, a);
}

} // namespace store
