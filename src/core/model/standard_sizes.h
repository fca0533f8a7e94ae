// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/part.h"

#include <optional>
#include <span>
#include <string_view>

namespace core {

/// Outline and hole spacing of a form that a published standard, or common practice, fixes. Lengths in mm.
struct StandardSize {
    PartKind kind = PartKind::Board;
    std::string_view form;           ///< word used in the part's own object: "mini-itx", "sfx", "2.5", "92"
    std::array<double, 3> sizeMm;    ///< in any order of axes; 0: free
    std::array<double, 2> holesMm{}; ///< spacing of the fixing holes, 0: none
    std::string_view source;
};

/// All known forms. Standards are quoted from memory.
[[nodiscard]] std::span<const StandardSize> standardSizes();

/// The form a part says it has, or (fans) the one of its frame; nothing when it is not a known one.
[[nodiscard]] const StandardSize* standardOf(const Part& part);

/// How far the part's outline is from its form, mm: the largest difference of sorted sizes; free sizes do not count.
[[nodiscard]] double offStandardMm(const Part& part, const StandardSize& standard);

} // namespace core
