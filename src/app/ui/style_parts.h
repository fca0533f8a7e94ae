// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/paint/theme.h"

#include <QIcon>
#include <QStyleOption>

class QPainter;

namespace app {

/// The parts that standard controls are painted from: square, flat, edges of one pixel that stand out 3:1 from their
/// ground.
class ControlParts {
public:
    ControlParts(QPainter* painter, const Theme& theme) : p(*painter), t(theme) {}

    enum class Ground { Field, Sheet };
    /// A box to type or choose in.
    void field(const QRect& r, bool enabled, Ground ground) const;
    void frame(const QRect& r) const;
    void check(const QRect& r, QStyle::State state) const;
    void radio(const QRect& r, QStyle::State state) const;
    void arrow(const QRect& r, Qt::ArrowType way, bool enabled) const;
    void spinBox(const QStyleOptionSpinBox& box, const QRect& up, const QRect& down) const;
    void comboBox(const QStyleOptionComboBox& box, const QRect& button) const;
    void slider(const QStyleOptionSlider& slider, const QRect& groove, const QRect& handle) const;
    void header(const QRect& r) const;
    void progress(const QStyleOptionProgressBar& bar) const;
    void toolButton(const QRect& r, QStyle::State state) const;

private:
    QPainter& p;
    const Theme& t;
};

/// Icons of file lists and their buttons, drawn in the ink of the theme; a null icon for what has none of its own.
[[nodiscard]] QIcon listIcon(QStyle::StandardPixmap which, const Theme& theme);

} // namespace app
