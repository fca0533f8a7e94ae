// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/air/air_explore.h"
#include "app/stations/air/air_section.h"
#include "core/verdict/marks.h"

#include "core/base/text.h"

#include <cmath>

namespace app {
using core::Mark;
using core::PartKind;
using core::Quantity;

namespace {

constexpr double airFanRow = 26, airNoiseRow = 20;

void paintScale(Canvas& c, const QRectF& r, const View& v) {
    const auto& air = v.evaluation()->air;
    const double room = air.conditions.roomC;
    c.second({r.left(), r.top(), 60, 14}, QObject::tr("air, %1").arg(v.unit(Quantity::Temperature)),
             Qt::AlignLeft | Qt::AlignVCenter, 11);
    const QRectF bar(r.left() + 64, r.top() + 3, r.width() - 74, 8);
    for (int i = 0; i < 128; ++i)
        c.p.fillRect(QRectF(bar.left() + bar.width() * i / 128, bar.top(), bar.width() / 128 + 1, 8),
                     c.t.tintOf(18.0 * i / 127));
    c.box(bar, {}, c.t.ink, 1);
    for (int k = 0; k <= 18; k += 3)
        c.text({bar.left() + bar.width() * k / 18 - 25, bar.bottom() + 1, 50, 14},
               qs(core::fixed(v.show.value(Quantity::Temperature, room + k), 0)), 11, Weight::Regular, c.t.ink2,
               Qt::AlignCenter);
    for (const auto& ch : air.chambers) {
        const double x = bar.left() + bar.width() * std::clamp((ch.airC - room) / 18, 0.0, 1.0);
        c.p.setPen(Qt::NoPen);
        c.p.setBrush(c.t.ink);
        c.p.drawPolygon(QPolygonF{{x, bar.top() - 1}, {x - 4, bar.top() - 7}, {x + 4, bar.top() - 7}});
    }
}

void paintStrips(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Fans"));
    const double rpmX = r.right() - 190, flowX = r.right() - 120, dbX = r.right() - 66;
    for (const auto& [x, word] : {std::pair{rpmX, QObject::tr("rpm")}, std::pair{flowX, v.unit(Quantity::Flow)},
                                  std::pair{dbX, QObject::tr("dB(A)")}, std::pair{r.right(), QObject::tr("driven by")}})
        c.second({x - 80, r.top(), 80, 20}, word, Qt::AlignRight | Qt::AlignVCenter, 11.5);
    PaintedList list(c, QStringLiteral("fans"), r.adjusted(0, 26, 0, 2), e.air.fans.size(), airFanRow);
    list.follow([&](std::size_t i) { return core::Thing(core::FanRef{e.air.fans[i].id}); });
    list.paint([&](std::size_t i, const QRectF& row) {
        const auto& fan = e.air.fans[i];
        const double y = row.top();
        const core::Placed* p = e.build.at(fan.id);
        const core::Thing key = core::FanRef{fan.id};
        c.washIfSelected(row, key);
        c.fanGlyph({r.left() + 12, y + 13}, 9, fan.direction != core::air::FanDirection::Out);
        // Arrow against a bar: in or out; a loop stays inside.
        const double ax = r.left() + 28;
        if (fan.direction == core::air::FanDirection::Inside) {
            c.p.setPen(QPen(c.t.ink, 1.4));
            c.p.setBrush(Qt::NoBrush);
            c.p.drawArc(QRectF(ax + 2, y + 7, 11, 11), 30 * 16, 280 * 16);
            c.arrow({ax + 11, y + 9}, {ax + 14, y + 13}, c.t.ink, 1);
        } else if (fan.direction == core::air::FanDirection::In) {
            c.arrow({ax, y + 13}, {ax + 14, y + 13}, c.t.cool, 1.6);
            c.vline(ax + 16, y + 7, y + 19, c.t.cool, 1.6);
        } else {
            c.vline(ax, y + 7, y + 19, c.t.warm, 1.6);
            c.arrow({ax + 2, y + 13}, {ax + 17, y + 13}, c.t.warm, 1.6);
        }
        c.text({r.left() + 52, y, 130, 26}, c.elided(qs(fan.name), 128, 12.5, Weight::Medium), 12.5, Weight::Medium);
        const double from = r.left() + 186, to = rpmX - 52;
        c.hline(from, to, y + 13, c.t.line, 1);
        for (int tick = 0; tick <= 4; ++tick)
            c.vline(from + (to - from) * tick / 4, y + 10, y + 16, c.t.line, 1);
        const double at = from + (to - from) * std::clamp(fan.share, 0.0, 1.0);
        c.hline(from, at, y + 13, c.t.ink, 3);
        c.box({at - 5, y + 5, 10, 15}, c.isSelected(key) ? c.t.marker : c.t.sheet, c.t.ink, 1.4);
        c.text({rpmX - 60, y, 60, 26}, v.number(Quantity::Speed, fan.rpm), 12.5, Weight::SemiBold, c.t.ink,
               Qt::AlignRight | Qt::AlignVCenter);
        c.text({flowX - 60, y, 60, 26}, v.number(Quantity::Flow, fan.flowM3h), 12.5, Weight::SemiBold, c.t.ink,
               Qt::AlignRight | Qt::AlignVCenter);
        for (const auto& n : e.noise.sources)
            if (n.id == fan.id)
                c.text({dbX - 50, y, 50, 26}, v.number(Quantity::Level, n.levelDba), 12.5, Weight::SemiBold, c.t.ink,
                       Qt::AlignRight | Qt::AlignVCenter);
        const QString driven = p->part->kind == PartKind::PowerSupply        ? QObject::tr("load")
                               : p->control.mode == core::FanMode::Fixed     ? QObject::tr("fixed")
                               : p->control.mode == core::FanMode::Processor ? QObject::tr("CPU")
                               : p->control.mode == core::FanMode::Part      ? QObject::tr("curve")
                                                                             : QObject::tr("card");
        c.second({row.right() - 60, y, 60, 26}, driven, Qt::AlignRight | Qt::AlignVCenter);
        c.hline(row.left(), row.right(), row.bottom(), c.t.hair);
        c.hit(row, key, QObject::tr("Fan %1, %2").arg(qs(fan.name), v.text(Quantity::Flow, fan.flowM3h)));
        if (p->part->kind == PartKind::Fan) {
            c.hit({ax - 3, y, 24, 26}, Handle{.act = Act::TurnFan, .of = core::FanRef{fan.id}},
                  QObject::tr("Turn %1 round (R)").arg(qs(fan.name)));
            c.hit({from, y + 1, to - from, 24}, Handle{.act = Act::SetSpeed, .of = core::FanRef{fan.id}},
                  QObject::tr("Set the speed of %1 (left and right arrow)").arg(qs(fan.name)));
        }
    });
}

/// By which way air comes in without a fan, and how much of it past no screen.
QString dustSentence(const core::stages::Evaluation& e, const View& v) {
    double passive = 0, bare = 0;
    for (const auto& flow : e.air.openings) {
        const core::Opening* o = e.build.opening(flow.id);
        if (!o || !o->to.empty())
            continue;
        passive += flow.inM3h;
        bare += o->screen == core::Screen::None ? flow.inM3h : 0;
    }
    if (passive < 0.5)
        return QObject::tr("No dust comes in but through the fans.");
    return QObject::tr("%1 come in by openings, %2 of it past no screen.")
        .arg(v.text(Quantity::Flow, passive), v.number(Quantity::Flow, bare));
}

void paintBeam(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    const auto& b = e.air.balance;
    const core::Thing key = core::TotalRef{core::Total::Balance};
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Pressure beam"),
              QObject::tr("%1 by fans").arg(v.unit(Quantity::Flow)));
    double in = 0, out = 0;
    for (const auto& fan : e.air.fans)
        (fan.direction == core::air::FanDirection::In    ? in
         : fan.direction == core::air::FanDirection::Out ? out
                                                         : in) +=
            fan.direction == core::air::FanDirection::Inside ? 0 : std::abs(fan.flowM3h);
    const QPointF pivot(r.center().x(), r.top() + 92);
    const double tilt = std::clamp(2.2 * (in - out), -8.0, 8.0);
    c.p.save();
    c.p.translate(pivot);
    c.p.rotate(-tilt); // the heavier side goes down
    const double half = r.width() / 2 - 14;
    c.hline(-half, half, 0, c.t.ink, 3);
    double left = -half + 4, right = half - 4;
    // As wide as their words while all have room; else each side keeps to its own half, and names are cut, never
    // figures.
    const auto figureOf = [&](const core::air::FanResult& fan) {
        return QLatin1Char(' ') + v.number(Quantity::Flow, std::abs(fan.flowM3h));
    };
    const auto wanted = [&](const core::air::FanResult& fan) {
        const double words =
            std::min(70.0, c.width(qs(fan.name), 11.5, Weight::Medium)) + c.width(figureOf(fan), 11.5, Weight::Medium);
        return std::max(words + 12, 40.0);
    };
    double all = 0;
    std::array<int, 2> count{};
    for (const auto& fan : e.air.fans)
        if (fan.direction != core::air::FanDirection::Inside) {
            all += wanted(fan) + 4;
            ++count[fan.direction == core::air::FanDirection::In ? 0 : 1];
        }
    for (const auto& fan : e.air.fans) {
        if (fan.direction == core::air::FanDirection::Inside)
            continue;
        const bool isIn = fan.direction == core::air::FanDirection::In;
        const double room = all <= 2 * half - 8 ? 1e9 : (half - 8) / std::max(1, count[isIn ? 0 : 1]) - 4;
        const double w = std::min(wanted(fan), room), h = std::clamp(std::abs(fan.flowM3h) * 1.1, 16.0, 48.0);
        const QRectF block(isIn ? left : right - w, -2 - h, w, h);
        const QString figure = figureOf(fan);
        const QString label = c.elided(qs(fan.name), std::min(70.0, w - 8 - c.width(figure, 11.5, Weight::Medium)),
                                       11.5, Weight::Medium) +
                              figure;
        c.box(block, c.t.sheet, isIn ? c.t.cool : c.t.warm, 1.6);
        c.text(block, label, 11.5, Weight::Medium, c.t.ink, Qt::AlignCenter);
        (isIn ? left : right) += isIn ? w + 4 : -(w + 4);
    }
    c.p.restore();
    c.p.setPen(QPen(c.t.ink, 1.4));
    c.p.setBrush(c.t.sheet);
    c.p.drawPolygon(QPolygonF{pivot, pivot + QPointF(-9, 16), pivot + QPointF(9, 16)});
    const double scaleY = pivot.y() + 26;
    c.text({r.left(), scaleY - 10, 90, 20}, QObject::tr("in %1").arg(v.number(Quantity::Flow, in)), 12.5,
           Weight::SemiBold, c.t.ink);
    c.text({r.right() - 90, scaleY - 10, 90, 20}, QObject::tr("out %1").arg(v.number(Quantity::Flow, out)), 12.5,
           Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    c.hline(pivot.x() - 60, pivot.x() + 60, scaleY, c.t.ink2, 1);
    for (int i = -2; i <= 2; ++i)
        c.vline(pivot.x() + i * 30, scaleY - 3, scaleY + 3, c.t.ink2, 1);
    const double at = pivot.x() + std::clamp((in - out) * 4, -60.0, 60.0);
    c.p.setPen(Qt::NoPen);
    c.p.setBrush(c.t.ink);
    c.p.drawPolygon(QPolygonF{{at, scaleY - 2}, {at - 4, scaleY - 9}, {at + 4, scaleY - 9}});
    const QString sentence =
        QObject::tr("%1 by fans, %2 over the room. %3")
            .arg(v.signedNumber(Quantity::Flow, in - out) + QLatin1Char(' ') + v.unit(Quantity::Flow),
                 v.signedNumber(Quantity::Pressure, b.pressurePa) + QStringLiteral(" Pa"), dustSentence(e, v));
    c.washIfSelected({r.left() - 4, scaleY + 12, r.width() + 8, 48}, key);
    c.paragraph({r.left(), scaleY + 14, r.width(), 50},
                sentence + QObject::tr(" Rated: %1 in, %2 out.")
                               .arg(v.text(Quantity::Flow, b.ratedInM3h), v.text(Quantity::Flow, b.ratedOutM3h)),
                12, Weight::Regular, c.t.ink, 3);
    c.hit({r.left(), r.top() + 26, r.width(), scaleY + 40 - r.top()}, key,
          QObject::tr("Pressure %1").arg(v.text(Quantity::Pressure, b.pressurePa)));
}

/// Noise under every load, in words.
QString loadWords(const View& v, const results::Loads& loads) {
    QStringList words;
    for (const core::stages::AtLoad& at : loads)
        words << v.words(at.name) + QLatin1Char(' ') +
                     (std::isnan(at.noiseDba) ? QStringLiteral("...") : v.number(Quantity::Level, at.noiseDba));
    return words.isEmpty() ? QString() : QObject::tr("By load: %1 dB(A)").arg(words.join(QStringLiteral(", ")));
}
double loadsHeight(const Canvas& c, const View& v, const results::Loads& loads, double width) {
    const QString words = loadWords(v, loads);
    return words.isEmpty() ? 0 : c.width(words, 12) > width - 4 ? 38 : 22;
}

void paintNoise(Canvas& c, const QRectF& r, const View& v, const results::Loads& loads) {
    const auto& e = *v.evaluation();
    const auto* target = targetOf(v.result(), core::TargetKind::Noise);
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Noise at %1 m").arg(digits(e.noise.distanceM, 1)));
    const QString total =
        v.number(Quantity::Level, e.noise.totalDba) +
        (target ? QObject::tr(" of %1 dB(A)").arg(v.number(Quantity::Level, target->limit)) : QStringLiteral(" dB(A)"));
    c.text({r.left(), r.top(), r.width(), 20}, total, 12.5, Weight::SemiBold, c.t.ink,
           Qt::AlignRight | Qt::AlignVCenter);
    // Shares of sound power; the cap in the same scale.
    const double cap = target ? std::pow(10.0, (target->limit - e.noise.totalDba) / 10) : 1.0;
    const double full = std::max(1.0, std::min(cap, 3.0)), scale = (r.width() - 2) / full;
    double x = r.left();
    const core::Thing key = core::TotalRef{core::Total::Noise};
    for (const auto& s : e.noise.sources) {
        const core::Placed* p = e.build.at(s.id);
        const QRectF bar(x, r.top() + 32, s.powerShare * scale, 22);
        c.hatch(bar, p->part->kind, c.isSelected(key) ? c.t.marker : c.t.sheet, c.t.ink, 1);
        x += bar.width();
    }
    if (target) {
        if (cap >= 1)
            c.box({x, r.top() + 32, std::max(0.0, r.left() + std::min(cap, 3.0) * scale - x), 22}, {}, c.t.line, 1);
        c.vline(r.left() + std::min(cap, full) * scale, r.top() + 28, r.top() + 58, c.t.ink, 2.5);
    }
    c.hit({r.left(), r.top() + 26, r.width(), 32}, key,
          QObject::tr("Noise %1").arg(v.text(Quantity::Level, e.noise.totalDba)));
    const double end = r.bottom() - loadsHeight(c, v, loads, r.width()) - 8;
    PaintedList list(c, QStringLiteral("noise sources"), {r.left(), r.top() + 62, r.width(), end - r.top() - 62},
                     e.noise.sources.size(), airNoiseRow);
    list.paint([&](std::size_t i, const QRectF& row) {
        const auto& s = e.noise.sources[i];
        const double y = row.top();
        const core::Placed* p = e.build.at(s.id);
        c.hatch({row.left() + 2, y + 4, 16, 12}, p->part->kind, c.t.sheet, c.t.ink, 1);
        c.text({row.left() + 26, y, row.width() - 130, 20}, c.elided(qs(s.name), row.width() - 134, 12.5), 12.5,
               Weight::Regular);
        c.text({row.right() - 110, y, 62, 20}, v.number(Quantity::Level, s.levelDba) + QStringLiteral(" dB"), 12.5,
               Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({row.right() - 46, y, 46, 20}, v.number(Quantity::Share, s.powerShare) + QStringLiteral(" %"), 12.5,
               Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    });
    c.paragraph({r.left(), end + 3, r.width(), 38}, loadWords(v, loads), 12, Weight::Regular, c.t.ink2, 2);
}

void paintTable(Canvas& c, const QRectF& r, const View& v) {
    const auto& e = *v.evaluation();
    c.heading(r.left(), r.top(), r.width(), QObject::tr("Parts, settled"), v.unit(Quantity::Temperature));
    // Those that fail or come nearest to their limit stand first.
    std::vector<std::pair<const core::air::PartResult*, core::verdict::Deciding>> parts;
    for (const auto& part : e.air.parts)
        parts.emplace_back(&part, core::verdict::temperatureOf(e, v.result().verdict, part.id));
    const auto headroom = [](const auto& row) { return row.second.mark != Mark::None ? row.second.headroom : 1e9; };
    std::stable_sort(parts.begin(), parts.end(),
                     [&](const auto& a, const auto& b) { return headroom(a) < headroom(b); });
    const double room = r.bottom() + 4 - (r.top() + 46),
                 height = std::clamp(room / std::max<double>(1, static_cast<double>(parts.size())), 18.0, 22.0),
                 right = r.right() - 14;
    const bool bands = r.width() > 300;
    constexpr double head = 33; // of the column with what is left
    const double nameX = r.left() + 22, nowX = r.left() + 143;
    PaintedList list(c, QStringLiteral("warm"), r.adjusted(0, 26, 0, 4), parts.size(), height,
                     {{QObject::tr("part"), nameX, nowX - 38},
                      {QObject::tr("now"), nowX - 38, nowX, Qt::AlignRight},
                      {QObject::tr("limit"), right - 100, right - head - 4, Qt::AlignRight},
                      {QObject::tr("left, %1").arg(v.unit(Quantity::TemperatureDifference)), right - head - 4, right,
                       Qt::AlignRight}});
    list.filter(c.headingRoom(r, QObject::tr("Parts, settled"), v.unit(Quantity::Temperature)),
                [&](std::size_t i) { return qs(parts[i].first->name); });
    list.sort([&](std::size_t i, int column) -> SortKey {
        const auto& d = parts[i].second;
        return column == 0 ? SortKey(qs(parts[i].first->name))
                           : SortKey(column == 1            ? d.value
                                     : d.mark == Mark::None ? 1e9
                                     : column == 2          ? d.limit
                                                            : d.headroom);
    });
    list.follow([&](std::size_t i) { return core::Thing(core::PartRef{parts[i].first->id}); });
    list.paint([&](std::size_t i, const QRectF& row) {
        const auto& part = *parts[i].first;
        const core::verdict::Deciding& limit = parts[i].second;
        const core::Thing key = core::PartRef{part.id};
        const double y = row.top(), h = row.height();
        c.washIfSelected(row, key);
        c.mark({r.left() + 2, y + h / 2 - 6}, limit.mark);
        const double nameW = nowX - 31 - nameX;
        c.text({nameX, y, nameW + 3, h}, c.elided(qs(part.name), nameW, 12.5), 12.5, Weight::Regular);
        c.text({nowX - 42, y, 42, h}, v.number(Quantity::Temperature, limit.value), 12.5, Weight::SemiBold, c.t.ink,
               Qt::AlignRight | Qt::AlignVCenter);
        c.stamp({nowX + 2, y + h / 2 - 6.5}, core::explain::stampOf(limit.basis, limit.simulated));
        const QString band = QStringLiteral("±") + v.number(Quantity::TemperatureDifference, limit.band);
        if (bands || limit.mark == Mark::None)
            c.second({nowX + 18, y, 36, h}, band);
        if (limit.mark != Mark::None) {
            const QString name = limit.slowsDown ? QObject::tr("slows at")
                                 : limit.ofMaker ? QObject::tr("max")
                                                 : QObject::tr("cap");
            const double from = nowX + (bands ? 54 : 16);
            c.second({from, y, right - head - from, h},
                     name + QLatin1Char(' ') + v.number(Quantity::Temperature, limit.limit),
                     Qt::AlignRight | Qt::AlignVCenter);
            c.text({right - head, y, head, h}, v.signedNumber(Quantity::TemperatureDifference, limit.headroom), 12.5,
                   Weight::Medium, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        }
        c.hline(row.left(), row.right(), row.bottom(), c.t.hair);
        c.hit(row, key,
              QObject::tr("%1, %2 %3, %4; %5 %6")
                  .arg(qs(part.name), v.text(Quantity::Temperature, limit.value), band,
                       limit.simulated ? QObject::tr("measured, simulated") : qs(core::verdict::basisWord(limit.basis)),
                       v.words(limit.name),
                       limit.mark == Mark::None ? QObject::tr("not stated") : qs(core::markWord(limit.mark))));
    });
}

} // namespace

void paintAir(Canvas& c, const QRectF& r, const View& v) { paintAir(c, r, v, AirLook{}); }

const core::air::Prediction* comparedWith(const View& v, const AirLook& look) {
    const std::string& baseline = v.project().baseline;
    if (!look.againstBaseline || baseline.empty() || baseline == v.document.revision())
        return nullptr;
    const auto& shown = v.document.shown(baseline);
    return shown.evaluation ? &shown.evaluation->air : nullptr;
}

void paintSights(Canvas& c, const QRectF& r, const View& v, const AirLook& look) {
    double x = r.left();
    const auto word = [&](const QString& text, bool on, const Handle& handle, const QString& spoken) {
        const double width = c.width(text, 12, on ? Weight::SemiBold : Weight::Regular);
        const QRectF place(x, r.top(), width + 4, r.height());
        c.text(place, text, 12, on ? Weight::SemiBold : Weight::Regular, on ? c.t.ink : c.t.ink2);
        if (on)
            c.hline(x, x + width, r.bottom() - 2, c.t.ink, 1.6);
        c.hit(place, handle, spoken);
        x += width + 18;
    };
    const std::array sights{std::pair{QObject::tr("Side"), QObject::tr("Look from the side (A)")},
                            std::pair{QObject::tr("Front"), QObject::tr("Look from the front (B)")},
                            std::pair{QObject::tr("Top"), QObject::tr("Look from above (C)")}};
    for (std::size_t i = 0; i < sights.size(); ++i)
        word(sights[i].first, static_cast<std::size_t>(look.sight) == i,
             Handle{.act = Act::ChooseSight, .of = {}, .row = static_cast<int>(i)}, sights[i].second);
    const QString save = QObject::tr("Save ...");
    const QRectF saves(r.right() - c.width(save, 12) - 4, r.top(), c.width(save, 12) + 4, r.height());
    c.second(saves, save);
    c.hit(saves, Handle{.act = Act::SaveSheet, .of = {}}, QObject::tr("Save what is shown as SVG or CSV (Ctrl+T)"));
    const std::string& baseline = v.project().baseline;
    if (look.pane == AirPane::Section && !baseline.empty() && baseline != v.document.revision())
        word(QObject::tr("Against %1").arg(qs(baseline)), look.againstBaseline,
             Handle{.act = Act::TurnDifference, .of = {}},
             QObject::tr("What differs from the baseline, predicted for both (D)"));
    if (look.pane == AirPane::Section && !v.project().runs.empty())
        word(QObject::tr("As taught"), look.asTaught, Handle{.act = Act::TurnTaught, .of = {}},
             QObject::tr("With what the logged runs taught put in, instead of what the sheets say (M)"));
}

namespace {
/// The same sheet of what the runs taught; its loads were not worked out with that.
void paintTaughtAir(Canvas& c, const QRectF& r, const View& v, const AirLook& look) {
    View taught = v;
    taught.another = look.taught.get();
    AirLook plain = look;
    plain.loads = {};
    plain.tellsLoads = false;
    paintAir(c, r, taught, plain);
}

/// What the figures of the sheet rest on, where it is not what the sheets of the parts say.
QString taughtWords(const View& v, const AirLook& look) {
    if (!look.asTaught)
        return {};
    return v.another ? QObject::tr("as %1 runs taught").arg(look.taughtRuns) : QObject::tr("learning ...");
}
} // namespace

void paintAir(Canvas& c, const QRectF& r, const View& v, const AirLook& look) {
    if (look.asTaught && look.taught && !v.another)
        return paintTaughtAir(c, r, v, look);
    const auto* e = v.evaluation();
    if (!e) {
        stageHead(c, r, question::air);
        return emptyStage(
            c, r,
            v.project().revisions.empty()
                ? QObject::tr("No parts yet. Air needs a case with a chamber, and a part that gives off heat.")
                : qs(v.result().problem));
    }
    const core::Load* load = v.project().load(v.project().brief.load);
    const QString taught = taughtWords(v, look);
    stageHead(c, r.adjusted(0, 0, -airHeadRoom, 0), question::air,
              (taught.isEmpty() ? QObject::tr("%1, %2, room %3") : taught + QObject::tr("; %1, %2, room %3"))
                  .arg(load ? qs(load->name) : QObject::tr("full load"), v.text(Quantity::Power, e->air.totalPowerW),
                       v.text(Quantity::Temperature, e->air.conditions.roomC)));
    const double rightW = std::clamp(r.width() * 0.32, 240.0, 360.0);
    const QRectF left(r.left(), r.top() + 32, r.width() - rightW - 26, r.height() - 32);
    const QRectF right(r.right() - rightW, left.top(), rightW, left.height());
    c.vline(left.right() + 13, left.top(), r.bottom(), c.t.line);
    const double fanRows = 30 + airFanRow * static_cast<double>(e->air.fans.size());
    const double drawHeight = std::max(160.0, left.height() - fanRows - 48);
    paintSights(c, {left.left(), left.top() - 4, left.width(), 18}, v, look);
    SideView s = sideViewIn({left.left(), left.top(), left.width(), drawHeight}, e->build, look.sight);
    s.stage = {left.left() - 10, left.top() + 14, left.width() + 20, left.height()};
    s.against = comparedWith(v, look);
    paintAirSection(c, s, v);
    const double below = s.paper.bottom() + 58;
    paintScale(c, {left.left(), below, left.width(), 28}, v);
    paintStrips(c, {left.left(), below + 34, left.width(), left.bottom() - below - 34}, v);
    constexpr double beam = 184; // with its words
    paintBeam(c, {right.left(), right.top(), right.width(), beam}, v);
    results::Loads loads = answered(look.loads);
    if (look.tellsLoads && (!look.loadsOf || &*look.loadsOf->evaluation != e)) { // theirs are not there yet
        loads.clear();
        for (const core::Sentence& name : core::stages::loadNames(v.project()))
            loads.push_back(
                {.id = {}, .name = name, .noiseDba = std::nan(""), .processorC = {}, .cardC = {}, .fans = {}});
    }
    // Of many sources some are scrolled to, so that the parts keep some rows.
    constexpr double leastParts = 46 + 4 * 22;
    const double aroundNoise = 70 + loadsHeight(c, v, loads, right.width()),
                 roomForNoise = right.height() - beam - 16 - leastParts - aroundNoise;
    const double noiseH = aroundNoise + std::clamp(airNoiseRow * static_cast<double>(e->noise.sources.size()), 0.0,
                                                   std::max(3 * airNoiseRow, roomForNoise));
    paintNoise(c, {right.left(), right.top() + beam + 8, right.width(), noiseH}, v, loads);
    paintTable(c, {right.left(), right.top() + beam + 16 + noiseH, right.width(), right.height() - beam - 16 - noiseH},
               v);
}

} // namespace app
