// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/air/air_explore.h"
#include "app/stations/station_page.h"

namespace app {

/// Section with chambers and ribbons; the arrow of a fan strip turns the fan, its track sets the speed. Its other side
/// (key E) explores what is left open.
class AirPage : public StationPage {
    Q_OBJECT
public:
    AirPage(Context& context, QWidget* parent = nullptr);
    void explore(bool on);
    [[nodiscard]] bool isExploring() const { return m_exploring; }
    [[nodiscard]] const ExploreLook& exploreLook() const { return m_look; }

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
    /// Asks for what the exploring side shows; not while painting.
    void ask();
    void choose(int way);
    void openWay();
    bool exploreKey(int key);

    double m_clickX = 0;
    bool m_exploring = false;
    ExploreLook m_look;
    std::string m_askedOf;
    QPushButton* m_turn = nullptr;
};

} // namespace app
