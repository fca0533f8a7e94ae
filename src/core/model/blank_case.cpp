// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/blank_case.h"

#include "core/base/text.h"

#include <algorithm>

namespace core {
namespace {

Offset from(Ref ref, double mm) { return {ref, measureMm(mm, Source::Drawing)}; }

/// The largest frame of the usual ones that a panel of this size takes, with its grille around it; 0: none.
double fanFrame(double a, double b) {
    for (const double frame : {120.0, 92.0, 80.0, 40.0})
        if (std::min(a, b) >= frame + 4)
            return frame;
    return 0;
}

/// A fan place in the middle of a panel, and the grille before it.
void addFanPlace(Part& part, CaseSpec& spec, Side side, double along, double up) {
    const auto axes = planeAxes(side);
    const double a = part.size[index(axes[0])].value.mm(), b = part.size[index(axes[1])].value.mm();
    const double frame = fanFrame(std::min(a, 2 * std::min(along, a - along)), std::min(b, 2 * std::min(up, b - up)));
    if (frame <= 0)
        return;
    const Direction out = outward(side);
    Mount mount{.id = std::string(sideWord(side)) + "-fan",
                .name = "Fan place, " + std::string(sideWord(side)),
                .accepts = {PartKind::Fan},
                .facing = out,
                .up = {out.axis == Axis::Z ? Axis::Y : Axis::Z, 1}};
    mount.at[index(out.axis)] = from(out.sign > 0 ? Ref::High : Ref::Low, 0);
    mount.at[index(axes[0])] = from(Ref::Centre, along);
    mount.at[index(axes[1])] = from(Ref::Centre, up);
    part.mounts.push_back(mount);
    spec.openings.push_back({.id = std::string(sideWord(side)) + "-grille",
                             .name = "Grille, " + std::string(sideWord(side)),
                             .side = side,
                             .chamber = "inside",
                             .centreMm = {along, up},
                             .sizeMm = {frame, frame}});
}

} // namespace

Result<Part> blankCase(const BlankCase& blank) {
    constexpr std::array<const char*, 3> names{"width", "depth", "height"};
    std::array<double, 3> s{};
    for (std::size_t i = 0; i < 3; ++i) {
        s[i] = blank.inside[i].value.mm();
        if (!(s[i] >= 60 && s[i] <= 800))
            return problem(std::string("inner ") + names[i], fixed(s[i], 1) + " mm", "60 to 800 mm");
    }
    if (!(blank.wallMm >= 0.3 && blank.wallMm <= 10))
        return problem("wall", fixed(blank.wallMm, 1) + " mm", "0.3 to 10 mm");
    if (!(blank.perforation >= 0.05 && blank.perforation <= 1))
        return problem("open share of a grille", fixed(blank.perforation * 100, 0) + " %", "5 to 100 %");
    Part part{.id = blank.id, .kind = PartKind::Case, .name = blank.name, .size = blank.inside};
    CaseSpec spec{.wall = measureMm(blank.wallMm, Source::Drawing),
                  .feetMm = blank.feetMm,
                  .material = blank.material,
                  .boardForms = {"mini-itx"}};
    spec.chambers.push_back({.id = "inside", .name = "Inside", .lowMm = {0, 0, 0}, .highMm = s});
    for (const Side side : {Side::Left, Side::Right, Side::Front, Side::Rear, Side::Bottom, Side::Top})
        spec.panels.push_back({.side = side, .flexible = side == Side::Right, .removable = side != Side::Rear});
    const Direction right{Axis::X, 1}, up{Axis::Z, 1};
    part.mounts.push_back({.id = "tray",
                           .name = "Tray",
                           .accepts = {PartKind::Board},
                           .at = {from(Ref::Low, 6.5), from(Ref::High, 0), from(Ref::High, 6)},
                           .facing = right,
                           .up = up});
    part.mounts.push_back({.id = "card",
                           .name = "Card place",
                           .accepts = {PartKind::Card},
                           .at = {from(Ref::Low, 4), from(Ref::High, 2), from(Ref::Low, 10)},
                           .facing = {Axis::Z, -1},
                           .up = right});
    part.mounts.push_back({.id = "supply",
                           .name = "Supply bay",
                           .accepts = {PartKind::PowerSupply},
                           .at = {from(Ref::Low, 4), from(Ref::Low, 4), from(Ref::Low, 6)},
                           .facing = right,
                           .up = up});
    part.mounts.push_back({.id = "bay",
                           .name = "Drive bay",
                           .accepts = {PartKind::Drive, PartKind::Made},
                           .at = {from(Ref::Low, 4), from(Ref::Low, 4), from(Ref::High, 4)},
                           .facing = up,
                           .up = {Axis::Y, 1}});
    const auto open = [&](Side side) {
        return std::find(blank.open.begin(), blank.open.end(), side) != blank.open.end();
    };
    for (const Side side : {Side::Left, Side::Right})
        if (open(side))
            addFanPlace(part, spec, side, s[1] - 90, s[2] / 2);
    for (const Side side : {Side::Top, Side::Bottom})
        if (open(side))
            addFanPlace(part, spec, side, s[0] / 2, s[1] / 2);
    if (open(Side::Rear))
        spec.openings.push_back({.id = "rear-slots",
                                 .name = "Rear slots",
                                 .side = Side::Rear,
                                 .chamber = "inside",
                                 .centreMm = {s[0] / 2, 25},
                                 .sizeMm = {std::min(80.0, s[0] - 10), 40},
                                 .style = OpeningStyle::Mesh});
    if (open(Side::Front))
        spec.openings.push_back({.id = "front-grille",
                                 .name = "Front grille",
                                 .side = Side::Front,
                                 .chamber = "inside",
                                 .centreMm = {s[0] / 2, s[2] / 2},
                                 .sizeMm = {s[0] - 16, s[2] * 0.6},
                                 .style = OpeningStyle::Mesh});
    for (Opening& o : spec.openings)
        o.perforation = blank.perforation;
    part.spec = std::move(spec);
    return part;
}

} // namespace core
