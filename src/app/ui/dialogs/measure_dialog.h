// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"

#include <QTableWidget>

namespace app {

/// The measuring sheet on screen: one row a dimension, to type in what the tool shows. All rows are one step of undo.
class MeasureDialog : public FormDialog {
    Q_OBJECT
public:
    explicit MeasureDialog(Context& context, QWidget* parent = nullptr);

protected:
    core::Result<void> apply() override;

private:
    std::vector<core::fit::MeasureNext> m_rows;
    QTableWidget* m_table;
};

/// The sheet to take to the bench, as a page of HTML for print and PDF: number, dimension, what is known, and blanks
/// for value and tool.
[[nodiscard]] QString measuringSheet(const View& view);

} // namespace app
