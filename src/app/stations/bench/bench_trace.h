// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/stations.h"

class QCustomPlot;
class QCPItemText;

namespace app {

/// One temperature of a run over time with all that is said of it: the fit, what it settles to, the cap, where the load
/// starts and ends, from where it is steady.
class BenchTrace {
public:
    /// @p analysis and @p channel may be null: the readings are shown alone then.
    BenchTrace(QCustomPlot& plot, const View& view, const Theme& theme, const core::Run& run,
               const core::bench::RunAnalysis* analysis, const core::bench::ChannelResult* channel);
    /// Draws everything anew.
    void draw();

private:
    void readings();
    void fitted();
    void settledAndCaps();
    void loadMarks();
    void steadyRegion();
    void timeConstant();
    void saidOfTheRun();
    void level(double value, const QColor& colour, double width, Qt::PenStyle style, const QString& text);
    /// Words on paper that stay at a place of the plot, in shares of it.
    QCPItemText* words(double x, double y, Qt::Alignment alignment, const QString& text, const QColor& colour,
                       bool strong);
    void spread(double value);
    [[nodiscard]] double degrees(double celsius) const {
        return m_view.show.value(core::Quantity::Temperature, celsius);
    }
    [[nodiscard]] bool hasFit() const;

    QCustomPlot& m_plot;
    const View& m_view;
    const core::Run& m_run;
    const core::bench::RunAnalysis* m_analysis;
    const core::bench::ChannelResult* m_channel;
    const Theme& m_theme;
    double m_low = 1e9, m_high = -1e9; ///< of what is drawn, in the reader's degrees
};

} // namespace app
