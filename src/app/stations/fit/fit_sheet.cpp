// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_sheet.h"

namespace app {
using core::Axis;
using core::Quantity;

namespace {

/// A section without its place on the paper.
Section cutThrough(Axis through, double at, const View& v) {
    Section s;
    s.through = through;
    s.at = at;
    switch (through) {
    case Axis::Y:
        s.letter = QStringLiteral("A–A");
        s.words = QObject::tr("from front");
        s.across = Axis::X;
        s.up = Axis::Z;
        break;
    case Axis::X:
        s.letter = QStringLiteral("B–B");
        s.words = QObject::tr("from the side, %1 deep").arg(v.text(Quantity::Length, at));
        s.across = Axis::Y;
        s.up = Axis::Z;
        break;
    case Axis::Z: // seen from above the right side panel is up
        s.letter = QStringLiteral("C–C");
        s.words = QObject::tr("from above, %1 up from the floor").arg(v.text(Quantity::Length, at));
        s.across = Axis::Y;
        s.up = Axis::X;
        break;
    }
    return s;
}

Section placed(Section s, const QPointF& corner, double scale, const core::Build& build) {
    s.paper = {corner.x(), corner.y(), build.insideAt[core::index(s.across)].mm() * scale,
               build.insideAt[core::index(s.up)].mm() * scale};
    s.scale = scale;
    s.titleY = corner.y() - sectionTitles;
    return s;
}

/// What the case and all positions of a way span along one axis, mm in case axes.
struct Span {
    double low = 0, high = 0;
};
Span spanOf(const core::fit::Insertion& way, const core::Build& build, Axis axis) {
    const std::size_t k = core::index(axis);
    Span span{0, build.insideAt[k].mm()};
    for (const auto& pose : way.poses)
        for (const auto& box : pose.outlines)
            for (const auto& corner : box)
                span = {std::min(span.low, corner[k]), std::max(span.high, corner[k])};
    return span;
}

} // namespace

CutPlaces cutPlaces(const core::Build& build, const Cuts& cuts) {
    const core::Placed* cooler = build.firstOf(core::PartKind::Cooler);
    CutPlaces at{build.insideAt[0].mm() / 2,
                 cooler ? 0.5 * (cooler->lowAt[1].mm() + cooler->highAt[1].mm()) : build.insideAt[1].mm() / 2,
                 build.insideAt[2].mm() / 2};
    if (cuts.a >= 0)
        at.y = cuts.a;
    if (cuts.b >= 0)
        at.x = cuts.b;
    if (cuts.c >= 0)
        at.z = cuts.c;
    return at;
}

Sheet sheetOf(const QRectF& drawing, const View& v, const FitLook& look) {
    const core::Build& build = v.evaluation()->build;
    const double w = build.insideAt[0].mm(), d = build.insideAt[1].mm(), h = build.insideAt[2].mm();
    const CutPlaces cut = cutPlaces(build, look.cuts);
    const double fitted = std::min((drawing.width() - sectionGapX - 36) / (w + d),
                                   (drawing.height() - sectionGapY - sectionTitles - 34 - cutStripHeight) / (h + w));
    const double scale = fitted * look.zoom;
    const QPointF origin(drawing.left() + 12 + look.pan.x(), drawing.top() + sectionTitles + look.pan.y());
    Sheet s;
    s.scale = scale;
    s.front = placed(cutThrough(Axis::Y, cut.y, v), origin, scale, build);
    s.front.titleRoom = w * scale + sectionGapX - 8;
    s.side = placed(cutThrough(Axis::X, cut.x, v), {s.front.paper.right() + sectionGapX, origin.y()}, scale, build);
    s.above =
        placed(cutThrough(Axis::Z, cut.z, v), {s.side.paper.left(), s.side.paper.bottom() + sectionGapY}, scale, build);
    return s;
}

const core::fit::Insertion* drawnWay(const FitLook& look, const core::Thing& selected) {
    if (look.list != FitLook::List::GoingIn || !look.answers)
        return nullptr;
    for (const auto& way : answered(look.answers->ways))
        if (!way.poses.empty() && selected == core::Thing(core::WayRef{way.mount}))
            return &way;
    return nullptr;
}

namespace {
/// Of a way in: as set, else through the middle of its part.
MovedCut cutOf(const View& v, const FitLook& look, const core::fit::Insertion& way) {
    const core::Build& build = v.evaluation()->build;
    const std::size_t through = 3 - core::index(core::outward(way.side).axis) - way.across;
    const auto axis = static_cast<Axis>(through);
    const double asSet = axis == Axis::Y ? look.cuts.a : axis == Axis::X ? look.cuts.b : look.cuts.c;
    const core::Placed* part = build.at(way.mount);
    return {axis, asSet >= 0 ? asSet
                  : part     ? 0.5 * (part->lowAt[through].mm() + part->highAt[through].mm())
                             : build.insideAt[through].mm() / 2};
}
} // namespace

MovedCut movedCut(const View& v, const FitLook& look, const core::Thing& selected) {
    if (const core::fit::Insertion* way = drawnWay(look, selected))
        return cutOf(v, look, *way);
    const CutPlaces cut = cutPlaces(v.evaluation()->build, look.cuts);
    const Axis axis = look.cuts.moved;
    return {axis, axis == Axis::Y ? cut.y : axis == Axis::X ? cut.x : cut.z};
}

Section waySection(const QRectF& room, const View& v, const FitLook& look, const core::fit::Insertion& way) {
    const core::Build& build = v.evaluation()->build;
    const MovedCut cut = cutOf(v, look, way);
    const Section s = cutThrough(cut.axis, cut.mm, v);
    const Span across = spanOf(way, build, s.across), up = spanOf(way, build, s.up);
    // The title stands over the highest position; a wall and its line need a little all round.
    const QRectF free = room.adjusted(16, sectionTitles, -16, -12);
    const double fitted = std::min(free.width() / (across.high - across.low), free.height() / (up.high - up.low));
    // In the middle of the room that it leaves, and no further down than one looks for it.
    const double down = std::min(120.0, 0.5 * (free.height() - fitted * (up.high - up.low)));
    const QPointF corner(free.center().x() - 0.5 * (across.high + across.low) * fitted,
                         free.top() + down + (up.high - build.insideAt[core::index(s.up)].mm()) * fitted);
    // Zoomed about the same point as the three sections, so that the wheel holds what is under it.
    const QPointF fixed(room.left() + 20, room.top() + sectionTitles);
    Section drawn = placed(s, fixed + (corner - fixed) * look.zoom + look.pan, fitted * look.zoom, build);
    drawn.titleY = room.top() + down;
    return drawn;
}

} // namespace app
