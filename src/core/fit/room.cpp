// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/fit/room.h"

#include "core/model/choices.h"
#include "core/model/standard_sizes.h"

#include <limits>

namespace core::fit {
namespace {

constexpr double horizonMm = 1000;

/// The smallest usual part of a kind, to feel a free place with: thin along its depth, as wide as its smallest form.
Part probeOf(const MountChoice& mount) {
    Part probe{.id = "probe", .kind = mount.accepts.front(), .name = "A part"};
    probe.size = {measureMm(1, Source::Standard), measureMm(1, Source::Standard), measureMm(1, Source::Standard)};
    for (Measure& m : probe.size)
        m.tolerance = {};
    const auto fix = [&](std::size_t own, double mm) { probe.size[own].value = Length::fromMm(mm); };
    switch (probe.kind) {
    case PartKind::Fan:
        probe.spec = FanSpec{};
        fix(0, 40);
        fix(1, 40);
        break;
    case PartKind::Card:
        probe.spec = CardSpec{};
        fix(0, 100);
        fix(1, 60);
        break;
    case PartKind::PowerSupply:
        probe.spec = PowerSupplySpec{};
        fix(0, 80);
        fix(1, 80);
        break;
    case PartKind::Drive:
        probe.spec = DriveSpec{};
        fix(0, 30);
        fix(1, 22);
        break;
    case PartKind::Cooler:
        probe.spec = CoolerSpec{};
        fix(0, 60);
        fix(1, 60);
        break;
    case PartKind::Radiator:
        probe.spec = RadiatorSpec{};
        fix(0, 120);
        fix(1, 120);
        break;
    case PartKind::Board:
        probe.spec = BoardSpec{};
        break;
    case PartKind::Processor:
        probe.spec = ProcessorSpec{};
        break;
    case PartKind::Memory:
        probe.spec = MemorySpec{};
        break;
    case PartKind::Made:
        probe.spec = MadeSpec{};
        break;
    default:
        break;
    }
    return probe;
}

/// Which faces move when a part grows along an axis: both of a centred one, else the one away from its reference.
std::array<bool, 2> growing(const Placed& p, std::size_t axis, const std::vector<Dimension>& dimensions,
                            std::size_t own) {
    // The size enters the face that moves; a centred part has half of it in each.
    const auto has = [&](const Chain& chain) {
        return std::any_of(chain.terms.begin(), chain.terms.end(), [&](const Chain::Term& t) {
            const DimensionOrigin& o = dimensions[t.dimension].origin;
            return o.what == DimensionOrigin::What::PartSize && o.part == p.part->id && o.axis == own;
        });
    };
    return {has(p.low[axis]), has(p.high[axis])};
}

void addRooms(const Build& build, std::size_t i, const Options& options, bool free, const std::string& name,
              std::vector<Room>& rooms) {
    const Placed& p = build.placed[i];
    Options wide = options;
    wide.reachMm = horizonMm;
    const auto gaps = gapsOf(build, i, wide);
    for (std::size_t own = 0; own < 3; ++own) {
        const Axis axis = p.frame.axis[own].axis;
        const auto grows = growing(p, index(axis), build.dimensions, own);
        Room room{.mount = p.mount,
                  .name = name,
                  .free = free,
                  .own = own,
                  .axis = axis,
                  .nowMm = free ? 0 : p.part->size[own].value.mm()};
        double most = std::numeric_limits<double>::infinity(), surely = most;
        const double factor = grows[0] && grows[1] ? 2 : 1;
        for (const Gap& gap : gaps) {
            if (gap.axis != axis || gap.slanted)
                continue;
            // The part is the lower end when it grows upwards into the gap.
            for (const std::size_t side : {0U, 1U}) {
                if (gap.between[side].mount != p.mount || !grows[side == 0 ? 1 : 0] || !gap.between[side].port.empty())
                    continue;
                const double left = factor * (gap.nominal.mm() - gap.requiredMm), sure = factor * gap.marginMm();
                surely = std::min(surely, sure);
                if (left < most) {
                    most = left;
                    room.limit = gap.between[1 - side].text;
                    room.rule = gap.rule;
                }
            }
        }
        if (room.limit.empty())
            continue;
        const double now = p.part->size[own].value.mm();
        room.mostMm = std::max(0.0, now + most);
        room.surelyMm = std::max(0.0, now + surely);
        rooms.push_back(std::move(room));
    }
}

} // namespace

std::string_view ownAxisWord(std::size_t own) {
    constexpr std::array<std::string_view, 3> words{"width", "height", "depth"};
    return words[own];
}

std::vector<Room> roomLeft(const Project& project, const Build& build, const Options& options) {
    std::vector<Room> rooms;
    const auto stopped = [&] { return options.stop && options.stop(); };
    for (std::size_t i = 0; i < build.placed.size() && !stopped(); ++i)
        if (const PartKind kind = build.placed[i].part->kind;
            kind != PartKind::Cable && kind != PartKind::Adapter && kind != PartKind::Processor)
            addRooms(build, i, options, false, build.placed[i].name, rooms);
    for (const MountChoice& mount : mountsOf(build)) {
        if (stopped() || mount.taken || mount.accepts.empty() || mount.accepts.front() == PartKind::Processor)
            continue;
        // A thin part is put there for a moment, on a copy of the shelf.
        Project trial;
        trial.shelf = project.shelf;
        trial.revisions = project.revisions;
        trial.shelf.push_back(probeOf(mount));
        const auto probed = resolveWith(trial, build.revision, {PlacePart{"probe", mount.path}});
        if (!probed)
            continue;
        for (std::size_t i = 0; i < probed->placed.size(); ++i)
            if (probed->placed[i].mount == mount.path)
                addRooms(*probed, i, options, true, mount.name, rooms);
    }
    return rooms;
}

} // namespace core::fit
