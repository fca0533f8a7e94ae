// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/faces.h"

#include "core/fit/gap_search.h"
#include "core/fit/openings.h"

#include <algorithm>

namespace core::fit {
namespace {

/// A panel is open to what breathes behind it when so much of that face lies over openings that are open enough.
constexpr double openFaceShare = 0.45; // common practice, no source; for the plate itself and for the share it covers

bool same(Direction a, Direction b) { return a.axis == b.axis && a.sign == b.sign; }

} // namespace

Side sideOfFan(const Build& build, const Placed& fan) {
    const Axis axis = fan.facing().axis;
    const std::size_t k = index(axis);
    const bool lowIsNearer = fan.lowAt[k].mm() <= build.insideAt[k].mm() - fan.highAt[k].mm();
    return sideOf({axis, lowIsNearer ? -1 : 1});
}

bool Faces::fanInChamberOf(const Placed& p) const {
    const auto inside = [](const Chamber& c, const Placed& q) {
        for (std::size_t a = 0; a < 3; ++a)
            if (const double middle = 0.5 * (q.lowAt[a].mm() + q.highAt[a].mm());
                middle < c.lowMm[a] || middle > c.highMm[a])
                return false;
        return true;
    };
    for (const Chamber& c : m_build.caseSpec().chambers)
        if (inside(c, p))
            for (const Placed& fan : m_build.placed)
                if (fan.part->kind == PartKind::Fan && inside(c, fan))
                    return true;
    return false;
}

/// Of the solid bodies of its part none reaches farther that way: a part may be stated deeper than its shroud is.
bool Faces::reachesFarthest(const PlacedBody& b, Direction look) const {
    const std::size_t k = index(look.axis);
    const auto reach = [&](const PlacedBody& body) { return look.sign > 0 ? body.high[k] : Length{} - body.low[k]; };
    return std::none_of(m_bodies.begin(), m_bodies.end(), [&](const PlacedBody& other) {
        return other.placed == b.placed && other.role == BodyRole::Solid && reach(other) > reach(b);
    });
}

Shown Faces::solid(const Placed& p, const PlacedBody& b, Direction look) const {
    const Direction out = p.facing(), back{out.axis, -out.sign};
    const bool along = out.axis == look.axis;
    // A bracket, a clip or a socket of a part is just something solid; the part's main body is the one with its face.
    const bool main = !b.body || b.isBox() || b.shape == Shape::Cylinder;
    const bool outer = main && same(look, out) && reachesFarthest(b, look);
    switch (p.part->kind) {
    case PartKind::Fan: {
        if (!along || !main)
            return {};
        const bool towardsPanel = same(look, outward(sideOfFan(m_build, p)));
        return {Face::Blades, towardsPanel == (p.flow == FanFlow::In)};
    }
    case PartKind::Radiator:
        return along && main ? Shown{Face::Radiator, true} : Shown{};
    case PartKind::Drive:
        return {fanInChamberOf(p) ? Face::Drive : Face::StillDrive};
    case PartKind::Board:
        return {same(look, back) ? Face::BoardUnderside : Face::Solid};
    case PartKind::Cooler: {
        const CoolerType type = std::get<CoolerSpec>(p.part->spec).type;
        if (type == CoolerType::Tower && main && look.axis == p.frame.axis[1].axis)
            return {Face::Tower, true};
        return outer && type == CoolerType::TopDown ? Shown{Face::CoolerFan, true} : Shown{};
    }
    case PartKind::Card:
        return outer ? Shown{Face::CoolerFan, true} : Shown{same(look, back) && main ? Face::CardBack : Face::Solid};
    case PartKind::PowerSupply:
        return outer && !std::get<PowerSupplySpec>(p.part->spec).brick ? Shown{Face::SupplyIntake, true} : Shown{};
    default:
        return {};
    }
}

Shown Faces::of(std::size_t body, Direction look, std::size_t other) const {
    if (body == caseWall) {
        // The wall looks back at the body, so its outward side is the other way round.
        const PlacedBody& b = m_bodies[other];
        const Over over = overOpenings(m_build, sideOf({look.axis, -look.sign}),
                                       faceOf(b, look.axis, m_build.placed[b.placed].part->kind == PartKind::Fan));
        return {over.share >= openFaceShare && over.perforation >= openFaceShare - 1e-9 ? Face::OpenPanel
                                                                                        : Face::ClosedPanel};
    }
    const PlacedBody& b = m_bodies[body];
    if (b.role == BodyRole::KeepOut) {
        switch (b.use) {
        case Use::Blades:
            return {Face::Blades};
        case Use::Lead:
            return {Face::Lead};
        case Use::Tool:
            return {Face::Tool};
        case Use::Frame:
            return {Face::Frame};
        case Use::Plug:
        case Use::Foot:
            break;
        }
        return {Face::KeepOut};
    }
    return solid(m_build.placed[b.placed], b, look);
}

bool Faces::sitsOverAnOpening(std::size_t body, Side side) const {
    const PlacedBody& b = m_bodies[body];
    const PartKind kind = m_build.placed[b.placed].part->kind;
    if (kind != PartKind::Fan && kind != PartKind::PowerSupply && kind != PartKind::Radiator)
        return false;
    return overOpenings(m_build, side, faceOf(b, outward(side).axis, kind == PartKind::Fan)).share >= openFaceShare;
}

double Faces::covered(std::size_t body, std::size_t other, Axis axis) const {
    if (other == caseWall)
        return 1; // a panel is before all of it; where it is open was looked at already
    const PlacedBody& b = m_bodies[body];
    const PlacedBody& o = m_bodies[other];
    double share = 1;
    for (std::size_t a = 0; a < 3; ++a)
        if (a != index(axis)) {
            const double width = (b.high[a] - b.low[a]).mm();
            share *= width > 0
                         ? std::max(0.0, (std::min(b.high[a], o.high[a]) - std::max(b.low[a], o.low[a])).mm()) / width
                         : 0.0;
        }
    return share;
}

} // namespace core::fit
