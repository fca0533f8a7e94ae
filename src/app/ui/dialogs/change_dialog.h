// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/fields/field_rows.h"

namespace app {

/// A new revision by stating one change, or several. Shows what the change would do before it is made: words, gaps,
/// heat and noise.
class ChangeDialog : public FormDialog {
    Q_OBJECT
public:
    /// The dialog starts with the change that suits what is selected.
    ChangeDialog(Context& context, const core::Thing& about, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    void startWith(const core::Thing& about);
    void askForKind();
    void ask();
    void follow();
    void preview();
    void tellPreview();
    [[nodiscard]] QStringList differences(const Document::Result& then) const;
    [[nodiscard]] std::vector<FieldRows::Offer> offers(core::Names names);
    [[nodiscard]] std::optional<core::Change> change() const;
    /// The changes stated so far and the one that is being stated.
    [[nodiscard]] std::vector<core::Change> changes() const;
    /// The project with those standard parts on its shelf that the changes name.
    [[nodiscard]] core::Project withParts() const;
    void oneMore();
    void showStated();

    std::string m_parent;
    std::vector<core::Change> m_stated; ///< before the one in the fields
    std::vector<core::Part>
        m_standard; ///< sizes ready to be swapped in, not on the shelf yet; their ids are free there
    QLabel* m_statedWords;
    core::Change m_change; ///< as it stands in the rows
    std::string m_subject; ///< it started with the figures of
    FieldRows m_rows;
    QComboBox* m_kind;
    QLineEdit* m_note;
    QLabel* m_preview;
    std::shared_ptr<const core::Project> m_tried; ///< with the change made
    std::string m_triedId;                        ///< the revision it would become there
};

} // namespace app
