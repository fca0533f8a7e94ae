// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/air/air_explore.h"
#include "app/stations/station_page.h"

#include <QTimer>

namespace app {

/// Section with chambers and ribbons; the arrow of a fan strip turns the fan, its track sets the speed. Its other sides
/// show the network behind it (key N), play the warm-up (H) and explore what is left open (E).
class AirPage : public StationPage {
    Q_OBJECT
public:
    AirPage(Context& context, QWidget* parent = nullptr);
    void show(AirPane pane);
    /// The way that is chosen over what is there, and back to the choices.
    void drawWay(bool on);
    /// The section as the sheets have it, or with what the runs taught.
    void showTaught(bool on);
    void explore(bool on) { show(on ? AirPane::Explore : AirPane::Section); }
    [[nodiscard]] AirPane pane() const { return m_view.pane; }
    [[nodiscard]] bool isExploring() const { return m_view.pane == AirPane::Explore; }
    [[nodiscard]] const ExploreLook& exploreLook() const { return m_look; }
    [[nodiscard]] const AirLook& airLook() const { return m_view; }
    /// Which row of the warm-up is shown.
    void setMoment(std::ptrdiff_t row);
    /// What is shown, as a drawing (.svg) or a table (.csv), by the name's end.
    core::Result<void> saveSheet(const QString& path);
    /// So many ways are looked at when exploring.
    void exploreAtMost(std::size_t ways) { m_look.request.most = ways; }
    /// Whether fans, screens, panels, places or lying (0 to 4) are left open to exploring.
    void turnOpen(int what);
    /// The fan curves of the way that is chosen, as CSV or, where the name ends in .txt, as words.
    core::Result<void> saveCurves(const QString& path);

Q_SIGNALS:
    void refused(const core::Problem& problem);

protected:
    void clicked(const Hit& hit) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    void change(const core::Change& change);
    void changeSpeed(double by);
    [[nodiscard]] const core::Placed* fanSelected() const;
    /// Asks for what the side that is shown needs; not while painting.
    void ask();
    void askExplored();
    void askTaught();
    void askLoads();
    [[nodiscard]] std::shared_ptr<const results::Look> shownLook() const;
    /// Asks for a file's name, and saves there; the first of @p kinds is what a name without an end becomes.
    void askAndSave(const QString& title, const QString& name, const QStringList& kinds,
                    core::Result<void> (AirPage::*save)(const QString&));
    void choose(int way);
    void openWay();
    void askForCurves();
    void askForSheet();
    void play(bool on);
    void editElement();
    bool exploreKey(QKeyEvent* event);
    bool warmUpKey(int key);
    bool sightKey(int key);

    double m_clickX = 0;
    AirLook m_view;
    ExploreLook m_look;
    std::string m_askedOf;
    std::shared_ptr<const results::Look> m_taughtOf; ///< what the taught state was made of
    std::shared_ptr<const results::Taught> m_taughtBy;
    std::array<QPushButton*, 4> m_panes{};
    QTimer m_clock;
    QTimer m_rest; ///< runs out when nothing was changed for a moment: then what is not needed in the frame is asked
    QTimer m_learning; ///< starts once nothing was changed for a while: it takes a second
};

} // namespace app
