// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/arrange/box_maker.h"

#include <algorithm>

namespace core::arrange {
namespace {
/// Nobody measured it; where it lies against a wall it touches it.
Offset from(Ref ref, double mm) {
    if (mm == 0)
        return {ref, {.source = Source::Drawing}};
    return {ref,
            {.value = Length::fromMm(mm),
             .tolerance = Length::fromMm(1),
             .source = Source::Estimate,
             .toleranceStated = true}};
}
} // namespace

Offset low(double mm) { return from(Ref::Low, mm); }
Offset high(double mm) { return from(Ref::High, mm); }
Offset middle(double mm) { return from(Ref::Centre, mm); }

BoxMaker::BoxMaker(const Sizes& sizes, std::string_view way)
    : w(sizes.mm(width)), d(sizes.mm(depth)), h(sizes.mm(height)), m_sizes(sizes), m_way(way) {
    m_box.casePart = {
        .id = "case-1", .kind = PartKind::Case, .size = {sizes.all[width], sizes.all[depth], sizes.all[height]}};
    m_spec.wall = sizes.all[wall];
    m_spec.feetMm = sizes.mm(feet);
    for (const Side side : {Side::Left, Side::Right, Side::Front, Side::Rear, Side::Bottom, Side::Top})
        m_spec.panels.push_back({.side = side, .removable = side != Side::Rear && side != Side::Bottom});
}

void BoxMaker::chamber(std::string_view id, std::string_view name, std::array<double, 3> from,
                       std::array<double, 3> to) {
    m_spec.chambers.push_back({std::string(id), std::string(name), from, to});
}

Mount& BoxMaker::place(std::string_view id, std::string_view name, PartKind takes, std::array<Offset, 3> at,
                       Direction facing, Direction upwards) {
    return m_box.casePart.mounts.emplace_back(Mount{.id = std::string(id),
                                                    .name = std::string(name),
                                                    .accepts = {takes},
                                                    .at = at,
                                                    .facing = facing,
                                                    .up = upwards});
}

Opening& BoxMaker::vent(std::string_view id, std::string_view name, Side side, std::string_view chamber,
                        std::array<double, 2> at, std::array<double, 2> size, double openShare) {
    return m_spec.openings.emplace_back(Opening{.id = std::string(id),
                                                .name = std::string(name),
                                                .side = side,
                                                .chamber = std::string(chamber),
                                                .centreMm = at,
                                                .sizeMm = size,
                                                .perforation = openShare});
}

void BoxMaker::fan(std::string_view id, std::string_view name, Side side, std::string_view chamber,
                   std::array<double, 2> at, double frame) {
    const Direction out = outward(side);
    const auto axes = planeAxes(side);
    std::array<Offset, 3> where;
    where[index(out.axis)] = out.sign > 0 ? high(0) : low(0);
    where[index(axes[0])] = middle(at[0]);
    where[index(axes[1])] = middle(at[1]);
    place(id, name, PartKind::Fan, where, out, out.axis == Axis::Z ? rear : up).frameMm = frame;
    vent(std::string(id) + "-vent", std::string(name) + ", its vent", side, chamber, at, {frame - 4, frame - 4}).round =
        true;
}

void BoxMaker::hole(std::string_view id, std::string_view name, Side side, std::string_view chamber,
                    std::string_view to, std::array<double, 2> at, std::array<double, 2> size) {
    Opening& o = vent(id, name, side, chamber, at, size, 1);
    o.to = std::string(to);
    o.style = OpeningStyle::Plain;
}

void BoxMaker::panel(std::string_view id, std::string_view name, std::array<double, 3> at, std::array<double, 3> size,
                     Axis across) {
    const Direction facing{across, 1};
    const Direction upwards = across == Axis::Z ? rear : up;
    place(id, std::string(name) + ", its place", PartKind::Made, {low(at[0]), low(at[1]), low(at[2])}, facing, upwards);
    // Own axes: y along what is upwards, z across, x along the third.
    const std::size_t own1 = index(upwards.axis), own2 = index(across), own0 = 3 - own1 - own2;
    Part sheet{.id = std::string(id), .kind = PartKind::Made, .name = std::string(name)};
    for (const auto& [i, axis] : {std::pair{0U, own0}, std::pair{1U, own1}, std::pair{2U, own2}})
        sheet.size[i] = measureMm(size[axis], Source::Estimate);
    sheet.size[2] = measureMm(size[own2], Source::Drawing);
    sheet.fasteners = {{"M3 x 6 pan", 4}};
    sheet.spec = MadeSpec{.process = Process::Cut,
                          .material = "aluminium",
                          .volumeCm3 = size[0] * size[1] * size[2] / 1000,
                          .shellShare = 1,
                          .infillShare = 1};
    m_box.panels.push_back(std::move(sheet));
    m_box.changes.emplace_back(PlacePart{std::string(id), std::string(id)});
}

Box BoxMaker::done() && {
    m_box.casePart.spec = std::move(m_spec);
    m_box.changes.insert(m_box.changes.begin(), SetCase{m_box.casePart.id});
    return std::move(m_box);
}

} // namespace core::arrange
