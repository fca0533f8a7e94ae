// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/show.h"
#include "core/verdict/evaluate.h"

namespace core::verdict {

/// What a revision costs more or less than another one.
struct Difference {
    std::string id;   ///< "screws", "minutes", "money", "volume"
    std::string name;
    Quantity quantity = Quantity::None;
    double now = 0, then = 0;
    [[nodiscard]] double by() const { return now - then; }
    [[nodiscard]] double percent() const { return then != 0 ? 100 * (now - then) / then : 0; } ///< 0 where the other has none
};
/// Screws, minutes to put it together, money and litres against the baseline.
[[nodiscard]] std::vector<Difference> against(const Evaluation& now, const Evaluation& baseline);

/// "31 to 19, −12 (−39 %)".
[[nodiscard]] std::string textOf(const Difference& difference, const Show& show);

} // namespace core::verdict
