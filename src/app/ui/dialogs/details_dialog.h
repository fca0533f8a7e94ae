// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"
#include "app/ui/dialogs/part_sheet.h"
#include "app/ui/fields/struct_editor.h"

namespace app {

/// Everything a project file can say of a part: bodies, plugs, places on it, screws, what only its kind has. Beside it
/// the part from its three sides, which follows what is typed and where things are dragged.
class DetailsDialog : public FormDialog {
    Q_OBJECT
public:
    DetailsDialog(Context& context, std::string part, QWidget* parent);
    [[nodiscard]] StructEditor* editor() const { return m_editor; }
    [[nodiscard]] PartSheet* sheet() const { return m_sheet; }

protected:
    core::Result<void> apply() override;

private:
    void connectSheet();
    void followEdit();
    void followPage();
    void openPageOf(const core::own::Item& item);
    /// The part as it stands in the fields, changed on the drawing.
    void change(const store::Json& base, const std::function<core::Result<void>(core::Part&)>& edit);
    void takeBack();

    std::string m_part;
    StructEditor* m_editor;
    PartSheet* m_sheet;
    QLabel* m_hint;
    store::Json m_base;               ///< as the drag began
    std::vector<store::Json> m_steps; ///< what stood there before, to be taken back
    store::Json m_now;
    bool m_dragging = false;
};

} // namespace app
