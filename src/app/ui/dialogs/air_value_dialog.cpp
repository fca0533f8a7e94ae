// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ui/dialogs/air_value_dialog.h"

#include "app/ui/fields/field_rows.h"
#include "core/air/own_values.h"
#include "core/base/text.h"
#include "core/base/typed_number.h"
#include "core/model/fields/choices_of.h"

namespace app {

AirValueDialog::AirValueDialog(Context& context, std::string element, QWidget* parent)
    : FormDialog(context, tr("A value of your own"), parent), m_element(std::move(element)) {
    auto* words = new QLabel(tr("\"%1\" in the air network. The value counts for every revision that has it; findings "
                                "and Working say that it is yours.")
                                 .arg(qs(m_element)),
                             this);
    words->setWordWrap(true);
    m_layout->insertWidget(0, words);
    m_quantity = addChoice(tr("What"), QStringLiteral("quantity"));
    const auto* e = m_context.view().evaluation();
    for (const auto& choice : core::ChoicesOf<core::AirQuantity>::all)
        if (e && e->air.solved && core::air::valueOf(e->air.solved->compiled.network, m_element, choice.value)) {
            m_quantities.push_back(choice.value);
            m_quantity->addItem(FieldRows::said(choice.text()));
        }
    m_value = addText(tr("Value"), QStringLiteral("value"));
    m_now = new QLabel(this);
    m_now->setObjectName(QStringLiteral("now"));
    m_form->addRow(QString(), m_now);
    m_note = addText(tr("Why"), QStringLiteral("note"));
    m_back = new QCheckBox(tr("back to what follows from the box"), this);
    m_back->setObjectName(QStringLiteral("back"));
    m_form->addRow(m_back);
    connect(m_quantity, &QComboBox::currentIndexChanged, this, [this] { showQuantity(); });
    showQuantity();
    resize(460, 300);
}

core::AirQuantity AirValueDialog::quantity() const {
    const int i = m_quantity->currentIndex();
    return i < 0 ? core::AirQuantity::Quadratic : m_quantities[static_cast<std::size_t>(i)];
}

void AirValueDialog::showQuantity() {
    const auto* e = m_context.view().evaluation();
    if (!e || m_quantities.empty())
        return say(tr("The network has no such element now."));
    const auto value = core::air::valueOf(e->air.solved->compiled.network, m_element, quantity());
    m_value->setText(qs(core::shortest(value.value_or(0))).replace(QLatin1Char('.'), QLatin1Char(decimalMark())));
    const auto& own = m_context.document.project().airValues;
    const auto mine = std::find_if(own.begin(), own.end(), [&](const core::AirValue& o) {
        return o.element == m_element && o.quantity == quantity();
    });
    m_back->setEnabled(mine != own.end());
    m_back->setChecked(false);
    m_note->setText(mine != own.end() ? qs(mine->note) : QString());
    m_now->setText(mine != own.end() ? tr("it is a value of your own") : tr("it follows from the box"));
}

core::Result<void> AirValueDialog::apply() {
    const core::TypedNumber typed = core::typedNumber(m_value->text().trimmed().toStdString(), {});
    if (!m_back->isChecked()) {
        if (m_quantities.empty())
            return core::problem(m_element, "has no value in the network now", "another element");
        if (typed.wrong != core::TypedNumber::Wrong::Nothing)
            return core::problem("Value", "\"" + m_value->text().toStdString() + "\" cannot be read", "a number");
        if (typed.value < 0 && quantity() != core::AirQuantity::Height)
            return core::problem("Value", "\"" + m_value->text().toStdString() + "\" is below nought",
                                 "a number that is not");
        if (m_note->text().trimmed().isEmpty())
            return core::problem("Why", "is empty", "a few words, so that the number can be understood later");
    }
    return m_context.document.edit(tr("A value of your own"), [&](core::Project& p) {
        std::erase_if(p.airValues,
                      [&](const core::AirValue& o) { return o.element == m_element && o.quantity == quantity(); });
        if (!m_back->isChecked())
            p.airValues.push_back({m_element, quantity(), typed.value, m_note->text().trimmed().toStdString()});
    });
}

} // namespace app

#include "moc_air_value_dialog.cpp"
