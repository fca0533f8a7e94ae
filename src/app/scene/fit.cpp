// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/scene/fit_details.h"

#include "core/base/text.h"

namespace app {
using core::Axis;
using core::Mark;
using core::PartKind;
using core::Quantity;

namespace {

/// One cut: which case axes lie across and up the paper, and where the cut is.
struct Section {
    QString letter, words;
    Axis across, up, through;
    double at = 0;
    QRectF paper; ///< of the inside of the case
    double scale = 1;
    double titleRoom = 0; ///< width of its title, 0: as wide as the paper

    [[nodiscard]] QPointF point(const std::array<double, 3>& mm) const {
        return {paper.left() + mm[core::index(across)] * scale, paper.bottom() - mm[core::index(up)] * scale};
    }
    [[nodiscard]] QRectF rect(const std::array<core::Length, 3>& low, const std::array<core::Length, 3>& high) const {
        const std::array<double, 3> l{low[0].mm(), low[1].mm(), low[2].mm()}, h{high[0].mm(), high[1].mm(), high[2].mm()};
        return QRectF(point(l), point(h)).normalized();
    }
};

bool cutsThrough(const Section& s, const core::fit::PlacedBody& b) {
    const std::size_t k = core::index(s.through);
    return b.low[k].mm() <= s.at && b.high[k].mm() >= s.at;
}

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
        a[core::index(out.axis)] = b[core::index(out.axis)] = out.sign > 0 ? build.insideAt[core::index(out.axis)].mm() : 0.0;
        const QPointF p1 = s.point(a), p2 = s.point(b);
        const bool vertical = std::abs(p1.x() - p2.x()) < 0.5;
        const double shift = vertical ? (p1.x() > in.center().x() ? 0 : -wall) : 0, lift = vertical ? 0 : (p1.y() > in.center().y() ? 0 : -wall);
        QRectF bar = vertical ? QRectF(p1.x() + shift, std::min(p1.y(), p2.y()), wall, std::abs(p1.y() - p2.y())) : QRectF(std::min(p1.x(), p2.x()), p1.y() + lift, std::abs(p1.x() - p2.x()), wall);
        c.p.fillRect(bar, c.t.paper);
        const double solid = o.style == core::OpeningStyle::Plain ? 0 : 1 - o.perforation, pitch = 8;
        const double length = vertical ? bar.height() : bar.width();
        for (double x = 0; x < length; x += pitch) {
            const double w = std::min(pitch * solid, length - x);
            c.p.fillRect(vertical ? QRectF(bar.left(), bar.top() + x, bar.width(), w) : QRectF(bar.left() + x, bar.top(), w, bar.height()), c.t.ink);
        }
    }
}

