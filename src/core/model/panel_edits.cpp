// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/panel_edits.h"

#include "core/base/text.h"
#include "core/model/cutout_edits.h"

#include <cmath>

namespace core::box {
namespace {

constexpr double thinnestMm = 0.5, sameMm = 0.01;

double hundredth(double mm) { return std::round(mm * 100) / 100; }
void add(Measure& m, double mm) { m.value = Length::fromMm(hundredth(m.value.mm() + mm)); }

/// A solid that reaches from one end of the part to the other is stretched with it: its cut-outs keep their place in
/// the case, so they move in the body where its own low end is pulled. False: one would lie outside.
bool stretch(Body& body, std::size_t own, double by, bool lowEnd) {
    add(body.size[own], by);
    const auto plane = acrossOf(body);
    for (std::size_t i = 0; i < 2; ++i)
        for (Cutout& hole : body.cutouts)
            if (plane[i] == own) {
                hole.atMm[i] = hundredth(hole.atMm[i] + (lowEnd ? by : 0));
                if (hole.atMm[i] < -sameMm || hole.atMm[i] + hole.sizeMm[i] > body.size[own].value.mm() + sameMm)
                    return false;
            }
    return true;
}

} // namespace

bool isPanel(const Placed* p) {
    return p && p->part->kind == PartKind::Made && p->parent == -1 && p->variant.empty() && !p->outside;
}

Result<void> resizePanel(Part& casePart, Part& made, const Item& place, const Placed& panel, Axis axis, bool high,
                         double toMm) {
    const std::size_t a = index(axis);
    std::size_t own = 0;
    while (panel.frame.axis[own].axis != axis)
        ++own;
    if (!isPanel(&panel) || place.kind != Kind::Place)
        return problem(made.name, "is no panel of the case", "choose a made part at a place of the case");
    const double low = panel.lowAt[a].mm(), top = panel.highAt[a].mm();
    const double size = hundredth(high ? toMm - low : top - toMm), by = size - (top - low);
    if (size < thinnestMm)
        return problem(made.name, "would be thinner than " + fixed(thinnestMm, 1) + " mm",
                       "leave its other end where it is");
    const bool ownLow = (panel.frame.axis[own].sign > 0) != high;
    Part longer = made;
    const double was = made.size[own].value.mm();
    longer.size[own].value = Length::fromMm(size);
    for (Body& body : longer.bodies) {
        const bool whole =
            std::abs(body.at[own].value.mm()) < sameMm && std::abs(body.size[own].value.mm() - was) < sameMm;
        if (whole && !stretch(body, own, by, ownLow))
            return problem(made.name, "would end in a cut-out", "move or shorten the cut-out first");
        if (!whole && ownLow)
            add(body.at[own], by);
    }
    for (Port& port : longer.ports)
        if (ownLow)
            add(port.at[own], by);
    for (Mount& m : longer.mounts)
        if (ownLow && (m.at[own].ref == Ref::Low || m.at[own].ref == Ref::Centre))
            add(m.at[own].value, by);
    Part moved = casePart;
    std::array<double, 3> sizes{}, way{};
    for (std::size_t i = 0; i < 3; ++i)
        sizes[i] = panel.highAt[i].mm() - panel.lowAt[i].mm();
    sizes[a] = size;
    way[a] = hundredth((high ? low : toMm) - extentOf(moved, place, sizes).low[a]);
    if (auto done = move(moved, place, way); !done)
        return done;
    made = std::move(longer);
    casePart = std::move(moved);
    return {};
}

} // namespace core::box
