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

/// Of a body that is not turned, its shadow in the plane across an axis, in the case.
Rect shadowOf(const Placed& p, const std::array<Measure, 3>& from, const std::array<Measure, 3>& to, Side side) {
    const auto a = p.inCaseMm(from), b = p.inCaseMm(to);
    const auto axes = planeAxes(side);
    Rect r;
    for (std::size_t i = 0; i < 2; ++i) {
        r.low[i] = std::min(a[index(axes[i])], b[index(axes[i])]);
        r.high[i] = std::max(a[index(axes[i])], b[index(axes[i])]);
    }
    return r;
}

std::array<Measure, 3> pointOf(const Body& body, double u, double v, double w) {
    auto point = body.at;
    const std::array<double, 3> share{u, v, w};
    for (std::size_t k = 0; k < 3; ++k)
        point[k].value = Length::fromMm(body.at[k].value.mm() + share[k]);
    return point;
}

/// Where a hole through a plate lies on it, from its low to its high corner, along the plate's own axes.
std::pair<std::array<Measure, 3>, std::array<Measure, 3>> cornersOf(const Body& body, const Cutout& hole) {
    std::array<double, 3> low{}, high{};
    std::size_t i = 0;
    for (std::size_t k = 0; k < 3; ++k) {
        if (k == index(body.along)) {
            high[k] = body.size[k].value.mm();
            continue;
        }
        low[k] = hole.atMm[i];
        high[k] = hole.atMm[i] + hole.sizeMm[i];
        ++i;
    }
    return {pointOf(body, low[0], low[1], low[2]), pointOf(body, high[0], high[1], high[2])};
}

/// Share of the face of a fan that another part stands before: its solid bodies, without the holes through them.
double coveredShare(const Placed& p, const Placed& other, Side side) {
    const Rect face = footprint(p, side);
    const double whole = std::max(1.0, face.areaMm2());
    if (other.part->bodies.empty())
        return intersection(face, footprint(other, side)).areaMm2() / whole;
    double covered = 0;
    for (const Body& body : other.part->bodies) {
        if (body.role != BodyRole::Solid || body.shape == Shape::Tube || body.shape == Shape::Ribbon)
            continue;
        const auto& size = body.size;
        const auto far = pointOf(body, size[0].value.mm(), size[1].value.mm(), size[2].value.mm());
        double area = intersection(face, shadowOf(other, body.at, far, side)).areaMm2();
        for (const Cutout& hole : body.cutouts) {
            const auto [low, high] = cornersOf(body, hole);
            if (other.frame.axis[index(body.along)].axis == outward(side).axis)
                area -= intersection(face, shadowOf(other, low, high, side)).areaMm2() * (hole.round ? 0.785 : 1);
        }
        covered += std::max(0.0, area);
    }
    return std::min(1.0, covered / whole);
}

std::array<double, 3> aheadOf(const Placed& p, std::size_t axis, int sign, double byMm) {
    std::array<double, 3> point = centreOf(p);
    point[axis] = sign > 0 ? p.highAt[axis].mm() + byMm : p.lowAt[axis].mm() - byMm;
    return point;
}

bool isPartOf(const Build& build, const Placed& p, const Placed& carrier) {
    for (std::ptrdiff_t i = p.parent; i >= 0; i = build.placed[static_cast<std::size_t>(i)].parent)
        if (&build.placed[static_cast<std::size_t>(i)] == &carrier)
            return true;
    return false;
}

} // namespace

std::optional<FittedFan> fittedFan(const FanSpec& spec) {
    if (spec.curve.empty())
        return std::nullopt;
    std::vector<std::pair<double, double>> points;
    for (const FanPoint& p : spec.curve)
        points.emplace_back(p.flowM3s, p.pressurePa);
    return fanThrough(points);
}

