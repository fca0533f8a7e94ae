// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/station_page.h"
#ifndef Q_MOC_RUN
#include "core/rules/lead_offers.h"
#endif

#include <QPointer>

class QMenu;

namespace app {

class StartDialog;

/// Targets, parts, power and the port map: adapters offered there are plugged in by a click, leads by dragging from
/// socket to plug, and unplugged by dragging a plug off.
class BriefPage : public StationPage {
    Q_OBJECT
public:
    explicit BriefPage(Context& context, QWidget* parent = nullptr);
    /// The leads that could join a socket with a plug, by their numbers in the port map, to be chosen by length.
    [[nodiscard]] QMenu* leadMenu(int socket, int need);
    /// Before there is a project: a start stands here until it is done; dropped with Esc it keeps what was typed, and
    /// is gone on with.
    void begin();
    /// The same with a case of another project or parts file, which is asked for.
    void beginWithCase();

Q_SIGNALS:
    void started(const core::Project& project);
    /// The litres of the start that stands here; nothing: none does.
    void startWorked(const std::optional<core::explain::Working>& working);
    void refused(const core::Problem& problem);
    void addPartWanted(const QString& search);

protected:
    void clicked(const Hit& hit) override;
    void paintContent(Canvas& canvas) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void placeStart();
    /// A plug or socket that is dragged.
    struct Drag {
        Handle handle;
        QPointF from, at;
        bool moving = false; ///< far enough to be no click
    };
    [[nodiscard]] const core::rules::PortMap* ports() const;
    void drop(const Drag& drag, const QPoint& global);
    void connectBy(const core::rules::LeadOffer& lead, const core::Connect& ends, int need);
    void unplug(int need);
    /// An adapter that is plugged in: its socket dragged to a plug, or its own plug to a socket.
    void offerAdapter(QMenu* menu, int socket, int need);
    /// Some changes as one step.
    void make(const QString& text, const std::vector<core::Change>& changes, const core::Part* added = nullptr);

    std::optional<Drag> m_drag;
    QPointer<StartDialog> m_start;
};

} // namespace app
