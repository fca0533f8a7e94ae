// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string_view>

namespace core {

/// How well what is offered serves what is asked for. Plugs that come in parts serve two kinds: 4+4, 6+2, 20+4; a
/// narrow card runs in a wide slot, a 4-pin plug in an 8-pin processor socket, 3- and 4-pin fan plugs on each other's
/// headers. Common practice, no source.
enum class PlugFit {
    Not,
    Whole,  ///< as if it were made for it
    Narrow, ///< it fits, and the narrower one sets the limit
};
[[nodiscard]] PlugFit plugFit(std::string_view asked, std::string_view offered);

/// Lanes a slot is wide: "slot-x16" is 16; 0 for everything else.
[[nodiscard]] int slotWidth(std::string_view kind);

/// The kind whose size and limit a plug has where it sits: half a 4+4 on a 4-pin is a 4-pin.
[[nodiscard]] std::string_view narrowerPlug(std::string_view asked, std::string_view offered);

/// What is left of a plug in parts when a part of it is used: half a 4+4; empty: nothing.
[[nodiscard]] std::string_view restOfPlug(std::string_view asked, std::string_view offered);

} // namespace core
