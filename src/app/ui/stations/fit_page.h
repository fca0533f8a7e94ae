// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/stations/station_page.h"

namespace app {

/// Three aligned sections whose cuts can be moved, and the gap ladder.
class FitPage : public StationPage {
    Q_OBJECT
public:
    FitPage(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] const Cuts& cuts() const { return m_cuts; }
    void chooseCut(core::Axis axis) { m_cuts.moved = axis; update(); }
    void moveCut(double mm);

protected:
    void clicked(const Hit& hit) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void dragTo(double x);
    double& cut();
    void moveToNextEdge();
    void nudgePart(core::Axis axis, double mm);
    Cuts m_cuts;
    double m_pressX = 0;
};

} // namespace app