void paintSection(Canvas& c, const Section& s, const View& v, const std::vector<core::fit::PlacedBody>& bodies, double titleY) {
    const auto& e = *v.evaluation();
    c.text({s.paper.left() - 4, titleY, 60, 18}, s.letter, 12.5, Weight::SemiBold);
    const double room = s.titleRoom > 0 ? s.titleRoom : s.paper.width();
    c.second({s.paper.left() + 28, titleY, room - 28, 18}, c.elided(s.words, room - 28, 12));
    c.box(s.paper, c.t.paper, {});
    std::vector<std::pair<QRectF, QString>> labels;
    // Behind the cut first (dashed), then what is cut.
    for (const bool cut : {false, true})
        for (const auto& b : bodies) {
            if (cutsThrough(s, b) != cut)
                continue;
            const core::Placed& p = e.build.placed[b.placed];
            const QRectF r = s.rect(b.low, b.high);
            const QString key = QStringLiteral("part:") + qs(p.mount);
            if (b.role == core::BodyRole::KeepOut) {
                c.pattern(r, Canvas::Pattern::KeepClear);
                QPen pen(c.t.tight, 1);
                pen.setDashPattern({9, 3, 2, 3});
                c.p.setPen(pen);
                c.p.setBrush(Qt::NoBrush);
                c.p.drawRect(r);
            } else if (cut) {
                c.hatch(r, p.part->kind, c.fillOf(key, c.t.sheet), c.t.ink, c.isSelected(key) ? 2 : 1.2);
                if (c.isSelected(key))
                    c.box(r, {}, c.t.medge, 2);
                if (r.width() > 44 && r.height() > 20)
                    labels.emplace_back(r, qs(p.part->name));
            } else {
                QPen pen(c.t.line, 1);
                pen.setDashPattern({5, 3});
                c.p.setPen(pen);
                c.p.setBrush(Qt::NoBrush);
                c.p.drawRect(r);
            }
            if (cut || c.isSelected(key))
                c.hit(r, key, QObject::tr("Part %1").arg(qs(p.part->name)));
        }
    paintWalls(c, s, e.build);
    std::vector<QRectF> taken;
    for (const auto& [r, name] : labels) {
        const QString shown = c.elided(name, r.width() - 8, 12, Weight::Medium);
        QPointF at = r.center();
        for (const double shift : {0.0, 18.0, -18.0, 36.0, -36.0}) {
            const QRectF probe(at.x() - c.width(shown, 12) / 2 - 4, r.center().y() + shift - 9, c.width(shown, 12) + 8, 18);
            if (r.contains(probe) && std::none_of(taken.begin(), taken.end(), [&](const QRectF& t) { return t.intersects(probe); })) {
                taken.push_back(c.plate(probe.center(), shown));
                break;
            }
        }
    }
}

/// A thick tick across the gap and its tag; tags keep off each other.
void paintPin(Canvas& c, const Section& s, const core::fit::Gap& gap, std::size_t number, const View& v, std::vector<QRectF>& taken) {
    const QPointF a = s.point(gap.fromMm), b = s.point(gap.toMm), middle = (a + b) / 2;
    const QString key = QStringLiteral("gap:") + qs(gap.id);
    const bool selected = c.isSelected(key);
    c.p.setPen(QPen(c.t.sheet, 4));
    c.p.drawLine(a, b);
    c.p.setPen(QPen(gap.mark == Mark::Crossed ? c.t.block : c.t.ink, 2));
    c.p.drawLine(a, b);
    const bool across = std::abs(a.y() - b.y()) < 0.5;
    const QPointF tick = across ? QPointF(0, 4) : QPointF(4, 0);
    c.p.drawLine(a - tick, a + tick);
    c.p.drawLine(b - tick, b + tick);
    const QString n = QString::number(number), value = v.number(Quantity::Length, gap.nominal.mm());
    const double w1 = c.width(n, 12, Weight::SemiBold) + 10, w2 = c.width(value, 12, Weight::SemiBold) + 10;
    QRectF tag;
    for (const double distance : {24.0, 38.0, 54.0, 72.0, 92.0})
        for (const QPointF& way : {QPointF(0, -1), QPointF(-1, 0), QPointF(1, 0), QPointF(0, 1), QPointF(-0.8, -0.8), QPointF(0.8, -0.8), QPointF(-0.8, 0.8), QPointF(0.8, 0.8)}) {
            const QPointF at = middle + way * distance;
            const QRectF probe(at.x() - (w1 + w2) / 2, at.y() - 9, w1 + w2, 18);
            const QRectF room = s.paper.adjusted(-16, -6, 16, 16); // the title stands above
            if (tag.isNull() && room.contains(probe) && std::none_of(taken.begin(), taken.end(), [&](const QRectF& t) { return t.adjusted(-3, -3, 3, 3).intersects(probe); }))
                tag = probe;
        }
    if (tag.isNull())
        return; // the ladder still names it
    taken.push_back(tag);
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
    c.hit(tag, key, QObject::tr("Gap %1").arg(number));
}

