// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/csv_fields.h"

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

std::vector<std::string_view> splitFields(std::string_view line, char separator) {
    std::vector<std::string_view> fields;
    std::size_t start = 0;
    bool quoted = false;
    for (std::size_t i = 0; i <= line.size(); ++i) {
        if (i < line.size() && line[i] == '"')
            quoted = !quoted;
        if (i < line.size() && (line[i] != separator || quoted))
            continue;
        std::string_view field = trim(line.substr(start, i - start));
        if (field.size() >= 2 && field.front() == '"' && field.back() == '"')
            field = field.substr(1, field.size() - 2);
        fields.push_back(field);
        start = i + 1;
    }
    return fields;
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
        if (!parseNumber(field.substr(0, colon), field.find(',') != std::string_view::npos ? ',' : '.', v) || v < 0 || (colon != std::string_view::npos && v != static_cast<int>(v)))
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
    if (field.size() < 16 || !digits(field, 0, 4, year) || field[4] != '-' || !digits(field, 5, 2, month) || field[7] != '-' || !digits(field, 8, 2, day) ||
        (field[10] != 'T' && field[10] != ' ') || !digits(field, 11, 2, hour) || field[13] != ':' || !digits(field, 14, 2, minute))
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
    const std::chrono::year_month_day date{std::chrono::year{year}, std::chrono::month{static_cast<unsigned>(month)}, std::chrono::day{static_cast<unsigned>(day)}};
    if (!date.ok() || hour > 24 || minute > 59 || second >= 61)
        return false;
    const auto days = std::chrono::sys_days{date}.time_since_epoch().count();
    seconds = static_cast<double>(days) * 86400.0 + hour * 3600 + (minute - zone) * 60 + second;
    return true;
}

} // namespace store
