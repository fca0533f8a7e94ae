// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace core {

enum class ChannelKind { Temperature, Ambient, Rpm, Clock, Power, Level, Other };

/// One row of readings over time. Units: °C, rpm, MHz, W, dB(A); values that could not be read are NaN.
struct Channel {
    std::string name; ///< column name, e.g. "cpu_c"
    std::string unit;
    ChannelKind kind = ChannelKind::Other;
    std::string subject; ///< mount of the part it belongs to, or empty
    std::vector<double> values;
};

struct Samples {
    std::vector<double> timeS; ///< seconds from the start of the log
    std::vector<Channel> channels;
};
/// Equal also when both hold NaN at the same place.
[[nodiscard]] bool sameSamples(const Samples& a, const Samples& b);

/// One logged test. Readings are shared and never changed once taken.
struct Run {
    std::string id;
    std::string name;
    std::string revision;
    std::string load;
    std::optional<double> roomC; ///< typed in; a room channel in the log has precedence
    std::string instruments;
    std::string note;
    std::string source;     ///< "file", "rig" or "capture"
    double distanceM = 1.0; ///< of the sound level meter
    std::optional<double> loadStartS; ///< marks set by the user where the load was not found
    std::optional<double> loadEndS;
    std::shared_ptr<const Samples> samples = std::make_shared<Samples>();

    friend bool operator==(const Run& a, const Run& b);
};

[[nodiscard]] std::string_view channelKindWord(ChannelKind kind);
[[nodiscard]] std::optional<ChannelKind> channelKindFromWord(std::string_view word);
/// Unit of a kind as stored, e.g. "°C".
[[nodiscard]] std::string_view channelUnit(ChannelKind kind);

} // namespace core
