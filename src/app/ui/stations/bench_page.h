// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/stations/station_page.h"

#include "devices/capture_file.h"
#include "devices/sample_source.h"

class QCustomPlot;
class QLockFile;

namespace app {

/// Coverage and runs at the left, the trace with its fit at the right, live readings on top while recording.
class BenchPage : public StationPage {
    Q_OBJECT
public:
    explicit BenchPage(Context& context, QWidget* parent = nullptr);
    ~BenchPage() override;

    [[nodiscard]] const std::string& run() const { return m_run; }
    void selectRun(const std::string& id);
    void refreshTheme();
    void paintInside(Canvas& canvas, const QRectF& r) const override;
    /// Readings of the recording under way.
    [[nodiscard]] std::size_t liveRows() const { return m_live.timeS.size(); }

    /// Records from a source until it ends or stop() is called; the run is added to the project then.
    void record(std::unique_ptr<devices::SampleSource> source, const QString& capturePath, const std::string& load);
    void stop();
    /// The recorded runs are saved, or thrown away on purpose: their capture files have done their work.
    void dropCaptures();
    [[nodiscard]] bool isRecording() const { return m_source != nullptr; }

Q_SIGNALS:
    void runSelected();
    void recordingChanged();
    void recordingEnded(const QString& reason);
    void refused(const core::Problem& problem);

protected:
    void paintContent(Canvas& canvas) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    void plot();
    void plotChannel(QCustomPlot* plot, const core::Run& run, core::ChannelKind kind, const std::string& subject, const QString& unit);
    [[nodiscard]] static const core::Channel* channelOf(const core::Run& run, core::ChannelKind kind, const std::string& subject);
    void drawLive(Canvas& canvas, const QRectF& r);
    void finish(const QString& reason);
    void chooseRunOfRevision();
    [[nodiscard]] const core::bench::ChannelResult* plotted() const;

    std::string m_run;
    bool m_stale = false; ///< something changed while the page was hidden
    QCustomPlot* m_trace;
    QCustomPlot* m_level;
    QCustomPlot* m_clock;
    std::unique_ptr<devices::SampleSource> m_source;
    devices::CaptureFile m_capture;
    core::Samples m_live;
    std::string m_liveRevision, m_liveLoad;
    struct Kept { QString path; std::unique_ptr<QLockFile> lock; };
    std::unique_ptr<QLockFile> m_lock; ///< says to other instances that the capture is alive
    std::vector<Kept> m_kept;          ///< captures whose runs are in the project, but not on disk with it yet
};

} // namespace app
