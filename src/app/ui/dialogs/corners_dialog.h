// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/fields/field_rows.h"

namespace app {

/// The way of a lead by points, typed or pasted as a table; says what it would be before it is taken.
class CornersDialog : public FormDialog {
    Q_OBJECT
public:
    CornersDialog(Context& context, const core::fit::LeadRoute& route, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    void tell();

    core::RouteLead m_change;
    core::LeadRef m_lead;
    std::size_t m_end;
    FieldRows m_rows;
    QLabel* m_words;
};

} // namespace app
