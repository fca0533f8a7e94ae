// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_explore.h"

#include "core/base/text.h"

#include <cmath>

namespace app {
using core::Mark;
using core::Quantity;
using core::advise::Against;
using core::advise::School;

namespace {
QString differenceWords(const View& v, const std::optional<core::air::Difference>& d) {
    return d ? v.signedNumber(Quantity::TemperatureDifference, d->kelvin) + QStringLiteral(" ±") +
                   v.number(Quantity::TemperatureDifference, d->bandK)
             : QString();
}

void paintSchool(Canvas& c, const QRectF& row, const View& v, const School& s, const std::array<double, 7>& x) {
    const auto right = [&](double at, const QString& words, Weight weight = Weight::Regular) {
        c.text({at - 110, row.top(), 110, row.height()}, words, 12, weight, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    };
    const double room = x[1] - x[0] - 54;
    c.text({x[0], row.top(), room, row.height()}, c.elided(v.words(s.name), room, 12.5), 12.5, Weight::Regular);
    if (s.against == Against::DoesNotGoIn) {
        c.mark({row.right() - 14, row.center().y() - 6}, Mark::Crossed);
        const double from = x[0] + 62, width = row.right() - from - 20;
        return c.second({from, row.top(), width, row.height()},
                        c.elided(QObject::tr("does not go in: %1").arg(v.words(s.why)), width, 12));
    }
    right(x[1], v.number(Quantity::Flow, s.inM3h) + QStringLiteral(", ") + v.number(Quantity::Flow, s.outM3h));
    const bool now = s.against == Against::Now;
    const auto bold = [](const std::optional<core::air::Difference>& d) {
        return d && std::abs(d->kelvin) > std::max(d->bandK, core::facts::toldApart.value) ? Weight::SemiBold
                                                                                           : Weight::Regular;
    };
    right(x[2],
          now ? (s.processorC ? v.text(Quantity::Temperature, *s.processorC) : QString())
              : differenceWords(v, s.processor),
          bold(s.processor));
    right(x[3], now ? (s.cardC ? v.text(Quantity::Temperature, *s.cardC) : QString()) : differenceWords(v, s.card),
          bold(s.card));
    right(x[4], now ? QString() : digits(s.noiseDb, 1, true));
    right(x[5], v.number(Quantity::Share, s.unfilteredShare) + QStringLiteral(" %"));
    right(x[6], now || std::abs(s.price) < 0.005 ? QString() : digits(s.price, 0, true));
    right(row.right(), v.words(core::term(core::advise::againstWord(s.against))),
          s.against == Against::Better || s.against == Against::Worse ? Weight::SemiBold : Weight::Regular);
    c.hit(row, Handle{},
          QObject::tr("%1: %2, %3")
              .arg(v.words(s.question), v.words(s.name), v.words(core::term(core::advise::againstWord(s.against)))));
}

} // namespace

void paintSchools(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look) {
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Where builders disagree, side by side"),
              QObject::tr("differences to %1, with their bands").arg(qs(v.document.revision())));
    const auto& all = answered(look.schools);
    if (all.empty())
        return c.second({r.left(), r.top() + 28, r.width(), 20},
                        look.schools.standing == Standing::Pending
                            ? QObject::tr("being worked out ...")
                            : QObject::tr("No fan in a panel and no open vent: nothing to compare."));
    const double w = r.width() - 66; // the word at the end
    const std::array<double, 7> x{r.left() + 80,        r.left() + w * 0.42, r.left() + w * 0.60, r.left() + w * 0.78,
                                  r.left() + w * 0.855, r.left() + w * 0.94, r.left() + w};
    const std::array<QString, 6> heads{QObject::tr("in, out %1").arg(v.unit(Quantity::Flow)),
                                       QObject::tr("CPU, %1").arg(v.unit(Quantity::TemperatureDifference)),
                                       QObject::tr("card, %1").arg(v.unit(Quantity::TemperatureDifference)),
                                       QObject::tr("dB(A)"),
                                       QObject::tr("bare"),
                                       qs(v.project().currency)};
    for (std::size_t i = 0; i < heads.size(); ++i)
        c.second({x[i + 1] - 110, r.top() + 24, 110, 16}, heads[i], Qt::AlignRight | Qt::AlignVCenter, 11.5);
    double y = r.top() + 42;
    const double height = std::clamp((r.bottom() - y - 18) / static_cast<double>(all.size()), 17.0, exploreRow);
    QString last;
    std::size_t shown = 0;
    for (const School& s : all) {
        if (y + height > r.bottom() - 14)
            break;
        const QString question = v.words(s.question);
        c.hline(r.left(), r.right(), y, question != last ? c.t.line : c.t.hair);
        if (question != last)
            c.text({r.left(), y, 72, height}, question, 12.5, Weight::SemiBold);
        last = question;
        paintSchool(c, {r.left(), y, r.width(), height}, v, s, x);
        y += height;
        ++shown;
    }
    c.second(
        {r.left(), y + 1, r.width(), 16},
        shown < all.size()
            ? QObject::tr("%1 of %2 shown: make the window taller for the rest.").arg(shown).arg(all.size())
            : QObject::tr(
                  "Better or worse: a temperature differs by more than its band. Bare: of the intake, past no screen."),
        Qt::AlignLeft | Qt::AlignVCenter, 11.5);
}

void paintTaught(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look) {
    const results::Taught& taught = answered(look.taught);
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Predicted, measured"), v.unit(Quantity::Temperature));
    const auto& all = taught.calibration.compared;
    if (all.empty())
        return void(c.paragraph(r.adjusted(0, 28, 0, 0),
                                look.taught.standing == Standing::Pending
                                    ? QObject::tr("being worked out ...")
                                    : QObject::tr("No settled run yet: the bands are those of the sheets."),
                                12, Weight::Regular, c.t.ink2));
    double low = 1e9, high = -1e9;
    for (const auto& p : all)
        for (const double t : {p.measuredC, p.beforeC, p.afterC}) {
            low = std::min(low, t);
            high = std::max(high, t);
        }
    low = std::floor(low / 5 - 0.2) * 5;
    high = std::ceil(high / 5 + 0.2) * 5;
    const double side = std::min(r.width() - 34, r.height() - 118);
    const QRectF paper(r.left() + 32, r.top() + 30, side, side);
    const auto at = [&](double measured, double predicted) {
        return QPointF(paper.left() + (measured - low) / (high - low) * side,
                       paper.bottom() - (predicted - low) / (high - low) * side);
    };
    c.box(paper, c.t.paper, c.t.line, 1);
    for (double t = low + 5; t<high; t += high - low> 30 ? 10 : 5) {
        c.vline(at(t, 0).x(), paper.top(), paper.bottom(), c.t.hair);
        c.hline(paper.left(), paper.right(), at(0, t).y(), c.t.hair);
        const QString words = qs(core::fixed(v.show.value(Quantity::Temperature, t), 0));
        c.text({at(t, 0).x() - 20, paper.bottom() + 1, 40, 14}, words, 11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
        c.text({paper.left() - 34, at(0, t).y() - 8, 30, 16}, words, 11, Weight::Regular, c.t.ink2,
               Qt::AlignRight | Qt::AlignVCenter);
    }
    c.p.setPen(QPen(c.t.ink, 1.2));
    c.p.drawLine(at(low, low), at(high, high));
    int inside = 0;
    const core::stages::Evaluation& e = *v.evaluation();
    for (const auto& p : all) {
        const QPointF before = at(p.measuredC, p.beforeC), after = at(p.measuredC, p.afterC);
        c.p.setPen(QPen(c.t.ink2, 1));
        c.p.setBrush(Qt::NoBrush);
        c.p.drawEllipse(before, 2.4, 2.4);
        c.p.drawLine(before, after);
        const bool here = p.revision == v.document.revision();
        c.p.setPen(QPen(c.t.ink, 1));
        c.p.setBrush(here ? c.t.mdot : c.t.ink);
        const core::Placed* part = e.build.at(p.mount);
        if (part && part->part->kind == core::PartKind::Card)
            c.p.drawRect(QRectF(after - QPointF(3, 3), QSizeF(6, 6)));
        else if (part && part->part->kind == core::PartKind::Processor)
            c.p.drawEllipse(after, 3.2, 3.2);
        else
            c.p.drawPolygon(QPolygonF{after + QPointF(0, -4), after + QPointF(4, 3), after + QPointF(-4, 3)});
        inside += std::abs(p.beforeC - p.measuredC) <= p.bandBeforeK ? 1 : 0;
    }
    c.second({paper.left(), paper.bottom() + 14, side, 14}, QObject::tr("measured"), Qt::AlignCenter, 11.5);
    QString words = QObject::tr("%1 runs: off by %2 before, %3 after learning; %4 of %5 in their bands.")
                        .arg(taught.runs)
                        .arg(v.text(Quantity::TemperatureDifference, taught.calibration.rmsBeforeK),
                             v.text(Quantity::TemperatureDifference, taught.calibration.rmsAfterK))
                        .arg(inside)
                        .arg(all.size());
    for (const std::string& run : taught.calibration.contradicting)
        words += QObject::tr(" %1 contradicts what is described: left out.").arg(qs(run));
    words += QObject::tr(" Round: processor, square: card, else a drive.");
    if (v.project().simulation)
        words += QObject::tr(" Simulated: a machine that was played, not one that was built.");
    c.paragraph({r.left(), paper.bottom() + 30, r.width(), r.bottom() - paper.bottom() - 28}, words, 11.5,
                Weight::Regular, c.t.ink, 5);
}

} // namespace app
