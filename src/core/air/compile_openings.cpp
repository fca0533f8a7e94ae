// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/air/compiler.h"

namespace core::air {

Cover coverOf(const Opening& o, double areaM2) {
    const double e = o.style == OpeningStyle::Plain ? 1.0 : std::max(o.perforation, closedBelow);
    Cover cover{perforated(areaM2, e, o.holeMm * mm, o.thicknessMm * mm), panelLoss(e)};
    if (o.screen != Screen::None) {
        const double open = o.screen == Screen::Fine ? 0.40 : 0.56;
        const double wire = o.screen == Screen::Fine ? 0.15 * mm : 0.40 * mm;
        cover.resistance = cover.resistance + screen(areaM2, open, wire, o.fouling);
        cover.k += 0.75 * (1 - open * open) / (open * open) * o.fouling;
    }
    return cover;
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

double Compiler::uncovered(Side side, const Rect& rect) const {
    constexpr double reachMm = 5; // a part that stands off further leaves the opening free: engineering judgement
    double covered = 0;
    for (const Placed& p : m_build.placed) {
        const PartKind kind = p.part->kind;
        if (kind == PartKind::Fan || kind == PartKind::Radiator || kind == PartKind::Made || p.outside)
            continue;
        if (const GapPart* gap = gapOf(p); gap && gap->side == side)
            continue; // it draws through the opening
        const double off = std::max(0.0, distanceToSide(m_build, p, side));
        if (off < reachMm)
            covered += intersection(footprint(p, side), rect).areaMm2() * (1 - off / reachMm);
    }
    return std::clamp(1 - covered / std::max(1.0, rect.areaMm2()), 0.0, 1.0);
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

/// The chambers that an opening in a wall of the case looks into, by the area of each: the one it names, and others
/// that reach to the same wall behind it.
std::vector<Compiler::Behind> Compiler::behind(const Opening& o, const Rect& whole) const {
    std::vector<Behind> named{{zoneNamed(o.chamber), 1, whole}};
    if (!o.to.empty())
        return named;
    constexpr double nearWallMm = 12, leastShare = 0.05; // less is how it was measured
    const Direction out = outward(o.side);
    const std::size_t axis = index(out.axis);
    const double wall = out.sign > 0 ? m_build.insideAt[axis].mm() : 0.0;
    const auto axes = planeAxes(o.side);
    std::vector<Behind> all;
    double sum = 0;
    bool holdsNamed = false;
    for (std::size_t i = 0; i < m_spec.chambers.size(); ++i) {
        const Chamber& c = m_spec.chambers[i];
        if (std::abs((out.sign > 0 ? c.highMm[axis] : c.lowMm[axis]) - wall) > nearWallMm)
            continue;
        Rect face;
        for (std::size_t k = 0; k < 2; ++k) {
            face.low[k] = c.lowMm[index(axes[k])];
            face.high[k] = c.highMm[index(axes[k])];
        }
        const Rect seen = intersection(face, whole);
        const double share = seen.areaMm2() / std::max(1.0, whole.areaMm2());
        if (share < leastShare)
            continue;
        all.push_back({m_out.chamberZones[i], share, seen});
        sum += share;
        holdsNamed = holdsNamed || c.id == o.chamber;
    }
    if (all.size() < 2 || !holdsNamed || sum > 1.02) // described otherwise, or chambers that overlap: as it says
        return named;
    for (Behind& b : all)
        b.share /= sum;
    return all;
}

void Compiler::addOpenings() {
    for (const Opening& o : m_build.openings) {
        Compiled::OpeningBranches entry{o.id, {}};
        if (!isOpen(o)) {
            m_out.openings.push_back(std::move(entry));
            continue;
        }
        const Rect whole = rectOf(o);
        const double free = (1.0 - o.blockedShare) * shapeShare(o);
        const auto left = [&](const Rect& r) { // of it, without the places of fans
            double area = r.areaMm2();
            for (const FanPatch& f : m_fanPatches)
                if (f.opening == o.id)
                    area -= intersection(f.rect, r).areaMm2();
            return std::max(0.0, area);
        };
        double rest = left(whole);
        if (o.to.empty())
            for (const GapPart& gap : m_gaps) {
                if (gap.side != o.side)
                    continue;
                const Rect part = intersection(whole, gap.rect);
                const double area = left(part) * gap.nearness;
                rest -= area;
                addPatch(o, part, area * mm2 * free, gap.zone, 0, entry.branches);
            }
        const double open = o.to.empty() ? uncovered(o.side, whole) : 1.0;
        for (const Behind& there : behind(o, whole))
            addPatch(o, there.rect, std::max(0.0, rest) * there.share * mm2 * free * open, there.zone,
                     o.to.empty() ? 0 : zoneNamed(o.to), entry.branches);
        m_out.openings.push_back(std::move(entry));
    }
}

} // namespace core::air
