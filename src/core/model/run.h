// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdint>
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
    bool assumed = false; ///< the subject was guessed from the heading: shown as such, proves nothing
};

struct Samples {
    std::vector<double> timeS; ///< seconds from the start of the log
    std::vector<Channel> channels;
};
/// Equal also when both hold NaN at the same place.
[[nodiscard]] bool sameSamples(const Samples& a, const Samples& b);

/// The log a run was read in from, byte for byte: what its maker wrote is never rewritten, only kept.
struct Original {
    std::string name;       ///< its file name
    std::string packed;     ///< zlib-compressed bytes, empty while @p path names where they stand
    std::uint64_t size = 0; ///< of the bytes unpacked
    std::string path;       ///< absolute, of an ordinary file beside the project; empty: packed
    friend bool operator==(const Original& a, const Original& b) { return a.name == b.name && a.size == b.size; }
};

/// The file in an interchange folder that holds the readings just as they are here. While it is the same file,
/// saving to that folder leaves it alone.
struct LogFile {
    std::string folder; ///< absolute
    std::string name;   ///< inside the folder, e.g. "runs/first.csv"
    std::uint64_t inode = 0, size = 0;
    std::int64_t modifiedNs = 0;
    bool channelsStated = false;             ///< project.json says what its columns are
    std::shared_ptr<const Samples> readings; ///< what was read from it; other readings need a file of their own
};

/// One logged test. Readings are shared and never changed once taken.
struct Run {
    std::string id;
    std::string name;
    std::string revision;
    std::string load;
    std::optional<double> roomC; ///< typed in; a room channel in the log has precedence
    std::string instruments;
    std::string note;
    std::string source;               ///< "file", "rig" or "capture"
    bool simulated = false;           ///< made by a simulated device: for ever, and it proves nothing
    double distanceM = 1.0;           ///< of the sound level meter
    std::optional<double> loadStartS; ///< marks set by the user where the load was not found
    std::optional<double> loadEndS;
    std::shared_ptr<const Samples> samples = std::make_shared<Samples>();
    std::shared_ptr<const Original> original; ///< none where the readings say all that it said
    std::shared_ptr<const LogFile> file;      ///< where the readings stand; not part of what a run is

    friend bool operator==(const Run& a, const Run& b);
};

[[nodiscard]] std::string_view channelKindWord(ChannelKind kind);
[[nodiscard]] std::optional<ChannelKind> channelKindFromWord(std::string_view word);
/// Unit of a kind as stored, e.g. "°C".
[[nodiscard]] std::string_view channelUnit(ChannelKind kind);

} // namespace core

// Compiled once, in run.cpp.
extern template class std::vector<core::Channel>;
extern template class std::vector<core::Run>;
