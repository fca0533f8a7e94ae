// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>
#include <tl/expected.hpp>

namespace core {

/// What is wrong, where, and what would mend it. Used for every kind of bad input.
struct Problem {
    std::string place;  ///< file, line and field, or the path inside the project, e.g. "revisions[2].changes[0].part"
    std::string what;   ///< what was found
    std::string remedy; ///< what is accepted instead

    friend bool operator==(const Problem&, const Problem&) = default;
    [[nodiscard]] std::string text() const { return place + ": " + what + (remedy.empty() ? "" : " (" + remedy + ")"); }
};

template <class T> using Result = tl::expected<T, Problem>;

[[nodiscard]] inline tl::unexpected<Problem> problem(std::string place, std::string what, std::string remedy = {}) {
    return tl::make_unexpected(Problem{std::move(place), std::move(what), std::move(remedy)});
}

} // namespace core
