// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/compiler.h"

namespace core::air {
namespace {

const std::vector<std::pair<double, double>> processorCurve{{30, .30}, {50, .40}, {70, .75}, {80, 1}};
const std::vector<std::pair<double, double>> cardCurve{{40, .30}, {50, .36}, {60, .48}, {70, .66}, {80, .86}, {87, 1}};
const std::vector<std::pair<double, double>> blowerCurve{{40, .25}, {60, .35}, {75, .50}, {83, .60}, {88, .85}};

/// At which its clock holds: what it would draw without a limit.
double nominalOf(const Placed& p, const Conditions& conditions, double share) {
    for (const LoadPower& power : conditions.powers)
        if (power.mount == p.mount)
            return power.watts;
    return p.part->powerW * share;
}

/// A limit holds from the first second.
double peakOf(const Placed& p, double statedW) { return p.powerLimitW ? 0 : statedW; }
double secondsOf(double statedS) { return statedS > 0 ? statedS : facts::peakSeconds.value; }

constexpr double edgeSlotMm = 20; // common practice, no source: the open edge of a card's fins

} // namespace

Jet jetOnWall(double lengthMm, double slotMm, double wayMm) {
    // A plane jet widens by half angles of about 12 degrees: published, from memory.
    constexpr double spread = 0.42;
    return {lengthMm + spread * wayMm, slotMm + spread * wayMm, std::min(1.0, 6 * slotMm / std::max(1e-9, wayMm))};
}

const Placed* Compiler::carriedBy(const Placed& p, PartKind kind) const {
    for (std::ptrdiff_t i = p.parent; i >= 0; i = m_build.placed[static_cast<std::size_t>(i)].parent)
        if (const Placed& carrier = m_build.placed[static_cast<std::size_t>(i)]; carrier.part->kind == kind)
            return &carrier;
    return nullptr;
}

std::size_t Compiler::addOwnFan(const Placed& p, const FanClass& fan, std::size_t part,
                                std::vector<std::pair<double, double>> curve) {
    FanDrive drive{.id = p.mount,
                   .ratedRpm = fan.rpm,
                   .part = part,
                   .passive = {},
                   .ownFan = true,
                   .curve = std::move(curve),
                   .startC = {}};
    follow(drive, p);
    m_net.fans.push_back(std::move(drive));
    return m_net.fans.size() - 1;
}

CooledPart processorDie(const Placed& cpu, const Conditions& conditions) {
    const auto& die = std::get<ProcessorSpec>(cpu.part->spec);
    const double share = conditions.processorShare;
    return {.id = cpu.mount,
            .name = cpu.name,
            .powerW = wattsOf(cpu, conditions),
            .dieResistance = die.dieResistance + facts::coldPlate.value,
            .limitC = die.limitC,
            .dieJk = 8,
            .clockMhz = die.clockMhz,
            .nominalW = nominalOf(cpu, conditions, share),
            .clockExponent = facts::processorClock.exponent,
            .clockPerK = facts::processorClock.perK,
            .peakW = peakOf(cpu, die.peakW) * share,
            .peakS = secondsOf(die.peakS),
            .isProcessor = true};
}

void Compiler::addCooler(const Placed& p) {
    const auto& spec = std::get<CoolerSpec>(p.part->spec);
    if (spec.type == CoolerType::Liquid)
        return; // addLoops()
    const Placed* cpu = carriedBy(p, PartKind::Processor);
    if (!cpu) {
        m_out.notes.push_back(say("{} sits on no processor", p.name));
        return;
    }
    FanClass fan = fanClass(spec.fanFrameMm, spec.fanThicknessMm);
    fan.curve.shutoffPa *= spec.fans; // in series: the same air, so their pressures add up
    const double width = p.part->size[0].value.metres(), depth = p.part->size[1].value.metres(),
                 height = p.part->size[2].value.metres();
    const bool tower = spec.type == CoolerType::Tower;
    const double frame = spec.fanFrameMm * mm;
    const double face = tower ? width * std::max(0.02, height - 0.035) : std::max(frame * frame, width * depth);
    const double finDepth = tower ? 0.045 : std::max(0.008, height - spec.fanThicknessMm * mm - 0.008);
    const double finVolume = face * finDepth;
    CooledPart part = processorDie(*cpu, m_conditions);
    part.sink = p.part->id;
    part.home = zoneOf(p);
    part.gRefWk = 36000 * finVolume;
    part.qRefM3s = 1.5 * face;
    part.naturalWk = 6 * 2 * (face + 2 * std::sqrt(face) * finDepth);
    part.sinkJk = 0.7e6 * finVolume + 60;
    if (spec.ratedTdpW > 0) {
        part.qRefM3s = 0.6 * fan.curve.freeFlowM3s;
        const double c = fanDensity * airHeat * part.qRefM3s;
        const double conductance = std::min(0.95 * c, 1 / std::max(0.02, 35 / spec.ratedTdpW - facts::coldPlate.value));
        part.gRefWk = -c * std::log(1 - conductance / c);
    }
    const std::size_t f = addOwnFan(p, fan, m_net.parts.size(), processorCurve);
    const GapPart* gap = gapOf(p);
    part.branch = addBranch({.id = "cooler " + p.mount,
                             .from = gap ? gap->zone : part.home,
                             .to = part.home,
                             .resistance = fins(face, finDepth, 1.5 * mm, 0.8, tower ? 1.0 : 2.0),
                             .heightM = upOf(centreOf(p)),
                             .fan = f,
                             .curve = fan.curve});
    m_net.parts.push_back(part);
    m_out.fans.push_back({.mount = p.mount, .branches = {part.branch}, .fan = f, .flow = FanFlow::In, .obstacle = {}});
}

CooledPart cardDie(const Placed& p, const Conditions& conditions, bool runs) {
    const auto& spec = std::get<CardSpec>(p.part->spec);
    constexpr double riseDie = 15;
    const double rated = std::max(10.0, p.part->powerW);
    return {.id = p.mount,
            .name = p.name,
            .powerW = runs ? wattsOf(p, conditions) : 0,
            .dieResistance = riseDie / rated,
            .limitC = facts::limitC(spec),
            .dieJk = 20,
            .sinkJk = 2 * rated,
            .clockMhz = spec.clockMhz,
            .nominalW = runs ? nominalOf(p, conditions, conditions.cardShare) : 0,
            .clockExponent = facts::cardClock.exponent,
            .clockPerK = facts::cardClock.perK,
            .peakW = runs ? peakOf(p, spec.peakW) * conditions.cardShare : 0,
            .peakS = secondsOf(spec.peakS)};
}

void Compiler::addCard(const Placed& p) {
    if (hasBlock(p))
        return; // addLoops()
    const auto& spec = std::get<CardSpec>(p.part->spec);
    const bool blower = spec.cooler == CardCooler::Blower;
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
    const double edgeArea = blower ? 2e-4 : 2 * p.part->size[0].value.metres() * edgeSlotMm * mm;
    const std::size_t finZone = addZone(std::string(finsOf) + p.mount, edgeArea);
    CooledPart part = cardDie(p, m_conditions, !isIdle(p.mount));
    part.sink = p.part->id;
    part.home = zoneOf(p);
    part.gRefWk = -c * std::log(1 - rated / (c * riseSink));
    part.qRefM3s = qRef;
    part.exponent = 0.65;
    part.naturalWk = 1.0;
    const std::size_t f = addOwnFan(p, fan, m_net.parts.size(), blower ? blowerCurve : cardCurve);
    if (!blower && p.control.mode != FanMode::Fixed && p.control.curve.empty())
        m_net.fans[f].startC = 55;
    const GapPart* gap = gapOf(p);
    const double middle = upOf(centreOf(p));
    part.branch = addBranch({.id = "cooler " + p.mount,
                             .from = gap ? gap->zone : part.home,
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
    addCardOutlets(p, finZone, edgeArea, gap && !blower);
    m_net.parts.push_back(part);
    m_out.fans.push_back({.mount = p.mount, .branches = {part.branch}, .fan = f, .flow = FanFlow::In, .obstacle = {}});
}

/// The discharge leaves by the two long edges. What of it meets an open hole in the wall it points at goes through;
/// the rest stays in the chamber.
void Compiler::addCardOutlets(const Placed& p, std::size_t finZone, double edgeArea, bool jets) {
    const std::size_t home = zoneOf(p);
    const double middle = upOf(centreOf(p));
    const Resistance whole = slot(edgeArea, edgeSlotMm * mm, 20 * mm, 2.0);
    const auto outlet = [&](double share, std::size_t to, const std::string& id) {
        addBranch({.id = id, .from = finZone, .to = to, .resistance = ofShare(whole, share), .heightM = middle});
    };
    double rest = 1;
    const Chamber& chamber = m_spec.chambers[chamberAt(m_spec, centreOf(p))];
    const std::size_t edge = index(p.frame.axis[1].axis), along = index(p.frame.axis[0].axis);
    for (const int sign : {-1, 1}) {
        if (!jets)
            break;
        const double way =
            sign > 0 ? chamber.highMm[edge] - p.highAt[edge].mm() : p.lowAt[edge].mm() - chamber.lowMm[edge];
        const Jet jet = jetOnWall(p.part->size[0].value.mm(), edgeSlotMm, std::max(0.0, way));
        const Side wall = sideOf({allAxes[edge], sign});
        const auto axes = planeAxes(wall);
        Rect print;
        for (std::size_t i = 0; i < 2; ++i) {
            const std::size_t a = index(axes[i]);
            const double size = a == along ? jet.lengthMm : jet.widthMm, at = centreOf(p)[a];
            print.low[i] = std::max(0.0, at - size / 2);
            print.high[i] = std::min(m_build.insideAt[a].mm(), at + size / 2);
        }
        for (const Opening& o : m_build.openings) {
            const bool here = o.chamber == chamber.id && o.side == wall,
                       behind = o.to == chamber.id && o.side == sideOf({allAxes[edge], -sign});
            if (!(here || behind) || !isOpen(o) || (o.style != OpeningStyle::Plain && o.perforation <= 0.9))
                continue;
            const double f =
                intersection(rectOf(o), print).areaMm2() * shapeShare(o) / std::max(1.0, print.areaMm2()) * jet.reach;
            const double share = f / 2;
            if (share < 0.005)
                continue;
            rest -= share;
            outlet(share,
                   behind         ? zoneNamed(o.chamber)
                   : o.to.empty() ? 0
                                  : zoneNamed(o.to),
                   "jet " + p.mount + " " + o.id);
        }
    }
    outlet(rest, home, "outlet " + p.mount);
}

} // namespace core::air
