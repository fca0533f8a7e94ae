// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/compiler.h"

#include <limits>

namespace core::air {
namespace {

const std::vector<std::pair<double, double>> caseCurve{{30, .30}, {50, .36}, {70, .52}, {80, .75}, {90, 1}};

/// Nearer than this across its blades a fan belongs to what it looks at: a panel, a radiator.
constexpr double touchesMm = 8;

/// Free distance from a face of a part to the same side of another that lies that way, mm; negative: it lies behind.
double distanceTo(const Placed& p, const Placed& other, std::size_t axis, int sign) {
    return sign > 0 ? (other.lowAt[axis] - p.highAt[axis]).mm() : (p.lowAt[axis] - other.highAt[axis]).mm();
}

double coveredShare(const Placed& p, const Placed& other, Side side) {
    const Rect face = footprint(p, side);
    return intersection(face, footprint(other, side)).areaMm2() / std::max(1.0, face.areaMm2());
}

bool isPartOf(const Build& build, const Placed& p, const Placed& carrier) {
    for (std::ptrdiff_t i = p.parent; i >= 0; i = build.placed[static_cast<std::size_t>(i)].parent)
        if (&build.placed[static_cast<std::size_t>(i)] == &carrier)
            return true;
    return false;
}

} // namespace

FanClass fanOf(const Part& part) {
    const auto& spec = std::get<FanSpec>(part.spec);
    FanClass fan = fanClass(std::max(part.size[0].value.mm(), part.size[1].value.mm()), part.size[2].value.mm());
    // What is not rated follows from the class at the speed that is: flow with it, pressure with its square.
    if (spec.rpm > 0) {
        const double ratio = spec.rpm / fan.rpm;
        fan = {spec.rpm,
               {fan.curve.freeFlowM3s * ratio, fan.curve.shutoffPa * ratio * ratio},
               fan.levelDba + 50 * std::log10(ratio)};
    }
    if (spec.freeFlowM3s > 0)
        fan.curve.freeFlowM3s = spec.freeFlowM3s;
    if (spec.shutoffPa > 0)
        fan.curve.shutoffPa = spec.shutoffPa;
    if (spec.levelDba > 0)
        fan.levelDba = spec.levelDba;
    return fan;
}

Resistance obstacleResistance(const Obstacle& o, double frameMm) {
    if (o.share <= 0)
        return {};
    // The air turns off through the ring between the frame and what stands before it; a quarter of the frame away the
    // ring is as large as the blades, and nothing is left of it.
    const double face = 0.785 * frameMm * frameMm * mm2, gap = std::max(0.5, o.gapMm) * mm;
    const double open = o.share * 3.1416 * frameMm * mm * gap + (1 - o.share) * face;
    if (open >= face)
        return {};
    constexpr double k = 1.5;
    return {12.0 * frameMm * mm / 4 / (gap * gap * open) * o.share, 0.5 * k * (1 / (open * open) - 1 / (face * face))};
}

Before Compiler::before(const Placed& p, int sign) const {
    const Axis axis = p.facing().axis;
    const Side side = sideOf({axis, sign});
    for (const RadiatorRooms& r : m_radiators)
        for (std::size_t end = 0; end < 2; ++end) // fans on its low side look up at it
            if ((end == 0) == (sign > 0) && std::find(r.fans[end].begin(), r.fans[end].end(), &p) != r.fans[end].end())
                return {.kind = Before::Kind::Fins,
                        .side = side,
                        .rect = {},
                        .zone = r.room[end],
                        .outside = before(*r.placed, sign).kind == Before::Kind::Open};
    const double off = distanceToSide(m_build, p, side);
    if (off >= touchesMm)
        return {.side = side, .rect = {}};
    Before there{.kind = Before::Kind::Closed, .side = side, .rect = {}, .gapMm = std::max(0.0, off)};
    for (const Opening& o : m_build.openings)
        if (o.side == side && o.to.empty() && isOpen(o))
            if (const Rect r = intersection(rectOf(o), footprint(p, side)); r.areaMm2() > there.rect.areaMm2()) {
                there.kind = Before::Kind::Open;
                there.rect = r;
                there.opening = &o;
            }
    return there;
}

std::vector<Compiler::End> Compiler::endsAt(const Placed& p, int sign, const Before& there) const {
    if (there.kind == Before::Kind::Open)
        return {{0, 1}};
    if (there.kind == Before::Kind::Fins)
        return {{there.zone, 1}};
    const Axis axis = p.facing().axis;
    const std::size_t a = index(axis);
    constexpr double lookMm = 4;
    std::array<double, 3> ahead = centreOf(p);
    ahead[a] = sign > 0 ? p.highAt[a].mm() + lookMm : p.lowAt[a].mm() - lookMm;
    std::vector<End> ends;
    double rest = 1;
    for (const GapPart& gap : m_gaps) {
        if (outward(gap.side).axis != axis)
            continue;
        // The gap reaches from the intake to the panel; a fan in it, or at its edge, blows into it or draws from it.
        const double face = outward(gap.side).sign > 0 ? gap.placed->highAt[a].mm() : gap.placed->lowAt[a].mm();
        const bool between = outward(gap.side).sign > 0 ? ahead[a] >= face - lookMm : ahead[a] <= face + lookMm;
        const Rect own = footprint(p, gap.side);
        const double share =
            between ? intersection(own, gap.rect).areaMm2() / std::max(1.0, own.areaMm2()) * gap.nearness : 0;
        if (share > 0.02) {
            ends.push_back({gap.zone, std::min(share, rest)});
            rest -= ends.back().share;
        }
    }
    if (rest > 0.02 || ends.empty())
        ends.push_back({m_out.chamberZones[chamberAt(m_spec, ahead)], rest});
    double sum = 0;
    for (const End& end : ends)
        sum += end.share;
    for (End& end : ends)
        end.share /= sum;
    return ends;
}

Obstacle Compiler::obstacleBefore(const Placed& p, int sign, double frameMm) const {
    const std::size_t axis = index(p.facing().axis);
    const Side side = sideOf({p.facing().axis, sign});
    Obstacle nearest;
    const auto offer = [&](double gapMm, double share, const std::string& name) {
        if (gapMm < frameMm / 4 && share > 0.1 && (nearest.share <= 0 || gapMm < nearest.gapMm))
            nearest = {std::max(0.0, gapMm), std::min(1.0, share), name};
    };
    for (const Placed& other : m_build.placed) {
        const PartKind kind = other.part->kind;
        if (&other == &p || kind == PartKind::Fan || kind == PartKind::Radiator || kind == PartKind::Cable ||
            other.outside || isPartOf(m_build, p, other))
            continue;
        if (const GapPart* gap = gapOf(other); gap && outward(gap->side).axis == p.facing().axis)
            continue; // the gap before it is a room of its own
        const double off = distanceTo(p, other, axis, sign);
        if (off > -1)
            offer(off, coveredShare(p, other, side), other.name);
    }
    return nearest;
}

void Compiler::addCaseFans() {
    for (const Placed& p : m_build.placed)
        if (p.part->kind == PartKind::Fan)
            addCaseFan(p);
}

void Compiler::addCaseFan(const Placed& p) {
    const auto& spec = std::get<FanSpec>(p.part->spec);
    const double frame = std::max(p.part->size[0].value.mm(), p.part->size[1].value.mm());
    const FanClass fan = fanOf(*p.part);
    FanDrive drive{.id = p.mount, .ratedRpm = fan.rpm, .minShare = spec.minDuty, .fixedDuty = p.duty};
    drive.curve = caseCurve;
    if (p.mode != FanMode::Fixed)
        drive.source = ControlSource::Part; // the part index is filled in once the parts are known
    m_net.fans.push_back(drive);
    const std::size_t f = m_net.fans.size() - 1;
    // From its outer side to its inner one: a panel with a vent is outside, else its depth grows inwards.
    int inward = p.facing().sign;
    std::array<Before, 2> there{before(p, -inward), before(p, inward)};
    const auto isOut = [](const Before& b) { return b.kind == Before::Kind::Open || b.outside; };
    if (isOut(there[1]) && !isOut(there[0])) {
        std::swap(there[0], there[1]);
        inward = -inward;
    }
    const bool in = p.flow == FanFlow::In;
    Compiled::FanBranch entry{.mount = p.mount, .branches = {}, .fan = f, .flow = p.flow, .obstacle = {}};
    if (isOut(there[0]))
        entry.direction = in ? FanDirection::In : FanDirection::Out;
    const double blades = 0.785 * frame * frame * mm2;
    Resistance resistance;
    double height = upOf(centreOf(p));
    for (std::size_t end = 0; end < 2; ++end) {
        const int sign = end == 0 ? -inward : inward;
        const Before& face = there[end];
        if (face.kind == Before::Kind::Open) {
            const Opening& o = *face.opening;
            const double open = face.rect.areaMm2() * shapeShare(o) * (1 - o.blockedShare) * mm2;
            resistance = resistance + coverOf(o, std::max(1e-6, std::min(blades, open))).resistance + deskSlot(o, open);
            height = vertical(face.side, face.rect).second;
            m_fanPatches.push_back({o.id, face.rect});
            entry.opening = o.id;
            continue;
        }
        if (face.kind == Before::Kind::Fins)
            continue;
        Obstacle obstacle = obstacleBefore(p, sign, frame);
        if (face.kind == Before::Kind::Closed) {
            obstacle = {face.gapMm, 1.0, {}};
            m_out.notes.push_back(
                say("{} looks at a closed panel {} away: it only moves air inside", p.name, figure::mm(face.gapMm, 1)));
        }
        resistance = resistance + obstacleResistance(obstacle, frame);
        if (obstacle.share > 0 && (entry.obstacle.share <= 0 || obstacle.gapMm < entry.obstacle.gapMm))
            entry.obstacle = obstacle;
    }
    for (const End& outer : endsAt(p, -inward, there[0]))
        for (const End& inner : endsAt(p, inward, there[1])) {
            const double share = outer.share * inner.share;
            entry.branches.push_back(addBranch({.id = p.mount,
                                                .from = in ? outer.zone : inner.zone,
                                                .to = in ? inner.zone : outer.zone,
                                                .resistance = {resistance.a / share, resistance.b / (share * share)},
                                                .heightM = height,
                                                .fan = f,
                                                .curve = {fan.curve.freeFlowM3s * share, fan.curve.shutoffPa}}));
        }
    const Branch& first = m_net.branches[entry.branches.front()];
    if (entry.direction == FanDirection::Inside && first.from == first.to && there[0].kind == Before::Kind::Air &&
        there[1].kind == Before::Kind::Air)
        m_out.notes.push_back(say("{} has the same air on both sides: it stirs it, and moves none in or out", p.name));
    m_out.fans.push_back(std::move(entry));
}

void Compiler::followParts() {
    for (FanDrive& drive : m_net.fans) {
        if (drive.source != ControlSource::Part || drive.ownFan)
            continue;
        const Placed* p = m_build.at(drive.id);
        const auto part = std::find_if(m_net.parts.begin(), m_net.parts.end(), [&](const CooledPart& c) {
            return p->mode == FanMode::Processor ? c.isProcessor : !c.isProcessor && !c.isSupply;
        });
        if (part == m_net.parts.end()) {
            drive.source = ControlSource::Fixed;
            m_out.notes.push_back(say("{} should follow a part that is not there; it runs at a fixed speed", p->name));
        } else {
            drive.part = static_cast<std::size_t>(part - m_net.parts.begin());
        }
    }
}

} // namespace core::air
