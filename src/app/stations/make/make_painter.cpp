// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/stations.h"

#include "core/base/text.h"

namespace app {
using core::Quantity;

namespace {

/// One made part on its bed, drawn to the scale of the bed.
void paintBed(Canvas& c, const QRectF& r, const core::make::MadePart& part, const View& v) {
    const auto& bed = v.project().printer.bedMm;
    const core::Thing key = core::MadeRef{part.id};
    const double scale = std::min(r.width() / bed[0], (r.height() - 40) / bed[1]);
    const QRectF plate(r.left(), r.top(), bed[0] * scale, bed[1] * scale);
    c.box(plate, c.t.field, c.isSelected(key) ? c.t.medge : c.t.ink, c.isSelected(key) ? 2 : 1.2);
    for (double mm = 20; mm < bed[0]; mm += 20)
        c.vline(plate.left() + mm * scale, plate.top() + 1, plate.bottom() - 1, c.t.hair);
    for (double mm = 20; mm < bed[1]; mm += 20)
        c.hline(plate.left() + 1, plate.right() - 1, plate.top() + mm * scale, c.t.hair);
    c.p.save();
    c.p.translate(plate.center());
    c.p.rotate(part.turnedDeg);
    const QRectF foot(-part.footMm[0] * scale / 2, -part.footMm[1] * scale / 2, part.footMm[0] * scale,
                      part.footMm[1] * scale);
    c.hatch(foot, core::PartKind::Made, c.fillOf(key, c.t.sheet), part.fits ? c.t.ink : c.t.block, 1.4);
    c.p.restore();
    c.mark({r.left(), plate.bottom() + 8}, part.fits ? core::Mark::Holds : core::Mark::Crossed);
    const QString name = qs(part.name) + (part.count > 1 ? QStringLiteral(" × %1").arg(part.count) : QString());
    c.text({r.left() + 20, plate.bottom() + 4, r.width() - 20, 18},
           c.elided(name, r.width() - 20, 12.5, Weight::Medium), 12.5, Weight::Medium);
    const QString figures = QObject::tr("%1 h, %2 g").arg(digits(part.hours, 1), qs(core::fixed(part.massG, 0))) +
                            (!part.fits           ? QObject::tr(", too large")
                             : part.onItsSide     ? QObject::tr(", on its side")
                             : part.turnedDeg > 0 ? QObject::tr(", turned %1°").arg(part.turnedDeg)
                                                  : QString());
    c.second({r.left() + 20, plate.bottom() + 20, r.width() - 20, 18}, c.elided(figures, r.width() - 20, 12));
    c.hit({r.left(), r.top(), r.width(), r.height()}, key, QObject::tr("Made part %1, %2").arg(name, figures));
}

void paintShopping(Canvas& c, const QRectF& r, const core::make::Plan& plan) {
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Screws and inserts"),
              QObject::tr("%1 in all").arg(plan.screws));
    PaintedList list(c, QStringLiteral("screws"), r.adjusted(0, 26, 0, 0), plan.shopping.size(), 20,
                     {{QObject::tr("count"), r.left(), r.left() + 44, Qt::AlignRight},
                      {QObject::tr("kind"), r.left() + 50, r.right() - 14}});
    list.filter(c.headingRoom(r, QObject::tr("Screws and inserts"), QObject::tr("%1 in all").arg(plan.screws)),
                [&](std::size_t i) { return qs(plan.shopping[i].kind); });
    list.sort([&](std::size_t i, int column) {
        return column == 0 ? SortKey(double(plan.shopping[i].count)) : SortKey(qs(plan.shopping[i].kind));
    });
    list.paint([&](std::size_t i, const QRectF& row) {
        const auto& item = plan.shopping[i];
        c.washIfSelected(row, core::ScrewRef{item.kind});
        c.text({row.left(), row.top(), 40, 20}, QString::number(item.count) + QStringLiteral(" \u00d7"), 12.5,
               Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({row.left() + 50, row.top(), row.width() - 50, 20}, c.elided(qs(item.kind), row.width() - 54, 12.5),
               12.5, Weight::Regular);
        c.hline(row.left(), row.right(), row.bottom(), c.t.hair);
        c.hit(row, core::ScrewRef{item.kind}, QObject::tr("%1 × %2").arg(item.count).arg(qs(item.kind)));
    });
}

/// A lane is called after the part that carries it.
QString laneName(const core::Build& build, const QString& place) {
    const core::Placed* p = build.at(place.toStdString());
    return p ? qs(p->name) : QObject::tr("Case");
}

/// What must come out again to reach the selected step's part, else the one that takes longest.
QString reachSentence(const Canvas& c, const core::make::Plan& plan) {
    const core::make::Step* wanted = nullptr;
    for (const auto& s : plan.steps)
        if (c.isSelected(s.ref))
            wanted = &s;
    if (!wanted)
        for (const auto& s : plan.steps)
            if (!wanted || s.undoMinutes > wanted->undoMinutes)
                wanted = &s;
    if (!wanted)
        return {};
    QStringList numbers;
    for (const std::size_t i : wanted->undo)
        numbers << QString::number(i + 1);
    return QObject::tr("To reach %1: take back %2. %3 screws, about %4 min.")
        .arg(qs(wanted->text), numbers.join(QStringLiteral(", ")))
        .arg(wanted->undoScrews)
        .arg(qs(core::fixed(wanted->undoMinutes, 0)));
}

void paintAssembly(Canvas& c, const QRectF& r, const View& v, const core::make::Plan& plan, const core::Build& build) {
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Assembly order"),
              QObject::tr("%1 screws in %2 steps, about %3 min")
                  .arg(plan.screws)
                  .arg(plan.steps.size())
                  .arg(qs(core::fixed(plan.minutes, 0))));
    // One lane a place; steps from left to right.
    QStringList lanes;
    for (const auto& s : plan.steps)
        if (!lanes.contains(qs(s.place)))
            lanes << qs(s.place);
    const double laneH = std::clamp((r.height() - 120) / share(static_cast<std::size_t>(lanes.size())), 24.0, 44.0);
    const double left = r.left() + 84, dx = (r.right() - left - 20) / share(plan.steps.size());
    double y = r.top() + 32;
    for (const QString& lane : lanes) {
        c.second({r.left(), y, 80, laneH}, c.elided(laneName(build, lane), 78, 12));
        c.hline(r.left(), r.right(), y + laneH, c.t.hair);
        y += laneH;
    }
    const auto at = [&](std::size_t i) {
        return QPointF(left + dx * static_cast<double>(i) + 12,
                       r.top() + 32 + laneH * (static_cast<double>(lanes.indexOf(qs(plan.steps[i].place))) + 0.5));
    };
    c.p.setPen(QPen(c.t.ink, 1.6));
    for (std::size_t i = 1; i < plan.steps.size(); ++i) {
        const QPointF a = at(i - 1), b = at(i);
        c.p.setPen(QPen(c.t.ink, 1.6));
        c.p.drawPolyline(QPolygonF{a, {b.x() - 14, a.y()}, {b.x() - 14, b.y()}, b});
    }
    double mostUndo = 1;
    for (const auto& s : plan.steps)
        mostUndo = std::max(mostUndo, s.undoMinutes);
    const double base = r.top() + 40 + laneH * static_cast<double>(lanes.size());
    c.second({r.left(), base, 80, 22}, QObject::tr("Screws"));
    c.second({r.left(), base + 24, 80, 22}, QObject::tr("Out again, min"));
    for (std::size_t i = 0; i < plan.steps.size(); ++i) {
        const auto& s = plan.steps[i];
        const core::Thing key = s.ref;
        const QPointF p = at(i);
        const bool selected = c.isSelected(key);
        c.p.setPen(QPen(selected ? c.t.medge : c.t.ink, selected ? 2 : 1.4));
        c.p.setBrush(selected ? c.t.marker : c.t.sheet);
        c.p.drawEllipse(p, 10, 10);
        c.text({p.x() - 12, p.y() - 10, 24, 20}, QString::number(i + 1), 11.5, Weight::SemiBold, c.t.ink,
               Qt::AlignCenter);
        if (s.screws > 0) {
            c.text({p.x() - 10, base, 40, 22}, QString::number(s.screws) + QStringLiteral(" \u00d7"), 12,
                   Weight::SemiBold, c.t.ink);
        }
        const double w = std::max(2.0, (dx - 34) * s.undoMinutes / mostUndo);
        c.box({p.x() - 10, base + 30, w, 10}, selected ? c.t.marker : c.t.tray, c.t.ink, 1);
        c.text({p.x() - 6 + w, base + 24, 34, 22}, qs(core::fixed(s.undoMinutes, 0)), 12, Weight::SemiBold, c.t.ink);
        c.hit({p.x() - 12, p.y() - 12, 24, 24}, key, QObject::tr("Step %1, %2").arg(i + 1).arg(qs(s.text)));
        c.hit({p.x() - 12, base, dx, 46}, key, QObject::tr("Step %1, %2").arg(i + 1).arg(qs(s.text)));
    }
    // Names in three columns under the lanes, so that none is cut.
    const double third = r.width() / 3;
    PaintedList names(c, QStringLiteral("steps"), {r.left(), base + 54, r.width(), r.bottom() - 26 - base - 54},
                      (plan.steps.size() + 2) / 3, 18);
    names.paint([&](std::size_t line, const QRectF& row) {
        for (std::size_t i = 3 * line; i < std::min(plan.steps.size(), 3 * line + 3); ++i) {
            const double x = row.left() + third * static_cast<double>(i % 3);
            const core::Thing key = plan.steps[i].ref;
            const QString words = qs(plan.steps[i].text) + QStringLiteral(", ") + v.words(plan.steps[i].tool);
            c.washIfSelected({x, row.top(), third - 16, 18}, key);
            c.text({x, row.top(), 20, 18}, QString::number(i + 1), 12, Weight::SemiBold, c.t.ink,
                   Qt::AlignRight | Qt::AlignVCenter);
            c.second({x + 26, row.top(), third - 44, 18}, c.elided(words, third - 46, 12));
            c.hit({x, row.top(), third - 16, 18}, key, QObject::tr("Step %1, %2").arg(i + 1).arg(words));
        }
    });
    c.text({r.left(), r.bottom() - 22, r.width(), 20},
           c.elided(reachSentence(c, plan), r.width(), 12.5, Weight::SemiBold), 12.5, Weight::SemiBold);
}

} // namespace

