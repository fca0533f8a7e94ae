// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/painted_panel.h"

#include <functional>

namespace app {

/// Counts, the heaviest finding in words, and all of them when opened.
class FindingsLine : public PaintedPanel {
    Q_OBJECT
public:
    explicit FindingsLine(Context& context, QWidget* parent = nullptr);
    void setProblem(const QString& text) {
        m_problem = text;
        update();
    }
    void setOpen(bool open) {
        m_open = open;
        update();
    }

Q_SIGNALS:
    void toggled();
    void show(const core::rules::Finding& finding);

protected:
    void paintContent(Canvas& canvas) override;
    void clicked(const Hit& hit) override;

private:
    bool m_open = false; ///< the list is: the chevron points down
    QString m_problem;   ///< a save that did not work stays until it does
};

/// The opened list; lies over the stage.
class FindingsList : public PaintedPanel {
    Q_OBJECT
public:
    explicit FindingsList(Context& context, QWidget* parent = nullptr);
    /// Where on the sheet a finding's thing stands, e.g. "Q4"; empty when it is not on the station shown.
    std::function<QString(const core::rules::Finding&)> zoneOf;
    /// Height that shows all of them.
    [[nodiscard]] int wantedHeight() const;

Q_SIGNALS:
    void show(const core::rules::Finding& finding);
    void closed();

protected:
    void paintContent(Canvas& canvas) override;
    void clicked(const Hit& hit) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void keepRowInSight();
    int m_row = 0;
};

} // namespace app
