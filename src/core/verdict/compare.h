// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/show.h"
#include "core/verdict/judge.h"

namespace core::verdict {

/// What a revision costs more or less than another one.
struct Difference {
    std::string id; ///< "screws", "minutes", "money", "volume"
    Sentence name;
    Quantity quantity = Quantity::None;
    double now = 0, then = 0;
    [[nodiscard]] double by() const { return now - then; }
    [[nodiscard]] double percent() const {
        return then != 0 ? 100 * (now - then) / then : 0;
    } ///< 0 where the other has none
};
/// Screws, minutes to put it together, money and litres against the baseline.
[[nodiscard]] std::vector<Difference> against(const stages::Evaluation& now, const stages::Evaluation& baseline);

/// Something whose mark is another one than it was.
struct MarkChange {
    Sentence what;
    Mark before = Mark::None;
    Mark after = Mark::None;
};
/// Every gap, temperature and finding that changes its mark from @p now to @p then; what becomes worse first. Notes are
/// no marks. A gap or finding that is only in one of the two counts when it is more than fine there.
[[nodiscard]] std::vector<MarkChange> markChanges(const Project& project, const stages::Evaluation& now,
                                                  const stages::Evaluation& then);
/// "Cooler to Fan 92: holds to open".
[[nodiscard]] Sentence textOf(const MarkChange& change);

/// "31 to 19, −12 (−39 %)".
[[nodiscard]] Sentence textOf(const Difference& difference);

} // namespace core::verdict
