// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/stations/bench_page.h"

#include "app/scene/live_trace.h"
#include "app/ui/recording/recorder.h"
#include "core/base/text.h"

#include <qcustomplot.h>

namespace app {
using core::ChannelKind;
using core::Quantity;

namespace {
constexpr double leftShare = 0.40;

void dress(QCustomPlot* plot, const Theme& t) {
    plot->setBackground(QBrush(t.paper));
    for (QCPAxis* axis : {plot->xAxis, plot->yAxis, plot->xAxis2, plot->yAxis2}) {
        axis->setBasePen(QPen(t.line, 1));
        axis->setTickPen(QPen(t.line, 1));
        axis->setSubTicks(false);
        axis->setTickLabelColor(t.ink2);
        axis->setLabelColor(t.ink2);
        axis->setTickLabelFont(t.font(11));
        axis->setLabelFont(t.font(11));
        axis->grid()->setPen(QPen(t.hair, 1));
        axis->grid()->setZeroLinePen(Qt::NoPen);
    }
    plot->axisRect()->setMinimumMargins(QMargins(44, 4, 6, 4));
}
} // namespace

BenchPage::BenchPage(Context& context, const Recorder& recorder, QWidget* parent)
    : StationPage(context, tr("Bench"), {}, parent), m_recorder(recorder), m_trace(new QCustomPlot(this)), m_level(new QCustomPlot(this)), m_clock(new QCustomPlot(this)) {
    m_trace->setObjectName(QStringLiteral("trace"));
    for (QCustomPlot* plot : {m_trace, m_level, m_clock}) {
        plot->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
        plot->axisRect()->setRangeZoom(Qt::Horizontal);
        plot->axisRect()->setRangeDrag(Qt::Horizontal);
        plot->setFocusPolicy(Qt::NoFocus);
        // The three share their time.
        connect(plot->xAxis, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), this, [this](const QCPRange& range) {
            for (QCustomPlot* other : {m_trace, m_level, m_clock})
                if (other->xAxis->range() != range) {
                    other->xAxis->setRange(range);
                    other->replot(QCustomPlot::rpQueuedReplot);
                }
        });
    }
    connect(&context.document, &Document::changed, this, [this] { chooseRunOfRevision(); });
    connect(&context.document, &Document::revisionSelected, this, [this] { chooseRunOfRevision(); });
    connect(&context.selection, &Selection::changed, this, [this] {
        const core::Thing& thing = m_context.selection.thing();
        if (const auto* run = std::get_if<core::RunRef>(&thing))
            selectRun(core::RunRef(*run).id);
        else if (std::holds_alternative<core::ChannelRef>(thing))
            plot();
    });
    refreshTheme();
}

void BenchPage::refreshTheme() {
    for (QCustomPlot* p : {m_trace, m_level, m_clock})
        dress(p, m_context.theme);
    plot();
}

void BenchPage::selectRun(const std::string& id) {
    if (!m_context.document.project().run(id))
        return;
    m_run = id;
    const std::string revision = m_context.document.project().run(id)->revision;
    if (revision != m_context.document.revision())
        m_context.document.selectRevision(revision);
    m_run = id;
    plot();
    update();
    Q_EMIT runSelected();
}

void BenchPage::chooseRunOfRevision() {
    const auto& project = m_context.document.project();
    const core::Run* current = project.run(m_run);
    if (!current || current->revision != m_context.document.revision()) {
        m_run.clear();
        for (const core::Run& run : project.runs)
            if (run.revision == m_context.document.revision() && (m_run.empty() || run.load == project.brief.load))
                if (m_run.empty() || project.run(m_run)->load != project.brief.load)
                    m_run = run.id;
    }
    plot();
    update();
}

const core::bench::ChannelResult* BenchPage::plotted() const {
    const auto* a = m_context.document.analysis(m_run);
    if (!a)
        return nullptr;
    const core::bench::ChannelResult* best = nullptr;
    for (const auto& c : a->channels) {
        if (c.kind != ChannelKind::Temperature)
            continue;
        if (m_context.selection.thing() == core::Thing(core::ChannelRef{m_run, c.name}))
            return &c;
        if (!best || c.name.starts_with("cpu"))
            best = &c;
    }
    return best;
}

