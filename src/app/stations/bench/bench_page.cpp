// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/bench_page.h"

#include "app/stations/bench/bench_trace.h"
#include "app/stations/bench/live_trace.h"
#include "app/ui/recording/recorder.h"
#include "core/base/text.h"

#include <qcustomplot.h>

namespace app {
using core::ChannelKind;

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
    : StationPage(context, {}, parent), m_recorder(recorder), m_trace(new QCustomPlot(this)),
      m_level(new QCustomPlot(this)), m_clock(new QCustomPlot(this)) {
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

void BenchPage::plotChannel(QCustomPlot* plot, const core::Run& run, ChannelKind kind, const std::string& subject,
                            const QString& unit) {
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
    const core::Run* run = m_context.document.project().run(m_run);
    const bool shown = run && !run->samples->timeS.empty();
    for (QCustomPlot* p : {m_trace, m_level, m_clock})
        p->setVisible(shown && !m_recorder.isRecording());
    if (!shown)
        return;
    const auto* c = plotted();
    const View view = m_context.view();
    BenchTrace(*m_trace, view, m_context.theme, *run, m_context.document.analysis(m_run), c).draw();
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

/// For paper: the plots are painted in, as they stand on the screen.
void BenchPage::paintInside(Canvas& c, const QRectF& r) const {
    stageHead(c, r, question::bench);
    const QRectF left(r.left(), r.top() + 34, r.width() * leftShare, r.height() - 34);
    paintBench(c, left, m_context.view(), m_run);
    c.vline(left.right() + 10, left.top(), r.bottom(), c.t.line);
    if (!m_context.document.project().run(m_run))
        return;
    double y = left.top();
    for (const auto& [plot, share] : {std::pair{m_trace, 0.58}, std::pair{m_level, 0.21}, std::pair{m_clock, 0.21}}) {
        const QRectF place(left.right() + 20, y, r.right() - left.right() - 20, left.height() * share - 6);
        c.p.drawPixmap(place, plot->toPixmap(static_cast<int>(place.width()), static_cast<int>(place.height()), 3),
                       QRectF(0, 0, static_cast<int>(place.width()) * 3, static_cast<int>(place.height()) * 3));
        y += left.height() * share;
    }
}

void BenchPage::paintContent(Canvas& c) {
    paintBorder(c, QRectF(rect()));
    const QRectF r = inside();
    const View v = m_context.view();
    stageHead(c, r, question::bench);
    const double leftW = r.width() * leftShare;
    QRectF left(r.left(), r.top() + 34, leftW, r.height() - 34);
    if (m_recorder.isRecording()) {
        const QRectF right(left.right() + 20, r.top() + 70, r.right() - left.right() - 20, r.bottom() - r.top() - 70);
        paintLiveHead(c, {right.left(), right.top(), right.width(), 80}, v,
                      {m_recorder.live(), m_recorder.revision(), m_recorder.simulated(), m_recorder.lastNote()});
        paintLiveTraces(c, right.adjusted(0, 106, 0, 0), v, m_recorder.live(), m_recorder.revision());
    }
    paintBench(c, left, v, m_run);
    c.vline(left.right() + 10, left.top(), r.bottom(), c.t.line);
    const core::Run* run = v.project().run(m_run);
    if (run && !m_recorder.isRecording()) {
        const auto* channel = plotted();
        const auto* analysis = v.document.analysis(m_run);
        const bool early = analysis && !analysis->unsettled.empty();
        c.heading(left.right() + 20, r.top() + 34, r.right() - left.right() - 20,
                  qs(run->name) + (run->simulated ? tr(", simulated") : QString()) +
                      (channel
                           ? QStringLiteral(", ") + channelName(v, *run, channel->kind, channel->subject, channel->name)
                           : QString()),
                  early     ? v.words(analysis->unsettled)
                  : channel ? v.words(channel->why)
                            : QString());
    } else if (!m_recorder.isRecording()) {
        c.paragraph({left.right() + 36, r.top() + 60, r.right() - left.right() - 60, 80},
                    tr("No run to show. Read in a log with Ctrl+I, or record with Ctrl+R: without sensors the "
                       "simulated rig plays this revision."),
                    13, Weight::Medium, c.t.ink);
    }
}

std::size_t BenchPage::liveRows() const { return m_recorder.live().timeS.size(); }

void BenchPage::recordingMoved() {
    plot();
    update();
}

} // namespace app

#include "moc_bench_page.cpp"
