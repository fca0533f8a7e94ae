// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/fit_details.h"
#include "app/stations/fit/fit_leads.h"

namespace app {
using core::Mark;
using core::Quantity;
using List = FitLook::List;

namespace {

const QString listId = QStringLiteral("fit");

QString gapName(const core::fit::Gap& gap) { return qs(gap.between[0].text + " to " + gap.between[1].text); }

/// A small plain button that is painted with the list.
double paintButton(Canvas& c, double x, double y, const QString& text, const Handle& handle, const QString& name,
                   bool on = false) {
    const QRectF r(x, y, c.width(text, 12, Weight::Medium) + 16, 24);
    c.box(r, on ? c.t.ink : c.t.sheet, on ? c.t.ink : c.t.line, 1);
    c.text(r, text, 12, Weight::Medium, on ? c.t.paper : c.t.ink, Qt::AlignCenter);
    c.hit(r, handle, name);
    return r.right();
}

/// A button that goes on to the next of some choices says which of how many it stands at.
double paintCycler(Canvas& c, double x, double y, const QString& text, int at, int of, Act act, const QString& name,
                   bool on = false) {
    const QString place = QStringLiteral("%1/%2").arg(at + 1).arg(of);
    const double words = c.width(text, 12, Weight::Medium), w = words + c.width(place, 11) + 20;
    const QRectF r(x, y, w, 24);
    c.box(r, on ? c.t.ink : c.t.sheet, on ? c.t.ink : c.t.line, 1);
    c.text({x + 7, y, words + 2, 24}, text, 12, Weight::Medium, on ? c.t.paper : c.t.ink);
    c.text({x + 7 + words + 5, y, w - words - 14, 24}, place, 11, Weight::Regular, on ? c.t.paper : c.t.ink2);
    c.hit(r, Handle{.act = act}, QObject::tr("%1: goes on to the next of %2").arg(name).arg(of));
    return r.right();
}

/// What the list shows: segments that share one edge.
void paintHead(Canvas& c, const QRectF& r, const FitLook& look) {
    struct Segment {
        List list;
        QString text, name;
    };
    const Segment segments[] = {{List::Gaps, QObject::tr("Gaps"), QObject::tr("Gap ladder (key G)")},
                                {List::Change, QObject::tr("Change"), QObject::tr("What would mend the gap (key M)")},
                                {List::Measure, QObject::tr("Measure"), QObject::tr("What to measure next (key T)")},
                                {List::Room, QObject::tr("Room"), QObject::tr("Room left at every place (key R)")},
                                {List::GoingIn, QObject::tr("Going in"), QObject::tr("How parts go in (key I)")},
                                {List::Leads, QObject::tr("Leads"), QObject::tr("Ways of leads and risers (key L)")}};
    double total = 0;
    for (const Segment& s : segments)
        total += c.width(s.text, 12.5, Weight::SemiBold);
    const double spare = (r.width() - total) / static_cast<double>(std::size(segments));
    double x = r.left();
    for (const Segment& s : segments) {
        const double w = c.width(s.text, 12.5, Weight::SemiBold) + spare;
        const QRectF box(x, r.top(), w, 24);
        const bool on = look.list == s.list;
        c.text(box, s.text, 12.5, on ? Weight::SemiBold : Weight::Medium, on ? c.t.ink : c.t.ink2, Qt::AlignCenter);
        if (on)
            c.p.fillRect(QRectF(box.left(), box.bottom() - 1, box.width(), 3), c.t.ink);
        c.hit(box, Handle{.act = Act::ChooseList, .row = static_cast<int>(s.list)}, s.name);
        x += w;
    }
    c.hline(r.left(), r.right(), r.top() + 25, c.t.line);
}

} // namespace

std::size_t firstRow(const Canvas& c, std::size_t all) {
    if (!c.lists)
        return 0;
    std::size_t& top = c.lists->states[listId].top;
    if (top >= all)
        top = 0;
    return top;
}

void paintMore(Canvas& c, const QRectF& r, std::size_t shown, std::size_t all,
               const std::function<core::Thing(std::size_t)>& thingOf) {
    const std::size_t above = firstRow(c, all);
    if (c.lists) {
        ListPlace place{listId, r, all, shown};
        for (std::size_t row = 0; c.lists->asksThings && row < all; ++row)
            place.things.push_back(thingOf(row));
        c.lists->places.push_back(std::move(place));
    }
    if (above == 0 && shown >= all)
        return;
    c.second({r.left(), r.bottom() - 20, r.width(), 20},
             QObject::tr("%1 to %2 of %3").arg(above + 1).arg(above + shown).arg(all), Qt::AlignLeft | Qt::AlignVCenter,
             11.5);
    if (!c.lists)
        return;
    const QRectF track(r.right() + 1, r.top() + 28, 8, r.height() - 50);
    const double length = std::max(24.0, track.height() * static_cast<double>(shown) / share(all));
    const double at = track.top() + (track.height() - length) *
                                        std::min(1.0, static_cast<double>(above) / share(all - std::min(all, shown)));
    c.box(track, c.t.tray, c.t.hair, 1);
    c.box({track.left() + 1, at, track.width() - 2, length}, c.t.line, {});
    c.hit(track.adjusted(-6, 0, 10, 0), Handle{.act = Act::ScrollList, .list = listId},
          QObject::tr("Rows %1 to %2 of %3; drag, or turn the wheel").arg(above + 1).arg(above + shown).arg(all));
}

std::optional<double> paintEntry(Canvas& c, const QRectF& r, double y, Mark mark, const QString& head,
                                 const QString& text, const core::Thing& thing, const QString& button,
                                 const Handle& handle, const QString& buttonName) {
    const double textWidth = r.width() - 30;
    QImage probe(1, 1, QImage::Format_ARGB32_Premultiplied); // measured first: a row is drawn whole or not at all
    QPainter nowhere(&probe);
    Canvas measure(nowhere, c.t);
    const double headRoom = button.isEmpty() ? textWidth : textWidth - c.width(button, 12, Weight::Medium) - 26;
    const double h1 = measure.paragraph({0, 0, headRoom, 200}, head, 12.5, Weight::Medium, c.t.ink, 2);
    const double h2 = measure.paragraph({0, 0, textWidth, 200}, text, 12, Weight::Regular, c.t.ink2, 4);
    const double height = std::max(button.isEmpty() ? 0.0 : 30.0, h1) + h2 + 14;
    if (y + height > r.bottom() - 22)
        return std::nullopt;
    c.washIfSelected({r.left(), y, r.width(), height - 1}, thing);
    c.mark({r.left() + 6, y + 8}, mark);
    c.paragraph({r.left() + 28, y + 6, headRoom, 200}, head, 12.5, Weight::Medium, c.t.ink, 2);
    c.paragraph({r.left() + 28, y + 6 + std::max(button.isEmpty() ? 0.0 : 26.0, h1), textWidth, 200}, text, 12,
                Weight::Regular, c.t.ink2, 4);
    c.hit({r.left(), y, r.width(), height - 1}, thing, head + QStringLiteral(". ") + text);
    if (!button.isEmpty())
        paintButton(c, r.right() - c.width(button, 12, Weight::Medium) - 18, y + 4, button, handle, buttonName);
    c.hline(r.left(), r.right(), y + height - 1, c.t.hair);
    return height;
}

namespace {

/// A selection that was made elsewhere brings its rung into sight.
void followSelection(Canvas& c, const QRectF& r, const core::fit::FitResult& fit, const std::vector<std::size_t>& rows,
                     double rowHeight, double openHeight) {
    if (!c.lists)
        return;
    ListState& state = c.lists->states[listId];
    if (state.selected == c.selected())
        return;
    state.selected = c.selected();
    const auto capacity =
        static_cast<std::size_t>(std::max(1.0, std::floor((r.height() - 64 - openHeight) / rowHeight) + 1));
    for (std::size_t k = 0; k < rows.size(); ++k)
        if (c.isSelected(fit.gaps[rows[k]].ref))
            state.top = k < state.top ? k : k >= state.top + capacity ? k + 1 - capacity : state.top;
}

void paintRung(Canvas& c, const QRectF& r, double y, const core::fit::Gap& gap, std::size_t i, const View& v,
               double axis, double scale) {
    const core::Thing key = gap.ref;
    const QString name = gapName(gap);
    c.washIfSelected({r.left(), y, r.width(), 44}, key);
    const QPointF balloon(r.left() + 15, y + 14);
    c.p.setPen(Qt::NoPen);
    c.p.setBrush(c.t.ink);
    c.p.drawEllipse(balloon, 9, 9);
    c.text({balloon.x() - 10, balloon.y() - 9, 20, 18}, QString::number(i + 1), 11, Weight::SemiBold, c.t.paper,
           Qt::AlignCenter);
    c.text({r.left() + 30, y + 4, r.width() - 96, 20}, c.elided(name, r.width() - 98, 12.5, Weight::Medium), 12.5,
           Weight::Medium);
    c.text({r.right() - 66, y + 4, 44, 20}, v.signedNumber(Quantity::Length, gap.marginMm()), 13, Weight::SemiBold,
           c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
    c.mark({r.right() - 18, y + 9}, gap.mark);
    const QString own = gap.overridden.empty() ? QString() : QStringLiteral("*");
    const QString figures = v.number(Quantity::Length, gap.nominal.mm()) + QStringLiteral(" ±") +
                            v.number(Quantity::Length, gap.worstBandMm) + QObject::tr("  needs ") +
                            v.number(Quantity::Length, gap.requiredMm) + own;
    // The band may reach 30 px left of the need.
    const double room = axis - 34 - (r.left() + 30);
    c.text({r.left() + 30, y + 23, room, 18}, c.elided(figures, room, 12), 12, Weight::Regular, c.t.ink2);
    const double over = gap.nominal.mm() - gap.requiredMm;
    const auto at = [&](double mm) { return std::clamp(axis + mm * scale, axis - 30, r.right() - 4); };
    const QRectF band(QPointF(at(over - gap.worstBandMm), y + 27),
                      QPointF(std::max(at(over + gap.worstBandMm), at(over - gap.worstBandMm) + 2), y + 37));
    if (over - gap.worstBandMm < 0)
        c.pattern(QRectF(QPointF(band.left(), band.top()), QPointF(std::min(axis, band.right()), band.bottom())),
                  Canvas::Pattern::Over);
    c.box(band, {}, c.markColor(gap.mark), 1.2);
    c.vline(at(over), y + 25, y + 39, c.markColor(gap.mark), 2);
    c.vline(axis, y + 24, y + 40, c.t.ink, 2);
    const QString spoken =
        QObject::tr("Gap %1, %2, %3 plus or minus %4, needs %5, %6, chance %7 %")
            .arg(i + 1)
            .arg(name, v.text(Quantity::Length, gap.nominal.mm()), v.number(Quantity::Length, gap.worstBandMm),
                 v.number(Quantity::Length, gap.requiredMm), qs(core::markWord(gap.mark)),
                 v.number(Quantity::Share, gap.chance));
    c.hit({r.left(), y, r.width(), 44}, key, spoken);
}

void paintLadder(Canvas& c, const QRectF& r, const View& v, const FitLook& look) {
    const auto& gaps = v.evaluation()->fit.gaps;
    const auto rows = ladderRows(v.evaluation()->fit, look, c.selected());
    const QString sorts[] = {QObject::tr("worst first"), QObject::tr("least likely first"), QObject::tr("by name")};
    const QString filters[] = {QObject::tr("all"), QObject::tr("short"), QObject::tr("open or short"),
                               QObject::tr("of the part")};
    double x = look.paper
                   ? r.left()
                   : paintCycler(c, r.left(), r.top(), sorts[static_cast<int>(look.sort)], static_cast<int>(look.sort),
                                 3, Act::NextSort, QObject::tr("Order of the ladder (key S)"));
    x = look.paper ? x
                   : paintCycler(c, x + 6, r.top(), filters[static_cast<int>(look.filter)],
                                 static_cast<int>(look.filter), 4, Act::NextFilter,
                                 QObject::tr("Which gaps are listed (key D)"), look.filter != FitLook::Filter::All);
    // One axis for all rungs: the heavy line is the need.
    const double axis = r.left() + r.width() * 0.63, scale = (r.right() - 6 - axis) / 12;
    const QString count = rows.size() == gaps.size() ? QString::number(rows.size())
                                                     : QObject::tr("%1 of %2").arg(rows.size()).arg(gaps.size());
    if (c.width(count, 11.5) < axis - 18 - x - 12)
        c.second({x + 8, r.top(), axis - x - 22, 24}, count, Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    const bool below = axis - 16 <= x + 2; // beside the buttons there is no room for the names of the axis
    // Round figures in the unit that is read: 1/8 and 1/4 inch.
    for (const double mark : v.show.units().inch ? std::array{0.0, 3.175, 6.35} : std::array{0.0, 4.0, 8.0})
        if (below || axis + mark * scale - 16 > x + 2)
            c.text({axis + mark * scale - 30, r.top() + (below ? 23 : 4), 60, 18},
                   mark == 0 ? QObject::tr("need") : v.signedNumber(Quantity::Length, mark), 11,
                   mark == 0 ? Weight::SemiBold : Weight::Regular, mark == 0 ? c.t.ink : c.t.ink2, Qt::AlignCenter);
    followSelection(c, r, v.evaluation()->fit, rows, 45, 104);
    double y = r.top() + (below ? 42 : 28);
    std::size_t shown = 0;
    for (std::size_t k = firstRow(c, rows.size()); k < rows.size(); ++k) {
        const auto& gap = gaps[rows[k]];
        const bool selected = c.isSelected(gap.ref);
        const double height = selected ? 104 : 45;
        if (y + height > r.bottom() - 22)
            break;
        ++shown;
        if (selected)
            c.box({r.left(), y, r.width(), height}, {}, c.t.medge, 1.5);
        paintRung(c, r, y, gap, rows[k], v, axis, scale);
        if (selected)
            paintChain(c, {r.left(), y + 46, r.width(), 58}, gap, v);
        else
            c.hline(r.left(), r.right(), y + 45, c.t.hair);
        y += height;
    }
    if (rows.empty())
        c.paragraph({r.left(), y + 8, r.width(), 60},
                    look.filter == FitLook::Filter::Part ? QObject::tr("Select a part on the drawing to list its gaps.")
                                                         : QObject::tr("No gap of this kind. Key D lists others."),
                    12.5, Weight::Regular, c.t.ink2);
    if (!look.paper)
        paintMore(c, r, shown, rows.size(), [&](std::size_t k) { return core::Thing(gaps[rows[k]].ref); });
}

/// While an answer is worked out: what is shown is of before, or nothing yet. Answers whether rows are there to be
/// painted.
template <class T> bool paintStanding(Canvas& c, const QRectF& r, const Answer<T>& answer, const QString& doing) {
    if (answer.standing == Standing::Failed)
        c.paragraph({r.left(), r.bottom() - 60, r.width(), 60},
                    QObject::tr("It could not be worked out: %1").arg(qs(answer.why)), 12, Weight::Regular, c.t.block,
                    3);
    else if (answer.standing == Standing::Pending)
        c.second(answer.value ? QRectF(r.left(), r.bottom() - 20, r.width() - 60, 20)
                              : QRectF(r.left(), r.top() + 30, r.width(), 24),
                 answer.value ? QObject::tr("of before; %1").arg(doing) : doing,
                 answer.value ? Qt::AlignRight | Qt::AlignVCenter : Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    return answer.value != nullptr;
}

void paintChanges(Canvas& c, const QRectF& r, const View& v, const FitLook& look) {
    const auto& fit = v.evaluation()->fit;
    const auto* gap = gapToMend(fit, c.selected());
    if (!gap || !look.answers)
        return c.second({r.left(), r.top(), r.width(), 24}, QObject::tr("No gaps yet."));
    const double h =
        c.paragraph({r.left(), r.top() + 2, r.width(), 60},
                    gapName(*gap) + QStringLiteral(": ") + v.words(core::explain::marginText(gap->marginMm())), 12.5,
                    Weight::SemiBold, c.t.ink, 3);
    double y = r.top() + h + 8;
    const bool ofAnother = look.answers->mends.value && look.answers->mends.value->of != gap->ref;
    if (!paintStanding(c, r.adjusted(0, h, 0, 0), ofAnother ? Answer<Mends>{} : look.answers->mends,
                       QObject::tr("trying changes ...")))
        return;
    const auto& mends = answered(look.answers->mends).all;
    std::size_t shown = 0;
    // What makes something else worse is folded away: it is no offer, but who asks may see why not.
    const auto harms = [](const auto& m) { return m.mark() == Mark::Crossed; };
    const auto harmful = static_cast<std::size_t>(std::count_if(mends.begin(), mends.end(), harms));
    std::vector<std::size_t> order;
    for (const bool harm : {false, true})
        for (std::size_t i = 0; i < mends.size(); ++i)
            if (harms(mends[i]) == harm && (!harm || look.unfolded))
                order.push_back(i);
    for (std::size_t k = firstRow(c, order.size()); k < order.size(); ++k) {
        const std::size_t i = order[k];
        const auto& m = mends[i];
        // What mends is told by what it has over its need, not by a worst case that may still be short.
        const QString won = v.words(core::explain::outcomeOf(m));
        const auto height = paintEntry(c, r, y, m.mark(), v.words(m.text), won, core::MendRef{gap->ref, i},
                                       QObject::tr("Apply"), Handle{.act = Act::ApplyMend, .row = static_cast<int>(i)},
                                       QObject::tr("Make this change, as a revision where runs were logged"));
        if (!height)
            break;
        y += *height;
        ++shown;
    }
    if (harmful > 0 && y + 30 < r.bottom() - 22) {
        paintButton(c, r.left(), y + 4,
                    look.unfolded ? QObject::tr("Hide what makes it worse")
                                  : QObject::tr("Makes something else worse (%1)").arg(harmful),
                    Handle{.act = Act::ShowHarm}, QObject::tr("Changes that help here and harm elsewhere"));
        y += 34;
    }
    // Where nothing mends it, what could be edited: the sizes it is made of.
    if (gap->isShort() && std::none_of(mends.begin(), mends.end(), [](const auto& m) { return m.mends; }) &&
        y + 60 < r.bottom())
        c.paragraph({r.left(), y + 6, r.width(), 110},
                    v.words(core::advise::whatToEdit(*gap)) + QStringLiteral(". ") +
                        QObject::tr("Double-click a part to edit it, or put others on the shelf."),
                    12.5, Weight::Regular, c.t.ink2, 6);
    paintMore(c, r, shown, order.size(), [&](std::size_t k) { return core::Thing(core::MendRef{gap->ref, order[k]}); });
}

void paintMeasure(Canvas& c, const QRectF& r, const View& v, const FitLook& look) {
    double x = paintButton(c, r.left(), r.top(), QObject::tr("Fill in"), Handle{.act = Act::FillIn},
                           QObject::tr("Type in what the caliper shows"));
    paintButton(c, x + 6, r.top(), QObject::tr("Print sheet"), Handle{.act = Act::PrintSheet},
                QObject::tr("Measuring sheet to take to the bench"));
    double y = r.top() + 32;
    std::size_t shown = 0;
    if (!look.answers || !paintStanding(c, r, look.answers->measure, QObject::tr("working it out ...")))
        return;
    const Measures& rows = answered(look.answers->measure);
    for (std::size_t i = firstRow(c, rows.size()); i < rows.size(); ++i) {
        const auto& m = rows[i];
        QString text =
            QObject::tr("%1 ±%2 from %3; takes %4 of doubt off %5")
                .arg(v.number(Quantity::Length, m.now.value.mm()), v.text(Quantity::Length, m.now.tolerance.mm()),
                     qs(core::sourceWord(m.now.source)), v.text(Quantity::Length, m.worstWonMm),
                     counted(static_cast<qsizetype>(m.gaps.size()), QObject::tr("1 gap"), QObject::tr("%1 gaps")));
        if (m.settles() >= 0.0005)
            text += QObject::tr("; risk of a wrong answer %1 to %2 %")
                        .arg(v.number(Quantity::Share, m.riskNow), v.number(Quantity::Share, m.riskThen));
        const auto height =
            paintEntry(c, r, y, m.settles() >= 0.0005 ? Mark::Open : Mark::Note,
                       QStringLiteral("%1  ").arg(i + 1) + qs(m.label), text, core::DimensionRef{m.label});
        if (!height)
            break;
        y += *height;
        ++shown;
    }
    if (rows.empty())
        c.paragraph({r.left(), y, r.width(), 60}, QObject::tr("Nothing is in doubt that a caliper would settle."), 12.5,
                    Weight::Regular, c.t.ink2);
    paintMore(c, r, shown, rows.size(), [&](std::size_t i) { return core::Thing(core::DimensionRef{rows[i].label}); });
}

void paintRooms(Canvas& c, const QRectF& r, const View& v, const FitLook& look) {
    c.second({r.left(), r.top(), r.width() * 0.5, 22},
             QObject::tr("largest that goes in, %1").arg(v.unit(Quantity::Length)), Qt::AlignLeft | Qt::AlignVCenter,
             11.5);
    c.second({r.right() - 116, r.top(), 56, 22}, QObject::tr("for sure"), Qt::AlignRight | Qt::AlignVCenter, 11.5);
    c.second({r.right() - 56, r.top(), 52, 22}, QObject::tr("as drawn"), Qt::AlignRight | Qt::AlignVCenter, 11.5);
    double y = r.top() + 24;
    std::size_t shown = 0;
    if (!look.answers || !paintStanding(c, r, look.answers->rooms, QObject::tr("trying sizes ...")))
        return;
    const Rooms& rooms = answered(look.answers->rooms);
    for (std::size_t i = firstRow(c, rooms.size()); i < rooms.size() && y + 40 <= r.bottom() - 22; ++i, ++shown) {
        const auto& room = rooms[i];
        const core::Thing key = core::RoomRef{room.mount, room.own};
        c.washIfSelected({r.left(), y, r.width(), 39}, key);
        c.text({r.left() + 4, y + 2, r.width() - 120, 20},
               c.elided(qs(room.name) + QStringLiteral(", ") + qs(core::fit::ownAxisWord(room.own)), r.width() - 124,
                        12.5),
               12.5, Weight::Medium);
        c.text({r.right() - 116, y + 2, 56, 20}, v.number(Quantity::Length, room.surelyMm), 12.5, Weight::SemiBold,
               c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        c.text({r.right() - 56, y + 2, 52, 20}, v.number(Quantity::Length, room.mostMm), 12.5, Weight::Regular, c.t.ink,
               Qt::AlignRight | Qt::AlignVCenter);
        const QString now =
            room.free ? QObject::tr("free") : QObject::tr("now %1").arg(v.number(Quantity::Length, room.nowMm));
        c.second({r.left() + 4, y + 20, r.width() - 8, 18},
                 c.elided(QObject::tr("%1; stopped by %2").arg(now, qs(room.limit)), r.width() - 10, 12));
        c.hline(r.left(), r.right(), y + 39, c.t.hair);
        c.hit({r.left(), y, r.width(), 39}, key, v.words(core::explain::textOf(room)));
        y += 40;
    }
    paintMore(c, r, shown, rooms.size(), [&](std::size_t i) {
        return core::Thing(core::RoomRef{rooms[i].mount, rooms[i].own});
    });
}

void paintWays(Canvas& c, const QRectF& r, const View& v, const FitLook& look) {
    c.second({r.left(), r.top(), r.width(), 22},
             c.elided(QObject::tr("in the order of the steps; choose one to draw it"), r.width(), 11.5),
             Qt::AlignLeft | Qt::AlignVCenter, 11.5);
    double y = r.top() + 26;
    std::size_t shown = 0;
    if (!look.answers || !paintStanding(c, r, look.answers->ways, QObject::tr("looking for ways in ...")))
        return;
    const Ways& ways = answered(look.answers->ways);
    for (std::size_t i = firstRow(c, ways.size()); i < ways.size(); ++i) {
        const auto& way = ways[i];
        using core::fit::Passage;
        const Mark mark = way.passage == Passage::Blocked                  ? Mark::Crossed
                          : way.passage == Passage::Straight && !way.tight ? Mark::Holds
                                                                           : Mark::Open;
        const auto height = paintEntry(c, r, y, mark, qs(way.name), v.words(way.text), core::WayRef{way.mount});
        if (!height)
            break;
        y += *height;
        ++shown;
    }
    if (ways.empty())
        c.paragraph({r.left(), y, r.width(), 60}, QObject::tr("No card, supply, radiator or drive is placed yet."),
                    12.5, Weight::Regular, c.t.ink2);
    paintMore(c, r, shown, ways.size(), [&](std::size_t i) { return core::Thing(core::WayRef{ways[i].mount}); });
}

} // namespace

std::vector<std::size_t> ladderRows(const core::fit::FitResult& fit, const FitLook& look, const core::Thing& selected) {
    std::vector<std::size_t> rows;
    const auto* part = std::get_if<core::PartRef>(&selected);
    std::string mount = part ? part->mount : std::string();
    for (const auto& gap : fit.gaps) {
        // A gap keeps its part's list while it is selected from it.
        if (selected == core::Thing(gap.ref) && look.filter == FitLook::Filter::Part)
            mount = gap.between[0].mount.empty() ? gap.between[1].mount : gap.between[0].mount;
    }
    for (std::size_t i = 0; i < fit.gaps.size(); ++i) {
        const auto& gap = fit.gaps[i];
        const bool listed = look.filter == FitLook::Filter::All ||
                            (look.filter == FitLook::Filter::Short && gap.isShort()) ||
                            (look.filter == FitLook::Filter::Open && (gap.isShort() || gap.mark == Mark::Open)) ||
                            (look.filter == FitLook::Filter::Part && !mount.empty() &&
                             (gap.between[0].mount == mount || gap.between[1].mount == mount));
        if (listed)
            rows.push_back(i);
    }
    if (look.sort == FitLook::Sort::Chance)
        std::stable_sort(rows.begin(), rows.end(),
                         [&](std::size_t a, std::size_t b) { return fit.gaps[a].chance < fit.gaps[b].chance; });
    else if (look.sort == FitLook::Sort::Name)
        std::stable_sort(rows.begin(), rows.end(),
                         [&](std::size_t a, std::size_t b) { return fit.gaps[a].id < fit.gaps[b].id; });
    return rows;
}

const core::fit::Gap* gapToMend(const core::fit::FitResult& fit, const core::Thing& selected) {
    const auto* mend = std::get_if<core::MendRef>(&selected);
    const auto* ref = mend ? &mend->gap : std::get_if<core::GapRef>(&selected);
    if (const auto* gap = ref ? fit.gap(*ref) : nullptr)
        return gap;
    for (const auto& gap : fit.gaps)
        if (gap.isShort())
            return &gap;
    return fit.gaps.empty() ? nullptr : &fit.gaps.front();
}

void paintFitList(Canvas& c, const QRectF& r, const View& v, const FitLook& look) {
    if (look.paper)
        c.heading(r.left(), r.top(), r.width(), QObject::tr("Gaps, worst first"),
                  QObject::tr("all of them in the table"));
    else
        paintHead(c, r, look);
    const QRectF body = r.adjusted(0, 32, 0, 0);
    c.hit(body, Handle{.act = Act::TurnList}, QObject::tr("List; the wheel or PageUp and PageDown turn it"));
    switch (look.list) {
    case List::Gaps:
        return paintLadder(c, body, v, look);
    case List::Change:
        return paintChanges(c, body, v, look);
    case List::Measure:
        return paintMeasure(c, body, v, look);
    case List::Room:
        return paintRooms(c, body, v, look);
    case List::GoingIn:
        return paintWays(c, body, v, look);
    case List::Leads:
        return paintLeadList(c, body, v, look);
    }
}

} // namespace app