void paintChain(Canvas& c, const QRectF& r, const core::fit::Gap& gap, const View& v) {
    double positive = 0;
    for (const auto& item : gap.chain)
        if (item.sign > 0)
            positive += item.factor * item.valueMm;
    const double whole = std::max(positive, 1e-6), scale = (r.width() - 16) / std::max(whole, whole - std::min(0.0, gap.nominal.mm()));
    double x = r.left() + 8;
    c.box({r.left() + 8, r.top() + 2, whole * scale, 6}, {}, c.t.ink, 1);
    const double y = r.top() + 14;
    int k = 0;
    for (const auto& item : gap.chain) {
        if (item.sign > 0)
            continue;
        const QRectF bar(x, y, item.factor * item.valueMm * scale, 20);
        c.box(bar, c.t.sheet, c.t.ink, 1);
        c.pattern(bar.adjusted(1, 1, -1, -1), k++ % 2 ? Canvas::Pattern::Diagonal : Canvas::Pattern::LevelLines);
        const QString label = v.number(Quantity::Length, item.factor * item.valueMm);
        if (bar.width() > c.width(label, 12) + 12)
            c.plate(bar.center(), label);
        x += bar.width();
    }
    const QRectF left(x, y, std::max(2.0, gap.nominal.mm() * scale), 20);
    c.box(left, c.t.marker, c.t.medge, 1.5);
    QString sum;
    for (const auto& item : gap.chain)
        sum += (sum.isEmpty() ? (item.sign > 0 ? QString() : QStringLiteral("\u2212 ")) : item.sign > 0 ? QStringLiteral(" + ") : QStringLiteral(" \u2212 ")) + v.number(Quantity::Length, item.factor * item.valueMm);
    sum += QStringLiteral(" = ") + v.number(Quantity::Length, gap.nominal.mm()) + QStringLiteral(" ±") + v.number(Quantity::Length, gap.worstBandMm);
    c.text({r.left() + 8, y + 22, r.width() - 16, 18}, c.elided(sum, r.width() - 16, 12, Weight::SemiBold), 12, Weight::SemiBold);
}

