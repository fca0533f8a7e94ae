// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/plug_sizes.h"

#include <algorithm>
#include <array>

namespace core {
namespace {
constexpr std::string_view common = "common practice, no source";
constexpr std::string_view judged = "engineering judgement, from contact ratings";
constexpr std::string_view cem = "PCI Express card electromechanical specification";
constexpr std::string_view sata = "Serial ATA specification: 4.5 A a rail, here at 12 V";

// Straight length and bend: 12-pin 35 straight; 8-pin graphics 20 + 15; SATA 20 + 10; 24-pin and processor plugs 20
// above the socket. Cross sections are those of the housings, rounded up: common practice, no source.
constexpr std::array<PlugSize, 25> plugs{{
    {"card-12", 20, 9, 35, 20, 14, 600, common, cem},
    {"card-8", 18, 10, 20, 15, 12, 150, common, cem},
    {"card-6", 14, 10, 20, 15, 12, 75, common, cem},
    {"card-6+2", 18, 10, 20, 15, 12, 150, common, cem},
    {"slot-x8", 0, 0, 0, 0, 0, 25, common, cem},
    {"slot-x4", 0, 0, 0, 0, 0, 25, common, cem},
    {"slot-x1", 0, 0, 0, 0, 0, 25, common, cem},
    {"slot-x16", 0, 0, 0, 0, 0, 75, common, cem},
    {"atx-24", 52, 10, 20, 10, 0, 0, common, ""},
    {"atx-20+4", 52, 10, 20, 10, 0, 0, common, ""},
    {"atx-20", 43, 10, 20, 10, 0, 0, common, ""},
    {"eps-4+4", 18, 10, 20, 10, 12, 300, common, judged},
    {"eps-8", 18, 10, 20, 10, 12, 300, common, judged},
    {"eps-4", 10, 10, 20, 10, 12, 150, common, judged},
    {"sata-power", 24, 7, 20, 10, 10, 54, common, sata},
    {"sata", 15, 7, 20, 10, 10, 0, common, ""},
    {"molex-4", 21, 8, 20, 10, 0, 132, common, "common practice, no source: 11 A at 12 V"},
    {"fan-4", 11, 6, 14, 5, 0, 12, common, "common practice, no source: 1 A at 12 V"},
    {"fan-3", 8, 6, 14, 5, 0, 12, common, "common practice, no source: 1 A at 12 V"},
    {"mains", 28, 20, 45, 30, 25, 0, common, ""},
    {"fan", 11, 6, 14, 5, 0, 12, common, "common practice, no source: 1 A at 12 V"},
    {"front-usb", 26, 8, 20, 10, 12, 0, common, ""},
    {"front-usb-c", 12, 8, 20, 15, 12, 0, common, ""},
    {"front-audio", 13, 6, 14, 5, 0, 0, common, ""},
    {"front-panel", 13, 6, 14, 5, 0, 0, common, ""},
}};
} // namespace

std::span<const PlugSize> plugSizes() { return plugs; }

const PlugSize* plugSize(std::string_view kind) {
    const auto it = std::find_if(plugs.begin(), plugs.end(), [&](const PlugSize& p) { return p.kind == kind; });
    return it == plugs.end() ? nullptr : &*it;
}

} // namespace core
