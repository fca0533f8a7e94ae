// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_section.h"

#include "app/stations/fit/fit_leads.h"

#include "core/fit/section_drawing.h"

namespace app {
using core::Axis;
using core::Mark;
using core::Quantity;

namespace {

void paintWalls(Canvas& c, const Section& s, const core::Build& build) {
    const double wall = std::max(2.0, build.caseSpec().wall.value.mm() * s.scale);
    const QRectF in = s.paper;
    c.p.fillRect(in.adjusted(-wall, -wall, wall, 0 - in.height()), c.t.ink);
    c.p.fillRect(QRectF(in.left() - wall, in.bottom(), in.width() + 2 * wall, wall), c.t.ink);
    c.p.fillRect(QRectF(in.left() - wall, in.top() - wall, wall, in.height() + 2 * wall), c.t.ink);
    c.p.fillRect(QRectF(in.right(), in.top() - wall, wall, in.height() + 2 * wall), c.t.ink);
    // Openings break the wall into bars.
    for (const core::Opening& o : build.openings) {
        if (o.style == core::OpeningStyle::Closed || !o.to.empty())
            continue;
        const core::Direction out = core::outward(o.side);
        if (out.axis == s.through)
            continue;
        const auto axes = core::planeAxes(o.side);
        const Axis along = out.axis == s.across ? s.up : s.across;
        const std::size_t i = axes[0] == along ? 0 : 1;
        if (axes[1 - i] != s.through || std::abs(s.at - o.centreMm[1 - i]) > o.sizeMm[1 - i] / 2)
            continue;
        const double from = o.centreMm[i] - o.sizeMm[i] / 2, to = o.centreMm[i] + o.sizeMm[i] / 2;
        std::array<double, 3> a{}, b{};
        a[core::index(along)] = from;
        b[core::index(along)] = to;
        a[core::index(out.axis)] = b[core::index(out.axis)] =
            out.sign > 0 ? build.insideAt[core::index(out.axis)].mm() : 0.0;
        const QPointF p1 = s.point(a), p2 = s.point(b);
        const bool vertical = std::abs(p1.x() - p2.x()) < 0.5;
        const double shift = vertical ? (p1.x() > in.center().x() ? 0 : -wall) : 0,
                     lift = vertical ? 0 : (p1.y() > in.center().y() ? 0 : -wall);
        QRectF bar = vertical ? QRectF(p1.x() + shift, std::min(p1.y(), p2.y()), wall, std::abs(p1.y() - p2.y()))
                              : QRectF(std::min(p1.x(), p2.x()), p1.y() + lift, std::abs(p1.x() - p2.x()), wall);
        c.p.fillRect(bar, c.t.paper);
        const double solid = o.style == core::OpeningStyle::Plain ? 0 : 1 - o.perforation, pitch = 8;
        const double length = vertical ? bar.height() : bar.width();
        for (double x = 0; x < length; x += pitch) {
            const double w = std::min(pitch * solid, length - x);
            c.p.fillRect(vertical ? QRectF(bar.left(), bar.top() + x, bar.width(), w)
                                  : QRectF(bar.left() + x, bar.top(), w, bar.height()),
                         c.t.ink);
        }
    }
}

/// Where the cut lies along its own axis; dragged like the strip below.
void paintSlider(Canvas& c, const Section& s, double y, const core::Build& build) {
    const double size = build.insideAt[core::index(s.through)].mm(), left = s.paper.left(), width = s.paper.width();
    c.hline(left, left + width, y, c.t.line, 1);
    const double x = left + width * std::clamp(s.at / size, 0.0, 1.0);
    c.p.setPen(QPen(c.t.medge, 1.2));
    c.p.setBrush(c.t.marker);
    c.p.drawPolygon(QPolygonF{{x - 5, y - 5}, {x + 5, y - 5}, {x, y + 4}});
    c.hit({left, y - 6, width, 12}, Handle{.act = Act::DragCut, .axis = s.through},
          QObject::tr("Drag to move cut %1, %2 from %3")
              .arg(s.letter.left(1))
              .arg(std::lround(s.at))
              .arg(s.through == Axis::Y   ? QObject::tr("the front")
                   : s.through == Axis::X ? QObject::tr("the left")
                                          : QObject::tr("the floor")));
}

void paintBody(Canvas& c, const Section& s, const View& v, const core::fit::PlacedBody& b, bool cut) {
    const core::Placed& p = v.evaluation()->build.placed[b.placed];
    const core::Thing key = core::PartRef{p.mount};
    const QRectF r = s.rect(b.low, b.high);
    const QPainterPath shape = b.isBox() ? QPainterPath() : s.outline(b);
    const auto draw = [&](const QPen& pen) {
        c.p.setPen(pen);
        c.p.setBrush(Qt::NoBrush);
        b.isBox() ? c.p.drawRect(r) : c.p.drawPath(shape);
    };
    const auto dashed = [](const QColor& color, const QList<qreal>& pattern) {
        QPen pen(color, 1);
        pen.setDashPattern(pattern);
        return pen;
    };
    if (b.role == core::BodyRole::KeepOut) {
        c.p.save();
        if (!b.isBox())
            c.p.setClipPath(shape, Qt::IntersectClip);
        c.pattern(r, Canvas::Pattern::KeepClear);
        c.p.restore();
        draw(dashed(c.t.tight, {9, 3, 2, 3}));
    } else if (cut && b.isBox()) {
        c.hatch(r, p.part->kind, c.fillOf(key, c.t.sheet), c.t.ink, c.isSelected(key) ? 2 : 1.2);
        if (c.isSelected(key))
            c.box(r, {}, c.t.medge, 2);
    } else if (cut) {
        c.hatch(shape, p.part->kind, c.fillOf(key, c.t.sheet), c.isSelected(key) ? c.t.medge : c.t.ink,
                c.isSelected(key) ? 2 : 1.2);
    } else {
        draw(dashed(c.t.line, {5, 3}));
    }
    if (cut || c.isSelected(key))
        c.hit(r, key, QObject::tr("Part %1").arg(qs(p.name)));
}

/// "15.5 to the front, 36.0 up: "
QString wayOf(const View& v, const std::array<double, 3>& mm) {
    const std::array<std::pair<QString, QString>, 3> words{{{QObject::tr("to the right"), QObject::tr("to the left")},
                                                            {QObject::tr("to the rear"), QObject::tr("to the front")},
                                                            {QObject::tr("up"), QObject::tr("down")}}};
    QStringList ways;
    for (std::size_t a = 0; a < 3; ++a)
        if (mm[a] != 0)
            ways << QStringLiteral("%1 %2").arg(v.text(Quantity::Length, std::abs(mm[a])),
                                                mm[a] > 0 ? words[a].first : words[a].second);
    return ways.isEmpty() ? QString() : ways.join(QStringLiteral(", ")) + QStringLiteral(": ");
}

/// The part that is about to be placed, or where one is dragged, with how many gaps it would make short.
void paintGhost(Canvas& c, const Section& s, const View& v, const FitLook& look) {
    QRectF whole;
    for (const auto& b : look.ghost ? *look.ghost : std::vector<core::fit::PlacedBody>{}) {
        const QRectF r = s.rect(b.low, b.high);
        QPen pen(look.ghostShort > 0 ? c.t.block : c.t.medge, 2);
        pen.setDashPattern({4, 2});
        QColor wash = c.t.marker;
        wash.setAlphaF(0.5F);
        c.p.setPen(pen);
        c.p.setBrush(b.role == core::BodyRole::Solid ? QBrush(wash) : QBrush(Qt::NoBrush));
        b.isBox() ? c.p.drawRect(r) : c.p.drawPath(s.outline(b));
        if (b.role == core::BodyRole::Solid)
            whole |= r;
    }
    if (!whole.isEmpty() && s.through == core::Axis::X) { // said once, on the largest of the three
        const QString words =
            wayOf(v, look.ghostByMm) + (look.ghostShort == 0 ? QObject::tr("no gap short here")
                                                             : counted(look.ghostShort, QObject::tr("1 gap short here"),
                                                                       QObject::tr("%1 gaps short here")));
        c.plate({whole.center().x(), std::max(whole.top() - 12, s.paper.top() + 10)}, words, 12, Weight::SemiBold,
                look.ghostShort > 0 ? c.t.block : c.t.ink);
    }
}

} // namespace

QPainterPath Section::outline(const core::fit::Primitive& piece) const {
    QPolygonF polygon;
    for (const auto& [u, w] : core::fit::outlineOf(piece, across, up))
        polygon << QPointF(paper.left() + u * scale, paper.bottom() - w * scale);
    if (!polygon.isEmpty())
        polygon << polygon.first();
    QPainterPath path;
    path.addPolygon(polygon);
    return path;
}

QPainterPath Section::outline(const core::fit::PlacedBody& body) const {
    QPainterPath path;
    for (const auto& piece : core::fit::primitivesOf(body))
        path = path.isEmpty() ? outline(piece) : path.united(outline(piece));
    return path;
}

bool Section::cuts(const core::fit::PlacedBody& b) const {
    const std::size_t k = core::index(through);
    return b.low[k].mm() <= at && b.high[k].mm() >= at;
}

void paintSection(Canvas& c, const Section& s, const View& v, const FitLook& look,
                  const std::vector<core::fit::PlacedBody>& bodies, Labels& labels) {
    const auto& e = *v.evaluation();
    c.text({s.paper.left() - 4, s.titleY, 60, 18}, s.letter, 12.5, Weight::SemiBold);
    const double room = s.titleRoom > 0 ? s.titleRoom : s.paper.width();
    c.second({s.paper.left() + 28, s.titleY, room - 28, 18}, c.elided(s.words, room - 28, 12));
    paintSlider(c, s, s.titleY + 24, e.build);
    c.box(s.paper, c.t.paper, {});
    std::vector<std::pair<QRectF, QString>> names;
    // Behind the cut first (dashed), then what is cut.
    for (const bool cut : {false, true})
        for (const auto& b : bodies) {
            if (s.cuts(b) != cut)
                continue;
            paintBody(c, s, v, b, cut);
            const QRectF r = s.rect(b.low, b.high);
            if (cut && b.role == core::BodyRole::Solid && r.width() > 44 && r.height() > 20)
                names.emplace_back(r, qs(e.build.placed[b.placed].name));
        }
    paintGhost(c, s, v, look);
    paintWalls(c, s, e.build);
    paintLeads(c, s, v, look, labels); // below the names of parts
    for (const auto& [r, name] : names) {
        const double whole = c.width(name, 12, Weight::Medium) + 8;
        if (whole > r.width() - 2 && whole < r.height() - 10) { // along the part, where it has the room
            if (const auto at = labels.place({18, whole}, r.center(), 60, r))
                c.plateUpright(at->center(), name);
            continue;
        }
        const QString shown = c.elided(name, r.width() - 10, 12, Weight::Medium);
        if (const auto at = labels.place({c.width(shown, 12, Weight::Medium) + 8, 18}, r.center(), 60, r))
            c.plate(at->center(), shown);
    }
}

QRectF tickOf(const Section& s, const core::fit::Gap& gap) {
    return QRectF(s.point(gap.fromMm), s.point(gap.toMm)).normalized().adjusted(-5, -5, 5, 5);
}

void paintPin(Canvas& c, const Section& s, const core::fit::Gap& gap, std::size_t number, const View& v,
              Labels& labels) {
    const QPointF a = s.point(gap.fromMm), b = s.point(gap.toMm), middle = (a + b) / 2;
    const core::Thing key = gap.ref;
    const bool selected = c.isSelected(key);
    c.p.setPen(QPen(c.t.sheet, 4));
    c.p.drawLine(a, b);
    c.p.setPen(QPen(gap.mark == Mark::Crossed ? c.t.block : c.t.ink, 2));
    c.p.drawLine(a, b);
    const bool across = std::abs(a.y() - b.y()) <= std::abs(a.x() - b.x());
    const QPointF tick = across ? QPointF(0, 4) : QPointF(4, 0);
    c.p.drawLine(a - tick, a + tick);
    c.p.drawLine(b - tick, b + tick);
    const QString n = QString::number(number), value = v.number(Quantity::Length, gap.nominal.mm());
    const double w1 = c.width(n, 12, Weight::SemiBold) + 10, w2 = c.width(value, 12, Weight::SemiBold) + 10;
    // The section first, then its margins: small sections have little room inside.
    const QSizeF size(w1 + w2, 18);
    auto found = labels.placeLed(size, middle + QPointF(0, -24), middle, 90, s.paper.adjusted(-6, -6, 6, 6));
    if (!found)
        found = labels.placeLed(size, middle, middle, 160, s.paper.adjusted(-40, -6, 40, 20));
    if (!found)
        return; // the ladder still names it
    const QRectF tag = *found;
    c.p.setPen(QPen(c.t.sheet, 3));
    c.p.drawLine(middle, tag.center());
    c.p.setPen(QPen(c.t.ink, 1));
    c.p.drawLine(middle, tag.center());
    c.p.setBrush(c.t.ink);
    c.p.drawEllipse(middle, 2.4, 2.4);
    c.box(tag, selected ? c.t.marker : c.t.sheet, selected ? c.t.medge : c.t.ink, selected ? 2 : 1);
    c.p.fillRect(QRectF(tag.left(), tag.top(), w1, tag.height()), c.t.ink);
    c.text({tag.left(), tag.top(), w1, tag.height()}, n, 12, Weight::SemiBold, c.t.paper, Qt::AlignCenter);
    c.text({tag.left() + w1, tag.top(), w2, tag.height()}, value, 12, Weight::SemiBold, c.t.ink, Qt::AlignCenter);
    c.label(tag);
    c.hit(tag, key, QObject::tr("Gap %1").arg(number));
}

void paintWayIn(Canvas& c, const Section& s, const core::fit::Insertion& way) {
    std::size_t n = 0; // 1 is outside, the last one in its place
    QPolygonF middles;
    std::vector<std::pair<QPointF, QString>> numbers;
    for (const auto& pose : way.poses) {
        const bool inPlace = ++n == way.poses.size();
        QPolygonF corners;
        for (const auto& box : pose.outlines) {
            QPolygonF polygon;
            for (const auto& corner : box)
                polygon << s.point(corner);
            corners += polygon;
            QPen pen(c.t.medge, 1.4);
            if (!inPlace)
                pen.setDashPattern({5, 3});
            c.p.setPen(pen);
            QColor wash = c.t.marker;
            wash.setAlphaF(inPlace ? 0.3F : 0.1F);
            c.p.setBrush(wash);
            c.p.drawPolygon(polygon);
        }
        if (corners.isEmpty())
            continue;
        const QRectF around = corners.boundingRect();
        middles << around.center();
        numbers.emplace_back(around.topLeft() + QPointF(11, 11), QString::number(n)); // the middle is the name's
        c.hit(around, core::WayRef{way.mount},
              QObject::tr("%1, position %2 of %3 on its way in").arg(qs(way.name)).arg(n).arg(way.poses.size()));
    }
    // Which way it moves: through the middles, beside the name that stands in the last of them.
    c.p.setPen(QPen(c.t.medge, 2));
    for (qsizetype i = 1; i + 1 < middles.size(); ++i)
        c.p.drawLine(middles[i - 1], middles[i]);
    if (middles.size() > 1)
        c.arrow(middles[middles.size() - 2], 0.15 * middles[middles.size() - 2] + 0.85 * middles.last(), c.t.medge, 2);
    for (const auto& [at, number] : numbers)
        c.plate(at, number, 11, Weight::SemiBold);
}

} // namespace app
