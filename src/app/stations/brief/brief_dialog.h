// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/fields/field_rows.h"

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

    [[nodiscard]] std::vector<FieldRows::Offer> loads() const;

    FieldRows m_rows;
    QTableWidget* m_table;
};

} // namespace app
