// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_explore.h"

#include "core/base/text.h"

#include <cmath>

namespace app {
using core::Mark;
using core::Quantity;
using core::advise::Against;
using core::advise::Explored;
using core::advise::ExplorePoint;
using core::advise::School;

namespace {

constexpr double rowHeight = 22;

QString letterOf(std::size_t i) { return i < 26 ? QString(QChar(u'A' + char16_t(i))) : QString::number(i + 1); }

/// Thousands apart, so that a large count can be read.
QString grouped(std::size_t n) {
    QString text = QString::number(n);
    for (qsizetype at = text.size() - 3; at > 0; at -= 3)
        text.insert(at, QChar(0x202F));
    return text;
}

/// Kept with the whole band, broken with it, or open.
Mark markOfPoint(const ExplorePoint& p) {
    const double least = std::min(p.headroomK, p.hotHeadroomK);
    return !p.quietEnough || least < -p.bandK ? Mark::Crossed : least >= p.bandK ? Mark::Holds : Mark::Open;
}

QString wordsOf(const View& v, const std::vector<core::Change>& changes) {
    if (changes.empty())
        return QObject::tr("as it is");
    QStringList all;
    for (const core::Sentence& s :
         core::describe({.id = "trial", .parent = v.document.revision(), .changes = changes}, v.project()))
        all << v.words(s);
    return all.join(QStringLiteral(", "));
}

/// Where noise and headroom lie on the sheet.
struct Scatter {
    QRectF paper;
    double lowDb = 30, highDb = 45, lowK = -10, highK = 10;
    [[nodiscard]] QPointF at(double db, double k) const {
        return {paper.left() + (db - lowDb) / (highDb - lowDb) * paper.width(),
                paper.bottom() - (k - lowK) / (highK - lowK) * paper.height()};
    }
    [[nodiscard]] bool holds(const QPointF& p) const { return paper.adjusted(-1, -1, 1, 1).contains(p); }
};

Scatter scatterOf(const QRectF& paper, const Explored& found) {
    Scatter s{.paper = paper};
    double lowDb = found.now.noiseDba, highDb = lowDb, lowK = std::min(0.0, found.now.headroomK),
           highK = std::max(0.0, found.now.headroomK);
    for (const ExplorePoint& p : found.front) {
        lowDb = std::min(lowDb, p.noiseDba);
        highDb = std::max(highDb, p.noiseDba);
        lowK = std::min(lowK, p.headroomK);
        highK = std::max(highK, p.headroomK);
    }
    if (found.noiseCap > 0)
        highDb = std::max(highDb, found.noiseCap);
    const double padDb = std::max(1.0, 0.12 * (highDb - lowDb)), padK = std::max(1.0, 0.15 * (highK - lowK));
    s.lowDb = lowDb - padDb;
    s.highDb = highDb + 2 * padDb;
    s.lowK = lowK - padK;
    s.highK = highK + padK;
    return s;
}

void paintAxes(Canvas& c, const Scatter& s, const View& v, const Explored& found) {
    c.box(s.paper, c.t.paper, c.t.line, 1);
    const auto step = [](double span) {
        return span > 80 ? 20.0 : span > 40 ? 10.0 : span > 20 ? 5.0 : span > 8 ? 2.0 : 1.0;
    };
    for (double db = std::ceil(s.lowDb); db < s.highDb; db += 1)
        if (std::fmod(db, step(s.highDb - s.lowDb)) == 0) {
            const double x = s.at(db, 0).x();
            c.vline(x, s.paper.top(), s.paper.bottom(), c.t.hair);
            c.text({x - 25, s.paper.bottom() + 2, 50, 14}, v.number(Quantity::Level, db), 11, Weight::Regular, c.t.ink2,
                   Qt::AlignCenter);
        }
    for (double k = std::ceil(s.lowK); k < s.highK; k += 1)
        if (std::fmod(k, step(s.highK - s.lowK)) == 0) {
            const double y = s.at(0, k).y();
            c.hline(s.paper.left(), s.paper.right(), y, k == 0 ? c.t.ink : c.t.hair, k == 0 ? 1.4 : 1);
            c.text({s.paper.left() - 40, y - 8, 36, 16}, v.signedNumber(Quantity::TemperatureDifference, k), 11,
                   Weight::Regular, c.t.ink2, Qt::AlignRight | Qt::AlignVCenter);
        }
    if (found.noiseCap > 0) {
        const double x = s.at(found.noiseCap, 0).x();
        c.vline(x, s.paper.top(), s.paper.bottom(), c.t.ink, 1.6, Qt::DashLine);
        c.second({x + 4, s.paper.bottom() - 18, 80, 16},
                 QObject::tr("cap %1").arg(v.number(Quantity::Level, found.noiseCap)), Qt::AlignLeft | Qt::AlignVCenter,
                 11);
    }
    c.second({s.paper.left(), s.paper.bottom() + 16, s.paper.width(), 16},
             QObject::tr("noise at %1 m, dB(A)").arg(digits(v.project().brief.listenerM, 1)), Qt::AlignCenter, 11.5);
    c.second({s.paper.left() - 44, s.paper.top() - 20, s.paper.width(), 16},
             QObject::tr("part nearest to its cap, %1 under it").arg(v.unit(Quantity::TemperatureDifference)),
             Qt::AlignLeft | Qt::AlignVCenter, 11.5);
}

void paintScatter(Canvas& c, const QRectF& r, const View& v, const Explored& found, int chosen) {
    const Scatter s = scatterOf(r.adjusted(44, 26, -4, -36), found);
    paintAxes(c, s, v, found);
    // Where both caps are kept.
    const QPointF corner = s.at(found.noiseCap > 0 ? found.noiseCap : s.highDb, 0);
    const QRectF kept = QRectF(s.paper.topLeft(), corner).intersected(s.paper);
    QColor wash = c.t.ok;
    wash.setAlphaF(0.10F);
    c.p.fillRect(kept, wash);
    if (kept.width() > 60 && kept.height() > 24)
        c.text({kept.left() + 6, kept.top() + 3, kept.width() - 8, 16},
               QObject::tr("kept at %1").arg(v.text(Quantity::Temperature, found.roomC)), 11.5, Weight::SemiBold,
               c.t.ok, Qt::AlignLeft | Qt::AlignVCenter);
    c.p.save();
    c.p.setClipRect(s.paper);
    const std::size_t stride = std::max<std::size_t>(1, found.cloud.size() / 3000); // more dots are no more to be told
    c.p.setPen(Qt::NoPen);
    c.p.setBrush(c.t.line);
    for (std::size_t i = 0; i < found.cloud.size(); i += stride)
        c.p.drawRect(QRectF(s.at(found.cloud[i][0], found.cloud[i][1]) - QPointF(0.7, 0.7), QSizeF(1.4, 1.4)));
    // The front as a stair: what is not quieter than this is at most so cool.
    QPolygonF stair;
    for (const ExplorePoint& p : found.front) {
        const QPointF at = s.at(p.noiseDba, p.headroomK);
        if (!stair.isEmpty())
            stair << QPointF(at.x(), stair.last().y());
        stair << at;
    }
    c.p.setPen(QPen(c.t.ink, 1.6));
    c.p.setBrush(Qt::NoBrush);
    c.p.drawPolyline(stair);
    c.p.restore();
    for (std::size_t i = 0; i < found.front.size(); ++i) {
        const ExplorePoint& p = found.front[i];
        const QPointF at = s.at(p.noiseDba, p.headroomK);
        const bool is = static_cast<int>(i) == chosen;
        const double size = is ? 7 : 4.5;
        if (is) {
            c.p.setPen(QPen(c.t.medge, 1.4));
            const double up = s.at(0, p.headroomK + p.bandK).y(), down = s.at(0, p.headroomK - p.bandK).y();
            c.p.drawLine(QPointF(at.x(), std::max(up, s.paper.top())),
                         QPointF(at.x(), std::min(down, s.paper.bottom())));
        }
        c.p.setPen(QPen(is ? c.t.medge : c.t.ink, 1.4));
        c.p.setBrush(is ? c.t.marker : c.t.sheet);
        c.p.drawPolygon(
            QPolygonF{at + QPointF(0, -size), at + QPointF(size, 0), at + QPointF(0, size), at + QPointF(-size, 0)});
        if (found.front.size() <= 14 || is)
            c.text({at.x() - 22, at.y() - 19, 18, 14}, letterOf(i), 11.5, Weight::SemiBold, c.t.ink,
                   Qt::AlignRight | Qt::AlignVCenter);
        c.hit({at.x() - 8, at.y() - 8, 16, 16}, Handle{.act = Act::ChooseWay, .row = static_cast<int>(i)},
              QObject::tr("Way %1, %2, %3 under its cap")
                  .arg(letterOf(i), v.text(Quantity::Level, p.noiseDba),
                       v.text(Quantity::TemperatureDifference, p.headroomK)));
    }
    const QPointF now = s.at(found.now.noiseDba, found.now.headroomK);
    if (s.holds(now)) {
        c.p.setPen(QPen(c.t.ink, 1.4));
        c.p.setBrush(c.t.mdot);
        c.p.drawEllipse(now, 5, 5);
        c.plate(now + QPointF(24, 11), qs(v.document.revision()), 11.5, Weight::SemiBold);
    }
}

/// Each change of a way with what it does by itself, in the order in which one makes them; answers the height it took.
double paintSteps(Canvas& c, const QRectF& r, const View& v, const ExplorePoint& p) {
    if (p.steps.empty()) {
        c.second({r.left(), r.top(), r.width(), 18}, QObject::tr("Nothing changes: it is what is there."));
        return 18;
    }
    constexpr double line = 18;
    const double moneyX = r.right(), effortX = r.right() - 44, kX = r.right() - 106, dbX = r.right() - 156;
    const auto right = [&](double at, double y, const QString& words, bool head) {
        head ? c.second({at - 60, y, 60, line}, words, Qt::AlignRight | Qt::AlignVCenter, 11.5)
             : c.text({at - 60, y, 60, line}, words, 12, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    };
    double y = r.top();
    c.second({r.left(), y, 200, line}, QObject::tr("what changes, in this order"), Qt::AlignLeft | Qt::AlignVCenter,
             11.5);
    right(dbX, y, QObject::tr("dB"), true);
    right(kX, y, v.unit(Quantity::TemperatureDifference), true);
    right(effortX, y, QObject::tr("screws, min"), true);
    right(moneyX, y, qs(v.project().currency), true);
    y += line;
    const auto most = static_cast<std::size_t>(std::max(1.0, std::floor((r.bottom() - y) / line)));
    const std::size_t shown = p.steps.size() <= most ? p.steps.size() : most - 1;
    for (std::size_t i = 0; i < p.steps.size(); ++i) {
        const auto& step = p.steps[i];
        if (i == shown) { // what has no room is told together
            double db = 0, k = 0;
            for (std::size_t rest = i; rest < p.steps.size(); ++rest) {
                db += p.steps[rest].noiseDb;
                k += p.steps[rest].kelvin;
            }
            c.second({r.left(), y, dbX - 50 - r.left(), line}, QObject::tr("and %1 more").arg(p.steps.size() - shown));
            right(dbX, y, digits(db, 1, true), false);
            right(kX, y, v.signedNumber(Quantity::TemperatureDifference, k), false);
            y += line;
            break;
        }
        const double width = dbX - 42 - r.left();
        c.text({r.left(), y, width, line}, c.elided(wordsOf(v, step.changes), width, 12), 12, Weight::Regular);
        right(dbX, y, digits(step.noiseDb, 1, true), false);
        right(kX, y, v.signedNumber(Quantity::TemperatureDifference, step.kelvin), false);
        if (step.screws != 0 || std::abs(step.minutes) > 0.05)
            right(effortX, y, digits(step.screws, 0, true) + QStringLiteral(", ") + digits(step.minutes, 0, true),
                  false);
        if (std::abs(step.price) > 0.005)
            right(moneyX, y, digits(step.price, 0, true), false);
        c.hline(r.left(), r.right(), y + line, c.t.hair);
        c.hit({r.left(), y, r.width(), line}, Handle{}, wordsOf(v, step.changes));
        y += line;
    }
    return y - r.top();
}

void paintWays(Canvas& c, const QRectF& r, const View& v, const Explored& found, int chosen) {
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Best of them"),
              QObject::tr("against %1").arg(qs(v.document.revision())));
    double y = r.top() + 28;
    for (const auto& [x, word] :
         {std::pair{r.left() + 70, QObject::tr("dB(A)")},
          std::pair{r.left() + 122, QObject::tr("%1 under").arg(v.unit(Quantity::TemperatureDifference))}})
        c.second({x - 60, y, 60, 16}, word, Qt::AlignRight | Qt::AlignVCenter, 11.5);
    y += 18;
    const auto figures = [&](const ExplorePoint& p, double top) {
        c.text({r.left() + 24, top, 46, rowHeight}, v.number(Quantity::Level, p.noiseDba), 12.5, Weight::SemiBold,
               c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({r.left() + 76, top, 46, rowHeight}, v.signedNumber(Quantity::TemperatureDifference, p.headroomK), 12.5,
               Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.mark({r.left() + 132, top + rowHeight / 2 - 6}, markOfPoint(p));
    };
    const double textLeft = r.left() + 156, textWidth = r.right() - textLeft;
    const auto least = static_cast<std::size_t>(std::max(3.0, (r.bottom() - y - 210) / rowHeight));
    // The chosen one stands in the middle of those that have room.
    const auto wanted = static_cast<std::ptrdiff_t>(chosen) - static_cast<std::ptrdiff_t>(least / 2),
               last = static_cast<std::ptrdiff_t>(found.front.size()) - static_cast<std::ptrdiff_t>(least);
    const auto first =
        static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(wanted, 0, std::max<std::ptrdiff_t>(0, last)));
    for (std::size_t i = first; i < std::min(found.front.size(), first + least); ++i) {
        const ExplorePoint& p = found.front[i];
        const bool is = static_cast<int>(i) == chosen;
        const QRectF row(r.left(), y, r.width(), rowHeight);
        if (is)
            c.box(row, c.t.marker, c.t.medge, 1.6);
        c.text({r.left() + 4, y, 18, rowHeight}, letterOf(i), 12.5, Weight::SemiBold);
        figures(p, y);
        c.text({textLeft, y, textWidth, rowHeight}, c.elided(wordsOf(v, p.changes), textWidth, 12), 12,
               Weight::Regular);
        c.hline(r.left(), r.right(), y + rowHeight, c.t.hair);
        c.hit(row, Handle{.act = Act::ChooseWay, .row = static_cast<int>(i)},
              QObject::tr("Way %1: %2").arg(letterOf(i), wordsOf(v, p.changes)));
        y += rowHeight;
    }
    if (found.front.size() > least)
        c.second({r.left(), y, r.width(), 16},
                 QObject::tr("%1 of %2 shown; arrows go on").arg(least).arg(found.front.size()),
                 Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    y += 18;
    if (chosen < 0 || chosen >= static_cast<int>(found.front.size()))
        return c.second({r.left(), y, r.width(), 18}, QObject::tr("Choose one to see what it changes."));
    const ExplorePoint& p = found.front[static_cast<std::size_t>(chosen)];
    const double used = paintSteps(c, {r.left(), y, r.width(), r.bottom() - y - 46}, v, p);
    const core::Placed* part = v.evaluation()->build.at(p.part);
    QString nearest = QObject::tr("Nearest to its cap: %1, ±%2.")
                          .arg(part ? qs(part->name) : qs(p.part), v.text(Quantity::TemperatureDifference, p.bandK));
    if (found.hottestC > found.roomC)
        nearest += QObject::tr(" In the hottest room, %1: %2 %3.")
                       .arg(v.text(Quantity::Temperature, found.hottestC),
                            v.signedNumber(Quantity::TemperatureDifference, p.hotHeadroomK),
                            v.unit(Quantity::TemperatureDifference));
    c.second({r.left(), y + used + 2, r.width(), 16}, nearest, Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    const auto button = [&](const QRectF& place, const QString& words, Act act, bool filled, const QString& spoken) {
        c.box(place, filled ? c.t.ink : c.t.sheet, c.t.ink, 1);
        c.text(place, words, 12.5, Weight::SemiBold, filled ? c.t.paper : c.t.ink, Qt::AlignCenter);
        c.hit(place, Handle{.act = act, .of = {}, .row = chosen}, spoken);
    };
    button({r.right() - 290, r.bottom() - 24, 130, 24}, QObject::tr("Save fan curves"), Act::SaveCurves, false,
           QObject::tr("Save the fan curves of way %1, for the board's settings (Ctrl+E)")
               .arg(letterOf(static_cast<std::size_t>(chosen))));
    button({r.right() - 150, r.bottom() - 24, 150, 24}, QObject::tr("Open as a revision"), Act::OpenWay, true,
           QObject::tr("Make a new revision of way %1 (Enter)").arg(letterOf(static_cast<std::size_t>(chosen))));
}

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
    const double height = std::clamp((r.bottom() - y - 18) / static_cast<double>(all.size()), 17.0, rowHeight);
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

/// Every reading of every run against what the model says of it, as its sheets have it and as the runs taught it.
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
        words += QObject::tr(" Simulated: they say what their model was told.");
    c.paragraph({r.left(), paper.bottom() + 30, r.width(), r.bottom() - paper.bottom() - 28}, words, 11.5,
                Weight::Regular, c.t.ink, 5);
}

/// What is left open, each a word that is turned on and off.
void paintOpen(Canvas& c, const QRectF& r, const core::advise::ExploreRequest& request) {
    const std::array words{
        std::pair{QObject::tr("fans"), request.fans}, std::pair{QObject::tr("screens"), request.screens},
        std::pair{QObject::tr("panels"), request.panels}, std::pair{QObject::tr("places"), request.places},
        std::pair{QObject::tr("lying"), request.lying}};
    double x = r.right();
    for (std::size_t i = words.size(); i-- > 0;) {
        const auto& [word, on] = words[i];
        const double width = c.width(word, 12, on ? Weight::SemiBold : Weight::Regular);
        const QRectF place(x - width - 18, r.top() + 1, width + 18, 18);
        const QRectF tick(place.left(), place.center().y() - 5, 10, 10);
        c.box(tick, c.t.sheet, c.t.ink2, 1);
        if (on) {
            c.p.setPen(QPen(c.t.ink, 1.6));
            c.p.drawPolyline(QPolygonF{tick.topLeft() + QPointF(2, 5), tick.topLeft() + QPointF(4.4, 8),
                                       tick.topLeft() + QPointF(8.4, 2)});
        }
        c.text({tick.right() + 4, place.top(), width + 6, place.height()}, word, 12,
               on ? Weight::SemiBold : Weight::Regular, on ? c.t.ink : c.t.ink2, Qt::AlignLeft | Qt::AlignVCenter);
        c.hit(place, Handle{.act = Act::TurnOpen, .of = {}, .row = static_cast<int>(i)},
              (on ? QObject::tr("Left open: %1 (%2)") : QObject::tr("As it is: %1 (%2)"))
                  .arg(word, QString(QLatin1Char(openKeys[i]))));
        x = place.left() - 10;
    }
}

} // namespace

void paintExplore(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look) {
    const Explored& found = answered(look.explored);
    const bool pending = look.explored.standing == Standing::Pending;
    stageHead(c, r.adjusted(0, 0, -airHeadRoom, 0), question::air,
              pending ? QObject::tr("counting, %1 %").arg(look.percent)
                      : QObject::tr("%1 ways of %2 looked at, seed %3")
                            .arg(grouped(found.counted), grouped(found.possible))
                            .arg(found.seed));
    const double upper = std::clamp((r.height() - 40) * 0.52, 250.0, 420.0),
                 leftW = std::clamp(r.width() * 0.42, 280.0, 420.0);
    const QRectF left(r.left(), r.top() + 36, leftW, upper),
        right(left.right() + 22, left.top(), r.right() - left.right() - 22, upper);
    c.heading(left.left(), left.top(), left.width(), QObject::tr("Left open"));
    paintOpen(c, left, look.request);
    const QString save = QObject::tr("Save ...");
    const QRectF saves(left.right() - c.width(save, 12) - 4, left.top() + 26, c.width(save, 12) + 4, 16);
    c.second(saves, save);
    c.hit(saves, Handle{.act = Act::SaveSheet, .of = {}}, QObject::tr("Save what is shown as SVG or CSV (Ctrl+T)"));
    if (found.front.empty() && found.counted == 0) {
        const QString words = pending ? QObject::tr("Every fan in, out, absent, slim or thick at five speeds, screens "
                                                    "on and off, standing and lying: "
                                                    "all of it is being solved. It takes some seconds.")
                                      : QObject::tr("Nothing is left open: no fan place and no vent.");
        c.paragraph(left.adjusted(0, 30, 0, 0), words, 12.5, Weight::Regular, c.t.ink2);
    } else {
        paintScatter(c, left.adjusted(0, 26, 0, 0), v, found, look.chosen);
        paintWays(c, right, v, found, look.chosen);
    }
    const QRectF below(r.left(), left.bottom() + 14, r.width(), r.bottom() - left.bottom() - 14);
    const double taughtW = std::clamp(r.width() * 0.27, 190.0, 260.0);
    paintSchools(c, below.adjusted(0, 0, -taughtW - 26, 0), v, look);
    c.vline(below.right() - taughtW - 13, below.top(), below.bottom(), c.t.line);
    paintTaught(c, {below.right() - taughtW, below.top(), taughtW, below.height()}, v, look);
}

} // namespace app
