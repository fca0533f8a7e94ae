// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"

namespace app {

/// Makes the figures of a part right that is placed already: its name, sizes, power, mass and price. All places of the
/// same part change with it.
class PartEditDialog : public FormDialog {
    Q_OBJECT
public:
    PartEditDialog(Context& context, std::string part, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    std::string m_part;
    QLineEdit* m_name;
    std::array<QDoubleSpinBox*, 3> m_sizes{};
    QDoubleSpinBox *m_power, *m_mass, *m_price;
    QComboBox* m_source;
};

} // namespace app
