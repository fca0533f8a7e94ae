// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string_view>

namespace core {

/// A figure as people type it: "84,6", "3.33 in", "80+4.6", "65w", "120 - 3 mm".
struct TypedNumber {
    enum class Wrong { Nothing, Empty, NoNumber, TwoMarks, UnknownUnit, OtherUnit };
    double value = 0; ///< in the unit of the field
    Wrong wrong = Wrong::Nothing;
    std::string_view where; ///< the part of the text that is wrong
};

/// Reads a sum of figures, each with a decimal point or comma, and with a unit or without. @p unit: of the field, as it
/// is shown ("mm", "in", "m³/h", "CFM", "W", "°C" ...); empty: it has none. A figure in another unit of the same kind
/// is brought to it; inch is 25.4 mm (international yard and pound agreement of 1959), 1 CFM 1.699 m³/h.
[[nodiscard]] TypedNumber typedNumber(std::string_view text, std::string_view unit);

} // namespace core
