// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/fields/field_rows.h"

class QListWidget;

namespace app {

/// Adds a part: chosen from the shelf of standard sizes or the project's own, its figures made right, put at a free
/// place.
class PartDialog : public FormDialog {
    Q_OBJECT
public:
    /// @p search: what the shelf is searched for at first.
    PartDialog(Context& context, QWidget* parent, const QString& search = {});
    ~PartDialog() override;
    /// Takes the parts of a shelf file over; parts whose id is taken get a number. Errors: the file cannot be read.
    core::Result<int> importShelf(const QString& path);
    core::Result<void> exportShelf(const QString& path) const;

protected:
    core::Result<void> apply() override;
    void showEvent(QShowEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void goToFields();
    void fillList();
    void showPart();
    void fillPlaces();
    void addTakenPlaces();
    void askFor(const core::Part& part);
    void showGhost();
    [[nodiscard]] const core::Part* chosen() const;
    [[nodiscard]] core::Part edited() const;

    core::SharedList<core::Part> m_standard, m_blank, m_kept; ///< ready sizes; an empty part of each kind; one's own
    FieldRows m_rows{*this}, m_spec{*this};                   ///< of the part, and of what only its kind has
    QLineEdit* m_search;
    QListWidget* m_list;
    QComboBox *m_place, *m_flow;
    static constexpr int placeRows = 2; ///< above what is asked of the part: where it goes, and how it blows
    QLabel* m_formSize;                 ///< what a published form fixes
};

} // namespace app
