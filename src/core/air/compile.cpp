// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/compile_geometry.h"
#include "core/air/predict.h"
#include "core/model/facts.h"

namespace core::air {
namespace {

constexpr double mm = 1e-3;
constexpr double mm2 = 1e-6;

const std::vector<std::pair<double, double>> processorCurve{{30, .30}, {50, .40}, {70, .75}, {80, 1}};
const std::vector<std::pair<double, double>> caseCurve{{30, .30}, {50, .36}, {70, .52}, {80, .75}, {90, 1}};
const std::vector<std::pair<double, double>> cardCurve{{40, .30}, {50, .36}, {60, .48}, {70, .66}, {80, .86}, {87, 1}};
const std::vector<std::pair<double, double>> blowerCurve{{40, .25}, {60, .35}, {75, .50}, {83, .60}, {88, .85}};

/// An open share that is as good as none: such a plate is closed, and a fan behind it nearly stands still.
constexpr double closedBelow = 0.001;

/// The resistance of what covers a face: the plate, and a dust screen in front of it.
struct Cover {
    Resistance resistance;
    double k = 1.5;
};
Cover coverOf(const Opening& o, double areaM2) {
    const double e = o.style == OpeningStyle::Plain ? 1.0 : std::max(o.perforation, closedBelow);
    Cover cover{perforated(areaM2, e, o.holeMm * mm, o.thicknessMm * mm), e >= 0.999 ? 1.5 : gridLoss(e)};
    if (o.screen != Screen::None) {
        const double open = o.screen == Screen::Fine ? 0.40 : 0.56;
        const double wire = o.screen == Screen::Fine ? 0.15 * mm : 0.40 * mm;
        cover.resistance = cover.resistance + screen(areaM2, open, wire, o.fouling);
        cover.k += 0.75 * (1 - open * open) / (open * open) * o.fouling;
    }
    return cover;
}

/// A part whose intake faces a panel, with the zone of the gap in front of it.
struct GapPart {
    const Placed* placed = nullptr;
    Side side = Side::Right;
    std::size_t zone = 0;
    std::size_t home = 0;
    Rect rect;
};

class Compiler {
public:
    Compiler(const Build& build, const Conditions& conditions)
        : m_build(build), m_spec(build.caseSpec()), m_conditions(conditions) {}

    Compiled run() {
        m_net.roomC = m_conditions.roomC;
        m_net.pressurePa = pressureAt(m_conditions.altitudeM);
        m_net.zones.push_back({.id = "outside"});
        addChambers();
        findGapParts();
        addCaseFans();
        addOpenings();
        addParts();
        stopIdleFans();
        return std::move(m_out);
    }

private:
    [[nodiscard]] bool isIdle(const std::string& mount) const {
        return std::find(m_conditions.idle.begin(), m_conditions.idle.end(), mount) != m_conditions.idle.end();
    }
    /// What finds no plug does not run, and says so.
    void stopIdleFans() {
        for (FanDrive& fan : m_net.fans)
            if (isIdle(fan.id))
                fan.heldShare = 0;
        for (const std::string& mount : m_conditions.idle)
            if (const Placed* p = m_build.at(mount))
                m_out.notes.push_back(p->part->kind == PartKind::Card
                                          ? say("{} finds no plug: it does not run and gives off no heat", p->name)
                                          : say("{} finds no plug: its fan stands still", p->name));
    }
    [[nodiscard]] double up(Axis axis, double atMm) const {
        const Direction down = outward(m_build.down);
        return axis == down.axis ? -down.sign * atMm * mm : 0.0;
    }
    [[nodiscard]] double upOf(const std::array<double, 3>& pointMm) const {
        const Direction down = outward(m_build.down);
        return up(down.axis, pointMm[index(down.axis)]);
    }
    [[nodiscard]] bool isLevel(Side side) const { return outward(side).axis == outward(m_build.down).axis; }
    /// Height along gravity of a rectangle on a side and the height of its middle, m.
    [[nodiscard]] std::pair<double, double> vertical(Side side, const Rect& rect) const;

