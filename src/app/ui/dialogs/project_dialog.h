// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"
#include "app/ui/fields/struct_editor.h"

namespace app {

/// Everything a project file can say besides readings: brief, loads, needs, printer, every part of the shelf, every
/// revision with its changes. For what has a place of its own in the window that is the quicker way; here is the rest.
class ProjectDialog : public FormDialog {
    Q_OBJECT
public:
    /// @p revision: whose page is opened; empty: the first one.
    ProjectDialog(Context& context, const std::string& revision, QWidget* parent);
    [[nodiscard]] StructEditor* editor() const { return m_editor; }

protected:
    core::Result<void> apply() override;

private:
    StructEditor* m_editor;
};

/// What is said of a logged run, and of the columns of its log.
class RunDialog : public FormDialog {
    Q_OBJECT
public:
    RunDialog(Context& context, std::string run, QWidget* parent);
    [[nodiscard]] StructEditor* editor() const { return m_editor; }

protected:
    core::Result<void> apply() override;

private:
    std::string m_run;
    StructEditor* m_editor;
};

} // namespace app
