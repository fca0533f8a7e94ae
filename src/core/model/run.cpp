// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/run.h"

#include "core/base/words.h"
#include "core/model/fields/choices_of.h"

namespace core {
namespace {
constexpr WordTable<ChannelKind, 7> kindUnits{{{ChannelKind::Temperature, "°C"},
                                               {ChannelKind::Ambient, "°C"},
                                               {ChannelKind::Rpm, "rpm"},
                                               {ChannelKind::Clock, "MHz"},
                                               {ChannelKind::Power, "W"},
                                               {ChannelKind::Level, "dB(A)"},
                                               {ChannelKind::Other, ""}}};

bool sameNumbers(const std::vector<double>& a, const std::vector<double>& b) {
    return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                      [](double x, double y) { return x == y || (std::isnan(x) && std::isnan(y)); });
}
} // namespace

bool sameSamples(const Samples& a, const Samples& b) {
    return sameNumbers(a.timeS, b.timeS) &&
           std::equal(a.channels.begin(), a.channels.end(), b.channels.begin(), b.channels.end(),
                      [](const Channel& x, const Channel& y) {
                          return x.name == y.name && x.unit == y.unit && x.kind == y.kind && x.subject == y.subject &&
                                 x.assumed == y.assumed && sameNumbers(x.values, y.values);
                      });
}

bool operator==(const Run& a, const Run& b) {
    return a.id == b.id && a.name == b.name && a.revision == b.revision && a.load == b.load && a.roomC == b.roomC &&
           a.instruments == b.instruments && a.note == b.note && a.source == b.source && a.simulated == b.simulated &&
           a.distanceM == b.distanceM && a.loadStartS == b.loadStartS && a.loadEndS == b.loadEndS &&
           (a.original == b.original || (a.original && b.original && *a.original == *b.original)) &&
           (a.samples == b.samples || sameSamples(*a.samples, *b.samples));
}

std::string_view channelKindWord(ChannelKind kind) { return choiceWord(kind); }
std::optional<ChannelKind> channelKindFromWord(std::string_view word) { return choiceFrom<ChannelKind>(word); }
std::string_view channelUnit(ChannelKind kind) { return wordOf(kindUnits, kind); }

} // namespace core

template class std::vector<core::Channel>;
template class std::vector<core::Run>;
