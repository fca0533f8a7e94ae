// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/painted_panel.h"

namespace app {

/// Edge tab of a folded Working panel in a narrow window.
class WorkingTab : public PaintedPanel {
    Q_OBJECT
public:
    explicit WorkingTab(Context& context, QWidget* parent = nullptr);

Q_SIGNALS:
    void toggled();

protected:
    void paintContent(Canvas& canvas) override;
    void clicked(const Hit& hit) override;
    void keyPressEvent(QKeyEvent* event) override;
};

} // namespace app
