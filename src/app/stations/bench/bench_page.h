// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/station_page.h"

class QCustomPlot;

namespace app {

class Recorder;

/// Coverage and runs at the left, the trace with its fit at the right, live readings on top while recording.
class BenchPage : public StationPage {
    Q_OBJECT
public:
    BenchPage(Context& context, const Recorder& recorder, QWidget* parent = nullptr);

    [[nodiscard]] const std::string& run() const { return m_run; }
    void selectRun(const std::string& id);
    void refreshTheme();
    void paintInside(Canvas& canvas, const QRectF& r) const override;
    /// Readings of the recording under way.
    [[nodiscard]] std::size_t liveRows() const;
    /// A recording began, ended, or said something.
    void recordingMoved();

Q_SIGNALS:
    void runSelected();

protected:
    void paintContent(Canvas& canvas) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    void plot();
    void plotChannel(QCustomPlot* plot, const core::Run& run, core::ChannelKind kind, const std::string& subject,
                     const QString& unit);
    [[nodiscard]] static const core::Channel* channelOf(const core::Run& run, core::ChannelKind kind,
                                                        const std::string& subject);
    void chooseRunOfRevision();
    [[nodiscard]] const core::bench::ChannelResult* plotted() const;

    const Recorder& m_recorder;
    std::string m_run;
    bool m_stale = false; ///< something changed while the page was hidden
    QCustomPlot* m_trace;
    QCustomPlot* m_level;
    QCustomPlot* m_clock;
};

} // namespace app
