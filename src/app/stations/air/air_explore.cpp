// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_explore.h"

#include "core/base/text.h"

#include <cmath>

namespace app {
using core::Mark;
using core::Quantity;
using core::advise::Explored;
using core::advise::ExplorePoint;

namespace {

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
            c.text({at.x() - 22, at.y() - 19, 18, 14}, wayLetter(i), 11.5, Weight::SemiBold, c.t.ink,
                   Qt::AlignRight | Qt::AlignVCenter);
        c.hit({at.x() - 8, at.y() - 8, 16, 16}, Handle{.act = Act::ChooseWay, .row = static_cast<int>(i)},
              QObject::tr("Way %1, %2, %3 under its cap")
                  .arg(wayLetter(i), v.text(Quantity::Level, p.noiseDba),
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
        c.text({r.left() + 24, top, 46, exploreRow}, v.number(Quantity::Level, p.noiseDba), 12.5, Weight::SemiBold,
               c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({r.left() + 76, top, 46, exploreRow}, v.signedNumber(Quantity::TemperatureDifference, p.headroomK), 12.5,
               Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.mark({r.left() + 132, top + exploreRow / 2 - 6}, markOfPoint(p));
    };
    const double textLeft = r.left() + 156, textWidth = r.right() - textLeft;
    const auto least = static_cast<std::size_t>(std::max(3.0, (r.bottom() - y - 192) / exploreRow));
    // The chosen one stands in the middle of those that have room.
    const auto wanted = static_cast<std::ptrdiff_t>(chosen) - static_cast<std::ptrdiff_t>(least / 2),
               last = static_cast<std::ptrdiff_t>(found.front.size()) - static_cast<std::ptrdiff_t>(least);
    const auto first =
        static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(wanted, 0, std::max<std::ptrdiff_t>(0, last)));
    for (std::size_t i = first; i < std::min(found.front.size(), first + least); ++i) {
        const ExplorePoint& p = found.front[i];
        const bool is = static_cast<int>(i) == chosen;
        const QRectF row(r.left(), y, r.width(), exploreRow);
        if (is)
            c.box(row, c.t.marker, c.t.medge, 1.6);
        c.text({r.left() + 4, y, 18, exploreRow}, wayLetter(i), 12.5, Weight::SemiBold);
        figures(p, y);
        c.text({textLeft, y, textWidth, exploreRow}, c.elided(wordsOf(v, p.changes), textWidth, 12), 12,
               Weight::Regular);
        c.hline(r.left(), r.right(), y + exploreRow, c.t.hair);
        c.hit(row, Handle{.act = Act::ChooseWay, .row = static_cast<int>(i)},
              QObject::tr("Way %1: %2").arg(wayLetter(i), wordsOf(v, p.changes)));
        y += exploreRow;
    }
    if (found.front.size() > least)
        c.second({r.left(), y, r.width(), 16},
                 QObject::tr("%1 of %2 shown; arrows go on, Space draws it").arg(least).arg(found.front.size()),
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
    if (r.width() >= 420)
        button({r.right() - 418, r.bottom() - 24, 118, 24}, QObject::tr("Draw it"), Act::DrawWay, false,
               QObject::tr("Draw way %1 over what is there (Space)").arg(wayLetter(static_cast<std::size_t>(chosen))));
    button({r.right() - 290, r.bottom() - 24, 130, 24}, QObject::tr("Save fan curves"), Act::SaveCurves, false,
           QObject::tr("Save the fan curves of way %1, for the board's settings (Ctrl+E)")
               .arg(wayLetter(static_cast<std::size_t>(chosen))));
    button({r.right() - 150, r.bottom() - 24, 150, 24}, QObject::tr("Open as a revision"), Act::OpenWay, true,
           QObject::tr("Make a new revision of way %1 (Enter)").arg(wayLetter(static_cast<std::size_t>(chosen))));
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

QString wayLetter(std::size_t i) { return i < 26 ? QString(QChar(u'A' + char16_t(i))) : QString::number(i + 1); }

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

void paintExplore(Canvas& c, const QRectF& r, const View& v, const ExploreLook& look) {
    const Explored& found = answered(look.explored);
    const bool pending = look.explored.standing == Standing::Pending;
    stageHead(c, r.adjusted(0, 0, -airHeadRoom, 0), question::air,
              pending ? QObject::tr("counting, %1 %").arg(look.percent)
                      : QObject::tr("%1 ways of %2 looked at, seed %3")
                            .arg(grouped(found.counted), grouped(found.possible))
                            .arg(found.seed));
    const double upper = std::clamp((r.height() - 40) * 0.54, 250.0, 420.0),
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
                              : look.explored.standing == Standing::Failed
                                  ? qs(look.explored.why)
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
