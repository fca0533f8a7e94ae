// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/painted_panel.h"

#include <QPixmap>
#include <QPushButton>

#include <functional>

namespace app {

/// The sheet of one station: border with zones, the station's painter inside, and its buttons.
class StationPage : public PaintedPanel {
    Q_OBJECT
public:
    using Painter = std::function<void(Canvas&, const QRectF&, const View&)>;
    /// Its name is that of its row in the registry.
    StationPage(Context& context, Painter painter, QWidget* parent = nullptr);

    /// A button whose place is measured from the right and top of the inside of the border.
    QPushButton* addButton(const QString& text, const QString& objectName, int fromRight, int fromTop, int width,
                           int height = 28);
    [[nodiscard]] QRectF inside() const;
    /// Paints the inside alone, e.g. for the report, in a given size.
    virtual void paintInside(Canvas& canvas, const QRectF& r) const;
    /// Letters of the zone that holds the first place of this thing, e.g. "C1".
    [[nodiscard]] QString zoneOf(const core::Thing& thing) const;

protected:
    void paintContent(Canvas& canvas) override;
    /// A revision that is named on a sheet is gone to.
    void clicked(const Hit& hit) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    QPixmap m_border; ///< frame and zone letters, as they were painted last
    QColor m_borderPaper;
    struct Placed {
        QPushButton* button;
        int fromRight, fromTop, width, height;
    };
    Painter m_painter;
    std::vector<Placed> m_buttons;
};

/// Zones around a sheet.
void paintBorder(Canvas& canvas, const QRectF& r);

} // namespace app
