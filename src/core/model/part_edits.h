// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/part.h"

#include <compare>

namespace core::own {

/// Something that lies at a place of a part, in its own axes.
enum class Kind { Body, Plug, Place, Corner };
struct Item {
    Kind kind = Kind::Body;
    std::size_t index = 0;  ///< among the part's bodies, ports or mounts
    std::size_t corner = 0; ///< of a route, when it is one of its corners
    friend auto operator<=>(const Item&, const Item&) = default;
};

/// All of them, in the order of the part; of a tube or ribbon the corners of its route as well.
[[nodiscard]] std::vector<Item> itemsOf(const Part& part);
/// "Plug eps-8", "Body heat spreader": what a person calls it.
[[nodiscard]] std::string nameOf(const Part& part, const Item& item);
/// Where it is taken hold of: the socket of a plug, the middle of a body, the offset of a place; mm from the part's low
/// corner.
[[nodiscard]] std::array<double, 3> middleOf(const Part& part, const Item& item);
/// Moves it; the tolerance and source of its offsets stay. Errors: it is not there; out of range.
[[nodiscard]] Result<void> moveBy(Part& part, const Item& item, const std::array<double, 3>& mm);

/// A corner more in a route, after corner @p after; it becomes a route of two points where it has none.
/// Errors: the body is not swept along a route.
[[nodiscard]] Result<Item> addCorner(Part& part, std::size_t body, std::size_t after);
/// Takes it out of the part. Errors: not there; a route keeps two points.
[[nodiscard]] Result<void> remove(Part& part, const Item& item);

} // namespace core::own
