// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/base/sentence.h"
#include "core/model/project.h"

namespace core::box {

// Things of a case as they are edited on the drawing: each is one entry of a list in its part. Coordinates are those of
// the case, mm: x from the left, y from the front, z from the floor.

/// A cut-out belongs to the made part at a place, not to the case: see cutout_edits.
enum class Kind { Walls, Chamber, Vent, Place, Cutout };
struct Item {
    Kind kind = Kind::Walls;
    std::size_t index = 0; ///< in its list; Walls: 0; Cutout: of its place
    std::size_t hole = 0;  ///< Cutout: among those of the part there
    friend bool operator==(const Item&, const Item&) = default;
};
/// All things of a case in the order they are listed. Empty where the part is no case.
[[nodiscard]] std::vector<Item> itemsOf(const Part& casePart);
[[nodiscard]] std::string nameOf(const Part& casePart, const Item& item);
[[nodiscard]] std::string idOf(const Part& casePart, const Item& item);

struct Extent {
    std::array<double, 3> low{}, high{};
};
/// Where a thing lies. A vent lies in its wall (its thickness outwards), or in the plane between its chambers; a place
/// is as large as @p partMm, the sizes of what sits there along the axes of the case (a fan place: its frame).
[[nodiscard]] Extent extentOf(const Part& casePart, const Item& item, const std::array<double, 3>& partMm = {});
/// Whether its low or high end along an axis can be moved by itself: walls, chambers and vents in their plane.
[[nodiscard]] bool canResize(const Part& casePart, const Item& item, Axis axis);

// ---- edits; each answers what is wrong by name and changes nothing then ----
[[nodiscard]] Result<void> move(Part& casePart, const Item& item, const std::array<double, 3>& byMm);
/// Moves one end of a thing to @p toMm; @p high: its high end. A wall takes with it what is measured from it.
[[nodiscard]] Result<void> resize(Part& casePart, const Item& item, Axis axis, bool high, double toMm);
/// A new thing with usual sizes; a vent on @p side in the first chamber that reaches it.
[[nodiscard]] Result<Item> add(Part& casePart, Kind kind, Side side = Side::Right, PartKind takes = PartKind::Fan);
[[nodiscard]] Result<Item> copy(Part& casePart, const Item& item, const std::array<double, 3>& byMm);
/// Its copy on the other side of the middle of the case.
[[nodiscard]] Result<Item> mirror(Part& casePart, const Item& item, Axis axis);
/// @p count more of it, each @p stepMm further along @p axis.
[[nodiscard]] Result<void> row(Part& casePart, const Item& item, int count, Axis axis, double stepMm);
/// A chamber becomes two with @p gapMm between them, the nearer one keeps its id.
[[nodiscard]] Result<Item> split(Part& casePart, const Item& chamber, Axis axis, double atMm, double gapMm);
/// Chambers that would make one box with it: beside it along one axis, at most @p gapMm away, as wide along the others.
[[nodiscard]] std::vector<std::size_t> joinable(const Part& casePart, const Item& chamber, double gapMm = 12);
/// Two chambers become one, which keeps the id of @p chamber; vents between them are gone, those of the other are its
/// own. Errors: they would make no box.
[[nodiscard]] Result<Item> join(Part& casePart, const Item& chamber, std::size_t other);
[[nodiscard]] Result<void> rename(Part& casePart, const Item& item, const std::string& name);
[[nodiscard]] Result<void> remove(Part& casePart, const Item& item);
/// What names this thing elsewhere: vents of a chamber, parts that revisions place there. Named before it is deleted.
[[nodiscard]] std::vector<std::string> hangsOn(const Project& project, const Part& casePart, const Item& item);

/// What one state of a case has that another has not, each as what it is: "Side vent 120 x 120 to 140 x 140 mm".
[[nodiscard]] Sentences differences(const Part& before, const Part& after);

} // namespace core::box
