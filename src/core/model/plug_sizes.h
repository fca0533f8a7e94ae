// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <optional>
#include <span>
#include <string_view>

namespace core {

/// The room a plug takes over its socket, and what it may carry. Lengths in mm, power in W.
struct PlugSize {
    std::string_view kind;
    double widthMm;    ///< of the plug, along the first axis across its way out
    double heightMm;   ///< along the second one
    double straightMm; ///< it stands out straight, before its lead may bend
    double bendMm;     ///< the bend of the lead takes beyond that
    double angledMm;   ///< an angled plug stands out so far; 0: there is none
    double limitW;     ///< it carries at most; 0: not a matter of power, or not stated
    std::string_view source;
    std::string_view limitSource;
};

[[nodiscard]] std::span<const PlugSize> plugSizes();
/// The plug of this kind; null when it is not a known one: then it has no room of its own and no limit.
[[nodiscard]] const PlugSize* plugSize(std::string_view kind);

} // namespace core
