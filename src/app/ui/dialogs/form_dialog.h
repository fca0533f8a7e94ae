// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "app/ui/context.h"
#include "app/ui/fields/number_box.h"

#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>

#include <map>

namespace app {

/// A dialog with rows of fields. What is wrong stands below the fields in words, and the dialog stays open until it is
/// right.
class FormDialog : public QDialog {
    Q_OBJECT
public:
    FormDialog(Context& context, const QString& title, QWidget* parent);

    void accept() override;
    [[nodiscard]] QString problem() const { return m_problem->text(); }

protected:
    void showEvent(QShowEvent* event) override;
    /// Takes what stands typed in the fields; false where one refused, which then has the focus and says why.
    [[nodiscard]] bool fieldsTaken();
    void sayBelow(NumberBox* box, const QString& why);
    /// Carries out what the dialog is for.
    virtual core::Result<void> apply() = 0;
    void say(const QString& problem);

    friend class FieldRows;
    /// The fields scroll where they do not find room; answers what holds them.
    QWidget* scrollFields();
    /// Takes a row out, with what it said below.
    void removeFieldRow(QWidget* field);
    QDoubleSpinBox* makeNumber(const QString& objectName, core::Quantity quantity, double stored, double low,
                               double high);
    QComboBox* makeSources(core::Source chosen);
    QLineEdit* addText(const QString& label, const QString& objectName, const QString& value = {});
    /// A number in the reader's unit; value() answers stored units.
    QDoubleSpinBox* addNumber(const QString& label, const QString& objectName, core::Quantity quantity, double stored,
                              double low, double high);
    QComboBox* addChoice(const QString& label, const QString& objectName);
    [[nodiscard]] double stored(const QDoubleSpinBox* box) const;
    /// The same of what is typed there now, while it is being typed.
    [[nodiscard]] double storedNow(const QDoubleSpinBox* box) const;
    void setStored(QDoubleSpinBox* box, double value) const;
    /// Choice box with the sources a size can have.
    QComboBox* addSources(core::Source chosen);
    static core::Source sourceOf(const QComboBox* box);

    Context& m_context;
    QVBoxLayout* m_layout;
    QFormLayout* m_form;
    QLabel* m_problem;
    QDialogButtonBox* m_buttons;

private:
    std::map<NumberBox*, QLabel*> m_notes;
    bool m_shown = false;
};

} // namespace app
