// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"

#include <QCheckBox>

namespace app {

/// A value of the air network that is set by hand instead of following from the box, with a note why.
class AirValueDialog : public FormDialog {
    Q_OBJECT
public:
    /// @p element as the network names it.
    AirValueDialog(Context& context, std::string element, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    void showQuantity();
    [[nodiscard]] core::AirQuantity quantity() const;

    std::string m_element;
    std::vector<core::AirQuantity> m_quantities;
    QComboBox* m_quantity;
    QLineEdit* m_value;
    QLineEdit* m_note;
    QLabel* m_now;
    QCheckBox* m_back;
};

} // namespace app
