// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/fields/field_rows.h"

namespace app {

class PartSheet;

/// Makes the figures of a part right that is placed already: its sizes, what it draws and weighs, and what only its
/// kind has. All places of the same part change with it.
class PartEditDialog : public FormDialog {
    Q_OBJECT
public:
    PartEditDialog(Context& context, std::string part, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    void sayWhereElse();
    void offerKept();
    void addPicture(QHBoxLayout* beside);
    void drawPicture();
    std::string m_part;
    PartSheet* m_picture = nullptr; ///< the part as it stands typed; null: a case, which Fit draws
    FieldRows m_rows{*this}, m_spec{*this};
};

} // namespace app
