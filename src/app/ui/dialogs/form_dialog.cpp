// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/form_dialog.h"

#include "app/ui/fields/points_edit.h"

#include "core/explain/fit_words.h"

#include "app/ui/fields/sources.h"
#include "app/ui/style.h"

#include <QKeyEvent>
#include <QPushButton>
#include <QScrollArea>

namespace app {

FormDialog::FormDialog(Context& context, const QString& title, QWidget* parent) : QDialog(parent), m_context(context) {
    setWindowTitle(title);
    setAttribute(Qt::WA_DeleteOnClose);
    m_layout = new QVBoxLayout(this);
    m_layout->setContentsMargins(16, 16, 16, 12);
    m_layout->setSpacing(12);
    m_form = new QFormLayout;
    m_form->setHorizontalSpacing(12);
    m_form->setVerticalSpacing(8);
    m_layout->addLayout(m_form);
    m_problem = new QLabel(this);
    m_problem->setObjectName(QStringLiteral("problem"));
    m_problem->setWordWrap(true);
    m_problem->hide();
    m_buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    m_buttons->button(QDialogButtonBox::Ok)->setProperty(mainAction, true);
    m_buttons->button(QDialogButtonBox::Ok)->setText(tr("Save"));
    m_layout->addWidget(m_problem);
    m_layout->addWidget(m_buttons);
    connect(m_buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(m_buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

void FormDialog::say(const QString& problem) {
    QPalette palette = m_problem->palette();
    palette.setColor(QPalette::WindowText, m_context.theme.block);
    m_problem->setPalette(palette);
    m_problem->setText(problem);
    m_problem->setVisible(!problem.isEmpty());
}

bool FormDialog::fieldsTaken() {
    for (NumberBox* box : findChildren<NumberBox*>())
        if (!box->takeTyped()) {
            box->setFocus(Qt::OtherFocusReason);
            return false;
        }
    for (PointsEdit* edit : findChildren<PointsEdit*>())
        if (const auto points = edit->points(); !points) {
            edit->setFocus(Qt::OtherFocusReason);
            say(qs(points.error().text()));
            return false;
        }
    return true;
}

/// Opens on the first thing to fill in, with its text selected: what is typed then goes there.
void FormDialog::showEvent(QShowEvent* event) {
    QDialog::showEvent(event);
    if (std::exchange(m_shown, true))
        return;
    for (int row = 0; row < m_form->rowCount(); ++row) {
        QLayoutItem* item = m_form->itemAt(row, QFormLayout::FieldRole);
        QWidget* field = item ? item->widget() : nullptr;
        if (!field || !field->isEnabled() || field->focusPolicy() == Qt::NoFocus || field->isHidden())
            continue;
        field->setFocus(Qt::TabFocusReason);
        if (auto* text = qobject_cast<QLineEdit*>(field))
            text->selectAll();
        return;
    }
}

/// What a field refused stands below it.
void FormDialog::sayBelow(NumberBox* box, const QString& why) {
    QLabel*& note = m_notes[box];
    if (!note) {
        int row = -1;
        QFormLayout::ItemRole role = QFormLayout::FieldRole;
        m_form->getWidgetPosition(box, &row, &role);
        if (row < 0)
            return say(why); // in a table: below all fields
        note = new QLabel(this);
        note->setObjectName(box->objectName() + QStringLiteral("Refused"));
        note->setWordWrap(true);
        QPalette palette = note->palette();
        palette.setColor(QPalette::WindowText, m_context.theme.block);
        note->setPalette(palette);
        m_form->insertRow(row + 1, QString(), note);
    }
    note->setText(why);
    note->setVisible(!why.isEmpty());
}

void FormDialog::accept() {
    if (!fieldsTaken())
        return;
    if (const auto done = apply(); !done)
        return say(qs(done.error().text()));
    QDialog::accept();
}

QLineEdit* FormDialog::addText(const QString& label, const QString& objectName, const QString& value) {
    auto* edit = new QLineEdit(value, this);
    edit->setObjectName(objectName);
    m_form->addRow(label, edit);
    return edit;
}

QDoubleSpinBox* FormDialog::addNumber(const QString& label, const QString& objectName, core::Quantity quantity,
                                      double value, double low, double high) {
    QDoubleSpinBox* box = makeNumber(objectName, quantity, value, low, high);
    m_form->addRow(label, box);
    return box;
}

QDoubleSpinBox* FormDialog::makeNumber(const QString& objectName, core::Quantity quantity, double value, double low,
                                       double high) {
    const core::Show show = m_context.show();
    auto* box = new NumberBox(this);
    box->setObjectName(objectName);
    box->setProperty("quantity", static_cast<int>(quantity));
    box->setLeastDecimals(
        quantity == core::Quantity::Length && !show.units().inch ? 2 : std::max(1, show.decimals(quantity)));
    box->setRange(show.value(quantity, low), show.value(quantity, high));
    box->setSuffix(QStringLiteral("\u00a0") + qs(show.unit(quantity)));
    connect(box, &NumberBox::refused, this, [this, box](const QString& why) { sayBelow(box, why); });
    setStored(box, value);
    return box;
}

QComboBox* FormDialog::addChoice(const QString& label, const QString& objectName) {
    auto* box = new QComboBox(this);
    box->setObjectName(objectName);
    m_form->addRow(label, box);
    return box;
}

double FormDialog::stored(const QDoubleSpinBox* box) const {
    return m_context.show().stored(static_cast<core::Quantity>(box->property("quantity").toInt()), box->value());
}

double FormDialog::storedNow(const QDoubleSpinBox* box) const {
    const auto* number = qobject_cast<const NumberBox*>(box);
    return m_context.show().stored(static_cast<core::Quantity>(box->property("quantity").toInt()),
                                   number ? number->typedNow() : box->value());
}

void FormDialog::setStored(QDoubleSpinBox* box, double value) const {
    box->setValue(m_context.show().value(static_cast<core::Quantity>(box->property("quantity").toInt()), value));
}

QWidget* FormDialog::scrollFields() {
    m_layout->removeItem(m_form);
    m_form->setParent(nullptr);
    auto* scroll = new QScrollArea(this);
    auto* holder = new QWidget(scroll);
    holder->setLayout(m_form);
    m_form->setContentsMargins(2, 2, 10, 2); // the scroll bar, and the frame of what has the focus
    scroll->setWidget(holder);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    return scroll;
}

void FormDialog::removeFieldRow(QWidget* field) {
    for (NumberBox* box : field->findChildren<NumberBox*>() + QList<NumberBox*>{qobject_cast<NumberBox*>(field)})
        if (const auto note = m_notes.find(box); note != m_notes.end()) {
            if (note->second)
                m_form->removeRow(note->second);
            m_notes.erase(note);
        }
    m_form->removeRow(field);
}

QComboBox* FormDialog::addSources(core::Source chosen) {
    QComboBox* box = makeSources(chosen);
    m_form->addRow(tr("Sizes are from"), box);
    return box;
}

QComboBox* FormDialog::makeSources(core::Source chosen) {
    auto* box = new QComboBox(this);
    box->setObjectName(QStringLiteral("source"));
    for (const core::Source source : sizeSources) {
        box->addItem(m_context.view().words(core::explain::textOf(source)), static_cast<int>(source));
        if (source == chosen)
            box->setCurrentIndex(box->count() - 1);
    }
    return box;
}

core::Source FormDialog::sourceOf(const QComboBox* box) {
    return static_cast<core::Source>(box->currentData().toInt());
}

} // namespace app

#include "moc_form_dialog.cpp"
