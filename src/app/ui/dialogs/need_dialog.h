// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"

class QCheckBox;

namespace app {

/// The user's own need for what faces what in a gap, with a note; or back to the rule.
class NeedDialog : public FormDialog {
    Q_OBJECT
public:
    NeedDialog(Context& context, const core::fit::Gap& gap, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    std::string m_rule;
    QDoubleSpinBox* m_need;
    QLineEdit* m_note;
    QCheckBox* m_back;
};

} // namespace app
