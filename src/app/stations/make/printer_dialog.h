// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/fields/field_rows.h"

namespace app {

/// The printer that made parts must fit.
class PrinterDialog : public FormDialog {
    Q_OBJECT
public:
    PrinterDialog(Context& context, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    FieldRows m_rows{*this};
};

} // namespace app
