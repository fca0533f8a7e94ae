// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/fit/box_changes_sheet.h"

#include "core/fit/fit.h"

#include <algorithm>

namespace app {
using core::Quantity;

namespace {
constexpr double headPx = 22, rowPx = 20, figuresPx = 22, axisMm = 10;
constexpr double sameMm = 0.05, sameK = 0.05, sameDb = 0.05, sameL = 0.005;
} // namespace

BoxChanges::BoxChanges(Context& context, QWidget* parent) : PaintedPanel(context, parent) {
    setObjectName(QStringLiteral("boxChanges"));
    setAccessibleName(tr("What the last edit of the box changes"));
    showRows(4);
}

void BoxChanges::showRows(int rows) { setFixedHeight(static_cast<int>(headPx + rows * rowPx + figuresPx)); }

void BoxChanges::refresh() {
    refreshKept();
    update();
}

std::size_t BoxChanges::room() const {
    return static_cast<std::size_t>(std::max(0.0, (height() - headPx - figuresPx) / rowPx));
}

void BoxChanges::remember() {
    const auto* e = m_context.view().evaluation();
    if (!e)
        return m_before.reset();
    Before b;
    for (const auto& gap : e->fit.gaps)
        b.marginsMm[gap.ref] = gap.marginMm();
    for (const auto& part : e->air.parts)
        b.partsC[part.id] = part.temperatureC;
    b.litres = e->fit.volumeL;
    b.dba = e->noise.totalDba;
    m_before = std::move(b);
}

void BoxChanges::refreshKept() {
    if (!isVisible())
        return; // shown again, it is asked to
    m_rows.clear();
    m_figures.clear();
    const View v = m_context.view();
    m_pending = v.isPending();
    const auto* e = v.evaluation();
    if (!e)
        return;
    for (const auto& gap : e->fit.gaps) {
        const double now = gap.marginMm();
        Row row{gap.ref,
                QStringLiteral("%1 \u2013 %2").arg(qs(gap.between[0].text), qs(gap.between[1].text)),
                now,
                gap.worstBandMm,
                gap.requiredMm,
                {},
                gap.mark};
        if (m_before) {
            const auto was = m_before->marginsMm.find(gap.ref);
            if (was != m_before->marginsMm.end() && std::abs(was->second - now) < sameMm)
                continue;
            if (was != m_before->marginsMm.end())
                row.beforeMm = was->second;
        }
        m_rows.push_back(std::move(row));
    }
    std::stable_sort(m_rows.begin(), m_rows.end(), [](const Row& a, const Row& b) { return a.nowMm < b.nowMm; });
    const auto figure = [&](const QString& name, Quantity q, std::optional<double> was, double now, double same) {
        m_figures.push_back(
            {name, v.unit(q), was && std::abs(*was - now) >= same ? v.number(q, *was) : QString(), v.number(q, now)});
    };
    std::vector<const core::air::PartResult*> parts;
    for (const core::PartKind kind : {core::PartKind::Processor, core::PartKind::Card})
        for (const auto& part : e->air.parts)
            if (part.kind == kind)
                parts.push_back(&part);
    for (const auto* at : parts) {
        const auto& part = *at;
        std::optional<double> was;
        if (m_before && m_before->partsC.count(part.id))
            was = m_before->partsC.at(part.id);
        figure(part.kind == core::PartKind::Processor ? tr("CPU") : tr("Card"), Quantity::Temperature, was,
               part.temperatureC, sameK);
    }
    const auto was = [&](double Before::*of) { return m_before ? std::optional((*m_before).*of) : std::nullopt; };
    figure(tr("Noise"), Quantity::Level, was(&Before::dba), e->noise.totalDba, sameDb);
    figure(tr("Case"), Quantity::Volume, was(&Before::litres), e->fit.volumeL, sameL);
    setAccessibleDescription(words());
}

QString BoxChanges::words() const {
    const View v = m_context.view();
    QStringList lines;
    constexpr std::size_t most = 4;
    for (std::size_t i = 0; i < m_rows.size() && i < most; ++i) {
        const Row& row = m_rows[i];
        const QString now = v.signedNumber(Quantity::Length, row.nowMm);
        lines << (row.beforeMm
                      ? tr("%1: %2 to %3 at worst").arg(row.name, v.signedNumber(Quantity::Length, *row.beforeMm), now)
                  : m_before ? tr("%1: new, %2 at worst").arg(row.name, now)
                             : tr("%1: %2 at worst").arg(row.name, now));
    }
    if (m_rows.size() > most)
        lines << tr("and %1 more").arg(m_rows.size() - most);
    if (m_rows.empty())
        lines << (m_before ? tr("No gap changes.") : tr("No gaps yet."));
    QStringList figures;
    for (const Figure& f : m_figures)
        figures << (f.before.isEmpty() ? QStringLiteral("%1 %2 %3").arg(f.name, f.now, f.unit)
                                       : tr("%1 %2 to %3 %4").arg(f.name, f.before, f.now, f.unit));
    return (lines << figures.join(QStringLiteral(", "))).join(QLatin1Char('\n'));
}

/// Need, before, arrow, now, and the margin on an axis whose heavy tick is the need.
void BoxChanges::paintRow(Canvas& c, double y, const Row& row, double axis, double scale) {
    const View v = m_context.view();
    const double mid = y + rowPx / 2, right = width() - 4;
    const double figures = axis - axisMm * scale - 8; // right end of "now"
    const auto figure = [&](double x, const QString& s, Weight w, const QColor& ink) {
        c.text({x - 54, y, 54, rowPx}, s, 12, w, ink, Qt::AlignRight | Qt::AlignVCenter);
    };
    const double needs = figures - (m_before ? 122 : 64), names = needs - 54;
    c.text({2, y, names - 6, rowPx}, c.elided(row.name, names - 8, 12), 12);
    figure(needs, v.number(Quantity::Length, row.needMm), Weight::Regular, c.t.ink2);
    if (row.beforeMm) {
        figure(figures - 64, v.signedNumber(Quantity::Length, *row.beforeMm), Weight::Regular, c.t.ink2);
        c.arrow({figures - 58, mid}, {figures - 44, mid}, c.t.ink2, 1);
    } else if (m_before) {
        figure(figures - 64, tr("new"), Weight::Regular, c.t.ink2);
    }
    figure(figures, v.signedNumber(Quantity::Length, row.nowMm), Weight::SemiBold, c.t.ink);
    const auto at = [&](double mm) { return axis + std::clamp(mm, -axisMm, axisMm) * scale; };
    // Margins are at worst: the band reaches up from there by the tolerances, both ways of the middle.
    const double low = row.nowMm, high = row.nowMm + 2 * row.bandMm;
    c.hline(axis - axisMm * scale, axis + axisMm * scale, mid, c.t.hair);
    if (low > axisMm || high < -axisMm || (row.beforeMm && std::min(low, *row.beforeMm) > axisMm)) {
        c.arrow({low > 0 ? axis + axisMm * scale - 12 : axis - axisMm * scale + 12, mid},
                {low > 0 ? axis + axisMm * scale : axis - axisMm * scale, mid}, c.markColor(row.mark), 1.4);
    } else {
        if (row.beforeMm) {
            QPen ring(c.t.ink2, 1, Qt::DashLine);
            c.p.setPen(ring);
            c.p.setBrush(Qt::NoBrush);
            c.p.drawEllipse(QPointF(at(*row.beforeMm), mid), 4, 4);
        }
        c.box(QRectF(QPointF(at(low), mid - 5), QPointF(std::max(at(high), at(low) + 2), mid + 5)), c.t.sheet,
              c.markColor(row.mark), 1.4);
    }
    c.vline(axis, y + 2, y + rowPx - 2, c.t.ink, 2);
    c.mark({right - 14, mid - 5}, row.mark);
    const QString spoken =
        tr("%1: needs %2, keeps %3 more at worst")
            .arg(row.name, v.text(Quantity::Length, row.needMm), v.signedNumber(Quantity::Length, row.nowMm));
    if (c.isSelected(row.ref))
        c.box({0, y, width() - 1.0, rowPx}, {}, c.t.medge, 1.5);
    c.hit({0, y, static_cast<double>(width()), rowPx}, row.ref, spoken);
}

/// One line: air, noise and litres.
void BoxChanges::paintFigures(Canvas& c, double y) {
    double x = 2;
    for (const Figure& f : m_figures) {
        const QString name = f.name + QStringLiteral("  ");
        const double needs = c.width(name, 12) + (f.before.isEmpty() ? 0 : c.width(f.before, 12) + 22) +
                             c.width(f.now, 12, Weight::SemiBold) + 4 + c.width(f.unit, 11.5) + 18;
        if (x + needs > width())
            break;
        c.second({x, y, needs, figuresPx}, name);
        x += c.width(name, 12);
        if (!f.before.isEmpty()) {
            c.second({x, y, 80, figuresPx}, f.before);
            x += c.width(f.before, 12) + 4;
            c.arrow({x, y + figuresPx / 2}, {x + 14, y + figuresPx / 2}, c.t.ink2, 1);
            x += 18;
        }
        c.text({x, y, 90, figuresPx}, f.now, 12, Weight::SemiBold, c.t.ink);
        x += c.width(f.now, 12, Weight::SemiBold) + 4;
        c.second({x, y, 60, figuresPx}, f.unit, Qt::AlignLeft | Qt::AlignVCenter, 11.5);
        x += c.width(f.unit, 11.5) + 18;
    }
    if (m_pending)
        c.second({x, y, 30, figuresPx}, QStringLiteral("..."));
}

void BoxChanges::paintContent(Canvas& c) {
    c.p.fillRect(rect(), c.t.paper);
    const View v = m_context.view();
    if (!v.evaluation())
        return c.text(QRectF(rect()).adjusted(2, 4, -2, 0), qs(v.result().problem), 12, Weight::Regular, c.t.ink,
                      Qt::AlignTop | Qt::AlignLeft);
    const double scale = std::clamp((width() - 400) / 22.0, 3.4, 5.0), axis = width() - 30 - axisMm * scale;
    const double figures = axis - axisMm * scale - 8;
    c.hline(0, width(), 0.5, c.t.ink);
    const std::size_t shown = std::min(m_rows.size(), room());
    const QString title =
        m_before ? counted(static_cast<qsizetype>(m_rows.size()), tr("This changes 1 gap"), tr("This changes %1 gaps"))
                 : tr("Tightest of %1 gaps").arg(m_rows.size());
    c.text({2, 2, figures - 178, headPx - 2}, c.elided(title, figures - 180, 12.5, Weight::SemiBold), 12.5,
           Weight::SemiBold, c.t.ink);
    const auto column = [&](double x, const QString& s) {
        c.second({x - 70, 2, 70, headPx - 2}, s, Qt::AlignRight | Qt::AlignVCenter, 11.5);
    };
    column(figures - (m_before ? 122 : 64), tr("needs"));
    if (m_before)
        column(figures - 64, tr("before"));
    column(figures, tr("spare, %1").arg(v.unit(Quantity::Length)));
    const int ends = v.show.units().inch ? 1 : 0;
    c.text({axis - 30, 2, 60, headPx - 2}, tr("need"), 11, Weight::SemiBold, c.t.ink, Qt::AlignCenter);
    const double half = axisMm * scale;
    c.text({axis - half, 2, 40, headPx - 2}, digits(v.show.value(Quantity::Length, -axisMm), ends, true), 11,
           Weight::Regular, c.t.ink2);
    c.text({axis + half - 40, 2, 40, headPx - 2}, digits(v.show.value(Quantity::Length, axisMm), ends, true), 11,
           Weight::Regular, c.t.ink2, Qt::AlignRight | Qt::AlignVCenter);
    double y = headPx;
    for (std::size_t i = 0; i < shown; ++i, y += rowPx)
        paintRow(c, y, m_rows[i], axis, scale);
    if (m_rows.empty())
        c.second({2, y, width() - 4.0, rowPx}, m_before ? tr("No gap changes.") : tr("No gaps yet."));
    paintFigures(c, height() - figuresPx);
}

} // namespace app

#include "moc_box_changes_sheet.cpp"
