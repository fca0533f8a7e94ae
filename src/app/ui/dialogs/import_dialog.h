// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/model/jobs.h"
#include "app/ui/dialogs/form_dialog.h"
#include "store/log_about.h"

#include <set>

class QCheckBox;
class QProgressBar;
class QTableWidget;

namespace app {

/// Reads in a CSV log: what was recognised can be changed before it becomes a run of the selected revision.
class ImportDialog : public FormDialog {
    Q_OBJECT
public:
    ImportDialog(Context& context, QString path, QWidget* parent);
    /// What the run became, once it was accepted.
    [[nodiscard]] const std::string& runId() const { return m_runId; }
    void accept() override;
    void reject() override;

protected:
    core::Result<void> apply() override { return {}; }

private:
    void recognise();
    void fillColumns();
    [[nodiscard]] std::vector<std::string> mountsOf(const std::vector<store::CsvColumn>& columns);
    void askAgain();
    [[nodiscard]] store::CsvFormat format() const;
    void keep(const ReadLog& log);

    QString m_path;
    std::string m_runId;
    std::string m_head; ///< the first part of the file, for recognition and preview
    store::CsvFormat m_format;
    store::LogAbout m_about; ///< what the device that wrote it declared
    QLineEdit *m_name, *m_instruments, *m_note;
    QComboBox *m_load, *m_separator, *m_decimal, *m_timeFormat;
    QCheckBox *m_header, *m_hasRoom, *m_readRest;
    QDoubleSpinBox* m_room;
    QLabel* m_unclear; ///< columns whose part the headings do not settle
    QTableWidget* m_columns;
    QProgressBar* m_progress;
    std::set<std::size_t> m_saidOf; ///< columns whose part was chosen by hand
    std::unique_ptr<ReadLogJob> m_job;
};

} // namespace app