/// The first channel of a kind, that of @p subject before others.
const core::Channel* BenchPage::channelOf(const core::Run& run, ChannelKind kind, const std::string& subject) {
    const core::Channel* first = nullptr;
    for (const core::Channel& ch : run.samples->channels) {
        if (ch.kind != kind)
            continue;
        if (ch.subject == subject)
            return &ch;
        if (!first)
            first = &ch;
    }
    return first;
}

void BenchPage::plotChannel(QCustomPlot* plot, const core::Run& run, ChannelKind kind, const std::string& subject, const QString& unit) {
    plot->clearPlottables();
    plot->clearItems();
    const Theme& t = m_context.theme;
    QString title;
    if (const core::Channel* ch = channelOf(run, kind, subject)) {
        QVector<double> x, y;
        for (std::size_t i = 0; i < ch->values.size(); ++i)
            if (std::isfinite(ch->values[i])) {
                x << run.samples->timeS[i] / 60;
                y << (kind == ChannelKind::Clock ? ch->values[i] / 1000 : ch->values[i]);
            }
        QCPGraph* graph = plot->addGraph();
        graph->setData(x, y, true);
        graph->setPen(QPen(t.ink, 1.1));
        graph->setAdaptiveSampling(true);
        title = channelName(m_context.view(), run, ch->kind, ch->subject, ch->name) + QStringLiteral(", ") + unit;
    }
    plot->yAxis->setLabel(title);
    plot->yAxis->rescale();
    plot->yAxis->scaleRange(1.3);
    plot->yAxis->ticker()->setTickCount(3);
    plot->replot(QCustomPlot::rpQueuedReplot);
}

void BenchPage::showEvent(QShowEvent* event) {
    StationPage::showEvent(event);
    if (m_stale)
        plot();
}

