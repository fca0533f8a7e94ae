// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/change_fields.h"
#include "core/rules/port_map.h"

namespace core::rules {

/// Something that a field of a change can name.
struct Named {
    std::string value;       ///< as the change names it
    std::string name;        ///< what people call it
    bool isStandard = false; ///< a size that is ready, and not on the shelf yet
};

/// What a field of @p change that names @p names can name in a build, given what its fields above say already.
/// @p standard: sizes that are ready and not on the shelf yet.
[[nodiscard]] std::vector<Named> nameable(const Project& project, const Build& build, const PortMap& ports,
                                          const Change& change, Names names, const std::vector<Part>& standard = {});

/// @p change with the figures that hold now for what it names: the speed a fan has, the open share of a panel, a little
/// less than a part draws. A form starts with them.
[[nodiscard]] Change asItIs(const Build& build, Change change);

} // namespace core::rules
