// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/cutout_edits.h"

#include "core/model/panel_edits.h"

#include <algorithm>
#include <cmath>

namespace core::box {
namespace {

constexpr double edgeMm = 0.01, leastMm = 0.5;

double toHundredth(double mm) { return std::round(mm * 100) / 100; }

bool canHaveHoles(const Body& body) {
    return body.shape == Shape::Box && body.role == BodyRole::Solid && body.turnDeg == std::array<double, 3>{};
}

/// The own axis of a part that lies along an axis of the case.
std::size_t ownAxis(const Placed& panel, Axis axis) {
    std::size_t own = 0;
    while (panel.frame.axis[own].axis != axis)
        ++own;
    return own;
}

/// From a length along an own axis of a part, measured from its low corner, to the case.
double inCase(const Placed& panel, std::size_t own, double mm) {
    const Direction d = panel.frame.axis[own];
    const std::size_t a = index(d.axis);
    return d.sign > 0 ? panel.lowAt[a].mm() + mm : panel.highAt[a].mm() - mm;
}

Problem noHole(const Part& made) { return {made.name, "has no such cut-out", "choose it in the list again"}; }

/// One size and place of a hole along an own axis of its part; null: it has none along that.
struct HoleSpan {
    double *at = nullptr, *size = nullptr;
    double bodyMm = 0; ///< of the body along that axis
};
HoleSpan spanOf(Body& body, Cutout& hole, std::size_t own) {
    const auto across = acrossOf(body);
    for (std::size_t i = 0; i < 2; ++i)
        if (across[i] == own)
            return {&hole.atMm[i], &hole.sizeMm[i], body.size[own].value.mm()};
    return {};
}
bool isInside(const HoleSpan& s) { return *s.at >= -edgeMm && *s.at + *s.size <= s.bodyMm + edgeMm; }

} // namespace

std::array<std::size_t, 2> acrossOf(const Body& body) {
    const std::size_t through = index(body.along);
    return {through == 0 ? std::size_t(1) : std::size_t(0), through == 2 ? std::size_t(1) : std::size_t(2)};
}

std::vector<CutoutAt> cutoutsOf(const Part& made) {
    std::vector<CutoutAt> all;
    for (std::size_t b = 0; b < made.bodies.size(); ++b)
        for (std::size_t k = 0; canHaveHoles(made.bodies[b]) && k < made.bodies[b].cutouts.size(); ++k)
            all.push_back({b, k});
    return all;
}

const Cutout* cutoutOf(const Part& made, std::size_t hole) {
    const auto all = cutoutsOf(made);
    return hole < all.size() ? &made.bodies[all[hole].body].cutouts[all[hole].cutout] : nullptr;
}

const Placed* panelOf(const Part& casePart, const Build& build, const Item& item) {
    if ((item.kind != Kind::Place && item.kind != Kind::Cutout) || item.index >= casePart.mounts.size())
        return nullptr;
    const Placed* placed = build.at(casePart.mounts[item.index].id);
    return isPanel(placed) ? placed : nullptr;
}

std::vector<Item> thingsOf(const Part& casePart, const Build& build) {
    std::vector<Item> all;
    for (const Item& item : itemsOf(casePart)) {
        all.push_back(item);
        if (const Placed* panel = panelOf(casePart, build, item))
            for (std::size_t hole = 0; hole < cutoutsOf(*panel->part).size(); ++hole)
                all.push_back({Kind::Cutout, item.index, hole});
    }
    return all;
}

Extent cutoutExtent(const Placed& panel, std::size_t hole) {
    Extent e;
    const auto all = cutoutsOf(*panel.part);
    if (hole >= all.size())
        return e;
    const Body& body = panel.part->bodies[all[hole].body];
    const Cutout& cutout = body.cutouts[all[hole].cutout];
    const auto across = acrossOf(body);
    for (std::size_t own = 0; own < 3; ++own) {
        double at = body.at[own].value.mm(), size = body.size[own].value.mm();
        for (std::size_t i = 0; i < 2; ++i)
            if (across[i] == own) {
                at += cutout.atMm[i];
                size = cutout.sizeMm[i];
            }
        const std::size_t a = index(panel.frame.axis[own].axis);
        std::tie(e.low[a], e.high[a]) = std::minmax({inCase(panel, own, at), inCase(panel, own, at + size)});
    }
    return e;
}

bool isAcross(const Placed& panel, std::size_t hole, Axis axis) {
    const auto all = cutoutsOf(*panel.part);
    return hole < all.size() && index(panel.part->bodies[all[hole].body].along) != ownAxis(panel, axis);
}

Result<void> moveCutout(Part& made, const Placed& panel, std::size_t hole, const std::array<double, 3>& by) {
    const auto all = cutoutsOf(made);
    if (hole >= all.size())
        return tl::make_unexpected(noHole(made));
    Body body = made.bodies[all[hole].body];
    Cutout& cutout = body.cutouts[all[hole].cutout];
    for (std::size_t own = 0; own < 3; ++own) {
        const Direction d = panel.frame.axis[own];
        const HoleSpan span = spanOf(body, cutout, own);
        if (!span.at)
            continue;
        *span.at = toHundredth(*span.at + d.sign * by[index(d.axis)]);
        if (!isInside(span))
            return problem(made.name, "its cut-out would lie outside of it", "keep it within its edges");
    }
    made.bodies[all[hole].body] = std::move(body);
    return {};
}

Result<void> resizeCutout(Part& made, const Placed& panel, std::size_t hole, Axis axis, bool high, double toMm) {
    const auto all = cutoutsOf(made);
    if (hole >= all.size())
        return tl::make_unexpected(noHole(made));
    Body body = made.bodies[all[hole].body];
    const std::size_t own = ownAxis(panel, axis);
    const HoleSpan span = spanOf(body, body.cutouts[all[hole].cutout], own);
    if (!span.at)
        return problem(made.name, "its cut-out goes all the way through there", "change the thickness of the panel");
    const bool ownHigh = (panel.frame.axis[own].sign > 0) == high;
    // Own coordinates of the body, in which the end that is pulled lies at:
    const std::size_t a = index(axis);
    const double fromLow = panel.frame.axis[own].sign > 0 ? toMm - panel.lowAt[a].mm() : panel.highAt[a].mm() - toMm;
    const double to = fromLow - body.at[own].value.mm(), end = *span.at + *span.size;
    const double size = ownHigh ? to - *span.at : end - to;
    if (size < leastMm)
        return problem(made.name, "its cut-out would be smaller than 0.5 mm", "leave its other end where it is");
    *span.at = toHundredth(ownHigh ? *span.at : to);
    *span.size = toHundredth(size);
    if (!isInside(span))
        return problem(made.name, "its cut-out would lie outside of it", "keep it within its edges");
    made.bodies[all[hole].body] = std::move(body);
    return {};
}

Result<std::size_t> addCutout(Part& given) {
    Part made = given;
    if (made.bodies.empty()) // a part without solids is one of its own size
        made.bodies.push_back({.name = "plate", .size = made.size});
    std::optional<std::size_t> largest;
    double most = 0;
    for (std::size_t b = 0; b < made.bodies.size(); ++b) {
        const Body& body = made.bodies[b];
        const auto across = acrossOf(body);
        const double area = body.size[across[0]].value.mm() * body.size[across[1]].value.mm();
        if (canHaveHoles(body) && area > most) {
            most = area;
            largest = b;
        }
    }
    if (!largest)
        return problem(made.name, "has no plate to cut", "give it a solid of the shape box under All details");
    Body& body = made.bodies[*largest];
    // Holes go through the thinnest way of a plate; where it has some already, as they do.
    if (body.cutouts.empty())
        for (const Axis axis : allAxes)
            if (body.size[index(axis)].value.mm() < body.size[index(body.along)].value.mm())
                body.along = axis;
    const auto across = acrossOf(body);
    Cutout cutout;
    for (std::size_t i = 0; i < 2; ++i) {
        const double whole = body.size[across[i]].value.mm();
        cutout.sizeMm[i] = toHundredth(std::max(leastMm, std::min(40.0, whole / 3)));
        cutout.atMm[i] = toHundredth((whole - cutout.sizeMm[i]) / 2);
    }
    body.cutouts.push_back(cutout);
    std::size_t before = body.cutouts.size() - 1; // and those of the bodies that are listed before it
    for (const CutoutAt& at : cutoutsOf(made))
        before += at.body < *largest ? 1 : 0;
    given = std::move(made);
    return before;
}

Result<std::size_t> copyCutout(Part& made, const Placed& panel, std::size_t hole) {
    const auto all = cutoutsOf(made);
    if (hole >= all.size())
        return tl::make_unexpected(noHole(made));
    Part tried = made;
    auto& cutouts = tried.bodies[all[hole].body].cutouts;
    cutouts.insert(cutouts.begin() + static_cast<std::ptrdiff_t>(all[hole].cutout) + 1, cutouts[all[hole].cutout]);
    for (const double by : {10.0, -10.0}) // beside it, where there is room
        for (const Axis axis : allAxes) {
            std::array<double, 3> way{};
            way[index(axis)] = by;
            if (isAcross(panel, hole, axis) && moveCutout(tried, panel, hole + 1, way)) {
                made = std::move(tried);
                return hole + 1;
            }
        }
    return problem(made.name, "has no room for another cut-out beside it", "make it smaller first");
}

Result<void> removeCutout(Part& made, std::size_t hole) {
    const auto all = cutoutsOf(made);
    if (hole >= all.size())
        return tl::make_unexpected(noHole(made));
    auto& cutouts = made.bodies[all[hole].body].cutouts;
    cutouts.erase(cutouts.begin() + static_cast<std::ptrdiff_t>(all[hole].cutout));
    return {};
}

} // namespace core::box
