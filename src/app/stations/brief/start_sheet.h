// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/stations/brief/arrangement_grid.h"

namespace app {

class Canvas;

/// Front and side of the box as typed, with the dimension of the field that has the focus.
class StartSheet : public QWidget {
    Q_OBJECT
public:
    StartSheet(Context& context, QWidget* parent);
    void show(ArrangedBox box);
    /// The size whose field has the focus, and what stood there as it got it, mm.
    void point(int size, double wasMm);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void paintBefore(Canvas& c, const QRectF& front, const QRectF& side, double scale) const;
    void dimension(Canvas& c, const QPointF& from, const QPointF& to, double mm, bool focused) const;

    Context& m_context;
    ArrangedBox m_box;
    int m_size = -1;
    double m_wasMm = 0;
};

} // namespace app
