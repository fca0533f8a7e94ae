// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/station_page.h"

namespace app {

/// Section with chambers and ribbons; the arrow of a fan strip turns the fan, its track sets the speed.
class AirPage : public StationPage {
    Q_OBJECT
public:
    AirPage(Context& context, QWidget* parent = nullptr);

Q_SIGNALS:
    void refused(const core::Problem& problem);

protected:
    void clicked(const Hit& hit) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void change(const core::Change& change);
    void changeSpeed(double by);
    [[nodiscard]] const core::Placed* fanSelected() const;
    double m_clickX = 0;
};

} // namespace app
