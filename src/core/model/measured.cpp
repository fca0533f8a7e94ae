// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/build.h"

namespace core {
namespace {

/// The place of the measure in the project; null when it is gone.
Measure* placeOf(Part& part, const DimensionOrigin& origin) {
    using What = DimensionOrigin::What;
    const auto named = [&](auto& items, auto member) {
        return std::find_if(items.begin(), items.end(), [&](const auto& item) { return item.*member == origin.item; });
    };
    switch (origin.what) {
    case What::PartSize:
        return &part.size[origin.axis];
    case What::Wall:
        return &std::get<CaseSpec>(part.spec).wall;
    case What::MountAt:
    case What::VariantAt: {
        const auto mount = named(part.mounts, &Mount::id);
        if (mount == part.mounts.end())
            return nullptr;
        if (origin.what == What::MountAt)
            return &mount->at[origin.axis].value;
        for (MountVariant& v : mount->variants)
            if (v.id == origin.variant) {
                if (!v.at)
                    return &mount->at[origin.axis].value;
                return &(*v.at)[origin.axis].value;
            }
        return nullptr;
    }
    case What::BodyAt:
    case What::BodySize: {
        const auto body = named(part.bodies, &Body::name);
        if (body == part.bodies.end())
            return nullptr;
        return origin.what == What::BodyAt ? &body->at[origin.axis] : &body->size[origin.axis];
    }
    case What::PortAt: {
        const auto port = named(part.ports, &Port::id);
        return port == part.ports.end() ? nullptr : &port->at[origin.axis];
    }
    case What::None:
    case What::Feet:
        break;
    }
    return nullptr;
}

} // namespace

Result<void> setMeasured(Project& project, const DimensionOrigin& origin, const Measure& value) {
    Part* part = project.shelf.edit(origin.part);
    Measure* place = part ? placeOf(*part, origin) : nullptr;
    if (!place)
        return problem("measuring sheet", "there is no such size on part \"" + origin.part + "\"",
                       "make the sheet again: the part has changed");
    // One body or plate has one size: what lies on it moves with it only through its own places.
    const Measure before = *place;
    *place = value;
    if (origin.what == DimensionOrigin::What::PartSize && part->bodies.size() == 1 &&
        part->bodies[0].role == BodyRole::Solid && part->bodies[0].size[origin.axis].value == before.value)
        part->bodies[0].size[origin.axis] = value;
    return {};
}

} // namespace core
