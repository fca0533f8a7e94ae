// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_look.h"
#include "core/air/predict.h"
#include "core/base/text.h"
#include "core/verdict/marks.h"

#include <cmath>

namespace app {
using core::PartKind;
using core::Quantity;

namespace {

/// Parts in the order of the warm-up, with their names and dashes that tell them apart without colour.
struct WarmLine {
    std::size_t part = 0;
    std::string id;
    QString name;
    double settledC = 0, withinS = -1;
    Qt::PenStyle dash = Qt::SolidLine;
};

std::vector<WarmLine> linesOf(const View& v, const results::WarmUp& warm) {
    const auto& e = *v.evaluation();
    const auto& net = e.air.solved->compiled.network;
    constexpr std::array dashes{Qt::SolidLine, Qt::DashLine, Qt::DashDotLine, Qt::DotLine, Qt::DashDotDotLine};
    std::vector<WarmLine> lines;
    const auto add = [&](std::size_t part, const std::string& id, const std::string& name, double settled) {
        lines.push_back({part, id, qs(name), settled, part < warm.withinS.size() ? warm.withinS[part] : -1,
                         dashes[lines.size() % dashes.size()]});
    };
    const auto& s = e.air.solved->solution;
    for (std::size_t i = 0; i < net.parts.size(); ++i)
        add(i, net.parts[i].id, net.parts[i].name, s.parts[i].temperatureC);
    for (std::size_t i = 0; i < net.passive.size(); ++i)
        add(net.parts.size() + i, net.passive[i].id, net.passive[i].name, s.passiveC[i]);
    return lines;
}

/// Figures beside the pointer, on the side that has room.
void paintPointed(Canvas& c, const QRectF& paper, double x, const QStringList& lines) {
    double width = 0;
    for (const QString& line : lines)
        width = std::max(width, c.width(line, 11.5));
    const QSizeF size(width + 12, 16.0 * static_cast<double>(lines.size()) + 6);
    const bool left = x + 10 + size.width() > paper.right();
    const QRectF plate(QPointF(left ? x - 10 - size.width() : x + 10, paper.top() + 4), size);
    c.box(plate, c.t.sheet, c.t.ink2, 1);
    for (qsizetype i = 0; i < lines.size(); ++i)
        c.text({plate.left() + 6, plate.top() + 3 + 16.0 * static_cast<double>(i), width + 2, 16}, lines[i], 11.5,
               i == 0 ? Weight::SemiBold : Weight::Regular, c.t.ink);
}

void paintHour(Canvas& c, const QRectF& r, const View& v, const results::WarmUp& warm, const AirLook& look,
               const std::vector<WarmLine>& lines) {
    c.heading(r.left(), r.top(), r.width(), QObject::tr("An hour of it"),
              QObject::tr("%1 over minutes").arg(v.unit(Quantity::Temperature)));
    double low = v.evaluation()->air.conditions.roomC, high = low + 10;
    for (const WarmLine& line : lines)
        for (std::size_t row = 0; row < warm.rows.size(); ++row)
            high = std::max(high, warm.partC(row, line.part));
    low = std::floor(low / 10) * 10;
    high = std::ceil(high / 10 + 0.1) * 10;
    const QRectF paper(r.left() + 34, r.top() + 30, r.width() - 34 - 150, r.height() - 52);
    const double lastS = warm.rows.back().seconds;
    const auto at = [&](double seconds, double celsius) {
        return QPointF(paper.left() + paper.width() * seconds / lastS,
                       paper.bottom() - (celsius - low) / (high - low) * paper.height());
    };
    c.box(paper, c.t.paper, c.t.line, 1);
    const double stepC = high - low > 60 ? 20 : 10;
    for (double t = low + stepC; t < high; t += stepC) {
        c.hline(paper.left(), paper.right(), at(0, t).y(), c.t.hair);
        c.text({paper.left() - 36, at(0, t).y() - 8, 32, 16},
               qs(core::fixed(v.show.value(Quantity::Temperature, t), 0)), 11, Weight::Regular, c.t.ink2,
               Qt::AlignRight | Qt::AlignVCenter);
    }
    for (double minute = 0; minute <= lastS / 60 + 0.01; minute += 10) {
        c.vline(at(minute * 60, low).x(), paper.top(), paper.bottom(), c.t.hair);
        c.text({at(minute * 60, low).x() - 20, paper.bottom() + 2, 40, 14}, digits(minute, 0), 11, Weight::Regular,
               c.t.ink2, Qt::AlignCenter);
    }
    // Names stand at the ends of their curves, apart from each other.
    std::vector<std::pair<double, const WarmLine*>> ends;
    for (const WarmLine& line : lines) {
        QPolygonF curve;
        for (std::size_t row = 0; row < warm.rows.size(); ++row)
            curve << at(warm.rows[row].seconds, warm.partC(row, line.part));
        const bool chosen = c.isSelected(core::PartRef{line.id});
        c.p.setBrush(Qt::NoBrush);
        if (chosen) {
            c.p.setPen(QPen(c.t.marker, 5));
            c.p.drawPolyline(curve);
        }
        c.p.setPen(QPen(c.t.ink, chosen ? 2 : 1.4, line.dash));
        c.p.drawPolyline(curve);
        ends.emplace_back(curve.back().y(), &line);
    }
    std::sort(ends.begin(), ends.end());
    double y = paper.top() - 8;
    const double room = paper.bottom() + 8 - 16.0 * static_cast<double>(ends.size());
    for (std::size_t i = 0; i < ends.size(); ++i) {
        y = std::clamp(ends[i].first - 8, y, std::max(y, room + 16.0 * static_cast<double>(i)));
        const QRectF label(paper.right() + 8, y, 142, 16);
        c.p.setPen(QPen(c.t.ink2, 1, ends[i].second->dash));
        c.p.drawLine(QPointF(paper.right(), ends[i].first), QPointF(label.left() - 2, label.center().y()));
        c.text(label, c.elided(ends[i].second->name, label.width(), 12), 12, Weight::Regular);
        c.hit(label, core::PartRef{ends[i].second->id}, QObject::tr("Part %1").arg(ends[i].second->name));
        y += 16;
    }
    if (look.pointed && *look.pointed < warm.rows.size()) {
        const std::size_t row = *look.pointed;
        const double x = at(warm.rows[row].seconds, low).x();
        c.vline(x, paper.top(), paper.bottom(), c.t.ink2, 1, Qt::DashLine);
        QStringList all{QObject::tr("%1 min").arg(digits(warm.rows[row].seconds / 60, 1))};
        for (const WarmLine& line : lines)
            all << QStringLiteral("%1 %2").arg(line.name, v.text(Quantity::Temperature, warm.partC(row, line.part)));
        paintPointed(c, paper, x, all);
    }
    const double now = at(warm.rows[std::min(look.row, warm.rows.size() - 1)].seconds, low).x();
    c.vline(now, paper.top() - 4, paper.bottom() + 2, c.t.medge, 2);
    c.p.setPen(QPen(c.t.medge, 1));
    c.p.setBrush(c.t.marker);
    c.p.drawPolygon(QPolygonF{{now, paper.top() + 2}, {now - 6, paper.top() - 8}, {now + 6, paper.top() - 8}});
    c.hit(paper, Handle{.act = Act::SetMoment, .of = {}, .row = static_cast<int>(warm.rows.size())},
          QObject::tr("The moment that is shown (left and right arrow; Space plays)"));
}

void paintMoment(Canvas& c, const QRectF& r, const View& v, const results::WarmUp& warm, std::size_t row,
                 const std::vector<WarmLine>& lines) {
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Parts at that moment"), v.unit(Quantity::Temperature));
    const double right = r.right() - 14;
    PaintedList list(c, QStringLiteral("warming"), r.adjusted(0, 26, 0, 0), lines.size(), 22,
                     {{QObject::tr("part"), r.left(), right - 176},
                      {QObject::tr("now"), right - 170, right - 122, Qt::AlignRight},
                      {QObject::tr("settled"), right - 118, right - 64, Qt::AlignRight},
                      {QObject::tr("there after"), right - 62, right, Qt::AlignRight}});
    list.sort([&](std::size_t i, int column) -> SortKey {
        return column == 0   ? SortKey(lines[i].name)
               : column == 1 ? SortKey(warm.partC(row, lines[i].part))
               : column == 2 ? SortKey(lines[i].settledC)
                             : SortKey(lines[i].withinS < 0 ? 1e9 : lines[i].withinS);
    });
    list.follow([&](std::size_t i) { return core::Thing(core::PartRef{lines[i].id}); });
    list.paint([&](std::size_t i, const QRectF& place) {
        const WarmLine& line = lines[i];
        const core::Thing thing = core::PartRef{line.id};
        const double y = place.top(), h = place.height();
        c.washIfSelected(place, thing);
        c.text({r.left(), y, right - 176 - r.left(), h}, c.elided(line.name, right - 176 - r.left(), 12.5), 12.5,
               Weight::Regular);
        const auto figure = [&](double at, double width, const QString& words, Weight weight) {
            c.text({at - width, y, width, h}, words, 12.5, weight, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        };
        figure(right - 122, 48, v.number(Quantity::Temperature, warm.partC(row, line.part)), Weight::SemiBold);
        figure(right - 64, 54, v.number(Quantity::Temperature, line.settledC), Weight::Regular);
        figure(right, 62,
               line.withinS < 0 ? QObject::tr("over 60 min") : QObject::tr("%1 min").arg(digits(line.withinS / 60, 1)),
               Weight::Regular);
        c.hline(place.left(), place.right(), place.bottom(), c.t.hair);
        c.hit(place, thing,
              QObject::tr("%1, %2").arg(line.name, v.text(Quantity::Temperature, warm.partC(row, line.part))));
    });
}

/// Speeds of the fans at that moment, as they follow their parts.
void paintFansThen(Canvas& c, const QRectF& r, const View& v, const core::air::Prediction& then) {
    const auto& e = *v.evaluation();
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Fans at that moment"), v.unit(Quantity::Speed));
    const double right = r.right() - 14;
    PaintedList list(c, QStringLiteral("fans warming"), r.adjusted(0, 26, 0, 0), then.fans.size(), 20,
                     {{QObject::tr("fan"), r.left(), right - 176},
                      {QObject::tr("now"), right - 170, right - 122, Qt::AlignRight},
                      {QObject::tr("settled"), right - 118, right - 64, Qt::AlignRight}});
    list.sort([&](std::size_t i, int column) -> SortKey {
        return column == 0 ? SortKey(qs(then.fans[i].name))
                           : SortKey(column == 1 || i >= e.air.fans.size() ? then.fans[i].rpm : e.air.fans[i].rpm);
    });
    list.paint([&](std::size_t i, const QRectF& place) {
        const auto& fan = then.fans[i];
        const double settled = i < e.air.fans.size() ? e.air.fans[i].rpm : fan.rpm;
        c.text({r.left(), place.top(), r.width() - 140, place.height()}, c.elided(qs(fan.name), r.width() - 144, 12.5),
               12.5, Weight::Regular);
        c.text({right - 170, place.top(), 48, place.height()}, v.number(Quantity::Speed, fan.rpm), 12.5,
               Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({right - 118, place.top(), 54, place.height()}, v.number(Quantity::Speed, settled), 12.5,
               Weight::Regular, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.hline(place.left(), place.right(), place.bottom(), c.t.hair);
        c.hit(place, core::FanRef{fan.id},
              QObject::tr("Fan %1, %2").arg(qs(fan.name), v.text(Quantity::Speed, fan.rpm)));
    });
}

/// Peaks above what a part can hold, where its sheet states one.
double paintPeaks(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    double y = r.top();
    for (const core::air::Peak& peak : e.air.peaks) {
        const core::Placed* p = e.build.at(peak.id);
        const QString held =
            peak.heldS >= peak.seconds
                ? QObject::tr("held for all of its %1 s").arg(digits(peak.seconds, 0))
                : QObject::tr("held back after %1 of %2 s").arg(digits(peak.heldS, 0), digits(peak.seconds, 0));
        QString words = QObject::tr("Peak of %1: %2, %3, up to %4")
                            .arg(p ? qs(p->name) : qs(peak.id), v.text(Quantity::Power, peak.watts), held,
                                 v.text(Quantity::Temperature, peak.hottestC));
        if (peak.clockMhz > 0)
            words += QObject::tr(" at %1").arg(v.text(Quantity::Clock, peak.clockMhz));
        y += c.paragraph({r.left(), y, r.width(), 48}, words, 12, Weight::Regular, c.t.ink, 3) + 4;
    }
    if (e.air.peaks.empty())
        y += c.paragraph({r.left(), y, r.width(), 34},
                         QObject::tr("No peak power above the held one is stated of any part."), 12, Weight::Regular,
                         c.t.ink2, 2);
    return y - r.top();
}

} // namespace

void paintWarmUp(Canvas& c, const QRectF& r, const View& v, const AirLook& look) {
    const auto& e = *v.evaluation();
    static const results::WarmUp none;
    const results::WarmUp& there = answered(look.warmUp);
    const results::WarmUp& warm = there.of == e.air.solved ? there : none; // of before an edit its states mean nothing
    const std::size_t row = warm.rows.empty() ? 0 : std::min(look.row, warm.rows.size() - 1);
    stageHead(c, r.adjusted(0, 0, -airHeadRoom, 0), question::air,
              warm.rows.empty() ? QObject::tr("being played ...")
                                : QObject::tr("%1 min after idling").arg(digits(warm.rows[row].seconds / 60, 1)));
    if (warm.rows.empty())
        return void(c.paragraph(r.adjusted(0, 40, 0, 0),
                                QObject::tr("An hour of the load is being played from idle, second by second."), 12.5,
                                Weight::Regular, c.t.ink2));
    const std::vector<WarmLine> lines = linesOf(v, warm);
    const double below = std::clamp(r.height() * 0.36, 190.0, 300.0),
                 rightW = std::clamp(r.width() * 0.40, 300.0, 380.0);
    const QRectF left(r.left(), r.top() + 32, r.width() - rightW - 26, r.height() - 32 - below - 10);
    const QRectF right(r.right() - rightW, left.top(), rightW, left.height());
    paintSights(c, {left.left(), left.top(), left.width(), 20}, v, look);
    const core::air::Prediction then =
        core::air::summarise(e.build, e.air.conditions, e.air.solved->compiled, warm.rows[row].state);
    SideView s = sideViewIn(left.adjusted(0, 22, 0, 0), e.build, look.sight);
    s.air = &then;
    paintAirSection(c, s, v);
    c.vline(left.right() + 13, left.top(), left.bottom(), c.t.line);
    const double peaks = e.air.peaks.empty() ? 24 : 56;
    const double parts = std::min(right.height() - peaks - 134, 54 + 22.0 * static_cast<double>(lines.size()));
    paintMoment(c, {right.left(), right.top(), right.width(), parts}, v, warm, row, lines);
    paintFansThen(c, {right.left(), right.top() + parts + 8, right.width(), right.height() - parts - peaks - 16}, v,
                  then);
    paintPeaks(c, {right.left(), right.bottom() - peaks, right.width(), peaks}, v);
    paintHour(c, {r.left(), r.bottom() - below, r.width(), below}, v, warm, look, lines);
}

} // namespace app