void BenchPage::plot() {
    m_stale = !isVisible();
    if (m_stale)
        return; // drawn when the page is shown
    m_trace->clearPlottables();
    m_trace->clearItems();
    const core::Run* run = m_context.document.project().run(m_run);
    const bool shown = run && !run->samples->timeS.empty();
    for (QCustomPlot* p : {m_trace, m_level, m_clock})
        p->setVisible(shown && !m_recorder.isRecording());
    if (!shown)
        return;
    const Theme& t = m_context.theme;
    const core::Show show = m_context.show();
    const auto* a = m_context.document.analysis(m_run);
    const auto* c = plotted();
    const auto degrees = [&](double v) { return show.value(Quantity::Temperature, v); };
    const core::Channel* channel = nullptr;
    for (const core::Channel& ch : run->samples->channels)
        if (c && ch.name == c->name)
            channel = &ch;
    if (channel) {
        QVector<double> x, y;
        double last = -1e9;
        for (std::size_t i = 0; i < channel->values.size(); ++i) {
            const double minute = run->samples->timeS[i] / 60;
            // A gap in the log is drawn as a gap.
            if (x.size() && minute - last > 0.2) {
                x << minute;
                y << std::nan("");
            }
            last = minute;
            x << minute;
            y << degrees(channel->values[i]);
        }
        QCPGraph* graph = m_trace->addGraph();
        graph->setData(x, y, true);
        graph->setPen(QPen(t.ink2, 1));
    }
    if (c && c->fit && c->fit->bins > 0) {
        QVector<double> x, y;
        for (int i = 0; i <= 200; ++i) {
            const double s = c->fit->lengthS * i / 200 + 15;
            x << (c->fitStartS + s) / 60;
            y << degrees(c->fit->two.at(s) + c->fitRoomC);
        }
        QCPGraph* graph = m_trace->addGraph();
        graph->setData(x, y, true);
        graph->setPen(QPen(t.ink, 2));
    }
    m_trace->xAxis->rescale();
    const auto hline = [&](double v, const QColor& colour, double w, Qt::PenStyle style, const QString& text) {
        auto* line = new QCPItemStraightLine(m_trace);
        line->point1->setCoords(0, v);
        line->point2->setCoords(1, v);
        line->setPen(QPen(colour, w, style));
        auto* label = new QCPItemText(m_trace);
        label->position->setTypeX(QCPItemPosition::ptAxisRectRatio);
        label->position->setTypeY(QCPItemPosition::ptPlotCoords);
        // The settled value stands below its line, clear of the trace that ends on it.
        const bool settled = colour == t.medge;
        label->position->setCoords(settled ? 0.22 : 0.01, v);
        label->setPositionAlignment(Qt::AlignLeft | (settled ? Qt::AlignTop : Qt::AlignBottom));
        label->setPadding(QMargins(4, settled ? 12 : 0, 4, 0));
        label->setFont(t.font(11.5, Weight::SemiBold));
        label->setColor(colour == t.medge ? t.ink : colour);
        label->setText(text);
    };
    double low = 1e9, high = -1e9;
    for (int g = 0; g < m_trace->graphCount(); ++g) {
        bool found = false;
        const QCPRange range = m_trace->graph(g)->getValueRange(found);
        if (found) {
            low = std::min(low, range.lower);
            high = std::max(high, range.upper);
        }
    }
    if (c && std::isfinite(c->settled)) {
        hline(degrees(c->settled), t.medge, 1.6, Qt::SolidLine,
              tr("%1 %2 ±%3").arg(c->state == core::bench::SettleState::Settled ? tr("settles to") : tr("would settle to"), qs(show.text(Quantity::Temperature, c->settled)), qs(show.number(Quantity::TemperatureDifference, 0.5 * (c->high - c->low)))));
        high = std::max(high, degrees(c->settled));
    }
    for (const core::Target& target : m_context.document.project().brief.targets)
        if (c && target.kind == core::TargetKind::Temperature && target.subject == c->subject) {
            hline(degrees(target.limit), t.ink, 1.4, Qt::DashLine, tr("cap %1").arg(qs(show.number(Quantity::Temperature, target.limit))));
            high = std::max(high, degrees(target.limit));
        }
    if (a && a->load)
        for (const auto& [at, text] : {std::pair{a->load->startS, tr("load")}, std::pair{a->load->endS, tr("end")}}) {
            auto* line = new QCPItemLine(m_trace);
            line->start->setTypeY(QCPItemPosition::ptAxisRectRatio);
            line->end->setTypeY(QCPItemPosition::ptAxisRectRatio);
            line->start->setCoords(at / 60, 0);
            line->end->setCoords(at / 60, 1);
            line->setPen(QPen(t.line, 1, Qt::DashLine));
            auto* label = new QCPItemText(m_trace);
            label->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
            label->position->setCoords(at / 60, 0.97);
            label->setPositionAlignment(at == a->load->startS ? Qt::AlignLeft | Qt::AlignBottom : Qt::AlignRight | Qt::AlignBottom);
            label->setFont(t.font(11));
            label->setColor(t.ink2);
            label->setText(text);
        }
    if (a && a->steadyFromS && a->load && c && c->state != core::bench::SettleState::Refused) {
        // From here nothing rises any more: hatched to the end of the load, with its own line.
        auto* region = new QCPItemRect(m_trace);
        region->topLeft->setTypeY(QCPItemPosition::ptAxisRectRatio);
        region->bottomRight->setTypeY(QCPItemPosition::ptAxisRectRatio);
        region->topLeft->setCoords(*a->steadyFromS / 60, 0);
        region->bottomRight->setCoords(a->load->endS / 60, 1);
        region->setPen(Qt::NoPen);
        QColor wash = t.ok;
        wash.setAlphaF(0.25F);
        region->setBrush(QBrush(wash, Qt::BDiagPattern));
        auto* label = new QCPItemText(m_trace);
        label->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
        label->position->setCoords(*a->steadyFromS / 60, 0.62);
        label->setPositionAlignment(Qt::AlignLeft | Qt::AlignVCenter);
        label->setPadding(QMargins(6, 2, 6, 2));
        label->setBrush(t.paper);
        label->setFont(t.font(11.5, Weight::SemiBold));
        label->setColor(t.ok);
        label->setText(tr("steady from %1 min").arg(qs(core::fixed((*a->steadyFromS - a->load->startS) / 60, 0))));
    }
    if (c && c->fit && c->fit->bins > 0 && c->tauS > 0) {
        auto* label = new QCPItemText(m_trace);
        label->position->setTypeX(QCPItemPosition::ptAxisRectRatio);
        label->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
        label->position->setCoords(0.98, 0.80);
        label->setPositionAlignment(Qt::AlignRight | Qt::AlignVCenter);
        label->setPadding(QMargins(6, 2, 6, 2));
        label->setBrush(t.paper);
        label->setFont(t.font(11.5));
        label->setColor(t.ink2);
        label->setText(tr("slow time constant %1 min").arg(qs(core::fixed(c->tauS / 60, 1))));
    }
    // What must be said of the whole run stands in its plot as well, also on paper.
    QStringList said;
    if (run->simulated)
        said << tr("simulated readings");
    if (a && !a->unsettled.empty())
        said << qs(a->unsettled);
    if (!said.isEmpty()) {
        auto* label = new QCPItemText(m_trace);
        label->setObjectName(QStringLiteral("said"));
        label->position->setTypeX(QCPItemPosition::ptAxisRectRatio);
        label->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
        label->position->setCoords(0.5, 0.03);
        label->setPositionAlignment(Qt::AlignHCenter | Qt::AlignTop);
        label->setPadding(QMargins(6, 2, 6, 2));
        label->setBrush(t.paper);
        label->setFont(t.font(11.5, Weight::SemiBold));
        label->setColor(a && !a->unsettled.empty() ? t.block : t.ink2);
        label->setText(said.join(QStringLiteral("; ")));
    }
    m_trace->yAxis->setLabel((c ? channelName(m_context.view(), *run, c->kind, c->subject, c->name) + QStringLiteral(", ") : QString()) + qs(show.unit(Quantity::Temperature)));
    m_trace->xAxis->setLabel(tr("minutes"));
    if (high > low)
        m_trace->yAxis->setRange(low - 3, high + 4);
    m_trace->replot(QCustomPlot::rpQueuedReplot);
    plotChannel(m_level, *run, ChannelKind::Level, {}, QStringLiteral("dB(A)"));
    plotChannel(m_clock, *run, ChannelKind::Clock, c ? c->subject : std::string{}, QStringLiteral("GHz"));
}

