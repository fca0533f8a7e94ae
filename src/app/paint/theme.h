// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QColor>
#include <QFont>
#include <QPalette>

#include <array>

namespace app {

enum class Weight { Regular, Medium, SemiBold };

/// Colours of the drafting sheet; the only place with colour values.
struct Theme {
    bool dark = false;
    QColor paper, sheet, tray, field, night, ink, ink2, line, hair, marker, medge, mdot, ok, tight, block, cool, warm;
    std::array<QColor, 256> tint; ///< areas, by air over the room
    std::array<QColor, 256> flow; ///< ribbons
    double textScale = 1.0;

    [[nodiscard]] static Theme light();
    [[nodiscard]] static Theme night_();
    /// Colour of air that is @p overRoomK above the room, over a fixed span.
    [[nodiscard]] QColor tintOf(double overRoomK, double spanK = 18) const { return tint[at(overRoomK, spanK)]; }
    [[nodiscard]] QColor flowOf(double overRoomK, double spanK = 18) const { return flow[at(overRoomK, spanK)]; }
    [[nodiscard]] QFont font(double px, Weight weight = Weight::Regular) const;
    [[nodiscard]] QPalette palette() const;

private:
    [[nodiscard]] static std::size_t at(double overRoomK, double spanK) {
        return static_cast<std::size_t>(std::clamp(overRoomK / spanK, 0.0, 1.0) * 255.0);
    }
};

/// Registers the shipped fonts; called once at start.
void loadFonts();
/// Contrast of two colours after WCAG 2.1.
[[nodiscard]] double contrast(const QColor& a, const QColor& b);

} // namespace app
