// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/cutouts.h"

#include "core/fit/faces.h"
#include "core/model/choices.h"
#include "core/model/standard_sizes.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace core::fit {
namespace {

constexpr double nearMm = 25; ///< farther from the wall it does not sit there

std::array<double, 2> sizeOf(const FlatFace& f) { return {f.high[0] - f.low[0], f.high[1] - f.low[1]}; }

/// Signed distance of a point from the edge of an opening, mm; below 0 inside. An ellipse is taken along the ray from
/// its middle, which is exact for a round one.
double beside(const FlatFace& hole, const std::array<double, 2>& at) {
    const auto c = hole.centre();
    const auto size = sizeOf(hole);
    if (hole.round) {
        const double u = at[0] - c[0], v = at[1] - c[1], away = std::hypot(u, v);
        const double k = std::hypot(2 * u / size[0], 2 * v / size[1]);
        return k > 0 ? away * (1 - 1 / k) : -std::min(size[0], size[1]) / 2;
    }
    std::array<double, 2> out{};
    for (std::size_t i = 0; i < 2; ++i)
        out[i] = std::abs(at[i] - c[i]) - size[i] / 2;
    if (out[0] <= 0 && out[1] <= 0)
        return std::max(out[0], out[1]);
    return std::hypot(std::max(0.0, out[0]), std::max(0.0, out[1]));
}

/// Middles of the frames on a face: one of a fan, several in a row of a radiator.
std::vector<std::array<double, 2>> framesOf(const FlatFace& face, double frameMm, int count) {
    std::vector<std::array<double, 2>> middles;
    const auto size = sizeOf(face);
    const std::size_t along = size[0] >= size[1] ? 0 : 1;
    for (int i = 0; i < count; ++i) {
        auto m = face.centre();
        m[along] += (i - 0.5 * (count - 1)) * frameMm;
        middles.push_back(m);
    }
    return middles;
}

void screws(const Build& build, Seat& seat, const FlatFace& face, const FlatFace& hole, double frameMm, int frames) {
    const auto spacing = holeSpacingMm(frameMm);
    if (!spacing)
        return;
    const double diameterMm = frameMm < 80 ? 3 : 4; // M3 below a frame of 80, M4 from there: common practice, no source
    seat.needEdgeMm = (build.caseSpec().material == WallMaterial::Plastic ? 2.0 : 1.5) * diameterMm;
    seat.edgeMm = std::numeric_limits<double>::infinity();
    const auto axes = planeAxes(seat.side);
    for (const auto& middle : framesOf(face, frameMm, frames))
        for (const int u : {-1, 1})
            for (const int v : {-1, 1}) {
                const std::array<double, 2> at{middle[0] + u * *spacing / 2, middle[1] + v * *spacing / 2};
                double edge = seat.cutOut ? beside(hole, at) : std::numeric_limits<double>::infinity();
                for (std::size_t i = 0; i < 2; ++i)
                    edge = std::min({edge, at[i], build.insideAt[index(axes[i])].mm() - at[i]});
                ++seat.holes;
                if (edge <= 0)
                    continue;
                ++seat.holesInMetal;
                seat.edgeMm = std::min(seat.edgeMm, edge);
            }
}

std::optional<Seat> seatOf(const Build& build, const Placed& p) {
    const auto* radiator = std::get_if<RadiatorSpec>(&p.part->spec);
    const Side side = sideOfFan(build, p);
    const Direction out = outward(side);
    const std::size_t k = index(out.axis);
    const double awayMm = out.sign > 0 ? (build.insideAt[k] - p.highAt[k]).mm() : p.lowAt[k].mm();
    if (!p.outside && awayMm > nearMm)
        return std::nullopt;
    const FlatFace face = faceOf({.low = p.lowAt, .high = p.highAt}, out.axis, !radiator);
    const Opening* best = nullptr;
    double most = 0;
    for (const Opening& o : build.openings)
        if (o.side == side && leadsOutside(o))
            if (const double shared = sharedMm2(face, faceOf(o)); shared > most) {
                most = shared;
                best = &o;
            }
    if (!best)
        return std::nullopt;
    const FlatFace hole = faceOf(*best);
    Seat seat{.mount = p.mount,
              .name = p.name,
              .opening = best->id,
              .openingName = best->name,
              .side = side,
              .radiator = radiator != nullptr};
    const auto a = face.centre(), b = hole.centre();
    seat.offsetMm = std::hypot(a[0] - b[0], a[1] - b[1]);
    seat.uncoveredShare = overOpenings(build, side, face).share;
    for (std::size_t i = 0; i < 2; ++i) {
        seat.overlapMm[2 * i] = hole.low[i] - face.low[i];
        seat.overlapMm[2 * i + 1] = face.high[i] - hole.high[i];
    }
    seat.cutOut = best->style == OpeningStyle::Plain;
    const auto size = sizeOf(face);
    screws(build, seat, face, hole, radiator ? radiator->frameMm : std::max(size[0], size[1]),
           radiator ? radiator->fans : 1);
    return seat;
}

} // namespace

std::optional<double> holeSpacingMm(double frameMm) {
    for (const StandardSize& s : standardSizes())
        if (s.kind == PartKind::Fan && std::abs(s.sizeMm[0] - frameMm) < 0.5 && s.holesMm[0] > 0)
            return s.holesMm[0];
    return std::nullopt;
}

std::vector<Seat> seats(const Build& build) {
    std::vector<Seat> all;
    for (const Placed& p : build.placed)
        if ((p.part->kind == PartKind::Fan || p.part->kind == PartKind::Radiator) && p.parent < 0)
            if (auto seat = seatOf(build, p))
                all.push_back(std::move(*seat));
    return all;
}

std::vector<WrongFrame> wrongFrames(const Build& build) {
    std::vector<WrongFrame> wrong;
    for (const Placed& p : build.placed) {
        if (p.part->kind != PartKind::Fan)
            continue;
        const Placed* carrier = p.parent >= 0 ? &build.placed[static_cast<std::size_t>(p.parent)] : nullptr;
        const auto* radiator = carrier ? std::get_if<RadiatorSpec>(&carrier->part->spec) : nullptr;
        const Mount* mount = mountAt(build, p.mount);
        const double frame = std::max(p.part->size[0].value.mm(), p.part->size[1].value.mm());
        const double place = mount && mount->frameMm > 0 ? mount->frameMm : radiator ? radiator->frameMm : 0;
        if (place > 0 && std::abs(frame - place) > 0.5)
            wrong.push_back({p.mount, p.name, radiator ? carrier->name : mount->name, frame, place});
    }
    return wrong;
}

} // namespace core::fit
