// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/dialogs/form_dialog.h"
#include "devices/sample_source.h"

#include <QTemporaryDir>

#include <functional>

namespace app {

/// Chooses where live readings come from: the simulated rig, a program, or a socket that speaks the line protocol.
class RecordDialog : public FormDialog {
    Q_OBJECT
public:
    using Taker = std::function<void(std::unique_ptr<devices::SampleSource>, const std::string& load)>;
    RecordDialog(Context& context, Taker taker, QWidget* parent);

protected:
    core::Result<void> apply() override;

private:
    void suit();
    Taker m_taker;
    QComboBox *m_from, *m_load;
    QDoubleSpinBox *m_room, *m_minutes, *m_speed;
    QLineEdit *m_program, *m_arguments;
};

/// A source that plays @p revision of the project through the rig that is installed beside this program.
/// Errors: the project cannot be written to a temporary folder, or the rig is missing.
struct RigOptions {
    std::string load;
    double roomC = 23, minutes = 30, speed = 60;
    unsigned seed = 1;
    QStringList more;
};
[[nodiscard]] core::Result<std::unique_ptr<devices::SampleSource>>
rigSource(const core::Project& project, const std::string& revision, const RigOptions& options);

} // namespace app