    std::size_t addZone(std::string id, double crossM2) {
        m_net.zones.push_back({.id = std::move(id), .crossSectionM2 = crossM2});
        return m_net.zones.size() - 1;
    }
    std::size_t addBranch(Branch branch) {
        m_net.branches.push_back(std::move(branch));
        return m_net.branches.size() - 1;
    }
    void addChambers();
    void findGapParts();
    void addEdges(const GapPart& gap, double clearanceMm);
    void addCaseFans();
    void addOpenings();
    void addPatch(const Opening& o, const Rect& rect, double areaM2, std::size_t from, std::size_t to,
                  std::vector<std::size_t>& out);
    void addParts();
    void addCooler(const Placed& p);
    void addCard(const Placed& p);
    void addSupply(const Placed& p);
    void addPassive(const Placed& p);
    std::size_t addOwnFan(const Placed& p, const FanClass& fan, std::size_t part,
                          std::vector<std::pair<double, double>> curve);
    [[nodiscard]] const GapPart* gapOf(const Placed& p) const {
        const auto it = std::find_if(m_gaps.begin(), m_gaps.end(), [&](const GapPart& g) { return g.placed == &p; });
        return it == m_gaps.end() ? nullptr : &*it;
    }
    [[nodiscard]] std::size_t zoneOf(const Placed& p) const {
        return m_out.chamberZones[chamberAt(m_spec, centreOf(p))];
    }
    [[nodiscard]] Resistance deskSlot(const Opening& o, double areaM2) const;

