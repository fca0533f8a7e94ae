// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#ifndef Q_MOC_RUN
#include "core/fit/bodies.h"
#include "core/model/part_edits.h"
#endif

#include <QWidget>

namespace app {

/// A part from its three own sides: its bodies, what it keeps free, its plugs, the places on it and the corners of its
/// routes, each to be chosen, dragged and moved by keys.
class PartSheet : public QWidget {
    Q_OBJECT
public:
    PartSheet(Context& context, QWidget* parent);
    /// One of the three sides: which own axes lie across and up.
    struct Side {
        core::Axis across, up;
        QRectF box; ///< of the outer box, px
        double scale = 1;
        QPointF title;
        [[nodiscard]] QPointF at(const std::array<double, 3>& mm) const {
            return {box.left() + mm[core::index(across)] * scale, box.bottom() - mm[core::index(up)] * scale};
        }
    };
    void show(const core::Part& part);
    void select(const std::optional<core::own::Item>& item);
    [[nodiscard]] const std::optional<core::own::Item>& selected() const { return m_item; }
    [[nodiscard]] const core::Part& part() const { return m_part; }
    [[nodiscard]] const std::array<Side, 3>& sides();

Q_SIGNALS:
    void chose(const core::own::Item& item);
    void dragBegan();
    void draggedBy(const std::array<double, 3>& mm); ///< since the drag began
    void dragEnded(bool taken);                      ///< false: dropped with Esc
    void nudged(const std::array<double, 3>& mm);
    void cornerWanted(const core::own::Item& after);
    void removeWanted();
    void hinted(const QString& words);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool event(QEvent* event) override;

private:
    struct Under {
        core::own::Item item;
        int side = 0;
    };
    void layOut();
    [[nodiscard]] std::optional<Under> under(const QPointF& at);
    [[nodiscard]] double snapped(core::Axis axis, double mm) const;
    void paintSide(Canvas& c, int side, const std::vector<core::fit::PlacedBody>& bodies);
    void paintItems(Canvas& c, const Side& side);
    void step(int by);

    Context& m_context;
    core::Part m_part;
    std::optional<core::own::Item> m_item;
    std::array<Side, 3> m_sides;
    int m_side = 0; ///< last used: arrows move in its plane
    std::optional<QPointF> m_press;
    std::array<double, 3> m_from{}; ///< where the thing lay as the drag began
    bool m_dragging = false;
};

} // namespace app