void BenchPage::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    const QRectF r = inside();
    const double left = r.left() + r.width() * leftShare + 20, width = r.right() - left;
    const double top = r.top() + 62, free = r.bottom() - top - 2;
    m_trace->setGeometry(QRectF(left, top, width, free * 0.56).toRect());
    m_level->setGeometry(QRectF(left, top + free * 0.58, width, free * 0.20).toRect());
    m_clock->setGeometry(QRectF(left, top + free * 0.80, width, free * 0.20).toRect());
}

void BenchPage::drawLive(Canvas& c, const QRectF& r) {
    c.box(r, c.t.field, c.t.ink, 1.4);
    const QRectF head(r.left(), r.top(), 112, r.height());
    c.p.fillRect(head, c.t.ink);
    c.p.setPen(Qt::NoPen);
    c.p.setBrush(c.t.paper);
    c.p.drawEllipse(QPointF(head.left() + 18, head.top() + 18), 5, 5);
    c.text({head.left() + 30, head.top() + 8, 80, 20}, tr("Recording"), 13, Weight::SemiBold, c.t.paper);
    c.text({head.left() + 12, head.top() + 30, 96, 18}, qs(m_recorder.revision()), 12, Weight::Regular, c.t.paper);
    const double seconds = m_recorder.live().timeS.empty() ? 0 : m_recorder.live().timeS.back() - m_recorder.live().timeS.front();
    c.text({head.left() + 12, head.top() + 48, 96, 22}, QTime(0, 0).addSecs(static_cast<int>(std::clamp(seconds, 0.0, 86399.0))).toString(QStringLiteral("hh:mm:ss")), 16, Weight::SemiBold, c.t.paper);
    if (m_recorder.simulated())
        c.text({r.left(), r.bottom() + 4, head.width(), 18}, tr("simulated readings"), 11.5, Weight::SemiBold, c.t.ink2);
    if (m_recorder.live().timeS.empty() || !m_recorder.lastNote().isEmpty()) // the source said something, or nothing at all yet
        c.second({head.right() + 12, r.bottom() + 4, r.width() - head.width() - 20, 18}, c.elided(m_recorder.lastNote().isEmpty() ? tr("waiting for the first reading") : m_recorder.lastNote(), r.width() - head.width() - 24, 12));
    const core::Run live{.revision = m_recorder.revision()};
    std::vector<const core::Channel*> shown;
    for (const core::Channel& ch : m_recorder.live().channels)
        if (ch.kind != ChannelKind::Rpm && ch.kind != ChannelKind::Other && shown.size() < 5)
            shown.push_back(&ch);
    const double w = (r.width() - head.width()) / share(shown.size());
    const double large = w < 84 ? 22 : 31; // the unit keeps its place beside the number
    for (std::size_t i = 0; i < shown.size(); ++i) {
        const core::Channel& ch = *shown[i];
        const double x = head.right() + w * static_cast<double>(i) + 10;
        c.second({x, r.top() + 8, w - 14, 18}, c.elided(channelName(m_context.view(), live, ch.kind, ch.subject, ch.name), w - 16, 12));
        const double value = ch.values.empty() ? std::nan("") : ch.values.back();
        if (!std::isfinite(value)) {
            c.text({x, r.top() + 28, w - 14, 38}, tr("lost"), 20, Weight::SemiBold, c.t.block);
            continue;
        }
        const bool thermal = ch.kind == ChannelKind::Temperature || ch.kind == ChannelKind::Ambient;
        const core::Show show = m_context.show();
        const QString number = thermal ? qs(show.number(Quantity::Temperature, value)) : ch.kind == ChannelKind::Clock ? qs(core::fixed(value / 1000, 2)) : qs(core::fixed(value, ch.kind == ChannelKind::Level ? 1 : 0));
        c.text({x, r.top() + 26, w, 40}, number, large, Weight::SemiBold, c.t.ink);
        c.second({x + c.width(number, large, Weight::SemiBold) + 5, r.top() + 38, 50, 24}, thermal ? qs(show.unit(Quantity::Temperature)) : ch.kind == ChannelKind::Clock ? QStringLiteral("GHz") : qs(ch.unit));
    }
}

