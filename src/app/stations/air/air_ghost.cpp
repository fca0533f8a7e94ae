// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_explore.h"

#include "core/base/text.h"
#include "core/verdict/marks.h"

#include <cmath>

// A way that was found, drawn over what is there: what differs stands out, what it takes out is left as an outline.
namespace app {
using core::Mark;
using core::Quantity;

namespace {

bool sitsAlike(const core::Placed& a, const core::Placed& b) {
    for (std::size_t i = 0; i < 3; ++i)
        if (std::abs((a.lowAt[i] - b.lowAt[i]).mm()) > 0.05 || std::abs((a.highAt[i] - b.highAt[i]).mm()) > 0.05)
            return false;
    return a.part->id == b.part->id && a.flow == b.flow && a.control == b.control;
}

bool isDrawn(const core::Placed& p) {
    return p.part->kind != core::PartKind::Cable && p.part->kind != core::PartKind::Adapter;
}

/// A figure as it is and as it would be, with what lies between.
void paintFigure(Canvas& c, const QRectF& r, const QString& name, const QString& now, const QString& then,
                 const QString& by, Mark mark) {
    c.text({r.left(), r.top(), r.width() * 0.40, r.height()}, c.elided(name, r.width() * 0.40, 12.5), 12.5);
    c.text({r.left(), r.top(), r.width() * 0.53, r.height()}, now, 12, Weight::Regular, c.t.ink2,
           Qt::AlignRight | Qt::AlignVCenter);
    c.text({r.left(), r.top(), r.width() * 0.76, r.height()}, then, 12.5, Weight::SemiBold, c.t.ink,
           Qt::AlignRight | Qt::AlignVCenter);
    c.text({r.left(), r.top(), r.width() - 22, r.height()}, by, 12, Weight::Regular, c.t.ink2,
           Qt::AlignRight | Qt::AlignVCenter);
    if (mark != Mark::None)
        c.mark({r.right() - 14, r.center().y() - 6}, mark);
    c.hline(r.left(), r.right(), r.bottom(), c.t.hair);
}

void paintGhostFigures(Canvas& c, const QRectF& r, const View& v, const View& ghost) {
    const auto &now = *v.evaluation(), &then = *ghost.evaluation();
    c.heading(r.left(), r.top(), r.width(), QObject::tr("What would be"),
              QObject::tr("%1, then the way, by how much").arg(qs(v.document.revision())));
    double y = r.top() + 28;
    const auto row = [&](const QString& name, Quantity q, Quantity by, double a, double b, Mark mark) {
        paintFigure(c, {r.left(), y, r.width(), 22}, name, v.number(q, a), v.text(q, b), v.signedNumber(by, b - a),
                    mark);
        y += 22;
    };
    for (const auto& part : then.air.parts) {
        const auto* was = now.air.part(part.id);
        if (!was || part.kind == core::PartKind::Board)
            continue;
        row(qs(part.name), Quantity::Temperature, Quantity::TemperatureDifference, was->temperatureC, part.temperatureC,
            core::verdict::temperatureOf(then, ghost.result().verdict, part.id).mark);
    }
    row(QObject::tr("Noise"), Quantity::Level, Quantity::Level, now.noise.totalDba, then.noise.totalDba, Mark::None);
    const auto worst = [](const core::stages::Evaluation& e) {
        return std::min_element(e.fit.gaps.begin(), e.fit.gaps.end(),
                                [](const auto& a, const auto& b) { return a.marginMm() < b.marginMm(); });
    };
    if (!now.fit.gaps.empty() && !then.fit.gaps.empty())
        row(QObject::tr("Tightest gap, to spare"), Quantity::Length, Quantity::Length, worst(now)->marginMm(),
            worst(then)->marginMm(), worst(then)->mark);
}

} // namespace

void paintDifferences(Canvas& c, const SideView& s, const core::Build& was, const core::Build& now) {
    const auto outline = [&](const QRectF& r, const QColor& colour, const QList<qreal>& dash, double width) {
        QPen pen(colour, width);
        if (!dash.isEmpty())
            pen.setDashPattern(dash);
        c.p.setPen(pen);
        c.p.setBrush(Qt::NoBrush);
        c.p.drawRect(r);
    };
    for (const core::Placed& p : was.placed) {
        const core::Placed* there = now.at(p.mount);
        if (isDrawn(p) && (!there || !sitsAlike(p, *there)))
            outline(s.rect(p), c.t.line, {5, 3}, 1.2);
    }
    for (const core::Placed& p : now.placed) {
        const core::Placed* there = was.at(p.mount);
        if (isDrawn(p) && (!there || !sitsAlike(*there, p)))
            outline(s.rect(p).adjusted(-1.5, -1.5, 1.5, 1.5), c.t.medge, {}, 2.2);
    }
}

void paintGhost(Canvas& c, const QRectF& r, const View& v, const AirLook& view, const ExploreLook& look) {
    const auto& front = answered(look.explored).front;
    const bool chosen = look.chosen >= 0 && look.chosen < static_cast<int>(front.size());
    const QString name = chosen ? wayLetter(static_cast<std::size_t>(look.chosen)) : QString();
    stageHead(c, r.adjusted(0, 0, -airHeadRoom, 0), question::air,
              chosen ? QObject::tr("way %1 over %2, not built").arg(name, qs(v.document.revision())) : QString());
    const QRectF body = r.adjusted(0, 36, 0, 0);
    const QString back = QObject::tr("Space goes back to the choices; arrows go along them; Enter makes a revision of "
                                     "it. Working tells of %1 as it is.")
                             .arg(qs(v.document.revision()));
    c.second({body.left(), body.bottom() - 18, body.width(), 18}, back, Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    const results::Look* then = look.ghost.value.get();
    if (!chosen || !then || !then->evaluation) {
        const QString words = !chosen ? QObject::tr("Nothing is chosen yet.")
                              : look.ghost.standing == Standing::Pending
                                  ? QObject::tr("Way %1 is being worked out ...").arg(name)
                                  : (then ? qs(then->problem) : qs(look.ghost.why));
        return c.paragraph(body.adjusted(0, 6, 0, 0), words, 12.5, Weight::Regular, c.t.ink2), void();
    }
    View ghost = v;
    ghost.another = then;
    const double rightW = std::clamp(r.width() * 0.36, 250.0, 380.0),
                 below = std::clamp(body.height() * 0.36, 120.0, 260.0);
    const QRectF left(body.left(), body.top(), body.width() - rightW - 26, body.height() - below - 30);
    const QRectF right(body.right() - rightW, body.top(), rightW, left.height());
    c.vline(left.right() + 13, left.top(), left.bottom(), c.t.line);
    paintSights(c, {left.left(), left.top() - 4, left.width(), 18}, v, view);
    SideView s = sideViewIn(left.adjusted(0, 20, 0, 0), then->evaluation->build, view.sight);
    s.stage = left.adjusted(-10, 16, 10, 0);
    s.against = &v.evaluation()->air;
    s.was = &v.evaluation()->build;
    paintAirSection(c, s, ghost);
    if (look.ghost.standing == Standing::Pending)
        c.plate(QPointF(left.center().x(), left.top() + 28), QObject::tr("of the way before ..."), 12);
    paintGhostFigures(c, right, v, ghost);
    const QRectF steps(body.left(), left.bottom() + 8, body.width(), below);
    c.heading(steps.left(), steps.top(), steps.width(), QObject::tr("Way %1").arg(name));
    paintSteps(c, steps.adjusted(0, 26, 0, -4), v, front[static_cast<std::size_t>(look.chosen)]);
}

} // namespace app
