// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/document.h"
#include "app/paint/canvas.h"

#include <QWidget>

namespace app {

/// The canvas of a widget that draws itself, for the time of one paint event: no stage starts meanwhile.
class OwnCanvas {
public:
    OwnCanvas(QWidget& widget, const Theme& theme) : m_painter(&widget), m_canvas(m_painter, theme) {
        m_painter.setRenderHint(QPainter::Antialiasing);
    }
    [[nodiscard]] Canvas& canvas() { return m_canvas; }

private:
    PaintingNow m_painting;
    QPainter m_painter;
    Canvas m_canvas;
};

} // namespace app
