// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/shell/working_panel.h"

#include "app/stations/fit/fit_details.h"
#include "core/base/text.h"

#include <QCoreApplication>
#include <QVBoxLayout>

namespace app {
using core::Quantity;
using core::explain::Working;

namespace {

class WorkingHead : public PaintedPanel {
    Q_DECLARE_TR_FUNCTIONS(app::WorkingHead)
public:
    WorkingHead(Context& context, const WorkingSheet& sheet, QWidget* parent)
        : PaintedPanel(context, parent), m_sheet(sheet) {
        setAside();
    }

protected:
    void paintContent(Canvas& c) override {
        c.p.fillRect(rect(), c.t.sheet);
        c.text({16, 8, 100, 22}, tr("Working"), 14, Weight::SemiBold);
        if (m_sheet.working())
            c.second({90, 8, width() - 106.0, 22},
                     c.elided(m_context.view().words(m_sheet.working()->place), width() - 108.0, 12),
                     Qt::AlignRight | Qt::AlignVCenter);
        c.hline(0, width(), height() - 1, c.t.line);
    }

private:
    const WorkingSheet& m_sheet;
};

class WorkingLegend : public PaintedPanel {
    Q_DECLARE_TR_FUNCTIONS(app::WorkingLegend)
public:
    using PaintedPanel::PaintedPanel;

protected:
    void paintContent(Canvas& c) override {
        c.p.fillRect(rect(), c.t.sheet);
        c.hline(0, width(), 0, c.t.line);
        using core::explain::Stamp;
        double x = 12, y = 7;
        for (const auto& [stamp, word] :
             {std::pair{Stamp::Measured, tr("measured")}, std::pair{Stamp::Simulated, tr("simulated")},
              std::pair{Stamp::Sheet, tr("sheet")}, std::pair{Stamp::Assumed, tr("assumed")},
              std::pair{Stamp::Computed, tr("computed")}, std::pair{Stamp::Setting, tr("setting")}}) {
            const double w = 20 + c.width(word, 11) + 10;
            if (x + w > width() - 4) {
                x = 12;
                y += 18;
            }
            c.stamp({x, y}, stamp);
            c.second({x + 16, y - 3, w, 20}, word, Qt::AlignLeft | Qt::AlignVCenter, 11);
            x += w;
        }
    }
};

double section(Canvas& c, double y, double w, const QString& title) {
    c.hline(0, w, y, c.t.hair);
    c.text({16, y + 7, w - 32, 20}, title, 12.5, Weight::SemiBold);
    return y + 30;
}

} // namespace

WorkingSheet::WorkingSheet(Context& context, QWidget* parent) : PaintedPanel(context, parent) {
    setAccessibleName(tr("Working"));
    setObjectName(QStringLiteral("workingSheet"));
    setAside();
    connect(&context.selection, &Selection::changed, this, &WorkingSheet::refresh);
}

void WorkingSheet::showBefore(std::optional<Working> working) {
    m_before = std::move(working);
    refresh();
}

void WorkingSheet::refresh() {
    const core::Thing& thing = m_context.selection.thing();
    m_working = workingOf(m_context.view(), thing);
    if (!m_working && m_context.document.project().revisions.empty())
        m_working = m_before;
    m_missing =
        core::isNothing(thing) || m_context.document.revision().empty()
            ? tr("Click any figure to see how it was worked out. J and K step through the figures on the stage.")
            : tr("Not on this sheet: the selected thing is not part of %1.").arg(qs(m_context.document.revision()));
    if (m_working)
        setAccessibleDescription(m_context.view().words(
            core::say("{}, {}, {}", m_working->title, core::figure::usual(m_working->quantity, m_working->value),
                      m_working->sentence)));
    // The height follows from the content; painting into nothing measures it.
    QImage probe(1, 1, QImage::Format_ARGB32_Premultiplied);
    QPainter painter(&probe);
    Canvas canvas(painter, m_context.theme);
    paintContent(canvas);
    update();
}

double WorkingSheet::paintRows(Canvas& c, double y, const Working& w, const View& v) {
    const double right = width();
    y = section(c, y, right, tr("How it adds up"));
    for (const auto& row : w.rows) {
        c.text({16, y - 1, 14, 18}, qs(row.sign), 12.5, Weight::Medium, c.t.ink);
        const double used =
            c.paragraph({32, y, right - 32 - 122, 60}, v.words(row.label), 12.5, Weight::Regular, c.t.ink, 3);
        c.text({right - 134, y - 1, 54, 18},
               row.quantity == Quantity::Power || (row.quantity == Quantity::None && row.value != std::round(row.value))
                   ? digits(row.value, 1)
                   : v.number(row.quantity, row.value),
               12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        QString tail = v.unit(row.quantity);
        if (row.band > 0) {
            const Quantity d = row.quantity == Quantity::Temperature ? Quantity::TemperatureDifference : row.quantity;
            tail = QStringLiteral("±") + v.number(d, row.band);
        }
        c.second({right - 76, y - 1, 46, 18}, tail, Qt::AlignLeft | Qt::AlignVCenter, 11.5);
        c.stamp({right - 28, y + 1}, row.stamp);
        y += std::max(19.0, used + 3);
    }
    if (!w.sum.empty()) {
        c.hline(32, right - 16, y + 2, c.t.ink, 1.4);
        y += 8 +
             c.paragraph({32, y + 7, right - 48, 120}, m_context.view().words(w.sum), 12, Weight::Regular, c.t.ink2, 6);
    }
    return y + 8;
}

double WorkingSheet::paintDoubt(Canvas& c, double y, const Working& w, const View& v) {
    const double right = width();
    y = section(c, y, right, tr("Where the doubt comes from"));
    // What does not get a row of its own is told together: the rows make up the whole.
    constexpr std::size_t most = 5;
    const bool more = w.doubt.size() > most;
    const std::size_t own = more ? most - 1 : w.doubt.size();
    double rest = 0;
    for (std::size_t i = own; i < w.doubt.size(); ++i)
        rest += w.doubt[i].share;
    const std::array patterns{Canvas::Pattern::Solid, Canvas::Pattern::Crossed, Canvas::Pattern::LevelLines,
                              Canvas::Pattern::Diagonal}; // the fifth stays blank
    const QRectF bar(16, y, right - 32, 10);
    double x = bar.left(), row = y + 16;
    const auto paint = [&](std::size_t i, const QString& label, double share) {
        const QRectF part(x, bar.top(), bar.width() * share, bar.height());
        x += part.width();
        if (i < patterns.size()) {
            c.pattern(part, patterns[i]);
            c.pattern({16, row + 4, 10, 10}, patterns[i]);
        }
        c.box({16, row + 4, 10, 10}, {}, c.t.ink, 1);
        c.text({34, row, right - 90, 18}, c.elided(label, right - 100, 12.5), 12.5, Weight::Regular);
        c.text({right - 66, row, 50, 18}, qs(core::fixed(100 * share, 0)) + QStringLiteral(" %"), 12.5,
               Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        row += 18;
    };
    for (std::size_t i = 0; i < own; ++i)
        paint(i, v.words(w.doubt[i].label), w.doubt[i].share);
    if (more)
        paint(own, tr("the other %1").arg(w.doubt.size() - own), rest);
    c.box(bar, {}, c.t.ink, 1);
    return row + 8;
}

/// The same figure of others, to one scale.
double WorkingSheet::paintPeers(Canvas& c, double y, const Working& w, const View& v) {
    const double right = width();
    y = section(c, y, right, v.words(w.among));
    double most = 0;
    for (const auto& peer : w.peers)
        most = std::max(most, peer.value);
    const double from = right * 0.5, room = right - 16 - 46 - from;
    for (const auto& peer : w.peers) {
        const Weight weight = peer.own ? Weight::SemiBold : Weight::Regular;
        c.text({16, y, from - 22, 18}, c.elided(v.words(peer.label), from - 24, 12.5, weight), 12.5, weight);
        if (most > 0)
            c.box({from, y + 4, room * peer.value / most, 10}, peer.own ? c.t.marker : QColor(),
                  peer.own ? c.t.medge : c.t.ink2, peer.own ? 1.6 : 1);
        c.text({right - 62, y, 46, 18}, v.number(w.quantity, peer.value), 12.5, weight, c.t.ink,
               Qt::AlignRight | Qt::AlignVCenter);
        y += 18;
    }
    return y + 8;
}

/// What the rules say about this thing, with what would mend it.
double WorkingSheet::paintFound(Canvas& c, double y, const Working& w) {
    const double right = width();
    y = section(c, y, right, tr("What was found"));
    for (const auto& found : w.found) {
        c.mark({16, y + 3}, found.mark);
        y += c.paragraph({38, y, right - 54, 200}, m_context.view().words(found.text), 12.5, Weight::Regular, c.t.ink,
                         8) +
             2;
        QStringList remedies;
        for (const auto& remedy : found.remedies)
            remedies << m_context.view().words(remedy);
        if (!remedies.isEmpty())
            y += c.paragraph({38, y, right - 54, 80}, tr("Would mend it: %1").arg(remedies.join(tr("; or "))), 12,
                             Weight::Regular, c.t.ink2, 4) +
                 2;
        y += 4;
    }
    return y + 6;
}

double WorkingSheet::paintLearned(Canvas& c, double y, const Working& w, const View& v) {
    const double right = width();
    y = section(c, y, right, tr("What runs taught"));
    y += c.paragraph({16, y, right - 32, 60}, v.words(w.learned), 12.5, Weight::Regular, c.t.ink, 3) + 4;
    if (!w.nextRuns.empty())
        c.second({16, y, right - 32, 18}, tr("The run that narrows it most"));
    y += w.nextRuns.empty() ? 0 : 18;
    for (const auto& next : w.nextRuns) {
        const QString band = QStringLiteral("±") + v.text(core::Quantity::TemperatureDifference, next.bandK);
        c.text({16, y, right - 96, 18}, c.elided(v.words(next.what), right - 100, 12.5), 12.5, Weight::Regular);
        c.text({right - 76, y, 60, 18}, band, 12.5, Weight::SemiBold, c.t.ink, Qt::AlignRight | Qt::AlignVCenter);
        y += 18;
    }
    return y + 8;
}

double WorkingSheet::paintChanges(Canvas& c, double y, const Working& w, const View& v) {
    const double right = width();
    y = section(c, y, right, tr("What would change it"));
    for (const auto& change : w.changes) {
        c.mark({16, y + 3}, change.after);
        const QString by = change.instead.empty() ? v.signedNumber(change.quantity, change.change) + QLatin1Char(' ') +
                                                        v.unit(change.quantity)
                                                  : m_context.view().words(change.instead);
        const double room = std::max(80.0, c.width(by, 12.5, Weight::SemiBold));
        const double used = c.paragraph({38, y, right - 38 - room - 22, 60}, m_context.view().words(change.text), 12.5,
                                        Weight::Regular, c.t.ink, 3);
        c.text({right - 16 - room, y - 1, room, 18}, by, 12.5, Weight::SemiBold, c.t.ink,
               Qt::AlignRight | Qt::AlignVCenter);
        y += std::max(20.0, used + 4);
    }
    return y + 8;
}

/// The figure of a thing in another revision; nothing where it is not there, or is not followed.
std::optional<double> WorkingSheet::valueOf(const core::Thing& thing, const core::stages::Evaluation& e,
                                            const core::verdict::RevisionVerdict& verdict) {
    if (const auto* part = std::get_if<core::PartRef>(&thing)) {
        const auto* p = e.air.part(part->mount);
        return p ? std::optional(p->temperatureC) : std::nullopt;
    }
    if (const auto* ref = std::get_if<core::GapRef>(&thing)) {
        const auto* gap = e.fit.gap(*ref);
        return gap ? std::optional(gap->marginMm()) : std::nullopt;
    }
    if (const auto* total = std::get_if<core::TotalRef>(&thing)) {
        if (total->total == core::Total::Noise)
            return e.noise.totalDba;
        return total->total == core::Total::Power ? std::optional(e.power.drawW) : std::nullopt;
    }
    if (const auto* target = std::get_if<core::TargetRef>(&thing)) {
        for (const auto& t : verdict.targets)
            if (t.id == target->id && std::isfinite(t.value))
                return t.value;
    }
    if (const auto* fan = std::get_if<core::FanRef>(&thing)) {
        for (const auto& f : e.air.fans)
            if (f.id == fan->mount)
                return f.flowM3h;
    }
    return std::nullopt;
}

/// The same figure over the line of descent.
double WorkingSheet::paintHistory(Canvas& c, double y, const View& v) {
    const auto line = core::lineage(v.project(), v.document.revision());
    if (!line || line->size() < 2 || !m_working->known)
        return y;
    struct Point {
        std::string id;
        double value;
    };
    std::vector<Point> points;
    for (const core::Revision* r : *line) {
        const auto& result = v.document.shown(r->id);
        if (!result.evaluation)
            continue;
        const std::optional<double> value = valueOf(m_working->thing, *result.evaluation, result.verdict);
        if (value)
            points.push_back({r->id, *value});
    }
    if (points.size() < 2)
        return y;
    const double right = width();
    y = section(c, y, right, tr("Over the revisions"));
    const auto [lo, hi] = std::minmax_element(points.begin(), points.end(),
                                              [](const Point& a, const Point& b) { return a.value < b.value; });
    const double low = lo->value, high = std::max(hi->value, low + 1e-6);
    const double dx = (right - 56) / static_cast<double>(points.size() - 1);
    const auto at = [&](std::size_t i) {
        return QPointF(28 + dx * static_cast<double>(i), y + 58 - 40 * (points[i].value - low) / (high - low));
    };
    c.p.setPen(QPen(c.t.ink2, 1.2));
    for (std::size_t i = 1; i < points.size(); ++i)
        c.p.drawLine(at(i - 1), at(i));
    for (std::size_t i = 0; i < points.size(); ++i) {
        if (points[i].id == v.project().baseline) {
            c.baselineSign(at(i));
        } else {
            c.p.setPen(QPen(c.t.ink, 1.3));
            c.p.setBrush(points[i].id == v.document.revision() ? c.t.mdot : c.t.sheet);
            c.p.drawEllipse(at(i), 3.6, 3.6);
        }
        c.text(
            {at(i).x() - 20, at(i).y() - 20, 40, 14},
            digits(v.show.value(m_working->quantity, points[i].value), m_working->quantity == Quantity::Length ? 1 : 0),
            11, Weight::Medium, c.t.ink, Qt::AlignCenter);
        c.text({at(i).x() - 20, y + 68, 40, 14}, qs(points[i].id), 11, Weight::Regular, c.t.ink2, Qt::AlignCenter);
    }
    return y + 90;
}

void WorkingSheet::paintContent(Canvas& c) {
    c.p.fillRect(rect(), c.t.sheet);
    const double right = width();
    if (!m_working) {
        c.paragraph({16, 16, right - 32, 120}, m_missing, 12.5, Weight::Regular, c.t.ink2);
        setMinimumHeight(140);
        return;
    }
    const View v = m_context.view();
    const Working& w = *m_working;
    double y = 12;
    y += c.paragraph({16, y, right - 60, 40}, v.words(w.title), 12.5, Weight::Medium, c.t.ink, 2) + 2;
    if (w.known) {
        const QString number = v.number(w.quantity, w.value);
        c.text({16, y, right, 38}, number, 32, Weight::SemiBold);
        double x = 16 + c.width(number, 32, Weight::SemiBold) + 8;
        c.text({x, y + 4, 80, 34}, v.unit(w.quantity), 15, Weight::Regular, c.t.ink2);
        x += c.width(v.unit(w.quantity), 15) + 10;
        if (w.band > 0) {
            const Quantity d = w.quantity == Quantity::Temperature ? Quantity::TemperatureDifference : w.quantity;
            c.text({x, y + 4, 90, 34}, QStringLiteral("±") + v.number(d, w.band), 15, Weight::Medium, c.t.ink);
        }
        c.p.save();
        c.p.translate(right - 40, y + 10);
        c.p.scale(1.6, 1.6);
        w.settle ? c.settleSign({0, 0}, *w.settle) : c.mark({0, 0}, w.mark);
        c.p.restore();
        y += 42;
    }
    y += c.paragraph({16, y, right - 32, 100}, m_context.view().words(w.sentence), 12.5, Weight::Regular, c.t.ink2, 5) +
         12;
    if (!w.found.empty())
        y = paintFound(c, y, w);
    const auto* ref = std::get_if<core::GapRef>(&w.thing);
    const auto* gap = ref && v.evaluation() ? v.evaluation()->fit.gap(*ref) : nullptr;
    if (gap && !gap->chain.empty()) {
        y = section(c, y, right, tr("Chain to scale"));
        paintChain(c, {8, y, right - 16, 62}, *gap, v);
        y += 66;
    }
    if (!w.rows.empty())
        y = paintRows(c, y, w, v);
    if (!w.doubt.empty())
        y = paintDoubt(c, y, w, v);
    if (!w.peers.empty())
        y = paintPeers(c, y, w, v);
    if (!w.learned.empty())
        y = paintLearned(c, y, w, v);
    if (!w.changes.empty())
        y = paintChanges(c, y, w, v);
    else if (std::holds_alternative<core::PartRef>(w.thing) && w.known &&
             v.document.trials().standing == Standing::Pending)
        y = 30 + section(c, y, right, tr("What would change it, trying ..."));
    if (!w.usedBy.empty()) {
        c.hline(0, right, y, c.t.hair);
        c.text({16, y + 6, 60, 20}, tr("Used by"), 12.5, Weight::SemiBold);
        QStringList used;
        for (const auto& u : w.usedBy)
            used << v.words(u);
        y += 12 + c.paragraph({76, y + 8, right - 92, 40}, used.join(QStringLiteral(", ")), 12.5, Weight::Regular,
                              c.t.ink, 2);
    }
    y = paintHistory(c, y, v);
    c.hline(0, right, y, c.t.hair);
    y +=
        8 +
        c.paragraph({16, y + 8, right - 32, 300}, m_context.view().words(w.method), 12, Weight::Regular, c.t.ink2, 14) +
        8;
    setMinimumHeight(static_cast<int>(y));
}

void WorkingPanel::showBefore(std::optional<Working> working) {
    m_sheet->showBefore(std::move(working));
    m_head->update();
}

WorkingPanel::WorkingPanel(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    m_sheet = new WorkingSheet(context);
    auto* head = new WorkingHead(context, *m_sheet, this);
    m_head = head;
    head->setFixedHeight(38);
    head->setFocusPolicy(Qt::NoFocus);
    auto* scroll = new QScrollArea(this);
    scroll->setWidget(m_sheet);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* legend = new WorkingLegend(context, this);
    legend->setFixedHeight(46);
    legend->setFocusPolicy(Qt::NoFocus);
    layout->addWidget(head);
    layout->addWidget(scroll, 1);
    layout->addWidget(legend);
}

} // namespace app

#include "moc_working_panel.cpp"
