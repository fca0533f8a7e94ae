// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"

#include <set>

class QCheckBox;
class QLabel;

namespace app {

/// A project from nothing: what it is for, and the inside of the case, which everything is measured against.
class NewProjectDialog : public FormDialog {
    Q_OBJECT
public:
    NewProjectDialog(Context& context, QWidget* parent);

Q_SIGNALS:
    void created(const core::Project& project);

protected:
    core::Result<void> apply() override;

private:
    QLineEdit *m_name, *m_purpose;
    QDoubleSpinBox *m_room, *m_width, *m_depth, *m_height, *m_wall, *m_feet;
    QComboBox *m_source, *m_material;
    QLabel* m_assumed;
    std::set<const QDoubleSpinBox*> m_typed; ///< sizes that somebody stated; the others are estimates
    std::vector<std::pair<core::Side, QCheckBox*>> m_open;
    QDoubleSpinBox* m_perforation = nullptr;
    bool m_openingsStated = false;
    void addOpenings();
    void stateOpenings();
    void sayWhatIsAssumed();
};

} // namespace app