/// For paper: the plots are painted in, as they stand on the screen.
void BenchPage::paintInside(Canvas& c, const QRectF& r) const {
    stageHead(c, r, tr("What did the real box do?"));
    const QRectF left(r.left(), r.top() + 34, r.width() * leftShare, r.height() - 34);
    paintBench(c, left, m_context.view(), m_run);
    c.vline(left.right() + 10, left.top(), r.bottom(), c.t.line);
    if (!m_context.document.project().run(m_run))
        return;
    double y = left.top();
    for (const auto& [plot, share] : {std::pair{m_trace, 0.58}, std::pair{m_level, 0.21}, std::pair{m_clock, 0.21}}) {
        const QRectF place(left.right() + 20, y, r.right() - left.right() - 20, left.height() * share - 6);
        c.p.drawPixmap(place, plot->toPixmap(static_cast<int>(place.width()), static_cast<int>(place.height()), 3), QRectF(0, 0, static_cast<int>(place.width()) * 3, static_cast<int>(place.height()) * 3));
        y += left.height() * share;
    }
}

void BenchPage::paintContent(Canvas& c) {
    paintBorder(c, QRectF(rect()));
    const QRectF r = inside();
    const View v = m_context.view();
    stageHead(c, r, tr("What did the real box do?"));
    const double leftW = r.width() * leftShare;
    QRectF left(r.left(), r.top() + 34, leftW, r.height() - 34);
    if (m_recorder.isRecording()) {
        const QRectF right(left.right() + 20, r.top() + 70, r.right() - left.right() - 20, r.bottom() - r.top() - 70);
        drawLive(c, {right.left(), right.top(), right.width(), 80});
        paintLiveTraces(c, right.adjusted(0, 106, 0, 0), v, m_recorder.live(), m_recorder.revision());
    }
    paintBench(c, left, v, m_run);
    c.vline(left.right() + 10, left.top(), r.bottom(), c.t.line);
    const core::Run* run = v.project().run(m_run);
    if (run && !m_recorder.isRecording()) {
        const auto* channel = plotted();
        const auto* analysis = v.document.analysis(m_run);
        const bool early = analysis && !analysis->unsettled.empty();
        c.heading(left.right() + 20, r.top() + 34, r.right() - left.right() - 20, qs(run->name) + (run->simulated ? tr(", simulated") : QString()) + (channel ? QStringLiteral(", ") + channelName(v, *run, channel->kind, channel->subject, channel->name) : QString()), early ? qs(analysis->unsettled) : channel ? qs(channel->why) : QString());
    } else if (!m_recorder.isRecording()) {
        c.paragraph({left.right() + 36, r.top() + 60, r.right() - left.right() - 60, 80}, tr("No run to show. Read in a log with Ctrl+I, or record with Ctrl+R: without sensors the simulated rig plays this revision."), 13, Weight::Medium, c.t.ink);
    }
}

std::size_t BenchPage::liveRows() const { return m_recorder.live().timeS.size(); }

void BenchPage::recordingMoved() {
    plot();
    update();
}

} // namespace app
