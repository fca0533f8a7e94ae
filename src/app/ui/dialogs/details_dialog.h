// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"
#include "app/ui/fields/struct_editor.h"

namespace app {

/// Everything a project file can say of a part: bodies, plugs, places on it, screws, what only its kind has.
class DetailsDialog : public FormDialog {
    Q_OBJECT
public:
    DetailsDialog(Context& context, std::string part, QWidget* parent);
    [[nodiscard]] StructEditor* editor() const { return m_editor; }

protected:
    core::Result<void> apply() override;

private:
    std::string m_part;
    StructEditor* m_editor;
};

} // namespace app
