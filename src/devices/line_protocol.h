// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/run.h"

#include <optional>
#include <variant>

namespace devices {

// The line protocol of meters, remote sensors and the simulated rig; docs/protocol.md describes it.
//   M mini-draft 1 <name> [simulated]  first line: protocol and its version; a stand-in says that it is one
//   C <name> <kind> <unit> <subject>   one line a channel; "-" for no unit or subject
//   D <time_s> <value> <value> ...     one line a reading, "-" where there is none
//   N <text>                           a note
//   E <text>                           the end, with its reason

struct Hello {
    int version = 0;
    std::string name;
    bool simulated = false;
};
struct ChannelLine {
    core::Channel channel;
};
struct DataLine {
    double timeS = 0;
    std::vector<double> values;
};
struct NoteLine {
    std::string text;
};
struct EndLine {
    std::string text;
};
using Line = std::variant<Hello, ChannelLine, DataLine, NoteLine, EndLine>;

/// One line without its newline. Errors name what was expected.
[[nodiscard]] core::Result<Line> parseLine(std::string_view bytes);

[[nodiscard]] std::string helloText(const std::string& name, bool simulated = false);
[[nodiscard]] std::string channelText(const core::Channel& channel);
[[nodiscard]] std::string dataText(double timeS, const std::vector<double>& values);

} // namespace devices
