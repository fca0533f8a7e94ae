// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"

class QTableWidget;

namespace app {

/// Purpose, room and what must hold.
class BriefDialog : public FormDialog {
    Q_OBJECT
public:
    BriefDialog(Context& context, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    void addRow(const core::Target& target);
    [[nodiscard]] core::Result<std::vector<core::Target>> targets() const;

    QLineEdit* m_purpose;
    std::array<QDoubleSpinBox*, 3> m_carry{};
    QDoubleSpinBox *m_room, *m_listener, *m_altitude;
    QComboBox* m_load;
    QTableWidget* m_table;
};

} // namespace app