void paintMake(Canvas& c, const QRectF& r, const View& v) {
    const auto* e = v.evaluation();
    if (!e) {
        stageHead(c, r, question::make);
        return emptyStage(c, r,
                          v.project().revisions.empty()
                              ? QObject::tr("No parts yet. Steps and screws come from the parts of a revision.")
                              : qs(v.result().problem));
    }
    const auto& plan = e->make;
    const auto& bed = v.project().printer.bedMm;
    stageHead(c, r, question::make,
              QObject::tr("%1 h, %2 g, %3")
                  .arg(digits(plan.hours, 1), qs(core::fixed(plan.massG, 0)), v.text(Quantity::Money, plan.cost)));
    const double shopping = 210, top = r.top() + 34;
    const double bedsW = r.width() - shopping - 26;
    c.heading(r.left(), top, bedsW, QObject::tr("Printer bed"),
              QObject::tr("%1, %2 border")
                  .arg(v.words(core::boxMm(bed)), v.figure(core::figure::mm(v.project().printer.borderMm, 0))));
    const double bedsTop = top + 32;
    const std::size_t columns = std::max<std::size_t>(4, plan.parts.size());
    const double cell = std::min(150.0, (bedsW + 12) / static_cast<double>(columns));
    const double bedH = (cell - 12) * bed[1] / bed[0] + 42;
    for (std::size_t i = 0; i < plan.parts.size() && i < columns; ++i)
        paintBed(c, {r.left() + cell * static_cast<double>(i), bedsTop, cell - 12, bedH}, plan.parts[i], v);
    if (plan.parts.empty())
        c.second({r.left(), bedsTop, bedsW, 22}, QObject::tr("Nothing is printed or cut for this revision."));
    paintShopping(c, {r.right() - shopping, top, shopping, std::max(bedH + 30, 186.0)}, plan);
    const double below = bedsTop + std::max(bedH, 150.0) + 20;
    paintAssembly(c, {r.left(), below, r.width(), r.bottom() - below - 44}, v, plan, e->build);
    QString safety =
        QObject::tr("Eyes, ears and gloves off near spinning tools; clamp the work; electronics out before cutting. "
                    "Never open a supply. Mains wiring to local code, by a qualified person.");
    for (const std::string& caution : plan.cautions)
        safety += QLatin1Char(' ') + qs(caution) + QLatin1Char('.');
    c.paragraph({r.left(), r.bottom() - 34, r.width(), 36}, safety, 12, Weight::Medium, c.t.ink2, 2);
}

} // namespace app
