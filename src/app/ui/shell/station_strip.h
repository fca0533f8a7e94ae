// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/painted_panel.h"

namespace app {

/// The numbered stations with their live results; the current one opens into the stage.
class StationStrip : public PaintedPanel {
    Q_OBJECT
public:
    explicit StationStrip(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] int current() const { return m_current; }
    void setCurrent(int station);
    /// Bench says that readings come in, whatever else there is to say.
    void setRecording(bool recording) {
        m_recording = recording;
        update();
    }
    void setRailWidth(int width) {
        m_railWidth = width;
        update();
    }
    [[nodiscard]] QSize sizeHint() const override { return {800, 60}; }

Q_SIGNALS:
    void stationChosen(int station);
    void menuWanted(const QPoint& global);

protected:
    void paintContent(Canvas& canvas) override;
    void clicked(const Hit& hit) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    int m_current = 0;
    bool m_recording = false;
    int m_railWidth = 188;
};

} // namespace app