    const Build& m_build;
    const CaseSpec& m_spec;
    Conditions m_conditions;
    Compiled m_out;
    Network& m_net = m_out.network;
    std::vector<GapPart> m_gaps;
    struct FanPatch {
        std::string opening;
        Rect rect;
    };
    std::vector<FanPatch> m_fanPatches;
};

std::pair<double, double> Compiler::vertical(Side side, const Rect& rect) const {
    const auto axes = planeAxes(side);
    const Direction down = outward(m_build.down);
    for (std::size_t i = 0; i < 2; ++i)
        if (axes[i] == down.axis)
            return {(rect.high[i] - rect.low[i]) * mm, up(down.axis, 0.5 * (rect.low[i] + rect.high[i]))};
    const Direction out = outward(side);
    const double wall = out.sign > 0 ? m_build.insideAt[index(out.axis)].mm() : 0.0;
    return {0.0, up(out.axis, wall)};
}

void Compiler::addChambers() {
    constexpr double hIn = 6, hOut = 8, insideFactor = 1.5, outerShare = 0.7;
    const double tk = m_spec.material == WallMaterial::Steel       ? 2e-5
                      : m_spec.material == WallMaterial::Aluminium ? 1e-5
                                                                   : 0.015;
    for (const Chamber& c : m_spec.chambers) {
        std::array<double, 3> side{}, middle{};
        for (std::size_t a = 0; a < 3; ++a) {
            side[a] = (c.highMm[a] - c.lowMm[a]) * mm;
            middle[a] = 0.5 * (c.highMm[a] + c.lowMm[a]);
        }
        const double box = 2 * (side[0] * side[1] + side[1] * side[2] + side[0] * side[2]);
        const std::size_t z = addZone(c.id, std::min({side[0] * side[1], side[1] * side[2], side[0] * side[2]}));
        Zone& zone = m_net.zones[z];
        zone.insideWk = hIn * insideFactor * box;
        zone.outsideWk = outerShare * box / (1 / hOut + tk);
        zone.uaWk = 1 / (1 / zone.insideWk + 1 / zone.outsideWk);
        zone.structureJk = 200 * side[0] * side[1] * side[2] * 1000;
        m_out.chamberZones.push_back(z);
        addBranch({.id = "leak " + c.id,
                   .from = z,
                   .to = 0,
                   .resistance = perforated(2e-4, 0.6, 3 * mm, 1 * mm),
                   .heightM = upOf(middle)});
    }
}

void Compiler::findGapParts() {
    for (const Placed& p : m_build.placed) {
        const bool topDown =
            p.part->kind == PartKind::Cooler && std::get<CoolerSpec>(p.part->spec).type == CoolerType::TopDown;
        if (!topDown && p.part->kind != PartKind::Card)
            continue;
        const Side side = sideOf(p.facing());
        double clearance = distanceToSide(m_build, p, side);
        const Rect rect = footprint(p, side);
        for (const Placed& fan : m_build.placed)
            if (fan.part->kind == PartKind::Fan && panelOfFan(m_build, fan) == side &&
                intersection(footprint(fan, side), rect).areaMm2() > 0.25 * footprint(fan, side).areaMm2())
                clearance -= fan.part->size[2].value.mm();
        constexpr double nearMm = 80; // engineering judgement
        if (clearance > nearMm) {
            m_out.notes.push_back(
                say("{} breathes from its chamber: no panel within {} of its fan", p.name, figure::mm(nearMm, 0)));
            continue;
        }
        clearance = std::max(2.0, clearance);
        GapPart gap{&p, side, 0, zoneOf(p), rect};
        gap.zone = addZone("gap " + p.mount, 0.75 * rect.perimeterMm() * clearance * mm2);
        addEdges(gap, clearance);
        m_gaps.push_back(gap);
    }
}

void Compiler::addEdges(const GapPart& gap, double clearanceMm) {
    constexpr double openShare = 0.75;
    const double area = openShare * gap.rect.perimeterMm() * clearanceMm * mm2;
    const auto [height, middle] = vertical(gap.side, gap.rect);
    const std::size_t b = addBranch({.id = "edge " + gap.placed->mount,
                                     .from = gap.home,
                                     .to = gap.zone,
                                     .resistance = slot(area, clearanceMm * mm, gap.rect.shortSideMm() / 4 * mm),
                                     .heightM = middle});
    m_net.exchanges.push_back(
        {.branch = b,
         .areaM2 = area,
         .k = 1.5,
         .c = 0.20,
         .lengthM = isLevel(gap.side) ? clearanceMm * mm : std::clamp(height, clearanceMm * mm, 0.3)});
}

void Compiler::addCaseFans() {
    for (const Placed& p : m_build.placed) {
        if (p.part->kind != PartKind::Fan)
            continue;
        const auto& spec = std::get<FanSpec>(p.part->spec);
        const double frame = std::max(p.part->size[0].value.mm(), p.part->size[1].value.mm());
        FanClass fan = fanClass(frame, p.part->size[2].value.mm());
        if (spec.rpm > 0)
            fan.rpm = spec.rpm;
        if (spec.freeFlowM3s > 0)
            fan.curve.freeFlowM3s = spec.freeFlowM3s;
        if (spec.shutoffPa > 0)
            fan.curve.shutoffPa = spec.shutoffPa;
        const auto side = panelOfFan(m_build, p);
        const Opening* opening = nullptr;
        Rect best;
        if (side)
            for (const Opening& o : m_build.openings)
                if (o.side == *side && o.to.empty() && o.style != OpeningStyle::Closed)
                    if (const Rect r = intersection(rectOf(o), footprint(p, *side)); r.areaMm2() > best.areaMm2()) {
                        best = r;
                        opening = &o;
                    }
        FanDrive drive{.id = p.mount, .ratedRpm = fan.rpm, .minShare = spec.minDuty, .fixedDuty = p.duty};
        drive.curve = caseCurve;
        if (p.mode != FanMode::Fixed)
            drive.source = ControlSource::Part; // the part index is filled in once the parts are known
        m_net.fans.push_back(drive);
        const std::size_t f = m_net.fans.size() - 1;
        if (!opening) {
            m_out.notes.push_back(say("{} at {} has no opening to blow through", p.name, p.mount));
            continue;
        }
        std::size_t inner = zoneOf(p);
        for (const GapPart& gap : m_gaps)
            if (gap.side == *side &&
                intersection(gap.rect, footprint(p, *side)).areaMm2() > 0.5 * footprint(p, *side).areaMm2())
                inner = gap.zone;
        const double face = 0.785 * frame * frame * mm2 *
                            std::min(1.0, best.areaMm2() * shapeShare(*opening) / (0.785 * frame * frame));
        const auto [height, middle] = vertical(*side, best);
        (void)height;
        const bool in = p.flow == FanFlow::In;
        const std::size_t b = addBranch({.id = p.mount,
                                         .from = in ? 0 : inner,
                                         .to = in ? inner : 0,
                                         .resistance = coverOf(*opening, face).resistance +
                                                       deskSlot(*opening, best.areaMm2() * shapeShare(*opening) * mm2),
                                         .heightM = middle,
                                         .fan = f,
                                         .curve = fan.curve});
        m_out.fans.push_back({p.mount, b, f, p.flow, true});
        m_fanPatches.push_back({opening->id, best});
    }
}

Resistance Compiler::deskSlot(const Opening& o, double areaM2) const {
    if (o.side != m_build.down)
        return {};
    const double feet = m_build.feet.value.mm();
    const auto axes = planeAxes(o.side);
    std::array<double, 2> outer{};
    for (std::size_t i = 0; i < 2; ++i)
        outer[i] = m_build.insideAt[index(axes[i])].mm() + 2 * m_spec.wall.value.mm();
    double total = 0;
    for (const Opening& other : m_build.openings)
        if (other.side == o.side && other.to.empty())
            total += rectOf(other).areaMm2() * shapeShare(other) * mm2;
    const double share = total > 0 ? std::clamp(areaM2 / total, 0.01, 1.0) : 1.0;
    return slot(2 * (outer[0] + outer[1]) * std::max(1.0, feet) * mm2 * share, std::max(1.0, feet) * mm,
                std::min(outer[0], outer[1]) / 4 * mm);
}

void Compiler::addPatch(const Opening& o, const Rect& rect, double areaM2, std::size_t from, std::size_t to,
                        std::vector<std::size_t>& out) {
    if (areaM2 < 1e-5)
        return;
    const auto [height, middle] = vertical(o.side, rect);
    const Cover cover = coverOf(o, areaM2);
    const Resistance desk = o.to.empty() ? deskSlot(o, areaM2) : Resistance{};
    if (height > 0.020) {
        const Cover half = coverOf(o, areaM2 / 2);
        for (const double sign : {-1.0, 1.0}) {
            const std::size_t b = addBranch({.id = o.id,
                                             .from = from,
                                             .to = to,
                                             .resistance = half.resistance + desk,
                                             .heightM = middle + sign * 2.0 / 9.0 * height});
            m_net.exchanges.push_back({.branch = b, .areaM2 = areaM2 / 2, .k = half.k, .c = 0, .lengthM = height});
            out.push_back(b);
        }
        return;
    }
    const bool level = isLevel(o.side);
    const std::size_t b =
        addBranch({.id = o.id, .from = from, .to = to, .resistance = cover.resistance + desk, .heightM = middle});
    // "from" is the inside: it lies below the outside when the opening is in the top.
    const bool fromIsBelow = level && o.side != m_build.down;
    m_net.exchanges.push_back({.branch = b,
                               .areaM2 = areaM2,
                               .k = cover.k,
                               .c = level ? 0.07 / std::sqrt(std::max(1.0, cover.k)) : 0.20,
                               .lengthM = level ? std::sqrt(areaM2) : std::max(height, 0.005),
                               .level = level,
                               .fromIsBelow = fromIsBelow});
    out.push_back(b);
}

void Compiler::addOpenings() {
    for (const Opening& o : m_build.openings) {
        Compiled::OpeningBranches entry{o.id, {}};
        if (o.style != OpeningStyle::Closed && (o.style == OpeningStyle::Plain || o.perforation > closedBelow)) {
            const Rect whole = rectOf(o);
            const auto zoneNamed = [&](const std::string& id) {
                for (std::size_t i = 0; i < m_spec.chambers.size(); ++i)
                    if (m_spec.chambers[i].id == id)
                        return m_out.chamberZones[i];
                return std::size_t{0};
            };
            const std::size_t chamber = zoneNamed(o.chamber);
            const double free = (1.0 - o.blockedShare) * shapeShare(o);
            double rest = whole.areaMm2();
            const auto fansWithin = [&](const Rect& r) {
                double sum = 0;
                for (const FanPatch& f : m_fanPatches)
                    if (f.opening == o.id)
                        sum += intersection(f.rect, r).areaMm2();
                return sum;
            };
            if (o.to.empty())
                for (const GapPart& gap : m_gaps) {
                    if (gap.side != o.side)
                        continue;
                    const Rect part = intersection(whole, gap.rect);
                    rest -= part.areaMm2();
                    addPatch(o, part, std::max(0.0, part.areaMm2() - fansWithin(part)) * mm2 * free, gap.zone, 0,
                             entry.branches);
                    rest += fansWithin(part);
                }
            rest -= fansWithin(whole);
            addPatch(o, whole, std::max(0.0, rest) * mm2 * free, chamber, o.to.empty() ? 0 : zoneNamed(o.to),
                     entry.branches);
        }
        m_out.openings.push_back(std::move(entry));
    }
}

std::size_t Compiler::addOwnFan(const Placed& p, const FanClass& fan, std::size_t part,
                                std::vector<std::pair<double, double>> curve) {
    FanDrive drive{.id = p.mount,
                   .ratedRpm = fan.rpm,
                   .source = p.mode == FanMode::Fixed ? ControlSource::Fixed : ControlSource::Part,
                   .fixedDuty = p.duty,
                   .part = part,
                   .ownFan = true,
                   .curve = std::move(curve)};
    m_net.fans.push_back(std::move(drive));
    return m_net.fans.size() - 1;
}

void Compiler::addCooler(const Placed& p) {
    const auto& spec = std::get<CoolerSpec>(p.part->spec);
    const Placed* cpu = nullptr;
    for (std::ptrdiff_t i = p.parent; i >= 0 && !cpu; i = m_build.placed[static_cast<std::size_t>(i)].parent)
        if (m_build.placed[static_cast<std::size_t>(i)].part->kind == PartKind::Processor)
            cpu = &m_build.placed[static_cast<std::size_t>(i)];
    if (!cpu) {
        m_out.notes.push_back(say("{} sits on no processor", p.name));
        return;
    }
    const auto& die = std::get<ProcessorSpec>(cpu->part->spec);
    const FanClass fan = fanClass(spec.fanFrameMm, spec.fanThicknessMm);
    const double width = p.part->size[0].value.metres(), depth = p.part->size[1].value.metres(),
                 height = p.part->size[2].value.metres();
    const bool tower = spec.type == CoolerType::Tower;
    if (spec.type == CoolerType::Liquid)
        m_out.notes.push_back(say(
            "{} is liquid: its radiator is not computed yet, its heat is taken as given off at the processor", p.name));
    const double frame = spec.fanFrameMm * mm;
    const double face = tower ? width * std::max(0.02, height - 0.035) : std::max(frame * frame, width * depth);
    const double finDepth = tower ? 0.045 : std::max(0.008, height - spec.fanThicknessMm * mm - 0.008);
    const double finVolume = face * finDepth;
    constexpr double pipeResistance = 0.08;
    CooledPart part{.id = cpu->mount,
                    .name = cpu->name,
                    .home = zoneOf(p),
                    .powerW = cpu->powerW() * m_conditions.processorShare,
                    .dieResistance = die.dieResistance + pipeResistance,
                    .gRefWk = 36000 * finVolume,
                    .qRefM3s = 1.5 * face,
                    .exponent = 0.6,
                    .naturalWk = 6 * 2 * (face + 2 * std::sqrt(face) * finDepth),
                    .limitC = die.limitC,
                    .dieJk = 8,
                    .sinkJk = 0.7e6 * finVolume + 60,
                    .clockMhz = die.clockMhz,
                    .nominalW = cpu->part->powerW * m_conditions.processorShare,
                    .clockExponent = facts::processorClock.exponent,
                    .clockPerK = facts::processorClock.perK,
                    .isProcessor = true};
    if (spec.ratedTdpW > 0) {
        part.qRefM3s = 0.6 * fan.curve.freeFlowM3s;
        const double c = fanDensity * airHeat * part.qRefM3s;
        const double conductance = std::min(0.95 * c, 1 / std::max(0.02, 35 / spec.ratedTdpW - pipeResistance));
        part.gRefWk = -c * std::log(1 - conductance / c);
    }
    const std::size_t index = m_net.parts.size();
    const std::size_t f = addOwnFan(p, fan, index, processorCurve);
    const GapPart* gap = gapOf(p);
    part.branch = addBranch({.id = "cooler " + p.mount,
                             .from = gap ? gap->zone : part.home,
                             .to = part.home,
                             .resistance = fins(face, finDepth, 1.5 * mm, 0.8, tower ? 1.0 : 2.0),
                             .heightM = upOf(centreOf(p)),
                             .fan = f,
                             .curve = fan.curve});
    m_net.parts.push_back(part);
    m_out.fans.push_back({p.mount, part.branch, f, FanFlow::In, false});
}

void Compiler::addCard(const Placed& p) {
    const auto& spec = std::get<CardSpec>(p.part->spec);
    const bool blower = spec.cooler == CardCooler::Blower;
    constexpr double riseDie = 15;
    const double riseSink = spec.cooler == CardCooler::Single ? 30
                            : spec.cooler == CardCooler::Dual ? 27
                            : blower                          ? 42
                                                              : 26;
    const double riseAir = blower ? 14 : 8;
    const double rated = std::max(10.0, p.part->powerW);
    const double qRef = rated / (fanDensity * airHeat * riseAir);
    const double c = fanDensity * airHeat * qRef;
    const double full = qRef / 0.55;
    const facts::CardFan& usual = facts::fanOf(spec.cooler);
    FanClass fan{usual.rpm, {full / 0.6, usual.shutoffPa}, usual.levelDba};
    const double drop = fan.curve.shutoffPa * (1 - 0.6 * 0.6 - 0.4 * 0.36);
    const Resistance cardFins{0.5 * drop / (full * 1.85e-5), 0.5 * drop / (fanDensity * full * full)};
    const double limit = facts::limitC(spec);
    const std::size_t home = zoneOf(p);
    const double length = p.part->size[0].value.metres();
    const double edgeArea = blower ? 2e-4 : 2 * length * 0.020;
    const std::size_t finZone = addZone("fins " + p.mount, edgeArea);
    CooledPart part{.id = p.mount,
                    .name = p.name,
                    .home = home,
                    .powerW = isIdle(p.mount) ? 0 : p.powerW() * m_conditions.cardShare,
                    .dieResistance = riseDie / rated,
                    .gRefWk = -c * std::log(1 - rated / (c * riseSink)),
                    .qRefM3s = qRef,
                    .exponent = 0.65,
                    .naturalWk = 1.0,
                    .limitC = limit,
                    .dieJk = 20,
                    .sinkJk = 2 * rated,
                    .clockMhz = spec.clockMhz,
                    .nominalW = isIdle(p.mount) ? 0 : p.part->powerW * m_conditions.cardShare,
                    .clockExponent = facts::cardClock.exponent,
                    .clockPerK = facts::cardClock.perK};
    const std::size_t f = addOwnFan(p, fan, m_net.parts.size(), blower ? blowerCurve : cardCurve);
    if (!blower && p.mode != FanMode::Fixed)
        m_net.fans[f].startC = 55;
    const GapPart* gap = gapOf(p);
    const double middle = upOf(centreOf(p));
    part.branch = addBranch({.id = "cooler " + p.mount,
                             .from = gap ? gap->zone : home,
                             .to = finZone,
                             .resistance = cardFins,
                             .heightM = middle,
                             .fan = f,
                             .curve = fan.curve});
    const double bracket = spec.slotCount * 5e-4 * (blower ? 2 : 1);
    addBranch({.id = "bracket " + p.mount,
               .from = finZone,
               .to = 0,
               .resistance = slot(bracket, 4 * mm, 20 * mm, 2.0),
               .heightM = middle});
    addBranch({.id = "outlet " + p.mount,
               .from = finZone,
               .to = home,
               .resistance = slot(edgeArea, 20 * mm, 20 * mm, 2.0),
               .heightM = middle});
    m_net.parts.push_back(part);
    m_out.fans.push_back({p.mount, part.branch, f, FanFlow::In, false});
}

void Compiler::addSupply(const Placed& p) {
    const auto& spec = std::get<PowerSupplySpec>(p.part->spec);
    m_net.supply.efficiency = spec.efficiency;
    m_net.supply.ratedW = spec.ratedW;
    if (spec.brick)
        return; // its heat stays outside
    const facts::SupplyFan& usual = facts::fanOfSupply(spec.form);
    const FanClass fan = fanClass(usual.frameMm, usual.thicknessMm);
    const double face = 0.785 * usual.frameMm * mm * usual.frameMm * mm;
    const double qRef = 0.6 * fan.curve.freeFlowM3s;
    const double c = fanDensity * airHeat * qRef;
    CooledPart part{.id = p.mount,
                    .name = p.name,
                    .home = zoneOf(p),
                    .powerW = 10,
                    .dieResistance = 0,
                    .gRefWk = -c * std::log(1 - 1 / 0.45 / c),
                    .qRefM3s = qRef,
                    .exponent = 0.5,
                    .naturalWk = 0.8,
                    .dieJk = 10,
                    .sinkJk = 500,
                    .isSupply = true};
    m_net.fans.push_back({.id = p.mount,
                          .ratedRpm = fan.rpm,
                          .source = ControlSource::Supply,
                          .part = m_net.parts.size(),
                          .ownFan = true});
    const std::size_t f = m_net.fans.size() - 1;
    part.branch = addBranch({.id = "supply " + p.mount,
                             .from = part.home,
                             .to = 0,
                             .resistance = slot(face, 3 * mm, 50 * mm, 8.0),
                             .heightM = upOf(centreOf(p)),
                             .fan = f,
                             .curve = fan.curve});
    m_net.supply.part = m_net.parts.size();
    m_net.parts.push_back(part);
    m_out.fans.push_back({p.mount, part.branch, f, FanFlow::Out, false});
}

void Compiler::addPassive(const Placed& p) {
    const std::size_t zone = zoneOf(p);
    const auto add = [&](std::string id, std::string name, double power, double s, double h0, double h1, double heat,
                         double r, double limit) {
        m_net.passive.push_back({.id = std::move(id),
                                 .name = std::move(name),
                                 .zone = zone,
                                 .powerW = power,
                                 .surfaceM2 = s,
                                 .h0 = h0,
                                 .h1 = h1,
                                 .insideResistance = r,
                                 .limitC = limit,
                                 .heatJk = heat});
    };
    if (p.part->kind == PartKind::Drive) {
        const auto& spec = std::get<DriveSpec>(p.part->spec);
        switch (spec.form) {
        case DriveForm::Inch35:
            add(p.mount, p.name, p.powerW(), 0.030, 10, 10, 400, 0.3, spec.limitC);
            break;
        case DriveForm::Inch25:
            add(p.mount, p.name, p.powerW(), 0.016, 10, 12, 60, 0.5, spec.limitC);
            break;
        case DriveForm::M2Bare:
            add(p.mount, p.name, p.powerW(), 0.0035, 14, 25, 12, 1.0, spec.limitC);
            break;
        case DriveForm::M2Sink:
            add(p.mount, p.name, p.powerW(), 0.012, 11, 18, 40, 1.0, spec.limitC);
            break;
        }
    } else if (p.part->kind == PartKind::Board) {
        add(p.mount, p.name, p.powerW(), 0.05, 10, 10, 300, 0.05, 0);
        add(p.mount + "/regulators", "Regulators", 0, 0.012, 11, 18, 60, 0.5, 0);
        m_net.passive.back().isRegulators = true;
    } else if (p.powerW() > 0) {
        m_net.zones[zone].heatW += p.powerW();
    }
    m_net.supply.otherW += p.powerW();
}

void Compiler::addParts() {
    m_net.supply.otherW = 0;
    for (const Placed& p : m_build.placed)
        switch (p.part->kind) {
        case PartKind::Cooler:
            addCooler(p);
            break;
        case PartKind::Card:
            addCard(p);
            break;
        case PartKind::PowerSupply:
            addSupply(p);
            break;
        case PartKind::Processor:
        case PartKind::Case:
            break; // its heat enters through the cooler
        default:
            addPassive(p);
            break;
        }
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

} // namespace

Compiled compile(const Build& build, const Conditions& conditions) { return Compiler(build, conditions).run(); }

} // namespace core::air
