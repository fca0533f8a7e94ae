// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/error.h"
#include "core/model/project.h"

#include <span>

// Usual arrangements of a compact computer: a start to be edited. Each asks a few sizes and makes of them a case with
// its chambers, inner panels, places, vents and fan places. Usual sizes, and where things lie in them, are engineering
// judgement: they count as estimates until somebody measures.
namespace core::arrange {

/// A size that is asked, with the usual figure that stands there at first.
struct AskedSize {
    std::string_view key, label, help;
    double usualMm, lowMm, highMm;
};
/// Another way to use the same box: the supply somewhere else.
struct Way {
    std::string_view id, name;
};
/// A part of the standard shelf that the arrangement is meant for, and where it goes.
struct Meant {
    std::string_view part, mount;
    FanFlow flow = FanFlow::In;
};
/// A lead or adapter between what it is meant for; ends as in Connect.
struct MeantLead {
    std::string_view part, from, to;
};

/// Sizes every arrangement asks first, in this order.
constexpr std::size_t width = 0, depth = 1, height = 2, wall = 3, feet = 4;

/// What somebody chose: sizes in the order they are asked, each with its source.
struct Sizes {
    std::vector<Measure> all;
    [[nodiscard]] double mm(std::size_t i) const { return all[i].value.mm(); }
};

/// What an arrangement makes.
struct Box {
    Part casePart;
    std::vector<Part> panels;    ///< inner panels, as made parts
    std::vector<Change> changes; ///< that put them in
};

struct Arrangement {
    std::string_view id, name, takes;
    std::vector<AskedSize> sizes;
    std::vector<Way> ways; ///< the first is the usual one; one alone: nothing to choose
    std::vector<Meant> meant;
    std::vector<MeantLead> leads;
    void (*make)(class BoxMaker& box);
};

/// All of them, the blank one last.
[[nodiscard]] std::span<const Arrangement> arrangements();
[[nodiscard]] const Arrangement* arrangement(std::string_view id);
/// The usual sizes, as estimates.
[[nodiscard]] Sizes usualSizes(const Arrangement& arrangement);
/// The box of these sizes, its parts in the way @p way of its arrangement. Errors: as many sizes as are asked are not
/// there, one is out of its range, the way is unknown; each names the size and its range.
[[nodiscard]] Result<Box> makeBox(const Arrangement& arrangement, const Sizes& sizes, std::string_view way = {});
/// A project that starts with this box: usual loads and targets, and one revision with the case and its inner panels.
[[nodiscard]] Project startWith(const Arrangement& arrangement, Box box, std::string name);
/// The same with the parts it is meant for, taken from @p standard. Errors: one of them is not there.
[[nodiscard]] Result<Project> meantProject(const Arrangement& arrangement, Box box, const std::vector<Part>& standard);

} // namespace core::arrange