FanClass fanOf(const Part& part) {
    const auto& spec = std::get<FanSpec>(part.spec);
    FanClass fan = fanClass(std::max(part.size[0].value.mm(), part.size[1].value.mm()), part.size[2].value.mm());
    if (spec.rpm > 0) // what is not rated follows from the class at the speed that is
        fan = atRpm(fan, spec.rpm);
    if (spec.freeFlowM3s > 0)
        fan.curve.freeFlowM3s = spec.freeFlowM3s;
    if (spec.shutoffPa > 0)
        fan.curve.shutoffPa = spec.shutoffPa;
    if (const auto fitted = fittedFan(spec))
        fan.curve = fitted->curve;
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

/// The chamber that a face looks into: through the wall it may be mounted in, which is in none.
std::size_t Compiler::chamberAhead(const Placed& p, std::size_t axis, int sign) const {
    constexpr double wallMm = 24, stepMm = 2;
    for (double look = stepMm; look <= wallMm; look += stepMm) {
        const auto point = aheadOf(p, axis, sign, look);
        for (std::size_t i = 0; i < m_spec.chambers.size(); ++i) {
            bool inside = true;
            for (std::size_t k = 0; k < 3; ++k)
                inside = inside && point[k] > m_spec.chambers[i].lowMm[k] && point[k] < m_spec.chambers[i].highMm[k];
            if (inside)
                return i;
        }
    }
    return chamberAt(m_spec, aheadOf(p, axis, sign, stepMm));
}

std::vector<Compiler::End> Compiler::endsAt(const Placed& p, int sign, const Before& there) const {
    if (there.kind == Before::Kind::Open)
        return {{0, 1}};
    if (there.kind == Before::Kind::Fins)
        return {{there.zone, 1}};
    const Axis axis = p.facing().axis;
    const std::size_t a = index(axis);
    constexpr double lookMm = 4;
    const std::array<double, 3> ahead = aheadOf(p, a, sign, lookMm);
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
        ends.push_back({m_out.chamberZones[chamberAhead(p, a, sign)], rest});
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
    FanDrive drive{.id = p.mount, .ratedRpm = fan.rpm, .minShare = spec.minDuty};
    drive.curve = caseCurve;
    follow(drive, p); // the part index is filled in once the parts are known
    m_net.fans.push_back(drive);
    if (const auto fitted = fittedFan(spec); fitted && fitted->offPa > 0.1 * fitted->curve.shutoffPa)
        m_out.notes.push_back(say("The law of fans leaves the stated curve of {} by up to {}: a dip is not modelled",
                                  p.name, figure::usual(Quantity::Pressure, fitted->offPa)));
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
            entry.branches.push_back(
                addBranch({.id = p.mount,
                           .from = in ? outer.zone : inner.zone,
                           .to = in ? inner.zone : outer.zone,
                           .resistance = ofShare(resistance, share),
                           .heightM = height,
                           .fan = f,
                           .curve = {fan.curve.freeFlowM3s * share, fan.curve.shutoffPa, fan.curve.linear}}));
        }
    const Branch& first = m_net.branches[entry.branches.front()];
    if (entry.direction == FanDirection::Inside && first.from == first.to && there[0].kind == Before::Kind::Air &&
        there[1].kind == Before::Kind::Air)
        m_out.notes.push_back(say("{} has the same air on both sides: it stirs it, and moves none in or out", p.name));
    m_out.fans.push_back(std::move(entry));
}

/// What the control of a fan says of its drive, but for the part it follows.
void Compiler::follow(FanDrive& drive, const Placed& p) {
    const FanControl& control = p.control;
    drive.fixedDuty = control.duty;
    drive.source = control.mode == FanMode::Fixed ? ControlSource::Fixed : ControlSource::Part;
    if (drive.source == ControlSource::Fixed && !control.curve.empty())
        m_out.notes.push_back(say("{} is held at {} of full speed: the curve that is stated for it is not used", p.name,
                                  figure::percent(control.duty)));
    if (drive.source == ControlSource::Fixed || control.curve.empty())
        return;
    drive.curve.clear();
    for (const CurvePoint& point : control.curve)
        drive.curve.emplace_back(point.temperatureC, point.duty);
    drive.hysteresisK = control.hysteresisK;
    if (control.hysteresisK > 0)
        drive.stopK = control.hysteresisK;
    if (drive.curve.front().second > 0)
        return;
    // A curve that begins at nought stands still until it asks for the least speed the fan can run at.
    drive.startC = 1e9;
    for (std::size_t i = 1; i < drive.curve.size() && *drive.startC > 1e8; ++i) {
        const auto& [t0, d0] = drive.curve[i - 1];
        const auto& [t1, d1] = drive.curve[i];
        const double least = std::max(1e-3, drive.minShare);
        if (d1 >= least)
            drive.startC = t0 + (t1 - t0) * std::clamp((least - d0) / std::max(1e-9, d1 - d0), 0.0, 1.0);
    }
}

void Compiler::followParts() {
    for (FanDrive& drive : m_net.fans) {
        if (drive.source != ControlSource::Part)
            continue;
        const Placed* p = m_build.at(drive.id);
        const FanMode mode = p->control.mode;
        if (drive.ownFan && mode != FanMode::Part && (mode == FanMode::Card) == (p->part->kind == PartKind::Card))
            continue; // its own part, which it knows
        const auto isMeant = [&](const auto& part) { return part.id == p->control.follows; };
        const auto part = std::find_if(m_net.parts.begin(), m_net.parts.end(), [&](const CooledPart& c) {
            return mode == FanMode::Part        ? isMeant(c)
                   : mode == FanMode::Processor ? c.isProcessor
                                                : !c.isProcessor && !c.isSupply;
        });
        const auto passive = mode == FanMode::Part ? std::find_if(m_net.passive.begin(), m_net.passive.end(), isMeant)
                                                   : m_net.passive.end();
        if (part != m_net.parts.end()) {
            drive.part = static_cast<std::size_t>(part - m_net.parts.begin());
        } else if (passive != m_net.passive.end()) {
            drive.passive = static_cast<std::size_t>(passive - m_net.passive.begin());
        } else {
            drive.source = ControlSource::Fixed;
            drive.startC.reset();
            m_out.notes.push_back(say("{} should follow a part that is not there; it runs at a fixed speed", p->name));
        }
    }
}

} // namespace core::air
