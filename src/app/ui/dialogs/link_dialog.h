// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"

class QCheckBox;

namespace app {

/// The speed at which a card or drive was seen to run on the machine built as this revision; or that none was seen.
class LinkDialog : public FormDialog {
    Q_OBJECT
public:
    LinkDialog(Context& context, const core::Placed& part, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    std::string m_mount;
    QComboBox *m_generation, *m_lanes;
    QCheckBox* m_none;
};

} // namespace app
