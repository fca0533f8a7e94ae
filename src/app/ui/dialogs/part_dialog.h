// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"

class QListWidget;

namespace app {

/// Adds a part: chosen from the shelf of standard sizes or the project's own, its figures made right, put at a free place.
class PartDialog : public FormDialog {
    Q_OBJECT
public:
    PartDialog(Context& context, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    void fillList();
    void showPart();
    void fillPlaces();
    [[nodiscard]] const core::Part* chosen() const;
    [[nodiscard]] core::Part edited() const;

    std::vector<core::Part> m_standard;
    QLineEdit* m_search;
    QListWidget* m_list;
    QLineEdit* m_name;
    QDoubleSpinBox *m_width, *m_height, *m_depth, *m_power, *m_mass, *m_price;
    QComboBox *m_source, *m_place, *m_flow;
    QLabel* m_formSize; ///< what a published form fixes
};

} // namespace app