void paintLadder(Canvas& c, const QRectF& r, const View& v) {
    const auto& gaps = v.evaluation()->fit.gaps;
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Gap ladder"), QObject::tr("%1 gaps, tightest first").arg(gaps.size()));
    // One axis for all rungs: the heavy line is the need.
    const double axis = r.left() + r.width() * 0.60, span = 12, scale = (r.right() - 6 - axis) / span;
    c.second({r.left(), r.top() + 26, 150, 18}, QObject::tr("gap, tolerance, need"), Qt::AlignLeft | Qt::AlignVCenter, 11);
    for (const double mark : {0.0, 4.0, 8.0})
        c.text({axis + mark * scale - 30, r.top() + 26, 60, 18}, mark == 0 ? QObject::tr("need") : v.signedNumber(Quantity::Length, mark), 11, mark == 0 ? Weight::SemiBold : Weight::Regular, mark == 0 ? c.t.ink : c.t.ink2, Qt::AlignCenter);
    double y = r.top() + 46;
    std::size_t shown = 0;
    for (std::size_t i = 0; i < gaps.size(); ++i) {
        const auto& gap = gaps[i];
        const QString key = QStringLiteral("gap:") + qs(gap.id);
        const bool selected = c.isSelected(key);
        const double height = selected ? 104 : 45;
        if (y + height > r.bottom() - 22)
            break;
        ++shown;
        c.washIfSelected({r.left(), y, r.width(), 44}, key);
        if (selected)
            c.box({r.left(), y, r.width(), height}, {}, c.t.medge, 1.5);
        const QPointF balloon(r.left() + 15, y + 14);
        c.p.setPen(Qt::NoPen);
        c.p.setBrush(c.t.ink);
        c.p.drawEllipse(balloon, 9, 9);
        c.text({balloon.x() - 10, balloon.y() - 9, 20, 18}, QString::number(i + 1), 11, Weight::SemiBold, c.t.paper, Qt::AlignCenter);
        const QString name = qs(gap.between[0].text + " to " + gap.between[1].text);
        c.text({r.left() + 30, y + 4, r.width() - 96, 20}, c.elided(name, r.width() - 98, 12.5, Weight::Medium), 12.5, Weight::Medium);
        c.text({r.right() - 66, y + 4, 44, 20}, v.signedNumber(Quantity::Length, gap.marginMm()), 13, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.mark({r.right() - 18, y + 9}, gap.mark);
        const QString figures = v.number(Quantity::Length, gap.nominal.mm()) + QStringLiteral(" ±") + v.number(Quantity::Length, gap.worstBandMm) + QObject::tr("  needs ") + v.number(Quantity::Length, gap.requiredMm);
        c.text({r.left() + 30, y + 23, axis - r.left() - 40, 18}, c.elided(figures, axis - r.left() - 36, 12), 12, Weight::Regular, c.t.ink2);
        const double over = gap.nominal.mm() - gap.requiredMm;
        const auto at = [&](double mm) { return std::clamp(axis + mm * scale, axis - 30, r.right() - 4); };
        const QRectF band(QPointF(at(over - gap.worstBandMm), y + 27), QPointF(std::max(at(over + gap.worstBandMm), at(over - gap.worstBandMm) + 2), y + 37));
        if (over - gap.worstBandMm < 0)
            c.pattern(QRectF(QPointF(band.left(), band.top()), QPointF(std::min(axis, band.right()), band.bottom())), Canvas::Pattern::Over);
        c.box(band, {}, c.markColor(gap.mark), 1.2);
        c.vline(at(over), y + 25, y + 39, c.markColor(gap.mark), 2);
        c.vline(axis, y + 24, y + 40, c.t.ink, 2);
        if (selected)
            paintChain(c, {r.left(), y + 46, r.width(), 58}, gap, v);
        else
            c.hline(r.left(), r.right(), y + 45, c.t.hair);
        const QString spoken = QObject::tr("Gap %1, %2, %3 plus or minus %4, needs %5, %6").arg(i + 1).arg(name, v.text(Quantity::Length, gap.nominal.mm()), v.number(Quantity::Length, gap.worstBandMm), v.number(Quantity::Length, gap.requiredMm), qs(core::markWord(gap.mark)));
        c.hit({r.left(), y, r.width(), 44}, key, spoken);
        y += height;
    }
    if (shown < gaps.size())
        c.second({r.left(), r.bottom() - 20, r.width(), 20}, QObject::tr("%1 more gaps keep over %2").arg(gaps.size() - shown).arg(v.text(Quantity::Length, gaps[shown].marginMm())));
}

void paintLegend(Canvas& c, const QRectF& r) {
    struct Row { PartKind kind; QString name; };
    const Row rows[] = {{PartKind::Board, QObject::tr("board")}, {PartKind::Card, QObject::tr("card")}, {PartKind::Cooler, QObject::tr("cooler")}, {PartKind::PowerSupply, QObject::tr("supply")},
                        {PartKind::Fan, QObject::tr("fan")}, {PartKind::Memory, QObject::tr("memory")}, {PartKind::Drive, QObject::tr("store")}, {PartKind::Made, QObject::tr("made")}};
    double x = r.left();
    for (const Row& row : rows) {
        c.hatch({x, r.top() + 4, 16, 12}, row.kind, c.t.sheet, c.t.ink, 1);
        c.second({x + 20, r.top(), 60, 20}, row.name, Qt::AlignLeft | Qt::AlignVCenter, 11.5);
        x += 26 + c.width(row.name, 11.5) + 8;
    }
    if (x + 90 < r.right()) {
        c.pattern({x, r.top() + 4, 16, 12}, Canvas::Pattern::KeepClear);
        c.box({x, r.top() + 4, 16, 12}, {}, c.t.tight, 1);
        c.second({x + 20, r.top(), 80, 20}, QObject::tr("keep clear"), Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    }
}

} // namespace

void paintFit(Canvas& c, const QRectF& r, const View& v, const Cuts& cuts) {
    stageHead(c, r, QObject::tr("Does everything go in, at the worst tolerance?"), QObject::tr("%1 unless said").arg(v.unit(Quantity::Length)));
    const auto* e = v.evaluation();
    if (!e)
        return emptyStage(c, r, v.project().revisions.empty() ? QObject::tr("No parts yet. Add the case first, its inner size is what everything is measured against.") : qs(v.result().problem));
    const double ladder = std::clamp(r.width() * 0.33, 250.0, 360.0);
    const QRectF drawing(r.left(), r.top() + 34, r.width() - ladder - 24, r.height() - 34 - 28);
    c.vline(drawing.right() + 12, drawing.top(), r.bottom(), c.t.line);
    paintLadder(c, {drawing.right() + 24, r.top() + 34, ladder, r.height() - 34}, v);

    const auto bodies = core::fit::bodiesOf(e->build);
    const double w = e->build.insideAt[0].mm(), d = e->build.insideAt[1].mm(), h = e->build.insideAt[2].mm();
    // Front beside side, top under side: aligned on shared edges.
    const double gapX = 44, gapY = 46, titles = 22;
    const double strip = 96;
    const double scale = std::min((drawing.width() - gapX - 36) / (w + d), (drawing.height() - gapY - titles - 34 - strip) / (h + w));
    const double top = drawing.top() + titles + 6;
    const double cutY = cuts.a >= 0 ? cuts.a : e->build.firstOf(PartKind::Cooler) ? 0.5 * (e->build.firstOf(PartKind::Cooler)->lowAt[1].mm() + e->build.firstOf(PartKind::Cooler)->highAt[1].mm()) : d / 2;
    const double cutX = cuts.b >= 0 ? cuts.b : w / 2, cutZ = cuts.c >= 0 ? cuts.c : h / 2;
    Section front{QStringLiteral("A–A"), QObject::tr("from front"), Axis::X, Axis::Z, Axis::Y, cutY, {drawing.left() + 12, top, w * scale, h * scale}, scale, w * scale + gapX - 8};
    Section side{QStringLiteral("B–B"), QObject::tr("from the side, %1 in").arg(v.text(Quantity::Length, cutX)), Axis::Y, Axis::Z, Axis::X, cutX, {front.paper.right() + gapX, top, d * scale, h * scale}, scale};
    Section above{QStringLiteral("C–C"), QObject::tr("from above, %1 up from the floor").arg(v.text(Quantity::Length, cutZ)), Axis::Y, Axis::X, Axis::Z, cutZ, {side.paper.left(), side.paper.bottom() + gapY, d * scale, w * scale}, scale};
    // Seen from above the right side panel is up.
    paintSection(c, front, v, bodies, drawing.top());
    paintSection(c, side, v, bodies, drawing.top());
    paintSection(c, above, v, bodies, above.paper.top() - 24);
    // Cut lines and sizes.
    const auto cutLine = [&](const Section& s, bool vertical, double at, const QString& letter) {
        QPen pen(c.t.ink, 1);
        pen.setDashPattern({12, 3, 3, 3});
        c.p.setPen(pen);
        if (vertical) {
            c.p.drawLine(QPointF(at, s.paper.top() - 8), QPointF(at, s.paper.bottom() + 8));
            c.plate({at, s.paper.bottom() + 16}, letter, 11, Weight::SemiBold, c.t.ink);
        } else {
            c.p.drawLine(QPointF(s.paper.left() - 8, at), QPointF(s.paper.right() + 8, at));
            c.plate({s.paper.left() - 15, at}, letter, 11, Weight::SemiBold, c.t.ink);
        }
    };
    cutLine(side, true, side.paper.left() + cutY * scale, QStringLiteral("A"));
    cutLine(front, true, front.paper.left() + cutX * scale, QStringLiteral("B"));
    cutLine(side, false, side.paper.bottom() - cutZ * scale, QStringLiteral("C"));
    const auto dim = [&](const QPointF& a, const QPointF& b, double mm) {
        c.p.setPen(QPen(c.t.ink2, 1));
        c.p.drawLine(a, b);
        const bool across = std::abs(a.y() - b.y()) < 0.5;
        for (const QPointF& end : {a, b})
            c.p.drawLine(end - QPointF(4, across ? -4 : -4), end + QPointF(4, across ? -4 : -4));
        if (across) {
            c.box({(a.x() + b.x()) / 2 - 26, a.y() - 8, 52, 16}, c.t.paper, {});
            c.text({(a.x() + b.x()) / 2 - 30, a.y() - 8, 60, 16}, v.number(Quantity::Length, mm), 11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
        } else {
            c.p.save();
            c.p.translate(a.x(), (a.y() + b.y()) / 2);
            c.p.rotate(-90);
            c.box({-26, -8, 52, 16}, c.t.paper, {});
            c.text({-30, -8, 60, 16}, v.number(Quantity::Length, mm), 11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
            c.p.restore();
        }
    };
    const double out = 16;
    dim({side.paper.right() + out, side.paper.top()}, {side.paper.right() + out, side.paper.bottom()}, h);
    dim({above.paper.left(), above.paper.bottom() + out}, {above.paper.right(), above.paper.bottom() + out}, d);
    dim({front.paper.left(), front.paper.bottom() + 34}, {front.paper.right(), front.paper.bottom() + 34}, w);
    c.hit({front.paper.left(), front.paper.bottom() + 24, front.paper.width(), 20}, QStringLiteral("volume"), QObject::tr("Inner width"));
    // The room left under the front view: volume and where it stands.
    const double noteY = front.paper.bottom() + 60;
    const QRectF note(front.paper.left() - 8, noteY, side.paper.left() - front.paper.left() - 24, 60);
    if (noteY + 50 < drawing.bottom() - strip) {
        c.washIfSelected(note, QStringLiteral("volume"));
        c.text({note.left() + 4, note.top(), note.width(), 22}, v.text(Quantity::Volume, e->fit.volumeL), 14, Weight::SemiBold);
        c.second({note.left() + 4, note.top() + 20, note.width(), 18}, QObject::tr("outside"));
        c.hit(note, QStringLiteral("volume"), QObject::tr("Volume outside"));
    }
    // Pins of the tightest gaps, each on the section that shows its axis.
    std::vector<QRectF> taken;
    std::size_t pins = 0;
    for (std::size_t i = 0; i < e->fit.gaps.size() && pins < 9; ++i) {
        const auto& gap = e->fit.gaps[i];
        if (i >= 8 && !c.isSelected(QStringLiteral("gap:") + qs(gap.id)))
            continue;
        const Section& s = gap.axis == Axis::X ? (i % 2 ? above : front) : side;
        paintPin(c, s, gap, i + 1, v, taken);
        ++pins;
    }
    const double moved = cuts.moved == Axis::Y ? cutY : cuts.moved == Axis::X ? cutX : cutZ;
    paintCutStrip(c, {drawing.left() + 4, drawing.bottom() - 76, drawing.width() - 4, 76}, v, bodies, cuts.moved, moved, side.paper.left(), scale);
    const double lensTop = noteY + 46, lensW = side.paper.left() - drawing.left() - 44;
    if (drawing.bottom() - 92 - lensTop > 90)
        paintGapLens(c, {drawing.left() + 4, lensTop, lensW, std::min(drawing.bottom() - 92 - lensTop, lensW + 20)}, v);
    paintLegend(c, {r.left(), r.bottom() - 20, drawing.width(), 20});
}

} // namespace app
