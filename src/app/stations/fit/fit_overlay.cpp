// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_overlay.h"

#include "core/model/box_edits.h"

namespace app {
namespace {

bool sitsThere(const core::Build& build, const core::Placed& p) {
    const core::Placed* same = build.at(p.mount);
    return same && same->part->id == p.part->id && same->lowAt == p.lowAt && same->highAt == p.highAt;
}
bool isThere(const core::Build& build, const core::Opening& o) {
    const core::Opening* same = build.opening(o.id);
    return same && same->side == o.side && same->centreMm == o.centreMm && same->sizeMm == o.sizeMm;
}

/// What the revisions of one line of descent changed that those of the other did not, and why.
QStringList changesOf(const View& v, const std::string& id, const std::string& without) {
    const auto mine = core::lineage(v.project(), id), theirs = core::lineage(v.project(), without);
    QStringList all;
    if (!mine || !theirs)
        return all;
    for (const core::Revision* r : *mine) {
        if (std::find(theirs->begin(), theirs->end(), r) != theirs->end())
            continue;
        QString words = QStringLiteral("%1: %2").arg(qs(r->id), v.words(v.document.words(r->id)));
        if (!r->note.empty())
            words += QStringLiteral(" (%1)").arg(qs(r->note));
        all << words;
    }
    return all;
}

QString whatDiffers(const View& v, const std::string& now, const std::string& other) {
    QString words = QObject::tr("Grey: %1").arg(qs(other));
    const QStringList since = changesOf(v, now, other), only = changesOf(v, other, now);
    if (!since.isEmpty())
        words += QObject::tr("; here and not there: %1").arg(since.join(QStringLiteral("; ")));
    if (!only.isEmpty())
        words += QObject::tr("; there and not here: %1").arg(only.join(QStringLiteral("; ")));
    return words;
}

QRectF rectOf(const Section& s, const core::box::Extent& e) {
    return QRectF(s.point(e.low), s.point(e.high)).normalized();
}

void paintOn(Canvas& c, const Section& s, const core::Build& now, const core::Build& other,
             const std::vector<core::fit::PlacedBody>& bodies) {
    const auto pen = [&](const QList<qreal>& dashes) {
        QPen p(c.t.ink2, 1.4);
        p.setDashPattern(dashes);
        c.p.setPen(p);
        c.p.setBrush(Qt::NoBrush);
    };
    pen({5, 3});
    for (const core::fit::PlacedBody& b : bodies)
        if (b.role == core::BodyRole::Solid && !sitsThere(now, other.placed[b.placed]))
            b.isBox() ? c.p.drawRect(s.rect(b.low, b.high)) : c.p.drawPath(s.outline(b));
    if (other.insideAt != now.insideAt)
        c.p.drawRect(s.rect({}, other.insideAt));
    pen({9, 3, 2, 3});
    core::Part casePart = *other.casePart;
    std::get<core::CaseSpec>(casePart.spec).openings = other.openings;
    for (std::size_t i = 0; i < other.openings.size(); ++i)
        if (!isThere(now, other.openings[i]))
            c.p.drawRect(rectOf(s, core::box::extentOf(casePart, {core::box::Kind::Vent, i})));
}

} // namespace

void paintOverlay(Canvas& c, const Sheet& s, const View& v, const core::Build& other, const QRectF& drawing) {
    const core::Build& now = v.evaluation()->build;
    const auto bodies = core::fit::bodiesOf(other);
    for (const Section* section : {&s.front, &s.side, &s.above})
        paintOn(c, *section, now, other, bodies);
    const QString words = whatDiffers(v, now.revision, other.revision);
    // Under the front, beside the view from above, where nothing is drawn; a zoomed drawing has it at its upper edge.
    const double top = s.front.paper.bottom() + 116;
    QRectF note(s.front.paper.left(), top, s.above.paper.left() - s.front.paper.left() - 30,
                drawing.bottom() - cutStripHeight - top);
    const bool taken = std::holds_alternative<core::GapRef>(c.selected()); // the detail of a gap stands there
    if (taken || note.width() < 84 || note.height() < 34 || !drawing.contains(note))
        note = QRectF(drawing.right() - 216, drawing.top() + 2, 212, 36);
    c.p.fillRect(note, c.t.paper);
    c.paragraph(note, words, 11.5, Weight::Regular, c.t.ink, static_cast<int>(note.height() / 16));
}

} // namespace app
