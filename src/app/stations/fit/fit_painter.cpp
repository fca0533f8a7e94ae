// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_details.h"
#include "app/stations/fit/fit_overlay.h"
#include "app/stations/fit/fit_sheet.h"
#include "app/stations/fit/part_drag.h"

namespace app {
using core::Axis;
using core::PartKind;
using core::Quantity;

namespace {

/// What the hatches of this build mean; a hatch that is drawn is in the key.
void paintLegend(Canvas& c, const QRectF& r, const core::Build& build,
                 const std::vector<core::fit::PlacedBody>& bodies) {
    struct Row {
        PartKind kind;
        QString name;
    };
    const Row rows[] = {{PartKind::Board, QObject::tr("board")},   {PartKind::Card, QObject::tr("card")},
                        {PartKind::Cooler, QObject::tr("cooler")}, {PartKind::PowerSupply, QObject::tr("supply")},
                        {PartKind::Fan, QObject::tr("fan")},       {PartKind::Radiator, QObject::tr("radiator")},
                        {PartKind::Memory, QObject::tr("memory")}, {PartKind::Drive, QObject::tr("store")},
                        {PartKind::Made, QObject::tr("made")}};
    const auto word = [&](const QString& text, double x) {
        c.second({x + 20, r.top(), 90, 20}, text, Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    };
    double x = r.left();
    // First what is read wrongly without a word.
    if (std::any_of(bodies.begin(), bodies.end(), [](const auto& b) { return b.role == core::BodyRole::KeepOut; })) {
        c.pattern({x, r.top() + 4, 16, 12}, Canvas::Pattern::KeepClear);
        c.box({x, r.top() + 4, 16, 12}, {}, c.t.tight, 1);
        const QString text = QObject::tr("keep clear");
        word(text, x);
        x += 27 + c.width(text, 11.5);
    }
    for (const Row& row : rows) {
        const double w = 27 + c.width(row.name, 11.5);
        if (x + w > r.right() + 6 || !build.firstOf(row.kind))
            continue;
        c.hatch({x, r.top() + 4, 16, 12}, row.kind, c.t.sheet, c.t.ink, 1);
        word(row.name, x);
        x += w;
    }
}

/// A zoomed drawing keeps what tells where one is: names of the sections in sight, the factor, a bar of 50 mm, the way
/// back.
void paintZoomed(Canvas& c, const QRectF& shown, const View& v, const FitLook& look,
                 const std::vector<const Section*>& sections) {
    for (const Section* s : sections) {
        const QRectF seen = s->paper.intersected(shown.adjusted(4, 4, -4, -4));
        if (seen.width() > 40 && seen.height() > 30 && s->titleY < shown.top())
            c.plate(seen.topLeft() + QPointF(22, 12), s->letter, 12.5, Weight::SemiBold, c.t.ink);
    }
    const double scale = sections.front()->scale;
    double mm = v.show.units().inch ? 50.8 : 50; // round in the unit that is read
    while (mm * scale > shown.width() / 2)
        mm /= 2;
    const QRectF note(shown.right() - 212, shown.bottom() - 46, 204, 40);
    c.box(note, c.t.sheet, c.t.ink, 1);
    c.text({note.left() + 8, note.top() + 2, 190, 18}, QObject::tr("%1 × as large").arg(digits(look.zoom, 1)), 12,
           Weight::SemiBold);
    const double bar = std::min(mm * scale, 110.0), length = bar / scale;
    c.hline(note.left() + 8, note.left() + 8 + bar, note.top() + 30, c.t.ink, 3);
    c.second({note.left() + 14 + bar, note.top() + 21, 74, 18}, v.text(Quantity::Length, length));
    const QRectF all(note.right() - 74, note.top() + 2, 70, 18);
    c.text(all, QObject::tr("show all (0)"), 12, Weight::Medium, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    c.hit(all, Handle{.act = Act::ShowAll}, QObject::tr("Show all of the drawing (key 0)"));
}

void paintCutLines(Canvas& c, const Sheet& s) {
    const auto line = [&](const Section& on, bool vertical, double at, const QString& letter) {
        QPen pen(c.t.ink, 1);
        pen.setDashPattern({12, 3, 3, 3});
        c.p.setPen(pen);
        if (vertical) {
            c.p.drawLine(QPointF(at, on.paper.top() - 6), QPointF(at, on.paper.bottom() + 8));
            c.plate({at, on.paper.bottom() + 16}, letter, 11, Weight::SemiBold, c.t.ink);
        } else {
            c.p.drawLine(QPointF(on.paper.left() - 8, at), QPointF(on.paper.right() + 8, at));
            c.plate({on.paper.left() - 15, at}, letter, 11, Weight::SemiBold, c.t.ink);
        }
    };
    line(s.side, true, s.side.paper.left() + s.front.at * s.scale, QStringLiteral("A"));
    line(s.front, true, s.front.paper.left() + s.side.at * s.scale, QStringLiteral("B"));
    line(s.side, false, s.side.paper.bottom() - s.above.at * s.scale, QStringLiteral("C"));
}

/// The letters of the cuts stand in the margins, where tags may go as well.
void keepOffCutLetters(const Sheet& s, std::array<Labels, 3>& labels) {
    const auto square = [](double x, double y) { return QRectF(x - 9, y - 9, 18, 18); };
    labels[0].keepOff(square(s.front.paper.left() + s.side.at * s.scale, s.front.paper.bottom() + 16));
    labels[1].keepOff(square(s.side.paper.left() + s.front.at * s.scale, s.side.paper.bottom() + 16));
    labels[1].keepOff(square(s.side.paper.left() - 15, s.side.paper.bottom() - s.above.at * s.scale));
    // And what belongs to a neighbour: the front ends where the side begins.
    labels[0].keepOff(s.side.paper.adjusted(-24, -sectionTitles, 0, 0));
    labels[1].keepOff(s.front.paper.adjusted(0, 0, 4, 0));
    labels[1].keepOff(s.above.paper.adjusted(0, -sectionTitles, 0, 0));
    labels[2].keepOff(s.side.paper.adjusted(0, 0, 0, 24));
}

void paintDimension(Canvas& c, const View& v, const QPointF& a, const QPointF& b, double mm) {
    c.p.setPen(QPen(c.t.ink2, 1));
    c.p.drawLine(a, b);
    const bool across = std::abs(a.y() - b.y()) < 0.5;
    for (const QPointF& end : {a, b})
        c.p.drawLine(end - QPointF(4, -4), end + QPointF(4, -4));
    c.p.save();
    c.p.translate((a + b) / 2);
    if (!across)
        c.p.rotate(-90);
    c.box({-26, -8, 52, 16}, c.t.paper, {});
    c.text({-30, -8, 60, 16}, v.number(Quantity::Length, mm), 11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
    c.p.restore();
}

void paintSizes(Canvas& c, const View& v, const Sheet& s) {
    const auto& inside = v.evaluation()->build.insideAt;
    const QRectF &f = s.front.paper, &b = s.side.paper, &t = s.above.paper;
    paintDimension(c, v, {b.right() + 16, b.top()}, {b.right() + 16, b.bottom()}, inside[2].mm());
    paintDimension(c, v, {t.left(), t.bottom() + 16}, {t.right(), t.bottom() + 16}, inside[1].mm());
    paintDimension(c, v, {f.left(), f.bottom() + 34}, {f.right(), f.bottom() + 34}, inside[0].mm());
    c.hit({f.left(), f.bottom() + 24, f.width(), 20}, core::TotalRef{core::Total::Volume}, QObject::tr("Inner width"));
}

/// Pins of the tightest gaps of the ladder, each on the section that shows its axis.
void paintPins(Canvas& c, const View& v, const FitLook& look, const Sheet& s, std::array<Labels, 3>& labels) {
    const auto& gaps = v.evaluation()->fit.gaps;
    std::size_t pins = 0;
    for (const std::size_t i : ladderRows(v.evaluation()->fit, look, c.selected())) {
        const bool selected = c.isSelected(gaps[i].ref);
        if (pins >= 8 && !selected)
            continue;
        const Section& on = s.of(gaps[i], i);
        paintPin(c, on, gaps[i], i + 1, v, labels[on.through == Axis::Y ? 0 : on.through == Axis::X ? 1 : 2]);
        ++pins;
    }
}

/// Ticks are known before anything is written, so that names keep off them.
std::array<Labels, 3> ticksOf(const View& v, const FitLook& look, const Sheet& s, const core::Thing& selected) {
    std::array<Labels, 3> labels;
    const auto& fit = v.evaluation()->fit;
    std::size_t pins = 0;
    for (const std::size_t i : ladderRows(fit, look, selected)) {
        if (pins++ >= 8)
            break;
        const Section& on = s.of(fit.gaps[i], i);
        labels[on.through == Axis::Y ? 0 : on.through == Axis::X ? 1 : 2].keepOff(tickOf(on, fit.gaps[i]));
    }
    return labels;
}

constexpr double headButtons = 196; ///< room they take in the stage's head

/// At the right of the stage's head.
void paintHeadButtons(Canvas& c, const QRectF& r) {
    double right = r.right();
    for (const auto& [act, words, help] :
         {std::tuple{Act::AddPart, QObject::tr("Add a part"),
                     QObject::tr("Add a part from the shelf, or one of your own (Ctrl+Shift+A)")},
          std::tuple{Act::EditBox, QObject::tr("Edit the box"),
                     QObject::tr("Walls, chambers, vents and places of the case, on the drawing (E)")}}) {
        const double width = c.width(words, 12, Weight::Medium) + 16;
        const QRectF box(right - width, r.top(), width, 24);
        c.box(box, c.t.sheet, c.t.line, 1);
        c.text(box, words, 12, Weight::Medium, c.t.ink, Qt::AlignCenter);
        c.hit(box, Handle{.act = act}, help);
        right = box.left() - 8;
    }
}

void paintVolume(Canvas& c, const View& v, const QRectF& note) {
    c.washIfSelected(note, core::TotalRef{core::Total::Volume});
    c.text({note.left() + 4, note.top(), note.width(), 22}, v.text(Quantity::Volume, v.evaluation()->fit.volumeL), 14,
           Weight::SemiBold);
    c.second({note.left() + 4, note.top() + 20, note.width(), 18}, QObject::tr("outside"));
    c.hit(note, core::TotalRef{core::Total::Volume}, QObject::tr("Volume outside"));
}

void paintSheet(Canvas& c, const View& v, const FitLook& look, const Sheet& s, const QRectF& drawing,
                const std::vector<core::fit::PlacedBody>& bodies) {
    auto labels = ticksOf(v, look, s, c.selected());
    paintSection(c, s.front, v, look, bodies, labels[0]);
    paintSection(c, s.side, v, look, bodies, labels[1]);
    paintSection(c, s.above, v, look, bodies, labels[2]);
    paintCutLines(c, s);
    keepOffCutLetters(s, labels);
    paintSizes(c, v, s);
    if (look.list != FitLook::List::GoingIn && look.list != FitLook::List::Leads)
        paintPins(c, v, look, s, labels);
    if (look.over.empty())
        return;
    if (const auto& other = v.document.shown(look.over).evaluation)
        paintOverlay(c, s, v, other->build, drawing);
}

/// A way in has the drawing to itself: its positions reach far out of the case, over whatever else would stand there.
void paintWaySheet(Canvas& c, const View& v, const FitLook& look, const Section& s, const core::fit::Insertion& way,
                   const std::vector<core::fit::PlacedBody>& bodies) {
    Labels labels;
    paintSection(c, s, v, look, bodies, labels);
    paintWayIn(c, s, way);
}

} // namespace

QRectF fitDrawing(const QRectF& r) {
    const double list = std::clamp(r.width() * 0.33, 250.0, 360.0);
    return {r.left(), r.top() + 34, r.width() - list - 24, r.height() - 34 - 28};
}

void paintFit(Canvas& c, const QRectF& r, const View& v, const FitLook& look) {
    stageHead(c, look.paper ? r : r.adjusted(0, 0, -headButtons, 0), question::fit,
              QObject::tr("%1 unless said").arg(v.unit(Quantity::Length)));
    const auto* e = v.evaluation();
    if (!look.paper && e)
        paintHeadButtons(c, r);
    if (!e)
        return emptyStage(
            c, r,
            v.project().revisions.empty()
                ? QObject::tr(
                      "No parts yet. Add the case first, its inner size is what everything is measured against.")
                : qs(v.result().problem));
    const QRectF drawing = fitDrawing(r);
    const double list = r.right() - drawing.right() - 24;
    c.vline(drawing.right() + 12, drawing.top(), r.bottom(), c.t.line);
    paintFitList(c, {drawing.right() + 24, r.top() + 34, list, r.height() - 34}, v, look);

    const auto bodies = core::fit::bodiesOf(e->build);
    const Sheet sheet = sheetOf(drawing, v, look);
    const QRectF shown = drawing.adjusted(-8, 0, 8, -cutStripHeight + 12);
    const core::fit::Insertion* way = drawnWay(look, c.selected());
    const Section wayIn = way ? waySection(shown, v, look, *way) : Section{};
    const bool zoomed = look.zoom != 1 || !look.pan.isNull();
    c.p.save();
    if (zoomed) {
        c.p.setClipRect(shown, Qt::IntersectClip);
        c.window = shown;
    }
    if (way)
        paintWaySheet(c, v, look, wayIn, *way, bodies);
    else
        paintSheet(c, v, look, sheet, drawing, bodies);
    c.p.restore();
    c.window = {};
    if (zoomed)
        paintZoomed(c, shown, v, look,
                    way ? std::vector<const Section*>{&wayIn}
                        : std::vector<const Section*>{&sheet.front, &sheet.side, &sheet.above});
    c.hit(shown, Handle{.act = Act::MoveSheet}, QObject::tr("Sections. Wheel zooms, drag moves, 0 shows all"));
    const MovedCut moved = movedCut(v, look, c.selected()); // what one sees is what the strip moves
    const Sheet fitted = zoomed ? sheetOf(drawing, v, FitLook{.cuts = look.cuts}) : sheet;
    if (!look.paper)
        paintCutStrip(c, {drawing.left() + 4, drawing.bottom() - 76, drawing.width() - 4, 76}, v, bodies, moved.axis,
                      moved.mm,
                      way ? StripPlace{fitted.side.paper.left(), fitted.side.paper.left(), fitted.scale}
                          : StripPlace{fitted.side.paper.left(), sheet.side.paper.left(), sheet.scale});
    // The room left under the front view: volume and where it stands.
    const double noteY = fitted.front.paper.bottom() + 60;
    if (!zoomed && !way && noteY + 50 < drawing.bottom() - cutStripHeight)
        paintVolume(
            c, v,
            {fitted.front.paper.left() - 8, noteY, fitted.side.paper.left() - fitted.front.paper.left() - 24, 60});
    const double lensTop = noteY + 46, lensW = fitted.side.paper.left() - drawing.left() - 44;
    if (!zoomed && !way && drawing.bottom() - 92 - lensTop > 90)
        paintGapLens(c, {drawing.left() + 4, lensTop, lensW, std::min(drawing.bottom() - 92 - lensTop, lensW + 20)}, v);
    paintLegend(c, {r.left(), r.bottom() - 20, drawing.width(), 20}, e->build, bodies);
}

} // namespace app
