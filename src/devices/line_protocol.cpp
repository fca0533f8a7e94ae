// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/line_protocol.h"

#include "core/base/text.h"
#include "store/csv_fields.h"

#include <charconv>
#include <cmath>

namespace devices {
namespace {

std::vector<std::string_view> words(std::string_view text) {
    std::vector<std::string_view> out;
    while (true) {
        const auto from = text.find_first_not_of(" \t\r");
        if (from == std::string_view::npos)
            return out;
        const auto to = std::min(text.find_first_of(" \t\r", from), text.size());
        out.push_back(text.substr(from, to - from));
        text.remove_prefix(to);
    }
}

bool number(std::string_view word, double& value) {
    if (word == "-") {
        value = std::nan("");
        return true;
    }
    const auto r = std::from_chars(word.data(), word.data() + word.size(), value);
    return r.ec == std::errc{} && r.ptr == word.data() + word.size();
}

core::Result<Line> wrong(std::string_view text, const char* expected) {
    return core::problem("line \"" + std::string(text.substr(0, 60)) + "\"", "does not follow the protocol", expected);
}

std::string orDash(std::string_view word) { return word.empty() ? "-" : std::string(word); }
std::string_view orEmpty(std::string_view word) { return word == "-" ? std::string_view{} : word; }

} // namespace

core::Result<Line> parseLine(std::string_view bytes) {
    // Names and notes go to screens, terminals and files: UTF-8, without control characters.
    const std::string clean = core::printable(store::decodeText(std::string(bytes)));
    const std::string_view text = clean;
    const auto w = words(text);
    if (w.empty() || w[0].size() != 1)
        return wrong(text, "M, C, D, N or E first");
    const std::string rest = text.size() > 2 ? std::string(text.substr(2)) : std::string{};
    switch (w[0][0]) {
    case 'M': {
        double version = 0;
        if (w.size() < 3 || w[1] != "mini-draft" || !number(w[2], version))
            return wrong(text, "M mini-draft 1 <name>");
        if (version != 1)
            return core::problem("line \"" + std::string(text.substr(0, 60)) + "\"",
                                 "is protocol version " + std::string(w[2]), "version 1");
        Hello hello{1, w.size() > 3 ? std::string(w[3]) : std::string{}};
        hello.simulated = (w.size() > 4 && w[4] == "simulated") || hello.name == "rig"; // as the rig said it before
        return Line{std::move(hello)};
    }
    case 'C': {
        if (w.size() < 3)
            return wrong(text, "C <name> <kind> <unit> <subject>");
        const auto kind = core::channelKindFromWord(w[2]);
        if (!kind)
            return wrong(text, "a kind: temperature, room, rpm, clock, power, level or other");
        core::Channel c{.name = std::string(w[1]), .unit = std::string(core::channelUnit(*kind)), .kind = *kind};
        if (w.size() > 3 && w[3] != "-")
            c.unit = std::string(w[3]);
        if (w.size() > 4)
            c.subject = std::string(orEmpty(w[4]));
        return Line{ChannelLine{std::move(c)}};
    }
    case 'D': {
        DataLine d;
        if (w.size() < 2 || !number(w[1], d.timeS) || !std::isfinite(d.timeS))
            return wrong(text, "D <time_s> <value> ...");
        for (std::size_t i = 2; i < w.size(); ++i) {
            double v = 0;
            if (!number(w[i], v))
                return wrong(text, "numbers, or - where there is no reading");
            d.values.push_back(v);
        }
        return Line{std::move(d)};
    }
    case 'N':
        return Line{NoteLine{rest}};
    case 'E':
        return Line{EndLine{rest}};
    default:
        return wrong(text, "M, C, D, N or E first");
    }
}

std::string helloText(const std::string& name, bool simulated) {
    return "M mini-draft 1 " + name + (simulated ? " simulated" : "");
}

std::string channelText(const core::Channel& c) {
    return "C " + c.name + " " + std::string(core::channelKindWord(c.kind)) + " " + orDash(c.unit) + " " +
           orDash(c.subject);
}

std::string dataText(double timeS, const std::vector<double>& values) {
    std::string out = "D ";
    const auto append = [&](double v) {
        char buffer[32];
        if (std::isfinite(v))
            out.append(buffer, std::to_chars(buffer, buffer + sizeof buffer, v).ptr);
        else
            out += '-';
    };
    append(timeS);
    for (const double v : values) {
        out += ' ';
        append(v);
    }
    return out;
}

} // namespace devices
