// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/port_map.h"

#include "core/base/text.h"

namespace app {
using core::Mark;
using core::Quantity;

namespace {

void targetRows(Canvas& c, const QRectF& r, const View& v) {
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Targets"),
              QObject::tr("at %1 room, %2 m away")
                  .arg(v.text(Quantity::Temperature, v.project().brief.roomC), digits(v.project().brief.listenerM, 1)));
    const double limitX = r.left() + 206, now = r.left() + 262, axis = r.left() + 276, end = r.right() - 44;
    c.second({limitX - 76, r.top() + 26, 76, 20}, QObject::tr("limit"), Qt::AlignRight | Qt::AlignVCenter);
    c.second({now - 60, r.top() + 26, 60, 20}, QObject::tr("%1 now").arg(qs(v.document.revision())),
             Qt::AlignRight | Qt::AlignVCenter);
    c.second({axis, r.top() + 26, r.right() - axis, 20}, QObject::tr("headroom"), Qt::AlignRight | Qt::AlignVCenter);
    double y = r.top() + 48;
    for (const auto& t : v.result().verdict.targets) {
        const core::Thing key = core::TargetRef{t.id, {}};
        const QRectF row(r.left(), y, r.width(), 22);
        c.washIfSelected(row, key);
        c.mark({r.left() + 2, y + 5}, t.state);
        c.text({r.left() + 24, y, 112, 22}, c.elided(qs(t.name), 112, 12.5), 12.5, Weight::Regular);
        const Quantity q = core::quantityOf(t.kind);
        c.text({limitX - 70, y, 70, 22}, v.text(q, t.limit), 12, Weight::Regular, c.t.ink2,
               Qt::AlignRight | Qt::AlignVCenter);
        if (t.basis == core::verdict::Basis::Missing) {
            c.text({now - 60, y, 60, 22}, QObject::tr("missing"), 12, Weight::Regular, c.t.ink2,
                   Qt::AlignRight | Qt::AlignVCenter);
        } else {
            c.text({now - 60, y, 60, 22}, v.number(q, t.value), 12.5, Weight::SemiBold, c.t.ink,
                   Qt::AlignRight | Qt::AlignVCenter);
            // The bar counts bands: the dashed line is one band, cut at four.
            const double band = std::max(1e-9, 0.5 * (t.high - t.low));
            const bool sharp = t.high - t.low < 1e-9;
            const double bands = sharp ? (t.headroom >= 0 ? 4.0 : -0.8) : std::clamp(t.headroom / band, -0.8, 4.0);
            const double unit = (end - axis) / 4.8, zero = axis + 0.8 * unit;
            const QRectF bar = QRectF(QPointF(zero, y + 5), QPointF(zero + bands * unit, y + 17)).normalized();
            c.p.fillRect(bar, c.t.sheet);
            c.pattern(bar, bands >= 0 ? Canvas::Pattern::Holds : Canvas::Pattern::Over);
            c.box(bar, {}, c.markColor(t.state), 1.2);
            c.vline(zero, y, y + 22, c.t.ink, 1);
            if (!sharp)
                c.vline(zero + unit, y + 2, y + 20, c.t.line, 1, Qt::DashLine);
            const Quantity d = q == Quantity::Temperature ? Quantity::TemperatureDifference : q;
            c.text({end - 6, y, 50, 22}, v.number(d, t.headroom), 12, Weight::Medium, c.t.ink,
                   Qt::AlignRight | Qt::AlignVCenter);
        }
        c.hline(r.left(), r.right(), y + 22, c.t.hair);
        c.hit(row, key,
              QObject::tr("Target %1, %2, %3").arg(qs(t.name), v.text(q, t.value), qs(core::markWord(t.state))));
        y += 22;
    }
    if (v.result().verdict.targets.empty())
        c.second({r.left(), y, r.width(), 22}, QObject::tr("No targets yet. Edit the brief to say what must hold."));
}

void partRows(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Parts"));
    const QRectF price(r.right() - 250, r.top(), 74, 20), mass(r.right() - 172, r.top(), 66, 20);
    c.washIfSelected(price, core::TotalRef{core::Total::Price});
    c.washIfSelected(mass, core::TotalRef{core::Total::Mass});
    c.text(price, v.text(Quantity::Money, e.price), 12, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    c.text(mass, v.text(Quantity::Mass, e.massG), 12, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    c.hit(price, core::TotalRef{core::Total::Price}, QObject::tr("Price of all parts"));
    c.hit(mass, core::TotalRef{core::Total::Mass}, QObject::tr("Mass of all parts"));
    c.second({r.left() + 40, r.top() + 26, 100, 20}, QObject::tr("part"));
    c.second({r.right() - 180, r.top() + 26, 90, 20}, qs(v.project().currency), Qt::AlignRight | Qt::AlignVCenter);
    c.second({r.right() - 80, r.top() + 26, 78, 20}, QObject::tr("W, direct"), Qt::AlignRight | Qt::AlignVCenter);
    struct Line {
        const core::Part* part;
        QString name;
        core::Thing thing;
        double watts;
    };
    std::vector<Line> lines{{e.build.casePart, qs(e.build.casePart->name), core::TotalRef{core::Total::Volume}, 0}};
    for (const core::Placed& p : e.build.placed)
        lines.push_back({p.part, qs(p.name), core::PartRef{p.mount}, p.powerW()});
    PaintedList list(c, QStringLiteral("parts"), r.adjusted(0, 48, 0, 0), lines.size(), 20);
    list.follow([&](std::size_t i) { return lines[i].thing; });
    list.paint([&](std::size_t i, const QRectF& place) {
        const auto& [partOf, name, key, watts] = lines[i];
        const core::Part& part = *partOf;
        const double y = place.top();
        c.washIfSelected({r.left(), y, r.width(), 20}, key);
        c.hatch({r.left() + 4, y + 4, 24, 12}, part.kind, part.kind == core::PartKind::Case ? c.t.ink : c.t.sheet,
                c.t.ink, 1);
        c.text({r.left() + 40, y, r.width() - 220, 20}, c.elided(name, r.width() - 224, 12.5), 12.5, Weight::Regular);
        c.text({r.right() - 180, y, 90, 20}, part.price > 0 ? qs(core::fixed(part.price, 0)) : QStringLiteral("–"),
               12.5, Weight::Regular, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({r.right() - 80, y, 78, 20}, watts > 0 ? digits(watts, 1) : QStringLiteral("–"), 12.5, Weight::SemiBold,
               c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.hline(r.left(), r.right(), y + 20, c.t.hair);
        c.hit(place, key, QObject::tr("Part %1").arg(name));
    });
}

void powerBar(Canvas& c, const QRectF& r, const View& v) {
    const auto& power = v.evaluation()->power;
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Power budget"),
              QObject::tr("held %1 direct, %2 at the wall")
                  .arg(v.text(Quantity::Power, power.drawW), v.text(Quantity::Power, power.wallW)));
    const double full = std::max({power.supplyW * 1.08, power.drawW * 1.08, 50.0});
    const double scale = (r.width() - 8) / full;
    double x = r.left();
    const double y = r.top() + 32;
    for (const auto& item : power.items) {
        const QRectF bar(x, y, item.watts * scale, 24);
        const core::Thing key = core::PartRef{item.mount};
        c.hatch(bar, item.kind, c.fillOf(key, c.t.sheet), c.t.ink, 1);
        const QString label = qs(item.name) + QLatin1Char(' ') + qs(core::fixed(item.watts, 0));
        if (c.width(label, 12, Weight::Medium) + 12 < bar.width())
            c.plate(bar.center(), label);
        c.hit(bar, key, QObject::tr("%1 draws %2").arg(qs(item.name), v.text(Quantity::Power, item.watts)));
        x += bar.width();
    }
    c.hline(x, r.left() + full * scale, y + 12, c.t.line, 1, Qt::DotLine);
    const double step = full > 700 ? 200 : full > 350 ? 100 : 50;
    for (double w = 0; w <= full; w += step) {
        c.vline(r.left() + w * scale, y + 24, y + 29, c.t.line);
        c.text({r.left() + w * scale - 30, y + 28, 60, 16},
               w == 0 ? QStringLiteral("0") : qs(core::fixed(w, 0)) + QStringLiteral(" W"), 11, Weight::Regular,
               c.t.ink2, Qt::AlignCenter);
    }
    if (power.supplyW > 0) {
        const double s = r.left() + power.supplyW * scale;
        c.vline(s, y - 4, y + 28, c.t.ink, 3);
        c.text({s - 200, y - 2, 194, 24},
               QObject::tr("supply %1, %2 % used")
                   .arg(v.text(Quantity::Power, power.supplyW), v.number(Quantity::Share, power.share)),
               12, Weight::Medium, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    }
    c.hit({r.left(), y - 4, r.width(), 30}, core::TotalRef{core::Total::Power}, QObject::tr("Power budget"));
}

} // namespace

double briefHeight(const View& v) {
    if (!v.evaluation())
        return 0;
    const double rows = std::max<double>(static_cast<double>(v.result().verdict.targets.size()) * 22 + 52, 220);
    const double parts =
        std::min(rows + 60, 48 + 20.0 * (static_cast<double>(v.evaluation()->build.placed.size()) + 1));
    return 90 + std::max(rows, parts) + 10 + 92 + portMapHeight(*v.evaluation());
}

void paintBrief(Canvas& c, const QRectF& r, const View& v) {
    stageHead(c, r, question::brief);
    const QRectF purpose(r.left(), r.top() + 32, r.width(), 44);
    c.box(purpose, c.t.sheet, c.t.line, 1);
    c.p.fillRect(QRectF(purpose.left(), purpose.top(), 4, purpose.height()), c.t.ink);
    const QString text = qs(v.project().brief.purpose);
    c.paragraph(purpose.adjusted(14, 5, -76, 0),
                text.isEmpty() ? QObject::tr("Nothing is said yet of what this computer is for. Press Edit, or Ctrl+B.")
                               : text,
                12.5, Weight::Medium, c.t.ink, 2);
    if (!v.evaluation()) {
        emptyStage(c, r.adjusted(0, 60, 0, 0),
                   v.project().revisions.empty()
                       ? QObject::tr(
                             "No parts yet. Add the case first, its inner size is what everything is measured against.")
                       : qs(v.result().problem));
        return;
    }
    const double half = (r.width() - 26) / 2, top = r.top() + 90;
    const double rows = std::max<double>(static_cast<double>(v.result().verdict.targets.size()) * 22 + 52, 220);
    const double partsHeight =
        std::min(rows + 60, 48 + 20.0 * (static_cast<double>(v.evaluation()->build.placed.size()) + 1));
    targetRows(c, {r.left(), top, half, rows}, v);
    partRows(c, {r.left() + half + 26, top, half, partsHeight}, v);
    const double below = top + std::max(rows, partsHeight) + 10;
    powerBar(c, {r.left(), below, r.width(), 80}, v);
    paintPortMap(c, {r.left(), below + 92, r.width(), r.bottom() - below - 92}, v);
}

} // namespace app
