// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"

class QListWidget;

namespace app {

/// Adds a part: chosen from the shelf of standard sizes or the project's own, its figures made right, put at a free place.
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
    void addKindFields();
    void readKindFields(core::Part& part) const;
    void showKindFields(const core::Part& part);
    void showGhost();
    /// Only what matters for a kind is asked.
    QWidget* forKinds(QWidget* field, std::vector<core::PartKind> kinds);
    [[nodiscard]] const core::Part* chosen() const;
    [[nodiscard]] core::Part edited() const;

    core::SharedList<core::Part> m_standard, m_blank; ///< ready sizes; an empty part of each kind
    std::vector<std::pair<QWidget*, std::vector<core::PartKind>>> m_kindFields;
    QLineEdit *m_form2, *m_socket, *m_memory, *m_gives, *m_needs, *m_family;
    QDoubleSpinBox *m_rated, *m_cable, *m_count;
    QComboBox *m_type, *m_graphics;
    QLineEdit* m_search;
    QListWidget* m_list;
    QLineEdit* m_name;
    QDoubleSpinBox *m_width, *m_height, *m_depth, *m_power, *m_mass, *m_price;
    QComboBox *m_source, *m_place, *m_flow;
    QLabel* m_formSize; ///< what a published form fixes
};

} // namespace app
