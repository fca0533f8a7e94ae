// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/bench_trace.h"

#include "core/base/text.h"

#include <qcustomplot.h>

namespace app {
using core::Quantity;

BenchTrace::BenchTrace(QCustomPlot& plot, const View& view, const Theme& theme, const core::Run& run,
                       const core::bench::RunAnalysis* analysis, const core::bench::ChannelResult* channel)
    : m_plot(plot), m_view(view), m_run(run), m_analysis(analysis), m_channel(channel), m_theme(theme) {}

bool BenchTrace::hasFit() const { return m_channel && m_channel->fit && m_channel->fit->bins > 0; }

void BenchTrace::spread(double value) {
    m_low = std::min(m_low, value);
    m_high = std::max(m_high, value);
}

void BenchTrace::draw() {
    m_plot.clearPlottables();
    m_plot.clearItems();
    readings();
    fitted();
    m_plot.xAxis->rescale();
    for (int g = 0; g < m_plot.graphCount(); ++g) {
        bool found = false;
        const QCPRange range = m_plot.graph(g)->getValueRange(found);
        if (found) {
            spread(range.lower);
            spread(range.upper);
        }
    }
    settledAndCaps();
    loadMarks();
    steadyRegion();
    timeConstant();
    saidOfTheRun();
    m_plot.yAxis->setLabel(
        (m_channel
             ? channelName(m_view, m_run, m_channel->kind, m_channel->subject, m_channel->name) + QStringLiteral(", ")
             : QString()) +
        m_view.unit(Quantity::Temperature));
    m_plot.xAxis->setLabel(QObject::tr("minutes"));
    if (m_high > m_low)
        m_plot.yAxis->setRange(m_low - 3, m_high + 4);
    m_plot.replot(QCustomPlot::rpQueuedReplot);
}

void BenchTrace::readings() {
    const core::Channel* channel = nullptr;
    for (const core::Channel& ch : m_run.samples->channels)
        if (m_channel && ch.name == m_channel->name)
            channel = &ch;
    if (!channel)
        return;
    QVector<double> x, y;
    double last = -1e9;
    for (std::size_t i = 0; i < channel->values.size(); ++i) {
        const double minute = m_run.samples->timeS[i] / 60;
        // A gap in the log is drawn as a gap.
        if (x.size() && minute - last > 0.2) {
            x << minute;
            y << std::nan("");
        }
        last = minute;
        x << minute;
        y << degrees(channel->values[i]);
    }
    QCPGraph* graph = m_plot.addGraph();
    graph->setData(x, y, true);
    graph->setPen(QPen(m_theme.ink2, 1));
}

void BenchTrace::fitted() {
    if (!hasFit())
        return;
    QVector<double> x, y;
    for (int i = 0; i <= 200; ++i) {
        const double s = m_channel->fit->lengthS * i / 200 + 15;
        x << (m_channel->fitStartS + s) / 60;
        y << degrees(m_channel->fit->two.at(s) + m_channel->fitRoomC);
    }
    QCPGraph* graph = m_plot.addGraph();
    graph->setData(x, y, true);
    graph->setPen(QPen(m_theme.ink, 2));
}

void BenchTrace::level(double value, const QColor& colour, double width, Qt::PenStyle style, const QString& text) {
    auto* line = new QCPItemStraightLine(&m_plot);
    line->point1->setCoords(0, value);
    line->point2->setCoords(1, value);
    line->setPen(QPen(colour, width, style));
    auto* label = new QCPItemText(&m_plot);
    label->position->setTypeX(QCPItemPosition::ptAxisRectRatio);
    label->position->setTypeY(QCPItemPosition::ptPlotCoords);
    // The settled value stands below its line, clear of the trace that ends on it; others stand clear above theirs.
    const bool settled = colour == m_theme.medge;
    label->position->setCoords(settled ? 0.22 : 0.01, value);
    label->setPositionAlignment(Qt::AlignLeft | (settled ? Qt::AlignTop : Qt::AlignBottom));
    label->setPadding(QMargins(4, settled ? 12 : 0, 4, settled ? 0 : 3));
    label->setFont(m_theme.font(11.5, Weight::SemiBold));
    label->setColor(settled ? m_theme.ink : colour);
    label->setText(text);
}

void BenchTrace::settledAndCaps() {
    if (!m_channel)
        return;
    const auto& c = *m_channel;
    if (std::isfinite(c.settled)) {
        level(degrees(c.settled), m_theme.medge, 1.6, Qt::SolidLine,
              QObject::tr("%1 %2 ±%3")
                  .arg(c.state == core::bench::SettleState::Settled ? QObject::tr("settles to")
                                                                    : QObject::tr("would settle to"),
                       m_view.text(Quantity::Temperature, c.settled),
                       m_view.number(Quantity::TemperatureDifference, 0.5 * (c.high - c.low))));
        m_high = std::max(m_high, degrees(c.settled));
    }
    for (const core::Target& target : m_view.project().brief.targets)
        if (target.kind == core::TargetKind::Temperature && target.subject == c.subject) {
            level(degrees(target.limit), m_theme.ink, 1.4, Qt::DashLine,
                  QObject::tr("cap %1").arg(m_view.number(Quantity::Temperature, target.limit)));
            m_high = std::max(m_high, degrees(target.limit));
        }
}

void BenchTrace::loadMarks() {
    if (!m_analysis || !m_analysis->load)
        return;
    const auto& load = *m_analysis->load;
    for (const auto& [at, text] :
         {std::pair{load.startS, QObject::tr("load")}, std::pair{load.endS, QObject::tr("end")}}) {
        auto* line = new QCPItemLine(&m_plot);
        line->start->setTypeY(QCPItemPosition::ptAxisRectRatio);
        line->end->setTypeY(QCPItemPosition::ptAxisRectRatio);
        line->start->setCoords(at / 60, 0);
        line->end->setCoords(at / 60, 1);
        line->setPen(QPen(m_theme.line, 1, Qt::DashLine));
        auto* label = new QCPItemText(&m_plot);
        label->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
        label->position->setCoords(at / 60, 0.97);
        label->setPositionAlignment(at == load.startS ? Qt::AlignLeft | Qt::AlignBottom
                                                      : Qt::AlignRight | Qt::AlignBottom);
        label->setFont(m_theme.font(11));
        label->setColor(m_theme.ink2);
        label->setText(text);
    }
}

/// From here nothing rises any more: hatched to the end of the load, with its own line.
void BenchTrace::steadyRegion() {
    if (!m_analysis || !m_analysis->steadyFromS || !m_analysis->load || !m_channel ||
        m_channel->state == core::bench::SettleState::Refused)
        return;
    auto* region = new QCPItemRect(&m_plot);
    region->topLeft->setTypeY(QCPItemPosition::ptAxisRectRatio);
    region->bottomRight->setTypeY(QCPItemPosition::ptAxisRectRatio);
    region->topLeft->setCoords(*m_analysis->steadyFromS / 60, 0);
    region->bottomRight->setCoords(m_analysis->load->endS / 60, 1);
    region->setPen(Qt::NoPen);
    QColor wash = m_theme.ok;
    wash.setAlphaF(0.25F);
    region->setBrush(QBrush(wash, Qt::BDiagPattern));
    QCPItemText* label = words(0, 0.62, Qt::AlignLeft | Qt::AlignVCenter,
                               QObject::tr("steady from %1 min")
                                   .arg(qs(core::fixed((*m_analysis->steadyFromS - m_analysis->load->startS) / 60, 0))),
                               m_theme.ok, true);
    label->position->setTypeX(QCPItemPosition::ptPlotCoords);
    label->position->setCoords(*m_analysis->steadyFromS / 60, 0.62);
}

void BenchTrace::timeConstant() {
    if (hasFit() && m_channel->tauS > 0)
        words(0.98, 0.80, Qt::AlignRight | Qt::AlignVCenter,
              QObject::tr("slow time constant %1 min").arg(digits(m_channel->tauS / 60, 1)), m_theme.ink2, false);
}

/// What must be said of the whole run stands in its plot as well, also on paper.
void BenchTrace::saidOfTheRun() {
    const bool unsettled = m_analysis && !m_analysis->unsettled.empty();
    QStringList said;
    if (m_run.simulated)
        said << QObject::tr("simulated readings");
    if (unsettled)
        said << m_view.words(m_analysis->unsettled);
    if (!said.isEmpty())
        words(0.5, 0.03, Qt::AlignHCenter | Qt::AlignTop, said.join(QStringLiteral("; ")),
              unsettled ? m_theme.block : m_theme.ink2, true)
            ->setObjectName(QStringLiteral("said"));
}

QCPItemText* BenchTrace::words(double x, double y, Qt::Alignment alignment, const QString& text, const QColor& colour,
                               bool strong) {
    auto* label = new QCPItemText(&m_plot);
    label->position->setTypeX(QCPItemPosition::ptAxisRectRatio);
    label->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
    label->position->setCoords(x, y);
    label->setPositionAlignment(alignment);
    label->setPadding(QMargins(6, 2, 6, 2));
    label->setBrush(m_theme.paper);
    label->setFont(strong ? m_theme.font(11.5, Weight::SemiBold) : m_theme.font(11.5));
    label->setColor(colour);
    label->setText(text);
    return label;
}

} // namespace app
